"""What a chill is shown by: figures, curve, map, the same food in pans, its working."""

import numpy as np

from brinefrost.core.bench.answer import (
    BenchMark,
    CurvePicture,
    Figure,
    MapPicture,
    Table,
    Zone,
    line,
)
from brinefrost.core.bench.chill_fall import (
    CELLS,
    HORIZON_S,
    core_in,
    falls,
)
from brinefrost.core.bench.chill_judged import is_small, meets, series_of
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.heat_question import CONDUCTION
from brinefrost.core.food.media import ThermalValues, medium
from brinefrost.core.limits import Cooling, Series
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.cooling import chiller_load_w
from brinefrost.core.physics.reservoir import ice_needed_kg
from brinefrost.core.words import duration, joined, legal, mm, num, say, temp
from brinefrost.core.working import Input, Source, Working


def figures_of(
    question: ChillQuestion, kind: ThermalValues, limit: Cooling, series: Series, deepest: float | None
) -> tuple[Figure, ...]:
    found = list(_to_marks(limit, series))
    if deepest or (not question.stirred and question.shape == "pan" and not is_small(question)):
        found.append(
            Figure(
                name="deepest",
                value=None if deepest is None else float(np.floor(deepest * 1000)) / 1000,
                kind="length",
                show="mm",
                absent=say("bench.chill.none_passes"),
            )
        )
    return (*found, *_to_take_out(question, kind, limit))


def _to_marks(limit: Cooling, series: Series) -> list[Figure]:
    """How long it takes to each mark of the rule, against what is allowed."""
    start = limit.clock_start_s(series) or 0.0
    found = []
    for i, (stage, result) in enumerate(zip(limit.stages, limit.results(series, HORIZON_S), strict=True)):
        allowed = say("bench.chill.to_allowed", to=legal(result.to_c, "g"), within=duration(result.within_s))
        more = say("bench.chill.to_allowed_more", to=legal(result.to_c, "g"), within=duration(result.within_s))
        since = start if result.since_s is None else result.since_s
        found.append(
            Figure(
                name=f"to_mark_{i + 1}",
                value=None if result.reached_s is None else result.reached_s - since,
                kind="time",
                show="h",
                words=more if stage.further else allowed,
                absent=say("bench.chill.over_24_h"),
                main=True,
                low=0,
                high=2 * result.within_s,
                band_from=0,
                band_to=result.within_s,
            )
        )
    return found


def _to_take_out(question: ChillQuestion, kind: ThermalValues, limit: Cooling) -> tuple[Figure, ...]:
    """The ice, or the chiller's power, that takes its heat out; nothing where it is cold from the start."""
    capacity, last = kind.heat_capacity_j_kgk, limit.stages[-1]
    if question.start_c <= last.to_c:
        return ()
    return (
        Figure(
            name="ice_needed",
            kind="mass",
            show="kg",
            words=say("bench.chill.half_again_for_the_room_included"),
            value=1.5 * ice_needed_kg(question.mass_kg, capacity, question.start_c, last.to_c),
        ),
        Figure(
            name="chiller_load",
            kind="number",
            show="W",
            words=say("bench.chill.mean_over", within=duration(last.within_s)),
            value=chiller_load_w(question.mass_kg, capacity, question.start_c, last.to_c, last.within_s),
        ),
    )


def picture_of(question: ChillQuestion, limit: Cooling, times: Array, core: Array) -> CurvePicture:
    series = series_of(question, limit, times, core)
    start = limit.clock_start_s(series) or 0.0
    results = limit.results(series, HORIZON_S)
    last = max([limit.stages[-1].within_s + start, *(r.reached_s or 0.0 for r in results)]) * 1.1
    keep = times <= last
    return CurvePicture(
        title="chill_curve",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line(say("bench.chill.core"), "core", times[keep], core[keep]),
            line(
                say("bench.chill.surroundings"),
                "surroundings",
                times[keep],
                np.full(int(keep.sum()), question.surroundings_c),
            ),
        ),
        marks=tuple(
            BenchMark(
                words=say("bench.chill.to_within", to=legal(r.to_c, "g"), within=duration(r.within_s)),
                y=r.to_c,
                x=r.deadline_s,
                failed=r.state == "fail",
            )
            for r in results
        ),
        zone=Zone(words=say("bench.chill.growth_zone"), low=limit.stages[-1].to_c, high=limit.from_c),
        y_low=min(0.0, question.surroundings_c),
    )


