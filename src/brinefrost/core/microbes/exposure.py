"""Clocks of cumulative exposure: time in each band of temperature, added up over steps and days."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import FINITE, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say


@dataclass(frozen=True)
class BandTime:
    """How long in one band, of how long allowed."""

    from_c: float
    to_c: float
    spent_s: float
    within_s: float


@bounded(times_s=FINITE, temperature_c=TEMPERATURE, low_c=FINITE, high_c=FINITE)
def time_between_s(times_s: Array, temperature_c: Array, low_c: float, high_c: float) -> Array:
    """Time spent from a temperature up to another, up to each reading.

    Parameters
    ----------
    times_s, temperature_c : array
        [s], [°C], (n,), straight between readings.
    low_c, high_c : float
        The band, low left out and high included [°C].

    Returns
    -------
    array
        [s], (n,), starting at 0.

    Raises
    ------
    OutOfRangeError
        If the times do not rise.

    Notes
    -----
    Valid for any curve; exact for straight segments.

    References
    ----------
    Geometry of straight segments.
    """
    if np.any(np.diff(times_s) <= 0):
        raise OutOfRangeError(say("microbes.exposure.the_times_of_a_trace_must"))
    if len(times_s) < 2:
        return np.zeros(len(times_s))
    first, last = temperature_c[:-1], temperature_c[1:]
    low, high = np.minimum(first, last), np.maximum(first, last)
    rise = high - low
    inside = np.clip(np.minimum(high, high_c) - np.maximum(low, low_c), 0.0, None)
    level = (low > low_c) & (low <= high_c)
    share = np.where(rise > 1e-9, inside / np.where(rise > 1e-9, rise, 1.0), level)
    return np.concatenate(([0.0], np.cumsum(share * np.diff(times_s))))


@bounded(upper_c=FINITE, times_s=FINITE, temperature_c=TEMPERATURE)
def exposure(
    bands: tuple[tuple[float, float], ...], upper_c: float, times_s: Array, temperature_c: Array
) -> tuple[Array, tuple[BandTime, ...]]:
    """How far an organism's clock has run.

    Parameters
    ----------
    bands : tuple of (from, within)
        Lower end of each band [°C], rising, and the whole time allowed in it [s].
    upper_c : float
        Where the last band ends [°C].
    times_s, temperature_c : array
        [s], [°C], (n,).

    Returns
    -------
    (array, tuple of BandTime)
        Share of the allowance used up to each reading [-], (n,), all bands added; and each band by itself.

    Raises
    ------
    OutOfRangeError
        If the bands do not rise.

    Notes
    -----
    Valid as the stricter reading of a table of cumulative times: shares of several bands add up to 1 at most.

    References
    ----------
    FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4, for the tables; the sum of shares is
    Miner's rule, here the stricter school.
    """
    starts = [start for start, _ in bands]
    if not bands or any(b <= a for a, b in zip(starts, [*starts[1:], upper_c], strict=True)):
        raise OutOfRangeError(say("microbes.exposure.the_bands_of_an_exposure_clock"))
    used, found = np.zeros(len(times_s)), []
    for (start, within), end in zip(bands, [*starts[1:], upper_c], strict=True):
        spent = time_between_s(times_s, temperature_c, start, end)
        used = used + spent / within
        found.append(BandTime(start, end, float(spent[-1]) if len(spent) else 0.0, within))
    return used, tuple(found)
