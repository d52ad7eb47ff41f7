"""Eggs: in the shell by size, water and altitude; egg sauce in a bag by its thickness; pooled and held eggs."""

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    SchoolAnswer,
    Table,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.egg_question import EggQuestion
from brinefrost.core.bench.heat_question import CONDUCTION
from brinefrost.core.bench.held_eggs import held_eggs
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.food.media import body_of, food, medium
from brinefrost.core.inverse import met_s, steadily, thickest_m
from brinefrost.core.kitchen.eggs import WATER_H, YOLK_EDGE, egg_body, soft_boiled_s, white_state, yolk_state
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.limits import Limit, Series, Verdict
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.modes import profile_theta
from brinefrost.core.rules import RULE_SET_IDS, rule_set, targets_for
from brinefrost.core.words import duration, grams, height, joined, mm, say, temp
from brinefrost.core.working import Input, Working

SALTED_PERCENT = 2.0  # from this much salt or sugar on, the salted row; USDA-FSIS guidance on egg products
SOFT_C = 54.4  # an egg colder than this in its middle is raw, not soft
MEAT_TABLE = "salmonella-whole-6.5"  # the whole-roast table is for meat
LONGEST_S = 8 * 3600.0
WHITE_MIDDLE = (1 + YOLK_EDGE) / 2  # half way through the white, as a share of the radius


def answer_eggs(question: EggQuestion) -> BenchAnswer:
    """How far the middle gets, what it is like, and whether that is enough.

    Verdict at the yolk's centre or the bag's middle, state of white and yolk, times that would do, altitude. Raises
    OutOfRangeError if a number lies outside the range of a model. Valid for hens' eggs as spheres of their short
    diameter, and for sauce as a slab with water on both sides. Carslaw & Jaeger (1959); Williams
    for the soft-boiled egg; 9 CFR 590.570; each limit carries its own.
    """
    water = min(boiling_c(question.altitude_m), 100.0) if question.boiling else question.water_c
    highest = boiling_c(question.altitude_m)
    if water > highest + 0.05:
        raise OutOfRangeError(
            say(
                "bench.eggs.at_m_water_boils_at_it",
                altitude=height(question.altitude_m),
                highest=temp(highest, ".1f"),
                water=temp(water, "g"),
            ),
            water_c=water,
        )
    body, h = _body(question)
    heating = Heating(body, h, question.start_c, water)
    times = np.concatenate(([0.0], np.linspace(question.duration_s / 300, question.duration_s, 300)))
    core = heating.core_c(times)
    limit = _limit(question)
    series = Series.computed(times, core)
    verdict = limit.evaluate(series, question.duration_s)
    line_ = _line(question)
    by_rule = line_.evaluate(series, question.duration_s)
    held, held_words = held_eggs(question)
    state, why = _cooked_state(question, verdict, by_rule, float(core[-1]))
    met = state == "would_meet"
    needed = met_s((limit, line_), steadily(heating))
    centre = float(core[-1])
    return BenchAnswer(
        state=worst_of([state, held]),
        sentence=_sentence(question, centre, state, water),
        reason=joined((part for part in (verdict.sentence, why, held_words) if part), " "),
        fixes=() if met and held == "would_meet" else _fixes(question, heating, limit, needed, met),
        figures=_figures(question, heating, limit, needed, centre, water),
        pictures=(_curve(question, heating, times, core, limit), *_across(question, heating)),
        tables=(_compare(question, limit, line_),),
        schools=tuple(_schools(question, series)),
        workings=(_working(question, heating, centre), verdict.working, by_rule.working),
        caution=say("bench.eggs.for_guests_at_higher_risk_pasteurised"),
        advisory=advisory(question.rule_set) if state == "advisory" else "",
    )


def _line(question: EggQuestion) -> Limit:
    """The rule set's own line: eggs to order, or eggs beaten together or held.

    In the United States the egg-product rows are themselves the published equal for yolk, white and whole egg.
    """
    if rule_set(question.rule_set).family == "us" and question.form in ("sauce", "pooled"):
        return _limit(question)
    topic = "cook.whole" if question.form == "shell" and question.held_s <= 0 else "cook.minced"
    return rule_set(question.rule_set).limit_for(topic)


