"""What a plan's ingredients and steps suggest: hazards with reasons, decisions on offer, controls with limits."""

from brinefrost.core.errors import NotFoundError
from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.plans.catalogue import CatalogueHazard, catalogue
from brinefrost.core.plans.decisions import Answer, TreeId, outcome_of, path_of
from brinefrost.core.plans.document import Control, Decision, Hazard, Ingredient, Monitoring, Plan
from brinefrost.core.plans.steps import BathCook, ColdKeep, Receive, Reheat, Seal, SlurryChill
from brinefrost.core.plans.walk import cook_topic, for_guests, topics_of
from brinefrost.core.rules import RuleSet, rule_set
from brinefrost.core.working import Source


def blank_plan(name: str, rule_set_id: str) -> Plan:
    """A bag-cooked, chilled and reheated strip to start from, with the parameters still to be looked at."""
    return Plan.model_validate(
        {
            "name": name,
            "rule_set": rule_set_id,
            "steps": [
                Receive(id="receive", name="Receive"),
                Seal(id="seal", name="Seal", pack_mass_kg=1.2, packs=6),
                BathCook(id="cook", name="Bath", thickness_m=0.028, start_c=4, bath_c=63, duration_s=7200),
                SlurryChill(id="chill", name="Slurry"),
                ColdKeep(id="keep", name="Cold keep"),
                Reheat(id="reheat", name="Reheat"),
            ],
        }
    )


def suggested_hazards(plan: Plan) -> tuple[Hazard, ...]:
    """Hazards that belong to the plan by its ingredients and steps.

    Parameters
    ----------
    plan : Plan
        The plan as it stands.

    Returns
    -------
    tuple of Hazard
        Each with its reason and the steps where a decision is needed; allergens last.

    Raises
    ------
    NotFoundError
        If an ingredient names a catalogue key that does not exist.

    Notes
    -----
    Valid as a reminder; it knows only what the catalogue knows.

    References
    ----------
    Each catalogue entry carries its own.
    """
    known = catalogue()
    tags = {tag for item in plan.ingredients if item.catalogue for tag in known.ingredient(item.catalogue).tags}
    kinds: set[str] = {step.kind for step in plan.steps}
    raised = [hazard for hazard in known.hazards if _raised(hazard, tags, kinds, plan.guests)]
    return (*(_hazard(hazard, plan) for hazard in raised), allergens_of(plan.ingredients))


def allergens_of(ingredients: tuple[Ingredient, ...]) -> Hazard:
    """The allergens the ingredients declare, or that they declare none."""
    known = catalogue()
    found = sorted(
        {
            allergen
            for item in ingredients
            for allergen in (*item.allergens, *(known.ingredient(item.catalogue).allergens if item.catalogue else ()))
        }
    )
    if found:
        reason = f"Declared in the ingredients: {', '.join(found)}. Say so on every label."
    else:
        reason = "None of the declarable allergens is in the ingredients named. Read every label of what is bought."
    return Hazard(
        key="allergens",
        name="Allergens" if found else "Allergens: none",
        type="allergen",
        reason=reason,
        significant=bool(found),
        set_aside_because="" if found else "No ingredient declares one.",
    )


def suggested_answers(tree_id: TreeId, hazard_key: str, step_kind: str) -> tuple[Answer, ...]:
    """The answers usually given, with the reason; empty where the catalogue has no advice."""
    advice = next((a for a in catalogue().advice if a.hazard == hazard_key and a.step == step_kind), None)
    if advice is None:
        return ()
    answers: tuple[Answer, ...] = ()
    while outcome_of(tree_id, answers) == "open":
        question = path_of(tree_id, answers)[-1]
        if question.id not in advice.answers:
            break
        answers = (*answers, Answer(question=question.id, yes=advice.answers[question.id], reason=advice.because))
    return answers


