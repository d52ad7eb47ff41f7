"""Folded batches kept in memory, each for as long as its records stay as they are."""

import hashlib
from collections import OrderedDict
from collections.abc import Iterable
from dataclasses import dataclass
from threading import Lock

from brinefrost.core.runs.batch import Batch
from brinefrost.store.kitchens import kitchen_here

MOST = 120  # open batches of a large house, twice over


@dataclass(frozen=True)
class Kept:
    """A batch as it was folded: the digest of its plan's records, its own last record, and the digest up to that.

    ``sum`` is what that digest is worked out on from; None where the records do not read as they were written.
    """

    batch: Batch
    plan: str
    seq: int
    digest: str
    sum: "hashlib._Hash | None" = None


def summed(bodies: Iterable[str], so_far: "hashlib._Hash | None" = None) -> "hashlib._Hash":
    """The digest of records' bodies, as PostgreSQL works it out; or what it becomes with some more.

    ``store.summaries.WHOLE`` is the same sum. Valid for at least one body in all.
    """
    if so_far is None:
        return hashlib.md5("\x1f".join(bodies).encode(), usedforsecurity=False)
    made = so_far.copy()
    for body in bodies:
        made.update(f"\x1f{body}".encode())
    return made


class Folded:
    """A shelf of batches by what their records hold; the one longest unused goes first."""

    def __init__(self, most: int = MOST) -> None:
        self._most, self._lock = most, Lock()
        self._kept: OrderedDict[str, Kept] = OrderedDict()

    def get(self, subject: str, digest: str) -> Kept | None:
        """The batch and its plan's digest, if it was folded from just these records."""
        own = _own(subject)
        with self._lock:
            found = self._kept.get(own)
            if found is None or found.digest != digest:
                return None
            self._kept.move_to_end(own)
            return found

    def latest(self, subject: str) -> Kept | None:
        """The batch as it was last folded, and its plan's digest."""
        with self._lock:
            return self._kept.get(_own(subject))

    def drop(self, subject: str) -> None:
        """Keep a batch no longer."""
        with self._lock:
            self._kept.pop(_own(subject), None)

    def put(self, subject: str, kept: Kept) -> None:
        """Keep a batch; what it was before goes."""
        own = _own(subject)
        with self._lock:
            self._kept[own] = kept
            self._kept.move_to_end(own)
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)


def _own(subject: str) -> str:
    return f"{kitchen_here()} {subject}"


FOLDED = Folded()
