"""The core against tables and arithmetic that are not ours. Where a value is from memory it says so."""

from math import cos, log10, pi, sin

import numpy as np
import pytest
from scipy.optimize import brentq
from scipy.special import j0, j1

from brinefrost.core.chemistry.acid import Solution, balance
from brinefrost.core.chemistry.brine import brine_density_kg_m3, salometer_degrees
from brinefrost.core.chemistry.nitrite import ingoing_ppm
from brinefrost.core.chemistry.water_activity import aw_of_salt, aw_of_sugar
from brinefrost.core.limits import Cooling, Exposure, Lethality, Series, TimeAbove, exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.altitude import pressure_pa
from brinefrost.core.physics.body import Shape
from brinefrost.core.physics.heat import centre_theta
from brinefrost.core.physics.humid_air import saturation_pressure_pa
from brinefrost.core.rules import rule_set, target, targets

# USDA-FSIS Appendix A, 6.5-log and 7-log columns, °F and whole minutes, from memory
APPENDIX_A = [
    (130, 112, 121), (131, 89, 97), (132, 71, 77), (133, 56, 62), (134, 45, 47), (135, 36, 37), (136, 28, 32),
    (137, 23, 24), (138, 18, 19), (139, 15, 15), (140, 12, 12), (141, 9, 10), (142, 8, 8), (143, 6, 6), (144, 5, 5),
    (145, 4, 4),
]  # fmt: skip
FOOD_CODE = (130, 131, 133, 135, 136, 138, 140, 142, 144, 145)  # 3-401.11(B)


def held(limit_id: str, celsius: float, minutes: float) -> str:
    limit = next(entry.limit for entry in targets() if entry.limit.id == limit_id)
    assert isinstance(limit, Lethality)
    times = np.linspace(0, 60 * minutes, 61)
    return limit.evaluate(Series(times, np.full(61, celsius), 0.0, 0.0, True, np.inf), 60 * minutes).state


@pytest.mark.parametrize(("fahrenheit", "six", "seven"), APPENDIX_A)
def test_whole_meat_by_the_printed_rows(fahrenheit: float, six: float, seven: float) -> None:
    celsius = round((fahrenheit - 32) / 1.8, 1)  # as the codes print it
    for limit, minutes in (("salmonella-whole-6.5", six), ("salmonella-whole-7", seven)):
        if limit == "salmonella-whole-6.5" and fahrenheit not in FOOD_CODE:
            continue  # the Food Code prints fewer rows; between them its own line of logarithms stands
        assert held(limit, celsius, minutes) == "pass"
        assert held(limit, celsius, 0.97 * minutes) == "fail"


# FSA, E. coli O157 and cooking guidance: equal to 2 min at 70 °C
@pytest.mark.parametrize(("celsius", "minutes"), [(60, 45), (65, 10), (70, 2), (75, 0.5), (80, 0.1)])
def test_two_minutes_at_70_or_equal(celsius: float, minutes: float) -> None:
    assert held("listeria-p70", celsius, minutes) == "pass"
    assert held("listeria-p70", celsius, 0.95 * minutes) == "fail"


# FDA, Fish and Fishery Products Hazards and Controls, appendix 4, table A-2, from memory: °C, whole time allowed in h
BANDS = [
    ("salmonella", 8, 48), ("salmonella", 15, 5), ("salmonella", 25, 2),
    ("e_coli", 8, 48), ("e_coli", 15, 5), ("e_coli", 25, 2),
    ("listeria", 3, 168), ("listeria", 8, 24), ("listeria", 15, 7), ("listeria", 25, 3), ("listeria", 32, 1),
    ("s_aureus", 8, 336), ("s_aureus", 15, 12), ("s_aureus", 25, 3),
    ("b_cereus", 5, 120), ("b_cereus", 10, 24), ("b_cereus", 18, 6), ("b_cereus", 25, 3),
    ("c_perfringens", 11, 504), ("c_perfringens", 13, 24), ("c_perfringens", 18, 6), ("c_perfringens", 25, 2),
    ("c_botulinum_b", 4, 168), ("c_botulinum_b", 8, 48),
    ("c_botulinum_b", 15, 11), ("c_botulinum_b", 25, 6),
    ("c_botulinum_a", 15, 11), ("c_botulinum_a", 25, 2),
    ("v_parahaemolyticus", 8, 504), ("v_parahaemolyticus", 15, 6), ("v_parahaemolyticus", 25, 2),
    ("v_parahaemolyticus", 30, 1),
]  # fmt: skip


