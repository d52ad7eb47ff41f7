"""Ingredients and hazards: data with sources, read once."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

from pydantic import Field

from brinefrost.core.errors import NotFoundError
from brinefrost.core.working import Document, Source


class Thermal(Document):
    """How a food conducts and holds heat."""

    conductivity_w_mk: float
    diffusivity_m2_s: float
    density_kg_m3: float
    heat_capacity_j_kgk: float
    source: Source


class CatalogueIngredient(Document):
    """An ingredient the catalogue knows."""

    key: str
    name: str
    tags: tuple[str, ...]
    allergens: tuple[str, ...]
    thermal: Thermal | None = None


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
            raise NotFoundError(f"The catalogue has no ingredient “{key}”.", ingredient=key)
        return found

    def hazard(self, key: str) -> CatalogueHazard:
        """The hazard of a key."""
        found = next((item for item in self.hazards if item.key == key), None)
        if found is None:
            raise NotFoundError(f"The catalogue has no hazard “{key}”.", hazard=key)
        return found


@lru_cache(maxsize=1)
def catalogue() -> Catalogue:
    """The catalogue that ships with the application."""
    text = resources.files(__package__).joinpath("catalogue.toml").read_text(encoding="utf-8")
    return Catalogue.model_validate(tomllib.loads(text))
