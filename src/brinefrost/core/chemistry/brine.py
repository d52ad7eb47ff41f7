"""Brine by every convention, equilibrium salting, and the salt of the water phase."""

import math

from brinefrost.core.bounds import AT_LEAST_0, DENSITY, MASS, PERCENT, SHARE, SOME_MASS, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.roots import zero_of
from brinefrost.core.words import say

SALT_G_MOL = 58.443
SATURATED_PERCENT = 26.4  # % by mass at 15.6 °C: 100 degrees salometer
# Laliberté & Cooper (2004), J. Chem. Eng. Data 49, NaCl, from memory; compared with PHREEQC's values in tests
LALIBERTE = (-0.00433, 0.06471, 1.01660, 0.014624, 3315.6)


@bounded(salt=AT_LEAST_0, water=AT_LEAST_0)
def percent_of_total(salt: float, water: float) -> float:
    """Salt in a brine, by mass of the whole.

    Parameters
    ----------
    salt, water : float
        [same unit].

    Returns
    -------
    float
        Salt / (salt + water) [%].

    Raises
    ------
    OutOfRangeError
        If an amount is negative or there is none.

    Notes
    -----
    Valid for any amounts; above 26.4 % at 15.6 °C salt stays at the bottom.

    References
    ----------
    Definition.
    """
    if min(salt, water) < 0 or not salt + water > 0:
        raise OutOfRangeError(say("chemistry.brine.salt_and_water_must_not_be"), salt=salt, water=water)
    return 100 * salt / (salt + water)


@bounded(percent=PERCENT)
def on_water_from_total(percent: float) -> float:
    """From salt of the whole to salt on the water.

    Parameters
    ----------
    percent : float
        [% of the whole].

    Returns
    -------
    float
        g on 100 g water [%].

    Raises
    ------
    OutOfRangeError
        If not 0 to below 100.

    Notes
    -----
    Valid for any strength.

    References
    ----------
    Definition.
    """
    if not 0 <= percent < 100:
        raise OutOfRangeError(say("chemistry.brine.strength_must_be_0_to_below"), percent=percent)
    return 100 * percent / (100 - percent)


@bounded(percent=PERCENT)
def salometer_degrees(percent: float) -> float:
    """Degrees salometer at 15.6 °C.

    Parameters
    ----------
    percent : float
        [% of the whole].

    Returns
    -------
    float
        [°SAL].

    Raises
    ------
    OutOfRangeError
        If not 0 to 26.4 %.

    Notes
    -----
    Valid to saturation at 15.6 °C (60 °F).

    References
    ----------
    100 degrees = 26.4 %, standard salometer tables (published).
    """
    if not 0 <= percent <= SATURATED_PERCENT:
        raise OutOfRangeError(
            say("chemistry.brine.a_brine_holds_at_most_salt", saturated_percent=SATURATED_PERCENT), percent=percent
        )
    return percent / SATURATED_PERCENT * 100


@bounded(temperature_c=TEMPERATURE)
def water_density_kg_m3(temperature_c: float) -> float:
    """Density of water.

    Parameters
    ----------
    temperature_c : float
        [°C].

    Returns
    -------
    float
        [kg/m³].

    Raises
    ------
    OutOfRangeError
        Outside 0 to 100 °C.

    Notes
    -----
    Valid from 0 to 100 °C to 0.01 %.

    References
    ----------
    Kell (1975), J. Chem. Eng. Data 20.
    """
    if not 0 <= temperature_c <= 100:
        raise OutOfRangeError(say("chemistry.brine.the_density_of_water_is_known"), temperature_c=temperature_c)
    t = temperature_c
    top = (
        999.83952
        + 16.945176 * t
        - 7.9870401e-3 * t**2
        - 46.170461e-6 * t**3
        + 105.56302e-9 * t**4
        - 280.54253e-12 * t**5
    )
    return top / (1 + 16.879850e-3 * t)


