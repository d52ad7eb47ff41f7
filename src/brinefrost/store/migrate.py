"""Bringing a database up to the version of the code. Run as ``python -m brinefrost.store.migrate``.

It runs as the owner of the tables. The application has a role of its own, which may add records and never change or
remove one: not by its own mistake, nor by a statement that somebody slips into it.
"""

import os
import sys
from datetime import UTC, datetime
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine, inspect, text

from brinefrost.store.partitions import make_partitions
from brinefrost.store.rights import ADDED, CHANGED, SHORT_LIVED


class NewerRecordsError(Exception):
    """The database was written by a newer Brinefrost."""


def config_for(url: str) -> Config:
    """Alembic's settings for one database."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(url: str, role: str = "") -> None:
    """Upgrade to the newest version, and let the application's role at it; nothing happens when all is there already.

    Raises NewerRecordsError where a newer Brinefrost wrote the records.
    """
    config = config_for(url)
    known = {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()}
    found = _revision(url)
    if found and found not in known:
        raise NewerRecordsError(
            f"These records were written by a newer Brinefrost (form {found}; this one knows up to {max(known)}). "
            "Start that version, or restore a backup that this one made. Nothing was touched."
        )
    command.upgrade(config, "head")
    _make_partitions(url)
    if role:
        _grant(url, role)


def _make_partitions(url: str) -> None:
    engine = create_engine(url)
    with engine.begin() as connection:
        make_partitions(connection, datetime.now(tz=UTC))
    engine.dispose()


def _revision(url: str) -> str:
    engine = create_engine(url)
    with engine.connect() as connection:
        there = inspect(connection).has_table("alembic_version")
        found = connection.execute(text("select version_num from alembic_version")).scalar() if there else ""
    engine.dispose()
    return str(found or "")


def _grant(url: str, role: str) -> None:
    """What the application may do, table by table; a table named nowhere here it cannot touch."""
    engine = create_engine(url)
    with engine.begin() as connection:
        quoted = connection.dialect.identifier_preparer.quote(role)
        tables = ", ".join((*ADDED, *CHANGED, *SHORT_LIVED))
        for statement in (
            "revoke create on schema public from public",
            f"grant usage on schema public to {quoted}",
            f"revoke all on {tables} from {quoted}",
            f"grant select, insert on {', '.join(ADDED)} to {quoted}",
            f"grant select, insert, update on {', '.join(CHANGED)} to {quoted}",
            f"grant select, insert, update, delete on {', '.join(SHORT_LIVED)} to {quoted}",
            f"grant usage on all sequences in schema public to {quoted}",
        ):
            connection.execute(text(statement))
    engine.dispose()


if __name__ == "__main__":
    try:
        migrate(os.environ["BRINEFROST_OWNER_URL"], os.environ.get("BRINEFROST_APP_ROLE", ""))
    except NewerRecordsError as error:
        sys.stderr.write(f"{error}\n")
        sys.exit(1)
