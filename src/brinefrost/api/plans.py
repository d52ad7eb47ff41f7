"""Plans: write, suggest, prove, sign, compare."""

import hashlib
from functools import lru_cache
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response
from pydantic import Field, TypeAdapter

from brinefrost.api.downloads import download, record_export
from brinefrost.api.pages import USUAL, After, Find, Most, Page, bears, page_of
from brinefrost.api.seats import Everyone, LeadHand, OfficeHere
from brinefrost.api.written import written
from brinefrost.core.fields import FieldSpec, specs_of
from brinefrost.core.food.catalogue import Catalogue, catalogue
from brinefrost.core.plans.compare import Change
from brinefrost.core.plans.course import questions_of
from brinefrost.core.plans.decisions import TREES, Answer, Tree
from brinefrost.core.plans.document import Family, Hazard, Plan
from brinefrost.core.plans.family import FAMILIES, name_family
from brinefrost.core.plans.proof_shown import ShownProof
from brinefrost.core.plans.repeated import Repeated
from brinefrost.core.plans.report import ProofReport, report_of
from brinefrost.core.plans.sheet_parts import Sheet
from brinefrost.core.plans.templates import by_family
from brinefrost.core.plans.what_if import WhatIf
from brinefrost.core.quantities import QUANTITIES, QuantityInfo
from brinefrost.core.rules import RULE_SET_IDS, RuleSet, RuleSetId, rule_set
from brinefrost.core.steps import KINDS
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.words import Manner, Words, current, said
from brinefrost.core.working import Sent
from brinefrost.reports.plan_pdf import plan_pdf
from brinefrost.services import accounts, archiving, library, plan_paper, planning, standings, validating
from brinefrost.store import Store

router = APIRouter(prefix="/api/v1", tags=["plans"])


class PlanCreate(Sent):
    """A new plan."""

    name: str = Field(min_length=1, max_length=120)
    rule_set: RuleSetId = "us"
    template: str = Field(default="bag", max_length=40)
    copy_of: str | None = Field(default=None, max_length=64)  # a plan it begins as, in place of a template
    document: Plan | None = None  # what it says from the start, such as a recipe that was read


class PlanSave(Sent):
    """The document over the revision it was written on."""

    revision: int = Field(ge=0, le=10**9)
    document: Plan


class PlanSign(Sent):
    """A signature: the revision that was read, the password again, and a reason where the proof fails."""

    revision: int = Field(ge=0, le=10**9)
    password: str = Field(min_length=1, max_length=200)
    reason: str = Field(default="", max_length=1000)


class HazardAdvice(Sent):
    """The answers usually given, under both trees."""

    answers: dict[str, tuple[Answer, ...]]


class StepKindRead(Sent):
    """A kind of step: its settings as they are asked for, what a new one begins with, the topics it may answer to."""

    key: str
    fields: tuple[FieldSpec, ...]
    blank: dict[str, Any]
    topics: tuple[str, ...]
    takes: str | None


class TemplateRead(Sent):
    """A plan to begin from."""

    key: str
    name: Words
    family: Words
    about: Words


class DishFamily(Sent):
    """A family of dishes, as plans are filed."""

    key: Family
    name: Words


class Reference(Sent):
    """What the editor needs to know beside the kinds of step: rule sets, quantities, ingredients, hazards, trees."""

    rule_sets: tuple[RuleSet, ...]
    catalogue: Catalogue
    trees: tuple[Tree, ...]
    templates: tuple[TemplateRead, ...]
    quantities: tuple[QuantityInfo, ...]
    families: tuple[DishFamily, ...]


@router.get("/reference", response_model=Reference)
def read_reference(actor: Everyone, request: Request) -> Any:
    """Rule sets with citations, the catalogue, the decision trees; the same all through a release."""
    return _if_changed(request, *_reference(current()))


@router.get("/step-kinds", response_model=list[StepKindRead])
def read_step_kinds(actor: Everyone, request: Request) -> Any:
    """Every kind of step with its settings, their bounds and units; the same all through a release."""
    return _if_changed(request, *_step_kinds(current()))


