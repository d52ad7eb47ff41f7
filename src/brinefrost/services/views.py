"""What the screens and the record show of a batch."""

from dataclasses import dataclass
from datetime import datetime

import numpy as np

from brinefrost.core.errors import DomainError
from brinefrost.core.limits import LimitMark
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.sheet import Sheet
from brinefrost.core.plans.walk import context_at
from brinefrost.core.runs.batch import Batch, DeviationState, ReadingState, TraceState
from brinefrost.core.runs.deciding import answering, blocks_of_countersigning
from brinefrost.core.runs.events import Adjusted, Lot
from brinefrost.core.runs.judging import Judgement, LimitStatus, judge, moment, seen_of, series_of
from brinefrost.core.runs.parts import allergens_of, gone_by
from brinefrost.core.runs.schedule import Block, Check, blocks_of, checks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.base import Asked
from brinefrost.core.words import STORED, Words, say
from brinefrost.core.words import moment as words_moment
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.starting import GivenView, PartView, given_view, parts_blocking, parts_view
from brinefrost.store import Store

MOST_POINTS = 400
DAMAGED = say("services.views.its_record_is_damaged_check_the")


class ReadingView(Sent):
    """A reading with who and when."""

    reading: str
    step: str
    step_name: Words
    quantity: str
    value: float
    unit: str
    typed: str
    taken_at: datetime
    recorded_at: datetime
    entered_late_s: float
    by: str
    instrument: str
    uncertainty: float
    confirmed: bool
    corrects: str | None
    corrected_by: str | None
    note: Words


class TraceView(Sent):
    """An attached logger file."""

    trace: str
    step: str
    step_name: Words
    filename: str
    sha256: str
    instrument: str
    uncertainty: float
    by: str
    recorded_at: datetime
    first_at: datetime
    last_at: datetime
    shift_s: float
    shift_reason: str
    asked: Words
    channels: tuple[Words, ...]
    assumptions: tuple[Words, ...]
    notes: tuple[Words, ...]


class ActionView(Sent):
    """What was done."""

    action: Words
    by: str
    at: datetime
    step: str


class DeviationView(Sent):
    """A deviation, from its opening to the decision."""

    deviation: str
    step: str
    step_name: Words
    limit: str
    cause: str
    sentence: Words
    late_by_s: float | None
    opened_at: datetime
    actions: tuple[ActionView, ...]
    standing: Words
    state: str
    decision: str | None
    reason: str | None
    decided_by: str | None
    decided_at: datetime | None


class Curve(Sent):
    """A line of the chart, measured or expected."""

    name: Words
    quantity: str
    step: str
    basis: str
    times_s: tuple[float, ...]
    values: tuple[float, ...]


class Mark(LimitMark):
    """How a limit is drawn over its quantity, at its step."""

    step: str
    quantity: str


class ClosedView(Sent):
    """The countersignature."""

    decision: str
    reason: str
    by: str
    at: datetime


class UnprovedView(Sent):
    """A limit not met after its step, which waits for a reading that is still there, or for somebody to decide."""

    step: str
    limit: str
    title: Words


class BatchView(Sent):
    """One batch, whole."""

    batch_id: str
    code: str
    now: datetime
    plan_id: str
    plan_name: Words
    plan_version: int
    plan_hash: str
    packs: int
    mass_kg: float
    started_at: datetime
    started_by: str
    plan: Plan
    blocks: tuple[Block, ...]
    checks: tuple[Check, ...]
    startable: tuple[str, ...]
    current_step: str | None
    running: tuple[str, ...]  # every step that runs now
    limits: tuple[LimitStatus, ...]
    readings: tuple[ReadingView, ...]
    traces: tuple[TraceView, ...]
    actions: tuple[ActionView, ...]
    deviations: tuple[DeviationView, ...]
    curves: tuple[Curve, ...]
    marks: tuple[Mark, ...]
    blocking: tuple[Words, ...]
    unproved: tuple[UnprovedView, ...]
    closed: ClosedView | None
    allergens: tuple[Words, ...]
    gone_by: datetime | None  # when the first of it has to be used or thrown away
    lots: tuple[Lot, ...]
    adjusted: tuple[Adjusted, ...]
    parts: tuple[PartView, ...] = ()
    given: tuple[GivenView, ...] = ()


class BatchSummary(Sent):
    """A batch in a list."""

    batch_id: str
    code: str
    plan_name: Words
    packs: int
    mass_kg: float
    started_at: datetime
    current: str | None
    state: str
    open_deviations: int
    waits_for: Words
    gone_by: datetime | None = None


