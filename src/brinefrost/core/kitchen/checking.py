"""What a check against something known says of an instrument."""

from dataclasses import dataclass
from typing import Literal

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.words import say

Against = Literal["ice", "boiling", "reference", "buffers"]
FIXED_POINTS = ("ice", "boiling")  # what nature fixes, for temperatures alone


@dataclass(frozen=True)
class Checked:
    """How far off it was left [its unit], whether it may be used, and what it is good to from now on, k = 2."""

    error: float
    good: bool
    good_to: float


def unit_of(quantities: tuple[ReadingQuantity, ...]) -> str:
    """The one unit that an instrument reads in.

    Valid for any quantities; raises OutOfRangeError where they have several: a check and an uncertainty are each about
    one of them.
    """
    units = {QUANTITIES[each].unit for each in quantities}
    if len(units) != 1:
        raise OutOfRangeError(say("kitchen.checking.one_instrument_for_each"), quantities=list(quantities))
    return units.pop()


def check_against(quantities: tuple[ReadingQuantity, ...], against: Against) -> None:
    """Refuse what cannot be held against: ice tells nothing of a pH meter.

    Valid for any quantities; raises OutOfRangeError.
    """
    kinds = {QUANTITIES[each].kind for each in quantities}
    if (against in FIXED_POINTS and "temperature" not in kinds) or (against == "buffers" and "ph" not in kinds):
        raise OutOfRangeError(say("kitchen.checking.cannot_be_held_against"), against=against)


def checked(quantities: tuple[ReadingQuantity, ...], left: float, expected: float, declared: float) -> Checked:
    """What a check comes to.

    Parameters
    ----------
    quantities : tuple of str
        What it reads.
    left : float
        What it showed, as it was left [its unit].
    expected : float
        What it was held against [its unit].
    declared : float
        What its maker says it is good to, k = 2 [its unit].

    Returns
    -------
    Checked
        An instrument that is further off than its maker says is good to that distance only, so that no reading of it
        passes by what it is off.

    Raises
    ------
    OutOfRangeError
        Never; the quantities were checked when it was added.

    Notes
    -----
    Valid for any finite readings. The strictest of its quantities decides.

    References
    ----------
    Food Code 4-203.11(A): within 1 °C; other quantities common practice, no source.
    """
    most = min(QUANTITIES[each].most_off for each in quantities)
    error = left - expected
    return Checked(error, abs(error) <= most + 1e-9, max(declared, abs(error)))
