"""Heat to the middle: will the core get there, how long, how thick, how hot, and how surely."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    MapPicture,
    SchoolAnswer,
    Table,
    Zone,
    line,
    of_whole,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.slips import warm_raw
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.food.media import Food, FoodKey, MediumKey, ShapeKey, body_of, check_medium, food, medium
from brinefrost.core.inverse import Way, coolest_c, met_s, steadily, thickest_m
from brinefrost.core.kitchen.cooked import Guests, Judged, cook_fix, fall_words, judge_cook, may_be_rare
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.kitchen.lines import Animal, PieceState, lines_of
from brinefrost.core.limits import Cooling, Hold, Lethality, Limit, Series, Verdict
from brinefrost.core.limits.come_up import rising_crossing
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.heating import Heating, safe_time_map_s
from brinefrost.core.physics.horizon import left_in_bath
from brinefrost.core.physics.properties import properties_from_composition
from brinefrost.core.physics.reservoir import Reservoir, immerse
from brinefrost.core.physics.robustness import Spread, repeat
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set, targets_for
from brinefrost.core.words import duration, joined, legal, mm, say, temp
from brinefrost.core.working import Document, Input, Sent, Source, Working

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
    "custard_baked",
    "anisakis",
    "norovirus",
]
Programme = Literal["steady", "rising", "fading"]
MAP_CELLS = 40
ALLOWED_UP_S = 14400.0  # the kitchen practice all four rule sets share
LONGEST_S = 72 * 3600.0
LEAST_CUT = 0.5  # a piece cut to less than half is another dish
MEAN_C = 30.0  # at which properties by composition are taken
ANIMALS: dict[str, Animal] = {  # whose line a food answers to where nobody says more
    "red_meat": "beef", "poultry": "poultry", "fish": "fish", "stew": "beef", "egg_sauce": "egg", "custard": "egg",
    "vegetable": "plant", "fat_meat": "other_bird", "composition": "beef",
}  # fmt: skip
WHOLE_CUTS = say("bench.heat.the_measured_core_decides_the_whole")
MEASURED = say("bench.heat.the_measured_core_decides_below_the")
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


class HeatQuestion(Sent):
    """A piece, what surrounds it, for how long, and what it must reach."""

    food: FoodKey | Literal["composition"] = field("choice", "red_meat", main=True)
    animal: Animal | Literal["by_food"] = field("choice", "by_food")
    piece: PieceState = field("choice", "whole", main=True)
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
    target: TargetKey | Literal["line"] = field("choice", "salmonella_meat", main=True)
    rule_set: RuleSetId = field("choice", "us")
    approved: bool = field("flag", False)
    guests: Guests = field("choice", "general")
    cured: bool = field("flag", False)
    altitude_m: float = field("height", 2140, -100, 4500)
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


def target_limits(key: TargetKey) -> tuple[Limit, ...]:
    """The limits of a target's key, any of which meets it: the table, and the code's own line where it has one."""
    if key == "salmonella_poultry":
        entries = rule_set("us").entries_for("cook.poultry")
        table = [entry.limit for entry in entries if isinstance(entry.limit, Lethality)]
        return (*table, *(entry.limit for entry in entries if isinstance(entry.limit, Hold)))
    topic, school_id = {
        "salmonella_meat": ("heat.salmonella_meat", "salmonella-whole-6.5"),
        "salmonella_meat_7": ("heat.salmonella_meat", "salmonella-whole-7"),
        "botulinum": ("heat.botulinum", "botulinum-ecff"),
        "botulinum_acmsf": ("heat.botulinum", "botulinum-acmsf"),
        "e_coli_acid_46": ("heat.e_coli_acid", "ecoli-acid-4.6"),
    }.get(key, (f"heat.{key}", ""))
    entries = targets_for(topic)
    return (next((entry for entry in entries if entry.limit.id == school_id), entries[0]).limit,)


def judge_target(key: TargetKey, series: Series, end_s: float) -> tuple[Limit, Verdict]:
    """The verdict on a target at a time [s]: of several limits that meet it, the one that goes best.

    Valid as each limit is.
    """
    limits = target_limits(key)
    found = [limit.evaluate(series, end_s) for limit in limits]
    best = next((i for i, verdict in enumerate(found) if verdict.state == "pass"), 0)
    return limits[best], found[best]


def answer_heat(question: HeatQuestion) -> BenchAnswer:
    """Compute the core curve and judge it: the target, the rule set's own line, the way up and the way down.

    The worst of: the target, the chosen rule set's line for this food in its state, the come-up, and, where the curve
    falls from hot, its cooling rule and the growth of *C. perfringens*; time to the target, thickest piece and coolest
    surroundings that pass, a map over both, the chance of failing, other schools, working. Raises OutOfRangeError if a
    number lies outside the range of a model, or water is hotter than it boils at the kitchen's height. Valid as
    ``heat_through``: no freezing, no crust; a planning estimate on the slow side. Carslaw & Jaeger
    (1959); each limit carries its own.
    """
    _check(question)
    kind = _food(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    h = medium(question.medium).h_w_m2k
    curve = heat_through(body, _stages(question), question.start_c, step_s=max(question.duration_s / 240, 15.0))
    heating = Heating(body, h, question.start_c, question.surroundings_c)
    series = Series.computed(curve.times_s, curve.core_c)
    found = _judge(question, series)
    steady = question.programme == "steady" and not question.recorded and question.surroundings_c > question.start_c
    would = _inverses(question, heating, found) if steady else Inverses()
    at_end = float(np.interp(question.duration_s, curve.times_s, curve.core_c))
    slip = warm_raw(question.start_c) if animal_of(question) != "plant" else ""
    return BenchAnswer(
        state=worst_of([found.state, "ask"]) if slip else found.state,
        sentence=say(
            "bench.heat.slip_sentence", slip=slip, sentence=_sentence(question, found, at_end, would.needed_s)
        ),
        reason=_reason(found, series),
        fixes=_fixes(question, found, would, heating) if steady else _course_fixes(question, found),
        figures=_figures(question, found.limit, would, at_end, steady, curve),
        pictures=_pictures(question, curve, heating, found.limit, would, steady),
        tables=_robust(question, _at_its_mean(question, heating, curve), found.limit) if steady else (),
        schools=tuple(_schools(question, series)),
        workings=(
            _working(question, body.biot(h), at_end),
            found.verdict.working,
            *(each.verdict.working for each in found.judged if each.limit.id != found.limit.id),
        ),
        caution=WHOLE_CUTS if question.target.startswith("salmonella_meat") else MEASURED,
        advisory=advisory(question.rule_set) if found.state == "advisory" else "",
    )


@dataclass(frozen=True)
class Found:
    """How one curve was judged: by its target, and by everything its rule set says."""

    limit: Limit
    verdict: Verdict
    judged: tuple[Judged, ...]
    state: AnswerState

    def first(self, *whys: str) -> Judged | None:
        """The first that stands in the way, of these."""
        return next((e for e in self.judged if e.why in whys and e.verdict.state in ("fail", "too_close")), None)


def animal_of(question: HeatQuestion) -> Animal:
    """Whose line the food answers to."""
    return ANIMALS[question.food] if question.animal == "by_food" else question.animal


def _piece(question: HeatQuestion) -> PieceState:
    """A stew is of pieces, no whole roast; a custard or egg sauce is of eggs beaten together, a ball of it one egg."""
    if question.piece != "whole" or (question.food == "custard" and question.shape == "sphere"):
        return question.piece
    return {"stew": "steak", "custard": "minced", "egg_sauce": "minced"}.get(question.food, "whole")  # type: ignore[return-value]


def _check(question: HeatQuestion) -> None:
    check_medium(question.medium, question.surroundings_c, question.altitude_m)
    if question.programme != "steady":
        check_medium(question.medium, question.final_c, question.altitude_m)
    for stage in question.later:
        check_medium(stage.medium, stage.temperature_c, question.altitude_m)


def _judge(question: HeatQuestion, series: Series) -> Found:
    animal, piece = animal_of(question), _piece(question)
    limit, verdict = _by_target(question, series)
    judged = judge_cook(question.rule_set, animal, piece, series, not question.cured, question.approved)
    states = [planned(verdict.state)]
    states += [of_whole(e.verdict) if e.why in ("way_down", "growth") else planned(e.verdict.state) for e in judged]
    cooked = worst_of(
        [s for s, e in zip(states[1:], judged, strict=True) if e.why in ("line", "trichinella", "pathogen")]
    )
    rest = worst_of([s for s, e in zip(states[1:], judged, strict=True) if e.why not in ("line", "trichinella")])
    rare = may_be_rare(animal, piece, question.rule_set) and cooked == "would_fail" and rest == "would_meet"
    state = worst_of(states)
    if rare and question.guests == "general":
        state = "advisory"
    return Found(limit, verdict, judged, state)


def _by_target(question: HeatQuestion, series: Series) -> tuple[Limit, Verdict]:
    """By the target asked for; by the rule set's own line, and what no line cooks as ready-to-eat food is."""
    end = float(series.times_s[-1])
    if question.target != "line":
        return judge_target(question.target, series, end)
    entries = lines_of(question.rule_set, animal_of(question), _piece(question), question.approved)
    limit = entries[0].limit if entries else target_limits("listeria")[0]
    return limit, limit.evaluate(series, end)


