"""Whole bodies, properties, wet bulb, freezing and stirred cooling, against other people's numbers."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.cooling import chiller_load_w, lumped_c, pot_area_m2
from brinefrost.core.physics.freezing import FISH, MEAT, Freezable, pham_s
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.humid_air import humidity_ratio, saturation_pressure_pa, wet_bulb_c
from brinefrost.core.physics.modes import profile_theta
from brinefrost.core.physics.properties import properties_from_composition
from brinefrost.core.roots import changeover, zero_of

SLAB = Body(Shape.slab, 0.02, 1.4e-7, 0.48)

# scikit-fem 12.0.2, quadratic elements, Crank-Nicolson, run on 2026-11-25: centre of half a body with h on its faces.
# Tolerance 2e-3 K: their time step.
FEM = [
    (Body(Shape.cylinder, 0.04, 1.35e-7, 0.55, (0.055,)), 20.0, 82.0, {1800: 34.9919, 3600: 59.4751}),
    (Body(Shape.slab, 0.015, 1.3e-7, 0.48, (0.025, 0.04)), 5.0, 60.0, {1200: 40.5543, 2400: 55.8407}),
]
# psychrolib 2.5.0, GetTWetBulbFromRelHum at GetStandardAtmPressure(altitude), run on 2026-11-25
WET_BULBS = [
    (25, 0.5, 0, 17.889),
    (60, 0.434, 0, 45.006),
    (80, 0.3, 0, 54.943),
    (95, 0.4, 2140, 72.392),
    (120, 0.1, 2140, 62.304),
    (24, 0.75, 2140, 20.510),
]
# CoolProp 8.0.0, PropsSI(..., 'INCOMP::FoodX') at 20 and 60 °C, run on 2026-11-25: the same published polynomials,
# so this catches slips of typing only. conductivity, density, heat capacity; six printed digits
COOLPROP = {
    "protein": {20: (0.201639, 1319.53, 2031.85), 60: (0.240774, 1298.80, 2076.01)},
    "fat": {20: (0.175118, 917.239, 2011.75), 60: (0.163509, 900.536, 2055.32)},
    "fibre": {20: (0.207037, 1304.18, 1880.65), 60: (0.246886, 1289.55, 1938.99)},
    "ash": {20: (0.356479, 2418.19, 1128.92), 60: (0.403221, 2406.96, 1192.72)},
    "water": {20: (0.603659, 995.740, 4129.27), 60: (0.652707, 983.842, 4143.15)},
}


@pytest.mark.parametrize(("body", "start", "bath", "expected"), FEM)
def test_closed_bodies_follow_finite_elements(
    body: Body, start: float, bath: float, expected: dict[int, float]
) -> None:
    got = Heating(body, 95.0, start, bath).core_c(np.array(list(expected), float))
    assert got == pytest.approx(list(expected.values()), abs=2e-3)


def test_a_cube_is_the_product_of_three_slabs() -> None:
    times = np.array([300.0, 1200.0, 3000.0])
    cube = Heating(Body(Shape.slab, 0.02, 1.4e-7, 0.48, (0.02, 0.02)), 95, 5, 60).theta(times)
    assert cube == pytest.approx(Heating(SLAB, 95, 5, 60).theta(times) ** 3, abs=1e-4)


@pytest.mark.parametrize("others", [(), (0.03,), (0.03, 0.05)])
def test_a_field_is_carried_from_stage_to_stage(others: tuple[float, ...]) -> None:
    """Two stages in one surrounding are one stage: nothing is lost where h stays or where it changes nothing."""
    body = Body(Shape.slab, 0.02, 1.4e-7, 0.48, others)
    whole = heat_through(body, [Stage.steady(3600, 60, 95)], 5, 60)
    parts = heat_through(body, [Stage.steady(1200, 60, 95), Stage.steady(2400, 60, 95)], 5, 60)
    assert parts.core_c[-1] == pytest.approx(whole.core_c[-1], abs=1e-3)
    nearly = heat_through(body, [Stage.steady(1200, 60, 95), Stage.steady(2400, 60, 95.0001)], 5, 60)
    assert nearly.core_c[-1] == pytest.approx(whole.core_c[-1], abs=1e-3)


def test_the_core_goes_on_rising_after_the_heat() -> None:
    curve = heat_through(
        Body(Shape.cylinder, 0.04, 1.3e-7, 0.48), [Stage.steady(3600, 90, 30), Stage.steady(1800, 20, 9)], 5
    )
    assert curve.core_c[curve.ends[0] + 20] > curve.core_c[curve.ends[0]]


def test_a_fading_oven_is_followed_as_by_a_general_integrator() -> None:
    """scipy's solve_ivp on 80 cells of the same slab; tolerance its second-order error."""
    stage = Stage.fading(7200, 95, 25, 3600, 30)
    ours = heat_through(SLAB, [stage], 5, 30).core_c[-1]
    n, width = 80, 0.02 / 80

    def slope(t: float, field: np.ndarray) -> np.ndarray:
        outside = 25 + 70 * np.exp(-t / 3600)
        padded = np.concatenate(([field[0]], field, [0.0]))
        flux = np.diff(padded)[:-1]
        surface = (outside - field[-1]) / (width / 2 / 0.48 + 1 / 30) / 0.48 * width
        return 1.4e-7 / width**2 * (np.append(flux[1:], surface) - flux)

    theirs = solve_ivp(slope, (0, 7200), np.full(n, 5.0), "LSODA", rtol=1e-8, atol=1e-8).y[0, -1]
    assert ours == pytest.approx(theirs, abs=0.02)


