"""A piece of food as the heat equation sees it."""

from dataclasses import dataclass
from enum import IntEnum

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import num, say

Array = NDArray[np.float64]


class Shape(IntEnum):
    """The shape exponent of the radial heat equation."""

    slab = 0
    cylinder = 1
    sphere = 2


MOST_OTHERS = {Shape.slab: 2, Shape.cylinder: 1, Shape.sphere: 0}

# name: (lowest, highest, unit); common practice widened to what the models were checked for
RANGES: dict[str, tuple[float, float, str]] = {
    "half_thickness_m": (0.0005, 0.5, "m"),
    "diffusivity_m2_s": (0.5e-7, 3e-7, "m²/s"),
    "conductivity_w_mk": (0.1, 1.0, "W/m·K"),
    "h_w_m2k": (1.0, 5000.0, "W/m²·K"),
    "initial_c": (-60.0, 120.0, "°C"),
}


@dataclass(frozen=True)
class Body:
    """A piece of food: its shape, half thickness or radius, and how it conducts.

    ``other_halves_m`` closes what is otherwise without end: a slab with one more half is a bar, with two a
    brick; a cylinder with one is a finite cylinder.
    """

    shape: Shape
    half_thickness_m: float
    diffusivity_m2_s: float
    conductivity_w_mk: float
    other_halves_m: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        for name in ("half_thickness_m", "diffusivity_m2_s", "conductivity_w_mk"):
            in_range(name, getattr(self, name))
        for half in self.other_halves_m:
            in_range("half_thickness_m", half)
        if len(self.other_halves_m) > MOST_OTHERS[self.shape]:
            raise OutOfRangeError(
                say("physics.body.a_has_no_further_sides", name=self.shape.name, other_halves=len(self.other_halves_m))
            )

    def biot(self, h_w_m2k: float) -> float:
        """Surface to inner conductance, h R / k [-], for a coefficient [W/m²·K].

        Valid for any positive coefficient.
        """
        return in_range("h_w_m2k", h_w_m2k) * self.half_thickness_m / self.conductivity_w_mk

    def fourier_rate(self) -> float:
        """Fourier numbers per second, α / R² [1/s].

        Valid for every body that can be made.
        """
        return self.diffusivity_m2_s / self.half_thickness_m**2

    def axes(self) -> tuple[tuple[int, float], ...]:
        """Shape exponent [-] and half thickness [m] of each direction heat comes from.

        Valid for every body that can be made.
        """
        return ((int(self.shape), self.half_thickness_m), *((0, half) for half in self.other_halves_m))

    def heat_capacity_j_m3k(self) -> float:
        """Volumetric heat capacity, k / α [J/m³·K].

        Valid for every body that can be made.
        """
        return self.conductivity_w_mk / self.diffusivity_m2_s


def in_range(name: str, value: float) -> float:
    """Give the value back, or refuse it with its range."""
    low, high, unit = RANGES[name]
    if not low <= value <= high:  # NaN is not within anything
        raise OutOfRangeError(
            say(
                "physics.body.is_outside_the_range_this_model",
                name=name,
                value=num(value),
                unit=unit,
                low=num(low),
                high=num(high),
            ),
            name=name,
            value=value,
            low=low,
            high=high,
            unit=unit,
        )
    return value
