"""A ferment on its way down: its pH against its deadline, and the day it should cross the line."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import AT_LEAST_0, PH, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say

LATEST = 4  # readings the projection leans on
APART_D = 1 / 86400  # readings within a second are one


@dataclass(frozen=True)
class Crossing:
    """When the pH is expected to cross a line, with an early and a late day; None while it is not falling."""

    day: float | None
    early: float | None
    late: float | None
    slope_per_day: float


@bounded(days=AT_LEAST_0, ph=PH, line=PH, uncertainty=AT_LEAST_0)
def crossing(days: Array, ph: Array, line: float, uncertainty: float = 0.05) -> Crossing:
    """When a falling pH crosses a line.

    Parameters
    ----------
    days, ph : array
        Readings, (n,), days rising [d], [-].
    line : float
        pH [-].
    uncertainty : float
        Expanded uncertainty of a reading [pH].

    Returns
    -------
    Crossing
        Measured when it lies between two readings; otherwise projected along the latest readings, with the slope's
        standard error either way.

    Raises
    ------
    OutOfRangeError
        If there are no readings, the days do not rise or a pH is not 0 to 14.

    Notes
    -----
    Valid for a few days ahead: ferments start slowly and level off, so a straight line is early at first and
    optimistic at the end. It plans; a measured pH passes.

    References
    ----------
    Least squares on the latest readings, e.g. Bates & Watts (1988).
    """
    if not len(days) or np.any(np.diff(days) < APART_D) or np.any((ph < 0) | (ph > 14)):
        raise OutOfRangeError(say("chemistry.ferment.the_days_of_a_ferment_must"))
    below = np.flatnonzero(ph <= line)
    if len(below):
        i = int(below[0])
        if i == 0:
            return Crossing(float(days[0]), float(days[0]), float(days[0]), 0.0)
        share = (ph[i - 1] - line) / (ph[i - 1] - ph[i])
        day = float(days[i - 1] + share * (days[i] - days[i - 1]))
        return Crossing(day, day, day, float((ph[i] - ph[i - 1]) / (days[i] - days[i - 1])))
    late_days, late_ph = days[-LATEST:], ph[-LATEST:]
    if len(late_days) < 2:
        return Crossing(None, None, None, 0.0)
    middle = late_days - late_days.mean()
    slope = float(middle @ late_ph / (middle @ middle))
    residual = late_ph - late_ph.mean() - slope * middle
    scatter = max(float(np.sqrt(residual @ residual / max(len(residual) - 2, 1))), uncertainty / 2)
    error = scatter / float(np.sqrt(middle @ middle))
    ahead, early, late = (_reach(days, ph, line, slope + shift * error) for shift in (0, -2, 2))
    return Crossing(ahead, early, late, slope)


def _reach(days: Array, ph: Array, line: float, slope: float) -> float | None:
    return float(days[-1] + (line - ph[-1]) / slope) if slope < -1e-3 else None
