"""Steps as they come out of a recipe, one after the other, with what was assumed and asked on the way."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from brinefrost.core.food.catalogue import CatalogueIngredient, catalogue
from brinefrost.core.recipes.amounts import goods
from brinefrost.core.recipes.clauses import Clause
from brinefrost.core.recipes.document import Option, RecipeQuestion
from brinefrost.core.steps import KINDS
from brinefrost.core.words import Words, mm, say

LEAST_M = 0.005  # thinner than this nothing is planned for
FLESH = frozenset({"meat", "fish", "shellfish"})
UNSAID_M = 0.03
MOULD_M = 0.03  # a custard, a quiche; common practice, no source


@dataclass
class Made:
    """A step to be, with the words it comes of. ``core_c``: it lasts until its core is so warm, or so cold."""

    settings: dict[str, Any]
    name: Words
    text: str
    assumed: list[Words] = field(default_factory=list)
    core_c: float | None = None

    @property
    def id(self) -> str:
        """Its id in the plan."""
        return str(self.settings["id"])

    @property
    def kind(self) -> str:
        """Its kind."""
        return str(self.settings["kind"])


@dataclass
class Making:
    """A recipe's steps so far, and what the food is by now. ``rows``: kilograms by row, 0 where unsaid."""

    rows: dict[str, float]
    boils_c: float
    vinegar_percent: float | None = None
    steps: list[Made] = field(default_factory=list)
    questions: list[RecipeQuestion] = field(default_factory=list)
    enters: dict[str, str] = field(default_factory=dict)  # row: the step it goes in at
    pending: list[str] = field(default_factory=list)  # mentioned, and no step since
    thick: dict[str, float] = field(default_factory=dict)  # row: how thick a word of the recipe says it is [m]
    oven_c: float | None = None  # what the oven was turned to before
    sealed: bool = False
    cooked: bool = False
    liquid: bool = False
    mixed: bool = False
    balls: bool = False
    strained: bool = False
    taken: set[str] = field(default_factory=set)  # rows a mixing took that named none of them
    rested: bool = False  # kept or chilled since it was cooked

    def add(self, kind: str, action: str, clause: Clause, assumed: tuple[Words, ...] = (), **settings: Any) -> Made:
        """A step more; a setting its kind cannot take is the nearest it can, and told as assumed."""
        number = sum(step.kind == kind for step in self.steps) + 1
        name = say(f"recipes.names.{action}")
        same = sum(step.name == name for step in self.steps)
        made = Made(
            {"kind": kind, "id": kind.replace("_", "-") + (f"-{number}" if number > 1 else ""),
             "name": str(name) + (f" {same + 1}" if same else ""), **KINDS[kind].blank, **settings},
            name, clause.said, list(assumed),
        )  # fmt: skip
        _fit(made)
        self.steps.append(made)
        return made

    def ask(self, made: Made, words: Words, options: Sequence[tuple[Words, Mapping[str, Any]]]) -> None:
        """What the recipe does not say of a step, with its usual answers; the first was taken."""
        can = tuple(
            Option(words=said, settings={made.id: dict(settings)})
            for said, settings in options
            if can_take(made.kind, {**made.settings, **settings})
        )
        if len(can) > 1:
            self.questions.append(RecipeQuestion(step=made.id, words=words, options=can))

    @property
    def below_boil_c(self) -> float:
        """As hot as open water is kept here [°C]: half a degree below its boil, to the tenth."""
        return math.floor((self.boils_c - 0.5) * 10) / 10

    def row(self, key: str) -> CatalogueIngredient:
        """A row of the recipe."""
        return catalogue().ingredient(key)

    def of(self, *tags: str) -> list[str]:
        """The rows with one of some tags, the heaviest first."""
        found = [key for key in self.rows if set(tags) & set(self.row(key).tags)]
        return sorted(found, key=lambda key: -self.rows[key])

    def set_thickness(self, clause: Clause) -> None:
        """How thick a clause says something is: what it names, else what the dish is about."""
        if clause.thickness_m is None:
            return
        named = clause.mentions or tuple(key for key in self.rows if clause.groups & set(self.row(key).tags))
        for key in named or tuple(filter(None, (self.main(),))):
            self.thick[key] = clause.thickness_m

    def kilograms(self, keys: list[str]) -> float:
        """What some rows come to."""
        return sum(self.rows[key] for key in keys)

    def main(self, among: tuple[str, ...] = ()) -> str | None:
        """What the dish, or some of it, is about: the heaviest flesh, else eggs, else the heaviest of all."""
        for tags in (("meat", "fish", "shellfish"), ("egg",), ("plant", "starch", "dairy")):
            found = [key for key in self.of(*tags) if not among or key in among]
            if found:
                return found[0]
        return self.main() if among else next(iter(self.rows), None)

    def piece_m(self, among: tuple[str, ...] = ()) -> tuple[float, tuple[Words, ...]]:
        """The thickest piece [m], of all or of what a clause names and is in already; told where no word gives it."""
        among = tuple({*among, *self.enters, *self.pending}) if among else ()
        key, table = self.main(among), goods()
        if key in self.thick:
            return self.thick[key], ()
        if self.mixed and (key == "egg" or (not among and self.of("egg"))):  # beaten, in a mould
            return MOULD_M, (say("recipes.assumed.thickness", thickness=mm(MOULD_M * 1000)),)
        found = table.thickness.get(key or "")
        if found is None and key is not None:
            tags = self.row(key).tags
            found = next((value for tag, value in table.thickness_of.items() if tag in tags), None)
        found = UNSAID_M if found is None else found
        return found, (say("recipes.assumed.thickness", thickness=mm(found * 1000)),)

    def ask_thickness(self) -> None:
        """Once in a recipe, where no word of it says: how thick the thickest piece is, at every step that has one."""
        steps = [step for step in self.steps if any(tells(each, "recipes.assumed.thickness") for each in step.assumed)]
        named = {step.id: "piece_m" if "piece_m" in step.settings else "thickness_m" for step in steps}
        heated = [step for step in steps if step.kind in ("heat_in", "bath_cook", "microwave", "simmer")]
        if not heated:
            return
        usual = float(heated[0].settings[named[heated[0].id]])
        named = {s.id: named[s.id] for s in steps if s.settings[named[s.id]] == usual}
        values = dict.fromkeys([usual, *(max(LEAST_M, round(usual * s / LEAST_M) * LEAST_M) for s in (0.7, 1.5))])
        options = tuple(
            Option(words=mm(value * 1000), settings={step: {name: value} for step, name in named.items()})
            for value in values
        )
        self.questions.insert(
            0, RecipeQuestion(step=heated[0].id, words=say("recipes.asked.thickness"), options=options)
        )


def tells(words: Words, code: str) -> bool:
    """Whether words say a certain thing, by its code."""
    return getattr(words, "code", "") == code


def can_take(kind: str, settings: dict[str, Any]) -> bool:
    """Whether settings make a step of a kind."""
    try:
        KINDS[kind].settings.model_validate(settings)
    except ValidationError:
        return False
    return True


def _fit(made: Made) -> None:
    """The nearest that the kind can take, never what a new step begins with: that may be far hotter or longer."""
    kind = KINDS[made.kind]
    for _ in range(4):
        try:
            kind.settings.model_validate(made.settings)
            return
        except ValidationError as error:
            for each in error.errors():
                name = str((*each["loc"], "")[0])
                bound = next((b for key, b in each.get("ctx", {}).items() if key in ("ge", "le", "gt", "lt")), None)
                if name not in made.settings or bound is None:
                    return
                given, made.settings[name] = made.settings[name], bound
                made.assumed.append(say("recipes.assumed.out_of_range", value=f"{given:g}", bound=f"{bound:g}"))
