"""Loading a batch from its records, and writing its next ones."""

import hashlib
import uuid
from datetime import datetime

from brinefrost.core.errors import DomainError, NotFoundError, RefusedError
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.validated import MARK
from brinefrost.core.runs.asked import limits_asked
from brinefrost.core.runs.batch import Batch, check_open, fold, followed
from brinefrost.core.runs.deviations import next_event
from brinefrost.core.runs.events import EVENTS, BatchEvent, DeviationOpened, Recorded
from brinefrost.core.traces import Trace
from brinefrost.core.words import STORED, say
from brinefrost.services import revoking, standings
from brinefrost.services.folding import FOLDED, Kept, summed
from brinefrost.services.measured import with_probes
from brinefrost.services.office import SYSTEM
from brinefrost.services.planning import signed_plan
from brinefrost.store import Store
from brinefrost.store.chain import Author, Link, canonical
from brinefrost.store.ledger import Record

PREFIX = "batch:"
DAMAGED = say("services.views.its_record_is_damaged_check_the")


def subject_of(batch_id: str) -> str:
    """How the ledger names a batch."""
    return f"{PREFIX}{batch_id}"


def new_id() -> str:
    """A short id for a batch, reading or trace."""
    return uuid.uuid4().hex[:12]


def load(store: Store, batch_id: str) -> Batch:
    """A batch as it stands: from memory where its records and its plan's are the same, else folded.

    Raises RefusedError where its records do not read as a batch.
    """
    try:
        return with_probes(store, _as_it_stands(store, subject_of(batch_id)))
    except DomainError:
        raise
    except (LookupError, TypeError, ValueError) as error:
        raise RefusedError(DAMAGED) from error


def _as_it_stands(store: Store, subject: str) -> Batch:
    before = FOLDED.latest(subject)
    if before is None:
        end = store.summaries.end_of(subject)
        return _there(store, subject, *end)
    seq, digest, until = store.summaries.since(subject, before.seq, standings.subject_of(before.batch.started.plan_id))
    if seq and digest != before.digest and until == before.digest and before.plan == _plan_digest(store, before.batch):
        return _carried_on(store, subject, before, (seq, digest))
    return _there(store, subject, seq, digest)


def load_open(store: Store, batch_id: str) -> Batch:
    """A batch to write to: the chain is held, so it stays as it is until the transaction ends. Raises RefusedError
    where it is closed."""
    store.ledger.lock()
    batch = load(store, batch_id)
    check_open(batch)
    return batch


def _there(store: Store, subject: str, seq: int, digest: str) -> Batch:
    if not seq:
        raise NotFoundError(say("runs.batch.there_is_no_such_batch"))
    return fold_once(store, subject, (seq, digest))


def fold_once(store: Store, subject: str, end: tuple[int, str]) -> Batch:
    """A batch as of its last record, by that record's number and the digest of all of them; raises where it does not
    fold. What was folded before is carried on, if what it was folded from is still the same."""
    seq, digest = end  # what is written meanwhile by others is left for the next look
    known = FOLDED.get(subject, digest)
    before = known or FOLDED.latest(subject)
    same_plan = before is not None and before.plan == _plan_digest(store, before.batch)
    if known is not None and same_plan:
        return known.batch
    if before is not None and same_plan and store.summaries.end_of(subject, before.seq) == (before.seq, before.digest):
        return _carried_on(store, subject, before, end) if before.seq < seq else before.batch  # as it went on since
    records = store.ledger.of_subject(subject, until=seq)
    return _kept(store, subject, fold_records(store, records), end, summed(_bodies(records)))


def fold_all(store: Store, subjects: list[str]) -> dict[str, Batch | None]:
    """Several batches as they stand, what is not in memory read together; None where the records do not fold."""
    ends = store.summaries.ends(subjects)
    unknown = [subject for subject in subjects if FOLDED.latest(subject) is None]
    records, plans = store.ledger.of_subjects(unknown), dict[str, Plan]()
    found: dict[str, Batch | None] = {}
    for subject in subjects:
        seq, digest = ends[subject]
        mine = [record for record in records.get(subject, []) if record.seq <= seq]
        try:
            found[subject] = (
                _kept(store, subject, fold_records(store, mine, plans), (seq, digest), summed(_bodies(mine)))
                if mine
                else fold_once(store, subject, (seq, digest))
            )
        except (DomainError, LookupError, ValueError):
            found[subject] = None
    return {subject: with_probes(store, batch) if batch else None for subject, batch in found.items()}


def open_with_probes(store: Store) -> dict[str, set[str]]:
    """By subject: the instruments that were bound to a step of an open batch."""
    open_ = store.ledger.subjects("batch_started", without="batch_countersigned")
    found: dict[str, set[str]] = {}
    for record in store.ledger.of_kind("probe_bound", subjects=open_):
        found.setdefault(record.subject, set()).add(str(record.body["instrument"]))
    return found


def _kept(store: Store, subject: str, batch: Batch, end: tuple[int, str], sum_: "hashlib._Hash | None") -> Batch:
    seq, digest = end
    if batch.closed:
        FOLDED.drop(subject)  # it does not change any more, and is rarely asked for
    else:
        as_written = sum_ if sum_ is not None and sum_.hexdigest() == digest else None
        FOLDED.put(subject, Kept(batch, _plan_digest(store, batch), seq, digest, as_written))
    return batch


