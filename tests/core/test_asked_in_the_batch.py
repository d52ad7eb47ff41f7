"""What a plan rests on is asked in its batch: dryness by a meter, weights by a scale, warm air."""

import pytest

from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.document import Plan
from brinefrost.core.runs import events as e
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.steps import kind_of
from tests.core.dish_notation import read_dish
from tests.core.test_safe_dishes_released import batch_of, cooked, plan_of

GRANOLA = "granola | us | oats, honey | mix 15min 20C; oven 150C 20mm 40min; shelf 30d kept_by=dryness dry_aw=0.4 | why"
BRESAOLA = (
    "bresaola | uk | beef-silverside | rub 4% 60mm 30d 3C cure=eu_0.4 cure_g_kg=30; "
    "dry 12C 45% 0.92aw 40d salt_percent=4; keep 3C 3d | why"
)
ROAST = "roast | us | beef-rib-joint=by_table | still 125C 90mm 330min shape=cylinder open piece_kg=5; serve | why"
TOMATOES = (
    "tomatoes | us | tomato | slice 20min 20C 20mm; dry 60C 75% 0.97aw 6h water_percent=93 sugar_percent=3; "
    "keep 3C 3d | why"
)


def _reread(event: e.BatchEvent, quantity: str, value: float) -> e.BatchEvent:
    is_it = isinstance(event, e.ReadingLogged) and event.quantity == quantity
    return event.model_copy(update={"value": value}) if is_it else event


def _blocks(plan: Plan, quantity: str = "", value: float = 0.0) -> list[str]:
    """What holds back the release of a batch cooked as planned, with one quantity read otherwise."""
    events, now = cooked(plan)
    read = [_reread(each, quantity, value) for each in events]
    return [str(each) for each in blocks_of_countersigning(batch_of(plan, *read), "release", now)]


@pytest.mark.parametrize(
    ("line", "quantity", "wrong"),
    [
        (GRANOLA, "aw", 0.9),  # above 0.85: 21 CFR 113.3
        (BRESAOLA, "looks", 0.0),  # not weighed as the plan says: 9 CFR 424.21(c)
        (ROAST, "mass", 4.2),  # below 4.5 kg (10 lb): Food Code 2022, 3-401.11(B)(2)
        (TOMATOES, "air", 42.0),  # below 50 °C: University of Georgia, So Easy to Preserve, from memory
    ],
)
def test_what_the_plan_means_to_find_is_found_before_a_release(line: str, quantity: str, wrong: float) -> None:
    plan = plan_of(read_dish(line))
    assert _blocks(plan) == []
    assert _blocks(plan, quantity, wrong)


@pytest.mark.parametrize(
    ("name", "is_cold"), [("apple", False), ("tofu", True), ("almond", False), ("peas-frozen", True)]
)
def test_goods_are_asked_for_the_cold_they_need(name: str, is_cold: bool) -> None:
    """Food Code 2022, 3-202.11 is of food that needs time and temperature control: flour and whole fruit do not."""
    plan = read_dish(f"goods | us | {name} | keep 3C 2d | why").plan("us")
    step = plan.steps[0]
    assert bool(kind_of(step).own_limits(step, context_at(plan, step))) is is_cold
