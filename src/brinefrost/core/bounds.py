"""What a number may be at all: every public function of the core refuses the rest by an OutOfRangeError."""

from collections.abc import Callable
from functools import wraps
from inspect import signature
from typing import Any, NamedTuple, ParamSpec, TypeVar

import numpy as np

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import joined, num, say

P = ParamSpec("P")
R = TypeVar("R")


class Bound(NamedTuple):
    """Where a number may lie, in its unit; ``open`` leaves the lower end itself out."""

    low: float
    high: float
    unit: str
    open: bool = False

    def holds(self, value: Any) -> bool:
        """Whether a number [its unit], or every number of an array, lies here.

        Valid for anything: what is no number does not.
        """
        if type(value) in (float, int):
            return bool((value > self.low if self.open else value >= self.low) and value <= self.high)
        try:
            numbers = np.asarray(value, dtype=float)
        except (TypeError, ValueError):
            return False
        if not numbers.size:
            return True
        lowest = numbers.min()  # one that is no number makes this none, which lies nowhere
        return bool((lowest > self.low if self.open else lowest >= self.low) and numbers.max() <= self.high)


# Wider than any kitchen, narrower than nonsense; each function keeps its own, narrower range besides.
TEMPERATURE = Bound(-90.0, 350.0, "°C")
TIME = Bound(0.0, 400 * 86400.0, "s")
AGES = Bound(0.0, 1e11, "s")
SPAN = Bound(0.0, 400 * 86400.0, "s", open=True)
MASS = Bound(0.0, 1e5, "kg")
SOME_MASS = Bound(0.0, 1e5, "kg", open=True)
LENGTH = Bound(0.0, 10.0, "m", open=True)
AREA = Bound(0.0, 1e4, "m²", open=True)
VOLUME = Bound(0.0, 1e3, "m³", open=True)
SHARE = Bound(0.0, 1.0, "")
PERCENT = Bound(0.0, 100.0, "%")
PH = Bound(0.0, 14.0, "pH")
COEFFICIENT = Bound(0.5, 2e4, "W/m²·K")
CAPACITY = Bound(100.0, 1e4, "J/kg·K")
DENSITY = Bound(50.0, 5000.0, "kg/m³")
CONDUCTIVITY = Bound(0.01, 10.0, "W/m·K")
PPM = Bound(0.0, 1e6, "ppm")
FINITE = Bound(-1e12, 1e12, "")
AT_LEAST_0 = Bound(0.0, 1e12, "")
ABOVE_0 = Bound(0.0, 1e12, "", open=True)


def bounded(**bounds: Bound) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Refuse arguments that are not numbers, not finite or absurd, before a formula sees them.

    Valid for parameters named as in the function; None is let through where it is a default.
    """

    def of(function: Callable[P, R]) -> Callable[P, R]:
        names = tuple(signature(function).parameters)
        unknown = set(bounds) - set(names)
        if unknown:
            raise TypeError(
                say("core.bounds.has_no_parameter", name=function.__name__, sorted=joined(sorted(unknown), ", "))
            )
        places = tuple((names.index(name), name, bound) for name, bound in bounds.items())

        @wraps(function)
        def checked(*args: P.args, **kwargs: P.kwargs) -> R:
            for place, name, bound in places:
                value = args[place] if place < len(args) else kwargs.get(name)
                if value is not None and not bound.holds(value):
                    raise OutOfRangeError(_words(name, value, bound), name=name, value=str(value)[:80])
            return function(*args, **kwargs)

        return checked

    return of


def check(name: str, value: Any, bound: Bound) -> None:
    """Refuse one value [its unit] by the same words.

    Valid for numbers and arrays.
    """
    if not bound.holds(value):
        raise OutOfRangeError(_words(name, value, bound), name=name, value=str(value)[:80])


def _words(name: str, value: Any, bound: Bound) -> str:
    what = name.rpartition("_")[0].replace("_", " ") or name
    single = isinstance(value, int | float)
    if single and bound.low == 0 and value <= 0:
        return say(
            "core.bounds.capitalize_must_more",
            capitalize=what.capitalize(),
            more=say("core.bounds.be_above_zero") if bound.open else say("core.bounds.not_be_negative"),
        )
    return say(
        "core.bounds.is_outside_what_this_can_be",
        capitalize=what.capitalize(),
        said=num(value) if single else say("core.bounds.a_number"),
        above=say("core.bounds.above") if bound.open else say("core.bounds.at_least"),
        low=num(bound.low),
        high=num(bound.high),
        unit=f" {bound.unit}" if bound.unit else "",
    )
