"""The library of plans: what stands on the list, and since when."""

from collections import Counter
from collections.abc import Iterable
from datetime import datetime, timedelta
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

from brinefrost.core.plans.asking import asked_since
from brinefrost.core.plans.days import is_store, kept_in_all
from brinefrost.core.plans.document import Family, Plan, canonical, is_as_stored
from brinefrost.core.plans.family import find_family, name_family
from brinefrost.core.plans.lines import ways_of
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent
from brinefrost.services.planning import DAMAGED, Version, version_of
from brinefrost.services.standings import PREFIX, Standing, find_standings
from brinefrost.store import Store
from brinefrost.store.shelves import Draft

LATEST = 400  # batches that are looked through for the last of each plan
REVIEWED_WITHIN = timedelta(days=365)  # a plan in force is gone through at least yearly: 9 CFR 417.4(a)(3), 123.8(a)(1)
USUAL_WEEKS, USUAL_TIMES = 5, 2  # begun so often on this day of the week within so long, it is likely today
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
    family: Family = "own"
    family_name: Words = ""
    standing: Standing = "current"
    review: Words = ""  # why its version in force is to be gone through again; nothing: it is not
    likely: bool = False  # usually begun on this day of the week


def list_plans(store: Store, now: datetime) -> list[PlanSummary]:
    """The library, the last touched first; what was put away too, and it says so."""
    signed, begun, standings = _signed_by_plan(store), _read_begun(store), find_standings(store)
    last = dict(reversed(begun))  # the newest of each plan
    likely = _find_likely(begun, now, ZoneInfo(store.site.read().zone))
    return [
        _summary(draft, signed.get(draft.plan_id, []), last.get(draft.plan_id), now).model_copy(
            update={
                "standing": standings.get(draft.plan_id, "current"),
                "likely": draft.plan_id in likely,
            }
        )
        for draft in store.drafts.all()
    ]


def _read_begun(store: Store) -> list[tuple[str, LastBatch]]:
    """The latest batches, each with its plan, the newest first."""
    found = []
    for record in store.ledger.of_kind("batch_started", newest=LATEST):
        try:  # when it began, which may be long before it was recorded
            batch = LastBatch.model_validate({"code": record.body["code"], "started_at": record.body["at"]})
            found.append((str(record.body["plan_id"]), batch))
        except (LookupError, ValueError):  # a damaged record takes nothing else down
            continue
    return found


def _find_likely(begun: Iterable[tuple[str, LastBatch]], now: datetime, zone: ZoneInfo) -> set[str]:
    """Plans usually begun on this day of the week, in the kitchen's own days."""
    today = now.astimezone(zone).date()
    days = {(plan, batch.started_at.astimezone(zone).date()) for plan, batch in begun}
    weeks = {timedelta(weeks=i) for i in range(1, USUAL_WEEKS + 1)}
    times = Counter(plan for plan, day in days if today - day in weeks)
    return {plan for plan, count in times.items() if count >= USUAL_TIMES}


def _find_review(versions: list[Stored], now: datetime) -> Words:
    """Why the version in force is to be gone through again; nothing where it is not."""
    if not versions:
        return ""
    version, document = versions[-1]
    try:
        since = _asked_since(canonical(Plan.model_validate(document)))
    except ValueError:  # what stands in the record is no plan: that is told as damage
        return ""
    if since:
        return say("services.library.rules_ask_more", count=len(since))
    if now - version.signed_at > REVIEWED_WITHIN:
        return say("services.library.signed_long_ago", days=(now - version.signed_at).days)
    return ""


@lru_cache(maxsize=512)
def _asked_since(text: str) -> tuple[Words, ...]:
    return asked_since(Plan.model_validate_json(text))


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


def _summary(draft: Draft, signed: list[Stored | None], last: LastBatch | None, now: datetime) -> PlanSummary:
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
        family=(family := find_family(plan)),
        family_name=name_family(family),
        review=_find_review(versions, now),
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
        family_name=name_family("own"),
    )
