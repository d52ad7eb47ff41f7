"""Searching the ledger, checking the chain, and the record in open formats."""

import csv
import hashlib
import io
import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from brinefrost.core.plans.sheet_parts import Sheet
from brinefrost.core.words import STORED, Message, Words, joined, restored, said, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.finding import Asked, find_batches, span_of
from brinefrost.services.measured import samples_of
from brinefrost.services.planning import Version, signed_plan
from brinefrost.services.record_words import words_of
from brinefrost.services.step_names import Names, names_of_steps
from brinefrost.services.views import BatchView, read_batch, sheet_view
from brinefrost.store import Store
from brinefrost.store.ledger import Head, Record, Sought
from brinefrost.store.shelves import InstrumentInfo, SiteInfo

FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")  # wide ones too
ACCESS = ("signed_in", "sign_in_refused", "record_exported", "samples_sealed")  # many, and not of the food
CSV_COLUMNS = (
    "seq",
    "recorded_at",
    "kind",
    "step",
    "what",
    "value",
    "unit",
    "taken_at",
    "instrument",
    "uncertainty",
    "by",
    "role",
    "note",
    "hash",
    "corrects",
    "check",
    "confirmed",
    "kitchen_time",
)


class RecordView(Sent):
    """One record in the ledger."""

    seq: int
    kind: str
    kind_name: Words
    subject: str
    subject_name: str
    recorded_at: datetime
    actor: str
    role: str
    words: Words
    hash: str


class BrokenRecord(Sent):
    """A record that does not hold."""

    seq: int
    kind: str
    subject: str
    sentence: Words


class Integrity(Sent):
    """The outcome of walking the chain."""

    holds: bool
    records: int
    head: str
    checked_at: datetime
    broken: tuple[BrokenRecord, ...]
    sentence: Words


def search(
    store: Store, asked: Asked, before: int | None, most: int, kinds: tuple[str, ...] = (), access: bool = True
) -> list[RecordView]:
    """Records that fit what is asked, newest first; who came in and what was taken out only with ``access``."""
    since, until = span_of(store, asked)
    sought = Sought(
        words=asked.words,
        kinds=kinds,
        without=() if access else ACCESS,
        since=since,
        until=until,
        person=asked.person,
        instrument=asked.instrument,
        subjects=frozenset(subjects) if (subjects := find_batches(store, asked)) is not None else None,
    )
    found = store.ledger.search(sought, before, most)
    of = {record.subject for record in found}
    names = {r.subject: str(r.body.get("code", r.subject)) for r in store.ledger.of_kind("batch_started", subjects=of)}
    names |= {r.subject: str(r.body.get("name", r.subject)) for r in store.ledger.of_kind("plan_created", subjects=of)}
    steps = names_of_steps(store, found)
    return [_view(record, names, steps) for record in found]


def check_integrity(store: Store, now: datetime) -> Integrity:
    """Walk the whole chain, and compare every logger file with its record."""
    count, head, breaks = store.ledger.check()
    broken = [BrokenRecord(seq=b.seq, kind=b.kind, subject=b.subject, sentence=b.sentence) for b in breaks]
    attached = store.ledger.of_kind("trace_attached")
    recorded = {
        str(r.body.get("trace", "")): (str(r.body.get("sha256", "")), str(r.body.get("parsed_sha256", "")))
        for r in attached
    }
    changed = set(store.traces.changed(recorded))
    broken += [
        BrokenRecord(
            seq=r.seq,
            kind=r.kind,
            subject=r.subject,
            sentence=say("services.ledgers.its_logger_file_was_changed_or", get=r.body.get("filename") or "?"),
        )
        for r in attached
        if r.body.get("trace", "") in changed
    ]
    if broken:
        named = joined((say("services.ledgers.record_seq", seq=b.seq) for b in broken[:3]), ", ")
        sentence = say("services.ledgers.the_ledger_does_not_hold", named=named, sentence=broken[0].sentence)
    else:
        sentence = say("services.ledgers.all_records_follow_from_each_other_x", count=count)
    return Integrity(
        holds=not broken, records=count, head=head, checked_at=now, broken=tuple(broken), sentence=sentence
    )


def batch_json(store: Store, batch_id: str, now: datetime) -> dict[str, Any]:
    """The record of a batch, whole, as open JSON."""
    view = read_batch(store, batch_id, now)
    records = store.ledger.of_subject(keeping.subject_of(batch_id))
    return {
        "format": "brinefrost-record/1",
        "exported_at": now.isoformat(),
        "site": store.site.read().name,
        "batch": json.loads(view.model_dump_json(exclude={"curves", "marks", "blocking", "startable"}, context=STORED)),
        "records": [
            {
                "seq": r.seq,
                "kind": r.kind,
                "recorded_at": r.recorded_at.isoformat(),
                "by": r.actor_name,
                "role": r.actor_role,
                "body": r.body,
                "hash": r.hash,
            }
            for r in records
        ],
        "samples": [_samples(file.id, file.filename, file.parsed) for file in store.traces.read_many(_traces(view))],
        "probes": _list_samples(store, batch_id),
    }


