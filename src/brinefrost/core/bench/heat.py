"""Heat to the middle: will the core get there, how long, how thick, how hot, and how surely."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from brinefrost.core.bench.answer import (
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    MapPicture,
    SchoolAnswer,
    Table,
    Zone,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.fields import field
from brinefrost.core.bench.media import Food, FoodKey, MediumKey, ShapeKey, body_of, food, medium
from brinefrost.core.bench.steady import counts_from_c, needed_s
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import ComeUp, Cooling, Lethality, Limit, Series
from brinefrost.core.limits.come_up import rising_crossing
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.heating import (
    Heating,
    coolest_c,
    safe_time_map_s,
    thickest_m,
)
from brinefrost.core.physics.properties import properties_from_composition
from brinefrost.core.physics.reservoir import Reservoir, immerse
from brinefrost.core.physics.robustness import Spread, repeat
from brinefrost.core.rules import RULE_SET_IDS, RuleEntry, RuleSetId, rule_set, targets_for
from brinefrost.core.working import Document, Input, Source, Working, clock

TargetKey = Literal[
    "listeria",
    "salmonella_meat",
    "salmonella_meat_7",
    "salmonella_poultry",
    "botulinum",
    "botulinum_acmsf",
    "trichinella",
    "egg_yolk",
    "egg_yolk_salted",
    "egg_whole",
    "egg_white",
    "egg_shell",
    "e_coli_acid",
    "e_coli_acid_46",
    "custard",
    "anisakis",
    "norovirus",
]
Programme = Literal["steady", "rising", "fading"]
MAP_CELLS = 40
MEAN_C = 30.0  # at which properties by composition are taken
WHOLE_CUTS = (
    "The measured core decides. Poultry, wild game and anything minced, rolled or injected follow their own rule, not "
    "the whole-cut table."
)
MEASURED = "The measured core decides; below the published temperatures approval is usually needed."
CONDUCTION = Source(citation="Carslaw & Jaeger, Conduction of Heat in Solids (1959), ch. III, VII, IX", tag="published")


class LaterStage(Document):
    """What comes after: rest, another heat, a chill."""

    medium: MediumKey = field("choice", "bench")
    temperature_c: float = field("temperature", 20, -5, 120)
    duration_s: float = field("time", 1800, 60, 72 * 3600, "min")


class Recorded(Document):
    """One reading of what surrounded the food."""

    time_s: float = field("time", 0, 0, 72 * 3600, "min")
    temperature_c: float = field("temperature", 20, -5, 250)


class HeatQuestion(Document):
    """A piece, what surrounds it, for how long, and what it must reach."""

    food: FoodKey | Literal["composition"] = field("choice", "red_meat", main=True)
    water_percent: float = field("percent", 70, 0, 100, step=1, only={"food": ("composition",)}, main=True)
    protein_percent: float = field("percent", 20, 0, 100, step=1, only={"food": ("composition",)})
    fat_percent: float = field("percent", 9, 0, 100, step=1, only={"food": ("composition",)}, main=True)
    carbohydrate_percent: float = field("percent", 0, 0, 100, step=1, only={"food": ("composition",)})
    ash_percent: float = field("percent", 1, 0, 30, step=0.5, only={"food": ("composition",)})
    shape: ShapeKey = field("choice", "cylinder", main=True)
    thickness_m: float = field("length", 0.05, 0.003, 0.3, "mm", 0.001, main=True)
    length_m: float = field("length", 0.15, 0.003, 0.6, "mm", 0.005, only={"shape": ("finite_cylinder", "brick")})
    width_m: float = field("length", 0.1, 0.003, 0.6, "mm", 0.005, only={"shape": ("brick",)})
    start_c: float = field("temperature", 5, -2, 60, step=0.5, main=True)
    medium: MediumKey = field("choice", "bath", main=True)
    surroundings_c: float = field("temperature", 57, 0, 120, step=0.5, main=True)
    duration_s: float = field("time", 3600, 60, 72 * 3600, "min", 300, main=True)
    wanted_core_c: float | None = field("temperature", None, 0, 120)
    target: TargetKey = field("choice", "salmonella_meat", main=True)
    rule_set: RuleSetId = field("choice", "us")
    programme: Programme = field("choice", "steady")
    final_c: float = field("temperature", 30, 0, 120, only={"programme": ("rising", "fading")})
    fading_s: float = field("time", 4 * 3600, 600, 48 * 3600, "h", only={"programme": ("fading",)})
    load_kg: float = field("mass", 0, 0, 200, "kg", only={"medium": ("bath",)})
    water_kg: float = field("mass", 20, 2, 2000, "kg", only={"medium": ("bath",)})
    heater_w: float = field("number", 2000, 0, 60000, "W", only={"medium": ("bath",)})
    recorded: tuple[Recorded, ...] = field("rows", (), most=200, file="surroundings")
    later: tuple[LaterStage, ...] = field("rows", (), most=6)
    spread_thickness_m: float = field("length", 0.002, 0, 0.05, "mm", 0.001)
    spread_start_c: float = field("difference", 1, 0, 10, step=0.5)
    spread_bath_c: float = field("difference", 0.3, 0, 5, step=0.1)
    spread_probe_c: float = field("difference", 0.25, 0, 5, step=0.05)


@dataclass(frozen=True)
class Inverses:
    """What would pass: the time, the thickest piece, the coolest surroundings; None where nothing does."""

    needed_s: float | None = None
    thickest_m: float | None = None
    coolest_c: float | None = None


def target_entry(key: TargetKey) -> RuleEntry:
    """The limit of a target's key."""
    if key == "salmonella_poultry":
        return rule_set("us").entries_for("cook.poultry")[0]
    topic, school_id = {
        "salmonella_meat": ("heat.salmonella_meat", "salmonella-whole-6.5"),
        "salmonella_meat_7": ("heat.salmonella_meat", "salmonella-whole-7"),
        "botulinum": ("heat.botulinum", "botulinum-ecff"),
        "botulinum_acmsf": ("heat.botulinum", "botulinum-acmsf"),
        "e_coli_acid_46": ("heat.e_coli_acid", "ecoli-acid-4.6"),
    }.get(key, (f"heat.{key}", ""))
    entries = targets_for(topic)
    return next((entry for entry in entries if entry.limit.id == school_id), entries[0])


