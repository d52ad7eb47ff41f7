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
    return np.asarray(_between(times_s, temperature_c, [(low_c, high_c)])[0])


def _between(times_s: Array, temperature_c: Array, ends_c: list[tuple[float, float]]) -> Array:
    """The same of several bands together, (bands, n)."""
    spans = np.diff(times_s)
    if np.any(spans <= 0):
        raise OutOfRangeError(say("microbes.exposure.the_times_of_a_trace_must"))
    found = np.zeros((len(ends_c), len(times_s)))
    if len(times_s) < 2:
        return found
    low, high = np.minimum(temperature_c[:-1], temperature_c[1:]), np.maximum(temperature_c[:-1], temperature_c[1:])
    rise = high - low
    moves = rise > 1e-9
    per_k = np.divide(spans, rise, out=np.zeros_like(spans), where=moves)
    for row, (low_c, high_c) in zip(found, ends_c, strict=True):
        inside = np.maximum(np.minimum(high, high_c) - np.maximum(low, low_c), 0.0)
        level = (low > low_c) & (low <= high_c)
        np.cumsum(np.where(moves, inside * per_k, level * spans), out=row[1:])
    return found


@bounded(upper_c=FINITE, times_s=FINITE, temperature_c=TEMPERATURE)
def band_times_s(bands: tuple[tuple[float, float], ...], upper_c: float, times_s: Array, temperature_c: Array) -> Array:
    """Time spent in each band of an organism's clock up to each reading.

    Parameters
    ----------
    bands, upper_c, times_s, temperature_c
        As ``exposure``.

    Returns
    -------
    array
        [s], (bands, n), starting at 0.

    Raises
    ------
    OutOfRangeError
        If the bands or the times do not rise.

    Notes
    -----
    Valid for any curve; exact for straight segments.

    References
    ----------
    Geometry of straight segments.
    """
    starts = [start for start, _ in bands]
    ends = [*starts[1:], upper_c]
    if not bands or any(b <= a for a, b in zip(starts, ends, strict=True)):
        raise OutOfRangeError(say("microbes.exposure.the_bands_of_an_exposure_clock"))
    return _between(times_s, temperature_c, list(zip(starts, ends, strict=True)))


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
    runs = band_times_s(bands, upper_c, times_s, temperature_c)
    allowed = np.array([within for _, within in bands])
    spent = runs[:, -1] if runs.size else np.zeros(len(bands))
    ends = [*(start for start, _ in bands[1:]), upper_c]
    found = (
        BandTime(start, end, float(time), within) for (start, within), end, time in zip(bands, ends, spent, strict=True)
    )
    return (runs / allowed[:, None]).sum(axis=0), tuple(found)
