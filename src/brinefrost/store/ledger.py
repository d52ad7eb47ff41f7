"""The append-only chain of records."""

import json
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Row, func, or_, select, text
from sqlalchemy.orm import Session
from sqlalchemy.orm.attributes import set_committed_value

from brinefrost.core.errors import ConflictError
from brinefrost.core.words import say
from brinefrost.store.chain import KEEPER, Author, Link, canonical, chain_record, genesis_of
from brinefrost.store.changes import CHANNEL
from brinefrost.store.checking import Break, check_chain
from brinefrost.store.near import End
from brinefrost.store.sealing import seal_of
from brinefrost.store.standing import standing_seal
from brinefrost.store.tables import LedgerHeadRow, RecordRow

CHAIN_LOCK = 7_140_021  # one writer of a kitchen's chain at a time


COLUMNS = ("seq", "kind", "subject", "recorded_at", "actor_id", "actor_name", "actor_role", "body", "prev_hash", "hash")
# a record, the end of its chain and the news of it, in one statement
APPEND = text(
    f"with written as (insert into records ({', '.join(COLUMNS)}) values (:{', :'.join(COLUMNS)}) returning subject), "  # noqa: S608 (our own names)
    "ended as (update ledger_head set seq = :end_seq, hash = :end_hash, seal = :end_seal where id = 1 returning id) "
    "select pg_notify(:channel, :said) from written, ended"
)


HOLD = (
    select(LedgerHeadRow)
    .from_statement(text("select * from hold_chain(:kitchen, :key)"))
    .execution_options(populate_existing=True)
)
ROW = (*(getattr(RecordRow, name) for name in COLUMNS),)  # of what is only read


@dataclass(frozen=True)
class Record:
    """One record as it is kept."""

    seq: int
    kind: str
    subject: str
    recorded_at: datetime
    actor_id: str
    actor_name: str
    actor_role: str
    body: dict[str, Any]
    hash: str


@dataclass(frozen=True)
class Head:
    """Where the chain ends."""

    seq: int
    hash: str
    seal: str


@dataclass(frozen=True)
class Sought:
    """What a search of the ledger asks for: all that is said has to fit. ``until`` is the first moment after it."""

    words: str = ""
    kinds: tuple[str, ...] = ()
    without: tuple[str, ...] = ()  # kinds that are left out
    since: datetime | None = None
    until: datetime | None = None
    person: str = ""  # by id
    instrument: str = ""  # by id
    subjects: frozenset[str] | None = None


