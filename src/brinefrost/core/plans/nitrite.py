"""Curing salt in a plan: no more nitrite and nitrate than its rule set lets in."""

from brinefrost.core.kitchen.nitrite import ProductKey, Salt, cure_limit, judge_nitrite
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.foods import passages_on
from brinefrost.core.steps.document import Finding
from brinefrost.core.steps.salting import Salting, nitrate_ppm, nitrite_ppm
from brinefrost.core.words import say


def find_nitrite(way: Plan) -> tuple[Finding, ...]:
    """Steps whose curing salt brings more nitrite or nitrate than the rule set lets in, by the kind of goods and the
    way.

    Valid for a plan of one line. Minced goods answer to their own line, bellies, dry-cured pieces and brined ones to
    theirs.
    """
    found: list[Finding] = []
    carried: dict[Salt, float] = {"nitrite": 0.0, "nitrate": 0.0}
    for step in way.steps:
        if not isinstance(step, Salting):
            continue
        product = _product(step, passages_on(way)[step.id].before.tags)
        brought: dict[Salt, float] = {"nitrite": nitrite_ppm(step), "nitrate": nitrate_ppm(step)}
        for salt, ppm in brought.items():
            carried[salt] += ppm  # a second salting adds to the first
            limit = cure_limit(way.rule_set, product, salt)
            verdict = judge_nitrite(limit, carried[salt], salt) if limit and ppm else None
            if verdict is not None and verdict.state != "pass":
                said = say(f"plans.nitrite.too_much_{salt}", name=step.name, said=verdict.sentence)
                found.append(Finding(step=step.id, state="fails", sentence=said))
    return tuple(found)


def _product(step: Salting, tags: frozenset[str]) -> ProductKey:
    """What it is by the law: dry-cured and brined bellies are bacon."""
    if "minced" in tags:
        return "comminuted"
    if "belly" in tags:
        return "dry_bacon" if step.way == "rubbed" else "bacon"
    return "dry_cured" if step.way == "rubbed" else "whole"
