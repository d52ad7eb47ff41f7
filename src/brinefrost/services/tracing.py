"""Laying logger files to steps."""

from datetime import datetime
from zoneinfo import ZoneInfo

import numpy as np
from pydantic import Field

from brinefrost.core.errors import AskFirstError, NotAllowedError, NotFoundError, RefusedError, UnreadableFileError
from brinefrost.core.quantities import QUANTITIES, ChannelQuantity
from brinefrost.core.readings import CLOCK_TOLERANCE
from brinefrost.core.runs.batch import Batch, check_open
from brinefrost.core.runs.deciding import check_reason
from brinefrost.core.runs.events import TraceAttached, TraceWithdrawn
from brinefrost.core.runs.file_doubts import doubts_of
from brinefrost.core.steps import kind_of
from brinefrost.core.traces import Assumption, Trace, TraceOptions, read_trace
from brinefrost.core.traces.stamps import utc
from brinefrost.core.words import STORED, amount, joined, moment, num, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.starting import BatchId
from brinefrost.store import Store
from brinefrost.store.shelves import InstrumentInfo, TraceFile

MOST_SAMPLES = 200_000  # of all channels, thinned
DAY_S = 86400.0


class TraceEntry(Sent):
    """Which step a file belongs to, what was corrected in reading it, and which logger wrote it."""

    step: str = Field(max_length=40)
    instrument: str = Field(max_length=64)
    options: TraceOptions = TraceOptions()
    reason: str = Field(default="", max_length=1000)  # why its clock is moved
    confirmed: bool = False


def preview(store: Store, content: bytes, options: TraceOptions) -> Trace:
    """How a file would be read, without keeping it."""
    trace = read_trace(content, options, store.site.read().zone)
    _bound(trace)
    return trace


