"""Plans put away and brought back: archived once signed, deleted while only drafts. Nothing of either is lost."""

from datetime import datetime

from brinefrost.core.errors import RefusedError
from brinefrost.core.words import say
from brinefrost.services.office import Actor
from brinefrost.services.planning import read_plan
from brinefrost.services.standings import check_current, find_standing, subject_of
from brinefrost.store import Store


def archive_plan(store: Store, actor: Actor, now: datetime, plan_id: str, reason: str) -> None:
    """Take a signed plan off the list: no batch begins by it, those that run go on, its versions stay readable."""
    if not read_plan(store, plan_id).versions:
        raise RefusedError(say("services.archiving.never_signed"), plan=plan_id)
    _move(store, actor, now, plan_id, "plan_archived", reason)


def delete_draft(store: Store, actor: Actor, now: datetime, plan_id: str) -> None:
    """Take a draft off the list; refused once it was signed."""
    if read_plan(store, plan_id).versions:
        raise RefusedError(say("services.archiving.was_signed"), plan=plan_id)
    _move(store, actor, now, plan_id, "draft_deleted", "")


def return_plan(store: Store, actor: Actor, now: datetime, plan_id: str) -> None:
    """Bring back what was put away; a plan that stands on the list stays as it is."""
    store.drafts.read(plan_id)  # raises where there is none
    if find_standing(store, plan_id) != "current":
        store.ledger.append("plan_returned", subject_of(plan_id), {}, actor.author, now)


def _move(store: Store, actor: Actor, now: datetime, plan_id: str, kind: str, reason: str) -> None:
    store.ledger.lock()
    check_current(store, plan_id)
    said = {"reason": reason.strip()} if reason.strip() else {}
    store.ledger.append(kind, subject_of(plan_id), said, actor.author, now)
