"""Which samples of a needle are of the food it was put into: no piece's middle moves as a needle in air does."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.errors import OutOfRangeError, PlanIncompleteError
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.legs import Leg, lay_legs
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.runs.batch import Batch

PUT_IN_S = 600.0  # a needle is in its place by then
OVER_S = 60.0  # a change is told over so long: one sample beside the next tells nothing but noise
AGAIN_S = 120.0  # what is back by then was a fault of the line, not of the needle
BACK = 0.4  # of that speed, for what comes back: nearer to where it was than a needle elsewhere gets by chance
FASTER = 4.0  # times as fast as the plan's own core at its steepest; common practice, no source
LEAST_K_S, SLACK_K = 1.0 / 60.0, 1.5  # what any piece may do, and what a needle's noise does
LOWEST_C, HIGHEST_C, LEVEL_K, NEAR_K = -40.0, 125.0, 2.5, 10.0
UNKNOWN_K_S = 12.0 / 60.0  # where nothing computes the core


@dataclass(frozen=True)
class Own:
    """The samples that count, (n,), and when the needle left its place for good [s]; None where it did not."""

    keep: NDArray[np.bool_]
    left_s: float | None


@dataclass(frozen=True)
class Pace:
    """How fast a core may move, by how warm it is: levels that rise [°C], and the most at each [K/s], (n,) both."""

    levels_c: Array
    most_k_s: Array

    def at(self, values: Array) -> Array:
        """The most at some temperatures [°C], (n,). Valid for finite values; beyond the levels as at the nearest."""
        return np.interp(values, self.levels_c, self.most_k_s)

    @staticmethod
    def of(times_s: Array, core_c: Array) -> "Pace":
        """Off a course of the core: some times as fast as it is near each level at its fastest.

        Valid for courses longer than a minute.
        """
        at = np.arange(0.0, float(times_s[-1]) + OVER_S, OVER_S)
        core = np.interp(at, times_s, core_c)
        slopes, middles = np.abs(np.diff(core)) / OVER_S, (core[1:] + core[:-1]) / 2
        levels = np.arange(LOWEST_C, HIGHEST_C, LEVEL_K)
        apart = np.abs(middles[None, :] - levels[:, None])
        reach = np.maximum(NEAR_K, np.min(apart, axis=1))  # the nearest, where none is near
        near = np.where(apart <= reach[:, None] + 1e-9, slopes[None, :], 0.0)
        return Pace(levels, np.maximum(FASTER * np.max(near, axis=1), LEAST_K_S))


UNKNOWN = Pace(np.array([0.0]), np.array([UNKNOWN_K_S]))


def pace_of(batch: Batch, step_id: str) -> Pace:
    """How fast the core of a batch's food may move at a step. Valid for every step of its plan."""
    if provable(batch.plan):
        return UNKNOWN
    way = ways_with(batch.plan, step_id)[0]
    try:
        leg: Leg = next(each for each in lay_legs(way, *simulated(way)) if each.step.id == step_id)
    except (OutOfRangeError, PlanIncompleteError, StopIteration):
        return UNKNOWN
    if len(leg.times_s) < 2 or leg.times_s[-1] <= OVER_S:
        return UNKNOWN
    return Pace.of(leg.times_s, leg.core_c)


def own_samples(times_s: Array, values: Array, bound_s: float, pace: Pace) -> Own:
    """The samples of a needle that may be of one piece, whose core moves no faster than its pace.

    While it is put in, what came before a jump was elsewhere and goes. Later, what is back within two minutes was a
    fault of the line; what is not left its place, and counts no more until somebody binds it again. Valid for times
    that rise; ``bound_s`` is when it was bound [s].
    """
    most = pace.at(values)
    keep = np.zeros(len(times_s), dtype=bool)
    kept: list[int] = []
    behind, i = 0, 0
    while i < len(times_s):
        while behind + 1 < len(kept) and times_s[kept[behind + 1]] <= times_s[i] - OVER_S:
            behind += 1
        if not kept or _is_near(times_s, values, kept[behind], i, most):
            kept.append(i)
            i += 1
            continue
        if times_s[i] < bound_s + PUT_IN_S:
            kept, behind = [i], 0
            i += 1
            continue
        back = _comes_back(times_s, values, kept[behind], i, most)
        if back is None:
            over = times_s[-1] - times_s[i] > AGAIN_S  # else it may still come back
            keep[kept] = True
            return Own(keep, float(times_s[i]) if over else None)
        i = back
        kept.append(i)
        behind = len(kept) - 1  # what comes next is told by this one
        i += 1
    keep[kept] = True
    return Own(keep, None)


def _is_near(times_s: Array, values: Array, before: int, i: int, most: Array) -> bool:
    allowed = most[before] * max(times_s[i] - times_s[before], OVER_S) + SLACK_K
    return bool(abs(values[i] - values[before]) <= allowed)


def _comes_back(times_s: Array, values: Array, before: int, i: int, most: Array) -> int | None:
    """The first sample within two minutes that fits again; None where there is none."""
    for k in range(i + 1, len(times_s)):
        if times_s[k] - times_s[i] > AGAIN_S:
            return None
        if abs(values[k] - values[before]) <= BACK * most[before] * (times_s[k] - times_s[before]) + SLACK_K:
            return k
    return None
