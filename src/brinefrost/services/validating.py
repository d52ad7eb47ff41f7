"""Validation of a plan's steps: which batches could be a study, what they validate, who signed it, when it ended."""

from datetime import datetime

from pydantic import Field

from brinefrost.core.errors import DomainError, NotFoundError, RefusedError
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.validated import (
    Validation,
    can_be_validated,
    fingerprint_of,
    is_inside,
    load_of,
    tell_bounds,
)
from brinefrost.core.runs.deciding import check_reason
from brinefrost.core.runs.study import LEAST_RUNS, Run, run_of, study_of
from brinefrost.core.steps import Step
from brinefrost.core.words import STORED, Words, restored, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.planning import SignedPlan, signed_plan
from brinefrost.services.revoking import ENDED, MADE, revoke, standing, validation_of
from brinefrost.services.standings import subject_of
from brinefrost.store import Store

MOST_RUNS = 40  # the newest batches of a plan that are offered


class ValidationEntry(Sent):
    """The batches that are taken as the study of a step."""

    step: str = Field(max_length=40)
    batches: tuple[str, ...] = Field(min_length=1, max_length=40)


class RevocationEntry(Sent):
    """Why a step's validation holds no more."""

    reason: str = Field(min_length=3, max_length=1000)


class StepValidation(Sent):
    """A step that can be validated: how it stands, and what could be its study.

    ``state``: ``none`` while its core is read in every batch, ``holds`` while it is validated, ``changed`` where the
    plan changed since, ``revoked`` where it was revoked; then the study is asked for again.
    """

    step: str
    step_name: Words
    state: str
    validation: Validation | None = None
    bounds: Words = ""
    ended: Words = ""  # why it holds no more
    runs: tuple[Run, ...] = ()
    needed: int = LEAST_RUNS


class ProcessFit(Sent):
    """Whether today's batch lies inside what a step was validated for."""

    step: str
    step_name: Words
    inside: bool
    sentence: Words


def list_validations(store: Store, plan_id: str) -> tuple[StepValidation, ...]:
    """Every step of the plan's latest signed version that can be validated, with the batches that could show it."""
    signed = signed_plan(store, plan_id)
    steps = [step for step in signed.document.steps if can_be_validated(signed.document, step)]
    if not steps:
        return ()
    held, ended = standing(store, subject_of(plan_id)), _find_ended(store, plan_id)
    runs = _runs(store, signed, steps)
    found = []
    for step in steps:
        record = held.get(step.id)
        same = record is not None and record.body["fingerprint"] == fingerprint_of(signed.document, step)
        state = "none" if record is None else "holds" if same else "changed"
        state = "revoked" if record is None and step.id in ended else state
        validation = validation_of(record) if record is not None else None
        found.append(
            StepValidation(
                step=step.id,
                step_name=step.name,
                state=state,
                validation=validation,
                bounds=tell_bounds(validation.bounds) if validation else "",
                ended=ended.get(step.id, "") if state == "revoked" else "",
                runs=tuple(sorted(runs[step.id], key=lambda run: bool(run.why_not))),
            )
        )
    return tuple(found)


def _find_ended(store: Store, plan_id: str) -> dict[str, Words]:
    """By step: why its last validation was revoked."""
    records = [each for each in store.ledger.of_subject(subject_of(plan_id)) if each.kind == ENDED]
    return {str(each.body["step"]): restored(each.body["sentence"]) for each in records}


def _runs(store: Store, signed: SignedPlan, steps: list[Step]) -> dict[str, list[Run]]:
    """By step: what the newest batches of the plan say of it, as far as nothing it rests on has changed since."""
    started = store.ledger.naming("batch_started", signed.plan_id)
    subjects = [each.subject for each in started if each.body.get("plan_id") == signed.plan_id][-MOST_RUNS:]
    own = {step.id: fingerprint_of(signed.document, step) for step in steps}
    found: dict[str, list[Run]] = {step.id: [] for step in steps}
    plans: dict[int, Plan] = {}
    for subject, batch in reversed(keeping.fold_all(store, subjects).items()):
        if batch is None:
            continue
        version = batch.started.plan_version
        if version not in plans:
            plans[version] = signed_plan(store, signed.plan_id, version).document
        for step in steps:
            then = next((each for each in plans[version].steps if each.id == step.id), None)
            if then is not None and fingerprint_of(plans[version], then) == own[step.id]:
                found[step.id].append(run_of(batch, subject.removeprefix(keeping.PREFIX), step))
    return found


