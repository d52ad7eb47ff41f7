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
from brinefrost.core.working import Document, Input, Source, Working

JCGM = Source(citation="JCGM 106:2012, 8.3: guarded acceptance", tag="published")


READINGS = ("temperature", "reading")


class KitQuestion(Document):
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

    Parameters
    ----------
    question : KitQuestion
        Readings in their units, voltages [mV], altitude [m].

    Returns
    -------
    BenchAnswer
        Pass, too close to call, or fail, with the guard band shown.

    Raises
    ------
    OutOfRangeError
        If buffers or altitude lie outside the models.

    Notes
    -----
    Valid for an expanded uncertainty with k = 2.

    References
    ----------
    JCGM 106:2012; ISO 2533; Nernst.
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
    title = f"reading {sign} {read.limit:g} {read.unit}"
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
                name="reading",
                value=read.value,
                kind=read.kind,
                show=read.unit,
                main=True,
                low=low,
                high=high,
                band_from=band[0],
                band_to=band[1],
                words=f"good to ±{read.uncertainty:g} {read.unit}",
            ),
            Figure(
                name="guarded_limit",
                value=round(guard, 3),
                kind=read.kind,
                show=read.unit,
                main=True,
                words="from here on it surely passes"
                if question.comparison == "at_least"
                else "up to here it surely passes",
            ),
            Figure(name="margin", value=round(verdict.margin or 0.0, 3), kind=read.doubt_kind, show=read.unit),
        ),
        pictures=(_scales(question, read, rules, (low, high)),),
        schools=tuple(rules),
        workings=(verdict.working,),
        caution="A better instrument makes the band narrower; a second reading with the same one does not.",
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
                said=f"passes from {edge:g} {read.unit}" if upward else f"passes up to {edge:g} {read.unit}",
                state=rule.state,
                at=read.value,
                doubt=read.uncertainty,
                stretches=(Stretch(low=edge, high=span[1]) if upward else Stretch(low=span[0], high=edge),),
            )
        )
    mark = ScaleMark(words=f"limit {read.limit:g} {read.unit}", x=read.limit)
    drawn = scales("decision_rules", read.kind, rows, read.unit, (mark,), span)
    return drawn.model_copy(update={"pointer": f"the reading, good to ±{read.uncertainty:g} {read.unit}"})


def _decision_rules(read: Read, limit: Threshold, guarded: Verdict) -> list[SchoolAnswer]:
    """The rule taken here, and the two others of JCGM 106, from the strictest on."""
    plain = limit.evaluate(Series.of(read.value, 0.0), 0.0)
    return [
        SchoolAnswer(
            school="Guarded acceptance, as here",
            state=measured(guarded.state),
            sentence="Passes only when it surely passes.",
        ),
        SchoolAnswer(school="Simple acceptance, no guard band", state=measured(plain.state), sentence=plain.sentence),
        SchoolAnswer(
            school="Guarded rejection, the lenient side",
            state="fail" if guarded.state == "fail" else "pass",
            sentence="Fails only when it surely fails. Not for food safety.",
        ),
    ]


def _thermometer(question: KitQuestion) -> BenchAnswer:
    true_c, off = offset_at(question.shown_c, question.fixed_point, question.altitude_m)
    limit = _threshold(
        f"within {question.allowed_c:g} °C of the fixed point",
        "at_most",
        question.allowed_c,
        "°C",
        Source(citation="Common practice: ice point 0 ± 1 °C; US ± 2 °F", tag="common_practice"),
    )
    verdict = limit.evaluate(Series.of(abs(off)), 0.0)
    good = verdict.state == "pass"
    return BenchAnswer(
        state="pass" if good else "fail",
        sentence=f"It reads {off:+.1f} °C from the {question.fixed_point} point, {true_c:.1f} °C: "
        + ("good." if good else "out."),
        reason=f"At {question.altitude_m:g} m the air presses with {pressure_pa(question.altitude_m) / 100:.0f} hPa "
        f"and water boils at {boiling_c(question.altitude_m):.1f} °C.",
        fixes=()
        if good
        else ("Take it out of use, adjust it or have it calibrated. Look back at what it has measured.",),
        figures=(
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
        ),
        pictures=(
            scales(
                "fixed_point",
                "temperature",
                [
                    ScaleRow(
                        words=f"The {question.fixed_point} point at {question.altitude_m:g} m",
                        said=f"{true_c:.1f} °C, ±{question.allowed_c:g} °C",
                        state="pass" if good else "fail",
                        at=question.shown_c,
                        stretches=(Stretch(low=true_c - question.allowed_c, high=true_c + question.allowed_c),),
                    )
                ],
            ).model_copy(update={"pointer": f"it shows {question.shown_c:g} °C"}),
        ),
        tables=(
            Table(
                title="Water boils at",
                head=("Height", "Boils at"),
                rows=tuple(
                    (f"{h:,} m", f"{boiling_c(h):.1f} °C") for h in (0, 500, 1000, 1500, 2000, 2140, 2500, 3000)
                ),
            ),
        ),
        workings=(
            verdict.working,
            Working(
                title="Boiling point",
                formula="log10 p = 5.08354 − 1663.125 / (T − 45.622), p of the standard atmosphere",
                inputs=(Input(name="altitude", value=question.altitude_m, unit="m"),),
                result=f"{boiling_c(question.altitude_m):.2f} °C",
                source=Source(citation="ISO 2533; vapour pressure of water, NIST", tag="published"),
                assumptions=("standard atmosphere: weather moves it by about 1 °C",),
            ),
        ),
        caution="Check daily or weekly by use, and after every drop.",
    )


def _electrode(question: KitQuestion) -> BenchAnswer:
    slope = slope_percent(question.mv_acid, question.mv_neutral, question.buffer_c)
    entries = targets_for("kit.ph_slope")
    limits = [entry.limit for entry in entries if isinstance(entry.limit, Composition)]
    verdict = limits[0].judge({"slope": Measured(value=round(slope, 1))})
    said = f"Slope {slope:.1f} % of {NERNST_MV:g} mV per pH"
    states = [verdict.state]
    if question.third_reading is not None:
        off = question.third_reading - question.third_buffer
        states.append(target("ph-third-buffer", Threshold).evaluate(Series.of(abs(off)), 0.0).state)
        said += f"; third buffer off by {off:+.2f}"
    state = measured(worst(states))
    return BenchAnswer(
        state=state,
        sentence=f"{said}: " + ("good." if state == "pass" else "out."),
        reason=verdict.sentence,
        fixes=() if state == "pass" else ("Fresh buffers, clean the bulb, calibrate again; then a new electrode.",),
        figures=(
            Figure(
                name="slope",
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
                name="zero",
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
                marks=(ScaleMark(words="ideal 100 %", x=100),),
            ).model_copy(update={"pointer": f"this electrode, {slope:.1f} %"}),
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
                title="Slope",
                formula="(mV₄ − mV₇) / (7.00 − 4.01) / (59.16 × T / 298.15)",
                inputs=(
                    Input(name="mV in 4.01", value=question.mv_acid, unit="mV"),
                    Input(name="mV in 7.00", value=question.mv_neutral, unit="mV"),
                    Input(name="buffers at", value=question.buffer_c, unit="°C"),
                ),
                result=f"{slope:.1f} %",
                source=Source(citation="Nernst: 59.16 mV per pH at 25 °C", tag="published"),
            ),
            verdict.working,
        ),
        caution="Two buffers before use each day. Measure in a blended sample, rinse, never wipe the bulb.",
    )
