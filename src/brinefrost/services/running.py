"""What people do with a batch: start it, take it through its steps, log, act, decide, countersign."""

from datetime import datetime

from pydantic import Field

from brinefrost.core.errors import AskFirstError, NotFoundError, RefusedError
from brinefrost.core.quantities import BY_EYE, QUANTITIES, ReadingQuantity
from brinefrost.core.quantity import to_inside
from brinefrost.core.readings import check_time, check_value
from brinefrost.core.runs.batch import Batch, check_open, check_step_finish, check_step_start
from brinefrost.core.runs.deciding import (
    blocks_of_countersigning,
    broken,
    check_reason,
    check_second_pair,
    check_unproved,
)
from brinefrost.core.runs.events import (
    ActionRecorded,
    BatchCountersigned,
    CheckAnswered,
    DeviationDecided,
    DeviationOpened,
    Disposition,
    Moment,
    ReadingLogged,
    StepFinished,
    StepStarted,
)
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.plausible import check_core, check_moment, check_within
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.words import joined, moment, said, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.starting import BatchId, parts_blocking
from brinefrost.store import Store
from brinefrost.store.shelves import InstrumentInfo


class StepMark(Sent):
    """Begin or end a step, now or at a time given."""

    at: Moment | None = None
    confirmed: bool = False
    beside: bool = False  # it begins while what runs goes on


class ReadingEntry(Sent):
    """A reading as typed. ``confirmed`` answers a question that was asked about it."""

    step: str = Field(max_length=40)
    quantity: ReadingQuantity
    value: float = Field(allow_inf_nan=False, ge=-1e6, le=1e6)
    unit: str = Field(max_length=4)
    taken_at: Moment
    instrument: str = Field(max_length=64)
    check: str = Field(default="", max_length=80)
    confirmed: bool = False
    corrects: str | None = Field(default=None, max_length=64)
    note: str = Field(default="", max_length=500)


class ActionEntry(Sent):
    """What was done."""

    step: str = Field(max_length=40)
    action: str = Field(min_length=3, max_length=1000)
    deviation: str | None = Field(default=None, max_length=64)
    changes_course: bool = False
    at: Moment | None = None


class DecisionEntry(Sent):
    """The lead's decision."""

    decision: Disposition
    reason: str = Field(min_length=3, max_length=1000)


class CheckAnswer(Sent):
    """Why a check was missed."""

    check: str = Field(max_length=64)
    reason: str = Field(min_length=3, max_length=1000)


class Unproved(Sent):
    """A limit that nothing proves."""

    step: str = Field(max_length=40)
    limit: str = Field(max_length=64)


def begin_step(store: Store, actor: Actor, now: datetime, batch_id: str, step_id: str, mark: StepMark) -> BatchId:
    """Begin a step; what runs ends at the same moment, unless it is begun beside it."""
    batch, at = _open_batch(store, batch_id), mark.at or now
    check_moment(at, now, mark.confirmed)
    check_step_start(batch, step_id, at)
    events: list[StepFinished | StepStarted] = []
    for running in [] if mark.beside else batch.running_steps():
        check_step_finish(batch, running.id, at)
        events.append(StepFinished(step=running.id, at=at))
    events.append(StepStarted(step=step_id, at=at))
    written = [keeping.write(store, batch_id, event, actor.author, now) for event in events]
    return _watched(store, batch_id, keeping.after(batch, *written), now)


def finish_step(store: Store, actor: Actor, now: datetime, batch_id: str, step_id: str, mark: StepMark) -> BatchId:
    """End a step."""
    batch, at = _open_batch(store, batch_id), mark.at or now
    check_moment(at, now, mark.confirmed)
    check_step_finish(batch, step_id, at)
    written = keeping.write(store, batch_id, StepFinished(step=step_id, at=at), actor.author, now)
    return _watched(store, batch_id, keeping.after(batch, written), now)