def _bodies(records: list[Record]) -> list[str]:
    return [canonical(record.body) for record in records]


def _plan_digest(store: Store, batch: Batch) -> str:
    return store.summaries.digest_once(standings.subject_of(batch.started.plan_id))


def _carried_on(store: Store, subject: str, before: Kept, end: tuple[int, str]) -> Batch:
    records = store.ledger.of_subject(subject, before.seq, end[0])
    events = [recorded(record) for record in records]
    batch = followed(before.batch, events, _samples(store, events))
    return _kept(store, subject, batch, end, before.sum and summed(_bodies(records), before.sum))


def fold_records(store: Store, records: list[Record], plans: dict[str, Plan] | None = None) -> Batch:
    """A batch from its records; ``plans`` are the signed versions that were read already."""
    if not records:
        raise NotFoundError(say("runs.batch.there_is_no_such_batch"))
    first, known = records[0].body, {} if plans is None else plans
    version = f"{first['plan_id']} {first['plan_version']}"
    if version not in known:
        known[version] = signed_plan(store, first["plan_id"], first["plan_version"]).document
    events = [recorded(record) for record in records]
    return fold(known[version], events, _samples(store, events))


def _samples(store: Store, events: list[Recorded]) -> dict[str, Trace]:
    """What the logger files among some events hold."""
    traces = [event.event.trace for event in events if event.event.kind == "trace_attached"]
    if not traces:
        return {}
    return {file.id: Trace.model_validate_json(file.parsed) for file in store.traces.read_many(traces)}


def recorded(record: Record | Link, event: BatchEvent | None = None) -> Recorded:
    """A record as a batch event; ``event`` is what its body says, where the caller has just written it."""
    return Recorded(
        seq=record.seq,
        actor_id=record.actor_id,
        actor_name=record.actor_name,
        actor_role=record.actor_role,
        recorded_at=record.recorded_at,
        event=event or EVENTS.validate_python(record.body),
    )


def as_recorded(event: BatchEvent, now: datetime) -> Recorded:
    """An event as it would stand on the record, to be tried before it is written."""
    return Recorded(
        seq=0, actor_id=SYSTEM.id, actor_name=SYSTEM.name, actor_role=SYSTEM.role, recorded_at=now, event=event
    )


def write(store: Store, batch_id: str, event: BatchEvent, author: Author, now: datetime) -> Record:
    """Add one event to a batch."""
    body = event.model_dump(mode="json", context=STORED)
    return store.ledger.append(event.kind, subject_of(batch_id), body, author, now)


def after(batch: Batch, *written: Record) -> Batch:
    """A batch after what this transaction wrote of it, no logger file among it; the caller holds the chain."""
    return followed(batch, [recorded(record) for record in written])


def measured_after(store: Store, batch: Batch, *written: Record) -> Batch:
    """As ``after``, its probes' samples laid to it anew."""
    return with_probes(store, after(batch, *written))


def watch(store: Store, batch_id: str, now: datetime, known: Batch | None = None) -> None:
    """Open what a batch wants opened as it stands, and close what later readings refute.

    ``known`` is the batch as it stands, where the caller has it.
    """
    batch = known or load(store, batch_id)
    while (event := next_event(batch, now)) is not None:
        batch = after(batch, write(store, batch_id, event, SYSTEM, now))
        batch = _end_validation(store, batch_id, batch, event, now)
    if known is not None:
        remember(store, batch_id, batch)


def _end_validation(store: Store, batch_id: str, batch: Batch, event: BatchEvent, now: datetime) -> Batch:
    """A core that was read at a validated step and broke its limit ends the validation, here and everywhere."""
    if not isinstance(event, DeviationOpened) or event.cause != "breach" or event.limit.startswith(MARK):
        return batch
    limit = next((each for each in limits_asked(batch, event.step) if each.id == event.limit), None)
    if event.step not in batch.validated or limit is None or limit.quantity != "core":
        return batch
    plan, subject = standings.subject_of(batch.started.plan_id), subject_of(batch_id)
    record = revoking.standing(store, plan).get(event.step)
    if record is None or record.seq != batch.validated[event.step].record:
        return batch
    said = say("services.validating.a_core_broke_its_limit", batch=batch.started.code, sentence=event.sentence)
    before = len(store.ledger.written)
    revoking.revoke(store, plan, record, said, SYSTEM, now)
    return after(batch, *(each for each in store.ledger.written[before:] if each.subject == subject))


def remember(store: Store, batch_id: str, batch: Batch) -> None:
    """Keep a batch as this transaction, which holds the chain and loaded it, leaves it; once all is durable."""
    subject = subject_of(batch_id)
    before = FOLDED.latest(subject)
    if before is None or before.sum is None:
        return
    mine = [each for each in store.ledger.written if each.subject == subject and each.seq > before.seq]
    if not mine:
        return
    sum_ = summed(_bodies(mine), before.sum)
    left = Kept(batch, before.plan, mine[-1].seq, sum_.hexdigest(), sum_)
    store.afterwards.append(lambda: FOLDED.put(subject, left))
