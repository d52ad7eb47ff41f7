"""From the first readings of a real piece to what it is like, and where it is going."""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from brinefrost.core.bounds import FINITE, TEMPERATURE, bounded
from brinefrost.core.bounds import SPAN as SOME_TIME
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import RANGES, Array, Body
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.least_squares import Estimate, best_of_grid
from brinefrost.core.words import diff, say

Unknown = Literal["thickness", "h", "diffusivity"]
SPAN = {"thickness": (0.001, 0.4), "h": (2.0, 2000.0), "diffusivity": (0.6e-7, 2.5e-7)}
CANDIDATES = 61


@dataclass(frozen=True)
class Fit:
    """The unknown with its error, and the curve carried on for it and for a slow and a fast case."""

    unknown: Unknown
    estimate: Estimate
    low: float
    high: float
    expected: HeatCurve
    slow: HeatCurve
    fast: HeatCurve


@dataclass(frozen=True)
class Setting:
    """What is known: the piece as believed, its surroundings, and how warm it began."""

    body: Body
    h_w_m2k: float
    start_c: float
    surroundings_c: float

    def curve(self, unknown: Unknown, value: float, duration_s: float, steps: int = 120) -> HeatCurve:
        """The curve over a duration [s] if the unknown has this value [its unit].

        Valid where ``heat_through`` is, whose OutOfRangeError it raises.
        """
        body, h = self.body, self.h_w_m2k
        if unknown == "thickness":
            body = replace(body, half_thickness_m=value / 2)
        elif unknown == "diffusivity":
            body = replace(body, diffusivity_m2_s=value)
        else:
            h = value
        stage = Stage.steady(duration_s, self.surroundings_c, h)
        return heat_through(body, [stage], self.start_c, step_s=duration_s / steps)


@bounded(times_s=FINITE, core_c=TEMPERATURE, horizon_s=SOME_TIME)
def fit_unknown(setting: Setting, unknown: Unknown, times_s: Array, core_c: Array, horizon_s: float) -> Fit:
    """Estimate thickness, surface coefficient or diffusivity from core readings, and carry the curve on.

    Parameters
    ----------
    setting : Setting
        The rest, as it is believed to be: half thickness [m], h [W/m²·K], start and surroundings [°C].
    unknown : str
        ``thickness`` [m], ``h`` [W/m²·K] or ``diffusivity`` [m²/s].
    times_s : array
        Times of the readings since the start [s], (n,), above zero.
    core_c : array
        Core readings [°C], (n,).
    horizon_s : float
        How far to carry on [s].

    Returns
    -------
    Fit
        The estimate, its 95 % span and three curves [°C].

    Raises
    ------
    OutOfRangeError
        If there are fewer than two readings after the start, start and surroundings are alike, or the readings fit
        no value of the unknown.

    Notes
    -----
    Valid for one unchanged surrounding, a span of thickness 1 to 400 mm, h 2 to 2000, α 0.6 to 2.5e-7. One
    unknown gathers whatever else is wrong; slow and fast are two standard errors either way.

    References
    ----------
    As ``best_of_grid``.
    """
    if abs(setting.start_c - setting.surroundings_c) < 2:
        raise OutOfRangeError(say("physics.fit.start_and_surroundings_are_alike_so"))
    later = times_s > 0
    if int(np.sum(later)) < 2:
        raise OutOfRangeError(say("physics.fit.at_least_two_readings_after_the"))
    times, read = times_s[later], core_c[later]
    grid = np.geomspace(*SPAN[unknown], CANDIDATES)
    end = float(times[-1])
    for _ in range(2):  # a coarse grid, then a fine one around its best
        squares = np.array([_squares(setting, unknown, value, times, read, end) for value in grid])
        estimate = best_of_grid(grid, squares, len(read))
        grid = np.geomspace(max(estimate.value / 1.15, grid[0]), min(estimate.value * 1.15, grid[-1]), CANDIDATES)
    if estimate.scatter_c > max(3.0, 0.1 * abs(setting.start_c - setting.surroundings_c)):
        raise OutOfRangeError(
            say("physics.fit.the_readings_lie_off_any_such", scatter=diff(estimate.scatter_c, ".1f")),
            scatter_c=estimate.scatter_c,
        )
    factor = float(np.exp(2 * estimate.log_error))
    low, high = estimate.value / factor, estimate.value * factor
    slow, fast = (high, low) if unknown == "thickness" else (low, high)
    curves = [setting.curve(unknown, _inside(unknown, value), horizon_s) for value in (estimate.value, slow, fast)]
    return Fit(unknown, estimate, low, high, *curves)


def _squares(setting: Setting, unknown: Unknown, value: float, times_s: Array, read_c: Array, end_s: float) -> float:
    curve = setting.curve(unknown, value, end_s)
    return float(np.sum((np.interp(times_s, curve.times_s, curve.core_c) - read_c) ** 2))


def _inside(unknown: Unknown, value: float) -> float:
    """A value the solver takes: the span's end where the error runs past it."""
    name = {"thickness": "half_thickness_m", "h": "h_w_m2k", "diffusivity": "diffusivity_m2_s"}[unknown]
    low, high, _ = RANGES[name]
    scale = 2.0 if unknown == "thickness" else 1.0
    return min(max(value, low * scale), high * scale)
