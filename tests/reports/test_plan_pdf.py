"""The signed HACCP plan on paper: every part Codex CXC 1-1969 (2022) asks of one, in the reader's words."""

import re
from datetime import timedelta

import pytest

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.templates import template
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.words import Manner, manner_of, said
from brinefrost.reports.plan_pdf import plan_pdf
from brinefrost.services.plan_paper import PlanPaper
from tests.core.test_languages import DISHES, START
from tests.core.test_step_kinds import ready
from tests.reports.test_paper import SIGNED, text_of
from tests.reports.test_paper_words import PLAIN, SITE

NOW = START + timedelta(hours=5)
SOME = DISHES[::12]


def paper_of(key: str, rule_set: str = "us") -> PlanPaper:
    plan = ready(template(key).plan(template(key).name, rule_set))  # type: ignore[arg-type]
    return PlanPaper(plan, SIGNED, (SIGNED,), prove(plan), SITE)


def cited(paper: PlanPaper) -> set[str]:
    limits = [limit for control in paper.plan.controls for limit in control.limits]
    found = [limit.source.citation for limit in (*limits, *(each.limit for each in paper.proof.limits))]
    found += [each.verdict.working.source.citation for each in paper.proof.limits]
    return set(PLAIN.findall(" ".join(found)))


@pytest.mark.parametrize("key", SOME)
def test_it_has_every_part_of_a_plan(key: str) -> None:
    paper = paper_of(key)
    with manner_of(Manner("en")):
        text = text_of(plan_pdf(paper, NOW))
        plan: Plan = paper.plan
        for part in ("Flow diagram", "Hazards and decisions", "Critical control points", "Validation", "Signatures"):
            assert part in text
        for step in plan.steps:
            assert said(step.name).split()[0] in text
        for hazard in plan.hazards:
            assert said(hazard.name) in text
        for control in plan.controls:
            for limit in control.limits:
                assert said(limit.title).split()[0] in text
        assert SIGNED.signed_by in text
        assert "Met. " not in text  # a computation passes nothing
        assert any(each.verdict.state != "pass" for each in paper.proof.limits) or "Should meet. " in text
        assert said(paper.proof.sentence).split()[0] in text


@pytest.mark.parametrize("key", SOME)
def test_nothing_on_it_is_past_the_words(key: str) -> None:
    with manner_of(Manner("xx")):
        paper = paper_of(key, RULE_SET_IDS[SOME.index(key) % 4])
        text = text_of(plan_pdf(paper, NOW))
    named = cited(paper) | set(SITE.name.split())
    assert not {each for each in PLAIN.findall(text) if re.search("[aeiou]", each)} - named
