"""The seal on what stands beside the ledger: the kitchen, its people and its instruments.

Each change that Brinefrost makes there is a record, and the rows are sealed anew as they then stand. Rows that do not
bear their seal were written past it. What the seal covers is named column by column: a later column changes no seal.
"""

import hmac
from collections.abc import Callable

from sqlalchemy import text
from sqlalchemy.orm import Session

from brinefrost.store.kitchens import HOME
from brinefrost.store.sealing import sealed_text
from brinefrost.store.tables import LedgerHeadRow

COVERED = (
    ("site", "id, name, altitude_m, zone, rule_set"),
    ("users", "id, name, role, password_hash, pin_hash, active"),
    (
        "instruments",
        "id, name, kind, quantities, uncertainty, calibrated_at at time zone 'UTC', due_at at time zone 'UTC'",
    ),
    ("hubs", "id, name, token_hash, added_at at time zone 'UTC', ended_at at time zone 'UTC'"),
    ("hub_channels", "id, hub_id, key, quantity"),
)

LATER = ("hubs", "hub_channels")  # an older database on its way up has none


class Standing:
    """Whether this transaction changed what stands beside the ledger, and whether it was whole before that."""

    def __init__(self, session: Session, hold: Callable[[], None]) -> None:
        """``hold`` holds the chain."""
        self._session = session
        self._hold = hold
        self.changed = False
        self.held = True

    def touch(self) -> None:
        """Called before a change, which will end in the ledger: the chain is held before anything else is."""
        if not self.changed:
            self._hold()
            self.changed = True
            self.held = standing_holds(self._session)


def standing_holds(session: Session) -> bool:
    """Whether the rows bear their seal; a kitchen without an end of its ledger has none yet."""
    head = session.get(LedgerHeadRow, 1)
    return head is None or hmac.compare_digest(standing_seal(session), head.standing)


def _is_there(session: Session, table: str) -> bool:
    return session.scalar(text("select to_regclass(:name)"), {"name": f"public.{table}"}) is not None


def standing_seal(session: Session) -> str:
    """HMAC-SHA-256 over every covered row, in order; empty where no key was given."""
    session.flush()
    lines = []
    for table, columns in (each for each in COVERED if each[0] not in LATER or _is_there(session, each[0])):
        rows = session.execute(text(f"select {columns} from {table} order by id"))  # noqa: S608 (our own names)
        lines += ["\x1f".join([table, *(str(value) for value in row)]) for row in rows]
    kitchen = session.info.get("kitchen", HOME)
    return sealed_text(("standing" if kitchen == HOME else kitchen) + "\x1e" + "\x1e".join(lines))
