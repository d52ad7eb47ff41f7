"""What a dish declares to those who must not have it."""

from collections.abc import Iterable
from typing import Protocol

from brinefrost.core.food.catalogue import ONCE_CALLED, catalogue
from brinefrost.core.food.described import Described
from brinefrost.core.words import Words, joined, say


class Declares(Protocol):
    """An ingredient as far as its allergens go."""

    @property
    def catalogue(self) -> str | None:
        """What the catalogue knows it as."""

    @property
    def described(self) -> Described | None:
        """What it is said to be, where the catalogue has no row."""

    @property
    def allergens(self) -> tuple[str, ...]:
        """What it declares itself."""


def declared_allergens(ingredients: Iterable[Declares]) -> list[str]:
    """What the ingredients declare, and what the catalogue knows of them; raises NotFoundError for an unknown key.

    Valid for all ingredients.
    """
    known = catalogue()
    return sorted(
        {
            ONCE_CALLED.get(allergen, allergen)
            for item in ingredients
            for allergen in (
                *item.allergens,
                *(known.ingredient(item.catalogue).allergens if item.catalogue else ()),
                *(item.described.row("").allergens if item.described else ()),
            )
        }
    )


def allergens_said(found: list[str]) -> Words:
    """What the plan says of its allergens, or that it has none. Valid for any list."""
    if not found:
        return say("plans.suggest.none_of_the_declarable_allergens_is")
    return say("plans.suggest.declared_in_the_ingredients_say_so", found=joined(found, ", "))
