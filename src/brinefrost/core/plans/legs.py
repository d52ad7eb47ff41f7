"""The food's way through a plan, step by step: how warm its core is from delivery to plate."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.course import simulate_from
from brinefrost.core.plans.document import Plan
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.state import FRIDGE_C, Course

SETTLES_S = 6 * 3600.0  # until food that is not walked is as warm as what surrounds it; common practice


@dataclass(frozen=True)
class Leg:
    """One step of the way: its core [°C] at times since it began [s], whether it was computed, how long it takes [s].

    ``core_c`` is empty where the plan says nothing of it.
    """

    step: Step
    times_s: Array
    core_c: Array
    computed: bool
    length_s: float
    known_from_s: float = 0.0  # between which times a kill is credited: outside them the core is only expected
    known_s: float = np.inf


def lay_legs(plan: Plan, context: Context, done: Course) -> list[Leg]:
    """Every step's leg, each beginning as warm as the one before ended.

    One for each step, in order. Valid for every plan that was walked. Where a step is not walked the core stays as it
    came in, or goes straight to what the plan sets; what is kept longer than was walked stays as it then is. As
    ``walk``.
    """
    legs: list[Leg] = []
    around = next((c for step in plan.steps if (c := kind_of(step).around_c(step)) is not None), FRIDGE_C)
    comes_in = kind_of(plan.steps[0]).around_c(plan.steps[0]) if plan.steps else None
    warm = comes_in if comes_in is not None else context.food.piece.start_c if context.food.piece else around
    for step in plan.steps:
        leg = _walk(step, done) or _expect_leg(step, warm, done)
        legs.append(leg)
        warm = float(leg.core_c[-1])
    return legs


def legs_from(plan: Plan, step_id: str, core_c: float) -> list[Leg]:
    """The legs from a step on, where its food came in as warm as it was last read [°C]; valid as ``walk_on``."""
    steps, legs, warm = plan.steps[[step.id for step in plan.steps].index(step_id) :], list[Leg](), core_c
    try:
        done = simulate_from(plan, step_id, core_c)
    except OutOfRangeError:  # colder or hotter than the models go: nobody can say how it goes on
        return [_stays(step, core_c) for step in steps]
    for step in steps:
        leg = _walk(step, done) or _expect_leg(step, warm, done)
        legs.append(leg)
        warm = float(leg.core_c[-1])
    return legs


def _stays(step: Step, core_c: float) -> Leg:
    length = kind_of(step).length_s(step)
    return Leg(step, np.array([0.0, length]), np.full(2, core_c), False, length)


def _walk(step: Step, done: Course) -> Leg | None:
    begin, end = done.spans[step.id]
    known = done.other.get((step.id, "core"))
    if known is not None:
        return Leg(step, known.times_s, known.values, True, float(known.times_s[-1]))
    if done.curve is None or end <= begin:
        return None
    keep = (done.curve.times_s >= begin - 1e-6) & (done.curve.times_s <= end + 1e-6)
    times, core = done.curve.times_s[keep] - begin, done.curve.core_c[keep]
    if begin in done.evened_c:  # it begins as warm as it was made, not as warm as the step before left it
        core = np.insert(core[1:], 0, done.evened_c[begin])
    length = kind_of(step).length_s(step)
    if length > end - begin + 1.0:
        times, core = np.append(times, length), np.append(core, core[-1])
    return Leg(step, times, core, True, float(times[-1]))


def _expect_leg(step: Step, warm_c: float, done: Course) -> Leg:
    kind = kind_of(step)
    to, around = kind.brings_to_c(step), kind.around_c(step)
    last = to if to is not None else around if around is not None and done.curve is None else warm_c
    length = kind.length_s(step)
    there = length if to is not None else min(length, SETTLES_S)
    times = np.unique(np.array([0.0, there, length]))
    return Leg(step, times, np.interp(times, [0.0, there], [warm_c, last]), False, length)
