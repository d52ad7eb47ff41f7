"""How warm food may be while it dries: by what is in it, and by what was made of it before."""

from brinefrost.core.limits import Threshold
from brinefrost.core.rules import target
from brinefrost.core.steps.common import holds
from brinefrost.core.steps.food import NO_PLANTS, Food

STRIP_M = 0.025  # no thicker strip dries before it spoils warm; common practice, no source
LEAF_M = 0.005  # leaves, and what is cut as thin; common practice, no source
OPENED = frozenset({"minced", "filled", "chicken", "turkey"})  # inside was outside, or it carries too much
PLANTS_S, LEAVES_S = 24 * 3600.0, 14 * 86400.0  # what is cut thin, and leaves, are dry by then; common practice


def line_of_air(food: Food, surroundings_c: float, duration_s: float) -> Threshold | None:
    """The line of the air it dries in [°C]: plants in warm air within a day [s], whole pieces that are cured through.

    None for what only the cold, or the heat of a hot hold, keeps. Valid for food as the step finds it.
    """
    return _for_plants(food, surroundings_c, duration_s) or _for_flesh(food)


def is_for_plants(line: Threshold | None) -> bool:
    """Whether a line is of plants in warm air: it asks for warmth, that of flesh for cold. Valid for any line."""
    return line is not None and line.comparison == "at_least"


def _for_plants(food: Food, surroundings_c: float, duration_s: float) -> Threshold | None:
    if food.known & NO_PLANTS or food.thickness_m > STRIP_M:
        return None
    warm, leaves = target("dried-plants", Threshold), target("dried-leaves", Threshold)
    is_leaf = "leafy" in food.known and "plant" not in food.known and food.thickness_m <= LEAF_M
    for line, longest_s in ((warm, PLANTS_S), (leaves, LEAVES_S if is_leaf else 0.0)):
        if duration_s <= longest_s and holds(line, surroundings_c):
            return line
    return None


def _for_flesh(food: Food) -> Threshold | None:
    if food.tags & OPENED:
        return None
    if "salted_hard" in food.made:
        return target("hung-salted", Threshold)
    if {"salted_through", "nitrited"} <= food.made:
        return target("hung-cured", Threshold)
    thin = 0 < food.thickness_m <= STRIP_M
    return target("hung-sour", Threshold) if thin and {"cured", "sour_outside"} <= food.made else None
