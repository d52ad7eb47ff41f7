"""One record, accepted in one call: chained, durable, its reply kept, its followers told."""

from datetime import UTC, datetime

import psycopg
from sqlalchemy.engine import Engine

from brinefrost.store.changes import CHANNEL
from brinefrost.store.kitchens import kitchen_here
from brinefrost.store.ledger import CHAIN_LOCK, Author, Link, chained
from brinefrost.store.near import End, Known
from brinefrost.store.sealing import seal_of
from brinefrost.store.shelves import Reply

ACCEPT = f"select accept_record({', '.join(['%s'] * 18)})"


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
    row = chained(end.seq, end.hash, kind, subject, body, author, at.astimezone(UTC))
    values = (
        kitchen_here(), CHAIN_LOCK, CHANNEL, end.seq, end.hash, end.standing,
        kind, subject, row.recorded_at, author.id, author.name, author.role, body,
        row.hash, seal_of(row.seq, row.hash), key, reply.fingerprint, reply.body,
    )  # fmt: skip
    answer = _asked(engine, values)
    if answer == "elsewhere":
        known.forget()
    if answer != "kept":
        return None
    known.end = End(row.seq, row.hash, end.standing)
    known.last[subject] = row.seq
    return row


def _asked(engine: Engine, values: tuple[object, ...]) -> str:
    """Straight to the driver, on a connection where each call is a transaction of its own."""
    pooled = engine.raw_connection()
    try:
        cursor = pooled.cursor()
        cursor.execute(ACCEPT, values)
        (answer,) = cursor.fetchall()[0]
    except psycopg.OperationalError:
        pooled.invalidate()
        raise
    finally:
        pooled.close()
    return str(answer)
