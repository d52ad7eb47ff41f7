"""A ferment: salt, warmth, its pH day by day against the deadline, and the day it should be sour."""

from typing import Literal

import numpy as np

from brinefrost.core.bench.acid import ground
from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    SchoolAnswer,
    line,
    measured,
    planned,
)
from brinefrost.core.chemistry.brine import percent_of_total
from brinefrost.core.chemistry.ferment import Crossing, crossing
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.limits import ReachedBy, Series, Verdict
from brinefrost.core.rules import target, targets_for
from brinefrost.core.working import Document, Input, Source, Working

FermentKind = Literal["kraut", "kimchi", "half_sour", "brined"]
# salt on everything, % low and high; temperature low and high; common practice, no source, and NCHFP for kraut
WEAK = 0.75  # of the least usual salt: with less, which bacteria win is open; common practice, no source
SALT: dict[str, tuple[float, float]] = {
    "kraut": (2.0, 2.5),
    "kimchi": (2.0, 3.0),
    "half_sour": (3.5, 5.0),
    "brined": (5.0, 8.0),
}
WARM_C = (18.0, 22.0)
FINISH_PH = 4.0
LINE_PH = target("ferment-4.6", ReachedBy).at_most
DAY_S = 86400.0


class FermentReading(Document):
    """A day's reading."""

    day: float = field("number", 0, 0, 400, "d")
    ph: float = field("ph", 6, 2, 9)
    temperature_c: float = field("temperature", 20, -5, 45)


DAYS = (
    FermentReading(day=0, ph=6.1, temperature_c=19.5),
    FermentReading(day=1, ph=5.8, temperature_c=20.1),
    FermentReading(day=2, ph=5.3, temperature_c=20.4),
    FermentReading(day=3, ph=4.9, temperature_c=20.2),
)


class FermentQuestion(Document):
    """What was salted, and how its pH went."""

    kind: FermentKind = field("choice", "kraut", main=True)
    vegetable_kg: float = field("mass", 20, 0.1, 2000, "kg", main=True)
    water_kg: float = field("mass", 0, 0, 2000, "kg", main=True)
    salt_kg: float = field("mass", 0.46, 0, 200, "g", 0.01, main=True)
    deadline_days: float = field("number", 7, 1, 14, "d", step=1, main=True)
    ph_uncertainty: float = field("number", 0.05, 0, 0.5, "pH")
    readings: tuple[FermentReading, ...] = field("rows", DAYS, most=120, main=True, file="ph")


def answer_ferment(question: FermentQuestion) -> BenchAnswer:
    """Judge a ferment against its deadline and project it on.

    Parameters
    ----------
    question : FermentQuestion
        Masses [kg], days [d], pH [-].

    Returns
    -------
    BenchAnswer
        Whether pH 4.6 was measured in time, or the day it should be, early and late; salt and warmth against what
        is usual.

    Raises
    ------
    OutOfRangeError
        If there is no reading, or the days do not rise.

    Notes
    -----
    Valid as ``crossing``. Only a measured pH passes.

    References
    ----------
    NCHFP for kraut; common practice for the others; 21 CFR 114 for the line.
    """
    rows = sorted(question.readings, key=lambda row: row.day)
    if not rows:
        raise OutOfRangeError("Enter at least one day's pH.")
    days, ph = np.array([r.day for r in rows]), np.array([r.ph for r in rows])
    found = crossing(days, ph, LINE_PH, question.ph_uncertainty)
    salt = percent_of_total(question.salt_kg, question.vegetable_kg + question.water_kg)
    series = _series(rows, question)
    state, sentence, verdict = _verdict(_limit(question), series, found)
    weak = state == "would_meet" and salt < WEAK * SALT[question.kind][0]
    return BenchAnswer(
        state="ask" if weak else state,
        sentence=f"{sentence}{' With so little salt others than the souring ones may win.' if weak else ''}",
        reason=_salt_words(question.kind, salt) + _warm_words(rows),
        fixes=_fixes(question, state, salt),
        figures=(
            Figure(
                name="salt_on_all",
                value=round(salt, 2),
                kind="percent",
                show="salt",
                main=True,
                low=0,
                high=10,
                band_from=SALT[question.kind][0],
                band_to=SALT[question.kind][1],
            ),
            Figure(
                name="latest_ph", value=rows[-1].ph, kind="ph", main=True, low=3, high=7, band_from=3, band_to=LINE_PH
            ),
            Figure(
                name="crosses_on_day",
                value=None if found.day is None else round(found.day, 1),
                kind="number",
                show="d",
                words=_span(found),
            ),
            Figure(name="falls_a_day", value=round(found.slope_per_day, 2), kind="number", show="pH/d"),
        ),
        pictures=(_picture(question, rows, found), ground(rows[-1].ph, salt)),
        schools=_schools(question, series),
        workings=(verdict.working, _working(rows, found, salt)),
        caution="Only a measured pH passes. Soft, slimy, pink or foul: discard, whatever the pH.",
    )


