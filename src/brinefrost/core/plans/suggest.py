"""What a plan's ingredients and steps suggest: hazards with reasons, decisions on offer, controls with limits."""

from brinefrost.core.errors import NotFoundError
from brinefrost.core.food.catalogue import Advice, CatalogueHazard, catalogue
from brinefrost.core.limits import Limit
from brinefrost.core.plans.allergens import allergens_said, declared_allergens
from brinefrost.core.plans.asked_limits import default_limits, topics_of
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.cook_runs import goes_on
from brinefrost.core.plans.decisions import Answer, TreeId, outcome_of, path_of
from brinefrost.core.plans.document import Control, Decision, Hazard, Ingredient, Plan
from brinefrost.core.plans.foods import food_at, made_on
from brinefrost.core.plans.lines import has_lines, steps_behind, ways_of, ways_with
from brinefrost.core.plans.once import once
from brinefrost.core.plans.parts import is_undone, own_entries_of, own_of, tags_from
from brinefrost.core.plans.reading_times import control_parts
from brinefrost.core.plans.undone import is_dried_whole
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.words import say

STORES: frozenset[str] = frozenset({"keeps", "holds", "freezes"})  # where what lives through a heat has its time


@once
def suggested_hazards(plan: Plan) -> tuple[Hazard, ...]:
    """Hazards that belong to the plan by its ingredients and steps.

    Each with its reason and the steps where a decision is needed; allergens last. Raises NotFoundError if an
    ingredient names a catalogue key that does not exist. Valid as a reminder; it knows only what the catalogue knows.
    Each catalogue entry carries its own.
    """
    if has_lines(plan):
        return _of_all_ways(plan)
    known = catalogue()
    made = made_on(plan)
    own = own_of(plan)
    tags = {*tags_from(own, plan.rule_set), *made}
    raw = {*tags_from(own, plan.rule_set, bought_cooked=False), *made}
    words = [_decided_at(plan, step) for step in plan.steps]
    undone = tags_from(tuple(item for item in own if is_undone(item)), plan.rule_set)
    raised = [
        each
        for each in known.hazards
        if _is_raised(each, raw if each.of_raw else tags, words, plan.guests)
        and not (each.unless_cooked and not undone & set(each.tags) and _is_cooked_behind(each, words))
    ]
    return (*(_hazard(hazard, plan, words) for hazard in raised), allergens_of(plan.ingredients))


def _of_all_ways(plan: Plan) -> tuple[Hazard, ...]:
    """What any way of the food raises, weighed at the steps of all of them, in the plan's order."""
    found: dict[str, tuple[Hazard, set[str]]] = {}
    for way in ways_of(plan):
        for hazard in suggested_hazards(way):
            _, at = found.setdefault(hazard.key, (hazard, set[str]()))
            at.update(each.step for each in hazard.decisions)
    order = {hazard.key: i for i, hazard in enumerate(catalogue().hazards)}
    weighed = [
        hazard.model_copy(update={"decisions": tuple(Decision(step=step.id) for step in plan.steps if step.id in at)})
        for hazard, at in found.values()
        if hazard.key in order
    ]
    return (*sorted(weighed, key=lambda each: order[each.key]), allergens_of(plan.ingredients))


def allergens_of(ingredients: tuple[Ingredient, ...]) -> Hazard:
    """The allergens the ingredients declare, or that they declare none."""
    found = declared_allergens(ingredients)
    return Hazard(
        key="allergens",
        name="Allergens" if found else say("plans.suggest.allergens_none"),
        type="allergen",
        reason=allergens_said(found),
        significant=bool(found),
        set_aside_because="" if found else say("plans.suggest.no_ingredient_declares_one_x"),
    )


def later_step(plan: Plan, hazard_key: str, step: Step) -> str:
    """The step behind this one at which a hazard is usually controlled, else the next at which hands have the food.

    Nothing where there is no step behind it.
    """
    about = next((each for each in catalogue().hazards if each.key == hazard_key), None)
    behind = steps_behind(plan, step.id)
    wanted = set(about.controlled_at) if about else set()
    fits = [each for each in behind if words_of(each) & wanted] or [e for e in behind if "handles" in words_of(e)]
    return (fits or list(behind))[0].id if behind else ""


