"""Exact unit conversion at the edge. Inside the core: SI, and degrees Celsius for temperature."""

import math
from fractions import Fraction

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import say

# unit: (what it measures, factor to the inside unit, offset added after the factor)
UNITS: dict[str, tuple[str, Fraction, Fraction]] = {
    "°C": ("temperature", Fraction(1), Fraction(0)),
    "°F": ("temperature", Fraction(5, 9), Fraction(-160, 9)),
    "m": ("length", Fraction(1), Fraction(0)),
    "mm": ("length", Fraction(1, 1000), Fraction(0)),
    "in": ("length", Fraction(254, 10000), Fraction(0)),
    "kg": ("mass", Fraction(1), Fraction(0)),
    "g": ("mass", Fraction(1, 1000), Fraction(0)),
    "lb": ("mass", Fraction(45359237, 100000000), Fraction(0)),
    "oz": ("mass", Fraction(45359237, 1600000000), Fraction(0)),
    "s": ("time", Fraction(1), Fraction(0)),
    "min": ("time", Fraction(60), Fraction(0)),
    "h": ("time", Fraction(3600), Fraction(0)),
    "d": ("time", Fraction(86400), Fraction(0)),
}


def to_inside(value: float, unit: str) -> float:
    """Convert a number as typed to the inside unit of its kind.

    Parameters
    ----------
    value : float
        The number [unit].
    unit : str
        One of ``UNITS``.

    Returns
    -------
    float
        The same quantity in °C, m, kg or s.

    Raises
    ------
    OutOfRangeError
        If the unit is unknown or the number is not finite.

    Notes
    -----
    Valid for every finite number. The conversion is exact in rational arithmetic and rounded once.

    References
    ----------
    International yard and pound agreement (1959): 1 in = 25.4 mm, 1 lb = 0.45359237 kg.
    """
    _, factor, offset = _unit(unit)
    if factor == 1 and offset == 0 and math.isfinite(value):
        return float(value)
    return float(_fraction(value) * factor + offset)


def _unit(unit: str) -> tuple[str, Fraction, Fraction]:
    try:
        return UNITS[unit]
    except KeyError:
        raise OutOfRangeError(say("core.quantity.the_unit_is_not_known_here", unit=unit), unit=unit) from None


def _fraction(value: float) -> Fraction:
    try:
        return Fraction(repr(float(value)))
    except (ValueError, OverflowError):
        raise OutOfRangeError(say("core.quantity.the_number_is_not_finite"), value=str(value)) from None