def _list_samples(store: Store, batch_id: str) -> list[dict[str, Any]]:
    """What each probe of a batch measured while it was bound, as it is judged: seconds since 1970 and values."""
    batch = keeping.load(store, batch_id)
    return [
        {"binding": key, "times_s": [round(float(t), 3) for t in times], "values": [round(float(v), 4) for v in values]}
        for key, (times, values) in samples_of(store, batch).items()
    ]


def batch_rows(store: Store, batch_id: str) -> list[list[object]]:
    """The record of a batch as a table: its heads, then one row a record; numbers are numbers, all else is text."""
    zone = ZoneInfo(store.site.read().zone)
    records = store.ledger.of_subject(keeping.subject_of(batch_id))
    steps = names_of_steps(store, records)
    heads: list[object] = [said(say(f"paper.csv.{column}")) for column in CSV_COLUMNS]
    return [heads, *(_row(record, zone, steps) for record in records)]


def batch_csv(store: Store, batch_id: str) -> str:
    """The record of a batch as comma-separated text, safe to open in a spreadsheet."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    for row in batch_rows(store, batch_id):
        writer.writerow([harmless(cell) for cell in row])
    return out.getvalue()


def harmless(cell: object) -> object:
    """A cell that no spreadsheet takes for a formula. Numbers stay numbers."""
    if isinstance(cell, str) and cell.startswith(FORMULA_STARTS):
        return "'" + cell
    return cell


def _row(record: Record, zone: ZoneInfo, steps: Names) -> list[object]:
    body = record.body
    step = str(body.get("step", ""))
    note = restored(body.get("note") or body.get("sentence") or body.get("action") or body.get("reason") or "")
    value = body.get("value", "")
    return [
        record.seq,
        record.recorded_at.isoformat(),
        _word(record.kind, lambda key: say(f"paper.kind.{key}")),
        steps.get((record.subject, step), step),
        _what(body),
        value,
        body.get("unit", ""),
        body.get("taken_at") or body.get("at") or "",
        body.get("instrument_name", ""),
        body.get("uncertainty", ""),
        record.actor_name,
        _word(record.actor_role, lambda key: say(f"paper.who.{key}")),
        said(note),
        record.hash,
        body.get("corrects") or "",
        body.get("check", ""),
        body.get("confirmed", ""),
        _find_time(record).astimezone(zone).strftime("%Y-%m-%d %H:%M:%S"),
    ]


def _find_time(record: Record) -> datetime:
    """When what is recorded was read or done; when it was written, where nothing says that."""
    when = record.body.get("taken_at") or record.body.get("at")
    try:
        at = datetime.fromisoformat(str(when))
    except ValueError:
        return record.recorded_at
    return at if at.tzinfo else record.recorded_at


def _what(body: dict[str, Any]) -> str:
    """What a row is about: closed words as its reader has them, names and ids as they are."""
    if body.get("quantity"):
        return _word(body["quantity"], lambda key: say(f"paper.quantity.{key}"))
    if body.get("limit") or body.get("filename"):
        return str(body.get("limit") or body.get("filename"))
    if body.get("decision"):
        return _word(body["decision"], lambda key: say(f"paper.decision.{key}")).lower()
    return str(body.get("code") or "")


def _word(key: str, word: Callable[[str], Message]) -> str:
    """A closed word as its reader has it; one that is not known, as of a damaged record, as it stands."""
    try:
        return said(word(key))
    except KeyError:
        return key


def _traces(view: BatchView) -> list[str]:
    return [trace.trace for trace in view.traces]


def _samples(trace_id: str, filename: str, parsed: str) -> dict[str, Any]:
    return {
        "trace": trace_id,
        "filename": filename,
        "sha256_of_samples": hashlib.sha256(parsed.encode()).hexdigest(),
        **json.loads(parsed),
    }


def _view(record: Record, names: dict[str, str], steps: Names) -> RecordView:
    return RecordView(
        seq=record.seq,
        kind=record.kind,
        kind_name=_word(record.kind, lambda key: say(f"services.kinds.{key}")),
        subject=record.subject,
        subject_name=names.get(record.subject, record.subject),
        recorded_at=record.recorded_at,
        actor=record.actor_name,
        role=record.actor_role,
        words=words_of(record, steps),
        hash=record.hash,
    )


@dataclass(frozen=True)
class Printed:
    """What the printed record needs."""

    view: BatchView
    sheet: Sheet
    signed: Version
    site: SiteInfo
    instruments: tuple[InstrumentInfo, ...]
    head: Head


def for_print(store: Store, batch_id: str, now: datetime) -> Printed:
    """Everything a printed record bears."""
    view = read_batch(store, batch_id, now)
    return Printed(
        view=view,
        sheet=sheet_view(store, batch_id, now).sheet,
        signed=signed_plan(store, view.plan_id, view.plan_version).version,
        site=store.site.read(),
        instruments=tuple(store.instruments.all()),
        head=store.ledger.head(),
    )
