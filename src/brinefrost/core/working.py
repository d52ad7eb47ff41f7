"""The shown working: what was put in, the formula with the values in it, and where it comes from."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from brinefrost.core.words import Words

Tag = Literal["published", "published_from_memory", "common_practice", "derived"]


class Document(BaseModel):
    """Base of everything the core writes down: no unknown fields, no silent change."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False, defer_build=True)


class Sent(Document):
    """A document of the wire: its schema is built at once, while others build theirs when first used."""

    model_config = ConfigDict(defer_build=False)


class Source(Document):
    """Where a value comes from and how surely it is remembered."""

    citation: str
    tag: Tag


class Input(Document):
    """One number that went in."""

    name: Words
    value: float | Words
    unit: Words = ""


class Working(Document):
    """A sum that a person can follow and repeat."""

    title: Words
    formula: Words
    inputs: tuple[Input, ...]
    result: Words
    source: Source
    assumptions: tuple[Words, ...] = ()
    valid_range: Words = ""


DERIVED = Source(citation="Computed here from the inputs shown", tag="derived")


def clock(seconds: float) -> str:
    """A duration in words.

    Parameters
    ----------
    seconds : float
        Duration [s].

    Returns
    -------
    str
        For example "1 h 20 min", "4 min" or "20 s".

    Raises
    ------
    OverflowError
        If the duration is infinite.

    Notes
    -----
    Valid for any finite duration; rounded to the minute from two minutes on.
    """
    if abs(seconds) < 120:
        return f"{round(seconds)} s"
    minutes = round(seconds / 60)
    hours, rest = divmod(abs(minutes), 60)
    sign = "-" if minutes < 0 else ""
    if hours >= 48:
        return f"{sign}{hours // 24} d {hours % 24} h" if hours % 24 else f"{sign}{hours // 24} d"
    if hours == 0:
        return f"{sign}{rest} min"
    return f"{sign}{hours} h {rest:02d} min" if rest else f"{sign}{hours} h"
