"""What people do with a batch: start it, take it through its steps, log, act, decide, countersign."""

from datetime import datetime

from pydantic import AwareDatetime, Field

from brinefrost.core.errors import AskFirstError, ImplausibleReadingError, NotFoundError, RefusedError
from brinefrost.core.quantity import to_inside
from brinefrost.core.readings import CLOCK_TOLERANCE, ReadingQuantity, check_time, check_value
from brinefrost.core.runs.batch import Batch, check_open, check_step_finish, check_step_start
from brinefrost.core.runs.events import (
    ActionRecorded,
    BatchCountersigned,
    BatchStarted,
    DeviationDecided,
    Disposition,
    ReadingLogged,
    StepFinished,
    StepStarted,
)
from brinefrost.core.runs.judging import judge
from brinefrost.core.working import Document
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.planning import signed_plan
from brinefrost.store import Store
from brinefrost.store.shelves import InstrumentInfo


class BatchStart(Document):
    """Start a batch from the latest signed version of a plan."""

    plan_id: str = Field(max_length=64)
    packs: int = Field(ge=1, le=500)
    at: AwareDatetime | None = None


class StepMark(Document):
    """Begin or end a step, now or at a time given."""

    at: AwareDatetime | None = None


class ReadingEntry(Document):
    """A reading as typed. ``confirmed`` answers a question that was asked about it."""

    step: str = Field(max_length=40)
    quantity: ReadingQuantity
    value: float = Field(allow_inf_nan=False, ge=-1e6, le=1e6)
    unit: str = Field(max_length=4)
    taken_at: AwareDatetime
    instrument: str = Field(max_length=64)
    check: str = Field(default="", max_length=80)
    confirmed: bool = False
    corrects: str | None = Field(default=None, max_length=64)
    note: str = Field(default="", max_length=500)


class ActionEntry(Document):
    """What was done."""

    step: str = Field(max_length=40)
    action: str = Field(min_length=3, max_length=1000)
    deviation: str | None = Field(default=None, max_length=64)
    changes_course: bool = False
    at: AwareDatetime | None = None


class DecisionEntry(Document):
    """The lead's decision."""

    decision: Disposition
    reason: str = Field(min_length=3, max_length=1000)


class BatchId(Document):
    """Which batch it was."""

    batch_id: str
    code: str


def start_batch(store: Store, actor: Actor, now: datetime, entry: BatchStart) -> BatchId:
    """Start a batch."""
    store.ledger.lock()
    signed, at = signed_plan(store, entry.plan_id), entry.at or now
    _not_ahead(at, now)
    batch_id, code = keeping.new_id(), f"B-{store.ledger.count('batch_started') + 101}"
    event = BatchStarted(
        code=code,
        plan_id=entry.plan_id,
        plan_version=signed.version.version,
        plan_hash=signed.version.hash,
        packs=entry.packs,
        at=at,
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=code)


def begin_step(store: Store, actor: Actor, now: datetime, batch_id: str, step_id: str, mark: StepMark) -> BatchId:
    """Begin a step; the one that runs ends at the same moment."""
    batch, at = _open_batch(store, batch_id), mark.at or now
    _not_ahead(at, now)
    check_step_start(batch, step_id, at)
    running = batch.current_step()
    if running:
        check_step_finish(batch, running.id, at)
        keeping.write(store, batch_id, StepFinished(step=running.id, at=at), actor.author, now)
    keeping.write(store, batch_id, StepStarted(step=step_id, at=at), actor.author, now)
    return _watched(store, batch_id, batch, now)


def finish_step(store: Store, actor: Actor, now: datetime, batch_id: str, step_id: str, mark: StepMark) -> BatchId:
    """End a step."""
    batch, at = _open_batch(store, batch_id), mark.at or now
    _not_ahead(at, now)
    check_step_finish(batch, step_id, at)
    keeping.write(store, batch_id, StepFinished(step=step_id, at=at), actor.author, now)
    return _watched(store, batch_id, batch, now)


