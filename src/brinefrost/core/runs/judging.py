"""A batch's readings before its limits: verdicts, forecasts and what can be done."""

from dataclasses import dataclass, replace
from datetime import UTC, datetime

import numpy as np

from brinefrost.core.limits import (
    Forecast,
    Freezing,
    Hold,
    Lethality,
    Limit,
    Projection,
    Series,
    Uncontrolled,
    Verdict,
    forecast_of,
    worst,
)
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.cook_runs import counts_from
from brinefrost.core.plans.course import last_left_s
from brinefrost.core.plans.lines import steps_behind, ways_with
from brinefrost.core.plans.validated import is_process
from brinefrost.core.quantities import BY_CLOCK, WORKED_FROM, Quantity
from brinefrost.core.readings import CLOCK_TOLERANCE
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch, TraceState
from brinefrost.core.runs.events import ReadingLogged
from brinefrost.core.runs.matching import readings_during
from brinefrost.core.runs.parts import as_dated, kept_before, oldest_part
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.acts import HOT, LOOSE
from brinefrost.core.steps.state import Evidence
from brinefrost.core.traces import Channel
from brinefrost.core.words import Words, duration, say
from brinefrost.core.working import Document

RECORDED_S = 26 * 3600.0  # a freezer's recorder is read once a day; FDA, Hazards and Controls Guidance, ch. 5
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
    """One limit of a batch as it stands; ``critical`` where a decision made its step a control point."""

    step: str
    step_name: Words
    title: Words  # of the limit, as whoever asks reads it; the limit itself keeps its own
    limit: Limit
    verdict: Verdict
    forecast: Forecast | None = None
    options: tuple[Option, ...] = ()
    critical: bool = True


@dataclass(frozen=True)
class Judgement:
    """All limits of a batch, and where each step under way is going."""

    statuses: list[LimitStatus]
    courses: dict[str, tuple[Quantity, Projection]]


def met_steps(judgement: Judgement) -> frozenset[str]:
    """The steps of a batch whose limits are all met by what was read. Valid for every judgement."""
    states: dict[str, set[str]] = {}
    for status in judgement.statuses:
        states.setdefault(status.step, set()).add(status.verdict.state)
    return frozenset(step for step, found in states.items() if found == {"pass"})


def judge(batch: Batch, now: datetime) -> Judgement:
    """Judge every limit of a batch that its plan's proof judged, critical or not.

    A verdict for each limit; a forecast and ways out where the kind of step can carry its readings on. Raises
    NotFoundError if a control names a step the plan does not have. Valid for any batch; where nothing was measured the
    verdict says so.
    """
    statuses: list[LimitStatus] = []
    courses: dict[str, tuple[Quantity, Projection]] = {}
    for step_id, control in asked_steps(batch).items():
        step, critical = batch.plan.step(step_id), batch.plan.control_of(step_id) is not None
        for limit in (as_dated(batch, step_id, each, now) for each in control.limits):
            verdict = verdict_of(batch, step.id, limit, now)
            status = LimitStatus(
                step=step.id,
                step_name=step.name,
                title=limit.title,
                limit=limit,
                verdict=verdict,
                critical=critical,
            )
            span = batch.span(step.id)
            if verdict.state in OPEN and span.started and not span.finished and not is_process(limit):
                status, course = _with_forecast(batch, status, limit, now)
                if course:
                    courses[step.id] = (limit.quantity, course)
            statuses.append(status)
    return Judgement([each for each in statuses if not _stands_aside(batch, each, statuses)], courses)


def _stands_aside(batch: Batch, status: LimitStatus, statuses: list[LimitStatus]) -> bool:
    """At a validated step: its process where the core was read and met; the core, unless it was read and is not met.

    A core that is measured decides; one that nobody read asks nothing while its validation holds.
    """
    if status.step not in batch.validated:
        return False
    of_core = [each for each in statuses if each.step == status.step and each.limit.quantity == "core"]
    states = {each.verdict.state for each in of_core}
    if is_process(status.limit):
        return states == {"pass"}
    return status.limit.quantity == "core" and not states & {"fail", "too_close"} and states != {"pass"}