def _if_changed(request: Request, text: bytes, tag: str) -> Response:
    headers = {"Cache-Control": "private, no-cache", "ETag": tag}
    if request.headers.get("if-none-match") == tag:
        return Response(status_code=304, headers=headers)
    return Response(text, media_type="application/json", headers=headers)


def _tag(text: bytes) -> tuple[bytes, str]:
    return text, f'"{hashlib.sha256(text).hexdigest()[:32]}"'


@lru_cache(maxsize=16)
def _step_kinds(manner: Manner) -> tuple[bytes, str]:
    """The kinds of step as text, as somebody reads them, and its tag."""
    return _tag(TypeAdapter(list[StepKindRead]).dump_json([_kind(kind) for kind in KINDS.values()]))


@lru_cache(maxsize=16)
def _reference(manner: Manner) -> tuple[bytes, str]:
    """The reference as text, as somebody reads it, and its tag."""
    return _tag(_made_reference().model_dump_json().encode())


def _made_reference() -> Reference:
    return Reference(
        rule_sets=tuple(rule_set(i) for i in RULE_SET_IDS),
        catalogue=catalogue(),
        trees=tuple(TREES.values()),
        templates=tuple(
            TemplateRead(key=t.key, name=t.name, family=name_family(t.family), about=t.about) for t in by_family()
        ),
        quantities=tuple(QUANTITIES.values()),
        families=tuple(DishFamily(key=each, name=name_family(each)) for each in FAMILIES),
    )


def _kind(kind: StepKind[Any]) -> StepKindRead:
    blank = kind.settings.model_validate({"id": "new", "name": "New", **kind.blank})
    named = [kind.topics(blank, Context(food=Food(known=frozenset(tags)))) for tags in ((), ("poultry",), ("meat",))]
    return StepKindRead(
        key=kind.key,
        fields=tuple(spec for spec in specs_of(kind.settings) if spec.name not in ("id", "name", "kind")),
        blank=blank.model_dump(mode="json", exclude={"id", "name"}),
        topics=tuple(dict.fromkeys(topic for topics in named for topic in topics)),
        takes=kind.logged,
    )


@router.get("/plans")
def list_plans(
    actor: Everyone, office: OfficeHere, find: Find = "", after: After = None, most: Most = USUAL
) -> Page[library.PlanSummary]:
    """The library; those whose name bears words."""
    rows = office.read(lambda store: library.list_plans(store, office.clock.now()))
    found = [row for row in rows if bears(said(row.name), find)]
    return page_of(found, lambda row: row.plan_id, after, most)


@router.post("/plans", status_code=201)
def create_plan(entry: PlanCreate, hand: LeadHand) -> planning.PlanView:
    """Start a plan, from a template or as a copy of another."""
    made = hand.write(
        planning.PlanView,
        {"create_plan": entry.model_dump(mode="json")},
        lambda store: _create(store, hand, entry),
    )
    return hand.made(made, f"/api/v1/plans/{made.plan_id}")


def _create(store: Store, hand: LeadHand, entry: PlanCreate) -> planning.PlanView:
    if entry.document is not None:
        return planning.begin_with(store, hand.actor, hand.now, entry.name, entry.document)
    if entry.copy_of:
        return planning.copy_plan(store, hand.actor, hand.now, entry.copy_of, entry.name)
    return planning.create_plan(store, hand.actor, hand.now, entry.name, entry.rule_set, entry.template)


@router.get("/plans/{plan_id}/differences/{other}")
def read_differences(plan_id: str, other: str, actor: Everyone, office: OfficeHere) -> list[Change]:
    """What this plan says otherwise than another, as both stand now."""
    return office.read(lambda store: planning.differences(store, plan_id, other))


class PutAway(Sent):
    """Where a plan stands after it was put away or brought back."""

    plan_id: str
    standing: standings.Standing


