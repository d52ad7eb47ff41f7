"""What was done to the records from outside, a backup say: ``python -m brinefrost.services.noted KIND NAME``."""

import os
import sys
from datetime import UTC, datetime

from brinefrost.store import Database
from brinefrost.store.chain import KEEPER
from brinefrost.store.kitchens import every_kitchen, in_kitchen


def note(database: Database, kind: str, name: str, now: datetime) -> None:
    """Append one record of the kitchen at hand."""
    with database.transaction() as store:
        store.ledger.append(kind, "kitchen", {"name": name}, KEEPER, now)


def main(arguments: list[str]) -> int:
    """In every kitchen's ledger."""
    kind, name = arguments
    database = Database(os.environ["BRINEFROST_DATABASE_URL"])
    for kitchen in every_kitchen(os.environ["BRINEFROST_OWNER_URL"]):
        with in_kitchen(kitchen):
            note(database, kind, name, datetime.now(tz=UTC))
    database.close()
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
