"""A piece in one steady surrounding: its core at any time, and the map of safe times over thickness and heat."""

from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.bounds import TEMPERATURE, TIME, Bound, check
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.field import field_of
from brinefrost.core.physics.lethality import RateLaw

UNFROZEN = Bound(-5.0, 150.0, "°C")  # the piece is heated and cooled as unfrozen
HORIZON_S = 48 * 3600.0
POINTS = 400


@dataclass(frozen=True)
class Heating:
    """A piece that goes into one steady surrounding."""

    body: Body
    h_w_m2k: float
    start_c: float
    surroundings_c: float

    def __post_init__(self) -> None:
        check("start_c", self.start_c, UNFROZEN)
        check("surroundings_c", self.surroundings_c, TEMPERATURE)
        self.body.biot(self.h_w_m2k)

    def core_c(self, times_s: Array) -> Array:
        """Core temperature [°C] at times [s], (n,).

        Valid from 0 on in steady surroundings; Carslaw & Jaeger (1959).
        """
        return self.surroundings_c + (self.start_c - self.surroundings_c) * self.theta(times_s)

    def theta(self, times_s: Array) -> Array:
        """(T − T∞) / (T0 − T∞) at the centre [-], at times [s], (n,).

        Valid from 0 on in steady surroundings; Carslaw & Jaeger (1959).
        """
        field = field_of(self.body, self.h_w_m2k)
        check("times_s", times_s, TIME)
        return np.asarray((field.at_centre * field.gain) @ np.exp(-np.outer(field.rates_s, times_s)))

    def mean_c(self, times_s: Array) -> Array:
        """Mean temperature of the piece [°C] at times [s], (n,).

        Valid from 0 on in steady surroundings; Carslaw & Jaeger (1959).
        """
        check("times_s", times_s, TIME)
        field = field_of(self.body, self.h_w_m2k)
        theta = (field.mean * field.gain) @ np.exp(-np.outer(field.rates_s, times_s))
        return np.asarray(self.surroundings_c + (self.start_c - self.surroundings_c) * theta)

    def times_s(self, horizon_s: float = HORIZON_S) -> Array:
        """Times close together at first, then wider, up to the horizon [s], (n,).

        Valid for horizons above a second.
        """
        first = 0.02 / float(field_of(self.body, self.h_w_m2k).rates_s[0])
        return np.concatenate(([0.0], np.geomspace(min(first, horizon_s / 10), horizon_s, POINTS)))


def safe_time_map_s(heating: Heating, law: RateLaw, thicknesses_m: Array, baths_c: Array) -> Array:
    """Times to the goal over thickness and surroundings.

    Parameters
    ----------
    heating : Heating
        The rest.
    law : RateLaw
        The target's law.
    thicknesses_m, baths_c : array
        [m], (n,); [°C], (m,).

    Returns
    -------
    array
        [s], (n, m); infinite where the goal is not met within 48 h.

    Raises
    ------
    OutOfRangeError
        If a thickness lies outside its range.

    Notes
    -----
    Valid in the law's own range. One field a thickness: the baths only stretch it.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III, VII, IX; the law carries its own.
    """
    check("baths_c", baths_c, TEMPERATURE)
    found = np.full((len(thicknesses_m), len(baths_c)), np.inf)
    for i, thickness in enumerate(thicknesses_m):
        piece = replace(heating, body=replace(heating.body, half_thickness_m=float(thickness) / 2))
        times = piece.times_s()[::2]
        core = baths_c[:, None] + (heating.start_c - baths_c)[:, None] * piece.theta(times)[None, :]
        found[i] = _first_met_s(law, times, core)
    return found


def _first_met_s(law: RateLaw, times_s: Array, core_c: Array) -> Array:
    """When each row of curves meets the goal [s], (m,)."""
    minutes = np.cumsum(law.mean_rates(core_c) * np.diff(times_s) / 60.0, axis=1)
    met = minutes >= law.goal_min
    first = np.argmax(met, axis=1)
    rows = np.arange(len(core_c))
    after, gained = minutes[rows, first], minutes[rows, first] - np.where(first > 0, minutes[rows, first - 1], 0.0)
    share = 1.0 - (after - law.goal_min) / np.where(gained > 0, gained, 1.0)
    when = times_s[first] + share * (times_s[first + 1] - times_s[first])
    return np.where(met.any(axis=1), when, np.inf)
