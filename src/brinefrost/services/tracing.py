"""Laying logger files to steps."""

from datetime import datetime
from zoneinfo import ZoneInfo

from pydantic import Field

from brinefrost.core.errors import AskFirstError, RefusedError, UnreadableFileError
from brinefrost.core.readings import CLOCK_TOLERANCE
from brinefrost.core.runs.batch import Batch, check_open
from brinefrost.core.runs.events import TraceAttached
from brinefrost.core.traces import Trace, TraceOptions, read_trace
from brinefrost.core.traces.stamps import utc
from brinefrost.core.working import Document
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.running import BatchId
from brinefrost.store import Store

NEEDED = {"bath_cook": "core", "slurry_chill": "core", "cold_keep": "air", "reheat": "core"}
WORDS = {"core": "core temperature", "air": "air temperature", "bath": "bath", "ph": "pH", "salt": "salt"}
MOST_SAMPLES = 50_000


class TraceEntry(Document):
    """Which step a file belongs to, what was corrected in reading it, and which logger wrote it."""

    step: str = Field(max_length=40)
    instrument: str = Field(max_length=64)
    options: TraceOptions = TraceOptions()


def preview(store: Store, content: bytes, options: TraceOptions) -> Trace:
    """How a file would be read, without keeping it."""
    trace = read_trace(content, options, store.site.read().zone)
    _bounded(trace)
    return trace


def attach_trace(
    store: Store, actor: Actor, now: datetime, batch_id: str, filename: str, content: bytes, entry: TraceEntry
) -> BatchId:
    """Read a file, check that it belongs to the step, and keep it with its samples."""
    store.ledger.lock()
    batch = keeping.load(store, batch_id)
    check_open(batch)
    instrument = store.instruments.by_id(entry.instrument)
    trace = preview(store, content, entry.options)
    _check_channel(batch, entry.step, trace)
    _check_times(batch, entry.step, trace, now, ZoneInfo(store.site.read().zone))
    file = store.traces.add(keeping.new_id(), filename[:200], content, trace.model_dump_json(), now)
    if any(kept.attached.sha256 == file.sha256 and kept.attached.step == entry.step for kept in batch.traces):
        raise RefusedError("This file is on this step already.")
    event = TraceAttached(
        trace=file.id,
        step=entry.step,
        filename=file.filename,
        sha256=file.sha256,
        parsed_sha256=file.parsed_sha256,
        channels=tuple(f"{channel.name}: {channel.quantity}" for channel in trace.channels),
        shift_s=entry.options.shift_s,
        assumptions=tuple(assumption.sentence for assumption in trace.assumptions),
        notes=trace.notes,
        instrument=instrument.id,
        instrument_name=instrument.name,
        uncertainty=instrument.uncertainty,
        first_at=utc(trace.first_s),
        last_at=utc(trace.last_s),
    )
    keeping.write(store, batch_id, event, actor.author, now)
    keeping.watch(store, batch_id, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _bounded(trace: Trace) -> None:
    samples = sum(len(channel.values) for channel in trace.channels)
    if samples > MOST_SAMPLES:
        raise UnreadableFileError(
            f"The file has {samples:,} readings; the most is {MOST_SAMPLES:,}. Export a shorter span."
        )


def _check_channel(batch: Batch, step_id: str, trace: Trace) -> None:
    step = batch.plan.step(step_id)
    needed = NEEDED.get(step.kind)
    if needed is None:
        raise RefusedError(f"{step.name} takes no logger file.")
    if not any(channel.quantity == needed for channel in trace.channels):
        found = ", ".join(f"{c.name} ({WORDS.get(c.quantity, 'not said')})" for c in trace.channels)
        raise UnreadableFileError(
            f"{step.name} needs {WORDS[needed]}, and the file has {found}. "
            "Say which channel it is, or choose another file.",
            reason="channel",
            needed=needed,
        )


def _check_times(batch: Batch, step_id: str, trace: Trace, now: datetime, zone: ZoneInfo) -> None:
    span = batch.span(step_id)
    if span.started is None:
        raise RefusedError(f"{batch.plan.step(step_id).name} has not begun, so no trace can belong to it.")
    first, last = utc(trace.first_s).astimezone(zone), utc(trace.last_s).astimezone(zone)
    shift = (span.started - first).total_seconds()
    fits = last.timestamp() + shift <= now.timestamp() + CLOCK_TOLERANCE.total_seconds()
    suggestion = shift if fits and abs(shift) > 1 else None
    if last > now + CLOCK_TOLERANCE:
        raise AskFirstError(
            f"The file ends {last:%d %b %H:%M}, which has not come yet. Is the logger's clock wrong?",
            reason="clock",
            suggestion_shift_s=suggestion,
        )
    if last < span.started or first > (span.finished or now):
        raise AskFirstError(
            f"The file runs {first:%d %b %H:%M} to {last:%d %b %H:%M}; "
            f"the step began {span.started.astimezone(zone):%d %b %H:%M}. Is the logger's clock wrong?",
            reason="clock",
            suggestion_shift_s=suggestion,
        )
