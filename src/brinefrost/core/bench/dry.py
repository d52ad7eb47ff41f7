"""Water activity and drying, and the degree-hours of a fermenting sausage."""

from typing import Literal

import numpy as np

from brinefrost.core.bench.acid_ground import ground
from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    Picture,
    SchoolAnswer,
    Table,
    line,
    measured,
    planned,
    worst_of,
)
from brinefrost.core.bench.steady import laid_end_to_end
from brinefrost.core.chemistry.brine import percent_of_total
from brinefrost.core.chemistry.water_activity import aw_of_mixture, loss_for_aw
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.limits import Composition, DegreeHours, Measured, Series, Threshold, Verdict
from brinefrost.core.microbes.organisms import organisms
from brinefrost.core.rules import target, targets_for
from brinefrost.core.words import degree_hours, joined, kg, num, say
from brinefrost.core.working import Document, Input, Sent, Source, Working

# expanded uncertainties of an estimate from salt and sugar, and of a water-activity meter; common practice, no source
ESTIMATE_AW, METER_AW = 0.01, 0.003


class Chamber(Document):
    """A time at one chamber temperature."""

    temperature_c: float = field("temperature", 24, 0, 50)
    duration_s: float = field("time", 48 * 3600, 600, 20 * 86400, "h")


class DryQuestion(Sent):
    """What a sausage or cured piece is made of, how it fermented, how far it dries."""

    mass_kg: float = field("mass", 10, 0.05, 5000, "kg", main=True)
    water_percent: float = field("percent", 62, 5, 97, step=0.5, main=True)
    salt_percent: float = field("percent", 2.8, 0, 15, step=0.1, main=True)
    sucrose_percent: float = field("percent", 0, 0, 70, step=0.1)
    glucose_percent: float = field("percent", 0.4, 0, 70, step=0.1)
    lost_percent: float = field("percent", 20, 0, 95, step=0.5, main=True)
    target_aw: float = field("number", 0.92, 0.75, 0.99, "aw", 0.005, main=True)
    ph: float = field("ph", 5.1, 3, 7, step=0.1, main=True)
    ph_reached: Literal["yes", "no"] = field("choice", "yes")
    uncertainty_c: float = field("difference", 0.5, 0, 3, step=0.1)
    measured_aw: float | None = field("number", None, 0.6, 1, "aw")
    chamber: tuple[Chamber, ...] = field("rows", (Chamber(temperature_c=24, duration_s=55 * 3600),), most=20, main=True)


def answer_dry(question: DryQuestion) -> BenchAnswer:
    """Water activity now, the loss that reaches the target, and the degree-hours.

    Verdict on the target and on the degree-hours, in both unit systems. Raises OutOfRangeError if the shares do not
    fit together or more salt is there than the water dissolves. Valid as an estimate from salt and sugar; a
    water-activity meter decides. Pitzer & Mayorga (1973); Norrish (1966); Ross (1975); American
    Meat Institute GMP for degree-hours.
    """
    water = question.water_percent - question.lost_percent
    if water <= 1:
        raise OutOfRangeError(say("bench.dry.so_much_water_is_not_in"), lost=question.lost_percent)
    sugars = {"sucrose": question.sucrose_percent / 100, "glucose": question.glucose_percent / 100}
    aw = aw_of_mixture(question.salt_percent / 100, sugars, water / 100)
    need = _loss(question, sugars, question.target_aw)
    surely = _loss(question, sugars, question.target_aw - ESTIMATE_AW)
    now = aw if question.measured_aw is None else question.measured_aw
    dried = _judge_dried(question, now)
    hours = _degree_hours(question)
    state = worst_of([planned(v.state) for v in hours.values()] + [_seen(question, dried)])
    phase = percent_of_total(question.salt_percent, water)
    return BenchAnswer(
        state=state,
        sentence=_sentence(question, now, need, dried),
        reason=joined(
            (
                say("bench.clocks.name_sentence", name=name, sentence=verdict.sentence)
                for name, verdict in hours.items()
            ),
            " ",
        ),
        fixes=_fixes(question, need, surely, dried, hours),
        figures=(*_figures(question, now, need, phase), *(_hours_figure(verdict) for verdict in hours.values())),
        pictures=_pictures(question, sugars, need, phase),
        tables=(_growers(now, question.ph),),
        schools=tuple(_schools(question, now)),
        workings=(_working(question, aw, water), dried.working, *(v.working for v in hours.values())),
        caution=say("bench.dry.s_aureus_toxin_once_made_stays"),
    )


