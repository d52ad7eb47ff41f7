"""Food hangs in cold smoke: dried and flavoured, not cooked."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Limit, Threshold, Uncontrolled
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import colder_or_discard, in_hands, read_by_the_lead, watch_air
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.handwork import lying
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, MakeStage
from brinefrost.core.steps.stricter import stricter
from brinefrost.core.words import duration, say, temp

COLD_C = 10.0  # a chamber as cold as a fridge is no warmth that hours count in: AFDO, 50 °F
CHAMBER_H = 15.0  # moved air [W/m²·K], common practice


class ColdSmoke(StepBase):
    """Food hangs in cold smoke."""

    kind: Literal["cold_smoke"] = "cold_smoke"
    surroundings_c: float = field("temperature", 18, 0, 40, main=True, paper="at most")
    duration_s: float = field("time", 6 * 3600, 900, 72 * 3600, "h", 1800, main=True, paper="for")


class ColdSmokeKind(StepKind[ColdSmoke]):
    """Judged by the chamber's air: it stays cold enough that nothing is half cooked."""

    settings = ColdSmoke
    sets = {"air": "surroundings_c"}
    logged = "air"

    def acts(self, step: ColdSmoke) -> frozenset[Act]:
        """It smokes, and stores meanwhile."""
        return frozenset({"keeps", "smokes"})

    def length_s(self, step: ColdSmoke) -> float:
        """As long as it hangs."""
        return step.duration_s

    def own_limits(self, step: ColdSmoke, context: Context) -> tuple[Limit, ...]:
        """The chamber's own line, or the plan's where it is stricter."""
        law = target("cold-smoke-30", Threshold)
        title = say("steps.smoke.chamber_at_or_below", most=temp(step.surroundings_c, "g"))
        return (stricter(law, step.surroundings_c, "own-smoke-c", title),)

    def stages(self, step: ColdSmoke, course: Course, context: Context) -> list[MakeStage]:
        """In the smoke."""
        return [lambda _: Stage.steady(step.duration_s, step.surroundings_c, CHAMBER_H)]

    def around_c(self, step: ColdSmoke) -> float:
        """The chamber the plan sets."""
        return step.surroundings_c

    def find_faults(self, step: ColdSmoke, food: Food) -> list[Finding]:
        """Raw food in cold smoke is raw food: what hangs there for long, and not cold, was salted before.

        FDA, Fish and Fishery Products Hazards and Controls Guidance, ch. 13, for fish; the same is asked of all that
        comes of an animal. 2 h is the time hands have.
        """
        if not food.tags & set(ANIMALS):
            return []
        found, longest = list[Finding](), target("cold-smoke-20h", Uncontrolled)
        if step.duration_s > longest.within_s and step.surroundings_c > COLD_C:
            most = duration(longest.within_s)
            said = say("steps.smoke.hangs_longer_than_practice_allows", name=step.name, most=most)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        return [*found, *self._ask_for_salt(step, food)]

    def _ask_for_salt(self, step: ColdSmoke, food: Food) -> list[Finding]:
        limit = in_hands()
        if "cured" in food.made:
            return []
        if limit.evaluate(lying((step.surroundings_c, step.duration_s)), step.duration_s).state == "pass":
            return []
        most, cold = duration(limit.within_s), temp(limit.above_c, "g")
        said = say("steps.smoke.hangs_warm_without_salt", name=step.name, most=most, cold=cold)
        return [Finding(step=step.id, state="not_proved", sentence=said)]

    def control(self, step: ColdSmoke, context: Context) -> ControlParts:
        """The chamber every hour."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(watch_air(0, step.surroundings_c + 2, 3600.0),),
            corrective_actions=colder_or_discard(),
            verification=read_by_the_lead(),
        )


KIND = ColdSmokeKind()
