"""Curing salt in a plan: no more nitrite than its rule set lets in."""

from brinefrost.core.kitchen.nitrite import ProductKey, judge_nitrite, nitrite_limit
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.foods import passages_on
from brinefrost.core.steps.document import Finding
from brinefrost.core.steps.salting import Salting, nitrite_ppm
from brinefrost.core.words import say


def find_nitrite(way: Plan) -> tuple[Finding, ...]:
    """Steps whose curing salt brings more nitrite than the rule set lets in, by the kind of goods and the way.

    Valid for a plan of one line. Minced goods answer to their own line, dry-cured pieces and brined ones to theirs.
    """
    found: list[Finding] = []
    for step in way.steps:
        if not isinstance(step, Salting) or not nitrite_ppm(step):
            continue
        minced = "minced" in passages_on(way)[step.id].before.tags
        product: ProductKey = "comminuted" if minced else "dry_cured" if step.way == "rubbed" else "whole"
        verdict = judge_nitrite(nitrite_limit(way.rule_set, product), nitrite_ppm(step))
        if verdict.state != "pass":
            said = say("plans.nitrite.too_much", name=step.name, said=verdict.sentence)
            found.append(Finding(step=step.id, state="fails", sentence=said))
    return tuple(found)
