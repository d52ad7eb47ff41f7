"""Eggs in their shells: how warm the yolk's centre gets, and what white and yolk are like then."""

import math

from brinefrost.core.bounds import SOME_MASS, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.words import say

SHORT_DIAMETER_M = 0.0430  # of a 60 g egg, common practice; others in proportion to the cube root of the mass
DIFFUSIVITY_M2_S, CONDUCTIVITY_W_MK, WATER_H = 1.3e-7, 0.48, 300.0
YOLK_EDGE = 0.69  # a third of the mass: (1/3)^(1/3) of the radius
# °C from which a part is like this; common practice, no source
WHITE = ((80.0, "firm"), (65.0, "set"), (61.5, say("kitchen.eggs.just_set")), (0.0, "runny"))
YOLK = ((70.0, "set"), (64.5, say("kitchen.eggs.like_wax_or_jam")), (63.0, "thick"), (0.0, "runny"))


@bounded(mass_kg=SOME_MASS)
def egg_body(mass_kg: float) -> Body:
    """An egg as a sphere of its short diameter.

    Parameters
    ----------
    mass_kg : float
        With its shell [kg].

    Returns
    -------
    Body
        A sphere.

    Raises
    ------
    OutOfRangeError
        If the mass is not 20 to 150 g.

    Notes
    -----
    Valid for hens' eggs of 20 to 150 g; the short diameter is on the fast side for the long axis and on the slow
    side for none.

    References
    ----------
    Common practice, no source: 43 mm for 60 g, α about 1.3e-7 m²/s.
    """
    if not 0.02 <= mass_kg <= 0.15:
        raise OutOfRangeError(say("kitchen.eggs.an_egg_weighs_to"), mass_kg=mass_kg)
    return Body(Shape.sphere, SHORT_DIAMETER_M / 2 * (mass_kg / 0.06) ** (1 / 3), DIFFUSIVITY_M2_S, CONDUCTIVITY_W_MK)


@bounded(mass_kg=SOME_MASS, egg_c=TEMPERATURE, water_c=TEMPERATURE, yolk_c=TEMPERATURE)
def soft_boiled_s(mass_kg: float, egg_c: float, water_c: float, yolk_c: float = 63.0) -> float:
    """Time until the yolk's edge reaches a temperature.

    Parameters
    ----------
    mass_kg : float
        [kg].
    egg_c, water_c, yolk_c : float
        Egg at the start, water, and the yolk's edge at the end [°C].

    Returns
    -------
    float
        [s].

    Raises
    ------
    OutOfRangeError
        If the yolk's temperature does not lie between egg and water, or the mass not 20 to 150 g.

    Notes
    -----
    Valid for hens' eggs in much water, one term of the series: good once the white has begun to set.

    References
    ----------
    Williams, The science of boiling an egg, University of Exeter: t = M^(2/3) c ρ^(1/3) / (K π² (4π/3)^(2/3))
    ln[0.76 (Tegg − Tw)/(Tyolk − Tw)], c 3.7 J/g·K, ρ 1.038 g/cm³, K 5.4e-3 W/cm·K.
    """
    if not (0.02 <= mass_kg <= 0.15 and egg_c < yolk_c < water_c):
        raise OutOfRangeError(say("kitchen.eggs.the_yolks_temperature_must_lie_between"), yolk_c=yolk_c)
    shape = (mass_kg * 1000) ** (2 / 3) * 3.7 * 1.038 ** (1 / 3) / (5.4e-3 * math.pi**2 * (4 * math.pi / 3) ** (2 / 3))
    return float(shape) * max(math.log(0.76 * (egg_c - water_c) / (yolk_c - water_c)), 0.0)


@bounded(hottest_c=TEMPERATURE)
def white_state(hottest_c: float) -> str:
    """What the white is like, by the hottest it has been half way out [°C].

    Valid for hens' eggs; bands from common practice, no source.
    """
    return _state(WHITE, hottest_c)


@bounded(hottest_c=TEMPERATURE)
def yolk_state(hottest_c: float) -> str:
    """What the yolk is like, by the hottest its centre has been [°C].

    Valid for hens' eggs; bands from common practice, no source.
    """
    return _state(YOLK, hottest_c)


def _state(steps: tuple[tuple[float, str], ...], hottest_c: float) -> str:
    return next((word for least, word in steps if hottest_c >= least), steps[-1][1])
