"""The food on one way through a plan: what goes in at each step, and what each step makes of it."""

from collections.abc import Mapping
from dataclasses import dataclass

from brinefrost.core.limits import Threshold
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.once import once
from brinefrost.core.plans.parts import entries_of, is_ready_plant, is_undone, known_of, tags_from, thermal_from
from brinefrost.core.rules import target
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.food import Food


@dataclass(frozen=True)
class Passage:
    """Food as a step finds it, with what goes in there, and as the step leaves it."""

    before: Food
    after: Food


@once
def passages_on(way: Plan) -> Mapping[str, Passage]:
    """By step: the food in and out of it. Valid for a plan without lines."""
    acts = [kind_of(step).acts(step) for step in way.steps]
    found: dict[str, Passage] = {}
    food, inside = Food(), tuple[Ingredient, ...]()
    for i, step in enumerate(way.steps):
        part = entries_of(way).get(i, ())
        diluted = bool(part and food.past) and _dilutes(part)
        if part:
            food = food.after_dilution() if diluted else food
            inside = (*inside, *part)
            beans = food.unboiled or "lectin" in tags_from(part, way.rule_set)
            food = _with(food, inside, way, _cold_oil(food, part, acts[i:], way)).entered(unboiled=beans)
        kind = kind_of(step)
        piece = kind.piece(step)
        left = kind.change(step, food).entered(came_unboiled=food.unboiled, came_diluted=diluted)
        if step.out_of:  # what comes out of a step, juices or trimmings, lies as it lies
            left = left.entered(thickness_m=0.0)
        if piece is not None:
            left = left.entered(piece=piece, thickness_m=piece.thickness_m)
        found[step.id] = Passage(food, left)
        food = left
    return found


def _cold_oil(food: Food, part: tuple[Ingredient, ...], to_come: list[frozenset[Act]], way: Plan) -> bool:
    """Whether oil is in it, or goes in, that no heat comes after."""
    goes_in = "oil" in tags_from(part, way.rule_set) and not any("heats" in each for each in to_come)
    return "cold_oil" in food.known or goes_in


def _with(food: Food, inside: tuple[Ingredient, ...], way: Plan, cold_oil: bool) -> Food:
    """Food with all that is in it by now."""
    done = tuple(item for item in inside if not is_undone(item) and not is_ready_plant(item))
    rare = tuple(item for item in inside if item.eaten == "rare")
    raw_egg = any({"egg", "raw"} <= set(row.tags) for row in known_of(inside))
    nature = _nature_ph(inside)
    made = food.made | {"sour"} if nature else food.made - ({"sour"} if food.sour_by_nature else set())
    more = {name for name, is_so in (("raw_egg", raw_egg), ("cold_oil", cold_oil)) if is_so}
    return food.entered(
        mixed_ph=None,  # what goes in later is not as sour
        nature_ph=nature,
        made=made,
        keeps=tuple(_kept_as(item) for item in inside),
        known=tags_from(inside, way.rule_set) | more,
        parts=tuple(tags_from((item,), way.rule_set) for item in inside),
        raw=tags_from(inside, way.rule_set, bought_cooked=False),
        to_cook=tags_from(done, way.rule_set)
        | frozenset({"roast"} if any(item.eaten == "by_table" for item in done) else ()),
        thermal=thermal_from(inside),
        seared="meat" in tags_from(rare, way.rule_set),
    )


def _dilutes(part: tuple[Ingredient, ...]) -> bool:
    """Whether something in it is neither sour by nature nor inert, oil or a dry spice; or nobody knows what it is."""
    rows = known_of(part)
    return len(rows) < len(part) or any(
        row.ph_most is None and not row.inert and set(row.tags) - {"oil", "ready"} for row in rows
    )


def _kept_as(item: Ingredient) -> str:
    """How long it keeps as bought: what is as sour as vinegar, and stays so, as long as what is cured."""
    rows = known_of((item,))
    if not rows or item.made_here:
        return "made" if item.made_here else "fresh"
    row = rows[0]
    sour = (
        row.ph_most is not None
        and target("stands-sour", Threshold).allows(row.ph_most)
        and not {"plant", "leafy"} & set(row.tags)
    )
    return row.kept_as or ("long" if sour else "fresh")


def _nature_ph(inside: tuple[Ingredient, ...]) -> float | None:
    """The highest usual pH of what is all sour by nature, beside sugar, salt and the like; None of anything else."""
    rows = known_of(inside)
    sour = [row.ph_most for row in rows if row.ph_most is not None]
    if len(rows) < len(inside) or not sour or any(row.ph_most is None and not row.inert for row in rows):
        return None
    return max(sour)


def made_on(way: Plan) -> frozenset[str]:
    """All that the steps of a plan without lines make of its food, wherever they do. Valid for every such plan."""
    return frozenset[str]().union(*(each.after.made for each in passages_on(way).values()))


def food_at(ways: tuple[Plan, ...], step: Step) -> Food:
    """What a step has by then, of all the ways that lead through it. Valid for every step on all of them."""
    here = [passages_on(way)[step.id].after for way in ways]
    found = here[0]
    for other in here[1:]:
        found = found.join(other)
    return found