@bounded(percent=PERCENT, temperature_c=TEMPERATURE)
def brine_density_kg_m3(percent: float, temperature_c: float = 15.56) -> float:
    """Density of a brine, for the hydrometer.

    Parameters
    ----------
    percent : float
        [% of the whole].
    temperature_c : float
        [°C].

    Returns
    -------
    float
        [kg/m³].

    Raises
    ------
    OutOfRangeError
        If not 0 to 26.4 %, or the temperature outside 0 to 100 °C.

    Notes
    -----
    Valid from 0 to 26.4 %, 5 to 100 °C, to 0.1 %.

    References
    ----------
    Laliberté & Cooper (2004), from memory.
    """
    if not 0 <= percent <= SATURATED_PERCENT:
        raise OutOfRangeError(
            say("chemistry.brine.a_brine_holds_at_most_salt_2", saturated_percent=SATURATED_PERCENT), percent=percent
        )
    water_density_kg_m3(temperature_c)  # refuses what is not 0 to 100 °C
    share = percent / 100
    c0, c1, c2, c3, c4 = LALIBERTE
    apparent = (c0 * share + c1) * math.exp(1e-6 * (temperature_c + c4) ** 2) / (share + c2 + c3 * temperature_c)
    return 1 / ((1 - share) / water_density_kg_m3(temperature_c) + share / apparent)


@bounded(density_kg_m3=DENSITY, temperature_c=TEMPERATURE)
def percent_from_density(density_kg_m3: float, temperature_c: float = 15.56) -> float:
    """Strength of a brine from its density.

    Parameters
    ----------
    density_kg_m3 : float
        As the hydrometer reads [kg/m³].
    temperature_c : float
        [°C].

    Returns
    -------
    float
        [% of the whole].

    Raises
    ------
    OutOfRangeError
        If no brine of 0 to 26.4 % is so dense.

    Notes
    -----
    Valid for salt alone: sugar weighs too.

    References
    ----------
    Inverse of ``brine_density_kg_m3``.
    """
    return zero_of(lambda p: brine_density_kg_m3(p, temperature_c) - density_kg_m3, 0.0, SATURATED_PERCENT, 1e-4)


@bounded(food_kg=SOME_MASS, food_water_share=SHARE, salt_kg=MASS, water_kg=MASS, food_salt_kg=MASS)
def resting_salt_percent(
    food_kg: float, food_water_share: float, salt_kg: float, water_kg: float, food_salt_kg: float = 0.0
) -> tuple[float, float]:
    """Salt once food and brine are even.

    Parameters
    ----------
    food_kg : float
        [kg].
    food_water_share : float
        [-].
    salt_kg, water_kg : float
        Of the brine, or of the rub with no water [kg].
    food_salt_kg : float
        Salt the food had before [kg].

    Returns
    -------
    (float, float)
        Salt of food and brine together [% of the whole], and salt of the water phase [%].

    Raises
    ------
    OutOfRangeError
        If an amount is negative or there is no food.

    Notes
    -----
    Valid at rest, with nothing poured off. The water phase is the same in food and brine.

    References
    ----------
    Mass balance; FSIS and FDA: water-phase salt = salt / (salt + water).
    """
    if min(food_kg, salt_kg, water_kg, food_salt_kg) < 0 or not food_kg > 0 or not 0 < food_water_share <= 1:
        raise OutOfRangeError(say("chemistry.brine.amounts_must_not_be_negative_and"))
    salt = salt_kg + food_salt_kg
    return 100 * salt / (food_kg + salt_kg + water_kg), percent_of_total(salt, water_kg + food_kg * food_water_share)


@bounded(food_kg=MASS, water_kg=MASS, percent=PERCENT)
def salt_needed_kg(food_kg: float, water_kg: float, percent: float) -> float:
    """Salt that gives food and water together a strength at rest.

    Parameters
    ----------
    food_kg, water_kg : float
        [kg].
    percent : float
        Of everything together, the salt included [%].

    Returns
    -------
    float
        [kg].

    Raises
    ------
    OutOfRangeError
        If the strength is not 0 to 26.4 %.

    Notes
    -----
    Valid for equilibrium brine and, with no water, for a dry cure. On food and water alone (the other
    convention) it is percent × (food + water).

    References
    ----------
    Mass balance.
    """
    if not 0 <= percent <= SATURATED_PERCENT:
        raise OutOfRangeError(
            say("chemistry.brine.strength_must_be_0_to", saturated_percent=SATURATED_PERCENT), percent=percent
        )
    return (food_kg + water_kg) * percent / (100 - percent)
