"""What several pages ask of a limit in one steady surrounding, and of steps laid end to end."""

from collections.abc import Iterable

import numpy as np

from brinefrost.core.limits import Hold, Lethality, Limit, Series
from brinefrost.core.physics.body import Array

BLINK_S = 1e-3  # between two steps at different temperatures


def counts_from_c(limit: Limit, otherwise: float = 54.4) -> float:
    """The temperature from which a limit gives credit [°C].

    Valid for lethality and hold; other limits give the value to fall back on.
    """
    if isinstance(limit, Lethality):
        return limit.model.law().knots_c[0]
    return limit.at_least_c if isinstance(limit, Hold) else otherwise


def laid_end_to_end(steps: Iterable[tuple[float, float]], uncertainty: float = 0.0, closed: bool = True) -> Series:
    """A series of steps, each a temperature [°C] and how long it was kept [s]; empty without steps.

    Valid for times above 0.
    """
    times: list[float] = []
    values: list[float] = []
    now = 0.0
    for temperature, duration_s in steps:
        times += [now + (BLINK_S if times else 0.0), now + duration_s]
        values += [temperature, temperature]
        now += duration_s
    return Series(np.array(times), np.array(values), uncertainty, 0.0, closed, np.inf, "computed")


def face_to_face(thickness_m: float, places: Array, from_middle: Array) -> tuple[Array, Array]:
    """Depth from one face [m] and the profile over the whole piece, (2 n - 1,).

    From its half given from the middle out, (n,), at places 0 to 1 [-]. Valid for a profile alike on both sides.
    """
    half = thickness_m / 2
    depth = np.concatenate((half - places[::-1] * half, half + places[1:] * half))
    return depth, np.concatenate((from_middle[::-1], from_middle[1:]))
