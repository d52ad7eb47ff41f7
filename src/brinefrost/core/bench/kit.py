"""Measuring: a reading against its limit and uncertainty, fixed points by altitude, the slope of a pH electrode."""

from dataclasses import dataclass
from typing import Literal

from brinefrost.core.bench.answer import (
    BenchAnswer,
    Figure,
    ScaleMark,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    Table,
    measured,
)
from brinefrost.core.bench.scales import scales
from brinefrost.core.fields import Kind, field
from brinefrost.core.kitchen.instruments import NERNST_MV, offset_at, slope_percent
from brinefrost.core.limits import Composition, Measured, Series, Threshold, Verdict, worst
from brinefrost.core.physics.altitude import boiling_c, pressure_pa
from brinefrost.core.rules import target, targets_for
from brinefrost.core.words import amount, apart, bound, diff, num, say, temp
from brinefrost.core.working import Input, Sent, Source, Working

JCGM = Source(citation="JCGM 106:2012, 8.3: guarded acceptance", tag="published")


READINGS = ("temperature", "reading")


class KitQuestion(Sent):
    """A reading to judge, a thermometer to check, or an electrode to calibrate."""

    what: Literal["temperature", "reading", "thermometer", "electrode"] = field("choice", "temperature", main=True)
    unit: Literal["pH", "%", "aw"] = field("choice", "pH", main=True, only={"what": ("reading",)})
    reading_c: float = field("temperature", 62.6, -60, 300, main=True, only={"what": ("temperature",)})
    reading: float = field("number", 4.55, 0, 400, main=True, only={"what": ("reading",)})
    limit_c: float = field("temperature", 62.5, -60, 300, main=True, only={"what": ("temperature",)})
    limit: float = field("number", 4.6, 0, 400, main=True, only={"what": ("reading",)})
    comparison: Literal["at_least", "at_most"] = field("choice", "at_least", main=True, only={"what": READINGS})
    uncertainty_c: float = field("difference", 0.5, 0, 20, step=0.05, main=True, only={"what": ("temperature",)})
    uncertainty: float = field("number", 0.1, 0, 20, step=0.001, main=True, only={"what": ("reading",)})
    fixed_point: Literal["ice", "boiling"] = field("choice", "boiling", main=True, only={"what": ("thermometer",)})
    shown_c: float = field("temperature", 92.4, -20, 110, main=True, only={"what": ("thermometer",)})
    allowed_c: float = field("difference", 1.0, 0.1, 5, step=0.1, only={"what": ("thermometer",)})
    altitude_m: float = field("height", 2140, -100, 6000, main=True, only={"what": ("thermometer",)})
    mv_acid: float = field("number", 171, -500, 500, "mV", main=True, only={"what": ("electrode",)})
    mv_neutral: float = field("number", -2, -500, 500, "mV", main=True, only={"what": ("electrode",)})
    buffer_c: float = field("temperature", 20, 5, 40, only={"what": ("electrode",)})
    third_buffer: float = field("ph", 4.63, 1, 12, only={"what": ("electrode",)})
    third_reading: float | None = field("ph", None, 1, 12, only={"what": ("electrode",)})


def answer_kit(question: KitQuestion) -> BenchAnswer:
    """Judge a reading, a thermometer or an electrode.

    Pass, too close to call, or fail, with the guard band shown. Raises OutOfRangeError if buffers or altitude lie
    outside the models. Valid for an expanded uncertainty with k = 2. JCGM 106:2012; ISO 2533;
    Nernst.
    """
    if question.what in READINGS:
        return _reading(question, _read(question))
    return _thermometer(question) if question.what == "thermometer" else _electrode(question)


def _threshold(
    title: str, comparison: Literal["at_least", "at_most"], value: float, unit: str, source: Source
) -> Threshold:
    return Threshold(id="bench", title=title, source=source, comparison=comparison, value=value, unit=unit)


@dataclass(frozen=True)
class Read:
    """What was read against what, and how surely, in one unit."""

    value: float
    limit: float
    uncertainty: float
    unit: str
    kind: Kind
    doubt_kind: Kind


def _read(question: KitQuestion) -> Read:
    if question.what == "temperature":
        return Read(question.reading_c, question.limit_c, question.uncertainty_c, "°C", "temperature", "difference")
    return Read(question.reading, question.limit, question.uncertainty, question.unit, "number", "number")


