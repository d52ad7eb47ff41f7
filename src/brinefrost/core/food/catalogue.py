"""Ingredients and hazards: data with sources, read once."""

import tomllib
from functools import cached_property, lru_cache
from importlib import resources
from typing import Any, Literal

from pydantic import Field

from brinefrost.core.errors import NotFoundError
from brinefrost.core.food.media import FoodKey, ThermalValues, food
from brinefrost.core.words import say
from brinefrost.core.working import Document, Source

# what has to be declared: Reg. (EU) 1169/2011, annex II; every one of the US list, FALCPA and FASTER Act, is among them
Allergen = Literal[
    "celery", "crustaceans", "eggs", "fish", "gluten", "lupin", "milk", "molluscs", "mustard", "nuts", "peanuts",
    "sesame", "soya", "sulphites",
]  # fmt: skip
ONCE_CALLED = {"egg": "eggs"}  # in plans of long ago


class CatalogueIngredient(Document):
    """An ingredient the catalogue knows."""

    key: str
    name: str
    aliases: tuple[str, ...] = ()  # what else it is called, to be found by
    group: str  # under which it is looked for
    tags: tuple[str, ...]
    allergens: tuple[Allergen, ...]
    food: FoodKey | None = None  # whose thermal values it is planned with
    ph_most: float | None = None  # of what is sour by nature: the highest that is usual
    inert: bool = False  # makes nothing less sour
    # on a shelf; there until it is opened; long in the cold, opened too; in the cold, where its tags do not say so
    kept_as: Literal["dry", "tinned", "long", "cold"] | None = None
    species: str | None = None  # of fish: whether it must be frozen before it is eaten raw follows from it
    origin: Literal["wild", "farmed_feed", "farmed_unknown"] = "wild"

    @property
    def thermal(self) -> ThermalValues | None:
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
    with_step: str = ""  # raised only where such a step is in the plan, too
    of_raw: bool = False  # raised by what nobody cooked before it was bought alone
    unless_served: bool = False  # what is served, and never kept, held or frozen, does not raise it
    unless_cooked: bool = False  # what is cooked behind its steps, and not eaten raw or rare, does not raise it
    after_heat: tuple[str, ...] = ()  # steps that raise it where something was heated before them
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

    @cached_property
    def _ingredients_by_key(self) -> dict[str, CatalogueIngredient]:
        return {item.key: item for item in self.ingredients}

    def ingredient(self, key: str) -> CatalogueIngredient:
        """The ingredient of a key."""
        found = self._ingredients_by_key.get(key)
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
    read = {
        name: tomllib.loads(here.joinpath(f"{name}.toml").read_text(encoding="utf-8"))
        for name in ("ingredients", "hazards")
    }
    rows = [_row(group, row) for group in read["ingredients"]["groups"] for row in group["rows"]]
    return Catalogue.model_validate({"ingredients": rows, **read["hazards"]})


def _row(group: dict[str, Any], row: dict[str, Any]) -> dict[str, Any]:
    """A row with what its group says of all."""
    shared: dict[str, Any] = {key: group[key] for key in ("allergens", "food") if key in group}
    tags = [*group["tags"], *row.get("tags", ())]
    return {"allergens": (), **shared, **row, "group": group["name"], "tags": tags}
