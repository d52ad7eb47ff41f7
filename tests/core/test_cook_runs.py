"""A cook is a run of heats, in the plan and in its batch; what goes in behind a heat was not in it."""

from datetime import timedelta

import pytest

from brinefrost.core.plans.cook_runs import MOST_PAUSE_S, cook_runs, counts_from, goes_on, part_cooks
from brinefrost.core.plans.document import Plan, canonical
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.runs import events as e
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.words import said
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import read_dish
from tests.core.test_released_true import START, batch_of, core


def dish(ingredients: str, steps: str, rules: str = "us") -> Plan:
    return with_controls(decided(read_dish(f"Dish | {rules} | {ingredients} | {steps} | said here").plan(rules)))


@pytest.mark.parametrize(
    ("between", "one"),
    [("", True), ("portion 20min;", True), ("portion 20min; mix 30min;", True), ("portion 90min;", False),
     ("blast -4C 30mm 4h;", False), ("keep 3C 1d;", False), ("hold 65C 60min;", False)],
)  # fmt: skip
def test_two_heats_are_one_cook_where_nothing_cold_or_long_lies_between(between: str, one: bool) -> None:
    plan = dish("beef-chuck", f"pan:sear 190C 30mm 4min; {between} boil:pot 95C 30mm 3h")
    runs = cook_runs(plan)
    assert (runs["sear"][-1] == "pot") == one
    assert goes_on(plan, "sear") == (one or "sear" in part_cooks(plan))
    assert ("sear" in part_cooks(plan)) == ("blast" in between)  # begun, cooled at once: cooked by the later run
    assert MOST_PAUSE_S == 3600


def test_the_line_is_asked_of_the_whole_run_and_decided_at_its_last_heat() -> None:
    plan = dish("beef-chuck", "pan:sear 190C 30mm 4min; boil:pot 95C 30mm 3h")
    assert {proof.step for proof in prove(plan).limits} == {"receive", "pot"}
    assert plan.critical_steps() == ("pot",)
    bagged = dish("duck-leg", "bag:bath 80C 40mm 6h; oven:crisp 200C 40mm 10min")
    assert prove(bagged).meets, said(prove(bagged).sentence)  # done in the bath, and the oven takes nothing from it


def test_what_goes_in_at_a_later_heat_of_the_run_was_in_no_earlier_one() -> None:
    """Mince that enters at the last three minutes is judged by those alone."""
    steps = "boil:pot 97C 20mm 90min; boil:last 97C 20mm 3min"
    plan = dish("carrot, beef-mince@last", steps)
    assert counts_from(plan, "last") == ("last",)
    assert counts_from(dish("carrot, beef-mince", steps), "last") == ("pot", "last")
    assert prove(dish("carrot, beef-mince", steps)).meets
    assert not prove(dish("carrot, beef-mince@last", "boil:pot 97C 20mm 5min; boil:last 60C 20mm 3min")).meets


def test_a_batch_is_judged_by_the_readings_of_all_heats_of_its_cook() -> None:
    """75 °C read in the bath, and 70 °C after ten minutes in the oven: it had 74 °C (Food Code 3-401.11(A)(3))."""
    plan = dish("duck-leg", "bag:bath 80C 40mm 6h; oven:crisp 200C 40mm 10min")
    ends = START + timedelta(hours=6)

    def state(*reads: e.ReadingLogged) -> set[str]:
        ran = (
            e.StepStarted(step="bath", at=START), e.StepFinished(step="bath", at=ends),
            e.StepStarted(step="crisp", at=ends), e.StepFinished(step="crisp", at=ends + timedelta(minutes=10)),
        )  # fmt: skip
        batch = batch_of(plan, *ran, *reads)
        judged = judge(batch, ends + timedelta(minutes=11)).statuses
        return {s.verdict.state for s in judged if s.step == "crisp" and s.limit.kind == "hold"}

    early = core("bath", 77.0, ends - timedelta(minutes=5))
    late = core("crisp", 70.0, ends + timedelta(minutes=9))
    assert state(early, late) == {"pass"}
    assert state(late) == {"fail"}
    assert state() == {"not_measured"}
    batch = batch_of(plan, e.StepStarted(step="bath", at=START))
    assert {check.step for check in checks_of(batch, START)} >= {"crisp"}


def test_an_ingredient_cannot_go_in_at_a_step_that_is_not_there() -> None:
    with pytest.raises(ValueError, match="goes in at a step that the plan does not have"):
        dish("carrot, cream@nowhere", "boil 97C 20mm 90min")


def test_where_it_goes_in_takes_no_part_in_the_hash_of_what_was_signed_before() -> None:
    assert "enters" not in canonical(dish("carrot", "boil 97C 20mm 90min"))
    assert '"enters":"pot"' in canonical(dish("carrot, cream@pot", "boil 97C 20mm 90min; boil:pot 97C 20mm 20min"))


def test_no_heat_is_credited_to_what_goes_in_behind_it() -> None:
    """Salmonella of the hen comes with the hen: what was boiled before had it not."""
    with_hen = dish("carrot, chicken-mince@in", "boil:pot 97C 20mm 90min; mix:in 10min; boil:again 90C 20mm 40min")
    row = next(row for row in sheet_of(with_hen).rows if row.key == "salmonella")
    acts = {cell.step: cell.act for cell in row.cells}
    assert acts["pot"] != "killed"
    assert acts["again"] == "killed"
    assert acts["in"] == "comes_in"
    assert acts["receive"] != "comes_in"
