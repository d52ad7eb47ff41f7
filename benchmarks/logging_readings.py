"""Readings into a running batch, one after another, against PostgreSQL's own insert of such a row."""

import os
import statistics
import time
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from functools import partial

import psycopg

from brinefrost.services import accepting
from brinefrost.services.office import Actor, Office
from brinefrost.services.readings import ReadingEntry
from brinefrost.store.kitchens import HOME, SETTING

TURNS, IN_A_ROW = 8, 20  # by turns, so that both meet the same machine, and each as warm as it gets
SLOW_US = 2000  # of a disk that flushes in a few milliseconds, as most do
NUMBERS = iter(range(1, 1_000_000))


def logged(office: Office, hand: Actor, batch: str, begun: datetime, url: str) -> None:
    """Each accepted, chained and durable; then judged. On the disk at hand, and on one that takes its time."""
    with psycopg.connect(_owner(), autocommit=True) as owner:
        owner.execute("create table such_rows (like records including all)")
        owner.execute(f"grant all on such_rows to {os.environ['BRINEFROST_APP_ROLE']}")
        _by_turns(office, hand, batch, begun, url, "on the disk at hand")
        owner.execute("alter system set commit_siblings = 0")
        owner.execute(f"alter system set commit_delay = {SLOW_US}")
        owner.execute("select pg_reload_conf()")
        _by_turns(office, hand, batch, begun + timedelta(minutes=10), url, f"each commit {SLOW_US / 1e3:g} ms longer")


def _by_turns(office: Office, hand: Actor, batch: str, begun: datetime, url: str, where: str) -> None:
    took: dict[str, list[float]] = {"accepted": [], "judged": [], "inserted": []}
    with _insert(url) as insert:
        for turn in range(TURNS):
            now = datetime.now(tz=UTC)
            for i in range(IN_A_ROW):
                entry = _reading(begun + timedelta(minutes=40, seconds=turn * IN_A_ROW + i))
                accept = partial(accepting.accept, office, hand, str(uuid.uuid4()), now, batch, entry)
                took["accepted"].append(_spent(accept))
            took["judged"].append(_spent(partial(accepting.settle, office, batch, now)))
            took["inserted"] += [_spent(insert) for _ in range(IN_A_ROW)]
    ms = {name: 1e3 * statistics.median(each) for name, each in took.items()}
    gap = ms["accepted"] - 2 * ms["inserted"]
    reached = f", reached where a commit takes {gap:.1f} ms longer" if gap > 0 else ""
    print(
        f"  a reading accepted, chained and durable, {where}: {ms['accepted']:.2f} ms; PostgreSQL's own insert of "
        f"such a row {ms['inserted']:.2f} ms, ratio {ms['accepted'] / ms['inserted']:.1f} (aim: at most 2{reached}); "
        f"judged {ms['judged']:.1f} ms later"
    )


def _reading(taken_at: datetime) -> ReadingEntry:
    return ReadingEntry(
        step="cook",
        quantity="bath",
        value=62.8,
        unit="°C",
        taken_at=taken_at,
        instrument="probe-2",
        confirmed=True,
    )


def _spent(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def _owner() -> str:
    return os.environ["BRINEFROST_OWNER_URL"].replace("+psycopg", "")


@contextmanager
def _insert(url: str) -> Iterator[Callable[[], object]]:
    """Insert a row like a reading's into a table like the records', each durable, on one connection."""
    row = "insert into such_rows values (%s, 'reading_logged', 'batch:0123456789ab', now(), %s, %s, 'cook', %s, %s, %s)"
    hashed, body = "a" * 64, "x" * 300
    with psycopg.connect(url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("select set_config(%s, %s, false)", (SETTING, HOME))
        yield lambda: connection.execute(row, (next(NUMBERS), hashed[:32], "Tomasz", body, hashed, hashed))
