"""Which samples of a needle are its food's: put in late, pulled out, a fault of the line, another unit."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brinefrost.core.runs.jumps import PUT_IN_S, Pace, own_samples

EVERY_S = 10.0


def warming(minutes: float, tau_min: float = 25.0) -> tuple[np.ndarray, np.ndarray]:
    """A core that comes up in a bath: Newton's law, as far as a middle follows it."""
    times = np.arange(0.0, minutes * 60, EVERY_S)
    return times, 63.0 - 59.0 * np.exp(-times / (tau_min * 60))


PACE = Pace.of(*warming(120))


def needle(values: np.ndarray, times: np.ndarray, from_s: float, outside: float) -> np.ndarray:
    """The same with the needle pulled out then: it follows what lies beside the food within seconds."""
    since = np.clip(times - from_s, 0.0, None)
    return np.where(times < from_s, values, outside + (values - outside) * np.exp(-since / 20.0))


def test_a_core_that_stays_in_its_food_counts_whole() -> None:
    times, values = warming(120)
    own = own_samples(times, values + np.random.default_rng(3).normal(0, 0.2, len(times)), 0.0, PACE)
    assert own.keep.all()
    assert own.left_s is None


@pytest.mark.parametrize("outside", [1.0, 21.0, 95.0])
def test_a_needle_that_is_pulled_out_counts_no_more(outside: float) -> None:
    times, values = warming(120)
    own = own_samples(times, needle(values, times, 3600.0, outside), 0.0, PACE)
    assert own.left_s is not None
    assert 3600.0 <= own.left_s <= 3700.0
    kept = times[own.keep]
    assert kept.max() < 3700.0
    assert np.abs(needle(values, times, 3600.0, outside)[own.keep] - values[own.keep]).max() < 12.0


def test_what_was_read_before_it_was_put_in_goes() -> None:
    times, values = warming(60)
    dangling = np.where(times < 240.0, 63.0, values)  # in the bath beside the bags, then put in
    own = own_samples(times, dangling, 0.0, PACE)
    assert own.left_s is None
    assert times[own.keep].min() >= 240.0
    assert dangling[own.keep][0] < 20.0, "no minute at 63 °C is credited to a cold bag"


def test_a_fault_of_the_line_takes_nothing_with_it() -> None:
    times, values = warming(60)
    faulty = values.copy()
    faulty[200:205] = 118.0
    own = own_samples(times, faulty, 0.0, PACE)
    assert own.left_s is None
    assert int((~own.keep).sum()) == 5


def test_another_unit_is_a_jump() -> None:
    times, values = warming(90)
    own = own_samples(times, np.where(times < 2400, values, 1.8 * values + 32), 0.0, PACE)
    assert own.left_s == 2400.0


@settings(max_examples=60, deadline=None)
@given(st.floats(PUT_IN_S + 60, 5000.0), st.floats(-20.0, 110.0), st.floats(8.0, 60.0), st.booleans())
def test_no_needle_out_of_its_food_is_credited_for_long(
    pulled_s: float, outside: float, tau_min: float, chills: bool
) -> None:
    """Wherever it is pulled, into whatever: hotter than the food in a heat, colder in a chill, it is by little."""
    times, values = warming(110, tau_min)
    values = 67.0 - values if chills else values
    pace = Pace.of(times, values)
    shown = needle(values, times, pulled_s, outside)
    own = own_samples(times, shown, 0.0, pace)
    flattering = (values - shown if chills else shown - values)[own.keep]
    then = float(pace.at(np.interp([pulled_s], times, values))[0])
    assert flattering.max(initial=0.0) <= (60.0 + 0.4 * 180.0) * then + 4.5
