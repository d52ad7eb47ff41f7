"""Exact unit conversion at the edge. Inside the core: SI, and degrees Celsius for temperature."""

import math
import re
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

_NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)")


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


def from_inside(value: float, unit: str) -> float:
    """Convert from the inside unit to the one a person reads.

    Parameters
    ----------
    value : float
        The quantity [°C, m, kg or s].
    unit : str
        One of ``UNITS``.

    Returns
    -------
    float
        The number [unit].

    Raises
    ------
    OutOfRangeError
        If the unit is unknown or the number is not finite.

    Notes
    -----
    Valid for every finite number; ``from_inside(to_inside(x, u), u)`` gives back x to 12 digits.

    References
    ----------
    As ``to_inside``.
    """
    _, factor, offset = _unit(unit)
    return float((_fraction(value) - offset) / factor)


def number_from_text(text: str) -> float:
    """Read a number as people type it, decimal comma included.

    Parameters
    ----------
    text : str
        For example ``"62,5"``, ``" 3.4 "`` or ``"-1"``.

    Returns
    -------
    float
        The number [as typed].

    Raises
    ------
    OutOfRangeError
        If it is not one plain number.

    Notes
    -----
    Valid for one number with at most one decimal mark; thousands separators are refused, since
    "1,200" could be either.

    References
    ----------
    ISO 80000-1: the decimal sign is a comma or a point on the line.
    """
    cleaned = text.strip().replace("\u2212", "-")
    if not _NUMBER.fullmatch(cleaned):
        raise OutOfRangeError(say("core.quantity.is_not_a_number_type_digits", text=text[:20]), text=text[:20])
    found = float(cleaned.replace(",", "."))
    if found in (float("inf"), float("-inf")):
        raise OutOfRangeError(say("core.quantity.the_number_is_not_finite"), text=text[:20])
    return found


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
