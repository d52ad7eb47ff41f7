"""A plan and a batch ask the Bench the question they were proved on: both must then say the same."""

import numpy as np
import pytest

from brinefrost.core.bench.chill import answer_chill
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.fit import FitQuestion, answer_fit
from brinefrost.core.bench.heat import answer_heat
from brinefrost.core.bench.heat_question import HeatQuestion
from brinefrost.core.limits import Limit, Series
from brinefrost.core.plans.contexts import context_of
from brinefrost.core.plans.course import questions_of
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof_shown import show_proof
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.bath_cook import BathCook
from brinefrost.core.steps.document import Asked
from brinefrost.core.steps.seal import Seal
from brinefrost.core.steps.state import Evidence
from tests.kitchen import thigh_plan, with_bath


def asked(plan: Plan) -> dict[str, dict[str, object]]:
    return {each.family: each.question for each in questions_of(plan)}


def from_chill(series: Series) -> list[Asked]:
    plan = thigh_plan("us")
    chill = plan.step("chill")
    limit: Limit = next(each for each in kind_of(chill).control(chill, context_of(plan)).limits)
    return kind_of(chill).running_asked(chill, Evidence(series, 0.0, (), 7.2, limit), context_of(plan))


@pytest.mark.parametrize("rule_set", RULE_SET_IDS)
@pytest.mark.parametrize(("bath_c", "minutes"), [(63, 90), (57, 60), (60, 150)])
def test_the_cook_fares_on_the_bench_as_in_its_proof(rule_set: str, bath_c: float, minutes: float) -> None:
    """Two ways through the core: the plan's own proof, and the Bench's question with the same dip of the bath."""
    plan = with_bath(thigh_plan(rule_set), bath_c, minutes * 60)
    proof = show_proof(plan)
    found = answer_heat(HeatQuestion.model_validate(asked(plan)["heat"]))
    at_end = next(each.value for each in found.figures if each.name == "core_at_end")
    assert at_end == pytest.approx(float(np.interp(minutes * 60, proof.curve.times_s, proof.curve.core_c)), abs=0.15)
    cook = [each.verdict.state for each in proof.limits if each.step == "cook"]
    assert (found.state == "would_meet") == (set(cook) == {"pass"})


def test_the_chill_asks_a_bag_in_slurry() -> None:
    plan = thigh_plan("us")
    question = ChillQuestion.model_validate(asked(plan)["chill"])
    curve = show_proof(plan).curve
    assert (question.medium, question.rule_set, question.waited_s) == ("slurry", "us", 300.0)
    out = curve.cook_ends_s + 300.0  # lifted over in five minutes
    assert question.start_c == pytest.approx(float(np.interp(out, curve.times_s, curve.core_c)), abs=0.2)
    assert answer_chill(question).state == "would_meet"


def test_a_plan_without_a_bath_asks_about_none() -> None:
    plan = thigh_plan("us")
    cold = plan.model_copy(update={"steps": tuple(s for s in plan.steps if not isinstance(s, BathCook))})
    assert "heat" not in asked(cold)


def test_a_chill_under_way_asks_where_it_leads() -> None:
    times = np.arange(0, 3600, 60.0) + 1.7e9
    stacked = 62 * np.exp(-(times - times[0]) / 5400) + 0.5  # bags in a heap: far slower than the plan
    question = FitQuestion.model_validate(from_chill(Series(times, stacked))[0].question)
    assert len(question.readings) < 40 + 1
    assert question.start_c == pytest.approx(62.5)
    found = answer_fit(question)
    fitted = next(each.value for each in found.figures if each.name == "fitted")
    assert fitted is not None
    assert fitted > 2 * question.thickness_m
    assert from_chill(Series(times[:1], stacked[:1])) == []
    assert from_chill(Series.empty()) == []


def test_the_ends_of_what_a_plan_may_say_can_be_asked() -> None:
    """A 20 g bag, five hundred 20 kg bags, the thinnest and thickest: the pages take them all."""
    for mass, packs, thickness in ((0.02, 1, 0.003), (20.0, 500, 0.2)):
        steps = tuple(
            step.model_copy(update={"pack_mass_kg": mass, "packs": packs})
            if isinstance(step, Seal)
            else step.model_copy(update={"thickness_m": thickness})
            if isinstance(step, BathCook)
            else step
            for step in thigh_plan("us").steps
        )
        found = questions_of(thigh_plan("us").model_copy(update={"steps": steps}))
        assert [each.family for each in found] == ["heat", "chill"]


def test_a_chill_forgotten_for_days_still_asks() -> None:
    times = np.arange(0, 5 * 86400, 3600.0)
    found = from_chill(Series(times, np.full(len(times), 30.0)))
    assert found[0].question["readings"][-1]["time_s"] <= 48 * 3600
    assert from_chill(Series(times, np.full(len(times), -9.0))) == []