def verdict_of(batch: Batch, step_id: str, limit: Limit, now: datetime) -> Verdict:
    """The worst verdict over every series that bears on a limit, of the readings that can tell by then.

    A reading may be stamped some seconds ahead of this clock, within the tolerance it was let in with; what was read
    later tells nothing of an earlier time.
    """
    step = batch.plan.step(step_id)
    read = [_by_then(series, now) for series in series_of(batch, step_id, limit, now)]
    quiet_s = kind_of(step).tells_after_s(step, limit)
    if is_process(limit) and step_id in batch.validated and limit.quantity not in BY_CLOCK:
        quiet_s = batch.validated[step_id].bounds.settles_s
    telling = [_telling(series, quiet_s, _changes(batch, step_id)) for series in read]
    found = [_evaluate(limit, series, now) for series in telling]
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


def _evaluate(limit: Limit, series: Series, now: datetime) -> Verdict:
    """The verdict now. What is missed by silence alone, while readings may still come, is not known yet.

    A deadline that passed after the last reading breaks nothing: the readings that tell may not have been entered yet.
    """
    if series.longest_gap_s == MANUAL_GAP_S and isinstance(limit, Lethality | Hold):
        series = series.stood()  # a probe that was read had stood still for as long as it takes
    if series.longest_gap_s == MANUAL_GAP_S and isinstance(limit, Freezing):
        series = replace(series, longest_gap_s=RECORDED_S)  # each is the warmest that a recorder kept since the last
    last_s = float(series.times_s[-1]) if len(series) else 0.0
    now_s = max(now.timestamp(), last_s)
    found = limit.evaluate(series, now_s)
    if found.state != "fail" or series.closed or not len(series) or now_s - last_s <= limit.silence_s(series):
        return found
    if limit.evaluate(series, last_s).state == "fail":
        return found
    silent = say("runs.judging.no_reading_for_so_long", silent=duration(now_s - last_s))
    return found.model_copy(update={"state": "pending", "sentence": silent, "advice": ()})


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
    counted = counted_steps(batch, step_id, limit)
    begun = [started for each in counted if (started := batch.span(each).started)]
    opened = min(begun).timestamp() if begun and span.started else None
    if isinstance(limit, Uncontrolled) and opened is not None:
        opened = _control_ended(batch, step_id, opened)
    if limit.from_end_of_cooking and opened is not None:
        opened = _cooking_ended(batch, step_id, opened)
    ended = span.finished or (batch.closed.at if batch.closed else None)
    fall = falls_on(batch, step_id, limit, now) if limit.falls_from_c is not None else None
    if fall is not None and fall.goes_on and not batch.closed:
        ended = None
    closed = ended is not None
    closed_s = ended.timestamp() if ended else None
    if limit.quantity == "age":
        return [_age(batch, step_id, opened, span.finished or (batch.closed.at if batch.closed else None), now)]
    if limit.quantity in BY_CLOCK:
        return [_find_time(batch, step_id, limit, opened, ended, now)]
    if limit.quantity in WORKED_FROM:
        return [_find_lost(batch, step_id, opened, closed_s)]
    found = _trace_series(batch, counted, limit.quantity, opened, closed_s)
    readings = [r.logged for each in counted for r in readings_during(batch, each, limit.quantity)]
    if fall is not None:
        readings = sorted([*readings, *fall.readings], key=lambda each: each.taken_at)
        if fall.readings and closed_s is not None:
            closed_s = max(closed_s, fall.readings[-1].taken_at.timestamp())
        if opened is None and readings:
            opened = readings[0].taken_at.timestamp()
    if readings and not (found and limit.needs_curve):
        doubt, gap_s = max(r.uncertainty for r in readings), np.inf if limit.each_by_itself else MANUAL_GAP_S
        found += [
            Series(times, values, doubt, opened, closed, gap_s, closed_s=closed_s)
            for times, values in by_hand(readings, _warms(batch, step_id))
        ]
    begun_s = _chill_begun(batch, step_id, opened) if limit.from_end_of_cooking and opened is not None else None
    found = [replace(_fallen(batch, step_id, limit, each), chilled_from_s=begun_s) for each in found]
    return found or [Series.empty(opened, closed)]


def counted_steps(batch: Batch, step_id: str, limit: Limit) -> tuple[str, ...]:
    """The steps whose readings tell of a limit of a step: of a core to be cooked, all heats of its cook.

    Valid for every limit of the plan.
    """
    if limit.quantity != "core" or limit.falls_from_c is not None:
        return (step_id,)
    runs = [run for way in ways_with(batch.plan, step_id) if (run := counts_from(way, step_id))]
    return min(runs, key=len, default=(step_id,))  # what comes by another line was in none but its own heats


