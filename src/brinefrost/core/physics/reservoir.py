"""Baths that dip when cold bags go in, and slurries whose ice runs out."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import CAPACITY, DENSITY, MASS, SPAN, TEMPERATURE, Bound, bounded, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.field import field_of
from brinefrost.core.physics.heat import MOST_STEPS, Stage
from brinefrost.core.words import num, say

WATER_J_KGK = 4180.0  # Singh & Heldman, Introduction to Food Engineering, app. A: water near 30 °C
FUSION_J_KG = 333_600.0  # latent heat of ice, same source
PROPORTIONAL_BAND_K = 1.0  # a bath's heater gives full power from this far below; common practice, no source
SLURRY_C = 3.0  # stirred water with ice in it is no warmer, common practice, no source
WATER, HEATER = Bound(-2.0, 120.0, "°C"), Bound(0.0, 2e5, "W")
EARLY_S, LATE_STEPS = 3600.0, 4.0  # after the first hour the balance changes slowly: steps four times as wide
MOST_HALVINGS = 8  # of a step, where little water stands around much food
SETTLED_K = 0.02  # food and water so close exchange no heat worth following


@dataclass(frozen=True)
class Reservoir:
    """Water around the food: how much, how warm, with what heater or how much ice in it."""

    water_kg: float
    start_c: float
    set_c: float = 0.0
    heater_w: float = 0.0
    ice_kg: float = 0.0

    def __post_init__(self) -> None:
        check("water_kg", self.water_kg, MASS)
        check("ice_kg", self.ice_kg, MASS)
        check("start_c", self.start_c, WATER)
        check("set_c", self.set_c, WATER)
        check("heater_w", self.heater_w, HEATER)
        if not 0.5 <= self.water_kg + self.ice_kg <= 5000:
            raise OutOfRangeError(say("physics.reservoir.the_water_and_ice_must_come"), water_kg=self.water_kg)
        if self.ice_kg > 0:
            self._mix()

    def _mix(self) -> None:
        """Water warmer than its ice melts it at once: they are mixed before any food goes in."""
        melts = min(max(self.start_c, 0.0) * self.water_kg * WATER_J_KGK / FUSION_J_KG, self.ice_kg)
        if self.start_c <= SLURRY_C:
            return
        if melts < self.ice_kg:
            object.__setattr__(self, "start_c", 0.0)
            object.__setattr__(self, "ice_kg", self.ice_kg - melts)
            object.__setattr__(self, "water_kg", self.water_kg + melts)
            return
        whole = self.water_kg + self.ice_kg
        heat = self.start_c * self.water_kg * WATER_J_KGK - self.ice_kg * FUSION_J_KG
        object.__setattr__(self, "start_c", heat / (whole * WATER_J_KGK))
        object.__setattr__(self, "ice_kg", 0.0)
        object.__setattr__(self, "water_kg", whole)


@bounded(food_kg=MASS, density_kg_m3=DENSITY, initial_c=TEMPERATURE, duration_s=SPAN, step_s=SPAN)
def immerse(
    body: Body,
    food_kg: float,
    density_kg_m3: float,
    initial_c: float,
    h_w_m2k: float,
    reservoir: Reservoir,
    duration_s: float,
    step_s: float = 20.0,
) -> Stage:
    """Temperature of the water while the food gives or takes heat.

    Parameters
    ----------
    body : Body
        One pack; half thickness [m], diffusivity [m²/s], conductivity [W/m·K].
    food_kg : float
        All the food in the water [kg].
    density_kg_m3 : float
        Of the food [kg/m³].
    initial_c : float
        Of the food [°C].
    h_w_m2k : float
        Surface coefficient [W/m²·K].
    reservoir : Reservoir
        Water [kg], ice [kg], heater [W], set point [°C].
    duration_s : float
        How long [s].
    step_s : float
        Step of the water's own balance [s].

    Returns
    -------
    Stage
        Water temperature [°C] against time [s], (n,), with the same coefficient.

    Raises
    ------
    OutOfRangeError
        If a number lies outside its range or the duration is not above zero.

    Notes
    -----
    Valid for stirred water that is even in itself; losses to the room are left to the heater. While ice
    is left, the water stays at its melting point. Steps of 60 s err below 0.15 K against 1 s steps for
    kitchen loads (tests/core/test_heat.py).

    References
    ----------
    Heat balance; latent heat and specific heat as cited in this module.
    """
    if duration_s / step_s > MOST_STEPS:
        raise OutOfRangeError(
            say("physics.reservoir.that_is_more_than_steps_take", most_steps=num(MOST_STEPS, ",")), step_s=step_s
        )
    march = _March(body, food_kg / density_kg_m3, initial_c, h_w_m2k, reservoir)
    early = min(duration_s, EARLY_S)
    march.on(early, step_s)
    if duration_s > early:
        march.on(duration_s - early, LATE_STEPS * step_s)
    return Stage(np.array(march.times_s), np.array(march.water_c), h_w_m2k)


class _March:
    """Water and food side by side, step by step; the food's field is exact within a step."""

    def __init__(self, body: Body, food_m3: float, initial_c: float, h_w_m2k: float, reservoir: Reservoir) -> None:
        field = field_of(body, h_w_m2k)
        self._rates, self._gain = field.rates_s, field.gain
        self._amplitudes = initial_c * self._gain
        self._food_capacity = food_m3 * body.heat_capacity_j_m3k()
        self._mean, self._food_c = field.mean, initial_c
        self._reservoir, self._ice_j = reservoir, reservoir.ice_kg * FUSION_J_KG
        self._capacity = (reservoir.water_kg + reservoir.ice_kg) * WATER_J_KGK
        self.times_s, self.water_c = [0.0], [reservoir.start_c]

    def on(self, duration_s: float, wanted_step_s: float) -> None:
        """Go on for a time; stop early once nothing moves any more."""
        steps = max(2, int(np.ceil(duration_s / self._steady(wanted_step_s))))
        step, end = duration_s / steps, self.times_s[-1] + duration_s
        decay = np.exp(-self._rates * step)
        rise = self._gain * (1 - decay)
        for _ in range(steps):
            water = self.water_c[-1]
            self._amplitudes = decay * self._amplitudes + rise * water
            food = float(self._mean @ self._amplitudes)
            taken = self._food_capacity * (food - self._food_c)
            self._food_c = food
            after, self._ice_j = _balance(water, self._ice_j, self._heater_j(water, step) - taken, self._capacity)
            self.times_s.append(self.times_s[-1] + step)
            self.water_c.append(after)
            if abs(food - after) < SETTLED_K and abs(after - water) < SETTLED_K * 1e-3:
                break
        if self.times_s[-1] < end:
            self.times_s.append(end)
            self.water_c.append(self.water_c[-1])

    def _steady(self, step_s: float) -> float:
        """A step in which the food cannot take more than half of what would bring the water to its own temperature.

        Little water around much food would else swing further with every step.
        """
        for _ in range(MOST_HALVINGS):
            taken = self._food_capacity * float(self._mean @ (self._gain * (1 - np.exp(-self._rates * step_s))))
            if taken <= 0.5 * self._capacity:
                break
            step_s /= 2
        return step_s

    def _heater_j(self, water_c: float, step_s: float) -> float:
        """What the heater gives in a step [J]."""
        share = min(max((self._reservoir.set_c - water_c) / PROPORTIONAL_BAND_K, 0.0), 1.0)
        return share * self._reservoir.heater_w * step_s


