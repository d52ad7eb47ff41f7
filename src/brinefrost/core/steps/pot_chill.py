"""A pot is chilled as a whole: stirred, in ice and water or in running water."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.limits import Cooling, Limit, Projection
from brinefrost.core.physics.pot import ICE_C, Pot, chill_pot
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import chill_topics, find_not_cold, read_by_the_lead, watch_fall
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, StepBase
from brinefrost.core.steps.food import Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.simmer import pot_piece
from brinefrost.core.steps.state import Course, Evidence
from brinefrost.core.steps.trend import approach
from brinefrost.core.words import kg, say

# through the wall, from a liquid that is stirred now and then, or stands, to a bath that is stirred [W/m²K]; common
# practice, the slow end of 150 to 400, and of 60 to 120
STIRRED_H, STANDS_H = 150.0, 60.0


class PotChill(StepBase):
    """A pot is chilled as a whole."""

    kind: Literal["pot_chill"] = "pot_chill"
    way: Literal["ice", "running_water"] = field("choice", "ice", main=True)
    mass_kg: float = field("mass", 10, 0.2, 500, "kg", main=True, paper="in the pot")
    ice_kg: float = field("mass", 12, 0, 1000, "kg", main=True, only={"way": ("ice",)})
    water_c: float = field("temperature", 12, 1, 30, only={"way": ("running_water",)}, paper="running water at")
    stirred: bool = field("flag", True)
    duration_s: float = field("time", 2 * 3600, 600, 24 * 3600, "min", 900, main=True, paper="for")
    target_c: float = field("temperature", 5, -1, 25, paper="down to")


class PotChillKind(StepKind[PotChill]):
    """Judged by its fall through the growth zone."""

    settings = PotChill
    ends_by_growth = True
    logged = "core"

    def acts(self, step: PotChill) -> frozenset[Act]:
        """It chills."""
        return frozenset({"cools"})

    def length_s(self, step: PotChill) -> float:
        """As long as it stands there."""
        return step.duration_s

    def piece(self, step: PotChill) -> Piece:
        """The whole pot."""
        return pot_piece(step.mass_kg, 60.0)

    def topics(self, step: PotChill, context: Context) -> tuple[str, ...]:
        """How quickly it must fall."""
        return chill_topics(context)

    def work(self, step: PotChill, course: Course, context: Context) -> None:
        """The liquid as a whole, and the bath that warms once its ice is gone."""
        if course.body is None:
            return
        ice = step.ice_kg if step.way == "ice" else 0.0
        h = STIRRED_H if step.stirred else STANDS_H
        times, liquid, bath = chill_pot(Pot(step.mass_kg), course.mean_c, self.around_c(step), ice, h, step.duration_s)
        course.stir(times, liquid, liquid, bath)

    def around_c(self, step: PotChill) -> float:
        """Ice and water, or running water; without ice it is as warm as the tap."""
        return ICE_C if step.way == "ice" and step.ice_kg > 0 else step.water_c

    def follows_core(self, step: PotChill, limit: Limit) -> bool:
        """Everything."""
        return True

    def find_end_faults(self, step: PotChill, course: Course) -> list[Finding]:
        """As cold as the plan says."""
        return find_not_cold(step.name, step.id, step.target_c, course)

    def remedies(self, step: PotChill, limit: Limit, context: Context) -> list[str]:
        """More ice, stirred, or in smaller pots."""
        if isinstance(limit, Cooling):
            return [say("steps.pot_chill.more_ice_stirred_or_smaller", ice=kg(1.2 * step.mass_kg, ".0f"))]
        return super().remedies(step, limit, context)

    def vary(self, step: PotChill) -> list[tuple[str, PotChill]]:
        """What usually goes differently."""
        return [(say("steps.pot_chill.nobody_stirs_it"), step.model_copy(update={"stirred": False}))]

    def control(self, step: PotChill, context: Context) -> ControlParts:
        """The rule set's own cooling, the liquid early, as each stage is due, and at the end."""
        limits = self.own_limits(step, context)
        return ControlParts(
            limits=limits,
            monitoring=watch_fall(limits, -1, step.duration_s),
            corrective_actions=(
                say("steps.pot_chill.more_ice_stir_and_read_again"),
                say("steps.slurry_chill.if_a_stage_is_missed_hold"),
            ),
            verification=read_by_the_lead(),
        )

    def project(self, step: PotChill, evidence: Evidence, context: Context) -> Projection | None:
        """Towards its bath, as it has been falling."""
        return approach(evidence, self.around_c(step), step.duration_s, "°C") if len(evidence.series) else None


KIND = PotChillKind()
