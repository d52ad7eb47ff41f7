"""A cook who reads Spanish, French or Chinese: of any dish there is, nothing at the pass falls back to English."""

import re
from datetime import UTC, datetime, timedelta
from typing import Any, get_args

import pytest

from brinefrost.core.bench.families import answer, presets
from brinefrost.core.food.catalogue import Allergen
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.templates import template, templates
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.events import BatchEvent, BatchStarted, ReadingLogged, StepFinished, StepStarted
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.words import LANGUAGES, Manner, manner_of, render
from brinefrost.core.words.catalogue import template_of, texts
from tests.core.test_step_kinds import ready, recorded

DISHES = [key for key, each in templates().items() if each.ingredients]
OTHERS = [language for language in LANGUAGES if language != "en"]
START = datetime(2026, 11, 17, 8, 0, tzinfo=UTC)


@pytest.fixture
def fallen(monkeypatch: pytest.MonkeyPatch) -> set[str]:
    """The codes that somebody read in English because their language had no words."""
    found: set[str] = set()

    def noted(code: str, language: str) -> str:
        mine = texts(language)
        if language in OTHERS and code not in mine and f"{code.removesuffix('_one')}_other" not in mine:
            found.add(code)
        return template_of(code, language)

    monkeypatch.setattr(render, "template_of", noted)
    return found


def reading(step: str, quantity: Any, value: float, at: datetime, n: int) -> ReadingLogged:
    return ReadingLogged(
        reading=f"r{n}", step=step, quantity=quantity, value=value, unit=QUANTITIES[quantity].unit, typed=f"{value:g}",
        taken_at=at, instrument="i", instrument_name="I", uncertainty=0.1,
    )  # fmt: skip


def half_way(plan: Plan, seen: int) -> Batch:
    """A batch whose first steps are over, each with one reading of what it watches, and whose next one runs."""
    at, events = START, list[BatchEvent]()
    events.append(BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=at))
    for i, step in enumerate(plan.steps[: seen + 1]):
        events.append(StepStarted(step=step.id, at=at))
        control = plan.control_of(step.id)
        for item in control.monitoring if control else ():
            events.append(reading(step.id, item.quantity, item.expected_high_c, at + timedelta(minutes=1), len(events)))
        at += timedelta(hours=2)
        if i < seen:
            events.append(StepFinished(step=step.id, at=at))
    return fold(plan, [recorded(n, event) for n, event in enumerate(events, 1)])


def has_words(code: str) -> bool:
    return bool(re.search(r"[^\W\d_]{2,}", re.sub(r"\{\{[^{}]+\}\}", "", texts("en").get(code, code))))


@pytest.mark.parametrize("key", DISHES)
def test_nothing_of_a_dish_is_read_in_english(key: str, fallen: set[str]) -> None:
    """Every rule set in turn; its steps, checks, limits and verdicts, and its sheet, from the start to the end."""
    plan = ready(template(key).plan(template(key).name, RULE_SET_IDS[DISHES.index(key) % 4]))
    for seen in range(len(plan.steps)):
        batch, now = half_way(plan, seen), START + timedelta(hours=2 * seen + 1)
        judgement = judge(batch, now)
        told = [*judgement.statuses, *checks_of(batch, now), sheet_of_batch(batch, judgement, now)]
        for language in OTHERS:
            with manner_of(Manner(language)):
                assert all(each.model_dump(mode="json") for each in told)
    assert not {code for code in fallen if has_words(code)}


def test_nothing_of_the_bench_is_read_in_english(fallen: set[str]) -> None:
    """Every question its pages offer to begin with, answered."""
    for family, offered in presets(START.date()).items():
        for _, question in offered:
            said = answer(family, question, START.date())
            for language in OTHERS:
                with manner_of(Manner(language)):
                    assert said.model_dump(mode="json")
    assert not {code for code in fallen if has_words(code)}


@pytest.mark.parametrize("language", OTHERS)
def test_what_has_to_be_declared_is_declared_in_their_language(language: str) -> None:
    for allergen in get_args(Allergen):
        assert f"law.allergens.{allergen}_name" in texts(language)


AS_WRITTEN = ("formula", "citation", "cells", "unit", "assumptions")  # sums and sources stand as they are written


def sentences(node: Any, key: str = "") -> list[str]:
    """Every text of a reply, but sums and sources."""
    if isinstance(node, dict):
        return [text for inner, each in node.items() for text in sentences(each, inner)]
    if isinstance(node, list):
        return [text for each in node for text in sentences(each, key)]
    return [node] if isinstance(node, str) and key not in AS_WRITTEN else []


def test_a_number_within_a_sentence_has_the_decimal_mark_of_the_reader() -> None:
    """French writes 54,4: a number that was written before its reader was known would stand with a point."""
    told: list[str] = []
    for family, offered in presets(START.date()).items():
        said = answer(family, offered[0][1], START.date())
        with manner_of(Manner("fr")):
            told += sentences(said.model_dump(mode="json"))
    for key in DISHES:
        plan = ready(template(key).plan(template(key).name, "us"))
        proof = prove(plan)
        with manner_of(Manner("fr")):
            told += sentences(proof.model_dump(mode="json", exclude={"limits": {"__all__": {"limit"}}}))
    written = [text for text in told if re.search(r"(?<![\d§.-])\d+\.\d+(?![\d.-]|\()", text)]
    assert not sorted(set(written)), "\n".join(sorted(set(written)))
