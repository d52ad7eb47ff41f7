"""A reading accepted first and judged then: it is durable before anything is made of it.

Where this process knows the batch as the chain has it, one call keeps the reading, and it is judged after; else one
transaction keeps and judges it. Then who follows is told, and only then is it answered: whoever got no answer sends
the same again, and has it judged by that.
"""

from datetime import datetime

from brinefrost.core.errors import DomainError
from brinefrost.core.runs.batch import check_open, followed
from brinefrost.core.runs.deviations import next_event
from brinefrost.core.words import STORED
from brinefrost.services import keeping
from brinefrost.services.folding import FOLDED, Kept, summed
from brinefrost.services.office import Actor, Office, fingerprint_of
from brinefrost.services.readings import ReadingEntry, check_taker, eyes, instrument_of, keep_reading, reading_of
from brinefrost.services.starting import BatchId
from brinefrost.store import Store
from brinefrost.store.chain import canonical
from brinefrost.store.near import Known
from brinefrost.store.shelves import Reply


def log(office: Office, actor: Actor, key: str, now: datetime, batch_id: str, entry: ReadingEntry) -> BatchId:
    """Log a reading, or correct one, once under its key; judge the batch; say which it was."""
    reply = accept(office, actor, key, now, batch_id, entry)
    settle(office, batch_id, now)
    return reply


def accept(office: Office, actor: Actor, key: str, now: datetime, batch_id: str, entry: ReadingEntry) -> BatchId:
    """Keep a reading, chain_record and durable; not judged."""
    check_taker(actor, entry)
    asked = {"log": batch_id, **entry.model_dump(mode="json", exclude={"taken_by"})}
    reply = _in_one_call(office, actor, key, now, batch_id, entry, fingerprint_of(asked))
    if reply is not None:
        return reply
    known = office.database.near.here()
    kept = office.write(actor, key, asked, lambda store: _kept(store, known, actor, now, batch_id, entry))
    return BatchId.model_validate(kept)


def settle(office: Office, batch_id: str, now: datetime) -> None:
    """Judge a batch as it stands; what has to be opened is opened."""
    known = office.database.near.here()
    with known.turn():
        kept = _current(known, keeping.subject_of(batch_id))
    if kept is None or kept.batch.probes or next_event(kept.batch, now) is not None:
        with office.database.transaction() as store:
            store.ledger.lock()
            keeping.watch(store, batch_id, now, keeping.load(store, batch_id))
    office.database.tell(keeping.subject_of(batch_id))  # of the reading too, which told nobody when it was kept


def _in_one_call(
    office: Office, actor: Actor, key: str, now: datetime, batch_id: str, entry: ReadingEntry, fingerprint: str
) -> BatchId | None:
    """Where all it takes is known; None where nothing was kept."""
    known, subject = office.database.near.here(), keeping.subject_of(batch_id)
    with known.turn():
        kept = _current(known, subject)
        instrument = eyes(entry) or known.instruments.get(entry.instrument)
        if kept is None or kept.sum is None or instrument is None:
            return None
        try:
            check_open(kept.batch)
            event = reading_of(kept.batch, instrument, entry, now)
        except DomainError:
            return None  # asked and refused where the key is looked at first: it may have been sent before
        body = canonical(event.model_dump(mode="json", context=STORED))
        said = BatchId(batch_id=batch_id, code=kept.batch.started.code)
        reply = Reply(actor.id, fingerprint, said.model_dump_json())
        record = office.database.accept(known, event.kind, subject, body, actor.author, now, key, reply)
        if record is None:
            return None
        batch, sum_ = followed(kept.batch, [keeping.recorded(record, event)]), summed([body], kept.sum)
        FOLDED.put(subject, Kept(batch, kept.plan, record.seq, sum_.hexdigest(), sum_))
        return said


def _current(known: Known, subject: str) -> Kept | None:
    """The batch in memory, if it is as the chain has it."""
    kept = FOLDED.latest(subject)
    return kept if kept is not None and known.last.get(subject) == kept.seq else None


def _kept(store: Store, known: Known, actor: Actor, now: datetime, batch_id: str, entry: ReadingEntry) -> BatchId:
    """Where a transaction keeps it, judged: what the next one takes is known from then on."""
    batch = keep_reading(store, actor, now, batch_id, entry)
    keeping.watch(store, batch_id, now, batch)
    instrument = instrument_of(store, entry)
    if not eyes(entry):
        store.afterwards.append(lambda: known.instruments.update({instrument.id: instrument}))
    return BatchId(batch_id=batch_id, code=batch.started.code)
