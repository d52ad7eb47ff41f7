"""The Bench in °F, inches and ounces: no page shows another unit than was chosen."""

import json
import re
from collections.abc import Iterator
from datetime import date
from typing import get_args

import pytest
from pydantic import ValidationError

from brinefrost.core.bench.families import FAMILIES, answer
from brinefrost.core.errors import DomainError
from brinefrost.core.words import Manner, manner_of


def _texts_of(found: object, way: str) -> Iterator[tuple[str, str]]:
    """Every text of an answer with its way, but sources, units that the page converts, and the rule sets' own lines."""
    if isinstance(found, dict):
        for key, value in found.items():
            converted = key.endswith("show") and found.get(key.removesuffix("show") + "kind") not in (None, "number")
            if key not in ("source", "citation", "unit") and not converted:
                yield from _texts_of(value, f"{way}/{key}")
    elif isinstance(found, list):
        for each in found:
            yield from _texts_of(each, way)
    elif isinstance(found, str) and not way.startswith("rules/tables"):
        yield way, found


METRIC = re.compile(r"\d ?(°C|°C·h|K|mm|kg|g|m|g/kg|kg/m³)(?![\w/])|°C")


def _asked_of(key: str) -> list[dict[str, str]]:
    """Questions in which every choice of every field of a page is taken once, several fields at a time."""
    question = FAMILIES[key].question
    base = {"made_on": "2026-11-25"} if "made_on" in question.model_fields else {}
    choices = {
        name: found
        for name, each in question.model_fields.items()
        if (found := [a for a in get_args(each.annotation) if isinstance(a, str)])
    }
    most = max((len(found) for found in choices.values()), default=0)
    turns = [{name: found[turn % len(found)] for name, found in choices.items()} for turn in range(most)]
    return [base, *({**base, **turn} for turn in turns)]


def _alone(asked: dict[str, str]) -> list[dict[str, str]]:
    """The same choices one at a time, for a page that cannot be asked for all of them at once."""
    base = {"made_on": asked["made_on"]} if "made_on" in asked else {}
    return [{**base, name: choice} for name, choice in asked.items() if name != "made_on"]


def _answer_in_us(key: str, fields: dict[str, str]) -> object | None:
    """What a page answers in °F, inches and ounces; None where it refuses the question."""
    try:
        with manner_of(Manner(temperature="°F", length="in", mass="oz")):
            asked = FAMILIES[key].question.model_validate(fields)
            return json.loads(answer(key, asked, date(2026, 11, 25)).model_dump_json())
    except (DomainError, ValidationError):
        return None


@pytest.mark.parametrize("key", FAMILIES)
def test_no_page_of_the_bench_shows_another_unit_than_was_chosen(key: str) -> None:
    """In °F, inches and ounces: every choice of every field of a page, its sentence, figures, tables, pictures."""
    wrong: set[tuple[str, str]] = set()
    for fields in _asked_of(key):
        found = _answer_in_us(key, fields)
        answers = [found] if found is not None else [_answer_in_us(key, each) for each in _alone(fields)]
        for each in answers:
            wrong |= {(way, text) for way, text in _texts_of(each, key) if METRIC.search(text)}
    assert not wrong