def read_batch(store: Store, batch_id: str, now: datetime) -> BatchView:
    """One batch as it stands."""
    batch = keeping.load(store, batch_id)
    view = view_of(batch, batch_id, now)
    blocking = () if batch.closed else (*view.blocking, *parts_blocking(store, batch, now))
    family = {"parts": parts_view(store, batch), "given": given_view(store, batch_id), "blocking": blocking}
    return view.model_copy(update=family)


def questions_of(store: Store, batch_id: str, now: datetime) -> tuple[Asked, ...]:
    """What the step under way would ask the Bench; nothing while none is."""
    batch = keeping.load(store, batch_id)
    step = batch.current_step()
    control = batch.plan.control_of(step.id) if step else None
    if step is None or control is None:
        return ()
    context = context_at(batch.plan, step)
    return tuple(
        asked
        for limit in control.limits
        for asked in kind_of(step).running_asked(step, seen_of(batch, step.id, limit, now), context)
    )


def view_of(batch: Batch, batch_id: str, now: datetime) -> BatchView:
    """A folded batch as the screens see it."""
    as_of = batch.closed.at if batch.closed else now
    judgement = judge(batch, as_of)
    running = batch.current_step()
    return BatchView(
        batch_id=batch_id,
        code=batch.started.code,
        now=now,
        plan_id=batch.started.plan_id,
        plan_name=batch.plan.name,
        plan_version=batch.started.plan_version,
        plan_hash=batch.started.plan_hash,
        packs=batch.started.packs,
        mass_kg=batch.mass_kg(),
        started_at=batch.started.at,
        started_by=batch.started_by,
        plan=batch.plan,
        blocks=tuple(blocks_of(batch, as_of)),
        checks=tuple(checks_of(batch, as_of)),
        startable=tuple(step.id for step in batch.startable()) if not batch.closed else (),
        current_step=running.id if running else None,
        running=tuple(step.id for step in batch.running_steps()),
        limits=tuple(judgement.statuses),
        readings=tuple(_reading(batch, reading) for reading in sorted(batch.readings, key=lambda r: r.logged.taken_at)),
        traces=tuple(_trace(batch, trace) for trace in batch.traces),
        actions=tuple(ActionView(action=a.action, by=by, at=a.at, step=a.step) for a, by in batch.actions),
        deviations=tuple(_deviation(batch, d, judgement) for d in batch.deviations.values()),
        curves=tuple(curves_of(batch, judgement)),
        marks=tuple(marks_of(batch, judgement, as_of)),
        blocking=tuple(blocks_of_countersigning(batch, "release", as_of)) if not batch.closed else (),
        unproved=tuple(_unproved(batch, judgement)) if not batch.closed else (),
        closed=ClosedView(
            decision=batch.closed.decision, reason=batch.closed.reason, by=batch.closed_by or "", at=batch.closed.at
        )
        if batch.closed
        else None,
        allergens=allergens_of(batch),
        gone_by=gone_by(batch),
        lots=batch.started.lots,
        adjusted=batch.started.adjusted,
    )


def _unproved(batch: Batch, judgement: Judgement) -> list[UnprovedView]:
    return [
        UnprovedView(
            step=s.step,
            limit=s.limit.id,
            title=say("services.views.step_name_title", step_name=s.step_name, title=s.limit.title),
        )
        for s in judgement.statuses
        if s.verdict.state != "pass" and batch.span(s.step).finished and answering(batch, s.step, s.limit.id) is None
    ]


class BatchSheet(Sent):
    """A batch on its plan's sheet, and where the clock stands on it."""

    sheet: Sheet
    now_step: str | None
    now_share: float


def sheet_view(store: Store, batch_id: str, now: datetime) -> BatchSheet:
    """A batch on its plan's sheet."""
    batch = keeping.load(store, batch_id)
    as_of = batch.closed.at if batch.closed else now
    sheet = sheet_of_batch(batch, judge(batch, as_of), as_of)
    running = batch.current_step()
    column = next((each for each in sheet.columns if running and each.step == running.id), None)
    began = batch.span(column.step).started if column else None
    share = (as_of - began).total_seconds() / max(column.length_s, 1.0) if column and began else 0.0
    return BatchSheet(
        sheet=sheet, now_step=column.step if column else None, now_share=round(min(max(share, 0.0), 1.0), 4)
    )


