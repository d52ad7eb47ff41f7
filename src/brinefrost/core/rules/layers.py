"""A kitchen's own rules on top of its rule set: stricter as it likes, looser only with a written reason."""

from typing import Literal

from pydantic import Field

from brinefrost.core.errors import RefusedError
from brinefrost.core.limits import ComeUp, Composition, Cooling, Ends, Hold, Lethality, Limit, Threshold, Uncontrolled
from brinefrost.core.rules import RuleEntry, RuleSet
from brinefrost.core.words import say
from brinefrost.core.working import Document

Strictness = Literal["stricter", "same", "looser", "different"]


class OwnRule(Document):
    """A kitchen's own limit for a topic; ``reason`` is needed to depart from the rule set."""

    topic: str
    limit: Limit
    reason: str = Field(default="", max_length=600)


def strictness(own: Limit, rule: Limit) -> Strictness:
    """How a kitchen's limit stands to the rule's.

    Parameters
    ----------
    own, rule : Limit
        Of the same topic.

    Returns
    -------
    str
        ``different`` when they cannot be compared, which counts as a departure.

    Raises
    ------
    ValueError
        Never.

    Notes
    -----
    Valid for limits of the same kind: every part at least as strict, and one stricter.

    References
    ----------
    Order of the numbers.
    """
    if own == rule:
        return "same"
    pairs = _pairs(own, rule)
    if pairs is None:
        return "different"
    gaps = [gap for gap in pairs if abs(gap) > 1e-9]
    if not gaps:
        return "same"
    if all(gap > 0 for gap in gaps):
        return "stricter"
    return "looser" if all(gap < 0 for gap in gaps) else "different"


def layered(rules: RuleSet, own: tuple[OwnRule, ...]) -> RuleSet:
    """A rule set with the kitchen's own rules preferred.

    Parameters
    ----------
    rules : RuleSet
        What the kitchen answers to.
    own : tuple of OwnRule
        Its own limits.

    Returns
    -------
    RuleSet
        The same with one more entry for each own rule.

    Raises
    ------
    RefusedError
        If an own rule is not at least as strict as the preferred one and gives no reason.

    Notes
    -----
    Valid for topics the rule set has, and for new ones.

    References
    ----------
    Each limit carries its own.
    """
    added = []
    for each in own:
        entries = rules.entries_for(each.topic)
        stands = strictness(each.limit, entries[0].limit) if entries else "stricter"
        if stands not in ("stricter", "same") and not each.reason.strip():
            raise RefusedError(
                say(
                    "rules.layers.is_not_stricter_than_write_why", title=each.limit.title, title2=entries[0].limit.title
                ),
                topic=each.topic,
            )
        added.append(
            RuleEntry(topic=each.topic, school=say("rules.layers.this_kitchen"), preferred=True, limit=each.limit)
        )
    topics = {each.topic for each in own}
    kept = [
        entry.model_copy(update={"preferred": False}) if entry.topic in topics else entry for entry in rules.entries
    ]
    return rules.model_copy(update={"entries": (*added, *kept)})


def _alike(own: Cooling, rule: Cooling) -> bool:
    """Whether two coolings have the same stages with the same clocks, so that their numbers can be held together."""
    if own.counts_from != rule.counts_from or len(own.stages) != len(rule.stages):
        return False
    return all(a.further == b.further for a, b in zip(own.stages, rule.stages, strict=True))


def _bounds(own: Composition, rule: Composition) -> list[float] | None:
    """Each bound's distance on the strict side, where both have one way with the same bounds."""
    if len(own.ways) != 1 or len(rule.ways) != 1 or len(own.ways[0].bounds) != len(rule.ways[0].bounds):
        return None
    gaps = []
    for mine, theirs in zip(own.ways[0].bounds, rule.ways[0].bounds, strict=True):
        if (mine.quantity, mine.comparison) != (theirs.quantity, theirs.comparison):
            return None
        gaps.append(theirs.value - mine.value if mine.comparison == "at_most" else mine.value - theirs.value)
    return gaps


def _pairs(own: Limit, rule: Limit) -> list[float] | None:
    """Each part's distance on the strict side; None where the two cannot be compared."""
    if isinstance(own, Threshold) and isinstance(rule, Threshold) and own.comparison == rule.comparison:
        return [rule.margin(own.value)]
    if isinstance(own, Ends) and isinstance(rule, Ends) and own.comparison == rule.comparison:
        return [rule.margin(own.value)]
    if isinstance(own, Hold) and isinstance(rule, Hold):
        return [own.at_least_c - rule.at_least_c, own.for_s - rule.for_s]
    if isinstance(own, ComeUp) and isinstance(rule, ComeUp):
        return [rule.from_c - own.from_c, own.to_c - rule.to_c, rule.within_s - own.within_s]
    if isinstance(own, Composition) and isinstance(rule, Composition):
        return _bounds(own, rule)
    if isinstance(own, Cooling) and isinstance(rule, Cooling) and _alike(own, rule):
        gaps = [own.from_c - rule.from_c]
        for mine, theirs in zip(own.stages, rule.stages, strict=True):
            gaps += [theirs.to_c - mine.to_c, theirs.within_s - mine.within_s]
        return gaps
    if isinstance(own, Uncontrolled) and isinstance(rule, Uncontrolled):
        cool = (rule.cool_within_s or 0.0) - (own.cool_within_s or 0.0)
        hot = (rule.hot_within_s or rule.within_s) - (own.hot_within_s or own.within_s)
        return [rule.within_s - own.within_s, cool, hot]
    if isinstance(own, Lethality) and isinstance(rule, Lethality):
        ours, law = own.model.law(), rule.model.law()
        same = (ours.knots_c, ours.reference_c, ours.slopes) == (law.knots_c, law.reference_c, law.slopes)
        return [ours.goal_min - law.goal_min] if same else None
    return None