def suggested_control(plan: Plan, step_id: str) -> Control:
    """Limits, monitoring, corrective actions and verification for a critical step.

    Parameters
    ----------
    plan : Plan
        The plan with its decisions.
    step_id : str
        A step of the plan.

    Returns
    -------
    Control
        Limits from the plan's rule set, and the kitchen's own where they are stricter.

    Raises
    ------
    NotFoundError
        If the step is not in the plan.

    Notes
    -----
    Valid for baths, slurries and cold keeping; other steps get an empty control to be filled in.

    References
    ----------
    Each limit carries its own.
    """
    step, rules = plan.step(step_id), rule_set(plan.rule_set)
    hazards = tuple(
        hazard.key
        for hazard in plan.hazards
        if any(d.step == step_id and outcome_of(d.tree, d.answers) == "ccp" for d in hazard.decisions)
    )
    if isinstance(step, BathCook):
        return _cook(plan, step, rules, hazards)
    if isinstance(step, SlurryChill):
        return _chill(step, rules, hazards)
    if isinstance(step, ColdKeep):
        return _keep(plan, step, rules, hazards)
    if isinstance(step, Reheat):
        return _reheat(step, rules, hazards)
    if isinstance(step, Receive):
        return _receive(step, rules, hazards)
    return Control(step=step_id, hazards=hazards, limits=(), monitoring=(), corrective_actions=(), verification=())


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
    swapped = dict(zip([limit.model_dump_json() for limit in was.limits], now.limits, strict=False))
    update: dict[str, object] = {
        "limits": tuple(swapped.get(limit.model_dump_json(), limit) for limit in control.limits)
    }
    for part in ("monitoring", "corrective_actions", "verification"):
        if getattr(control, part) == getattr(was, part):
            update[part] = getattr(now, part)
    return control.model_copy(update=update)


def with_school(plan: Plan, step_id: str, limit_id: str, reason: str) -> Plan:
    """The plan with another school of its rule set at a step, and why it is departed from.

    The limit replaces the one of its topic; raises NotFoundError where the rule set has no such school for the step.
    """
    step, rules = plan.step(step_id), rule_set(plan.rule_set)
    entries = [entry for topic in topics_of(plan, step) for entry in rules.entries_for(topic)]
    chosen = next((entry for entry in entries if entry.limit.id == limit_id), None)
    if chosen is None:
        raise NotFoundError(f"The rule set {rules.name} has no limit “{limit_id}” for {step.name}.", limit=limit_id)
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


def _raised(hazard: CatalogueHazard, tags: set[str], kinds: set[str], guests: str) -> bool:
    if hazard.guests and guests not in hazard.guests:
        return False
    by_tag, by_step = bool(tags & set(hazard.tags)), bool(kinds & set(hazard.steps))
    return by_tag and by_step if hazard.all_needed else by_tag or by_step


def _hazard(hazard: CatalogueHazard, plan: Plan) -> Hazard:
    at = tuple(Decision(step=step.id) for step in plan.steps if step.kind in hazard.controlled_at)
    return Hazard(key=hazard.key, name=hazard.name, type=hazard.type, reason=hazard.reason, decisions=at)


def _cook(plan: Plan, step: BathCook, rules: RuleSet, hazards: tuple[str, ...]) -> Control:
    return Control(
        step=step.id,
        hazards=hazards,
        limits=(rules.limit_for(cook_topic(plan)), rules.limit_for("come_up")),
        monitoring=(
            Monitoring(
                id="bath",
                what="Bath temperature",
                quantity="bath",
                how="Probe in the water, away from the heater",
                offsets_s=(0.0, 1800.0, 3600.0),
                expected_low_c=step.bath_c - 8,
                expected_high_c=step.bath_c + 1,
            ),
            Monitoring(
                id="core",
                what="Core of the thickest bag, end of cook",
                quantity="core",
                how="Needle probe through a foam seal; logger from start to end where there is one",
                expected_low_c=step.bath_c - 3,
                expected_high_c=step.bath_c + 0.5,
            ),
        ),
        corrective_actions=(
            "Leave the bags in the bath until the lethality is met; record the new end.",
            "If the come-up limit is broken, hold the batch apart: the lead decides.",
        ),
        verification=("The lead reads the core curve of every batch.", "Probe checked at ice point each week."),
    )


