"""From the first readings of food that cools or warms to where it is going."""

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from brinefrost.core.bounds import FINITE, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.heat import centre_theta
from brinefrost.core.physics.least_squares import best_of_grid
from brinefrost.core.words import say

SCALES = np.geomspace(1e-4, 4.0, 481)  # pace against the plan's: a stacked, iceless chill to one four times as fast


@dataclass(frozen=True)
class Pace:
    """How fast it goes: the plan's Fourier rate times ``scale``, with its standard error in log scale."""

    scale: float
    log_error: float
    readings: int
    scatter_c: float


@dataclass(frozen=True)
class Settling:
    """The piece as planned, what surrounds it, and when and how warm its way (or its last change) began."""

    body: Body
    h_w_m2k: float
    surroundings_c: float
    start_s: float
    start_c: float
    settled: bool = False  # True after a change on the way: the field is already in its first mode

    def core_c(self, times_s: Array, scale: Array | float) -> Array:
        """Core temperature [°C] at times [s], (n,), for a pace [-].

        Valid from the start on; raises nothing for positive paces.
        """
        spent = np.asarray(scale) * np.maximum(times_s - self.start_s, 0.0)
        theta = np.prod([self._along(axis, np.ravel(spent)) for axis in self.body.axes()], axis=0)
        return np.asarray(self.surroundings_c + (self.start_c - self.surroundings_c) * theta.reshape(spent.shape))

    def _along(self, axis: tuple[int, float], spent_s: Array) -> Array:
        """What is left of its way along one axis [-], (n,); the whole is their product (Newman 1936)."""
        exponent, half_m = axis
        fourier = self.body.diffusivity_m2_s / half_m**2 * spent_s
        biot = self.h_w_m2k * half_m / self.body.conductivity_w_mk
        if not self.settled:
            return centre_theta(Shape(exponent), biot, fourier)
        first, second = centre_theta(Shape(exponent), biot, np.array([1.0, 2.0]))
        return np.asarray(np.exp(np.log(second / first) * fourier))


class Pacing(Protocol):
    """A way to what a core comes to [°C], that may be gone faster or slower."""

    @property
    def start_s(self) -> float:
        """When it began [s]."""

    @property
    def start_c(self) -> float:
        """How warm it began [°C]."""

    @property
    def surroundings_c(self) -> float:
        """What it comes to [°C]."""

    def core_c(self, times_s: Array, scale: Array | float) -> Array:
        """Core temperature [°C] at times [s], (n,), for a pace [-]. Valid from the start on."""


@dataclass(frozen=True, eq=False)
class Followed:
    """A heat as its own physics has it, where no one surrounding acts on all of it: a dry oven, a pan, frost.

    The planned core [°C] against time [s], rising, and when and how warm its way, or its last change, began.
    """

    body: Body
    curve_s: Array
    curve_c: Array
    start_s: float
    start_c: float
    settled: bool = False

    @property
    def surroundings_c(self) -> float:
        """What its core comes to [°C]."""
        return float(self.curve_c[-1])

    def core_c(self, times_s: Array, scale: Array | float) -> Array:
        """Core temperature [°C] at times [s], (n,), for a pace [-].

        Valid from the start on: from where the planned core was as warm.
        """
        rising = np.maximum.accumulate(self.curve_c)
        begun_s = float(np.interp(self.start_c, rising, self.curve_s)) if self.settled else 0.0
        spent = begun_s + np.asarray(scale) * np.maximum(times_s - self.start_s, 0.0)
        return np.asarray(np.interp(spent, self.curve_s, rising))


@bounded(times_s=FINITE, core_c=TEMPERATURE)
def fit_pace(way: Pacing, times_s: Array, core_c: Array) -> Pace:
    """Fit the pace at which a piece comes to what surrounds it to its readings.

    Parameters
    ----------
    way : Pacing
        The planned piece and what it comes to [°C].
    times_s : array
        Times of the readings [s], (n,).
    core_c : array
        Core readings [°C], (n,).

    Returns
    -------
    Pace
        The scale that fits best by least squares and its standard error in log scale [-].

    Raises
    ------
    OutOfRangeError
        If there is no reading after the start, or the start lies within 1 K of the surroundings.

    Notes
    -----
    Valid for one unchanged surrounding since the start. The scale gathers all that may be wrong at once:
    thickness (1/R²), bags stacked, stirring stopped, ice gone, an open door. Searched over 1e-4 to 4 times the planned
    pace.

    References
    ----------
    Non-linear least squares with one parameter; standard error from the curvature of the sum of squares,
    e.g. Bates & Watts (1988), ch. 2.
    """
    later = times_s > way.start_s
    if not np.any(later):
        raise OutOfRangeError(say("physics.settling.a_forecast_needs_at_least_one_x"))
    if abs(way.start_c - way.surroundings_c) <= 1.0:
        raise OutOfRangeError(say("physics.settling.it_began_as_warm_as_what_surrounds"), start_c=way.start_c)
    times, read = times_s[later], core_c[later]
    model = way.core_c(times[None, :], SCALES[:, None])
    squares = np.sum((model - read) ** 2, axis=1)
    found = best_of_grid(SCALES, squares, len(read))
    return Pace(found.value, found.log_error, len(read), found.scatter_c)
