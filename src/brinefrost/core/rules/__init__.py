"""Rule sets: data with citations, read once."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Any, Literal, TypeVar

from brinefrost.core.errors import NotFoundError
from brinefrost.core.limits import Limit, LimitBase, Threshold
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document, Source

AnyLimit = TypeVar("AnyLimit", bound=LimitBase)
RuleSetId = Literal["us", "uk", "eu", "anz"]
RULE_SET_IDS: tuple[RuleSetId, ...] = ("us", "uk", "eu", "anz")


class RuleEntry(Document):
    """One limit a rule set gives for a topic, and the school it belongs to."""

    topic: str
    school: Words
    preferred: bool = False
    approval: Words = ""  # whose leave is needed before it may be used
    unless_served: bool = False  # what is served at once is not asked for it
    answers: tuple[str, ...] = ()  # organisms that it answers for where it is met: their clocks pass over its fall
    general: bool = False  # comes first for what is kept a few days in any cold store, not as cook-chill
    of: tuple[str, ...] = ()  # only for food that is all of this: sealed, cooked in its bag, fish; it then comes first
    species: tuple[str, ...] = ()  # the only foods it was made for; none named: all of its topic
    limit: Limit


Eaten = Literal["raw", "rare", "soured", "dried"]  # raw, and held by its acid alone, or by salt and drying


class Undone(Document):
    """What may leave the kitchen raw or rare for general guests, and whether its guests are told.

    ``tags``: any of them; ``opened``: minced, rolled, filled or pierced too.
    """

    eaten: tuple[Eaten, ...]
    tags: tuple[str, ...]
    opened: bool
    advisory: bool
    source: Source


class RuleSet(Document):
    """What a kitchen answers to."""

    id: str
    name: str
    edition: str
    authority: str
    entries: tuple[RuleEntry, ...]
    undone: tuple[Undone, ...] = ()

    def entries_for(self, topic: str) -> tuple[RuleEntry, ...]:
        """Every school for a topic, the preferred one first."""
        found = [entry for entry in self.entries if entry.topic == topic]
        return tuple(sorted(found, key=lambda entry: not entry.preferred))

    def limit_for(self, topic: str) -> Limit:
        """The preferred limit for a topic.

        Raises NotFoundError if the rule set has none.
        """
        entries = self.entries_for(topic)
        if not entries:
            raise NotFoundError(say("rules.rules.the_rule_set_has_no_limit", name=self.name, topic=topic), topic=topic)
        return entries[0].limit

    def limit_as(self, topic: str, kind: type[AnyLimit]) -> AnyLimit:
        """The preferred limit for a topic, of the kind it is known to be.

        Raises NotFoundError if there is none of that kind.
        """
        return _of_kind(self.limit_for(topic), kind, topic)

    def bound_for(self, topic: str) -> Threshold:
        """The preferred plain bound for a topic.

        Raises NotFoundError if the rule set has none.
        """
        return self.limit_as(topic, Threshold)


@lru_cache(maxsize=len(RULE_SET_IDS))
def rule_set(rule_set_id: str) -> RuleSet:
    """Load a rule set by its id.

    Its limits with their sources. Raises NotFoundError if there is no such rule set. Valid ids are the TOML files
    beside this module.
    """
    if rule_set_id not in RULE_SET_IDS:
        raise NotFoundError(say("rules.rules.there_is_no_rule_set", rule_set_id=rule_set_id), rule_set=rule_set_id)
    return RuleSet.model_validate(_resolved(_read(rule_set_id)))


@lru_cache(maxsize=1)
def targets() -> tuple[RuleEntry, ...]:
    """Limits that no single rule set owns: lethality targets, pH lines, growth, degree-hours."""
    return tuple(RuleEntry.model_validate(each) for each in _read("targets")["entries"])


def targets_for(topic: str) -> tuple[RuleEntry, ...]:
    """Every school for a topic among the targets, the preferred one first."""
    found = [entry for entry in targets() if entry.topic == topic]
    if not found:
        raise NotFoundError(say("rules.rules.there_is_no_target_for", topic=topic), topic=topic)
    return tuple(sorted(found, key=lambda entry: not entry.preferred))


def target(limit_id: str, kind: type[AnyLimit]) -> AnyLimit:
    """One target by its id, of the kind it is known to be.

    Raises NotFoundError if there is none.
    """
    found = next((entry.limit for entry in targets() if entry.limit.id == limit_id), None)
    if found is None:
        raise NotFoundError(say("rules.rules.there_is_no_target", limit_id=limit_id), target=limit_id)
    return _of_kind(found, kind, limit_id)


def _of_kind(limit: Limit, kind: type[AnyLimit], name: str) -> AnyLimit:
    if not isinstance(limit, kind):
        raise NotFoundError(
            say("rules.rules.the_limit_for_is_not_a", name=name, name2=kind.__name__.lower()), name=name
        )
    return limit


def _read(name: str) -> dict[str, Any]:
    return tomllib.loads(resources.files(__name__).joinpath(f"{name}.toml").read_text(encoding="utf-8"))


def _resolved(data: dict[str, Any]) -> dict[str, Any]:
    """An entry may name a target instead of spelling out its limit."""
    by_id = {entry.limit.id: entry.limit for entry in targets()}
    entries = [
        {key: value for key, value in entry.items() if key != "target"} | {"limit": by_id[entry["target"]]}
        if "target" in entry
        else entry
        for entry in data["entries"]
    ]
    return data | {"entries": entries}
