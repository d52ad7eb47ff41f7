"""A kitchen's own rules on top of its rule set: stricter as it likes, looser only with a written reason."""

from typing import Literal

from pydantic import Field

from brinefrost.core.errors import RefusedError
from brinefrost.core.limits import Limit
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

    ``different`` when they cannot be compared, which counts as a departure. Valid for limits of the same kind: every
    part at least as strict, and one stricter.
    """
    if own == rule:
        return "same"
    pairs = own.stricter_by(rule)
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

    The same with one more entry for each own rule. Raises RefusedError if an own rule is not at least as strict as the
    preferred one and gives no reason. Valid for topics the rule set has, and for new ones.
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