def _chill(step: SlurryChill, rules: RuleSet, hazards: tuple[str, ...]) -> Control:
    return Control(
        step=step.id,
        hazards=hazards,
        limits=(rules.limit_for("chill.cooked"),),
        monitoring=(
            Monitoring(
                id="core",
                what="Core of the thickest bag",
                quantity="core",
                how="Needle probe through a foam seal",
                offsets_s=(0.0, 900.0, 1800.0, 3600.0, 7200.0),
                expected_low_c=-1,
                expected_high_c=65,
            ),
            Monitoring(
                id="slurry",
                what="Slurry temperature, ice left",
                quantity="bath",
                how="Probe in the stirred slurry",
                offsets_s=(0.0, 1800.0),
                expected_low_c=-1,
                expected_high_c=3,
            ),
        ),
        corrective_actions=(
            "Part the bags into one layer, top up ice, stir; measure the core again after 10 min.",
            "If a stage is missed, hold the batch apart: the lead decides.",
        ),
        verification=("The lead reads the chill curve of every batch.",),
    )


def _keep(plan: Plan, step: ColdKeep, rules: RuleSet, hazards: tuple[str, ...]) -> Control:
    days = for_guests(plan, rules.bound_for("keep.days"))
    assert isinstance(days, Threshold)  # noqa: S101 (a bound stays one)
    return Control(
        step=step.id,
        hazards=hazards,
        limits=(
            stricter(rules.bound_for("keep.sealed"), step.max_c, "own-keep-c", f"Kept at or below {step.max_c:g} °C"),
            stricter(days, step.days, "own-keep-days", f"Used or discarded within {step.days:g} days"),
        ),
        monitoring=(
            Monitoring(
                id="air",
                what="Air in the cold store",
                quantity="air",
                how="Unit's own logger or a probe at the door shelf",
                every_s=43200.0,
                offsets_s=(0.0,),
                expected_low_c=-1,
                expected_high_c=step.max_c + 1,
            ),
        ),
        corrective_actions=(
            "Above the limit: move the bags to a cold unit, measure a core, tell the lead.",
            "Past its date: discard.",
        ),
        verification=("The lead reads the unit's log each week.",),
    )


def _reheat(step: Reheat, rules: RuleSet, hazards: tuple[str, ...]) -> Control:
    return Control(
        step=step.id,
        hazards=hazards,
        limits=(rules.limit_for("reheat"),),
        monitoring=(
            Monitoring(
                id="core",
                what="Core of the thickest portion, reheated",
                quantity="core",
                how="Probe in the middle; read twice where the rule asks for a time",
                expected_low_c=step.core_c - 5,
                expected_high_c=100,
            ),
        ),
        corrective_actions=("Heat on and read the core again.", "Not there within 2 h: discard."),
        verification=("The lead reads the reheating records each week.",),
    )


def _receive(step: Receive, rules: RuleSet, hazards: tuple[str, ...]) -> Control:
    own = stricter(
        rules.bound_for("receive.cold"), step.max_c, "own-receive-c", f"Received at or below {step.max_c:g} °C"
    )
    return Control(
        step=step.id,
        hazards=hazards,
        limits=(own,),
        monitoring=(
            Monitoring(
                id="core",
                what="Warmest pack of the delivery",
                quantity="core",
                how="Probe between two packs",
                offsets_s=(0.0,),
                expected_low_c=-2,
                expected_high_c=step.max_c + 3,
            ),
        ),
        corrective_actions=("Warmer than the limit: refuse the delivery, tell the supplier.",),
        verification=("The lead reads the delivery records each week.",),
    )


def stricter(law: Threshold, own: float, own_id: str, title: str) -> Limit:
    """The kitchen's own bound [unit of the law's] where it is stricter than the law's, else the law's.

    Valid for plain bounds.
    """
    if own < law.value if law.comparison == "at_most" else own > law.value:
        said = f"The kitchen's own, stricter than {law.value:g} {law.unit} ({law.source.citation})"
        return law.model_copy(
            update={"id": own_id, "title": title, "value": own, "source": Source(citation=said, tag=law.source.tag)}
        )
    return law
