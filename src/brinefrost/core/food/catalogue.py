"""Ingredients and hazards: data with sources, read once."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

from pydantic import Field

from brinefrost.core.errors import NotFoundError
from brinefrost.core.food.media import Food, FoodKey, food
from brinefrost.core.words import say
from brinefrost.core.working import Document, Source


class CatalogueIngredient(Document):
    """An ingredient the catalogue knows."""

    key: str
    name: str
    tags: tuple[str, ...]
    allergens: tuple[str, ...]
    food: FoodKey | None = None  # whose thermal values it is planned with
    species: str | None = None  # of fish: whether it must be frozen before it is eaten raw follows from it
    origin: Literal["wild", "farmed_feed", "farmed_unknown"] = "wild"

    @property
    def thermal(self) -> Food | None:
        """How it conducts and holds heat, where that is known."""
        return food(self.food) if self.food else None


class CatalogueHazard(Document):
    """A hazard, what raises it, and at which kinds of step it can be controlled."""

    key: str
    name: str
    type: Literal["biological", "chemical", "physical", "allergen"]
    tags: tuple[str, ...] = ()
    steps: tuple[str, ...] = ()
    all_needed: bool = False
    guests: tuple[str, ...] = ()  # raised for these guests only; none named: for all
    controlled_at: tuple[str, ...]
    organism: str | None = None  # whose growth and clock it is
    killed_by: str | None = None  # the lethality target that says how fast heat kills it
    comes_with: Literal["goods", "hands", "spores"] = "goods"
    reason: str
    source: Source


class Advice(Document):
    """What the decision usually comes to: offered, never taken by itself."""

    hazard: str
    step: str
    answers: dict[str, bool]
    because: str


class Catalogue(Document):
    """All of it."""

    ingredients: tuple[CatalogueIngredient, ...]
    hazards: tuple[CatalogueHazard, ...]
    advice: tuple[Advice, ...] = Field(default=())

    def ingredient(self, key: str) -> CatalogueIngredient:
        """The ingredient of a key."""
        found = next((item for item in self.ingredients if item.key == key), None)
        if found is None:
            raise NotFoundError(say("food.catalogue.the_catalogue_has_no_ingredient", key=key), ingredient=key)
        return found

    def hazard(self, key: str) -> CatalogueHazard:
        """The hazard of a key."""
        found = next((item for item in self.hazards if item.key == key), None)
        if found is None:
            raise NotFoundError(say("food.catalogue.the_catalogue_has_no_hazard", key=key), hazard=key)
        return found


@lru_cache(maxsize=1)
def catalogue() -> Catalogue:
    """The catalogue that ships with the application."""
    here = resources.files(__package__)
    found: dict[str, object] = {}
    for name in ("ingredients", "hazards"):
        found |= tomllib.loads(here.joinpath(f"{name}.toml").read_text(encoding="utf-8"))
    return Catalogue.model_validate(found)