@pytest.mark.parametrize(("key", "celsius", "hours"), BANDS)
def test_time_allowed_in_each_band(key: str, celsius: float, hours: float) -> None:
    clock = exposure_of(organism(key))
    assert isinstance(clock, Exposure)
    for share, state in ((0.97, "pass"), (1.03, "fail")):
        end = 3600 * hours * share
        series = Series(np.array([0.0, end / 2, end]), np.full(3, float(celsius)), 0.0, 0.0, True, np.inf)
        assert clock.evaluate(series, end).state == state


def stretches(*parts: tuple[float, float]) -> tuple[Series, float]:
    times, values, now = [], [], 0.0
    for celsius, hours in parts:
        times += [now, now + 3600 * hours - 0.5]
        values += [celsius, celsius]
        now += 3600 * hours
    return Series(np.array(times), np.array(values), 0.0, 0.0, True, np.inf), times[-1]


# FDA hazards guide, chapter 7: any time above 21.1 °C brings all time above 4.4 °C down to 4 h, 12 h once frozen
@pytest.mark.parametrize(
    ("limit_id", "parts", "state"),
    [
        ("scombroid-fresh", ((15, 7.0), (25, 0.4)), "fail"),
        ("scombroid-fresh", ((10, 3.9), (22, 0.5)), "fail"),
        ("scombroid-fresh", ((15, 7.5),), "pass"),
        ("scombroid-fresh", ((15, 8.5),), "fail"),
        ("scombroid-fresh", ((25, 3.5),), "pass"),
        ("scombroid-fresh", ((25, 4.5),), "fail"),
        ("scombroid-fresh", ((3, 40.0), (25, 3.5)), "pass"),
        ("scombroid-frozen", ((12, 20.0), (24, 1.9)), "fail"),
        ("scombroid-frozen", ((12, 20.0),), "pass"),
        ("scombroid-frozen", ((12, 25.0),), "fail"),
        ("scombroid-frozen", ((24, 11.0),), "pass"),
        ("scombroid-frozen", ((24, 13.0),), "fail"),
    ],
)
def test_histamine(limit_id: str, parts: tuple[tuple[float, float], ...], state: str) -> None:
    series, end = stretches(*parts)
    assert target(limit_id, TimeAbove).evaluate(series, end).state == state


def falling(*marks: tuple[float, float]) -> tuple[Series, float]:
    """Straight between (hours, °C) marks, read every minute."""
    hours, core = zip(*marks, (marks[-1][0] + 0.5, marks[-1][1] - 3), strict=True)
    times = np.arange(0, 3600 * hours[-1] + 1, 60.0)
    return Series(times, np.interp(times, 3600 * np.array(hours), core), 0.0, 0.0, True, 300.0), float(times[-1])


# Food Code 2022, 3-501.14(A); FSANZ 3.2.2, cl. 7(3); USDA-FSIS Appendix B: a further stage counts from the one before
@pytest.mark.parametrize(
    ("limit", "marks", "state"),
    [
        ("us", ((0, 57.0), (0.5, 21), (5.9, 5)), "pass"),
        ("us", ((0, 57.0), (0.5, 21), (6.1, 5)), "fail"),
        ("us", ((0, 57.0), (2.1, 21), (4, 5)), "fail"),
        ("anz", ((0, 60.0), (0.5, 21), (4.4, 5)), "pass"),
        ("anz", ((0, 60.0), (0.5, 21), (5.4, 5)), "fail"),
        ("anz", ((0, 60.0), (1.9, 21), (5.8, 5)), "pass"),
        ("fsis-b1", ((0, 54.4), (0.5, 26.7), (5.4, 4.4)), "pass"),
        ("fsis-b1", ((0, 54.4), (0.5, 26.7), (5.9, 4.4)), "fail"),
        ("fsis-b-cured", ((0, 54.4), (1, 26.7), (10.9, 7.2)), "pass"),
        ("fsis-b-cured", ((0, 54.4), (1, 26.7), (13.9, 7.2)), "fail"),
    ],
)
def test_two_stage_cooling(limit: str, marks: tuple[tuple[float, float], ...], state: str) -> None:
    rule = rule_set(limit).limit_as("chill.cooked", Cooling) if limit in ("us", "anz") else target(limit, Cooling)  # type: ignore[arg-type]
    series, end = falling((0.0, marks[0][1] + 5), *((hours + 0.2, core) for hours, core in marks))
    assert rule.evaluate(series, end).state == state


