"""A piece in one steady surrounding: its core at any time, and the map of safe times over thickness and heat."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.bounds import TEMPERATURE, TIME, Bound, check
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.field import field_of

UNFROZEN = Bound(-5.0, 150.0, "°C")  # the piece is heated and cooled as unfrozen
HORIZON_S = 48 * 3600.0
NEVER = 1e-11  # of the way is left at least: a piece is never quite as warm as what warms it, whatever the digits say
POINTS = 400
Reached = Callable[[Array, Array], Array]  # of times [s], (n,), and rising curves [°C], (m, n): when each has [s], (m,)


@dataclass(frozen=True)
class Heating:
    """A piece that goes into one steady surrounding."""

    body: Body
    h_w_m2k: float
    start_c: float
    surroundings_c: float
    boils_c: float | None = None  # no surface is hotter [°C]

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
        return np.maximum((field.at_centre * field.gain) @ np.exp(-np.outer(field.rates_s, times_s)), NEVER)

    def reaching(self, core_c: float, at_s: float) -> "Heating":
        """The same piece in steady surroundings that bring its core to a temperature [°C] in a time [s].

        Valid for times above zero.
        """
        left = float(self.theta(np.array([at_s]))[0])
        return replace(self, surroundings_c=(core_c - self.start_c * left) / (1 - left))

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


def safe_time_map_s(heating: Heating, asked: Iterable[Reached], thicknesses_m: Array, baths_c: Array) -> Array:
    """Times over thickness and surroundings after which everything that is asked has been reached.

    Parameters
    ----------
    heating : Heating
        The rest.
    asked : iterable of callable
        When rising curves have reached what is asked of them; infinite where one never does.
    thicknesses_m, baths_c : array
        [m], (n,); [°C], (m,).

    Returns
    -------
    array
        [s], (n, m); infinite where something is not reached within 48 h.

    Raises
    ------
    OutOfRangeError
        If a thickness lies outside its range.

    Notes
    -----
    Valid for surroundings that stay as they are. One field a thickness: the baths only stretch it.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III, VII, IX; what is asked carries its own.
    """
    check("baths_c", baths_c, TEMPERATURE)
    if heating.boils_c is not None:  # as if they were no hotter than its surface: slower than it is
        baths_c = np.minimum(baths_c, heating.boils_c)
    asked, found = tuple(asked), np.full((len(thicknesses_m), len(baths_c)), np.inf)
    for i, thickness in enumerate(thicknesses_m):
        piece = replace(heating, body=replace(heating.body, half_thickness_m=float(thickness) / 2))
        times = piece.times_s()[::2]
        core = baths_c[:, None] + (heating.start_c - baths_c)[:, None] * piece.theta(times)[None, :]
        found[i] = np.max([reached(times, core) for reached in asked], axis=0)
    return found