@pytest.mark.parametrize("shape", [Shape.slab, Shape.cylinder, Shape.sphere])
def test_the_profile_joins_centre_and_surface(shape: Shape) -> None:
    """Robin condition at the surface: −θ′(1) = Bi θ(1), by a one-sided difference."""
    theta = profile_theta(int(shape), 5.0, 0.3, np.array([0.0, 1 - 1e-5, 1.0]))
    assert (theta[1] - theta[2]) / 1e-5 == pytest.approx(5.0 * theta[2], rel=1e-3)
    assert theta[0] > theta[2] > 0


@pytest.mark.parametrize(
    "wrong",
    [{"shape": Shape.sphere, "other_halves_m": (0.02,)}, {"shape": Shape.cylinder, "other_halves_m": (0.02, 0.02)}],
)
def test_bodies_that_cannot_be(wrong: dict[str, object]) -> None:
    with pytest.raises(OutOfRangeError):
        Body(half_thickness_m=0.02, diffusivity_m2_s=1.4e-7, conductivity_w_mk=0.48, **wrong)  # type: ignore[arg-type]


@pytest.mark.parametrize("part", list(COOLPROP))
@pytest.mark.parametrize("temperature", [20, 60])
def test_parts_of_a_food_as_in_the_handbook(part: str, temperature: int) -> None:
    found = properties_from_composition({part: 1.0}, temperature)
    got = (found.conductivity_w_mk, found.density_kg_m3, found.heat_capacity_j_kgk)
    assert got == pytest.approx(COOLPROP[part][temperature], rel=6e-6)


def test_lean_meat_lies_in_the_published_band() -> None:
    """Lean meat 1.3 to 1.4e-7 m²/s, k about 0.48 W/m·K (Choi & Okos as in ASHRAE); model error 10 %."""
    found = properties_from_composition({"water": 0.74, "protein": 0.21, "fat": 0.04, "ash": 0.01}, 20)
    assert 1.25e-7 < found.diffusivity_m2_s < 1.45e-7
    assert found.conductivity_w_mk == pytest.approx(0.48, rel=0.1)


@pytest.mark.parametrize("shares", [{}, {"water": 0.5}, {"water": 0.9, "bone": 0.1}, {"water": 1.2, "fat": -0.2}])
def test_a_composition_that_does_not_come_to_one(shares: dict[str, float]) -> None:
    with pytest.raises(OutOfRangeError):
        properties_from_composition(shares, 20)


@pytest.mark.parametrize(("dry", "humidity", "altitude", "wet"), WET_BULBS)
def test_wet_bulb_as_psychrolib_has_it(dry: float, humidity: float, altitude: float, wet: float) -> None:
    assert wet_bulb_c(dry, humidity, altitude) == pytest.approx(wet, abs=2e-3)


# psychrolib 2.5.0, GetSatVapPres, run on 2026-11-25
@pytest.mark.parametrize(("temperature", "pascal"), [(10, 1228.00), (50, 12349.86), (95, 84607.76), (150, 476197.88)])
def test_vapour_pressure_as_psychrolib_has_it(temperature: float, pascal: float) -> None:
    assert saturation_pressure_pa(temperature) == pytest.approx(pascal, rel=1e-5)


def test_air_that_cannot_hold_so_much_steam() -> None:
    assert wet_bulb_c(60, 1.0) == 60
    with pytest.raises(OutOfRangeError):
        humidity_ratio(120, 0.9)
    with pytest.raises(OutOfRangeError):
        saturation_pressure_pa(250)


@settings(max_examples=60)
@given(dry=st.floats(5, 180), humidity=st.floats(0.01, 0.95))
def test_the_wet_bulb_is_never_warmer_than_the_dry(dry: float, humidity: float) -> None:
    try:
        assert wet_bulb_c(dry, humidity, 500) <= dry + 1e-3
    except OutOfRangeError:
        # more steam than the air can hold, or so dry and cold that the wet bulb freezes
        assert humidity * saturation_pressure_pa(dry) > 80_000 or dry < 20


