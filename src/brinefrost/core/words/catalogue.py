"""The catalogues: one file of words per language and part, in i18next's JSON form, plurals by suffix."""

import json
from functools import cache
from pathlib import Path
from typing import Any

from brinefrost.core.words.manner import PSEUDO

HERE = Path(__file__).parent
MARKS = str.maketrans("aeiouAEIOUcnsz", "áéíóúÁÉÍÓÚçñšž")


@cache
def texts(language: str) -> dict[str, str]:
    """Every text of a language by its code; {} for a language that is not kept."""
    found: dict[str, str] = {}
    for path in sorted((HERE / language).glob("*.json")):
        _flatten(json.loads(path.read_text(encoding="utf-8")), path.stem, found)
    return found


def template_of(code: str, language: str) -> str:
    """The words of a code in a language, or in English where it has none; raises KeyError where English has none."""
    if language in ("en", PSEUDO):
        return texts("en")[code]
    mine = texts(language).get(code)
    if mine is not None:
        return mine
    stem, _, form = code.rpartition("_")  # a language with fewer plural forms than English, or more
    return texts("en").get(code) or texts("en")[f"{stem}_other" if form in ("one", "other") else code]


def pseudo(text: str) -> str:
    """A text with marks on its vowels and brackets round it."""
    return f"⟦{text.translate(MARKS)}⟧"


def _flatten(node: Any, prefix: str, into: dict[str, str]) -> None:
    for key, value in node.items():
        if isinstance(value, str):
            into[f"{prefix}.{key}"] = value
        else:
            _flatten(value, f"{prefix}.{key}", into)
