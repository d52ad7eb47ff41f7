"""How much nitrite and nitrate a rule set lets in: one limit for the Bench's page and for the steps of a plan."""

from typing import Literal

from brinefrost.core.limits import Composition, Measured, Verdict
from brinefrost.core.rules import RuleSetId, rule_set

ProductKey = Literal["comminuted", "whole", "bacon", "dry_bacon", "dry_cured"]
Salt = Literal["nitrite", "nitrate"]
WAYS: dict[ProductKey, str] = {
    "comminuted": "comminuted",
    "whole": "immersion",
    "bacon": "bacon",
    "dry_bacon": "dry_bacon",
    "dry_cured": "dry",
}
FIRST: dict[Salt, str] = {"nitrite": "cure", "nitrate": "nitrate"}  # of the topics


def cure_limit(rule_set_id: RuleSetId, product: ProductKey, salt: Salt) -> Composition | None:
    """The limit for a product; a rule set with one limit for all uses that. None where it has none.

    Valid for every rule set and product.
    """
    rules, first = rule_set(rule_set_id), FIRST[salt]
    own, usual = f"{first}.{WAYS[product]}", f"{first}.comminuted"
    topic = own if rules.entries_for(own) else usual
    return rules.limit_as(topic, Composition) if rules.entries_for(topic) else None


def nitrite_limit(rule_set_id: RuleSetId, product: ProductKey) -> Composition:
    """As ``cure_limit`` for nitrite, of which every rule set has one; raises NotFoundError where one has none."""
    found = cure_limit(rule_set_id, product, "nitrite")
    return found or rule_set(rule_set_id).limit_as("cure.comminuted", Composition)


def judge_nitrite(limit: Composition, ppm: float, salt: Salt = "nitrite") -> Verdict:
    """Judged in whole ppm [mg/kg], as the limits are stated: 7.1 g in 45.4 kg count as 156. Valid from 0."""
    return limit.judge({salt: Measured(value=float(round(ppm)))}, "computed")
