"""Hazards, decisions, controls, proof, hash and comparison of the bag-cooked thigh."""

import pytest

from brinefrost.core.errors import NotFoundError, OutOfRangeError, PlanIncompleteError
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.compare import changes_between
from brinefrost.core.plans.decisions import TREES, Answer, outcome_of
from brinefrost.core.plans.document import Ingredient, Plan, hash_of
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.repeated import repeat_plan
from brinefrost.core.plans.suggest import suggested_control, suggested_hazards
from brinefrost.core.plans.templates import template
from brinefrost.core.plans.what_if import what_ifs
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from tests.kitchen import thigh_plan, with_bath


def test_hazards_come_from_ingredients_and_steps_with_reasons() -> None:
    hazards = {hazard.key: hazard for hazard in suggested_hazards(thigh_plan())}
    assert {"salmonella", "campylobacter", "listeria", "c-perfringens", "c-botulinum", "bag-integrity"} <= set(hazards)
    assert all(hazard.reason for hazard in hazards.values())
    assert hazards["allergens"].name == "Allergens: none"


def test_without_meat_no_poultry_hazards_and_butter_is_an_allergen() -> None:
    plan = (
        template("bag")
        .plan("x", "us")
        .model_copy(update={"ingredients": (Ingredient(name="Butter", catalogue="butter"),)})
    )
    keys = {hazard.key: hazard for hazard in suggested_hazards(plan)}
    assert "salmonella" not in keys
    assert "milk" in keys["allergens"].reason


def test_three_steps_become_critical() -> None:
    assert thigh_plan().critical_steps() == ("cook", "chill", "keep")


def test_every_control_is_whole_and_sourced() -> None:
    plan = thigh_plan()
    assert gaps_of(plan) == ()
    for control in plan.controls:
        assert control.limits
        assert control.monitoring
        assert control.corrective_actions
        assert control.verification
        assert all(limit.source.citation for limit in control.limits)


def test_kitchens_own_limit_is_taken_where_stricter() -> None:
    keep = suggested_control(thigh_plan(), "keep")
    assert [limit.id for limit in keep.limits] == ["own-keep-c", "own-keep-days"]
    steps = tuple(
        s.model_copy(update={"max_c": 5, "days": 9}) if s.kind == "cold_keep" else s for s in thigh_plan().steps
    )
    loose = suggested_control(thigh_plan().model_copy(update={"steps": steps}), "keep")
    assert [limit.id for limit in loose.limits] == ["us-keep-sealed", "us-keep-days"]


# Codex CXC 1-1969 (2022), annex IV; CAC/RCP 1-1969 rev. 4 (2003), diagram 2
@pytest.mark.parametrize(
    ("tree", "answers", "outcome"),
    [
        ("codex-2022", {"prerequisite": True}, "not_ccp"),
        ("codex-2022", {"prerequisite": False, "measure": False}, "modify"),
        ("codex-2022", {"prerequisite": False, "measure": True, "later": True}, "not_ccp"),
        ("codex-2022", {"prerequisite": False, "measure": True, "later": False, "specific": True}, "ccp"),
        ("codex-2022", {"prerequisite": False, "measure": True, "later": False, "specific": False}, "modify"),
        ("codex-2022", {"prerequisite": False, "measure": True}, "open"),
        ("codex-2003", {"measure": False, "needed": True}, "modify"),
        ("codex-2003", {"measure": False, "needed": False}, "not_ccp"),
        ("codex-2003", {"measure": True, "designed": True}, "ccp"),
        ("codex-2003", {"measure": True, "designed": False, "exceed": False}, "not_ccp"),
        ("codex-2003", {"measure": True, "designed": False, "exceed": True, "later": True}, "not_ccp"),
        ("codex-2003", {"measure": True, "designed": False, "exceed": True, "later": False}, "ccp"),
    ],
)
def test_decision_trees(tree: str, answers: dict[str, bool], outcome: str) -> None:
    given = tuple(Answer(question=question, yes=yes) for question, yes in answers.items())
    assert outcome_of(tree, given) == outcome  # type: ignore[arg-type]


def test_trees_lead_somewhere_and_two_answers_are_refused() -> None:
    for tree in TREES.values():
        known = {question.id for question in tree.questions} | {"ccp", "not_ccp", "modify"}
        assert all({question.yes, question.no} <= known for question in tree.questions)
    twice = (Answer(question="measure", yes=True), Answer(question="measure", yes=False))
    with pytest.raises(PlanIncompleteError, match="two answers"):
        outcome_of("codex-2022", twice)


@pytest.mark.parametrize("rules", ["us", "uk"])
def test_the_thigh_at_63_should_meet_its_limits(rules: str) -> None:
    proof = prove(thigh_plan(rules))
    assert proof.state == ("departs" if rules == "us" else "meets")  # the 7-log table is taken by approval
    assert all(step.meets for case in what_ifs(thigh_plan(rules))[:4] for step in case.steps)
    assert {limit.verdict.basis for limit in proof.limits} == {"computed"}


@pytest.mark.parametrize(("rules", "fails"), [("eu", "eu-keep-days"), ("anz", "anz-poultry")])
def test_the_thigh_under_rules_it_was_not_made_for(rules: str, fails: str) -> None:
    """Five days break the three a kitchen gets without a study; 63 °C never is 75 °C, whatever its equal."""
    proof = prove(thigh_plan(rules))
    assert [each.limit.id for each in proof.limits if each.verdict.state != "pass"] == [fails]
    assert proof.remedies


