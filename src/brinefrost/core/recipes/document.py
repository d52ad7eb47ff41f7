"""What was read out of a recipe: a plan to go on from, and of each line what was understood, assumed and left open."""

from typing import Any

from brinefrost.core.plans.document import Plan
from brinefrost.core.words import Words
from brinefrost.core.words.manner import Language
from brinefrost.core.working import Sent


class ReadIngredient(Sent):
    """A line of the list: which row it is, and how much of it."""

    text: str
    name: Words
    catalogue: str | None
    kg: float = 0.0  # 0: nothing is said that weighs
    assumed: Words = ""  # how its kilograms were come by, where they were not said


class ReadStep(Sent):
    """A step and the words it was read from; ``assumed``: each setting that no word of the recipe gives."""

    step: str
    text: str
    assumed: tuple[Words, ...] = ()


class Option(Sent):
    """An answer that is usual: the settings it gives, by step; or the step an ingredient goes in at."""

    words: Words
    settings: dict[str, dict[str, Any]] = {}
    enters: str = ""


class RecipeQuestion(Sent):
    """What the recipe does not say and the verdict hangs on, with the usual answers, the one that was taken first."""

    step: str
    words: Words
    options: tuple[Option, ...]
    ingredient: str = ""  # whose place is asked for


class RecipeReading(Sent):
    """A recipe as a draft."""

    language: Language
    plan: Plan
    ingredients: tuple[ReadIngredient, ...]
    steps: tuple[ReadStep, ...]
    questions: tuple[RecipeQuestion, ...]
    unread: tuple[str, ...]  # lines of the method nothing was made of
