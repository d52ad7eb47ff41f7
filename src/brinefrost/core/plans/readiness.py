"""What stands between a plan and a signature."""

import re

from brinefrost.core.limits import Limit
from brinefrost.core.plans.asked_limits import default_limits, entry_of, topics_of
from brinefrost.core.plans.contexts import context_at, provable
from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Control, Hazard, Plan
from brinefrost.core.plans.order import find_order_faults
from brinefrost.core.plans.parts import tags_from
from brinefrost.core.plans.suggest import suggested_hazards
from brinefrost.core.plans.taken_away import taken_away
from brinefrost.core.plans.unheld import answered_by_advisory, is_goods
from brinefrost.core.reasons import is_reason
from brinefrost.core.rules import RuleEntry
from brinefrost.core.rules.layers import strictness
from brinefrost.core.steps import Step
from brinefrost.core.steps.stricter import for_guests
from brinefrost.core.words import Words, num, say
from brinefrost.core.working import Document

# animals a dish may be named after, and the tag an ingredient of it bears
SPECIES_WORDS: dict[str, str] = {
    "chicken": "poultry", "goose": "goose", "geese": "goose", "duck": "duck", "turkey": "turkey", "quail": "quail",
    "pigeon": "pigeon", "guinea": "guinea_fowl", "beef": "beef", "veal": "veal", "lamb": "lamb", "mutton": "lamb",
    "pork": "pork", "ham": "pork", "boar": "boar", "venison": "game", "hare": "game", "rabbit": "rabbit", "egg": "egg",
    "eggs": "egg", "salmon": "fish", "trout": "fish", "char": "fish", "cod": "fish", "tuna": "fish", "mackerel": "fish",
    "fish": "fish", "scallop": "shellfish", "oyster": "shellfish", "mussel": "shellfish", "lobster": "crustacean",
    "shrimp": "crustacean", "crab": "crustacean", "octopus": "cephalopod", "squid": "cephalopod",
    "cuttlefish": "cephalopod", "custard": "egg", "pheasant": "pheasant", "partridge": "partridge", "goat": "goat",
    "herring": "fish", "sardine": "fish", "anchovy": "fish", "haddock": "fish", "hake": "fish", "halibut": "fish",
    "turbot": "fish", "plaice": "fish", "monkfish": "fish", "zander": "fish", "pike": "fish", "eel": "fish",
    "prawn": "crustacean", "langoustine": "crustacean", "crayfish": "crustacean", "clam": "shellfish",
}  # fmt: skip


class Gap(Document):
    """Something missing, and where."""

    where: str
    sentence: Words


def gaps_of(plan: Plan) -> tuple[Gap, ...]:
    """Everything that must be settled before a plan can be signed.

    Empty when it can be signed. Raises PlanIncompleteError if a question of a tree has two answers. Valid for every
    plan; the proof is judged apart, but a plan that nothing can prove is named here. Codex CXC 1-1969 (2022), chapter
    two, principles 1 to 6.
    """
    found: list[Gap] = [*_process_gaps(plan)]
    if not plan.hazards:
        found.append(Gap(where="hazards", sentence=say("plans.readiness.take_over_or_add_the_hazards")))
    found += _missing_hazards(plan)
    for hazard in plan.hazards:
        found += _hazard_gaps(plan, hazard)
    found += [Gap(where="hazards", sentence=each.sentence) for each in taken_away(plan)]
    critical = plan.critical_steps()
    for step_id in critical:
        control = plan.control_of(step_id)
        if control is None:
            name = plan.step(step_id).name
            found.append(
                Gap(where="controls", sentence=say("plans.readiness.is_critical_and_has_no_limits", name=name))
            )
        else:
            found += [*_control_gaps(plan, control), *_limit_gaps(plan, control)]
    return tuple(found)


