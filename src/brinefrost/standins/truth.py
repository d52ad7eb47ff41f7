"""What is true of a food or a store that a stand-in measures: a plan's own walk, or a fridge with a door."""

from collections.abc import Callable
from datetime import datetime
from math import pi, sin

import numpy as np

from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.legs import lay_legs
from brinefrost.core.plans.lines import ways_with

Truth = Callable[[datetime], float]  # a value at a time, in the unit of what is read

SWINGS_S, SWING_K = 1500.0, 0.5  # how a refrigerator's air goes up and down as it runs; common practice, no source
DOOR_K = 9.0  # how far its air warms while its door stands open


def core_of(plan: Plan, step_id: str, begins: datetime) -> Truth:
    """The core of a batch's food through a step that begins then [°C], by the plan's own walk.

    Valid for plans that can be walked; behind its end it stays as it was.
    """
    way = ways_with(plan, step_id)[0]
    leg = next(each for each in lay_legs(way, *simulated(way)) if each.step.id == step_id)

    def at(moment: datetime) -> float:
        return float(np.interp((moment - begins).total_seconds(), leg.times_s, leg.core_c))

    return at


def steady(value: float, swing: float = 0.1, period_s: float = 600.0) -> Truth:
    """A bath or an oven at its setting, up and down a little [its unit]."""
    return lambda moment: value + swing * sin(2 * pi * moment.timestamp() / period_s)


def fridge(value_c: float, opened: tuple[datetime, ...] = (), open_s: float = 60.0) -> Truth:
    """The air of a refrigerator [°C], its door opened at some times for so long."""

    def at(moment: datetime) -> float:
        door = any(0 <= (moment - each).total_seconds() < open_s for each in opened)
        return value_c + SWING_K * sin(2 * pi * moment.timestamp() / SWINGS_S) + (DOOR_K if door else 0.0)

    return at
