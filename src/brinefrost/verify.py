"""``./brinefrost verify``: every kitchen's records walked from the first to the last, without the application.

Its outcome as text, or into a file which the application shows (the launcher asks for that once a day).
"""

import argparse
import json
import os
import sys
from datetime import UTC, datetime
from pathlib import Path

from brinefrost.core.words import STORED
from brinefrost.services.ledgers import Integrity, check_integrity
from brinefrost.store import Database
from brinefrost.store.kitchens import every_kitchen, in_kitchen
from brinefrost.store.marks import Mark, Marks, marks_here


def verify(database: Database, kitchen: str, now: datetime, printed: tuple[int, str] | None = None) -> Integrity:
    """Walk one kitchen's ledger, and keep its end where all of it holds.

    ``printed`` is the end that a record on paper bears, its number and hash, in place of the one that was kept.
    """
    if printed is not None:
        database.marks.claim(kitchen, Mark(*printed, now))
    with in_kitchen(kitchen):
        with database.transaction() as store:
            found = check_integrity(store, now)
        if found.holds and found.records and printed is None:
            database.marks.move(kitchen, Mark(found.records, found.head, now))
        return found


def main(arguments: list[str]) -> int:
    """Verify what the environment names; 0 where all of it holds, 1 where it does not."""
    parser = argparse.ArgumentParser("./brinefrost verify")
    parser.add_argument("--into", type=Path, help="write the outcome to a file, as JSON, for the application to show")
    parser.add_argument("--printed", metavar="NUMBER:HASH", type=_parse_printed, help="the end that a paper bears")
    parser.add_argument("--kitchen", default="home", help="the kitchen that paper is of")
    asked = parser.parse_args(arguments)
    now, outcome = datetime.now(tz=UTC), dict[str, Integrity]()
    for kitchen in every_kitchen(os.environ["BRINEFROST_OWNER_URL"]):
        printed = asked.printed if asked.printed and kitchen == asked.kitchen else None
        database = Database(os.environ["BRINEFROST_DATABASE_URL"], marks=Marks(None) if printed else marks_here())
        outcome[kitchen] = verify(database, kitchen, now, printed)
        database.close()
    if asked.into:
        _write(asked.into, outcome)
    for kitchen, found in outcome.items():
        sys.stdout.write(f"  {kitchen}: {found.sentence}\n")
        for each in found.broken:
            sys.stdout.write(f"    record {each.seq}: {each.sentence}\n")
    return 0 if all(found.holds for found in outcome.values()) else 1


def _parse_printed(text: str) -> tuple[int, str]:
    number, _, digest = text.partition(":")
    if not number.isdigit() or len(digest) != 64:
        raise argparse.ArgumentTypeError("give the number and the hash as printed, with a colon between: 8533:4f0c…")
    return int(number), digest


def _write(file: Path, outcome: dict[str, Integrity]) -> None:
    half = file.with_suffix(".half")
    told = {kitchen: json.loads(found.model_dump_json(context=STORED)) for kitchen, found in outcome.items()}
    half.write_text(json.dumps(told), encoding="utf-8")
    half.replace(file)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
