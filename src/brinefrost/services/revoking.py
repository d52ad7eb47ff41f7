"""A validation that holds no more: said on the plan, and in every open batch that went by it."""

from datetime import datetime

from brinefrost.core.plans.validated import Validation
from brinefrost.core.runs.events import ValidationEnded
from brinefrost.core.words import STORED
from brinefrost.store import Store
from brinefrost.store.chain import Author
from brinefrost.store.ledger import Record

MADE, ENDED = "process_validated", "validation_revoked"


def standing(store: Store, plan_subject: str) -> dict[str, Record]:
    """By step: the record of the latest validation of a plan that nobody revoked since."""
    found: dict[str, Record] = {}
    for record in store.ledger.of_subject(plan_subject):
        if record.kind == MADE:
            found[str(record.body["step"])] = record
        elif record.kind == ENDED:
            found.pop(str(record.body["step"]), None)
    return found


def validation_of(record: Record) -> Validation:
    """A validation as it was signed, from its record. Raises ValueError where it does not read as one."""
    body = record.body
    return Validation(
        step=body["step"],
        record=record.seq,
        batches=tuple(str(run["code"]) for run in body["runs"]),
        bounds=body["bounds"],
        by=record.actor_name,
        at=record.recorded_at,
    )


def revoke(store: Store, plan_subject: str, record: Record, sentence: str, author: Author, now: datetime) -> None:
    """End a validation: a record on its plan, and one in each open batch that goes by it.

    ``record`` is the validation's own. The core is asked there again from now on.
    """
    step = str(record.body["step"])
    body = {"step": step, "validation": record.seq, "sentence": _store_words(sentence)}
    store.ledger.append(ENDED, plan_subject, body, author, now)
    event = ValidationEnded(step=step, sentence=sentence, at=now).model_dump(mode="json", context=STORED)
    still_open = set(store.ledger.subjects("batch_started", without="batch_countersigned"))
    plan_id = plan_subject.partition(":")[2]
    for started in store.ledger.naming("batch_started", plan_id):
        went_by = any(each.get("record") == record.seq for each in started.body.get("validated", ()))
        if went_by and started.subject in still_open:
            store.ledger.append("validation_ended", started.subject, event, author, now)


def revoke_resting_on(
    store: Store, plan_subject: str, batch_id: str, sentence: str, author: Author, now: datetime
) -> None:
    """End every validation of a plan that a batch is evidence of: it was recalled, or read with what was off."""
    for record in standing(store, plan_subject).values():
        if any(run["batch"] == batch_id for run in record.body["runs"]):
            revoke(store, plan_subject, record, sentence, author, now)


def _store_words(sentence: str) -> object:
    stored = getattr(sentence, "stored", None)
    return stored() if stored is not None else sentence
