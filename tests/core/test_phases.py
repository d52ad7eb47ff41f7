"""Freezing, thawing, roasting and boiling against other methods: scipy's stiff solver, published formulas, practice."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from brinefrost.core.physics.altitude import pressure_pa
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.freezing import MEAT, pham_s
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.physics.humid_air import saturation_pressure_pa
from brinefrost.core.physics.modes import fit_profile, read_profile
from brinefrost.core.physics.oven import oven_of, roast
from brinefrost.core.physics.phases import (
    FREEZES_C,
    FROZEN_SHARE,
    FUSION_J_KG,
    ICE_W_MK,
    WATER_KG_M3,
    Air,
    carry_phases,
)

HOUR = 3600.0
CELLS = 60
SLAB = Body(Shape.slab, 0.01, 1.3e-7, 0.48)


def core_by_scipy(body: Body, start_c: float, around_c: float, h: float, seconds: float, boils_c: float) -> float:
    """The core [°C] by the method of lines in temperature, with an apparent heat capacity, and scipy's BDF."""
    width = body.half_thickness_m / CELLS
    edges = np.linspace(0.0, body.half_thickness_m, CELLS + 1)
    faces, volumes = edges ** int(body.shape), np.diff(edges ** (int(body.shape) + 1)) / (int(body.shape) + 1)
    warm, k = body.heat_capacity_j_m3k(), body.conductivity_w_mk

    def slopes(_: float, cells: Array) -> Array:
        frozen = cells < FREEZES_C
        cold = np.minimum(cells, FREEZES_C)
        capacity = np.where(frozen, FROZEN_SHARE * warm - FUSION_J_KG * WATER_KG_M3 * FREEZES_C / cold**2, warm)
        conducts = np.where(frozen, k + (ICE_W_MK - k) * (1 - FREEZES_C / cold), k)
        between = (conducts[1:] + conducts[:-1]) / 2 * np.diff(cells) / width * faces[1:-1]
        half = width / 2 / conducts[-1]
        skin = min((h * around_c + cells[-1] / half) / (h + 1 / half), boils_c)
        outer = (skin - cells[-1]) / half * faces[-1]
        return np.diff(np.concatenate(([0.0], between, [outer]))) / volumes / capacity

    even = np.full(CELLS, start_c)
    done = solve_ivp(slopes, (0.0, seconds), even, method="BDF", rtol=1e-6, atol=1e-4)
    return float(done.y[0, -1])


@pytest.mark.parametrize(
    ("shape", "half_m", "start_c", "around_c", "h", "seconds"),
    [
        (Shape.slab, 0.010, -20.0, 180.0, 300.0, 540.0),
        (Shape.slab, 0.010, -20.0, 180.0, 300.0, 900.0),
        (Shape.cylinder, 0.03, -18.0, 90.0, 100.0, 5400.0),
        (Shape.sphere, 0.015, -18.0, 100.0, 1000.0, 900.0),
        (Shape.slab, 0.02, 4.0, -24.0, 25.0, 3 * HOUR),
        (Shape.slab, 0.02, -18.0, 4.0, 15.0, 10 * HOUR),
        (Shape.sphere, 0.02, 5.0, 170.0, 100.0, 1500.0),
    ],
)
def test_core_is_that_of_another_method(
    shape: Shape, half_m: float, start_c: float, around_c: float, h: float, seconds: float
) -> None:
    """scipy's solve_ivp on sixty cells, in temperature where ours steps in enthalpy: within 1 K."""
    body = Body(shape, half_m, 1.3e-7, 0.48)
    even, ends, around = np.full(16, start_c), np.array([0.0, seconds]), np.full(2, around_c)
    found = carry_phases(body, even, ends, around, Air(h)).core_c[-1]
    assert found == pytest.approx(core_by_scipy(body, start_c, around_c, h, seconds, 100.0), abs=1.0)


@pytest.mark.parametrize("thickness_m", [0.02, 0.04, 0.06])
def test_freezing_takes_what_pham_says(thickness_m: float) -> None:
    """Pham (1986), as ``pham_s`` has it: published within about 10 % of data."""
    body = Body(Shape.slab, thickness_m / 2, 1.3e-7, 0.48)
    found = carry_phases(body, np.full(16, 10.0), np.array([0.0, 30 * HOUR]), np.full(2, -30.0), Air(25.0))
    there = float(found.times_s[np.argmax(found.core_c <= -18.0)])
    assert there == pytest.approx(pham_s(MEAT, Shape.slab, thickness_m, 25.0, 10.0, -18.0, -30.0), rel=0.2)


def test_cooking_from_frozen_takes_half_as_long_again() -> None:
    """USDA FSIS, "The Big Thaw", from memory: about 50 % longer than thawed."""
    times = []
    for start_c in (-18.0, 4.0):
        curve = heat_through(SLAB, [Stage.steady(1800, 180, 300, 100.0)], start_c)
        times.append(float(np.interp(71.0, curve.core_c, curve.times_s)))
    assert 1.3 < times[0] / times[1] < 1.7


