"""A batch's readings before its limits: verdicts, forecasts and what can be done."""

from dataclasses import dataclass, replace
from datetime import UTC, datetime

import numpy as np

from brinefrost.core.limits import Forecast, Limit, Projection, Series, Verdict, forecast_of, worst
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.walk import context_at, last_left_s
from brinefrost.core.quantities import WORKED_FROM, Quantity
from brinefrost.core.readings import CLOCK_TOLERANCE
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import ReadingLogged
from brinefrost.core.runs.parts import as_dated, oldest_part
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.state import Seen
from brinefrost.core.words import Words, duration, say
from brinefrost.core.working import Document

MANUAL_GAP_S = 600.0  # hand readings further apart than this do not make a curve; common practice, no source
TRACE_GAP_INTERVALS = 3.0
TRACE_LEAD_S = 120.0  # a logger may start this much before the step is tapped
APART_S = 2.0  # readings by hand closer than this are of one moment; common practice, no source
OPEN = ("pending", "fail", "too_close", "not_measured")  # what may still be carried on


class Option(Document):
    """A way out, with the sum that shows whether it works."""

    action: Words
    works: bool
    sentence: Words
    changes_course: bool


class LimitStatus(Document):
    """One critical limit of a batch as it stands."""

    step: str
    step_name: Words
    title: Words  # of the limit, as whoever asks reads it; the limit itself keeps its own
    limit: Limit
    verdict: Verdict
    forecast: Forecast | None = None
    options: tuple[Option, ...] = ()


@dataclass(frozen=True)
class Judgement:
    """All limits of a batch, and where each step under way is going."""

    statuses: list[LimitStatus]
    courses: dict[str, tuple[Quantity, Projection]]


def judge(batch: Batch, now: datetime) -> Judgement:
    """Judge every critical limit of a batch.

    A verdict for each limit; a forecast and ways out where the kind of step can carry its readings on. Raises
    NotFoundError if a control names a step the plan does not have. Valid for any batch; where nothing was measured the
    verdict says so.
    """
    statuses: list[LimitStatus] = []
    courses: dict[str, tuple[Quantity, Projection]] = {}
    for control in batch.plan.controls:
        step = batch.plan.step(control.step)
        for limit in (as_dated(batch, each) for each in control.limits):
            verdict = verdict_of(batch, step.id, limit, now)
            status = LimitStatus(step=step.id, step_name=step.name, title=limit.title, limit=limit, verdict=verdict)
            span = batch.span(step.id)
            if verdict.state in OPEN and span.started and not span.finished:
                status, course = _with_forecast(batch, status, limit, now)
                if course:
                    courses[step.id] = (limit.quantity, course)
            statuses.append(status)
    return Judgement(statuses, courses)


def verdict_of(batch: Batch, step_id: str, limit: Limit, now: datetime) -> Verdict:
    """The worst verdict over every series that bears on a limit, of the readings that can tell by then.

    A reading may be stamped some seconds ahead of this clock, within the tolerance it was let in with; what was read
    later tells nothing of an earlier time.
    """
    step = batch.plan.step(step_id)
    read = [_by_then(series, now) for series in series_of(batch, step_id, limit, now)]
    quiet_s = kind_of(step).tells_after_s(step, limit)
    telling = [_telling(series, quiet_s, _changes(batch, step_id)) for series in read]
    found = [
        limit.evaluate(series, max(now.timestamp(), float(series.times_s[-1]) if len(series) else 0.0))
        for series in telling
    ]
    if any(verdict.state == "pass" for verdict in found):
        # readings by hand too thin to tell take nothing from a logger that tells, unless they speak against it
        found = [v for v, series in zip(found, telling, strict=True) if not _agrees(v, series)]
    state = worst([verdict.state for verdict in found])
    verdict = next(verdict for verdict in found if verdict.state == state)
    if any(map(len, telling)) or not any(map(len, read)):
        return verdict
    said = say("runs.judging.read_too_early_to_tell_it", quiet=duration(quiet_s))
    over = all(series.closed for series in read)
    return verdict.model_copy(update={"state": "not_measured" if over else "pending", "sentence": said})


def _by_then(series: Series, now: datetime) -> Series:
    """The readings there were by a time, of a step that still ran then where it ended later."""
    known_s = now.timestamp() + CLOCK_TOLERANCE.total_seconds()
    if len(series) and series.times_s[-1] > known_s:
        series = series.until(known_s)
    ended_later = series.closed_s is not None and series.closed_s > known_s
    return replace(series, closed=False, closed_s=None) if ended_later else series