class Archiving(Sent):
    """Why a plan is put away."""

    reason: str = Field(default="", max_length=600)


@router.post("/plans/{plan_id}/archive")
def archive_plan(plan_id: str, entry: Archiving, hand: LeadHand) -> PutAway:
    """Take a signed plan off the list: no batch begins by it; those that run go on, its versions stay readable."""

    def archive(store: Store) -> PutAway:
        archiving.archive_plan(store, hand.actor, hand.now, plan_id, entry.reason)
        return PutAway(plan_id=plan_id, standing="archived")

    return hand.write(PutAway, {"archive_plan": plan_id, **entry.model_dump()}, archive)


@router.post("/plans/{plan_id}/return")
def return_plan(plan_id: str, hand: LeadHand) -> PutAway:
    """Bring back a plan that was archived, or a draft that was deleted."""

    def bring_back(store: Store) -> PutAway:
        archiving.return_plan(store, hand.actor, hand.now, plan_id)
        return PutAway(plan_id=plan_id, standing="current")

    return hand.write(PutAway, {"return_plan": plan_id}, bring_back)


@router.delete("/plans/{plan_id}")
def delete_draft(plan_id: str, hand: LeadHand) -> PutAway:
    """Delete a draft that was never signed; it can be brought back."""

    def delete(store: Store) -> PutAway:
        archiving.delete_draft(store, hand.actor, hand.now, plan_id)
        return PutAway(plan_id=plan_id, standing="deleted")

    return hand.write(PutAway, {"delete_draft": plan_id}, delete)


@router.get("/plans/{plan_id}")
def read_plan(plan_id: str, actor: Everyone, office: OfficeHere) -> planning.PlanView:
    """A plan with its gaps and versions."""
    return office.read(lambda store: planning.read_plan(store, plan_id))


@router.put("/plans/{plan_id}")
def save_plan(plan_id: str, entry: PlanSave, hand: LeadHand) -> planning.PlanView:
    """Save a plan; refused if somebody else saved since it was read."""
    return hand.write(
        planning.PlanView,
        {"save_plan": plan_id, **entry.model_dump(mode="json")},
        lambda store: planning.save_plan(store, hand.actor, hand.now, plan_id, entry.revision, entry.document),
    )


@router.post("/plans/{plan_id}/suggestions")
def suggest_hazards(plan_id: str, plan: Plan, actor: Everyone) -> list[Hazard]:
    """Hazards that belong to the plan and are not in it yet."""
    return planning.suggest_hazards(plan)


@router.post("/plans/{plan_id}/advice/{hazard}/{step}")
def advise(plan_id: str, hazard: str, step: str, plan: Plan, actor: Everyone) -> HazardAdvice:
    """The answers usually given for a hazard at a step."""
    return HazardAdvice.model_validate({"answers": planning.advise(plan, hazard, step)})


@router.post("/plans/{plan_id}/proof", response_model=ShownProof)
def prove_plan(plan_id: str, plan: Plan, actor: Everyone) -> Response:
    """Compute the cook and the chill and judge the limits on them."""
    return written(planning.prove_plan(plan))


@router.post("/proofs", response_model=ProofReport)
def prove_document(plan: Plan, actor: Everyone) -> Response:
    """The proof of a plan that is sent, kept nowhere: one state, every question, hazard row and gap, as plain data."""
    return written(report_of(plan))


@router.post("/plans/{plan_id}/sheet", response_model=Sheet)
def lay_out_plan(plan_id: str, plan: Plan, actor: Everyone) -> Response:
    """The plan as columns of steps: journey, hazards with their balance, limits with room to spare, checks."""
    return written(planning.lay_out(plan))


@router.post("/plans/{plan_id}/questions")
def ask_of_plan(plan_id: str, plan: Plan, actor: Everyone) -> tuple[Asked, ...]:
    """The plan's cook and chill as questions for the Bench."""
    return questions_of(plan)


