"""What the plan asked for, printed with the record: steps as they ran, hazards, monitoring, what was missed."""

import re

from reportlab.platypus import Flowable, Spacer

from brinefrost.core.fields import specs_of
from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.steps import Step
from brinefrost.core.steps.base import Monitoring
from brinefrost.core.working import clock
from brinefrost.reports.paper import ended, when, words
from brinefrost.services.views import BatchView

OUTCOMES = {"ccp": "critical", "not_ccp": "not critical", "modify": "change the process", "open": "not decided"}
UNSURE = re.compile(r"[;,]?\s*(rows )?from memory(, verify)?", re.I)


def cited(citation: str) -> str:
    """A source as a legal record bears it: how surely it is known stands in the program, not on the paper."""
    return (
        UNSURE.sub("", citation).replace("Common practice, no source", "The kitchen's own, by common practice").strip()
    )


def setting_of(step: Step) -> str:
    """The settings of a step in words."""
    specs = [spec for spec in specs_of(type(step)) if spec.name not in ("id", "name", "kind")]
    return ", ".join(f"{spec.plain_name()} {spec.written(getattr(step, spec.name))}" for spec in specs)


def steps_rows(view: BatchView, zone: str) -> list[tuple[str, str, str]]:
    """Each step with its settings and when it ran."""
    by_id = {step.id: step for step in view.plan.steps}
    found = []
    for block in view.blocks:
        ran = "not begun"
        if block.started:
            ended = when(block.ends, zone) if block.finished else "still running"
            ran = f"{when(block.starts, zone)} to {ended}"
        name = f"{block.name}, critical" if block.critical else block.name
        found.append((name, setting_of(by_id[block.step]), ran))
    return found


def missed_part(view: BatchView, zone: str) -> list[Flowable]:
    """Checks nobody made, with what was said of each."""
    missed = [check for check in view.checks if check.state == "missed"]
    if not missed:
        return [words("Missed checks", "head"), words("None.")]
    found: list[Flowable] = [words("Missed checks", "head")]
    for check in missed:
        said = f"{check.answer} ({check.answered_by})" if check.answer else "Nobody has said why."
        found.append(words(f"{check.step_name}, {check.what}, due {when(check.due_at, zone)}: {said}"))
    return found


def plan_part(plan: Plan) -> list[Flowable]:
    """Hazards with their decisions, and each control with limits, monitoring, actions and verification."""
    names = {step.id: step.name for step in plan.steps}
    found: list[Flowable] = [words("Hazards and decisions", "head")]
    for hazard in plan.hazards:
        said = [f"{names.get(d.step, d.step)}: {OUTCOMES[outcome_of(d.tree, d.answers)]}" for d in hazard.decisions]
        if not hazard.significant:
            said = [f"Set aside: {hazard.set_aside_because}"]
        decided = ended("; ".join(said)) if said else ""
        found.append(words(f"{hazard.name} ({hazard.type}). {ended(hazard.reason)} {decided}".strip()))
    found.append(words("Critical control points", "head"))
    for control in plan.controls:
        found += [*_control(control, names.get(control.step, control.step)), Spacer(1, 4)]
    return found


def _control(control: Control, name: str) -> list[Flowable]:
    found: list[Flowable] = [words(name, "bold")]
    found += [words(f"Limit: {ended(limit.title)} {ended(cited(limit.source.citation))}") for limit in control.limits]
    if control.departs:
        found.append(words(f"Departs from the rule set's own line: {control.departs}", "bold"))
    found += [
        words(f"Monitored: {each.what}. {ended(each.how)} {_often(each)}, by the {each.who}.")
        for each in control.monitoring
    ]
    found += [words(f"If it is not met: {' '.join(control.corrective_actions)}")] if control.corrective_actions else []
    found += [words(f"Verified: {' '.join(control.verification)}")] if control.verification else []
    return found


def _often(monitoring: Monitoring) -> str:
    said = ["at the start" if offset == 0 else f"{clock(offset)} in" for offset in monitoring.offsets_s]
    if monitoring.every_s:
        said.append(f"every {clock(monitoring.every_s)}")
    text = ", ".join(said) or "at the end"
    return text[0].upper() + text[1:]


def allergens_of(plan: Plan) -> str:
    """Every allergen of the ingredients, once each."""
    found = sorted({allergen for item in plan.ingredients for allergen in item.allergens})
    return ", ".join(found) or "none declared"
