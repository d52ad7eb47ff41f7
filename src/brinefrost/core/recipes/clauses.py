"""The method of a recipe as clauses: one thing done, in what, how hot, for how long, to which of what is in it."""

import re
from collections.abc import Container
from dataclasses import dataclass, replace
from functools import lru_cache

from brinefrost.core.recipes.lexicon import find_phrases, lexicon, plain, words_of
from brinefrost.core.recipes.rows import find_rows_among
from brinefrost.core.words.manner import Language

SENTENCES = re.compile(r"(?<=[.;!])\s+|(?<=[。；！])|\n")
NUMBER = r"\d{1,6}(?:[.,]\d{1,4})?"
DEGREES = re.compile(
    rf"(?P<value>[-−–]?{NUMBER})\s*"
    r"(?:(?:°|degrees?|deg\b|grados?|degres?|度)\s*(?P<sign>[cf](?![a-z]))?|(?P<bare>[cf])(?![a-z]))"
)
LENGTH = re.compile(rf"({NUMBER})\s*(cm|mm|in\b|inch)")
HOTTEST_C = 280.0  # no oven is hotter: what is said without its scale and is more, is said in °F
WATER_C = 100.0  # no core passes it
LENGTHS_M = {"cm": 0.01, "mm": 0.001, "in": 0.0254, "inch": 0.0254}
NEAR = 28  # signs between a word that asks for a core and its temperature
NOT_DONE = frozenset({"add"})  # what is read for its goods alone
UNDONE = frozenset({"not", "or"})  # what a recipe says is not done, or done instead: nothing is made of it
# what is done where only a place is named with a time or a heat: "fridge 3 d", "oven 180 °C 40 min"
DONE_IN = {
    "freezer": "freeze", "ice": "chill", "blast": "chill", "fridge": "keep", "bath": "cook", "oven_bath": "bake",
    "oven": "roast", "pan": "fry", "fat": "confit", "steam": "steam", "pot": "simmer",
}  # fmt: skip
NOTED = frozenset(DONE_IN.values()) - {"simmer"}  # what stands so behind a comma; a pot is where things are put
FEW = 5  # words of a note that only names a place


@dataclass(frozen=True)
class Clause:
    """One thing done. Durations from shortest to longest [s]; None where nothing is said."""

    text: str  # plain, as it is read
    action: str
    said: str = ""  # as it was typed
    media: frozenset[str] = frozenset()
    flags: frozenset[str] = frozenset()
    groups: frozenset[str] = frozenset()
    mentions: tuple[str, ...] = ()
    at_c: float | None = None
    core_c: float | None = None
    lasts_s: tuple[float, float] | None = None
    thickness_m: float | None = None
    oven_word: bool = False  # how hot was said in words, not in degrees


@lru_cache(maxsize=8)
def _patterns(language: Language) -> list[tuple[re.Pattern[str], str]]:
    """What is done, the longest words first."""
    found = [(plain(word), action) for action, words in lexicon(language).verbs.items() for word in words]
    whole = language != "zh"
    return [
        (re.compile(rf"(?<![a-z]){re.escape(word)}s?(?![a-z])" if whole else re.escape(word)), action)
        for word, action in sorted(found, key=lambda each: -len(each[0]))
    ]


def read_clauses(method: str, rows: Container[str], language: Language, fahrenheit: bool = False) -> list[Clause]:
    """The clauses of a method in order. ``rows``: the recipe's own rows, of which alone it speaks.

    A clause that only puts something in hands what it says on to the next of its sentence. ``fahrenheit``: degrees
    without their scale are in °F. Valid for every text.
    """
    found: list[Clause] = []
    for sentence in SENTENCES.split(method):
        if sentence.strip():
            cut = _cut(sentence, language)
            read = _hand_on([_read_clause(text, action, rows, language, fahrenheit) for text, action in cut])
            found += [replace(each, said=_as_typed(sentence, each.text)) for each in read]
    return found


def _as_typed(sentence: str, text: str) -> str:
    """A stretch of a sentence with its capitals and accents; without them where the signs cannot be matched."""
    bare = plain(sentence)
    at = bare.find(text) if len(bare) == len(sentence) else -1
    return (text if at < 0 else sentence[at : at + len(text)]).strip()


def _cut(sentence: str, language: Language) -> list[tuple[str, str]]:
    """A sentence before each of its verbs; what stands before the first belongs to it."""
    text, taken = plain(sentence), list[tuple[int, int, str]]()
    places = _find_places(text, language)
    for pattern, action in _patterns(language):
        for match in pattern.finditer(text):
            free = all(match.start() >= end or match.end() <= begin for begin, end, _ in taken)
            if free and not any(begin <= match.start() and match.end() < end for begin, end in places):
                taken.append((match.start(), match.end(), _undo(text[: match.start()], action, language)))
    taken.sort()
    if not taken:
        return [(part, "") for part in re.split(r",\s+|，", text)]
    starts = [0, *(begin for begin, _, _ in taken[1:]), len(text)]
    cut = [(text[starts[i] : starts[i + 1]], action) for i, (_, _, action) in enumerate(taken)]
    return [piece for part, action in cut for piece in _with_notes(part, action, language)]


def _find_places(text: str, language: Language) -> list[tuple[int, int]]:
    """Where a place is named, from its first sign to behind its last: a verb its word begins with is not done."""
    said = {plain(word) for words in lexicon(language).media.values() for word in words}
    return [found.span() for word in said for found in re.finditer(re.escape(word), text)]


