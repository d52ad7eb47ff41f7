"""Food is kept cold until it is used."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import Cooling, Limit, Threshold
from brinefrost.core.physics.heat import Stage
from brinefrost.core.steps.base import (
    Context,
    ControlParts,
    Finding,
    Monitoring,
    StepBase,
    StepKind,
    for_guests,
    stricter,
)
from brinefrost.core.steps.state import LATE_STEP_S, Flow, MakeStage, Walk

FRIDGE_H = 10.0  # bags in a cold store [W/m²K], common practice
KEPT_S = 24 * 3600.0  # how far the first day in the cold is followed


class ColdKeep(StepBase):
    """Food is kept cold until it is used."""

    kind: Literal["cold_keep"] = "cold_keep"
    max_c: float = field("temperature", 3, -30, 8, main=True, paper="at most")
    days: float = field("time", 5, 0, 90, "d", size=86400, main=True, paper="for")


class ColdKeepKind(StepKind[ColdKeep]):
    """Judged by the air around it and by its age."""

    settings = ColdKeep
    acts = frozenset({"keeps"})
    takes = "air"
    endless = True

    def length_s(self, step: ColdKeep) -> float:
        """Its days."""
        return step.days * 86400.0

    def topics(self, step: ColdKeep, context: Context) -> tuple[str, ...]:
        """How cold, and how many days."""
        return ("keep.sealed", "keep.days")

    def stages(self, step: ColdKeep, walk: Walk, context: Context) -> list[MakeStage]:
        """The first day in the cold."""
        kept = np.array([0.0, min(KEPT_S, step.days * 86400.0)])
        h = context.h_w_m2k.get("cold_keep", FRIDGE_H)
        return [lambda _: Stage(kept, np.full(2, step.max_c), h, LATE_STEP_S)]

    def declared(self, step: ColdKeep, limit: Limit) -> float | None:
        """The air and the days the plan sets."""
        if not isinstance(limit, Threshold):
            return None
        return {"air": step.max_c, "age": step.days}.get(limit.quantity)

    def follows_core(self, step: ColdKeep, limit: Limit) -> bool:
        """What goes in warm is followed as it cools."""
        return True

    def lays(self, step: ColdKeep, flow: Flow) -> list[Finding]:
        """Cooked food goes in cold."""
        flow.kept = True
        flow.wants_cold.clear()
        if not flow.hot or flow.chilled:
            return []
        said = f"Cooked food goes into {step.name}, and no step cools it first: its fall is not controlled."
        return [Finding(step=step.id, state="fails", sentence=said)]

    def remedies(self, step: ColdKeep, limit: Limit, context: Context) -> list[str]:
        """Food that is still warm has to be cooled before."""
        if isinstance(limit, Cooling):
            return ["Chill it first: a cold store is no chiller."]
        return super().remedies(step, limit, context)

    def control(self, step: ColdKeep, context: Context) -> ControlParts:
        """Cold and days, each the stricter of the plan's own and the rule set's."""
        rules = context.rules
        days = for_guests(context.guests, rules.bound_for("keep.days"))
        assert isinstance(days, Threshold)  # noqa: S101 (a bound stays one)
        return ControlParts(
            limits=(
                stricter(
                    rules.bound_for("keep.sealed"), step.max_c, "own-keep-c", f"Kept at or below {step.max_c:g} °C"
                ),
                stricter(days, step.days, "own-keep-days", f"Used or discarded within {step.days:g} days"),
            ),
            monitoring=(
                Monitoring(
                    id="air",
                    what="Air in the cold store",
                    quantity="air",
                    how="Unit's own logger or a probe at the door shelf",
                    every_s=43200.0,
                    offsets_s=(0.0,),
                    expected_low_c=-1,
                    expected_high_c=step.max_c + 1,
                ),
            ),
            corrective_actions=(
                "Above the limit: move it to a cold unit, measure a core, tell the lead.",
                "Past its date: discard.",
            ),
            verification=("The lead reads the unit's log each week.",),
        )


KIND = ColdKeepKind()
