"""Made-up measurements: the steps' own walk with hidden true values, and each instrument's noise."""

import random
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from brinefrost.core.food.media import food
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.steps import KINDS, kind_of
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.state import Course

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


def _context(truth: Truth) -> Context:
    """The kitchen as it really is: other coefficients and another thigh than the plan takes."""
    real = food("poultry").model_copy(update={"diffusivity_m2_s": REAL_DIFFUSIVITY})
    return Context(
        food=Food(thermal=real, piece=Piece(truth.thickness_m, truth.start_c)),
        food_kg=1.2 * truth.packs,
        h_w_m2k={"bath": REAL_BATH_H, "slurry": REAL_SLURRY_H},
    )


def cook_curve(truth: Truth) -> HeatCurve:
    """Core and water through the bath."""
    context, kind = _context(truth), KINDS["bath_cook"]
    body = Body(Shape.slab, truth.thickness_m / 2, REAL_DIFFUSIVITY, context.heat().conductivity_w_mk)
    course = Course(body, truth.start_c)
    step = kind.settings.model_validate(
        {"id": "cook", "name": "Bath", "thickness_m": truth.thickness_m, "start_c": truth.start_c,
         "bath_c": truth.bath_c, "duration_s": truth.cook_s}
    )  # fmt: skip
    kind.work(step, course, context)
    assert course.curve is not None  # noqa: S101 (a bath heats)
    return course.curve


def meter_reads(step: StepBase, hours: float, chance: random.Random, lot: float = 0.0) -> float:
    """What a pH meter shows of a step some hours in; ``lot`` is how far this lot of vegetables lies off the table."""
    truth = kind_of(step).simulate(step, Context(), np.array([hours * 3600.0]))["ph"]
    return round(float(truth[0]) + lot + chance.gauss(0.0, 0.02), 2)


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
    curve = cook_curve(truth)
    lines = ["timestamp,core_c,bath_c"]
    for time, core, water in zip(curve.times_s, curve.core_c, curve.surroundings_c, strict=True):
        stamp = (begins + timedelta(seconds=float(time))).strftime("%Y-%m-%dT%H:%M:%SZ")
        lines.append(f"{stamp},{core + chance.gauss(0, 0.06):.2f},{water + chance.gauss(0, 0.06):.2f}")
    return ("\n".join(lines) + "\n").encode()