# Singh & Heldman, Introduction to Food Engineering, ch. 7: how much of it the surface and the frozen layer resist
PLANK = {Shape.slab: (1 / 2, 1 / 8), Shape.cylinder: (1 / 4, 1 / 16), Shape.sphere: (1 / 6, 1 / 24)}


def plank_s(
    shape: Shape, thickness_m: float, h: float, k: float, density: float, latent: float, fall_k: float
) -> float:
    """Plank (1913): the time to freeze [s] what is at its freezing point, in air so much colder [K]."""
    surface, inner = PLANK[shape]
    return density * latent / fall_k * (surface * thickness_m / h + inner * thickness_m**2 / k)


def test_plank_as_singh_and_heldman_print_it() -> None:
    """Singh & Heldman, Introduction to Food Engineering, ch. 7: 7 cm sphere, 2603 s; rounding of the printed value."""
    assert plank_s(Shape.sphere, 0.07, 50, 1.2, 1000, 250e3, 40 - 1.25) == pytest.approx(2603, abs=1)


def test_pham_falls_to_plank_as_the_sensible_heat_vanishes() -> None:
    """With no heat capacity and the mean freezing temperature at the freezing point the two are one formula."""
    bare = Freezable(1000, 1.0, 1e-6, 1e-6, 1.4, 0.0)
    air, core = -30.0, -10.0
    mean = 1.8 + 0.263 * core + 0.105 * air
    plank = plank_s(Shape.slab, 0.03, 25, 1.4, 1000, bare.latent_j_kg, mean - air)
    assert pham_s(bare, Shape.slab, 0.03, 25, 5, core, air) == pytest.approx(plank, rel=1e-6)


@settings(max_examples=40)
@given(thick=st.floats(0.005, 0.1), more=st.floats(1.05, 2), h=st.floats(5, 100))
def test_thicker_and_stiller_freezes_slower(thick: float, more: float, h: float) -> None:
    once = pham_s(FISH, Shape.slab, thick, h, 4, -20, -35)
    assert pham_s(FISH, Shape.slab, thick * more, h, 4, -20, -35) > once
    assert pham_s(FISH, Shape.slab, thick, h * more, 4, -20, -35) < once
    assert pham_s(MEAT, Shape.sphere, thick, h, 4, -20, -35) < pham_s(MEAT, Shape.slab, thick, h, 4, -20, -35)


@pytest.mark.parametrize(("core", "air"), [(-20, -18), (0, -30), (-20, -5)])
def test_freezing_that_cannot_happen(core: float, air: float) -> None:
    with pytest.raises(OutOfRangeError):
        pham_s(FISH, Shape.slab, 0.03, 25, 4, core, air)


def test_a_stirred_pot_loses_half_its_excess_in_ln_two_time_constants() -> None:
    tau = 8 * 4000 / (200 * 0.2)
    assert lumped_c(np.array([tau * np.log(2)]), 8, 4000, 200, 0.2, 80, 0)[0] == pytest.approx(40)
    with pytest.raises(OutOfRangeError):
        lumped_c(np.array([1.0]), 0, 4000, 200, 0.2, 80, 0)


def test_geometry_and_load_of_a_pot() -> None:
    radius = np.sqrt(0.01 / (np.pi * 0.1))
    assert pot_area_m2(0.01, 0.1) == pytest.approx(2 * np.pi * radius * 0.1 + np.pi * radius**2)
    assert pot_area_m2(0.01, 0.1, covered=True) == pytest.approx(2 * np.pi * radius * 0.1)
    # Singh & Heldman, heat balance: 10 kg × 4 kJ/kg·K × 50 K in 2000 s is 1 kW
    assert chiller_load_w(10, 4000, 60, 10, 2000) == pytest.approx(1000)
    for wrong in ((10, 4000, 10, 60, 2000), (10, 4000, 60, 10, 0)):
        with pytest.raises(OutOfRangeError):
            chiller_load_w(*wrong)


def test_searching() -> None:
    assert changeover(lambda x: x >= 2, 0, 10, 1e-9) == pytest.approx(2)
    assert changeover(lambda x: x <= 2, 10, 0, 1e-9) == pytest.approx(2)
    assert changeover(lambda x: False, 0, 10, 1e-6) is None
    assert changeover(lambda x: True, 3, 10, 1e-6) == 3
    assert zero_of(lambda x: x**3 - 8, 0, 5, 1e-9) == pytest.approx(2)
    with pytest.raises(OutOfRangeError):
        zero_of(lambda x: x + 1, 0, 5, 1e-6)
    with pytest.raises(OutOfRangeError):
        changeover(lambda x: True, 0, 1, 0)