def _figures(question: DryQuestion, now: float, need: float | None, phase: float) -> tuple[Figure, ...]:
    return (
        Figure(
            name="aw_now",
            value=round(now, 3),
            kind="number",
            show="aw",
            main=True,
            low=0.75,
            high=1,
            band_from=0.75,
            band_to=question.target_aw,
        ),
        Figure(
            name="loss_needed",
            value=None if need is None else round(100 * need, 1),
            kind="percent",
            show=say("bench.answer.of_the_mass_at_the_start"),
            main=True,
            absent=say("bench.dry.not_by_drying_alone") if need is None else "",
        ),
        Figure(
            name="mass_at_target",
            value=None if need is None else question.mass_kg * (1 - need),
            kind="mass",
            show="kg",
        ),
        Figure(
            name="water_phase_salt",
            value=round(phase, 1),
            kind="percent",
            show=say("bench.answer.in_its_water"),
        ),
    )


def _loss(question: DryQuestion, sugars: dict[str, float], aw: float) -> float | None:
    """The loss that brings it to a water activity, as a share of the mass at the start."""
    return loss_for_aw(1, question.water_percent / 100, question.salt_percent / 100, sugars, aw)


def _judge_dried(question: DryQuestion, aw: float) -> Verdict:
    """Whether it is as dry as the plan asks, within what the meter, or the estimate, is good for."""
    limit = target("dry-aw", Threshold).model_copy(update={"value": question.target_aw})
    if question.measured_aw is None:
        return limit.evaluate(Series.of(aw, ESTIMATE_AW, "computed"), 0.0)
    return limit.evaluate(Series.of(aw, METER_AW), 0.0)


def _seen(question: DryQuestion, verdict: Verdict) -> AnswerState:
    return planned(verdict.state) if question.measured_aw is None else measured(verdict.state)


def _degree_hours(question: DryQuestion) -> dict[str, Verdict]:
    if not question.chamber:
        return {}
    steps = ((each.temperature_c, each.duration_s) for each in question.chamber)
    series = laid_end_to_end(steps, question.uncertainty_c, question.ph_reached == "yes")
    return {
        entry.school: entry.limit.evaluate(series, float(series.times_s[-1]))
        for entry in targets_for("sausage.degree_hours")
        if isinstance(entry.limit, DegreeHours)
    }


def _hours_figure(verdict: Verdict) -> Figure:
    most = verdict.limit_value or 1.0
    return Figure(
        name="degree_hours",
        value=verdict.value,
        kind="degree_hours",
        words=say("bench.dry.allowed_most", most=degree_hours(most, ".0f")),
        low=0,
        high=1.6 * most,
        band_from=0,
        band_to=most,
    )


def _sentence(question: DryQuestion, now: float, need: float | None, dried: Verdict) -> str:
    how = say("bench.dry.about") if question.measured_aw is None else say("bench.dry.measured")
    if dried.state == "pass":
        return say(
            "bench.dry.aw_after_loss_at_or_below",
            how=how,
            now=num(now, ".3f"),
            lost_percent=num(question.lost_percent),
            target_aw=num(question.target_aw),
        )
    if dried.state == "too_close":
        doubt = METER_AW if question.measured_aw is not None else ESTIMATE_AW
        return say(
            "bench.dry.aw_good_to_aw_too_close",
            how=how,
            now=num(now, ".3f"),
            doubt=num(doubt),
            target_aw=num(question.target_aw),
        )
    if need is None:
        return say(
            "bench.dry.aw_drying_alone_does_not_reach", how=how, now=num(now, ".3f"), target_aw=num(question.target_aw)
        )
    mass = question.mass_kg * (1 - need)
    return say(
        "bench.dry.aw_needs_loss_to",
        how=how,
        now=num(now, ".3f"),
        target_aw=num(question.target_aw),
        need=num(100 * need, ".0f"),
        mass=kg(mass, ".2f"),
    )


