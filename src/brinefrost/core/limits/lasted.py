"""How long a step lasts, or how long its food waited before it, by the batch's own clock."""

from typing import Literal

from brinefrost.core.limits.base import LimitBase, LimitMark, Series, State, Verdict
from brinefrost.core.words import Message, duration, say
from brinefrost.core.working import Input, Working


class Lasted(LimitBase):
    """A time that a step, or the wait before it, keeps to: at least, at most, or both [s]."""

    kind: Literal["lasted"] = "lasted"
    at_least_s: float = 0.0
    at_most_s: float | None = None

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """Nothing to draw: it is a time, and no value over it."""
        return []

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the time so far: met once long enough; broken where it ended too early, or runs for too long.

        ``series`` holds the time so far as its last value [s]; it is closed once that no longer grows. Valid for any
        finite time. Codex CXC 1-1969 (2022), 3.1: a process is run inside the bounds it was validated in.
        """
        known = series.until(now_s)
        if not len(known):
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence=say("limits.lasted.not_begun"),
                working=self.explain(),
            )
        taken = float(known.values[-1])
        return Verdict(
            state=self._state(taken, known.closed),
            basis=series.basis,
            sentence=self._tell(taken, known.closed),
            value=taken,
            limit_value=self.at_most_s if self.at_most_s is not None else self.at_least_s,
            margin=self.margin(taken),
            unit="s",
            at_s=float(known.times_s[-1]),
            working=self.explain(taken),
        )

    def margin(self, taken_s: float) -> float:
        """How far a time is on the safe side [s]; negative on the wrong one. Valid for any finite time."""
        most = float("inf") if self.at_most_s is None else self.at_most_s
        return min(taken_s - self.at_least_s, most - taken_s)

    def _state(self, taken_s: float, closed: bool) -> State:
        if self.at_most_s is not None and taken_s > self.at_most_s:
            return "fail"
        if taken_s < self.at_least_s:
            return "fail" if closed else "pending"
        return "pass" if closed or self.at_most_s is None else "pending"

    def _tell(self, taken_s: float, closed: bool) -> Message:
        taken = duration(taken_s)
        if self.at_most_s is not None and (taken_s > self.at_most_s or taken_s >= self.at_least_s):
            return say("limits.lasted.at_most", taken=taken, most=duration(self.at_most_s))
        if taken_s < self.at_least_s and not closed:
            return say("limits.lasted.so_far", taken=taken, least=duration(self.at_least_s))
        return say("limits.lasted.at_least", taken=taken, least=duration(self.at_least_s))

    def explain(self, taken_s: float | None = None) -> Working:
        """The comparison, with the times in it [s]."""
        inputs = [Input(name=say("working.lasted.at_least"), value=self.at_least_s, unit="s")]
        if self.at_most_s is not None:
            inputs.append(Input(name=say("working.lasted.at_most"), value=self.at_most_s, unit="s"))
        if taken_s is not None:
            inputs.append(Input(name=say("working.lasted.taken"), value=taken_s, unit="s"))
        return Working(
            title=self.title,
            formula=say("working.lasted.time_within_its_bounds"),
            inputs=tuple(inputs),
            result="" if taken_s is None else self._tell(taken_s, True),
            source=self.source,
        )
