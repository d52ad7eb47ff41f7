"""Cooling: will it make both marks, how deep may it be, what ice and what chiller it takes."""

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
    chance,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.chill_fall import (
    AMBIENT_C,
    CELLS,
    HORIZON_S,
    PORTION_KG,
    body_in,
    chiller_w,
    core_in,
    falls,
    first_load_w,
)
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.heat_question import CONDUCTION
from brinefrost.core.food.media import LIGHT_KG, Food, check_medium, food, medium
from brinefrost.core.limits import Cooling, Series, Verdict
from brinefrost.core.physics.body import Array, Shape
from brinefrost.core.physics.cooling import chiller_load_w
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.reservoir import ice_needed_kg
from brinefrost.core.physics.robustness import NO_LOAD, Spread, repeat_chill
from brinefrost.core.roots import changeover
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set, targets_for
from brinefrost.core.words import duration, joined, kg, legal, mm, num, percent, say, temp
from brinefrost.core.working import Input, Source, Working

MEATS = ("red_meat", "poultry", "stew", "fat_meat")
LEAST_CUT = 0.5


def answer_chill(question: ChillQuestion) -> BenchAnswer:
    """Compute the cooling curve and judge it by every rule set.

    Verdict on the rule set's marks, the deepest pan that passes, ice, chiller load, estimated growth of *C.
    perfringens*. Raises OutOfRangeError if a number lies outside the range of a model. Valid for food that does not
    freeze. Unstirred food cools as a slab from both faces, or from one when it stands on something that does not cool
    it; a deep pot also cools through its side, which is left out, on the slow side, unless it is stirred. Carslaw &
    Jaeger (1959); Newton's law of cooling; each limit carries its own.
    """
    check_medium(question.medium, question.surroundings_c, 0.0)
    kind = food(question.food)
    times = np.concatenate(([0.0], np.geomspace(30.0, HORIZON_S, 500)))
    core = core_in(question, kind, question.depth_m, times)
    limit = rule_of(question.rule_set, question.start_c)
    series = _series(question, limit, times, core)
    verdict = _judged(limit, series)
    unsaid = _unsaid(question, limit)
    growth = targets_for("grow.perfringens")[0].limit.evaluate(series, HORIZON_S)
    grows = question.uncured == "yes" and growth.state == "fail" and question.food in MEATS
    deepest = _deepest_m(question, kind, limit, times)
    met = verdict.state == "pass"
    return BenchAnswer(
        state=worst_of(
            [planned(verdict.state), "would_fail" if grows else "would_meet", "ask" if unsaid else "would_meet"]
        ),
        sentence=say("bench.chill.unsaid_sentence", unsaid=unsaid, sentence=verdict.sentence)
        if met and not grows
        else say("bench.chill.will_not_make_it", more=growth.sentence if met else verdict.sentence),
        reason=joined(
            (
                part
                for part in (growth.sentence if question.uncured == "yes" else "", _load_words(question, kind))
                if part
            ),
            " ",
        ),
        fixes=() if met else _fixes(question, kind, limit, deepest, times),
        figures=_figures(question, kind, limit, series, deepest),
        pictures=(_picture(question, limit, times, core), _map(question, kind, limit, times, core)),
        tables=(_pans(question, kind, limit, times), *_robust(question, kind, limit)),
        schools=tuple(_schools(series, question)),
        workings=(_working(question, kind, core, times), verdict.working, growth.working),
        caution=say("bench.chill.the_warmest_part_decides_the_middle"),
    )


def rule_of(rule_set_id: RuleSetId, start_c: float) -> Cooling:
    """The cooling a food answers to by how warm it begins [°C]: cooked and hot, or made at room temperature.

    Valid for every start.
    """
    topic = "chill.ambient" if start_c <= AMBIENT_C else "chill.cooked"
    return rule_set(rule_set_id).limit_as(topic, Cooling)


def _unsaid(question: ChillQuestion, limit: Cooling) -> str:
    """What to ask about food that is below the hot line already: its clock runs since it left it."""
    if question.waited_s is not None or not AMBIENT_C < question.start_c < limit.from_c:
        return ""
    return say(
        "bench.chill.at_it_is_below_already_and", start=temp(question.start_c, "g"), from_=legal(limit.from_c, "g")
    )


def _series(question: ChillQuestion, limit: Cooling, times_s: Array, core_c: Array) -> Series:
    """The curve to be judged: with the time since it left the hot line in front, where that is known."""
    waited = _waited_s(question, limit)
    if waited:
        times_s, core_c = np.append(0.0, times_s + waited), np.append(max(limit.from_c, question.start_c), core_c)
    return Series.computed(times_s, core_c)


