"""Lines that meet: each way of the food is followed by itself, and a dish is as good as the worst of them."""

from datetime import timedelta

import pytest
from pydantic import ValidationError

from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.document import Brought, Plan, canonical
from brinefrost.core.plans.lines import steps_before, steps_behind, ways_of, ways_with
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.by_way import by_way
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.off_plan import steps_passed
from brinefrost.core.runs.schedule import blocks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.words import said
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import dishes
from tests.core.test_cook_runs import dish
from tests.core.test_released_true import START, batch_of, core

MOUSSE = "chocolate@melt, white@whip{eaten}, cream@fold"
STEPS = (
    "bath:melt 45C 20mm 30min /chocolate; mix:whip 10min /whites; mix:fold 10min +chocolate +whites; "
    "blast:chill -4C 20mm 90min; keep:keep 3C 1d; serve:serve"
)


def mousse(eaten: str = "=raw", rules: str = "us") -> Plan:
    return dish(MOUSSE.format(eaten=eaten), STEPS, rules)


def braise(minutes: int = 60) -> Plan:
    """A braise with chicken mince that comes to it cold."""
    steps = f"boil:pot 97C 30mm 3h; mince:mince 20min 10C /mince; boil:again 97C 30mm {minutes}min +mince"
    return dish("beef-chuck, chicken-mince@mince", steps + "; blast:chill -6C 30mm 4h; keep:keep 3C 3d")


def test_each_line_has_a_way_of_its_own_to_the_end() -> None:
    ways = {way.steps[0].id: [step.id for step in way.steps] for way in ways_of(mousse())}
    behind = ["fold", "chill", "keep", "serve"]
    assert ways == {"receive": ["receive", *behind], "melt": ["melt", *behind], "whip": ["whip", *behind]}
    whites = ways_with(mousse(), "whip")[0]
    assert {item.name: isinstance(item, Brought) for item in whites.ingredients} == {
        "Egg whites": False, "Chocolate": True, "Cream": False,
    }  # fmt: skip
    assert [step.id for step in steps_behind(mousse(), "melt")] == behind
    assert [step.id for step in steps_before(mousse(), "fold")] == ["receive", "melt", "whip"]
    assert steps_before(mousse(), "melt") == ()


def test_a_plan_of_one_line_is_its_own_way() -> None:
    plan = dish("beef-chuck", "boil 97C 30mm 3h; serve")
    assert ways_of(plan) == (plan,)
    assert all(word not in canonical(plan) for word in ('"line"', '"takes"', '"out_of"', '"eaten"'))


def test_what_a_step_cannot_know_is_of_its_own_line_before_the_join_and_of_all_behind_it() -> None:
    plan = braise()
    assert "chicken" not in context_at(plan, plan.step("pot")).tags
    assert "beef" not in context_at(plan, plan.step("mince")).tags
    assert {"chicken", "beef", "minced"} <= context_at(plan, plan.step("again")).tags


def test_a_line_that_comes_cold_to_the_pot_has_no_heat_of_before() -> None:
    assert prove(braise()).state == "meets"
    short = prove(braise(3))
    assert short.state == "fails"
    assert "mince: " in said(short.sentence)  # it is said whose core it is
    assert prove(dish("beef-chuck, chicken-mince", "boil:pot 97C 30mm 3h; boil:again 97C 30mm 3min; serve")).meets


def test_what_comes_out_of_a_step_has_what_was_in_it_by_then() -> None:
    steps = "trim:trim 15min 12C; oven 180C 40mm 100min; serve; {pot} blast:cold -6C 30mm 4h /stock{root}; "
    steps += "keep 3C 3d /stock"
    boiled = dish("chicken-breast, carrot@pot", steps.format(pot="boil:pot 97C 30mm 3h /stock ^trim;", root=""))
    assert prove(boiled).state == "meets"
    assert prove(dish("chicken-breast", steps.format(pot="", root=" ^trim"))).state != "meets"
    done = prove(dish("chicken-breast", steps.format(pot="", root=" ^oven-1")))
    assert "raw" not in said(done.sentence)  # out of the oven it is cooked


@pytest.mark.parametrize(
    ("eaten", "rules", "state"),
    [("=raw", "us", "advisory"), ("=raw", "eu", "advisory"), ("", "us", "not_proved"), ("=rare", "anz", "advisory")],
)
def test_raw_whites_are_told_or_not_proved(eaten: str, rules: str, state: str) -> None:
    assert prove(mousse(eaten, rules)).state == state


def test_nothing_raw_goes_to_guests_at_higher_risk() -> None:
    assert prove(mousse().model_copy(update={"guests": "higher_risk"})).state == "fails"


