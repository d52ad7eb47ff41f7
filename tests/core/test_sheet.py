"""The sheet of a plan: columns that follow one another, hazards whose accounts add up, nothing green that is not."""

import itertools
import re
from itertools import pairwise

import numpy as np
import pytest

from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.balance import balance_of, killing, way_of
from brinefrost.core.plans.contexts import context_of
from brinefrost.core.plans.course import simulate
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.legs import lay_legs
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.sheet_parts import Sheet, SheetCell, SheetRow
from brinefrost.core.plans.templates import template, templates
from tests.core.test_step_kinds import ready
from tests.kitchen import EACH_RULE_SET, thigh_plan, with_bath

PROVED = [key for key, each in templates().items() if each.spoil]


def row(sheet: Sheet, key: str) -> SheetRow:
    return next(each for each in sheet.rows if each.key == key)


def cell(sheet: Sheet, key: str, step: str) -> SheetCell:
    return next(each for each in row(sheet, key).cells if each.step == step)


def made(key: str, rules: str = "us") -> Plan:
    found = template(key)
    return ready(found.plan(found.name, rules))  # type: ignore[arg-type]


@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
@pytest.mark.parametrize("key", PROVED)
def test_the_sheet_says_what_the_proof_says(key: str, rules: str) -> None:
    plan = made(key, rules)
    sheet, proof = sheet_of(plan), prove(plan)
    assert (sheet.state, sheet.sentence) == (proof.state, proof.sentence)
    assert [column.step for column in sheet.columns] == [step.id for step in plan.steps]
    by_step = {(column.step, limit.id): limit.standing for column in sheet.columns for limit in column.limits}
    for limit in proof.limits:
        met = limit.verdict.state == "pass"
        assert (by_step[(limit.step, limit.limit.id)] == "meets") is met


@pytest.mark.parametrize("key", PROVED)
def test_the_core_goes_on_from_column_to_column(key: str) -> None:
    """What leaves one step enters the next of its line, but for a thaw that nobody follows and pieces cut anew."""
    plan = made(key)
    columns = [column for column in sheet_of(plan).columns if column.curves and not plan.step(column.step).line]
    cores = [next(curve for curve in column.curves if curve.quantity == "core") for column in columns]
    for before, after in itertools.pairwise(cores):
        if before.basis == after.basis == "computed" and min(before.values) > -5:
            assert after.values[0] == pytest.approx(before.values[-1], abs=6)
    assert all(np.all(np.diff(curve.times_s) > 0) for curve in cores)


def test_the_thigh_kills_in_its_bath_and_nowhere_by_promise() -> None:
    sheet = sheet_of(thigh_plan())
    bath = cell(sheet, "salmonella", "cook")
    assert (bath.act, bath.critical, bath.standing) == ("killed", True, "meets")
    assert all(cell(sheet, "salmonella", step).act != "killed" for step in ("receive", "keep", "reheat"))


def test_a_bath_that_does_not_kill_is_not_green_anywhere() -> None:
    sheet = sheet_of(with_bath(thigh_plan(), 57.0, 3600.0))
    bath = cell(sheet, "salmonella", "cook")
    assert (bath.act, bath.standing) == ("lives", "fails")
    assert row(sheet, "salmonella").standing == "fails"
    assert sheet.state == "fails"


def test_kill_by_the_tables_own_row() -> None:
    """12 min at 60 °C is the whole-cut table's 6.5 log (USDA-FSIS Appendix A): the account says 6.5."""
    law = killing("salmonella-whole-6.5")
    assert law is not None
    from brinefrost.core.limits import Series

    minutes = law.minutes(Series(np.array([0.0, 720.0]), np.array([60.0, 60.0]), longest_gap_s=np.inf))[-1]
    assert law.log_reduction * minutes / law.model.law().goal_min == pytest.approx(6.5, rel=1e-6)


def test_every_clock_that_is_told_shows_how_it_adds_up() -> None:
    told = 0
    for row in sheet_of(thigh_plan()).rows:
        runs = any(cell.act == "clock" for cell in row.cells)
        assert row.working is not None or not runs, row.key
        if row.working is not None and row.balance and "allowance" in row.balance:
            told += 1
            share = re.search(r"([\d.]+) %", row.balance)
            assert share
            assert f"{share.group(1)} %" in row.working.result
    assert told


def test_a_clock_begins_anew_after_a_kill_and_a_toxins_does_not() -> None:
    plan = made("stew")
    context = context_of(plan)
    done = simulate(plan, context)
    way = way_of(plan, lay_legs(plan, context, done))
    known = {hazard.key: hazard for hazard in catalogue().hazards}
    cells, toxin = (balance_of(known[key], way, done) for key in ("listeria", "b-cereus"))
    assert cells
    assert toxin
    assert cells.clock
    assert toxin.clock
    cook, keep = [step.id for step in plan.steps].index("cook"), [step.id for step in plan.steps].index("keep")
    assert cells.clock.so_far[cook] == 0.0 < cells.clock.so_far[keep]
    assert all(later >= earlier for earlier, later in pairwise(toxin.clock.so_far))


def test_growth_in_the_cold_is_between_what_one_degree_less_and_more_would_make() -> None:
    """Listeria at 3 °C for 3 d makes some tenths of a log: common practice, no source; its doubt is told."""
    told = cell(sheet_of(made("confit")), "listeria", "keep")
    assert told.act == "grows"
    assert 0.1 < float(str(told.amount).removeprefix("+").removesuffix(" log")) < 1.0


def test_a_plan_that_cannot_be_walked_is_laid_out_all_the_same() -> None:
    plan = template("bag").plan("Nothing in it yet", "us")
    sheet = sheet_of(plan)
    assert sheet.state == "empty"
    assert len(sheet.columns) == len(plan.steps)
    assert not any(column.curves for column in sheet.columns)


def test_hands_may_bring_back_what_heat_killed_unless_it_is_still_hot() -> None:
    sheet = sheet_of(made("cuttlefish"))
    assert cell(sheet, "listeria", "press").said == "from hands"
    assert cell(sheet_of(made("confit")), "listeria", "tubs").act == "none"  # at 80 °C nothing comes back alive
