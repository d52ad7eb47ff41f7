"""Which row of the catalogue a name means."""

from collections.abc import Container
from functools import lru_cache

from brinefrost.core.food.catalogue import CatalogueIngredient, catalogue
from brinefrost.core.recipes.lexicon import find_phrases, lexicon, phrase
from brinefrost.core.words import said
from brinefrost.core.words.manner import Language, Manner, manner_of

Named = tuple[tuple[str, ...], str]  # stems, and the key of the row they mean
MOST_WORDS = 4  # a name of more is a description


@lru_cache(maxsize=8)
def names_in(language: Language) -> tuple[Named, ...]:
    """Every name of every row in a language, the lexicon's own before the catalogue's; English names beside."""
    own = [(stems, key) for stems, key in lexicon(language).phrases(lexicon(language).foods, language)]
    for spoken in dict.fromkeys((language, "en")):
        with manner_of(Manner(language=spoken)):
            for row in catalogue().ingredients:
                names = (said(row.name), row.key.replace("-", " "), *(row.aliases if spoken == "en" else ()))
                own += [(stems, row.key) for name in names for stems in _forms(name, spoken)]
    found: dict[tuple[str, ...], str] = {}
    for stems, key in own:
        if stems and len(stems) <= (8 if language == "zh" else MOST_WORDS):
            found.setdefault(stems, key)
    return tuple(found.items())


def _forms(name: str, language: Language) -> list[tuple[str, ...]]:
    """A name whole, what stands before its comma, and the two sides of a comma turned round: Beef, minced."""
    head, _, tail = name.partition(",")
    turned = [f"{tail.split(',')[0]} {head}", f"{head} {tail.split(',')[0]}"] if tail else []
    return [phrase(each, language) for each in (name.replace(",", " "), *turned, *([] if tail else [head]))]


def find_row(words: list[str], language: Language) -> CatalogueIngredient | None:
    """The row a line of stems names: by most of its words, wherever they stand; of several, the noun that is the thing.

    None where no row is named. Valid for every text.
    """
    best: tuple[tuple[int, float], str] | None = None
    have = {word: i for i, word in enumerate(words)}
    chinese = language == "zh"
    stretches = {(at, end) for at, end, _ in find_phrases(words, names_in(language))} if chinese else set()
    for stems, key in names_in(language):
        if chinese:
            spots = [at for at, end in stretches if tuple(words[at:end]) == stems]
            if not spots:
                continue
            place = -float(spots[0])
        else:
            if stems[0] not in have or not all(each in have for each in stems):
                continue
            at = [have[each] for each in stems]
            place = float(max(at)) if lexicon(language).head_last else -float(min(at))
        rank = (len(stems), place)
        if best is None or rank > best[0]:
            best = (rank, key)
    return None if best is None else catalogue().ingredient(best[1])


def find_rows_among(words: list[str], rows: Container[str], language: Language) -> list[tuple[int, str]]:
    """Where the rows of this recipe are mentioned: place and key, in order; a head noun stands for its row."""
    known: list[Named] = [(stems, key) for stems, key in names_in(language) if key in rows]
    heads: dict[tuple[str, ...], set[str]] = {}
    for stems, key in known:
        for word in stems if language != "zh" else ():
            heads.setdefault((word,), set()).add(key)
    lone = [(stems, keys.copy().pop()) for stems, keys in heads.items() if len(keys) == 1 and len(stems[0]) > 2]
    whole = {stems for stems, _ in known}
    return [(at, key) for at, _, key in find_phrases(words, [*known, *(n for n in lone if n[0] not in whole)])]