def list_batches(store: Store, now: datetime) -> list[BatchSummary]:
    """Every batch, the newest first; one whose record cannot be read says so and hides nobody else's.

    A closed batch does not change any more: its line is kept, and made anew where its records are others.
    """
    ends, kept = store.summaries.ends(keeping.PREFIX), store.summaries.all()
    found: list[BatchSummary] = []
    damaged: list[BatchSummary] = []
    for record in reversed(store.ledger.of_kind("batch_started")):
        batch_id = record.subject.removeprefix(keeping.PREFIX)
        seq = ends[record.subject][0]
        if kept.get(batch_id, (0, ""))[0] == seq:
            found.append(BatchSummary.model_validate_json(kept[batch_id][1]))
            continue
        batch = _folded(store, record.subject, ends[record.subject])
        if batch is None:
            damaged.append(_damaged_summary(record.subject, now))
            continue
        summary = summary_of(batch, batch_id, now)
        if batch.closed:
            store.summaries.keep(batch_id, seq, summary.model_dump_json(context=STORED))
        found.append(summary)
    return [*damaged, *found]


@dataclass(frozen=True)
class Batches:
    """Folded batches, the oldest first, and the subjects whose records do not fold."""

    batches: list[tuple[str, Batch]]
    damaged: list[str]


def open_batches(store: Store) -> Batches:
    """Every batch not countersigned yet, folded."""
    closed = {record.subject for record in store.ledger.of_kind("batch_countersigned")}
    ends = store.summaries.ends(keeping.PREFIX)
    found = Batches([], [])
    for record in store.ledger.of_kind("batch_started"):
        if record.subject in closed:
            continue
        batch = _folded(store, record.subject, ends[record.subject])
        if batch is None:
            found.damaged.append(record.subject)
        else:
            found.batches.append((record.subject.removeprefix(keeping.PREFIX), batch))
    return found


def _folded(store: Store, subject: str, end: tuple[int, str]) -> Batch | None:
    """A batch; nothing where its records do not fold."""
    try:
        return keeping.fold_once(store, subject, end)
    except (DomainError, LookupError, ValueError):
        return None


def _damaged_summary(subject: str, now: datetime) -> BatchSummary:
    batch_id = subject.removeprefix(keeping.PREFIX)
    return BatchSummary(
        batch_id=batch_id,
        code=batch_id,
        plan_name=DAMAGED,
        packs=0,
        mass_kg=0.0,
        started_at=now,
        current=None,
        state="trouble",
        open_deviations=0,
        waits_for=DAMAGED,
    )


def summary_of(batch: Batch, batch_id: str, now: datetime) -> BatchSummary:
    """A batch in one line."""
    running = batch.current_step()
    deviations = len(batch.open_deviations())
    return BatchSummary(
        batch_id=batch_id,
        code=batch.started.code,
        plan_name=batch.plan.name,
        packs=batch.started.packs,
        mass_kg=batch.mass_kg(),
        started_at=batch.started.at,
        current=running.name if running else None,
        state="trouble" if deviations else "closed" if batch.closed else "running",
        open_deviations=deviations,
        waits_for=waits_for(batch, [] if batch.closed else checks_of(batch, now)),
        gone_by=gone_by(batch),
    )


def curves_of(batch: Batch, judgement: Judgement) -> list[Curve]:
    """Measured traces, hand readings, and where a chill is going."""
    found = [
        _trace_curve(state, channel.name) for state in batch.traces if state.trace for channel in state.trace.channels
    ]
    grouped: dict[tuple[str, str], list[ReadingState]] = {}
    for reading in batch.standing_readings():
        grouped.setdefault((reading.logged.step, reading.logged.quantity), []).append(reading)
    for (step, quantity), readings in grouped.items():
        found.append(
            Curve(
                name=say("services.views.by_hand"),
                quantity=quantity,
                step=step,
                basis="hand",
                times_s=tuple(r.logged.taken_at.timestamp() for r in readings),
                values=tuple(r.logged.value for r in readings),
            )
        )
    for step, (quantity, course) in judgement.courses.items():
        shown = np.abs(course.expected - course.settles_at) > course.near
        for name, values in (("expected", course.expected), ("slow", course.slow)):
            found.append(
                Curve(
                    name=name,
                    quantity=quantity,
                    step=step,
                    basis="expected",
                    times_s=tuple(course.times_s[shown][::4].round(0)),
                    values=tuple(values[shown][::4].round(2)),
                )
            )
    return found


