"""A food without a row is described by whoever answers for it, and taken at its strictest."""

from typing import Any, get_args

import pytest

from brinefrost.core.food.described import Described, Nature, State
from brinefrost.core.plans.allergens import declared_allergens
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.suggest import suggested_hazards, with_controls
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import read_dish

ANSWERED = {"made_by": "Fell Dairy", "answered_by": "Lead"}


def dish(nature: str, state: str, steps: str, rules: str = "us", **more: str) -> Plan:
    """A dish of carrots whose one ingredient is described instead."""
    plan = read_dish(f"dish | {rules} | carrot | {steps} | why").plan(rules)
    item: dict[str, Any] = {
        "name": "Something",
        "described": {"nature": nature, "state": state, **(more or ANSWERED)},
    }
    return Plan.model_validate(plan.model_dump() | {"ingredients": [item]})


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_raw_and_unknown_answers_to_the_strictest_cook(rules: str) -> None:
    """Mixed raw food is poultry, minced, with eggs in it: 60 °C is no cook of that, boiling is."""
    assert not prove(dish("mixture", "raw", "bag 60C 20mm 60min; serve", rules)).meets
    assert prove(dish("mixture", "raw", "boil 98C 20mm 60min; serve", rules)).meets


@pytest.mark.parametrize("nature", ["meat", "bird", "fish", "shellfish", "egg", "grain", "mixture"])
def test_what_is_raw_does_not_leave_raw(nature: str) -> None:
    plan = dish(nature, "raw", "portion 10min; keep 3C 1d")
    assert not prove(with_controls(decided(plan))).meets


def test_bought_ready_it_may_be_served_and_not_to_guests_at_higher_risk() -> None:
    plan = dish("dairy", "ready", "portion 10min; keep 3C 1d; serve")
    assert prove(with_controls(decided(plan))).meets
    weak = plan.model_copy(update={"guests": "higher_risk"})
    assert not prove(with_controls(decided(weak))).meets


def test_somebody_answers_for_it_by_name() -> None:
    plan = with_controls(decided(dish("fish", "raw", "pan 180C 25mm 20min; serve", made_by="", answered_by="Lead")))
    assert not gaps_of(plan)
    for more in ({"made_by": "", "answered_by": ""}, {"made_by": "", "answered_by": " "}):
        gaps = gaps_of(with_controls(decided(dish("fish", "raw", "pan 180C 25mm 20min; serve", **more))))
        assert [gap.where for gap in gaps] == ["process"]
    unsigned = with_controls(decided(dish("fish", "ready", "serve", made_by="", answered_by="Lead")))
    assert gaps_of(unsigned)


def test_its_allergens_are_those_of_its_kind() -> None:
    found = {
        nature: declared_allergens(dish(nature, "raw", "serve").ingredients) for nature in ("fish", "egg", "plant")
    }
    assert found == {"fish": ["fish"], "egg": ["eggs"], "plant": []}


def test_every_description_raises_hazards_or_says_that_it_is_harmless() -> None:
    for nature in get_args(Nature):
        for state in get_args(State):
            row = Described(nature=nature, state=state).row("Something")
            assert bool(row.tags) == (nature != "harmless")
            raised = suggested_hazards(dish(nature, state, "boil 98C 20mm 60min; blast -4C 20mm 90min; keep 3C 1d"))
            assert raised
