"""Food is heated in an oven, a pot, fat or steam: to cook it, or to heat again what was cooked."""

from dataclasses import replace
from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.food.media import MediumKey, ShapeKey
from brinefrost.core.inverse import least_met_s, met_s
from brinefrost.core.kitchen.lines import line_of, seared_line
from brinefrost.core.limits import Cooling, Hold, Lethality, Limit, Looked, Projection, Threshold
from brinefrost.core.limits.looked import RIGHT
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.horizon import left_in, left_in_pan
from brinefrost.core.physics.pan import OFTEN_S, Pan, roll_in_pan
from brinefrost.core.physics.phases import is_frozen
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import asked_heat
from brinefrost.core.steps.common import (
    beside_line,
    boils_beans,
    find_no_cook_before,
    heat_topics,
    look_seared,
    read_by_the_lead,
    read_first,
    watch_air,
    watch_heated,
)
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.proves import Chance, School
from brinefrost.core.steps.shaped import length_field, piece_of, shape_field, sides_asked, width_field
from brinefrost.core.steps.spread import heated
from brinefrost.core.steps.state import Course, Evidence, MakeStage
from brinefrost.core.steps.warming import HOTTER_K, Warming, hotter, warming_of
from brinefrost.core.words import duration, num, say, temp
from brinefrost.core.working import Input, Source, Working

DRYING = ("fan_oven", "still_oven")  # media in which an open surface dries and stays cool
ROOM_VAPOUR_PA = 1200.0  # a kitchen's air at 20 °C and half saturated: an oven that lets its steam out
DRY_HEATS = (*DRYING, "still_fat", "frying", "pan", "smoke_pan")  # in which nothing takes up water
MOST_C = 300.0
OVEN_TOPICS = {"still_oven": "roast.still_oven", "fan_oven": "roast.fan_oven"}
HEAVY_TOPICS = ("roast.heavy", "roast.heavy_mass")
OVEN_LEFT_S, PAN_LEFT = 12 * 3600.0, 4.0  # how long, or how many times its own time, a heat is followed on
HEAVY_KG = 4.5  # a roast from which on an oven may be less hot: Food Code 3-401.11(B), 10 lb
OVEN_EVERY_S = 3600.0  # how often an oven is read while it cooks; common practice, no source
BAKES_C = 90.0  # from which on an oven dries what is in it, as of meringues; common practice
ROOM_C = 30.0  # nothing that was not heated is warmer in a kitchen


class HeatIn(StepBase):
    """Food is heated in an oven, a pot, fat or steam."""

    kind: Literal["heat_in"] = "heat_in"
    medium: Literal[
        "fan_oven", "still_oven", "oven_bath", "steam", "bath", "boiling", "still_fat", "frying", "pan", "smoke_pan",
        "pressure",
    ] = field("choice", "fan_oven")  # fmt: skip
    surroundings_c: float = field("temperature", ..., 40, MOST_C, main=True, paper="in")
    thickness_m: float = field("length", ..., 0.003, 0.3, "mm", 0.005, main=True)
    shape: ShapeKey = shape_field()
    length_m: float = length_field()
    width_m: float = width_field()
    start_c: float = field("temperature", 4, -40, 100, paper="food begins at")
    duration_s: float = field("time", ..., 30, 72 * 3600, "min", 300, main=True, paper="for")
    covered: bool = field("flag", True)
    again: bool = field("flag", False)
    piece_kg: float = field("mass", 0, 0, 60, "kg", only={"medium": DRYING}, paper="a piece weighs")  # 0: not said
    falls_to_c: float | None = field("temperature", None, 40, MOST_C, only={"medium": DRYING}, paper="then at")
    turned: Literal["once", "often"] = field("choice", "once", only={"medium": ("pan",)}, paper="turned")


