"""Oven, smoke and the probe's alarm: carry-over, the wet surface, and what the alarm temperature leaves alive."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    Zone,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.heat_question import CONDUCTION
from brinefrost.core.bench.scales import scales
from brinefrost.core.bench.slips import warm_raw
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.fields import field
from brinefrost.core.food.media import body_of, food
from brinefrost.core.kitchen.cooked import Guests, Judged, cook_fix, judge_cook, may_be_rare
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.kitchen.lines import Animal, PieceState, lines_of
from brinefrost.core.limits import Composition, Limit, Measured, Quantity, Series, Threshold, Verdict, exposure_of
from brinefrost.core.limits.come_up import rising_crossing
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.oven import OvenCurve, oven_of, roast
from brinefrost.core.roots import changeover
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set, target, targets_for
from brinefrost.core.words import diff, duration, joined, legal, num, say, temp
from brinefrost.core.working import Input, Sent, Source, Working

RoastShape = Literal["slab", "cylinder", "sphere"]
COOKED = ("line", "trichinella", "pathogen")
UP_TO_C = 54.4
RAREST_C = 50.0  # below this a steak is raw, not rare; common practice, no source
STILL_COLD_C, COOL_C = 30.0, 10.0
FISH_CLOCKS = ("listeria", "v_parahaemolyticus")
MEAT_CLOCKS = ("salmonella", "e_coli", "listeria", "s_aureus")
CURED_CLOCKS = ("s_aureus",)
AnimalKey = Literal["wild_boar", "game", "pork", "beef", "lamb", "poultry", "duck", "fish"]
SmokeWay = Literal["roast", "hot_smoke", "cold_smoke"]
FOODS: dict[str, Literal["red_meat", "poultry", "fish"]] = {"poultry": "poultry", "duck": "poultry", "fish": "fish"}
ANIMALS: dict[str, Animal] = {
    "wild_boar": "wild_boar", "game": "game", "pork": "pork", "beef": "beef", "lamb": "beef", "poultry": "poultry",
    "duck": "other_bird", "fish": "fish",
}  # fmt: skip
LONGEST_S = 16 * 3600.0  # a core that is not there by then is too late by every come-up rule
HOTTEST_C, ENOUGH_C = 98.0, 80.0
FAST_H, SLOW_H = 28.0, 18.0  # ends of the band of a fan oven with its radiation, common practice, no source
STAYS_MOIST_BELOW_C = 130.0  # in a cooler chamber the surface may stay moist to the end, common practice, no source
CURED_SALT, CURED_NITRITE = 3.0, 100.0  # in its water; ingoing: what holds meat through a smoke; FDA and FSIS guidance
Judgements = tuple[Judged, ...]
PACK_FIX = say("bench.smoke.for_a_pack_without_air_3")
NOT_PACKED = say("bench.smoke.not_for_a_pack_without_air")


class SmokeQuestion(Sent):
    """A piece in an oven or smoker, and when the alarm is set to ring."""

    way: SmokeWay = field("choice", "roast", main=True)
    animal: AnimalKey = field("choice", "wild_boar", main=True)
    piece: PieceState = field("choice", "whole", main=True)
    shape: RoastShape = field("choice", "cylinder")
    thickness_m: float = field("length", 0.08, 0.005, 0.3, "mm", 0.005, main=True)
    start_c: float = field("temperature", 5, -2, 40)
    chamber_c: float = field("temperature", 120, 5, 300, main=True)
    humidity_percent: float = field("percent", 10, 0, 100, step=5, main=True)
    wet: bool = field("flag", True)
    kept_wet: bool = field("flag", False, only={"way": ("roast", "hot_smoke")})
    alarm_c: float = field("temperature", 52, 5, 98, main=True, only={"way": ("roast", "hot_smoke")})
    hold_s: float = field("time", 0, 0, 24 * 3600, "min", only={"way": ("roast", "hot_smoke")})
    rest_s: float = field("time", 1200, 0, 4 * 3600, "min", only={"way": ("roast", "hot_smoke")})
    hours_s: float = field("time", 8 * 3600, 600, 5 * 86400, "h", only={"way": ("cold_smoke",)}, main=True)
    wps_percent: float | None = field("percent", 3.2, 0, 25)
    nitrite_ppm: float = field("number", 0, 0, 300, "ppm")
    packed: bool = field("flag", False)
    probe_c: float = field("difference", 0.5, 0, 3, step=0.1)
    altitude_m: float = field("height", 2140, 0, 4500)
    rule_set: RuleSetId = field("choice", "us", main=True)
    guests: Guests = field("choice", "general")


@dataclass(frozen=True)
class Ways:
    """The same roast at both ends of what an oven gives, as far as it is followed."""

    fast: OvenCurve
    slow: OvenCurve
    rang_s: tuple[float | None, float | None]  # when the core is at the alarm: at the earliest, at the latest


def answer_smoke(question: SmokeQuestion) -> BenchAnswer:
    """Follow the piece to its alarm, and judge what that leaves.

    Verdict by the animal's own line in its state, the come-up on the slow side, and, for pork and game, the
    *Trichinella* table; for what is smoked cold the chamber, its hours and its salt. Carry-over is not credited.
    Raises OutOfRangeError if a number lies outside the range of a model. Valid as ``roast``: the surface sweats,
    dries, and is never above boiling. Between a fast and a slow oven lies the real one; what is credited comes from
    the fast one, the way up from the slow one.
    """
    return _cold(question) if question.way == "cold_smoke" else _hot(question)


def _followed(question: SmokeQuestion, until_c: float) -> Ways:
    kind = food(FOODS.get(question.animal, "red_meat"))
    body = body_of(question.shape, question.thickness_m, 0.1, 0.1, kind)
    moist = question.kept_wet or (question.wet and question.chamber_c < STAYS_MOIST_BELOW_C)
    curves = []
    for h, always, until in ((FAST_H, question.kept_wet, until_c), (SLOW_H, moist, max(question.alarm_c, UP_TO_C + 1))):
        oven = oven_of(question.chamber_c, question.humidity_percent, h, question.altitude_m)
        curves.append(roast(body, oven, question.start_c, LONGEST_S, always, until))
    rang = [_reached_s(curve, question.alarm_c) for curve in curves]
    return Ways(curves[0], curves[1], (rang[0], rang[1]))


def _reached_s(curve: OvenCurve, core_c: float) -> float | None:
    return rising_crossing(curve.times_s, curve.core_c, core_c)


def _to_alarm(question: SmokeQuestion, curve: OvenCurve, alarm_c: float) -> Series:
    """The core as far as the alarm, and held there; nothing after it is credited."""
    rang = _reached_s(curve, alarm_c)
    keep = curve.times_s < (np.inf if rang is None else rang)
    times, core = curve.times_s[keep], curve.core_c[keep]
    if rang is not None:
        held = [rang, rang + question.hold_s] if question.hold_s >= 1 else [rang]
        times, core = np.append(times, held), np.append(core, np.full(len(held), alarm_c))
    return Series.computed(times, core, question.probe_c)


def _judge(question: SmokeQuestion, ways: Ways, alarm_c: float) -> Judgements:
    series = _to_alarm(question, ways.fast, alarm_c)
    animal = ANIMALS[question.animal]
    found = [e for e in judge_cook(question.rule_set, animal, question.piece, series) if e.why in COOKED]
    if question.way == "hot_smoke" and question.animal == "fish":
        limit = targets_for("smoke.hot_fish")[0].limit
        found.append(Judged("pathogen", limit, limit.evaluate(series, float(series.times_s[-1]))))
    come_up = rule_set(question.rule_set).limit_for("come_up")
    slow = Series.computed(ways.slow.times_s, ways.slow.core_c)
    verdict = come_up.evaluate(slow, float(slow.times_s[-1]))
    quick = Series.computed(ways.fast.times_s, ways.fast.core_c)
    if verdict.state == "fail" and come_up.evaluate(quick, float(quick.times_s[-1])).state == "pass":
        unsure = float(np.max(slow.values)) < UP_TO_C
        verdict = verdict.model_copy(
            update={
                "sentence": say("bench.smoke.in_a_quicker_oven_it_would", sentence=verdict.sentence)
                if not unsure
                else say("bench.smoke.a_surface_that_stays_wet_would"),
                "state": "not_measured" if unsure else "fail",
            }
        )
    return (*found, Judged("way_up", come_up, verdict))


def _hot(question: SmokeQuestion) -> BenchAnswer:
    ways = _followed(question, max(question.alarm_c + 1, ENOUGH_C))
    judged = _judge(question, ways, question.alarm_c)
    state, rang = _state(question, judged, ways), ways.rang_s[0]
    salted = _packed(question) if question.animal == "fish" else None
    unfit = salted is not None and salted.state != "pass"
    slip = warm_raw(question.start_c)
    return BenchAnswer(
        state=worst_of([state, "ask" if slip else "would_meet", planned(salted.state) if salted else "would_meet"]),
        sentence=say(
            "bench.smoke.slip_words_more",
            slip=slip,
            words=_words(question, judged, ways, state),
            more=NOT_PACKED if unfit else "",
        ),
        reason=joined(
            [
                say("bench.fish.title_sentence", title=e.limit.title, sentence=e.verdict.sentence)
                for e in judged
                if e.verdict.state != "pass"
            ]
            + ([salted.sentence] if salted is not None and unfit else []),
            " ",
        ),
        fixes=(*_fixes(question, state, judged), *((PACK_FIX,) if unfit else ())),
        figures=(
            Figure(
                name=say("bench.smoke.alarm_after"),
                value=rang,
                kind="time",
                show="h",
                main=True,
                words=say(
                    "bench.smoke.in_a_quick_oven",
                    more=""
                    if ways.rang_s[1] is None
                    else say("bench.smoke.in_a_slow_or_moist_one_x", rang=duration(ways.rang_s[1])),
                ),
                absent=say("bench.smoke.not_within_16_h"),
            ),
            _alarm_that_does(question, ways, judged),
            Figure(
                name=say("bench.heat.surface"),
                value=round(float(np.interp(rang, ways.fast.times_s, ways.fast.surface_c)), 1) if rang else None,
                kind="temperature",
                words=say("bench.smoke.flesh_at_the_surface_when_it"),
                absent=say("bench.smoke.it_does_not_ring"),
            ),
            Figure(
                name=say("bench.smoke.rim"),
                value=round(float(np.interp(rang, ways.fast.times_s, ways.fast.rim_m)), 4) if rang else None,
                kind="length",
                show="mm",
                words=say("bench.smoke.dried_by_then"),
                absent=say("bench.smoke.it_does_not_ring"),
            ),
        ),
        pictures=(_picture(question, ways, judged),),
        schools=tuple(_schools(question, _to_alarm(question, ways.fast, question.alarm_c))),
        workings=(
            _working(question, ways),
            *(e.verdict.working for e in judged),
            *((salted.working,) if salted is not None else ()),
        ),
        caution=say("bench.smoke.carry_over_counts_only_as_measured"),
        advisory=advisory(question.rule_set) if state == "advisory" else "",
    )


def _state(question: SmokeQuestion, judged: Judgements, ways: Ways) -> AnswerState:
    if ways.rang_s[0] is None:
        return "would_fail"
    state = worst_of([planned(e.verdict.state) for e in judged])
    cooked = worst_of([planned(e.verdict.state) for e in judged if e.why != "way_up"])
    animal = ANIMALS[question.animal]
    rare = may_be_rare(animal, question.piece, question.rule_set) and cooked == "would_fail" and state == cooked
    up = next(e.verdict.state for e in judged if e.why == "way_up")
    if rare and question.guests == "general" and up == "pass" and question.alarm_c >= RAREST_C:
        return "advisory"
    return state


def own_alarm_c(limit: Limit) -> float:
    """The least temperature a limit speaks of [°C]: no alarm is named below it.

    Valid for holds and lethality; others name none.
    """
    return counts_from_c(limit, 54.4)


def _alarm_that_does(question: SmokeQuestion, ways: Ways, judged: Judgements) -> Figure:
    """The lowest alarm, to a half degree, that meets every rule with nothing credited after it."""
    lines = [e.limit for e in judged if e.why != "way_up"]
    least = max([own_alarm_c(limit) for limit in lines], default=54.4) + question.probe_c
    least = float(np.ceil(least * 2) / 2)

    def does(alarm_c: float) -> bool:
        if _reached_s(ways.fast, alarm_c) is None:
            return False
        return all(e.verdict.state == "pass" for e in _judge(question, ways, alarm_c) if e.why != "way_up")

    top = min(float(np.max(ways.fast.core_c)), HOTTEST_C)
    found = changeover(does, least, float(np.floor(top * 2) / 2), 0.5) if top > least + 0.5 else None
    return Figure(
        name=say("bench.smoke.alarm_that_does"),
        value=None if found is None else float(np.ceil(found * 2) / 2),
        kind="temperature",
        main=True,
        words=say("bench.smoke.with_held_there", hold=duration(question.hold_s))
        if question.hold_s
        else say("bench.smoke.with_no_hold_nothing_credited_after"),
        absent=say("bench.smoke.none_in_this_chamber"),
    )


def _words(question: SmokeQuestion, judged: Judgements, ways: Ways, state: AnswerState) -> str:
    earliest, latest = ways.rang_s
    if earliest is None:
        hottest = float(np.max(ways.fast.core_c))
        return say(
            "bench.smoke.the_core_is_not_at_within", alarm=temp(question.alarm_c, "g"), hottest=temp(hottest, ".0f")
        )
    known = sorted(each for each in (earliest, latest) if each is not None)
    span = joined(dict.fromkeys(duration(each) for each in known), " to ")
    at = say("bench.smoke.the_alarm_rings_at_after", alarm=temp(question.alarm_c, "g"), span=span)
    if state == "would_meet":
        return say("bench.smoke.that_should_do", at=at)
    if state == "advisory":
        return say("bench.smoke.undercooked_only_with_an_advisory_for", at=at)
    if state in ("not_measured", "too_close"):
        return say("bench.smoke.too_uncertain_to_call_the_probe", at=at)
    up = next(e for e in judged if e.why == "way_up")
    if all(e.verdict.state == "pass" for e in judged if e.why != "way_up"):
        return say("bench.smoke.too_long_in_the_growth_zone", at=at, sentence=up.verdict.sentence)
    return say("bench.smoke.that_is_not_enough_for", at=at, animal=question.animal.replace("_", " "))


def _fixes(question: SmokeQuestion, state: AnswerState, judged: Judgements) -> tuple[str, ...]:
    if state == "would_meet":
        return ()
    said = [cook_fix(e.limit) for e in judged if e.verdict.state != "pass" and e.why != "way_up"]
    if question.animal == "wild_boar" and said:
        said.append(say("bench.smoke.a_lower_temperature_by_the_table"))
    if any(e.why == "way_up" and e.verdict.state != "pass" for e in judged):
        said.append(say("bench.smoke.shorten_the_way_up_a_thinner"))
    return tuple(dict.fromkeys(said))


def _picture(question: SmokeQuestion, ways: Ways, judged: Judgements) -> CurvePicture:
    wanted = own_alarm_c(judged[0].limit)
    last = max(t for t in (*ways.rang_s, 3600.0) if t is not None) * 1.15
    keep, slow = ways.fast.times_s <= last, ways.slow.times_s <= last
    return CurvePicture(
        title=say("bench.heat.core_curve"),
        x_kind="time",
        y_kind="temperature",
        lines=(
            line(say("bench.smoke.core_quick_oven"), "core", ways.fast.times_s[keep], ways.fast.core_c[keep]),
            line(say("bench.heat.surface"), "surface", ways.fast.times_s[keep], ways.fast.surface_c[keep]),
            line(say("bench.smoke.core_slow_or_moist_oven"), "other", ways.slow.times_s[slow], ways.slow.core_c[slow]),
        ),
        marks=(
            BenchMark(words=say("bench.smoke.alarm_alarm", alarm=temp(question.alarm_c, "g")), y=question.alarm_c),
            BenchMark(words=say("bench.smoke.counts_from", wanted=temp(wanted, "g")), y=wanted),
        ),
        zone=Zone(words=say("bench.chill.growth_zone"), low=5, high=54.4),
        y_low=0,
    )


def _schools(question: SmokeQuestion, series: Series) -> list[SchoolAnswer]:
    end = float(series.times_s[-1])
    return [
        school(set_id.upper(), entry.limit, entry.limit.evaluate(series, end))
        for set_id in RULE_SET_IDS
        for entry in lines_of(set_id, ANIMALS[question.animal], question.piece)
    ]


def _cold(question: SmokeQuestion) -> BenchAnswer:
    """The chamber, its hours, and what salt and cure leave able to grow meanwhile."""
    times: Array = np.array([0.0, question.hours_s])
    air = Series.computed(times, np.full(2, question.chamber_c), question.probe_c)
    flesh = Series.computed(times, np.full(2, question.chamber_c))
    chambers = targets_for("smoke.cold_chamber")
    verdict = chambers[0].limit.evaluate(air, question.hours_s)
    parts: list[tuple[Limit, Verdict]] = [(chambers[0].limit, verdict)]
    for limit in _cold_clocks(question):
        parts.append((limit, limit.evaluate(flesh, question.hours_s)))
    salted = _packed(question)
    states = [planned(v.state) for _, v in parts] + ([planned(salted.state)] if salted else [])
    if question.wps_percent is None and _unsalted(question) is False:
        states.append("not_measured")
    state = worst_of(states)
    if state == "would_meet":
        state = "would_fail" if question.guests == "higher_risk" else "advisory"
    standing: list[str] = [
        say("bench.fish.title_sentence", title=limit.title, sentence=v.sentence)
        for limit, v in parts
        if v.state != "pass"
    ]
    standing += [salted.sentence] if salted and salted.state != "pass" else []
    return BenchAnswer(
        state=state,
        sentence=_cold_words(question, parts, salted, state),
        reason=joined(standing, " "),
        fixes=_cold_fixes(question, parts, salted),
        figures=(
            Figure(
                name=say("bench.smoke.chamber"),
                value=question.chamber_c,
                kind="temperature",
                main=True,
                low=0,
                high=45,
                band_from=0,
                band_to=30,
            ),
            Figure(name=say("bench.smoke.smoke_time"), value=question.hours_s, kind="time", show="h", main=True),
            *(
                (
                    Figure(
                        name=say("bench.dry.water_phase_salt"),
                        value=question.wps_percent,
                        kind="percent",
                        show="in its water",
                        low=0,
                        high=8,
                        band_from=3.5,
                        band_to=8,
                    ),
                )
                if question.wps_percent is not None
                else ()
            ),
        ),
        pictures=(_chambers(question, air),),
        schools=tuple(school(e.school, e.limit, e.limit.evaluate(air, question.hours_s)) for e in chambers),
        workings=(*(v.working for _, v in parts), *((salted.working,) if salted else ())),
        caution=say("bench.smoke.cold_smoked_food_is_raw_food"),
        advisory=advisory(question.rule_set) if state == "advisory" else "",
    )


def _unsalted(question: SmokeQuestion) -> bool | None:
    """Whether too little salt is in it to hold it through the smoke; None where its salt is not known."""
    if question.wps_percent is None:
        return None
    meat = question.animal != "fish"
    return question.wps_percent < CURED_SALT or (meat and question.nitrite_ppm < CURED_NITRITE)


def _cold_clocks(question: SmokeQuestion) -> list[Limit]:
    """Which clocks run in the chamber: raw food's where salt and cure do not hold it, else those of the cured."""
    unsalted = _unsalted(question) is not False
    fish = question.animal == "fish"
    found: list[Limit] = [targets_for("smoke.cold_hours")[0].limit] if fish else []
    keys = (FISH_CLOCKS if fish else MEAT_CLOCKS) if unsalted else (() if fish else CURED_CLOCKS)
    return [*found, *(exposure_of(organism(key)) for key in keys)]


