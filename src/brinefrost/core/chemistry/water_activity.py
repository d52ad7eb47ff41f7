"""Water activity of salt, sugar and their mixtures, and drying to a target."""

import math

from brinefrost.core.bounds import MASS, SHARE, SOME_MASS, bounded, check
from brinefrost.core.chemistry.brine import SALT_G_MOL
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.roots import changeover
from brinefrost.core.words import joined, say

WATER_G_MOL = 18.015
# Pitzer & Mayorga (1973), NaCl at 25 °C; A = 0.3915 kg½/mol½
PITZER_A, PITZER_B0, PITZER_B1, PITZER_C = 0.3915, 0.0765, 0.2664, 0.00127
STRONGEST_MOL_KG = 6.15  # saturation
# Norrish (1966) constants and g/mol
SUGARS = {"sucrose": (6.47, 342.30), "glucose": (2.25, 180.16), "fructose": (2.25, 180.16), "glycerol": (1.16, 92.09)}


@bounded(salt_kg=MASS, water_kg=SOME_MASS)
def aw_of_salt(salt_kg: float, water_kg: float) -> float:
    """Water activity of salt water at 25 °C.

    Parameters
    ----------
    salt_kg, water_kg : float
        [kg].

    Returns
    -------
    float
        [-].

    Raises
    ------
    OutOfRangeError
        If there is no water, or more salt than it dissolves.

    Notes
    -----
    Valid to saturation, 26.4 %, aw 0.753; from 5 to 40 °C within 0.002.

    References
    ----------
    Pitzer & Mayorga (1973), J. Phys. Chem. 77; checked against Robinson & Stokes, Electrolyte Solutions.
    """
    if not (water_kg > 0 and salt_kg >= 0):
        raise OutOfRangeError(say("chemistry.water_activity.there_must_be_water_and_salt"))
    molal = salt_kg * 1000 / SALT_G_MOL / water_kg
    if molal > STRONGEST_MOL_KG:
        raise OutOfRangeError(say("chemistry.water_activity.there_is_more_salt_than_the"), molal=molal)
    root = math.sqrt(molal)
    osmotic = (
        1
        - PITZER_A * root / (1 + 1.2 * root)
        + molal * (PITZER_B0 + PITZER_B1 * math.exp(-2 * root))
        + molal**2 * PITZER_C
    )
    return math.exp(-osmotic * 2 * molal * WATER_G_MOL / 1000)


@bounded(sugar_kg=MASS, water_kg=SOME_MASS)
def aw_of_sugar(sugar: str, sugar_kg: float, water_kg: float) -> float:
    """Water activity of sugar water.

    Parameters
    ----------
    sugar : str
        One of ``SUGARS``.
    sugar_kg, water_kg : float
        [kg].

    Returns
    -------
    float
        [-].

    Raises
    ------
    OutOfRangeError
        If the sugar is not known, there is no water, or more sugar than 3 kg on a kg of water.

    Notes
    -----
    Valid to about 70 % sugar at 25 °C.

    References
    ----------
    Norrish (1966), J. Food Technol. 1: aw = Xw exp(−K Xs²); K as in Chirife et al. (1980).
    """
    if sugar not in SUGARS or not (water_kg > 0 and 0 <= sugar_kg <= 3 * water_kg):
        raise OutOfRangeError(
            say("chemistry.water_activity.known_are_up_to_on_a", sugars=joined(SUGARS, ", ")), sugar=sugar
        )
    constant, mass = SUGARS[sugar]
    moles, water = sugar_kg / mass, water_kg / WATER_G_MOL
    share = moles / (moles + water)
    return (1 - share) * math.exp(-constant * share**2)


@bounded(salt_kg=MASS, water_kg=SOME_MASS)
def aw_of_mixture(salt_kg: float, sugars_kg: dict[str, float], water_kg: float) -> float:
    """Water activity with salt and sugars together.

    Parameters
    ----------
    salt_kg : float
        [kg].
    sugars_kg : dict of str to float
        [kg] each.
    water_kg : float
        [kg].

    Returns
    -------
    float
        [-].

    Raises
    ------
    OutOfRangeError
        As ``aw_of_salt`` and ``aw_of_sugar``.

    Notes
    -----
    Valid for moderate strengths: within 0.01 of measured values down to aw 0.85; protein and fat count for nothing.

    References
    ----------
    Ross (1975), Food Technol. 29: each solute in all the water, multiplied.
    """
    found = aw_of_salt(salt_kg, water_kg)
    for sugar, mass in sugars_kg.items():
        check(sugar, mass, MASS)
        if mass:
            found *= aw_of_sugar(sugar, mass, water_kg)
    return found


@bounded(mass_kg=SOME_MASS, water_share=SHARE, salt_share=SHARE, target_aw=SHARE)
def loss_for_aw(
    mass_kg: float, water_share: float, salt_share: float, sugars: dict[str, float], target_aw: float
) -> float | None:
    """Loss of mass by drying that brings a food to a water activity.

    Parameters
    ----------
    mass_kg : float
        Before drying [kg].
    water_share, salt_share : float
        Of that mass [-].
    sugars : dict of str to float
        Shares of that mass [-].
    target_aw : float
        [-].

    Returns
    -------
    float or None
        Loss as a share of the mass before [-]; None if not even saturated salt water is low enough.

    Raises
    ------
    OutOfRangeError
        If the shares do not lie between 0 and 1 together, or the target not 0.7 to 1.

    Notes
    -----
    Valid when water alone is lost. An estimate: a meter decides.

    References
    ----------
    Bisection on ``aw_of_mixture``.
    """
    for name, share in sugars.items():
        check(name, share, SHARE)
    if not (0.7 <= target_aw <= 1 and water_share > 0 and water_share + salt_share + sum(sugars.values()) <= 1):
        raise OutOfRangeError(say("chemistry.water_activity.shares_must_come_to_at_most"))
    driest = 1.0001 * max(
        salt_share * 1000 / SALT_G_MOL / STRONGEST_MOL_KG, *(share / 3 for share in sugars.values()), 0.002
    )

    def dry_enough(water: float) -> bool:
        return aw_of_mixture(salt_share, sugars, water) <= target_aw

    water = changeover(dry_enough, water_share, min(driest, water_share), 1e-5)
    return None if water is None else max(0.0, water_share - water)
