"""Whose session a token is, asked in one call: every request begins with it."""

from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.engine import Engine

from brinefrost.store.at_once import asked
from brinefrost.store.kitchens import kitchen_here

USED = timedelta(minutes=1)  # how closely it is kept when a session was last used
ASK = "select person_id, name, role, manners, active, used_at, expires_at from session_of(%s, %s)"


@dataclass(frozen=True)
class SignedIn:
    """A session and its person."""

    person_id: str
    name: str
    role: str
    manners: str
    active: bool
    used_at: datetime
    expires_at: datetime

    def runs(self, now: datetime, unused_since: datetime) -> bool:
        """Whether it still runs and was used since then."""
        return self.active and self.expires_at > now and self.used_at >= unused_since


def session_of(engine: Engine, token_hash: str) -> SignedIn | None:
    """The session of a token in the kitchen at hand, whether it still runs or not."""
    row = asked(engine, ASK, (kitchen_here(), token_hash))
    return SignedIn(*row) if row else None  # type: ignore[arg-type]