# Carslaw & Jaeger (1959), 3.11, 7.7, 9.4, the series summed here with roots by brentq
def series_theta(shape: Shape, biot: float, fourier: float) -> float:
    total = 0.0
    for n in range(40):
        low, high = n * pi + 1e-9, (n + 1) * pi - 1e-9
        if shape == Shape.slab:
            root = brentq(lambda z: z * sin(z) - biot * cos(z), n * pi, n * pi + pi / 2)
            total += 4 * sin(root) / (2 * root + sin(2 * root)) * np.exp(-(root**2) * fourier)
        elif shape == Shape.cylinder:
            root = brentq(lambda z: z * j1(z) - biot * j0(z), low, high)
            total += 2 * biot / ((root**2 + biot**2) * j0(root)) * np.exp(-(root**2) * fourier)
        else:
            root = brentq(lambda z: z * cos(z) + (biot - 1) * sin(z), low if biot > 1 or n else 1e-6, high)
            total += 4 * (sin(root) - root * cos(root)) / (2 * root - sin(2 * root)) * np.exp(-(root**2) * fourier)
    return float(total)


@pytest.mark.parametrize("shape", [Shape.slab, Shape.cylinder, Shape.sphere])
@pytest.mark.parametrize("biot", [0.3, 2.0, 5.0, 20.0])
@pytest.mark.parametrize("fourier", [0.1, 0.3, 1.0])
def test_centre_by_the_eigenvalue_series(shape: Shape, biot: float, fourier: float) -> None:
    found = float(centre_theta(shape, biot, np.array([fourier]))[0])
    assert found == pytest.approx(series_theta(shape, biot, fourier), abs=2e-4)


# ICAO standard atmosphere (Doc 7488): m, Pa
@pytest.mark.parametrize(
    ("metres", "pascals"), [(0, 101325), (1000, 89876), (2000, 79501), (3000, 70121), (4000, 61660)]
)
def test_pressure_of_the_standard_atmosphere(metres: float, pascals: float) -> None:
    assert pressure_pa(metres) == pytest.approx(pascals, rel=5e-4)


# Saturated water, steam tables (Keenan et al.): °C, kPa
@pytest.mark.parametrize(
    ("celsius", "kilopascals"), [(20, 2.339), (40, 7.384), (60, 19.94), (80, 47.39), (100, 101.35)]
)
def test_saturation_pressure(celsius: float, kilopascals: float) -> None:
    assert saturation_pressure_pa(celsius) == pytest.approx(1000 * kilopascals, rel=3e-3)


# CRC Handbook, sodium chloride in water at 20 °C: % by mass, kg/L
@pytest.mark.parametrize(
    ("percent", "density"), [(1, 1.0053), (5, 1.0340), (10, 1.0707), (15, 1.1085), (20, 1.1478), (26, 1.1972)]
)
def test_density_of_brine(percent: float, density: float) -> None:
    assert brine_density_kg_m3(percent, 20) == pytest.approx(1000 * density, rel=1.5e-3)


def test_a_full_brine_is_a_hundred_degrees() -> None:
    """26.395 % at 60 °F is 100 degrees on the salometer: common practice, the definition of the scale."""
    assert salometer_degrees(26.395) == pytest.approx(100, abs=0.1)