def _balance(water_c: float, ice_j: float, gained_j: float, capacity_j_k: float) -> tuple[float, float]:
    """New water temperature [°C] and ice left, as the heat it can still take [J]."""
    melted = min(max(gained_j, 0.0), ice_j)
    return water_c + (gained_j - melted) / capacity_j_k, ice_j - melted


@bounded(food_kg=MASS, heat_capacity_j_kgk=CAPACITY, from_c=TEMPERATURE, to_c=TEMPERATURE)
def ice_needed_kg(food_kg: float, heat_capacity_j_kgk: float, from_c: float, to_c: float) -> float:
    """Ice that melts while the food cools.

    Parameters
    ----------
    food_kg : float
        [kg].
    heat_capacity_j_kgk : float
        Of the food [J/kg·K].
    from_c, to_c : float
        Food temperatures [°C].

    Returns
    -------
    float
        Ice [kg].

    Raises
    ------
    OutOfRangeError
        If the food would get warmer.

    Notes
    -----
    Valid for water already at 0 °C and no heat from the room; the trade adds half again
    (common practice, no source).

    References
    ----------
    Latent heat 333.6 kJ/kg, Singh & Heldman, app. A.
    """
    if to_c > from_c:
        raise OutOfRangeError(say("physics.reservoir.ice_cools_the_target_is_above"), from_c=from_c, to_c=to_c)
    return food_kg * heat_capacity_j_kgk * (from_c - to_c) / FUSION_J_KG
