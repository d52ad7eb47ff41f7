"""A plan's amounts scaled for a batch: shares stay, the scale's step is told, and nothing is lost."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.weighing import COARSE, weigh_out
from tests.core.test_parts import plan_of

AMOUNT = st.floats(0.001, 500, allow_nan=False)


def plan_with(*amounts: float) -> Plan:
    items = tuple(Ingredient(name=f"Item {n}", amount_kg=kg) for n, kg in enumerate(amounts))
    return plan_of("short-rib").model_copy(update={"ingredients": items})


@given(st.lists(AMOUNT, min_size=1, max_size=8), st.floats(0.5, 50), st.sampled_from([0.01, 0.1, 1, 5, 10, 50]))
def test_shares_stay_and_the_scale_is_never_further_off_than_told(
    amounts: list[float], times: float, step: float
) -> None:
    plan = plan_with(*amounts)
    found = weigh_out(plan, step, total_kg=sum(amounts) * times)
    assert found.times == pytest.approx(times)
    assert sum(each.kg for each in found.weighed) == pytest.approx(found.total_kg)
    assert sum(each.share for each in found.weighed) == pytest.approx(1)
    for each, own in zip(found.weighed, amounts, strict=True):
        assert each.kg / own == pytest.approx(times)
        assert abs(each.shown_kg - each.kg) <= each.error * each.kg + 1e-9
        assert each.too_coarse == (each.error > COARSE)


@given(st.lists(AMOUNT, min_size=2, max_size=8), st.data())
def test_what_is_scarce_decides_for_all(amounts: list[float], data: st.DataObject) -> None:
    scarce = data.draw(st.integers(0, len(amounts) - 1))
    there = amounts[scarce] * 0.37
    found = weigh_out(plan_with(*amounts), of=f"Item {scarce}", kg=there)
    assert found.weighed[scarce].kg == pytest.approx(there)
    assert found.total_kg == pytest.approx(0.37 * sum(amounts))


def test_by_hand() -> None:
    """2 kg of meat at 1.5 % salt and 0.25 % curing salt, of which there are 1.4 kg today."""
    found = weigh_out(plan_with(2.0, 0.03, 0.005), step_g=1, of="Item 0", kg=1.4)
    assert [each.shown_kg for each in found.weighed] == [1.4, 0.021, 0.004]  # 3.5 g: a scale by the gram cannot tell
    assert [each.too_coarse for each in found.weighed] == [False, False, True]
    assert weigh_out(plan_with(2.0, 0.03, 0.005), step_g=0.1, of="Item 0", kg=1.4).weighed[2].shown_kg == 0.0035


def test_what_nobody_wrote_an_amount_of_is_named_and_not_made_up() -> None:
    plan = plan_with(1.0, 0.0)
    assert (len(weigh_out(plan).weighed), weigh_out(plan).unsaid) == (1, ("Item 1",))
    with pytest.raises(OutOfRangeError, match="no amount"):
        weigh_out(plan, of="Item 1", kg=1)
    least = weigh_out(plan_with(1.0, 1e-300)).weighed[1]
    assert (least.shown_kg, least.error, least.too_coarse) == (0.0, 1.0, True)
    with pytest.raises(OutOfRangeError, match="1000 times"):
        weigh_out(plan, total_kg=2000)
    assert weigh_out(plan_with(0.0), total_kg=5).weighed == ()
