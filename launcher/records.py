"""Commands on the records of ``start``, whether the server runs or not: kitchen, password, backup, restore, verify."""

import argparse
import json
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from launcher import packages
from launcher.backups import open_backup, write_backup
from launcher.cluster import Cluster
from launcher.places import PYTHON, ROOT, data_folder
from launcher.shell import LauncherError, pass_through, run, say
from launcher.watch import ledger_key

RECORDS = "brinefrost"  # the database of `start`


def program_env(cluster: Cluster, database: str) -> dict[str, str]:
    """What a program is told that works on the records: as the tables' owner too."""
    return {**cluster.env(database), **server_env(cluster, database)}


def server_env(cluster: Cluster, database: str) -> dict[str, str]:
    """What the server is told: the application's own role, and where the ledger's key and the marks lie."""
    ledger_key(data_folder())
    return {
        "BRINEFROST_DATABASE_URL": cluster.url(database),
        "BRINEFROST_LEDGER_KEY_FILE": str(data_folder() / "ledger.key"),
        "BRINEFROST_MARKS": str(data_folder() / f"{database}-marks.json"),
        "BRINEFROST_CHECKED": str(checked_file(database)),
        "PYTHONPATH": str(ROOT / "src"),
    }


def checked_file(database: str) -> Path:
    """Where the outcome of the daily integrity check lies."""
    return data_folder() / f"{database}-checked.json"


@contextmanager
def _cluster() -> Iterator[Cluster]:
    packages.everything(development=False)
    cluster = Cluster(data_folder() / "pg")
    cluster.start()
    try:
        yield cluster
    finally:
        cluster.stop()


def kitchen(arguments: list[str]) -> int:
    """Add a kitchen and ask for its people."""
    if len(arguments) != 1:
        raise LauncherError("Name the kitchen by one word: ./brinefrost kitchen WORD")
    with _cluster() as cluster:
        cluster.ensure_database(RECORDS)
        env = program_env(cluster, RECORDS)
        run([PYTHON, "-m", "brinefrost.store.migrate"], "Database brought up to date", ROOT, env)
        if pass_through([PYTHON, "-m", "brinefrost.store.new_kitchen", arguments[0]], ROOT, env):
            return 1
        say(f"At the door its people name it {arguments[0]}; those of the first kitchen name theirs home")
        return pass_through([PYTHON, "-m", "brinefrost.services.setup", arguments[0]], ROOT, env)


def password(arguments: list[str]) -> int:
    """Set a new password for somebody who has none they know: of the only lead, too."""
    if not arguments:
        raise LauncherError('Name the person: ./brinefrost password "NAME" (and --kitchen WORD, if there are several)')
    with _cluster() as cluster:
        if cluster.ensure_database(RECORDS):
            raise LauncherError("There are no records of `start` here, and nobody in them.")
        env = program_env(cluster, RECORDS)
        return pass_through([PYTHON, "-m", "brinefrost.services.new_password", *arguments], ROOT, env)


def backup(arguments: list[str]) -> int:
    """Write the records to a file, sealed."""
    if len(arguments) != 1:
        raise LauncherError("Name the file: ./brinefrost backup FILE")
    file = Path(arguments[0]).resolve()
    with _cluster() as cluster:
        if not cluster.has_database(RECORDS):
            raise LauncherError("There are no records of `start` here, so there is nothing to back up.")
        write_backup(cluster, RECORDS, file, ledger_key(data_folder()))
        env = program_env(cluster, RECORDS)
        run([PYTHON, "-m", "brinefrost.services.noted", "backup_written", file.name], "Noted in the ledger", ROOT, env)
    say(f"Written to {file}")
    say(f"Keep a copy of {data_folder() / 'ledger.key'} in another place: a restore elsewhere checks the backup by it")
    return 0


