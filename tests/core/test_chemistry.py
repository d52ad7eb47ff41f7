"""Acid, brine, nitrite, water activity and diffusion, against published tables and other people's programs."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.special import erfc

from brinefrost.core.chemistry.acid import (
    ACIDS,
    Solution,
    balance,
    titratable_acidity_percent,
)
from brinefrost.core.chemistry.acid_hold import hold_before_eating_s
from brinefrost.core.chemistry.brine import (
    brine_density_kg_m3,
    on_water_from_total,
    percent_from_density,
    percent_of_total,
    resting_salt_percent,
    salometer_degrees,
    salt_needed_kg,
    water_density_kg_m3,
)
from brinefrost.core.chemistry.diffusion import Piece, across, diffusivity_m2_s, share_in_middle, time_to_middle_s
from brinefrost.core.chemistry.ferment import crossing
from brinefrost.core.chemistry.jar import Jar, resting_ph, vegetables, vinegar_needed_kg, vinegar_to_add_kg
from brinefrost.core.chemistry.nitrite import as_ion_ppm, cure_for_ppm_kg, ingoing_ppm, slip_suspected
from brinefrost.core.chemistry.water_activity import aw_of_mixture, aw_of_salt, aw_of_sugar, loss_for_aw
from brinefrost.core.errors import NotFoundError, OutOfRangeError
from brinefrost.core.physics.body import Shape
from tests.core.chemicals import molality_of

# PHREEQC 1.1.1 (Python package), minteq.v4.dat, run on 2026-11-24: activity-corrected pH of a plain acid, % w/v.
# Tolerance 0.01: two activity models
PLAIN = [("acetic", 5, 2.410), ("acetic", 2, 2.615), ("acetic", 1, 2.768), ("citric", 1, 2.229), ("lactic", 1, 2.412)]
# Robinson & Stokes, Electrolyte Solutions, NaCl at 25 °C (published): % by mass, aw; tolerance the table's rounding
ROBINSON_STOKES = [
    (0.87, 0.995), (1.72, 0.99), (3.44, 0.98), (6.55, 0.96), (9.37, 0.94), (11.9, 0.92), (14.2, 0.90), (19.1, 0.85),
    (23.1, 0.80), (26.4, 0.753),
]  # fmt: skip
# four independent models (phreeqc, aquasol, thermo, CoolProp), run on 2026-11-24: middle of their range
FOUR_MODELS = [(3.5, 0.97955, 2e-4), (5, 0.9702, 2e-4), (7, 0.9570, 2e-4), (10, 0.9352, 6e-4), (16, 0.88245, 1.5e-3),
               (20, 0.83895, 1.5e-3), (26, 0.7590, 1.5e-3)]  # fmt: skip
CUCUMBERS = Jar(vegetable="cucumber", vegetable_kg=1, vinegar_kg=0.5, vinegar_percent=5, water_kg=0.5, salt_kg=0.03)


@pytest.mark.parametrize(("acid", "percent", "ph"), PLAIN)
def test_plain_acids(acid: str, percent: float, ph: float) -> None:
    assert balance(Solution({acid: molality_of(acid, percent)})).ph == pytest.approx(ph, abs=0.01)


def test_a_buffer_needs_activities() -> None:
    """Acetic acid and its sodium salt, 0.1 mol/kg each: 4.64 to 4.66 by PHREEQC, the pKa itself when ideal."""
    both = Solution({"acetic": 0.2}, base_mol_kg=0.1)
    assert balance(both).ph == pytest.approx(4.65, abs=0.015)
    assert balance(both, ideal=True).ph == pytest.approx(ACIDS["acetic"][0][0], abs=1e-3)


def test_pure_water_is_neutral() -> None:
    assert balance(Solution()).ph == pytest.approx(7.0, abs=0.01)


acids = st.sampled_from(list(ACIDS))


@settings(max_examples=60)
@given(
    acid=acids, amount=st.floats(0.001, 0.8), more=st.floats(1.01, 3), buffer=st.floats(0, 0.05), part=st.floats(0, 0.9)
)
def test_more_acid_never_raises_ph(acid: str, amount: float, more: float, buffer: float, part: float) -> None:
    base = part * amount  # a salt of the acid, never more than it neutralises
    once = balance(Solution({acid: amount}, base, 0.3, buffer, 6.0)).ph
    assert balance(Solution({acid: amount * more}, base, 0.3, buffer, 6.0)).ph <= once + 1e-5


@pytest.mark.parametrize("solution", [Solution({"vitriol": 0.1}), Solution({"acetic": -0.1})])
def test_acids_that_are_not_known(solution: Solution) -> None:
    with pytest.raises(OutOfRangeError):
        balance(solution)


def test_half_and_half_with_a_five_percent_brine() -> None:
    """Derived: equal parts vegetable and brine, brine half 5 % vinegar: about 1.3 % acid, pH 3.5 to 3.9."""
    assert 3.4 < resting_ph(CUCUMBERS).ph < 3.9


@pytest.mark.parametrize("key", list(vegetables()))
@pytest.mark.parametrize("target", [3.6, 4.2])
def test_vinegar_needed_reaches_its_target(key: str, target: float) -> None:
    jar = Jar(vegetable=key, vegetable_kg=1, vinegar_kg=0, vinegar_percent=6, water_kg=0.5)
    needed = vinegar_needed_kg(jar, target)
    if needed is not None:
        assert resting_ph(jar.model_copy(update={"vinegar_kg": needed})).ph <= target
        if needed > 0.01:
            assert resting_ph(jar.model_copy(update={"vinegar_kg": needed * 0.95})).ph > target


def test_vinegar_to_add_uses_what_the_meter_said() -> None:
    more, buffer = vinegar_to_add_kg(CUCUMBERS, 4.2, 4.0)
    assert more is not None
    assert more > 0
    assert buffer > 1
    topped = CUCUMBERS.model_copy(update={"vinegar_kg": 0.5 + more})
    assert resting_ph(topped, buffer).ph <= 4.0
    assert resting_ph(CUCUMBERS, buffer).ph == pytest.approx(4.2, abs=1e-3)
    with pytest.raises(OutOfRangeError):  # no vegetable buffers this much: what went in was something else
        vinegar_to_add_kg(CUCUMBERS, 6.5, 4.0)
    with pytest.raises(OutOfRangeError):
        vinegar_needed_kg(CUCUMBERS, 1.0)
    with pytest.raises(NotFoundError):
        resting_ph(CUCUMBERS.model_copy(update={"vegetable": "moon rock"}))


def test_titration() -> None:
    """AOAC: 10 mL of 0.1 N on 10 g is 0.6005 % acetic."""
    assert titratable_acidity_percent(10, 0.1, 10) == pytest.approx(0.6005)
    with pytest.raises(OutOfRangeError):
        titratable_acidity_percent(0, 0.1, 10)


# Breidt et al. 2007 (published): 34 h at 25 °C, 5.7 d at 10 °C, used as 2 and 6 days
@pytest.mark.parametrize(("temperature", "days"), [(25, 2), (30, 2), (10, 6), (20, 6)])
def test_hold_of_an_unheated_pack(temperature: float, days: float) -> None:
    assert hold_before_eating_s(3.2, 2.5, temperature) == days * 86400
    for wrong in ((3.4, 2.5, 25), (3.2, 2.3, 25), (3.2, 2.5, 4)):  # 400 mmol/L are 2.4 %
        with pytest.raises(OutOfRangeError):
            hold_before_eating_s(*wrong)


# PHREEQC (pitzer.dat) and Laliberté, 15.56 °C, run on 2026-11-24; kg/m³
@pytest.mark.parametrize(
    ("percent", "density"), [(5, 1035.05), (10, 1072.2), (16, 1118.45), (20, 1150.3), (26, 1199.5)]
)
def test_brine_density(percent: float, density: float) -> None:
    assert brine_density_kg_m3(percent) == pytest.approx(density, abs=0.8)
    assert percent_from_density(density) == pytest.approx(percent, abs=0.1)


# Kell 1975 (published): water, kg/m³
@pytest.mark.parametrize(("temperature", "density"), [(4, 999.972), (25, 997.045), (100, 958.35)])
def test_water_density(temperature: float, density: float) -> None:
    assert water_density_kg_m3(temperature) == pytest.approx(density, abs=0.02)


def test_a_three_percent_brine_both_ways() -> None:
    assert percent_of_total(3, 100) == pytest.approx(300 / 103)
    assert on_water_from_total(300 / 103) == pytest.approx(3)
    assert salometer_degrees(26.4) == pytest.approx(100)
    assert salometer_degrees(6.6) == pytest.approx(25)
    for call in (lambda: salometer_degrees(30), lambda: percent_of_total(0, 0), lambda: on_water_from_total(100)):
        with pytest.raises(OutOfRangeError):
            call()


@settings(max_examples=60)
@given(food=st.floats(0.1, 100), water=st.floats(0, 100), percent=st.floats(0.1, 20), share=st.floats(0.4, 0.9))
def test_salt_needed_comes_out_at_rest(food: float, water: float, percent: float, share: float) -> None:
    salt = salt_needed_kg(food, water, percent)
    whole, phase = resting_salt_percent(food, share, salt, water)
    assert whole == pytest.approx(percent)
    assert phase > whole


def test_water_phase_salt() -> None:
    """FDA guide ch. 13: salt / (salt + water): 2.8 % salt and 72 % moisture are 3.74 %."""
    assert percent_of_total(2.8, 72) == pytest.approx(100 * 2.8 / 74.8)


@pytest.mark.parametrize(("percent", "aw"), ROBINSON_STOKES)
def test_water_activity_of_salt_by_table(percent: float, aw: float) -> None:
    assert aw_of_salt(percent, 100 - percent) == pytest.approx(aw, abs=6e-4)


@pytest.mark.parametrize(("percent", "aw", "tolerance"), FOUR_MODELS)
def test_water_activity_of_salt_by_four_models(percent: float, aw: float, tolerance: float) -> None:
    assert aw_of_salt(percent, 100 - percent) == pytest.approx(aw, abs=tolerance)


# Norrish (1966), sucrose at 25 °C against the measured values he fits, from memory: 50 % 0.935, 60 % 0.898
@pytest.mark.parametrize(("percent", "aw"), [(50, 0.935), (60, 0.898)])
def test_water_activity_of_sugar(percent: float, aw: float) -> None:
    assert aw_of_sugar("sucrose", percent, 100 - percent) == pytest.approx(aw, abs=0.005)


@settings(max_examples=50)
@given(salt=st.floats(0.005, 0.05), sugar=st.floats(0, 0.05), water=st.floats(0.4, 0.75), more=st.floats(1.01, 1.5))
def test_mixtures_and_drying(salt: float, sugar: float, water: float, more: float) -> None:
    sugars = {"sucrose": sugar}
    wet = aw_of_mixture(salt, sugars, water)
    assert aw_of_mixture(salt * more, sugars, water) < wet
    loss = loss_for_aw(1, water, salt, sugars, 0.92)
    if loss:
        assert aw_of_mixture(salt, sugars, water - loss) <= 0.92 + 1e-6


def test_water_activity_beyond_what_dissolves() -> None:
    for call in (
        lambda: aw_of_salt(40, 60),
        lambda: aw_of_sugar("sucrose", 4, 1),
        lambda: aw_of_sugar("sand", 1, 1),
        lambda: loss_for_aw(1, 0.9, 0.2, {}, 0.9),
    ):
        with pytest.raises(OutOfRangeError):
            call()


# USDA-FSIS Calculations Handbook (published): 7.1 g of pure nitrite in 45.4 kg is 156 ppm
def test_nitrite_as_the_handbook_prints_it() -> None:
    assert round(ingoing_ppm("dry", 0.0071, 100, 45.4)) == 156
    assert as_ion_ppm(120) == pytest.approx(80, abs=0.1)  # molar masses: 120 mg/kg NaNO2 are 80 mg/kg as the ion


@settings(max_examples=60)
@given(
    method=st.sampled_from(["dry", "immersion", "equilibrium", "pumped"]),
    ppm=st.floats(10, 500),
    label=st.sampled_from([0.6, 6.25, 100.0]),
    meat=st.floats(0.5, 100),
)
def test_nitrite_goes_both_ways(method: str, ppm: float, label: float, meat: float) -> None:
    cure = cure_for_ppm_kg(method, ppm, label, meat, 50, 10)  # type: ignore[arg-type]
    assert ingoing_ppm(method, cure, label, meat, 50, 10) == pytest.approx(ppm)  # type: ignore[arg-type]


@pytest.mark.parametrize(("ppm", "asked"), [(1500, True), (156, False), (120, False), (15, True), (0, False)])
def test_the_tenfold_slip_is_asked_about(ppm: float, asked: bool) -> None:
    assert (slip_suspected(ppm, 156) is not None) == asked


@pytest.mark.parametrize(
    "arguments", [("dry", 0.01, 0, 5), ("immersion", 0.01, 6.25, 5), ("pumped", 0.01, 6.25, 5, 4, 0)]
)
def test_nitrite_needs_its_amounts(arguments: tuple[object, ...]) -> None:
    with pytest.raises(OutOfRangeError):
        ingoing_ppm(*arguments)  # type: ignore[arg-type]


def test_the_front_follows_the_error_function_while_the_middle_is_untouched() -> None:
    """Crank 1975, semi-infinite solid: c = erfc(x / 2√(Dt))."""
    piece = Piece(Shape.slab, 0.05, 4e-10)
    time = 0.02 * 0.025**2 / 4e-10
    depth = np.array([0.001, 0.003, 0.005])
    expected = erfc(depth / (2 * np.sqrt(4e-10 * time)))
    assert across(piece, time, 1 - depth / 0.025) == pytest.approx(expected, abs=2e-3)


@settings(max_examples=30)
@given(
    shape=st.sampled_from([Shape.slab, Shape.cylinder, Shape.sphere]), mm=st.floats(3, 80), share=st.floats(0.2, 0.95)
)
def test_half_the_thickness_needs_a_quarter_of_the_time(shape: Shape, mm: float, share: float) -> None:
    whole = time_to_middle_s(Piece(shape, mm / 1000, 3e-10), share)
    assert time_to_middle_s(Piece(shape, mm / 2000, 3e-10), share) == pytest.approx(whole / 4, rel=1e-3)
    assert share_in_middle(Piece(shape, mm / 1000, 3e-10), np.array([whole]))[0] == pytest.approx(share, abs=1e-4)


def test_diffusion_lies_where_it_was_published() -> None:
    """Acid 0.5 to 1e-9 m²/s at 20 to 25 °C; salt in cold meat 2 to 5e-10 (published, from memory)."""
    assert 4e-10 < diffusivity_m2_s("acid", 22) < 1e-9
    assert 2e-10 < diffusivity_m2_s("salt_meat", 4) < 5e-10
    assert diffusivity_m2_s("acid", 80) > 2.5 * diffusivity_m2_s("acid", 22)
    with pytest.raises(OutOfRangeError):
        diffusivity_m2_s("acid", 120)
    with pytest.raises(OutOfRangeError):
        time_to_middle_s(Piece(Shape.slab, 0.01, 3e-10), 1.0)


def test_a_ferment_crosses_where_it_was_measured() -> None:
    found = crossing(np.array([0.0, 2, 4]), np.array([6.0, 5.0, 4.0]), 4.6)
    assert found.day == pytest.approx(2.8)
    assert found.early == found.late


def test_a_ferment_is_projected_along_its_latest_days() -> None:
    found = crossing(np.array([0.0, 1, 2, 3]), np.array([6.1, 5.8, 5.4, 5.0]), 4.6)
    assert found.day is not None
    assert 3.8 < found.day < 4.4
    assert found.early is not None
    assert found.early < found.day


def test_a_ferment_that_stands_still_has_no_day() -> None:
    assert crossing(np.array([0.0, 1, 2]), np.array([6.0, 6.0, 6.01]), 4.6).day is None
    assert crossing(np.array([0.0]), np.array([6.0]), 4.6).day is None
    assert crossing(np.array([1.0]), np.array([4.0]), 4.6).day == 1
    for days, ph in (([], []), ([1, 1], [5, 5]), ([0], [19])):
        with pytest.raises(OutOfRangeError):
            crossing(np.array(days, float), np.array(ph, float), 4.6)


@pytest.mark.parametrize("apart_d", [0.0, 1e-300, 1e-9, 0.5 / 86400])
def test_readings_of_a_ferment_within_a_second_are_no_two_days(apart_d: float) -> None:
    """No slope is drawn through what lies closer together than a clock tells apart."""
    with pytest.raises(OutOfRangeError):
        crossing(np.array([1.0, 1.0 + apart_d]), np.array([5.0, 4.9]), 4.6)


def test_readings_of_a_ferment_a_minute_apart_are_two() -> None:
    found = crossing(np.array([1.0, 1.0 + 1 / 1440]), np.array([5.0, 4.999]), 4.6)
    assert found.slope_per_day == pytest.approx(-0.001 * 1440)


@pytest.mark.parametrize(
    ("days", "ph", "day"),
    [
        # a straight fall of 0.4 a day from 6.2: 4.6 after four days, by hand
        ([0.0, 1.0, 2.0], [6.2, 5.8, 5.4], 4.0),
        ([0.0, 1.0, 2.0, 3.0, 4.0], [6.2, 5.8, 5.4, 5.0, 4.6], 4.0),
        ([0.0, 1.0], [4.5, 4.2], 0.0),  # below from the first day
        ([0.0, 2.0], [5.0, 4.2], 1.0),  # crossed between two readings: half the way
        ([0.0, 1.0, 2.0], [6.2, 6.2, 6.2], None),  # it does not fall
        ([0.0, 1.0, 2.0], [5.4, 5.8, 6.2], None),  # it rises
    ],
)
def test_when_a_falling_ph_is_there(days: list[float], ph: list[float], day: float | None) -> None:
    found = crossing(np.array(days), np.array(ph), 4.6)
    assert found.day == (None if day is None else pytest.approx(day, abs=1e-9))
