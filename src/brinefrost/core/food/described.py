"""A food that no row of the catalogue names: the lead says what it is, and the strictest that fits is taken."""

from typing import Literal

from pydantic import Field

from brinefrost.core.food.catalogue import Allergen, CatalogueIngredient
from brinefrost.core.food.media import FoodKey
from brinefrost.core.working import Document

Nature = Literal["meat", "bird", "fish", "shellfish", "egg", "dairy", "plant", "grain", "mixture", "harmless"]
State = Literal["raw", "cooked", "ready", "sour", "dry"]
# what each is at its strictest: whose lines are the highest, and what may come with it
TAGS: dict[Nature, tuple[str, ...]] = {
    "meat": ("meat", "red_meat", "game", "minced"),
    "bird": ("meat", "poultry", "minced"),
    "fish": ("fish", "parasites", "scombroid"),
    "shellfish": ("bivalve", "crustacean", "shellfish"),
    "egg": ("egg", "pooled_egg"),
    "dairy": ("dairy",),
    "plant": ("plant", "soil", "leafy"),
    "grain": ("starch", "plant"),
    "mixture": ("meat", "poultry", "minced", "egg", "pooled_egg", "dairy", "starch", "plant", "soil"),
    "harmless": (),  # sugar, salt, spirits: nothing grows in it and nothing comes with it
}
ALLERGENS: dict[Nature, tuple[Allergen, ...]] = {
    "fish": ("fish",), "shellfish": ("crustaceans", "molluscs"), "egg": ("eggs",), "dairy": ("milk",),
}  # fmt: skip
# whose thermal values it is planned with: the slowest of the table that could be its own
VALUES: dict[Nature, FoodKey] = {
    "meat": "fat_meat", "bird": "fat_meat", "fish": "fish", "shellfish": "fish", "egg": "egg_sauce",
    "dairy": "custard", "plant": "vegetable", "grain": "stew", "mixture": "fat_meat", "harmless": "stew",
}  # fmt: skip
GROWS_IN: frozenset[Nature] = frozenset({"meat", "bird", "fish", "shellfish", "egg", "dairy", "mixture"})


class Described(Document):
    """What a food is, by whoever answers for it by name."""

    nature: Nature
    state: State
    made_by: str = Field(default="", max_length=80)  # who made it, as its label says
    answered_by: str = Field(default="", max_length=80)

    @property
    def is_answered(self) -> bool:
        """Whether somebody answers for it, and what was made by others names its maker."""
        bought = self.state == "raw" or len(self.made_by.strip()) > 1
        return bought and len(self.answered_by.strip()) > 1

    def row(self, name: str) -> CatalogueIngredient:
        """As a row of the catalogue. Valid for every name; each hazard that fits is raised."""
        state = {
            "raw": ("raw", *(("raw_flour",) if self.nature == "grain" else ())),
            "cooked": ("cooked",),
            "ready": ("ready", *(("grows_listeria",) if self.nature in GROWS_IN else ())),
            "sour": ("ready",),
            "dry": ("ready",),
        }[self.state]
        tags = TAGS[self.nature] if self.nature == "harmless" else (*state, *TAGS[self.nature])
        if self.state != "raw":  # worms and what a mincer brings are its maker's
            tags = tuple(tag for tag in tags if tag not in ("parasites", "pooled_egg"))
        return CatalogueIngredient(
            key="described", name=name, group="", tags=tags, allergens=ALLERGENS.get(self.nature, ()),
            food=VALUES[self.nature], inert=self.nature == "harmless",
            kept_as=self._kept_as(),
        )  # fmt: skip

    def _kept_as(self) -> Literal["dry", "cold"] | None:
        """On a shelf what is dry, or nothing grows in; in the cold what is ready to eat."""
        if self.state == "dry" or self.nature == "harmless":
            return "dry"
        return "cold" if self.state == "ready" else None
