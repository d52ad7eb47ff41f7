"""A value that a step has to come to by its end: as dry as the plan asks, as light as drying makes it."""

from typing import ClassVar, Literal

from brinefrost.core.limits.base import LimitBase, LimitMark, Series, State, Verdict
from brinefrost.core.words import amount, apart, bound, say
from brinefrost.core.working import Input, Working


def _tell(state: State, reading: str, line: str) -> str:
    if state == "pass":
        return say("limits.ends.pass", reading=reading, line=line)
    if state == "fail":
        return say("limits.ends.fail", reading=reading, line=line)
    if state == "pending":
        return say("limits.ends.pending", reading=reading, line=line)
    return say("limits.ends.too_close", reading=reading, line=line)


class Ends(LimitBase):
    """The latest reading is at or below (or at or above) a value; before the step ends it may still come there."""

    kind: Literal["ends"] = "ends"
    read_off: ClassVar[bool] = True
    comparison: Literal["at_most", "at_least"]
    value: float
    unit: str

    def margin(self, reading: float) -> float:
        """How far a reading is on the safe side [unit of the limit]. Valid for any finite reading."""
        return self.value - reading if self.comparison == "at_most" else reading - self.value

    def allows(self, planned: float) -> bool:
        """Whether a value without doubt keeps it [unit of the limit]. Valid for settings; readings are evaluated."""
        return self.margin(planned) >= -1e-9

    @property
    def each_by_itself(self) -> bool:
        """What lies between the readings does not count: the last decides."""
        return True

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each part is on the strict side of another's; None where they cannot be compared."""
        if not isinstance(other, Ends) or self.comparison != other.comparison:
            return None
        return [other.margin(self.value)]

    def sign(self) -> str:
        """≤ or ≥."""
        return "≤" if self.comparison == "at_most" else "≥"

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """Its value, drawn through."""
        words = say("limits.threshold.sign_bound", sign=self.sign(), bound=bound(self.value, self.unit, "g"))
        return [LimitMark(label=words, value=self.value, from_s=began_s, state=state)]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the latest reading.

        Pass when the latest is clear of the value by the uncertainty, too close within it; beyond it fail where the
        step has ended, pending where it goes on. Valid for what moves one way, as drying does. ``series`` [unit of the
        limit], ``now_s`` [s]. JCGM 106:2012, 8.3 for the guard band.
        """
        known = series.until(now_s)
        if not len(known):
            return self.unmeasured(series, self.value, self.unit, self.explain(None, 0.0))
        last, doubt = float(known.values[-1]), known.uncertainty
        margin = self.margin(last)
        state: State = (
            "pass"
            if margin >= doubt - 1e-9
            else "too_close"
            if margin >= -doubt - 1e-9
            else "fail"
            if series.closed
            else "pending"
        )
        line = say("limits.threshold.sign_bound", sign=self.sign(), bound=bound(self.value, self.unit, "g"))
        return Verdict(
            state=state,
            basis=series.basis,
            sentence=_tell(state, amount(last, self.unit), line),
            value=last,
            limit_value=self.value,
            margin=margin,
            unit=self.unit,
            at_s=float(known.times_s[-1]),
            working=self.explain(last, doubt),
            advice=(say("limits.ends.go_on_until_it_is"),) if state in ("pending", "too_close", "fail") else (),
        )

    def explain(self, last: float | None, doubt: float) -> Working:
        """The latest reading against the value."""
        inputs = [Input(name=say("working.hold.limit"), value=self.value, unit=self.unit)]
        if last is not None:
            inputs += [
                Input(name=say("working.ends.latest"), value=last, unit=self.unit),
                Input(name=say("working.cooling.uncertainty_k_2"), value=doubt, unit=self.unit),
            ]
        return Working(
            title=self.title,
            formula=say("working.ends.latest_clear_of_limit", sign=self.sign()),
            inputs=tuple(inputs),
            result="" if last is None else say("working.threshold.margin", margin=apart(self.margin(last), self.unit)),
            source=self.source,
        )
