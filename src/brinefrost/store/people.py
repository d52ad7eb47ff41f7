"""People, their sessions, and wrong secrets."""

from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import delete, func, select, text, update
from sqlalchemy.orm import Session

from brinefrost.store.standing import Standing
from brinefrost.store.tables import FailureRow, SessionRow, UserRow

TAKEN_UP_WITHIN = timedelta(hours=24)  # how long after its end a session is kept, to be taken up again by PIN


@dataclass(frozen=True)
class Person:
    """Someone who signs in."""

    id: str
    name: str
    role: str
    password_hash: str
    pin_hash: str | None
    active: bool
    manners: str = "{}"


class People:
    """Accounts and sessions."""

    def __init__(self, session: Session, standing: Standing) -> None:
        self._session, self._standing = session, standing

    def add(self, person: Person) -> None:
        """Add an account."""
        self._standing.touch()
        self._session.add(
            UserRow(
                id=person.id,
                name=person.name,
                role=person.role,
                password_hash=person.password_hash,
                pin_hash=person.pin_hash,
                active=person.active,
            )
        )
        self._session.flush()

    def by_name(self, name: str) -> Person | None:
        """The account of a name, upper and lower case alike."""
        row = self._session.scalar(select(UserRow).where(func.lower(UserRow.name) == name.strip().lower()))
        return _person(row) if row else None

    def by_id(self, person_id: str) -> Person | None:
        """The account of an id."""
        row = self._session.get(UserRow, person_id)
        return _person(row) if row else None

    def all(self) -> list[Person]:
        """Every active account, by name."""
        rows = self._session.scalars(select(UserRow).where(UserRow.active).order_by(UserRow.name))
        return [_person(row) for row in rows]

    def everybody(self) -> list[Person]:
        """Every account, those who left too, by name."""
        return [_person(row) for row in self._session.scalars(select(UserRow).order_by(UserRow.name))]

    def set_active(self, person_id: str, active: bool) -> None:
        """Let an account in or keep it out."""
        self._standing.touch()
        self._session.execute(update(UserRow).where(UserRow.id == person_id).values(active=active))

    def set_secrets(self, person_id: str, password_hash: str | None, pin_hash: str | None) -> None:
        """Replace what was given."""
        self._standing.touch()
        values = {"password_hash": password_hash, "pin_hash": pin_hash}
        given = {name: value for name, value in values.items() if value is not None}
        self._session.execute(update(UserRow).where(UserRow.id == person_id).values(**given))

    def close_every_session(self) -> None:
        """Nobody is signed in any more."""
        self._session.execute(delete(SessionRow))

    def close_sessions(self, person_id: str) -> None:
        """End every session of a person."""
        self._session.execute(delete(SessionRow).where(SessionRow.user_id == person_id))

    def open_session(self, token_hash: str, person_id: str, now: datetime, expires_at: datetime) -> None:
        """Keep a new session."""
        self._session.execute(delete(SessionRow).where(SessionRow.expires_at < now - TAKEN_UP_WITHIN))
        self._session.add(
            SessionRow(token_hash=token_hash, user_id=person_id, created_at=now, expires_at=expires_at, used_at=now)
        )

    def use_session(self, token_hash: str, now: datetime) -> None:
        """Keep that a session is used now."""
        self._session.execute(update(SessionRow).where(SessionRow.token_hash == token_hash).values(used_at=now))

    def manners(self, person_id: str) -> str:
        """How somebody likes to read: a JSON document."""
        row = self._session.get(UserRow, person_id)
        return row.manners if row else "{}"

    def set_manners(self, person_id: str, manners: str) -> None:
        """Keep how somebody likes to read."""
        self._session.execute(update(UserRow).where(UserRow.id == person_id).values(manners=manners))

    def close_session(self, token_hash: str) -> None:
        """End a session."""
        self._session.execute(delete(SessionRow).where(SessionRow.token_hash == token_hash))

    def failures_since(self, bucket: str, since: datetime) -> int:
        """Wrong secrets in a bucket since a time."""
        query = select(func.count()).select_from(FailureRow).where(FailureRow.bucket == bucket, FailureRow.at >= since)
        return self._session.scalar(query) or 0

    def reserve_try(self, bucket: str, now: datetime, since: datetime, most: int) -> bool:
        """Count a try before it is looked at, so that many at once are no more than so many one after another."""
        held = {"bucket": f"{self._session.info['kitchen']} {bucket}"}
        self._session.execute(text("select pg_advisory_xact_lock(hashtext(:bucket))"), held)
        if self.failures_since(bucket, since) >= most:
            return False
        self._session.execute(delete(FailureRow).where(FailureRow.at < since))
        self._session.add(FailureRow(bucket=bucket, at=now))
        return True

    def forget_failures(self, bucket: str) -> None:
        """A right secret clears the bucket."""
        self._session.execute(delete(FailureRow).where(FailureRow.bucket == bucket))


def _person(row: UserRow) -> Person:
    return Person(row.id, row.name, row.role, row.password_hash, row.pin_hash, row.active, row.manners)
