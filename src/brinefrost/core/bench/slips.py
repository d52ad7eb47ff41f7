"""Slips of the hand at a field: a number that was likely meant in another unit is asked about, not passed over."""

from brinefrost.core.quantity import to_inside

WARM_RAW_C = 25.0  # raw food is not warmer when it goes in; common practice, no source


def warm_raw(start_c: float) -> str:
    """What to ask about raw food that begins warm [°C]: 40 typed for a fridge is likely °F; empty where it is not.

    Valid for raw food.
    """
    if start_c <= WARM_RAW_C:
        return ""
    meant = to_inside(start_c, "°F")
    return (
        f"{start_c:g} °C is warm for raw food. Did you mean {start_c:g} °F, that is {meant:.1f} °C? If it is so warm "
        "already, the time it has lain in the growth zone counts too."
    )


def hardly_any(name: str, percent: float, least: float) -> str:
    """What to ask about a strength [%] that is likely a fraction, 0.05 typed for 5 %; empty where it is not.

    Valid for strengths from 0; nothing is nothing.
    """
    if not 0 < percent < least or percent * 100 > 30:
        return ""
    return f"{name} of {percent:g} % is hardly more than water. Did you mean {percent * 100:g} %?"
