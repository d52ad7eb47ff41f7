"""How far each kitchen's chain has come, kept in a file outside the database: one put back to an older state shows.

Its seals come of the ledger's key: whoever can write the file cannot move it back without that.
"""

import hmac
import json
import os
from dataclasses import dataclass, replace
from datetime import datetime
from pathlib import Path
from threading import Lock
from typing import Any

from brinefrost.store.sealing import sealed_text

VARIABLE = "BRINEFROST_MARKS"  # the file; without one nothing is kept


@dataclass(frozen=True)
class Mark:
    """The furthest record seen of a kitchen, and when that was."""

    seq: int
    hash: str
    at: datetime
    sealed: bool = True  # False where somebody else wrote the file


class Marks:
    """The file, read and written whole."""

    def __init__(self, file: Path | None) -> None:
        self._file, self._held, self._claimed = file, Lock(), dict[str, Mark]()

    def of(self, kitchen: str) -> Mark | None:
        """The mark of a kitchen, and whether it bears its seal; None where none was kept."""
        if kitchen in self._claimed:
            return self._claimed[kitchen]
        with self._held:
            kept = self._load().get(kitchen, {})
        try:
            found = Mark(int(kept["seq"]), kept["hash"], datetime.fromisoformat(kept["at"]))
            return replace(found, sealed=hmac.compare_digest(kept["seal"], _seal(kitchen, found)))
        except (KeyError, TypeError, ValueError):
            return None

    def claim(self, kitchen: str, mark: Mark) -> None:
        """Believe a mark that somebody brings, such as the end of the ledger on a printed record; it is not kept."""
        self._claimed[kitchen] = mark

    def move(self, kitchen: str, mark: Mark) -> None:
        """Keep a later mark; the caller has seen that the chain still holds the one before."""
        kept = {"seq": mark.seq, "hash": mark.hash, "at": mark.at.isoformat(), "seal": _seal(kitchen, mark)}
        with self._held:
            marks = self._load()
            before = marks.get(kitchen, {}).get("seq", 0)
            if not isinstance(before, int) or before <= mark.seq:  # the daily check may have been quicker
                self._write({**marks, kitchen: kept})

    def _load(self) -> dict[str, dict[str, Any]]:
        if self._file is None:
            return {}
        try:
            found = json.loads(self._file.read_text())
        except (OSError, ValueError):
            return {}
        return found if isinstance(found, dict) else {}

    def _write(self, marks: dict[str, dict[str, Any]]) -> None:
        """All of it or nothing, on the disk before it counts."""
        if self._file is None:
            return
        half = self._file.with_suffix(f".{os.getpid()}")  # the server and the daily check write it, each by itself
        with half.open("w") as out:
            json.dump(marks, out, indent=1, sort_keys=True)
            out.flush()
            os.fsync(out.fileno())
        half.replace(self._file)


def marks_here() -> Marks:
    """The marks of this place, as the launcher says."""
    named = os.environ.get(VARIABLE, "")
    return Marks(Path(named) if named else None)


def _seal(kitchen: str, mark: Mark) -> str:
    return sealed_text(f"mark|{kitchen}|{mark.seq}|{mark.hash}|{mark.at.isoformat()}")
