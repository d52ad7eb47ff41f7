"""Fitting one number to readings: the best of a grid, bent to its minimum, with its standard error."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import ABOVE_0, AT_LEAST_0, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say

READING_SCATTER_C = 0.3  # scatter of a core reading when nothing is known of it; common practice, no source


@dataclass(frozen=True)
class Estimate:
    """A positive number, the standard error of its logarithm, and the scatter of the readings around it."""

    value: float
    log_error: float
    scatter_c: float


@bounded(grid=ABOVE_0, squares=AT_LEAST_0, readings=ABOVE_0)
def best_of_grid(grid: Array, squares: Array, readings: int) -> Estimate:
    """The number that fits best by least squares.

    Parameters
    ----------
    grid : array
        Rising candidates, above zero, evenly spaced in their logarithm, (n,).
    squares : array
        Sum of squared residuals at each [K²], (n,).
    readings : int
        How many readings were fitted.

    Returns
    -------
    Estimate
        Value, standard error in log scale [-] and scatter [K].

    Raises
    ------
    OutOfRangeError
        If the two arrays differ in length, or a candidate is not above zero.

    Notes
    -----
    Valid where the sum of squares has one minimum within the grid; at its edge the error is given as 1.

    References
    ----------
    Non-linear least squares with one parameter; standard error from the curvature of the sum of squares,
    e.g. Bates & Watts (1988), ch. 2.
    """
    if len(grid) != len(squares):
        raise OutOfRangeError(say("physics.least_squares.a_sum_of_squares_is_needed"))
    best = int(np.argmin(squares))
    value, curvature = float(grid[best]), 1e-6
    if 0 < best < len(grid) - 1:
        near = slice(best - 1, best + 2)
        bend = np.polyfit(np.log(grid[near]), squares[near], 2)
        value, curvature = float(np.exp(-bend[1] / (2 * bend[0]))), 2 * float(bend[0])
    scatter = max(float(np.sqrt(squares[best] / max(readings - 1, 1))), READING_SCATTER_C)
    return Estimate(value, min(float(np.sqrt(2 * scatter**2 / max(curvature, 1e-6))), 1.0), scatter)