@pytest.mark.parametrize(
    ("steps", "why"),
    [
        ("mix:a 5min /x; mix:b 5min +y", "does not end before it"),
        ("mix:b 5min +x; mix:a 5min /x", "does not end before it"),
        ("mix:a 5min /x; mix:b 5min +x; mix:c 5min +x", "does not end before it"),
        ("mix:a 5min /x; mix:b 5min +x; mix:c 5min /x", "does not end before it"),
        ("mix:a 5min; mix:b 5min /x ^c; mix:c 5min", "begins out of another step"),
        ("mix:a 5min; mix:b 5min ^a", "begins out of another step"),
    ],
)
def test_lines_that_cannot_be_are_refused_with_a_sentence(steps: str, why: str) -> None:
    with pytest.raises((ValidationError, ValueError), match=why):
        dish("carrot", steps)


@pytest.mark.parametrize("table", ["safe", "unsafe"])
def test_every_dish_of_lines_is_laid_out_with_a_cell_for_every_step(table: str) -> None:
    for each in (each for each in dishes(table) if any("line" in step for step in each.steps)):
        plan = each.plan(each.rules[0])
        sheet = sheet_of(plan)
        ids = [step.id for step in plan.steps]
        assert [column.step for column in sheet.columns] == ids
        assert all([cell.step for cell in row.cells] == ids for row in sheet.rows)
        assert [column.line for column in sheet.columns] == [step.line for step in plan.steps]
        assert {part.enters for part in sheet.parts} <= set(ids)


def test_the_sheet_tells_what_is_in_it_and_until_where_it_is_raw() -> None:
    found = {part.names[0]: (part.enters, part.state, part.done_at) for part in sheet_of(braise()).parts}
    assert found["Beef chuck, for stewing"] == ("receive", "done", "again")
    assert found["Chicken, minced"] == ("mince", "done", "again")
    assert {part.state for part in sheet_of(mousse("")).parts} == {"plain", "raw"}
    assert "undone" in {part.state for part in sheet_of(mousse()).parts}


def started(plan: Plan, *steps: str) -> Batch:
    return batch_of(plan, *(e.StepStarted(step=step, at=START + timedelta(minutes=i)) for i, step in enumerate(steps)))


def test_a_batch_may_begin_what_all_its_lines_allow() -> None:
    plan = mousse()
    assert [step.id for step in started(plan).next_steps()] == ["receive", "melt", "whip"]
    assert [step.id for step in started(plan, "receive", "melt").next_steps()] == ["whip"]
    assert [step.id for step in started(plan, "receive", "melt", "whip").next_steps()] == ["fold"]
    assert started(plan, "receive", "whip").is_ahead("melt")
    assert not started(plan, "whip", "fold").is_ahead("melt")


def test_a_step_of_another_line_is_not_passed_over() -> None:
    assert steps_passed(started(mousse(), "receive", "whip")) == []
    assert [each.step.id for each in steps_passed(started(mousse(), "receive", "whip", "fold"))] == ["melt"]
    assert [each.step.id for each in steps_passed(started(mousse(), "whip"), before="fold")] == ["receive", "melt"]


def test_a_line_nobody_began_is_laid_so_that_it_ends_when_it_is_taken() -> None:
    blocks = {block.step: block for block in blocks_of(started(braise(), "receive"), START)}
    assert blocks["mince"].ends == blocks["again"].starts == blocks["pot"].ends


def test_a_batch_is_judged_along_every_way() -> None:
    """The pot's readings say nothing of the mince that came to it cold."""
    ends = START + timedelta(hours=3)
    ran = (
        e.StepStarted(step="pot", at=START), e.StepFinished(step="pot", at=ends),
        e.StepStarted(step="mince", at=START), e.StepFinished(step="mince", at=ends),
        e.StepStarted(step="again", at=ends), e.StepFinished(step="again", at=ends + timedelta(hours=1)),
    )  # fmt: skip
    hot = core("pot", 90.0, ends - timedelta(minutes=5))
    batch = batch_of(braise(), *ran, hot)
    states = {s.verdict.state for s in judge(batch, ends + timedelta(hours=2)).statuses if s.step == "again"}
    assert states == {"not_measured"}
    assert [len(each.readings) for each in by_way(batch)] == [1, 0]
    columns = sheet_of_batch(batch, judge(batch, ends), ends).columns
    assert [column.step for column in columns] == [step.id for step in braise().steps]
    assert [(column.line, column.takes) for column in columns][2:4] == [("mince", ()), ("", ("mince",))]


def test_a_critical_kill_is_told_where_it_is_though_an_earlier_heat_killed_too() -> None:
    """Under fat all night, and fried: the filled leg's line is asked of the frying, and its cell tells that kill."""
    plan = with_controls(decided(template("filled-confit").plan("Confit", "us")))
    row = next(each for each in sheet_of(plan).rows if each.key == "salmonella")
    acts = {cell.step: (cell.critical, cell.act) for cell in row.cells}
    assert acts["fry"] == (True, "killed")
    assert acts["fat"] == (False, "killed")
