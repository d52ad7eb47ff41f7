"""Bags chill in stirred ice and water."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.food.media import MediumKey
from brinefrost.core.limits import Cooling, Limit, Projection
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.heat import Stage
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.reservoir import Reservoir, ice_needed_kg, immerse
from brinefrost.core.physics.settling import Settling
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import asked_chill, asked_fit
from brinefrost.core.steps.common import chill_topics, find_not_cold
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.core_course import course_of, fixed
from brinefrost.core.steps.document import Asked, ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.proves import Chance
from brinefrost.core.steps.spread import chilled
from brinefrost.core.steps.state import STEP_S, Course, Evidence, MakeStage
from brinefrost.core.words import kg, say

AIR_H, AIR_C = 10.0, 20.0  # lifting the bags from bath to slurry [W/m²K, °C], common practice
SLURRY_C = 0.5
CHILL_S = 3 * 3600.0  # how far a chill is followed
EXPECTED_S = 5400.0
ICE_RESERVE = 1.5  # half again as much ice as the sum says; common practice, no source
TWO_DEEP = 0.25  # twice the thickness takes four times as long: conduction goes with the square


class SlurryChill(StepBase):
    """Bags chill in stirred ice and water."""

    kind: Literal["slurry_chill"] = "slurry_chill"
    begin_within_s: float = field("time", 300, 0, 3600, "min", 60)
    target_c: float = field("temperature", 3, -1, 10, main=True, paper="down to")
    water_kg: float = field("mass", 20, 1, 2000, "kg")
    ice_kg: float = field("mass", 12, 0, 1000, "kg", main=True)


class SlurryChillKind(StepKind[SlurryChill]):
    """Judged by the core's fall through the growth zone."""

    settings = SlurryChill
    ends_by_growth = True
    logged = "core"

    def acts(self, step: SlurryChill) -> frozenset[Act]:
        """It chills."""
        return frozenset({"cools"})

    def length_s(self, step: SlurryChill) -> float:
        """What is usual."""
        return EXPECTED_S

    def topics(self, step: SlurryChill, context: Context) -> tuple[str, ...]:
        """How quickly it must fall."""
        return chill_topics(context)

    def stages(self, step: SlurryChill, course: Course, context: Context) -> list[MakeStage]:
        """A while in the air, then the slurry, which warms as its ice goes."""
        body = course.body
        if body is None:
            return []
        thermal = context.heat()
        slurry = Reservoir(step.water_kg, SLURRY_C, ice_kg=step.ice_kg)
        kg, density, h = context.food_kg, thermal.density_kg_m3, context.h("slurry")

        def chill(mean: float) -> Stage:
            return immerse(body, kg, density, mean, h, slurry, CHILL_S, step_s=STEP_S)

        def lifted(_: float) -> Stage:
            return Stage.steady(step.begin_within_s, AIR_C, AIR_H)

        return [lifted, chill] if step.begin_within_s > 0 else [chill]

    def follows_core(self, step: SlurryChill, limit: Limit) -> bool:
        """Everything."""
        return True

    def medium(self, step: SlurryChill) -> MediumKey:
        """Ice and water."""
        return "slurry"

    def around_c(self, step: SlurryChill) -> float:
        """Ice and water, stirred."""
        return SLURRY_C

    def find_end_faults(self, step: SlurryChill, course: Course) -> list[Finding]:
        """As cold as the plan says."""
        return find_not_cold(step.name, step.id, step.target_c, course)

    def remedies(self, step: SlurryChill, limit: Limit, context: Context) -> list[str]:
        """Thinner, more ice, stirred."""
        if isinstance(limit, Cooling):
            return [say("steps.slurry_chill.thinner_bags_more_ice_or_a")]
        return super().remedies(step, limit, context)

    def control(self, step: SlurryChill, context: Context) -> ControlParts:
        """The rule set's own cooling, the core often, the slurry twice."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                Monitoring(
                    id="core",
                    what=say("steps.slurry_chill.core_of_the_thickest_bag"),
                    quantity="core",
                    how=say("steps.slurry_chill.needle_probe_through_a_foam_seal"),
                    offsets_s=(0.0, 900.0, 1800.0, 3600.0, 7200.0),
                    expected_low_c=-1,
                    expected_high_c=65,
                ),
                Monitoring(
                    id="slurry",
                    what=say("steps.slurry_chill.slurry_temperature_ice_left"),
                    quantity="bath",
                    how=say("steps.slurry_chill.probe_in_the_stirred_slurry"),
                    offsets_s=(0.0, 1800.0),
                    expected_low_c=-1,
                    expected_high_c=3,
                ),
            ),
            corrective_actions=(
                say("steps.slurry_chill.part_the_bags_into_one_layer"),
                say("steps.slurry_chill.if_a_stage_is_missed_hold"),
            ),
            verification=(say("steps.slurry_chill.the_lead_reads_the_chill_curve"),),
        )

    def repeat(self, step: SlurryChill, limit: Limit, course: Course, context: Context) -> Chance | None:
        """From the core it comes in with, in a slurry with ice left."""
        if course.curve is None or context.food.piece is None:
            return None
        into_s = course.spans[step.id][0] + step.begin_within_s
        chilling = Heating(_lay_out(context)[0], context.h("slurry"), course.core_at(into_s), SLURRY_C)
        return chilled(chilling, limit, step.id, into_s, course)

    def asked(self, step: SlurryChill, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on cooling, from the core it goes into the slurry with."""
        if context.food.piece is None:
            return []
        depth = max(context.food.piece.thickness_m, 0.005)
        return asked_chill(
            context, course, step.id, step.begin_within_s, depth_m=depth, medium="slurry", surroundings_c=SLURRY_C
        )

    def project(self, step: SlurryChill, evidence: Evidence, context: Context) -> Projection | None:
        """The pace of the readings so far, carried on."""
        if context.food.piece is None or not len(evidence.series):
            return None
        return course_of(_lay_out(context), evidence)

    def rescues(self, step: SlurryChill, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """In one layer with ice, or two bags deep."""
        if context.food.piece is None:
            return []
        core = float(evidence.series.values[-1])
        body, h_w_m2k, surroundings = _lay_out(context)
        way = Settling(body, h_w_m2k, surroundings, evidence.now_s, core)
        capacity = context.heat().heat_capacity_j_kgk
        ice = float(np.ceil(ICE_RESERVE * ice_needed_kg(evidence.mass_kg, capacity, max(core, 3.0), 3.0)))
        return [
            (say("steps.slurry_chill.part_the_bags_into_one_layer_2", ice=kg(ice, ".0f")), fixed(way, 1.0)),
            (say("steps.slurry_chill.two_bags_deep_at_most_add", ice=kg(ice, ".0f")), fixed(way, TWO_DEEP)),
        ]

    def running_asked(self, step: SlurryChill, evidence: Evidence, context: Context) -> list[Asked]:
        """The Bench's page that fits a curve to its readings; the first two days at most."""
        if context.food.piece is None or not isinstance(evidence.limit, Cooling):
            return []
        return asked_fit(context, _lay_out(context), "slurry", evidence.series)


def _lay_out(context: Context) -> tuple[Body, float, float]:
    """Body, coefficient [W/m²·K] and surroundings [°C] of the chill as planned."""
    thermal, piece = context.heat(), context.food.piece
    assert piece is not None  # noqa: S101 (the callers asked)
    return piece.body(thermal), context.h("slurry"), SLURRY_C


KIND = SlurryChillKind()
