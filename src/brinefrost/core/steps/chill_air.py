"""Hot food is chilled in moved or still cold air, in the depth it lies."""

from dataclasses import replace
from typing import Any, Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.food.media import LIGHT_KG, USUAL_W, MediumKey, ShapeKey
from brinefrost.core.limits import Cooling, Limit, Projection
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.cooling import taken_s
from brinefrost.core.physics.heat import Stage
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.robustness import NO_LOAD
from brinefrost.core.physics.settling import Settling
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import asked_chill, asked_fit
from brinefrost.core.steps.common import ROOM_C, ROOM_H, chill_topics, find_not_cold, read_by_the_lead, watch_fall
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.core_course import course_of, fixed
from brinefrost.core.steps.document import Asked, ControlParts, Finding, StepBase
from brinefrost.core.steps.food import Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.proves import Chance
from brinefrost.core.steps.shaped import length_field, piece_of, shape_field, width_field
from brinefrost.core.steps.spread import chilled
from brinefrost.core.steps.state import Course, Evidence, MakeStage
from brinefrost.core.words import mm, say

POINTS = 120
SHALLOWER = 0.6  # what pans are spread to; common practice


class ChillAir(StepBase):
    """Hot food is chilled in cold air, in the depth it lies."""

    kind: Literal["chill_air"] = "chill_air"
    medium: Literal["blast", "fan_fridge", "still_fridge"] = field("choice", "blast")
    surroundings_c: float = field("temperature", 0, -40, 15, main=True, paper="in")
    thickness_m: float = field("length", 0.05, 0.005, 0.3, "mm", 0.005, main=True)
    shape: ShapeKey = shape_field()
    length_m: float = length_field()
    width_m: float = width_field()
    begin_within_s: float = field("time", 1200, 0, 7200, "min", 300)
    load_kg: float = field("mass", 0, 0, 2000, "kg", 0.5)  # all that goes in at once; 0: what the packs come to
    duration_s: float = field("time", 4 * 3600, 600, 48 * 3600, "h", 1800, main=True, paper="for")
    target_c: float = field("temperature", 5, -1, 10, paper="down to")


