"""A backup: the records, and a statement of what is in it, sealed with this place's key."""

import hashlib
import hmac
import json
import os
import tarfile
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from launcher.cluster import Cluster
from launcher.shell import LauncherError

RECORDS, STATEMENT = "records.dump", "statement.json"
FORM = "brinefrost-backup/1"


@dataclass(frozen=True)
class Opened:
    """A backup as it was read: its records, what it says of itself, and whether its seal fits a key."""

    records: Path
    statement: dict[str, str]
    sealed: bool


def write_backup(cluster: Cluster, database: str, file: Path, key: str) -> None:
    """Write a database and its statement to one file, which only its owner can read. Raises LauncherError."""
    if file.exists():
        raise LauncherError(f"{file} is there already. Name another file, so that no backup is lost.")
    with tempfile.TemporaryDirectory(dir=file.parent) as folder:
        records = Path(folder) / RECORDS
        cluster.dump(database, records)
        statement = {
            "form": FORM,
            "made_at": datetime.now(tz=UTC).isoformat(timespec="seconds"),
            "sha256": _digest(records),
        }
        (Path(folder) / STATEMENT).write_text(json.dumps({**statement, "seal": _seal(statement, key)}))
        whole = Path(folder) / "whole"
        os.close(os.open(whole, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600))  # it holds the hashes of passwords
        with tarfile.open(whole, "w") as out:
            for name in (STATEMENT, RECORDS):
                out.add(Path(folder) / name, name)
        whole.rename(file)


@contextmanager
def open_backup(file: Path, key: str) -> Iterator[Opened]:
    """Its parts, in a folder for as long as they are wanted. One from before statements were made is the records alone,
    without a seal. Raises LauncherError where it is no backup, or not as it was made."""
    if not file.is_file():
        raise LauncherError(f"There is no file {file}. Nothing was touched.")
    if not tarfile.is_tarfile(file):
        yield Opened(file, {"made_at": "?", "sha256": _digest(file)}, False)
        return
    with tempfile.TemporaryDirectory() as folder:
        statement = _unpack(file, Path(folder))
        records = Path(folder) / RECORDS
        if statement.get("sha256") != _digest(records):
            raise LauncherError(f"{file} was altered since it was made: its records are not those it was sealed with.")
        said = {name: value for name, value in statement.items() if name != "seal"}
        yield Opened(records, said, hmac.compare_digest(statement.get("seal", ""), _seal(said, key)))


def _unpack(file: Path, folder: Path) -> dict[str, str]:
    try:
        with tarfile.open(file) as parts:
            for name in (STATEMENT, RECORDS):
                part = parts.extractfile(name)
                if part is None:
                    raise KeyError(name)
                with (folder / name).open("wb") as out:
                    while block := part.read(1 << 20):
                        out.write(block)
        found = json.loads((folder / STATEMENT).read_text())
        return {str(name): str(value) for name, value in found.items()}
    except (tarfile.TarError, KeyError, ValueError, AttributeError) as error:
        raise LauncherError(f"{file} is no whole backup of Brinefrost, so nothing was touched: {error}") from None


def _digest(file: Path) -> str:
    with file.open("rb") as read:
        return hashlib.file_digest(read, "sha256").hexdigest()


def _seal(statement: dict[str, str], key: str) -> str:
    return hmac.new(key.encode(), json.dumps(statement, sort_keys=True).encode(), hashlib.sha256).hexdigest()