@dataclass(frozen=True)
class FallOn:
    """How a fall goes on in the cold steps behind it: the cores read there, and whether more of them may still tell."""

    readings: tuple[ReadingLogged, ...]
    goes_on: bool


def falls_on(batch: Batch, step_id: str, limit: Limit, now: datetime) -> FallOn | None:
    """What the steps behind a chill say of its fall; None while the chill runs.

    Cold food goes on falling in the fridge it is put into: a core read there counts for the chill, up to the next
    heat. Valid for limits on a fall.
    """
    span = batch.span(step_id)
    behind = steps_behind(batch.plan, step_id)
    begun = any(batch.span(step.id).started for step in behind)
    if (span.started and not span.finished) or not (span.finished or begun):
        return None
    found: list[ReadingLogged] = []
    open_ = False
    for step in behind:
        acts, here = kind_of(step).acts(step), batch.span(step.id)
        if acts & HOT or not acts & {"cools", "keeps", "freezes", "handles"}:
            break
        found += [r.logged for r in batch.standing_readings(step.id) if r.logged.quantity == "core"]
        open_ = open_ or (not here.finished and bool(acts & {"cools", "keeps", "freezes"}))
    opened = _cooking_ended(batch, step_id, (span.started or batch.started.at).timestamp())
    goes_on = bool(span.finished) and open_ and now.timestamp() <= opened + limit.last_mark_s
    return FallOn(tuple(found), goes_on)


def _chill_begun(batch: Batch, step_id: str, cooked_s: float) -> float | None:
    """When what chills it began, in whichever cold step since its heat [s]; the later where lines met."""
    found = []
    for way in ways_with(batch.plan, step_id):
        place = [step.id for step in way.steps].index(step_id)
        spans = [batch.span(step.id).started for step in way.steps[: place + 1] if "cools" in kind_of(step).acts(step)]
        begun = [started.timestamp() for started in spans if started and started.timestamp() >= cooked_s]
        found += [min(begun)] if begun else []
    return max(found, default=None)


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
    step = batch.plan.step(step_id)
    return "heats" in kind_of(step).acts(step)


def readings_of(batch: Batch, step_id: str, quantity: Quantity) -> Series:
    """What was read of a quantity at a step: its logger file where there is one, else by hand; perhaps nothing.

    Valid for every quantity that is read.
    """
    span = batch.span(step_id)
    opened = span.started.timestamp() if span.started else None
    traced = _trace_series(batch, (step_id,), quantity, opened, span.finished.timestamp() if span.finished else None)
    if traced:  # of several channels the one that tells the worse of the food
        worst_of = min if _warms(batch, step_id) else max
        return worst_of(traced, key=lambda each: float(each.values[-1]) if len(each) else np.inf)
    logged = [r.logged for r in readings_during(batch, step_id, quantity)]
    if not logged:
        return Series.empty(opened)
    return Series(*by_hand(logged, _warms(batch, step_id))[0])


def _cooking_ended(batch: Batch, step_id: str, opened: float) -> float:
    """When the food came out of the heat, or out of the cold it had been chilled in, before this step [s]."""

    def ended(key: str) -> float | None:
        finished = batch.span(key).finished
        return None if finished is None else finished.timestamp()

    left = [last_left_s(way.steps, step_id, ended) for way in ways_with(batch.plan, step_id)]
    return min([opened, *(each for each in left if each is not None)])


def wait_before(batch: Batch, step_id: str) -> float:
    """How long food waited for a step since it left its heat, or the cold it had been in [s]; 0 before it begins.

    Valid for every step.
    """
    started = batch.span(step_id).started
    return 0.0 if started is None else started.timestamp() - _cooking_ended(batch, step_id, started.timestamp())


def _control_ended(batch: Batch, step_id: str, opened: float) -> float:
    """When the last step that kept the food hot or cold was over, before hands and table [s]; its own start where none
    was."""
    found = [opened]
    for way in ways_with(batch.plan, step_id):
        place = [step.id for step in way.steps].index(step_id)
        for step in reversed(way.steps[:place]):
            span, loose = batch.span(step.id), kind_of(step).acts(step) <= LOOSE
            since = span.started if loose else span.finished
            found += [since.timestamp()] if since else []
            if not loose:
                break
    return min(found)