class ChillAirKind(StepKind[ChillAir]):
    """Judged by the core's fall through the growth zone."""

    settings = ChillAir
    ends_by_growth = True
    logged = "core"

    def acts(self, step: ChillAir) -> frozenset[Act]:
        """It chills."""
        return frozenset({"cools"})

    def length_s(self, step: ChillAir) -> float:
        """The wait and the chill."""
        return step.begin_within_s + step.duration_s

    def piece(self, step: ChillAir) -> Piece:
        """As deep as it lies."""
        return piece_of(step, 60.0)

    def topics(self, step: ChillAir, context: Context) -> tuple[str, ...]:
        """How quickly it must fall."""
        return chill_topics(context)

    def stages(self, step: ChillAir, course: Course, context: Context) -> list[MakeStage]:
        """A while in the kitchen's air, then the cold."""
        stages: list[MakeStage] = []
        if step.begin_within_s > 0:
            stages.append(lambda _: Stage.steady(step.begin_within_s, ROOM_C, ROOM_H))
        stages.append(lambda mean_c: _in_the_cold(step, course, context, mean_c))
        return stages

    def follows_core(self, step: ChillAir, limit: Limit) -> bool:
        """Everything."""
        return True

    def medium(self, step: ChillAir) -> MediumKey:
        """The chiller."""
        return step.medium

    def around_c(self, step: ChillAir) -> float:
        """The air the plan sets."""
        return step.surroundings_c

    def find_end_faults(self, step: ChillAir, course: Course) -> list[Finding]:
        """As cold as the plan says."""
        return find_not_cold(step.name, step.id, step.target_c, course)

    def control(self, step: ChillAir, context: Context) -> ControlParts:
        """The rule set's own cooling, the core early, as each stage is due, and at the end."""
        limits = self.own_limits(step, context)
        return ControlParts(
            limits=limits,
            monitoring=watch_fall(limits, min(-1.0, step.surroundings_c), self.length_s(step)),
            corrective_actions=(
                say("steps.chill.spread_it_shallower_fan_on_full"),
                say("steps.slurry_chill.if_a_stage_is_missed_hold"),
            ),
            verification=read_by_the_lead(),
        )

    def remedies(self, step: ChillAir, limit: Limit, context: Context) -> list[str]:
        """Shallower, or faster air."""
        if isinstance(limit, Cooling):
            return [say("steps.chill.shallower_pans_colder_or_faster_air")]
        return super().remedies(step, limit, context)

    def vary(self, step: ChillAir) -> list[tuple[str, ChillAir]]:
        """What usually goes differently."""
        return [
            (
                say("steps.heat.a_fifth_thicker"),
                step.model_copy(update={"thickness_m": min(1.2 * step.thickness_m, 0.3)}),
            ),
            (
                say("steps.chill.half_an_hour_later"),
                step.model_copy(update={"begin_within_s": min(step.begin_within_s + 1800, 7200)}),
            ),
        ]

    def repeat(self, step: ChillAir, limit: Limit, course: Course, context: Context) -> Chance | None:
        """From the core it goes into the cold with, as slowly as its load lets it."""
        if course.curve is None:
            return None
        thermal, into_s = context.heat(), course.spans[step.id][0] + step.begin_within_s
        h, hot = context.h(step.medium), course.core_at(into_s)
        load_kg = step.load_kg or context.food_kg
        light = load_kg <= LIGHT_KG
        load = NO_LOAD if light else (load_kg * thermal.heat_capacity_j_kgk, USUAL_W[step.medium])
        chilling = Heating(_lay_out(step, context, 1.0)[0], h, hot, step.surroundings_c)
        return chilled(chilling, limit, step.id, into_s, course, load)

    def asked(self, step: ChillAir, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on cooling, from the core it goes into the cold with; it has no blocks."""
        if step.shape == "brick":
            return []
        return asked_chill(
            context,
            course,
            step.id,
            step.begin_within_s,
            load_kg=step.load_kg,
            medium=step.medium,
            **_as_bench_asks(step),
            surroundings_c=step.surroundings_c,
        )

    def running_asked(self, step: ChillAir, evidence: Evidence, context: Context) -> list[Asked]:
        """The Bench's page that fits a curve to its readings."""
        if not isinstance(evidence.limit, Cooling):
            return []
        return asked_fit(context, _lay_out(step, context, 1.0), step.medium, evidence.series)

    def project(self, step: ChillAir, evidence: Evidence, context: Context) -> Projection | None:
        """The pace of the readings so far, carried on."""
        return course_of(_lay_out(step, context, 1.0), evidence) if len(evidence.series) else None

    def rescues(self, step: ChillAir, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """Spread shallower in the same air, or in slurry."""
        if not len(evidence.series):
            return []
        core, depth = float(evidence.series.values[-1]), SHALLOWER * step.thickness_m
        ways: list[tuple[str, Projection]] = []
        for said, (body, h, around) in (
            (
                say("steps.chill.spread_to_in_the_same_air", depth=mm(1000 * depth, ".0f")),
                _lay_out(step, context, SHALLOWER),
            ),
            (
                say("steps.chill.into_stirred_ice_and_water_in", depth=mm(1000 * step.thickness_m, ".0f")),
                (_lay_out(step, context, 1.0)[0], context.h("slurry"), 0.5),
            ),
        ):
            ways.append((said, fixed(Settling(body, h, around, evidence.now_s, core), 1.0)))
        return ways


def _in_the_cold(step: ChillAir, course: Course, context: Context, mean_c: float) -> Stage:
    """The cold, as quickly as a usual chiller of its kind takes up what all the food gives off."""
    h, around = context.h(step.medium), step.surroundings_c
    load_kg = step.load_kg or context.food_kg
    if course.body is None or load_kg <= LIGHT_KG or mean_c <= around:
        return Stage.steady(step.duration_s, around, h)
    times = np.concatenate(([0.0], np.geomspace(30.0, max(step.duration_s, 60.0), POINTS)))
    mean = Heating(course.body, h, mean_c, around).mean_c(times)
    taken = taken_s(times, mean, load_kg * context.heat().heat_capacity_j_kgk, USUAL_W[step.medium])
    if taken[-1] <= times[-1] + 1.0:
        return Stage.steady(step.duration_s, around, h)
    whole = int(np.searchsorted(taken, step.duration_s))  # as far as it comes in its time
    reached = float(np.interp(step.duration_s, taken, times))
    times, taken = np.append(times[:whole], reached), np.append(taken[:whole], step.duration_s)
    return Stage(times, np.full(len(times), around), h, taken_s=taken)


def _lay_out(step: ChillAir, context: Context, share: float) -> tuple[Body, float, float]:
    """Body, coefficient [W/m²·K] and surroundings [°C] as planned, at a share of the depth."""
    thermal = context.heat()
    body = replace(piece_of(step, 60.0), thickness_m=share * step.thickness_m).body(thermal)
    return body, context.h(step.medium), step.surroundings_c


def _as_bench_asks(step: ChillAir) -> dict[str, Any]:
    """Its depth and shape in the Bench's own words: what is short and round stands in a mould."""
    if step.shape == "finite_cylinder":
        return {"shape": "mould", "depth_m": step.length_m, "width_m": step.thickness_m}
    return {"shape": "pan" if step.shape == "slab" else step.shape, "depth_m": step.thickness_m}


KIND = ChillAirKind()
