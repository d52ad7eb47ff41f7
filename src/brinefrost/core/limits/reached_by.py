"""A value to be reached in time: a ferment that must be sour by its deadline."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, state_of
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.words import duration, num, say
from brinefrost.core.working import Input, Working


class ReachedBy(LimitBase):
    """The latest reading is at or below a value, and it was first read so by a deadline."""

    over_all: ClassVar[bool] = True
    kind: Literal["reached_by"] = "reached_by"
    read_off: ClassVar[bool] = True
    at_most: float
    unit: str = ""
    within_s: float = Field(gt=0)

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge a falling value against its deadline.

        Pass when it was read at or below the value by the deadline and the latest reading is clear of it by the
        uncertainty; too close when it is not clear, or when it was first read after the deadline but fell between two
        readings before it; fail once the deadline has passed without it; pending before. Valid for a value that falls
        and stays down. Time between readings is taken as a straight line, and is never enough to pass. ``series``
        [unit of the limit], ``now_s`` [s]. The limit's own source; JCGM 106:2012, 8.3 for the guard band.
        """
        known = series.until(now_s)
        if not len(known):
            return self.unmeasured(series, self.at_most, self.unit, self.explain(None, None))
        began = known.opened_s or 0.0
        last, end = float(known.values[-1]), float(known.times_s[-1]) - began
        read_s, crossed_s = self._first(known, began)
        there = last <= self.at_most + 1e-9
        read_in_time = read_s is not None and read_s <= self.within_s + 1e-6
        crossed_in_time = crossed_s is not None and crossed_s <= self.within_s + 1e-6
        surely = read_in_time and last <= self.at_most - known.uncertainty + 1e-9
        nearly = crossed_in_time and last <= self.at_most + known.uncertainty
        near_before = end <= self.within_s and not there and last <= self.at_most + known.uncertainty
        over = (end >= self.within_s) if read_s is None else not crossed_in_time
        # what was sour and is not now has not stayed down
        state: State = (
            "fail"
            if read_s is not None and last > self.at_most + known.uncertainty
            else state_of(surely, nearly or near_before, over)
        )
        return Verdict(
            state=state,
            basis=series.basis,
            sentence=self._words(state, last, end, read_s, known.uncertainty),
            value=last,
            limit_value=self.at_most,
            margin=self.at_most - last,
            unit=self.unit,
            at_s=None if read_s is None else read_s + began,
            working=self.explain(last, crossed_s),
            advice=(say("limits.exposure.discard_it"),) if state == "fail" else (),
        )

    def explain(self, last: float | None, crossed_s: float | None) -> Working:
        """The value, the deadline and when it was crossed."""
        inputs = [
            Input(name=say("working.reached_by.at_most"), value=self.at_most, unit=self.unit),
            Input(name=say("working.reached_by.deadline"), value=duration(self.within_s)),
        ]
        if last is not None:
            inputs.append(Input(name=say("working.reached_by.latest"), value=round(last, 3), unit=self.unit))
        return Working(
            title=self.title,
            formula=say("working.reached_by.read_at_or_below_the_value"),
            inputs=tuple(inputs),
            result=say("working.reached_by.not_reached")
            if crossed_s is None
            else say("working.reached_by.reached_after", crossed=duration(crossed_s)),
            source=self.source,
            assumptions=(
                say("working.reached_by.a_straight_line_between_two_readings"),
                say("working.composition.the_worst_part_of_the_food"),
            ),
            valid_range=self.qualifier,
        )

    def _first(self, series: Series, began: float) -> tuple[float | None, float | None]:
        """When it was first read at or below the value, and when the line between readings crossed it [s]."""
        below = np.flatnonzero(series.values <= self.at_most + 1e-9)
        if not len(below):
            return None, None
        i = int(below[0])
        read = float(series.times_s[i]) - began
        if i == 0:
            return read, read
        fall = float(series.values[i - 1] - series.values[i])
        share = (float(series.values[i - 1]) - self.at_most) / fall
        before = float(series.times_s[i - 1]) - began
        return read, before + min(share, 1.0) * (read - before)

    def _words(self, state: State, last: float, end_s: float, read_s: float | None, uncertainty: float) -> str:
        name = QUANTITIES[self.quantity].noun if self.quantity in QUANTITIES else self.quantity
        now = say("limits.reached_by.name_last_after_end", name=name, last=num(last, ".2f"), end=duration(end_s))
        bound = num(self.at_most)
        if state == "pass":
            return say(
                "limits.reached_by.at_or_below_by_its_deadline", now=now, bound=bound, within=duration(self.within_s)
            )
        if state == "too_close":
            if abs(last - self.at_most) <= uncertainty:
                return say(
                    "limits.reached_by.too_close_to_to_call_the", now=now, bound=bound, uncertainty=num(uncertainty)
                )
            return say("limits.reached_by.it_fell_to_between_two_readings", now=now, bound=bound)
        if state == "fail":
            late = read_s is not None and last <= self.at_most
            within = duration(self.within_s)
            if late:
                return say("limits.reached_by.at_only_after_its_deadline", now=now, bound=bound, within=within)
            return say("limits.reached_by.not_at_by", now=now, bound=bound, within=within)
        return say("limits.reached_by.not_yet_at_the_deadline_is", now=now, bound=bound, within=duration(self.within_s))
