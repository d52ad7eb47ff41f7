"""A step of a plan as the Bench's question: the same numbers, so that both pages give the same answer."""

from typing import Any

import numpy as np
from pydantic import ValidationError

from brinefrost.core.kitchen.lines import named
from brinefrost.core.limits import Cooling, Series
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.robustness import USUAL
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked
from brinefrost.core.steps.state import Course

MOST_LOAD_KG = 200.0  # what the Bench's page on heat takes
LEAST_KG, MOST_KG = 0.05, 500.0  # and its page on cooling
MOST_READINGS, LONGEST_S = 40, 48 * 3600.0  # and the one that fits a curve


# as a plan repeats its steps
SPREAD = {
    "spread_thickness_m": USUAL.thickness_m,
    "spread_start_c": USUAL.start_c,
    "spread_bath_c": USUAL.bath_c,
    "spread_probe_c": USUAL.probe_c,
}


def asked(family: str, **numbers: Any) -> list[Asked]:
    """A question of a family; none where its page does not take such numbers."""
    from brinefrost.core.bench.families import FAMILIES  # a page is not needed to run a batch

    try:
        question = FAMILIES[family].question(**numbers)
    except ValidationError:
        return []
    return [Asked(family=family, question=question.model_dump(mode="json"))]


def asked_heat(context: Context, start_c: float, **numbers: Any) -> list[Asked]:
    """The page on heat, judged by the rule set's own line for this food; yolk by its own row."""
    animal, piece = named(context.tags)
    yolk = "egg_yolk_salted" if "salted" in context.tags else "egg_yolk"
    return asked(
        "heat",
        food=context.food_key(),
        animal=animal,
        piece=piece,
        target=yolk if "yolk" in context.tags else "line",
        start_c=start_c,
        rule_set=context.rule_set_id,
        approved=context.approved,
        guests=context.guests,
        altitude_m=min(context.altitude_m, 4500.0),
        **SPREAD,
        **numbers,
    )


def asked_chill(
    context: Context, course: Course, step_id: str, waited_s: float, load_kg: float = 0.0, **numbers: Any
) -> list[Asked]:
    """The page on cooling, from the core it goes into the cold with, after waiting so long [s]."""
    if course.curve is None:
        return []
    into_s = course.spans[step_id][0] + waited_s
    hot, fallen = course.core_at(into_s), course.fallen(step_id, into_s)
    begun = context.rules.limit_as("chill.cooked", Cooling).clock_start_s(fallen) if fallen is not None else None
    return asked(
        "chill",
        food=context.food_key(),
        mass_kg=min(max(load_kg or course.pack_kg or context.food_kg, LEAST_KG), MOST_KG),
        start_c=min(max(hot, 5.0), 110.0),
        waited_s=waited_s if begun is None else into_s - begun,
        rule_set=context.rule_set_id,
        kept_as="few_days" if context.kept_general else "cook_chill",
        **SPREAD,
        **numbers,
    )


def asked_fit(context: Context, planned: tuple[Body, float, float], medium: str, series: Series) -> list[Asked]:
    """The page that fits a curve to the readings of a chill; the first two days at most."""
    early = series.until(float(series.times_s[0]) + LONGEST_S) if len(series) else series
    keep = np.unique(np.linspace(0, max(len(early) - 1, 0), min(MOST_READINGS, len(early))).round().astype(int))
    times, core = early.times_s[keep], early.values[keep]
    body, _, surroundings = planned
    if len(times) < 2 or body.other_halves_m:
        return []
    return asked(
        "fit",
        food=context.food_key(),
        shape=body.shape.name,
        thickness_m=2 * body.half_thickness_m,
        start_c=float(core[0]),
        medium=medium,
        surroundings_c=surroundings,
        unknown="thickness",
        rule_set=context.rule_set_id,
        readings=[
            {"time_s": round(float(at - times[0])), "core_c": round(float(value), 2)}
            for at, value in zip(times[1:], core[1:], strict=True)
        ],
    )
