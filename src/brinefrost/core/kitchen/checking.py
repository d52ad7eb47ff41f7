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


def held_to(quantities: tuple[ReadingQuantity, ...], against: Against) -> tuple[ReadingQuantity, ...]:
    """What of an instrument a check tells of: of one that reads in several units, as older kit may, one of them.

    Valid for any quantities; raises OutOfRangeError where it tells of none: ice tells nothing of a pH meter.
    """
    wanted = "temperature" if against in FIXED_POINTS else "ph" if against == "buffers" else ""
    found = tuple(each for each in quantities if not wanted or QUANTITIES[each].kind == wanted)
    if not found:
        raise OutOfRangeError(say("kitchen.checking.cannot_be_held_against"), against=against)
    return tuple(each for each in found if QUANTITIES[each].unit == QUANTITIES[found[0]].unit)


def checked(quantities: tuple[ReadingQuantity, ...], left: float, expected: float, declared: float) -> Checked:
    """What a check comes to, by what it showed as it was left and what it was held against.

    One that is further off than its maker says is good to that distance only, so that no reading of it passes by what
    it is off. Valid for finite readings of quantities in one unit; the strictest of them decides. ``left``,
    ``expected`` and ``declared``, k = 2 [its unit]. Food Code 4-203.11(A): within 1 °C; the rest common practice, no
    source.
    """
    most = min(QUANTITIES[each].most_off for each in quantities)
    error = left - expected
    return Checked(error, abs(error) <= most + 1e-9, max(declared, abs(error)))
