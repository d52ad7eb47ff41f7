"""Salting, rubbed or brined: its share from the recipe's own masses, its time from what follows."""

from brinefrost.core.recipes.clauses import Clause
from brinefrost.core.recipes.hands import work_by_hand
from brinefrost.core.recipes.made import FLESH, Made, Making, tells
from brinefrost.core.words import Words, duration, percent, say


def salt_food(making: Making, clause: Clause) -> Made | None:
    """Salt over all of it, a brine with its water; rubbed with what is no salt it is work by hand."""
    before = find_untimed_salting(making)
    if clause.action == "rub" and "salt" not in clause.mentions:
        return work_by_hand(making, clause)
    if before is not None:
        return salt_longer(before, clause)
    brined = clause.action == "brine" or "salt_water" in clause.flags
    flesh = making.kilograms(making.of(*FLESH)) or making.kilograms(list(making.rows))
    wet = flesh + (making.rows.get("water", 0.0) if brined else 0.0)
    share = 100.0 * making.rows.get("salt", 0.0) / wet if wet else 0.0
    assumed: list[Words] = []
    if share <= 0:
        share = 1.8
        assumed.append(say("recipes.assumed.salt", share=percent(share)))
    lasts = clause.lasts_s[1] if clause.lasts_s else 600.0
    if not clause.lasts_s:
        assumed.append(say("recipes.assumed.lasts", lasts=duration(lasts)))
    piece, thick = making.piece_m()
    return making.add(
        "salting", "salt", clause, (*assumed, *thick), way="brined" if brined else "rubbed",
        salt_percent=round(share, 2), duration_s=lasts, thickness_m=piece,
    )  # fmt: skip


def salt_longer(before: Made, clause: Clause) -> Made:
    """Rubbed, then left: one step."""
    if clause.lasts_s:
        before.settings["duration_s"] = clause.lasts_s[1]
        before.assumed = [each for each in before.assumed if not tells(each, "recipes.assumed.lasts")]
    before.text += " " + clause.said
    return before


def find_untimed_salting(making: Making) -> Made | None:
    """A salting that nobody has said the length of yet."""
    before = making.steps[-1] if making.steps else None
    if before is None or before.kind != "salting":
        return None
    return before if any(tells(each, "recipes.assumed.lasts") for each in before.assumed) else None
