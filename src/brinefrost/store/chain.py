"""The links of the chain: each record's hash covers the one before it."""

import hashlib
import json
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from brinefrost.store.kitchens import HOME
from brinefrost.store.tables import RecordRow

GENESIS = "0" * 64  # where the first kitchen's chain begins


@dataclass(frozen=True)
class Author:
    """Who writes a record."""

    id: str
    name: str
    role: str


KEEPER = Author("brinefrost", "Brinefrost", "system")


@dataclass(slots=True)
class Link:
    """A record as it is written: its body the one text of it, the hash before it and its own."""

    seq: int
    kind: str
    subject: str
    recorded_at: datetime
    actor_id: str
    actor_name: str
    actor_role: str
    body: str
    prev_hash: str
    hash: str = ""


def canonical(body: dict[str, Any]) -> str:
    """The one text of a body: sorted keys, no spaces."""
    return json.dumps(body, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False)


def record_hash(row: RecordRow | Link) -> str:
    """SHA-256 over the row's fields and the hash before it."""
    moment = row.recorded_at.astimezone(UTC).isoformat(timespec="microseconds")
    parts = (str(row.seq), row.kind, row.subject, moment, row.actor_id, row.actor_name, row.actor_role, row.body)
    return hashlib.sha256("\x1f".join((row.prev_hash, *parts)).encode()).hexdigest()


def chain_record(seq: int, before: str, kind: str, subject: str, body: str, author: Author, at: datetime) -> Link:
    """The record that follows the one numbered ``seq`` whose hash is ``before``; ``at`` in UTC."""
    link = Link(seq + 1, kind, subject, at, author.id, author.name, author.role, body, before)
    link.hash = record_hash(link)
    return link


def genesis_of(kitchen: str) -> str:
    """Where a kitchen's chain begins: records of one kitchen never follow from another's. Valid for any kitchen."""
    return GENESIS if kitchen == HOME else hashlib.sha256(f"kitchen\x1f{kitchen}".encode()).hexdigest()
