"""Writing, proving, signing and comparing plans."""

import uuid
from datetime import datetime
from functools import lru_cache
from typing import Any

from pydantic import Field

from brinefrost.core.errors import ConflictError, DomainError, NotFoundError, PlanIncompleteError, RefusedError
from brinefrost.core.plans.asking import asked_since, with_questions
from brinefrost.core.plans.compare import Change, changes_between
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.decisions import Answer
from brinefrost.core.plans.document import Decision, Hazard, Plan, canonical, hash_of, is_as_stored
from brinefrost.core.plans.proof import Proof, prove
from brinefrost.core.plans.proof_shown import ShownProof, show_proof
from brinefrost.core.plans.readiness import Gap, gaps_of
from brinefrost.core.plans.repeated import Repeated, repeat_plan
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.sheet_parts import Sheet
from brinefrost.core.plans.suggest import following, later_step, suggested_answers, suggested_hazards, with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.plans.what_if import WhatIf, what_ifs
from brinefrost.core.reasons import says
from brinefrost.core.rules import RuleSetId
from brinefrost.core.runs.deciding import LEAST_REASON, LEAST_WORDS
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent
from brinefrost.services.office import Actor
from brinefrost.services.standings import Standing, check_current, find_standing, subject_of
from brinefrost.store import Store
from brinefrost.store.ledger import Record
from brinefrost.store.shelves import Draft


class Version(Sent):
    """A signed version."""

    version: int
    hash: str
    signed_by: str
    signed_at: datetime
    proof_meets: bool
    departs: bool = False  # it meets all its limits, one of them looser than its rule set's own by a written reason
    reason: str = ""
    seq: int


DAMAGED = say("services.views.its_record_is_damaged_check_the")


class PlanView(Sent):
    """A plan being written, with all that hangs on it."""

    plan_id: str
    revision: int
    updated_by: str
    updated_at: datetime
    document: Plan
    titles: dict[str, Words]  # of its limits, as whoever asks reads them
    hash: str
    critical_steps: tuple[str, ...]
    gaps: tuple[Gap, ...]
    versions: tuple[Version, ...]
    changed_since_signed: bool
    standing: Standing = "current"
    asked_since: tuple[Words, ...] = ()  # what today's rules ask beside what its last version was signed with


class SignedPlan(Sent):
    """One signed version, whole."""

    plan_id: str
    version: Version
    document: Plan


class Signing(Sent):
    """What the lead signs with."""

    revision: int = Field(ge=0)
    reason: str = Field(default="", max_length=1000)


def create_plan(
    store: Store, actor: Actor, now: datetime, name: str, rule_set_id: RuleSetId, begin_with: str = "bag"
) -> PlanView:
    """A new plan from a template."""
    return _begin(store, actor, now, template(begin_with).plan(name, rule_set_id, store.site.read().altitude_m))


def copy_plan(store: Store, actor: Actor, now: datetime, plan_id: str, name: str) -> PlanView:
    """A new draft that says what another draft says, under a name of its own; its versions stay the other's."""
    return begin_with(store, actor, now, name, read_plan(store, plan_id).document)


def begin_with(store: Store, actor: Actor, now: datetime, name: str, plan: Plan) -> PlanView:
    """A new draft that says what a document says, under a name; its questions are none until it is signed."""
    return _begin(store, actor, now, plan.model_copy(update={"name": name, "questions": None}))


def _begin(store: Store, actor: Actor, now: datetime, plan: Plan) -> PlanView:
    plan_id, said = uuid.uuid4().hex[:12], {"name": plan.name, "rule_set": plan.rule_set}
    store.drafts.create(Draft(plan_id, canonical(plan), 1, actor.name, now))
    store.ledger.append("plan_created", subject_of(plan_id), said, actor.author, now)
    return read_plan(store, plan_id)