def test_flesh_does_not_pass_boiling_and_two_linear_stages_are_the_shells() -> None:
    """An oven at 150 °C, three hours: the core of beef read 132 °C where conduction alone was asked."""
    body = Body(Shape.slab, 0.02, 1.3e-7, 0.48)
    curve = heat_through(body, [Stage.steady(3 * HOUR, 150, 18, 100.0), Stage.steady(HOUR, 20, 9)], 5.0, 60)
    assert curve.core_c.max() <= 100.0
    assert curve.surface_c.max() <= 100.0
    shells = carry_phases(body, np.full(64, 5.0), np.array([0, 3 * HOUR]), np.full(2, 150.0), Air(18.0), 1000)
    assert np.interp(shells.times_s, curve.times_s, curve.core_c) == pytest.approx(shells.core_c, abs=0.1)


def test_oven_that_cools_boils_only_while_it_is_hotter() -> None:
    """What falls below boiling is conduction again: no surface is above what is around it or boiling."""
    falling = Stage(np.array([0.0, HOUR, 2 * HOUR]), np.array([200.0, 200.0, 60.0]), 18.0, boils_c=100.0)
    curve = heat_through(Body(Shape.slab, 0.02, 1.3e-7, 0.48), [falling], 5.0, 30)
    assert curve.surface_c.max() <= 100.0
    assert curve.surface_c[-1] < curve.surface_c.max() - 5


@pytest.mark.parametrize("exponent", [0, 1, 2])
def test_field_goes_from_shells_to_modes_and_back(exponent: int) -> None:
    """A parabola across the piece, which both hold, comes back as it was."""
    places = np.linspace(0.0, 1.0, 19)
    field = 70 + 25 * places**2
    assert read_profile(fit_profile(exponent, places, field), places) == pytest.approx(field, abs=0.1)


def test_rest_after_frozen_food_goes_on_from_its_field() -> None:
    """Carry-over: the mean of the piece does not jump where the shells hand it back to the modes."""
    curve = heat_through(SLAB, [Stage.steady(720, 180, 300, 100.0), Stage.steady(600, 20, 9)], -18.0)
    end = curve.ends[0]
    assert abs(curve.mean_c[end + 1] - curve.mean_c[end]) < 1.5
    assert curve.core_c[end + 20] > curve.core_c[end]


def explicit_roast(body: Body, air_c: float, vapour_pa: float, h: float, start_c: float, seconds: float) -> float:
    """The core in an open oven by an explicit march in temperature, written by itself: sweat, rim, no boiling."""
    count = 40
    width = body.half_thickness_m / count
    edges = np.linspace(0.0, body.half_thickness_m, count + 1)
    faces, volumes = edges ** int(body.shape), np.diff(edges ** (int(body.shape) + 1)) / (int(body.shape) + 1)
    cells, free, rim = np.full(count, start_c), 0.35, 0.0
    step = 0.3 * width**2 / body.diffusivity_m2_s / (int(body.shape) + 1)
    for _ in range(int(seconds / step)):
        skin = min(float(cells[-1] + (cells[-1] - cells[-2]) / 2), 100.0)
        leaves = 0.0
        if free > 0:
            leaves = (
                h / 1010 * 0.622 * (saturation_pressure_pa(max(skin, 0.1)) - vapour_pa) / (pressure_pa(0) - vapour_pa)
            )
            enters = h * (air_c - skin) - leaves * 2.4e6
            free -= max(leaves, 0.0) * step
        else:
            enters = (air_c - skin) / (1 / h + rim / 0.12)
        inner = body.conductivity_w_mk * np.diff(cells) / width * faces[1:-1]
        cells = cells + step * np.diff(np.concatenate(([0.0], inner, [enters * faces[-1]]))) / (
            volumes * body.heat_capacity_j_m3k()
        )
        over = float(cells[-1]) - 100.0
        if over > 0:
            rim += over * volumes[-1] * body.heat_capacity_j_m3k() / faces[-1] / (2.4e6 * 700)
            cells[-1] = 100.0
    return float(cells[0])


@pytest.mark.parametrize(("shape", "half_m", "air_c", "seconds"), [
    (Shape.cylinder, 0.035, 180.0, 4200.0), (Shape.slab, 0.02, 160.0, 3600.0), (Shape.sphere, 0.03, 220.0, 2400.0),
])  # fmt: skip
def test_open_oven_is_that_of_an_explicit_march(shape: Shape, half_m: float, air_c: float, seconds: float) -> None:
    """Another scheme over the same balance: within 2.5 K."""
    body = Body(shape, half_m, 1.2e-7, 0.48)
    found = roast(body, oven_of(air_c, 0.0, 18.0, 0.0), 5.0, seconds).core_c[-1]
    assert found == pytest.approx(explicit_roast(body, air_c, 0.0, 18.0, 5.0, seconds), abs=2.5)


def test_open_oven_is_slower_than_a_covered_one_and_a_bird_takes_what_it_takes() -> None:
    """A chicken of 1.5 kg, some 70 mm at its breast, at 180 °C: 75 to 100 minutes, common practice, no source."""
    bird = Body(Shape.cylinder, 0.035, 1.2e-7, 0.48)
    ways = [heat_through(bird, [Stage.steady(3 * HOUR, 180, 18, 100.0, vapour)], 5.0, 60) for vapour in (1200.0, None)]
    open_s, covered_s = (float(np.interp(74.0, way.core_c, way.times_s)) for way in ways)
    assert covered_s < open_s
    assert 65 * 60 < open_s < 100 * 60
