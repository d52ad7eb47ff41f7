"""Rule sets: data with citations, read once."""

import os
import tomllib
from functools import lru_cache
from importlib import resources
from importlib.resources.abc import Traversable
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal, TypeAlias, TypeVar

from brinefrost.core.errors import NotFoundError
from brinefrost.core.limits import Limit, LimitBase, Threshold
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document, Source

AnyLimit = TypeVar("AnyLimit", bound=LimitBase)
RULES_FOLDER = "BRINEFROST_RULES"  # where a kitchen or an authority keeps rule sets of its own
SHIPPED = ("us", "uk", "eu", "anz")  # in the order they are offered; any other file follows by its name
TARGETS = "targets"  # limits that no single rule set owns


def _files() -> dict[str, Traversable]:
    """Every rule set by its id: the files beside this module, and those of the folder that is named for more."""
    own = os.environ.get(RULES_FOLDER)
    folders: list[Traversable] = [resources.files(__name__), *([Path(own)] if own else [])]
    found = {each.name.removesuffix(".toml"): each for folder in folders for each in folder.iterdir()}
    return {key: each for key, each in found.items() if each.name.endswith(".toml") and key != TARGETS}


def _place(rule_set_id: str) -> tuple[int, str]:
    return (SHIPPED.index(rule_set_id) if rule_set_id in SHIPPED else len(SHIPPED), rule_set_id)


RULE_SET_IDS: tuple[str, ...] = tuple(sorted(_files(), key=_place))
if TYPE_CHECKING:
    RuleSetId: TypeAlias = str
else:
    RuleSetId = Literal[RULE_SET_IDS]  # what a document or a question may name


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
    unless: tuple[str, ...] = ()  # not for food that is any of this
    kept_at_most_c: float | None = None  # only for what is kept no warmer than this [°C]; it then comes first
    species: tuple[str, ...] = ()  # the only foods it was made for; none named: all of its topic
    limit: Limit


Eaten = Literal["raw", "rare", "soured", "dried"]  # raw, and held by its acid alone, or by salt and drying


class Undone(Document):
    """What may leave the kitchen raw or rare for general guests, and whether its guests are told.

    ``tags``: any of them; ``opened``: minced, rolled, filled or pierced too.
    """

    eaten: tuple[Eaten, ...]
    tags: tuple[str, ...]
    unless: tuple[str, ...] = ()  # not for food that is any of this
    opened: bool
    advisory: bool
    source: Source


class RuleSet(Document):
    """What a kitchen answers to."""

    id: str
    name: str
    edition: str
    authority: str
    extends: str | None = None  # whose lines stand where it has none of its own
    entries: tuple[RuleEntry, ...]
    undone: tuple[Undone, ...] = ()

    @property
    def family(self) -> str:
        """The rule set it goes back to: itself where it extends none."""
        return rule_set(self.extends).family if self.extends else self.id

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
    beside this module, and those of the folder that ``BRINEFROST_RULES`` names. What extends another has its own
    topics in place of the other's, and all the rest of it.
    """
    if rule_set_id not in RULE_SET_IDS:
        raise NotFoundError(say("rules.rules.there_is_no_rule_set", rule_set_id=rule_set_id), rule_set=rule_set_id)
    own = RuleSet.model_validate(_resolve(tomllib.loads(_files()[rule_set_id].read_text(encoding="utf-8"))))
    if own.extends is None:
        return own
    base = rule_set(own.extends)
    topics = {entry.topic for entry in own.entries}
    kept = tuple(entry for entry in base.entries if entry.topic not in topics)
    return own.model_copy(update={"entries": (*own.entries, *kept), "undone": own.undone or base.undone})


@lru_cache(maxsize=1)
def targets() -> tuple[RuleEntry, ...]:
    """Limits that no single rule set owns: lethality targets, pH lines, growth, degree-hours."""
    return tuple(RuleEntry.model_validate(each) for each in _read("targets")["entries"])


@lru_cache(maxsize=1)
def _target_limits() -> dict[str, Limit]:
    """By its id: the limit of the first row that bears it."""
    return {entry.limit.id: entry.limit for entry in reversed(targets())}


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
    found = _target_limits().get(limit_id)
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


def _resolve(data: dict[str, Any]) -> dict[str, Any]:
    """An entry may name a target instead of spelling out its limit."""
    by_id = {entry.limit.id: entry.limit for entry in targets()}
    entries = [
        {key: value for key, value in entry.items() if key != "target"} | {"limit": by_id[entry["target"]]}
        if "target" in entry
        else entry
        for entry in data.get("entries", ())
    ]
    return data | {"entries": entries}
