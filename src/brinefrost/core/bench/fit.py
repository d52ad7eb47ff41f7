"""From the first readings: what the piece is really like, and where it is going."""

from typing import Literal

import numpy as np

from brinefrost.core.bench.answer import BenchAnswer, BenchMark, CurvePicture, Figure, Zone, line
from brinefrost.core.bench.heat import CONDUCTION, TargetKey, target_limits
from brinefrost.core.fields import field
from brinefrost.core.food.media import FoodKey, MediumKey, ShapeKey, body_of, food, medium
from brinefrost.core.limits import Cooling, Lethality, Limit, Series
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.fit import Fit, Setting, fit_unknown
from brinefrost.core.rules import RuleSetId, rule_set
from brinefrost.core.working import Document, Input, Working, clock


class FitReading(Document):
    """One reading of the core."""

    time_s: float = field("time", 600, 0, 48 * 3600, "min")
    core_c: float = field("temperature", 20, -5, 121)


FIRST = (
    FitReading(time_s=600, core_c=63.0),
    FitReading(time_s=1200, core_c=58.6),
    FitReading(time_s=1800, core_c=52.5),
)


class FitQuestion(Document):
    """What is believed of a piece, and what was read so far."""

    food: FoodKey = field("choice", "stew", main=True)
    shape: ShapeKey = field("choice", "slab", main=True)
    thickness_m: float = field("length", 0.05, 0.003, 0.3, "mm", 0.001, main=True)
    start_c: float = field("temperature", 65, -2, 110, main=True)
    medium: MediumKey = field("choice", "blast", main=True)
    surroundings_c: float = field("temperature", 1, -40, 120, main=True)
    unknown: Literal["thickness", "h", "diffusivity"] = field("choice", "h", main=True)
    horizon_s: float = field("time", 6 * 3600, 600, 48 * 3600, "h", main=True)
    rule_set: RuleSetId = field("choice", "us")
    target: TargetKey = field("choice", "listeria")
    readings: tuple[FitReading, ...] = field("rows", FIRST, most=60, main=True, file="course")


def answer_fit(question: FitQuestion) -> BenchAnswer:
    """Fit the unknown to the readings and carry the curve on.

    Parameters
    ----------
    question : FitQuestion
        Lengths [m], temperatures [°C], times [s].

    Returns
    -------
    BenchAnswer
        The unknown with its span, the projected curve with a slow and a fast case, and the verdict to expect.

    Raises
    ------
    OutOfRangeError
        If fewer than two readings are given, or they fit no value of the unknown.

    Notes
    -----
    Valid for one unchanged surrounding since the start. It warns; it passes nothing.

    References
    ----------
    As ``fit_unknown``.
    """
    kind = food(question.food)
    body = body_of(question.shape, question.thickness_m, 4 * question.thickness_m, 4 * question.thickness_m, kind)
    rows = sorted(question.readings, key=lambda row: row.time_s)
    times, core = np.array([r.time_s for r in rows]), np.array([r.core_c for r in rows])
    setting = Setting(body, medium(question.medium).h_w_m2k, question.start_c, question.surroundings_c)
    fit = fit_unknown(setting, question.unknown, times, core, question.horizon_s)
    limit = _limit(question)
    joined = Series(np.concatenate(([0.0], times)), np.concatenate(([question.start_c], core)), opened_s=0.0)
    cases = [
        limit.forecast(joined, curve.times_s[1:], curve.core_c[1:]) for curve in (fit.expected, fit.slow, fit.fast)
    ]
    met = [verdict.state == "pass" for verdict in cases]
    sure = all(met) or not any(met)
    state = "would_meet" if all(met) else "too_close" if any(met) else "would_fail"
    return BenchAnswer(
        state=state,
        sentence=f"As it is going: {cases[0].sentence}",
        reason="" if sure else "The readings so far allow both: take another in ten minutes.",
        fixes=() if all(met) else _fixes(question),
        figures=_figures(question, fit),
        pictures=(_picture(fit, limit, times, core),),
        workings=(_working(question, fit), cases[0].working),
        caution="A projection warns; only readings pass.",
    )


def _limit(question: FitQuestion) -> Limit:
    cooling = question.surroundings_c < question.start_c
    return rule_set(question.rule_set).limit_for("chill.cooked") if cooling else target_limits(question.target)[0]


def _fixes(question: FitQuestion) -> tuple[str, ...]:
    if question.surroundings_c < question.start_c:
        return (
            "Spread it into shallower pans now: half the depth needs a quarter of the time.",
            "Or move it into stirred ice and water.",
        )
    return ("Turn the surroundings up now, or plan for the longer time.",)


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
        marks = tuple(BenchMark(words=f"{s.to_c:g} °C ≤ {clock(s.within_s)}", y=s.to_c, x=s.within_s) for s in stages)
        zone = Zone(words="growth zone", low=limit.stages[-1].to_c, high=limit.from_c)
    elif isinstance(limit, Lethality):
        floor = limit.model.law().knots_c[0]
        marks = (BenchMark(words=f"counts from {floor:g} °C", y=floor),)
    return CurvePicture(
        title="projection",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line("read", "core", times, core, measured=True),
            line("expected", "core", fit.expected.times_s, fit.expected.core_c),
            line("slow case", "other", fit.slow.times_s, fit.slow.core_c),
            line("fast case", "other", fit.fast.times_s, fit.fast.core_c),
        ),
        marks=marks,
        zone=zone,
    )


def _working(question: FitQuestion, fit: Fit) -> Working:
    return Working(
        title="Fit to the readings",
        formula="min Σ (T(t; unknown) − reading)²",
        inputs=(
            Input(name="unknown", value=question.unknown),
            Input(name="readings", value=len(question.readings)),
            Input(name="scatter", value=round(fit.estimate.scatter_c, 2), unit="°C"),
        ),
        result=f"{fit.estimate.value:.3g}, 95 % span {fit.low:.3g} to {fit.high:.3g} (SI)",
        source=CONDUCTION,
        assumptions=("one unchanged surrounding", "the unknown takes up whatever else is wrong"),
        valid_range="thickness 1 to 400 mm, h 2 to 2000 W/m²K, α 0.6 to 2.5e-7 m²/s",
    )