def _series(rows: list[FermentReading], question: FermentQuestion) -> Series:
    """The pH day by day, the clock running from the day it was salted."""
    times = np.array([row.day * DAY_S for row in rows])
    return Series(times, np.array([row.ph for row in rows]), question.ph_uncertainty, 0.0)


def _limit(question: FermentQuestion) -> ReachedBy:
    """Sour by this question's own deadline."""
    return target("ferment-4.6", ReachedBy).model_copy(
        update={
            "within_s": question.deadline_days * DAY_S,
            "title": f"Ferment at pH {LINE_PH:g} or below within {question.deadline_days:g} days",
        }
    )


def _schools(question: FermentQuestion, series: Series) -> tuple[SchoolAnswer, ...]:
    last_s = float(series.times_s[-1])
    found = []
    for entry in targets_for("ferment.sour"):
        verdict = entry.limit.evaluate(series, last_s)
        found.append(
            SchoolAnswer(school=f"{entry.school}: {entry.limit.title}", state=verdict.state, sentence=verdict.sentence)
        )
    running = last_s < _limit(question).within_s
    last = Series.of(float(series.values[-1]), question.ph_uncertainty)
    for entry in targets_for("ph.acidified"):
        verdict = entry.limit.evaluate(last, 0.0)
        # a ferment that is not there yet is running, not failed, until its deadline
        state: AnswerState = "pending" if verdict.state == "fail" and running else verdict.state
        found.append(
            SchoolAnswer(school=f"{entry.school}: {entry.limit.title}", state=state, sentence=verdict.sentence)
        )
    return tuple(found)


def _verdict(limit: ReachedBy, series: Series, found: Crossing) -> tuple[AnswerState, str, Verdict]:
    """What was measured decides; while that is open, where the pH is heading, and where it may head at the latest."""
    verdict = limit.evaluate(series, float(series.times_s[-1]))
    deadline = limit.within_s / DAY_S
    now = f"pH {series.values[-1]:.2f} on day {series.times_s[-1] / DAY_S:g}"
    if verdict.state != "pending":
        return measured(verdict.state), _measured_words(limit, series, found, verdict, now), verdict
    expected, latest = _carried_on(limit, series, found.day), _carried_on(limit, series, found.late)
    if found.day is None:
        return planned(expected.state), f"{now} and not falling: {LINE_PH:g} is not in sight.", expected
    goes = f"As it goes, pH {LINE_PH:g} on day {found.day:.1f}"
    if expected.state != "pass":
        return planned(expected.state), f"{goes}: after the deadline, day {deadline:g}.", expected
    if latest.state != "pass":
        return "too_close", f"{goes}, but it may be as late as {_late(found)}.", latest
    return planned(expected.state), f"{goes}, before day {deadline:g}.", expected


def _measured_words(limit: ReachedBy, series: Series, found: Crossing, verdict: Verdict, now: str) -> str:
    deadline, day = limit.within_s / DAY_S, series.times_s[-1] / DAY_S
    fell = found.day is not None and found.day <= day
    if verdict.state == "pass":
        return f"{now}: below {LINE_PH:g} since day {found.day:.1f}, in time."
    if verdict.state == "too_close":
        near = abs(verdict.margin or 0.0) <= series.uncertainty
        return f"{now}: " + (
            f"too close to {LINE_PH:g} to call."
            if near
            else f"it fell to {LINE_PH:g} in time, but was not read in time."
        )
    if fell and found.day is not None and found.day > deadline:
        return f"Below {LINE_PH:g} only on day {found.day:.1f}, the deadline was day {deadline:g}."
    if fell:
        return f"{now}: it was below {LINE_PH:g} and came up again."
    return f"{now}: not at {LINE_PH:g} by day {deadline:g}."