def map_of(question: ChillQuestion, kind: ThermalValues, limit: Cooling, times: Array, core: Array) -> MapPicture:
    depths = np.linspace(0.01, max(0.2, question.depth_m * 1.2), CELLS)
    outside = np.linspace(min(-5.0, question.surroundings_c), max(22.0, question.surroundings_c), CELLS)
    last = limit.stages[-1].to_c
    cells = []
    for depth in depths:
        fall = falls(question, kind, float(depth), times)
        ways = [fall.in_air(question, kind, float(air), times) for air in outside]
        cells.append(tuple(_span_s(times, each, limit.from_c, last) for each in ways))
    return MapPicture(
        title="chill_times",
        x_field="surroundings_c",
        y_field="depth_m",
        x_kind="temperature",
        y_kind="length",
        y_show="mm",
        x=tuple(round(float(v), 3) for v in outside),
        y=tuple(round(float(v), 5) for v in depths),
        cells=tuple(cells),
        steps=(3600, 2 * 3600, limit.stages[-1].within_s, 2 * limit.stages[-1].within_s),
        at_x=question.surroundings_c,
        at_y=question.depth_m,
        at_s=_span_s(times, core, limit.from_c, last),
    )


def _span_s(times: Array, core: Array, high_c: float, low_c: float) -> float | None:
    """From falling through the upper to falling through the lower temperature [s]."""
    if core[-1] > low_c:
        return None
    falling, at = core[::-1], times[::-1]
    begun = float(np.interp(high_c, falling, at)) if core[0] > high_c else 0.0
    return round(float(np.interp(low_c, falling, at)) - begun)


def pans_of(question: ChillQuestion, kind: ThermalValues, limit: Cooling, times: Array) -> Table:
    rows = []
    for depth in (0.025, 0.05, 0.075, 0.1, 0.15, 0.25):
        volume = question.mass_kg / kind.density_kg_m3
        cells = [mm(depth * 1000, ".0f"), joined((num(volume / depth, ".2f"), "m²"), " ")]
        for key, air in (("blast", 0.0), ("fan_fridge", 3.0), ("slurry", 0.5)):
            like = question.model_copy(
                update={"medium": key, "surroundings_c": air, "stirred": False, "covered": False, "both_sides": True}
            )
            span = _span_s(times, core_in(like, kind, depth, times), limit.from_c, limit.stages[-1].to_c)
            fits = meets(like, kind, limit, depth, times)
            cells.append(
                (say("bench.chill.over_24_h") if span is None else duration(span))
                + (say("bench.chill.in_time") if fits else say("bench.chill.too_late"))
            )
        rows.append(tuple(cells))
    return Table(
        title=say("bench.chill.the_same_food_in_pans"),
        head=(
            say("bench.chill.depth_2"),
            say("bench.chill.area"),
            say("bench.chill.blast"),
            say("bench.chill.fan_chiller"),
            say("bench.chill.ice_slurry"),
        ),
        rows=tuple(rows),
    )


def working_of(question: ChillQuestion, kind: ThermalValues, core: Array, times: Array) -> Working:
    around = medium(question.medium)
    stirred = "T = T∞ + (T0 − T∞) e^(−t/τ), τ = m c / (h A)"
    return Working(
        title=say("bench.chill.cooling"),
        formula=stirred if question.stirred else "∂T/∂t = α ∂²T/∂x², −k ∂T/∂x = h (T − T∞)",
        inputs=(
            Input(name=say("bench.chill.depth"), value=question.depth_m * 1000, unit="mm"),
            Input(name=say("bench.chill.diffusivity_name", name=kind.name), value=kind.diffusivity_m2_s, unit="m²/s"),
            Input(name=say("bench.answer.h_in", name=around.name), value=around.h_w_m2k, unit="W/m²·K"),
            Input(name=say("bench.chill.from"), value=question.start_c, unit="°C"),
            Input(name=say("bench.chill.in"), value=question.surroundings_c, unit="°C"),
        ),
        result=say(
            "bench.chill.after_2_h_after_6_h",
            interp=temp(float(np.interp(7200.0, times, core)), ".1f"),
            interp2=temp(float(np.interp(21600.0, times, core)), ".1f"),
        ),
        source=Source(citation="Newton's law of cooling; Singh & Heldman, ch. 4", tag="published")
        if question.stirred
        else CONDUCTION,
        assumptions=(
            f"h: {around.source.citation}",
            say("bench.chill.stirred_all_the_time") if question.stirred else say("bench.chill.not_stirred"),
        ),
        valid_range=say("bench.chill.to_no_freezing"),
    )