class HeatInKind(StepKind[HeatIn]):
    """Judged by the core of the thickest piece."""

    settings = HeatIn
    blank = {"surroundings_c": 90, "thickness_m": 0.04, "duration_s": 7200}
    logged = "core"

    def acts(self, step: HeatIn) -> frozenset[Act]:
        """What was cooked before is heated again, which is no cook."""
        return frozenset({"heats", "reheats"}) if step.again else frozenset({"heats"})

    def makes(self, step: HeatIn) -> frozenset[str]:
        """What lies in fat is without air; a dry oven bakes."""
        dry = {"dry_heat"} if step.medium in DRY_HEATS else set[str]()
        if step.medium == "still_fat":
            return frozenset({"under_fat", *dry})
        return frozenset({*dry, "baked"} if step.medium in DRYING and step.surroundings_c >= BAKES_C else dry)

    def change(self, step: HeatIn, food: Food) -> Food:
        """It behind it: beans are boiled where it is hot enough for long enough."""
        left = super().change(step, food)
        return left.after_boil() if boils_beans(step.surroundings_c, step.duration_s) else left

    def length_s(self, step: HeatIn) -> float:
        """As long as it is heated."""
        return step.duration_s

    def piece(self, step: HeatIn) -> Piece:
        """The piece it is planned for."""
        return piece_of(step, step.start_c)

    def topics(self, step: HeatIn, context: Context) -> tuple[str, ...]:
        """What must be killed, and how slowly it may come up; or how hot it must be again."""
        return heat_topics(context, step.again)

    def own_limits(self, step: HeatIn, context: Context) -> tuple[Limit, ...]:
        """The rule set's own lines; what no line cooks is heated as ready-to-eat food is, against Listeria."""
        found = super().own_limits(step, context)
        if step.again:
            return found
        found = (*found, *_oven_limits(step, context))
        if context.cook_goes_on:
            return found
        return (
            *found,
            *beside_line(context),
            *((seared_line(),) if context.food.seared else ()),
        )

    def declare(self, step: HeatIn, limit: Limit) -> float | None:
        """That every face is seared is what the plan means to find; how hot the oven is it sets."""
        if limit.quantity == "air":
            return _coldest_c(step)
        if limit.quantity == "mass":
            return step.piece_kg
        return RIGHT if isinstance(limit, Looked) else super().declare(step, limit)

    def stages(self, step: HeatIn, course: Course, context: Context) -> list[MakeStage]:
        """Its surroundings, steady; a pan heats a face at a time."""
        return [lambda _: _stage(step, context, step.duration_s)]

    def medium(self, step: HeatIn) -> MediumKey:
        """What it is heated in."""
        return step.medium

    def around_c(self, step: HeatIn) -> float:
        """What it is heated in."""
        return step.surroundings_c

    def follows_core(self, step: HeatIn, limit: Limit) -> bool:
        """All but a fall: it only warms."""
        return not isinstance(limit, Cooling)

    def find_faults(self, step: HeatIn, food: Food) -> list[Finding]:
        """Heated again before any cook; or it begins warm where nothing has heated it."""
        found = find_no_cook_before(step, food) if step.again else []
        if step.start_c > ROOM_C and not food.cooked:
            said = say("steps.heat.begins_warm_and_nothing_heats_it", name=step.name, start=temp(step.start_c, "g"))
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        return found

    def control(self, step: HeatIn, context: Context) -> ControlParts:
        """The rule set's own lines, the core at the end; the oven itself where a line is about it."""
        of_it = [limit for limit in _oven_limits(step, context) if isinstance(limit, Threshold)]
        ovens = [limit for limit in of_it if limit.quantity == "air"]
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                *watch_heated(
                    step.duration_s,
                    min(step.surroundings_c, 63.0) - 5,
                    min(step.surroundings_c, 100.0) + 1,
                    self.own_limits(step, context),
                ),
                *(watch_air(limit.value, MOST_C, OVEN_EVERY_S) for limit in ovens),
                *(_weigh_piece(limit.value) for limit in of_it if limit.quantity == "mass"),
                *((look_seared(),) if context.food.seared else ()),
            ),
            corrective_actions=(
                say("steps.heat.heat_on_until_the_core_is"),
                say("steps.heat.not_there_within_the_time_hold"),
            ),
            verification=read_by_the_lead(),
        )

    def inverse_s(self, step: HeatIn, limit: Limit, context: Context) -> float | None:
        """By the same heat, left in longer."""
        if not isinstance(limit, Lethality | Hold):
            return None
        return heated_until(step, limit, context)

    def remedies(self, step: HeatIn, limit: Limit, context: Context) -> list[str]:
        """Longer, or hotter."""
        if isinstance(limit, Threshold) and limit.quantity == "air":
            return [say("steps.heat.cover_it_or_hotter", oven=temp(limit.value, "g"))]
        if not isinstance(limit, Lethality | Hold):
            return super().remedies(step, limit, context)
        said: list[str] = []
        for around in (step.surroundings_c, *(step.surroundings_c + more for more in HOTTER_K)):
            needed = _met_s(step, limit, context, around)
            if needed is not None:
                rounded = duration(float(np.ceil(needed / 300.0) * 300.0))
                said.append(say("steps.heat.at_surroundings_it_needs", around=temp(around, "g"), needed=rounded))
        return said or [say("steps.heat.no_time_at_meets_it_hotter", around=temp(step.surroundings_c, "g"))]

    def vary(self, step: HeatIn) -> list[tuple[str, HeatIn]]:
        """What usually goes differently."""
        return [
            (
                say("steps.heat.a_fifth_thicker"),
                step.model_copy(update={"thickness_m": min(1.2 * step.thickness_m, 0.3)}),
            ),
            (
                say("steps.heat.five_degrees_less"),
                step.model_copy(update={"surroundings_c": max(step.surroundings_c - 5, 40)}),
            ),
        ]

    def repeat(self, step: HeatIn, limit: Limit, course: Course, context: Context) -> Chance | None:
        """The piece it is planned for, in steady surroundings; in such as bring it as far, where it boils or dries."""
        core = course.core_in(step.id)
        if core is None or is_frozen(step.start_c):
            return None
        body = piece_of(step, step.start_c).body(context.heat())
        heating = Heating(body, context.h(step.medium), step.start_c, step.surroundings_c)
        if _has_own_way(step, context):
            heating = heating.reaching(float(core.values[-1]), step.duration_s)
        return heated(heating, limit, step.duration_s)

    def simulate(self, step: HeatIn, context: Context, times_s: Array) -> dict[str, Array]:
        """Every face as it ought to be; the oven as it is set."""
        return {
            "looks": np.full(len(times_s), RIGHT),
            "air": np.full(len(times_s), step.surroundings_c),
            "mass": np.full(len(times_s), step.piece_kg),
        }

    def asked(self, step: HeatIn, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on heat, with the core it comes in with; what answers to no line is no question."""
        apart = step.medium in ("pan", "pressure") or step.falls_to_c is not None or is_frozen(step.start_c)
        apart = apart or _vapour_pa(step) is not None
        if step.again or apart or not self.own_limits(step, context):
            return []
        return asked_heat(
            context,
            step.start_c if course.curve is None else course.core_at(course.spans[step.id][0]),
            shape=step.shape,
            thickness_m=step.thickness_m,
            **sides_asked(step),
            medium=step.medium,
            surroundings_c=step.surroundings_c,
            duration_s=step.duration_s,
        )

    def project(self, step: HeatIn, evidence: Evidence, context: Context) -> Projection | None:
        """The core so far, carried on."""
        return warming_of(_lay_out(step, context), evidence)

    def rescues(self, step: HeatIn, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """Hotter."""

        def at(around_c: float) -> Warming:
            return _lay_out(step.model_copy(update={"surroundings_c": around_c}), context)

        return hotter(_lay_out(step, context), evidence, MOST_C, at)

    def schools(self, step: HeatIn, course: Course, context: Context) -> list[School]:
        """Every rule set's lines for this food."""
        line, core = line_of(context.tags), course.core_in(step.id)
        if step.again or line is None or core is None:
            return []
        return [
            School(
                set_id,
                entry.school,
                entry.limit,
                entry.limit.evaluate(core, float(core.times_s[-1])),
                self.inverse_s(step, entry.limit, context),
            )
            for set_id in RULE_SET_IDS
            for entry in context.rules_of(set_id).entries_for(line)
        ]

    def workings(self, step: HeatIn, course: Course, context: Context) -> list[Working]:
        """Conduction into a flat piece."""
        core = course.core_in(step.id)
        if core is None:
            return []
        return [
            Working(
                title=say("working.heat.core_of", name=step.name),
                formula=say("working.heat.conduction_into_a_slab"),
                inputs=(
                    Input(name=say("working.heat.surroundings"), value=step.surroundings_c, unit="°C"),
                    Input(name=say("working.heat.thickness"), value=1000 * step.thickness_m, unit="mm"),
                    Input(name=say("working.heat.coefficient"), value=context.h(step.medium), unit="W/m²·K"),
                ),
                result=say(
                    "working.heat.core_at_the_end",
                    core=temp(float(core.values[-1]), ".1f"),
                    h=num(context.h(step.medium)),
                ),
                source=Source(citation="Carslaw & Jaeger (1959), ch. III", tag="published"),
            )
        ]


def _lay_out(step: HeatIn, context: Context) -> Warming:
    body = piece_of(step, step.start_c).body(context.heat())
    curve = carry_on(step, body, context) if _has_own_way(step, context) else None
    return Warming(body, context.h(step.medium), step.surroundings_c, step.start_c, step.duration_s, curve)


def _has_own_way(step: HeatIn, context: Context) -> bool:
    """Whether no one surrounding acts on all of it: it boils or dries outside, a face at a time, or is frozen."""
    uneven = _vapour_pa(step) is not None or step.medium == "pan" or step.falls_to_c is not None
    return uneven or is_frozen(step.start_c) or step.surroundings_c > _boils_c(step, context)


def carry_on(step: HeatIn, body: Body, context: Context) -> HeatCurve:
    """Its way if it stays where it is [°C] against time [s], past its own end. Valid for every heat."""
    h, boils = context.h(step.medium), _boils_c(step, context)
    if step.falls_to_c is not None:
        then = Stage.steady(OVEN_LEFT_S, step.falls_to_c, h, boils, _vapour_pa(step))
        return heat_through(body, [_stage(step, context, step.duration_s), then], step.start_c, 60.0)
    if step.medium != "pan":
        return left_in(body, step.start_c, step.surroundings_c, h, boils, _vapour_pa(step))
    if step.shape != "slab":
        return left_in(body, step.start_c, *roll_in_pan(step.surroundings_c, h), boils)
    pan = _pan(step.surroundings_c, h, boils, step.duration_s, step.turned == "often")
    return left_in_pan(body, step.start_c, pan, PAN_LEFT * step.duration_s)


def heated_until(step: HeatIn, limit: Lethality | Hold, context: Context) -> float | None:
    """The shortest time in the same surroundings that meets a limit [s]; None where none does within two days.

    Valid for every heat.
    """
    return _met_s(step, limit, context, step.surroundings_c)


def _met_s(step: HeatIn, limit: Lethality | Hold, context: Context, around_c: float) -> float | None:
    """The shortest time in such surroundings [°C] that meets a limit [s]; None where none does within two days."""
    body = piece_of(step, step.start_c).body(context.heat())
    h, boils = context.h(step.medium), _boils_c(step, context)
    if step.falls_to_c is not None:
        hotter = step.model_copy(update={"surroundings_c": around_c})
        return least_met_s(limit, lambda time: heat_through(body, [_stage(hotter, context, time)], step.start_c, 60.0))
    if step.medium != "pan":
        return met_s((limit,), left_in(body, step.start_c, around_c, h, boils, _vapour_pa(step)))
    if step.shape != "slab":
        return met_s((limit,), left_in(body, step.start_c, *roll_in_pan(around_c, h), boils))
    often = step.turned == "often"
    return least_met_s(limit, lambda time: left_in_pan(body, step.start_c, _pan(around_c, h, boils, time, often), time))


def _stage(step: HeatIn, context: Context, duration_s: float) -> Stage:
    """What surrounds it for so long [s]."""
    h, boils, around = context.h(step.medium), _boils_c(step, context), step.surroundings_c
    if step.falls_to_c is not None:
        ramp = Stage.ramp(duration_s, around, step.falls_to_c, h)
        return replace(ramp, boils_c=boils, vapour_pa=_vapour_pa(step))
    if step.medium != "pan":
        return Stage.steady(duration_s, around, h, boils, _vapour_pa(step))
    if step.shape != "slab":
        all_round, gives = roll_in_pan(around, h)
        return Stage.steady(duration_s, all_round, gives, boils)
    pan = _pan(around, h, boils, duration_s, step.turned == "often")
    return replace(Stage.steady(duration_s, around, h, boils), pan=pan)


def _coldest_c(step: HeatIn) -> float:
    """How hot its surroundings are at least [°C]."""
    return step.surroundings_c if step.falls_to_c is None else min(step.surroundings_c, step.falls_to_c)


def _oven_limits(step: HeatIn, context: Context) -> tuple[Limit, ...]:
    """How hot a dry oven is for what is cooked by a table of the core: its surface dries, and dry cells die slowly.

    What is covered, or in steam, stays wet.
    """
    by_table = context.approved or line_of(context.tags) == "cook.roast"
    if not by_table or _vapour_pa(step) is None:
        return ()
    topics = HEAVY_TOPICS if step.piece_kg >= HEAVY_KG else (OVEN_TOPICS[step.medium],)
    found = [context.rules.entries_for(topic) for topic in topics]
    return tuple(entries[0].limit for entries in found if entries)


def _weigh_piece(least_kg: float) -> Monitoring:
    """The lightest roast on a scale [kg], before it goes in."""
    what, how = say("steps.heat.mass_of_the_lightest_roast"), say("steps.heat.before_it_goes_in")
    return read_first("piece", "mass", what, how, (least_kg, 60.0))


def _boils_c(step: HeatIn, context: Context) -> float:
    """Where water boils around it [°C]: under pressure as hot as its steam is."""
    return max(step.surroundings_c, context.boils_c) if step.medium == "pressure" else context.boils_c


def _pan(pan_c: float, h_w_m2k: float, boils_c: float, duration_s: float, is_often: bool) -> Pan:
    """A pan in which it is turned once, half way, or every minute."""
    return Pan(pan_c, h_w_m2k, boils_c, OFTEN_S if is_often else duration_s / 2)


def _vapour_pa(step: HeatIn) -> float | None:
    """The vapour in the air that dries it [Pa]; None where it stands covered, or in what is wet itself."""
    return ROOM_VAPOUR_PA if step.medium in DRYING and not step.covered else None


KIND = HeatInKind()
