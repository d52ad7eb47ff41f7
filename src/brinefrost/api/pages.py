"""One form for every list that grows: a page of it, and what to ask for the next."""

import unicodedata
from collections.abc import Callable, Iterable
from itertools import islice
from typing import Annotated, Generic, TypeVar

from fastapi import Query

from brinefrost.core.working import Sent

Item = TypeVar("Item")
MOST, USUAL = 200, 60

Find = Annotated[str, Query(max_length=200, description="Words that each of what is listed bears.")]
After = Annotated[str | None, Query(max_length=64, description="The `next` of the page before.")]
Most = Annotated[int, Query(ge=1, le=MOST)]


class Page(Sent, Generic[Item]):
    """A part of a list. ``next`` goes on from its end; null where there is no more."""

    items: tuple[Item, ...]
    next: str | None


def page_of(rows: Iterable[Item], key: Callable[[Item], str], after: str | None, most: int) -> Page[Item]:
    """The rows that follow one, by its key: from the beginning without one, none after one that is not there.

    No more rows are asked for than it takes to know that there is another page.
    """
    left = iter(rows)
    if after is not None:
        any(key(row) == after for row in left)  # up to that one
    items = tuple(islice(left, most))
    return Page(items=items, next=key(items[-1]) if items and next(left, None) is not None else None)


def bears(text: str, find: str) -> bool:
    """Whether a text bears every word, whatever the case and the accents."""
    here = _plain(text)
    return all(word in here for word in _plain(find).split())


def _plain(text: str) -> str:
    return "".join(letter for letter in unicodedata.normalize("NFD", text) if not unicodedata.combining(letter)).lower()
