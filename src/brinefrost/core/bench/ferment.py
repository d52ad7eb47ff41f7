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
)
from brinefrost.core.bench.fields import field
from brinefrost.core.chemistry.brine import percent_of_total
from brinefrost.core.chemistry.ferment import Crossing, crossing
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Composition, Series, State
from brinefrost.core.rules import target, targets_for
from brinefrost.core.working import Document, Input, Source, Working

FermentKind = Literal["kraut", "kimchi", "half_sour", "brined"]
# salt on everything, % low and high; temperature low and high; common practice, no source, and NCHFP for kraut
SALT: dict[str, tuple[float, float]] = {
    "kraut": (2.0, 2.5),
    "kimchi": (2.0, 3.0),
    "half_sour": (3.5, 5.0),
    "brined": (5.0, 8.0),
}
WARM_C = (18.0, 22.0)
FINISH_PH = 4.0
LINE_PH = 4.6


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
    readings: tuple[FermentReading, ...] = field("rows", DAYS, most=120, main=True)


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
    state, sentence = _verdict(question, rows, found)
    return BenchAnswer(
        state=state,
        sentence=sentence,
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
        schools=tuple(
            SchoolAnswer(
                school=f"{entry.school}: {entry.limit.title}",
                state=_school_state(
                    entry.limit.evaluate(_last(rows, question), 0.0).state, rows[-1].day < question.deadline_days
                ),
                sentence=entry.limit.evaluate(_last(rows, question), 0.0).sentence,
            )
            for entry in targets_for("ph.acidified")
        ),
        workings=(_working(rows, found, salt),),
        caution="Only a measured pH passes. Soft, slimy, pink or foul: discard, whatever the pH.",
    )


def _last(rows: list[FermentReading], question: FermentQuestion) -> Series:
    return Series.of(rows[-1].ph, question.ph_uncertainty)


def _school_state(state: State, running: bool) -> AnswerState:
    """A ferment that is not there yet is running, not failed, until its deadline."""
    return "pending" if state == "fail" and running else measured(state)


def _verdict(question: FermentQuestion, rows: list[FermentReading], found: Crossing) -> tuple[AnswerState, str]:
    bound = target("ph-4.6", Composition)
    last, deadline = rows[-1], question.deadline_days
    state = bound.evaluate(_last(rows, question), 0.0).state
    if state in ("pass", "too_close") and found.day is not None and found.day <= deadline:
        close = state == "too_close"
        return ("too_close" if close else "pass"), f"pH {last.ph:.2f} on day {last.day:g}" + (
            ": too close to 4.6 to call." if close else f": below 4.6 since day {found.day:.1f}, in time."
        )
    if found.day is not None and last.ph <= LINE_PH:
        return "fail", f"Below 4.6 only on day {found.day:.1f}, the deadline was day {deadline:g}."
    if last.day >= deadline:
        return "fail", f"pH {last.ph:.2f} on day {last.day:g}: not at 4.6 by day {deadline:g}."
    if found.day is None:
        return "would_fail", f"pH {last.ph:.2f} and not falling: 4.6 is not in sight."
    if found.day > deadline:
        return "would_fail", f"As it goes, pH 4.6 on day {found.day:.1f}: after the deadline, day {deadline:g}."
    if found.late is None or found.late > deadline:
        return "too_close", f"As it goes, pH 4.6 on day {found.day:.1f}, but it may be as late as {_late(found)}."
    return "would_meet", f"As it goes, pH 4.6 on day {found.day:.1f}, before day {deadline:g}."


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
    lines = [line("measured", "core", days * 86400, ph, measured=True)]
    if found.day is not None and found.day > days[-1]:
        lines.append(line("expected", "core", np.array([days[-1], found.day]) * 86400, np.array([ph[-1], LINE_PH])))
    return CurvePicture(
        title="ph_by_day",
        x_kind="time",
        y_kind="ph",
        lines=tuple(lines),
        marks=(
            BenchMark(words=f"4.6 by day {question.deadline_days:g}", y=LINE_PH, x=question.deadline_days * 86400),
            BenchMark(words=f"finish {FINISH_PH:g}", y=FINISH_PH),
        ),
        x_high=86400 * max(question.deadline_days * 1.1, float(days[-1]) + 0.5),
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