def suggested_answers(tree_id: TreeId, hazard_key: str, step: Step, later: str = "") -> tuple[Answer, ...]:
    """The answers usually given, with the reason, and the ``later`` step where that does it; empty where the catalogue
    has no advice."""
    dried = (
        {"brings_acid"}
        if "receives" in kind_of(step).acts(step)
        else {"dries_whole"}
        if "dries" in kind_of(step).acts(step)
        else set[str]()
    )
    words, offered = words_of(step) | dried, [a for a in catalogue().advice if a.hazard == hazard_key]
    fits = [a for a in offered if a.step in words] or _looked_for(offered, hazard_key)
    advice = fits[0] if fits else None
    if advice is None:
        return ()
    answers: tuple[Answer, ...] = ()
    while outcome_of(tree_id, answers) == "open":
        question = path_of(tree_id, answers)[-1]
        if question.id not in advice.answers:
            break
        yes = advice.answers[question.id]
        by_step = later if question.id == "later" and yes else ""
        answers = (*answers, Answer(question=question.id, yes=yes, reason=advice.because, by_step=by_step))
    return answers


def _looked_for(offered: list[Advice], hazard_key: str) -> list[Advice]:
    """What is looked for by hand is looked for alike wherever it goes in."""
    physical = {each.key for each in catalogue().hazards if each.type == "physical"}
    return offered[:1] if hazard_key in physical else []


def suggested_control(plan: Plan, step_id: str) -> Control:
    """Limits, monitoring, corrective actions and verification for a critical step.

    Limits from the plan's rule set, and the kitchen's own where they are stricter. Raises NotFoundError if the step is
    not in the plan. Valid for every kind of step; a kind that has no control gets an empty one to be filled in.
    """
    step = plan.step(step_id)
    hazards = tuple(
        hazard.key
        for hazard in plan.hazards
        if any(d.step == step_id and outcome_of(d.tree, d.answers) == "ccp" for d in hazard.decisions)
    )
    parts = control_parts(plan, step)
    return Control(step=step_id, hazards=hazards, **vars(parts))


def with_controls(plan: Plan) -> Plan:
    """The plan with a suggested control at every critical step that has none, and none where it is not critical."""
    critical = plan.critical_steps()
    controls = tuple(plan.control_of(step_id) or suggested_control(plan, step_id) for step_id in critical)
    return plan.model_copy(update={"controls": controls})


def following(plan: Plan, before: Plan) -> Plan:
    """The plan with its controls after its changed steps: what repeated a setting is made anew, what was written stays.

    ``before`` is the plan as it was saved. Valid for any two drafts of one plan.
    """
    kept = {step.id: step for step in before.steps}
    controls = tuple(
        _after(control, suggested_control(before, control.step), suggested_control(plan, control.step))
        if control.step in kept and control.step in {step.id for step in plan.steps}
        else control
        for control in plan.controls
    )
    return plan.model_copy(update={"controls": controls})


def _after(control: Control, was: Control, now: Control) -> Control:
    """A control after its step changed, where its parts still are what was suggested for the step as it was."""
    update: dict[str, object] = {"limits": _limits_after(control.limits, was.limits, now.limits)}
    for part in ("monitoring", "corrective_actions", "verification"):
        if getattr(control, part) == getattr(was, part):
            update[part] = getattr(now, part)
    return control.model_copy(update=update)


def _limits_after(own: tuple[Limit, ...], was: tuple[Limit, ...], now: tuple[Limit, ...]) -> tuple[Limit, ...]:
    """A control's limits, where those that were suggested and are not any more give way to what is suggested now."""
    gone = [limit for limit in own if limit in was and limit not in now]
    if not gone:
        return own
    new = [limit for limit in now if limit not in was and limit not in own]
    found: list[Limit] = []
    for limit in own:
        if limit not in gone:
            found.append(limit)
        elif new:
            found.append(new.pop(0))
    return (*found, *new)


