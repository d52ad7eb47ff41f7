"""A wet piece in hot air: its surface sweats, dries to a rim, and only then follows the oven; the flesh never boils."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import PERCENT, SPAN, TEMPERATURE, Bound, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.altitude import boiling_c, pressure_pa
from brinefrost.core.physics.body import Array, Body, in_range
from brinefrost.core.physics.humid_air import saturation_pressure_pa
from brinefrost.core.physics.phases import SHELLS, STEPS, Air, carry_phases
from brinefrost.core.words import say

STEP_S, MOST_STEPS = 60.0, 240
CLOSE_S = 1e-6  # times nearer than this are one


@dataclass(frozen=True)
class Oven:
    """Hot air: its temperature, the water in it, how it gives heat, and how high it stands."""

    air_c: float
    vapour_pa: float
    h_w_m2k: float
    altitude_m: float = 0.0

    def __post_init__(self) -> None:
        in_range("h_w_m2k", self.h_w_m2k)
        if not (0 <= self.air_c <= 350 and 0 <= self.vapour_pa <= pressure_pa(self.altitude_m) * 1.001):
            raise OutOfRangeError(say("physics.oven.an_oven_is_at_to_and"))


@dataclass(frozen=True)
class OvenCurve:
    """Core, surface and mean temperature, and the dry rim, against time, each (n,)."""

    times_s: Array
    core_c: Array
    surface_c: Array
    rim_m: Array


@bounded(start_c=TEMPERATURE, duration_s=SPAN)
def roast(
    body: Body,
    oven: Oven,
    start_c: float,
    duration_s: float,
    always_wet: bool = False,
    until_c: float | None = None,
) -> OvenCurve:
    """Temperature of a piece in an oven.

    Parameters
    ----------
    body : Body
        Slab, cylinder or sphere; half thickness [m], diffusivity [m²/s], conductivity [W/m·K].
    oven : Oven
        Air [°C], its vapour pressure [Pa], surface coefficient with radiation [W/m²·K], altitude [m].
    start_c : float
        [°C].
    duration_s : float
        [s].
    always_wet : bool
        Basted, covered or steamed: no rim forms.
    until_c : float or None
        Stop once the core is there [°C].

    Returns
    -------
    OvenCurve
        Times [s], core and surface of the flesh [°C], thickness of the dry rim [m], each (n,).

    Raises
    ------
    OutOfRangeError
        For a piece of several axes, or numbers outside their ranges.

    Notes
    -----
    Valid as an estimate, 60 to 300 °C: one surface coefficient all round, shrinkage and dripping left out. The flesh is
    never above the boiling point of water at its height: heat beyond that dries the rim. By ``carry_phases``.

    References
    ----------
    Evaporation by the Chilton-Colburn analogy with Lewis number 1, ASHRAE Handbook Fundamentals, ch. 6; vapour
    pressure by Hyland & Wexler. Times of three pieces are compared with common practice in tests, no source.
    """
    if body.other_halves_m:
        raise OutOfRangeError(say("physics.oven.a_roast_is_reckoned_as_a"))
    air = Air(oven.h_w_m2k, boiling_c(oven.altitude_m), oven.vapour_pa, always_wet)
    around, even = np.full(2, oven.air_c), np.full(SHELLS, start_c)
    steps = int(np.clip(duration_s / STEP_S, STEPS, MOST_STEPS))
    found = carry_phases(body, even, np.array([0.0, duration_s]), around, air, steps)
    columns = [found.times_s, found.core_c, found.surface_c, found.rim_m]
    over = np.flatnonzero(found.core_c >= (np.inf if until_c is None else until_c))
    if len(over) and over[0] > 0:  # as far as it is asked, straight within the last step
        last = slice(int(over[0]) - 1, int(over[0]) + 1)
        there = float(np.interp(until_c or 0.0, found.core_c[last], found.times_s[last]))
        keep = found.times_s < there - CLOSE_S
        columns = [np.append(column[keep], np.interp(there, found.times_s, column)) for column in columns]
    return OvenCurve(*columns)


OVEN_H = Bound(1.0, 5000.0, "W/m²·K")


@bounded(air_c=TEMPERATURE, humidity_percent=PERCENT, h_w_m2k=OVEN_H)
def oven_of(air_c: float, humidity_percent: float, h_w_m2k: float, altitude_m: float) -> Oven:
    """An oven by its temperature and humidity.

    Parameters
    ----------
    air_c : float
        [°C].
    humidity_percent : float
        Relative humidity; above the boiling point of water, the share of steam in the air, as oven makers count [%].
    h_w_m2k : float
        Surface coefficient, radiation included [W/m²·K].
    altitude_m : float
        [m].

    Returns
    -------
    Oven
        With its vapour pressure [Pa].

    Raises
    ------
    OutOfRangeError
        If a number lies outside its range.

    Notes
    -----
    Valid from 0 to 350 °C. Above boiling a relative humidity means nothing a cook can set: pure steam is 100 %.

    References
    ----------
    ASHRAE Handbook Fundamentals, ch. 1.
    """
    pressure = pressure_pa(altitude_m)
    full = saturation_pressure_pa(air_c) if air_c < boiling_c(altitude_m) else pressure
    return Oven(air_c, min(full, pressure) * humidity_percent / 100, h_w_m2k, altitude_m)
