"""A cooling line of the law that is met answers for what could grow in its fall: nothing lawful is called toxin."""

import pytest

from brinefrost.core.plans.balance import way_through
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.runs.exposure import clocks_of, toxins_made
from brinefrost.core.words import said
from tests.core.test_batches_of_lines import cooked
from tests.core.test_cook_runs import dish

TWICE = (
    "boil:pot 95C 30mm 2h; portion:pans 15min 20C {mm}; blast:first {chill}; keep:cold 4C 1d; reheat:again 80C; "
    "blast:second {chill}; keep:last 4C 1d"
)


def braise(chill: str, mm: str = "40mm") -> Plan:
    return dish("chicken-leg, wine, onion, flour", TWICE.format(chill=chill, mm=mm))


def test_two_lawful_chills_are_no_toxin() -> None:
    """Food Code 2022, 3-501.14(A): each fall within 2 h to 21 and 6 h to 5 °C, however far the clocks would add up."""
    plan = braise("2C 40mm 5h")
    assert prove(plan).state == "meets", said(prove(plan).sentence)
    assert {("first", "s_aureus"), ("pans", "b_cereus"), ("second", "b_cereus")} <= way_through(plan).answered


def test_a_chill_that_misses_its_line_answers_for_nothing() -> None:
    plan = braise("8C 90mm 9h", "90mm")
    assert prove(plan).state == "fails"
    assert not {step for step, _ in way_through(plan).answered} & {"first", "second"}


def test_a_batch_of_two_lawful_chills_is_released() -> None:
    plan = braise("2C 40mm 5h")
    batch, now = cooked(plan)
    assert toxins_made(batch, now) == []
    assert [said(block) for block in blocks_of_countersigning(batch, "release", now)] == []
    unread, later = cooked(plan, unread="first")
    assert clocks_of(unread, later)["s_aureus"] > clocks_of(batch, now)["s_aureus"]


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_every_rule_set_has_a_fall_that_answers(rules: str) -> None:
    for topic in ("chill.cooked", "chill.ambient"):
        assert all("s_aureus" in entry.answers for entry in rule_set(rules).entries_for(topic))


def test_what_is_served_at_once_is_brought_to_any_heat_where_the_law_says_so() -> None:
    """Food Code 2022, 3-403.10; for hot holding 3-403.11 asks 74 °C."""
    steps = "boil 97C 30mm 3h; blast -6C 30mm 4h; keep 3C 3d; reheat 60C; {after}"
    assert prove(dish("beef-chuck", steps.format(after="serve"))).state == "meets"
    assert prove(dish("beef-chuck", steps.format(after="hold 60C 2h; serve"))).state == "fails"
    assert prove(dish("beef-chuck", steps.format(after="serve"), "uk")).state == "fails"
