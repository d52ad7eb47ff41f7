"""What a check of an instrument says of what it read before: ISO 22000:2018, 8.7 (from memory)."""

from datetime import datetime

from brinefrost.core.errors import DomainError, RefusedError
from brinefrost.core.runs.batch import Batch, followed
from brinefrost.core.runs.deciding import check_reason
from brinefrost.core.runs.events import DoubtAnswered, InstrumentDoubted
from brinefrost.core.runs.judging import judge
from brinefrost.core.words import Words, apart, moment, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping, revoking, standings
from brinefrost.services.office import SYSTEM, Actor
from brinefrost.services.starting import BatchId
from brinefrost.store import Store
from brinefrost.store.shelves import InstrumentInfo


class DoubtedBatch(Sent):
    """A batch read with an instrument that was found off, and whether any of its limits changes by that."""

    batch_id: str
    code: str
    name: Words
    changes: bool


def doubt_past(store: Store, now: datetime, info: InstrumentInfo, error: float, unit: str) -> tuple[DoubtedBatch, ...]:
    """The batches an instrument read since its last good check, each judged again with the error it was found with.

    A batch any of whose limits changes bears a record of it and wants a decision: an open one opens its deviations, a
    closed one stands in trouble until somebody answers for it or recalls it.
    """
    found = []
    for subject in sorted(_read_with(store, info)):
        batch_id = subject.removeprefix(keeping.PREFIX)
        try:
            batch = keeping.load(store, batch_id)
        except DomainError:
            continue
        sentence = say(
            "services.doubting.was_found_off",
            name=info.name,
            error=apart(error, unit, "~2"),
            since=moment(info.calibrated_at, "%d %b %Y"),
        )
        event = InstrumentDoubted(
            instrument=info.id,
            instrument_name=info.name,
            error=error,
            since=info.calibrated_at,
            sentence=sentence,
            at=now,
        )
        changes = _changes(batch, event, now)
        if changes and not batch.is_to_be_discarded:
            record = keeping.write(store, batch_id, event, SYSTEM, now)
            plan = standings.subject_of(batch.started.plan_id)
            revoking.revoke_resting_on(store, plan, batch_id, sentence, SYSTEM, now)
            if batch.closed is None:
                keeping.watch(store, batch_id, now, keeping.after(batch, record))
        row = DoubtedBatch(batch_id=batch_id, code=batch.started.code, name=batch.plan.name, changes=changes)
        found.append(row)
    return tuple(found)


def answer_doubt(store: Store, actor: Actor, now: datetime, batch_id: str, reason: str) -> BatchId:
    """Decide that a closed batch stands although what read it was found off."""
    store.ledger.lock()
    batch = keeping.load(store, batch_id)
    if not batch.is_in_doubt:
        raise RefusedError(say("services.doubting.nothing_is_in_doubt"))
    check_reason(reason, say("services.doubting.letting_it_stand"))
    keeping.write(store, batch_id, DoubtAnswered(reason=reason, at=now), actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _read_with(store: Store, info: InstrumentInfo) -> set[str]:
    """The batches with a reading or a logger file of an instrument since its last check, or bound to it as a probe."""
    found = set()
    for kind, when in (("reading_logged", "taken_at"), ("trace_attached", "last_at")):
        for record in store.ledger.naming(kind, info.id):
            taken = datetime.fromisoformat(str(record.body.get(when)))
            if record.body.get("instrument") == info.id and taken >= info.calibrated_at:
                found.add(record.subject)
    for record in store.ledger.naming("probe_bound", info.id):  # it may have measured long after it was bound
        if record.body.get("instrument") == info.id:
            found.add(record.subject)
    return found


def _changes(batch: Batch, event: InstrumentDoubted, now: datetime) -> bool:
    """Whether a limit that is met is not, judged with the error."""
    at = batch.closed.at if batch.closed else now
    recorded = keeping.as_recorded(event, now)
    doubted = followed(batch, [recorded])
    before = {(s.step, s.limit.id): s.verdict.state for s in judge(batch, at).statuses}
    after = {(s.step, s.limit.id): s.verdict.state for s in judge(doubted, at).statuses}
    return any(state == "pass" and after.get(key) != "pass" for key, state in before.items())