def _reason(found: Found, series: Series) -> str:
    said = [found.verdict.sentence]
    for each in found.judged:
        told = each.verdict.state in ("fail", "too_close") and each.limit.id != found.limit.id
        if told:
            said.append(say("bench.fish.title_sentence", title=each.limit.title, sentence=each.verdict.sentence))
    if found.first("way_down", "growth"):
        said.append(fall_words(found.judged, series))
    return joined(said, " ")


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
        name=say("bench.heat.by_its_composition"),
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
            raise OutOfRangeError(say("bench.heat.a_recorded_surrounding_needs_two_reading"))
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


def _inverses(question: HeatQuestion, heating: Heating, found: Found) -> Inverses:
    """What would meet the target and the rule set's line in these surroundings, by each of the three ways."""
    limits = [found.limit, *(each.limit for each in found.judged if each.why in ("line", "pathogen", "trichinella"))]
    way = _left_in(question)
    return Inverses(
        met_s(limits, way(heating)),
        thickest_m(limits, heating, question.duration_s, way),
        coolest_c(limits, heating, question.duration_s, way),
    )


def _left_in(question: HeatQuestion) -> Way:
    """A piece left where the question puts it: a loaded bath dips first, as it does in a plan."""
    if not question.load_kg or question.medium != "bath":
        return steadily
    density = _food(question).density_kg_m3

    def in_bath(heating: Heating) -> HeatCurve:
        bath = Reservoir(question.water_kg, heating.surroundings_c, heating.surroundings_c, question.heater_w)
        return left_in_bath(heating.body, heating.start_c, bath, question.load_kg, density, heating.h_w_m2k)

    return in_bath


