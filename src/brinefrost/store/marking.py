"""Moving the marks on while the application runs, a moment behind what is written."""

import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime

from starlette.concurrency import run_in_threadpool

from brinefrost.core.errors import DomainError
from brinefrost.store.database import Database
from brinefrost.store.kitchens import in_kitchen
from brinefrost.store.marks import Mark

EVERY_S = 2.0  # so much of what was written last could be put back unseen


class Marking:
    """One thread that looks where each chain ends, and keeps it."""

    def __init__(self, database: Database) -> None:
        self._database, self._ended = database, threading.Event()

    @asynccontextmanager
    async def while_it_runs(self) -> AsyncIterator[None]:
        """Keep the marks until the application ends, and once more then."""
        thread = threading.Thread(target=self._keep, name="marks", daemon=True)
        thread.start()
        try:
            yield
        finally:
            self._ended.set()
            await run_in_threadpool(thread.join, 5)

    def _keep(self) -> None:
        while not self._ended.wait(EVERY_S):
            move_marks(self._database, datetime.now(tz=UTC))
        move_marks(self._database, datetime.now(tz=UTC))


def move_marks(database: Database, now: datetime) -> None:
    """Keep where each chain ends now, if it still holds what was kept before; else the older mark stands, and the
    integrity check names it."""
    for kitchen, end in database.near.ends().items():
        before = database.marks.of(kitchen)
        if before is not None and end.seq <= before.seq:
            continue
        try:
            with in_kitchen(kitchen), database.transaction() as store:
                holds = before is None or (before.sealed and store.ledger.hash_at(before.seq) == before.hash)
        except DomainError:  # the database is away: a moment later
            return
        if not holds:
            continue
        try:
            database.marks.move(kitchen, Mark(end.seq, end.hash, now))
        except OSError:  # a full disk ends no thread: a moment later
            return
