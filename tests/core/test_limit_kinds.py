"""The further kinds of limits: their published check values, their edges, and forecast against evaluate."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brinefrost.core.limits import (
    Composition,
    DegreeHours,
    Exposure,
    Freezing,
    Growth,
    Limit,
    Measured,
    ReachedBy,
    Series,
    Uncontrolled,
    exposure_of,
)
from brinefrost.core.microbes.organisms import organism, organisms
from brinefrost.core.rules import rule_set, targets, targets_for


def named(id_: str) -> Any:
    return next(entry.limit for entry in targets() if entry.limit.id == id_)


def held(*spans: tuple[float, float], closed: bool = True, uncertainty: float = 0.0) -> Series:
    """Hours at each temperature, one after the other."""
    times, values, now = [0.0], [spans[0][1]], 0.0
    for hours, temperature in spans:
        if temperature != values[-1]:
            times.append(now + 1e-3)
            values.append(temperature)
        now += hours * 3600
        times.append(now)
        values.append(temperature)
    return Series(np.array(times), np.array(values), uncertainty, 0.0, closed, np.inf)


def f(fahrenheit: float) -> float:
    return (fahrenheit - 32) / 1.8


# American Meat Institute GMP (published): 80 °F 55 h = 1100 pass; 90 °F 40 h = 1200 judged at 90 to 100 °F, whose
# ceiling is 1000, fail; 75/85/95 °F for 10/10/14 h = 890 pass
@pytest.mark.parametrize(
    ("spans", "sum_", "state"),
    [
        ([(55, 80)], 1100, "pass"),
        ([(40, 90)], 1200, "fail"),
        ([(10, 75), (10, 85), (14, 95)], 890, "pass"),
    ],
)
def test_degree_hours_in_fahrenheit(spans: list[tuple[float, float]], sum_: float, state: str) -> None:
    verdict = named("degree-hours-f").evaluate(held(*[(hours, f(t)) for hours, t in spans]), 1e9)
    assert verdict.value == pytest.approx(sum_ / 1.8, abs=1)  # told in one unit, whatever the source counts in
    assert verdict.state == state


# Canadian Food Inspection Agency (published), with its base of 15.6 °C: 572, 776 and 500 are printed
@pytest.mark.parametrize(
    ("spans", "sum_", "state"),
    [([(55, 26)], 572, "pass"), ([(40, 35)], 776, "fail"), ([(10, 24), (10, 30), (14, 35)], 500, "pass")],
)
def test_degree_hours_in_celsius(spans: list[tuple[float, float]], sum_: float, state: str) -> None:
    verdict = named("degree-hours-c").evaluate(held(*spans), 1e9)
    assert verdict.value == pytest.approx(sum_, abs=1)
    assert verdict.state == state


def test_degree_hours_run_until_ph_is_measured_and_know_their_probe() -> None:
    limit: DegreeHours = named("degree-hours-c")
    assert limit.evaluate(held((20, 26), closed=False), 1e9).state == "pending"
    assert limit.evaluate(held((63, 26), uncertainty=0.5), 1e9).state == "too_close"
    assert limit.evaluate(held((1, 50)), 1e9).state == "fail"  # above the last ceiling nothing is allowed
    assert limit.evaluate(Series.empty(), 0).state == "not_measured"


# Food Code 1-201.10 (published): tables A and B at and around every corner
@pytest.mark.parametrize(
    ("aw", "ph", "heated", "other"),
    [
        (0.92, 7.0, "pass", "fail"),
        (0.93, 5.6, "pass", "fail"),
        (0.95, 5.6, "pass", "fail"),
        (0.95, 5.61, "fail", "fail"),
        (0.96, 4.6, "pass", "fail"),
        (0.96, 4.61, "fail", "fail"),
        (0.879, 7.0, "pass", "pass"),
        (0.88, 7.0, "pass", "fail"),
        (0.88, 5.0, "pass", "pass"),
        (0.91, 4.6, "pass", "pass"),
        (0.91, 4.7, "pass", "fail"),
        (0.99, 4.2, "pass", "fail"),
        (0.99, 4.19, "pass", "pass"),
    ],
)
def test_interaction_tables(aw: float, ph: float, heated: str, other: str) -> None:
    facts: Any = {"aw": Measured(value=aw), "ph": Measured(value=ph)}
    assert named("tcs-a").judge(facts).state == heated
    assert named("tcs-b").judge(facts).state == other


# FDA guide ch. 13 (published): 3.5 %, or 3.0 % with 100 to 200 ppm nitrite
@pytest.mark.parametrize(
    ("salt", "nitrite", "state"),
    [(3.5, 0, "pass"), (3.4, 0, "fail"), (3.0, 100, "pass"), (3.0, 99, "fail"), (3.0, 201, "fail"), (3.6, 300, "pass")],
)
def test_water_phase_salt_of_packed_fish(salt: float, nitrite: float, state: str) -> None:
    facts: Any = {"salt": Measured(value=salt), "nitrite": Measured(value=nitrite)}
    assert named("wps-packed-fish").judge(facts).state == state


def test_a_composition_says_what_is_missing_and_what_is_too_close() -> None:
    limit: Composition = named("ph-4.6")
    assert limit.judge({}).state == "not_measured"
    assert limit.judge({"ph": Measured(value=4.58, uncertainty=0.05)}).state == "too_close"
    assert limit.judge({"ph": Measured(value=4.7, uncertainty=0.05)}).state == "fail"
    verdict = limit.evaluate(Series.of(4.4, 0.05), 0)
    assert verdict.state == "pass"
    assert verdict.margin == pytest.approx(0.2)
    assert limit.evaluate(Series.empty(), 0).state == "not_measured"


# FDA guide appendix 4 (published, from memory): whole hours allowed above 21 °C
@pytest.mark.parametrize(("key", "hours"), [("salmonella", 2), ("s_aureus", 3), ("c_perfringens", 2), ("listeria", 3)])
def test_exposure_above_21(key: str, hours: float) -> None:
    limit = exposure_of(organism(key))
    assert limit.evaluate(held((hours * 0.99, 25)), 1e9).state == "pass"
    assert limit.evaluate(held((hours * 1.01, 25)), 1e9).state == "fail"


def test_exposure_near_a_band_is_too_close_to_call() -> None:
    limit = exposure_of(organism("salmonella"))
    assert limit.evaluate(held((3, 20.8), uncertainty=0.5), 1e9).state == "too_close"
    assert limit.evaluate(held((3, 20.8), closed=False), 1e9).state == "pending"
    assert limit.evaluate(Series.empty(), 0).state == "not_measured"


# FDA guide ch. 7 (published): never frozen 4 h if any above 21 °C, else 8 h
@pytest.mark.parametrize(
    ("spans", "state"), [([(7.9, 15)], "pass"), ([(8.1, 15)], "fail"), ([(3.9, 25)], "pass"), ([(4.1, 25)], "fail")]
)
def test_histamine_clock(spans: list[tuple[float, float]], state: str) -> None:
    assert targets_for("fish.scombroid")[0].limit.evaluate(held(*spans), 1e9).state == state


# FDA guide ch. 12 (from memory): 5 h above 10 °C, 4 h in all once it was above 21.1 °C, of which 2 h above; 1 h if ever
# above 26.7 °C. Steps, not shares: 2 h at 15 °C leave 1.9 h at 25 °C, and 4.2 h at 15 °C leave nothing at 25 °C
@pytest.mark.parametrize(
    ("spans", "state"),
    [
        ([(4.9, 15)], "pass"), ([(5.1, 15)], "fail"), ([(2, 15), (1.9, 25)], "pass"), ([(4.2, 15), (0.3, 25)], "fail"),
        ([(2.1, 25)], "fail"), ([(0.95, 30)], "pass"), ([(1.9, 30)], "fail"),
    ],
)  # fmt: skip
def test_ready_to_eat_by_steps(spans: list[tuple[float, float]], state: str) -> None:
    found = [entry.limit.evaluate(held(*spans), 1e9).state for entry in targets_for("exposure.ready_to_eat")]
    assert ("fail" if "fail" in found else "pass") == state


# Food Code 3-501.19 (published): 4 h, or 6 h if it starts at 5 °C and never passes 21 °C
@pytest.mark.parametrize(
    ("spans", "state"),
    [
        ([(0.01, 58), (3.9, 50)], "pass"),  # left control hot
        ([(0.01, 58), (4.1, 50)], "fail"),
        ([(3.9, 30)], "fail"),  # 3-501.19(B): it did not leave control at 5 °C or below, or at 57 °C or above
        ([(0.01, 4), (3.9, 30)], "pass"),
        ([(0.1, 5), (5.8, 20)], "pass"),
        ([(0.1, 5), (5.8, 22)], "fail"),
        ([(0.1, 6), (5.8, 20)], "fail"),
    ],
)
def test_time_without_control(spans: list[tuple[float, float]], state: str) -> None:
    limit = rule_set("us").limit_for("time.uncontrolled")
    assert isinstance(limit, Uncontrolled)
    assert limit.evaluate(held(*spans), 1e9).state == state


def test_two_and_four_hours_in_australia() -> None:
    limit = rule_set("anz").limit_for("time.uncontrolled")
    assert "may still go back" in limit.evaluate(held((1.5, 20)), 1e9).sentence
    assert "Use it now" in limit.evaluate(held((3, 20)), 1e9).sentence
    assert limit.evaluate(held((4.5, 20)), 1e9).state == "fail"
    assert limit.evaluate(held((3, 20), closed=False), 3 * 3600).state == "pending"


# Food Code 3-402.11 (published): -20 °C 7 days; solid at -35 °C then 15 h there, or 24 h at -20 °C
@pytest.mark.parametrize(
    ("spans", "state"),
    [
        ([(1, 0), (7.01 * 24, -20.1)], "pass"),
        ([(1, 0), (6.9 * 24, -20.1)], "fail"),
        ([(1, 0), (15.1, -36)], "pass"),
        ([(1, 0), (1, -36), (24, -21)], "pass"),
        ([(1, 0), (24, -21)], "fail"),
        ([(1, 0), (4 * 24, -21), (1, -15), (4 * 24, -21)], "fail"),
    ],
)
def test_freezing_in_the_us(spans: list[tuple[float, float]], state: str) -> None:
    limit = rule_set("us").limit_for("freeze.parasites")
    assert isinstance(limit, Freezing)
    assert limit.evaluate(held(*spans), 1e9).state == state


def test_freezing_elsewhere_and_at_the_probe_s_edge() -> None:
    limit = rule_set("eu").limit_for("freeze.parasites")
    assert limit.evaluate(held((25, -20.6), uncertainty=0.5), 1e9).state == "pass"
    assert limit.evaluate(held((25, -20.2), uncertainty=0.5), 1e9).state == "too_close"
    assert limit.evaluate(held((5, -22), closed=False), 1e9).state == "pending"
    gap = Series(np.array([0.0, 3600, 90000, 93600]), np.full(4, -25.0), 0, 0, True, 7200)
    assert limit.evaluate(gap, 1e9).state == "not_measured"  # nothing is known of the hours between


def test_growth_is_an_estimate_and_says_so() -> None:
    limit: Growth = named("perfringens-1-log")
    warm = limit.evaluate(held((4, 42)), 1e9)
    assert warm.state == "fail"
    assert warm.basis == "computed"
    assert "more than 6 log" in limit.evaluate(held((9, 45)), 1e9).sentence
    assert limit.evaluate(held((1, 30)), 1e9).state == "pass"


TIMED: list[Limit] = [
    *(exposure_of(each) for each in organisms().values()),
    named("degree-hours-f"),
    named("perfringens-1-log"),
    rule_set("us").limit_for("freeze.parasites"),
    rule_set("us").limit_for("time.uncontrolled"),
    rule_set("us").limit_for("chill.cooked"),
    named("listeria-p70"),
    rule_set("us").limit_for("reheat"),
]


@settings(max_examples=40)
@given(limit=st.sampled_from(TIMED), temps=st.lists(st.floats(-40, 80), min_size=6, max_size=6), cut=st.integers(1, 4))
def test_forecast_and_evaluate_agree_when_the_future_is_known(limit: Limit, temps: list[float], cut: int) -> None:
    times, values = np.arange(6) * 3600.0, np.array(temps)
    whole = limit.evaluate(Series(times, values, 0.0, 0.0, True, np.inf, "computed"), float(times[-1]))
    so_far = Series(times[:cut], values[:cut], 0.0, 0.0, False, np.inf)
    told = limit.forecast(so_far, times[cut:], values[cut:])
    assert told.state == whole.state
    assert told.value == pytest.approx(whole.value) or told.value is None


def test_the_strictest_exposure_adds_its_bands() -> None:
    limit = Exposure(id="x", title="x", source=named("ph-4.6").source, bands=organism("salmonella").bands, upper_c=57)
    verdict = limit.evaluate(held((2.6, 15), (1.0, 30)), 1e9)  # 52 % and 50 %
    assert verdict.state == "fail"
    assert verdict.value == pytest.approx(102, abs=0.5)


DAY_S = 86400.0


def soured(*ph: float, uncertainty: float = 0.05, opened_s: float = 0.0) -> Series:
    """A pH a day from the day it was salted."""
    return Series(opened_s + np.arange(len(ph)) * DAY_S, np.array(ph), uncertainty, opened_s)


# NCHFP (from memory, verify): sour within a week. Guard band: JCGM 106:2012, 8.3. The rest follows from the definition.
@pytest.mark.parametrize(
    ("ph", "state", "words"),
    [
        ((6.0, 5.0, 4.3), "pass", "at 4.6 or below by its deadline"),
        ((6.0, 5.0, 4.55), "pass", "by its deadline"),  # clear by exactly the meter's uncertainty
        ((6.0, 5.0, 4.56), "too_close", "too close to 4.6"),
        ((6.0, 5.0, 4.64), "too_close", "too close to 4.6"),  # may be there already
        ((6.0, 5.5, 4.9), "pending", "not yet at 4.6"),
        ((6.0,) * 8, "fail", "not at 4.6 by"),
        ((6, 5.9, 5.8, 5.7, 5.6, 5.2, 4.9, 4.7, 4.3), "fail", "only after its deadline"),
        ((6, 5.9, 5.8, 5.7, 5.6, 5.2, 4.9, 4.60, 4.3), "pass", "by its deadline"),  # read on the last day itself
        ((6.0, 4.4, 4.9), "fail", "not at 4.6"),  # it came up again: it has not stayed sour
        ((4.3,), "pass", "by its deadline"),
    ],
)
def test_a_ferment_by_its_deadline(ph: tuple[float, ...], state: str, words: str) -> None:
    limit: ReachedBy = named("ferment-4.6")
    series = soured(*ph)
    verdict = limit.evaluate(series, float(series.times_s[-1]))
    assert (verdict.state, words in verdict.sentence) == (state, True), verdict.sentence
    # the same days after another opening are the same days
    later = soured(*ph, opened_s=3 * DAY_S)
    assert limit.evaluate(later, float(later.times_s[-1])).state == state


def test_between_two_readings_is_never_enough() -> None:
    """Above on day 6, sour on day 9: the line between them crosses before day 7, but nobody read it then."""
    limit: ReachedBy = named("ferment-4.6")
    series = Series(np.array([0, 6, 9]) * DAY_S, np.array([6.0, 4.65, 4.0]), 0.05, 0.0)
    assert limit.evaluate(series, 9 * DAY_S).state == "too_close"
    assert limit.evaluate(Series.empty(0.0), 0.0).state == "not_measured"


@settings(max_examples=60)
@given(st.lists(st.floats(3.0, 7.0), min_size=2, max_size=12), st.integers(1, 11), st.floats(0, 0.2))
def test_a_forecast_of_the_known_future_agrees(ph: list[float], cut: int, uncertainty: float) -> None:
    limit: ReachedBy = named("ferment-4.6")
    whole = soured(*ph, uncertainty=0.0)
    cut = min(cut, len(ph) - 1)
    known = soured(*ph[:cut], uncertainty=uncertainty)
    end = float(whole.times_s[-1])
    expected = limit.forecast(known, whole.times_s[cut:], whole.values[cut:])
    assert expected.state == limit.evaluate(whole, end).state
    assert expected.basis == "computed"


@settings(max_examples=60)
@given(st.lists(st.floats(3.0, 7.0), min_size=1, max_size=12), st.floats(0, 0.2), st.floats(0, 0.5))
def test_more_acid_or_a_better_meter_is_never_worse(ph: list[float], uncertainty: float, more: float) -> None:
    """While it falls, as a ferment does; one that was sour and comes up again has failed, whatever it is now."""
    ph = sorted(ph, reverse=True)
    limit: ReachedBy = named("ferment-4.6")
    rank = {"fail": 0, "pending": 1, "too_close": 2, "pass": 3}
    series, sourer = soured(*ph, uncertainty=uncertainty), soured(*(p - more for p in ph), uncertainty=uncertainty)
    end = float(series.times_s[-1])
    assert rank[limit.evaluate(sourer, end).state] >= rank[limit.evaluate(series, end).state]
    if limit.evaluate(series, end).state == "pass":
        assert limit.evaluate(soured(*ph, uncertainty=0.0), end).state == "pass"
