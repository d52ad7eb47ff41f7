"""The engine, and one transaction with all its repositories."""

import time
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from datetime import datetime

import psycopg
from sqlalchemy import create_engine, event, text
from sqlalchemy.engine.interfaces import DBAPIConnection
from sqlalchemy.exc import DataError, DisconnectionError, IntegrityError, OperationalError, SQLAlchemyError
from sqlalchemy.orm import Session
from sqlalchemy.pool import ConnectionPoolEntry

from brinefrost.core.errors import ConflictError, DomainError, OutOfRangeError
from brinefrost.core.words import say
from brinefrost.store.accepting import accept, tell
from brinefrost.store.at_once import asked
from brinefrost.store.chain import Author, Link
from brinefrost.store.changes import Changes
from brinefrost.store.errors import StoreDownError
from brinefrost.store.kept import KeptAnswers
from brinefrost.store.kitchens import DOOR, SETTING, kitchen_here
from brinefrost.store.ledger import Ledger
from brinefrost.store.marks import Marks
from brinefrost.store.near import Known, Near
from brinefrost.store.people import People
from brinefrost.store.samples import Samples
from brinefrost.store.sessions import USED, SignedIn, session_of
from brinefrost.store.shelves import Drafts, Instruments, Replies, Reply, Site, TraceFiles
from brinefrost.store.standing import Standing
from brinefrost.store.summaries import Summaries

FRESH_S = 1.0  # a connection used so lately is there
BOUNDS = "-c statement_timeout=60s -c lock_timeout=20s -c idle_in_transaction_session_timeout=120s"


class Store:
    """Everything one transaction can reach."""

    def __init__(self, session: Session, turn: Callable[[], None]) -> None:
        self.ledger = Ledger(session, turn)
        self.standing = Standing(session, self.ledger.lock)
        self.people = People(session, self.standing)
        self.drafts = Drafts(session)
        self.instruments = Instruments(session, self.standing)
        self.site = Site(session, self.standing)
        self.traces = TraceFiles(session)
        self.replies = Replies(session)
        self.kept = KeptAnswers(session)
        self.summaries = Summaries(session)
        self.samples = Samples(session, self.standing)
        self.afterwards: list[Callable[[], None]] = []  # once it is all kept