def _packed(question: SmokeQuestion) -> Verdict | None:
    if not question.packed:
        return None
    facts: dict[Quantity, Measured] = {"nitrite": Measured(value=question.nitrite_ppm)}
    if question.wps_percent is not None:
        facts["salt"] = Measured(value=question.wps_percent, uncertainty=0.1)
    return target("wps-packed-fish", Composition).judge(facts)


def _cold_words(
    question: SmokeQuestion, parts: list[tuple[Limit, Verdict]], salted: Verdict | None, state: AnswerState
) -> str:
    full = next(((limit, v) for limit, v in parts[1:] if v.state == "fail"), None)
    if parts[0][1].state != "pass":
        return say("bench.smoke.cold_smoke_leaves_it_raw", sentence=parts[0][1].sentence)
    if full is not None and _unsalted(question):
        animal = question.animal.replace("_", " ")
        return say(
            "bench.smoke.at_is_too_long_for_so",
            hours=duration(question.hours_s),
            chamber=temp(question.chamber_c, "g"),
            animal=animal,
        )
    if full is not None:
        return say(
            "bench.smoke.at_is_too_long",
            hours=duration(question.hours_s),
            chamber=temp(question.chamber_c, "g"),
            title=full[0].title,
        )
    if salted is not None and salted.state != "pass":
        known = question.wps_percent
        has = (
            say("bench.smoke.its_water_phase_salt_is_not")
            if known is None
            else say("bench.smoke.water_phase_salt_is_not_enough", known=num(known))
        )
        return say("bench.smoke.cold_smoked_but_not_for_a", has=has)
    if state == "not_measured":
        return say("bench.smoke.cold_smoke_leaves_it_raw_and")
    if question.guests == "higher_risk":
        return say("bench.smoke.cold_smoke_leaves_it_raw_not")
    return say("bench.smoke.cold_smoke_leaves_it_raw_only")