def attach_trace(
    store: Store, actor: Actor, now: datetime, batch_id: str, filename: str, content: bytes, entry: TraceEntry
) -> BatchId:
    """Read a file, check that it belongs to the step, and keep it with its samples."""
    trace = preview(store, content, entry.options)  # before the chain is held: a large file keeps nobody waiting
    other = _other_order(store, content, entry.options, trace)
    store.ledger.lock()
    batch = keeping.load(store, batch_id)
    check_open(batch)
    if other is not None and not _meets_step(batch, entry.step, trace) and _meets_step(batch, entry.step, other):
        trace = other
    instrument = store.instruments.by_id(entry.instrument)
    _check_channel(batch, entry.step, trace)
    _check_reads(batch, entry.step, instrument)
    zone = ZoneInfo(store.site.read().zone)
    _check_times(batch, entry.step, trace, now, zone)
    _check_moved(actor, entry)
    file = store.traces.add(keeping.new_id(), filename[:200], content, trace.model_dump_json(context=STORED), now)
    if any(known.attached.sha256 == file.sha256 for known in batch.standing_traces(entry.step)):
        raise RefusedError(say("services.tracing.this_file_is_on_this_step"))
    asked = [
        *doubts_of(batch, entry.step, trace, zone),
        *_differs(batch, trace, zone),
        *_elsewhere(store, batch_id, file.sha256),
    ]
    if entry.options.shift_s and (against := _differs(batch, trace, zone)):
        raise RefusedError(say("services.tracing.a_file_whose_clock_was_moved", asked=against[0]), reason="moved")
    asked += _overdue(instrument, trace)
    if asked and not entry.confirmed:
        raise AskFirstError(
            say("services.tracing.attach_it_all_the_same", asked=asked[0]), reason="differs", questions=asked
        )
    event = _attach(entry, instrument, file, trace, asked)
    keeping.write(store, batch_id, event, actor.author, now)
    keeping.watch(store, batch_id, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def withdraw_trace(store: Store, actor: Actor, now: datetime, batch_id: str, trace: str, reason: str) -> BatchId:
    """Take back a file that was attached in error: it counts no more; file, record and reason stay."""
    batch = keeping.load_open(store, batch_id)
    found = next((each for each in batch.standing_traces() if each.attached.trace == trace), None)
    if found is None:
        raise NotFoundError(say("services.tracing.no_such_file"), trace=trace)
    check_reason(reason, say("services.tracing.withdrawing_a_file"))
    event = TraceWithdrawn(trace=trace, step=found.attached.step, reason=reason, at=now)
    written = keeping.write(store, batch_id, event, actor.author, now)
    keeping.watch(store, batch_id, now, keeping.after(batch, written))
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _other_order(store: Store, content: bytes, options: TraceOptions, trace: Trace) -> Trace | None:
    """The file with day and month the other way round, where it leaves open which comes first."""
    open_ = any(each.about == "dates" and not each.certain for each in trace.assumptions)
    if not open_ or options.date_order is not None:
        return None
    other = preview(store, content, options.model_copy(update={"date_order": "month_first"}))
    why = Assumption(about="dates", sentence=say("services.tracing.dates_read_month_first"), certain=False)
    kept = tuple(each for each in other.assumptions if each.about != "dates")
    return other.model_copy(update={"assumptions": (*kept, why)})


def _meets_step(batch: Batch, step_id: str, trace: Trace) -> bool:
    """Whether any of it was written while the step ran, or would have run since it began."""
    span = batch.span(step_id)
    if span.started is None:
        return False
    ended = span.finished.timestamp() if span.finished else span.started.timestamp() + DAY_S
    return trace.last_s >= span.started.timestamp() and trace.first_s <= ended


def _attach(
    entry: TraceEntry, instrument: InstrumentInfo, file: TraceFile, trace: Trace, asked: list[str]
) -> TraceAttached:
    return TraceAttached(
        trace=file.id,
        step=entry.step,
        filename=file.filename,
        sha256=file.sha256,
        parsed_sha256=file.parsed_sha256,
        channels=tuple(
            say("services.tracing.name_quantity", name=channel.name, quantity=_noun(channel.quantity))
            for channel in trace.channels
        ),
        shift_s=entry.options.shift_s,
        shift_reason=entry.reason if entry.options.shift_s else "",
        asked=joined(asked, " ")[:1000],
        assumptions=tuple(assumption.sentence for assumption in trace.assumptions),
        notes=trace.notes,
        instrument=instrument.id,
        instrument_name=instrument.name,
        uncertainty=instrument.uncertainty,
        first_at=utc(trace.first_s),
        last_at=utc(trace.last_s),
    )


def _check_moved(actor: Actor, entry: TraceEntry) -> None:
    """A logger's clock is moved by the lead, with the reason: raises NotAllowedError, RefusedError."""
    if not entry.options.shift_s:
        return
    if actor.role != "lead":
        raise NotAllowedError(say("services.tracing.only_the_lead_may_move_a"))
    check_reason(entry.reason, say("services.tracing.a_file_whose_clock_is_moved"))


def _differs(batch: Batch, trace: Trace, zone: ZoneInfo) -> list[str]:
    """Where hand readings of the same time say something else than the file."""
    found: list[str] = []
    for reading in batch.standing_readings():
        logged = reading.logged
        at = logged.taken_at.timestamp()
        for channel in trace.channels:
            if channel.quantity != logged.quantity or not channel.times_s[0] <= at <= channel.times_s[-1]:
                continue
            said = float(np.interp(at, channel.times_s, channel.values))
            info = QUANTITIES[logged.quantity]
            if abs(said - logged.value) > info.most_apart:
                found.append(
                    say(
                        "services.tracing.at_utc_the_file_says_and",
                        taken_at=moment(logged.taken_at.astimezone(zone), "%H:%M"),
                        said=amount(said, info.unit, f".{info.decimals}f"),
                        quantity=info.noun,
                        by=reading.by,
                        value=amount(logged.value, info.unit, f".{info.decimals}f"),
                    )
                )
    return found


def _elsewhere(store: Store, batch_id: str, sha256: str) -> list[str]:
    """Other batches that carry the same file."""
    subject = keeping.subject_of(batch_id)
    others = [
        record.subject
        for record in store.ledger.of_kind("trace_attached")
        if record.body.get("sha256") == sha256 and record.subject != subject
    ]
    return [say("services.tracing.this_file_is_on_another_batch")] if others else []


def _bound(trace: Trace) -> None:
    samples = sum(len(channel.values) for channel in trace.channels)
    if samples > MOST_SAMPLES:
        raise UnreadableFileError(
            say(
                "services.tracing.the_file_has_readings_the_most",
                samples=num(samples, ","),
                most_samples=num(MOST_SAMPLES, ","),
            )
        )


def _check_channel(batch: Batch, step_id: str, trace: Trace) -> None:
    step = batch.plan.step(step_id)
    needed = kind_of(step).logged
    if needed is None:
        raise RefusedError(say("services.tracing.takes_no_logger_file", name=step.name))
    if not any(channel.quantity == needed for channel in trace.channels):
        found = joined(
            (say("services.tracing.name_noun", name=c.name, noun=_noun(c.quantity)) for c in trace.channels), ", "
        )
        raise UnreadableFileError(
            say(
                "services.tracing.needs_and_the_file_has_say", name=step.name, noun=QUANTITIES[needed].noun, found=found
            ),
            reason="channel",
            needed=needed,
        )


def _check_reads(batch: Batch, step_id: str, instrument: InstrumentInfo) -> None:
    """A file bears the doubt of what made it: raises RefusedError where that instrument reads something else."""
    needed = kind_of(batch.plan.step(step_id)).logged
    if needed not in instrument.quantities:
        raise RefusedError(
            say("services.running.does_not_read_that_choose_another", name=instrument.name), instrument=instrument.id
        )


def _overdue(instrument: InstrumentInfo, trace: Trace) -> list[str]:
    """A question where it should have been checked before it wrote the file."""
    if instrument.due_at >= utc(trace.last_s):
        return []
    due = moment(instrument.due_at, "%d %b")
    return [say("services.tracing.was_due_for_calibration", name=instrument.name, due_at=due)]


def _noun(quantity: ChannelQuantity) -> str:
    return say("services.tracing.not_said") if quantity == "unknown" else QUANTITIES[quantity].noun


def _check_times(batch: Batch, step_id: str, trace: Trace, now: datetime, zone: ZoneInfo) -> None:
    span = batch.span(step_id)
    if span.started is None:
        raise RefusedError(say("services.tracing.has_not_begun_so_no_trace", name=batch.plan.step(step_id).name))
    first, last = utc(trace.first_s).astimezone(zone), utc(trace.last_s).astimezone(zone)
    shift = (span.started - first).total_seconds()
    fits = last.timestamp() + shift <= now.timestamp() + CLOCK_TOLERANCE.total_seconds()
    suggestion = shift if fits and abs(shift) > 1 else None
    if last > now + CLOCK_TOLERANCE:
        raise AskFirstError(
            say("services.tracing.the_file_ends_which_has_not", last=moment(last, "%d %b %H:%M")),
            reason="clock",
            suggestion_shift_s=suggestion,
        )
    if last < span.started or first > (span.finished or now):
        raise AskFirstError(
            say(
                "services.tracing.the_file_runs_to_the_step",
                first=moment(first, "%d %b %H:%M"),
                last=moment(last, "%d %b %H:%M"),
                astimezone=moment(span.started.astimezone(zone), "%d %b %H:%M"),
            ),
            reason="clock",
            suggestion_shift_s=suggestion,
        )
