"""What a column's name says that it measures, in the languages loggers are set to."""

import re
import tomllib
from functools import cache
from importlib import resources

from brinefrost.core.quantities import ChannelQuantity

ACCENTS = str.maketrans("áàâäéèêëíìîïóòôöúùûüñç", "aaaaeeeeiiiioooouuuunc")
ORDER: tuple[tuple[ChannelQuantity, tuple[str, ...]], ...] = (
    ("bath", ("bath",)),
    ("air", ("air",)),
    ("core", ("core", "food")),
)


def quantities_named(name: str) -> list[ChannelQuantity]:
    """Every quantity a column's name speaks of: one is what it measures, more are in dispute, none says nothing.

    A probe alone is in the food; a probe of a bath or a store is there. Valid for English, German, Spanish, French and
    Chinese names; a unit's letter is no word. Common practice, no source.
    """
    plain = name.lower().replace("œ", "oe").translate(ACCENTS)
    spoken = set(re.findall(r"[a-z]+", plain))

    def says(key: str) -> bool:
        chinese = _chinese().get(key)
        return bool(spoken & _words()[key]) or bool(chinese and re.search(chinese, name))

    if says("ph"):
        return ["ph"]
    if says("salt"):
        return ["salt"]
    found = [quantity for quantity, keys in ORDER if any(map(says, keys))]
    return found or (["core"] if says("probe") else [])


@cache
def _data() -> dict[str, object]:
    return tomllib.loads(resources.files(__package__).joinpath("names.toml").read_text(encoding="utf-8"))


@cache
def _words() -> dict[str, frozenset[str]]:
    return {key: frozenset(words.split()) for key, words in _data().items() if isinstance(words, str)}


@cache
def _chinese() -> dict[str, str]:
    found = _data()["chinese"]
    return {str(k): str(v) for k, v in found.items()} if isinstance(found, dict) else {}