def log_reading(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ReadingEntry) -> BatchId:
    """Log a reading, or correct one."""
    batch = _open_batch(store, batch_id)
    instrument = store.instruments.by_id(entry.instrument)
    value = to_inside(entry.value, entry.unit) if entry.unit in ("°C", "°F") else entry.value
    check_time(entry.taken_at, now, batch.started.at)
    if not batch.span(entry.step).started:
        raise RefusedError(f"{batch.plan.step(entry.step).name} has not begun, so nothing can be logged to it.")
    check_value(entry.quantity, value, _expected(batch, entry.step, entry.quantity), entry.confirmed)
    _check_instrument(instrument, entry, now)
    _check_doubles(batch, entry, value)
    event = ReadingLogged(
        reading=keeping.new_id(),
        step=entry.step,
        check=entry.check,
        quantity=entry.quantity,
        value=round(value, 4),
        unit="°C" if entry.unit == "°F" else entry.unit,
        typed=f"{entry.value:g} {entry.unit}",
        taken_at=entry.taken_at,
        instrument=instrument.id,
        instrument_name=instrument.name,
        uncertainty=instrument.uncertainty,
        confirmed=entry.confirmed,
        corrects=entry.corrects,
        note=f"calibration overdue; {entry.note}".rstrip("; ") if instrument.due_at < entry.taken_at else entry.note,
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return _watched(store, batch_id, batch, now)


def record_action(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ActionEntry) -> BatchId:
    """Write down what was done about a deviation, or just done."""
    batch, at = _open_batch(store, batch_id), entry.at or now
    check_time(at, now, batch.started.at)
    batch.plan.step(entry.step)
    if entry.deviation and entry.deviation not in batch.deviations:
        raise NotFoundError("There is no such deviation on this batch.", deviation=entry.deviation)
    event = ActionRecorded(
        step=entry.step, deviation=entry.deviation, action=entry.action, changes_course=entry.changes_course, at=at
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def decide(store: Store, actor: Actor, now: datetime, batch_id: str, deviation: str, entry: DecisionEntry) -> BatchId:
    """Decide on a deviation."""
    batch = _open_batch(store, batch_id)
    kept = batch.deviations.get(deviation)
    if kept is None:
        raise NotFoundError("There is no such deviation on this batch.", deviation=deviation)
    if kept.decided:
        raise RefusedError("This deviation is decided already. Write an action if something is to be added.")
    event = DeviationDecided(deviation=deviation, decision=entry.decision, reason=entry.reason, at=now)
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def countersign(store: Store, actor: Actor, now: datetime, batch_id: str, entry: DecisionEntry) -> BatchId:
    """Review done: decide on the batch and close its record."""
    batch = _open_batch(store, batch_id)
    reasons = blocks_of_countersigning(batch, entry.decision, now)
    if reasons:
        raise RefusedError(f"Not yet: {reasons[0]}", reasons=reasons)
    keeping.write(
        store, batch_id, BatchCountersigned(decision=entry.decision, reason=entry.reason, at=now), actor.author, now
    )
    return BatchId(batch_id=batch_id, code=batch.started.code)


def blocks_of_countersigning(batch: Batch, decision: Disposition, now: datetime) -> list[str]:
    """What stands in the way of a decision on the whole batch."""
    found = [f"{d.opened.deviation} is not decided." for d in batch.open_deviations()]
    if decision == "discard":
        return found
    decided = {(d.opened.step, d.opened.limit) for d in batch.deviations.values() if d.decided}
    for control in batch.plan.controls:
        span, name = batch.span(control.step), batch.plan.step(control.step).name
        if not span.finished:
            found.append(f"{name} has not ended.")
    for status in judge(batch, now).statuses:
        if status.verdict.state != "pass" and (status.step, status.limit.id) not in decided:
            found.append(f"{status.step_name}, {status.limit.title}: {status.verdict.sentence}")
    if decision == "release" and any(d.decided and d.decided.decision == "discard" for d in batch.deviations.values()):
        found.append("A deviation was decided as discard, so the batch cannot be released.")
    return found


def _open_batch(store: Store, batch_id: str) -> Batch:
    store.ledger.lock()
    batch = keeping.load(store, batch_id)
    check_open(batch)
    return batch


def _watched(store: Store, batch_id: str, batch: Batch, now: datetime) -> BatchId:
    keeping.watch(store, batch_id, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _not_ahead(at: datetime, now: datetime) -> None:
    if at > now + CLOCK_TOLERANCE:
        raise ImplausibleReadingError("That time has not come yet. Check the clock time.", reason="future")


def _expected(batch: Batch, step_id: str, quantity: ReadingQuantity) -> tuple[float, float] | None:
    control = batch.plan.control_of(step_id)
    found = [m for m in control.monitoring if m.quantity == quantity] if control else []
    return (min(m.expected_low_c for m in found), max(m.expected_high_c for m in found)) if found else None


def _check_instrument(instrument: InstrumentInfo, entry: ReadingEntry, now: datetime) -> None:
    if entry.quantity not in instrument.quantities:
        raise RefusedError(
            f"{instrument.name} does not read that. Choose another instrument.", instrument=instrument.id
        )
    if instrument.due_at < entry.taken_at and not entry.confirmed:
        raise AskFirstError(
            f"{instrument.name} was due for calibration on {instrument.due_at:%d %b}. "
            "Use another, or keep the reading so marked.",
            reason="calibration",
            value=entry.value,
        )


def _check_doubles(batch: Batch, entry: ReadingEntry, value: float) -> None:
    if entry.corrects and entry.corrects not in {r.logged.reading for r in batch.standing_readings(entry.step)}:
        raise RefusedError("The reading to correct is not there, or was corrected already.")
    for reading in batch.standing_readings(entry.step):
        logged = reading.logged
        same = (logged.quantity, logged.instrument) == (entry.quantity, entry.instrument) and abs(
            logged.value - value
        ) < 0.05
        near = abs((logged.taken_at - entry.taken_at).total_seconds()) < 45
        if same and near and not entry.confirmed and logged.reading != entry.corrects:
            raise AskFirstError(
                "The same reading was logged less than a minute ago. Log it again?", reason="twice", value=entry.value
            )
