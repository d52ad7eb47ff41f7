"""The decision tree cannot take a control away: Codex CXC 1-1969 (2022), principle 2 and annex IV."""

import pytest

from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.plans.decisions import Answer, TreeId, outcome_of
from brinefrost.core.plans.document import Plan, canonical, hash_of
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.taken_away import taken_away
from brinefrost.core.plans.templates import templates
from brinefrost.core.words import said
from brinefrost.reports.plan_part import plan_part
from tests.core.test_released_true import DISHES, plan_of
from tests.kitchen import EACH_RULE_SET

HYGIENE = (Answer(question="prerequisite", yes=True, reason=""),)
WHY = "Washed hands, clean boards and trained people hold it well enough here."


def answered(plan: Plan, steps: tuple[str, ...], answers: tuple[Answer, ...], tree: TreeId = "codex-2022") -> Plan:
    """The plan with every hazard at some steps answered alike."""
    hazards = tuple(
        hazard.model_copy(
            update={
                "decisions": tuple(
                    each.model_copy(update={"answers": answers, "tree": tree}) if each.step in steps else each
                    for each in hazard.decisions
                )
            }
        )
        for hazard in plan.hazards
    )
    return with_controls(plan.model_copy(update={"hazards": hazards, "controls": ()}))


@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
@pytest.mark.parametrize("key", DISHES)
def test_the_usual_answers_take_nothing_away(key: str, rules: str) -> None:
    assert taken_away(plan_of(key, rules)) == ()


@pytest.mark.parametrize("key", DISHES)
@pytest.mark.parametrize("reason", ["", "x y", WHY])
def test_hygiene_alone_at_every_step_is_a_gap_and_not_proved(key: str, reason: str) -> None:
    """Whatever the reason where raw food of animals or a jar for the shelf needs a critical step; else a reason is
    asked for."""
    plan = plan_of(key)
    every = tuple(step.id for step in plan.steps)
    away = answered(plan, every, (HYGIENE[0].model_copy(update={"reason": reason}),))
    raw = any("raw" in tags and set(tags) & set(ANIMALS) for tags in map(_tags, templates()[key].ingredients))
    shelf = any(step.kind == "shelf_keep" for step in plan.steps)
    if reason == WHY and not (raw or shelf):
        return
    assert taken_away(away), key
    assert prove(away).state != "meets"
    assert gaps_of(away)


def _tags(key: str) -> tuple[str, ...]:
    from brinefrost.core.food.catalogue import catalogue

    return catalogue().ingredient(key).tags


@pytest.mark.parametrize(
    ("key", "steps"),
    [
        ("thigh", ("cook", "chill")), ("stew", ("cook",)), ("crudo", ("freeze",)), ("goose", ("roast",)),
        ("semi-dry-sausage", ("smoke",)), ("short-rib", ("cook",)), ("terrine", ("bake",)), ("saddle", ("roast",)),
    ],
)  # fmt: skip
def test_a_later_step_that_is_not_there_does_nothing(key: str, steps: tuple[str, ...]) -> None:
    if key not in DISHES:
        pytest.skip("no such dish")
    plan = plan_of(key)
    later = (
        Answer(question="prerequisite", yes=False),
        Answer(question="measure", yes=True),
        Answer(question="later", yes=True, reason=WHY),
    )
    critical = tuple(step for step in plan.critical_steps() if step in steps) or plan.critical_steps()[:1]
    away = answered(plan, critical, later)
    assert any("name the later step" in said(each.sentence) for each in taken_away(away))
    named = answered(plan, critical, (*later[:2], later[2].model_copy(update={"by_step": plan.steps[0].id})))
    assert any("name the later step" in said(each.sentence) for each in taken_away(named))  # it does not follow


def test_a_later_step_that_follows_and_is_critical_does_it() -> None:
    """A stew is boiled every day: what the first boil leaves, the second kills."""
    plan = plan_of("stew")
    salmonella = next(h for h in plan.hazards if h.key in ("salmonella-meat", "salmonella"))
    critical = [d.step for d in salmonella.decisions if outcome_of(d.tree, d.answers) == "ccp"]
    if len(critical) < 2:
        pytest.skip("the stew is killed once")
    later = (
        Answer(question="prerequisite", yes=False),
        Answer(question="measure", yes=True),
        Answer(question="later", yes=True, reason=WHY, by_step=critical[1]),
    )
    hazards = tuple(
        h.model_copy(
            update={
                "decisions": tuple(
                    d.model_copy(update={"answers": later}) if d.step == critical[0] else d for d in h.decisions
                )
            }
        )
        if h.key == salmonella.key
        else h
        for h in plan.hazards
    )
    assert taken_away(plan.model_copy(update={"hazards": hazards})) == ()


def test_a_2003_tree_takes_no_control_away_without_a_reason_either() -> None:
    plan = plan_of("pickles")
    no_need = (Answer(question="measure", yes=False), Answer(question="needed", yes=False))
    away = answered(plan, plan.critical_steps(), no_need, "codex-2003")
    assert any("write why" in said(each.sentence) for each in taken_away(away))


def test_a_reason_is_printed_with_who_gave_it() -> None:
    plan = plan_of("pickles")
    given = HYGIENE[0].model_copy(update={"reason": WHY, "by": "Ilse Brandvik"})
    away = answered(plan, plan.critical_steps(), (given,))
    text = " ".join(getattr(part, "text", "") for part in plan_part(away, "Rui"))
    assert WHY in text
    assert "Ilse Brandvik" in text


def test_what_was_signed_before_keeps_its_hash() -> None:
    """Who answered, and by which step, are left out of the text while they say nothing."""
    plan = plan_of("pickles")
    assert '"by":' not in canonical(answered(plan, plan.critical_steps(), HYGIENE))
    assert '"by_step":' not in canonical(answered(plan, plan.critical_steps(), HYGIENE))
    assert len(hash_of(plan)) == 64
