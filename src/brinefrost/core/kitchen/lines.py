"""Which line of a rule set cooked food answers to, by what it is and what hands made of it: one answer for all."""

from functools import lru_cache
from typing import Literal

from brinefrost.core.limits import Hold, Lethality, Limit, Looked, Threshold, TimeAbove
from brinefrost.core.rules import RULE_SET_IDS, RuleEntry, RuleSet, RuleSetId, rule_set, target, targets_for

Animal = Literal[
    "beef", "pork", "poultry", "other_bird", "game", "wild_boar", "fish", "bivalve", "crustacean", "egg", "plant"
]
PieceState = Literal["whole", "steak", "pierced", "rolled", "filled", "glued", "minced"]
ANIMALS = ("meat", "poultry", "fish", "egg", "crustacean", "bivalve")
OTHER_BIRDS = frozenset(
    {"goose", "duck", "turkey", "quail", "pigeon", "guinea_fowl", "pheasant", "partridge", "ostrich"}
)
# inside was outside, or came from another animal: 9 CFR and Food Code 3-401.11(A)(2)
OPENED: tuple[PieceState, ...] = ("pierced", "rolled", "glued", "minced")
TAGS: dict[Animal, frozenset[str]] = {
    "beef": frozenset({"meat", "red_meat", "beef"}),
    "pork": frozenset({"meat", "red_meat", "pork"}),
    "poultry": frozenset({"meat", "poultry", "chicken"}),
    "other_bird": frozenset({"meat", "poultry", "goose"}),
    "game": frozenset({"meat", "red_meat", "game"}),
    "wild_boar": frozenset({"meat", "red_meat", "game", "boar"}),
    "fish": frozenset({"fish"}),
    "bivalve": frozenset({"bivalve", "shellfish"}),
    "crustacean": frozenset({"crustacean", "shellfish"}),
    "egg": frozenset({"egg"}),
    "plant": frozenset({"plant"}),
}
ROASTS: tuple[Animal, ...] = ("beef", "pork")  # whose whole roasts have a table of their own


def tags_of(animal: Animal, piece: PieceState) -> frozenset[str]:
    """What an animal in a state is, in the words ingredients and hands use.

    Valid for every animal and state of the piece.
    """
    made = {"filled"} if piece == "filled" else {"minced"} if piece in OPENED else set[str]()
    roast = {"roast"} if piece == "whole" and animal in ROASTS else set[str]()
    return TAGS[animal] | made | roast


def named(tags: frozenset[str]) -> tuple[Animal, PieceState]:
    """The animal and state by which the Bench asks of such food. A plan's meat is a steak: it knows no roast.

    Valid for every set of tags.
    """
    piece: PieceState = "filled" if "filled" in tags else "minced" if tags & {"minced", "pooled_egg"} else "whole"
    for tag, animal in _BY_TAG:
        if tag in tags:
            if tag == "poultry":
                animal = "poultry" if species_of(tags) == "chicken" else "other_bird"
            return animal, "steak" if piece == "whole" and "meat" in tags else piece
    return "plant", piece


_BY_TAG: tuple[tuple[str, Animal], ...] = (
    ("poultry", "poultry"), ("boar", "wild_boar"), ("game", "game"), ("pork", "pork"), ("meat", "beef"),
    ("fish", "fish"), ("bivalve", "bivalve"), ("crustacean", "crustacean"), ("egg", "egg"),
)  # fmt: skip


def species_of(tags: frozenset[str]) -> str:
    """Whose table may be taken: chicken's for chicken alone; empty where a table of one species is nobody's.

    Valid for every set of tags.
    """
    return "chicken" if "chicken" in tags and not tags & OTHER_BIRDS else ""


def line_of(tags: frozenset[str]) -> str | None:
    """Which line of a rule set cooked food answers to by what it is; None for plants, which no line cooks.

    Valid for every set of tags. What is both, say minced poultry, answers to the bird's.
    """
    if not tags & set(ANIMALS):
        return None
    for tag, topic in (
        ("filled", "cook.filled"),
        ("poultry", "cook.poultry"),
        ("game", "cook.game"),
        ("minced", "cook.minced"),
        ("pooled_egg", "cook.minced"),
        ("roast", "cook.roast"),
    ):
        if tag in tags:
            return topic
    return "cook.whole"


