"""The one judge: every kind of limit, its edges, and forecast against evaluate."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brinefrost.core.limits import (
    ComeUp,
    Cooling,
    CoolingStage,
    Hold,
    Lethality,
    Projection,
    Series,
    Threshold,
    forecast_of,
    worst,
)
from brinefrost.core.limits.lethality import DzModel
from brinefrost.core.rules import rule_set
from brinefrost.core.steps.stricter import stricter
from brinefrost.core.working import Source, Working

PRACTICE = Source(citation="Common practice, no source", tag="common_practice")
FOOD_CODE = Source(citation="FDA Food Code 2022, 3-501.14(A)", tag="published")
COLD = Threshold(id="cold", title="Cold", source=PRACTICE, quantity="air", comparison="at_most", value=5, unit="°C")
HOT = Threshold(id="hot", title="Hot", source=PRACTICE, comparison="at_least", value=57, unit="°C")
COOLING = Cooling(
    id="cool",
    title="57 → 21 in 2 h, → 5 in 6 h",
    source=FOOD_CODE,
    from_c=57,
    stages=(CoolingStage(to_c=21, within_s=7200), CoolingStage(to_c=5, within_s=21600)),
)
P70 = Lethality(
    id="p70",
    title="70 °C 2 min",
    source=PRACTICE,
    target="Listeria",
    log_reduction=6,
    model=DzModel(reference_c=70, z_c=7.5, goal_min=2),
)
WORKING = Working(title="w", formula="f", inputs=(), result="", source=PRACTICE)


def series(
    minutes: list[float], values: list[float], uncertainty: float = 0.0, closed: bool = False, **more: float
) -> Series:
    return Series(np.array(minutes) * 60.0, np.array(values), uncertainty, closed=closed, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("limit", "value", "state"),
    [
        (COLD, 4.4, "pass"),
        (COLD, 4.6, "too_close"),
        (COLD, 5.4, "too_close"),
        (COLD, 5.6, "fail"),
        (HOT, 57.6, "pass"),
        (HOT, 56.8, "too_close"),
        (HOT, 56.0, "fail"),
    ],
)
def test_threshold_with_a_guard_band(limit: Threshold, value: float, state: str) -> None:
    """JCGM 106: clear of the limit by the expanded uncertainty (0.5), or too close to call."""
    assert limit.evaluate(series([0], [value], 0.5), 60).state == state


def test_threshold_judges_the_worst_and_only_what_is_past() -> None:
    readings = series([0, 10, 20], [3.0, 9.0, 3.0])
    assert COLD.evaluate(readings, 300).state == "pass"
    assert COLD.evaluate(readings, 1200).state == "fail"


@pytest.mark.parametrize(
    "limit",
    [
        COLD,
        HOT,
        COOLING,
        P70,
        Hold(id="h", title="h", source=PRACTICE, at_least_c=70, for_s=120),
        ComeUp(id="c", title="c", source=PRACTICE, from_c=10, to_c=54.4, within_s=14400),
    ],
)
def test_nothing_measured_is_never_a_pass(limit: Threshold) -> None:
    verdict = limit.evaluate(Series.empty(), 0)
    assert verdict.state == "not_measured"
    assert verdict.working.source.citation


def test_hold_needs_the_time_without_a_break() -> None:
    hold = Hold(id="h", title="h", source=PRACTICE, at_least_c=70, for_s=120)
    assert hold.evaluate(series([0, 1, 2, 3], [71, 71, 71, 71], closed=True), 600).state == "pass"
    assert hold.evaluate(series([0, 1, 2, 3], [71, 69, 71, 71], closed=True), 600).state == "fail"
    assert hold.evaluate(series([0, 1, 2], [70.2, 70.2, 70.2], 0.5, closed=True), 600).state == "too_close"
    assert hold.evaluate(series([0, 1], [65, 66]), 600).state == "pending"
    at_once = hold.model_copy(update={"at_least_c": 73.9, "for_s": 15})
    assert at_once.evaluate(series([0], [75], closed=True), 600).state == "not_measured"  # one reading is no hold
    assert at_once.evaluate(series([0, 0.3], [75, 75], closed=True), 600).state == "pass"
    instant = hold.model_copy(update={"at_least_c": 73.9, "for_s": 0})
    assert instant.evaluate(series([0], [75], closed=True), 600).state == "pass"


def test_come_up_by_interpolation_and_its_edges() -> None:
    come_up = ComeUp(id="c", title="c", source=PRACTICE, from_c=10, to_c=54.4, within_s=4 * 3600)
    rising = series([0, 60, 120], [4, 34, 64])
    verdict = come_up.evaluate(rising, 7200)
    assert verdict.state == "pass"
    assert verdict.value == pytest.approx((54.4 - 10) / 0.5 * 60)
    slow = come_up.evaluate(series([0, 300, 600], [4, 30, 56]), 36000)
    assert slow.state == "fail"
    short = come_up.evaluate(series([0, 30, 60], [4, 30, 50], closed=True), 3600)
    assert short.state == "fail"
    assert "Never at 54.4" in short.sentence


def test_cooling_clock_starts_at_the_first_temperature_not_at_the_first_reading() -> None:
    falling = series([0, 30, 60, 120], [75, 60, 54, 20], closed=False)
    start = COOLING.clock_start_s(falling)
    assert start == pytest.approx(45 * 60)
    assert COOLING.evaluate(falling, 7200).state == "pending"


@pytest.mark.parametrize(
    ("minutes", "values", "state"),
    [
        ([0, 60, 119, 300], [57.5, 40, 20.9, 4.9], "pass"),
        ([0, 60, 125, 300], [57.5, 40, 21.5, 4.9], "fail"),  # 2-hour mark missed
        ([0, 60, 115, 370], [57.5, 40, 20.0, 5.5], "fail"),  # 6-hour mark missed
    ],
)
def test_cooling_stages(minutes: list[float], values: list[float], state: str) -> None:
    assert COOLING.evaluate(series(minutes, values), 400 * 60).state == state


def test_cooling_within_the_uncertainty_is_too_close() -> None:
    readings = series([0, 60, 118, 300], [57.5, 40, 20.95, 4.0], 0.5)
    assert COOLING.evaluate(readings, 400 * 60).state == "too_close"


def test_lethality_states() -> None:
    minutes = [float(m) for m in range(31)]
    assert P70.evaluate(series(minutes, [66.0] * 31, 0.4, closed=True), 3600).state == "pass"
    assert P70.evaluate(series(minutes[:8], [66.0] * 8, 0.4, closed=True), 3600).state == "too_close"
    assert P70.evaluate(series(minutes[:4], [66.0] * 4, 0.4, closed=True), 3600).state == "fail"
    assert P70.evaluate(series(minutes[:4], [66.0] * 4, 0.4), 3600).state == "pending"


@settings(max_examples=60)
@given(tau_min=st.floats(15, 400), known=st.integers(2, 6))
def test_forecast_agrees_with_evaluate_when_the_future_is_known(tau_min: float, known: int) -> None:
    """The same curve judged as a forecast from its first readings and as a whole gives the same answer."""
    times = np.arange(0, 15 * 60, 5.0) * 60
    core = 1.0 + 61.0 * np.exp(-times / (tau_min * 60))
    whole = Series(times, core, closed=True, longest_gap_s=np.inf)
    first = Series(times[:known], core[:known])
    rest = Projection(times[known:], core[known:], core[known:], core[known:], WORKING)
    forecast = forecast_of(COOLING, first, rest, float(times[known - 1]))
    assert forecast.misses == (COOLING.evaluate(whole, float(times[-1])).state == "fail")


def test_forecast_says_by_how_much() -> None:
    times = np.arange(0, 10 * 60, 5.0) * 60
    core = np.interp(times, [0, 3 * 3600, 8 * 3600], [57.0, 21.0, 3.0])
    first = Series(times[:7], core[:7])
    forecast = forecast_of(COOLING, first, Projection(times, core, core, core, WORKING), float(times[6]))
    assert forecast.misses
    assert forecast.stages[0].late_by_s == pytest.approx(3600, abs=60)
    assert forecast.sentence == "Will miss 21 °C by 1 h."


def test_worst_of_several() -> None:
    assert worst(["pass", "pending"]) == "pending"
    assert worst(["pass", "not_measured", "too_close"]) == "too_close"
    assert worst([]) == "not_measured"


# written with the decimals its instruments tell apart, and a break never as a break by nothing
@pytest.mark.parametrize(
    ("unit", "value", "reading", "uncertainty", "words"),
    [
        ("°C", 5.0, 5.04, 0.0, "5.04 °C breaks ≤5 °C by 0.04 °C."),
        ("°C", 5.0, 8.0, 0.5, "8 °C breaks ≤5 °C by 3 °C."),
        ("aw", 0.92, 0.918, 0.003, "0.918 aw is borderline at 0.92 aw, within the instrument’s ±0.003 aw: re-check."),
        ("aw", 0.92, 0.9, 0.003, "0.9 aw is within ≤0.92 aw."),
        ("pH", 4.6, 4.55, 0.1, "pH 4.55 is borderline at pH 4.6, within the instrument’s ±0.1 pH: re-check."),
        ("°C", 5.0, 4.8, 0.5, "4.8 °C is borderline at 5 °C, within the instrument’s ±0.5 °C: re-check."),
    ],
)
def test_a_bound_is_said_with_unit_and_decimals(
    unit: str, value: float, reading: float, uncertainty: float, words: str
) -> None:
    source = Source(citation="none needed", tag="derived")
    limit = Threshold(id="x", title="x", source=source, comparison="at_most", value=value, unit=unit)
    assert limit.evaluate(Series.of(reading, uncertainty), 0.0).sentence == words


def test_the_kitchens_own_stricter_bound_is_met_as_it_is_read_where_the_law_is_clear() -> None:
    """A fridge at 3.0 °C, read with ±0.5 °C, under the kitchen's own 3 °C and the code's 5 °C (Food Code 3-501.16)."""
    law = rule_set("us").bound_for("keep.cold")
    own = stricter(law, 3.0, "own-keep-c", "Own")
    assert isinstance(own, Threshold)
    states = [own.evaluate(Series.of(celsius, 0.5), 0.0).state for celsius in (2.4, 3.0, 3.2, 3.6)]
    assert states == ["pass", "pass", "too_close", "fail"]
    same = rule_set("uk").bound_for("keep.cold")  # 3 °C is the rule set's own: its doubt stands
    assert isinstance(same, Threshold)
    assert same.evaluate(Series.of(3.0, 0.5), 0.0).state == "too_close"


def test_a_core_read_hot_and_never_again_says_nothing_of_its_fall() -> None:
    """One reading of 85 °C at the start of a chill of four hours, and a probe that died: nobody measured a failure."""
    fall = rule_set("us").limit_as("chill.cooked", Cooling)
    dead = Series(np.array([60.0]), np.array([85.0]), 0.5, 0.0, True, 300.0, closed_s=4 * 3600.0)
    assert fall.evaluate(dead, 5 * 3600.0).state == "not_measured"
    hot = Series(np.array([60.0, 4 * 3600.0]), np.array([85.0, 70.0]), 0.5, 0.0, True, 300.0, closed_s=4 * 3600.0)
    assert fall.evaluate(hot, 5 * 3600.0).state == "fail"
