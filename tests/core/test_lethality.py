"""Lethality against published equivalents and tables."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Lethality
from brinefrost.core.physics.altitude import boiling_c, pressure_pa
from brinefrost.core.physics.lethality import law_from_dz, law_from_table, lethality_min
from brinefrost.core.rules import rule_set

P70 = law_from_dz(70.0, 7.5, 2.0)

# FSA, "cooking safely": times equal to 70 °C for 2 min, printed in round figures. They agree with z = 7.5 within
# 10 %, but for 75 °C, where 26 s is printed as 30 s.
FSA_EQUIVALENTS = {60: 45.0, 65: 10.0, 70: 2.0, 75: 0.5, 80: 0.1}

# FDA Food Code 3-401.11(B), whole cuts, 6.5-log [°C: min]; D60 = 1.85 min with z = 5.56 stays within 9 % of every row.
WHOLE_CUTS = {
    54.4: 112,
    55.0: 89,
    56.1: 56,
    57.2: 36,
    57.8: 28,
    58.9: 18,
    60.0: 12,
    61.1: 8,
    62.2: 5,
    62.8: 4,
    63.9: 134 / 60,
    65.0: 85 / 60,
    66.1: 54 / 60,
    67.2: 34 / 60,
    68.3: 22 / 60,
    69.4: 14 / 60,
}


def held(law: object, temperature: float, minutes: float) -> float:
    times = np.array([0.0, minutes * 60])
    return float(lethality_min(law, times, np.full(2, temperature))[-1])  # type: ignore[arg-type]


@pytest.mark.parametrize(("temperature", "minutes"), FSA_EQUIVALENTS.items())
def test_fsa_equivalents(temperature: float, minutes: float) -> None:
    assert held(P70, temperature, minutes) == pytest.approx(2.0, rel=0.17 if temperature == 75 else 0.10)


@pytest.mark.parametrize(("temperature", "minutes"), WHOLE_CUTS.items())
def test_whole_cut_table_by_z_value(temperature: float, minutes: float) -> None:
    # the rounding of rows printed in whole minutes or seconds adds to the 9 %
    law = law_from_dz(60.0, 5.56, 6.5 * 1.85, floor_c=54.4)
    rounding = 0.5 / minutes if minutes >= 4 else 0.5 / 60 / minutes
    assert held(law, temperature, minutes) / law.goal_min == pytest.approx(1.0, abs=0.09 + rounding)


def test_table_law_meets_its_own_rows() -> None:
    limit = next(e.limit for e in rule_set("us").entries_for("cook.poultry") if isinstance(e.limit, Lethality))
    law = limit.model.law()
    for row in limit.model.rows:  # type: ignore[union-attr]
        assert held(law, row.at_c, row.minutes) == pytest.approx(law.goal_min, rel=1e-9)


def test_table_law_credits_nothing_below_and_no_more_above() -> None:
    law = law_from_table(((57.8, 81.4), (60.0, 35.0), (62.8, 13.0)), 62.8)
    assert held(law, 57.7, 600) == 0.0
    assert held(law, 80.0, 1.0) == pytest.approx(held(law, 62.8, 1.0))


def test_straight_ramp_matches_fine_quadrature() -> None:
    """Independent: the integral by many small steps."""
    times = np.array([0.0, 3600.0])
    ramp = np.array([50.0, 72.0])
    fine_times = np.linspace(0, 3600, 200_001)
    fine = np.interp(fine_times, times, ramp)
    rates = np.where(fine >= 54.4, 10 ** ((fine - 70) / 7.5), 0.0)
    expected = np.trapezoid(rates, fine_times) / 60
    assert lethality_min(P70, times, ramp)[-1] == pytest.approx(expected, rel=1e-5)


def test_falling_core_counts_as_much_as_rising() -> None:
    times = np.array([0.0, 600.0])
    up, down = np.array([60.0, 70.0]), np.array([70.0, 60.0])
    assert lethality_min(P70, times, up)[-1] == pytest.approx(lethality_min(P70, times, down)[-1])


def test_no_credit_across_a_long_gap() -> None:
    times = np.array([0.0, 60.0, 3660.0, 3720.0])
    core = np.full(4, 70.0)
    assert lethality_min(P70, times, core, longest_gap_s=300)[-1] == pytest.approx(2.0)


@given(st.lists(st.floats(20, 90), min_size=3, max_size=20), st.floats(0, 10))
def test_hotter_or_longer_never_kills_less(core: list[float], hotter: float) -> None:
    times = np.arange(len(core)) * 60.0
    curve = np.array(core)
    base = lethality_min(P70, times, curve)
    assert np.all(np.diff(base) >= 0)
    assert lethality_min(P70, times, curve + hotter)[-1] >= base[-1] - 1e-9


def test_bad_models_are_refused() -> None:
    with pytest.raises(OutOfRangeError, match="above zero"):
        law_from_dz(70, 0, 2)
    with pytest.raises(OutOfRangeError, match="rise in temperature"):
        law_from_table(((60.0, 10.0), (59.0, 20.0)), 60.0)
    with pytest.raises(OutOfRangeError, match="must be a row"):
        law_from_table(((59.0, 20.0), (60.0, 10.0)), 61.0)
    with pytest.raises(OutOfRangeError, match="must rise"):
        lethality_min(P70, np.array([0.0, 0.0]), np.array([60.0, 61.0]))


# Standard atmosphere (ISO 2533) with steam tables, printed to 0.01 °C by an independent steam library
BOILING = {0: 99.97, 500: 98.31, 1000: 96.65, 2000: 93.32, 3000: 89.98}


@pytest.mark.parametrize(("altitude", "boiling"), BOILING.items())
def test_boiling_point_by_altitude(altitude: float, boiling: float) -> None:
    assert boiling_c(altitude) == pytest.approx(boiling, abs=0.05)


def test_standard_pressures() -> None:
    # ISO 2533: 0 m 101,325 Pa; 1,000 m 89,874.6 Pa; 2,000 m 79,495.2 Pa
    assert [pressure_pa(m) for m in (0, 1000, 2000)] == pytest.approx([101325, 89874.6, 79495.2], rel=1e-4)
    with pytest.raises(OutOfRangeError):
        pressure_pa(9000)
