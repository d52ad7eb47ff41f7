"""A piece that freezes, thaws, sweats or boils on its way: equal shells, stepped implicitly in their enthalpy."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.humid_air import saturation_pressure_pa

SHELLS, STEPS = 16, 120
FREEZES_C = -1.5  # lean meat and fish, ASHRAE Handbook Refrigeration, ch. 19, table 3, from memory
WATER_KG_M3 = 800.0  # that freezes in a cubic metre: 76 % of 1,050 kg; more water thaws more slowly
FUSION_J_KG = 333_600.0
FROZEN_SHARE = 0.55  # heat capacity without latent heat, frozen to unfrozen; Choi & Okos (1986)
ICE_W_MK = 1.4  # conductivity of frozen flesh, ASHRAE as above
LOWEST_C, HIGHEST_C = -60.0, 350.0
LATENT_J_KG = 2.4e6  # of water near 50 °C, Singh & Heldman, app. A
AIR_J_KGK = 1010.0
RIM_W_MK = 0.12  # a dry crust, common practice, no source
RIM_WATER_KG_M3 = 700.0  # water that leaves a cubic metre of flesh as it dries, common practice, no source
FREE_WATER_KG_M2 = 0.35  # what sweats off before a rim forms: a third of a millimetre; common practice, no source
HUMIDITY_STEPS = np.linspace(0.0, 110.0, 111)


@dataclass(frozen=True)
class Air:
    """What surrounds a wet piece: how it gives heat [W/m²K], where water boils [°C], the vapour in it [Pa].

    ``vapour_pa`` is None where nothing can dry: in water, fat, a bag, under a lid. ``is_basted`` forms no rim.
    """

    h_w_m2k: float
    boils_c: float = 100.0
    vapour_pa: float | None = None
    is_basted: bool = False


@dataclass(frozen=True)
class PhaseCurve:
    """Core, surface and mean of a piece [°C], its dry rim [m], against time [s], each (n,); where it ends, by shell."""

    times_s: Array
    core_c: Array
    surface_c: Array
    mean_c: Array
    rim_m: Array
    shells_c: Array


def carry_phases(
    body: Body, shells_c: Array, times_s: Array, around_c: Array, air: Air, steps: int = STEPS
) -> PhaseCurve:
    """Carry a piece through surroundings in which its water freezes, thaws, evaporates or boils.

    Parameters
    ----------
    body : Body
        Slab, cylinder or sphere; further sides are left out, which is slower.
    shells_c : array
        Equal shells from the middle out [°C], (m,).
    times_s, around_c : array
        When the surroundings are how warm [s, °C], (n,); straight between.
    air : Air
        How they reach it.
    steps : int
        How many, close together at first.

    Returns
    -------
    PhaseCurve
        (steps + 1,).

    Raises
    ------
    OutOfRangeError
        If water cannot boil where the air says it does.

    Notes
    -----
    Valid from -60 to 350 °C, as an estimate: one coefficient all round, shrinkage and dripping left out. The flesh is
    never above the boiling point of water at its height: heat beyond that dries the rim. Implicit Euler in enthalpy:
    within 0.5 K of steps ten times as close in tests.

    References
    ----------
    Ice by Raoult's law, as Miles and Schwartzberg have it, in Singh & Heldman, ch. 7; evaporation by the
    Chilton-Colburn analogy with Lewis number 1, ASHRAE Handbook Fundamentals, ch. 6; vapour pressure by Hyland and
    Wexler (1983).
    """
    piece = _Piece(body, shells_c, air)
    times = float(times_s[-1]) * np.linspace(0.0, 1.0, steps + 1) ** 2
    outside = np.interp(times, times_s, around_c)
    rows = [piece.read(outside[0])]
    for n in range(steps):
        piece.step(times[n + 1] - times[n], outside[n + 1])
        rows.append(piece.read(outside[n + 1]))
    core, surface, mean, rim = np.array(rows).T
    return PhaseCurve(times, core, surface, mean, rim, piece.shells_c)


def is_frozen(celsius: float) -> bool:
    """Whether flesh so warm has ice in it.

    Parameters
    ----------
    celsius : float
        [°C].

    Returns
    -------
    bool
        Below its freezing point.

    Raises
    ------
    TypeError
        If that is no number.

    Notes
    -----
    Valid for lean meat, fish and plants; sugar and salt freeze lower.

    References
    ----------
    ASHRAE Handbook Refrigeration, ch. 19, table 3, from memory.
    """
    return celsius < FREEZES_C


@lru_cache(maxsize=32)
def enthalpies_of(capacity_j_m3k: float) -> tuple[Array, Array]:
    """Enthalpy of flesh from its freezing point against temperature.

    Parameters
    ----------
    capacity_j_m3k : float
        Its heat capacity where it is not frozen [J/m³K].

    Returns
    -------
    tuple of array
        [J/m³] and [°C], each (n,).

    Raises
    ------
    TypeError
        If that is no number.

    Notes
    -----
    Valid from -60 to 350 °C.

    References
    ----------
    Ice by Raoult's law, as ``carry_phases`` has it.
    """
    cold = FREEZES_C - np.geomspace(1e-4, FREEZES_C - LOWEST_C, 400)[::-1]
    ice = WATER_KG_M3 * (1.0 - FREEZES_C / cold)
    below = FROZEN_SHARE * capacity_j_m3k * (cold - FREEZES_C) - FUSION_J_KG * ice
    warm = np.array([FREEZES_C, HIGHEST_C])
    return np.concatenate((below, capacity_j_m3k * (warm - FREEZES_C))), np.concatenate((cold, warm))


def conductivities_of(unfrozen_w_mk: float, shells_c: Array) -> Array:
    """Conductivity of flesh with as much ice in it as it has at a temperature.

    Parameters
    ----------
    unfrozen_w_mk : float
        Its own, where it is not frozen [W/mK].
    shells_c : array
        [°C], (n,).

    Returns
    -------
    array
        [W/mK], (n,).

    Raises
    ------
    TypeError
        If these are no numbers.

    Notes
    -----
    Valid from -60 °C up.

    References
    ----------
    ASHRAE Handbook Refrigeration, ch. 19, for ice in flesh, from memory.
    """
    ice = np.where(shells_c < FREEZES_C, 1.0 - FREEZES_C / np.minimum(shells_c, FREEZES_C), 0.0)
    return unfrozen_w_mk + (ICE_W_MK - unfrozen_w_mk) * ice


class _Piece:
    """Shells from the middle out, their enthalpy, and what is on their surface."""

    def __init__(self, body: Body, shells_c: Array, air: Air) -> None:
        self._air, count = air, len(shells_c)
        exponent, radius = int(body.shape), body.half_thickness_m
        edges = np.linspace(0.0, radius, count + 1)
        self._width = radius / count
        self._faces = edges**exponent
        self._volumes = np.diff(edges ** (exponent + 1)) / (exponent + 1)
        self._k = body.conductivity_w_mk
        self._enthalpies, self._celsius = enthalpies_of(body.heat_capacity_j_m3k())
        self._rises = np.diff(self._enthalpies) / np.diff(self._celsius)
        self._gains, self._slope, self._on = np.zeros(count), np.zeros((count, count)), np.arange(count)
        self._held = np.interp(shells_c, self._celsius, self._enthalpies)
        self._humid: list[float] = _saturation_pa().tolist()
        self._boils = air.boils_c
        self._pressure = saturation_pressure_pa(air.boils_c)
        self._free = np.inf if air.is_basted else FREE_WATER_KG_M2
        self._rim, self._was_c = 0.0, float(shells_c[-1])

    @property
    def shells_c(self) -> Array:
        """How warm each shell is [°C]."""
        return np.interp(self._held, self._enthalpies, self._celsius)

    def read(self, around_c: float) -> tuple[float, float, float, float]:
        """Core, surface, mean [°C], rim [m]: the core by a parabola through the two inmost shells."""
        shells = self.shells_c
        conducts = 2.0 * self._conductivities(shells)[-1] / self._width
        core = float(shells[0] - (shells[1] - shells[0]) / 8.0)
        low, high = min(shells[0], shells[1]), max(shells[0], shells[1])
        core = core if low == high or not is_frozen(low) else float(shells[0])
        mean = float(shells @ self._volumes / self._volumes.sum())
        return core, self._skin(float(shells[-1]), around_c, conducts), mean, self._rim

    def step(self, seconds: float, around_c: float) -> None:
        """On by one step: one implicit step in temperature, and what it carried given to the enthalpy (Pham)."""
        shells, capacities, k = self._now()
        passes = 2.0 * k[1:] * k[:-1] / (k[1:] + k[:-1]) / self._width * self._faces[1:-1]
        last = float(shells[-1])
        conducts = 2.0 * float(k[-1]) / self._width
        skin = self._skin(last, around_c, conducts)
        enters, steeper = self._enters(last, skin, around_c, conducts)
        flows = passes * (shells[1:] - shells[:-1])
        gains = self._gains
        gains[:-1] = flows
        gains[-1] = enters * self._faces[-1]
        gains[1:] -= flows
        slope = self._slope
        slope[self._on, self._on] = self._volumes * capacities / seconds
        slope[self._on[:-1], self._on[:-1]] += passes
        slope[self._on[1:], self._on[1:]] += passes
        slope[-1, -1] -= steeper * self._faces[-1]
        slope[self._on[:-1], self._on[1:]] = -passes
        slope[self._on[1:], self._on[:-1]] = -passes
        change = np.linalg.solve(slope, gains)
        self._held = self._held + capacities * change
        self._dry(seconds, skin, around_c, conducts * (skin - last))

    def _now(self) -> tuple[Array, Array, Array]:
        """Temperature [°C], heat capacity [J/m³K] and conductivity [W/mK] of each shell."""
        at = np.clip(np.searchsorted(self._enthalpies, self._held) - 1, 0, len(self._rises) - 1)
        shells = self._celsius[at] + (self._held - self._enthalpies[at]) / self._rises[at]
        return shells, self._rises[at], self._conductivities(shells)

    def _conductivities(self, shells_c: Array) -> Array:
        return conductivities_of(self._k, shells_c)

    def _enters(self, shell_c: float, skin_c: float, around_c: float, conducts: float) -> tuple[float, float]:
        """Heat into the outmost shell [W/m²], and how that changes with its temperature [W/m²K]."""
        if skin_c >= self._boils:
            return conducts * (skin_c - shell_c), -conducts
        h = self._gives()
        if self._air.vapour_pa is not None and self._free > 0:
            h += (self._leaves(skin_c + 0.5) - self._leaves(skin_c - 0.5)) * LATENT_J_KG
        return conducts * (skin_c - shell_c), -conducts * h / (conducts + h)

    def _skin(self, shell_c: float, around_c: float, conducts: float) -> float:
        """How warm the surface is between its surroundings and the outmost shell [°C]."""
        h = self._gives()
        dry = (h * around_c + conducts * shell_c) / (h + conducts)
        if self._air.vapour_pa is None or self._free <= 0:
            return min(dry, self._boils)
        low, high = min(shell_c, around_c, 0.0), min(max(dry, shell_c, self._dew_c()), self._boils)
        skin = min(max(self._was_c, low), high)
        for _ in range(8):
            more = h * (around_c - skin) - self._leaves(skin) * LATENT_J_KG - conducts * (skin - shell_c)
            low, high = (skin, high) if more > 0 else (low, skin)
            steep = h + conducts + (self._leaves(skin + 0.5) - self._leaves(skin - 0.5)) * LATENT_J_KG
            better = skin + more / steep
            if abs(better - skin) < 1e-3:
                break
            skin = better if low < better < high else (low + high) / 2
        self._was_c = skin
        return skin

    def _gives(self) -> float:
        """The coefficient with the dry rim in its way [W/m²K]."""
        return 1.0 / (1.0 / self._air.h_w_m2k + self._rim / RIM_W_MK)

    def _dew_c(self) -> float:
        return float(np.interp(self._air.vapour_pa or 0.0, _saturation_pa(), HUMIDITY_STEPS))

    def _leaves(self, skin_c: float) -> float:
        """Water that leaves a wet surface [kg/m²s]; less than nothing where dew falls on it."""
        vapour = self._air.vapour_pa or 0.0
        place = min(max(skin_c, 0.0), 109.999)
        below = int(place)
        saturated = self._humid[below] + (place - below) * (self._humid[below + 1] - self._humid[below])
        rest = max(self._pressure - vapour, 0.02 * self._pressure)
        return self._air.h_w_m2k / AIR_J_KGK * 0.622 * (saturated - vapour) / rest

    def _dry(self, seconds: float, skin_c: float, around_c: float, goes_in: float) -> None:
        """What dries: free water first, then a rim, by the heat that boils it away [W/m²] and does not go in."""
        if self._air.vapour_pa is None:
            return
        if self._free > 0:
            self._free -= max(self._leaves(skin_c), 0.0) * seconds
        else:
            spare = self._gives() * (around_c - skin_c) - goes_in
            self._rim += max(spare, 0.0) * seconds / (LATENT_J_KG * RIM_WATER_KG_M3)


@lru_cache(maxsize=1)
def _saturation_pa() -> Array:
    return np.array([saturation_pressure_pa(max(float(t), 0.01)) for t in HUMIDITY_STEPS])
