"""What the steps that records speak of are called: a record keeps a step's id, a person reads its name."""

from collections.abc import Iterable
from typing import Any

from brinefrost.core.errors import DomainError
from brinefrost.core.words import restored, said
from brinefrost.services import keeping
from brinefrost.services.planning import signed_plan
from brinefrost.store import Store
from brinefrost.store.ledger import Record

Names = dict[tuple[str, str], str]  # by the subject of the record and the step's id


def names_of_steps(store: Store, records: Iterable[Record]) -> Names:
    """The names of the steps of every batch among these records; a batch whose plan is damaged has none."""
    wanted = {record.subject for record in records if record.subject.startswith(keeping.PREFIX)}
    begun = {r.subject: r.body for r in store.ledger.of_kind("batch_started", subjects=wanted)}
    of_plan: dict[tuple[Any, Any], dict[str, str]] = {}
    for body in begun.values():
        version = (body.get("plan_id"), body.get("plan_version"))
        if version not in of_plan:
            of_plan[version] = _read_names(store, *version)
    return {
        (subject, step): name
        for subject, body in begun.items()
        for step, name in of_plan[body.get("plan_id"), body.get("plan_version")].items()
    }


def _read_names(store: Store, plan_id: Any, version: Any) -> dict[str, str]:
    try:
        plan = signed_plan(store, plan_id, version).document
    except DomainError:
        return {}
    return {step.id: said(restored(step.name)) for step in plan.steps}
