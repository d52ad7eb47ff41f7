"""What a plan or a running batch would ask the Bench: its own figures, ready to be turned this way and that."""

from typing import Any

import numpy as np

from brinefrost.core.bench.chill import ChillQuestion
from brinefrost.core.bench.fit import FitQuestion, FitReading
from brinefrost.core.bench.heat import HeatQuestion, TargetKey
from brinefrost.core.bench.media import FoodKey, nearest_food
from brinefrost.core.limits import Series
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import food_kg, planned_chill_stage, thermal_of
from brinefrost.core.rules import RuleSetId, rule_set
from brinefrost.core.working import Document

# the target each rule set's poultry rule comes to
TARGETS: dict[RuleSetId, TargetKey] = {
    "us": "salmonella_poultry",
    "uk": "listeria",
    "eu": "listeria",
    "anz": "listeria",
}
# what the pages take
MOST_LOAD_KG, LEAST_MASS_KG, MOST_MASS_KG, MOST_READINGS = 200.0, 0.05, 500.0, 40
LONGEST_S, COLDEST_C, HOTTEST_C = 48 * 3600.0, -2.0, 110.0


class Asked(Document):
    """A question of a family, as its page's address takes it."""

    family: str
    question: dict[str, Any]


def from_plan(plan: Plan, core_at_end_c: float) -> tuple[Asked, ...]:
    """The cook and the chill of a plan as questions.

    Parameters
    ----------
    plan : Plan
        A plan.
    core_at_end_c : float
        Core when the cook ends [°C], 10 to 110.

    Returns
    -------
    tuple of Asked
        Nothing for a plan without a bath; heat, and chill if it chills.

    Raises
    ------
    PlanIncompleteError
        If no ingredient has known thermal values.

    Notes
    -----
    Valid for flat bags. Loads beyond 200 kg are asked as 200 kg, bags below 50 g as 50 g.

    References
    ----------
    None needed: the plan's own figures.
    """
    cook, chill, seal = plan.cook(), plan.chill(), plan.seal()
    if cook is None:
        return ()
    food = _food(plan)
    heat = HeatQuestion(
        food=food,
        shape="slab",
        thickness_m=cook.thickness_m,
        start_c=cook.start_c,
        medium="bath",
        surroundings_c=cook.bath_c,
        duration_s=cook.duration_s,
        target=TARGETS[plan.rule_set],
        rule_set=plan.rule_set,
        approved=by_approval(plan),
        load_kg=min(food_kg(plan), MOST_LOAD_KG),
        water_kg=cook.water_kg,
        heater_w=cook.heater_w,
    )
    found = [Asked(family="heat", question=heat.model_dump(mode="json"))]
    if chill is not None:
        cooled = ChillQuestion(
            food=food,
            mass_kg=min(max(seal.pack_mass_kg if seal else food_kg(plan), LEAST_MASS_KG), MOST_MASS_KG),
            depth_m=max(cook.thickness_m, 0.005),
            start_c=min(max(core_at_end_c, 10.0), 110.0),
            waited_s=0.0,
            medium="slurry",
            surroundings_c=planned_chill_stage(plan)[2],
            rule_set=plan.rule_set,
        )
        found.append(Asked(family="chill", question=cooled.model_dump(mode="json")))
    return tuple(found)


def from_chill(plan: Plan, series: Series) -> tuple[Asked, ...]:
    """The readings of a chill under way as a question of where they lead.

    Parameters
    ----------
    plan : Plan
        The batch's plan.
    series : Series
        Core readings [°C] of the chill, (n,).

    Returns
    -------
    tuple of Asked
        Nothing while there is no reading after the first; the first two days at most.

    Raises
    ------
    PlanIncompleteError
        If the plan has no bath or no thermal values.

    Notes
    -----
    Valid as ``fit_unknown``: one unchanged surrounding since the first reading.

    References
    ----------
    None needed: the batch's own readings.
    """
    early = series.until(float(series.times_s[0]) + LONGEST_S) if len(series) else series
    keep = np.unique(np.linspace(0, max(len(early) - 1, 0), min(MOST_READINGS, len(early))).round().astype(int))
    times, core = early.times_s[keep], early.values[keep]
    if len(times) < 2 or not COLDEST_C <= float(core[0]) <= HOTTEST_C:
        return ()
    body, _, surroundings = planned_chill_stage(plan)
    question = FitQuestion(
        food=_food(plan),
        shape="slab",
        thickness_m=2 * body.half_thickness_m,
        start_c=float(core[0]),
        medium="slurry",
        surroundings_c=surroundings,
        unknown="thickness",
        rule_set=plan.rule_set,
        readings=tuple(
            FitReading(time_s=round(float(at - times[0])), core_c=round(float(value), 2))
            for at, value in zip(times[1:], core[1:], strict=True)
        ),
    )
    return (Asked(family="fit", question=question.model_dump(mode="json")),)


def by_approval(plan: Plan) -> bool:
    """Whether the plan cooks by a line that only an approved plan may take."""
    allowed = {
        entry.limit.id
        for entry in rule_set(plan.rule_set).entries
        if entry.approval and entry.topic.startswith("cook.")
    }
    return any(limit.id in allowed for control in plan.controls for limit in control.limits)


def _food(plan: Plan) -> FoodKey:
    return nearest_food(thermal_of(plan).diffusivity_m2_s)
