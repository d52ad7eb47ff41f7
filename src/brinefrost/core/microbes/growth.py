"""Growth along a temperature curve: cardinal rates, gamma terms and a lag that must first be worked off."""

import numpy as np

from brinefrost.core.bounds import AT_LEAST_0, FINITE, PH, SHARE, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.microbes.organisms import GrowthModel
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say

LOG10_E = float(np.log10(np.e))
# C. perfringens in cooked, uncured meat while it cools; cardinal values from memory, verify
PERFRINGENS = (10.0, 45.0, 52.0, 4.6)
PERFRINGENS_LAG = 4.0


@bounded(temperature_c=TEMPERATURE, min_c=TEMPERATURE, opt_c=TEMPERATURE, max_c=TEMPERATURE, best_per_h=AT_LEAST_0)
def cardinal_rate_per_h(temperature_c: Array, min_c: float, opt_c: float, max_c: float, best_per_h: float) -> Array:
    """Growth rate by the cardinal temperature model.

    Parameters
    ----------
    temperature_c : array
        [°C], (n,).
    min_c, opt_c, max_c : float
        Cardinal temperatures [°C].
    best_per_h : float
        Rate at the best temperature [1/h].

    Returns
    -------
    array
        [1/h], (n,); 0 outside the cardinal temperatures.

    Raises
    ------
    OutOfRangeError
        If the cardinal temperatures do not rise.

    Notes
    -----
    Valid between the outer cardinal temperatures; it says nothing of death above them.

    References
    ----------
    Rosso, Lobry & Flandrois (1993), J. Theor. Biol. 162.
    """
    if not min_c < opt_c < max_c:
        raise OutOfRangeError(
            say("microbes.growth.cardinal_temperatures_must_rise"), min_c=min_c, opt_c=opt_c, max_c=max_c
        )
    t = np.asarray(temperature_c, dtype=float)
    above = (t - max_c) * (t - min_c) ** 2
    below = (opt_c - min_c) * ((opt_c - min_c) * (t - opt_c) - (opt_c - max_c) * (opt_c + min_c - 2 * t))
    inside = (t > min_c) & (t < max_c)
    return np.where(inside, best_per_h * above / np.where(inside, below, 1.0), 0.0)


@bounded(ph=PH, aw=SHARE)
def gamma(model: GrowthModel, ph: float, aw: float) -> float:
    """What pH and water activity leave of the rate.

    Parameters
    ----------
    model : GrowthModel
        Cardinal values.
    ph, aw : float
        Of the food [-].

    Returns
    -------
    float
        0 to 1 [-].

    Raises
    ------
    OutOfRangeError
        If pH is not 0 to 14 or aw not 0 to 1.

    Notes
    -----
    Valid as a product of single effects; their interaction near the limits is left out, on the fast side.

    References
    ----------
    Zwietering et al. (1992), gamma concept; Rosso et al. (1995) for pH.
    """
    if not (0 <= ph <= 14 and 0 <= aw <= 1):
        raise OutOfRangeError(say("microbes.growth.ph_runs_from_0_to_14"), ph=ph, aw=aw)
    if not model.min_ph < ph < model.max_ph or aw <= model.min_aw:
        return 0.0
    acid = (ph - model.min_ph) * (ph - model.max_ph)
    return float(acid / (acid - (ph - model.opt_ph) ** 2) * (aw - model.min_aw) / (1 - model.min_aw))


@bounded(times_s=FINITE, rates_per_h=AT_LEAST_0, lag=AT_LEAST_0)
def log_growth(times_s: Array, rates_per_h: Array, lag: float) -> Array:
    """Growth built up along a curve.

    Parameters
    ----------
    times_s : array
        [s], (n,).
    rates_per_h : array
        Specific growth rate at each time [1/h], (n,), straight between them.
    lag : float
        Work to be done before growth, rate × lag time [-].

    Returns
    -------
    array
        log10 of the increase [-], (n,), starting at 0.

    Raises
    ------
    OutOfRangeError
        If the lag is negative or the times do not rise.

    Notes
    -----
    Valid far below the greatest density the food can carry; nothing dies in this model.

    References
    ----------
    Baranyi & Roberts (1994), Int. J. Food Microbiol. 23: with q0 = 1/(e^h0 − 1) and M = ∫µ dt the increase is
    ln((1 + q0 e^M) / (1 + q0)).
    """
    if lag < 0 or np.any(np.diff(times_s) <= 0):
        raise OutOfRangeError(say("microbes.growth.the_times_must_rise_and_the"), lag=lag)
    middle = (rates_per_h[1:] + rates_per_h[:-1]) / 2
    work = np.concatenate(([0.0], np.cumsum(middle * np.diff(times_s) / 3600.0)))
    if lag == 0:
        return work * LOG10_E
    rest = np.exp(-lag)
    return np.asarray(np.log10((1 - rest) + rest * np.exp(np.minimum(work, 600.0))))


