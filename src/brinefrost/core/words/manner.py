"""How somebody wants things said: language and units."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, replace
from typing import Literal, get_args

Language = Literal["en", "es", "fr", "zh"]
LANGUAGES: tuple[str, ...] = get_args(Language)
PSEUDO = "xx"  # English with marks on it: what is not marked did not come from the catalogue


@dataclass(frozen=True)
class Manner:
    """A language and the units of temperature, length and mass."""

    language: str = "en"
    temperature: str = "°C"
    length: str = "mm"
    mass: str = "g"


HOUSE = Manner()


class Turn:
    """The manner of one request: settled once the person is known."""

    def __init__(self, manner: Manner = HOUSE) -> None:
        self.manner = manner


_TURN: ContextVar[Turn | None] = ContextVar("turn", default=None)


def current() -> Manner:
    """The manner that holds now; the house's where nobody asked."""
    turn = _TURN.get()
    return HOUSE if turn is None else turn.manner


def settle(**chosen: str | None) -> None:
    """Take over what the person of this request chose; what they did not choose stays as it was."""
    turn = _TURN.get()
    if turn is not None:
        turn.manner = replace(turn.manner, **{key: value for key, value in chosen.items() if value})


@contextmanager
def manner_of(manner: Manner) -> Iterator[None]:
    """Say everything within in a manner."""
    token = _TURN.set(Turn(manner))
    try:
        yield
    finally:
        _TURN.reset(token)
