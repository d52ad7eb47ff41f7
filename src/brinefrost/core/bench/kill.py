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
from brinefrost.core.bench.heat import TargetKey, judge_target, minutes_told
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.limits import Hold, Lethality, Limit, Series
from brinefrost.core.limits.lethality import TableModel
from brinefrost.core.traces.spikes import lone_spikes
from brinefrost.core.working import Document, clock

MOST_SHARE = 10.0  # ten times the goal is as much as anybody needs to read


class CoreReading(Document):
    """One reading of the core."""

    time_s: float = field("time", 0, 0, 96 * 3600, "min")
    core_c: float = field("temperature", 60, -5, 121)


class KillQuestion(Document):
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

    Parameters
    ----------
    question : KillQuestion
        Temperatures [°C], times [s].

    Returns
    -------
    BenchAnswer
        Verdict on the chosen target; all targets beside it; time still needed at this temperature.

    Raises
    ------
    OutOfRangeError
        If a trace has fewer than two readings or its times do not rise.

    Notes
    -----
    Valid inside each target's own range. A held temperature is read off a table itself, log-linear between its
    rows, never beyond them; a trace is integrated.

    References
    ----------
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
            Table(title="Every target", head=("Target", "Gathered", "", "Hold at this temperature"), rows=tuple(rows)),
        ),
        workings=(verdict.working,),
        caution="The probe must sit in the coldest part. A single spike is not lethality.",
    )


def _too_few(question: KillQuestion) -> BenchAnswer:
    """Nothing is known yet of a trace without a stretch of time: that is a question still open, not a mistake."""
    return BenchAnswer(
        state="not_measured",
        sentence="Add two readings of the core or more, each with its time, or take them from a logger file.",
        reason="One reading shows a moment; what counts is how long it lasted.",
        caution="The probe must sit in the coldest part. A single spike is not lethality.",
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
        return Series(times, core, doubt_c(question), 0.0, True, np.inf, "computed")
    rows = sorted(question.readings, key=lambda row: row.time_s)
    times, core = np.array([row.time_s for row in rows]), np.array([row.core_c for row in rows])
    if len(rows) < 2 or np.any(np.diff(times) <= 0):
        raise OutOfRangeError("A trace needs two readings or more, each at its own time.")
    kept = ~lone_spikes(core)
    left_out = int(np.sum(~kept))
    notes = (f"{left_out} lone spike(s) left out",) if left_out else ()
    return Series(times[kept], core[kept], doubt_c(question), float(times[0]), True, question.gap_s, notes=notes)


def _progress(limit: Limit, series: Series) -> tuple[float, str]:
    if isinstance(limit, Lethality):
        goal, got = limit.model.law().goal_min, float(limit.minutes(series)[-1])
        share = got / goal
        log = f", {share * limit.log_reduction:.1f} of {limit.log_reduction:g} log" if limit.log_reduction else ""
        if limit.log_reduction and share > 1:
            log = f", more than {limit.log_reduction:g} log"
        return share, f"{minutes_told(got)} of {minutes_told(goal)} min at {limit.model.reference_c:g} °C{log}"
    if isinstance(limit, Hold):
        above = series.values >= limit.at_least_c
        held = float(series.times_s[above][-1] - series.times_s[above][0]) if above.any() else 0.0
        share = held / limit.for_s if limit.for_s else float(above.any())
        return share, f"{clock(held)} of {clock(limit.for_s)} at {limit.at_least_c:g} °C"
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
    return "no time is credited" if needed is None else clock(needed)


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
        "fail": "not met",
        "too_close": "too close to call",
        "would_meet": "should meet",
        "would_fail": "would fail",
    }
    return words.get(state, "")


def _fixes(still: float | None, question: KillQuestion) -> tuple[str, ...]:
    if still is None:
        return ("Nothing is credited at this temperature: it must be hotter.",)
    return (f"Hold {clock(max(still, 60.0))} longer at this temperature.",) if still > 0 else ("Measure again.",)


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
        Figure(name="still_needed", value=still, kind="time", show="min", absent="never at this temperature"),
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
            lines=(line("core", "core", series.times_s, series.values, measured=True),),
            marks=(BenchMark(words=f"counts from {floor:g} °C", y=floor),),
        ),
    )