def take_as_evidence(store: Store, actor: Actor, now: datetime, plan_id: str, entry: ValidationEntry) -> StepValidation:
    """Sign that some batches validate a step: RefusedError where one does not count, or they are too few."""
    store.ledger.lock()
    signed = signed_plan(store, plan_id)
    step = _validatable(signed.document, entry.step)
    offered = {run.batch: run for run in _runs(store, signed, [step])[step.id]}
    unknown = next((each for each in entry.batches if each not in offered), None)
    if unknown is not None:
        raise NotFoundError(say("services.validating.is_no_batch_of_this_plan"), batch=unknown)
    study = study_of(signed.document, step, tuple(offered[each] for each in dict.fromkeys(entry.batches)))
    body = {
        "plan_id": plan_id,
        "version": signed.version.version,
        "step": step.id,
        "fingerprint": fingerprint_of(signed.document, step),
        "runs": [run.model_dump(mode="json", context=STORED) for run in study.runs],
        "bounds": study.bounds.model_dump(mode="json"),
    }
    store.ledger.append(MADE, subject_of(plan_id), body, actor.author, now)
    return next(each for each in list_validations(store, plan_id) if each.step == step.id)


def end_validation(
    store: Store, actor: Actor, now: datetime, plan_id: str, step_id: str, entry: RevocationEntry
) -> StepValidation:
    """Revoke a step's validation: RefusedError where none holds, or the reason says nothing."""
    store.ledger.lock()
    record = standing(store, subject_of(plan_id)).get(step_id)
    if record is None:
        raise RefusedError(say("services.validating.nothing_is_validated_there"))
    check_reason(entry.reason, say("services.validating.revoking_it"))
    revoke(store, subject_of(plan_id), record, entry.reason, actor.author, now)
    return next(each for each in list_validations(store, plan_id) if each.step == step_id)


def _validatable(plan: Plan, step_id: str) -> Step:
    step = plan.step(step_id)
    if not can_be_validated(plan, step):
        raise RefusedError(say("services.validating.this_step_is_measured_each_time", name=step.name))
    return step


def validations_for(
    store: Store, signed: SignedPlan, thickness_m: float | None, start_c: float | None, packs: int
) -> tuple[Validation, ...]:
    """The validations that hold for a batch of today's pieces and load, of the plan as it is signed now."""
    return tuple(
        validation
        for _, validation in _holding(store, signed)
        if is_inside(validation.bounds, thickness_m, start_c, load_of(signed.document, packs)[0])
    )


def _holding(store: Store, signed: SignedPlan) -> list[tuple[Step, Validation]]:
    """The validated steps of a signed version whose process is still the one that was validated."""
    steps = {step.id: step for step in signed.document.steps}
    found = []
    for key, record in standing(store, subject_of(signed.plan_id)).items():
        try:
            if key in steps and record.body["fingerprint"] == fingerprint_of(signed.document, steps[key]):
                found.append((steps[key], validation_of(record)))
        except (DomainError, LookupError, TypeError, ValueError):
            continue  # what does not read as a validation lets nothing go unread
    return found


def tell_fits(
    store: Store, signed: SignedPlan, thickness_m: float | None, start_c: float | None, packs: int | None
) -> tuple[ProcessFit, ...]:
    """For each validated step, whether today's batch lies inside its bounds, and what is asked then."""
    load = load_of(signed.document, packs)[0] if packs else 0.0
    found = []
    for step, validation in _holding(store, signed):
        inside = is_inside(validation.bounds, thickness_m, start_c, load)
        known = thickness_m is not None and (start_c is not None or validation.bounds.start_c is None)
        sentence = _tell_fit(inside, known, step.name, tell_bounds(validation.bounds))
        found.append(ProcessFit(step=step.id, step_name=step.name, inside=inside, sentence=sentence))
    return tuple(found)


def _tell_fit(inside: bool, measured: bool, name: str, bounds: str) -> Words:
    if inside:
        return say("services.validating.inside", name=name, bounds=bounds)
    if measured:
        return say("services.validating.outside", name=name, bounds=bounds)
    return say("services.validating.measure_the_thickest", name=name, bounds=bounds)
