"""What is shown of a heat: figures, pictures, the map, ten thousand times over, the sum."""

import numpy as np

from brinefrost.core.bench.answer import (
    BenchMark,
    CurvePicture,
    Figure,
    MapPicture,
    Table,
    Zone,
    chance,
    line,
)
from brinefrost.core.bench.heat_judged import Inverses, food_asked, loaded
from brinefrost.core.bench.heat_question import CONDUCTION, HeatQuestion
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.food.media import medium
from brinefrost.core.limits import Cooling, Lethality, Limit
from brinefrost.core.limits.come_up import rising_crossing
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import HeatCurve
from brinefrost.core.physics.heating import Heating, safe_time_map_s
from brinefrost.core.physics.robustness import Spread, repeat, repeat_until
from brinefrost.core.rules import rule_set
from brinefrost.core.words import duration, legal, mins, percent, say, temp
from brinefrost.core.working import Input, Working

Told = tuple[float, float, tuple[tuple[str, float], ...], tuple[tuple[str, str, str], ...], Limit]
MAP_CELLS = 40


def figures_of(
    question: HeatQuestion, limit: Limit, would: Inverses, at_end: float, steady: bool, curve: HeatCurve
) -> tuple[Figure, ...]:
    top = max(80.0, question.surroundings_c + 5)
    core = Figure(
        name="core_at_end",
        value=round(at_end, 2),
        kind="temperature",
        main=True,
        low=0,
        high=top,
        band_from=counts_from_c(limit),
        band_to=top,
    )
    hottest_c = round(float(np.max(curve.core_c)), 2)
    hottest = Figure(name="hottest_core", value=hottest_c, kind="temperature")
    wanted = _to_wanted(question, curve)
    if not steady:
        return (core, hottest, *wanted)
    return (core, *_would_pass(would), *((hottest,) if hottest_c > at_end + 0.05 else ()), *wanted)


def _to_wanted(question: HeatQuestion, curve: HeatCurve) -> tuple[Figure, ...]:
    """When the core is where the cook wants it; nothing where none was asked for."""
    if question.wanted_core_c is None:
        return ()
    return (
        Figure(
            name="time_to_core",
            value=rising_crossing(curve.times_s, curve.core_c, question.wanted_core_c),
            kind="time",
            show="h",
            words=say("bench.heat.to_wanted_core", wanted_core=temp(question.wanted_core_c, "g")),
            absent=say("bench.heat.never_in_this_time"),
        ),
    )


def _would_pass(would: Inverses) -> tuple[Figure, ...]:
    """The time, the thickest piece and the coolest surroundings that would do."""
    return (
        Figure(
            name="time_needed",
            value=would.needed_s,
            kind="time",
            show="h",
            main=True,
            absent=say("bench.heat.not_within_48_h"),
        ),
        Figure(
            name="thickest",
            value=would.thickest_m,
            kind="length",
            show="mm",
            absent=say("bench.chill.none_passes"),
        ),
        Figure(
            name="coolest",
            value=would.coolest_c,
            kind="temperature",
            absent=say("bench.heat.none_up_to"),
        ),
    )


def pictures_of(
    question: HeatQuestion, curve: HeatCurve, heating: Heating, limits: list[Limit], would: Inverses, steady: bool
) -> tuple[CurvePicture | MapPicture, ...]:
    cooling = rule_set(question.rule_set).limit_as("chill.cooked", Cooling)
    zone = Zone(words=say("bench.chill.growth_zone"), low=5.0, high=cooling.from_c)
    marks = [
        BenchMark(
            words=say("bench.heat.counts_from", counts_from=legal(counts_from_c(limits[0]), "g")),
            y=counts_from_c(limits[0]),
            x=would.needed_s,
        )
    ]
    picture = CurvePicture(
        title="core_curve",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line(say("bench.chill.core"), "core", curve.times_s, curve.core_c),
            line(say("bench.heat.surface"), "surface", curve.times_s, curve.surface_c),
            line(say("bench.chill.surroundings"), "surroundings", curve.times_s, curve.surroundings_c),
        ),
        marks=tuple(marks),
        zone=zone,
        y_low=0,
    )
    if not steady or loaded(question) or not all(limit.by_time for limit in limits):
        return (picture,)  # a loaded bath dips by what is in it: no one map holds for it
    return (picture, _map(question, heating, limits, would.needed_s))


