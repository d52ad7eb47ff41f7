"""The smaller stores: the site, instruments, drafts, trace files, replies."""

import hashlib
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import Row, bindparam, select, text
from sqlalchemy.orm import Session, defer

from brinefrost.core.errors import ConflictError, NotFoundError
from brinefrost.core.words import say
from brinefrost.store.standing import Standing
from brinefrost.store.tables import DraftRow, InstrumentRow, ReplyRow, SiteRow, TraceFileRow

KEPT_FOR = timedelta(days=30)  # a reply is kept for as long as a tablet may still send its write again


OF_INSTRUMENT = ("id", "name", "kind", "quantities", "uncertainty", "calibrated_at", "due_at")
INSTRUMENT = select(*(getattr(InstrumentRow, name) for name in OF_INSTRUMENT)).where(
    InstrumentRow.id == bindparam("wanted")
)
KEEP = text(
    "with gone as (delete from replies where at < :gone) "
    "insert into replies (key, actor_id, fingerprint, body, at) values (:key, :actor_id, :fingerprint, :body, :at)"
)


@dataclass(frozen=True)
class SiteInfo:
    """The kitchen."""

    name: str
    altitude_m: float
    zone: str
    rule_set: str


class Site:
    """The kitchen's own row."""

    def __init__(self, session: Session, standing: Standing) -> None:
        self._session, self._standing = session, standing

    def read(self) -> SiteInfo:
        """The kitchen as set up; a plain one before that."""
        row = self._session.get(SiteRow, 1)
        if row is None:
            return SiteInfo("This kitchen", 0.0, "UTC", "us")
        return SiteInfo(row.name, row.altitude_m, row.zone, row.rule_set)

    def write(self, info: SiteInfo) -> None:
        """Set the kitchen up."""
        self._standing.touch()
        self._session.merge(
            SiteRow(id=1, name=info.name, altitude_m=info.altitude_m, zone=info.zone, rule_set=info.rule_set)
        )

    def exists(self) -> bool:
        """Whether the kitchen was set up."""
        return self._session.get(SiteRow, 1) is not None


@dataclass(frozen=True)
class InstrumentInfo:
    """A probe, logger or meter."""

    id: str
    name: str
    kind: str
    quantities: tuple[str, ...]
    uncertainty: float
    calibrated_at: datetime
    due_at: datetime


class Instruments:
    """What readings are taken with."""

    def __init__(self, session: Session, standing: Standing) -> None:
        self._session, self._standing = session, standing

    def add(self, info: InstrumentInfo) -> None:
        """Add an instrument."""
        self._standing.touch()
        self._session.add(
            InstrumentRow(
                id=info.id,
                name=info.name,
                kind=info.kind,
                quantities=" ".join(info.quantities),
                uncertainty=info.uncertainty,
                calibrated_at=info.calibrated_at,
                due_at=info.due_at,
            )
        )

    def calibrated(self, instrument_id: str, at: datetime, due_at: datetime, uncertainty: float) -> None:
        """Keep when it was checked, when it is due, and what it is good to."""
        row = self._session.get(InstrumentRow, instrument_id)
        if row is None:
            raise NotFoundError(say("store.refused.instrument_not_in_the_kit"), instrument=instrument_id)
        self._standing.touch()
        row.calibrated_at, row.due_at, row.uncertainty = at, due_at, uncertainty

    def all(self) -> list[InstrumentInfo]:
        """Every instrument, by name."""
        return [_instrument(row) for row in self._session.scalars(select(InstrumentRow).order_by(InstrumentRow.name))]

    def by_id(self, instrument_id: str) -> InstrumentInfo:
        """The instrument of an id."""
        row = self._session.execute(INSTRUMENT, {"wanted": instrument_id}).first()
        if row is None:
            raise NotFoundError(say("store.refused.instrument_not_in_the_kit"), instrument=instrument_id)
        return _instrument(row)


@dataclass(frozen=True)
class Draft:
    """A plan being written."""

    plan_id: str
    document: str
    revision: int
    updated_by: str
    updated_at: datetime


