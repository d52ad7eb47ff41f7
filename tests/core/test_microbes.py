"""Growth and exposure, against what the rules were built to allow and against a general integrator."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from brinefrost.core.errors import NotFoundError, OutOfRangeError
from brinefrost.core.microbes.exposure import exposure, time_between_s
from brinefrost.core.microbes.growth import (
    cardinal_rate_per_h,
    gamma,
    log_growth,
    perfringens_log,
    seafood_relative_rate,
    storage_log,
)
from brinefrost.core.microbes.organisms import grows_at, organism, organisms


def straight(*points: tuple[float, float]) -> tuple[np.ndarray, np.ndarray]:
    """Hours and °C as a curve."""
    return np.array([3600.0 * h for h, _ in points]), np.array([c for _, c in points], float)


# Derived from what each was built to allow: FSIS Appendix B option 1 about 1 log; Food Code two stages about 0.8;
# a straight 9 h several. Tolerance: the model's own, 0.2 log
@pytest.mark.parametrize(
    ("points", "low", "high"),
    [
        ([(0, 54.4), (1.5, 26.7), (6.5, 4.4)], 0.8, 1.2),
        ([(0, 57), (2, 21), (6, 5)], 0.6, 1.0),
        ([(0, 54.4), (9, 7.2)], 3.0, 8.0),
    ],
)
def test_perfringens_in_cooling(points: list[tuple[float, float]], low: float, high: float) -> None:
    assert low < perfringens_log(*straight(*points))[-1] < high


def test_baranyi_s_closed_form_follows_its_differential_equations() -> None:
    """Baranyi & Roberts 1994 as two equations through scipy's solve_ivp, far below the greatest density."""
    times, curve = straight((0, 50), (3, 35), (8, 15))
    h0 = 4.0

    def slope(t: float, y: np.ndarray) -> list[float]:
        mu = float(cardinal_rate_per_h(np.interp([t], times, curve), 10, 45, 52, 4.6)[0]) / 3600
        return [mu, mu * np.exp(y[0]) / (np.exp(y[0]) + np.exp(h0) - 1)]

    theirs = solve_ivp(slope, (0, times[-1]), [0.0, 0.0], rtol=1e-9, atol=1e-11, max_step=60).y[1, -1] / np.log(10)
    assert perfringens_log(times, curve)[-1] == pytest.approx(theirs, abs=1e-3)


def test_the_cardinal_model_at_its_cardinal_points() -> None:
    """Rosso et al. 1993: no growth at the ends, the optimum rate at the optimum, nothing outside."""
    got = cardinal_rate_per_h(np.array([10, 45, 52, 5, 60.0]), 10, 45, 52, 4.6)
    assert got == pytest.approx([0, 4.6, 0, 0, 0])
    with pytest.raises(OutOfRangeError):
        cardinal_rate_per_h(np.array([1.0]), 10, 5, 52, 1)


@pytest.mark.parametrize("key", ["listeria", "salmonella", "b_cereus", "s_aureus"])
def test_gamma_is_one_at_its_best_and_nothing_beyond_its_limits(key: str) -> None:
    model = organism(key).growth
    assert model
    assert gamma(model, model.opt_ph, 1.0) == pytest.approx(1)
    assert gamma(model, model.min_ph, 1.0) == 0
    assert gamma(model, model.opt_ph, model.min_aw) == 0
    with pytest.raises(OutOfRangeError):
        gamma(model, 15, 1)


def test_listeria_doubles_in_about_a_day_in_the_fridge() -> None:
    """Common practice: one to two days at 4 to 5 °C in mild food; model error a factor of two."""
    model = organism("listeria").growth
    assert model
    days = np.array([0.0, 10 * 86400.0])
    doublings = storage_log(model, days, np.full(2, 5.0), 6.4, 0.99)[-1] / np.log10(2)
    assert 5 < doublings < 20


