"""What must hold of every limit there is, in every rule set and among the targets, whatever its kind.

The laws are JCGM 106:2012's (a guard band never makes a pass out of what is not one) and the design's own: nothing is
shown as passed that was not measured, and a forecast is the same judge over a longer series.
"""

from typing import get_args

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brinefrost.core.limits import Limit, Series, State
from brinefrost.core.rules import RULE_SET_IDS, rule_set, targets

ALL: dict[str, Limit] = {
    **{entry.limit.id: entry.limit for entry in targets()},
    **{entry.limit.id: entry.limit for set_id in RULE_SET_IDS for entry in rule_set(set_id).entries},
}
QUICK = settings(max_examples=8)


def spread(limit: Limit) -> st.SearchStrategy[float]:
    """Values around where a limit of that quantity decides."""
    low, high = {
        "ph": (2.0, 9.0),
        "aw": (0.6, 1.0),
        "salt": (0.0, 20.0),
        "nitrite": (0.0, 400.0),
        "nitrate": (0.0, 4000.0),
    }.get(limit.quantity, (-40.0, 100.0))
    return st.floats(low, high)


def series_of(values: list[float], hours: float, uncertainty: float = 0.0, closed: bool = True) -> Series:
    return Series(np.linspace(0, hours * 3600, len(values)), np.array(values), uncertainty, 0.0, closed, np.inf)


@pytest.mark.parametrize("limit", ALL.values(), ids=ALL.keys())
def test_it_says_what_it_is_and_where_it_comes_from(limit: Limit) -> None:
    assert limit.title
    assert limit.source.citation
    assert limit.source.tag in ("published", "published_from_memory", "common_practice", "derived")


@pytest.mark.parametrize("closed", [True, False])
@pytest.mark.parametrize("limit", ALL.values(), ids=ALL.keys())
def test_nothing_measured_is_never_a_pass(limit: Limit, closed: bool) -> None:
    for series in (Series.empty(0.0, closed), Series.empty(None, closed)):
        verdict = limit.evaluate(series, 7 * 86400.0)
        assert verdict.state in ("not_measured", "pending", "fail"), verdict
        assert verdict.sentence.endswith(".")


@pytest.mark.parametrize("limit", ALL.values(), ids=ALL.keys())
@QUICK
@given(data=st.data())
def test_a_guard_band_never_helps_a_pass_nor_hurts_a_failure(limit: Limit, data: st.DataObject) -> None:
    values = data.draw(st.lists(spread(limit), min_size=2, max_size=8))
    hours, uncertainty = data.draw(st.floats(0.1, 200)), data.draw(st.floats(0.01, 1.0))
    plain = limit.evaluate(series_of(values, hours), hours * 3600)
    guarded = limit.evaluate(series_of(values, hours, uncertainty), hours * 3600)
    assert plain.state in get_args(State)
    assert plain.sentence.strip().endswith(".")
    if guarded.state == "pass":
        assert plain.state == "pass"
    if guarded.state == "fail":
        assert plain.state in ("fail", "pending")


@pytest.mark.parametrize("limit", ALL.values(), ids=ALL.keys())
@QUICK
@given(data=st.data())
def test_a_forecast_that_comes_true_agrees_with_the_judge(limit: Limit, data: st.DataObject) -> None:
    values = data.draw(st.lists(spread(limit), min_size=3, max_size=8))
    hours, cut = data.draw(st.floats(0.5, 100)), data.draw(st.integers(1, 2))
    whole = series_of(values, hours)
    known = series_of(values[:cut], hours * (cut - 1) / (len(values) - 1), uncertainty=0.4, closed=False)
    known = Series(whole.times_s[:cut], whole.values[:cut], 0.4, 0.0, False, np.inf)
    expected = limit.forecast(known, whole.times_s[cut:], whole.values[cut:])
    assert expected.state == limit.evaluate(whole, hours * 3600).state
    assert expected.basis == "computed"


@pytest.mark.slow
@pytest.mark.parametrize("limit", ALL.values(), ids=ALL.keys())
@QUICK
@given(data=st.data())
def test_it_does_not_matter_when_the_clock_was_started(limit: Limit, data: st.DataObject) -> None:
    """The same readings a year on, across two changes of the clock, are the same readings."""
    values, hours = data.draw(st.lists(spread(limit), min_size=2, max_size=6)), data.draw(st.floats(0.5, 100))
    now = series_of(values, hours)
    later = Series(now.times_s + 365 * 86400, now.values, 0.0, 365 * 86400.0, True, np.inf)
    first, second = limit.evaluate(now, hours * 3600), limit.evaluate(later, 365 * 86400.0 + hours * 3600)
    assert first.state == second.state
    assert (first.value is None) == (second.value is None)
    if first.value is not None and second.value is not None:
        assert second.value == pytest.approx(first.value, rel=1e-6, abs=1e-5)