def _cooked_state(question: EggQuestion, verdict: Verdict, by_rule: Verdict, centre: float) -> tuple[AnswerState, str]:
    """The egg's own row and the rule set's line; a soft egg to order is served only with an advisory."""
    if question.pasteurised:
        return "would_meet", say("bench.eggs.pasteurised_egg_the_shell_or_carton")
    state = worst_of([planned(verdict.state), planned(by_rule.state)])
    if state == "would_meet":
        return state, ""
    told = (
        say("bench.eggs.by_upper_sentence", upper=question.rule_set.upper(), sentence=by_rule.sentence)
        if by_rule.state != "pass"
        else ""
    )
    if question.guests == "higher_risk":
        return "would_fail", say("bench.eggs.for_guests_at_higher_risk_use", told=told)
    if centre < SOFT_C:
        return "would_fail", say("bench.eggs.the_middle_is_raw", told=told)
    if question.form == "shell" and question.held_s <= 0 and state == "would_fail":
        return "advisory", say("bench.eggs.undercooked_egg_to_order_at_once", told=told)
    return state, told


def _body(question: EggQuestion) -> tuple[Body, float]:
    if question.form == "shell":
        return egg_body(question.mass_kg), WATER_H
    kind = food("custard" if question.form == "custard" else "egg_sauce")
    return body_of("slab", question.thickness_m, 0.1, 0.1, kind), medium("bath").h_w_m2k


def _limit(question: EggQuestion) -> Limit:
    """The row for what it is: its salt and sugar count, its acid only with a source."""
    if question.form == "shell":
        return targets_for("heat.egg_yolk")[0].limit
    if question.form == "custard":
        return targets_for("heat.custard_baked")[0].limit
    salted = max(question.salt_percent, question.sugar_percent) >= SALTED_PERCENT
    row = (
        "egg_yolk_salted" if salted else {"yolk": "egg_yolk", "whole": "egg_whole", "white": "egg_white"}[question.part]
    )
    return targets_for(f"heat.{row}")[0].limit


def _sentence(question: EggQuestion, centre: float, state: AnswerState, water: float) -> str:
    after = say("bench.eggs.after_at", duration=duration(question.duration_s), water=temp(water, ".1f"))
    if question.form == "shell":
        what = say("bench.eggs.the_yolks_centre_is_at", centre=temp(centre, ".1f"), after=after)
    else:
        what = say(
            "bench.eggs.the_middle_of_is_at",
            thickness=mm(question.thickness_m * 1000, ".0f"),
            centre=temp(centre, ".1f"),
            after=after,
        )
    said = {
        "would_meet": say("bench.eggs.that_should_do"),
        "advisory": say("bench.eggs.undercooked_only_with_an_advisory_for"),
    }
    return say("bench.eggs.what_get", what=what, get=said.get(state, say("bench.eggs.not_pasteurised")))


def _fixes(question: EggQuestion, heating: Heating, limit: Limit, needed: float | None, met: bool) -> tuple[str, ...]:
    said = []
    if not met and needed is not None and needed <= LONGEST_S and needed > question.duration_s:
        said.append(say("bench.eggs.leave_it_in_for", ceil=duration(float(np.ceil(needed / 60) * 60))))
    if not met and needed is None:
        floor = counts_from_c(limit)
        said.append(say("bench.eggs.no_time_at_this_temperature_is", floor=temp(floor, "g")))
    if not met and question.form != "shell":
        thick = thickest_m((limit, _line(question)), heating, question.duration_s)
        if thick and thick < question.thickness_m:
            said.append(say("bench.eggs.or_lay_the_bag_out_no", floor=mm(np.floor(thick * 1000), ".0f")))
    if not met:
        said.append(
            say("bench.eggs.or_use_pasteurised_egg")
            if question.guests == "higher_risk" or question.form != "shell"
            else say("bench.eggs.or_use_pasteurised_egg_or_serve")
        )
    if question.held_s > 0:
        said.append(say("bench.eggs.hold_egg_sauce_at_or_above"))
    return tuple(said)