def marks_of(batch: Batch, judgement: Judgement, now: datetime) -> list[Mark]:
    """The lines and points of the limits, for the chart; a number of days is no line."""
    found: list[Mark] = []
    for status in judgement.statuses:
        span = batch.span(status.step)
        if span.started is None or status.limit.quantity == "age":
            continue
        began, ended = span.started.timestamp(), span.finished.timestamp() if span.finished else None
        series = series_of(batch, status.step, status.limit, now)[0]
        drawn = status.limit.marks(series, began, ended, now.timestamp(), status.verdict.state)
        found += [Mark(step=status.step, quantity=status.limit.quantity, **vars(mark)) for mark in drawn]
    return found


def _trace_curve(state: TraceState, channel_name: str) -> Curve:
    trace = state.trace
    assert trace is not None  # noqa: S101 (the caller filters)
    channel = next(channel for channel in trace.channels if channel.name == channel_name)
    stride = max(1, len(channel.values) // MOST_POINTS)
    return Curve(
        name=say(
            "services.views.instrument_name_name", instrument_name=state.attached.instrument_name, name=channel.name
        ),
        quantity=channel.quantity,
        step=state.attached.step,
        basis="logger",
        times_s=channel.times_s[::stride],
        values=channel.values[::stride],
    )


def _reading(batch: Batch, state: ReadingState) -> ReadingView:
    logged = state.logged
    return ReadingView(
        reading=logged.reading,
        step=logged.step,
        step_name=batch.plan.step(logged.step).name,
        quantity=logged.quantity,
        value=logged.value,
        unit=logged.unit,
        typed=logged.typed,
        taken_at=logged.taken_at,
        recorded_at=state.recorded_at,
        entered_late_s=state.entered_late_s,
        by=state.by,
        instrument=logged.instrument_name,
        uncertainty=logged.uncertainty,
        confirmed=logged.confirmed,
        corrects=logged.corrects,
        corrected_by=state.corrected_by,
        note=logged.note,
    )


def _trace(batch: Batch, state: TraceState) -> TraceView:
    kept = state.attached
    return TraceView(
        trace=kept.trace,
        step=kept.step,
        step_name=batch.plan.step(kept.step).name,
        filename=kept.filename,
        sha256=kept.sha256,
        instrument=kept.instrument_name,
        uncertainty=kept.uncertainty,
        by=state.by,
        recorded_at=state.recorded_at,
        first_at=kept.first_at,
        last_at=kept.last_at,
        shift_s=kept.shift_s,
        shift_reason=kept.shift_reason,
        asked=kept.asked,
        channels=kept.channels,
        assumptions=kept.assumptions,
        notes=kept.notes,
    )


def _deviation(batch: Batch, state: DeviationState, judgement: Judgement) -> DeviationView:
    opened, decided = state.opened, state.decided
    status = next((s for s in judgement.statuses if (s.step, s.limit.id) == (opened.step, opened.limit)), None)
    return DeviationView(
        deviation=opened.deviation,
        step=opened.step,
        step_name=batch.plan.step(opened.step).name,
        limit=opened.limit,
        cause=opened.cause,
        sentence=opened.sentence,
        late_by_s=opened.late_by_s,
        opened_at=opened.at,
        actions=tuple(ActionView(action=a.action, by=by, at=a.at, step=a.step) for a, by in state.actions),
        standing=_standing(status),
        state=status.verdict.state if status else "not_measured",
        decision=decided.decision if decided else None,
        reason=decided.reason if decided else None,
        decided_by=state.decided_by,
        decided_at=decided.at if decided else None,
    )


def _standing(status: LimitStatus | None) -> str:
    if status is None:
        return ""
    ahead = status.forecast if status.verdict.state in ("pending", "not_measured") else None
    return ahead.sentence if ahead else status.verdict.sentence


def waits_for(batch: Batch, checks: list[Check]) -> str:
    """What a batch waits for, in a few words."""
    if batch.closed:
        return say(f"services.views.closed_{batch.closed.decision}")
    if batch.open_deviations():
        return say("services.views.deviation_decide", deviation=batch.open_deviations()[0].opened.deviation)
    for check in checks:
        if check.state in ("late", "due"):
            return say(f"services.views.check_{check.state}", what=check.what)
    if batch.next_step() is None and batch.current_step() is None:
        return say("services.shift.review_and_countersign")
    upcoming = next((check for check in checks if check.state == "upcoming" and not check.planned), None)
    if upcoming:
        return say(
            "services.views.what_moment",
            what=upcoming.what,
            day=words_moment(moment(upcoming.due_at.timestamp()), "%d %b"),
        )
    step = batch.next_step()
    return say("services.shift.begin_name", name=step.name) if step else say("services.views.finish_the_step")
