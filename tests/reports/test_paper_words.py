"""The printed record in English with marks on it: what bears none did not come from the words."""

import re
from datetime import UTC, datetime, timedelta

import pytest

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.templates import template
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.runs.judging import Judgement, judge
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.words import Manner, manner_of
from brinefrost.reports.record_pdf import record_pdf
from brinefrost.services.ledgers import Printed
from brinefrost.services.views import view_of
from brinefrost.store.ledger import Head
from brinefrost.store.shelves import InstrumentInfo, SiteInfo
from tests.core.test_languages import DISHES, START, half_way
from tests.core.test_step_kinds import ready
from tests.reports.test_paper import SIGNED, text_of

PLAIN = re.compile(r"(?<!\w)[A-Za-z]{4,}(?!\w)")
SITE = SiteInfo("Skarn Ridge Observatory", 2140, "UTC", "us")
PROBE = InstrumentInfo("i", "I", "probe", ("core",), 0.5, datetime(2026, 11, 1, tzinfo=UTC), START + timedelta(days=30))


def cited(plan: Plan, judgement: Judgement) -> set[str]:
    """The words of sources, which stay as they are published."""
    found = [limit.source.citation for control in plan.controls for limit in control.limits]
    found += [status.verdict.working.source.citation for status in judgement.statuses]
    return set(PLAIN.findall(" ".join(found)))


@pytest.mark.parametrize(
    "key", [key if n % 12 == 0 else pytest.param(key, marks=pytest.mark.slow) for n, key in enumerate(DISHES)]
)
def test_nothing_on_paper_is_past_the_words(key: str) -> None:
    """Of every dish, in every rule set in turn, its last step running; names and sources apart."""
    plan = ready(template(key).plan(template(key).name, RULE_SET_IDS[DISHES.index(key) % 4]))
    batch, now = half_way(plan, len(plan.steps) - 1), START + timedelta(hours=2 * len(plan.steps) - 1)
    judgement = judge(batch, now)
    with manner_of(Manner("xx")):
        view, sheet = view_of(batch, "1", now), sheet_of_batch(batch, judgement, now)
        said = text_of(record_pdf(Printed(view, sheet, SIGNED, SITE, (PROBE,), Head(9, "f" * 64, "e" * 64)), now))
    assert not {each for each in PLAIN.findall(said) if re.search("[aeiou]", each)} - cited(plan, judgement)