def _agrees(verdict: Verdict, series: Series) -> bool:
    """Whether readings by hand, too far apart to prove a limit, lie on its good side all the same."""
    by_hand = len(series) > 0 and series.longest_gap_s == MANUAL_GAP_S
    return by_hand and verdict.state == "not_measured" and verdict.margin is not None and verdict.margin >= 0


def _changes(batch: Batch, step_id: str) -> list[float]:
    """When the course of a step was changed [s]."""
    return [action.at.timestamp() for action, _ in batch.actions if action.step == step_id and action.changes_course]


def _telling(series: Series, quiet_s: float, changes: list[float]) -> Series:
    """The readings long enough after the start, and after any change of course before them."""
    if quiet_s <= 0:
        return series
    opened = np.inf if series.opened_s is None else series.opened_s
    keep = series.times_s >= opened + quiet_s
    for change in changes:
        keep &= (series.times_s < change) | (series.times_s >= change + quiet_s)
    return replace(series, times_s=series.times_s[keep], values=series.values[keep])


def series_of(batch: Batch, step_id: str, limit: Limit, now: datetime) -> list[Series]:
    """The measured series of a limit: each trace by itself, then the hand readings.

    Hand readings count for a limit that needs a curve only where there is no trace.
    """
    span = batch.span(step_id)
    opened = span.started.timestamp() if span.started else None
    if limit.from_end_of_cooking and opened is not None:
        opened = _cooking_ended(batch, step_id, opened)
    ended = span.finished or (batch.closed.at if batch.closed else None)
    closed = ended is not None
    closed_s = ended.timestamp() if ended else None
    if limit.quantity == "age":
        return [_age(batch, opened, span.finished or (batch.closed.at if batch.closed else None), now)]
    if limit.quantity in WORKED_FROM:
        return [_lost(batch, step_id, opened, closed_s)]
    found = _trace_series(batch, step_id, limit.quantity, opened, closed_s)
    readings = [r.logged for r in batch.standing_readings(step_id) if r.logged.quantity == limit.quantity]
    if readings and not (found and limit.needs_curve):
        doubt, gap_s = max(r.uncertainty for r in readings), np.inf if limit.each_by_itself else MANUAL_GAP_S
        found += [
            Series(times, values, doubt, opened, closed, gap_s, closed_s=closed_s)
            for times, values in by_hand(readings, _warms(batch, step_id))
        ]
    return [_fallen(batch, step_id, limit, each) for each in found] or [Series.empty(opened, closed)]


def _fallen(batch: Batch, step_id: str, limit: Limit, series: Series) -> Series:
    """Food below the hot line when it was first read fell through it since it left its heat, nobody knows when: its
    clock runs from there."""
    hot_c = limit.falls_from_c
    if hot_c is None or series.opened_s is None or not len(series) or series.values[0] > hot_c:
        return series
    return replace(series, opened_s=_cooking_ended(batch, step_id, series.opened_s))


def by_hand(readings: list[ReadingLogged], coldest_first: bool) -> list[tuple[Array, Array]]:
    """Readings by hand as times [s] that rise and values, (n,) each.

    Where several were taken at one moment, of several pieces, there are two: of every moment the lowest, and the
    highest; the one that is worse where food is warmed first, if ``coldest_first``. Valid for readings in the order
    they were taken.
    """
    moments, begun = dict[float, list[float]](), -np.inf
    for each in readings:
        at = each.taken_at.timestamp()
        if at - begun >= APART_S:
            begun = at
        moments.setdefault(begun, []).append(each.value)
    ways = (min, max) if coldest_first else (max, min)
    return [
        (np.array(list(moments)), np.array([way(values) for values in moments.values()]))
        for way in (ways if len(moments) < len(readings) else ways[:1])
    ]


def _warms(batch: Batch, step_id: str) -> bool:
    return "heats" in kind_of(batch.plan.step(step_id)).acts


def readings_of(batch: Batch, step_id: str, quantity: Quantity) -> Series:
    """What was read of a quantity at a step: its logger file where there is one, else by hand; perhaps nothing.

    Valid for every quantity that is read.
    """
    span = batch.span(step_id)
    opened = span.started.timestamp() if span.started else None
    traced = _trace_series(batch, step_id, quantity, opened, span.finished.timestamp() if span.finished else None)
    if traced:
        return max(traced, key=len)
    logged = [r.logged for r in batch.standing_readings(step_id) if r.logged.quantity == quantity]
    if not logged:
        return Series.empty(opened)
    return Series(*by_hand(logged, _warms(batch, step_id))[0])