@router.post("/plans/{plan_id}/what-ifs")
def vary_proof(plan_id: str, plan: Plan, actor: Everyone) -> tuple[WhatIf, ...]:
    """The proof with one thing different at a time."""
    return planning.vary_proof(plan)


@router.post("/plans/{plan_id}/repetitions")
def repeat_proof(plan_id: str, plan: Plan, actor: Everyone) -> tuple[Repeated, ...]:
    """The proof ten thousand times over, with thickness, start, bath and probe varied."""
    return planning.repeat_proof(plan)


@router.post("/plans/{plan_id}/signature")
def sign_plan(plan_id: str, entry: PlanSign, hand: LeadHand) -> planning.Version:
    """Sign the plan: a new version that never changes."""
    accounts.confirm(hand.office, hand.actor, entry.password)
    signing = planning.Signing(revision=entry.revision, reason=entry.reason)
    return hand.write(
        planning.Version,
        {"sign_plan": plan_id, **signing.model_dump()},
        lambda store: planning.sign_plan(store, hand.actor, hand.now, plan_id, signing),
    )


class ValidationSign(validating.ValidationEntry):
    """The batches that are taken as a step's study, and the password again."""

    password: str = Field(min_length=1, max_length=200)


@router.get("/plans/{plan_id}/validations")
def list_validations(plan_id: str, actor: Everyone, office: OfficeHere) -> tuple[validating.StepValidation, ...]:
    """The steps of a signed plan that can be validated, how each stands, and the batches that could be its study."""
    return office.read(lambda store: validating.list_validations(store, plan_id))


@router.post("/plans/{plan_id}/validations", status_code=201)
def sign_validation(plan_id: str, entry: ValidationSign, hand: LeadHand) -> validating.StepValidation:
    """Take some batches as the evidence that a step works: inside its bounds the core need not be read."""
    accounts.confirm(hand.office, hand.actor, entry.password)
    taken = validating.ValidationEntry(step=entry.step, batches=entry.batches)
    return hand.write(
        validating.StepValidation,
        {"validate": plan_id, **taken.model_dump(mode="json")},
        lambda store: validating.take_as_evidence(store, hand.actor, hand.now, plan_id, taken),
    )


@router.post("/plans/{plan_id}/validations/{step}/revocation")
def revoke_validation(
    plan_id: str, step: str, entry: validating.RevocationEntry, hand: LeadHand
) -> validating.StepValidation:
    """End a step's validation: its core is read again in every batch."""
    return hand.write(
        validating.StepValidation,
        {"revoke_validation": plan_id, "step": step, **entry.model_dump()},
        lambda store: validating.end_validation(store, hand.actor, hand.now, plan_id, step, entry),
    )


@router.get("/plans/{plan_id}/versions/{version}")
def read_version(plan_id: str, version: int, actor: Everyone, office: OfficeHere) -> planning.SignedPlan:
    """One signed version, whole."""
    return office.read(lambda store: planning.signed_plan(store, plan_id, version))


@router.get("/plans/{plan_id}/versions/{version}/plan.pdf", response_class=Response)
def export_plan(plan_id: str, version: int, actor: Everyone, office: OfficeHere) -> Response:
    """One signed version as a document of its own, as PDF."""
    now = office.clock.now()
    paper = office.read(lambda store: plan_paper.read_plan_paper(store, plan_id, version))
    printed = plan_pdf(paper, now)
    record_export(office, actor, f"{paper.plan.name} {version}", "PDF")
    return download(printed, "application/pdf", f"plan-{plan_id}-{version}.pdf")


@router.get("/plans/{plan_id}/versions/{version}/changes")
def read_changes(
    plan_id: str,
    version: int,
    actor: Everyone,
    office: OfficeHere,
    until: Annotated[int | None, Query(ge=1, description="A later signed version; the draft without one.")] = None,
) -> list[Change]:
    """What the draft, or a later version, changes against a signed version."""
    return office.read(lambda store: planning.changes_since(store, plan_id, version, until))
