"""Every field, choice, figure, picture and page of the Bench has its words in the interface's text."""

import re
from datetime import date
from pathlib import Path

import pytest

from brinefrost.core.bench.families import FAMILIES, answer, families, presets
from brinefrost.core.fields import FieldSpec

WORDS = Path(__file__).parents[2] / "web" / "src" / "shared" / "text"
FILES = ("bench.asked.en.ts", "bench.en.ts", "pass.en.ts", "office.en.ts")
TEXT = "".join((WORDS / name).read_text(encoding="utf-8") for name in FILES)
TODAY = date(2026, 11, 25)


def section(name: str) -> set[str]:
    body = re.search(rf"^  {name}: {{\n(.*?)^  }},", TEXT, re.M | re.S)
    assert body, name
    return set(re.findall(r"'?([A-Za-z0-9_]+)'?: ['\"]", body.group(1)))


def walk(specs: tuple[FieldSpec, ...]) -> list[FieldSpec]:
    return [each for spec in specs for each in (spec, *walk(spec.columns))]


def plain(option: str) -> str:
    return re.sub(r"[.\s]", "_", option).replace("°C", "celsius").replace("%", "percent")


@pytest.mark.parametrize("family", list(FAMILIES))
def test_the_page_has_all_its_words(family: str) -> None:
    page = next(each for each in families(TODAY) if each.key == family)
    assert family in section("benchPages") & section("subs")
    fields, options = section("fields"), section("options") | section("choices")
    for spec in walk(page.fields):
        assert spec.name in fields, spec.name
        for option in spec.options:
            assert plain(option) in options or f"{spec.name}_{plain(option)}" in options, option


@pytest.mark.parametrize("family", list(FAMILIES))
def test_the_answers_have_all_their_words(family: str) -> None:
    figures, pictures = section("figures"), section("pictures")
    for _, question in presets(TODAY)[family]:
        found = answer(family, question, TODAY)
        assert {each.name for each in found.figures} <= figures
        assert {each.title for each in found.pictures} <= pictures