# Robinson & Stokes, Electrolyte Solutions (1959), appendix 8.3: molality, water activity; sucrose: appendix 8.6, memory
@pytest.mark.parametrize(
    ("molality", "aw"), [(0.5, 0.98355), (1, 0.96686), (2, 0.9316), (3, 0.8932), (4, 0.8515), (5, 0.8068), (6, 0.7598)]
)
def test_water_activity_of_salt(molality: float, aw: float) -> None:
    assert aw_of_salt(molality * 0.058443, 1.0) == pytest.approx(aw, abs=0.0025)


@pytest.mark.parametrize(("molality", "aw"), [(1, 0.9806), (2, 0.9581), (4, 0.9057), (6, 0.8500)])
def test_water_activity_of_sucrose(molality: float, aw: float) -> None:
    assert aw_of_sugar("sucrose", molality * 0.342297, 1.0) == pytest.approx(aw, abs=0.003)


# Dissociation at 25 °C, CRC Handbook: an ideal weak acid of one proton, and the first proton of the others
@pytest.mark.parametrize(("acid", "pka"), [("acetic", 4.756), ("lactic", 3.86)])
def test_half_neutralised_is_the_pka(acid: str, pka: float) -> None:
    found = balance(Solution(acids_mol_kg={acid: 0.2}, base_mol_kg=0.1), ideal=True)
    assert found.ph == pytest.approx(pka, abs=0.02)


@pytest.mark.parametrize(
    ("acid", "pka1", "pka2"), [("citric", 3.13, 4.76), ("malic", 3.40, 5.20), ("tartaric", 2.98, 4.34)]
)
@pytest.mark.parametrize("strength", [0.02, 0.1])
def test_acids_of_two_protons(acid: str, pka1: float, pka2: float, strength: float) -> None:
    """The charge balance of the first two protons, solved here by itself."""

    def charges(ph: float) -> float:
        h = 10.0**-ph
        k1, k2 = 10.0**-pka1, 10.0**-pka2
        below = h * h + k1 * h + k1 * k2
        return h - 1e-14 / h - strength * (k1 * h + 2 * k1 * k2) / below

    own = brentq(charges, 1.0, 6.0)
    assert balance(Solution(acids_mol_kg={acid: strength}), ideal=True).ph == pytest.approx(own, abs=0.04)


# USDA-FSIS Processing Inspectors' Calculations Handbook (1995), ch. 3: lb and ppm, worked by hand
@pytest.mark.parametrize(
    ("method", "cure_kg", "percent", "meat_kg", "brine_kg", "uptake", "ppm"),
    [
        ("dry", 0.25, 6.25, 100, 0, 0, 156.25),  # 4 oz of 6.25 % cure to 100 lb
        ("dry", 0.125, 6.25, 100, 0, 0, 78.125),
        ("dry", 1.0, 0.6, 40, 0, 0, 150.0),
        ("immersion", 2.0, 6.25, 100, 100, 10, 125.0),  # nitrite × uptake × 10⁶ / pickle
        ("pumped", 2.0, 6.25, 100, 100, 10, 125.0),
        ("equilibrium", 0.4, 6.25, 100, 100, 0, 125.0),  # nitrite × 10⁶ / (meat + brine)
        ("equilibrium", 0.24, 6.25, 60, 40, 0, 150.0),
    ],
)
def test_nitrite_by_the_handbook(
    method: str, cure_kg: float, percent: float, meat_kg: float, brine_kg: float, uptake: float, ppm: float
) -> None:
    found = ingoing_ppm(method, cure_kg, percent, meat_kg, brine_kg, uptake)  # type: ignore[arg-type]
    assert found == pytest.approx(ppm, rel=0.12 if method == "pumped" else 1e-6)


@pytest.mark.parametrize(("celsius", "minutes"), [(58, 20.0), (62, 5.5), (66, 1.0)])
def test_between_two_rows_lies_between_them(celsius: float, minutes: float) -> None:
    """On the line of the logarithms of the printed rows: no time is shorter than the next row's."""
    limit = next(entry.limit for entry in targets() if entry.limit.id == "salmonella-whole-6.5")
    assert isinstance(limit, Lethality)
    law = limit.model.law()
    needed = law.goal_min / float(law.rate(np.array([celsius]))[0])
    assert abs(log10(needed / minutes)) < 0.25
