"""A ferment: salt, warmth, its pH day by day against the deadline, and the day it should be sour."""

from typing import Literal

import numpy as np

from brinefrost.core.bench.acid_ground import ground
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
from brinefrost.core.words import grams, joined, num, say, temp
from brinefrost.core.working import Document, Input, Sent, Source, Working

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
DAY_S = 86400.0


def line_ph() -> float:
    """The pH a ferment must have come down to."""
    return target("ferment-4.6", ReachedBy).at_most


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


class FermentQuestion(Sent):
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

    Whether pH 4.6 was measured in time, or the day it should be, early and late; salt and warmth against what is
    usual. Raises OutOfRangeError if there is no reading, or the days do not rise. Valid as ``crossing``. Only a
    measured pH passes. NCHFP for kraut; common practice for the others; 21 CFR 114 for the line.
    """
    rows = sorted(question.readings, key=lambda row: row.day)
    if not rows:
        raise OutOfRangeError(say("bench.ferment.enter_at_least_one_days_ph"))
    days, ph = np.array([r.day for r in rows]), np.array([r.ph for r in rows])
    found = crossing(days, ph, line_ph(), question.ph_uncertainty)
    salt = percent_of_total(question.salt_kg, question.vegetable_kg + question.water_kg)
    series = _series(rows, question)
    state, sentence, verdict = _verdict(_limit(question), series, found)
    weak = state == "would_meet" and salt < WEAK * SALT[question.kind][0]
    return BenchAnswer(
        state="ask" if weak else state,
        sentence=joined((sentence, say("bench.ferment.with_so_little_salt_others")), " ") if weak else sentence,
        reason=_salt_words(question.kind, salt) + _warm_words(rows),
        fixes=_fixes(question, state, salt),
        figures=_figures(question, rows, found, salt),
        pictures=(_picture(question, rows, found), ground(rows[-1].ph, salt)),
        schools=_schools(question, series),
        workings=(verdict.working, _working(rows, found, salt)),
        caution=say("bench.ferment.only_a_measured_ph_passes_soft"),
    )


def _figures(question: FermentQuestion, rows: list[FermentReading], found: Crossing, salt: float) -> tuple[Figure, ...]:
    usual = SALT[question.kind]
    return (
        Figure(
            name="salt_on_all",
            value=round(salt, 2),
            kind="percent",
            show=say("bench.answer.salt"),
            main=True,
            low=0,
            high=10,
            band_from=usual[0],
            band_to=usual[1],
        ),
        Figure(
            name="latest_ph",
            value=rows[-1].ph,
            kind="ph",
            main=True,
            low=3,
            high=7,
            band_from=3,
            band_to=line_ph(),
        ),
        Figure(
            name="crosses_on_day",
            value=None if found.day is None else round(found.day, 1),
            kind="number",
            show="d",
            words=_span(found),
        ),
        Figure(name="falls_a_day", value=round(found.slope_per_day, 2), kind="number", show="pH/d"),
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
            "title": say(
                "bench.ferment.ferment_at_ph_or_below_within",
                line_ph=num(line_ph()),
                deadline_days=num(question.deadline_days),
            ),
        }
    )


def _schools(question: FermentQuestion, series: Series) -> tuple[SchoolAnswer, ...]:
    last_s = float(series.times_s[-1])
    found = []
    for entry in targets_for("ferment.sour"):
        verdict = entry.limit.evaluate(series, last_s)
        found.append(
            SchoolAnswer(
                school=say("bench.acid.school_title", school=entry.school, title=entry.limit.title),
                state=verdict.state,
                sentence=verdict.sentence,
            )
        )
    running = last_s < _limit(question).within_s
    last = Series.of(float(series.values[-1]), question.ph_uncertainty)
    for entry in targets_for("ph.acidified"):
        verdict = entry.limit.evaluate(last, 0.0)
        # a ferment that is not there yet is running, not failed, until its deadline
        state: AnswerState = "pending" if verdict.state == "fail" and running else verdict.state
        found.append(
            SchoolAnswer(
                school=say("bench.acid.school_title", school=entry.school, title=entry.limit.title),
                state=state,
                sentence=verdict.sentence,
            )
        )
    return tuple(found)


def _verdict(limit: ReachedBy, series: Series, found: Crossing) -> tuple[AnswerState, str, Verdict]:
    """What was measured decides; while that is open, where the pH is heading, and where it may head at the latest."""
    verdict = limit.evaluate(series, float(series.times_s[-1]))
    deadline = limit.within_s / DAY_S
    now = say("bench.ferment.ph_on_day", values=num(series.values[-1], ".2f"), times=num(series.times_s[-1] / DAY_S))
    if verdict.state != "pending":
        return measured(verdict.state), _measured_words(limit, series, found, verdict, now), verdict
    expected, latest = _carried_on(limit, series, found.day), _carried_on(limit, series, found.late)
    if found.day is None:
        return (
            planned(expected.state),
            say("bench.ferment.and_not_falling_is_not_in", now=now, line_ph=num(line_ph())),
            expected,
        )
    goes = say("bench.ferment.as_it_goes_ph_on_day", line_ph=num(line_ph()), day=num(found.day, ".1f"))
    if expected.state != "pass":
        return (
            planned(expected.state),
            say("bench.ferment.after_the_deadline_day", goes=goes, deadline=num(deadline)),
            expected,
        )
    if latest.state != "pass":
        return "too_close", say("bench.ferment.but_it_may_be_as_late", goes=goes, late=_late(found)), latest
    return planned(expected.state), say("bench.ferment.before_day", goes=goes, deadline=num(deadline)), expected


def _measured_words(limit: ReachedBy, series: Series, found: Crossing, verdict: Verdict, now: str) -> str:
    deadline, day = limit.within_s / DAY_S, series.times_s[-1] / DAY_S
    fell = found.day is not None and found.day <= day
    if verdict.state == "pass":
        return say(
            "bench.ferment.below_since_day_in_time", now=now, line_ph=num(line_ph()), day=num(found.day or 0.0, ".1f")
        )
    if verdict.state == "too_close":
        near = abs(verdict.margin or 0.0) <= series.uncertainty
        return (
            now
            + ": "
            + (
                say("bench.ferment.too_close_to_to_call", line_ph=num(line_ph()))
                if near
                else say("bench.ferment.it_fell_to_in_time_but", line_ph=num(line_ph()))
            )
        )
    if fell and found.day is not None and found.day > deadline:
        return say(
            "bench.ferment.below_only_on_day_the_deadline",
            line_ph=num(line_ph()),
            day=num(found.day, ".1f"),
            deadline=num(deadline),
        )
    if fell:
        return say("bench.ferment.it_was_below_and_came_up", now=now, line_ph=num(line_ph()))
    return say("bench.ferment.not_at_by_day", now=now, line_ph=num(line_ph()), deadline=num(deadline))


def _carried_on(limit: ReachedBy, series: Series, crosses_on: float | None) -> Verdict:
    """The verdict to expect if it crosses the line on that day; if on none, it stays as it is."""
    if crosses_on is None:
        return limit.forecast(series, np.array([limit.within_s]), series.values[-1:])
    return limit.forecast(series, np.array([crosses_on * DAY_S]), np.array([limit.at_most]))


def _late(found: Crossing) -> str:
    return "never" if found.late is None else say("bench.ferment.day_late", late=num(found.late, ".1f"))


def _span(found: Crossing) -> str:
    if found.day is None:
        return say("bench.ferment.not_in_sight")
    return (
        ""
        if found.early == found.late
        else say("bench.ferment.day_to", early=num(found.early or 0.0, ".1f"), late=_late(found))
    )


def _salt_words(kind: str, salt: float) -> str:
    low, high = SALT[kind]
    if salt < low - 0.05:
        return say("bench.ferment.salt_is_below_to_soft_and", salt=num(salt, ".1f"), low=num(low), high=num(high))
    if salt > high + 0.05:
        return say("bench.ferment.salt_is_above_to_slow_to", salt=num(salt, ".1f"), low=num(low), high=num(high))
    return say("bench.ferment.salt_is_in_the_usual_to", salt=num(salt, ".1f"), low=num(low), high=num(high))


def _warm_words(rows: list[FermentReading]) -> str:
    coldest, warmest = min(r.temperature_c for r in rows), max(r.temperature_c for r in rows)
    if coldest < WARM_C[0]:
        return say("bench.ferment.is_below_to_slow", coldest=temp(coldest, "g"))
    if warmest > WARM_C[1]:
        return say("bench.ferment.is_above_to_fast_and_soft", warmest=temp(warmest, "g"))
    return say("bench.ferment.kept_at_to")


def _fixes(question: FermentQuestion, state: AnswerState, salt: float) -> tuple[str, ...]:
    if state in ("pass", "would_meet"):
        return ()
    if state == "fail":
        return (say("bench.ferment.discard_it_it_may_not_be"),)
    said = [say("bench.ferment.measure_again_tomorrow_with_a_calibrated")]
    low = SALT[question.kind][0]
    if salt < low:
        need = (question.vegetable_kg + question.water_kg) * low / (100 - low) - question.salt_kg
        said.append(say("bench.ferment.add_of_salt_to_reach", need=grams(need * 1000, ".0f"), low=num(low)))
    said.append(say("bench.ferment.move_it_to_to_keep_everything"))
    return tuple(said)


def _picture(question: FermentQuestion, rows: list[FermentReading], found: Crossing) -> CurvePicture:
    days, ph = np.array([r.day for r in rows]), np.array([r.ph for r in rows])
    lines = [line(say("bench.ferment.measured"), "core", days * DAY_S, ph, measured=True)]
    if found.day is not None and found.day > days[-1]:
        lines.append(
            line(
                say("bench.ferment.expected"),
                "core",
                np.array([days[-1], found.day]) * DAY_S,
                np.array([ph[-1], line_ph()]),
            )
        )
    return CurvePicture(
        title="ph_by_day",
        x_kind="time",
        y_kind="ph",
        lines=tuple(lines),
        marks=(
            BenchMark(
                words=say("bench.ferment.4_6_by_day", deadline_days=num(question.deadline_days)),
                y=line_ph(),
                x=question.deadline_days * DAY_S,
            ),
            BenchMark(words=say("bench.ferment.finish_finish_ph", finish_ph=num(FINISH_PH)), y=FINISH_PH),
        ),
        x_high=DAY_S * max(question.deadline_days * 1.1, float(days[-1]) + 0.5),
        y_low=3.2,
        y_high=6.8,
    )


def _working(rows: list[FermentReading], found: Crossing, salt: float) -> Working:
    return Working(
        title=say("bench.ferment.the_day_it_crosses"),
        formula=say("bench.ferment.least_squares_through_the_latest_four"),
        inputs=(
            Input(name=say("bench.ferment.readings"), value=len(rows)),
            Input(name=say("bench.ferment.slope"), value=round(found.slope_per_day, 3), unit="pH/d"),
            Input(name=say("bench.ferment.salt_on_everything"), value=round(salt, 2), unit="%"),
        ),
        result=say("bench.ferment.not_in_sight")
        if found.day is None
        else say("bench.ferment.day_day", day=num(found.day, ".1f")),
        source=Source(
            citation="NCHFP, sauerkraut: 2 to 2.5 % salt, 3 to 7 days to pH 4.6; others common practice",
            tag="published_from_memory",
        ),
        assumptions=(say("bench.ferment.falls_along_a_straight_line_for"),),
    )