@settings(max_examples=40)
@given(
    hours=st.lists(st.floats(0.5, 6), min_size=2, max_size=5), temps=st.lists(st.floats(0, 60), min_size=6, max_size=6)
)
def test_growth_and_exposure_only_ever_go_up(hours: list[float], temps: list[float]) -> None:
    times = np.concatenate(([0.0], np.cumsum(hours))) * 3600
    curve = np.array(temps[: len(times)])
    assert np.all(np.diff(perfringens_log(times, curve)) >= -1e-9)
    used, bands = exposure(((10.0, 18000.0), (21.0, 7200.0)), 57.0, times, curve)
    assert np.all(np.diff(used) >= -1e-12)
    assert sum(b.spent_s for b in bands) <= times[-1] + 1e-6


def test_time_in_a_band_by_hand() -> None:
    """A straight fall from 60 to 0 °C in 6 h spends one hour in each ten degrees."""
    times, curve = straight((0, 60), (6, 0))
    assert time_between_s(times, curve, 10, 21)[-1] == pytest.approx(1.1 * 3600)
    assert time_between_s(times, curve, 5, 10)[-1] == pytest.approx(0.5 * 3600)
    assert time_between_s(*straight((0, 5), (4, 5)), 5, 10)[-1] == 0  # 5 °C is still in the colder band
    assert time_between_s(*straight((0, 5.1), (4, 5.1)), 5, 10)[-1] == 4 * 3600
    with pytest.raises(OutOfRangeError):
        time_between_s(np.array([1.0, 1.0]), np.array([1.0, 2.0]), 0, 1)


def test_steps_and_days_add_up() -> None:
    """Three stretches of one hour at 15 °C, apart or together, use 3 of 5 h."""
    together = exposure(((10.0, 18000.0),), 21.0, *straight((0, 15), (3, 15)))[0][-1]
    apart = exposure(
        ((10.0, 18000.0),),
        21.0,
        *straight(
            (0, 15), (1, 15), (1.001, 2), (20, 2), (20.001, 15), (21, 15), (21.001, 2), (40, 2), (40.001, 15), (41, 15)
        ),
    )[0][-1]
    assert together == pytest.approx(0.6)
    assert apart == pytest.approx(0.6, abs=0.002)
    with pytest.raises(OutOfRangeError):
        exposure(((21.0, 1.0), (10.0, 1.0)), 57.0, *straight((0, 15), (1, 15)))


# Olley & Ratkowsky / Ross (published): 4 °C about 1.96, 10 °C 4
@pytest.mark.parametrize(("temperature", "rate"), [(0, 1), (4, 1.96), (10, 4)])
def test_seafood_spoilage(temperature: float, rate: float) -> None:
    assert seafood_relative_rate(temperature) == pytest.approx(rate)


def test_what_is_not_known_is_said() -> None:
    with pytest.raises(OutOfRangeError):
        seafood_relative_rate(30)
    with pytest.raises(NotFoundError):
        organism("yeti")
    with pytest.raises(OutOfRangeError):
        log_growth(np.array([0.0, 1.0]), np.array([1.0, 1.0]), -1)
    with pytest.raises(OutOfRangeError):
        perfringens_log(np.array([0.0]), np.array([20.0]))


# FDA guide, appendix 4 (published, from memory): pH and aw that stop each
@pytest.mark.parametrize(
    ("key", "ph", "aw"),
    [("listeria", 4.4, 0.92), ("salmonella", 3.7, 0.94), ("s_aureus", 4.0, 0.83), ("c_perfringens", 5.0, 0.93),
     ("b_cereus", 4.3, 0.92), ("c_botulinum_a", 4.6, 0.935), ("c_botulinum_b", 5.0, 0.97),
     ("v_parahaemolyticus", 4.8, 0.94)],
)  # fmt: skip
def test_limits_of_growth(key: str, ph: float, aw: float) -> None:
    each = organisms()[key]
    assert grows_at(each, ph, aw)
    assert not grows_at(each, ph - 0.01, 1.0)
    assert not grows_at(each, 7.0, aw - 0.001)
