"""Where work is done: a clock, a database, and one transaction for each use case."""

import hashlib
import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Literal, Protocol, TypeVar

from pydantic import BaseModel

from brinefrost.core.errors import ConflictError
from brinefrost.core.words import STORED, say
from brinefrost.services.checked import Checked
from brinefrost.store import Database, Store
from brinefrost.store.chain import Author
from brinefrost.store.changes import Changes
from brinefrost.store.shelves import Reply

T = TypeVar("T")
Role = Literal["lead", "cook", "reviewer"]


class Clock(Protocol):
    """What time it is; the demo and the tests bring their own."""

    def now(self) -> datetime:
        """Now, with a zone."""


class WallClock:
    """The machine's clock."""

    def now(self) -> datetime:
        """Now, in UTC."""
        return datetime.now(tz=UTC)


@dataclass(frozen=True)
class Actor:
    """Who asks for the work."""

    id: str
    name: str
    role: Role
    manners: str = "{}"  # how they read, as kept

    @property
    def author(self) -> Author:
        """As the ledger writes it."""
        return Author(self.id, self.name, self.role)


SYSTEM = Author("brinefrost", "Brinefrost", "system")


def fingerprint_of(request: dict[str, Any]) -> str:
    """What tells one request from another sent under the same key."""
    return hashlib.sha256(json.dumps(request, sort_keys=True, default=str).encode()).hexdigest()


class Office:
    """Runs use cases."""

    def __init__(self, database: Database, clock: Clock, checked: Checked | None = None) -> None:
        self.database = database
        self.clock = clock
        self.checked = checked or Checked(None)  # what the daily integrity check found

    @property
    def changes(self) -> Changes:
        """What is written, as it is written."""
        return self.database.changes

    def read(self, work: Callable[[Store], T]) -> T:
        """Look something up."""
        with self.database.transaction() as store:
            return work(store)

    def write(
        self, actor: Actor, key: str, request: dict[str, Any], work: Callable[[Store], BaseModel]
    ) -> dict[str, Any]:
        """Do something once: the same key with the same request gets the same reply and changes nothing."""
        fingerprint = fingerprint_of(request)
        with self.database.transaction() as store:
            kept = store.replies.hold(key)
            if kept is not None:
                if (kept.actor_id, kept.fingerprint) != (actor.id, fingerprint):
                    raise ConflictError(say("services.office.this_was_sent_before_with_other_x"))
                return dict(json.loads(kept.body))
            body = work(store).model_dump_json(context=STORED)
            store.replies.keep(key, Reply(actor.id, fingerprint, body), self.clock.now())
            return dict(json.loads(body))
