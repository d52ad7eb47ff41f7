"""Finding where something changes over. Small on purpose: scipy's root finders would double the core's import time."""

from collections.abc import Callable

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import say

STEPS = 60


def changeover(holds: Callable[[float], bool], low: float, high: float, tolerance: float) -> float | None:
    """The value where a condition that holds at ``high`` begins to hold.

    Parameters
    ----------
    holds : callable
        Condition of one number; once it holds it goes on holding towards ``high``.
    low, high : float
        The span searched [unit of the number]; ``low`` may lie above ``high``.
    tolerance : float
        How near is near enough [same unit].

    Returns
    -------
    float or None
        The end of the last interval at which it holds; ``low`` if it holds everywhere, None if not even at ``high``.

    Raises
    ------
    OutOfRangeError
        If the tolerance is not above zero.

    Notes
    -----
    Valid for conditions that change once. By halving, so the answer always holds.

    References
    ----------
    Bisection, any textbook of numerical analysis.
    """
    if not tolerance > 0:
        raise OutOfRangeError(say("core.roots.the_tolerance_of_a_search_must"), tolerance=tolerance)
    if not holds(high):
        return None
    if holds(low):
        return low
    for _ in range(STEPS):
        if abs(high - low) <= tolerance:
            break
        middle = (low + high) / 2
        low, high = (low, middle) if holds(middle) else (middle, high)
    return high


def zero_of(function: Callable[[float], float], low: float, high: float, tolerance: float) -> float:
    """Where a function changes its sign.

    Parameters
    ----------
    function : callable
        Continuous, with opposite signs at the ends.
    low, high : float
        The span searched.
    tolerance : float
        How near is near enough [unit of the argument].

    Returns
    -------
    float
        The argument.

    Raises
    ------
    OutOfRangeError
        If the signs at the ends are the same.

    Notes
    -----
    Valid for one change of sign.

    References
    ----------
    Bisection, any textbook of numerical analysis.
    """
    rising = function(high) > 0
    if (function(low) > 0) == rising:
        raise OutOfRangeError(say("core.roots.there_is_no_answer_within_the"), low=low, high=high)
    found = changeover(lambda x: (function(x) > 0) == rising, low, high, tolerance)
    return high if found is None else found
