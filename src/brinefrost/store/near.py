"""What this process knows of each kitchen's chain without asking: where it ends, and each subject's last record.

A reading is accepted on the strength of it in one call to the database, which refuses where the chain ends elsewhere:
then another process wrote, and what was known is forgotten.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import datetime
from threading import RLock

from brinefrost.core.words import say
from brinefrost.store.errors import StoreDownError
from brinefrost.store.kitchens import kitchen_here
from brinefrost.store.shelves import InstrumentInfo

WAIT_S = 20.0  # for the chain, as long as the database waits for a lock
MOST_SUBJECTS = 1000  # of one kitchen; then it is all learned anew


@dataclass(frozen=True)
class End:
    """Where a chain ends, and the seal on what stands beside it."""

    seq: int
    hash: str
    standing: str


@dataclass
class Known:
    """What is known of one kitchen, by whoever has the turn.

    A transaction takes the turn before it takes hold of the chain, and keeps it until what it wrote is durable and
    known here: writers of this process follow one another, and none believes an end that has just moved.
    """

    _turn: RLock = field(default_factory=RLock)
    end: End | None = None
    last: dict[str, int] = field(default_factory=dict)  # by subject: its last record, true as of the end
    instruments: dict[str, InstrumentInfo] = field(default_factory=dict)  # as of the end
    samples_sealed: datetime | None = None  # until when, as far as this process has looked

    @contextmanager
    def turn(self) -> Iterator[None]:
        """Nobody else of this process writes for the kitchen meanwhile. Raises StoreDownError after a long wait."""
        if not self._turn.acquire(timeout=WAIT_S):
            raise StoreDownError(say("store.refused.writing_for_too_long"))
        try:
            yield
        finally:
            self._turn.release()

    def forget(self) -> None:
        """Know nothing any more."""
        self.end = None
        self.last.clear()
        self.instruments.clear()

    def moved(self, began: End, end: End, last: dict[str, int], beside: bool) -> None:
        """What a transaction wrote, once it is durable: where the chain ended when it took hold of it, where it ends
        now, the last record of each subject that it wrote to, and whether it changed what stands ``beside`` the
        ledger."""
        if self.end != began or len(self.last) > MOST_SUBJECTS:
            self.forget()
        if beside:
            self.instruments.clear()
        self.end = end
        self.last |= last


class Near:
    """What is known of every kitchen that anybody wrote for."""

    def __init__(self) -> None:
        self._held, self._known = RLock(), dict[str, Known]()

    def ends(self) -> dict[str, End]:
        """By kitchen: where its chain ends, as far as that is known."""
        with self._held:
            return {kitchen: known.end for kitchen, known in self._known.items() if known.end is not None}

    def here(self) -> Known:
        """What is known of the kitchen at hand."""
        with self._held:
            return self._known.setdefault(kitchen_here(), Known())
