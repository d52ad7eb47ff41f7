"""Food is frozen: against parasites before it is eaten raw, or to keep it."""

from typing import Literal

import numpy as np

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.limits import Ends, Freezing, Limit, Projection, Series, Threshold
from brinefrost.core.physics.body import Shape
from brinefrost.core.physics.freezing import FISH, MEAT, pham_s
from brinefrost.core.rules import rule_set, target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import read_by_the_lead, watch_core
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, StepBase
from brinefrost.core.steps.food import Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, Evidence
from brinefrost.core.steps.trend import approach, since_opened
from brinefrost.core.words import say

NEARLY_K = 1.0  # a core this near the air is as cold as it gets
POINTS = 60
DAILY_S, HOUR_S = 86400.0, 3600.0


class FreezeDown(StepBase):
    """Food is frozen."""

    kind: Literal["freeze_down"] = "freeze_down"
    surroundings_c: float = field("temperature", -24, -60, -10, main=True, paper="in")
    thickness_m: float = field("length", 0.03, 0.002, 0.3, "mm", 0.005, main=True)
    days: float = field("time", 8, 0.1, 400, "d", size=86400, main=True, paper="for")


class FreezeDownKind(StepKind[FreezeDown]):
    """Judged by the core: so cold, so long, without a break."""

    settings = FreezeDown
    sets = {"age": "days"}
    logged = "core"

    def acts(self, step: FreezeDown) -> frozenset[Act]:
        """It freezes and stores frozen."""
        return frozenset({"freezes", "keeps"})

    def length_s(self, step: FreezeDown) -> float:
        """Its days."""
        return step.days * 86400.0

    def piece(self, step: FreezeDown) -> Piece:
        """The piece it is planned for."""
        return Piece(step.thickness_m, 4.0)

    def topics(self, step: FreezeDown, context: Context) -> tuple[str, ...]:
        """Raw fish is frozen against parasites unless it is of a kind that has none."""
        return ("freeze.parasites",) if "parasites" in context.tags else ()

    def own_limits(self, step: FreezeDown, context: Context) -> tuple[Limit, ...]:
        """Against parasites the rule set's own, or the longest there is; else frozen through, and its days."""
        if not self.topics(step, context):
            return (target("frozen-18", Ends), target("frozen-days", Threshold))
        found = super().own_limits(step, context)
        return found or (rule_set("us").limit_for("freeze.parasites"),)

    def work(self, step: FreezeDown, course: Course, context: Context) -> None:
        """The core down to nearly the air, then, as long again twice, as cold as it."""
        start = course.mean_c
        frozen = _frozen_s(step, context, start)
        ends = self.length_s(step)
        marks = [at for at in (3 * frozen, ends) if at <= ends]
        times = np.unique(np.concatenate((np.linspace(0.0, min(frozen, ends), POINTS), marks)))
        core = np.interp(times, [0.0, frozen, 3 * frozen], [start, step.surroundings_c + NEARLY_K, step.surroundings_c])
        course.other[(step.id, "core")] = Series.computed(times, core)
        course.set_even(step.surroundings_c)

    def project(self, step: FreezeDown, evidence: Evidence, context: Context) -> Projection | None:
        """As the core has been falling towards the air."""
        left = max(self.length_s(step) - since_opened(evidence.series, evidence.now_s), 86400.0)
        return approach(evidence, step.surroundings_c, left, "°C")

    def around_c(self, step: FreezeDown) -> float:
        """The air the plan sets."""
        return step.surroundings_c

    def control(self, step: FreezeDown, context: Context) -> ControlParts:
        """The rule set's own freezing, the core at the start and every day; a quick way of it by a logger."""
        limits = self.own_limits(step, context)
        every_s = _read_every_s(step, limits, _frozen_s(step, context, self.piece(step).start_c))
        daily, often = say("steps.freeze.warmest_since_the_last_reading"), say("steps.freeze.by_a_logger_in_it")
        how = daily if every_s >= DAILY_S else often
        watch = watch_core(step.surroundings_c - 5, 5, (0.0, DAILY_S))
        return ControlParts(
            limits=limits,
            monitoring=(watch.model_copy(update={"how": how, "every_s": every_s, "offsets_s": (0.0,)}),),
            corrective_actions=(say("steps.freeze.not_cold_enough_or_interrupted_begin"),),
            verification=read_by_the_lead(),
        )


def _read_every_s(step: FreezeDown, limits: tuple[Limit, ...], frozen_s: float) -> float:
    """How often it is read [s]: every day, or as often as the only ways it is long and cold enough for bear silence."""
    ways = [option for limit in limits if isinstance(limit, Freezing) for option in limit.options]
    left_s = step.days * 86400.0 - frozen_s
    coldest_c = step.surroundings_c + NEARLY_K
    taken = [
        each
        for each in ways
        if left_s >= each.for_s and all(coldest_c <= at for at in (each.hold_at_c, each.solid_at_c) if at is not None)
    ]
    silent_s = max((each.silence_s for each in taken), default=DAILY_S)
    return min(DAILY_S, HOUR_S * (silent_s // HOUR_S) if silent_s >= HOUR_S else silent_s)


def _frozen_s(step: FreezeDown, context: Context, start_c: float) -> float:
    """How long until the core is as cold as the air, nearly [s]."""
    food = FISH if "fish" in context.tags else MEAT
    final = step.surroundings_c + NEARLY_K
    try:
        return pham_s(
            food, Shape.slab, step.thickness_m, context.h("blast"), max(start_c, 0.0), final, step.surroundings_c
        )
    except OutOfRangeError:
        return 86400.0  # nobody can say: a day, which is on the slow side for pieces of a kitchen


KIND = FreezeDownKind()
