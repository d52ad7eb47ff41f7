"""Which line of a rule set cooked food answers to, by what it is and what hands made of it."""

from brinefrost.core.limits import Lethality, Limit
from brinefrost.core.rules import target

ANIMALS = ("meat", "poultry", "fish", "egg", "crustacean", "bivalve")


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
    ):
        if tag in tags:
            return topic
    return "cook.whole"


def more_lines(tags: frozenset[str]) -> tuple[Limit, ...]:
    """What is asked beside the rule set's line: yolks by their own table, plants as ready-to-eat food is.

    Valid for every set of tags. Salt or sugar of 2 % or more protects what is to be killed.
    """
    if line_of(tags) is None:
        return (target("listeria-p70", Lethality),)
    if "yolk" in tags:
        return (target("egg-yolk-salted" if "salted" in tags else "egg-yolk", Lethality),)
    return ()
