"""Slips of the hand at a field: a number that was likely meant in another unit is asked about, not passed over."""

from brinefrost.core.quantity import to_inside
from brinefrost.core.words import num, say, temp

WARM_RAW_C = 25.0  # raw food is not warmer when it goes in; common practice, no source


def warm_raw(start_c: float) -> str:
    """What to ask about raw food that begins warm [°C]: 40 typed for a fridge is likely °F; empty where it is not.

    Valid for raw food.
    """
    if start_c <= WARM_RAW_C:
        return ""
    meant = to_inside(start_c, "°F")
    return say(
        "bench.slips.is_warm_for_raw_food_did", start=temp(start_c, "g"), start2=num(start_c), meant=temp(meant, ".1f")
    )


def hardly_any(name: str, percent: float, least: float) -> str:
    """What to ask about a strength [%] that is likely a fraction, 0.05 typed for 5 %; empty where it is not.

    Valid for strengths from 0; nothing is nothing.
    """
    if not 0 < percent < least or percent * 100 > 30:
        return ""
    return say("bench.slips.of_is_hardly_more_than_water", name=name, percent=num(percent), percent2=num(percent * 100))
