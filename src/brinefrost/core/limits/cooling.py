"""Cooling in stages: so cold within so long."""

from typing import ClassVar, Literal, Self

import numpy as np

from brinefrost.core.limits.base import (
    LimitBase,
    LimitMark,
    Series,
    StageResult,
    State,
    Verdict,
    unproved,
    worst,
)
from brinefrost.core.physics.body import Array
from brinefrost.core.words import duration, joined, legal, say, temp
from brinefrost.core.working import Document, Input, Working


class CoolingStage(Document):
    """Down to a temperature within a time: of the clock's start, or of the moment the stage before was reached."""

    to_c: float
    within_s: float
    further: bool = False  # counted from the stage before


HEARD_S = 3600.0  # a core read hot, and not again for so long, tells nothing of its fall; common practice, no source


class Cooling(LimitBase):
    """The core falls through each stage in time, counted from when it falls through the first temperature."""

    kind: Literal["cooling"] = "cooling"
    read_off: ClassVar[bool] = True
    from_c: float
    stages: tuple[CoolingStage, ...]
    counts_from: Literal["falling", "end_of_cooking"] = "falling"
    begins_within_s: float | None = None  # how long after the end of cooking it may take to fall to the first
    chilled_within_s: float | None = None  # how long after the end of cooking what chills it may begin

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each part is on the strict side, with the same stages and clocks; else nothing."""
        if not isinstance(other, Cooling) or self.counts_from != other.counts_from:
            return None
        if [stage.further for stage in self.stages] != [stage.further for stage in other.stages]:
            return None
        gaps = [self.from_c - other.from_c]
        for mine, theirs in zip(self.stages, other.stages, strict=True):
            gaps += [theirs.to_c - mine.to_c, theirs.within_s - mine.within_s]
        return gaps

    def turns_on(self) -> tuple[float, bool]:
        """How long its first stage may take [s]."""
        return self.stages[0].within_s, False

    def turned_to(self, value: float) -> Self:
        """Its first stage in another time [s]."""
        first = self.stages[0].model_copy(update={"within_s": value})
        title = say("limits.cooling.to_within", to=legal(first.to_c, "g"), value=duration(value))
        return self.model_copy(update={"stages": (first, *self.stages[1:]), "title": title})

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge every stage as it stands now.

        The worst of the stages; its value is the latest reading, its margin [s] the least time to spare. Not measured
        where it passes only by a straight line across a silence: then neither the clock's start nor a mark is known
        well enough. Raises OutOfRangeError if the times of the series fall. Valid for falling curves with small bumps.
        The clock starts when the core last falls through the first temperature; if the first reading is already below
        it, or the limit counts from the end of cooking, at the start of the step. Across a silence the clock is taken
        to start at the last reading above, and a mark to be reached at the first reading at or below it. ``series``
        [°C], ``now_s`` [s]. The limit's own source; JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if not len(known):
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence=say("limits.base.not_measured_yet"),
                limit_value=self.stages[0].to_c,
                unit="°C",
                working=self.explain(known, None, []),
            )
        start = self.clock_start_s(known)
        latest = float(known.values[-1])
        if start is None:
            ended = now_s if known.closed_s is None else min(known.closed_s, now_s)
            unread = known.closed and known.basis != "computed" and ended - float(known.times_s[-1]) > HEARD_S
            if unread:
                said = say("limits.cooling.nobody_read_it_for_longer_than", silence=duration(HEARD_S))
                return Verdict(
                    state="not_measured", basis=known.basis, value=latest, limit_value=self.from_c, unit="°C",
                    sentence=said, at_s=float(known.times_s[-1]), working=self.explain(known, None, []),
                )  # fmt: skip
            return Verdict(
                state="fail" if known.closed else "pending",
                basis=series.basis,
                value=latest,
                limit_value=self.from_c,
                unit="°C",
                sentence=say("limits.cooling.never_below_core", from_=self.bound_c(self.from_c), latest=temp(latest))
                if known.closed
                else say(
                    "limits.cooling.core_the_clock_starts_at", latest=temp(latest), from_=self.bound_c(self.from_c)
                ),
                at_s=float(known.times_s[-1]),
                working=self.explain(known, None, []),
            )
        found = self._verdict(known, start, now_s, self._stages(known, start, now_s, strict=False))
        if found.state != "pass" or not bool(np.any(known.silences(self.silence_s(known)))):
            return found
        earliest = self._edge_s(known, self.from_c, start)
        strict = worst([each.state for each in self._stages(known, earliest, now_s, strict=True)])
        if strict == "pass":
            return found
        return unproved(
            found, say("limits.cooling.nobody_read_it_for_longer_than", silence=duration(self.silence_s(known)))
        )

    def _verdict(self, known: Series, start: float, now_s: float, results: list[StageResult]) -> Verdict:
        latest = float(known.values[-1])
        state = worst([result.state for result in results])
        telling = [result for result in results if result.state == state][-1 if state == "pass" else 0]
        late = self._late(known, start)
        return Verdict(
            state="fail" if late else state,
            basis=known.basis,
            sentence=late or self._sentence(telling, start, latest, now_s),
            value=latest,
            limit_value=telling.to_c,
            margin=min(self._spare_s(result, now_s) for result in results),
            unit="°C",
            at_s=float(known.times_s[-1]),
            working=self.explain(known, start, results),
            advice=self._advice(state),
        )

    def _late(self, known: Series, start: float) -> str:
        """What began too late after the end of cooking: the fall, or what chills it; nothing where neither did."""
        if known.opened_s is None:
            return ""
        chilled_s = known.opened_s if known.chilled_from_s is None else known.chilled_from_s
        taken, chilled = start - known.opened_s, chilled_s - known.opened_s
        if self.begins_within_s is not None and known.values[0] > self.from_c and taken > self.begins_within_s:
            return say(
                "limits.cooling.fell_to_only_after_cooking_allowed",
                from_=self.bound_c(self.from_c),
                late=duration(taken),
                value=duration(self.begins_within_s),
            )
        if self.chilled_within_s is not None and chilled > self.chilled_within_s:
            return say(
                "limits.cooling.chilled_only_so_long_after_cooking",
                late=duration(chilled),
                value=duration(self.chilled_within_s),
            )
        return ""

    def clock_start_s(self, series: Series) -> float | None:
        """When the core last fell through the first temperature [s]; None while it is above.

        Valid for rising times; straight between readings.
        """
        opened = float(series.times_s[0]) if series.opened_s is None else min(series.opened_s, float(series.times_s[0]))
        if self.counts_from == "end_of_cooking":
            return opened
        above = np.flatnonzero(series.values > self.from_c)
        if not len(above):
            return opened
        last = int(above[-1])
        if last == len(series) - 1:
            return None
        first_crossing = _crossing(series.times_s, series.values, self.from_c, 0)
        return first_crossing if first_crossing is not None else float(series.times_s[last])

    def _edge_s(self, series: Series, level: float, crossed_s: float) -> float:
        """The last reading before a crossing, where a silence leaves the crossing itself unknown [s]."""
        after = int(np.searchsorted(series.times_s, crossed_s, side="left"))
        if not 0 < after < len(series) or series.values[after - 1] <= level:
            return crossed_s
        silent = series.times_s[after] - series.times_s[after - 1] > self.silence_s(series)
        return float(series.times_s[after - 1]) if silent else crossed_s

    @property
    def falls_from_c(self) -> float:
        """The hot line."""
        return self.from_c

    @property
    def last_mark_s(self) -> float:
        """Its stages, each from the clock's start or after the one before."""
        mark = 0.0
        for stage in self.stages:
            mark = stage.within_s + (mark if stage.further else 0.0)
        return mark + (self.begins_within_s or 0.0)

    @property
    def from_end_of_cooking(self) -> bool:
        """As the rule set counts."""
        return self.counts_from == "end_of_cooking"

    def zone(self) -> tuple[float, float]:
        """From its last mark to where its clock starts [°C]."""
        return min(stage.to_c for stage in self.stages), self.from_c

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """Each stage at its deadline."""
        return [
            LimitMark(
                label=self.bound_c(result.to_c, "g"),
                value=result.to_c,
                from_s=began_s,
                by_s=result.deadline_s if result.deadline_s is not None else began_s + result.within_s,
                state=result.state,
            )
            for result in (self.results(series, now_s) if len(series) else [])
        ]

    def results(self, series: Series, now_s: float) -> list[StageResult]:
        """Every stage by itself at a time [s], for the chart and the record.

        Valid as ``evaluate``.
        """
        known = series.until(now_s)
        start = self.clock_start_s(known) if len(known) else None
        if start is None:
            return [
                StageResult(to_c=s.to_c, within_s=s.within_s, state="pending", deadline_s=None, reached_s=None)
                for s in self.stages
            ]
        return self._stages(known, start, now_s, strict=False)

    def _stages(self, known: Series, start: float, now_s: float, strict: bool) -> list[StageResult]:
        """Each stage after the one before, whose end starts the clock of one that is counted from there."""
        found: list[StageResult] = []
        since: float | None = start
        for stage in self.stages:
            own = since if stage.further else start
            result = self._stage(stage, known, start, own, now_s, strict)
            found.append(result)
            since = result.reached_s
            if strict and since is not None:
                since = self._edge_s(known, stage.to_c, since)
        return found

    def _stage(
        self, stage: CoolingStage, known: Series, start: float, since: float | None, now_s: float, strict: bool
    ) -> StageResult:
        first = max(int(np.searchsorted(known.times_s, start, side="left")) - 1, 0)
        reached = _crossing(known.times_s, known.values, stage.to_c, first)
        surely = _crossing(known.times_s, known.values, stage.to_c - known.uncertainty, first)
        if strict:
            reached, surely = (self._read_s(known, each) for each in (reached, surely))
        deadline = None if since is None else since + stage.within_s * (1 + 1e-9)
        state: State
        if deadline is None:
            state = "fail" if known.closed else "pending"
        elif surely is not None and surely <= deadline:
            state = "pass"
        elif reached is not None and reached <= deadline:
            state = "too_close"
        elif reached is not None or now_s > deadline:
            state = "fail"
        else:
            state = "fail" if known.closed else "pending"
        return StageResult(
            to_c=stage.to_c,
            within_s=stage.within_s,
            state=state,
            deadline_s=deadline,
            reached_s=reached,
            since_s=since,
        )

    def _read_s(self, series: Series, crossed_s: float | None) -> float | None:
        """The first reading at or after a crossing, where a silence leaves the crossing itself unknown [s]."""
        if crossed_s is None:
            return None
        after = int(np.searchsorted(series.times_s, crossed_s, side="left"))
        if not 0 < after < len(series):
            return crossed_s
        silent = series.times_s[after] - series.times_s[after - 1] > self.silence_s(series)
        return float(series.times_s[after]) if silent else crossed_s

    def _spare_s(self, result: StageResult, now_s: float) -> float:
        end = now_s if result.reached_s is None else result.reached_s
        return (result.deadline_s or end) - end

    def _sentence(self, result: StageResult, start: float, latest: float, now_s: float) -> str:
        target = self.bound_c(result.to_c)
        since = start if result.since_s is None else result.since_s
        taken = None if result.reached_s is None else duration(result.reached_s - since)
        if result.state == "pass":
            return say("limits.cooling.cooled_through_every_stage_in_time", target=target, taken=taken)
        if result.state == "too_close":
            return say("limits.cooling.after_but_within_the_probes_uncertainty", target=target, taken=taken)
        if result.state == "fail" and taken is not None:
            return say("limits.cooling.after_allowed", target=target, taken=taken, within=duration(result.within_s))
        if result.state == "fail" and now_s > (result.deadline_s or now_s):
            return say(
                "limits.cooling.not_at_within_core",
                target=target,
                within=duration(result.within_s),
                latest=temp(latest),
            )
        if result.state == "fail":
            return say(
                "limits.cooling.ended_at_on_never_read_at",
                latest=temp(latest),
                now=duration(now_s - since),
                target=target,
            )
        left = (result.deadline_s or now_s) - now_s
        return say("limits.cooling.core_must_be_reached_in", latest=temp(latest), target=target, left=duration(left))

    def _advice(self, state: State) -> tuple[str, ...]:
        if state == "fail":
            return (say("limits.cooling.hold_the_batch_apart_the_lead"),)
        if state == "too_close":
            return (say("limits.cooling.measure_again_with_a_better_probe"),)
        return ()

    def explain(self, series: Series, start: float | None, results: list[StageResult]) -> Working:
        """Each stage, its deadline and when it was reached."""
        parts = [
            say(
                "working.cooling.to_more_of_within",
                to=self.bound_c(r.to_c),
                more=say("working.cooling.not_yet")
                if r.reached_s is None or r.since_s is None
                else duration(r.reached_s - r.since_s),
                within=duration(r.within_s),
            )
            for r in results
        ]
        return Working(
            title=self.title,
            formula=say("working.cooling.time_from_the_end_of_cooking")
            if self.counts_from == "end_of_cooking"
            else say("working.cooling.time_from_falling_through_the_first"),
            inputs=(
                Input(name=say("working.come_up.from"), value=self.from_c, unit="°C"),
                *(
                    Input(
                        name=say(
                            "working.cooling.to_within",
                            to=self.bound_c(s.to_c),
                            more=say("working.cooling.a_further") if s.further else "",
                        ),
                        value=s.within_s / 3600,
                        unit="h",
                    )
                    for s in self.stages
                ),
                *(
                    (Input(name=say("working.cooling.chilled_within"), value=self.chilled_within_s / 3600, unit="h"),)
                    if self.chilled_within_s is not None
                    else ()
                ),
                Input(name=say("working.cooling.readings"), value=len(series)),
                Input(name=say("working.cooling.uncertainty_k_2"), value=series.uncertainty, unit="K"),
            ),
            result=joined(parts) or say("working.cooling.the_clock_has_not_started"),
            source=self.source,
            assumptions=(
                say("working.cooling.the_probe_sits_in_the_warmest"),
                say("working.cooling.straight_between_readings"),
                *series.notes,
            ),
        )


def _crossing(times_s: Array, values: Array, level: float, first: int) -> float | None:
    """When the curve first gets down to a level at or after an index [s]."""
    at_or_below = np.flatnonzero(values[first:] <= level)
    if not len(at_or_below):
        return None
    i = first + int(at_or_below[0])
    if i == 0 or values[i - 1] <= level:
        return float(times_s[i])
    share = (values[i - 1] - level) / (values[i - 1] - values[i])
    return float(times_s[i - 1] + share * (times_s[i] - times_s[i - 1]))
