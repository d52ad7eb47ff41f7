"""The library of plans: what stands on the list, and since when."""

from datetime import datetime
from typing import Any

from brinefrost.core.plans.days import is_store, kept_in_all
from brinefrost.core.plans.document import Plan, is_as_stored
from brinefrost.core.plans.lines import ways_of
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.words import Words
from brinefrost.core.working import Sent
from brinefrost.services.planning import DAMAGED, PREFIX, Version, version_of
from brinefrost.store import Store
from brinefrost.store.shelves import Draft

LATEST = 400  # batches that are looked through for the last of each plan
Stored = tuple[Version, dict[str, Any]]  # a version, and its document as it was stored


class LastBatch(Sent):
    """The batch of a plan that was started last."""

    code: str
    started_at: datetime


class PlanSummary(Sent):
    """A plan in the library."""

    plan_id: str
    name: Words
    rule_set: str
    revision: int
    updated_by: str
    updated_at: datetime
    version: Version | None
    changed_since_signed: bool
    gaps: int
    decides: tuple[Words, ...] = ()  # its critical steps
    days: float = 0.0  # kept in all once it is ready [d]
    last_batch: LastBatch | None = None  # among the latest of the kitchen
    damaged: Words = ""  # its record was altered: what is wrong, in a sentence


def list_plans(store: Store) -> list[PlanSummary]:
    """The library, the last touched first."""
    signed, last = _signed_by_plan(store), _last_batches(store)
    return [_summary(draft, signed.get(draft.plan_id, []), last.get(draft.plan_id)) for draft in store.drafts.all()]


def _last_batches(store: Store) -> dict[str, LastBatch]:
    """By plan: the batch that was started last."""
    found: dict[str, LastBatch] = {}
    for record in store.ledger.of_kind("batch_started", newest=LATEST):
        try:  # when it began, which may be long before it was recorded
            batch = LastBatch.model_validate({"code": record.body["code"], "started_at": record.body["at"]})
            found.setdefault(str(record.body["plan_id"]), batch)
        except (LookupError, ValueError):  # a damaged record takes nothing else down
            continue
    return found


def _signed_by_plan(store: Store) -> dict[str, list[Stored | None]]:
    """Every signed version by its plan; None for one whose record cannot be read, which damages that plan alone."""
    found: dict[str, list[Stored | None]] = {}
    for record in store.ledger.of_kind("plan_signed"):
        try:
            version: Stored | None = (version_of(record), dict(record.body["document"]))
        except (LookupError, TypeError, ValueError):
            version = None
        found.setdefault(record.subject.removeprefix(PREFIX), []).append(version)
    return found


def _summary(draft: Draft, signed: list[Stored | None], last: LastBatch | None) -> PlanSummary:
    versions = [each for each in signed if each is not None]
    try:
        plan = Plan.model_validate_json(draft.document)
    except ValueError:
        return _damaged_summary(draft)
    return PlanSummary(
        plan_id=draft.plan_id,
        name=plan.name,
        rule_set=plan.rule_set,
        revision=draft.revision,
        updated_by=draft.updated_by,
        updated_at=draft.updated_at,
        version=versions[-1][0] if versions else None,
        changed_since_signed=not versions or not is_as_stored(plan, versions[-1][1]),
        gaps=len(gaps_of(plan)),
        decides=tuple(dict.fromkeys(plan.step(each).name for each in plan.critical_steps())),
        days=_kept_days(plan),
        last_batch=last,
        damaged=DAMAGED if None in signed else "",
    )


def _kept_days(plan: Plan) -> float:
    """How long it is kept in all once it is ready [d]; of several ways the longest."""
    return max((kept_in_all(way, step) for way in ways_of(plan) for step in way.steps if is_store(step)), default=0.0)


def _damaged_summary(draft: Draft) -> PlanSummary:
    return PlanSummary(
        plan_id=draft.plan_id,
        name=draft.plan_id,
        rule_set="us",
        revision=draft.revision,
        updated_by=draft.updated_by,
        updated_at=draft.updated_at,
        version=None,
        changed_since_signed=True,
        gaps=0,
        damaged=DAMAGED,
    )
