"""Nitrate beside nitrite: cure no. 2 brings 4 % of it, and each way of curing has its own line.

9 CFR 424.21(c) and the Processing Inspectors' Calculations Handbook: 3½ oz to 100 lb rubbed on (2,187 ppm), 2¾ oz to
100 lb of chopped meat (1,718 ppm), 700 ppm in a pickle, none in bacon.
"""

import pytest

from brinefrost.core.bench.cure import CureQuestion, answer_cure
from brinefrost.core.kitchen.nitrite import ProductKey, cure_limit, judge_nitrite
from brinefrost.core.plans.proof import prove
from brinefrost.core.steps.salting import Salting, nitrate_ppm, nitrite_ppm
from tests.core.dish_notation import read_dish

OZ_LB = 16.0


@pytest.mark.parametrize(
    ("product", "ppm"),
    [("dry_cured", 1e6 * 3.5 / OZ_LB / 100), ("comminuted", 1e6 * 2.75 / OZ_LB / 100), ("whole", 700), ("bacon", 0)],
)
def test_each_way_has_its_line(product: ProductKey, ppm: float) -> None:
    limit = cure_limit("us", product, "nitrate")
    assert limit is not None
    assert judge_nitrite(limit, int(ppm), "nitrate").state == "pass"
    assert judge_nitrite(limit, int(ppm) + 1, "nitrate").state == "fail"


def test_cure_no_2_brings_both() -> None:
    step = Salting(id="s", name="S", thickness_m=0.05, duration_s=86400, cure="no2", cure_g_kg=2.5)
    assert nitrite_ppm(step) == pytest.approx(2.5 * 62.5)
    assert nitrate_ppm(step) == pytest.approx(100.0)
    assert nitrate_ppm(step.model_copy(update={"cure": "no1"})) == 0.0


@pytest.mark.parametrize(("cure", "state"), [("no1", "would_meet"), ("no2", "would_fail")])
def test_the_bench_and_a_plan_say_the_same_of_bacon(cure: str, state: str) -> None:
    asked = CureQuestion.model_validate(
        {"product": "dry_bacon", "cure": cure, "cure_kg": 0.0024, "meat_kg": 1.0, "rule_set": "us", "wanted_ppm": 150}
    )
    assert answer_cure(asked).state == state
    heat = "oven 110C 40mm 4h; blast -10C 40mm 4h; keep 4C 5d"
    dish = read_dish(f"bacon | us | pork-belly | rub 2.5% 40mm 12d 3C cure={cure} cure_g_kg=2.4; {heat} | both alike")
    assert prove(dish.plan("us")).state in (("fails",) if cure == "no2" else ("meets", "not_proved"))
    assert any("nitrate" in str(each.sentence) for each in prove(dish.plan("us")).findings) is (cure == "no2")
