"""Answers of a decision tree that take a control away: each wants its reason, and some no reason can stand for."""

from brinefrost.core.food.catalogue import CatalogueHazard, catalogue
from brinefrost.core.plans.decisions import Answer, outcome_of, path_of
from brinefrost.core.plans.document import Decision, Hazard, Plan
from brinefrost.core.plans.lines import has_lines, ways_of
from brinefrost.core.plans.parts import known_of, own_of, tags_from
from brinefrost.core.plans.suggest import suggested_answers, suggested_hazards
from brinefrost.core.plans.undone import brought_by_undone
from brinefrost.core.reasons import says
from brinefrost.core.steps import words_of
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import say

LEAST_REASON, LEAST_WORDS = 12, 3  # of a reason for leaving a control out; common practice, no source
SHELF = "shelves"  # what stands without cold has nothing but its heat and its acid


def taken_away(plan: Plan) -> tuple[Finding, ...]:
    """Where the decisions of a plan leave a significant hazard without the control it needs.

    An answer that ends without a critical point, good hygiene alone among them, wants a reason of substance; *a later
    step does it* names the step, which must follow and be critical for that hazard; a biological hazard that raw food
    of animals brings, or any in a jar for the shelf, that is usually controlled at a step of this process and is at
    none, is not proved whatever the reason. Valid for every plan; nothing while a decision is open. Codex CXC 1-1969
    (2022), principle 2 and annex IV.
    """
    if has_lines(plan):
        return tuple(dict.fromkeys(found for way in ways_of(plan) for found in taken_away(way)))
    found: list[Finding] = []
    usual = {hazard.key: hazard for hazard in suggested_hazards(plan)} if plan.hazards else {}
    for hazard in plan.hazards:
        if not hazard.significant or hazard.type == "allergen":
            continue
        for decision in hazard.decisions:
            found += _of_decision(plan, hazard, decision)
        found += _without_control(plan, hazard, usual.get(hazard.key))
    return tuple(found)


def deciding_answer(decision: Decision) -> Answer | None:
    """The answer by which a decision ended without a critical point; None where it did not. Valid for every one."""
    if outcome_of(decision.tree, decision.answers) != "not_ccp":
        return None
    last = path_of(decision.tree, decision.answers)[-1].id
    return next((answer for answer in decision.answers if answer.question == last), None)


def _of_decision(plan: Plan, hazard: Hazard, decision: Decision) -> list[Finding]:
    order = [step.id for step in plan.steps]
    answer = deciding_answer(decision)
    if answer is None or decision.step not in order:
        return []
    at = plan.step(decision.step).name

    def finding(sentence: str) -> list[Finding]:
        return [Finding(step=decision.step, state="not_proved", sentence=sentence)]

    if not says(answer.reason, LEAST_REASON, LEAST_WORDS):
        return finding(say("plans.taken_away.write_why", name=hazard.name, at=at))
    if answer.question != "later" or not answer.yes:
        return []
    behind = order[order.index(decision.step) + 1 :]
    if answer.by_step not in behind:
        return finding(say("plans.taken_away.name_the_later_step", name=hazard.name, at=at))
    there = [each for each in hazard.decisions if each.step == answer.by_step]
    critical = any(outcome_of(each.tree, each.answers) in ("ccp", "open") for each in there)
    if critical or hazard.type != "biological":  # a bone is picked out by hand, which is no critical point
        return []
    later = plan.step(answer.by_step).name
    return finding(say("plans.taken_away.the_later_step_is_not_critical", name=hazard.name, at=at, later=later))


def _without_control(plan: Plan, hazard: Hazard, raised: Hazard | None) -> list[Finding]:
    """A hazard that must have a critical step in this process and has none."""
    outcomes = [outcome_of(each.tree, each.answers) for each in hazard.decisions]
    if raised is None or not outcomes or set(outcomes) & {"ccp", "open"} or not _must_have(plan, hazard):
        return []
    for decision in raised.decisions:
        step = plan.step(decision.step)
        if outcome_of(decision.tree, suggested_answers(decision.tree, hazard.key, step)) == "ccp":
            said = say("plans.taken_away.needs_a_critical_step", name=hazard.name, at=step.name)
            return [Finding(step=step.id, state="not_proved", sentence=said)]
    return []


def _must_have(plan: Plan, hazard: Hazard) -> bool:
    about = next((each for each in catalogue().hazards if each.key == hazard.key), None)
    if about is None or about.type != "biological":
        return False
    if brought_by_undone(plan, frozenset(about.tags)):
        return False
    return _brought_raw(plan, about) or any(SHELF in words_of(step) for step in plan.steps)


def _brought_raw(plan: Plan, about: CatalogueHazard) -> bool:
    """Whether raw food of animals brings it: by what it is, not by what is done to it."""
    rows = known_of(own_of(plan))
    raw = {tag for row in rows if "raw" in row.tags for tag in row.tags}
    if "parasites" in tags_from(own_of(plan), plan.rule_set):
        raw.add("parasites")
    return bool(set(about.tags) & raw)
