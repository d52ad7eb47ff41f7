"""Lethality of a measured or computed curve, by D- and z-value or by a published table."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.memo import Fixed, memoize
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say

LN10 = float(np.log(10.0))
FLOOR_C = 54.4  # no credit below: FSIS Appendix A's first row for meat, 130 °F


@dataclass(frozen=True)
class RateLaw:
    """How fast lethality builds up: log10 of the rate, straight between knots, nothing below the first.

    ``cap`` says that nothing more is credited above the last knot than at it (a table); otherwise the last
    slope goes on (a z-value).
    """

    knots_c: tuple[float, ...]
    log_rates: tuple[float, ...]  # log10 of minutes at the reference per minute
    slopes: tuple[float, ...]  # [1/K], one a knot, the last one for beyond it
    reference_c: float
    goal_min: float

    def rate(self, temperature_c: Array) -> Array:
        """Minutes at the reference temperature per minute [-] at temperatures [°C].

        Valid at any temperature: nothing below the first knot, and the last slope goes on above the last.
        """
        of = _columns(self)
        index = of.piece_of(temperature_c)
        logs = of.logs[index] + of.slopes[index] * (temperature_c - of.knots[index])
        return np.where(temperature_c >= of.knots[0], 10.0**logs, 0.0)

    def mean_rates(self, temperature_c: Array) -> Array:
        """Mean rate over each straight piece of a curve [°C], along the last axis [-], (..., n - 1).

        Valid at any temperature; exact for straight pieces.
        """
        change, area = temperature_c[..., 1:] - temperature_c[..., :-1], self.area(temperature_c)
        flat = np.abs(change) < 1e-6
        sloped = (area[..., 1:] - area[..., :-1]) / np.where(flat, 1.0, change)
        if flat.any():
            sloped[flat] = self.rate((temperature_c[..., 1:][flat] + temperature_c[..., :-1][flat]) / 2)
        return np.asarray(sloped)

    def area(self, temperature_c: Array) -> Array:
        """Integral of the rate over temperature [°C] from the first knot up [K].

        Valid at any temperature.
        """
        of = _columns(self)
        index = of.piece_of(temperature_c)
        width = np.maximum(temperature_c - of.knots[index], 0.0)
        part = of.bases[index] * np.where(of.level[index], width, np.expm1(of.steep[index] * width) / of.steep[index])
        return np.asarray(of.whole[index] + part)

    def _piece(self, index: int, upper_c: float) -> float:
        width = upper_c - self.knots_c[index]
        slope, base = self.slopes[index], 10.0 ** self.log_rates[index]
        return base * width if slope == 0 else float(base * np.expm1(LN10 * slope * width) / (LN10 * slope))


@dataclass(frozen=True)
class _Columns:
    """A law as arrays, one value a knot."""

    knots: Array
    logs: Array
    slopes: Array
    bases: Array  # the rate at the knot
    level: Array  # where it does not rise
    steep: Array  # its natural slope [1/K]; 1 where it does not rise
    whole: Array  # the area below the knot

    def piece_of(self, temperature_c: Array) -> Array:
        """Which piece each temperature lies on; the first for what is colder."""
        if len(self.knots) == 1:
            return np.zeros(np.shape(temperature_c), dtype=int)
        return np.maximum(np.searchsorted(self.knots, temperature_c, side="right") - 1, 0)


@lru_cache(maxsize=64)
def _columns(law: RateLaw) -> _Columns:
    pieces = [law._piece(i, law.knots_c[i + 1]) for i in range(len(law.knots_c) - 1)]
    logs, slopes = np.asarray(law.log_rates), np.asarray(law.slopes)
    return _Columns(
        knots=np.asarray(law.knots_c),
        logs=logs,
        slopes=slopes,
        bases=10.0**logs,
        level=slopes == 0,
        steep=np.where(slopes == 0, 1.0, LN10 * slopes),
        whole=np.concatenate(([0.0], np.cumsum(pieces))),
    )


def law_from_dz(
    reference_c: float, z_c: float, goal_min: float, floor_c: float = FLOOR_C, cap_c: float | None = None
) -> RateLaw:
    """Rate law of one z-value.

    Parameters
    ----------
    reference_c : float
        Reference temperature [°C].
    z_c : float
        z-value [K].
    goal_min : float
        Minutes at the reference that meet the target [min].
    floor_c : float
        No credit below [°C].
    cap_c : float or None
        No more credit above [°C]: the highest temperature that was published. None for a law that is not cut.

    Returns
    -------
    RateLaw
        10^((T − reference) / z) from the floor up to the cap.

    Raises
    ------
    OutOfRangeError
        If z or the goal is not above zero.

    Notes
    -----
    Valid from the floor to about 20 K above the reference, as far as z was measured.

    References
    ----------
    Bigelow (1921); Ball (1923); Stumbo, Thermobacteriology in Food Processing.
    """
    if not (0 < z_c < np.inf and 0 < goal_min < np.inf and np.isfinite([reference_c, floor_c]).all()):
        raise OutOfRangeError(say("physics.lethality.the_z_value_and_the_goal"), z_c=z_c, goal_min=goal_min)
    if cap_c is None:
        return RateLaw((floor_c,), ((floor_c - reference_c) / z_c,), (1.0 / z_c,), reference_c, goal_min)
    if not floor_c < cap_c < np.inf:
        raise OutOfRangeError(say("physics.lethality.the_highest_temperature_credited_must_li"), cap_c=cap_c)
    logs = ((floor_c - reference_c) / z_c, (cap_c - reference_c) / z_c)
    return RateLaw((floor_c, cap_c), logs, (1.0 / z_c, 0.0), reference_c, goal_min)


@lru_cache(maxsize=64)
def law_from_table(rows: tuple[tuple[float, float], ...], reference_c: float) -> RateLaw:
    """Rate law of a published time-temperature table.

    Parameters
    ----------
    rows : tuple of (temperature, time)
        [°C], [min], rising in temperature.
    reference_c : float
        The row whose time is the goal [°C].

    Returns
    -------
    RateLaw
        Log-linear between the rows, nothing below the first, no more than the last row's rate above it.

    Raises
    ------
    OutOfRangeError
        If the rows do not rise in temperature and fall in time, or the reference is not a row.

    Notes
    -----
    Valid between the first and the last row.

    References
    ----------
    The table's own source is named where the table is kept.
    """
    temperatures = np.array([row[0] for row in rows])
    times = np.array([row[1] for row in rows])
    if len(rows) < 2 or np.any(np.diff(temperatures) <= 0) or np.any(np.diff(times) >= 0):
        raise OutOfRangeError(say("physics.lethality.a_lethality_table_needs_rows_that"))
    match = np.flatnonzero(np.isclose(temperatures, reference_c))
    if not len(match):
        raise OutOfRangeError(say("physics.lethality.the_reference_temperature_must_be_a"), reference_c=reference_c)
    goal = float(times[match[0]])
    logs = np.log10(goal / times)
    slopes = [*np.diff(logs) / np.diff(temperatures), 0.0]
    return RateLaw(
        tuple(map(float, temperatures)), tuple(map(float, logs)), tuple(map(float, slopes)), reference_c, goal
    )


def lethality_min(law: RateLaw, times_s: Array, temperatures_c: Array, longest_gap_s: float = np.inf) -> Array:
    """Lethality built up to each reading.

    Parameters
    ----------
    law : RateLaw
        Rate [min/min] against temperature.
    times_s : array
        Rising times [s], (n,).
    temperatures_c : array
        Core temperatures [°C], (n,), taken as straight between readings.
    longest_gap_s : float
        Nothing is credited across a longer gap [s].

    Returns
    -------
    array
        Minutes at the reference temperature [min], (n,), starting at 0.

    Raises
    ------
    OutOfRangeError
        If the times do not rise.

    Notes
    -----
    Valid for any curve inside the law's own range; exact for straight segments, rising or falling.

    References
    ----------
    Bigelow (1921), general method.
    """
    if len(times_s) != len(temperatures_c) or np.any(np.diff(times_s) <= 0):
        raise OutOfRangeError(say("physics.lethality.the_times_of_a_trace_must"))
    if not (np.isfinite(times_s).all() and np.isfinite(temperatures_c).all() and longest_gap_s >= 0):
        raise OutOfRangeError(say("physics.lethality.a_reading_of_the_trace_is"))
    if len(times_s) < 2:
        return np.zeros(len(times_s))
    return _summed_min(law, Fixed(times_s), Fixed(temperatures_c), longest_gap_s)


@memoize
def _summed_min(law: RateLaw, times: Fixed, temperatures: Fixed, longest_gap_s: float) -> Array:
    spans = np.diff(times.array)
    gained = law.mean_rates(temperatures.array) * spans / 60.0
    gained[spans > longest_gap_s] = 0.0
    return np.concatenate(([0.0], np.cumsum(gained)))


def law_from_two_z(
    reference_c: float,
    z_below_c: float,
    z_above_c: float,
    goal_min: float,
    floor_c: float,
    cap_c: float | None = None,
) -> RateLaw:
    """Rate law with one z-value below the reference and another above it.

    Parameters
    ----------
    reference_c : float
        Where the slope changes [°C].
    z_below_c, z_above_c : float
        z-values [K].
    goal_min : float
        Minutes at the reference that meet the target [min].
    floor_c : float
        No credit below [°C].
    cap_c : float or None
        No more credit above [°C].

    Returns
    -------
    RateLaw
        With two slopes from the floor up to the cap.

    Raises
    ------
    OutOfRangeError
        If a z or the goal is not above zero, or the floor is not below the reference.

    Notes
    -----
    Valid from the floor to about 20 K above the reference.

    References
    ----------
    ECFF practice for non-proteolytic C. botulinum: z = 7 below 90 °C, 10 above.
    """
    numbers = [reference_c, z_below_c, z_above_c, goal_min, floor_c]
    if not (np.isfinite(numbers).all() and min(z_below_c, z_above_c, goal_min) > 0 and floor_c < reference_c):
        raise OutOfRangeError(say("physics.lethality.the_z_values_and_the_goal"))
    top = () if cap_c is None else (cap_c,)
    return RateLaw(
        (floor_c, reference_c, *top),
        ((floor_c - reference_c) / z_below_c, 0.0, *((c - reference_c) / z_above_c for c in top)),
        (1.0 / z_below_c, 1.0 / z_above_c, *(0.0 for _ in top)),
        reference_c,
        goal_min,
    )


def goal_met_s(law: RateLaw, times_s: Array, core_c: Array) -> Array:
    """When each of several curves meets a law's goal.

    Parameters
    ----------
    law : RateLaw
        Rate [min/min] against temperature, and its goal.
    times_s : array
        Rising times [s], (n,).
    core_c : array
        Core temperatures [°C], (m, n).

    Returns
    -------
    array
        [s], (m,); infinite where it is not met by the last time.

    Raises
    ------
    OutOfRangeError
        If a temperature lies outside the law's range.

    Notes
    -----
    Valid inside the law's own range; as ``lethality_min``, and straight in between.

    References
    ----------
    Bigelow (1921), general method.
    """
    minutes = np.cumsum(law.mean_rates(core_c) * np.diff(times_s) / 60.0, axis=1)
    met = minutes >= law.goal_min
    first = np.argmax(met, axis=1)
    rows = np.arange(len(core_c))
    after, gained = minutes[rows, first], minutes[rows, first] - np.where(first > 0, minutes[rows, first - 1], 0.0)
    share = 1.0 - (after - law.goal_min) / np.where(gained > 0, gained, 1.0)
    when = times_s[first] + share * (times_s[first + 1] - times_s[first])
    return np.where(met.any(axis=1), when, np.inf)
