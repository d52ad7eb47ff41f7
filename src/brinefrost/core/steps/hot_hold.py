"""Food is held hot until it is served."""

from dataclasses import replace
from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.limits import Projection
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import ROOM_C, WITHIN_K, read_by_the_lead, watch_core
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, Evidence
from brinefrost.core.steps.stricter import stricter
from brinefrost.core.steps.trend import approach, level, since_opened
from brinefrost.core.words import say, temp

SETTLES_S = 1800.0  # from how hot it came in to how hot it is held; common practice
AGAIN_C = 75.0  # what falls is heated through again to this; common practice, above every rule set's reheating


class HotHold(StepBase):
    """Food is held hot until it is served."""

    kind: Literal["hot_hold"] = "hot_hold"
    held_c: float = field("temperature", 65, 40, 100, main=True, paper="at least")
    duration_s: float = field("time", 7200, 300, 12 * 3600, "h", 1800, main=True, paper="for")


class HotHoldKind(StepKind[HotHold]):
    """Judged by the core, which never falls below the line."""

    settings = HotHold
    sets = {"core": "held_c"}
    logged = "core"

    def acts(self, step: HotHold) -> frozenset[Act]:
        """It keeps hot food hot."""
        return frozenset({"holds"})

    def length_s(self, step: HotHold) -> float:
        """As long as it stands."""
        return step.duration_s

    def topics(self, step: HotHold, context: Context) -> tuple[str, ...]:
        """How hot it stays."""
        return ("hold.hot",)

    def brings_to_c(self, step: HotHold) -> float:
        """The core the plan sets."""
        return step.held_c

    def work(self, step: HotHold, course: Course, context: Context) -> None:
        """It stands as hot as the plan says."""
        if course.body is not None:
            course.set_even(step.held_c)

    def find_faults(self, step: HotHold, food: Food) -> list[Finding]:
        """Only what is hot can be held hot."""
        if food.cooked and not food.chilled:
            return []
        said = say("steps.hot_hold.holds_food_that_is_not_hot", name=step.name)
        return [Finding(step=step.id, state="fails", sentence=said)]

    def find_end_faults(self, step: HotHold, course: Course) -> list[Finding]:
        """A hot hold keeps heat and gives none: what comes in cooler does not become as hot as the plan says."""
        begin, _ = course.spans[step.id]
        if course.curve is None or begin <= 0 or course.comes_in_c(step.id) >= step.held_c - WITHIN_K:
            return []
        said = say(
            "steps.hot_hold.comes_in_cooler_than_it_is_held",
            name=step.name,
            core=temp(course.comes_in_c(step.id), ".1f"),
            held=temp(step.held_c, "g"),
        )
        return [Finding(step=step.id, state="fails", sentence=said)]

    def project(self, step: HotHold, evidence: Evidence, context: Context) -> Projection | None:
        """As it has been falling towards the room, once it has settled from how hot it came in."""
        left = step.duration_s - since_opened(evidence.series, evidence.now_s)
        if left <= 0:
            return None  # its time is over: it is served, or ended
        settled = evidence.series.times_s >= (evidence.series.opened_s or 0.0) + SETTLES_S
        held = replace(
            evidence.series, times_s=evidence.series.times_s[settled], values=evidence.series.values[settled]
        )
        return approach(replace(evidence, series=held), ROOM_C, left, "°C")

    def rescues(self, step: HotHold, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """Heated through again at once, and held hotter."""
        said = say("steps.hot_hold.heat_it_through_now", again=temp(AGAIN_C, "g"), held=temp(step.held_c, "g"))
        return [(said, level(evidence, max(step.held_c, AGAIN_C), step.duration_s, said))]

    def control(self, step: HotHold, context: Context) -> ControlParts:
        """The stricter of the plan's own and the rule set's; the core every hour."""
        law = context.rules.bound_for("hold.hot")
        title = say("steps.hot_hold.held_at_or_above", held=temp(step.held_c, "g"))
        return ControlParts(
            limits=(stricter(law, step.held_c, "own-hot-hold", title),),
            monitoring=(watch_core(step.held_c - 3, 95, (0.0,)).model_copy(update={"every_s": 3600.0}),),
            corrective_actions=(say("steps.hot_hold.below_the_line_since_less_than"),),
            verification=read_by_the_lead(),
        )


KIND = HotHoldKind()
