"""Checks of the kit: a thermometer at a fixed point by altitude, the slope of a pH electrode."""

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
from brinefrost.core.bench.kit_question import KitQuestion
from brinefrost.core.bench.scales import scales
from brinefrost.core.kitchen.instruments import NERNST_MV, offset_at, slope_percent
from brinefrost.core.limits import Composition, Measured, Quantity, Series, Threshold, Verdict, worst
from brinefrost.core.physics.altitude import boiling_c, pressure_pa
from brinefrost.core.rules import target, targets_for
from brinefrost.core.words import diff, height, num, percent, say, temp
from brinefrost.core.working import Input, Source, Working

FIXED_POINT = Source(citation="Common practice: ice point 0 ± 1 °C; US ± 2 °F", tag="common_practice")
HEIGHTS_M = (0, 500, 1000, 1500, 2000, 2140, 2500, 3000)


def answer_thermometer(question: KitQuestion) -> BenchAnswer:
    """A thermometer in ice or in boiling water, against what that point is at this height."""
    true_c, off = offset_at(question.shown_c, question.fixed_point, question.altitude_m)
    limit = Threshold(
        id="bench",
        title=say("bench.kit.within_of_the_fixed_point", allowed=diff(question.allowed_c, "g")),
        source=FIXED_POINT,
        comparison="at_most",
        value=question.allowed_c,
        unit="°C",
    )
    verdict = limit.evaluate(Series.of(abs(off)), 0.0)
    good = verdict.state == "pass"
    return BenchAnswer(
        state="pass" if good else "fail",
        sentence=say(
            "bench.kit.it_reads_from_the_point",
            off=diff(off, "+.1f"),
            point=_point(question),
            true=temp(true_c, ".1f"),
            verdict=_name_kit(good),
        ),
        reason=say(
            "bench.kit.at_m_the_air_presses_with",
            altitude=height(question.altitude_m),
            pressure_pa=num(pressure_pa(question.altitude_m) / 100, ".0f"),
            boiling=temp(boiling_c(question.altitude_m), ".1f"),
        ),
        fixes=() if good else (say("bench.kit.take_it_out_of_use_adjust"),),
        figures=_offset(question, true_c, off),
        pictures=(_at_the_point(question, true_c, good),),
        tables=(_boiling(),),
        workings=(verdict.working, _boiling_working(question)),
        caution=say("bench.kit.check_daily_or_weekly_by_use"),
    )


def _point(question: KitQuestion) -> str:
    return say("bench.kit.ice_point") if question.fixed_point == "ice" else say("bench.kit.point_of_boiling")


def _name_kit(good: bool) -> str:
    return say("bench.kit.good") if good else say("bench.kit.out")


def _offset(question: KitQuestion, true_c: float, off: float) -> tuple[Figure, ...]:
    return (
        Figure(
            name="offset",
            value=round(off, 2),
            kind="difference",
            main=True,
            low=-3,
            high=3,
            band_from=-question.allowed_c,
            band_to=question.allowed_c,
        ),
        Figure(name="fixed_point", value=round(true_c, 2), kind="temperature", main=True),
    )


def _at_the_point(question: KitQuestion, true_c: float, good: bool) -> ScalePicture:
    """What it shows, on the scale round the fixed point."""
    row = ScaleRow(
        words=say("bench.kit.the_point_at_m", point=_point(question), altitude=height(question.altitude_m)),
        said=say("bench.kit.true_allowed", true=temp(true_c, ".1f"), allowed=diff(question.allowed_c, "g")),
        state="pass" if good else "fail",
        at=question.shown_c,
        stretches=(Stretch(low=true_c - question.allowed_c, high=true_c + question.allowed_c),),
    )
    pointer = say("bench.kit.it_shows", shown=temp(question.shown_c, "g"))
    return scales("fixed_point", "temperature", [row], pointer=pointer)


def _boiling() -> Table:
    return Table(
        title=say("bench.kit.water_boils_at"),
        head=(say("bench.kit.height"), say("bench.kit.boils_at")),
        rows=tuple((height(height_m), temp(boiling_c(height_m), ".1f")) for height_m in HEIGHTS_M),
    )


