"""One record, accepted in one call: chain_record, durable, its reply kept."""

from datetime import UTC, datetime

import psycopg
from sqlalchemy.engine import Engine

from brinefrost.store.at_once import asked
from brinefrost.store.chain import Author, Link, chain_record
from brinefrost.store.changes import CHANNEL
from brinefrost.store.kitchens import kitchen_here
from brinefrost.store.ledger import CHAIN_LOCK
from brinefrost.store.near import End, Known
from brinefrost.store.sealing import seal_of
from brinefrost.store.shelves import Reply

KEY = "replies_pkey"  # each key once
ACCEPT = f"select accept_record({', '.join(['%s'] * 17)})"


def accept(
    engine: Engine,
    known: Known,
    kind: str,
    subject: str,
    body: str,
    author: Author,
    at: datetime,
    key: str,
    reply: Reply,
) -> Link | None:
    """Add one record where the chain is known to end; the caller holds the turn.

    None where nothing was kept: the chain ends elsewhere, which is then forgotten, or the key was used before.
    """
    end = known.end
    if end is None:
        return None
    row = chain_record(end.seq, end.hash, kind, subject, body, author, at.astimezone(UTC))
    values = (
        kitchen_here(), CHAIN_LOCK, end.seq, end.hash, end.standing,
        kind, subject, row.recorded_at, author.id, author.name, author.role, body,
        row.hash, seal_of(row.seq, row.hash), key, reply.fingerprint, reply.body,
    )  # fmt: skip
    try:
        answer = asked(engine, ACCEPT, values)
    except psycopg.errors.UniqueViolation as error:
        if error.diag.constraint_name == KEY:
            return None
        raise
    if answer == ("elsewhere",):
        known.forget()
    if answer != ("kept",):
        return None
    known.end = End(row.seq, row.hash, end.standing)
    known.last[subject] = row.seq
    return row


def tell(engine: Engine, subject: str) -> None:
    """Tell who follows the kitchen at hand that something was written of a subject."""
    asked(engine, "select pg_notify(%s, %s)", (CHANNEL, f"{kitchen_here()} {subject}"))
