"""A forecast of a heat in which no one surrounding acts on all of the piece: a dry oven, a pan, frost, a falling oven.

The truth is the same physics with a coefficient the plan does not know; the forecast sees a few of its core readings.
"""

import numpy as np
import pytest

from brinefrost.core.food.media import food
from brinefrost.core.limits import Hold, Series
from brinefrost.core.physics.heat import heat_through
from brinefrost.core.rules import rule_set
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.heat_in import KIND, HeatIn, carry_on
from brinefrost.core.steps.state import Evidence

LIMIT = rule_set("us").limit_as("cook.whole", Hold)
FOOD = Food(thermal=food("red_meat"))
HEATS = {
    "dry oven": {"medium": "still_oven", "surroundings_c": 160, "thickness_m": 0.07, "covered": False},
    "dry fan oven": {"medium": "fan_oven", "surroundings_c": 120, "thickness_m": 0.05, "covered": False},
    "covered": {"medium": "still_oven", "surroundings_c": 180, "thickness_m": 0.08},
    "pan": {"medium": "pan", "surroundings_c": 180, "thickness_m": 0.025, "turned": "often", "duration_s": 1500.0},
    "frozen, fried": {"medium": "frying", "surroundings_c": 175, "thickness_m": 0.03, "start_c": -18},
    "frozen, in the oven": {"medium": "fan_oven", "surroundings_c": 170, "thickness_m": 0.04, "start_c": -18},
    "falling oven": {"medium": "still_oven", "surroundings_c": 220, "falls_to_c": 120, "thickness_m": 0.06},
}


def heat(name: str) -> HeatIn:
    return HeatIn.model_validate({"id": "heat", "name": "Heat", "duration_s": 4 * 3600.0, **HEATS[name]})


@pytest.mark.parametrize("factor", [0.75, 1.0, 1.3])
@pytest.mark.parametrize("name", list(HEATS))
def test_the_forecast_finds_when_the_core_is_there(name: str, factor: float) -> None:
    step = heat(name)
    h = Context(food=FOOD).h(step.medium) * factor
    planned, hidden = Context(food=FOOD), Context(food=FOOD, h_w_m2k={step.medium: h})
    piece = KIND.piece(step).body(planned.heat())
    truth = carry_on(step, piece, hidden)
    rising = np.maximum.accumulate(truth.core_c)
    there_s = float(np.interp(LIMIT.at_least_c, rising, truth.times_s))
    read_s = there_s * np.linspace(0.3, 0.8, 5)
    series = Series(read_s, np.interp(read_s, truth.times_s, truth.core_c), 0.3, 0.0)
    found = KIND.project(step, Evidence(series, float(read_s[-1]), limit=LIMIT), planned)
    assert found is not None
    said_s = float(np.interp(LIMIT.at_least_c, np.maximum.accumulate(found.expected), found.times_s))
    left_s = there_s - read_s[-1]
    assert abs(said_s - there_s) < max(0.3 * left_s, 60.0), (said_s, there_s, left_s)


def test_a_hotter_oven_is_sooner_there() -> None:
    step, context = heat("dry oven"), Context(food=FOOD)
    piece = KIND.piece(step).body(context.heat())
    truth = carry_on(step, piece, context)
    read_s = np.array([1800.0, 3600.0])
    series = Series(read_s, np.interp(read_s, truth.times_s, truth.core_c), 0.3, 0.0)
    evidence = Evidence(series, 3600.0, limit=LIMIT)
    going = KIND.project(step, evidence, context)
    assert going is not None
    at = [
        float(np.interp(40.0, way.expected, way.times_s))
        for way in (going, *(w for _, w in KIND.rescues(step, evidence, context)))
    ]
    assert at == sorted(at, reverse=True)
    assert len(at) == 3


def test_a_dry_oven_s_end_is_not_its_air() -> None:
    """Its open surface dries and stays cool: the core of a joint in air of 160 °C comes nowhere near it."""
    step, context = heat("dry oven"), Context(food=FOOD)
    curve = heat_through(KIND.piece(step).body(context.heat()), [KIND.stages(step, None, context)[0](4.0)], 4.0, 60.0)  # type: ignore[arg-type]
    assert float(np.max(curve.core_c)) < 101
