"""Food leaves the kitchen for whoever eats it: at once, or after it stood a while without control."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Composition, Limit, Series, Threshold
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import AT_ONCE_S, Act
from brinefrost.core.steps.common import ROOM_H, holds, read_by_the_lead, watch_core, watch_ph
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, StepBase
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, MakeStage
from brinefrost.core.words import say


class Serve(StepBase):
    """Food leaves the kitchen: at once where it may not stand."""

    kind: Literal["serve"] = "serve"
    duration_s: float = field("time", 0, 0, 8 * 3600, "min", 300, main=True, paper="may stand for")
    surroundings_c: float = field("temperature", 20, -2, 40, paper="in")


class ServeKind(StepKind[Serve]):
    """Judged by how long it stands without control since it last left heat or cold."""

    settings = Serve
    logged = "core"

    def acts(self, step: Serve) -> frozenset[Act]:
        """It is eaten."""
        return frozenset({"serves"})

    def length_s(self, step: Serve) -> float:
        """As long as it may stand."""
        return max(step.duration_s, AT_ONCE_S)

    def topics(self, step: Serve, context: Context) -> tuple[str, ...]:
        """How long it may stand without control; what its acid holds stands as long as it likes."""
        return ("time.uncontrolled",) if step.duration_s > 0 and not _is_sour(context) else ()

    def own_limits(self, step: Serve, context: Context) -> tuple[Limit, ...]:
        """The rule set's time, or the acid that stands in its place."""
        by_acid = step.duration_s > 0 and _is_sour(context)
        return (target("keep-sour", Composition),) if by_acid else super().own_limits(step, context)

    def work(self, step: Serve, course: Course, context: Context) -> None:
        """The room's warmth; and as sour as it came."""
        super().work(step, course, context)
        sours = [series for (_, quantity), series in course.other.items() if quantity == "ph"]
        if sours and _is_sour(context):
            last = sours[-1]
            course.other[(step.id, "ph")] = Series.computed(np.zeros(1), last.values[-1:], last.uncertainty)

    def stages(self, step: Serve, course: Course, context: Context) -> list[MakeStage]:
        """On the table, in the room's air."""
        if step.duration_s <= 0:
            return []
        return [lambda _: Stage.steady(step.duration_s, step.surroundings_c, ROOM_H)]

    def around_c(self, step: Serve) -> float:
        """The room's air."""
        return step.surroundings_c

    def follows_core(self, step: Serve, limit: Limit) -> bool:
        """Everything."""
        return True

    def control(self, step: Serve, context: Context) -> ControlParts:
        """The rule set's time without control, the core as it goes out and as what is left is thrown away."""
        limits = self.own_limits(step, context)
        if not limits:
            return ControlParts()
        return ControlParts(
            limits=limits,
            monitoring=(watch_ph(3.0, 4.2, None),)
            if _is_sour(context)
            else (watch_core(-1, 98, (0.0, step.duration_s)),),
            corrective_actions=(say("steps.serve.past_its_time_discard"),),
            verification=read_by_the_lead(),
        )


def _is_sour(context: Context) -> bool:
    """Whether it is plants, or grain, meant to be so sour all through that nothing grows in it."""
    ph = context.food.mixed_ph
    return ph is not None and not context.tags & set(ANIMALS) and holds(target("stands-sour", Threshold), ph)


KIND = ServeKind()
