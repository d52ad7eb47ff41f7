"""How long the core may take to warm through the growth zone."""

from typing import ClassVar, Literal

import numpy as np

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, state_of, unproved
from brinefrost.core.physics.body import Array
from brinefrost.core.words import Message, bare, duration, say, temp
from brinefrost.core.working import Input, Working


class ComeUp(LimitBase):
    """The core rises from one temperature to another within a time."""

    needs_curve: ClassVar[bool] = True
    kind: Literal["come_up"] = "come_up"
    read_off: ClassVar[bool] = True
    from_c: float
    to_c: float
    within_s: float

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each part is on the strict side of another's; None where they cannot be compared."""
        if not isinstance(other, ComeUp):
            return None
        return [other.from_c - self.from_c, self.to_c - other.to_c, other.within_s - self.within_s]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the time between the two temperatures.

        Its value is the time taken [s]; pass once the upper temperature, raised by the uncertainty, was reached in
        time; not measured where only a straight line across a silence makes it so. Raises OutOfRangeError if the times
        of the series fall. Valid for rising curves; if the first reading is above the lower temperature, the clock
        starts with the step. ``series`` [°C], ``now_s`` [s]. The limit's own source; JCGM 106:2012, 8.3, for the guard
        band.
        """
        known = series.until(now_s)
        if not len(known):
            return self._tell("not_measured", series, say("limits.base.not_measured_yet"), None)
        start = self._start(known)
        if start is None:
            return self._tell(
                "pending", known, say("limits.come_up.core_not_yet_warming", values=temp(float(known.values[-1]))), None
            )
        surely = rising_crossing(known.times_s, known.values, self.to_c + known.uncertainty)
        nominal = rising_crossing(known.times_s, known.values, self.to_c)
        surely_in = surely is not None and surely - start <= self.within_s
        nominally_in = nominal is not None and nominal - start <= self.within_s
        end = surely if surely_in else nominal
        taken = (end if end is not None else now_s) - start
        state = state_of(surely_in, nominally_in, known.closed or taken > self.within_s)
        said = self._sentence(state, known, taken, end is not None)
        found = self._tell(state, known, said, taken)
        if state != "pass" or nominal is None:
            return found
        slowest = self._read_s(known, surely if surely is not None else nominal) - self._edge_s(known, start)
        if slowest <= self.within_s * (1 + 1e-9):
            return found
        return unproved(
            found, say("limits.come_up.nobody_read_it_for_longer_than", silence=duration(self.silence_s(known)))
        )

    def _sentence(self, state: State, known: Series, taken: float, came_up: bool) -> Message:
        to, spent, allowed = self.bound_c(self.to_c), duration(taken), duration(self.within_s)
        way = say("limits.come_up.from_to_to", from_=bare(self.bound_c(self.from_c)), to=to)
        if state == "pass":
            return say("limits.come_up.warmed_from_in_allowed", way=way, taken=spent, within=allowed)
        if state == "too_close":
            return say("limits.come_up.about_after_within_the_probes_uncertaint", to=to, taken=spent)
        if state == "pending":
            return say("limits.come_up.warming_for_of_allowed", taken=spent, within=allowed)
        if not came_up and taken <= self.within_s:
            return say("limits.come_up.never_at_the_core_got_to", to=to, values=temp(float(np.max(known.values))))
        return say("limits.come_up.not_from_within", way=way, within=allowed)

    def met_at_s(self, series: Series, guarded: bool = False) -> float | None:
        """When it came up [s], where that was within its time; else None. Valid as ``evaluate``."""
        start = self._start(series) if len(series) else None
        end = rising_crossing(series.times_s, series.values, self.to_c + (series.uncertainty if guarded else 0.0))
        return None if start is None or end is None or end - start > self.within_s else end

    def _edge_s(self, series: Series, crossed_s: float) -> float:
        """The last reading before the clock began, where a silence leaves its beginning unknown [s]."""
        after = int(np.searchsorted(series.times_s, crossed_s, side="left"))
        if not 0 < after < len(series) or series.values[after - 1] >= self.from_c:
            return crossed_s
        silent = series.times_s[after] - series.times_s[after - 1] > self.silence_s(series)
        return float(series.times_s[after - 1]) if silent else crossed_s

    def _read_s(self, series: Series, crossed_s: float) -> float:
        """The first reading at or after a crossing across a silence [s]."""
        after = int(np.searchsorted(series.times_s, crossed_s, side="left"))
        if not 0 < after < len(series):
            return crossed_s
        silent = series.times_s[after] - series.times_s[after - 1] > self.silence_s(series)
        return float(series.times_s[after]) if silent else crossed_s

    def _start(self, series: Series) -> float | None:
        if series.values[0] >= self.from_c:
            first = float(series.times_s[0])
            return first if series.opened_s is None else min(first, series.opened_s)
        return rising_crossing(series.times_s, series.values, self.from_c)

    def _tell(self, state: State, series: Series, sentence: str, taken_s: float | None) -> Verdict:
        return Verdict(
            state=state,
            basis=series.basis,
            sentence=sentence,
            value=taken_s,
            limit_value=self.within_s,
            margin=None if taken_s is None else self.within_s - taken_s,
            unit="s",
            working=Working(
                title=self.title,
                formula=say("working.come_up.time_from_the_lower_to_the"),
                inputs=(
                    Input(name=say("working.come_up.from"), value=self.from_c, unit="°C"),
                    Input(name=say("working.come_up.to"), value=self.to_c, unit="°C"),
                    Input(name=say("working.come_up.within"), value=self.within_s / 3600, unit="h"),
                ),
                result="" if taken_s is None else duration(taken_s),
                source=self.source,
                assumptions=(say("working.come_up.the_probe_sits_in_the_coldest"),),
            ),
        )


def rising_crossing(times_s: Array, values: Array, level: float) -> float | None:
    """When a curve, (n,) [°C], first gets up to a level [s]; None when it never does.

    Valid for rising times; straight between readings.
    """
    reached = np.flatnonzero(values >= level)
    if not len(reached):
        return None
    i = int(reached[0])
    if i == 0:
        return float(times_s[0])
    share = (level - values[i - 1]) / (values[i] - values[i - 1])
    return float(times_s[i - 1] + share * (times_s[i] - times_s[i - 1]))