def _boiling_working(question: KitQuestion) -> Working:
    return Working(
        title=say("bench.kit.boiling_point"),
        formula=say("bench.kit.log10_p_5_08354_1663_125"),
        inputs=(Input(name=say("bench.kit.altitude"), value=height(question.altitude_m)),),
        result=temp(boiling_c(question.altitude_m), ".2f"),
        source=Source(citation="ISO 2533; vapour pressure of water, NIST", tag="published"),
        assumptions=(say("bench.kit.standard_atmosphere_weather_moves_it_by"),),
    )


def answer_electrode(question: KitQuestion) -> BenchAnswer:
    """A pH electrode in two buffers, and in a third where one was read."""
    slope = slope_percent(question.mv_acid, question.mv_neutral, question.buffer_c)
    judged = _by_slope(slope)
    verdict = judged[0][2]
    said = say("bench.kit.slope_of_mv_per_ph", slope=num(slope, ".1f"), nernst_mv=num(NERNST_MV))
    states = [verdict.state]
    if question.third_reading is not None:
        off = question.third_reading - question.third_buffer
        states.append(target("ph-third-buffer", Threshold).evaluate(Series.of(abs(off)), 0.0).state)
        said += say("bench.kit.third_buffer_off_by", off=num(off, "+.2f"))
    state = measured(worst(states))
    return BenchAnswer(
        state=state,
        sentence=say("bench.kit.said_verdict", said=said, verdict=_name_kit(state == "pass")),
        reason=verdict.sentence,
        fixes=() if state == "pass" else (say("bench.kit.fresh_buffers_clean_the_bulb_calibrate"),),
        figures=_slope_and_zero(question, slope),
        pictures=(_on_each_school(judged, slope),),
        schools=tuple(
            SchoolAnswer(school=school, state=measured(each.state), sentence=limit.title)
            for school, limit, each in judged
        ),
        workings=(_slope_working(question, slope), verdict.working),
        caution=say("bench.kit.two_buffers_before_use_each_day"),
    )


def _by_slope(slope: float) -> list[tuple[str, Composition, Verdict]]:
    """Each school's bounds for the slope, and what they say of this one."""
    facts: dict[Quantity, Measured] = {"slope": Measured(value=round(slope, 1))}
    return [
        (entry.school, entry.limit, entry.limit.judge(facts))
        for entry in targets_for("kit.ph_slope")
        if isinstance(entry.limit, Composition)
    ]


def _slope_and_zero(question: KitQuestion, slope: float) -> tuple[Figure, ...]:
    return (
        Figure(
            name="slope",
            value=round(slope, 1),
            kind="percent",
            show=say("bench.answer.of_ideal"),
            main=True,
            low=80,
            high=115,
            band_from=95,
            band_to=105,
        ),
        Figure(
            name="zero",
            value=round(question.mv_neutral, 1),
            kind="number",
            show=say("bench.answer.mv_at_ph_7"),
            low=-60,
            high=60,
            band_from=-30,
            band_to=30,
        ),
    )


def _on_each_school(judged: list[tuple[str, Composition, Verdict]], slope: float) -> ScalePicture:
    rows = []
    for _, limit, verdict in judged:
        least, most = limit.ways[0].bounds
        stretch = Stretch(low=least.value, high=most.value)
        rows.append(ScaleRow(words=limit.title, state=measured(verdict.state), at=slope, stretches=(stretch,)))
    ideal = ScaleMark(words=say("bench.kit.ideal_100"), x=100)
    pointer = say("bench.kit.this_electrode", slope=num(slope, ".1f"))
    return scales("electrode", "percent", rows, marks=(ideal,), pointer=pointer)


def _slope_working(question: KitQuestion, slope: float) -> Working:
    return Working(
        title=say("bench.kit.slope"),
        formula=say("bench.kit.mv_mv_7_00_4_01"),
        inputs=(
            Input(name=say("bench.kit.mv_in_4_01"), value=question.mv_acid, unit="mV"),
            Input(name=say("bench.kit.mv_in_7_00"), value=question.mv_neutral, unit="mV"),
            Input(name=say("bench.kit.buffers_at"), value=question.buffer_c, unit="°C"),
        ),
        result=percent(slope, ".1f"),
        source=Source(citation="Nernst: 59.16 mV per pH at 25 °C", tag="published"),
    )