def log_reading(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ReadingEntry) -> BatchId:
    """Log a reading, or correct one."""
    batch = _open_batch(store, batch_id)
    instrument = _instrument(store, entry)
    _check_unit(entry)
    value = to_inside(entry.value, entry.unit) if entry.unit in ("°C", "°F") else entry.value
    check_time(entry.taken_at, now, batch.started.at)
    check_within(batch, entry.step, entry.taken_at)
    check_value(entry.quantity, value, _expected(batch, entry.step, entry.quantity), entry.confirmed)
    if entry.quantity == "core":
        check_core(batch, entry.step, value, entry.taken_at, entry.corrects)
    _check_instrument(instrument, entry, now)
    _check_doubles(batch, entry, value)
    event = ReadingLogged(
        reading=keeping.new_id(),
        step=entry.step,
        check=entry.check,
        quantity=entry.quantity,
        value=round(value, 4),
        unit="°C" if entry.unit == "°F" else entry.unit,
        typed=f"{entry.value:g} {entry.unit}".strip(),
        taken_at=entry.taken_at,
        instrument=instrument.id,
        instrument_name=instrument.name,
        uncertainty=instrument.uncertainty,
        confirmed=entry.confirmed,
        corrects=entry.corrects,
        note=joined((say("services.running.calibration_overdue"), entry.note))
        if instrument.due_at < entry.taken_at
        else entry.note,
    )
    written = keeping.write(store, batch_id, event, actor.author, now)
    return _watched(store, batch_id, keeping.after(batch, written), now)


