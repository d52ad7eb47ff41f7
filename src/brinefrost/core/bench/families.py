"""All questions of the Bench by family, each opening on real questions."""

import tomllib
from collections.abc import Callable
from datetime import date, timedelta
from functools import lru_cache
from importlib import resources
from typing import Any, NamedTuple

from brinefrost.core.bench.acid import answer_acid
from brinefrost.core.bench.acid_question import AcidQuestion
from brinefrost.core.bench.answer import BenchAnswer
from brinefrost.core.bench.chill import answer_chill
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.clocks import answer_clocks
from brinefrost.core.bench.clocks_question import ClocksQuestion
from brinefrost.core.bench.cure import CureQuestion, answer_cure
from brinefrost.core.bench.dates import DatesQuestion, answer_dates
from brinefrost.core.bench.dry import DryQuestion, answer_dry
from brinefrost.core.bench.egg_question import EggQuestion
from brinefrost.core.bench.eggs import answer_eggs
from brinefrost.core.bench.ferment import FermentQuestion, answer_ferment
from brinefrost.core.bench.fish import answer_fish
from brinefrost.core.bench.fish_question import FishQuestion
from brinefrost.core.bench.fit import FitQuestion, answer_fit
from brinefrost.core.bench.heat import answer_heat
from brinefrost.core.bench.heat_question import HeatQuestion
from brinefrost.core.bench.jars import JarQuestion, answer_jars
from brinefrost.core.bench.kill import KillQuestion, answer_kill
from brinefrost.core.bench.kit import answer_kit
from brinefrost.core.bench.kit_question import KitQuestion
from brinefrost.core.bench.rules import RulesQuestion, answer_rules
from brinefrost.core.bench.salt import answer_salt
from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.smoke import answer_smoke
from brinefrost.core.bench.smoke_question import SmokeQuestion
from brinefrost.core.errors import NotFoundError
from brinefrost.core.fields import FieldSpec, specs_of
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document


class Family(NamedTuple):
    """A question's shape and who answers it."""

    question: type[Document]
    answer: Callable[[Any], BenchAnswer]


FAMILIES: dict[str, Family] = {
    "heat": Family(HeatQuestion, answer_heat),
    "kill": Family(KillQuestion, answer_kill),
    "fit": Family(FitQuestion, answer_fit),
    "chill": Family(ChillQuestion, answer_chill),
    "clocks": Family(ClocksQuestion, answer_clocks),
    "acid": Family(AcidQuestion, answer_acid),
    "ferment": Family(FermentQuestion, answer_ferment),
    "salt": Family(SaltQuestion, answer_salt),
    "cure": Family(CureQuestion, answer_cure),
    "dry": Family(DryQuestion, answer_dry),
    "smoke": Family(SmokeQuestion, answer_smoke),
    "fish": Family(FishQuestion, answer_fish),
    "eggs": Family(EggQuestion, answer_eggs),
    "jars": Family(JarQuestion, answer_jars),
    "dates": Family(DatesQuestion, answer_dates),
    "kit": Family(KitQuestion, answer_kit),
    "rules": Family(RulesQuestion, answer_rules),
}


class Preset(Document):
    """A question as people ask it."""

    key: str
    words: Words
    question: dict[str, Any]


OURS_M = 2140.0  # where nobody says how high the kitchen is: stricter than the sea


class FamilyRead(Document):
    """A family as its page needs it."""

    key: str
    fields: tuple[FieldSpec, ...]
    presets: tuple[Preset, ...]


@lru_cache(maxsize=1)
def _presets() -> dict[str, Any]:
    return tomllib.loads(resources.files(__package__).joinpath("presets.toml").read_text(encoding="utf-8"))


def presets(today: date) -> dict[str, tuple[tuple[str, Document], ...]]:
    """The questions each family opens on; the first is shown when the page is opened."""
    return {
        key: tuple(
            (each["words"], family.question.model_validate(_date(each.get("question", {}), today)))
            for each in _presets()[key]
        )
        for key, family in FAMILIES.items()
    }


def _date(value: Any, today: date) -> Any:
    """Dates written as days from today, put in."""
    if isinstance(value, dict):
        return {name: _date(inner, today) for name, inner in value.items()}
    if isinstance(value, list):
        return [_date(inner, today) for inner in value]
    if isinstance(value, str) and value.startswith("today"):
        return today + timedelta(days=int(value[5:] or 0))
    return value


def families(today: date, altitude_m: float = OURS_M) -> tuple[FamilyRead, ...]:
    """Every family with its fields and the questions it opens on, at the kitchen's own height [m].

    Valid from -100 to 4500 m.
    """
    opening = presets(today)
    return tuple(
        FamilyRead(
            key=key,
            fields=tuple(_at_height(spec, altitude_m) for spec in specs_of(family.question)),
            presets=tuple(
                Preset(
                    key=f"{key}-{i + 1}",
                    words=words,
                    question=_place(question, altitude_m).model_dump(mode="json"),
                )
                for i, (words, question) in enumerate(opening[key])
            ),
        )
        for key, family in FAMILIES.items()
    )


def _at_height(spec: FieldSpec, altitude_m: float) -> FieldSpec:
    return spec.model_copy(update={"fallback": altitude_m}) if spec.name == "altitude_m" else spec


def _place(question: Document, altitude_m: float) -> Document:
    """An opening question at the kitchen's height, unless it names one of its own."""
    if "altitude_m" not in type(question).model_fields or "altitude_m" in question.model_fields_set:
        return question
    return question.model_copy(update={"altitude_m": altitude_m})


def answer(key: str, question: Document, today: date) -> BenchAnswer:
    """Answer a question of a family, asked on a day of the kitchen's."""
    if key not in FAMILIES:
        raise NotFoundError(say("bench.families.the_bench_has_no_page", key=key), family=key)
    return FAMILIES[key].answer(question.on(today) if isinstance(question, DatesQuestion) else question)