def _reading(question: KitQuestion, read: Read) -> BenchAnswer:
    sign = "≥" if question.comparison == "at_least" else "≤"
    title = say("bench.kit.reading_sign_limit", sign=sign, limit=bound(read.limit, read.unit, "g"))
    limit = _threshold(title, question.comparison, read.limit, read.unit, JCGM)
    verdict = limit.evaluate(Series.of(read.value, read.uncertainty), 0.0)
    reach = max(4 * read.uncertainty, abs(read.value - read.limit) * 1.5, 0.1)
    low, high = read.limit - reach, read.limit + reach
    guard = read.limit + read.uncertainty * (1 if question.comparison == "at_least" else -1)
    rules = _decision_rules(read, limit, verdict)
    band = (guard, high) if question.comparison == "at_least" else (low, guard)
    return BenchAnswer(
        state=measured(verdict.state),
        sentence=verdict.sentence,
        fixes=verdict.advice,
        figures=(
            Figure(
                name=say("bench.kit.reading"),
                value=read.value,
                kind=read.kind,
                show=read.unit,
                main=True,
                low=low,
                high=high,
                band_from=band[0],
                band_to=band[1],
                words=say("bench.kit.good_to", uncertainty=apart(read.uncertainty, read.unit, "g")),
            ),
            Figure(
                name=say("bench.kit.guarded_limit"),
                value=round(guard, 3),
                kind=read.kind,
                show=read.unit,
                main=True,
                words=say("bench.kit.from_here_on_it_surely_passes")
                if question.comparison == "at_least"
                else say("bench.kit.up_to_here_it_surely_passes"),
            ),
            Figure(
                name=say("bench.kit.margin"),
                value=round(verdict.margin or 0.0, 3),
                kind=read.doubt_kind,
                show=read.unit,
            ),
        ),
        pictures=(_scales(question, read, rules, (low, high)),),
        schools=tuple(rules),
        workings=(verdict.working,),
        caution=say("bench.kit.a_better_instrument_makes_the_band"),
    )


def _scales(question: KitQuestion, read: Read, rules: list[SchoolAnswer], span: tuple[float, float]) -> ScalePicture:
    """The reading with its doubt, on the scale of each decision rule: where that rule passes."""
    upward = question.comparison == "at_least"
    rows = []
    for rule, share in zip(rules, (1, 0, -1), strict=True):
        edge = read.limit + read.uncertainty * (share if upward else -share)
        rows.append(
            ScaleRow(
                words=rule.school,
                said=say("bench.kit.passes_from", edge=amount(edge, read.unit, "g"))
                if upward
                else say("bench.kit.passes_up_to", edge=amount(edge, read.unit, "g")),
                state=rule.state,
                at=read.value,
                doubt=read.uncertainty,
                stretches=(Stretch(low=edge, high=span[1]) if upward else Stretch(low=span[0], high=edge),),
            )
        )
    mark = ScaleMark(words=say("bench.kit.limit_limit", limit=bound(read.limit, read.unit, "g")), x=read.limit)
    drawn = scales("decision_rules", read.kind, rows, read.unit, (mark,), span)
    return drawn.model_copy(
        update={"pointer": say("bench.kit.the_reading_good_to", uncertainty=apart(read.uncertainty, read.unit, "g"))}
    )


def _decision_rules(read: Read, limit: Threshold, guarded: Verdict) -> list[SchoolAnswer]:
    """The rule taken here, and the two others of JCGM 106, from the strictest on."""
    plain = limit.evaluate(Series.of(read.value, 0.0), 0.0)
    return [
        SchoolAnswer(
            school=say("bench.kit.guarded_acceptance_as_here"),
            state=measured(guarded.state),
            sentence=say("bench.kit.passes_only_when_it_surely_passes"),
        ),
        SchoolAnswer(
            school=say("bench.kit.simple_acceptance_no_guard_band"),
            state=measured(plain.state),
            sentence=plain.sentence,
        ),
        SchoolAnswer(
            school=say("bench.kit.guarded_rejection_the_lenient_side"),
            state="fail" if guarded.state == "fail" else "pass",
            sentence=say("bench.kit.fails_only_when_it_surely_fails"),
        ),
    ]


