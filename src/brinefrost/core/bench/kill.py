"""What a core curve or a held temperature did: every target side by side."""

from typing import Literal, get_args

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Dial,
    DialPicture,
    Figure,
    Table,
    line,
    measured,
    planned,
)
from brinefrost.core.bench.heat_judged import judge_target
from brinefrost.core.bench.heat_question import TargetKey
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.limits import Hold, Lethality, Limit, Series
from brinefrost.core.limits.lethality import TableModel
from brinefrost.core.traces.spikes import lone_spikes
from brinefrost.core.words import duration, legal, mins, num, say, temp
from brinefrost.core.working import Document, Sent

MOST_SHARE = 10.0  # ten times the goal is as much as anybody needs to read


class CoreReading(Document):
    """One reading of the core."""

    time_s: float = field("time", 0, 0, 96 * 3600, "min")
    core_c: float = field("temperature", 60, -5, 121)


class KillQuestion(Sent):
    """A held temperature, or readings of the core."""

    way: Literal["held", "trace"] = field("choice", "held", main=True)
    held_c: float = field("temperature", 60, 45, 130, step=0.1, main=True, only={"way": ("held",)})
    held_s: float = field("time", 1200, 0, 48 * 3600, "min", 60, main=True, only={"way": ("held",)})
    target: TargetKey = field("choice", "listeria", main=True)
    uncertainty_c: float | None = field("difference", None, 0, 3, step=0.1)
    gap_s: float = field("time", 600, 30, 3600, "min", only={"way": ("trace",)})
    readings: tuple[CoreReading, ...] = field("rows", (), most=400, main=True, only={"way": ("trace",)}, file="core")


def answer_kill(question: KillQuestion) -> BenchAnswer:
    """Judge what was held or measured by every target.

    Verdict on the chosen target; all targets beside it; time still needed at this temperature. Raises OutOfRangeError
    if a trace has fewer than two readings or its times do not rise. Valid inside each target's own range. A held
    temperature is read off a table itself, log-linear between its rows, never beyond them; a trace is integrated.
    Each target carries its own.
    """
    if question.way == "trace" and len(question.readings) < 2:
        return _too_few(question)
    series = _series(question)
    # readings were measured; a held temperature is only supposed
    told = measured if question.way == "trace" else planned
    end = float(series.times_s[-1])
    chosen, verdict = judge_target(question.target, series, end)
    still = _still_needed_s(chosen, series, question)
    dials, rows = [], []
    for key in get_args(TargetKey):
        limit, each = judge_target(key, series, end)
        share, said = _progress(limit, series)
        dials.append(Dial(name=limit.title, used=share, words=said, state=told(each.state)))
        rows.append((limit.title, said, _state_words(told(each.state)), _needed_words(limit, question)))
    return BenchAnswer(
        state=told(verdict.state),
        sentence=verdict.sentence,
        reason=chosen.qualifier,
        fixes=() if verdict.state == "pass" else _fixes(still, question),
        figures=_figures(chosen, series, still),
        pictures=(
            *_curve(question, chosen, series),
            DialPicture(title="targets", dials=tuple(dials)),
        ),
        tables=(
            Table(
                title=say("bench.kill.every_target"),
                head=(
                    say("bench.kill.target"),
                    say("bench.kill.gathered"),
                    "",
                    say("bench.kill.hold_at_this_temperature"),
                ),
                rows=tuple(rows),
            ),
        ),
        workings=(verdict.working,),
        caution=say("bench.kill.the_probe_must_sit_in_the"),
    )


def _too_few(question: KillQuestion) -> BenchAnswer:
    """Nothing is known yet of a trace without a stretch of time: that is a question still open, not a mistake."""
    return BenchAnswer(
        state="not_measured",
        sentence=say("bench.kill.add_two_readings_of_the_core"),
        reason=say("bench.kill.one_reading_shows_a_moment_what"),
        caution=say("bench.kill.the_probe_must_sit_in_the"),
    )


def doubt_c(question: KillQuestion) -> float:
    """The probe's doubt [°C]: one held is supposed and has none unless it is named; a trace has half a degree.

    Valid for every question.
    """
    if question.uncertainty_c is not None:
        return question.uncertainty_c
    return 0.0 if question.way == "held" else 0.5


def _series(question: KillQuestion) -> Series:
    if question.way == "held":
        times, core = np.array([0.0, max(question.held_s, 1e-6)]), np.full(2, question.held_c)
        return Series.computed(times, core, doubt_c(question))
    rows = sorted(question.readings, key=lambda row: row.time_s)
    times, core = np.array([row.time_s for row in rows]), np.array([row.core_c for row in rows])
    if len(rows) < 2 or np.any(np.diff(times) <= 0):
        raise OutOfRangeError(say("bench.kill.a_trace_needs_two_readings_or"))
    kept = ~lone_spikes(core)
    left_out = int(np.sum(~kept))
    notes = (say("bench.kill.lone_spike_s_left_out", left_out=left_out),) if left_out else ()
    return Series(times[kept], core[kept], doubt_c(question), float(times[0]), True, question.gap_s, notes=notes)


