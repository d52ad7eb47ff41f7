"""Checking thermometers and pH electrodes against what nature fixes."""

from brinefrost.core.bounds import PH, TEMPERATURE, Bound, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.words import say

MILLIVOLT = Bound(-1000.0, 1000.0, "mV")
NERNST_MV = 59.16  # per pH at 25 °C
ABSOLUTE_25 = 298.15


@bounded(mv_acid=MILLIVOLT, mv_neutral=MILLIVOLT, temperature_c=TEMPERATURE, ph_acid=PH, ph_neutral=PH)
def slope_percent(
    mv_acid: float, mv_neutral: float, temperature_c: float, ph_acid: float = 4.01, ph_neutral: float = 7.0
) -> float:
    """Slope of a pH electrode from two buffers.

    Parameters
    ----------
    mv_acid, mv_neutral : float
        Readings in the two buffers [mV].
    temperature_c : float
        Of the buffers [°C].
    ph_acid, ph_neutral : float
        The buffers [-].

    Returns
    -------
    float
        Per cent of the ideal slope at that temperature [%].

    Raises
    ------
    OutOfRangeError
        If the buffers are less than 1 pH apart or the temperature is not 0 to 60 °C.

    Notes
    -----
    Valid from 0 to 60 °C.

    References
    ----------
    Nernst: 59.16 mV per pH at 25 °C, in proportion to absolute temperature.
    """
    if abs(ph_neutral - ph_acid) < 1 or not 0 <= temperature_c <= 60:
        raise OutOfRangeError(say("kitchen.instruments.two_buffers_at_least_1_ph"))
    if (mv_acid - mv_neutral) * (ph_neutral - ph_acid) < 0:
        raise OutOfRangeError(say("kitchen.instruments.the_acid_buffer_must_read_the"), mv_acid=mv_acid)
    ideal = NERNST_MV * (temperature_c + 273.15) / ABSOLUTE_25
    return (mv_acid - mv_neutral) / (ph_neutral - ph_acid) / ideal * 100


@bounded(reading_c=TEMPERATURE)
def offset_at(reading_c: float, fixed_point: str, altitude_m: float) -> tuple[float, float]:
    """How far a thermometer reads from a fixed point.

    Parameters
    ----------
    reading_c : float
        [°C].
    fixed_point : str
        ``ice`` or ``boiling``.
    altitude_m : float
        [m].

    Returns
    -------
    (float, float)
        The fixed point and the reading's distance from it [°C].

    Raises
    ------
    OutOfRangeError
        For another fixed point, or an altitude outside the model's range.

    Notes
    -----
    Valid for stirred crushed ice and water, or water at a rolling boil; the weather moves boiling by about 1 °C.

    References
    ----------
    ISO 2533 atmosphere and the vapour pressure of water.
    """
    if fixed_point not in ("ice", "boiling"):
        raise OutOfRangeError(say("kitchen.instruments.the_fixed_points_are_ice_and"), fixed_point=fixed_point)
    true_c = 0.0 if fixed_point == "ice" else boiling_c(altitude_m)
    return true_c, reading_c - true_c
