"""One call to the database that is a transaction of its own: one way there and back, where a session takes four."""

import psycopg
from sqlalchemy.engine import Engine


def asked(engine: Engine, call: str, values: tuple[object, ...]) -> tuple[object, ...] | None:
    """The first row of what a call answers, straight from the driver, on a connection without transactions."""
    pooled = engine.raw_connection()
    try:
        cursor = pooled.cursor()
        cursor.execute(call, values)
        rows = cursor.fetchall()
    except psycopg.OperationalError:
        pooled.invalidate()
        raise
    finally:
        pooled.close()
    return tuple(rows[0]) if rows else None