def _cold_fixes(question: SmokeQuestion, parts: list[tuple[Limit, Verdict]], salted: Verdict | None) -> tuple[str, ...]:
    said = []
    if parts[0][1].state != "pass":
        said.append(say("bench.smoke.keep_the_chamber_at_or_below", still_cold=legal(STILL_COLD_C, "g")))
    if any(v.state != "pass" for _, v in parts[1:]):
        said.append(say("bench.smoke.smoke_it_colder_at_or_below", cool=legal(COOL_C, "g")))
        if _unsalted(question) is not False:
            said.append(say("bench.smoke.salt_first_3_or_more_in"))
    if salted is not None and salted.state != "pass":
        said.append(PACK_FIX)
    if question.animal == "fish" and said:
        said.append(say("bench.smoke.freeze_fish_against_parasites_before_it"))
    return tuple(said)


def _chambers(question: SmokeQuestion, air: Series) -> ScalePicture:
    """The chamber, as surely as the probe knows it, on each school's scale."""
    rows = [
        ScaleRow(
            words=entry.limit.title,
            state=planned(entry.limit.evaluate(air, question.hours_s).state),
            at=question.chamber_c,
            doubt=question.probe_c,
            stretches=(Stretch(low=0, high=entry.limit.value),),
        )
        for entry in targets_for("smoke.cold_chamber")
        if isinstance(entry.limit, Threshold)
    ]
    drawn = scales("chambers", "temperature", rows, bounds=(0.0, max(45.0, question.chamber_c + 5)))
    return drawn.model_copy(
        update={"pointer": say("bench.smoke.the_chamber_good_to", probe=diff(question.probe_c, "g"))}
    )