class Ledger:
    """Appending to the chain, reading it, checking it."""

    def __init__(self, session: Session, turn: Callable[[], None]) -> None:
        """``turn`` waits for this process's turn to write for the kitchen, kept until the transaction ends."""
        self._session = session
        self._turn = turn
        self._kitchen = str(session.info["kitchen"])
        self._genesis = genesis_of(self._kitchen)
        self._held = False  # the chain, by this transaction
        self._ends: LedgerHeadRow | None = None  # where it ends, known while it is held
        self.began: End | None = None  # where it ended when this transaction took hold of it
        self.written: list[Record] = []  # by this transaction

    def append(self, kind: str, subject: str, body: dict[str, Any], author: Author, at: datetime) -> Record:
        """Add one record at the end of the chain."""
        self.lock()
        head = self._end()
        row = chain_record(head.seq, head.hash, kind, subject, canonical(body), author, at.astimezone(UTC))
        end = {"seq": row.seq, "hash": row.hash, "seal": seal_of(row.seq, row.hash)}
        told = {"channel": CHANNEL, "said": f"{self._kitchen} {subject}"}
        written = {name: getattr(row, name) for name in COLUMNS}
        moved = self._session.execute(
            APPEND, {**written, **{f"end_{key}": value for key, value in end.items()}, **told}
        )
        if moved.first() is None:  # a record without the chain's end behind it is never kept
            raise ConflictError(say("store.refused.where_the_ledger_ends_has_gone"))
        for name, value in end.items():
            set_committed_value(head, name, value)
        self.written.append(record_of(row))
        return self.written[-1]

    def _end(self) -> LedgerHeadRow:
        """The row of the chain's end, as it is now; made where there is none. The caller holds the chain."""
        if self._ends is None:
            self._ends = self._begin()
        return self._ends

    def _begin(self) -> LedgerHeadRow:
        """The end of a chain that holds nothing yet."""
        standing = standing_seal(self._session)
        seal = seal_of(0, self._genesis)
        head = LedgerHeadRow(id=1, seq=0, hash=self._genesis, seal=seal, standing=standing)
        self._session.add(head)
        self._session.flush()
        return head

    def seal_standing(self, held: bool) -> None:
        """Seal the kitchen, its people and its instruments as they stand now; keep it for ever if they had been
        written past Brinefrost."""
        if not held:
            said = {"name": say("store.chain.standing_had_been_changed").stored()}
            self.append("standing_found_changed", "kitchen", said, KEEPER, datetime.now(tz=UTC))
        self.lock()
        self._end().standing = standing_seal(self._session)

    def head(self) -> Head:
        """Where the chain ends now."""
        row = self._session.get(LedgerHeadRow, 1)
        return Head(row.seq, row.hash, row.seal) if row else Head(0, self._genesis, "")

    def lock(self) -> None:
        """Hold the chain, so that what is read stays true until the transaction ends."""
        if self._held:
            return
        self._turn()
        self._session.flush()
        self._ends = self._session.scalars(HOLD, {"kitchen": self._kitchen, "key": CHAIN_LOCK}).first()
        self._held = True
        self.began = self.end()

    def end(self) -> End | None:
        """Where the chain ends as this transaction leaves it, if it holds it."""
        return End(self._ends.seq, self._ends.hash, self._ends.standing) if self._ends else None

    def hash_at(self, seq: int) -> str | None:
        """The hash of one record; None where there is none of that number."""
        return self._session.scalar(select(RecordRow.hash).where(RecordRow.seq == seq))

    def of_subject(self, subject: str, after: int = 0, until: int | None = None) -> list[Record]:
        """Every record of one subject, in order; or those after a number, up to another."""
        query = select(*ROW).where(RecordRow.subject == subject, RecordRow.seq > after).order_by(RecordRow.seq)
        if until is not None:
            query = query.where(RecordRow.seq <= until)
        return [record_of(row) for row in self._session.execute(query)]

    def of_kind(self, kind: str, newest: int | None = None, subjects: Iterable[str] | None = None) -> list[Record]:
        """Every record of one kind, in order; of these subjects alone, or the newest few, newest first."""
        query = select(RecordRow).where(RecordRow.kind == kind)
        query = query if subjects is None else query.where(RecordRow.subject.in_(set(subjects)))
        query = query.order_by(RecordRow.seq) if newest is None else query.order_by(RecordRow.seq.desc()).limit(newest)
        return [record_of(row) for row in self._session.scalars(query)]

    def subjects(self, kind: str, without: str | None = None) -> list[str]:
        """The subjects that have a record of one kind, and none of another, in order of the first of them."""
        query = select(RecordRow.subject).where(RecordRow.kind.in_((kind, without))).group_by(RecordRow.subject)
        query = query.having(func.bool_and(RecordRow.kind == kind)).order_by(func.min(RecordRow.seq))
        return list(self._session.scalars(query))

    def naming(self, kind: str, name: str) -> list[Record]:
        """Every record of one kind whose body names something by its id, in order."""
        query = select(RecordRow).where(RecordRow.kind == kind, RecordRow.body.contains(name, autoescape=True))
        return [record_of(row) for row in self._session.scalars(query.order_by(RecordRow.seq))]

    def of_subjects(self, subjects: list[str]) -> dict[str, list[Record]]:
        """Every record of several subjects, in order."""
        found: dict[str, list[Record]] = {subject: [] for subject in subjects}
        rows = self._session.execute(select(*ROW).where(RecordRow.subject.in_(subjects)).order_by(RecordRow.seq))
        for row in rows:
            found[row.subject].append(record_of(row))
        return found

    def count(self, kind: str) -> int:
        """How many records of a kind there are."""
        return self._session.scalar(select(func.count()).select_from(RecordRow).where(RecordRow.kind == kind)) or 0

    def search(self, sought: Sought, before: int | None, most: int) -> list[Record]:
        """The records that are sought, newest first."""
        query = select(RecordRow).where(RecordRow.kind.not_in(set(sought.without)))
        query = query.order_by(RecordRow.seq.desc()).limit(most)
        if before is not None:
            query = query.where(RecordRow.seq < before)
        if sought.kinds:
            query = query.where(RecordRow.kind.in_(sought.kinds))
        if sought.since is not None:
            query = query.where(RecordRow.recorded_at >= sought.since)
        if sought.until is not None:
            query = query.where(RecordRow.recorded_at < sought.until)
        if sought.person:
            query = query.where(RecordRow.actor_id == sought.person)
        if sought.instrument:
            query = query.where(RecordRow.body.contains(f'"instrument":"{sought.instrument}"', autoescape=True))
        if sought.subjects is not None:
            query = query.where(RecordRow.subject.in_(sought.subjects))
        for word in sought.words.split()[:6]:
            held = (RecordRow.body, RecordRow.actor_name, RecordRow.subject, RecordRow.kind)
            query = query.where(or_(*(column.icontains(word, autoescape=True) for column in held)))
        return [record_of(row) for row in self._session.scalars(query)]

    def check(self, most: int = 20) -> tuple[int, str, list[Break]]:
        """Walk the whole chain: how many records, the last hash, and where it does not hold."""
        return check_chain(self._session, self._genesis, self._session.info["marks"].of(self._kitchen), most)

    def reseal(self) -> str:
        """Seal the end with the key of this place, if the chain holds otherwise; what is wrong, or nothing."""
        self.lock()
        head = self._end()
        before = head.seal, head.standing
        head.seal, head.standing = seal_of(head.seq, head.hash), standing_seal(self._session)
        breaks = self.check()[2]
        if breaks:
            head.seal, head.standing = before
        return breaks[0].sentence if breaks else ""


def _body(text_: str) -> dict[str, Any]:
    """The body of a record; empty where it is damaged, which the integrity check names."""
    try:
        body = json.loads(text_)
    except ValueError:
        return {}
    return body if isinstance(body, dict) else {}


def record_of(row: RecordRow | Link | Row[Any]) -> Record:
    """A record as it is kept, from its row."""
    return Record(
        row.seq,
        row.kind,
        row.subject,
        row.recorded_at,
        row.actor_id,
        row.actor_name,
        row.actor_role,
        _body(row.body),
        row.hash,
    )