@bounded(times_s=FINITE, core_c=TEMPERATURE)
def perfringens_log(times_s: Array, core_c: Array) -> Array:
    """Growth of *C. perfringens* in cooked meat while it cools.

    Parameters
    ----------
    times_s : array
        [s], (n,).
    core_c : array
        Core temperature [°C], (n,).

    Returns
    -------
    array
        log10 of the increase [-], (n,).

    Raises
    ------
    OutOfRangeError
        If the times do not rise.

    Notes
    -----
    Valid for uncured cooked meat and poultry that cools; spores germinate at once on cooling through 52 °C.
    An estimate with its assumptions, never a release.

    References
    ----------
    Cardinal values 10 / 45 / 52 °C and 4.6 per h, lag 4, from memory, verify; checked against what USDA-FSIS
    Appendix B's cooling options were built to allow, 1 log.
    """
    fine = _fine(times_s)
    rates = cardinal_rate_per_h(np.interp(fine, times_s, core_c), *PERFRINGENS)
    grown: Array = np.interp(times_s, fine, log_growth(fine, rates, PERFRINGENS_LAG))
    return grown


@bounded(times_s=FINITE, temperature_c=TEMPERATURE, ph=PH, aw=SHARE)
def storage_log(model: GrowthModel, times_s: Array, temperature_c: Array, ph: float, aw: float) -> Array:
    """Growth in store along its temperature, at one pH and water activity.

    Parameters
    ----------
    model : GrowthModel
        Of the organism.
    times_s, temperature_c : array
        [s], [°C], (n,).
    ph, aw : float
        Of the food [-].

    Returns
    -------
    array
        log10 of the increase [-], (n,).

    Raises
    ------
    OutOfRangeError
        As ``gamma`` and ``log_growth``.

    Notes
    -----
    Valid inside the cardinal values; a planning estimate on the fast side, without competing flora.

    References
    ----------
    As ``cardinal_rate_per_h``, ``gamma`` and ``log_growth``.
    """
    fine = _fine(times_s)
    rates = cardinal_rate_per_h(
        np.interp(fine, times_s, temperature_c), model.min_c, model.opt_c, model.max_c, model.rate_per_h
    )
    grown: Array = np.interp(times_s, fine, log_growth(fine, rates * gamma(model, ph, aw), model.lag))
    return grown


@bounded(temperature_c=TEMPERATURE)
def seafood_relative_rate(temperature_c: float) -> float:
    """How fast seafood spoils against 0 °C.

    Parameters
    ----------
    temperature_c : float
        [°C].

    Returns
    -------
    float
        Times as fast [-].

    Raises
    ------
    OutOfRangeError
        Outside -5 to 20 °C.

    Notes
    -----
    Valid from about -5 to 20 °C for seafood of temperate waters.

    References
    ----------
    Olley & Ratkowsky (1973); Ross: (1 + 0.1 T)².
    """
    if not -5 <= temperature_c <= 20:
        raise OutOfRangeError(say("microbes.growth.the_spoilage_rate_of_seafood_is"), temperature_c=temperature_c)
    return (1 + 0.1 * temperature_c) ** 2


def _fine(times_s: Array) -> Array:
    """The given times with more between them, so that rates that bend are followed."""
    if len(times_s) < 2 or np.any(np.diff(times_s) <= 0):
        raise OutOfRangeError(say("microbes.growth.a_curve_needs_two_times_or"))
    more = np.linspace(times_s[0], times_s[-1], 721)
    return np.union1d(times_s, more)
