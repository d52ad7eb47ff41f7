"""Sealing records that came from a backup with this place's own key. Run as ``python -m brinefrost.store.reseal``."""

import os
import sys

from brinefrost.store.database import Database


def reseal(database: Database) -> str:
    """Walk the chain and seal its end; what does not hold, for another reason than the seal, is said and not sealed."""
    with database.transaction() as store:
        return store.ledger.reseal()


if __name__ == "__main__":
    found = reseal(Database(os.environ["BRINEFROST_OWNER_URL"]))
    sys.stderr.write(f"{found}\n" if found else "")
    sys.exit(1 if found else 0)