def _trace_series(
    batch: Batch, step_ids: tuple[str, ...], quantity: Quantity, opened: float | None, closed_s: float | None
) -> list[Series]:
    """Every channel of a quantity that loggers wrote at some steps: the files of one instrument joined, each channel by
    itself, and of several readings at one time the lowest and the highest."""
    span, found = batch.span(step_ids[-1]), list[Series]()
    for parts in _channels(batch, step_ids, quantity).values():
        uncertainty = max(state.attached.uncertainty for state, _ in parts)
        gap = max(60.0, *(max(TRACE_GAP_INTERVALS * s.trace.interval_s, c.stretch_s) for s, c in parts if s.trace))
        notes = tuple(note for state, _ in parts for note in state.attached.notes)
        times = np.concatenate([channel.times_s for _, channel in parts])
        values = np.concatenate([np.array(channel.values) - state.error for state, channel in parts])
        keep = times >= (opened or -np.inf) - TRACE_LEAD_S
        if span.finished:
            keep &= times <= span.finished.timestamp()
        times, values = times[keep], values[keep]
        for ordered in _once(times, values) if len(times) else ():
            found.append(
                Series(*ordered, uncertainty, opened, closed_s is not None, gap, notes=notes, closed_s=closed_s)
            )
    return found


def _channels(
    batch: Batch, step_ids: tuple[str, ...], quantity: Quantity
) -> dict[tuple[str, str], list[tuple[TraceState, Channel]]]:
    """The channels of a quantity at some steps, by the instrument and its name for them."""
    found: dict[tuple[str, str], list[tuple[TraceState, Channel]]] = {}
    for state in (state for step_id in step_ids for state in batch.standing_traces(step_id)):
        for channel in state.trace.channels_of(quantity) if state.trace and quantity != "age" else ():
            found.setdefault((state.attached.instrument, channel.name), []).append((state, channel))
    return found


def _once(times: Array, values: Array) -> list[tuple[Array, Array]]:
    """Readings in time order; where several stand at one time, once with the lowest and once with the highest."""
    order = np.lexsort((values, times))
    times, values = times[order], values[order]
    first = np.append(True, np.diff(times) > 0) if len(times) else np.zeros(0, dtype=bool)
    if first.all():
        return [(times, values)]
    last = np.append(np.diff(times) > 0, True)
    return [(times[first], values[first]), (times[last], values[last])]


def _age(batch: Batch, step_id: str, opened: float | None, ended: datetime | None, now: datetime) -> Series:
    """Days since the food began to be kept, in this store and those before, or since its oldest part was made: known
    from the clock."""
    if opened is None:
        return Series.empty()
    opened -= kept_before(batch, step_id, now) * 86400.0
    oldest = oldest_part(batch)
    if oldest is not None:
        opened = min(opened, oldest.made_at.timestamp())
    end = ended or now
    days = max(0.0, (end.timestamp() - opened) / 86400.0)
    return Series(np.array([end.timestamp()]), np.array([days]), 0.0, opened, closed=ended is not None)


def _find_time(
    batch: Batch, step_id: str, limit: Limit, opened: float | None, ended: datetime | None, now: datetime
) -> Series:
    """How long a step has lasted, or how long its food waited for it, by the batch's own clock [s]."""
    if opened is None:
        return Series.empty(closed=ended is not None)
    if limit.quantity == "waited":
        return Series(np.array([opened]), np.array([wait_before(batch, step_id)]), 0.0, opened, closed=True)
    end_s = max((ended or now).timestamp(), opened)
    return Series(np.array([end_s]), np.array([end_s - opened]), 0.0, opened, closed=ended is not None)


def _find_lost(batch: Batch, step_id: str, opened: float | None, closed_s: float | None) -> Series:
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


def seen_of(batch: Batch, step_id: str, limit: Limit, now: datetime) -> Evidence:
    """What has been measured of a limit at a step, and when its course was changed.

    Valid for every limit of the plan.
    """
    mass, changes = batch.mass_kg() or batch.started.packs, tuple(_changes(batch, step_id))
    beside = {
        each: series_of(batch, step_id, limit.model_copy(update={"quantity": each}), now)[0]
        for each in kind_of(batch.plan.step(step_id)).carried_by
    }
    return Evidence(series_of(batch, step_id, limit, now)[0], now.timestamp(), changes, mass, limit, beside)


def _with_forecast(
    batch: Batch, status: LimitStatus, limit: Limit, now: datetime
) -> tuple[LimitStatus, Projection | None]:
    step = batch.plan.step(status.step)
    context = context_at(batch.plan, step)
    seen = seen_of(batch, status.step, limit, now)
    if not any(map(len, (seen.series, *seen.beside.values()))):
        return status, None
    kind = kind_of(step)
    course = kind.project(step, seen, context)
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
