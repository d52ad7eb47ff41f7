"""A signed plan holds its questions: its batches are judged by them, whatever is asked since."""

from datetime import timedelta
from pathlib import Path

from brinefrost.core.plans.asked_limits import default_limits, limits_of
from brinefrost.core.plans.asking import asked_since, with_questions
from brinefrost.core.plans.document import Plan, is_as_stored
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.plans.proof import prove
from brinefrost.core.runs.judging import judge
from tests.core.test_cook_runs import dish
from tests.core.test_released_true import START, batch_of

FORMAT_1 = Path(__file__).parents[1] / "data" / "plan-format-1.json"


def braise() -> Plan:
    return dish("beef-chuck", "boil:pot 97C 30mm 3h; blast:chill -6C 30mm 4h; keep:keep 3C 3d")


def without(plan: Plan, step: str) -> Plan:
    """The plan as it would stand had it been signed before anything was asked at a step."""
    kept = tuple(each for each in plan.questions or () if each.step != step)
    return plan.model_copy(update={"questions": kept})


def test_a_plan_is_signed_with_everything_its_proof_judges() -> None:
    plan = with_questions(braise())
    assert plan.format == "brinefrost-plan/2"
    for step in plan.steps:
        assert limits_of(plan, step) == limits_of(braise(), step)
    assert asked_since(plan) == ()
    assert prove(plan).state == prove(braise()).state == "meets"


def test_a_batch_goes_on_by_what_was_signed() -> None:
    first = next(
        step for step in braise().steps if braise().control_of(step.id) is None and default_limits(braise(), step)
    )
    older = without(with_questions(braise()), first.id)
    assert asked_since(older) == tuple(limit.title for limit in default_limits(braise(), first))
    assert first.id not in monitored_steps(older)
    judged = judge(batch_of(older), START + timedelta(hours=1))
    assert first.id not in {status.step for status in judged.statuses}


def test_format_1_keeps_no_questions_and_is_asked_by_the_rules() -> None:
    plan = Plan.model_validate_json(FORMAT_1.read_text(encoding="utf-8"))
    assert plan.format == "brinefrost-plan/1"
    assert plan.questions is None
    assert asked_since(plan) == ()
    assert all(limits_of(plan, step) for step in plan.steps if default_limits(plan, step))


def test_a_draft_is_as_signed_whatever_format_and_questions_the_signed_one_has() -> None:
    signed = with_questions(braise()).model_dump(mode="json")
    assert is_as_stored(braise(), signed)
    old = braise().model_copy(update={"format": "brinefrost-plan/1"}).model_dump(mode="json")
    assert is_as_stored(braise(), old)
    assert not is_as_stored(braise().model_copy(update={"name": "Other"}), signed)


def test_a_proof_asks_what_the_rules_ask_not_what_a_document_says_it_was_signed_with() -> None:
    raw = dish("chicken-breast", "boil:pot 50C 30mm 10min; keep:keep 8C 20d").model_copy(update={"controls": ()})
    assert prove(raw).state == "fails"
    assert prove(raw.model_copy(update={"questions": ()})).state == "fails"
