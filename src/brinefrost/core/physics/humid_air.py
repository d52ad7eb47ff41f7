"""The wet-bulb temperature: what the surface of moist food follows in an oven or a smoke chamber."""

import math

from brinefrost.core.bounds import SHARE, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.altitude import pressure_pa
from brinefrost.core.roots import zero_of
from brinefrost.core.words import say


@bounded(temperature_c=TEMPERATURE)
def saturation_pressure_pa(temperature_c: float) -> float:
    """Vapour pressure of water.

    Parameters
    ----------
    temperature_c : float
        [°C].

    Returns
    -------
    float
        [Pa].

    Raises
    ------
    OutOfRangeError
        Outside 0 to 200 °C.

    Notes
    -----
    Valid from 0 to 200 °C over liquid water.

    References
    ----------
    Hyland & Wexler (1983), as in ASHRAE Handbook Fundamentals, ch. 1, eq. 6.
    """
    if not 0 <= temperature_c <= 200:
        raise OutOfRangeError(say("physics.humid_air.vapour_pressure_is_known_from_to"), temperature_c=temperature_c)
    kelvin = temperature_c + 273.15
    return math.exp(
        -5.8002206e3 / kelvin
        + 1.3914993
        - 4.8640239e-2 * kelvin
        + 4.1764768e-5 * kelvin**2
        - 1.4452093e-8 * kelvin**3
        + 6.5459673 * math.log(kelvin)
    )


@bounded(temperature_c=TEMPERATURE, relative_humidity=SHARE)
def humidity_ratio(temperature_c: float, relative_humidity: float, altitude_m: float = 0.0) -> float:
    """Water in the air.

    Parameters
    ----------
    temperature_c : float
        Dry bulb [°C].
    relative_humidity : float
        0 to 1 [-].
    altitude_m : float
        [m].

    Returns
    -------
    float
        kg water a kg dry air [-].

    Raises
    ------
    OutOfRangeError
        If the humidity is not 0 to 1, or the vapour would fill more than the air's pressure.

    Notes
    -----
    Valid from 0 to 200 °C while the vapour pressure stays below 95 % of the air's.

    References
    ----------
    ASHRAE Handbook Fundamentals, ch. 1.
    """
    pressure = pressure_pa(altitude_m)
    vapour = relative_humidity * saturation_pressure_pa(temperature_c)
    if not 0 <= relative_humidity <= 1 or vapour > 0.95 * pressure:
        raise OutOfRangeError(say("physics.humid_air.so_much_steam_cannot_be_in"), humidity=relative_humidity)
    return 0.621945 * vapour / (pressure - vapour)


@bounded(dry_c=TEMPERATURE, relative_humidity=SHARE)
def wet_bulb_c(dry_c: float, relative_humidity: float, altitude_m: float = 0.0) -> float:
    """Wet-bulb temperature.

    Parameters
    ----------
    dry_c : float
        Dry bulb [°C].
    relative_humidity : float
        0 to 1 [-].
    altitude_m : float
        [m].

    Returns
    -------
    float
        [°C].

    Raises
    ------
    OutOfRangeError
        As ``humidity_ratio``, or if the wet bulb lies below 0 °C.

    Notes
    -----
    Valid from 1 to 200 °C dry bulb; the surface of food follows it only while it is wet.

    References
    ----------
    ASHRAE Handbook Fundamentals, ch. 1, eq. 33; compared with psychrolib in tests.
    """
    held = humidity_ratio(dry_c, relative_humidity, altitude_m)
    if relative_humidity >= 1:
        return dry_c

    def excess(wet_c: float) -> float:
        saturated = humidity_ratio(wet_c, 1.0, altitude_m)
        given = (2501 - 2.326 * wet_c) * saturated - 1.006 * (dry_c - wet_c)
        return given / (2501 + 1.86 * dry_c - 4.186 * wet_c) - held

    if excess(0.0) > 0:
        raise OutOfRangeError(say("physics.humid_air.so_dry_and_cold_the_wet"))
    highest = dry_c
    while 0.95 * pressure_pa(altitude_m) < saturation_pressure_pa(min(highest, 200.0)):
        highest -= 1.0
    return zero_of(excess, 0.0, highest, 1e-4)