def _waited_s(question: ChillQuestion, limit: Cooling) -> float | None:
    """How long its clock ran before it goes into the cold [s]; None where it starts there."""
    runs = limit.from_end_of_cooking or question.start_c < limit.from_c
    return question.waited_s if runs and question.start_c > AMBIENT_C else None


def _load_words(question: ChillQuestion, kind: Food) -> str:
    power, most = chiller_w(question), first_load_w(question, kind)
    if not np.isfinite(power) or most <= power:
        return ""
    whose = (
        say("bench.chill.as_entered")
        if question.chiller_w is not None
        else say("bench.chill.taken_as_usual_for_its_kind")
    )
    return say(
        "bench.chill.at_first_it_gives_off_kw",
        most=num(most / 1000, ".1f"),
        power=num(power / 1000, ".1f"),
        whose=whose,
    )


def _judged(limit: Cooling, series: Series) -> Verdict:
    """The whole curve; where it fails, as it stands when the first mark it misses is due."""
    missed = next((r for r in limit.results(series, HORIZON_S) if r.state == "fail"), None)
    if missed is None or missed.deadline_s is None:
        return limit.evaluate(series, HORIZON_S)
    due = missed.deadline_s + 1.0
    times = np.append(series.times_s[series.times_s < due], due)
    core = np.interp(times, series.times_s, series.values)
    return limit.evaluate(Series.computed(times, core), due + 1.0)


def _robust(question: ChillQuestion, kind: Food, limit: Cooling) -> tuple[Table, ...]:
    """How often it misses a mark, if depth, start, air and probe vary."""
    if question.stirred or question.surroundings_c >= limit.stages[-1].to_c:
        return ()
    body = body_in(question, kind, question.depth_m)
    chilling = Heating(body, medium(question.medium).h_w_m2k, question.start_c, question.surroundings_c)
    spread = Spread(
        question.spread_thickness_m, question.spread_start_c, question.spread_bath_c, question.spread_probe_c
    )
    stages = tuple((stage.to_c, stage.within_s, stage.further) for stage in limit.stages)
    power, capacity = chiller_w(question), question.mass_kg * kind.heat_capacity_j_kgk
    light = question.mass_kg <= LIGHT_KG and question.chiller_w is None
    share, error, matters = repeat_chill(
        chilling,
        limit.from_c,
        stages,
        spread,
        waited_s=_waited_s(question, limit),
        load=NO_LOAD if light else (capacity, power),
    )
    rows = [(say("bench.chill.chance_of_missing_a_mark"), *chance(share, error))]
    rows += [
        (say("bench.chill.share_of_the_spread_from", name=name), percent(100 * part), "") for name, part in matters
    ]
    return (Table(title=say("bench.chill.if_it_varies_10_000_times"), head=("", "", ""), rows=tuple(rows)),)


def _meets(question: ChillQuestion, kind: Food, limit: Cooling, depth_m: float, times_s: Array) -> bool:
    series = _series(question, limit, times_s, core_in(question, kind, depth_m, times_s))
    return limit.evaluate(series, HORIZON_S).state == "pass"


def _deepest_m(question: ChillQuestion, kind: Food, limit: Cooling, times_s: Array) -> float | None:
    if question.stirred or body_in(question, kind, question.depth_m).shape is not Shape.slab:
        return None  # a portion or mould of one mass only grows narrower as it grows deeper
    return changeover(lambda d: _meets(question, kind, limit, d, times_s), 0.4, 0.003, 5e-4)


def _fixes(question: ChillQuestion, kind: Food, limit: Cooling, deepest: float | None, times: Array) -> tuple[str, ...]:
    """What passes by the same judgement, the likeliest first."""
    said = []
    if question.covered and _meets(
        question.model_copy(update={"covered": False}), kind, limit, question.depth_m, times
    ):
        said.append(say("bench.chill.take_the_cover_off_until_it"))
    if chiller_w(question) < first_load_w(question, kind):
        most = changeover(
            lambda kg: _meets(question.model_copy(update={"mass_kg": kg}), kind, limit, question.depth_m, times),
            question.mass_kg,
            max(0.2, question.mass_kg / 50),
            max(0.1, question.mass_kg / 200),
        )
        if most is not None and most < question.mass_kg:
            said.append(say("bench.chill.chill_at_most_at_once_in", most=kg(most, ".0f")))
    where = medium(question.medium).name
    if (deepest and deepest >= LEAST_CUT * question.depth_m) or (
        question.shape == "pan" and deepest and not _small(question)
    ):
        said.append(say("bench.chill.in_this_it_would_have_to", where=where, floor=mm(np.floor(deepest * 1000), ".0f")))
    pans = question.model_copy(
        update={"medium": "blast", "surroundings_c": 0.0, "stirred": False, "covered": False, "both_sides": True}
    )
    if question.medium not in ("slurry", "blast") and _meets(pans, kind, limit, min(question.depth_m, 0.05), times):
        said.append(say("bench.chill.in_a_blast_chiller_deep_or"))
    if not said:
        said.append(say("bench.chill.smaller_pieces_or_portions_half_the"))
    said.append(say("bench.chill.do_not_stack_do_not_cover"))
    return tuple(said)