def record_action(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ActionEntry) -> BatchId:
    """Write down what was done about a deviation, or just done."""
    batch, at = _open_batch(store, batch_id), entry.at or now
    check_time(at, now, batch.started.at)
    batch.plan.step(entry.step)
    if entry.deviation and entry.deviation not in batch.deviations:
        raise NotFoundError(say("services.running.there_is_no_such_deviation_on"), deviation=entry.deviation)
    event = ActionRecorded(
        step=entry.step,
        deviation=entry.deviation,
        action=_as_offered(batch, entry.action, now),
        changes_course=entry.changes_course,
        at=at,
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _as_offered(batch: Batch, action: str, now: datetime) -> str:
    """An action as it was offered, where it is one: code and numbers are kept, not the language it was read in."""
    options = (option for status in judge(batch, now).statuses for option in status.options)
    return next((option.action for option in options if said(option.action) == action), action)


def open_deviation(store: Store, actor: Actor, now: datetime, batch_id: str, entry: Unproved) -> BatchId:
    """Take up a limit that nothing proves and nothing will, so that somebody decides on it."""
    batch = _open_batch(store, batch_id)
    status = check_unproved(batch, entry.step, entry.limit, now)
    event = DeviationOpened(
        deviation=f"{batch.started.code}-D{len(batch.deviations) + 1}",
        step=entry.step,
        limit=entry.limit,
        cause="unproved",
        sentence=say(
            "services.running.step_name_sentence", step_name=status.step_name, sentence=status.verdict.sentence
        ),
        at=now,
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def decide(store: Store, actor: Actor, now: datetime, batch_id: str, deviation: str, entry: DecisionEntry) -> BatchId:
    """Decide on a deviation."""
    batch = _open_batch(store, batch_id)
    kept = batch.deviations.get(deviation)
    if kept is None:
        raise NotFoundError(say("services.running.there_is_no_such_deviation_on"), deviation=deviation)
    if kept.decided:
        raise RefusedError(say("services.running.this_deviation_is_decided_already_write"))
    own = False
    if entry.decision == "release":
        own = check_second_pair(batch, actor.id, _others_who_decide(store, actor))
        if broken(batch, kept.opened.step, kept.opened.limit, now):
            check_reason(entry.reason, say("services.running.releasing_food_with_a_broken_critical"))
    event = DeviationDecided(deviation=deviation, decision=entry.decision, reason=entry.reason, at=now, own_work=own)
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def countersign(store: Store, actor: Actor, now: datetime, batch_id: str, entry: DecisionEntry) -> BatchId:
    """Review done: decide on the batch and close its record."""
    batch = _open_batch(store, batch_id)
    reasons = blocks_of_countersigning(batch, entry.decision, now)
    if entry.decision == "release":
        reasons = [*reasons, *parts_blocking(store, batch, now)]
    if reasons:
        raise RefusedError(say("services.running.not_yet", reasons=reasons[0]), reasons=reasons)
    own = entry.decision == "release" and check_second_pair(batch, actor.id, _others_who_decide(store, actor))
    event = BatchCountersigned(decision=entry.decision, reason=entry.reason, at=now, own_work=own)
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def answer_check(store: Store, actor: Actor, now: datetime, batch_id: str, entry: CheckAnswer) -> BatchId:
    """Say why a check was missed."""
    batch = _open_batch(store, batch_id)
    check = next((each for each in checks_of(batch, now) if each.id == entry.check), None)
    if check is None or check.state != "missed":
        raise RefusedError(say("services.running.that_check_is_not_missed_log"))
    check_reason(entry.reason, say("services.running.a_missed_check"))
    event = CheckAnswered(check=check.id, step=check.step, reason=entry.reason, at=now)
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _open_batch(store: Store, batch_id: str) -> Batch:
    store.ledger.lock()
    batch = keeping.load(store, batch_id)
    check_open(batch)
    return batch


def _watched(store: Store, batch_id: str, batch: Batch, now: datetime) -> BatchId:
    keeping.watch(store, batch_id, now, batch)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _expected(batch: Batch, step_id: str, quantity: ReadingQuantity) -> tuple[float, float] | None:
    control = batch.plan.control_of(step_id)
    found = [m for m in control.monitoring if m.quantity == quantity] if control else []
    return (min(m.expected_low_c for m in found), max(m.expected_high_c for m in found)) if found else None


def _check_unit(entry: ReadingEntry) -> None:
    unit = QUANTITIES[entry.quantity].unit
    allowed = ("°C", "°F") if unit == "°C" else (unit,)
    if entry.unit not in allowed:
        raise RefusedError(
            say(
                "services.running.a_reading_is_in_not_in",
                quantity=entry.quantity,
                allowed=joined(allowed, "words.or"),
                value=entry.unit or say("services.running.no_unit"),
            ),
            reason="unit",
        )


def _instrument(store: Store, entry: ReadingEntry) -> InstrumentInfo:
    """What read it; eyes where nothing has to."""
    if QUANTITIES[entry.quantity].kit:
        return store.instruments.by_id(entry.instrument)
    by_eye = say("services.running.by_eye")
    return InstrumentInfo(BY_EYE, by_eye, BY_EYE, (entry.quantity,), 0.0, entry.taken_at, entry.taken_at)


def _others_who_decide(store: Store, actor: Actor) -> dict[str, str]:
    """Everybody else who may decide and countersign: name by id."""
    return {p.id: p.name for p in store.people.all() if p.role in ("lead", "reviewer") and p.id != actor.id}


def _check_instrument(instrument: InstrumentInfo, entry: ReadingEntry, now: datetime) -> None:
    if entry.quantity not in instrument.quantities:
        raise RefusedError(
            say("services.running.does_not_read_that_choose_another", name=instrument.name), instrument=instrument.id
        )
    if instrument.due_at < entry.taken_at and not entry.confirmed:
        raise AskFirstError(
            say(
                "services.running.was_due_for_calibration_on_use",
                name=instrument.name,
                due_at=moment(instrument.due_at, "%d %b"),
            ),
            reason="calibration",
            value=entry.value,
        )


def _check_doubles(batch: Batch, entry: ReadingEntry, value: float) -> None:
    if entry.corrects and entry.corrects not in {r.logged.reading for r in batch.standing_readings(entry.step)}:
        raise RefusedError(say("services.running.the_reading_to_correct_is_not"))
    for reading in batch.standing_readings(entry.step):
        logged = reading.logged
        alike = abs(logged.value - value) < 0.5 * 10 ** -QUANTITIES[entry.quantity].decimals
        same = (logged.quantity, logged.instrument) == (entry.quantity, entry.instrument) and alike
        near = abs((logged.taken_at - entry.taken_at).total_seconds()) < 45
        if same and near and not entry.confirmed and logged.reading != entry.corrects:
            raise AskFirstError(
                say("services.running.the_same_reading_was_logged_less"), reason="twice", value=entry.value
            )
