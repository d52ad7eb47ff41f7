"""Plans to begin from: data on kinds of step, each with the one change that spoils it."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Any

from brinefrost.core.errors import NotFoundError
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.document import Family, Ingredient, Plan
from brinefrost.core.plans.family import FAMILIES, find_family
from brinefrost.core.rules import RuleSetId
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document


class Spoil(Document):
    """One setting that makes the template fail: its proof must see it."""

    step: str
    setting: str
    value: float | str


class Template(Document):
    """A plan to begin from."""

    key: str
    name: Words
    family: Family
    about: Words
    ingredients: tuple[str, ...]
    made_here: tuple[str, ...] = ()  # of them, what comes of batches of this kitchen
    enters: dict[str, str] = {}  # of them, what goes in later than at the first step: at which
    steps: tuple[dict[str, Any], ...]
    spoil: Spoil | None = None

    def plan(self, name: str, rule_set_id: RuleSetId, altitude_m: float | None = None) -> Plan:
        """It as a plan of a name under a rule set for a kitchen so high up [m], with nothing weighed yet."""
        known = [catalogue().ingredient(key) for key in self.ingredients]
        ingredients = tuple(
            Ingredient(
                name=k.name,
                catalogue=k.key,
                allergens=k.allergens,
                made_here=k.key in self.made_here,
                enters=self.enters.get(k.key, ""),
            )
            for k in known
        )
        document = {
            "name": name,
            "rule_set": rule_set_id,
            "altitude_m": altitude_m,
            "ingredients": ingredients,
            "steps": self.steps,
        }
        plan = Plan.model_validate(document)
        return plan if find_family(plan) == self.family else plan.model_copy(update={"family": self.family})


@lru_cache(maxsize=1)
def templates() -> dict[str, Template]:
    """Every template by its key, the empty bag first."""
    files = sorted(each.name for each in resources.files(__package__).iterdir() if each.name.endswith(".toml"))
    found = {}
    for file in files:
        data = tomllib.loads(resources.files(__package__).joinpath(file).read_text(encoding="utf-8"))
        key = file.removesuffix(".toml")
        found[key] = Template.model_validate({"key": key, **data})
    return found


def by_family() -> tuple[Template, ...]:
    """Every template, family by family."""
    return tuple(sorted(templates().values(), key=lambda each: FAMILIES.index(each.family)))


def template(key: str) -> Template:
    """The template of a key."""
    if key not in templates():
        raise NotFoundError(say("plans.templates.there_is_no_template", key=key), template=key)
    return templates()[key]
