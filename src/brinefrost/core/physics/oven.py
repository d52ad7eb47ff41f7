"""A wet piece in hot air: its surface sweats, dries to a rim, and only then follows the oven; the flesh never boils."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import PERCENT, SPAN, TEMPERATURE, Bound, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.altitude import boiling_c, pressure_pa
from brinefrost.core.physics.body import Array, Body, in_range
from brinefrost.core.physics.humid_air import saturation_pressure_pa
from brinefrost.core.words import say

MOST_CELLS, LEAST_CELLS, CELL_M = 24, 8, 0.002
LATENT_J_KG = 2.4e6  # of water near 50 °C, Singh & Heldman, app. A
AIR_J_KGK = 1010.0
RIM_W_MK = 0.12  # a dry crust, common practice, no source
RIM_WATER_KG_M3 = 700.0  # water that leaves a cubic metre of flesh as it dries, common practice, no source
FREE_WATER_KG_M2 = 0.35  # what sweats off before a rim forms: a third of a millimetre; common practice, no source
HUMIDITY_STEPS = np.linspace(0.0, 110.0, 111)


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
    never above the boiling point of water at its height: heat beyond that dries the rim. Explicit finite volumes of
    equal width, stable by the step chosen.

    References
    ----------
    Evaporation by the Chilton-Colburn analogy with Lewis number 1, ASHRAE Handbook Fundamentals, ch. 6; vapour
    pressure by Hyland & Wexler. Times of three pieces are compared with common practice in tests, no source.
    """
    if body.other_halves_m:
        raise OutOfRangeError(say("physics.oven.a_roast_is_reckoned_as_a"))
    flesh = _Flesh(body, oven, start_c)
    return flesh.run(duration_s, always_wet, np.inf if until_c is None else until_c)


class _Flesh:
    """Equal shells from the middle out, stepped explicitly."""

    def __init__(self, body: Body, oven: Oven, start_c: float) -> None:
        self._oven, self._exponent = oven, int(body.shape)
        radius = body.half_thickness_m
        count = int(np.clip(radius / CELL_M, LEAST_CELLS, MOST_CELLS))
        edges = np.linspace(0.0, radius, count + 1)
        self._width = radius / count
        self._faces = edges**self._exponent
        power = self._exponent + 1
        self._volumes = np.diff(edges**power) / power
        self._k, self._capacity = body.conductivity_w_mk, body.heat_capacity_j_m3k()
        self._cells = np.full(count, float(start_c))
        self._step = 0.4 * self._width**2 / body.diffusivity_m2_s / power
        self._boils = boiling_c(oven.altitude_m)
        self._pressure = pressure_pa(oven.altitude_m)
        self._humid = np.array([saturation_pressure_pa(max(t, 0.01)) for t in HUMIDITY_STEPS])

    def run(self, duration_s: float, always_wet: bool, until_c: float) -> OvenCurve:
        """March on; one row kept a half minute."""
        steps = max(2, int(np.ceil(duration_s / self._step)))
        step = duration_s / steps
        every = max(1, int(30.0 / step))
        times, core, surface, rims = [0.0], [float(self._cells[0])], [float(self._cells[-1])], [0.0]
        free, rim = (np.inf if always_wet else FREE_WATER_KG_M2), 0.0
        passes = self._k / self._width * self._faces[1:-1]
        share = step / (self._volumes * self._capacity)
        flow = np.zeros(len(self._cells) + 1)
        for n in range(1, steps + 1):
            skin = float(self._cells[-1])
            if free > 0:
                heat, dried = self._wet(skin)
                free -= dried * step
            else:
                heat = (self._oven.air_c - skin) / (1 / self._oven.h_w_m2k + rim / RIM_W_MK)
            flow[1:-1] = passes * (self._cells[1:] - self._cells[:-1])
            flow[-1] = heat * self._faces[-1]
            self._cells += share * (flow[1:] - flow[:-1])
            over = float(self._cells[-1]) - self._boils
            if over > 0:  # what is above boiling goes into steam, and the rim grows by it
                joules = over * self._volumes[-1] * self._capacity / self._faces[-1]
                self._cells[-1] = self._boils
                rim += joules / (LATENT_J_KG * RIM_WATER_KG_M3)
            there = float(self._cells[0]) >= until_c
            if n % every == 0 or n == steps or there:
                times.append(n * step)
                core.append(float(self._cells[0]))
                surface.append(float(self._cells[-1]))
                rims.append(rim)
            if there:
                break
        return OvenCurve(np.array(times), np.array(core), np.array(surface), np.array(rims))

    def _wet(self, skin_c: float) -> tuple[float, float]:
        """Heat that goes in [W/m²] and water that leaves [kg/m²·s] while the surface is wet; dew warms it."""
        saturated = float(np.interp(skin_c, HUMIDITY_STEPS, self._humid))
        air = max(self._pressure - self._oven.vapour_pa, 0.02 * self._pressure)
        pull = 0.622 * (saturated - self._oven.vapour_pa) / air
        leaves = self._oven.h_w_m2k / AIR_J_KGK * pull
        return self._oven.h_w_m2k * (self._oven.air_c - skin_c) - leaves * LATENT_J_KG, max(leaves, 0.0)


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