def _carried_on(limit: ReachedBy, series: Series, crosses_on: float | None) -> Verdict:
    """The verdict to expect if it crosses the line on that day; if on none, it stays as it is."""
    if crosses_on is None:
        return limit.forecast(series, np.array([limit.within_s]), series.values[-1:])
    return limit.forecast(series, np.array([crosses_on * DAY_S]), np.array([limit.at_most]))


def _late(found: Crossing) -> str:
    return "never" if found.late is None else f"day {found.late:.1f}"


def _span(found: Crossing) -> str:
    if found.day is None:
        return "not in sight"
    return "" if found.early == found.late else f"day {found.early:.1f} to {_late(found)}"


def _salt_words(kind: str, salt: float) -> str:
    low, high = SALT[kind]
    if salt < low - 0.05:
        return f"Salt {salt:.1f} % is below {low:g} to {high:g} %: soft, and others may outgrow the lactic bacteria. "
    if salt > high + 0.05:
        return f"Salt {salt:.1f} % is above {low:g} to {high:g} %: slow to turn sour. "
    return f"Salt {salt:.1f} % is in the usual {low:g} to {high:g} %. "


def _warm_words(rows: list[FermentReading]) -> str:
    coldest, warmest = min(r.temperature_c for r in rows), max(r.temperature_c for r in rows)
    if coldest < WARM_C[0]:
        return f"{coldest:g} °C is below 18 to 22 °C: slow."
    if warmest > WARM_C[1]:
        return f"{warmest:g} °C is above 18 to 22 °C: fast, and soft."
    return "Kept at 18 to 22 °C."


def _fixes(question: FermentQuestion, state: AnswerState, salt: float) -> tuple[str, ...]:
    if state in ("pass", "would_meet"):
        return ()
    if state == "fail":
        return ("Discard it. It may not be rescued with vinegar once the deadline has passed.",)
    said = ["Measure again tomorrow with a calibrated meter, in a blended sample."]
    low = SALT[question.kind][0]
    if salt < low:
        need = (question.vegetable_kg + question.water_kg) * low / (100 - low) - question.salt_kg
        said.append(f"Add {need * 1000:.0f} g of salt to reach {low:g} %.")
    said.append("Move it to 18 to 22 °C, keep everything under the brine.")
    return tuple(said)


def _picture(question: FermentQuestion, rows: list[FermentReading], found: Crossing) -> CurvePicture:
    days, ph = np.array([r.day for r in rows]), np.array([r.ph for r in rows])
    lines = [line("measured", "core", days * DAY_S, ph, measured=True)]
    if found.day is not None and found.day > days[-1]:
        lines.append(line("expected", "core", np.array([days[-1], found.day]) * DAY_S, np.array([ph[-1], LINE_PH])))
    return CurvePicture(
        title="ph_by_day",
        x_kind="time",
        y_kind="ph",
        lines=tuple(lines),
        marks=(
            BenchMark(words=f"4.6 by day {question.deadline_days:g}", y=LINE_PH, x=question.deadline_days * DAY_S),
            BenchMark(words=f"finish {FINISH_PH:g}", y=FINISH_PH),
        ),
        x_high=DAY_S * max(question.deadline_days * 1.1, float(days[-1]) + 0.5),
        y_low=3.2,
        y_high=6.8,
    )


def _working(rows: list[FermentReading], found: Crossing, salt: float) -> Working:
    return Working(
        title="The day it crosses",
        formula="least squares through the latest four readings; span from the slope's standard error",
        inputs=(
            Input(name="readings", value=len(rows)),
            Input(name="slope", value=round(found.slope_per_day, 3), unit="pH/d"),
            Input(name="salt on everything", value=round(salt, 2), unit="%"),
        ),
        result="not in sight" if found.day is None else f"day {found.day:.1f}",
        source=Source(
            citation="NCHFP, sauerkraut: 2 to 2.5 % salt, 3 to 7 days to pH 4.6; others common practice",
            tag="published_from_memory",
        ),
        assumptions=("falls along a straight line for the next days",),
    )