def _layers(question: EggQuestion, heating: Heating) -> tuple[float, float]:
    """White half way out, and the yolk's edge, at the end [°C]."""
    places = np.array([WHITE_MIDDLE, YOLK_EDGE])
    fourier = max(heating.body.fourier_rate() * question.duration_s, 1e-3)
    theta = profile_theta(int(heating.body.shape), heating.body.biot(heating.h_w_m2k), fourier, places)
    found = heating.surroundings_c + (heating.start_c - heating.surroundings_c) * theta
    return float(found[0]), float(found[1])


def _figures(
    question: EggQuestion, heating: Heating, limit: Limit, needed: float | None, centre: float, water: float
) -> tuple[Figure, ...]:
    found = [
        *_always(question, needed, centre),
        *(_in_the_shell(question, heating, centre, water) if question.form == "shell" else ()),
    ]
    if question.form != "shell":
        found.append(
            Figure(
                name="thickest",
                value=thickest_m((limit, _line(question)), heating, question.duration_s),
                kind="length",
                show="mm",
                absent=say("bench.chill.none_passes"),
            )
        )
    if question.eggs > 1:
        reaches = say("bench.eggs.one_contaminated_egg_reaches_every_porti")
        found.append(
            Figure(
                name="pool",
                value=question.eggs,
                kind="number",
                show=say("bench.answer.eggs"),
                words=reaches,
            )
        )
    return tuple(found)


def _always(question: EggQuestion, needed: float | None, centre: float) -> tuple[Figure, ...]:
    """The middle, the time it needs and where water boils here: of every form."""
    return (
        Figure(
            name="centre",
            value=round(centre, 1),
            kind="temperature",
            main=True,
            low=0,
            high=90,
            band_from=60,
            band_to=90,
        ),
        Figure(
            name="time_needed",
            value=needed,
            kind="time",
            show="min",
            main=True,
            absent=say("bench.eggs.never_at_this"),
        ),
        Figure(
            name="water_boils",
            value=round(boiling_c(question.altitude_m), 1),
            kind="temperature",
            words=say("bench.eggs.at_m", altitude=height(question.altitude_m)),
        ),
    )


def _in_the_shell(question: EggQuestion, heating: Heating, centre: float, water: float) -> tuple[Figure, ...]:
    """White and yolk at the end; soft-boiled by its formula, where the egg is boiled from the cold."""
    white, edge = _layers(question, heating)
    found = [
        Figure(name="white", value=round(white, 1), kind="temperature", words=white_state(white)),
        Figure(
            name="yolk_edge",
            value=round(edge, 1),
            kind="temperature",
            words=say("bench.eggs.yolk_centre", yolk_state=yolk_state(centre)),
        ),
    ]
    if question.boiling and question.start_c < 63 < water:
        found.append(
            Figure(
                name="soft_boiled",
                value=soft_boiled_s(question.mass_kg, question.start_c, water),
                kind="time",
                show="min",
                words=say("bench.eggs.yolks_edge_at_by_williams_formula"),
            )
        )
    return tuple(found)


def _curve(question: EggQuestion, heating: Heating, times: Array, core: Array, limit: Limit) -> CurvePicture:
    floor = counts_from_c(limit)
    return CurvePicture(
        title="centre_curve",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line(
                say("bench.eggs.yolks_centre") if question.form == "shell" else say("bench.eggs.middle"),
                "core",
                times,
                core,
            ),
            line(say("bench.eggs.water"), "surroundings", times, np.full(len(times), heating.surroundings_c)),
        ),
        marks=(BenchMark(words=say("bench.eggs.counts_from", floor=temp(floor, "g")), y=floor),),
        y_low=0,
    )