def _process_gaps(plan: Plan) -> list[Gap]:
    found: list[Gap] = []
    if not plan.ingredients:
        found.append(Gap(where="process", sentence=say("plans.readiness.name_the_ingredients_the_hazards_come")))
    for item in plan.ingredients:
        if item.catalogue is None and item.described is None:
            said = say("plans.readiness.is_not_understood_say_what_it", name=item.name)
            found.append(Gap(where="process", sentence=said))
        elif item.described is not None and not item.described.is_answered:
            said = say("plans.readiness.nobody_answers_for", name=item.name)
            found.append(Gap(where="process", sentence=said))
    missing = provable(plan)
    if missing and (plan.ingredients or not plan.steps):
        found.append(Gap(where="process", sentence=missing))
    found += [Gap(where="process", sentence=each.sentence) for each in find_order_faults(plan) if each.state == "fails"]
    return [*found, *_foreign_species(plan)]


def _foreign_species(plan: Plan) -> list[Gap]:
    """A dish named after an animal that is not in it is proved with another's thermal values and hazards."""
    tags = tags_from(plan.ingredients, plan.rule_set)
    words = re.findall(r"[a-z]+", f"{plan.name} {plan.product}".lower())
    named = {word: tag for word, tag in SPECIES_WORDS.items() if word in words or f"{word}s" in words}
    return [
        Gap(
            where="process",
            sentence=say("plans.readiness.it_is_named_after_and_no", word=word),
        )
        for word, tag in named.items()
        if plan.ingredients and tag not in tags
    ]


def _missing_hazards(plan: Plan) -> list[Gap]:
    """What ingredients and steps raise and the plan does not have, or does not weigh at a step that needs it."""
    have = {hazard.key: hazard for hazard in plan.hazards}
    found: list[Gap] = []
    if not plan.hazards or not plan.ingredients:
        return found
    for raised in suggested_hazards(plan):
        mine = have.get(raised.key)
        if mine is None:
            found.append(
                Gap(where="hazards", sentence=say("plans.readiness.is_raised_by_this_process_and", name=raised.name))
            )
            continue
        weighed = {decision.step for decision in mine.decisions}
        for decision in raised.decisions:
            if mine.significant and decision.step not in weighed:
                name = plan.step(decision.step).name
                found.append(
                    Gap(where="hazards", sentence=say("plans.readiness.is_not_weighed_at", name=mine.name, name2=name))
                )
    return found


def _hazard_gaps(plan: Plan, hazard: Hazard) -> list[Gap]:
    if not hazard.significant:
        if is_reason(hazard.set_aside_because):
            return []
        return [Gap(where="hazards", sentence=say("plans.readiness.is_set_aside_say_why_in", name=hazard.name))]
    found = []
    outcomes = [(decision, outcome_of(decision.tree, decision.answers)) for decision in hazard.decisions]
    known = {step.id for step in plan.steps}
    for decision, outcome in outcomes:
        if decision.step not in known:
            found.append(
                Gap(where="hazards", sentence=say("plans.readiness.is_weighed_at_a_step_that", name=hazard.name))
            )
        elif outcome == "open":
            name = plan.step(decision.step).name
            found.append(
                Gap(
                    where="hazards",
                    sentence=say("plans.readiness.at_the_decision_is_not_finished", name=hazard.name, name2=name),
                )
            )
    if hazard.type != "allergen" and not outcomes and not answered_by_advisory(plan, hazard) and not is_goods(plan):
        found.append(
            Gap(where="hazards", sentence=say("plans.readiness.matters_and_no_step_of_this", name=hazard.name))
        )
    if outcomes and all(outcome == "modify" for _, outcome in outcomes):
        found.append(
            Gap(where="hazards", sentence=say("plans.readiness.no_step_controls_it_change_the", name=hazard.name))
        )
    return found


def _control_gaps(plan: Plan, control: Control) -> list[Gap]:
    name = plan.step(control.step).name
    needs = (
        (control.limits, say("plans.readiness.a_critical_limit")),
        (control.monitoring, "monitoring"),
        (control.corrective_actions, say("plans.readiness.a_corrective_action")),
        (control.verification, "verification"),
    )
    return [
        Gap(where="controls", sentence=say("plans.readiness.name_needs_words", name=name, words=words))
        for part, words in needs
        if not part
    ]