def _fixes(
    question: DryQuestion, need: float | None, surely: float | None, dried: Verdict, hours: dict[str, Verdict]
) -> tuple[str, ...]:
    said = []
    if dried.state == "too_close" and question.measured_aw is None:
        more = "" if surely is None else say("bench.dry.or_let_it_lose_in_all", surely=num(100 * surely, ".0f"))
        said.append(say("bench.dry.measure_its_water_activity", more=more))
    elif dried.state == "too_close":
        said.append(say("bench.dry.let_it_lose_a_little_more"))
    elif dried.state == "fail" and need is not None:
        said.append(say("bench.dry.hang_it_until_it_weighs_then", mass=kg(question.mass_kg * (1 - need), ".2f")))
    elif dried.state == "fail":
        said.append(say("bench.dry.more_salt_at_the_start_or"))
    if any(verdict.state == "fail" for verdict in hours.values()):
        said.append(say("bench.dry.too_many_degree_hours_hold_it"))
        said.append(say("bench.dry.next_time_a_faster_starter_a"))
    if question.ph_reached == "no":
        said.append(say("bench.dry.the_degree_hours_run_on_until"))
    return tuple(said)


def _pictures(question: DryQuestion, sugars: dict[str, float], need: float | None, phase: float) -> tuple[Picture, ...]:
    most = min(max(question.lost_percent, 100 * (need or 0.0)) * 1.2 + 5, question.water_percent - 12)
    losses = np.linspace(0, max(most, 1.0), 60)
    found = []
    for loss in losses:
        try:
            found.append(aw_of_mixture(question.salt_percent / 100, sugars, (question.water_percent - loss) / 100))
        except OutOfRangeError:
            break
    return (
        CurvePicture(
            title="aw_by_loss",
            x_kind="number",
            y_kind="number",
            y_show="aw",
            lines=(line(say("bench.dry.water_activity"), "core", losses[: len(found)], np.array(found)),),
            marks=(
                BenchMark(
                    words=say("bench.dry.target_target_aw", target_aw=num(question.target_aw)), y=question.target_aw
                ),
                BenchMark(
                    words=say("bench.dry.now"),
                    y=float(np.interp(question.lost_percent, losses[: len(found)], found)),
                    x=question.lost_percent,
                ),
            ),
        ),
        ground(question.ph, min(phase, 20.0)),
    )


def _growers(aw: float, ph: float) -> Table:
    rows = []
    for each in organisms().values():
        stopped = [word for word, stops in (("aw", aw < each.min_aw), ("pH", ph < each.min_ph)) if stops]
        rows.append(
            (
                each.name,
                num(each.min_aw),
                num(each.min_ph),
                say("bench.dry.stopped_by", stopped=joined(stopped, "words.and"))
                if stopped
                else say("bench.dry.can_grow_if_warm"),
            )
        )
    return Table(
        title=say("bench.dry.what_it_stops"),
        head=("", say("bench.dry.grows_from_aw"), say("bench.dry.from_ph"), ""),
        rows=tuple(rows),
    )


def _schools(question: DryQuestion, aw: float) -> list[SchoolAnswer]:
    doubt = ESTIMATE_AW if question.measured_aw is None else METER_AW
    found = []
    for topic in ("tcs.heated_packed", "tcs.other", "sealed.factor"):
        for entry in targets_for(topic):
            if isinstance(entry.limit, Composition):
                facts = {
                    "aw": Measured(value=aw, uncertainty=doubt),
                    "ph": Measured(value=question.ph, uncertainty=0.05),
                }
                verdict = entry.limit.judge(facts, "computed")  # type: ignore[arg-type]
                found.append(
                    SchoolAnswer(school=entry.limit.title, state=_seen(question, verdict), sentence=verdict.sentence)
                )
    return found


def _working(question: DryQuestion, aw: float, water: float) -> Working:
    return Working(
        title=say("bench.dry.water_activity_2"),
        formula=say("bench.dry.aw_aw_salt_in_its_water"),
        inputs=(
            Input(
                name=say("bench.dry.water_left"),
                value=round(water, 2),
                unit=say("bench.answer.percent_of_the_mass_at_the_start"),
            ),
            Input(name=say("bench.dry.salt"), value=question.salt_percent, unit="%"),
            Input(
                name=say("bench.dry.salt_in_the_water"),
                value=round(percent_of_total(question.salt_percent, water), 2),
                unit="%",
            ),
            Input(name=say("bench.dry.sugars"), value=question.sucrose_percent + question.glucose_percent, unit="%"),
        ),
        result=say("bench.dry.aw_aw", aw=num(aw, ".3f")),
        source=Source(citation="Pitzer & Mayorga (1973); Norrish (1966); Ross (1975)", tag="published"),
        assumptions=(
            say("bench.dry.only_water_is_lost"),
            say("bench.dry.protein_and_fat_bind_none"),
            say("bench.dry.even_throughout"),
        ),
        valid_range=say("bench.dry.aw_0_75_to_1_about"),
    )
