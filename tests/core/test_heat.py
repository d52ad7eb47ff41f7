"""Conduction against the eigenvalue series and the trade's heating times."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq
from scipy.special import j0, j1

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.cooling import taken_s
from brinefrost.core.physics.heat import Stage, centre_theta, heat_through
from brinefrost.core.physics.reservoir import Reservoir, ice_needed_kg, immerse

# 30-digit eigenvalue series, Bi 5, centre (Carslaw & Jaeger 1959): tolerance is the last printed digit
SERIES_BI_5 = {
    Shape.slab: {0.2: 0.86488143, 0.5: 0.52310910, 1.0: 0.22072068},
    Shape.cylinder: {0.2: 0.67141841, 0.5: 0.20755416, 1.0: 0.02866763},
    Shape.sphere: {0.2: 0.47224768, 0.5: 0.06567526, 1.0: 0.00241374},
}

# Trade heating times (common practice, agreeing with published bag-cooking tables): from 5 °C in a 60 °C bath to
# 59.5 °C at the core, α 1.4e-7, k 0.48, h 95. Shape, size [mm], minutes; tolerance 1 min (printed to the minute).
TRADE_TIMES = [
    (Shape.slab, 20, 50),
    (Shape.slab, 25, 70),
    (Shape.slab, 30, 93),
    (Shape.slab, 40, 147),
    (Shape.slab, 50, 213),
    (Shape.cylinder, 50, 96),
    (Shape.cylinder, 60, 131),
]


@pytest.mark.parametrize("shape", list(SERIES_BI_5))
def test_centre_follows_the_printed_series(shape: Shape) -> None:
    expected = SERIES_BI_5[shape]
    got = centre_theta(shape, 5.0, np.array(list(expected)))
    assert got == pytest.approx(list(expected.values()), abs=2e-8)


def test_slab_bi_half_follows_the_printed_series() -> None:
    got = centre_theta(Shape.slab, 0.5, np.array([0.2, 0.5, 1.0]))
    assert got == pytest.approx([0.9726, 0.86411, 0.69838], abs=6e-6)


def slab_series(biot: float, fourier: float, terms: int = 60) -> float:
    """Independent: roots of ζ tan ζ = Bi by bracketing, summed."""
    total = 0.0
    for n in range(terms):
        low, high = n * np.pi + 1e-9, n * np.pi + np.pi / 2 - 1e-9
        zeta = brentq(lambda z: z * np.sin(z) - biot * np.cos(z), low, high)
        total += 4 * np.sin(zeta) / (2 * zeta + np.sin(2 * zeta)) * np.exp(-(zeta**2) * fourier)
    return total


def cylinder_series(biot: float, fourier: float, terms: int = 40) -> float:
    """Independent: roots of ζ J1 = Bi J0 by scanning, summed."""
    grid = np.linspace(1e-6, (terms + 1) * np.pi, 40 * terms)
    values = grid * j1(grid) - biot * j0(grid)
    total = 0.0
    for i in np.flatnonzero(np.sign(values[:-1]) != np.sign(values[1:])):
        zeta = brentq(lambda z: z * j1(z) - biot * j0(z), grid[i], grid[i + 1])
        total += 2 / zeta * j1(zeta) / (j0(zeta) ** 2 + j1(zeta) ** 2) * np.exp(-(zeta**2) * fourier)
    return total


@settings(max_examples=40)
@given(biot=st.floats(0.05, 200), fourier=st.floats(0.02, 2))
def test_slab_agrees_with_its_series_at_any_biot(biot: float, fourier: float) -> None:
    assert centre_theta(Shape.slab, biot, np.array([fourier]))[0] == pytest.approx(slab_series(biot, fourier), abs=1e-6)


@pytest.mark.parametrize("biot", [0.2, 3.0, 40.0])
def test_cylinder_agrees_with_its_series(biot: float) -> None:
    assert centre_theta(Shape.cylinder, biot, np.array([0.1]))[0] == pytest.approx(cylinder_series(biot, 0.1), abs=1e-6)


@pytest.mark.parametrize(("shape", "size_mm", "minutes"), TRADE_TIMES)
def test_trade_heating_times(shape: Shape, size_mm: int, minutes: int) -> None:
    body = Body(shape, size_mm / 2000, 1.4e-7, 0.48)
    curve = heat_through(body, [Stage.steady(5 * 3600, 60, 95)], 5)
    assert np.interp(59.5, curve.core_c, curve.times_s) / 60 == pytest.approx(minutes, abs=1.0)


def test_egg_as_a_sphere_of_43_mm() -> None:
    # common practice says "about 48 min"; the tolerance is that "about"
    curve = heat_through(Body(Shape.sphere, 0.0215, 1.4e-7, 0.48), [Stage.steady(2 * 3600, 60, 95)], 5)
    assert np.interp(59.5, curve.core_c, curve.times_s) / 60 == pytest.approx(48, abs=2)


def test_stages_hand_the_field_on() -> None:
    """Two stages in the same water are one stage; carry-over shows after lifting out."""
    body = Body(Shape.slab, 0.025, 1.3e-7, 0.48)
    one = heat_through(body, [Stage.steady(3600, 60, 95)], 5)
    two = heat_through(body, [Stage.steady(1800, 60, 95), Stage.steady(1800, 60, 95)], 5)
    assert two.core_c[-1] == pytest.approx(one.core_c[-1], abs=1e-6)
    chilled = heat_through(body, [Stage.steady(1800, 60, 95), Stage.steady(3600, 0.5, 200)], 5)
    assert chilled.core_c.max() > chilled.core_c[chilled.ends[0]] + 1.0


def test_surroundings_that_ramp_match_fine_steps() -> None:
    """A straight ramp is exact, whatever the spacing of the answer."""
    ramp = Stage(np.array([0.0, 3600.0]), np.array([5.0, 65.0]), 100)
    body = Body(Shape.slab, 0.015, 1.3e-7, 0.48)
    coarse, fine = heat_through(body, [ramp], 5, step_s=600), heat_through(body, [ramp], 5, step_s=5)
    assert np.interp(coarse.times_s, fine.times_s, fine.core_c) == pytest.approx(coarse.core_c, abs=1e-6)


@settings(max_examples=25)
@given(thin=st.floats(0.005, 0.05), extra=st.floats(0.001, 0.03), bath=st.floats(50, 80))
def test_thicker_never_heats_faster(thin: float, extra: float, bath: float) -> None:
    stage = [Stage.steady(3600, bath, 95)]
    a = heat_through(Body(Shape.slab, thin, 1.3e-7, 0.48), stage, 5)
    b = heat_through(Body(Shape.slab, thin + extra, 1.3e-7, 0.48), stage, 5)
    assert np.all(b.core_c <= a.core_c + 1e-3)  # a thousandth of a degree: ringing of the first seconds


@settings(max_examples=25)
@given(bath=st.floats(50, 80), hotter=st.floats(0.1, 15))
def test_hotter_never_leaves_it_colder(bath: float, hotter: float) -> None:
    body = Body(Shape.slab, 0.014, 1.2e-7, 0.48)
    a = heat_through(body, [Stage.steady(5400, bath, 95)], 4)
    b = heat_through(body, [Stage.steady(5400, bath + hotter, 95)], 4)
    assert np.all(b.core_c >= a.core_c - 1e-9)


def test_a_large_bath_does_not_dip_and_a_small_one_does() -> None:
    body = Body(Shape.slab, 0.014, 1.2e-7, 0.48)
    large = immerse(body, 7.2, 1060, 4, 95, Reservoir(5000, 63, 63, 60000), 3600)
    small = immerse(body, 7.2, 1060, 4, 95, Reservoir(20, 63, 63, 300), 3600)
    assert large.surroundings_c.min() > 62.9
    assert small.surroundings_c.min() < 58.0


def test_wide_steps_of_the_bath_agree_with_narrow_ones() -> None:
    body = Body(Shape.slab, 0.014, 1.2e-7, 0.48)
    water = Reservoir(56, 63, 63, 2000)
    wide, narrow = (immerse(body, 7.2, 1060, 4, 95, water, 3 * 3600, step_s=step) for step in (60.0, 1.0))
    times = np.linspace(0, 3 * 3600, 500)
    a = np.interp(times, wide.times_s, wide.surroundings_c)
    b = np.interp(times, narrow.times_s, narrow.surroundings_c)
    assert np.max(np.abs(a - b)) < 0.15


def test_bath_without_heater_keeps_the_heat_balance() -> None:
    """Water and food end at the mixing temperature (heat balance, exact)."""
    body = Body(Shape.slab, 0.005, 1.4e-7, 0.48)
    stage = immerse(body, 10.0, 1000, 4, 100, Reservoir(10, 63, 63), 6 * 3600)
    food = 10.0 / 1000 * body.heat_capacity_j_m3k()
    water = 10 * 4180.0
    assert stage.surroundings_c[-1] == pytest.approx((food * 4 + water * 63) / (food + water), abs=0.1)


def test_slurry_stays_cold_while_ice_lasts() -> None:
    body = Body(Shape.slab, 0.014, 1.2e-7, 0.48)
    enough = immerse(body, 7.2, 1060, 62, 200, Reservoir(20, 0.5, ice_kg=12), 7200)
    short = immerse(body, 7.2, 1060, 62, 200, Reservoir(20, 0.5, ice_kg=1), 7200)
    assert enough.surroundings_c.max() == pytest.approx(0.5, abs=0.01)
    assert short.surroundings_c.max() > 10


def test_ice_for_a_kilogram_from_60_to_0() -> None:
    # 3.5 kJ/kg·K x 60 K = 210 kJ; latent heat 333.6 kJ/kg (Singh & Heldman): 0.63 kg
    assert ice_needed_kg(1.0, 3500, 60, 0) == pytest.approx(0.6295, abs=5e-4)


@pytest.mark.parametrize("thickness_m", [0.0, -0.01, 3.0])
def test_impossible_thickness_is_refused(thickness_m: float) -> None:
    with pytest.raises(OutOfRangeError, match="outside the range"):
        Body(Shape.slab, thickness_m, 1.3e-7, 0.48)


def test_empty_and_backward_steps_are_refused() -> None:
    body = Body(Shape.slab, 0.01, 1.3e-7, 0.48)
    with pytest.raises(OutOfRangeError, match="must rise"):
        heat_through(body, [Stage.steady(0, 60, 95)], 5)
    with pytest.raises(OutOfRangeError, match="no heating"):
        heat_through(body, [], 5)
    with pytest.raises(OutOfRangeError, match=r"warmer|Ice cools"):
        ice_needed_kg(1, 3500, 3, 60)


def test_surroundings_that_take_half_of_what_is_given_off_take_twice_as_long() -> None:
    """By hand: 1000 J/K falling by 10 and 5 K in 100 s each gives off 100 and 50 W."""
    times, mean = np.array([0.0, 100.0, 200.0]), np.array([80.0, 70.0, 65.0])
    assert taken_s(times, mean, 1000.0, 50.0) == pytest.approx([0, 200, 300])
    assert taken_s(times, mean, 1000.0, 100.0) == pytest.approx(times)
    with pytest.raises(OutOfRangeError):
        taken_s(times, mean, 1000.0, 0.0)


def test_a_stretched_stage_has_the_same_way_later_and_the_next_goes_on_from_its_end() -> None:
    body, times = Body(Shape.slab, 0.02, 1.3e-7, 0.48), np.linspace(0.0, 3600.0, 61)
    cold = Stage(times, np.full(61, 2.0), 25.0)
    slow = Stage(times, np.full(61, 2.0), 25.0, taken_s=2.0 * times)
    after = Stage.steady(1800.0, 20.0, 9.0)
    free, held = (heat_through(body, [each, after], 70.0, step_s=60.0) for each in (cold, slow))
    assert (cold.length_s, slow.length_s) == (3600.0, 7200.0)
    assert held.core_c == pytest.approx(free.core_c)
    first = held.ends[0] + 1
    assert held.times_s[:first] == pytest.approx(2.0 * free.times_s[:first])
    assert held.times_s[first:] - 7200.0 == pytest.approx(free.times_s[first:] - 3600.0)