def _sentence(question: HeatQuestion, found: Found, at_end: float, needed: float | None) -> str:
    core = say("bench.heat.the_core_is_at_after", at_end=temp(at_end, ".1f"), duration=duration(question.duration_s))
    if found.state == "would_meet":
        return say("bench.heat.should_meet_it", core=core)
    if found.state == "advisory":
        return say("bench.heat.only_with_an_advisory_for_general", core=core)
    stands = found.first("way_down", "growth")
    if found.verdict.state == "pass" and stands and not found.first("line", "way_up", "trichinella", "pathogen"):
        return say("bench.heat.cooked_then_too_long_in_the", core=core)
    slow = found.first("way_up")
    if slow is not None and slow.verdict.state == "fail" and (slow.verdict.value or 0.0) > ALLOWED_UP_S:
        return say("bench.heat.too_long_in_the_growth_zone", core=core)
    if found.verdict.state == "pass" and found.first("line", "pathogen", "trichinella"):
        line_ = found.first("line", "pathogen", "trichinella")
        assert line_ is not None  # noqa: S101 (just asked)
        return say("bench.heat.not_by_is_its_line", upper=question.rule_set.upper(), core=core, title=line_.limit.title)
    if found.state == "too_close":
        return say("bench.heat.too_close_to_call", core=core)
    return say(
        "bench.heat.will_not_meet_it",
        core=core,
        more="." if needed is None else say("bench.heat.and_it_needs", lasting=lasting(needed)),
    )


def lasting(seconds: float) -> str:
    """A time as a cook would set it: up to the next minute [s]; one figure in the sentence and in the fix.

    Valid for times from 0.
    """
    return duration(float(np.ceil(seconds / 60) * 60))


