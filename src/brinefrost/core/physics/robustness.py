"""A cook repeated ten thousand times with its inputs spread: how often it fails, and which input matters most."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.bounds import AT_LEAST_0, SPAN, TEMPERATURE, bounded, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.cooling import taken_s
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.lethality import RateLaw
from brinefrost.core.words import say

MOST_SAMPLES = 200_000
NODES, POINTS = 25, 64
INPUTS = ("thickness", "start", "surroundings", "probe")


@dataclass(frozen=True)
class Spread:
    """Standard deviations of what varies from piece to piece; bath and probe errors are kept apart."""

    thickness_m: float
    start_c: float
    bath_c: float
    probe_c: float


# one standard deviation each; common practice, no source
USUAL = Spread(thickness_m=0.002, start_c=1.0, bath_c=0.3, probe_c=0.25)


Load = tuple[float, float]  # heat capacity [J/K], power [W]
NO_LOAD: Load = (0.0, np.inf)


@dataclass(frozen=True)
class Robustness:
    """What came of the repetitions."""

    samples: int
    failing_share: float
    failing_error: float
    lethality_min: Array  # 5th, 50th and 95th percentile
    matters: tuple[tuple[str, float], ...]  # share each input explains; of the end temperature where nothing was gained


@bounded(duration_s=SPAN)
def repeat(
    heating: Heating, law: RateLaw, duration_s: float, spread: Spread, samples: int = 10_000, seed: int = 1
) -> Robustness:
    """Chance that a cook misses its goal.

    Parameters
    ----------
    heating : Heating
        As planned: thickness [m], start and bath [°C], surface coefficient [W/m²·K].
    law : RateLaw
        The target's law with its goal [min].
    duration_s : float
        Time in the bath [s].
    spread : Spread
        Standard deviations of thickness [m], start, bath and probe [°C].
    samples : int
        How many repetitions.
    seed : int
        Of the random numbers; the same seed gives the same answer.

    Returns
    -------
    Robustness
        The share that fails with its standard error, percentiles of lethality [min], and the share of the
        variance each input explains.

    Raises
    ------
    OutOfRangeError
        If samples is not 100 to 200,000, the time is not above zero or a spread is negative.

    Notes
    -----
    Valid for normal spreads cut at three deviations. The curve is read off a table over 25 thicknesses,
    log-linear between them (within 0.02 K in tests). The bath's error is shared by all pieces of a batch;
    here every repetition is a batch of its own.

    References
    ----------
    Monte Carlo; shares by squared rank correlation, Saltelli et al., Sensitivity Analysis in Practice (2004).
    """
    if not duration_s > 0:
        raise OutOfRangeError(say("physics.heating.the_time_must_be_above_zero"), duration_s=duration_s)
    drawn = _draw_inputs(heating, spread, samples, seed)
    times = np.linspace(0.0, duration_s, POINTS)
    core = _curves(heating, times, drawn.thickness, drawn.start, drawn.around)
    reached = law.mean_rates(core).sum(axis=1) * (times[1] - times[0]) / 60.0
    failing = float(np.mean(reached < law.goal_min))
    inputs = (drawn.thickness, drawn.start, drawn.around_error, drawn.probe_error)
    told = reached if np.percentile(reached, 5) > 0 else core[:, -1]
    return Robustness(
        samples, failing, _standard_error(failing, samples), np.percentile(reached, (5, 50, 95)), _shares(inputs, told)
    )


@bounded(duration_s=SPAN)
def repeat_until(
    heating: Heating,
    met_s: Callable[[Array, Array], Array],
    duration_s: float,
    spread: Spread,
    samples: int = 10_000,
    seed: int = 1,
) -> tuple[float, float, tuple[tuple[str, float], ...]]:
    """Chance that a cook has not met what it is heated for when its time is over.

    Parameters
    ----------
    heating : Heating
        As ``repeat``.
    met_s : callable
        When it was met on each of several curves: times [s], (n,), and cores [°C], (m, n), to times [s], (m,);
        infinite where it was not.
    duration_s : float
        Time in the heat [s].
    spread : Spread
        As ``repeat``.
    samples, seed : int
        As ``repeat``.

    Returns
    -------
    (float, float, tuple)
        Share that fails, its standard error, and the share of the end temperature's spread each input explains.

    Raises
    ------
    OutOfRangeError
        As ``repeat``.

    Notes
    -----
    Valid as ``repeat``, for what ``met_s`` says of curves that rise.

    References
    ----------
    As ``repeat``.
    """
    if not duration_s > 0:
        raise OutOfRangeError(say("physics.heating.the_time_must_be_above_zero"), duration_s=duration_s)
    drawn = _draw_inputs(heating, spread, samples, seed)
    times = np.linspace(0.0, duration_s, POINTS)
    core = _curves(heating, times, drawn.thickness, drawn.start, drawn.around)
    share = float(np.mean(~(met_s(times, core) <= duration_s)))
    inputs = (drawn.thickness, drawn.start, drawn.around_error, drawn.probe_error)
    return share, _standard_error(share, samples), _shares(inputs, core[:, -1])


@bounded(from_c=TEMPERATURE)
def repeat_chill(
    chilling: Heating,
    from_c: float,
    stages: tuple[tuple[float, float] | tuple[float, float, bool], ...],
    spread: Spread,
    samples: int = 10_000,
    seed: int = 1,
    waited_s: float | None = None,
    load: Load = NO_LOAD,
    until_s: float = np.inf,
) -> tuple[float, float, tuple[tuple[str, float], ...]]:
    """Chance that a chill misses one of its marks.

    Parameters
    ----------
    chilling : Heating
        The piece, its start and its cold surroundings [°C].
    from_c : float
        Where the clock starts [°C].
    stages : tuple of (to, within)
        Marks [°C] and the time allowed to each from the clock's start [s]; with a third, true, from the mark before.
    spread : Spread
        Standard deviations of thickness [m], start, surroundings and probe [°C].
    samples, seed : int
        As ``repeat``.
    waited_s : float or None
        How long the clock runs already [s]; None where it starts as the food falls through ``from_c`` in the cold.
    load : (float, float)
        Heat capacity of all that is in there [J/K], and what is taken up at most [W]: of the food as planned, which
        slows every repetition alike.
    until_s : float
        When it comes out of the cold [s]: what is not there by then is missed.

    Returns
    -------
    (float, float, tuple)
        Share that misses, its standard error, and the share of the spread each input explains.

    Raises
    ------
    OutOfRangeError
        As ``repeat``.

    Notes
    -----
    Valid as ``repeat``, for surroundings that stay as they are.

    References
    ----------
    As ``repeat``.
    """
    drawn = _draw_inputs(chilling, spread, samples, seed)
    last_s = sum(stage[1] for stage in stages)
    times = np.linspace(0.0, 4 * last_s, 4 * POINTS)
    core = _curves(chilling, times, drawn.thickness, drawn.start, drawn.around)
    if np.isfinite(load[1]):
        times = taken_s(times, chilling.mean_c(times), *load)
    begun = _falls_through_s(times, core, from_c) if waited_s is None else np.full(samples, -waited_s)
    never = ~np.isfinite(begun)
    since = np.where(never, 0.0, begun)
    reached = [np.where(never, np.inf, _falls_through_s(times, core, stage[0])) for stage in stages]
    before = [since, *reached[:-1]]
    own = [before[i] if len(stage) > 2 and stage[-1] else since for i, stage in enumerate(stages)]
    with np.errstate(invalid="ignore"):
        taken = [np.where(np.isfinite(at), at - begun_s, np.inf) for at, begun_s in zip(reached, own, strict=True)]
    late = np.any([spent > stage[1] for spent, stage in zip(taken, stages, strict=True)], axis=0)
    late |= np.any([at > until_s for at in reached], axis=0)
    share, last = float(np.mean(late)), taken[-1]
    inputs = (drawn.thickness, drawn.start, drawn.around_error, drawn.probe_error)
    return share, _standard_error(share, samples), _shares(inputs, np.where(np.isfinite(last), last, times[-1] * 2))


@dataclass(frozen=True)
class _Drawn:
    """One draw of every input, (samples,)."""

    thickness: Array
    start: Array
    around: Array
    around_error: Array
    probe_error: Array


def _draw_inputs(heating: Heating, spread: Spread, samples: int, seed: int) -> _Drawn:
    if not 100 <= samples <= MOST_SAMPLES:
        raise OutOfRangeError(say("physics.robustness.take_100_to_200_000_repetitions"), samples=samples)
    for name in ("thickness_m", "start_c", "bath_c", "probe_c"):
        check(name, getattr(spread, name), AT_LEAST_0)
    if min(spread.thickness_m, spread.start_c, spread.bath_c, spread.probe_c) < 0:
        raise OutOfRangeError(say("physics.robustness.a_spread_cannot_be_negative"))
    draw = np.clip(np.random.default_rng(seed).standard_normal((4, samples)), -3, 3)
    middle = 2 * heating.body.half_thickness_m
    around_error, probe_error = spread.bath_c * draw[2], spread.probe_c * draw[3]
    return _Drawn(
        np.maximum(middle + spread.thickness_m * draw[0], 0.2 * middle),
        heating.start_c + spread.start_c * draw[1],
        heating.surroundings_c + around_error - probe_error,
        around_error,
        probe_error,
    )


def _standard_error(share: float, samples: int) -> float:
    return float(np.sqrt(max(share * (1 - share), 1.0 / samples) / samples))


def _curves(heating: Heating, times_s: Array, thick: Array, start: Array, around: Array) -> Array:
    """Core curves (samples, times), read off a table over thickness."""
    nodes = np.geomspace(thick.min() * 0.999, thick.max() * 1.001 + 1e-6, NODES)
    table = np.array(
        [replace(heating, body=replace(heating.body, half_thickness_m=float(t) / 2)).theta(times_s) for t in nodes]
    )
    place = np.interp(np.log(thick), np.log(nodes), np.arange(NODES))
    below = np.minimum(place.astype(int), NODES - 2)
    share = (place - below)[:, None]
    theta = table[below] * (1 - share) + table[below + 1] * share
    return np.asarray(around[:, None] + (start - around)[:, None] * theta)


def _falls_through_s(times_s: Array, core_c: Array, level: float) -> Array:
    """When each curve gets down to a level [s]; infinite when it does not."""
    below = core_c <= level
    first = np.argmax(below, axis=1)
    rows = np.arange(len(core_c))
    before = np.maximum(first - 1, 0)
    drop = core_c[rows, before] - core_c[rows, first]
    share = np.where(drop > 0, (core_c[rows, before] - level) / np.where(drop > 0, drop, 1.0), 0.0)
    when = times_s[before] + np.clip(share, 0.0, 1.0) * (times_s[first] - times_s[before])
    return np.where(below.any(axis=1), np.where(first == 0, 0.0, when), np.inf)


def _shares(inputs: tuple[Array, ...], reached: Array) -> tuple[tuple[str, float], ...]:
    ranks = np.argsort(np.argsort(reached)).astype(float)
    squares = []
    for values in inputs:
        spread = float(np.std(values))
        rank = np.argsort(np.argsort(values)).astype(float)
        squares.append(0.0 if spread == 0 else float(np.corrcoef(rank, ranks)[0, 1]) ** 2)
    total = sum(squares) or 1.0
    return tuple(sorted(zip(INPUTS, [s / total for s in squares], strict=True), key=lambda pair: -pair[1]))
