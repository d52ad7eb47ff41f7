"""The words of recipes in four languages: amounts, what is done, in what, how hot and for how long."""

import re
import tomllib
import unicodedata
from collections.abc import Iterable
from functools import lru_cache
from importlib import resources
from typing import Any, get_args

from brinefrost.core.words.manner import Language
from brinefrost.core.working import Document

LANGUAGES: tuple[Language, ...] = get_args(Language)
SPACED = re.compile(r"[a-z0-9]+(?:[./][0-9]+)?|°|%|[一-鿿]", re.IGNORECASE)


class Unit(Document):
    """What a unit counts in, and how much of it one is: kg, l, or one of a thing (``each``)."""

    of: str
    one: float = 1.0


class Lexicon(Document):
    """The words of one language, as they stand in its file; phrases are compared by their stems."""

    numbers: dict[str, float]
    units: dict[str, Unit]
    ovens: dict[str, float]  # phrase: how hot [°C]
    times: dict[str, float]  # phrase: how long [s]
    lengths: dict[str, float]  # unit of time: seconds
    headings: tuple[str, ...]
    until: tuple[str, ...]  # what stands before a temperature that the core is to reach
    nots: tuple[str, ...]  # what is said behind these is not done
    ors: tuple[str, ...]  # what is said behind these is done instead of what stands before
    asides: tuple[str, ...]  # a short line that begins so tells how many it serves, or how long it takes in all
    verbs: dict[str, tuple[str, ...]]  # what is done: phrases
    media: dict[str, tuple[str, ...]]  # in what
    flags: dict[str, tuple[str, ...]]  # covered, open, hot, cold and the like
    groups: dict[str, tuple[str, ...]]  # everything, meat, vegetables and the like
    foods: dict[str, tuple[str, ...]]  # row of the catalogue: what it is called beside the row's own names
    head_last: bool = False  # of several nouns the last is the thing itself

    @staticmethod
    def phrases(table: dict[str, Any], language: Language) -> list[tuple[tuple[str, ...], Any]]:
        """Stems with what they mean; of a table by meaning, or of one by phrase."""
        return [
            (phrase(each, language), meaning if isinstance(said, tuple) else said)
            for meaning, said in table.items()
            for each in (said if isinstance(said, tuple) else (meaning,))
        ]


@lru_cache(maxsize=8)
def lexicon(language: Language) -> Lexicon:
    """The words of a language."""
    file = resources.files("brinefrost.core.recipes").joinpath("languages", f"{language}.toml")
    return Lexicon.model_validate(tomllib.loads(file.read_text(encoding="utf-8")))


def plain(text: str) -> str:
    """Without capitals and accents; signs of wider sets as the narrow ones."""
    wide = unicodedata.normalize("NFKC", text.replace("½", " 1/2").replace("¼", " 1/4").replace("¾", " 3/4"))
    bare = "".join(sign for sign in unicodedata.normalize("NFD", wide) if not unicodedata.combining(sign))
    bare = re.sub(r"(?<=[^\W\d])-(?=[^\W\d])", " ", bare)  # deep-fry, bain-marie
    return bare.lower().replace("œ", "oe").replace("’", "'").replace("º", "°")


def stem(word: str, language: Language) -> str:
    """A word without its plural; the same for both sides of every comparison, so rough is enough."""
    if language == "zh" or len(word) < 4 or not word.isalpha():
        return word
    if language == "en":
        for end, cut in (("ies", "y"), ("ves", "f"), ("oes", "o"), ("sses", "ss"), ("shes", "sh"), ("ches", "ch")):
            if word.endswith(end):
                return word[: -len(end)] + cut
    if language == "es" and re.search(r"[nrldjz]es$", word):
        return word[:-2]
    return word[:-1] if word[-1] in "sx" and not word.endswith("ss") else word


def words_of(text: str, language: Language) -> list[str]:
    """The stems of a text in order; Chinese sign by sign."""
    return [stem(word, language) for word in SPACED.findall(plain(text))]


@lru_cache(maxsize=4096)
def phrase(text: str, language: Language) -> tuple[str, ...]:
    """A phrase of the lexicon as stems."""
    return tuple(words_of(text, language))


def find_phrases(words: list[str], known: Iterable[tuple[tuple[str, ...], Any]]) -> list[tuple[int, int, Any]]:
    """Where known phrases stand: from, to, which; the longest first taken, none within another, in order."""
    taken: list[tuple[int, int, Any]] = []
    present = set(words)
    possible = [each for each in known if each[0] and each[0][0] in present]
    for stems, what in sorted(possible, key=lambda each: -len(each[0])):
        for i in range(len(words) - len(stems) + 1):
            free = all(i >= end or i + len(stems) <= begin for begin, end, _ in taken)
            if free and tuple(words[i : i + len(stems)]) == stems:
                taken.append((i, i + len(stems), what))
    return sorted(taken, key=lambda each: each[:2])


def find_language(text: str) -> Language:
    """The language of a recipe: whose words for amounts and work stand in it most; English where none do."""
    if len(re.findall(r"[一-鿿]", text)) > len(text) / 10:
        return "zh"
    counts: dict[Language, int] = {}
    for language in LANGUAGES:
        known = lexicon(language)
        own = [each for table in (known.verbs, known.media, known.foods) for each in known.phrases(table, language)]
        counts[language] = len(find_phrases(words_of(text, language), own))
    return max(LANGUAGES, key=lambda each: (counts[each], each == "en"))
