"""Degree-hours of a fermenting sausage until it is sour enough."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, unproved
from brinefrost.core.physics.body import Array
from brinefrost.core.words import bare, degree_hours, duration, legal, say, temp
from brinefrost.core.working import Document, Input, Working

LONGEST_GAP_S = 6 * 3600.0  # a chamber read four times a day; common practice, no source


class Ceiling(Document):
    """Degree-hours allowed while the hottest temperature stays at or below this; ``strict``: and fewer than so many."""

    up_to_c: float
    degree_hours: float = Field(gt=0)
    strict: bool = False


class DegreeHours(LimitBase):
    """Degrees above a base times hours, until pH 5.3, stay within what the hottest temperature allows."""

    over_all: ClassVar[bool] = True
    kind: Literal["degree_hours"] = "degree_hours"
    quantity: Literal["air"] = "air"
    base_c: float
    unit: Literal["°C·h", "°F·h"]
    ceilings: tuple[Ceiling, ...] = Field(min_length=1, max_length=6)

    @property
    def scale(self) -> float:
        """The source's degree-hours in one of °C·h."""
        return 1.8 if self.unit == "°F·h" else 1.0

    def gathered(self, series: Series, shift: float = 0.0) -> Array:
        """Degree-hours up to each reading [unit of the limit], (n,), readings shifted by so many °C.

        Valid for rising times; trapezoids above the base.
        """
        above = np.maximum(series.values + shift - self.base_c, 0.0) * self.scale
        pieces = (above[1:] + above[:-1]) / 2 * np.diff(series.times_s) / 3600.0
        return np.concatenate(([0.0], np.cumsum(pieces)))

    def allowed(self, hottest_c: float) -> float:
        """What the hottest temperature [°C] allows [unit of the limit].

        Valid to the last row of the table; hotter than that nothing is allowed.
        """
        found = self._ceiling(hottest_c)
        return found.degree_hours if found else 0.0

    def _ceiling(self, hottest_c: float) -> Ceiling | None:
        return next((c for c in self.ceilings if hottest_c <= c.up_to_c + 1e-9), None)

    def _within(self, gathered: float, hottest_c: float) -> bool:
        """Whether so many degree-hours are allowed; where the source says "fewer than", as many are too many."""
        found = self._ceiling(hottest_c)
        if found is None:
            return False
        return gathered < found.degree_hours - 1e-6 if found.strict else gathered <= found.degree_hours + 1e-6

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the degree-hours until the end of the series, which is when pH 5.3 was measured.

        Its value is the degree-hours so far [°C·h], whatever unit the source counts in. Raises OutOfRangeError if the
        times of the series fall. Valid for sausages with starter, from 15.6 °C up; above the last ceiling nothing is
        allowed. ``series`` [°C], ``now_s`` [s]. American Meat Institute, Good Manufacturing Practices for fermented
        dry and semi-dry sausage (1997); in °C the Canadian Food Inspection Agency's form.
        """
        known = series.until(now_s)
        if len(known) < 2:
            most = self.ceilings[0].degree_hours / self.scale
            return self.unmeasured(series, most, "°C·h", self.explain(0.0, 0.0, 0.0))
        hottest = float(np.max(known.values))
        sum_, allowed = float(self.gathered(known)[-1]), self.allowed(hottest)
        raised = float(self.gathered(known, known.uncertainty)[-1])
        within = self._within(raised, hottest + known.uncertainty)
        state: State = (
            "fail"
            if not self._within(sum_, hottest)
            else "too_close"
            if not within
            else "pass"
            if known.closed
            else "pending"
        )
        sum_, allowed = sum_ / self.scale, allowed / self.scale
        said = say(
            "limits.degree_hours.of_hottest",
            sum=bare(degree_hours(sum_, ".0f")),
            allowed=degree_hours(allowed, ".0f"),
            hottest=temp(hottest),
        )
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=said,
            value=sum_,
            limit_value=allowed,
            margin=allowed - sum_,
            unit="°C·h",
            at_s=float(known.times_s[-1]),
            working=self.explain(sum_, allowed, hottest),
            advice=(say("limits.degree_hours.s_aureus_may_have_made_toxin"),) if state == "fail" else (),
        )
        if state != "fail" and bool(np.any(known.silences(max(self.silence_s(known), LONGEST_GAP_S)))):
            return unproved(
                found,
                say("limits.degree_hours.nobody_read_the_chamber_for_longer", longest_gap=duration(LONGEST_GAP_S)),
            )
        return found

    def explain(self, gathered: float, allowed: float, hottest_c: float) -> Working:
        """The sum and the ceiling that applies [°C·h]."""
        return Working(
            title=self.title,
            formula=say("working.degree_hours.t_hours_until_ph_5_3", base=legal(self.base_c)),
            inputs=(
                Input(name=say("working.degree_hours.hottest"), value=hottest_c, unit="°C"),
                Input(name=say("working.degree_hours.allowed_at_that"), value=allowed, unit="°C·h"),
            ),
            result=degree_hours(gathered, ".0f"),
            source=self.source,
            assumptions=(
                say("working.cooling.straight_between_readings"),
                say("working.degree_hours.the_hottest_temperature_reached_decides"),
            ),
        )