def _fixes(question: HeatQuestion, found: Found, would: Inverses, heating: Heating) -> tuple[str, ...]:
    """What a cook can do, the likeliest first: longer; then thinner; never another dish unasked."""
    if found.state == "would_meet":
        return ()
    said: list[str] = []
    cooked = found.verdict.state == "pass" and not found.first("line", "pathogen", "trichinella")
    if not cooked:
        longer = _longer(question, would)
        if longer:
            said.append(longer)
        elif would.needed_s is None:
            lines = lines_of(question.rule_set, animal_of(question), _piece(question), question.approved)
            said.append(say("bench.heat.no_time_at_this_temperature_meets"))
            said += [cook_fix(lines[0].limit)] if lines else []
        thin = _thinner(question, would)
        said += [thin] if thin else []
    slow = found.first("way_up")
    if slow is not None and (slow.verdict.value or 0.0) > ALLOWED_UP_S:
        said.append(say("bench.heat.thinner_pieces_or_a_start_from"))
    if found.first("way_down", "growth"):
        said += _fall_fixes()
    return tuple(said)


def _longer(question: HeatQuestion, would: Inverses) -> str | None:
    """The time that passes by the same judgement, not merely by its target."""
    if would.needed_s is None:
        return None
    wanted = float(np.ceil(would.needed_s / 60) * 60)
    if wanted <= question.duration_s or wanted > LONGEST_S or question.later:
        return None
    asked = question.model_copy(update={"duration_s": wanted})
    return say("bench.heat.leave_it_in_for", wanted=duration(wanted)) if _passes(asked) else None


def _thinner(question: HeatQuestion, would: Inverses) -> str | None:
    if would.thickest_m is None or question.shape not in ("slab", "cylinder", "sphere"):
        return None
    thick = float(np.floor(would.thickest_m * 1000)) / 1000
    if not LEAST_CUT * question.thickness_m <= thick < question.thickness_m:
        return None  # another dish, or no change
    asked = question.model_copy(update={"thickness_m": thick})
    return say("bench.heat.or_cut_it_to", thick=mm(1000 * thick, ".0f")) if _passes(asked) else None


def _passes(question: HeatQuestion) -> bool:
    """Whether a changed question would meet everything, way up and down included."""
    kind = _food(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    curve = heat_through(body, _stages(question), question.start_c, step_s=max(question.duration_s / 240, 15.0))
    series = Series.computed(curve.times_s, curve.core_c)
    return _judge(question, series).state == "would_meet"


def _fall_fixes() -> list[str]:
    return [
        say("bench.heat.take_it_out_while_it_is"),
        say("bench.heat.or_keep_it_hot_until_it"),
    ]


def _course_fixes(question: HeatQuestion, found: Found) -> tuple[str, ...]:
    """For a programme that changes: what stands in the way decides what is said."""
    if found.state == "would_meet":
        return ()
    said: list[str] = []
    if found.first("way_up") and question.programme != "steady":
        said.append(say("bench.heat.bring_it_to_temperature_first_hot"))
    if found.first("way_up") and question.medium == "still_fat":
        said.append(say("bench.heat.start_in_fat_that_is_already"))
    if found.verdict.state != "pass" or found.first("line", "pathogen", "trichinella"):
        lines = lines_of(question.rule_set, animal_of(question), _piece(question), question.approved)
        limit = lines[0].limit if lines and found.first("line") else found.limit
        said.append(cook_fix(limit))
    if found.first("way_down", "growth"):
        said += _fall_fixes()
    said.append(say("bench.heat.log_the_core_of_the_thickest"))
    return tuple(said)


def _figures(
    question: HeatQuestion, limit: Limit, would: Inverses, at_end: float, steady: bool, curve: HeatCurve
) -> tuple[Figure, ...]:
    top = max(80.0, question.surroundings_c + 5)
    core = Figure(
        name=say("bench.heat.core_at_end"),
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
                name=say("bench.heat.time_to_core"),
                value=reached,
                kind="time",
                show="h",
                words=say("bench.heat.to_wanted_core", wanted_core=temp(question.wanted_core_c, "g")),
                absent=say("bench.heat.never_in_this_time"),
            ),
        )
    hottest = Figure(
        name=say("bench.heat.hottest_core"), value=round(float(np.max(curve.core_c)), 2), kind="temperature"
    )
    if not steady:
        return (core, hottest, *wanted)
    return (
        core,
        Figure(
            name=say("bench.eggs.time_needed"),
            value=would.needed_s,
            kind="time",
            show="h",
            main=True,
            absent=say("bench.heat.not_within_48_h"),
        ),
        Figure(
            name=say("bench.eggs.thickest"),
            value=would.thickest_m,
            kind="length",
            show="mm",
            absent=say("bench.chill.none_passes"),
        ),
        Figure(
            name=say("bench.heat.coolest"),
            value=would.coolest_c,
            kind="temperature",
            absent=say("bench.heat.none_up_to"),
        ),
        *((hottest,) if (hottest.value or 0.0) > at_end + 0.05 else ()),
        *wanted,
    )


