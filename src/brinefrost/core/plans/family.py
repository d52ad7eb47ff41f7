"""Which family of dishes a plan belongs to: what the library is sorted by."""

from typing import get_args

from brinefrost.core.plans.document import Family, Plan
from brinefrost.core.plans.parts import known_of
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.heat_in import HeatIn
from brinefrost.core.words import Words, say

FAMILIES: tuple[Family, ...] = get_args(Family)
CONFIT_MOST_C = 110.0  # hotter fat fries
FLESH = frozenset({"meat", "fish", "shellfish"})


def find_family(plan: Plan) -> Family:
    """The family a plan is filed under: its own where it names one, else by what its steps do and what is in it.

    It says where a dish stands on a list and nothing more: no limit asks for it. Valid for every plan.
    """
    return plan.family or _by_steps(plan)


def name_family(family: Family) -> Words:
    """The family's name as somebody reads it."""
    return say(f"plans.family.{family}")


def _by_steps(plan: Plan) -> Family:
    acts = {act for step in plan.steps for act in kind_of(step).acts(step)}
    rows = [frozenset(row.tags) for row in known_of(plan.ingredients)]
    within = frozenset[str]().union(*rows)
    if "smokes" in acts:
        return "smoked"
    if any(_is_confit(step) for step in plan.steps):
        return "confit"
    if acts & {"ripens", "acidifies", "jars"} and not within & FLESH and "egg" not in within:
        return "pickles"
    if acts & {"ripens", "dries"}:
        return "cures"
    if "heats" not in acts and within & {"fish", "shellfish"}:
        return "raw_fish"
    if "egg" in within and not any(tags & (FLESH | {"starch"}) for tags in rows):
        return "eggs"
    if "heats" not in acts and "salts" in acts:
        return "cures"
    if "seals" in acts and "heats" in acts:
        return "bag"
    return "cook_chill" if acts - {"receives"} else "own"


def _is_confit(step: object) -> bool:
    return isinstance(step, HeatIn) and step.medium == "still_fat" and step.surroundings_c <= CONFIT_MOST_C