def _map(question: HeatQuestion, heating: Heating, limits: list[Limit], needed_s: float | None) -> MapPicture:
    """Times after which everything asked of the core is met: the target and the rule set's own lines."""
    thick = np.linspace(0.005, max(0.1, min(question.thickness_m * 1.2, 0.3)), MAP_CELLS)
    low = max(counts_from_c(limits[0]), question.start_c + 1)
    baths = np.linspace(low, max(low + 20, min(question.surroundings_c + 3, 120)), MAP_CELLS)
    times: Array = safe_time_map_s(heating, [limit.rows_met_s for limit in limits], thick, baths)
    return MapPicture(
        title="safe_times",
        x_field="surroundings_c",
        y_field="thickness_m",
        x_kind="temperature",
        y_kind="length",
        y_show="mm",
        x=tuple(round(float(b), 3) for b in baths),
        y=tuple(round(float(t), 5) for t in thick),
        cells=tuple(tuple(None if np.isinf(t) else round(float(t)) for t in row) for row in times),
        steps=(3600, 2 * 3600, 4 * 3600, 8 * 3600, 16 * 3600),
        at_x=question.surroundings_c,
        at_y=question.thickness_m,
        at_s=needed_s,
    )


def as_steady(question: HeatQuestion, heating: Heating, curve: HeatCurve) -> Heating:
    """A loaded bath, or a heat in which its surface boils, as the steady one that brings the piece as far."""
    boils = heating.boils_c is not None and heating.surroundings_c > heating.boils_c
    if not loaded(question) and not boils:
        return heating
    return heating.reaching(float(np.interp(question.duration_s, curve.times_s, curve.core_c)), question.duration_s)


def robust(question: HeatQuestion, heating: Heating, limits: list[Limit]) -> tuple[Table, ...]:
    """How often the target, or the rule set's line where that asks for more, would not be met; which of them it is."""
    spread = Spread(
        question.spread_thickness_m, question.spread_start_c, question.spread_bath_c, question.spread_probe_c
    )
    sums = {(each.model if isinstance(each, Lethality) else each.id): each for each in reversed(limits) if each.by_time}
    told = [_chance(heating, limit, question.duration_s, spread) for limit in sums.values()]
    if not told:
        return ()
    share, error, matters, gained, limit = max(told, key=lambda each: (each[0], each[-1] is limits[0]))
    rows = [
        (say("bench.heat.chance_of_failing"), *chance(share, error)),
        *gained,
        *((say("bench.chill.share_of_the_spread_from", name=name), percent(100 * part), "") for name, part in matters),
    ]
    return (Table(title=say("bench.heat.if_it_varies_for", title=limit.title), head=("", "", ""), rows=tuple(rows)),)


def _chance(heating: Heating, limit: Limit, duration_s: float, spread: Spread) -> Told:
    """Of one limit: the share that fails, its error, what matters, and for a lethality what is gained."""
    if not isinstance(limit, Lethality):
        return (*repeat_until(heating, limit.rows_met_s, duration_s, spread), (), limit)
    done = repeat(heating, limit.model.law(), duration_s, spread)
    few, half, most = (mins(float(v)) for v in done.lethality_min)
    goal = mins(limit.model.law().goal_min)
    gained = (
        (
            say("bench.heat.lethality_5_in_100_get_less"),
            say("bench.heat.few_min", few=few),
            say("bench.heat.goal_min", minutes_told=goal),
        ),
        (say("bench.heat.lethality_half_get_less_than"), say("bench.heat.half_min", half=half), ""),
        (say("bench.heat.lethality_95_in_100_get_less"), say("bench.heat.most_min", most=most), ""),
    )
    return done.failing_share, done.failing_error, done.matters, gained, limit


def working_of(question: HeatQuestion, biot: float, at_end: float) -> Working:
    kind, around = food_asked(question), medium(question.medium)
    return Working(
        title=say("bench.heat.core_temperature"),
        formula=say("bench.heat.t_t_t_k_t_n"),
        inputs=(
            Input(name=say("bench.heat.thickness_or_diameter"), value=question.thickness_m * 1000, unit="mm"),
            Input(name=say("bench.chill.diffusivity_name", name=kind.name), value=kind.diffusivity_m2_s, unit="m²/s"),
            Input(name=say("bench.heat.conductivity_k"), value=kind.conductivity_w_mk, unit="W/m·K"),
            Input(name=say("bench.answer.h_in", name=around.name), value=around.h_w_m2k, unit="W/m²·K"),
            Input(name=say("bench.heat.start"), value=question.start_c, unit="°C"),
            Input(name=say("bench.heat.biot_number"), value=round(biot, 3)),
        ),
        result=say("bench.heat.at_the_core_after", at_end=temp(at_end, ".1f"), duration=duration(question.duration_s)),
        source=CONDUCTION,
        assumptions=(
            say("bench.heat.heat_from_every_side"),
            say("bench.heat.values_on_the_slow_side"),
            f"α: {kind.source.citation}",
            f"h: {around.source.citation}",
        ),
        valid_range=say("bench.heat.to_no_freezing"),
    )