def read_plan(store: Store, plan_id: str) -> PlanView:
    """The draft with its gaps and versions."""
    draft = store.drafts.read(plan_id)
    plan = Plan.model_validate_json(draft.document)
    versions = versions_of(store, plan_id)
    stored = _read_stored(store, plan_id) if versions else {}
    since = asked_since(Plan.model_validate(stored)) if versions else ()
    return PlanView(
        plan_id=plan_id,
        revision=draft.revision,
        updated_by=draft.updated_by,
        updated_at=draft.updated_at,
        document=plan,
        titles={limit.title: limit.title for control in plan.controls for limit in control.limits},
        hash=hash_of(with_questions(plan)),
        critical_steps=plan.critical_steps(),
        gaps=gaps_of(plan),
        versions=tuple(versions),
        changed_since_signed=not versions or bool(since) or not is_as_stored(plan, stored),
        standing=find_standing(store, plan_id),
        asked_since=since,
    )


def _read_stored(store: Store, plan_id: str) -> dict[str, Any]:
    """The document of the latest signed version, as it was stored."""
    records = [each for each in store.ledger.of_subject(subject_of(plan_id)) if each.kind == "plan_signed"]
    found: dict[str, Any] = records[-1].body["document"]
    return found


def save_plan(store: Store, actor: Actor, now: datetime, plan_id: str, revision: int, plan: Plan) -> PlanView:
    """Save the draft; controls follow the decisions."""
    check_current(store, plan_id)
    before = read_plan(store, plan_id).document
    drafted = plan.model_copy(update={"format": "brinefrost-plan/2", "questions": None})
    written = _with_authors(with_controls(following(drafted, before)), before, actor.name)
    store.drafts.save(plan_id, canonical(written), revision, actor.name, now)
    return read_plan(store, plan_id)


def _with_authors(plan: Plan, before: Plan, name: str) -> Plan:
    """The plan with who gave each reason of a decision: whoever changed it last, as the server knows them."""
    known = {(h.key, d.step, d.tree, a.question): a for h in before.hazards for d in h.decisions for a in d.answers}

    def sign_answer(hazard: Hazard, decision: Decision, answer: Answer) -> Answer:
        was = known.get((hazard.key, decision.step, decision.tree, answer.question))
        same = was is not None and (was.yes, was.reason, was.by_step) == (answer.yes, answer.reason, answer.by_step)
        by = was.by if same and was else name
        return answer.model_copy(update={"by": by if answer.reason else ""})

    hazards = tuple(
        hazard.model_copy(
            update={
                "decisions": tuple(
                    decision.model_copy(
                        update={"answers": tuple(sign_answer(hazard, decision, each) for each in decision.answers)}
                    )
                    for decision in hazard.decisions
                )
            }
        )
        for hazard in plan.hazards
    )
    return plan.model_copy(update={"hazards": hazards})


def suggest_hazards(plan: Plan) -> list[Hazard]:
    """Hazards the plan does not have yet, with the reason, and the answers usually given on offer."""
    have = {hazard.key for hazard in plan.hazards}
    return [hazard for hazard in suggested_hazards(plan) if hazard.key not in have]


def advise(plan: Plan, hazard_key: str, step_id: str) -> dict[str, object]:
    """The answers usually given for a hazard at a step under both trees."""
    step = plan.step(step_id)
    trees = ("codex-2022", "codex-2003")
    later = later_step(plan, hazard_key, step)
    return {tree: [a.model_dump() for a in suggested_answers(tree, hazard_key, step, later)] for tree in trees}  # type: ignore[arg-type]


def prove_plan(plan: Plan) -> ShownProof:
    """The proof of a plan with all that is shown of it; the same plan is computed once."""
    text = canonical(plan)
    return show_proof(_known(text), _prove(text))


def lay_out(plan: Plan) -> Sheet:
    """The sheet of a plan as it stands."""
    text = canonical(plan)
    known = _known(text)  # walked once, for proof and sheet
    return sheet_of(known, None if provable(known) else _prove(text))


def vary_proof(plan: Plan) -> tuple[WhatIf, ...]:
    """The proof with one thing different at a time."""
    return what_ifs(plan)


def repeat_proof(plan: Plan) -> tuple[Repeated, ...]:
    """How often the proof would fail if its inputs vary."""
    return repeat_plan(plan, prove_plan(plan))


