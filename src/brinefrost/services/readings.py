"""A reading: as typed, looked at before it is kept, kept."""

from datetime import datetime

from pydantic import Field

from brinefrost.core.errors import AskFirstError, RefusedError
from brinefrost.core.quantities import BY_EYE, QUANTITIES, ReadingQuantity
from brinefrost.core.quantity import to_inside
from brinefrost.core.readings import check_time, check_value
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import Moment, ReadingLogged
from brinefrost.core.runs.plausible import check_core, check_within
from brinefrost.core.runs.schedule import ask_if_untimely
from brinefrost.core.words import joined, moment, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.starting import BatchId
from brinefrost.store import Store
from brinefrost.store.shelves import InstrumentInfo

TWICE_WITHIN_S = 45  # the same number so soon is likely the same reading sent twice: common practice, no source


class ReadingEntry(Sent):
    """A reading as typed. ``confirmed`` answers a question that was asked about it."""

    step: str = Field(max_length=40)
    quantity: ReadingQuantity
    value: float = Field(strict=True, allow_inf_nan=False, ge=-1e6, le=1e6)
    unit: str = Field(max_length=4)
    taken_at: Moment
    instrument: str = Field(max_length=64)
    check: str = Field(default="", max_length=80)
    confirmed: bool = False
    corrects: str | None = Field(default=None, max_length=64)
    note: str = Field(default="", max_length=500)
    taken_by: str = Field(default="", max_length=64)  # who held the probe, by id; nothing: whoever sends it


def check_taker(actor: Actor, entry: ReadingEntry) -> None:
    """Refuse a reading that another person took: what waits on a tablet is sent under them alone. RefusedError."""
    if entry.taken_by and entry.taken_by != actor.id:
        raise RefusedError(say("services.readings.another_person_took_it"), reason="taker")


def reading_of(batch: Batch, instrument: InstrumentInfo, entry: ReadingEntry, now: datetime) -> ReadingLogged:
    """The reading as it is kept. Raises what asks about it, or refuses it: DomainError."""
    _check_unit(entry)
    value = to_inside(entry.value, entry.unit) if entry.unit in ("°C", "°F") else entry.value
    check_time(entry.taken_at, now, batch.started.at)
    check_within(batch, entry.step, entry.taken_at)
    check_id = entry.check or _check_of(batch, entry.corrects)
    if not entry.confirmed:
        ask_if_untimely(batch, entry.step, check_id, entry.taken_at, now)
    check_value(entry.quantity, value, _expect(batch, entry.step, entry.quantity), entry.confirmed)
    if entry.quantity == "core":
        check_core(batch, entry.step, value, entry.taken_at, entry.corrects, entry.confirmed)
    _check_instrument(instrument, entry, now)
    _check_doubles(batch, entry, value)
    return ReadingLogged(
        reading=keeping.new_id(),
        step=entry.step,
        check=check_id,
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


def _check_of(batch: Batch, corrected: str | None) -> str:
    """The check that a corrected reading was logged for: what replaces it stands for the same one."""
    return next((r.logged.check for r in batch.readings if r.logged.reading == corrected), "")


def keep_reading(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ReadingEntry) -> Batch:
    """Log a reading, or correct one: the batch after it. Not judged."""
    check_taker(actor, entry)
    batch = keeping.load_open(store, batch_id)
    event = reading_of(batch, instrument_of(store, entry), entry, now)
    written = keeping.write(store, batch_id, event, actor.author, now)
    return keeping.after(batch, written)


def log_reading(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ReadingEntry) -> BatchId:
    """Log a reading, or correct one, and judge it in the same transaction."""
    batch = keep_reading(store, actor, now, batch_id, entry)
    keeping.watch(store, batch_id, now, batch)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _expect(batch: Batch, step_id: str, quantity: ReadingQuantity) -> tuple[float, float] | None:
    control = asked_steps(batch).get(step_id)
    found = [m for m in control.monitoring if m.quantity == quantity] if control else []
    return (min(m.expected_low_c for m in found), max(m.expected_high_c for m in found)) if found else None


def _check_unit(entry: ReadingEntry) -> None:
    unit = QUANTITIES[entry.quantity].unit
    allowed = ("°C", "°F") if unit == "°C" else (unit,)
    if entry.unit not in allowed:
        raise RefusedError(
            say(
                "services.running.a_reading_is_in_not_in",
                quantity=QUANTITIES[entry.quantity].noun,
                allowed=joined(allowed, "words.or"),
                value=entry.unit or say("services.running.no_unit"),
            ),
            reason="unit",
        )


def instrument_of(store: Store, entry: ReadingEntry) -> InstrumentInfo:
    """What read it; eyes where nothing has to."""
    return eyes(entry) or store.instruments.by_id(entry.instrument)


def eyes(entry: ReadingEntry) -> InstrumentInfo | None:
    """Eyes, where nothing has to read it."""
    if QUANTITIES[entry.quantity].kit:
        return None
    by_eye = say("services.running.by_eye")
    return InstrumentInfo(BY_EYE, by_eye, BY_EYE, (entry.quantity,), 0.0, entry.taken_at, entry.taken_at)


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
    if entry.confirmed:
        return
    least = 0.5 * 10 ** -QUANTITIES[entry.quantity].decimals
    for reading in batch.readings:
        logged = reading.logged
        if (
            (logged.step, logged.quantity, logged.instrument) == (entry.step, entry.quantity, entry.instrument)
            and abs((logged.taken_at - entry.taken_at).total_seconds()) < TWICE_WITHIN_S
            and abs(logged.value - value) < least
            and reading.corrected_by is None
            and logged.reading != entry.corrects
        ):
            raise AskFirstError(
                say("services.running.the_same_reading_was_logged_less"), reason="twice", value=entry.value
            )