def _pictures(
    question: HeatQuestion, curve: HeatCurve, heating: Heating, limit: Limit, would: Inverses, steady: bool
) -> tuple[CurvePicture | MapPicture, ...]:
    cooling = rule_set(question.rule_set).limit_as("chill.cooked", Cooling)
    zone = Zone(words=say("bench.chill.growth_zone"), low=5.0, high=cooling.from_c)
    marks = [
        BenchMark(
            words=say("bench.heat.counts_from", counts_from=legal(counts_from_c(limit), "g")),
            y=counts_from_c(limit),
            x=would.needed_s,
        )
    ]
    picture = CurvePicture(
        title=say("bench.heat.core_curve"),
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
        title=say("bench.heat.safe_times"),
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


def _at_its_mean(question: HeatQuestion, heating: Heating, curve: HeatCurve) -> Heating:
    """The bath taken steady at its mean, dip included, as a plan's is when it is repeated."""
    bath = float(np.mean(curve.surroundings_c[: curve.ends[0] + 1]))
    return replace(heating, surroundings_c=bath) if question.load_kg else heating


def _robust(question: HeatQuestion, heating: Heating, limit: Limit) -> tuple[Table, ...]:
    if not isinstance(limit, Lethality):
        return ()
    spread = Spread(
        question.spread_thickness_m, question.spread_start_c, question.spread_bath_c, question.spread_probe_c
    )
    done = repeat(heating, limit.model.law(), question.duration_s, spread)
    few, half, most = (minutes_told(float(v)) for v in done.lethality_min)
    goal = limit.model.law().goal_min
    rows = [
        (
            say("bench.heat.chance_of_failing"),
            f"{100 * done.failing_share:.1f} %",
            f"± {200 * done.failing_error:.1f} %",
        ),
        (
            say("bench.heat.lethality_5_in_100_get_less"),
            say("bench.heat.few_min", few=few),
            say("bench.heat.goal_min", minutes_told=minutes_told(goal)),
        ),
        (say("bench.heat.lethality_half_get_less_than"), say("bench.heat.half_min", half=half), ""),
        (say("bench.heat.lethality_95_in_100_get_less"), say("bench.heat.most_min", most=most), ""),
        *(
            (say("bench.chill.share_of_the_spread_from", name=name), f"{100 * share:.0f} %", "")
            for name, share in done.matters
        ),
    ]
    return (Table(title=say("bench.chill.if_it_varies_10_000_times"), head=("", "", ""), rows=tuple(rows)),)


def minutes_told(minutes: float) -> str:
    """Minutes [min] as people read them: no powers of ten, and no more figures than matter.

    Valid from 0.
    """
    return f"{minutes:,.0f}" if minutes >= 100 else f"{minutes:.1f}" if minutes >= 10 else f"{minutes:.2f}"


def _schools(question: HeatQuestion, series: Series) -> Iterator[SchoolAnswer]:
    end = float(series.times_s[-1])
    for set_id in RULE_SET_IDS:
        for entry in lines_of(set_id, animal_of(question), _piece(question)):
            told = school(set_id.upper(), entry.limit, entry.limit.evaluate(series, end))
            yield told.model_copy(
                update={
                    "sentence": say("bench.heat.sentence_approval", sentence=told.sentence, approval=entry.approval)
                }
            )
    if question.target.startswith("botulinum"):
        for entry in targets_for("heat.botulinum"):
            yield school(entry.school, entry.limit, entry.limit.evaluate(series, end))


def _working(question: HeatQuestion, biot: float, at_end: float) -> Working:
    kind, around = _food(question), medium(question.medium)
    return Working(
        title=say("bench.heat.core_temperature"),
        formula=say("bench.heat.t_t_t_k_t_n"),
        inputs=(
            Input(name=say("bench.heat.thickness_or_diameter"), value=question.thickness_m * 1000, unit="mm"),
            Input(name=say("bench.chill.diffusivity_name", name=kind.name), value=kind.diffusivity_m2_s, unit="m²/s"),
            Input(name=say("bench.heat.conductivity_k"), value=kind.conductivity_w_mk, unit="W/m·K"),
            Input(name=f"h, {around.name}", value=around.h_w_m2k, unit="W/m²·K"),
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
