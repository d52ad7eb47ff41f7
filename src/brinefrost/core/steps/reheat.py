"""Food is heated again for service."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.limits import Hold, Limit, Threshold
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import find_no_cook_before, reheat_topics
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course
from brinefrost.core.words import say


class Reheat(StepBase):
    """Food is heated again for service."""

    kind: Literal["reheat"] = "reheat"
    core_c: float = field("temperature", 75, 40, 100, main=True)


class ReheatKind(StepKind[Reheat]):
    """Judged by the core it is brought to."""

    settings = Reheat
    logged = "core"

    def acts(self, step: Reheat) -> frozenset[Act]:
        """It heats again what was cooked before."""
        return frozenset({"heats", "reheats"})

    def topics(self, step: Reheat, context: Context) -> tuple[str, ...]:
        """How hot, and how quickly."""
        return reheat_topics(context)

    def declare(self, step: Reheat, limit: Limit) -> float | None:
        """The core the plan sets."""
        return step.core_c if isinstance(limit, Hold | Threshold) and limit.quantity == "core" else None

    def work(self, step: Reheat, course: Course, context: Context) -> None:
        """It is as hot as the plan says throughout, by a way that is not followed."""
        course.set_even(step.core_c)
        course.evened_c[course.now_s] = step.core_c

    def brings_to_c(self, step: Reheat) -> float:
        """The core the plan sets."""
        return step.core_c

    def find_faults(self, step: Reheat, food: Food) -> list[Finding]:
        """Only what was cooked is heated again."""
        return find_no_cook_before(step, food)

    def control(self, step: Reheat, context: Context) -> ControlParts:
        """The rule set's own line for reheating."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                Monitoring(
                    id="core",
                    what=say("steps.reheat.core_of_the_thickest_portion_reheated"),
                    quantity="core",
                    how=say("steps.reheat.probe_in_the_middle_read_twice"),
                    expected_low_c=step.core_c - 5,
                    expected_high_c=100,
                ),
            ),
            corrective_actions=(
                say("steps.reheat.heat_on_and_read_the_core"),
                say("steps.reheat.not_there_within_2_h_discard"),
            ),
            verification=(say("steps.reheat.the_lead_reads_the_reheating_records"),),
        )


KIND = ReheatKind()
