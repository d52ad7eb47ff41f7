"""Sealing records that came from a backup with this place's own key. Run as ``python -m brinefrost.store.reseal``."""

import os
import sys

from brinefrost.store.database import Database
from brinefrost.store.kitchens import every_kitchen, in_kitchen


def reseal(database: Database) -> str:
    """Walk a kitchen's chain and seal its end; what does not hold for another reason than the seal is said instead."""
    with database.transaction() as store:
        return store.ledger.reseal()


if __name__ == "__main__":
    wrong = ""
    for kitchen in every_kitchen(os.environ["BRINEFROST_OWNER_URL"]):
        with in_kitchen(kitchen):
            wrong = reseal(Database(os.environ["BRINEFROST_DATABASE_URL"]))
        if wrong:
            sys.stderr.write(f"{kitchen}: {wrong}\n")
            sys.exit(1)