def departures_of(plan: Plan, control: Control) -> tuple[str, ...]:
    """Where a control is looser than its rule set's own limits, leaves one out, or takes another school.

    One sentence each; empty where every topic is met at least as strictly. Raises NotFoundError if the control names a
    step the plan does not have. Valid for limits of the same kind; what cannot be compared counts as a departure.
    """
    step = plan.step(control.step)
    rules = context_at(plan, step).rules
    found: list[str] = []
    for topic in topics_of(plan, step):
        entries = rules.entries_for(topic)
        if not entries:
            continue
        own = for_guests(plan.guests, entries[0].limit)
        stands = [_stands(limit, own) for limit in control.limits]
        if any(each in ("stricter", "same") for each in stands):
            continue
        school = next((e for e in entries[1:] for limit in control.limits if _stands(limit, e.limit) != "other"), None)
        found.append(_departure(step, own, school, control, stands))
    topical = {entry.limit.id for topic in topics_of(plan, step) for entry in rules.entries_for(topic)}
    for own in default_limits(plan, step):
        if own.id.removesuffix("-higher-risk") in topical:
            continue
        stands = [_stands(limit, own) for limit in control.limits]
        if not any(each in ("stricter", "same") for each in stands):
            found.append(_departure(step, own, None, control, stands))
    return tuple(found)


def _stands(limit: Limit, own: Limit) -> str:
    """How a limit stands to the rule's; "other" where it is of another kind or quantity."""
    if limit.kind != own.kind or limit.quantity != own.quantity:
        return "other"
    found = strictness(limit, own)
    return "other" if found == "different" and limit.id != own.id else found


def _departure(step: Step, own: Limit, school: RuleEntry | None, control: Control, stands: list[str]) -> str:
    if school is not None and "looser" not in stands:
        return say(
            "plans.readiness.takes_for", name=step.name, school=school.school, title=own.title, approval=school.approval
        )
    loose = next((limit for limit, each in zip(control.limits, stands, strict=True) if each != "other"), None)
    if loose is None:
        return say("plans.readiness.leaves_out_its_rule_sets_own", name=step.name, title=own.title)
    return say("plans.readiness.is_looser_than", name=step.name, title=loose.title, title2=own.title)


def _limit_gaps(plan: Plan, control: Control) -> list[Gap]:
    departures = departures_of(plan, control)
    found: list[Gap] = []
    for said in departures:
        if plan.guests == "higher_risk":
            found.append(
                Gap(where="controls", sentence=say("plans.readiness.for_guests_at_higher_risk_the", said=said))
            )
        elif not is_reason(control.departs):
            found.append(
                Gap(where="controls", sentence=say("plans.readiness.write_why_it_is_departed_from", said=said))
            )
    step = plan.step(control.step)
    rules = context_at(plan, step).rules
    asked = [entry.limit for topic in topics_of(plan, step) for entry in rules.entries_for(topic)]
    bounds = {getattr(each, "value", None) for each in (*asked, *default_limits(plan, step))}
    for limit in control.limits:
        law = getattr(limit, "law", None)
        if law is not None and law not in bounds:  # its doubt is measured against that line: it is no one's to choose
            said = say("plans.readiness.is_looser_than", name=step.name, title=limit.title, title2=num(law))
            found.append(Gap(where="controls", sentence=said))
        entry = entry_of(plan, step, limit)
        if entry is not None and limit != entry.limit and strictness(limit, entry.limit) in ("looser", "different"):
            found.append(
                Gap(
                    where="controls",
                    sentence=say(
                        "plans.readiness.no_longer_says_what_says_take",
                        name=step.name,
                        title=limit.title,
                        citation=entry.limit.source.citation,
                    ),
                )
            )
    return found