def _undo(before: str, action: str, language: Language) -> str:
    """What is done; ``not`` or ``or`` where the words just before say it is not, or instead."""
    known, gap = lexicon(language), r"(?:\s+[a-z']+)?\s*$" if language != "zh" else "$"
    for what, words in (("not", known.nots), ("or", known.ors)):
        said = "|".join(re.escape(plain(each)) for each in sorted(words, key=len, reverse=True))
        if re.search(rf"(?<![a-z])(?:{said})(?![a-z]){gap}", before[-NEAR:]):
            return what
    return action


def _with_notes(text: str, action: str, language: Language) -> list[tuple[str, str]]:
    """A clause, and behind its commas the places that have a time or a heat of their own: seal, bath 63 °C 2 h."""
    first, *rest = re.split(r",\s+|，", text)
    found = [(first, action)]
    for part in rest:
        note = _read_clause(part, "", (), language)
        if note.action in NOTED and (note.lasts_s or note.at_c is not None or note.action in ("chill", "freeze")):
            found.append((part, ""))
        else:
            found[-1] = (f"{found[-1][0]}, {part}", found[-1][1])
    return found


def _hand_on(clauses: list[Clause]) -> list[Clause]:
    """What only goes in, with the next thing that is done in the sentence."""
    found: list[Clause] = []
    held: Clause | None = None
    for clause in clauses:
        whole = clause if held is None else _join(held, clause)
        held = None
        if clause.action in NOT_DONE and clause is not clauses[-1]:
            held = whole
            continue
        found.append(whole)
    return found


def _join(first: Clause, second: Clause) -> Clause:
    return replace(
        second,
        text=first.text + second.text,
        media=first.media | second.media,
        flags=first.flags | second.flags,
        groups=first.groups | second.groups,
        mentions=tuple(dict.fromkeys((*first.mentions, *second.mentions))),
        thickness_m=second.thickness_m or first.thickness_m,
        at_c=second.at_c if second.at_c is not None else first.at_c,
        oven_word=second.oven_word or (second.at_c is None and first.oven_word),
    )


def _read_clause(text: str, action: str, rows: Container[str], language: Language, fahrenheit: bool = False) -> Clause:
    known, words = lexicon(language), words_of(text, language)

    def met(table: dict[str, tuple[str, ...]]) -> frozenset[str]:
        return frozenset(
            what
            for what, phrases in table.items()
            if find_phrases(words, [(tuple(words_of(each, language)), what) for each in phrases])
        )

    at_c, core_c, oven_word = _find_temperatures(text, language, fahrenheit)
    media, lasts_s = met(known.media), _find_time(text, language)
    stands = lasts_s is not None or (at_c is not None and not oven_word)
    if (not action and (stands or len(words) <= FEW)) or (action in NOT_DONE and stands):
        action = next((done for place, done in DONE_IN.items() if place in media), action)
    return Clause(
        text=text,
        action=action,
        media=media,
        flags=met(known.flags),
        groups=met(known.groups),
        mentions=tuple(dict.fromkeys(key for _, key in find_rows_among(words, rows, language))),
        at_c=at_c,
        core_c=core_c,
        oven_word=oven_word,
        lasts_s=lasts_s,
        thickness_m=find_thickness(text),
    )


def _find_temperatures(text: str, language: Language, fahrenheit: bool) -> tuple[float | None, float | None, bool]:
    """Around it, in its core [°C], and whether the first was said in words."""
    known = lexicon(language)
    at_c: float | None = None
    core_c: float | None = None
    for match in DEGREES.finditer(text):
        value = float(match["value"].replace("−", "-").replace("–", "-").replace(",", "."))
        scale = match["sign"] or match["bare"]
        in_f = scale == "f" or (scale is None and (fahrenheit or value > HOTTEST_C))
        celsius = (value - 32) / 1.8 if in_f else value
        before = text[max(0, match.start() - NEAR) : match.start()]
        asks = any(re.search(rf"(?<![a-z]){word}", before) for word in known.until)
        if asks and core_c is None and celsius <= WATER_C:
            core_c = celsius
        elif at_c is None:
            at_c = celsius
    if at_c is None:
        for words, celsius in sorted(known.ovens.items(), key=lambda each: -len(each[0])):
            if words in text:
                return float(celsius), core_c, True
    return at_c, core_c, False


def _find_time(text: str, language: Language) -> tuple[float, float] | None:
    """How long, from the shorter to the longer [s]: hours and minutes that follow each other are added."""
    known = lexicon(language)
    for words, seconds in known.times.items():
        if words in text:
            return seconds, seconds
    units = "|".join(re.escape(each) for each in sorted(known.lengths, key=len, reverse=True))
    numbers = "|".join(sorted(known.numbers, key=len, reverse=True))
    spoken = rf"(?<![a-z])(?:{numbers})(?=\s)" if language != "zh" else numbers
    number = rf"({NUMBER}|{spoken})"
    ends = r"s?(?![a-z])" if language != "zh" else ""
    pattern = re.compile(rf"{number}(?:\s*(?:-|–|to|a|à|o|ou|至)\s*{number})?\s*({units}){ends}")
    shortest = longest = 0.0
    last = None
    for match in pattern.finditer(text):
        if last is not None and len(text[last : match.start()].strip(" ,")) > 3:
            break
        first, second = (_number(each, known.numbers) for each in (match[1], match[2] or match[1]))
        shortest += first * known.lengths[match[3]]
        longest += second * known.lengths[match[3]]
        last = match.end()
    return (shortest, longest) if last is not None else None


def _number(text: str, known: dict[str, float]) -> float:
    return known[text] if text in known else float(text.replace(",", "."))


def find_thickness(text: str) -> float | None:
    """How thick a text says something is [m]; None where it does not. Valid for plain text."""
    match = LENGTH.search(text)
    return float(match[1].replace(",", ".")) * LENGTHS_M[match[2]] if match else None