# plants from the field and what nobody knows; bought dairy, chocolate, sugar and fat are warmed and not cooked
NEEDS_HEAT = frozenset({"plant", "raw", "starch", "soil", "leafy", "unknown"})


def more_lines(tags: frozenset[str], unboiled: bool = False) -> tuple[Limit, ...]:
    """What is asked beside the rule set's line: yolks by their own table, shellfish with their gut on by the virus's.

    Valid for every set of tags; plants are heated as ready-to-eat food is. Salt or sugar of 2 % or more protects what
    is to be killed. ``unboiled``: beans are in it that nobody has boiled.
    """
    beans = (target("beans-boiled", Hold),) if unboiled else ()
    if line_of(tags) is None:
        return (*((target("listeria-p70", Lethality),) if tags & NEEDS_HEAT else ()), *beans)
    found: list[Limit] = [*beans]
    if "yolk" in tags:
        found.append(target("egg-yolk-salted" if "salted" in tags else "egg-yolk", Lethality))
    if "bivalve" in tags and "muscle" not in tags:
        found.append(target("bivalve-90", Hold))
    return tuple(found)


def seared_line() -> Limit:
    """What is asked of meat that is eaten rare: every face seared, by its colour."""
    return target("seared", Looked)


def ready_to_eat_clocks() -> list[TimeAbove]:
    """How long what is eaten as it is may be above the cold: by steps of temperature, each counted in all."""
    return [entry.limit for entry in targets_for("exposure.ready_to_eat") if isinstance(entry.limit, TimeAbove)]


@lru_cache(maxsize=64)
def rules_for(
    rule_set_id: RuleSetId,
    species: str,
    tags: frozenset[str] = frozenset(),
    general: bool = False,
    kept_c: float | None = None,
) -> RuleSet:
    """A rule set as it is for a food: a table of one species is not another's, and a line for what is sealed, say, or
    cooked in its bag is for that alone and comes first there. ``general``: it is kept for few days, with air; where a
    rule set has lines of its own for that, they come first. ``kept_c``: how
    cold it is kept [°C], for lines that need it so cold. Valid for every rule set."""
    rules = rule_set(rule_set_id)
    mine = [
        entry
        for entry in rules.entries
        if (not entry.species or species in entry.species)
        and tags.issuperset(entry.of)
        and tags.isdisjoint(entry.unless)
        and (entry.kept_at_most_c is None or (kept_c is not None and kept_c <= entry.kept_at_most_c))
    ]
    first = {entry.topic: entry for entry in mine if general and entry.general}
    first |= {entry.topic: entry for entry in mine if entry.of or entry.kept_at_most_c is not None}
    found = [
        entry.model_copy(update={"preferred": entry is first[entry.topic]}) if entry.topic in first else entry
        for entry in mine
    ]
    return rules.model_copy(update={"entries": tuple(found)})


@lru_cache(maxsize=len(RULE_SET_IDS))
def asked_tags(rule_set_id: RuleSetId) -> frozenset[str]:
    """What a rule set's lines ask of a food beside its species. Valid for every rule set."""
    return frozenset(tag for entry in rule_set(rule_set_id).entries for tag in (*entry.of, *entry.unless))


def is_kept_general(rule_set_id: RuleSetId, days: float, airless: bool) -> bool:
    """Whether food that is kept ready for so many days in all [d] answers to the cold of every kitchen, not to
    cook-chill's: for as few days as its rule set gives that, and with air. Valid for every rule set."""
    lines = [entry.limit for entry in rule_set(rule_set_id).entries if entry.general and entry.topic == "keep.days"]
    days_of = lines[0] if lines else rule_set(rule_set_id).limit_for("keep.days")
    return not airless and isinstance(days_of, Threshold) and days <= days_of.value


def lines_of(
    rule_set_id: RuleSetId, animal: Animal, piece: PieceState, approved: bool = False
) -> tuple[RuleEntry, ...]:
    """The schools of a rule set for this food in this state, its own line first; with approval, what it allows first.

    Valid for every animal and state; empty for plants. A table made for one species is left out for another.
    """
    tags = tags_of(animal, piece)
    topic = line_of(tags)
    if topic is None:
        return ()
    found = rules_for(rule_set_id, species_of(tags), frozenset(tags) & asked_tags(rule_set_id)).entries_for(topic)
    return tuple(sorted(found, key=lambda entry: not entry.approval)) if approved else found
