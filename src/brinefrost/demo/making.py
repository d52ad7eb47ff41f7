"""Made-up measurements: the core's own physics with other numbers than the plan's, and noise."""

import random
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.reservoir import Reservoir, immerse

REAL_DIFFUSIVITY, REAL_BATH_H, REAL_SLURRY_H = 1.33e-7, 115.0, 280.0


@dataclass(frozen=True)
class Truth:
    """What really happened to the bags, as the made-up kitchen would have it."""

    thickness_m: float = 0.028
    start_c: float = 4.0
    bath_c: float = 63.0
    packs: int = 6
    cook_s: float = 7200.0
    pace: float = 1.0  # of the chill; small when bags lie stacked and the ice is gone


def cook_curve(truth: Truth) -> tuple[HeatCurve, Stage]:
    """Core through the bath."""
    body = Body(Shape.slab, truth.thickness_m / 2, REAL_DIFFUSIVITY, 0.48)
    water = Reservoir(56, truth.bath_c, truth.bath_c, 2000)
    bath = immerse(body, 1.2 * truth.packs, 1060, truth.start_c, REAL_BATH_H, water, truth.cook_s)
    return heat_through(body, [bath], truth.start_c, step_s=60.0), bath


def chill_core_c(truth: Truth, hot_c: float, times_s: list[float], changes: list[tuple[float, float]]) -> list[float]:
    """Core in the slurry; ``changes`` gives (time, new pace) pairs."""
    edges = [0.0, *(at for at, _ in changes), max([*times_s, 60.0]) + 60.0]
    paces = [truth.pace, *(pace for _, pace in changes)]
    core = hot_c
    found: dict[float, float] = {}
    for begin, end, pace in zip(edges, edges[1:], paces, strict=False):
        body = Body(Shape.slab, min(truth.thickness_m / 2 / pace**0.5, 0.4), REAL_DIFFUSIVITY, 0.48)
        curve = heat_through(body, [Stage.steady(end - begin, 0.5, REAL_SLURRY_H)], core, step_s=30.0)
        for time in times_s:
            if begin <= time <= end and time not in found:
                found[time] = float(np.interp(time - begin, curve.times_s, curve.core_c))
        core = float(curve.core_c[-1])
    return [found[time] for time in times_s]


def noisy(value: float, chance: random.Random, scatter: float = 0.12) -> float:
    """A reading as a probe shows it."""
    return round(value + chance.gauss(0.0, scatter), 1)


def logger_file(truth: Truth, begins: datetime, chance: random.Random) -> bytes:
    """A cook as a logger writes it."""
    curve, bath = cook_curve(truth)
    lines = ["timestamp,core_c,bath_c"]
    for time, core in zip(curve.times_s, curve.core_c, strict=True):
        stamp = (begins + timedelta(seconds=float(time))).strftime("%Y-%m-%dT%H:%M:%SZ")
        water = float(np.interp(time, bath.times_s, bath.surroundings_c))
        lines.append(f"{stamp},{core + chance.gauss(0, 0.06):.2f},{water + chance.gauss(0, 0.06):.2f}")
    return ("\n".join(lines) + "\n").encode()
