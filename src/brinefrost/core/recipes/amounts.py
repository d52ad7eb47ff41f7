"""How much of an ingredient a line says, in kilograms."""

import re
import tomllib
from dataclasses import dataclass, replace
from functools import lru_cache
from importlib import resources

from brinefrost.core.food.catalogue import CatalogueIngredient
from brinefrost.core.recipes.lexicon import Lexicon, lexicon, plain, stem
from brinefrost.core.words import Words, say
from brinefrost.core.words.manner import Language
from brinefrost.core.working import Document

NUMBER = r"(?P<whole>\d{1,7}(?:[.,]\d{1,4})?)?\s*(?:(?P<upper>\d)/(?P<lower>\d))?(?!\d)"
RANGE = re.compile(rf"{NUMBER}(?:\s*(?P<between>-|–|to|a|à|至|x|×)\s*(?P<until>\d{{1,7}}(?:[.,]\d{{1,4}})?))?")
THOUSANDS = re.compile(r"\d{1,3}[.,]\d{3}")
TIMES = ("x", "×")
NO_UNIT = re.compile(r"\s*(?:°|%|cm\b|mm\b|[cf]\b)", re.IGNORECASE)
UNSAID_DENSITY = 1.0  # of what the table does not hold; water's


class Goods(Document):
    """Densities [kg/l], one piece, a bunch, a part [kg], and the usual thickness of a piece [m]."""

    density: dict[str, float]
    density_of: dict[str, float]
    piece: dict[str, float]
    bunch: dict[str, float]
    part: dict[str, dict[str, float]]
    thickness: dict[str, float]
    thickness_of: dict[str, float]


@lru_cache(maxsize=1)
def goods() -> Goods:
    """What recipes leave unsaid of goods; sources stand in the file."""
    file = resources.files("brinefrost.core.recipes").joinpath("goods.toml")
    return Goods.model_validate(tomllib.loads(file.read_text(encoding="utf-8")))


@dataclass(frozen=True)
class Amount:
    """So many of a unit; where it stands in the line."""

    value: float
    of: str  # kg, l, each, or a part's own word
    one: float
    begin: int
    end: int


def find_amounts(line: str, language: Language) -> list[Amount]:
    """Every amount in a line, in order. A range is its middle. Valid for every text."""
    text, known = plain(line), lexicon(language)
    found = [amount for match in RANGE.finditer(text) if (amount := _amount(match, text, known, language))]
    return found or _find_worded(text, known, language)


def _amount(match: re.Match[str], text: str, known: Lexicon, language: Language) -> Amount | None:
    if match["whole"] is None and match["upper"] is None:
        return None
    if NO_UNIT.match(text, match.end()):
        return None
    value = _read_number(match["whole"] or "0")
    if match["upper"] and match["lower"] != "0":
        value += float(match["upper"]) / float(match["lower"])
    if match["until"]:
        second = _read_number(match["until"])
        value = value * second if match["between"] in TIMES else (value + second) / 2
    found = _with_unit(value, match.start(), match.end(), text, known, language)
    grouped = [part for part in (match["whole"], match["until"]) if part and THOUSANDS.fullmatch(part)]
    if found and grouped and found.one < 1 and found.of in ("kg", "l"):  # 1,000 g: a thousand; 1.500 kg: one and a half
        return replace(found, value=value * 1000)
    return found


def _read_number(text: str) -> float:
    """With a decimal mark of either kind."""
    return float(text.replace(",", "."))


def _with_unit(value: float, begin: int, end: int, text: str, known: Lexicon, language: Language) -> Amount | None:
    after = text[end:].lstrip(" .")
    start = len(text) - len(after)
    if any(re.match(rf"{re.escape(word)}s?\b", after) for word in known.lengths) and language != "zh":
        return None  # a time
    for word, unit in sorted(known.units.items(), key=lambda each: -len(each[0])):
        if language == "zh" and not word.isascii():
            fits = after.startswith(word)
        else:
            fits = re.match(rf"{re.escape(word)}(?:s|es)?\b", after) is not None or after.startswith(f"{word}. ")
        if fits:
            return Amount(value, unit.of, unit.one, begin, start + len(word))
    if language == "zh" and any(after.startswith(word) for word in known.lengths):
        return None
    return Amount(value, "each", 1.0, begin, end)


def _find_worded(text: str, known: Lexicon, language: Language) -> list[Amount]:
    """An amount that begins a line in words: a leek, half a lemon, two onions."""
    for word, value in known.numbers.items():
        if re.match(rf"\W*{word}\b" if word.isascii() else rf"\W*{word}", text):
            end = text.index(word) + len(word)
            found = _with_unit(value, text.index(word), end, text, known, language)
            return [found] if found else []
    return []


def weigh(amounts: list[Amount], row: CatalogueIngredient | None, language: Language) -> tuple[float, Words]:
    """Kilograms of a row by what a line says, and how they were come by where it names no mass; 0 where none is said.

    A mass goes before a volume, and that before a number of pieces. Valid for every row, or none.
    """
    for of in ("kg", "l"):
        for amount in amounts:
            if amount.of == of:
                kg = amount.value * amount.one
                return (kg, "") if of == "kg" else _by_volume(kg, row)
    for amount in amounts:
        one = _one(amount.of, row)
        if one:
            return amount.value * one, say("recipes.reading.by_piece", one=f"{one * 1000:g}")
    return 0.0, ""


def _by_volume(litres: float, row: CatalogueIngredient | None) -> tuple[float, Words]:
    table = goods()
    density = table.density.get(row.key if row else "")
    if density is None and row is not None:
        density = next((value for tag, value in table.density_of.items() if tag in row.tags), None)
    kg = litres * (UNSAID_DENSITY if density is None else density)
    if density is None:
        return kg, say("recipes.reading.as_water")
    return kg, say("recipes.reading.by_density", density=f"{density:g}")


def _one(of: str, row: CatalogueIngredient | None) -> float | None:
    """One of what is counted [kg]; None where the table does not hold it."""
    key, table = row.key if row else "", goods()
    if of in ("each", "little"):
        return table.piece.get(key) if of == "each" else None
    if of == "bunch":
        return table.bunch.get(key)
    return table.part.get(of, {}).get(key)


def stems_without_amounts(line: str, amounts: list[Amount], language: Language) -> list[str]:
    """The line's words that are no amount, as stems."""
    text = plain(line)
    for amount in sorted(amounts, key=lambda each: -each.begin):
        text = text[: amount.begin] + " " + text[amount.end :]
    return [stem(word, language) for word in re.findall(r"[a-z]+|[一-鿿]", text)]
