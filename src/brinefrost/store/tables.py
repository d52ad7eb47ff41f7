"""Rows. Records and trace files are append-only: the database itself refuses to change them.

Every table has one column more, ``kitchen_id``: the database fills it in and shows a transaction the rows of its own
kitchen alone (see kitchens.py), so within a transaction the keys below are whole.
"""

from datetime import datetime

from sqlalchemy import BigInteger, DateTime, Float, ForeignKey, Index, Integer, LargeBinary, String, Text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Base of all rows."""


Moment = DateTime(timezone=True)


class SiteRow(Base):
    """The kitchen: one row for each."""

    __tablename__ = "site"
    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    altitude_m: Mapped[float] = mapped_column(Float)
    zone: Mapped[str] = mapped_column(String(64))
    rule_set: Mapped[str] = mapped_column(String(8))


class UserRow(Base):
    """A person who signs in."""

    __tablename__ = "users"
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(String(80), unique=True)
    role: Mapped[str] = mapped_column(String(16))
    password_hash: Mapped[str] = mapped_column(Text)
    pin_hash: Mapped[str | None] = mapped_column(Text)
    active: Mapped[bool] = mapped_column(default=True)
    manners: Mapped[str] = mapped_column(Text, default="{}", server_default="{}")


class SessionRow(Base):
    """A signed-in browser. ``tablet`` says that people may switch on it by PIN."""

    __tablename__ = "sessions"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    user_id: Mapped[str] = mapped_column(ForeignKey("users.id"))
    created_at: Mapped[datetime] = mapped_column(Moment)
    expires_at: Mapped[datetime] = mapped_column(Moment)
    used_at: Mapped[datetime | None] = mapped_column(Moment)


class FailureRow(Base):
    """A wrong secret, kept for a while to slow guessing down."""

    __tablename__ = "sign_in_failures"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    bucket: Mapped[str] = mapped_column(String(160), index=True)
    at: Mapped[datetime] = mapped_column(Moment)


class InstrumentRow(Base):
    """A probe, logger or meter, with its uncertainty and calibration."""

    __tablename__ = "instruments"
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    kind: Mapped[str] = mapped_column(String(16))
    quantities: Mapped[str] = mapped_column(String(80))
    uncertainty: Mapped[float] = mapped_column(Float)
    calibrated_at: Mapped[datetime] = mapped_column(Moment)
    due_at: Mapped[datetime] = mapped_column(Moment)


class DraftRow(Base):
    """A plan being written. Its revision grows with every save."""

    __tablename__ = "drafts"
    plan_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    document: Mapped[str] = mapped_column(Text)
    revision: Mapped[int] = mapped_column(Integer)
    updated_by: Mapped[str] = mapped_column(String(80))
    updated_at: Mapped[datetime] = mapped_column(Moment)


class RecordRow(Base):
    """One append-only record; its hash covers the one before it."""

    __tablename__ = "records"
    seq: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=False)
    kind: Mapped[str] = mapped_column(String(40))
    subject: Mapped[str] = mapped_column(String(80))
    recorded_at: Mapped[datetime] = mapped_column(Moment)
    actor_id: Mapped[str] = mapped_column(String(64))
    actor_name: Mapped[str] = mapped_column(String(80))
    actor_role: Mapped[str] = mapped_column(String(16))
    body: Mapped[str] = mapped_column(Text)
    prev_hash: Mapped[str] = mapped_column(String(64))
    hash: Mapped[str] = mapped_column(String(64))
    __table_args__ = (Index("records_subject", "subject", "seq"), Index("records_kind", "kind", "seq"))


class LedgerHeadRow(Base):
    """Where the chain ends, so that a cut tail shows."""

    __tablename__ = "ledger_head"
    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    seq: Mapped[int] = mapped_column(BigInteger)
    hash: Mapped[str] = mapped_column(String(64))
    seal: Mapped[str] = mapped_column(String(64), default="", server_default="")
    standing: Mapped[str] = mapped_column(String(64), default="", server_default="")


class TraceFileRow(Base):
    """A logger file as it came, and how it was read."""

    __tablename__ = "trace_files"
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64))
    filename: Mapped[str] = mapped_column(String(200))
    content: Mapped[bytes] = mapped_column(LargeBinary)
    parsed: Mapped[str] = mapped_column(Text)
    parsed_sha256: Mapped[str] = mapped_column(String(64))
    added_at: Mapped[datetime] = mapped_column(Moment)


class KeptAnswerRow(Base):
    """A question of the Bench somebody kept, with the answer it had then."""

    __tablename__ = "kept_answers"
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    family: Mapped[str] = mapped_column(String(40))
    name: Mapped[str] = mapped_column(String(120))
    question: Mapped[str] = mapped_column(Text)
    state: Mapped[str] = mapped_column(String(20))
    sentence: Mapped[str] = mapped_column(Text)
    person_id: Mapped[str] = mapped_column(ForeignKey("users.id"))
    person_name: Mapped[str] = mapped_column(String(80))
    kept_at: Mapped[datetime] = mapped_column(Moment, index=True)


class SummaryRow(Base):
    """A closed batch in one line, as of its last record."""

    __tablename__ = "batch_summaries"
    batch_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    seq: Mapped[int] = mapped_column(BigInteger)
    body: Mapped[str] = mapped_column(Text)


class ReplyRow(Base):
    """The reply to a write, kept under its idempotency key."""

    __tablename__ = "replies"
    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    actor_id: Mapped[str] = mapped_column(String(64))
    fingerprint: Mapped[str] = mapped_column(String(64))
    body: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = mapped_column(Moment)
