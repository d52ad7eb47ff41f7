"""Stirred liquids that cool, and what a chiller or ice must take up."""

import numpy as np

from brinefrost.core.bounds import (
    AREA,
    CAPACITY,
    COEFFICIENT,
    LENGTH,
    MASS,
    SOME_MASS,
    SPAN,
    TEMPERATURE,
    TIME,
    VOLUME,
    bounded,
)
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say


@bounded(
    times_s=TIME,
    mass_kg=SOME_MASS,
    heat_capacity_j_kgk=CAPACITY,
    h_w_m2k=COEFFICIENT,
    area_m2=AREA,
    start_c=TEMPERATURE,
    surroundings_c=TEMPERATURE,
)
def lumped_c(
    times_s: Array,
    mass_kg: float,
    heat_capacity_j_kgk: float,
    h_w_m2k: float,
    area_m2: float,
    start_c: float,
    surroundings_c: float,
) -> Array:
    """Temperature of a stirred liquid.

    Parameters
    ----------
    times_s : array
        [s], (n,).
    mass_kg, heat_capacity_j_kgk : float
        [kg], [J/kg·K].
    h_w_m2k : float
        Coefficient between liquid and surroundings [W/m²·K].
    area_m2 : float
        Surface it gives heat through [m²].
    start_c, surroundings_c : float
        [°C].

    Returns
    -------
    array
        [°C], (n,).

    Raises
    ------
    OutOfRangeError
        If mass, heat capacity, coefficient or area is not above zero.

    Notes
    -----
    Valid while stirring keeps the liquid even. A stew that stands behaves as conduction and is far slower.

    References
    ----------
    Newton's law of cooling, τ = m c / (h A), e.g. Singh & Heldman, ch. 4.
    """
    tau = mass_kg * heat_capacity_j_kgk / (h_w_m2k * area_m2)
    return np.asarray(surroundings_c + (start_c - surroundings_c) * np.exp(-times_s / tau))


@bounded(volume_m3=VOLUME, depth_m=LENGTH)
def pot_area_m2(volume_m3: float, depth_m: float, covered: bool = False) -> float:
    """Surface of a round pot through which its contents give off heat.

    Parameters
    ----------
    volume_m3, depth_m : float
        Of the liquid [m³], [m].
    covered : bool
        A lid stops the top from giving off heat.

    Returns
    -------
    float
        Side, and top when open [m²]; the base stands on a bench and counts for nothing.

    Raises
    ------
    OutOfRangeError
        If volume or depth is not above zero.

    Notes
    -----
    Valid for upright round vessels.

    References
    ----------
    Geometry.
    """
    radius = float(np.sqrt(volume_m3 / (np.pi * depth_m)))
    top = 0.0 if covered else np.pi * radius**2
    return float(2 * np.pi * radius * depth_m + top)


@bounded(mass_kg=MASS, heat_capacity_j_kgk=CAPACITY, from_c=TEMPERATURE, to_c=TEMPERATURE, within_s=SPAN)
def chiller_load_w(mass_kg: float, heat_capacity_j_kgk: float, from_c: float, to_c: float, within_s: float) -> float:
    """Mean heat a chiller must take away.

    Parameters
    ----------
    mass_kg, heat_capacity_j_kgk : float
        Of the food [kg], [J/kg·K].
    from_c, to_c : float
        [°C].
    within_s : float
        [s].

    Returns
    -------
    float
        [W].

    Raises
    ------
    OutOfRangeError
        If the time is not above zero or the food would get warmer.

    Notes
    -----
    Valid as a mean; the first half hour asks for about twice as much.

    References
    ----------
    Heat balance, Singh & Heldman, ch. 6.
    """
    if not within_s > 0 or to_c > from_c:
        raise OutOfRangeError(say("physics.cooling.a_chiller_cools_and_in_a"), from_c=from_c, to_c=to_c)
    return mass_kg * heat_capacity_j_kgk * (from_c - to_c) / within_s


def taken_s(times_s: Array, mean_c: Array, capacity_j_k: float, power_w: float) -> Array:
    """When food really is where it would be if its surroundings took up whatever it gives off.

    Parameters
    ----------
    times_s, mean_c : array
        When it would be how warm on average [s, °C], (n,).
    capacity_j_k : float
        Mass times heat capacity [J/K].
    power_w : float
        What the surroundings take up at most [W].

    Returns
    -------
    array
        [s], (n,); never earlier than ``times_s``.

    Raises
    ------
    OutOfRangeError
        If the power is not above zero.

    Notes
    -----
    Valid for falling temperatures: a stretch that gives off twice what can be taken up lasts twice as long.

    References
    ----------
    Heat balance.
    """
    if not power_w > 0:
        raise OutOfRangeError(say("physics.cooling.a_chiller_cools_and_in_a"), power_w=power_w)
    gives_w = -np.diff(mean_c) * capacity_j_k / np.diff(times_s)
    return np.concatenate(([0.0], np.cumsum(np.diff(times_s) * np.maximum(gives_w / power_w, 1.0))))