class Drafts:
    """Plans being written."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def create(self, draft: Draft) -> None:
        """Keep a new draft."""
        self._session.add(
            DraftRow(
                plan_id=draft.plan_id,
                document=draft.document,
                revision=draft.revision,
                updated_by=draft.updated_by,
                updated_at=draft.updated_at,
            )
        )
        self._session.flush()

    def read(self, plan_id: str) -> Draft:
        """The draft of a plan."""
        row = self._session.get(DraftRow, plan_id)
        if row is None:
            raise NotFoundError(say("store.refused.there_is_no_such_plan"), plan=plan_id)
        return _draft(row)

    def all(self) -> list[Draft]:
        """Every draft, the newest first."""
        return [_draft(row) for row in self._session.scalars(select(DraftRow).order_by(DraftRow.updated_at.desc()))]

    def save(self, plan_id: str, document: str, expected_revision: int, by: str, at: datetime) -> Draft:
        """Save over the revision that was read; refuse if somebody else saved since."""
        row = self._session.get(DraftRow, plan_id, with_for_update=True)
        if row is None:
            raise NotFoundError(say("store.refused.there_is_no_such_plan"), plan=plan_id)
        if row.revision != expected_revision:
            raise ConflictError(
                say("store.refused.saved_this_plan_meanwhile", by=row.updated_by),
                revision=row.revision,
                by=row.updated_by,
            )
        row.document, row.revision, row.updated_by, row.updated_at = document, expected_revision + 1, by, at
        self._session.flush()
        return _draft(row)


@dataclass(frozen=True)
class TraceFile:
    """A logger file and how it was read."""

    id: str
    sha256: str
    filename: str
    parsed: str
    parsed_sha256: str


class TraceFiles:
    """Logger files, append-only."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, trace_id: str, filename: str, content: bytes, parsed: str, at: datetime) -> TraceFile:
        """Keep a file as it came."""
        digest = hashlib.sha256(content).hexdigest()
        parsed_digest = hashlib.sha256(parsed.encode()).hexdigest()
        self._session.add(
            TraceFileRow(
                id=trace_id,
                sha256=digest,
                filename=filename,
                content=content,
                parsed=parsed,
                parsed_sha256=parsed_digest,
                added_at=at,
            )
        )
        self._session.flush()
        return TraceFile(trace_id, digest, filename, parsed, parsed_digest)

    def read_many(self, trace_ids: list[str]) -> list[TraceFile]:
        """How several files were read."""
        query = select(TraceFileRow).options(defer(TraceFileRow.content)).where(TraceFileRow.id.in_(trace_ids))
        return [
            TraceFile(row.id, row.sha256, row.filename, row.parsed, row.parsed_sha256)
            for row in self._session.scalars(query)
        ]

    def changed(self, recorded: dict[str, tuple[str, str]]) -> list[str]:
        """Ids whose file or samples no longer have the hashes they were recorded with, or are gone."""
        query = select(TraceFileRow.id, TraceFileRow.content, TraceFileRow.parsed).where(TraceFileRow.id.in_(recorded))
        found = {
            row.id: (hashlib.sha256(row.content).hexdigest(), hashlib.sha256(row.parsed.encode()).hexdigest())
            for row in self._session.execute(query)
        }
        return [trace_id for trace_id, digests in recorded.items() if found.get(trace_id) != digests]


@dataclass(frozen=True)
class Reply:
    """A kept reply."""

    actor_id: str
    fingerprint: str
    body: str


class Replies:
    """Replies to writes, so that a retry never doubles."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def hold(self, key: str) -> Reply | None:
        """Hold the key until the transaction ends; the reply kept under it, if there is one."""
        self._session.execute(
            text("select pg_advisory_xact_lock(hashtextextended(:key, 7))"),
            {"key": f"{self._session.info['kitchen']} {key}"},
        )
        row = self._session.get(ReplyRow, key)
        return Reply(row.actor_id, row.fingerprint, row.body) if row else None

    def keep(self, key: str, reply: Reply, at: datetime) -> None:
        """Keep a reply; those older than any retry go."""
        kept = {"actor_id": reply.actor_id, "fingerprint": reply.fingerprint, "body": reply.body}
        self._session.execute(KEEP, {"key": key, "at": at, "gone": at - KEPT_FOR, **kept})


def _instrument(row: InstrumentRow | Row[Any]) -> InstrumentInfo:
    return InstrumentInfo(
        row.id, row.name, row.kind, tuple(row.quantities.split()), row.uncertainty, row.calibrated_at, row.due_at
    )


def _draft(row: DraftRow) -> Draft:
    return Draft(row.plan_id, row.document, row.revision, row.updated_by, row.updated_at)