def _small(question: ChillQuestion) -> bool:
    return question.mass_kg / question.pans <= PORTION_KG


def _figures(
    question: ChillQuestion, kind: Food, limit: Cooling, series: Series, deepest: float | None
) -> tuple[Figure, ...]:
    found = list(_to_marks(limit, series))
    if deepest or (not question.stirred and question.shape == "pan" and not _small(question)):
        found.append(
            Figure(
                name=say("bench.chill.deepest"),
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


def _to_take_out(question: ChillQuestion, kind: Food, limit: Cooling) -> tuple[Figure, ...]:
    """The ice, or the chiller's power, that takes its heat out; nothing where it is cold from the start."""
    capacity, last = kind.heat_capacity_j_kgk, limit.stages[-1]
    if question.start_c <= last.to_c:
        return ()
    return (
        Figure(
            name=say("bench.chill.ice_needed"),
            kind="mass",
            show="kg",
            words=say("bench.chill.half_again_for_the_room_included"),
            value=1.5 * ice_needed_kg(question.mass_kg, capacity, question.start_c, last.to_c),
        ),
        Figure(
            name=say("bench.chill.chiller_load"),
            kind="number",
            show="W",
            words=say("bench.chill.mean_over", within=duration(last.within_s)),
            value=chiller_load_w(question.mass_kg, capacity, question.start_c, last.to_c, last.within_s),
        ),
    )


def _picture(question: ChillQuestion, limit: Cooling, times: Array, core: Array) -> CurvePicture:
    series = _series(question, limit, times, core)
    start = limit.clock_start_s(series) or 0.0
    results = limit.results(series, HORIZON_S)
    last = max([limit.stages[-1].within_s + start, *(r.reached_s or 0.0 for r in results)]) * 1.1
    keep = times <= last
    return CurvePicture(
        title=say("bench.chill.chill_curve"),
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


def _map(question: ChillQuestion, kind: Food, limit: Cooling, times: Array, core: Array) -> MapPicture:
    depths = np.linspace(0.01, max(0.2, question.depth_m * 1.2), CELLS)
    outside = np.linspace(min(-5.0, question.surroundings_c), max(22.0, question.surroundings_c), CELLS)
    last = limit.stages[-1].to_c
    cells = []
    for depth in depths:
        fall = falls(question, kind, float(depth), times)
        ways = [fall.in_air(question, kind, float(air), times) for air in outside]
        cells.append(tuple(_span_s(times, each, limit.from_c, last) for each in ways))
    return MapPicture(
        title=say("bench.chill.chill_times"),
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


def _pans(question: ChillQuestion, kind: Food, limit: Cooling, times: Array) -> Table:
    rows = []
    for depth in (0.025, 0.05, 0.075, 0.1, 0.15, 0.25):
        volume = question.mass_kg / kind.density_kg_m3
        cells = [mm(depth * 1000, ".0f"), f"{volume / depth:.2f} m²"]
        for key, air in (("blast", 0.0), ("fan_fridge", 3.0), ("slurry", 0.5)):
            like = question.model_copy(
                update={"medium": key, "surroundings_c": air, "stirred": False, "covered": False, "both_sides": True}
            )
            span = _span_s(times, core_in(like, kind, depth, times), limit.from_c, limit.stages[-1].to_c)
            fits = _meets(like, kind, limit, depth, times)
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


def _schools(series: Series, question: ChillQuestion) -> list[SchoolAnswer]:
    uncured = question.uncured == "yes"
    found = []
    for set_id in RULE_SET_IDS:
        limit = rule_of(set_id, question.start_c)
        found.append(school(set_id.upper(), limit, _judged(limit, series)))
    if question.start_c <= AMBIENT_C:
        return found
    for entry in targets_for("cool.appendix_b"):
        if (entry.school == "cured") != uncured:
            verdict = entry.limit.evaluate(series, HORIZON_S)
            if isinstance(entry.limit, Cooling):
                verdict = _judged(entry.limit, series)
            found.append(school(say("bench.chill.fsis_school", school=entry.school), entry.limit, verdict))
    return found


def _working(question: ChillQuestion, kind: Food, core: Array, times: Array) -> Working:
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
