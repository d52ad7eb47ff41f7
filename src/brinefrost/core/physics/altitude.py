"""Air pressure and the boiling point of water by altitude."""

import math

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import say


def pressure_pa(altitude_m: float) -> float:
    """Air pressure of the standard atmosphere.

    Parameters
    ----------
    altitude_m : float
        Height above the sea [m].

    Returns
    -------
    float
        Pressure [Pa].

    Raises
    ------
    OutOfRangeError
        Below -500 or above 6,000 m.

    Notes
    -----
    Valid from -500 to 6,000 m; weather moves the true pressure by about 3 %.

    References
    ----------
    ISO 2533:1975, standard atmosphere, troposphere.
    """
    if not -500 <= altitude_m <= 6000:
        raise OutOfRangeError(say("physics.altitude.altitude_must_lie_between_500_and"), altitude_m=altitude_m)
    return float(101325.0 * (1.0 - 0.0065 * altitude_m / 288.15) ** 5.255877)


def boiling_c(altitude_m: float) -> float:
    """Boiling point of water in the standard atmosphere.

    Parameters
    ----------
    altitude_m : float
        Height above the sea [m].

    Returns
    -------
    float
        Temperature [°C].

    Raises
    ------
    OutOfRangeError
        As ``pressure_pa``.

    Notes
    -----
    Valid from -500 to 6,000 m, to 0.05 °C against the steam tables.

    References
    ----------
    Antoine's equation with the constants of NIST for 344 to 373 K (Bridgeman & Aldrich 1964):
    log10(p/bar) = 5.08354 - 1663.125 / (T/K - 45.622), from memory, checked against the steam tables.
    """
    log_bar = math.log10(pressure_pa(altitude_m) / 1e5)
    return 1663.125 / (5.08354 - log_bar) + 45.622 - 273.15
