"""Food is heated in a microwave oven, covered, turned or stirred half way, and stands covered before it is read."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import Cooling, Hold, Lethality, Limit
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import beside_line, find_no_cook_before, heat_topics, read_by_the_lead
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course
from brinefrost.core.words import say

STANDS_S = 120.0  # covered, until the heat has spread: FDA Food Code 2022, 3-401.12(D)
POINTS = 13


class Microwave(StepBase):
    """Food is heated in a microwave oven, then stands covered for 2 min."""

    kind: Literal["microwave"] = "microwave"
    core_c: float = field("temperature", 76, 40, 100, main=True, paper="every place at")
    duration_s: float = field("time", 360, 30, 2 * 3600, "min", 30, main=True, paper="for")
    thickness_m: float = field("length", 0.04, 0.003, 0.1, "mm", 0.005)
    start_c: float = field("temperature", 4, -25, 60, paper="food begins at")
    again: bool = field("flag", False)


class MicrowaveKind(StepKind[Microwave]):
    """Judged by the coldest of several places, after it has stood; how the heat spreads is computed by nobody."""

    settings = Microwave
    logged = "core"

    def acts(self, step: Microwave) -> frozenset[Act]:
        """What was cooked before is heated again, which is no cook."""
        return frozenset({"heats", "reheats"}) if step.again else frozenset({"heats"})

    def length_s(self, step: Microwave) -> float:
        """Its heat, and the time it stands."""
        return step.duration_s + STANDS_S

    def piece(self, step: Microwave) -> Piece:
        """The piece it is planned for."""
        return Piece(step.thickness_m, step.start_c)

    def topics(self, step: Microwave, context: Context) -> tuple[str, ...]:
        """What must be killed, or how hot it must be again."""
        return heat_topics(context, step.again, slow=False)

    def own_limits(self, step: Microwave, context: Context) -> tuple[Limit, ...]:
        """The rule set's own lines, and the line of microwaves, which heat unevenly."""
        found = super().own_limits(step, context)
        uneven = (target("microwave-74", Hold),) if found and not context.cook_goes_on else ()
        return (*found, *beside_line(context, step.again), *uneven)

    def declare(self, step: Microwave, limit: Limit) -> float | None:
        """The temperature the plan means every place to have."""
        return step.core_c if isinstance(limit, Hold) and limit.quantity == "core" and limit.for_s <= STANDS_S else None

    def work(self, step: Microwave, course: Course, context: Context) -> None:
        """Up to what the plan says, and there while it stands; the coldest place is taken."""
        if course.body is None:
            return
        times = np.append(np.linspace(0.0, step.duration_s, POINTS), step.duration_s + STANDS_S)
        core = np.append(np.linspace(course.mean_c, step.core_c, POINTS), step.core_c)
        course.stir(times, core, core, core)

    def around_c(self, step: Microwave) -> float:
        """What it comes to."""
        return step.core_c

    def brings_to_c(self, step: Microwave) -> float:
        """What it comes to."""
        return step.core_c

    def follows_core(self, step: Microwave, limit: Limit) -> bool:
        """All but a fall: it only warms."""
        return not isinstance(limit, Cooling)

    def find_faults(self, step: Microwave, food: Food) -> list[Finding]:
        """Heated again before any cook."""
        return find_no_cook_before(step, food) if step.again else []

    def remedies(self, step: Microwave, limit: Limit, context: Context) -> list[str]:
        """Hotter in every place, or by another heat."""
        if isinstance(limit, Lethality | Hold):
            return [say("steps.microwave.hotter_or_by_another_heat")]
        return super().remedies(step, limit, context)

    def control(self, step: Microwave, context: Context) -> ControlParts:
        """Its lines, read in several places once it has stood."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(_watch_places(step, "core", (step.duration_s,)), _watch_places(step, "core-end", ())),
            corrective_actions=(
                say("steps.heat.heat_on_until_the_core_is"),
                say("steps.heat.not_there_within_the_time_hold"),
            ),
            verification=read_by_the_lead(),
        )


def _watch_places(step: Microwave, check: str, offsets_s: tuple[float, ...]) -> Monitoring:
    """The coldest of several places, as its heat ends or once it has stood."""
    return Monitoring(
        id=check,
        what=say("steps.microwave.coldest_of_several_places"),
        quantity="core",
        how=say("steps.microwave.as_it_ends_and_after_it_stood"),
        offsets_s=offsets_s,
        expected_low_c=step.core_c - 5,
        expected_high_c=101,
    )


KIND = MicrowaveKind()
