"""A bound that no reading may pass: cold keeping, hot holding, pH."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import model_validator

from brinefrost.core.limits.base import LimitBase, LimitMark, Series, State, Verdict, number, unproved
from brinefrost.core.words import Message, amount, apart, bound, duration, num, say, title_of_own
from brinefrost.core.working import Input, Working

ADVICE: dict[State, tuple[Message, ...]] = {
    "too_close": (say("limits.threshold.measure_again_with_a_better_probe"),),
    "fail": (say("limits.threshold.hold_the_food_apart_and_tell"),),
}


class Threshold(LimitBase):
    """Every reading stays at or below (or at or above) one value."""

    one_bound: ClassVar[bool] = True

    kind: Literal["threshold"] = "threshold"
    read_off: ClassVar[bool] = True
    comparison: Literal["at_most", "at_least"]
    value: float
    unit: str
    law: float | None = None  # the rule set's own bound, where this is the kitchen's, and stricter

    @model_validator(mode="after")
    def _know_title(self) -> Self:
        """A title that a plan kept in plain English, known again by its number."""
        if not isinstance(self.title, Message):
            object.__setattr__(self, "title", title_of_own(self.title, self.value))
        return self

    def margin(self, reading: float) -> float:
        """How far a reading is on the safe side [unit of the limit]; negative when on the wrong side.

        Valid for any finite reading.
        """
        return self.value - reading if self.comparison == "at_most" else reading - self.value

    def allows(self, planned: float) -> bool:
        """Whether a value without doubt keeps it [unit of the limit]. Valid for settings; readings are evaluated."""
        return self.margin(planned) >= -1e-9

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each part is on the strict side of another's; None where they cannot be compared."""
        if not isinstance(other, Threshold) or self.comparison != other.comparison:
            return None
        return [other.margin(self.value)]

    def turns_on(self) -> tuple[float, bool]:
        """Its value."""
        return self.value, self.comparison == "at_least"

    def turned_to(self, value: float) -> Self:
        """The same bound at another value."""
        title = say("limits.threshold.sign_value", sign=self.sign(), value=bound(value, self.unit, "g"))
        return self.model_copy(update={"value": value, "title": title})

    def _difference(self) -> str:
        """The unit of a difference: kelvin for temperatures, so that nobody adds 32 to it."""
        return "K" if self.unit == "°C" else self.unit

    def sign(self) -> str:
        """≤ or ≥."""
        return "≤" if self.comparison == "at_most" else "≥"

    @property
    def each_by_itself(self) -> bool:
        """A limit about the moment it is read; one with a gap of its own is about all the time between."""
        return self.gap_s is None

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """Its value, drawn through."""
        words = say("limits.threshold.sign_bound", sign=self.sign(), bound=bound(self.value, self.unit, "g"))
        return [LimitMark(label=words, value=self.value, from_s=began_s, state=state)]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the worst reading so far.

        Pass or fail when the worst reading is clear of the limit by the uncertainty, else too close; not measured
        where the limit must hold all the time and the silence between readings is longer than it bears. Valid for any
        finite readings. The kitchen's own bound is met as read where the law's is clear of it by the uncertainty. A
        limit without ``gap_s`` is about the moment it is read; one with it is about all the time of its step, from its
        opening to its end. ``series`` [unit of the limit], ``now_s`` [s]. JCGM 106:2012, 8.3: guarded acceptance with a
        guard band of the expanded uncertainty.
        """
        known = series.until(now_s)
        if not len(known):
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence=say("limits.base.not_measured_yet"),
                limit_value=self.value,
                unit=self.unit,
                working=self.explain(),
            )
        margins = [self.margin(float(value)) for value in known.values]
        index = min(range(len(margins)), key=margins.__getitem__)
        margin, reading = margins[index], float(known.values[index])
        state = self._state(margin, known)
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=self._tell(state, reading, margin, known.uncertainty),
            value=reading,
            limit_value=self.value,
            margin=margin,
            unit=self.unit,
            at_s=float(known.times_s[index]),
            advice=ADVICE.get(state, ()),
            working=self.explain(known, reading, margin),
        )
        return self._kept(found, known, now_s)

    def _state(self, margin: float, known: Series) -> State:
        """How the worst reading stands, and days that still run, which are not met yet."""
        close = known.uncertainty
        state: State = "pass" if margin >= close - 1e-9 else "fail" if margin < -close - 1e-9 else "too_close"
        if (
            state == "too_close"
            and self.law is not None
            and margin >= 0
            and margin + abs(self.law - self.value) >= close
        ):
            state = "pass"  # read within the kitchen's own bound, and clear of the law's by all its doubt
        return "pending" if self.quantity == "age" and state == "pass" and not known.closed else state

    def _tell(self, state: State, reading: float, margin: float, uncertainty: float) -> Message:
        # a break is never written as a break by nothing
        more = next((n for n in range(4) if number(margin, self.unit, n) != "0"), 0) if state == "fail" else 0

        def bounded(sign: str = "") -> Message:
            return say("limits.threshold.sign_bound", sign=sign, bound=bound(self.value, self.unit, more=more))

        read = amount(reading, self.unit, more=more)
        if state == "pending" and self.quantity == "age":
            return say("limits.threshold.day_of", day=num(int(reading) + 1), days=num(self.value))
        if state == "pending":
            return say("limits.threshold.of_so_far", reading=num(reading, ""), bound=bounded())
        if state == "pass":
            return say("limits.threshold.is_within", reading=read, bound=bounded(self.sign()))
        if state == "fail":
            over = apart(-margin, self.unit, more=more)
            return say("limits.threshold.breaks_by", reading=read, bound=bounded(self.sign()), margin=over)
        doubt = apart(uncertainty, self.unit)
        return say("limits.threshold.is_too_close_to_to_call", reading=read, bound=bounded(), uncertainty=doubt)

    def _kept(self, found: Verdict, known: Series, now_s: float) -> Verdict:
        """Over a whole step: good only where nobody was silent for longer than the limit bears, and over at its end."""
        if self.gap_s is None or known.basis == "computed" or found.state != "pass":
            return found
        if bool(np.any(known.silences(self.silence_s(known), now_s))):
            return unproved(found, say("limits.threshold.it_must_be_read_at_least", gap=duration(self.gap_s)))
        if known.opened_s is not None and not known.closed:
            return found.model_copy(
                update={"state": "pending", "sentence": say("limits.threshold.so_far", sentence=found.sentence)}
            )
        return found

    def explain(
        self, series: Series | None = None, reading: float | None = None, margin: float | None = None
    ) -> Working:
        """The comparison, with the values in it."""
        inputs = [Input(name=say("working.hold.limit"), value=self.value, unit=self.unit)]
        if series is not None and reading is not None:
            inputs += [
                Input(name=say("working.threshold.worst_reading"), value=reading, unit=self.unit),
                Input(name=say("working.cooling.uncertainty_k_2"), value=series.uncertainty, unit=self._difference()),
                Input(name=say("working.cooling.readings"), value=len(series)),
            ]
        return Working(
            title=self.title,
            formula=say("working.threshold.reading_limit_clear_of_it_by", sign=self.sign()),
            inputs=tuple(inputs),
            result=""
            if margin is None
            else say(
                "working.threshold.margin",
                margin=apart(margin, self.unit),
            ),
            source=self.source,
            assumptions=(say("working.threshold.each_reading_stands_for_the_time"),),
        )
