"""Units, numbers as typed, and the slips of a number pad."""

from datetime import UTC, datetime, timedelta, timezone

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brinefrost.core.errors import AskFirstError, ImplausibleReadingError, OutOfRangeError
from brinefrost.core.quantity import UNITS, to_inside
from brinefrost.core.readings import check_time, check_value

NOW = datetime(2026, 11, 24, 12, 0, tzinfo=UTC)


@given(st.floats(-1e6, 1e6), st.floats(-1e6, 1e6), st.sampled_from(sorted(UNITS)))
def test_units_are_straight_lines(one: float, other: float, unit: str) -> None:
    between = to_inside((one + other) / 2, unit)
    assert between == pytest.approx((to_inside(one, unit) + to_inside(other, unit)) / 2, rel=1e-9, abs=1e-6)


@pytest.mark.parametrize(
    ("value", "unit", "inside"),
    [
        (32, "°F", 0),
        (212, "°F", 100),
        (165, "°F", 73.88888888888889),
        (1, "in", 0.0254),
        (1, "lb", 0.45359237),
        (16, "oz", 0.45359237),
    ],
)
def test_exact_conversions(value: float, unit: str, inside: float) -> None:
    """International yard and pound agreement; fixed points of the Fahrenheit scale."""
    assert to_inside(value, unit) == inside


@pytest.mark.parametrize("value", [float("nan"), float("inf")])
def test_not_finite_is_refused(value: float) -> None:
    with pytest.raises(OutOfRangeError):
        to_inside(value, "°F")


def test_ph_74_is_refused_with_what_was_meant() -> None:
    with pytest.raises(ImplausibleReadingError, match=r"pH 7.4"):
        check_value("ph", 74, None)


def test_core_635_is_refused_with_what_was_meant() -> None:
    with pytest.raises(ImplausibleReadingError, match=r"63.5 °C"):
        check_value("core", 635, (60, 64))


def test_fahrenheit_beyond_any_core_carries_the_celsius() -> None:
    with pytest.raises(ImplausibleReadingError, match="145 °F") as caught:
        check_value("core", 145, (60, 64))
    assert caught.value.fields["suggestion_c"] == pytest.approx(62.78)


def test_fahrenheit_that_could_be_celsius_is_asked_about_and_kept_when_confirmed() -> None:
    with pytest.raises(AskFirstError, match=r"3.3 °C") as caught:
        check_value("air", 38, (-1, 4))
    assert caught.value.fields["reason"] == "fahrenheit"
    check_value("air", 38, (-1, 4), confirmed=True)


def test_far_from_expected_is_asked_about() -> None:
    with pytest.raises(AskFirstError) as caught:
        check_value("core", 20, (60, 64))
    assert caught.value.fields["reason"] == "far"


def test_confirming_does_not_make_the_impossible_possible() -> None:
    with pytest.raises(ImplausibleReadingError):
        check_value("core", 635, (60, 64), confirmed=True)


def test_times() -> None:
    began = NOW - timedelta(hours=1)
    check_time(NOW, NOW, began)
    check_time(NOW + timedelta(seconds=30), NOW, began)
    with pytest.raises(ImplausibleReadingError, match="not come yet"):
        check_time(NOW + timedelta(minutes=5), NOW, began)
    with pytest.raises(ImplausibleReadingError, match="before the batch"):
        check_time(began - timedelta(minutes=5), NOW, began)
    with pytest.raises(ImplausibleReadingError, match="zone"):
        check_time(NOW.replace(tzinfo=None), NOW, began)


def test_another_zone_past_midnight_is_the_same_instant() -> None:
    ahead = timezone(timedelta(hours=13))
    check_time(NOW.astimezone(ahead), NOW, NOW - timedelta(minutes=1))
