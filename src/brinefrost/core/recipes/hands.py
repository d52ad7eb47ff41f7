"""Work by hand: what is cut, mixed, filled, and how long it lies out of the cold meanwhile."""

from brinefrost.core.recipes.clauses import Clause
from brinefrost.core.recipes.made import Made, Making, tells
from brinefrost.core.words import duration, say

WORK = {
    "shred": "shred", "slice": "slice", "mince": "mince", "mix": "mix", "fill": "fill", "pierce": "pierce",
    "roll": "roll", "portion": "portion", "rest": "portion", "press": "press", "rinse": "rinse", "strain": "strain",
    "coat": "coat", "bread": "bread", "peel": "trim", "leave": "portion", "whisk": "mix", "rub": "coat",
}  # fmt: skip
GRAVE = ("mince", "pierce", "roll", "fill")  # what makes the inside an outside goes before what does not
WORK_S = 900.0  # what hands take, where nobody says


def work_by_hand(making: Making, clause: Clause) -> Made:
    """Work on the food; what follows itself without a time of its own is one step."""
    work = WORK[clause.action]
    before = making.steps[-1] if making.steps else None
    if before is not None and before.kind == "handwork" and clause.lasts_s is None:
        timed = any(tells(each, "recipes.assumed.by_hand") for each in before.assumed)
        if timed:
            before.text += " " + clause.said
            if work in GRAVE and before.settings["work"] not in GRAVE:
                before.settings["work"] = work
            return before
    lasts = clause.lasts_s[1] if clause.lasts_s else WORK_S
    assumed = () if clause.lasts_s else (say("recipes.assumed.by_hand", lasts=duration(lasts)),)
    action = clause.action if clause.action in ("rest", "leave") else "by_hand"
    return making.add("handwork", action, clause, assumed, work=work, duration_s=lasts)
