"""What a jar is reckoned for is what is in the dish: a sum for courgettes says nothing of garlic."""

from brinefrost.core.chemistry.jar import vegetables
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.parts import in_by
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import say

SETTING = "vegetable"  # of a step that reckons with one


def reckoned_otherwise(plan: Plan) -> tuple[Finding, ...]:
    """Steps whose sum is for another vegetable than any that is in the dish by then.

    What no ingredient names is not held against it. Valid for plans of one line. Garlic, beans and mushrooms take up
    three to five times the acid of courgettes.
    """
    rows, found = vegetables(), list[Finding]()
    known = {key for row in rows.values() for key in row.of}
    for step in plan.steps:
        key = getattr(step, SETTING, None)
        inside = {str(item.catalogue) for item in in_by(plan, step.id)} & known
        if key not in rows or not inside or inside & set(rows[str(key)].of):
            continue
        said = say("plans.pickled.reckoned_for_another", name=step.name, vegetable=rows[str(key)].name)
        found.append(Finding(step=step.id, state="not_proved", sentence=said))
    return tuple(found)