class Database:
    """A pool of connections to one PostgreSQL database."""

    def __init__(self, url: str, durable: bool = True, marks: Marks | None = None) -> None:
        """``durable`` is False for made-up data alone: what was written is then not waited for on the disk.

        ``marks`` says how far each chain had come, from outside the database.
        """
        self.changes, self.near, self.marks = Changes(url), Near(), marks or Marks(None)
        options = BOUNDS if durable else f"{BOUNDS} -c synchronous_commit=off"
        self._engine = create_engine(url, pool_size=8, max_overflow=8, connect_args={"options": options})
        self._closed = False
        self._at_once = create_engine(
            url,
            pool_size=8,
            max_overflow=8,
            connect_args={"options": options},
            isolation_level="AUTOCOMMIT",  # each call is a transaction of its own
            pool_reset_on_return=None,
        )
        for engine in (self._engine, self._at_once):
            event.listen(engine, "checkin", self._given_back)
            event.listen(engine, "checkout", _still_there)

    @contextmanager
    def transaction(self) -> Iterator[Store]:
        """One transaction of the kitchen at hand: all of it or nothing. No driver error leaves here."""
        known = self.near.here()
        with _said_plainly(), ExitStack() as kept:
            with Session(self._engine) as session, session.begin():
                session.info.update(kitchen=kitchen_here(), marks=self.marks)
                session.execute(text("select set_config(:name, :kitchen, true)"), _setting(session))
                store = Store(session, lambda: kept.enter_context(known.turn()))
                yield store
                if store.standing.changed:
                    store.ledger.seal_standing(store.standing.held)
                began, end = store.ledger.began, store.ledger.end()
            if began and end:
                last = {record.subject: record.seq for record in store.ledger.written}
                known.moved(began, end, last, store.standing.changed)
            for done in store.afterwards:
                done()

    def accept(
        self, known: Known, kind: str, subject: str, body: str, author: Author, at: datetime, key: str, reply: Reply
    ) -> Link | None:
        """Keep one record in one call; the caller holds the turn of what is known. None where nothing was kept: what
        was believed of the chain is no longer true, or the key was used before."""
        try:
            with _said_plainly():
                return accept(self._at_once, known, kind, subject, body, author, at, key, reply)
        except DomainError:
            known.forget()  # whether it was kept is not known
            raise

    def tell(self, subject: str) -> None:
        """Tell who follows the kitchen at hand of what was accepted in one call."""
        with _said_plainly():
            tell(self._at_once, subject)

    def kitchen_called(self, word: str) -> str:
        """The kitchen of a word; without one, the only kitchen there is. Nobody's where there is none such."""
        with _said_plainly():
            found = asked(self._at_once, "select kitchen_called(%s)", (word.strip().lower(),))
        return str(found[0]) if found and found[0] else DOOR

    def hub_called(self, token_hash: str) -> tuple[str, str] | None:
        """The kitchen and the id of the hub that bears a token; None for no hub, or one that ended."""
        with _said_plainly():
            found = asked(self._at_once, "select kitchen, hub from hub_called(%s)", (token_hash,))
        return (str(found[0]), str(found[1])) if found and found[0] else None

    def session_known(self, token_hash: str) -> SignedIn | None:
        """The session of a token in the kitchen at hand, even one that has run out."""
        with _said_plainly():
            return session_of(self._at_once, token_hash)

    def signed_in(self, token_hash: str, now: datetime, unused_since: datetime, uses: bool) -> SignedIn | None:
        """Whose session it is, if it still runs and was used since then; that it is used now is kept by the minute."""
        with _said_plainly():
            found = session_of(self._at_once, token_hash)
        if found is None or not found.runs(now, unused_since):
            return None
        if uses and now - found.used_at >= USED:
            with self.transaction() as store:
                store.people.use_session(token_hash, now)
        return found

    def ready(self) -> bool:
        """Whether the database answers."""
        with self.transaction(), self._engine.connect() as connection:
            return bool(connection.execute(text("select 1")).scalar())

    def close(self) -> None:
        """Give the connections back, and listen no more. One still in use is ended once its work is done."""
        self._closed = True
        self.changes.close()
        self._engine.dispose()
        self._at_once.dispose()

    def _given_back(self, _: object, record: ConnectionPoolEntry) -> None:
        record.info["since"] = time.monotonic()
        if self._closed:
            record.invalidate()


@contextmanager
def _said_plainly() -> Iterator[None]:
    """What a driver or the ORM raises, in words for whoever waits."""
    try:
        yield
    except (IntegrityError, psycopg.IntegrityError) as error:
        raise ConflictError(say("store.refused.saved_a_moment_ago")) from error
    except (DataError, psycopg.DataError) as error:
        raise OutOfRangeError(say("store.refused.cannot_be_kept")) from error
    except (OperationalError, psycopg.OperationalError) as error:
        raise StoreDownError(say("store.refused.cannot_be_reached")) from error
    except (SQLAlchemyError, psycopg.Error) as error:
        raise StoreDownError(say("store.refused.could_not_be_written")) from error


def _setting(session: Session) -> dict[str, str]:
    return {"name": SETTING, "kitchen": session.info["kitchen"]}


def _still_there(connection: DBAPIConnection, record: ConnectionPoolEntry, _: object) -> None:
    """Whether the database still answers on it, asked where nobody has used it for a while; else another is made."""
    if time.monotonic() - record.info.get("since", time.monotonic()) < FRESH_S:
        return
    try:
        cursor = connection.cursor()
        cursor.execute("select 1")
        cursor.close()
        connection.rollback()
    except Exception as error:  # the driver's own, whichever it is
        raise DisconnectionError from error
