"""From the first readings: what the piece is really like, and where it is going."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    Zone,
    line,
    planned,
    worst_of,
)
from brinefrost.core.bench.heat_judged import judged
from brinefrost.core.bench.heat_question import CONDUCTION, HeatQuestion, TargetKey
from brinefrost.core.fields import field
from brinefrost.core.food.media import AllRoundKey, FoodKey, ShapeKey, body_of, food, medium
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.kitchen.lines import PieceState
from brinefrost.core.limits import Cooling, Lethality, Limit, Series
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.fit import Fit, Setting, fit_unknown
from brinefrost.core.rules import RuleSetId, rule_set
from brinefrost.core.words import duration, legal, num, say, temp
from brinefrost.core.working import Document, Input, Sent, Working


class FitReading(Document):
    """One reading of the core."""

    time_s: float = field("time", 600, 0, 48 * 3600, "min")
    core_c: float = field("temperature", 20, -5, 121)


FIRST = (
    FitReading(time_s=600, core_c=63.0),
    FitReading(time_s=1200, core_c=58.6),
    FitReading(time_s=1800, core_c=52.5),
)


class FitQuestion(Sent):
    """What is believed of a piece, and what was read so far."""

    food: FoodKey = field("choice", "stew", main=True)
    piece: PieceState = field("choice", "whole")
    shape: ShapeKey = field("choice", "slab", main=True)
    thickness_m: float = field("length", 0.05, 0.003, 0.3, "mm", 0.001, main=True)
    start_c: float = field("temperature", 65, -2, 110, main=True)
    medium: AllRoundKey = field("choice", "blast", main=True)
    surroundings_c: float = field("temperature", 1, -40, 120, main=True)
    unknown: Literal["thickness", "h", "diffusivity"] = field("choice", "h", main=True)
    horizon_s: float = field("time", 6 * 3600, 600, 48 * 3600, "h", main=True)
    rule_set: RuleSetId = field("choice", "us")
    target: TargetKey = field("choice", "listeria")
    readings: tuple[FitReading, ...] = field("rows", FIRST, most=60, main=True, file="course")


def answer_fit(question: FitQuestion) -> BenchAnswer:
    """Fit the unknown to the readings and carry the curve on.

    The unknown with its span, the projected curve with a slow and a fast case, and the verdict to expect. Raises
    OutOfRangeError if fewer than two readings are given, or they fit no value of the unknown. Valid for one unchanged
    surrounding since the start. It warns; it passes nothing. As ``fit_unknown``.
    """
    kind = food(question.food)
    body = body_of(question.shape, question.thickness_m, 4 * question.thickness_m, 4 * question.thickness_m, kind)
    rows = sorted(question.readings, key=lambda row: row.time_s)
    times, core = np.array([r.time_s for r in rows]), np.array([r.core_c for r in rows])
    setting = Setting(body, medium(question.medium).h_w_m2k, question.start_c, question.surroundings_c)
    fit = fit_unknown(setting, question.unknown, times, core, question.horizon_s)
    read = Series(np.concatenate(([0.0], times)), np.concatenate(([question.start_c], core)), opened_s=0.0)
    courses = [read.joined(curve.times_s[1:], curve.core_c[1:]) for curve in (fit.expected, fit.slow, fit.fast)]
    cases = [_case(question, course) for course in courses]
    states = {case.state for case in cases}
    sure = len(states) == 1
    state: AnswerState = cases[0].state if sure else "too_close" if "would_meet" in states else worst_of(list(states))
    return BenchAnswer(
        state=state,
        sentence=say("bench.fit.as_it_is_going", sentence=cases[0].sentence),
        reason="" if sure else say("bench.fit.the_readings_so_far_allow_both"),
        fixes=() if state in ("would_meet", "advisory") else _fixes(question),
        figures=_figures(question, fit),
        pictures=(_picture(fit, cases[0].limit, times, core),),
        workings=(_working(question, fit), *cases[0].workings),
        caution=say("bench.fit.a_projection_warns_only_readings_pass"),
        advisory=advisory(question.rule_set) if state == "advisory" else "",
    )


@dataclass(frozen=True)
class Case:
    """How one course would be judged: by what limit first, which verdict decides, and every sum behind it."""

    state: AnswerState
    limit: Limit
    sentence: str
    workings: tuple[Working, ...]


def _case(question: FitQuestion, course: Series) -> Case:
    """A chill by its rule set's cooling; a heat by its target and all that the rule set says of the food."""
    if question.surroundings_c < question.start_c:
        limit = rule_set(question.rule_set).limit_for("chill.cooked")
        verdict = limit.evaluate(course, float(course.times_s[-1]))
        return Case(planned(verdict.state), limit, verdict.sentence, (verdict.working,))
    asked = HeatQuestion(
        food=question.food, piece=question.piece, shape=question.shape, target=question.target,
        rule_set=question.rule_set,
    )  # fmt: skip
    found = judged(asked, course)
    stands = found.first("line", "trichinella", "pathogen", "way_up", "way_down", "growth")
    told = found.verdict.sentence
    if stands and found.verdict.state == "pass":
        told = say("bench.fish.title_sentence", title=stands.limit.title, sentence=stands.verdict.sentence)
    workings = (found.verdict.working, *(each.verdict.working for each in found.judged))
    return Case(found.state, found.limit, told, workings)