def _cooking_ended(batch: Batch, step_id: str, opened: float) -> float:
    """When the food came out of the heat, or out of the cold it had been chilled in, before this step [s]."""

    def ended(key: str) -> float | None:
        finished = batch.span(key).finished
        return None if finished is None else finished.timestamp()

    left = last_left_s(batch.plan.steps, step_id, ended)
    return opened if left is None else min(left, opened)


def _trace_series(
    batch: Batch, step_id: str, quantity: Quantity, opened: float | None, closed_s: float | None
) -> list[Series]:
    found = []
    for state in batch.traces:
        channel = (
            state.trace.channel(quantity)
            if state.trace and state.attached.step == step_id and quantity != "age"
            else None
        )
        if channel is None or state.trace is None:
            continue
        gap = max(TRACE_GAP_INTERVALS * state.trace.interval_s, 60.0)
        times, values = np.array(channel.times_s), np.array(channel.values)
        span = batch.span(step_id)
        keep = times >= (opened or -np.inf) - TRACE_LEAD_S
        if span.finished:
            keep &= times <= span.finished.timestamp()
        times, values, notes = times[keep], values[keep], tuple(state.attached.notes)
        found.append(
            Series(
                times,
                values,
                state.attached.uncertainty,
                opened,
                closed_s is not None,
                gap,
                notes=notes,
                closed_s=closed_s,
            )
        )
    return found


def _age(batch: Batch, opened: float | None, ended: datetime | None, now: datetime) -> Series:
    """Days since the batch began to be kept, or since its oldest part was made: known from the clock."""
    if opened is None:
        return Series.empty()
    oldest = oldest_part(batch)
    if oldest is not None:
        opened = min(opened, oldest.made_at.timestamp())
    end = ended or now
    days = max(0.0, (end.timestamp() - opened) / 86400.0)
    return Series(np.array([end.timestamp()]), np.array([days]), 0.0, opened, closed=ended is not None)


def _lost(batch: Batch, step_id: str, opened: float | None, closed_s: float | None) -> Series:
    """How much lighter it is than when the step began, in per cent, from one weighing to the next.

    The doubt is both weighings' together. Nothing where it was weighed once only.
    """
    weighed = [r.logged for r in batch.standing_readings(step_id) if r.logged.quantity == "mass"]
    if len(weighed) < 2:
        return Series.empty(opened, closed_s is not None)
    first = weighed[0].value
    doubt = 100 * 2**0.5 * max(each.uncertainty for each in weighed) / first
    return Series(
        np.array([each.taken_at.timestamp() for each in weighed[1:]]),
        np.array([100 * (1 - each.value / first) for each in weighed[1:]]),
        doubt,
        opened,
        closed_s is not None,
        np.inf,
        closed_s=closed_s,
    )


def seen_of(batch: Batch, step_id: str, limit: Limit, now: datetime) -> Seen:
    """What has been measured of a limit at a step, and when its course was changed.

    Valid for every limit of the plan.
    """
    mass, changes = batch.mass_kg() or batch.started.packs, tuple(_changes(batch, step_id))
    beside = {
        each: series_of(batch, step_id, limit.model_copy(update={"quantity": each}), now)[0]
        for each in kind_of(batch.plan.step(step_id)).carried_by
    }
    return Seen(series_of(batch, step_id, limit, now)[0], now.timestamp(), changes, mass, limit, beside)


def _with_forecast(
    batch: Batch, status: LimitStatus, limit: Limit, now: datetime
) -> tuple[LimitStatus, Projection | None]:
    step = batch.plan.step(status.step)
    context = context_at(batch.plan, step)
    seen = seen_of(batch, status.step, limit, now)
    if not any(map(len, (seen.series, *seen.beside.values()))):
        return status, None
    kind = kind_of(step)
    course = kind.course(step, seen, context)
    if course is None:
        return status, None
    forecast = forecast_of(limit, seen.series, course, seen.now_s)
    options = (
        tuple(
            Option(action=action, works=not result.misses, changes_course=True, sentence=result.sentence)
            for action, projection in kind.rescues(step, seen, context)
            for result in [forecast_of(limit, seen.series, projection, seen.now_s)]
        )
        if forecast.misses
        else ()
    )
    return status.model_copy(update={"forecast": forecast, "options": options}), course


def moment(seconds: float) -> datetime:
    """An instant from seconds since 1970 [s], in UTC.

    Valid for the years 1 to 9999.
    """
    return datetime.fromtimestamp(seconds, tz=UTC)
