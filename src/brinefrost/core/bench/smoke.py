"""Oven, smoke and the probe's alarm: carry-over, the wet surface, and what the alarm temperature leaves alive."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    SchoolAnswer,
    Zone,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.cold_smoke import PACK_FIX, _packed, answer_cold_smoke
from brinefrost.core.bench.heat_question import CONDUCTION
from brinefrost.core.bench.slips import warm_raw
from brinefrost.core.bench.smoke_question import ANIMALS, FOODS, SmokeQuestion
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.food.media import body_of, food
from brinefrost.core.kitchen.cooked import Judged, cook_fix, judge_cook, may_be_rare
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.kitchen.lines import lines_of
from brinefrost.core.limits import Limit, Series
from brinefrost.core.limits.come_up import rising_crossing
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.humid_air import saturation_pressure_pa, wet_bulb_c
from brinefrost.core.physics.oven import OvenCurve, oven_of, roast
from brinefrost.core.roots import changeover
from brinefrost.core.rules import RULE_SET_IDS, rule_set, targets_for
from brinefrost.core.words import duration, height, joined, num, say, temp
from brinefrost.core.working import Input, Source, Working

COOKED = ("line", "trichinella", "pathogen")
UP_TO_C = 54.4
RAREST_C = 50.0  # below this a steak is raw, not rare; common practice, no source
LONGEST_S = 16 * 3600.0  # a core that is not there by then is too late by every come-up rule
HOTTEST_C, ENOUGH_C = 98.0, 80.0
FAST_H, SLOW_H = 28.0, 18.0  # ends of the band of a fan oven with its radiation, common practice, no source
STAYS_MOIST_BELOW_C = 130.0  # in a cooler chamber the surface may stay moist to the end, common practice, no source
Judgements = tuple[Judged, ...]
NOT_PACKED = say("bench.smoke.not_for_a_pack_without_air")


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
    return answer_cold_smoke(question) if question.way == "cold_smoke" else _hot(question)


def _follow_ways(question: SmokeQuestion, until_c: float) -> Ways:
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
    ways = _follow_ways(question, max(question.alarm_c + 1, ENOUGH_C))
    judged = _judge(question, ways, question.alarm_c)
    state = _state(question, judged, ways)
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
        reason=_reason(judged, salted.sentence if salted is not None and unfit else ""),
        fixes=(*_fixes(question, state, judged), *((PACK_FIX,) if unfit else ())),
        figures=_figures(question, ways, judged),
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


def _reason(judged: Judgements, unfit: str) -> str:
    standing = [
        say("bench.fish.title_sentence", title=e.limit.title, sentence=e.verdict.sentence)
        for e in judged
        if e.verdict.state != "pass"
    ]
    return joined([*standing, unfit], " ")


def _figures(question: SmokeQuestion, ways: Ways, judged: Judgements) -> tuple[Figure, ...]:
    rang, latest = ways.rang_s
    moist = "" if latest is None else say("bench.smoke.in_a_slow_or_moist_one_x", rang=duration(latest))

    def when_it_rings(values: Array) -> float | None:
        return float(np.interp(rang, ways.fast.times_s, values)) if rang else None

    surface_c, rim_m = when_it_rings(ways.fast.surface_c), when_it_rings(ways.fast.rim_m)
    return (
        Figure(
            name="alarm_after",
            value=rang,
            kind="time",
            show="h",
            main=True,
            words=say("bench.smoke.in_a_quick_oven", more=moist),
            absent=say("bench.smoke.not_within_16_h"),
        ),
        _alarm_that_does(question, ways, judged),
        _wet_bulb(question),
        Figure(
            name="surface",
            value=None if surface_c is None else round(surface_c, 1),
            kind="temperature",
            words=say("bench.smoke.flesh_at_the_surface_when_it"),
            absent=say("bench.smoke.it_does_not_ring"),
        ),
        Figure(
            name="rim",
            value=None if rim_m is None else round(rim_m, 4),
            kind="length",
            show="mm",
            words=say("bench.smoke.dried_by_then"),
            absent=say("bench.smoke.it_does_not_ring"),
        ),
    )


def _wet_bulb(question: SmokeQuestion) -> Figure:
    """What a wet surface stays at, however hot the chamber; not known for so much steam, or so little."""
    oven = oven_of(question.chamber_c, question.humidity_percent, FAST_H, question.altitude_m)
    try:
        value: float | None = wet_bulb_c(
            question.chamber_c, oven.vapour_pa / saturation_pressure_pa(question.chamber_c), question.altitude_m
        )
    except OutOfRangeError:
        value = None
    return Figure(
        name="wet_bulb",
        value=None if value is None else round(value, 1),
        kind="temperature",
        words=say("bench.smoke.what_a_wet_surface_stays_near"),
        absent=say("bench.smoke.not_known_for_so_much_steam_or_heat"),
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
        name="alarm_that_does",
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
        title="core_curve",
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
            Input(name=say("bench.kit.altitude"), value=height(question.altitude_m)),
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
