"""What a food is, not what happened to it: pH, salt, water activity, nitrite, alone or together."""

from typing import Literal

import numpy as np
from pydantic import Field

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits.base import Basis, LimitBase, LimitMark, Series, State, Verdict, worst
from brinefrost.core.quantities import Quantity
from brinefrost.core.words import Message, joined, lowered, num, say
from brinefrost.core.working import Document, Input, Working

WORDS: dict[str, tuple[str, str, int]] = {  # name, unit, decimals
    "ph": ("pH", "", 2),
    "aw": (say("limits.composition.water_activity"), "", 3),
    "salt": (say("limits.composition.water_phase_salt"), "%", 1),
    "nitrite": (say("limits.composition.nitrite"), "ppm", 0),
    "nitrate": (say("limits.composition.nitrate"), "ppm", 0),
    "core": ("core", "°C", 1),
    "log": (say("limits.composition.log_reduction"), "log", 1),
}


# what a quantity can be at all
POSSIBLE = {
    "ph": (0.0, 14.0),
    "aw": (0.0, 1.0),
    "salt": (0.0, 40.0),
    "nitrite": (0.0, 1e6),
    "nitrate": (0.0, 1e6),
    "slope": (-1000.0, 1000.0),
}


class Measured(Document):
    """A value with the instrument's expanded uncertainty (k = 2)."""

    value: float
    uncertainty: float = Field(default=0, ge=0)


class Bound(Document):
    """One quantity kept on one side of a value. ``strict`` leaves the value itself out."""

    quantity: Quantity
    comparison: Literal["at_most", "at_least"]
    value: float
    strict: bool = False

    def judge(self, measured: Measured | None) -> State:
        """As any reading: clear of the bound by the uncertainty, or too close."""
        if measured is None:
            return "not_measured"
        gap = self.value - measured.value if self.comparison == "at_most" else measured.value - self.value
        low, high = POSSIBLE.get(self.quantity, (-np.inf, np.inf))
        if not low <= measured.value <= high:
            raise OutOfRangeError(
                say(
                    "limits.composition.of_cannot_be_it_lies_between",
                    get=WORDS.get(self.quantity, (self.quantity, "", 2))[0],
                    value=num(measured.value),
                    low=num(low),
                    high=num(high),
                ),
                quantity=self.quantity,
                value=measured.value,
            )
        # a meter good to 0.05 that reads 4.55 is clear of 4.6 by just its doubt, whatever the last binary digit says
        short = gap <= 1e-9 if self.strict and measured.uncertainty == 0 else gap < measured.uncertainty - 1e-9
        if not short:
            return "pass"
        return "fail" if gap < -measured.uncertainty - 1e-9 or measured.uncertainty == 0 else "too_close"

    def words(self) -> Message:
        """For example "pH ≤ 4.6"."""
        name, unit, digits = WORDS.get(self.quantity, (self.quantity, "", 2))
        sign = {("at_most", False): "≤", ("at_most", True): "<", ("at_least", False): "≥", ("at_least", True): ">"}
        return say(
            "limits.composition.name_sign_value_unit",
            name=name,
            sign=sign[(self.comparison, self.strict)],
            value=num(self.value, f".{digits}f"),
            unit=unit,
        )


class Way(Document):
    """Bounds that must all hold."""

    bounds: tuple[Bound, ...] = Field(min_length=1, max_length=6)

    def words(self) -> Message:
        """All of them."""
        return joined((bound.words() for bound in self.bounds), "words.and")


class Composition(LimitBase):
    """At least one of several ways holds."""

    kind: Literal["composition"] = "composition"
    ways: tuple[Way, ...] = Field(min_length=1, max_length=12)

    def judge(self, facts: dict[Quantity, Measured], basis: Basis = "measured") -> Verdict:
        """Judge what a food is.

        Pass when one way holds, with every bound clear by its uncertainty; not measured when something that could
        still make one hold is not known. Valid for an even food, or for its worst part. ``facts`` [pH, aw -, salt %,
        nitrite ppm]. The limit's own source; JCGM 106:2012, 8.3.
        """
        states = [worst([bound.judge(facts.get(bound.quantity)) for bound in way.bounds]) for way in self.ways]
        order: tuple[State, ...] = ("pass", "too_close", "not_measured", "fail")
        state = next(each for each in order if each in states)
        way = self.ways[states.index(state)]
        said = {
            "pass": say("limits.composition.met_by", words=way.words()),
            "too_close": say("limits.composition.too_close_to_to_call", words=way.words()),
            "not_measured": say("limits.composition.not_measured_would_do", words=way.words()),
            "fail": say(
                "limits.composition.not_met_it_needs", items=joined((each.words() for each in self.ways), ", or ")
            ),
        }[state]
        single = self.ways[0].bounds[0] if len(self.ways) == 1 and len(self.ways[0].bounds) == 1 else None
        fact = facts.get(single.quantity) if single else None
        margin = None
        if single and fact:
            name, unit, digits = WORDS.get(single.quantity, (str(single.quantity), "", 2))
            said = (
                say("limits.composition.name_value_unit", name=name, value=num(fact.value, f".{digits}f"), unit=unit)
                + ": "
                + lowered(said)
            )
            margin = single.value - fact.value if single.comparison == "at_most" else fact.value - single.value
        return Verdict(
            state=state,
            basis=basis,
            sentence=said,
            value=fact.value if fact else None,
            limit_value=single.value if single else None,
            margin=margin,
            unit=WORDS.get(single.quantity, ("", "", 0))[1] if single else "",
            working=self.explain(facts),
        )

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each bound is on the strict side, where both have one way with the same bounds; else nothing."""
        if not isinstance(other, Composition) or len(self.ways) != 1 or len(other.ways) != 1:
            return None
        mine, theirs = self.ways[0].bounds, other.ways[0].bounds
        if [(one.quantity, one.comparison) for one in mine] != [(one.quantity, one.comparison) for one in theirs]:
            return None
        pairs = zip(mine, theirs, strict=True)
        return [b.value - a.value if a.comparison == "at_most" else a.value - b.value for a, b in pairs]

    @property
    def each_by_itself(self) -> bool:
        """The last reading tells."""
        return True

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """Its bound, where it is one bound on one quantity."""
        if len(self.ways) != 1 or len(self.ways[0].bounds) != 1:
            return []
        bound = self.ways[0].bounds[0]
        return [LimitMark(label=bound.words(), value=bound.value, from_s=began_s, state=state)]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge one quantity by its last reading, where the limit is about that quantity alone.

        As ``judge`` with that one fact. Valid for what settles and then stays, such as an equilibrium pH. ``series``
        [its unit], ``now_s`` [s]. As ``judge``.
        """
        known = series.until(now_s)
        if not len(known):
            return self.judge({}, series.basis)
        return self.judge(
            {self.quantity: Measured(value=float(known.values[-1]), uncertainty=known.uncertainty)}, series.basis
        )

    def explain(self, facts: dict[Quantity, Measured]) -> Working:
        """The ways and what is known."""
        inputs = [
            Input(
                name=WORDS.get(name, (name, "", 2))[0], value=round(fact.value, 4), unit=WORDS.get(name, ("", "", 2))[1]
            )
            for name, fact in facts.items()
        ]
        return Working(
            title=self.title,
            formula=joined((say("working.composition.way", way=way.words()) for way in self.ways), "words.or"),
            inputs=tuple(inputs),
            result="",
            source=self.source,
            assumptions=(say("working.composition.the_worst_part_of_the_food"),),
            valid_range=self.qualifier,
        )