def _progress(limit: Limit, series: Series) -> tuple[float, str]:
    if isinstance(limit, Lethality):
        goal, got = limit.model.law().goal_min, float(limit.minutes(series)[-1])
        share = got / goal
        log = (
            say(
                "bench.kill.of_log",
                share=num(share * limit.log_reduction, ".1f"),
                log_reduction=num(limit.log_reduction),
            )
            if limit.log_reduction
            else ""
        )
        if limit.log_reduction and share > 1:
            log = say("bench.kill.more_than_log", log_reduction=num(limit.log_reduction))
        return share, say(
            "bench.kill.of_min_at",
            minutes_told=mins(got),
            minutes_told2=mins(goal),
            reference=legal(limit.model.reference_c, "g"),
            log=log,
        )
    if isinstance(limit, Hold):
        above = series.values >= limit.at_least_c
        held = float(series.times_s[above][-1] - series.times_s[above][0]) if above.any() else 0.0
        share = held / limit.for_s if limit.for_s else float(above.any())
        return share, say(
            "bench.kill.of_at", held=duration(held), for_=duration(limit.for_s), at_least=legal(limit.at_least_c, "g")
        )
    return 0.0, ""


def _hold_needed_s(limit: Limit, held_c: float) -> float | None:
    """Time to hold at one temperature; a table is never read beyond its rows."""
    if isinstance(limit, Hold):
        return limit.for_s if held_c >= limit.at_least_c else None
    if not isinstance(limit, Lethality):
        return None
    law = limit.model.law()
    if isinstance(limit.model, TableModel) and held_c > limit.model.rows[-1].at_c:
        return limit.model.rows[-1].minutes * 60
    rate = float(law.rate(np.array([held_c]))[0])
    return law.goal_min / rate * 60 if rate > 0 else None


def _needed_words(limit: Limit, question: KillQuestion) -> str:
    if question.way != "held":
        return ""
    needed = _hold_needed_s(limit, question.held_c)
    return say("bench.kill.no_time_is_credited") if needed is None else duration(needed)


def _still_needed_s(limit: Limit, series: Series, question: KillQuestion) -> float | None:
    whole = _hold_needed_s(limit, float(series.values[-1]) - doubt_c(question))
    if whole is None:
        return None
    share = min(
        _progress(limit, Series(series.times_s, series.values - doubt_c(question), longest_gap_s=series.longest_gap_s))[
            0
        ],
        1.0,
    )
    return whole * (1 - share)


def _state_words(state: AnswerState) -> str:
    words = {
        "pass": "met",
        "fail": say("bench.kill.not_met"),
        "too_close": say("bench.jars.too_close_to_call"),
        "would_meet": say("bench.kill.should_meet"),
        "would_fail": say("bench.kill.would_fail"),
    }
    return words.get(state, "")


def _fixes(still: float | None, question: KillQuestion) -> tuple[str, ...]:
    if still is None:
        return (say("bench.kill.nothing_is_credited_at_this_temperature"),)
    return (
        (say("bench.kill.hold_longer_at_this_temperature", still=duration(max(still, 60.0))),)
        if still > 0
        else (say("bench.kill.measure_again"),)
    )


def _figures(limit: Limit, series: Series, still: float | None) -> tuple[Figure, ...]:
    share, said = _progress(limit, series)
    return (
        Figure(
            name="share_of_goal",
            value=round(min(100 * share, 100 * MOST_SHARE), 1),
            kind="percent",
            words=said,
            main=True,
            low=0,
            high=200,
            band_from=100,
            band_to=200,
        ),
        Figure(name="hottest_core", value=float(np.max(series.values)), kind="temperature"),
        Figure(
            name="still_needed",
            value=still,
            kind="time",
            show="min",
            absent=say("bench.acid.never_at_this_temperature"),
        ),
    )


def _curve(question: KillQuestion, limit: Limit, series: Series) -> tuple[CurvePicture, ...]:
    if question.way == "held":
        return ()
    floor = counts_from_c(limit)
    return (
        CurvePicture(
            title="core_curve",
            x_kind="time",
            y_kind="temperature",
            lines=(line(say("bench.chill.core"), "core", series.times_s, series.values, measured=True),),
            marks=(BenchMark(words=say("bench.eggs.counts_from", floor=temp(floor, "g")), y=floor),),
        ),
    )
