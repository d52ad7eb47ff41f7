"""A new password by command, for whoever sits at the machine. Run as ``python -m brinefrost.services.new_password``."""

import argparse
import getpass
import os
import sys
from datetime import UTC, datetime

from brinefrost.core.errors import DomainError
from brinefrost.services.accounts import renew
from brinefrost.store import Database
from brinefrost.store.chain import KEEPER
from brinefrost.store.kitchens import HOME, in_kitchen


def set_password(database: Database, name: str, password: str, now: datetime) -> str:
    """Set it and end every session of the person; what is wrong, or nothing. It is a record that it was done here."""
    with database.transaction() as store:
        person = store.people.by_name(name)
        if person is None:
            known = ", ".join(each.name for each in store.people.all())
            return f"Nobody here is called {name}. The people are: {known}."
        try:
            renew(store, person.id, password, None)
        except DomainError as error:
            return str(error.sentence)
        told = {"name": name, "person": person.id, "what": ["password"], "by_command": True}
        store.ledger.append("secrets_renewed", "people", told, KEEPER, now)
    return ""


def main(arguments: list[str]) -> int:
    """Ask for the new password twice, and set it."""
    parser = argparse.ArgumentParser("./brinefrost password")
    parser.add_argument("name")
    parser.add_argument("--kitchen", default=HOME)
    asked = parser.parse_args(arguments)
    typed = getpass.getpass(f"  New password of {asked.name} (10 characters or more): ")
    if typed != getpass.getpass("  The same once more: "):
        sys.stderr.write("  The two are not alike. Nothing was changed.\n")
        return 1
    database = Database(os.environ["BRINEFROST_DATABASE_URL"])
    with in_kitchen(asked.kitchen):
        wrong = set_password(database, asked.name, typed, datetime.now(tz=UTC))
    database.close()
    sys.stdout.write(f"  {wrong or 'The new password is set; every session of that person has ended.'}\n")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
