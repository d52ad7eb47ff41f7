"""Where a plan stands: on the list, archived, or deleted while it was a draft."""

from typing import Literal

from brinefrost.core.errors import RefusedError
from brinefrost.core.words import say
from brinefrost.store import Store

PREFIX = "plan:"
Standing = Literal["current", "archived", "deleted"]
KINDS: dict[str, Standing] = {"plan_archived": "archived", "draft_deleted": "deleted", "plan_returned": "current"}


def subject_of(plan_id: str) -> str:
    """How the ledger names a plan."""
    return f"{PREFIX}{plan_id}"


def find_standings(store: Store) -> dict[str, Standing]:
    """By plan: where it stands; those not named were never put away."""
    records = sorted((r for kind in KINDS for r in store.ledger.of_kind(kind)), key=lambda record: record.seq)
    return {record.subject.removeprefix(PREFIX): KINDS[record.kind] for record in records}


def check_current(store: Store, plan_id: str) -> None:
    """Raises RefusedError for a plan that was put away: it is neither written, signed nor begun."""
    standing = find_standing(store, plan_id)
    if standing != "current":
        raise RefusedError(say(f"services.archiving.is_{standing}"), plan=plan_id)


def find_standing(store: Store, plan_id: str) -> Standing:
    """Where one plan stands."""
    kinds = [r.kind for r in store.ledger.of_subject(subject_of(plan_id)) if r.kind in KINDS]
    return KINDS[kinds[-1]] if kinds else "current"
