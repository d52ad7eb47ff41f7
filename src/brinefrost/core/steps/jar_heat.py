"""Filled jars are heated in water, for the shelf."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.food.media import MediumKey
from brinefrost.core.limits import Lethality, Limit, Projection
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import read_by_the_lead, watch_core
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.heat_in import HeatIn, heated_until
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, Evidence, MakeStage
from brinefrost.core.steps.warming import Warming, hotter, warming_of
from brinefrost.core.words import duration, num, say, temp

MOST_WATER_C = 100.0
SOURER_PH = 4.1  # up to here the milder process suffices: Breidt et al. 2005, 2010


class JarHeat(StepBase):
    """Filled jars are heated in water."""

    kind: Literal["jar_heat"] = "jar_heat"
    surroundings_c: float = field("temperature", 85, 50, MOST_WATER_C, main=True, paper="in water at")
    thickness_m: float = field("length", 0.08, 0.03, 0.2, "mm", 0.005, main=True, paper="jars as wide as")
    start_c: float = field("temperature", 60, 4, 98, paper="filled at")
    duration_s: float = field("time", 1800, 300, 6 * 3600, "min", 300, main=True, paper="for")
    lid: Literal["two_piece", "one_piece"] = field("choice", "two_piece")
    scheduled: bool = field("flag", False)
    ph: float = field("ph", 4.6, 3, 4.6, step=0.1, paper="pH at rest at most")


class JarHeatKind(StepKind[JarHeat]):
    """Judged by the middle of the jar. Only a scheduled process and a lid made for it let it stand on a shelf."""

    settings = JarHeat
    logged = "core"

    def acts(self, step: JarHeat) -> frozenset[Act]:
        """It heats."""
        return frozenset({"heats", "jars"})

    def length_s(self, step: JarHeat) -> float:
        """As long as it is in the water."""
        return step.duration_s

    def piece(self, step: JarHeat) -> Piece:
        """The jar."""
        return Piece(step.thickness_m, step.start_c, "cylinder")

    def own_limits(self, step: JarHeat, context: Context) -> tuple[Limit, ...]:
        """What lives in an acid pack, by how sour it is."""
        return (target("ecoli-acid-4.1" if step.ph <= SOURER_PH else "ecoli-acid-4.6", Lethality),)

    def work(self, step: JarHeat, course: Course, context: Context) -> None:
        """Filled as hot as the plan says, then the water."""
        if course.body is not None:
            course.set_even(step.start_c)
        super().work(step, course, context)

    def stages(self, step: JarHeat, course: Course, context: Context) -> list[MakeStage]:
        """The water."""
        return [lambda _: Stage.steady(step.duration_s, step.surroundings_c, context.h("bath"))]

    def medium(self, step: JarHeat) -> MediumKey:
        """Water."""
        return "bath"

    def around_c(self, step: JarHeat) -> float:
        """The water."""
        return step.surroundings_c

    def follows_core(self, step: JarHeat, limit: Limit) -> bool:
        """It only warms."""
        return isinstance(limit, Lethality)

    def change(self, step: JarHeat, food: Food) -> Food:
        """Fit for a shelf, where nothing is wrong with it."""
        found = super().change(step, food)
        return found if self.find_faults(step, food) else found.with_made("for_shelf")

    def find_faults(self, step: JarHeat, food: Food) -> list[Finding]:
        """Acid before it, a lid made for it, a process somebody answers for."""
        found = []
        if "sour" not in food.made:
            said = say("steps.jar.water_is_not_hot_enough_without_acid", name=step.name)
            found.append(Finding(step=step.id, state="fails", sentence=said))
        elif food.rest_ph is not None and food.rest_ph > step.ph + 1e-9:
            said = say(
                "steps.jar.is_planned_for_sourer", name=step.name, ph=num(step.ph), rests=num(food.rest_ph, ".2f")
            )
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        if not step.scheduled:
            said = say("steps.jar.the_shelf_needs_a_scheduled_process", name=step.name)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        if step.lid != "two_piece":
            said = say("steps.jar.a_lid_used_before_is_for_the_fridge", name=step.name)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        return found

    def control(self, step: JarHeat, context: Context) -> ControlParts:
        """The middle of the coldest jar."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(watch_core(min(step.start_c, 70.0), step.surroundings_c + 1),),
            corrective_actions=(say("steps.jar.leave_them_in_until_the_middle"), say("steps.jar.else_the_fridge")),
            verification=read_by_the_lead(),
        )

    def project(self, step: JarHeat, evidence: Evidence, context: Context) -> Projection | None:
        """The middle of the jar so far, carried on."""
        return warming_of(_lay_out(step, context), evidence)

    def rescues(self, step: JarHeat, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """Hotter water."""
        return hotter(_lay_out(step, context), evidence, MOST_WATER_C)

    def inverse_s(self, step: JarHeat, limit: Limit, context: Context) -> float | None:
        """In the same water, longer."""
        return heated_until(_as_heat(step), limit, context) if isinstance(limit, Lethality) else None

    def remedies(self, step: JarHeat, limit: Limit, context: Context) -> list[str]:
        """How long it needs in this water."""
        needed = self.inverse_s(step, limit, context)
        at = temp(step.surroundings_c, "g")
        if needed is None:
            return [say("steps.heat.no_time_at_meets_it_hotter", around=at)]
        return [say("steps.heat.at_surroundings_it_needs", around=at, needed=duration(needed))]

    def vary(self, step: JarHeat) -> list[tuple[str, JarHeat]]:
        """What usually goes differently."""
        cooler = step.model_copy(update={"start_c": max(step.start_c - 30, 4.0)})
        return [(say("steps.jar.filled_cooler"), cooler)]


def _lay_out(step: JarHeat, context: Context) -> Warming:
    body = Piece(step.thickness_m, step.start_c, "cylinder").body(context.heat())
    return Warming(body, context.h("bath"), step.surroundings_c, step.start_c, step.duration_s)


def _as_heat(step: JarHeat) -> HeatIn:
    """The same as a heat in a bath."""
    return HeatIn(
        id=step.id, name=step.name, medium="bath", surroundings_c=step.surroundings_c, thickness_m=step.thickness_m,
        shape="cylinder", start_c=step.start_c, duration_s=step.duration_s,
    )  # fmt: skip


KIND = JarHeatKind()