def _thermometer(question: KitQuestion) -> BenchAnswer:
    true_c, off = offset_at(question.shown_c, question.fixed_point, question.altitude_m)
    limit = _threshold(
        say("bench.kit.within_of_the_fixed_point", allowed=diff(question.allowed_c, "g")),
        "at_most",
        question.allowed_c,
        "°C",
        Source(citation="Common practice: ice point 0 ± 1 °C; US ± 2 °F", tag="common_practice"),
    )
    verdict = limit.evaluate(Series.of(abs(off)), 0.0)
    good = verdict.state == "pass"
    return BenchAnswer(
        state="pass" if good else "fail",
        sentence=say(
            "bench.kit.it_reads_from_the_point",
            off=diff(off, "+.1f"),
            fixed_point=question.fixed_point,
            true=temp(true_c, ".1f"),
            more="good." if good else "out.",
        ),
        reason=say(
            "bench.kit.at_m_the_air_presses_with",
            altitude=num(question.altitude_m),
            pressure_pa=num(pressure_pa(question.altitude_m) / 100, ".0f"),
            boiling=temp(boiling_c(question.altitude_m), ".1f"),
        ),
        fixes=() if good else (say("bench.kit.take_it_out_of_use_adjust"),),
        figures=(
            Figure(
                name=say("bench.kit.offset"),
                value=round(off, 2),
                kind="difference",
                main=True,
                low=-3,
                high=3,
                band_from=-question.allowed_c,
                band_to=question.allowed_c,
            ),
            Figure(name=say("bench.kit.fixed_point"), value=round(true_c, 2), kind="temperature", main=True),
        ),
        pictures=(
            scales(
                "fixed_point",
                "temperature",
                [
                    ScaleRow(
                        words=say(
                            "bench.kit.the_point_at_m",
                            fixed_point=question.fixed_point,
                            altitude=num(question.altitude_m),
                        ),
                        said=say(
                            "bench.kit.true_allowed", true=temp(true_c, ".1f"), allowed=diff(question.allowed_c, "g")
                        ),
                        state="pass" if good else "fail",
                        at=question.shown_c,
                        stretches=(Stretch(low=true_c - question.allowed_c, high=true_c + question.allowed_c),),
                    )
                ],
            ).model_copy(update={"pointer": say("bench.kit.it_shows", shown=temp(question.shown_c, "g"))}),
        ),
        tables=(
            Table(
                title=say("bench.kit.water_boils_at"),
                head=("Height", say("bench.kit.boils_at")),
                rows=tuple(
                    (f"{h:,} m", temp(boiling_c(h), ".1f")) for h in (0, 500, 1000, 1500, 2000, 2140, 2500, 3000)
                ),
            ),
        ),
        workings=(
            verdict.working,
            Working(
                title=say("bench.kit.boiling_point"),
                formula=say("bench.kit.log10_p_5_08354_1663_125"),
                inputs=(Input(name=say("bench.kit.altitude"), value=question.altitude_m, unit="m"),),
                result=temp(boiling_c(question.altitude_m), ".2f"),
                source=Source(citation="ISO 2533; vapour pressure of water, NIST", tag="published"),
                assumptions=(say("bench.kit.standard_atmosphere_weather_moves_it_by"),),
            ),
        ),
        caution=say("bench.kit.check_daily_or_weekly_by_use"),
    )


def _electrode(question: KitQuestion) -> BenchAnswer:
    slope = slope_percent(question.mv_acid, question.mv_neutral, question.buffer_c)
    entries = targets_for("kit.ph_slope")
    limits = [entry.limit for entry in entries if isinstance(entry.limit, Composition)]
    verdict = limits[0].judge({"slope": Measured(value=round(slope, 1))})
    said = say("bench.kit.slope_of_mv_per_ph", slope=num(slope, ".1f"), nernst_mv=num(NERNST_MV))
    states = [verdict.state]
    if question.third_reading is not None:
        off = question.third_reading - question.third_buffer
        states.append(target("ph-third-buffer", Threshold).evaluate(Series.of(abs(off)), 0.0).state)
        said += say("bench.kit.third_buffer_off_by", off=num(off, "+.2f"))
    state = measured(worst(states))
    return BenchAnswer(
        state=state,
        sentence=f"{said}: " + ("good." if state == "pass" else "out."),
        reason=verdict.sentence,
        fixes=() if state == "pass" else (say("bench.kit.fresh_buffers_clean_the_bulb_calibrate"),),
        figures=(
            Figure(
                name=say("bench.ferment.slope"),
                value=round(slope, 1),
                kind="percent",
                show="of ideal",
                main=True,
                low=80,
                high=115,
                band_from=95,
                band_to=105,
            ),
            Figure(
                name=say("bench.kit.zero"),
                value=round(question.mv_neutral, 1),
                kind="number",
                show="mV at pH 7",
                low=-60,
                high=60,
                band_from=-30,
                band_to=30,
            ),
        ),
        pictures=(
            scales(
                "electrode",
                "percent",
                [
                    ScaleRow(
                        words=limit.title,
                        state=measured(limit.judge({"slope": Measured(value=round(slope, 1))}).state),
                        at=slope,
                        stretches=(Stretch(low=limit.ways[0].bounds[0].value, high=limit.ways[0].bounds[1].value),),
                    )
                    for limit in limits
                ],
                marks=(ScaleMark(words=say("bench.kit.ideal_100"), x=100),),
            ).model_copy(update={"pointer": say("bench.kit.this_electrode", slope=num(slope, ".1f"))}),
        ),
        schools=tuple(
            SchoolAnswer(
                school=entry.school,
                state=measured(limit.judge({"slope": Measured(value=round(slope, 1))}).state),
                sentence=limit.title,
            )
            for entry, limit in zip(entries, limits, strict=True)
        ),
        workings=(
            Working(
                title=say("bench.kit.slope"),
                formula=say("bench.kit.mv_mv_7_00_4_01"),
                inputs=(
                    Input(name=say("bench.kit.mv_in_4_01"), value=question.mv_acid, unit="mV"),
                    Input(name=say("bench.kit.mv_in_7_00"), value=question.mv_neutral, unit="mV"),
                    Input(name=say("bench.kit.buffers_at"), value=question.buffer_c, unit="°C"),
                ),
                result=f"{slope:.1f} %",
                source=Source(citation="Nernst: 59.16 mV per pH at 25 °C", tag="published"),
            ),
            verdict.working,
        ),
        caution=say("bench.kit.two_buffers_before_use_each_day"),
    )
