"""Records that came from a backup, sealed with this place's own key. Run as ``python -m brinefrost.store.reseal``.

With the key of the place they come from (``BRINEFROST_KEY_BEFORE``) they are checked by it first: a backup that was
altered since is refused. That they were restored, from which file and whether its seals were checked, is a record.
"""

import json
import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from brinefrost.core.words import say
from brinefrost.store.chain import KEEPER
from brinefrost.store.database import Database
from brinefrost.store.kitchens import every_kitchen, in_kitchen, kitchen_here
from brinefrost.store.marks import Mark, marks_here
from brinefrost.store.sealing import VARIABLE

KEY_BEFORE = "BRINEFROST_KEY_BEFORE"
OF_FILE = "BRINEFROST_RESTORED"  # the statement of the backup, as JSON: when it was made, its digest


@contextmanager
def sealed_by(key: str) -> Iterator[None]:
    """Seals are made and checked with another key meanwhile."""
    own = os.environ.get(VARIABLE, "")
    os.environ[VARIABLE] = key
    try:
        yield
    finally:
        os.environ[VARIABLE] = own


def reseal(database: Database, key_before: str, statement: dict[str, str], now: datetime) -> str:
    """Check a kitchen's chain, seal its end with this place's key, end its sessions, and record that it was restored.

    What does not hold is said instead, and nothing is kept. Without ``key_before`` the seals cannot be checked.
    """
    with database.transaction() as store:
        if key_before:
            with sealed_by(key_before):
                breaks = store.ledger.check()[2]
            if breaks:
                return breaks[0].sentence
        wrong = store.ledger.reseal()
        if wrong:
            return wrong
        store.people.close_every_session()
        end = store.ledger.head()
        said = say("store.restored.seals_were_checked") if key_before else say("store.restored.seals_were_not_checked")
        told = {**statement, "seq": end.seq, "hash": end.hash, "sentence": said.stored()}
        last = store.ledger.append("records_restored", "kitchen", told, KEEPER, now)
    database.marks.move(kitchen_here(), Mark(last.seq, last.hash, now))
    return ""


def main() -> int:
    """Every kitchen of the records; the first that does not hold ends it."""
    statement = json.loads(os.environ.get(OF_FILE, "{}"))
    for kitchen in every_kitchen(os.environ["BRINEFROST_OWNER_URL"]):
        database = Database(os.environ["BRINEFROST_DATABASE_URL"], marks=marks_here())
        with in_kitchen(kitchen):
            wrong = reseal(database, os.environ.get(KEY_BEFORE, ""), statement, datetime.now(tz=UTC))
        database.close()
        if wrong:
            sys.stderr.write(f"{kitchen}: {wrong}\n")
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