@lru_cache(maxsize=64)
def _prove(text: str) -> Proof:
    return prove(_known(text))


@lru_cache(maxsize=64)
def _known(text: str) -> Plan:
    return Plan.model_validate_json(text)


def sign_plan(store: Store, actor: Actor, now: datetime, plan_id: str, signing: Signing) -> Version:
    """Sign the draft as it stands: a new version that never changes."""
    store.ledger.lock()
    check_current(store, plan_id)
    view = read_plan(store, plan_id)
    if view.revision != signing.revision:
        raise ConflictError(
            say("services.planning.saved_this_plan_since_you_opened", updated_by=view.updated_by),
            revision=view.revision,
            by=view.updated_by,
        )
    if view.gaps:
        raise PlanIncompleteError(
            say("services.planning.not_ready_to_sign", sentence=view.gaps[0].sentence),
            gaps=[gap.sentence for gap in view.gaps],
        )
    if not view.changed_since_signed:
        raise RefusedError(say("services.planning.nothing_has_changed_since_the_last"))
    proof, reason = prove_plan(view.document), signing.reason.strip()
    if proof.state == "departs" and not reason:  # it stands at the limit it is about
        reason = "; ".join(dict.fromkeys(control.departs for control in view.document.controls if control.departs))
    elif not proof.meets and not says(reason, LEAST_REASON, LEAST_WORDS):
        raise PlanIncompleteError(
            say("services.planning.the_proof_fails_it_can_only"),
            reason="proof",
            proof=proof.sentence,
        )
    body = {
        "plan_id": plan_id,
        "version": len(view.versions) + 1,
        "hash": view.hash,
        "reason": reason,
        "proof": {"meets": proof.meets, "state": proof.state, "sentence": proof.sentence},
        "document": with_questions(view.document).model_dump(mode="json"),
    }
    return version_of(store.ledger.append("plan_signed", subject_of(plan_id), body, actor.author, now))


def versions_of(store: Store, plan_id: str) -> list[Version]:
    """Every signed version, oldest first. Raises RefusedError where one cannot be read."""
    records = [each for each in store.ledger.of_subject(subject_of(plan_id)) if each.kind == "plan_signed"]
    try:
        return [version_of(record) for record in records]
    except (LookupError, TypeError, ValueError) as error:
        raise RefusedError(DAMAGED) from error


def signed_plan(store: Store, plan_id: str, version: int | None = None) -> SignedPlan:
    """One signed version; the latest when none is named."""
    records = [r for r in store.ledger.of_subject(subject_of(plan_id)) if r.kind == "plan_signed"]
    try:
        found = [r for r in records if version in (None, r.body["version"])]
        if not found:
            raise NotFoundError(say("services.planning.this_plan_has_no_such_signed"), plan=plan_id)
        document = Plan.model_validate(found[-1].body["document"])
        return SignedPlan(plan_id=plan_id, version=version_of(found[-1]), document=document)
    except DomainError:
        raise
    except (LookupError, TypeError, ValueError) as error:
        raise RefusedError(DAMAGED) from error


def changes_since(store: Store, plan_id: str, version: int, until: int | None = None) -> list[Change]:
    """What the draft, or another signed version, changes against a signed version."""
    now = (read_plan(store, plan_id) if until is None else signed_plan(store, plan_id, until)).document
    now = now.model_copy(update={"questions": None})
    before = signed_plan(store, plan_id, version).document
    return list(changes_between(before.model_copy(update={"format": now.format, "questions": None}), now))


def differences(store: Store, plan_id: str, other: str) -> list[Change]:
    """What one plan says otherwise than another, as both stand now."""
    old, new = (read_plan(store, each).document.model_copy(update={"questions": None}) for each in (other, plan_id))
    return list(changes_between(old, new))


def version_of(record: Record) -> Version:
    return Version(
        version=record.body["version"],
        hash=record.body["hash"],
        signed_by=record.actor_name,
        signed_at=record.recorded_at,
        proof_meets=record.body["proof"]["meets"],
        departs=record.body["proof"].get("state") == "departs",
        reason=record.body["reason"],
        seq=record.seq,
    )
