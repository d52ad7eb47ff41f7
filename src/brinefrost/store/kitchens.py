"""Kitchens of one installation: whose rows a transaction sees.

Every row bears its kitchen, and the database itself holds them apart: no query names the kitchen, so none can forget
it. A transaction says once whose it is; where it says nothing of the sort, it sees no row at all.
"""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from sqlalchemy import create_engine, text

HOME = "home"  # the first kitchen, and the only one of most installations
DOOR = "door"  # nobody's: where those stand who have not said whose kitchen they come to
WORD = re.compile(r"[a-z0-9][a-z0-9-]{1,30}[a-z0-9]")
SETTING = "brinefrost.kitchen"

_here: ContextVar[str] = ContextVar("kitchen", default=HOME)


def kitchen_here() -> str:
    """The kitchen this piece of work is done for."""
    return _here.get()


@contextmanager
def in_kitchen(kitchen: str) -> Iterator[None]:
    """Work for one kitchen."""
    before = _here.set(kitchen)
    try:
        yield
    finally:
        _here.reset(before)


def every_kitchen(owner_url: str) -> list[str]:
    """The kitchens there are, asked as the owner of the tables: the application cannot list them."""
    engine = create_engine(owner_url)
    with engine.connect() as connection:
        found = connection.scalars(text("select id from kitchens where word is not null order by id")).all()
    engine.dispose()
    return [str(kitchen) for kitchen in found]


def add_kitchen(owner_url: str, word: str) -> str:
    """Make room for one more kitchen; its people name it at the door by this word.

    Raises ValueError for a word that is none, or that is taken.
    """
    if not WORD.fullmatch(word) or word == DOOR:
        raise ValueError("A kitchen's word has 3 to 32 small letters, digits and hyphens. Choose another.")
    engine = create_engine(owner_url)
    with engine.begin() as connection:
        made = text("insert into kitchens (id, word) values (:word, :word) on conflict do nothing")
        added = connection.execute(made, {"word": word}).rowcount
    engine.dispose()
    if not added:
        raise ValueError(f"There is a kitchen called {word} already. Choose another word.")
    return word
