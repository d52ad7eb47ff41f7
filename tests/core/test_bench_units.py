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


@pytest.mark.parametrize("key", FAMILIES)
def test_no_page_of_the_bench_shows_another_unit_than_was_chosen(key: str) -> None:
    """In °F, inches and ounces: every choice of every field of a page, its sentence, figures, tables, pictures."""
    question = FAMILIES[key].question
    base = {"made_on": "2026-11-25"} if "made_on" in question.model_fields else {}
    asked = [base]
    for name, each in question.model_fields.items():
        choices = [a for a in get_args(each.annotation) if isinstance(a, str)]
        asked += [{**base, name: choice} for choice in choices]
    wrong: set[tuple[str, str]] = set()
    for fields in asked:
        try:
            with manner_of(Manner(temperature="°F", length="in", mass="oz")):
                found = json.loads(answer(key, question.model_validate(fields), date(2026, 11, 25)).model_dump_json())
        except (DomainError, ValidationError):
            continue
        wrong |= {(way, text) for way, text in _texts_of(found, key) if METRIC.search(text)}
    assert not wrong