def _across(question: EggQuestion, heating: Heating) -> tuple[CurvePicture, ...]:
    if question.form != "shell":
        return ()
    places = np.linspace(0, 1, 61)
    fourier = max(heating.body.fourier_rate() * question.duration_s, 1e-3)
    theta = profile_theta(2, heating.body.biot(heating.h_w_m2k), fourier, places)
    found = heating.surroundings_c + (heating.start_c - heating.surroundings_c) * theta
    return (
        CurvePicture(
            title="egg_across",
            x_kind="length",
            y_kind="temperature",
            lines=(
                line(
                    say("bench.eggs.from_the_yolks_centre_out"), "core", places * heating.body.half_thickness_m, found
                ),
            ),
            marks=(
                BenchMark(words=say("bench.eggs.white_begins_to_set"), y=61.5),
                BenchMark(words=say("bench.eggs.yolk_like_wax"), y=65),
                BenchMark(words=say("bench.eggs.yolk_set"), y=70),
            ),
            y_low=0,
        ),
    )


def _compare(question: EggQuestion, limit: Limit, line_: Limit) -> Table:
    rows = []
    sizes = (0.05, 0.06, 0.07) if question.form == "shell" else (0.015, 0.02, 0.03)
    for size in sizes:
        update = {"mass_kg": size} if question.form == "shell" else {"thickness_m": size}
        like = question.model_copy(update=update)
        body, h = _body(like)
        water = boiling_c(question.altitude_m) if question.boiling else question.water_c
        heating = Heating(body, h, question.start_c, water)
        centre = float(heating.core_c(np.array([question.duration_s]))[0])
        needed = met_s((limit, line_), steadily(heating))
        name = grams(size * 1000, ".0f") if question.form == "shell" else mm(size * 1000, ".0f")
        rows.append((name, temp(centre, ".1f"), say("bench.eggs.never") if needed is None else duration(needed)))
    head = ("", say("bench.eggs.middle_at_the_end"), say("bench.eggs.needs"))
    return Table(title=say("bench.eggs.other_sizes"), head=head, rows=tuple(rows))


def _schools(question: EggQuestion, series: Series) -> list[SchoolAnswer]:
    topic = "cook.whole" if question.form == "shell" and question.held_s <= 0 else "cook.minced"
    found = [
        school(set_id.upper(), entry.limit, entry.limit.evaluate(series, question.duration_s))
        for set_id in RULE_SET_IDS
        for entry in rule_set(set_id).entries_for(topic)
        if entry.limit.id != MEAT_TABLE
    ]
    if question.form == "shell":
        entry = targets_for("heat.egg_shell")[0]
        found.append(school(entry.school, entry.limit, entry.limit.evaluate(series, question.duration_s)))
    return found


def _working(question: EggQuestion, heating: Heating, centre: float) -> Working:
    shell = question.form == "shell"
    return Working(
        title=say("bench.eggs.the_middle_of_an_egg") if shell else say("bench.eggs.the_middle_of_a_bag"),
        formula="∂T/∂t = α (∂²T/∂r² + (2/r) ∂T/∂r)" if shell else "∂T/∂t = α ∂²T/∂x²",
        inputs=(
            Input(
                name=say("bench.eggs.short_diameter") if shell else say("bench.eggs.thickness"),
                value=round(2000 * heating.body.half_thickness_m, 1),
                unit="mm",
            ),
            Input(name=say("bench.eggs.diffusivity"), value=heating.body.diffusivity_m2_s, unit="m²/s"),
            Input(name="h", value=heating.h_w_m2k, unit="W/m²·K"),
            Input(name=say("bench.chill.from"), value=question.start_c, unit="°C"),
            Input(name=say("bench.eggs.water"), value=round(heating.surroundings_c, 2), unit="°C"),
        ),
        result=say(
            "bench.eggs.in_the_middle_after", centre=temp(centre, ".1f"), duration=duration(question.duration_s)
        ),
        source=CONDUCTION,
        assumptions=(say("bench.eggs.a_sphere_of_its_short_diameter"),)
        if shell
        else (say("bench.eggs.water_on_both_sides"),),
        valid_range=say("bench.eggs.eggs_to_bags_to"),
    )
