"""Bags cook in a stirred water bath."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.food.media import MediumKey, ShapeKey
from brinefrost.core.inverse import met_s
from brinefrost.core.kitchen.lines import line_of
from brinefrost.core.limits import ComeUp, Cooling, Hold, Lethality, Limit, Projection, Series
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.heat import HeatCurve
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.horizon import left_in_bath
from brinefrost.core.physics.reservoir import Reservoir, immerse
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import MOST_LOAD_KG, asked_heat
from brinefrost.core.steps.common import LONG_S, beside_line, early_core, heat_topics
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.proves import Chance, School
from brinefrost.core.steps.shaped import length_field, piece_of, shape_field, sides_asked, width_field
from brinefrost.core.steps.spread import heated
from brinefrost.core.steps.state import STEP_S, Course, Evidence, MakeStage
from brinefrost.core.steps.warming import Warming, hotter, warming_of
from brinefrost.core.words import diff, duration, say, temp
from brinefrost.core.working import Input, Source, Working

MOST_BATH_C = 100.0
HOTTER_C = (60.0, 63.0, 66.0)  # baths a remedy names


class BathCook(StepBase):
    """Bags cook in a stirred water bath."""

    kind: Literal["bath_cook"] = "bath_cook"
    thickness_m: float = field("length", ..., 0.003, 0.2, "mm", 0.001, main=True)
    shape: ShapeKey = shape_field()
    length_m: float = length_field()
    width_m: float = width_field()
    start_c: float = field("temperature", ..., -2, 30, paper="food begins at")
    bath_c: float = field("temperature", ..., 40, MOST_BATH_C, main=True)
    duration_s: float = field("time", ..., 60, 72 * 3600, "min", 300, main=True, paper="for")
    water_kg: float = field("mass", 56, 2, 2000, "kg")
    heater_w: float = field("number", 2000, 100, 60000, "W")


@dataclass(frozen=True)
class Cook:
    """One cook as computed to the horizon."""

    body: Body
    start_c: float
    bath_c: float
    curve: HeatCurve

    def series(self, duration_s: float) -> Series:
        """The core to the end of the cook [s] as readings without error [°C]."""
        keep = self.curve.times_s < duration_s
        times = np.append(self.curve.times_s[keep], duration_s)
        core = np.append(self.curve.core_c[keep], np.interp(duration_s, self.curve.times_s, self.curve.core_c))
        return Series.computed(times, core)

    def time_to_meet_s(self, limit: Limit) -> float | None:
        """The shortest cook in this bath that meets a limit [s]; None when no time does within the horizon."""
        return met_s((limit,), self.curve)


def cook_of(step: BathCook, context: Context, bath_c: float | None = None) -> Cook:
    """A cook to the horizon, the bath's own dip with it, in its own bath or another [°C].

    Valid as ``immerse``; raises PlanIncompleteError without thermal values.
    """
    thermal, bath_c = context.heat(), step.bath_c if bath_c is None else bath_c
    body = piece_of(step, step.start_c).body(thermal)
    bath = Reservoir(step.water_kg, bath_c, bath_c, step.heater_w)
    way = left_in_bath(body, step.start_c, bath, context.food_kg, thermal.density_kg_m3, context.h("bath"))
    return Cook(body, step.start_c, bath_c, way)


def up_to_5_min(seconds: float) -> float:
    """Rounded up to the next 5 min, as a plan would say it [s].

    Valid for times from 0.
    """
    return float(np.ceil(seconds / 300.0) * 300.0)


class BathCookKind(StepKind[BathCook]):
    """Judged by the core of the thickest bag."""

    settings = BathCook
    sets = {"bath": "bath_c"}
    blank = {"thickness_m": 0.03, "start_c": 4, "bath_c": 65, "duration_s": 7200}
    logged = "core"

    def acts(self, step: BathCook) -> frozenset[Act]:
        """It heats."""
        return frozenset({"heats"})

    def makes(self, step: BathCook) -> frozenset[str]:
        """In its bag."""
        return frozenset({"sealed"})

    def length_s(self, step: BathCook) -> float:
        """As long as it cooks."""
        return step.duration_s

    def topics(self, step: BathCook, context: Context) -> tuple[str, ...]:
        """What must be killed, and how slowly it may come up."""
        return heat_topics(context)

    def own_limits(self, step: BathCook, context: Context) -> tuple[Limit, ...]:
        """The rule set's own lines, and what eggs and plants answer to beside them."""
        return () if context.cook_goes_on else (*super().own_limits(step, context), *beside_line(context))

    def piece(self, step: BathCook) -> Piece:
        """The bag it is planned for."""
        return piece_of(step, step.start_c)

    def stages(self, step: BathCook, course: Course, context: Context) -> list[MakeStage]:
        """The bath, which dips when the bags go in."""
        body = course.body
        if body is None:
            return []
        thermal = context.heat()
        water = Reservoir(step.water_kg, step.bath_c, step.bath_c, step.heater_w)
        kg, density, h = context.food_kg, thermal.density_kg_m3, context.h("bath")
        return [lambda mean: immerse(body, kg, density, mean, h, water, step.duration_s, step_s=STEP_S)]

    def around_c(self, step: BathCook) -> float:
        """The water."""
        return step.bath_c

    def medium(self, step: BathCook) -> MediumKey:
        """Water."""
        return "bath"

    def follows_core(self, step: BathCook, limit: Limit) -> bool:
        """All but a fall: it only warms."""
        return not isinstance(limit, Cooling)

    def find_faults(self, step: BathCook, food: Food) -> list[Finding]:
        """A cook of what was cooked and kept already is something else; what was kept raw is not."""
        if not (food.reheated or (food.kept and food.cooked)):
            return []
        said = say("steps.bath_cook.comes_after_the_food_was_kept", name=step.name)
        return [Finding(step=step.id, state="fails", sentence=said)]

    def control(self, step: BathCook, context: Context) -> ControlParts:
        """The rule set's own lines, the bath three times, the core at the end."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                Monitoring(
                    id="bath",
                    what=say("steps.bath_cook.bath_temperature"),
                    quantity="bath",
                    how=say("steps.bath_cook.probe_in_the_water_away_from"),
                    offsets_s=tuple(at for at in (0.0, 1800.0, 3600.0) if at < step.duration_s),
                    expected_low_c=step.bath_c - 8,
                    expected_high_c=step.bath_c + 1,
                ),
                *((early_core(step.bath_c + 1),) if step.duration_s > LONG_S else ()),
                Monitoring(
                    id="core",
                    what=say("steps.bath_cook.core_of_the_thickest_bag_end"),
                    quantity="core",
                    how=say("steps.bath_cook.needle_probe_through_a_foam_seal"),
                    expected_low_c=step.bath_c - 3,
                    expected_high_c=step.bath_c + 0.5,
                ),
            ),
            corrective_actions=(
                say("steps.bath_cook.leave_the_bags_in_the_bath"),
                say("steps.bath_cook.if_the_come_up_limit_is"),
            ),
            verification=(
                say("steps.bath_cook.the_lead_reads_the_core_curve"),
                say("steps.bath_cook.probe_checked_at_ice_point_each"),
            ),
        )

    def vary(self, step: BathCook) -> list[tuple[str, BathCook]]:
        """What usually goes differently: thicker, thinner, colder, a bath that is low, and all at once."""
        colder = step.start_c - 1.0 if step.start_c <= 1.0 else 1.0
        thick = step.thickness_m

        def like(thicker: float = 0.0, start_c: float = step.start_c, lower: float = 0.0) -> BathCook:
            changed = {"thickness_m": max(thick + thicker, 0.003), "start_c": start_c, "bath_c": step.bath_c - lower}
            return step.model_copy(update=changed)

        return [
            (say("steps.bath_cook.thicker"), like(0.005)),
            (say("steps.bath_cook.thinner"), like(-0.005)),
            (say("steps.bath_cook.from_colder", colder=temp(colder, "g")), like(start_c=colder)),
            (say("steps.bath_cook.bath_1_degree_low"), like(lower=1.0)),
            (say("steps.bath_cook.thicker_cold_start_and_low_bath"), like(0.005, colder, 1.0)),
        ]

    def inverse_s(self, step: BathCook, limit: Limit, context: Context) -> float | None:
        """By the same bath, left in longer."""
        return cook_of(step, context).time_to_meet_s(limit)

    def schools(self, step: BathCook, course: Course, context: Context) -> list[School]:
        """Every rule set's lines for this food."""
        cook, line = cook_of(step, context), line_of(context.tags)
        series = cook.series(step.duration_s)
        return [
            School(
                set_id,
                entry.school,
                entry.limit,
                entry.limit.evaluate(series, step.duration_s),
                cook.time_to_meet_s(entry.limit),
            )
            for set_id in RULE_SET_IDS
            for entry in (context.rules_of(set_id).entries_for(line) if line else ())
        ]

    def remedies(self, step: BathCook, limit: Limit, context: Context) -> list[str]:
        """Longer, hotter, thinner; by a table where an approved plan may take it."""
        if isinstance(limit, Lethality):
            return _longer_or_hotter(step, limit, context)
        if isinstance(limit, ComeUp):
            return [say("steps.bath_cook.thinner_bags_or_a_hotter_bath")]
        said = super().remedies(step, limit, context)
        return [*said, *_by_approval(step, limit, context)] if isinstance(limit, Hold) else said

    def project(self, step: BathCook, evidence: Evidence, context: Context) -> Projection | None:
        """The core so far, carried on."""
        return warming_of(_lay_out(step, context), evidence)

    def rescues(self, step: BathCook, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """A hotter bath."""
        return hotter(_lay_out(step, context), evidence, MOST_BATH_C)

    def workings(self, step: BathCook, course: Course, context: Context) -> list[Working]:
        """Conduction, and the bath's own dip."""
        return [_conduction(step, context), _dip(step, context)]

    def repeat(self, step: BathCook, limit: Limit, course: Course, context: Context) -> Chance | None:
        """In a steady bath that brings it as far as its own does, dip included."""
        if course.curve is None:
            return None
        body = piece_of(step, step.start_c).body(context.heat())
        still = Heating(body, context.h("bath"), step.start_c, step.bath_c)
        reached = course.core_at(course.spans[step.id][1])
        return heated(still.reaching(reached, step.duration_s), limit, step.duration_s)

    def asked(self, step: BathCook, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on heat; what answers to no line is no question."""
        if not self.own_limits(step, context):
            return []
        return asked_heat(
            context,
            step.start_c,
            shape=step.shape,
            thickness_m=step.thickness_m,
            **sides_asked(step),
            medium="bath",
            surroundings_c=step.bath_c,
            duration_s=step.duration_s,
            load_kg=min(context.food_kg, MOST_LOAD_KG),
            water_kg=step.water_kg,
            heater_w=step.heater_w,
        )


def _lay_out(step: BathCook, context: Context) -> Warming:
    body = piece_of(step, step.start_c).body(context.heat())
    return Warming(body, context.h("bath"), step.bath_c, step.start_c, step.duration_s)


def _by_approval(step: BathCook, limit: Hold, context: Context) -> list[str]:
    """What a table of the same topic would ask for, where an approved plan may take it."""
    rules = context.rules
    topic = next((entry.topic for entry in rules.entries if entry.limit.id == limit.id), "")
    said: list[str] = []
    for entry in rules.entries_for(topic):
        if isinstance(entry.limit, Lethality) and entry.approval:
            said.append(say("steps.bath_cook.or_in_an_approved_plan_controls", school=entry.school))
            said += _longer_or_hotter(step, entry.limit, context)
    return said


def _longer_or_hotter(step: BathCook, limit: Lethality, context: Context) -> list[str]:
    said: list[str] = []
    cook = cook_of(step, context)
    here, lowest = cook.time_to_meet_s(limit), limit.model.law().knots_c[0]
    if here is not None:
        said.append(
            say("steps.bath_cook.at_it_needs", bath=temp(step.bath_c, "g"), up_to_5=duration(up_to_5_min(here)))
        )
    elif cook.bath_c <= lowest:
        said.append(
            say("steps.bath_cook.no_time_at_meets_it_nothing", bath=temp(step.bath_c, "g"), lowest=temp(lowest, "g"))
        )
    else:
        said.append(say("steps.bath_cook.no_time_within_48_h_at", bath=temp(step.bath_c, "g")))
    if here is None:
        said += _by_other_schools(step, cook, context)
    for bath in HOTTER_C:
        if bath > step.bath_c + 0.5:
            there = cook_of(step, context, bath).time_to_meet_s(limit)
            if there is not None:
                said.append(
                    say("steps.bath_cook.at_it_needs", bath=temp(bath, "g"), up_to_5=duration(up_to_5_min(there)))
                )
    return said


def _by_other_schools(step: BathCook, cook: Cook, context: Context) -> list[str]:
    """What another rule set would ask for in this bath, where this one credits nothing."""
    said: list[str] = []
    line = line_of(context.tags)
    for other in RULE_SET_IDS if line else ():
        entry = context.rules_of(other).entries_for(str(line))[0]
        time = cook.time_to_meet_s(entry.limit) if other != context.rule_set_id else None
        if time is not None:
            said.append(
                say(
                    "steps.bath_cook.by_the_rule_it_would_need",
                    upper=other.upper(),
                    school=entry.school,
                    up_to_5=duration(up_to_5_min(time)),
                    bath=temp(step.bath_c, "g"),
                    upper2=context.rule_set_id.upper(),
                )
            )
    return said


def _conduction(step: BathCook, context: Context) -> Working:
    """How the core warms in the bath."""
    thermal, cook = context.heat(), cook_of(step, context)
    reached = float(np.interp(step.duration_s, cook.curve.times_s, cook.curve.core_c))
    return Working(
        title=say("working.bath_cook.core_temperature"),
        formula=say("working.bath_cook.t_t_t_x_k_t"),
        inputs=(
            Input(name=say("working.bath_cook.thickness"), value=step.thickness_m * 1000, unit="mm"),
            Input(name=say("working.bath_cook.diffusivity"), value=thermal.diffusivity_m2_s, unit="m²/s"),
            Input(name=say("working.bath_cook.conductivity_k"), value=thermal.conductivity_w_mk, unit="W/m·K"),
            Input(name=say("working.bath_cook.h_in_the_bath"), value=context.h("bath"), unit="W/m²·K"),
            Input(name=say("working.bath_cook.h_in_the_slurry"), value=context.h("slurry"), unit="W/m²·K"),
            Input(name=say("working.bath_cook.start"), value=step.start_c, unit="°C"),
            Input(name=say("working.bath_cook.biot_number"), value=round(cook.body.biot(context.h("bath")), 2)),
        ),
        result=say(
            "working.bath_cook.at_the_core_after", reached=temp(reached, ".1f"), duration=duration(step.duration_s)
        ),
        source=Source(citation="Carslaw & Jaeger, Conduction of Heat in Solids (1959), ch. III", tag="published"),
        assumptions=(
            say("working.bath_cook.flat_bags_in_one_layer_water"),
            say("working.bath_cook.values_on_the_slow_side_of"),
            say("working.bath_cook.thermal_values", citation=thermal.source.citation),
        ),
        valid_range=say("working.bath_cook.thickness_to_no_freezing"),
    )


def _dip(step: BathCook, context: Context) -> Working:
    """How far cold food pulls its bath down."""
    dip = float(np.min(cook_of(step, context).curve.surroundings_c))
    return Working(
        title=say("working.bath_cook.the_baths_own_dip"),
        formula=say("working.bath_cook.m_c_dt_dt_heater_heat"),
        inputs=(
            Input(name=say("working.bath_cook.water"), value=step.water_kg, unit="kg"),
            Input(name=say("working.bath_cook.heater"), value=step.heater_w, unit="W"),
            Input(name=say("working.bath_cook.bags"), value=context.food_kg, unit="kg"),
            Input(name=say("working.bath_cook.set"), value=step.bath_c, unit="°C"),
        ),
        result=say("working.bath_cook.lowest_by", dip=temp(dip, ".1f"), bath=diff(step.bath_c - dip, ".1f")),
        source=Source(citation="Heat balance; water 4.18 kJ/kg·K (Singh & Heldman)", tag="published"),
        assumptions=(
            say("working.bath_cook.the_water_is_stirred_and_even"),
            say("working.bath_cook.the_heater_gives_full_power_from"),
        ),
    )


KIND = BathCookKind()
