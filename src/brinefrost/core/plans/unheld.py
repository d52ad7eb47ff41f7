"""What the food brings and no step holds."""

from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.document import Hazard, Plan
from brinefrost.core.plans.suggest import suggested_hazards
from brinefrost.core.plans.undone import brought_by_undone
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import say

STORED_ONLY = frozenset({"receives", "keeps", "stores", "stores_frozen", "freezes"})


def is_goods(plan: Plan) -> bool:
    """Whether raw goods are only stored: what is made of them answers for what they bring. Valid for every plan."""
    return all(kind_of(step).acts(step) <= STORED_ONLY for step in plan.steps)


def answered_by_advisory(plan: Plan, hazard: Hazard) -> bool:
    """Whether it comes with what is eaten raw or rare alone: then no step controls it, and the guests are told.

    Valid for every hazard.
    """
    about = next((each for each in catalogue().hazards if each.key == hazard.key), None)
    return about is not None and brought_by_undone(plan, frozenset(about.tags))


def unheld_organisms(plan: Plan) -> tuple[Finding, ...]:
    """Organisms that ingredients and steps raise and no step of the plan is there to control: not proved.

    Bones, films and allergens are decided by practice; what comes of a batch of this kitchen answers to that batch.
    Valid for every plan.
    """
    if is_goods(plan):
        return ()
    bought = tuple(item for item in plan.ingredients if not item.made_here)
    only_bought = plan if bought == plan.ingredients else plan.model_copy(update={"ingredients": bought})
    raised = {each.key for each in suggested_hazards(only_bought)}
    return tuple(
        Finding(
            step=plan.steps[-1].id,
            state="not_proved",
            sentence=say("plans.readiness.matters_and_no_step_of_this", name=hazard.name),
        )
        for hazard in suggested_hazards(plan)
        if hazard.type == "biological" and hazard.key in raised and not hazard.decisions
        if not answered_by_advisory(plan, hazard)
    )
