"""How much nitrite a rule set lets in: one limit for the Bench's page and for the steps of a plan."""

from typing import Literal

from brinefrost.core.limits import Composition, Measured, Verdict
from brinefrost.core.rules import RuleSetId, rule_set

ProductKey = Literal["comminuted", "whole", "bacon", "dry_cured"]
TOPICS: dict[str, str] = {
    "comminuted": "cure.comminuted",
    "whole": "cure.immersion",
    "bacon": "cure.bacon",
    "dry_cured": "cure.dry",
}


def nitrite_limit(rule_set_id: RuleSetId, product: ProductKey) -> Composition:
    """The limit for a product; a rule set with one limit for all uses that. Valid for every rule set and product."""
    rules = rule_set(rule_set_id)
    topic = TOPICS[product] if rules.entries_for(TOPICS[product]) else "cure.comminuted"
    return rules.limit_as(topic, Composition)


def judge_nitrite(limit: Composition, ppm: float) -> Verdict:
    """Judged in whole ppm [mg/kg], as the limits are stated: 7.1 g in 45.4 kg count as 156. Valid from 0."""
    return limit.judge({"nitrite": Measured(value=float(round(ppm)))}, "computed")
