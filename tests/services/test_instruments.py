"""What a check of an instrument found is in every verdict of what it reads afterwards, and in none of before."""

from typing import Any

import pytest

from brinefrost.services import household
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def check(kitchen: Kitchen, as_found: float, **more: Any) -> household.Calibrated:
    entry = household.Calibration.model_validate({"against": "ice", "as_found": as_found, **more})
    who, now = kitchen.people["lead"], kitchen.clock.now()
    return kitchen.do(lambda store: household.calibrate(store, who, now, "probe-2", entry))  # type: ignore[no-any-return]


def chilled(kitchen: Kitchen, coldest: float, before: Any = None) -> str:
    """How the cooling limit of a batch stands that came down well to so cold, read by probe 2."""
    batch = kitchen.start()
    for step, minutes in (("cook", 120), ("chill", 1)):
        kitchen.begin(batch, step)
        kitchen.clock.forward(minutes)
    readings = (62.0, 40.0, 22.0, 12.0, coldest)
    for index, value in enumerate(readings):
        if before is not None and index == len(readings) - 1:
            before()
        kitchen.log(batch, "chill", value, confirmed=True)
        kitchen.clock.forward(10)
    return next(s.verdict.state for s in kitchen.view(batch).limits if s.limit.kind == "cooling")


def test_a_probe_that_reads_well_proves_a_chill_and_one_that_is_off_by_more_does_not(kitchen: Kitchen) -> None:
    assert chilled(kitchen, 4.0) == "pass"  # 1 °C to spare, good to 0.4
    assert check(kitchen, 0.9).in_use  # within the 1 °C of Food Code 4-203.11, and off by 0.9 all the same
    assert chilled(kitchen, 4.3) != "pass"  # 0.7 °C to spare, off by 0.9
    assert chilled(kitchen, 3.5) == "pass"


def test_one_that_failed_its_check_proves_nothing_within_what_it_is_off(kitchen: Kitchen) -> None:
    found = check(kitchen, -3.0)
    assert not found.in_use
    assert chilled(kitchen, 3.0) != "pass"


def test_a_probe_that_was_set_right_proves_again(kitchen: Kitchen) -> None:
    assert not check(kitchen, 3.0).in_use
    assert check(kitchen, 3.0, as_left=0.1).in_use
    assert chilled(kitchen, 4.0) == "pass"


def test_a_check_says_how_far_off_it_was_in_any_of_its_units(kitchen: Kitchen) -> None:
    found = check(kitchen, 2.0)
    assert (found.expected, found.error) == (0.0, 2.0)
    assert "2 °C" in found.sentence
    assert "in doubt" in found.sentence


def test_what_was_read_before_a_check_keeps_the_doubt_it_was_read_with(kitchen: Kitchen) -> None:
    """The record stands; the sentence of the check sends the lead back to it."""
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(5)
    kitchen.log(batch, "cook", 62.8, quantity="bath")
    check(kitchen, 2.0)
    kitchen.clock.forward(5)
    kitchen.log(batch, "cook", 62.9, quantity="bath", confirmed=True)
    assert [reading.uncertainty for reading in kitchen.view(batch).readings] == [0.4, 2.0]


def test_what_was_found_decides_about_the_past(kitchen: Kitchen) -> None:
    """As found 4 °C low, set right: a chill that passed at 4 °C was at 8. ISO 22000:2018, 8.7 (from memory)."""
    good = chilled_batch(kitchen, 4.0)
    assert state_of(kitchen, good) == "pass"
    found = check(kitchen, -4.0, as_left=0.1)
    assert found.in_use
    assert [(each.batch_id, each.changes) for each in found.batches] == [(good, True)]
    assert state_of(kitchen, good) != "pass"
    view = kitchen.view(good)
    last = view.readings[-1]
    assert (last.value, last.judged_as) == (4.0, 8.0)
    assert view.blocking


def test_a_small_error_leaves_the_past_alone(kitchen: Kitchen) -> None:
    chilled_batch(kitchen, 3.0)
    assert check(kitchen, 0.3).batches == ()


def test_a_probe_that_read_too_warm_takes_nothing_from_a_chill(kitchen: Kitchen) -> None:
    """Found 2 °C high: the food was colder than it read, which is on the safe side of a chill."""
    batch = chilled_batch(kitchen, 3.0)
    found = check(kitchen, 2.0, as_left=0.0)
    assert [(each.batch_id, each.changes) for each in found.batches] == [(batch, False)]
    assert state_of(kitchen, batch) == "pass"


def chilled_batch(kitchen: Kitchen, coldest: float) -> str:
    batch = kitchen.start()
    for step, minutes in (("cook", 120), ("chill", 1)):
        kitchen.begin(batch, step)
        kitchen.clock.forward(minutes)
    for value in (62.0, 40.0, 22.0, 12.0, coldest):
        kitchen.log(batch, "chill", value, confirmed=True)
        kitchen.clock.forward(10)
    return batch


def state_of(kitchen: Kitchen, batch: str) -> str:
    return next(s.verdict.state for s in kitchen.view(batch).limits if s.limit.kind == "cooling")
