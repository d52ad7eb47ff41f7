"""Two tables of dishes: no unsafe one comes out green, every safe one does; a ratchet on what is still wrong."""

import pytest
from pydantic import ValidationError

from brinefrost.core.errors import DomainError
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.suggest import with_controls
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import Dish, dishes

UNSAFE, SAFE = dishes("unsafe"), dishes("safe")
WAITING = 2  # safe dishes that wait for a kind, an outcome or a row that is to come; it may only fall


def state_of(dish: Dish, rules: str) -> str:
    """What the proof says of a dish under a rule set, decided as is usual; what cannot be walked is refused."""
    try:
        plan: Plan = dish.plan(rules)
        return prove(with_controls(decided(plan))).state
    except (DomainError, ValidationError) as error:
        return f"refused: {error}"


def test_the_tables_are_whole() -> None:
    assert len(UNSAFE) >= 150
    assert len(SAFE) >= 150
    for table in (UNSAFE, SAFE):
        assert len({dish.name for dish in table}) == len(table)
        assert all(dish.why and dish.rules for dish in table)
    assert sum(dish.waits for dish in SAFE) == WAITING
    assert not any(dish.waits for dish in UNSAFE)


@pytest.mark.parametrize("dish", UNSAFE, ids=lambda dish: dish.name)
def test_no_unsafe_dish_is_green(dish: Dish) -> None:
    assert not [rules for rules in dish.rules if state_of(dish, rules) in ("meets", "advisory")], dish.why


@pytest.mark.parametrize("dish", [dish for dish in SAFE if not dish.waits], ids=lambda dish: dish.name)
def test_every_safe_dish_is_green(dish: Dish) -> None:
    found = {rules: state_of(dish, rules) for rules in dish.rules}
    assert set(found.values()) == {"advisory" if dish.told else "meets"}, dish.why


def test_what_is_safe_can_be_signed() -> None:
    stopped = {}
    for dish in SAFE:
        if not dish.waits:
            gaps = gaps_of(with_controls(decided(dish.plan(dish.rules[0]))))
            stopped |= {dish.name: [gap.sentence for gap in gaps]} if gaps else {}
    assert not stopped
