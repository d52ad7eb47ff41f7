"""What would still pass: the shortest time, the thickest piece, the coolest surroundings. One answer for every page."""

from collections.abc import Callable, Iterable
from dataclasses import replace

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Limit, Series
from brinefrost.core.physics.heat import HeatCurve
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.horizon import left_in
from brinefrost.core.roots import changeover
from brinefrost.core.words import say

Way = Callable[[Heating], HeatCurve]
THICK_M, THIN_M, NEAR_M = 0.4, 0.001, 1e-4
HOT_C, COOL_C, NEAR_K = 100.0, 20.0, 0.05
TIMES_S = [60.0 * 1.05**n for n in range(99)]  # a minute to two hours


def steadily(heating: Heating) -> HeatCurve:
    """A piece left in surroundings that do not change. Valid as ``left_in``."""
    return left_in(heating.body, heating.start_c, heating.surroundings_c, heating.h_w_m2k, heating.boils_c)


def met_s(limits: Iterable[Limit], way: HeatCurve) -> float | None:
    """The shortest time on this way that meets every limit [s]; None where one is not met on it, or not by time.

    Valid for limits on the core.
    """
    series = Series.computed(way.times_s, way.core_c)
    found = [limit.met_at_s(series) if limit.by_time else None for limit in limits]
    known = [time for time in found if time is not None]
    return max(known) if known and len(known) == len(found) else None


def least_met_s(limit: Limit, way_for: Callable[[float], HeatCurve]) -> float | None:
    """The shortest of all times up to two hours, a twentieth apart [s], whose own way meets a limit; None where none.

    Valid for limits on the core, where what is done depends on how long it is done: a pan in which it is turned once.
    """
    low, high = 0, len(TIMES_S) - 1
    if met_s((limit,), way_for(TIMES_S[high])) is None:
        return None
    while low < high:
        middle = (low + high) // 2
        if met_s((limit,), way_for(TIMES_S[middle])) is None:
            low = middle + 1
        else:
            high = middle
    return TIMES_S[low]


def thickest_m(limits: Iterable[Limit], heating: Heating, within_s: float, way: Way = steadily) -> float | None:
    """The thickest piece that meets every limit in time.

    Parameters
    ----------
    limits : iterable of Limit
        On the core.
    heating : Heating
        As planned; its thickness is what is looked for.
    within_s : float
        Time in the surroundings [s].
    way : callable
        What surrounds a piece, where that is not steady.

    Returns
    -------
    float or None
        Thickness or diameter [m], to 0.1 mm; None when not even 1 mm passes.

    Raises
    ------
    OutOfRangeError
        If the time is not above zero.

    Notes
    -----
    Valid from 1 to 400 mm; other sides stay as they are.

    References
    ----------
    Bisection on ``met_s``: thicker never heats faster.
    """
    asked = _within(limits, within_s)

    def passes(thickness_m: float) -> bool:
        body = replace(heating.body, half_thickness_m=thickness_m / 2)
        return asked(way(replace(heating, body=body)))

    return changeover(passes, THICK_M, THIN_M, NEAR_M)


def coolest_c(limits: Iterable[Limit], heating: Heating, within_s: float, way: Way = steadily) -> float | None:
    """The coolest surroundings that meet every limit in time.

    Parameters
    ----------
    limits, heating, within_s, way
        As for ``thickest_m``; the surroundings are what is looked for.

    Returns
    -------
    float or None
        [°C], to 0.05; None when not even 100 °C does.

    Raises
    ------
    OutOfRangeError
        If the time is not above zero.

    Notes
    -----
    Valid from the start temperature to 100 °C.

    References
    ----------
    Bisection on ``met_s``: hotter never kills less.
    """
    asked = _within(limits, within_s)
    return changeover(
        lambda around: asked(way(replace(heating, surroundings_c=around))),
        max(heating.start_c + 0.5, COOL_C),
        HOT_C,
        NEAR_K,
    )


def _within(limits: Iterable[Limit], within_s: float) -> Callable[[HeatCurve], bool]:
    if not within_s > 0:
        raise OutOfRangeError(say("physics.heating.the_time_must_be_above_zero"), within_s=within_s)
    every = tuple(limits)

    def passes(way: HeatCurve) -> bool:
        found = met_s(every, way)
        return found is not None and found <= within_s

    return passes