def with_school(plan: Plan, step_id: str, limit_id: str, reason: str) -> Plan:
    """The plan with another school of its rule set at a step, and why it is departed from.

    The limit replaces the one of its topic; raises NotFoundError where the rule set has no such school for the step.
    """
    step = plan.step(step_id)
    rules = context_at(plan, step).rules
    entries = [entry for topic in topics_of(plan, step) for entry in rules.entries_for(topic)]
    chosen = next((entry for entry in entries if entry.limit.id == limit_id), None)
    if chosen is None:
        raise NotFoundError(
            say("plans.suggest.the_rule_set_has_no_limit", name=rules.name, limit_id=limit_id, name2=step.name),
            limit=limit_id,
        )
    same = {entry.limit.id for entry in rules.entries_for(chosen.topic)}
    controls = tuple(
        control.model_copy(
            update={
                "limits": tuple(chosen.limit if limit.id in same else limit for limit in control.limits),
                "departs": reason,
            }
        )
        if control.step == step_id
        else control
        for control in plan.controls
    )
    return plan.model_copy(update={"controls": controls})


def _is_raised(hazard: CatalogueHazard, tags: set[str], words: list[frozenset[str]], guests: str) -> bool:
    """``words`` are what each step goes by, in order."""
    if hazard.guests and guests not in hazard.guests:
        return False
    if hazard.with_step and not any(hazard.with_step in each for each in words):
        return False
    raising = next((n for n, each in enumerate(words) if each & set(hazard.steps)), 0)
    if hazard.unless_served and "serves" in (does := frozenset[str]().union(*words[raising:])) and not STORES & does:
        return False
    heated = next((n + 1 for n, each in enumerate(words) if "heats" in each), len(words))
    all_, later = set[str]().union(*words), set[str]().union(*words[heated:])
    by_tag, by_step = bool(tags & set(hazard.tags)), bool(all_ & set(hazard.steps) or later & set(hazard.after_heat))
    return by_tag and by_step if hazard.all_needed else by_tag or by_step


def _is_cooked_behind(hazard: CatalogueHazard, words: list[frozenset[str]]) -> bool:
    """Whether a cook comes behind every step that raises it."""
    raising = [n for n, each in enumerate(words) if each & set(hazard.steps)]
    return any("cooks" in each for each in words[max(raising, default=-1) + 1 :])


def _decided_at(plan: Plan, step: Step) -> frozenset[str]:
    """What is decided at a step: a cook of several heats at the last of them; what needs no kill at none; and if it
    dries what is cured through."""
    if step is plan.steps[0] and food_at(ways_with(plan, step.id), step).sour_by_nature:
        return words_of(step) | {"brings_acid"}
    if is_dried_whole(plan, step):
        return words_of(step) | {"dries_whole"}
    kills = not goes_on(ways_with(plan, step.id)[0], step.id) and bool(default_limits(plan, step))
    return words_of(step) if kills else words_of(step) - {"cooks"}


def _enters_at(plan: Plan, hazard: CatalogueHazard) -> str:
    """Where what brings a hazard first goes in: what no step is there for is looked at there."""
    brings = frozenset(hazard.tags)
    places = [at for at, part in own_entries_of(plan).items() if tags_from(part, plan.rule_set) & brings]
    return plan.steps[min(places, default=0)].id


def _hazard(hazard: CatalogueHazard, plan: Plan, words: list[frozenset[str]]) -> Hazard:
    where = set(hazard.controlled_at)
    at = tuple(Decision(step=step.id) for step, each in zip(plan.steps, words, strict=True) if each & where)
    if not at and hazard.type == "physical":
        at = (Decision(step=_enters_at(plan, hazard)),)
    return Hazard(key=hazard.key, name=hazard.name, type=hazard.type, reason=hazard.reason, decisions=at)
