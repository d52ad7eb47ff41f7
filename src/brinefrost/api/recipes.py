"""Recipes: a text read into a draft."""

from fastapi import APIRouter, Response
from pydantic import Field

from brinefrost.api.seats import Everyone, OfficeHere
from brinefrost.api.written import written
from brinefrost.core.recipes.document import RecipeReading
from brinefrost.core.recipes.reading import MOST_SIGNS, read_recipe
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Sent

router = APIRouter(prefix="/api/v1", tags=["plans"])


class RecipeText(Sent):
    """A recipe as it was typed or pasted, in any of the languages."""

    text: str = Field(min_length=1, max_length=2 * MOST_SIGNS)
    name: str = Field(default="", max_length=120)
    rule_set: RuleSetId | None = None  # None: the kitchen's own


@router.post("/recipes", response_model=RecipeReading)
def read_recipe_text(entry: RecipeText, actor: Everyone, office: OfficeHere) -> Response:
    """What a recipe says as a draft of a plan: understood, assumed, asked; it is kept nowhere."""
    site = office.read(lambda store: store.site.read())
    rules: RuleSetId = entry.rule_set or site.rule_set
    return written(read_recipe(entry.text, rules, site.altitude_m, entry.name))
