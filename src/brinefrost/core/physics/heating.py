"""The questions asked of a piece in one steady surrounding: how long, how thick, how hot, and the map of both."""

from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.bounds import TEMPERATURE, TIME, Bound, bounded, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.field import field_of
from brinefrost.core.physics.lethality import RateLaw, lethality_min
from brinefrost.core.roots import changeover
from brinefrost.core.words import say

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


@bounded(target_c=TEMPERATURE)
def time_to_core_s(heating: Heating, target_c: float) -> float | None:
    """When the core reaches a temperature.

    Parameters
    ----------
    heating : Heating
        The piece, its surface coefficient [W/m²·K], start and surroundings [°C].
    target_c : float
        [°C].

    Returns
    -------
    float or None
        [s]; None when the surroundings cannot bring it there, or not within 48 h.

    Raises
    ------
    OutOfRangeError
        If a number of the piece lies outside its range.

    Notes
    -----
    Valid for heating or cooling in one steady surrounding; Fo above 1e-3.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III, VII, IX.
    """
    span = heating.surroundings_c - heating.start_c
    wanted = (target_c - heating.start_c) / span if span else np.inf
    if wanted <= 0:
        return 0.0
    return changeover(lambda t: 1.0 - float(heating.theta(np.array([t]))[0]) >= wanted, 0.0, HORIZON_S, 1.0)


def time_to_lethality_s(heating: Heating, law: RateLaw) -> float | None:
    """When the core curve has gathered the goal of a lethality law.

    Parameters
    ----------
    heating : Heating
        The piece, its surface coefficient [W/m²·K], start and surroundings [°C].
    law : RateLaw
        The target's law with its goal [min].

    Returns
    -------
    float or None
        [s]; None when it is never met, or not within 48 h.

    Raises
    ------
    OutOfRangeError
        If a number of the piece lies outside its range.

    Notes
    -----
    Valid in the law's own range; nothing is counted below its floor.

    References
    ----------
    As ``time_to_core_s`` and ``lethality_min``.
    """
    times = heating.times_s()
    minutes = lethality_min(law, times, heating.core_c(times))
    if minutes[-1] < law.goal_min * (1 - 1e-9):
        return None
    return float(np.interp(law.goal_min, minutes, times))


def thickest_m(heating: Heating, law: RateLaw, within_s: float) -> float | None:
    """The thickest piece that gathers the goal in time.

    Parameters
    ----------
    heating : Heating
        As planned; its thickness is what is looked for.
    law : RateLaw
        The target's law.
    within_s : float
        Time in the surroundings [s].

    Returns
    -------
    float or None
        Thickness or diameter [m], to 0.1 mm; None when not even 1 mm passes.

    Raises
    ------
    OutOfRangeError
        If the time is not above zero.

    Notes
    -----
    Valid from 1 to 400 mm; other sides stay as they are.

    References
    ----------
    Bisection on ``time_to_lethality_s``: thicker never heats faster.
    """
    if not within_s > 0:
        raise OutOfRangeError(say("physics.heating.the_time_must_be_above_zero"), within_s=within_s)

    def passes(thickness_m: float) -> bool:
        body = replace(heating.body, half_thickness_m=thickness_m / 2)
        needed = time_to_lethality_s(replace(heating, body=body), law)
        return needed is not None and needed <= within_s

    return changeover(passes, 0.4, 0.001, 1e-4)


def coolest_c(heating: Heating, law: RateLaw, within_s: float) -> float | None:
    """The coolest surroundings that give the goal in time.

    Parameters
    ----------
    heating : Heating
        As planned; its surroundings are what is looked for.
    law : RateLaw
        The target's law.
    within_s : float
        Time in the surroundings [s].

    Returns
    -------
    float or None
        [°C], to 0.05; None when not even 100 °C does.

    Raises
    ------
    OutOfRangeError
        If the time is not above zero.

    Notes
    -----
    Valid from the start temperature to 100 °C.

    References
    ----------
    Bisection: hotter never kills less.
    """
    if not within_s > 0:
        raise OutOfRangeError(say("physics.heating.the_time_must_be_above_zero"), within_s=within_s)

    def passes(bath_c: float) -> bool:
        needed = time_to_lethality_s(replace(heating, surroundings_c=bath_c), law)
        return needed is not None and needed <= within_s

    return changeover(passes, max(heating.start_c + 0.5, 20.0), 100.0, 0.05)


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
    Valid as ``time_to_lethality_s``. One field a thickness: the baths only stretch it.

    References
    ----------
    As ``time_to_lethality_s``.
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