def restore(arguments: list[str]) -> int:
    """Read such a file back into an empty store: checked, migrated, sealed with this place's key, or nothing of it."""
    parser = argparse.ArgumentParser("./brinefrost restore")
    parser.add_argument("file", type=Path)
    parser.add_argument("--key", type=Path, help="the ledger.key of the place the backup was made in")
    parser.add_argument("--without-key", action="store_true", help="take it unchecked; its records say so for ever")
    asked = parser.parse_args(arguments)
    with _cluster() as cluster:
        if cluster.has_database(RECORDS):
            raise LauncherError(
                "There are records here already. A restore needs an empty store: set BRINEFROST_DATA to a new folder."
            )
        key = _key(asked.key)
        with open_backup(asked.file.resolve(), key) as opened:
            if not opened.sealed and not asked.without_key:
                raise LauncherError(
                    f"{asked.file} does not bear the seal of this place, so nothing was touched. Name the ledger.key "
                    "of the place it was made in: --key FILE. If that key is lost: --without-key, and the records "
                    "say for ever that nobody could check them."
                )
            cluster.check_backup(opened.records)
            cluster.ensure_database(RECORDS)
            env = {
                **program_env(cluster, RECORDS),
                "BRINEFROST_KEY_BEFORE": key if opened.sealed else "",
                "BRINEFROST_RESTORED": json.dumps(opened.statement),
            }
            Path(env["BRINEFROST_MARKS"]).unlink(missing_ok=True)  # of records that are no longer here
            try:
                cluster.restore(RECORDS, opened.records)
                run([PYTHON, "-m", "brinefrost.store.migrate"], "Records brought up to date", ROOT, env)
                run([PYTHON, "-m", "brinefrost.store.reseal"], "Chain walked and sealed here", ROOT, env)
            except LauncherError:
                cluster.drop_database(RECORDS)
                raise
    say(f"Restored from {asked.file}")
    return 0


def verify(arguments: list[str]) -> int:
    """Walk every record: of this place, or of a backup, which is read into a cluster of its own and thrown away."""
    parser = argparse.ArgumentParser("./brinefrost verify")
    parser.add_argument("file", nargs="?", type=Path, help="a backup; without one the records of `start`")
    parser.add_argument("--key", type=Path, help="the ledger.key of the place the backup was made in")
    parser.add_argument("--demo", action="store_true", help="the records of `demo`")
    asked, rest = parser.parse_known_args(arguments)
    if asked.file is None:
        database = "brinefrost_demo" if asked.demo else RECORDS
        with _cluster() as cluster:
            if not cluster.has_database(database):
                raise LauncherError("There are no records here to verify.")
            return pass_through([PYTHON, "-m", "brinefrost.verify", *rest], ROOT, program_env(cluster, database))
    packages.everything(development=False)
    folder = Path(tempfile.mkdtemp(prefix="brinefrost-verify-"))
    os.chmod(folder, 0o755)  # noqa: S103 (PostgreSQL's own user has to pass through)
    cluster = Cluster(folder, throw_away=True, durable=False)
    try:
        cluster.start()
        key = _key(asked.key)
        with open_backup(asked.file.resolve(), key) as opened:
            cluster.check_backup(opened.records)
            cluster.ensure_database(RECORDS)
            cluster.restore(RECORDS, opened.records)
        say(f"Made {opened.statement['made_at']}; " + ("its seal fits" if opened.sealed else "its seal does not fit"))
        env = {**cluster.env(RECORDS), "PYTHONPATH": str(ROOT / "src"), "BRINEFROST_LEDGER_KEY": key}
        run([PYTHON, "-m", "brinefrost.store.migrate"], "Read into a store of its own", ROOT, env)
        wrong = pass_through([PYTHON, "-m", "brinefrost.verify", *rest], ROOT, env)
        return wrong or (0 if opened.sealed else 1)
    finally:
        cluster.stop()


def _key(named: Path | None) -> str:
    try:
        return named.read_text().strip() if named else ledger_key(data_folder())
    except OSError as error:
        raise LauncherError(f"The key {named} cannot be read: {error}") from None
