"""What the plan asked for, printed with the record: steps as they ran, hazards, monitoring, what was missed."""

import re

from reportlab.platypus import Flowable, Spacer

from brinefrost.core.fields import specs_of
from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.plans.taken_away import deciding_answer
from brinefrost.core.steps import Step
from brinefrost.core.steps.document import Monitoring
from brinefrost.core.words import duration, joined, raised, say
from brinefrost.reports.paper import ended, when, words
from brinefrost.services.views import BatchView

OUTCOMES = {
    "ccp": say("paper.plan_part.critical"),
    "not_ccp": say("paper.plan_part.not_critical"),
    "modify": say("paper.plan_part.change_the_process"),
    "open": say("paper.plan_part.not_decided"),
}
COMMON = "Common practice, no source"
UNSURE = re.compile(r"[;,]?\s*(rows )?from memory(, verify)?", re.I)


def cited(citation: str) -> str:
    """A source as a legal record bears it: how surely it is known stands in the program, not on the paper."""
    sure = UNSURE.sub("", citation).strip()
    if not sure.startswith(COMMON):
        return sure
    return joined((say("paper.plan_part.the_kitchens_own_by_common_practice"), sure.removeprefix(COMMON)), "")


def setting_of(step: Step) -> str:
    """The settings of a step in words."""
    specs = [spec for spec in specs_of(type(step)) if spec.name not in ("id", "name", "kind")]
    return joined(
        (
            say(
                "paper.plan_part.plain_name_written",
                plain_name=spec.plain_name(),
                written=spec.written(getattr(step, spec.name)),
            )
            for spec in specs
            if not _is_unsaid(getattr(step, spec.name), type(step).model_fields[spec.name].default)
        ),
        ", ",
    )


def _is_unsaid(value: object, default: object) -> bool:
    """Whether a setting says nothing: one not given, a no by itself, or a length, mass or time of nought."""
    if value is None or (value is False and default is False):
        return True
    return isinstance(value, float | int) and not isinstance(value, bool) and value == 0 == default


def steps_rows(view: BatchView, zone: str) -> list[tuple[str, str, str]]:
    """Each step with its settings and when it ran."""
    by_id = {step.id: step for step in view.plan.steps}
    found: list[tuple[str, str, str]] = []
    for block in view.blocks:
        ran = say("paper.plan_part.not_begun")
        if block.started:
            ended = when(block.ends, zone) if block.finished else say("paper.plan_part.still_running")
            ran = say("paper.plan_part.when_to_ended", when=when(block.starts, zone), ended=ended)
        name: str = say("paper.plan_part.name_critical", name=block.name) if block.critical else block.name
        found.append((name, setting_of(by_id[block.step]), ran))
    return found


def missed_part(view: BatchView, zone: str) -> list[Flowable]:
    """Checks nobody made, with what was said of each."""
    missed = [check for check in view.checks if check.state == "missed"]
    if not missed:
        return [words(say("paper.plan_part.missed_checks"), "head"), words(say("paper.words.none"))]
    found: list[Flowable] = [words(say("paper.plan_part.missed_checks"), "head")]
    for check in missed:
        said = f"{check.answer} ({check.answered_by})" if check.answer else say("paper.plan_part.nobody_has_said_why")
        found.append(
            words(
                say(
                    "paper.plan_part.step_name_what_due_when_said",
                    step_name=check.step_name,
                    what=check.what,
                    when=when(check.due_at, zone),
                    said=said,
                )
            )
        )
    return found


def plan_part(plan: Plan, signed_by: str) -> list[Flowable]:
    """Hazards with their decisions, why a step is not critical and by whom; each control with all of it."""
    names = {step.id: step.name for step in plan.steps}
    found: list[Flowable] = [words(say("paper.plan_part.hazards_and_decisions"), "head")]
    for hazard in plan.hazards:
        said = [
            say(
                "paper.plan_part.get_outcomes",
                get=names.get(d.step, d.step),
                outcomes=OUTCOMES[outcome_of(d.tree, d.answers)],
            )
            for d in hazard.decisions
        ] + [
            say("paper.plan_part.because_by", step=names.get(d.step, d.step), reason=a.reason, by=a.by or signed_by)
            for d in hazard.decisions
            if (a := deciding_answer(d)) is not None and a.reason
        ]
        if not hazard.significant:
            said = [say("paper.plan_part.set_aside", set_aside_because=hazard.set_aside_because)]
        decided = ended(joined(said)) if said else ""
        found.append(
            words(
                say(
                    "paper.plan_part.name_type_ended_decided",
                    name=hazard.name,
                    type=say(f"paper.hazard.{hazard.type}"),
                    ended=ended(hazard.reason),
                    decided=decided,
                )
            )
        )
    found.append(words(say("paper.plan_part.critical_control_points"), "head"))
    for control in plan.controls:
        found += [*_control(control, names.get(control.step, control.step)), Spacer(1, 4)]
    return found


def _control(control: Control, name: str) -> list[Flowable]:
    found: list[Flowable] = [words(name, "bold")]
    found += [
        words(
            say(
                "paper.plan_part.limit_ended_ended2",
                ended=ended(limit.title),
                ended2=ended(cited(limit.source.citation)),
            )
        )
        for limit in control.limits
    ]
    if control.departs:
        found.append(words(say("paper.plan_part.departs_from_the_rule_sets_own", departs=control.departs), "bold"))
    found += [
        words(
            say(
                "paper.plan_part.monitored_by_the",
                what=each.what,
                ended=ended(each.how),
                often=said_often(each),
                who=say(f"paper.who.{each.who}"),
            )
        )
        for each in control.monitoring
    ]
    found += (
        [words(say("paper.plan_part.if_it_is_not_met", corrective_actions=joined(control.corrective_actions, " ")))]
        if control.corrective_actions
        else []
    )
    found += (
        [words(say("paper.plan_part.verified_verification", verification=joined(control.verification, " ")))]
        if control.verification
        else []
    )
    return found


def said_often(monitoring: Monitoring) -> str:
    """When a check is made, in words."""
    said = [
        say("paper.plan_part.at_the_start")
        if offset == 0
        else say("paper.plan_part.offset_in", offset=duration(offset))
        for offset in monitoring.offsets_s
    ]
    if monitoring.every_s:
        said.append(say("paper.plan_part.every_every", every=duration(monitoring.every_s)))
    return raised(joined(said, ", ") or say("paper.plan_part.at_the_end"))


def allergens_of(plan: Plan) -> str:
    """Every allergen of the ingredients, once each."""
    found = sorted({allergen for item in plan.ingredients for allergen in item.allergens})
    return joined(found, ", ") or say("paper.plan_part.none_declared")