def _fixes(question: FitQuestion) -> tuple[str, ...]:
    if question.surroundings_c < question.start_c:
        return (
            say("bench.fit.spread_it_into_shallower_pans_now"),
            say("bench.fit.or_move_it_into_stirred_ice"),
        )
    return (say("bench.fit.turn_the_surroundings_up_now_or"),)


def _figures(question: FitQuestion, fit: Fit) -> tuple[Figure, ...]:
    kind, show = {"thickness": ("length", "mm"), "h": ("number", "W/m²K"), "diffusivity": ("number", "1e-7 m²/s")}[
        question.unknown
    ]
    scale = 1e7 if question.unknown == "diffusivity" else 1.0
    believed = {
        "thickness": question.thickness_m,
        "h": medium(question.medium).h_w_m2k,
        "diffusivity": food(question.food).diffusivity_m2_s,
    }[question.unknown]
    return tuple(
        Figure(name=name, value=value * scale, kind=kind, show=show, main=name == "fitted")
        for name, value in (
            ("fitted", fit.estimate.value),
            ("believed", believed),
            ("fitted_low", fit.low),
            ("fitted_high", fit.high),
        )
    )


def _picture(fit: Fit, limit: Limit, times: Array, core: Array) -> CurvePicture:
    marks: tuple[BenchMark, ...] = ()
    zone = None
    if isinstance(limit, Cooling):
        stages = limit.stages
        marks = tuple(
            BenchMark(
                words=say("bench.chill.to_within", to=legal(s.to_c, "g"), within=duration(s.within_s)),
                y=s.to_c,
                x=s.within_s,
            )
            for s in stages
        )
        zone = Zone(words=say("bench.chill.growth_zone"), low=limit.stages[-1].to_c, high=limit.from_c)
    elif isinstance(limit, Lethality):
        floor = limit.model.law().knots_c[0]
        marks = (BenchMark(words=say("bench.eggs.counts_from", floor=temp(floor, "g")), y=floor),)
    return CurvePicture(
        title="projection",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line(say("bench.fit.read"), "core", times, core, measured=True),
            line(say("bench.ferment.expected"), "core", fit.expected.times_s, fit.expected.core_c),
            line(say("bench.fit.slow_case"), "other", fit.slow.times_s, fit.slow.core_c),
            line(say("bench.fit.fast_case"), "other", fit.fast.times_s, fit.fast.core_c),
        ),
        marks=marks,
        zone=zone,
    )


def _working(question: FitQuestion, fit: Fit) -> Working:
    return Working(
        title=say("bench.fit.fit_to_the_readings"),
        formula=say("bench.fit.min_t_t_unknown_reading"),
        inputs=(
            Input(name=say("bench.fit.unknown"), value=question.unknown),
            Input(name=say("bench.ferment.readings"), value=len(question.readings)),
            Input(name=say("bench.fit.scatter"), value=round(fit.estimate.scatter_c, 2), unit="°C"),
        ),
        result=say(
            "bench.fit.95_span_to_si",
            value=num(fit.estimate.value, ".3g"),
            low=num(fit.low, ".3g"),
            high=num(fit.high, ".3g"),
        ),
        source=CONDUCTION,
        assumptions=(say("bench.fit.one_unchanged_surrounding"), say("bench.fit.the_unknown_takes_up_whatever_else")),
        valid_range=say("bench.fit.thickness_to_h_2_to_2000"),
    )