def _working(question: SmokeQuestion, ways: Ways) -> Working:
    return Working(
        title=say("bench.smoke.the_surface_and_the_core_in"),
        formula=say("bench.smoke.k_t_n_h_t_t"),
        inputs=(
            Input(name=say("bench.smoke.chamber"), value=question.chamber_c, unit="°C"),
            Input(name=say("bench.smoke.humidity_or_steam_above_boiling"), value=question.humidity_percent, unit="%"),
            Input(
                name=say("bench.smoke.h_quick_and_slow"),
                value=say("bench.smoke.fast_and_slow", fast=num(FAST_H), slow=num(SLOW_H)),
                unit="W/m²·K",
            ),
            Input(name=say("bench.kit.altitude"), value=question.altitude_m, unit="m"),
        ),
        result=say("bench.smoke.not_within_16_h")
        if ways.rang_s[0] is None
        else say("bench.smoke.rings_after_at_the_earliest", rang=duration(ways.rang_s[0])),
        source=Source(
            citation="Evaporation: ASHRAE Handbook Fundamentals, ch. 6; " + CONDUCTION.citation, tag="published"
        ),
        assumptions=(
            say("bench.smoke.the_probe_sits_in_the_middle"),
            say("bench.smoke.nothing_is_credited_after_the_alarm"),
        ),
        valid_range=say("bench.smoke.chamber_to_to"),
    )
