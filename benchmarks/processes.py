"""Readings a second of many kitchens at 1, 2 and 4 processes over one PostgreSQL, beside PostgreSQL's own inserts.

Each kitchen has a home process, as docs/operations.md has it: a process logs for its own kitchens alone. One kitchen
is measured by itself too: it has one home, however many processes there are.
"""

import os
import sys
import time
import uuid
from datetime import UTC, datetime, timedelta
from multiprocessing import get_context

import psycopg

from brinefrost.services import accepting, running, starting
from brinefrost.services.office import Actor, Office, WallClock
from brinefrost.services.readings import ReadingEntry
from brinefrost.store import Database
from brinefrost.store.kitchens import HOME, SETTING, add_kitchen, in_kitchen
from tests.kitchen import NAMES, furnish, lead_of, signed_thigh

KITCHENS, BATCHES = 12, 2  # the aim is 200 kitchens and 2,000 batches: BRINEFROST_BENCH_KITCHENS and _BATCHES say so
MEASURED_S = 8.0
AT_ONCE = (1, 2, 4)

Work = tuple[str, list[str]]  # a kitchen, and its open batches


def processes(url: str) -> None:
    """What many kitchens log a second, and what one does."""
    count = int(os.environ.get("BRINEFROST_BENCH_KITCHENS", KITCHENS))
    each = int(os.environ.get("BRINEFROST_BENCH_BATCHES", BATCHES))
    print(f"Readings a second, {count} kitchens with {each} open batches each, on {os.cpu_count()} cores")
    alone = 0.0
    for n in AT_ONCE:  # kitchens of its own each time: a batch is judged the longer, the more was read of it
        work = [_furnish(url, f"bench-{n}-{k:03}", each) for k in range(count + 1)]
        many, one = _measure(url, work[1:], n), _measure(url, work[:1], n)
        rows = _measure_rows(url, n)
        alone = alone or one
        print(
            f"  {n} processes: {many:.0f} of many kitchens, {one:.0f} of one ({one / alone:.2f} of one process; aim: "
            f"at least 0.9); PostgreSQL's own durable inserts {rows:.0f}, ratio {many / rows:.2f}"
        )


def _furnish(url: str, word: str, batches: int) -> Work:
    """A kitchen with a signed thigh and batches in their baths."""
    now = datetime.now(tz=UTC)
    add_kitchen(os.environ["BRINEFROST_OWNER_URL"], word)
    with in_kitchen(word):
        database = Database(url, durable=False)
        hand = furnish(database, now)["cook"]
        plan = signed_thigh(database, lead_of(database), now - timedelta(hours=2))
        ids = []
        for _ in range(batches):
            begun = now - timedelta(minutes=50)
            with database.transaction() as store:
                entry = starting.BatchStart(plan_id=plan, packs=6, at=begun)
                ids.append(starting.start_batch(store, hand, now, entry).batch_id)
            with database.transaction() as store:
                mark = running.StepMark(at=begun, confirmed=True)
                running.begin_step(store, hand, now, ids[-1], "cook", mark)
        database.close()
    return word, ids


def _measure(url: str, work: list[Work], count: int) -> float:
    """Readings a second of so many processes, each over its own kitchens."""
    shares = [share for n in range(count) if (share := work[n::count])]
    with get_context("spawn").Pool(len(shares)) as pool:
        return sum(pool.starmap(_log, [(url, share) for share in shares]))


def _log(url: str, work: list[Work]) -> float:
    """Log into one batch after another for a while: readings a second."""
    database = Database(url)
    office, hands = Office(database, WallClock()), dict[str, Actor]()
    for word, _ in work:
        with in_kitchen(word), database.transaction() as store:
            person = store.people.by_name(NAMES["cook"])
            assert person
            hands[word] = Actor(person.id, person.name, "cook")
    logged, begun = 0, time.perf_counter()
    while time.perf_counter() - begun < MEASURED_S:
        for word, batches in work:
            with in_kitchen(word):
                now, batch = datetime.now(tz=UTC), batches[logged % len(batches)]
                reading = {"step": "cook", "quantity": "bath", "value": 62.8, "unit": "°C", "instrument": "probe-2"}
                entry = ReadingEntry.model_validate({**reading, "taken_at": now, "confirmed": True})
                accepting.log(office, hands[word], str(uuid.uuid4()), now, batch, entry)
            logged += 1
    took = time.perf_counter() - begun
    database.close()
    return logged / took


def _measure_rows(url: str, count: int) -> float:
    """Durable inserts of such a row, a second, on so many connections."""
    with psycopg.connect(os.environ["BRINEFROST_OWNER_URL"].replace("+psycopg", ""), autocommit=True) as owner:
        owner.execute("create table if not exists rows_alone (like records including all)")
        owner.execute(f"grant all on rows_alone to {os.environ['BRINEFROST_APP_ROLE']}")
    with get_context("spawn").Pool(count) as pool:
        return sum(pool.starmap(_insert, [(url, n) for n in range(count)]))


def _insert(url: str, which: int) -> float:
    row = "insert into rows_alone values (%s, 'reading_logged', 'batch:0', now(), %s, 'Tomasz', 'cook', %s, %s, %s)"
    hashed, body, done = "a" * 64, "x" * 300, 0
    base = (time.time_ns() // 1_000_000) * 1000 + which * 100_000_000_000_000
    with psycopg.connect(url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("select set_config(%s, %s, false)", (SETTING, HOME))
        begun = time.perf_counter()
        while time.perf_counter() - begun < MEASURED_S / 2:
            connection.execute(row, (base + done, hashed[:32], body, hashed, hashed))
            done += 1
        return done / (time.perf_counter() - begun)


if __name__ == "__main__":
    processes(sys.argv[1])