def answer_heat(question: HeatQuestion) -> BenchAnswer:
    """Compute the core curve and judge it.

    Parameters
    ----------
    question : HeatQuestion
        Lengths [m], temperatures [°C], times [s].

    Returns
    -------
    BenchAnswer
        Verdict on the target, time to it, thickest piece and coolest surroundings that pass, a map over both,
        the chance of failing, other schools, working.

    Raises
    ------
    OutOfRangeError
        If a number lies outside the range of a model.

    Notes
    -----
    Valid as ``heat_through``: no freezing, no crust; a planning estimate on the slow side.

    References
    ----------
    Carslaw & Jaeger (1959); each limit carries its own.
    """
    kind = _food(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    h = medium(question.medium).h_w_m2k
    curve = heat_through(body, _stages(question), question.start_c, step_s=max(question.duration_s / 240, 15.0))
    heating = Heating(body, h, question.start_c, question.surroundings_c)
    limit = target_entry(question.target).limit
    series = Series(curve.times_s, curve.core_c, 0.0, 0.0, True, np.inf, "computed")
    verdict = limit.evaluate(series, float(curve.times_s[-1]))
    steady = question.programme == "steady" and not question.recorded and question.surroundings_c > question.start_c
    would = _inverses(question, heating, limit) if steady else Inverses()
    come_up = rule_set(question.rule_set).limit_as("come_up", ComeUp)
    warmed = come_up.evaluate(series, float(curve.times_s[-1]))
    # a core that never gets through the growth zone fails by its target already; too slow a way there fails by itself
    too_slow = warmed.state == "fail" and warmed.value is not None and warmed.value > come_up.within_s
    met = verdict.state == "pass"
    at_end = float(np.interp(question.duration_s, curve.times_s, curve.core_c))
    return BenchAnswer(
        state=worst_of([planned(verdict.state), "would_fail" if too_slow else "would_meet"]),
        sentence=_sentence(question, met, at_end, would.needed_s, too_slow),
        reason=verdict.sentence + (f" {warmed.sentence}" if too_slow else ""),
        fixes=tuple(
            _slow_fixes(question) if too_slow or not (steady or met) else [] if met else _fixes(question, would)
        ),
        figures=_figures(question, limit, would, at_end, steady, curve),
        pictures=_pictures(question, curve, heating, limit, would, steady),
        tables=_robust(question, heating, limit) if steady else (),
        schools=tuple(_schools(question, series)),
        workings=(_working(question, body.biot(h), at_end), verdict.working, warmed.working),
        caution=WHOLE_CUTS if question.target.startswith("salmonella_meat") else MEASURED,
    )


def _food(question: HeatQuestion) -> Food:
    """The food as tabled, or worked out from what it is made of."""
    if question.food != "composition":
        return food(question.food)
    shares = {
        "water": question.water_percent,
        "protein": question.protein_percent,
        "fat": question.fat_percent,
        "carbohydrate": question.carbohydrate_percent,
        "ash": question.ash_percent,
    }
    found = properties_from_composition({name: share / 100 for name, share in shares.items()}, MEAN_C)
    return Food(
        key="composition",
        name="by its composition",
        diffusivity_m2_s=found.diffusivity_m2_s,
        conductivity_w_mk=found.conductivity_w_mk,
        density_kg_m3=found.density_kg_m3,
        heat_capacity_j_kgk=found.heat_capacity_j_kgk,
        source=Source(citation="Choi & Okos (1986), at 30 °C, parallel model", tag="published"),
    )


def _stages(question: HeatQuestion) -> list[Stage]:
    h = medium(question.medium).h_w_m2k
    first: Stage
    if question.recorded:
        rows = sorted(question.recorded, key=lambda row: row.time_s)
        times, air = np.array([r.time_s for r in rows]), np.array([r.temperature_c for r in rows])
        if len(rows) < 2 or np.any(np.diff(times) <= 0):
            raise OutOfRangeError("A recorded surrounding needs two readings or more at different times.")
        first = Stage(times - times[0], air, h)
    elif question.programme == "rising":
        first = Stage.ramp(question.duration_s, question.surroundings_c, question.final_c, h)
    elif question.programme == "fading":
        first = Stage.fading(question.duration_s, question.surroundings_c, question.final_c, question.fading_s, h)
    elif question.medium == "bath" and question.load_kg > 0:
        first = _dipping(question, h)
    else:
        first = Stage.steady(question.duration_s, question.surroundings_c, h)
    later = [Stage.steady(s.duration_s, s.temperature_c, medium(s.medium).h_w_m2k) for s in question.later]
    return [first, *later]


def _dipping(question: HeatQuestion, h: float) -> Stage:
    kind = _food(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    bath = Reservoir(question.water_kg, question.surroundings_c, question.surroundings_c, question.heater_w)
    return immerse(body, question.load_kg, kind.density_kg_m3, question.start_c, h, bath, question.duration_s)


def _inverses(question: HeatQuestion, heating: Heating, limit: Limit) -> Inverses:
    """What would meet the target in these surroundings, by each of the three ways."""
    needed = needed_s(heating, limit)
    if not isinstance(limit, Lethality):
        return Inverses(needed)
    law = limit.model.law()
    return Inverses(needed, thickest_m(heating, law, question.duration_s), coolest_c(heating, law, question.duration_s))


def _sentence(question: HeatQuestion, met: bool, at_end: float, needed: float | None, too_slow: bool) -> str:
    core = f"the core is at {at_end:.1f} °C after {clock(question.duration_s)}"
    if too_slow:
        return f"Too long in the growth zone on the way: {core}."
    if met:
        return f"Should meet it: {core}."
    return f"Will not meet it: {core}" + ("." if needed is None else f", and it needs {clock(needed)}.")


def _remedies(question: HeatQuestion, would: Inverses, met: bool, steady: bool) -> tuple[str, ...]:
    if met:
        return ()
    return tuple(_fixes(question, would) if steady else _slow_fixes(question))


def _fixes(question: HeatQuestion, would: Inverses) -> list[str]:
    if would.needed_s is None:
        said = ["No time at this temperature meets it within 48 h: it must be hotter."]
    else:
        said = [f"Leave it in for {clock(float(np.ceil(would.needed_s / 300) * 300))}."]
    if would.thickest_m:
        said.append(f"Or cut it to {np.floor(would.thickest_m * 1000):.0f} mm.")
    if would.coolest_c and would.coolest_c > question.surroundings_c:
        said.append(f"Or raise the surroundings to {np.ceil(would.coolest_c * 2) / 2:.1f} °C.")
    return said


def _slow_fixes(question: HeatQuestion) -> list[str]:
    said = [
        "Bring it to temperature first, hot, then let the oven fade.",
        "Put a probe in the thickest piece and log it all night.",
    ]
    if question.medium == "still_fat":
        said.append("Start in fat that is already hot, in one layer, with the legs at fridge temperature.")
    return said


def _figures(
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
    wanted: tuple[Figure, ...] = ()
    if question.wanted_core_c is not None:
        reached = rising_crossing(curve.times_s, curve.core_c, question.wanted_core_c)
        wanted = (
            Figure(
                name="time_to_core",
                value=reached,
                kind="time",
                show="h",
                words=f"to {question.wanted_core_c:g} °C",
                absent="never in this time",
            ),
        )
    hottest = Figure(name="hottest_core", value=round(float(np.max(curve.core_c)), 2), kind="temperature")
    if not steady:
        return (core, hottest, *wanted)
    return (
        core,
        Figure(name="time_needed", value=would.needed_s, kind="time", show="h", main=True, absent="not within 48 h"),
        Figure(name="thickest", value=would.thickest_m, kind="length", show="mm", absent="none passes"),
        Figure(name="coolest", value=would.coolest_c, kind="temperature", absent="none up to 100 °C"),
        *((hottest,) if (hottest.value or 0.0) > at_end + 0.05 else ()),
        *wanted,
    )


def _pictures(
    question: HeatQuestion, curve: HeatCurve, heating: Heating, limit: Limit, would: Inverses, steady: bool
) -> tuple[CurvePicture | MapPicture, ...]:
    cooling = rule_set(question.rule_set).limit_as("chill.cooked", Cooling)
    zone = Zone(words="growth zone", low=5.0, high=cooling.from_c)
    marks = [BenchMark(words=f"counts from {counts_from_c(limit):g} °C", y=counts_from_c(limit), x=would.needed_s)]
    picture = CurvePicture(
        title="core_curve",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line("core", "core", curve.times_s, curve.core_c),
            line("surface", "surface", curve.times_s, curve.surface_c),
            line("surroundings", "surroundings", curve.times_s, curve.surroundings_c),
        ),
        marks=tuple(marks),
        zone=zone,
        y_low=0,
    )
    if not (steady and isinstance(limit, Lethality)):
        return (picture,)
    return (picture, _map(question, heating, limit))


def _map(question: HeatQuestion, heating: Heating, limit: Lethality) -> MapPicture:
    law = limit.model.law()
    thick = np.linspace(0.005, max(0.1, min(question.thickness_m * 1.2, 0.3)), MAP_CELLS)
    low = max(law.knots_c[0], question.start_c + 1)
    baths = np.linspace(low, max(low + 20, min(question.surroundings_c + 3, 120)), MAP_CELLS)
    times: Array = safe_time_map_s(heating, law, thick, baths)
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
    )


def _robust(question: HeatQuestion, heating: Heating, limit: Limit) -> tuple[Table, ...]:
    if not isinstance(limit, Lethality):
        return ()
    spread = Spread(
        question.spread_thickness_m, question.spread_start_c, question.spread_bath_c, question.spread_probe_c
    )
    done = repeat(heating, limit.model.law(), question.duration_s, spread)
    few, half, most = (float(v) for v in done.lethality_min)
    goal = limit.model.law().goal_min
    rows = [
        ("Chance of failing", f"{100 * done.failing_share:.1f} %", f"± {200 * done.failing_error:.1f} %"),
        ("Lethality, 5 in 100 get less than", f"{few:.2g} min", f"goal {goal:.3g} min"),
        ("Lethality, half get less than", f"{half:.2g} min", ""),
        ("Lethality, 95 in 100 get less than", f"{most:.2g} min", ""),
        *((f"Share of the spread from {name}", f"{100 * share:.0f} %", "") for name, share in done.matters),
    ]
    return (Table(title="If it varies, 10,000 times over", head=("", "", ""), rows=tuple(rows)),)


def _schools(question: HeatQuestion, series: Series) -> Iterator[SchoolAnswer]:
    topic = "cook.poultry" if question.target == "salmonella_poultry" else "cook.whole"
    end = float(series.times_s[-1])
    for set_id in RULE_SET_IDS:
        for entry in rule_set(set_id).entries_for(topic):
            yield school(set_id.upper(), entry.limit, entry.limit.evaluate(series, end))
    if question.target.startswith("botulinum"):
        for entry in targets_for("heat.botulinum"):
            yield school(entry.school, entry.limit, entry.limit.evaluate(series, end))


def _working(question: HeatQuestion, biot: float, at_end: float) -> Working:
    kind, around = _food(question), medium(question.medium)
    return Working(
        title="Core temperature",
        formula="∂T/∂t = α ∇²T, −k ∂T/∂n = h (T − T∞(t)) at the surface",
        inputs=(
            Input(name="thickness or diameter", value=question.thickness_m * 1000, unit="mm"),
            Input(name=f"diffusivity α, {kind.name}", value=kind.diffusivity_m2_s, unit="m²/s"),
            Input(name="conductivity k", value=kind.conductivity_w_mk, unit="W/m·K"),
            Input(name=f"h, {around.name}", value=around.h_w_m2k, unit="W/m²·K"),
            Input(name="start", value=question.start_c, unit="°C"),
            Input(name="Biot number", value=round(biot, 3)),
        ),
        result=f"{at_end:.1f} °C at the core after {clock(question.duration_s)}",
        source=CONDUCTION,
        assumptions=(
            "heat from every side",
            "values on the slow side",
            f"α: {kind.source.citation}",
            f"h: {around.source.citation}",
        ),
        valid_range="3 to 300 mm, no freezing",
    )