def test_the_same_thigh_an_hour_at_57_fails_with_what_would_pass() -> None:
    us = prove(with_bath(thigh_plan("us"), 57, 3600))
    assert not us.meets
    assert any("below 57.8" in line for line in us.remedies)
    assert any(line.startswith("At 60 °C it needs") for line in us.remedies)
    uk = prove(with_bath(thigh_plan("uk"), 57, 3600))
    assert not uk.meets
    # FSA (2017): the equivalents are printed from 60 °C, 45 min; below it nothing is credited without validation
    assert all(each.time_to_meet_s is None for each in uk.limits if each.limit.kind == "lethality")
    sixty = prove(with_bath(thigh_plan("uk"), 61, 3600))
    needed = next(each.time_to_meet_s for each in sixty.limits if each.limit.kind == "lethality")
    assert needed is not None
    assert 1800 < needed < 4 * 3600
    assert prove(with_bath(thigh_plan("uk"), 61, needed + 60)).limits[0].verdict.state == "pass"


def test_thicker_colder_lower_need_longer() -> None:
    proof = prove(thigh_plan())
    base = next(proof_.time_to_meet_s for proof_ in proof.limits if proof_.limit.kind == "lethality")
    times = {case.name: case.time_to_meet_s for case in what_ifs(thigh_plan())}
    assert base is not None
    assert times["5 mm thicker"] > base > times["5 mm thinner"]  # type: ignore[operator]
    assert times["bath 1 degree low"] > base  # type: ignore[operator]
    assert times["from 1 °C"] > base  # type: ignore[operator]


def test_a_plan_without_bath_or_known_food_cannot_be_proved() -> None:
    plan = thigh_plan()
    with pytest.raises(PlanIncompleteError, match="nothing to prove"):
        prove(plan.model_copy(update={"steps": plan.steps[:2], "controls": ()}))
    cold = prove(plan.model_copy(update={"steps": tuple(s for s in plan.steps if s.id != "cook"), "controls": ()}))
    assert cold.state == "fails"
    assert "Reheat comes before any cook" in cold.sentence
    with pytest.raises(PlanIncompleteError, match="thermal"):
        prove(plan.model_copy(update={"ingredients": ()}))


def test_gaps_name_what_is_missing() -> None:
    blank = template("bag").plan("x", "us")
    words = " ".join(gap.sentence for gap in gaps_of(blank))
    assert "ingredients" in words
    assert "hazards" in words
    undecided = thigh_plan().model_copy(update={"hazards": suggested_hazards(thigh_plan()), "controls": ()})
    assert any("not finished" in gap.sentence for gap in gaps_of(undecided))
    aside = thigh_plan().hazards[0].model_copy(update={"significant": False})
    assert any("say why" in gap.sentence for gap in gaps_of(thigh_plan().model_copy(update={"hazards": (aside,)})))


def test_hash_follows_content_and_comparison_names_the_place() -> None:
    a, b = thigh_plan(), with_bath(thigh_plan(), 63, 6600)
    assert hash_of(a) == hash_of(thigh_plan())
    assert hash_of(a) != hash_of(b)
    changes = changes_between(a, b)
    assert [(c.where, c.before, c.after) for c in changes] == [("steps › cook › duration_s", "7200.0", "6600.0")]


@pytest.mark.parametrize("thickness", [0, 0.001, 3.0])
def test_thickness_that_cannot_be_is_refused(thickness: float) -> None:
    raw = thigh_plan().model_dump(mode="json")
    raw["steps"][2]["thickness_m"] = thickness
    with pytest.raises(ValueError, match="thickness_m"):
        Plan.model_validate(raw)


def test_two_steps_of_one_id_and_strange_controls_are_refused() -> None:
    raw = thigh_plan().model_dump(mode="json")
    raw["steps"][1]["id"] = "receive"
    with pytest.raises(ValueError, match="same id"):
        Plan.model_validate(raw)
    raw = thigh_plan().model_dump(mode="json")
    raw["controls"][0]["step"] = "nowhere"
    with pytest.raises(ValueError, match="not in the process"):
        Plan.model_validate(raw)


def test_lookups_refuse_what_is_not_there() -> None:
    for lookup in (
        lambda: rule_set("xx"),
        lambda: catalogue().ingredient("x"),
        lambda: catalogue().hazard("x"),
        lambda: thigh_plan().step("x"),
        lambda: rule_set("us").limit_for("x"),
        lambda: rule_set("us").bound_for("chill.cooked"),
    ):
        with pytest.raises(NotFoundError):
            lookup()
    assert issubclass(OutOfRangeError, ValueError)


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_every_rule_has_a_citation_and_every_topic_a_preferred_school(rules: str) -> None:
    entries = rule_set(rules).entries
    assert all(len(entry.limit.source.citation) > 10 for entry in entries)
    for topic in {entry.topic for entry in entries}:
        here = [entry for entry in entries if entry.topic == topic]
        assert sum(entry.preferred for entry in here) == 1
        assert len({entry.limit.id for entry in here}) == len(here)


def test_a_proof_repeated_says_how_often_it_would_fail() -> None:
    """A plan well inside its limits never fails; one cut to the minute it needs fails about half the time."""
    plan = thigh_plan()
    cook, chill = repeat_plan(plan, prove(plan))
    assert (cook.step, cook.failing_share, chill.step, chill.failing_share) == ("cook", 0, "chill", 0)
    needed = next(each.time_to_meet_s for each in prove(plan).limits if each.time_to_meet_s)
    tight = with_bath(plan, 63, needed)
    assert 0.3 < repeat_plan(tight, prove(tight))[0].failing_share < 0.7
    assert sum(part.share for part in cook.matters) == pytest.approx(1)
    with pytest.raises(PlanIncompleteError):
        repeat_plan(plan.model_copy(update={"steps": (), "controls": ()}), prove(plan))
