"""What is looked at and is right or not: how food looks and smells, whether a lid is down."""

from typing import Literal

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict
from brinefrost.core.words import num, say
from brinefrost.core.working import Input, Working

RIGHT, WRONG = 1.0, 0.0


class Looked(LimitBase):
    """Every look found it right: readings are 1 where it is, 0 where it is not."""

    kind: Literal["looked"] = "looked"
    quantity: Literal["looks", "lid"]

    @property
    def each_by_itself(self) -> bool:
        """Every look stands alone."""
        return True

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge what was seen so far.

        Fail with one wrong look, pass with right ones alone, not measured without any. Valid for looks; what eyes
        cannot see it does not tell. ``now_s`` [s]. The limit's own source.
        """
        known = series.until(now_s)
        if not len(known):
            return self.unmeasured(series, RIGHT, "", self.explain(0, 0))
        wrong = int((known.values < 0.5).sum())
        state: State = "fail" if wrong else "pass"
        return Verdict(
            state=state,
            basis=series.basis,
            sentence=say("limits.looked.not_right", looks=num(len(known)), wrong=num(wrong))
            if wrong
            else say("limits.looked.right", looks=num(len(known))),
            value=float(known.values.min()),
            limit_value=RIGHT,
            at_s=float(known.times_s[-1]),
            working=self.explain(len(known), wrong),
            advice=(say("limits.threshold.hold_the_food_apart_and_tell"),) if wrong else (),
        )

    def explain(self, looks: int, wrong: int) -> Working:
        """How often it was looked at, and how often it was not right."""
        return Working(
            title=self.title,
            formula=say("working.looked.every_look_right"),
            inputs=(Input(name=say("working.looked.looks"), value=looks),),
            result=say("working.looked.not_right", wrong=num(wrong)),
            source=self.source,
        )
