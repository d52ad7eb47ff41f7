"""Time without control for cut produce and opened cans: it may begin at 21 °C, where other food leaves control cold.

FDA Food Code 2022, 3-501.19(B)(1)(b): ready-to-eat produce that cutting makes in need of control, and the content of a
can that is opened, may begin at 21 °C (70 °F) or less.
"""

import numpy as np
import pytest

from brinefrost.core.limits import Series, Uncontrolled
from brinefrost.core.plans.asked_limits import default_limits
from tests.core.dish_notation import read_dish


@pytest.mark.parametrize(
    ("goods", "begins_c", "state"),
    [
        ("melon", 20.0, "pass"), ("melon", 22.0, "fail"), ("beans-canned, onion", 20.0, "pass"),
        ("ham-cooked", 20.0, "fail"), ("melon, ham-cooked", 20.0, "fail"), ("rice-cooked, tomato", 4.0, "pass"),
        ("alfalfa-sprouts", 20.0, "fail"), ("melon, yoghurt", 20.0, "fail"), ("rice", 20.0, "fail"),
    ],
)  # fmt: skip
def test_where_the_clock_may_begin(goods: str, begins_c: float, state: str) -> None:
    plan = read_dish(f"plate | us | {goods} | trim 10min 20C; serve 20C 3h | see above").plan("us")
    limit = next(each for each in default_limits(plan, plan.steps[-1]) if isinstance(each, Uncontrolled))
    times, core = np.array([0.0, 3600.0, 10800.0]), np.array([begins_c, 20.0, 20.0])
    series = Series(times, core, 0.0, 0.0, True, 7200.0)
    assert limit.evaluate(series, 10800.0).state == state
