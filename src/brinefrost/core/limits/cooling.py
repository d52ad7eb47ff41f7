"""Cooling in stages: so cold within so long."""

from typing import Literal

import numpy as np

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, number, worst
from brinefrost.core.physics.body import Array
from brinefrost.core.working import Document, Input, Working, clock


class CoolingStage(Document):
    """Down to a temperature within a time of the clock's start."""

    to_c: float
    within_s: float


class StageResult(Document):
    """How one stage stands."""

    to_c: float
    within_s: float
    state: State
    deadline_s: float | None
    reached_s: float | None


class Cooling(LimitBase):
    """The core falls through each stage in time, counted from when it falls through the first temperature."""

    kind: Literal["cooling"] = "cooling"
    from_c: float
    stages: tuple[CoolingStage, ...]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge every stage as it stands now.

        Parameters
        ----------
        series : Series
            Core temperatures [°C], (n,), straight between readings.
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            The worst of the stages; its value is the latest reading, its margin [s] the least time to spare.

        Raises
        ------
        ValueError
            Never for finite readings.

        Notes
        -----
        Valid for falling curves with small bumps. The clock starts when the core last falls through the
        first temperature; if the first reading is already below it, at the start of the step.

        References
        ----------
        The limit's own source; JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if not len(known):
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence="Not measured yet.",
                limit_value=self.stages[0].to_c,
                unit="°C",
                working=self.explain(known, None, []),
            )
        start = self.clock_start_s(known)
        latest = float(known.values[-1])
        if start is None:
            return Verdict(
                state="pending",
                basis=series.basis,
                value=latest,
                limit_value=self.from_c,
                unit="°C",
                sentence=f"Core {number(latest)} °C; the clock starts at {number(self.from_c)} °C.",
                at_s=float(known.times_s[-1]),
                working=self.explain(known, None, []),
            )
        results = [self._stage(stage, known, start, now_s) for stage in self.stages]
        state = worst([result.state for result in results])
        telling = [result for result in results if result.state == state][-1 if state == "pass" else 0]
        margins = [self._spare_s(result, now_s) for result in results]
        return Verdict(
            state=state,
            basis=series.basis,
            sentence=self._sentence(telling, start, latest, now_s),
            value=latest,
            limit_value=telling.to_c,
            margin=min(margins),
            unit="°C",
            at_s=float(known.times_s[-1]),
            working=self.explain(known, start, results),
            advice=self._advice(state),
        )

    def clock_start_s(self, series: Series) -> float | None:
        """When the core last fell through the first temperature [s]; None while it is above.

        Valid for rising times; straight between readings.
        """
        above = np.flatnonzero(series.values > self.from_c)
        if not len(above):
            return (
                float(series.times_s[0]) if series.opened_s is None else min(series.opened_s, float(series.times_s[0]))
            )
        last = int(above[-1])
        if last == len(series) - 1:
            return None
        first_crossing = _crossing(series.times_s, series.values, self.from_c, 0)
        return first_crossing if first_crossing is not None else float(series.times_s[last])

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
        return [self._stage(stage, known, start, now_s) for stage in self.stages]

    def _stage(self, stage: CoolingStage, known: Series, start: float, now_s: float) -> StageResult:
        deadline = start + stage.within_s
        first = int(np.searchsorted(known.times_s, start, side="left"))
        reached = _crossing(known.times_s, known.values, stage.to_c, max(first - 1, 0))
        surely = _crossing(known.times_s, known.values, stage.to_c - known.uncertainty, max(first - 1, 0))
        state: State
        if surely is not None and surely <= deadline:
            state = "pass"
        elif reached is not None and reached <= deadline:
            state = "too_close"
        elif reached is not None or now_s > deadline:
            state = "fail"
        else:
            state = "fail" if known.closed else "pending"
        return StageResult(
            to_c=stage.to_c, within_s=stage.within_s, state=state, deadline_s=deadline, reached_s=reached
        )

    def _spare_s(self, result: StageResult, now_s: float) -> float:
        end = now_s if result.reached_s is None else result.reached_s
        return (result.deadline_s or end) - end

    def _sentence(self, result: StageResult, start: float, latest: float, now_s: float) -> str:
        target = f"{number(result.to_c)} °C"
        taken = None if result.reached_s is None else clock(result.reached_s - start)
        if result.state == "pass":
            return f"Cooled through every stage in time: {target} after {taken}."
        if result.state == "too_close":
            return f"{target} after {taken}, but within the probe's uncertainty: measure again."
        if result.state == "fail" and taken is not None:
            return f"{target} after {taken}, allowed {clock(result.within_s)}."
        if result.state == "fail":
            return f"Not at {target} within {clock(result.within_s)}: core {number(latest)} °C."
        left = (result.deadline_s or now_s) - now_s
        return f"Core {number(latest)} °C; {target} must be reached in {clock(left)}."

    def _advice(self, state: State) -> tuple[str, ...]:
        if state == "fail":
            return ("Hold the batch apart. The lead decides: the time in the growth zone cannot be taken back.",)
        if state == "too_close":
            return ("Measure again with a better probe or a few minutes later.",)
        return ()

    def explain(self, series: Series, start: float | None, results: list[StageResult]) -> Working:
        """Each stage, its deadline and when it was reached."""
        parts = [
            f"{number(r.to_c)} °C: "
            + ("not yet" if r.reached_s is None or start is None else clock(r.reached_s - start))
            + f" of {clock(r.within_s)}"
            for r in results
        ]
        return Working(
            title=self.title,
            formula="time from falling through the first temperature to each stage ≤ its allowance",
            inputs=(
                Input(name="from", value=self.from_c, unit="°C"),
                *(Input(name=f"to {number(s.to_c)} °C within", value=s.within_s / 3600, unit="h") for s in self.stages),
                Input(name="readings", value=len(series)),
                Input(name="uncertainty (k = 2)", value=series.uncertainty, unit="°C"),
            ),
            result="; ".join(parts) or "the clock has not started",
            source=self.source,
            assumptions=("the probe sits in the warmest part", "straight between readings", *series.notes),
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
