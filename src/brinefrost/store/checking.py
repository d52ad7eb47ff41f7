"""Walking the whole chain, and what holds it: where it does not, a sentence."""

import json
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from brinefrost.core.words import num, say
from brinefrost.store.chain import record_hash
from brinefrost.store.marks import Mark
from brinefrost.store.rights import find_open_guards
from brinefrost.store.sample_seals import KIND, SUBJECT, find_changed_samples
from brinefrost.store.sealing import seal_holds
from brinefrost.store.standing import standing_holds
from brinefrost.store.tables import LedgerHeadRow, RecordRow, SiteRow


@dataclass(frozen=True)
class Break:
    """Where the chain does not hold, and how it shows."""

    seq: int
    kind: str
    subject: str
    sentence: str


def check_chain(session: Session, genesis: str, mark: Mark | None, most: int = 20) -> tuple[int, str, list[Break]]:
    """Walk the whole chain: how many records, the last hash, and where it does not hold.

    ``mark`` is the furthest record this place has seen, as its launcher keeps it beside the database: a chain that no
    longer holds it was put back to an older state.
    """
    breaks: list[Break] = []
    sealed: list[tuple[int, dict[str, Any]]] = []
    expected_hash, expected_seq, count, marked = genesis, 1, 0, ""
    for row in session.scalars(select(RecordRow).order_by(RecordRow.seq).execution_options(yield_per=500)):
        count += 1
        if row.seq != expected_seq:
            missing = say("store.chain.records_are_missing", first=num(expected_seq), last=num(row.seq - 1))
            breaks.append(_break(row, missing))
        elif row.prev_hash != expected_hash:
            breaks.append(_break(row, say("store.chain.does_not_follow")))
        if record_hash(row) != row.hash:
            breaks.append(_break(row, say("store.chain.content_was_changed")))
        if mark is not None and row.seq == mark.seq:
            marked = row.hash
        if row.kind == KIND:
            sealed.append((row.seq, _read_body(row.body)))
        expected_hash, expected_seq = row.hash, row.seq + 1
    if mark is not None and not mark.sealed:
        breaks.append(Break(mark.seq, "", "", say("store.chain.mark_was_changed")))
    elif mark is not None and mark.seq and marked != mark.hash:
        when = mark.at.strftime("%Y-%m-%d %H:%M UTC")
        breaks.append(Break(mark.seq, "", "", say("store.chain.was_put_back", seq=num(mark.seq), at=when)))
    breaks += [Break(seq, KIND, SUBJECT, said) for seq, said in find_changed_samples(session, sealed)]
    return count, expected_hash, [*breaks, *_check_end(session, count, expected_seq, expected_hash)][:most]


def _check_end(session: Session, count: int, expected_seq: int, expected_hash: str) -> list[Break]:
    """Where it ends, the seals there, and what holds the application to its rights."""
    head = session.get(LedgerHeadRow, 1)
    if head is None:
        if count or session.get(SiteRow, 1) is not None:
            return [Break(count, "", "", say("store.chain.its_end_was_taken_away"))]
        return []
    breaks = [Break(head.seq, "", "", sentence) for sentence in find_open_guards(session)]
    if not standing_holds(session):
        breaks.insert(0, Break(head.seq, "", "", say("store.chain.standing_was_changed")))
    if (head.seq, head.hash) != (expected_seq - 1, expected_hash):
        ends = say("store.chain.should_end_at", wanted=num(head.seq), found=num(expected_seq - 1))
        breaks.append(Break(head.seq, "", "", ends))
    elif not seal_holds(head.seq, head.hash, head.seal):
        breaks.append(Break(head.seq, "", "", say("store.chain.end_bears_no_seal")))
    return breaks


def _read_body(text: str) -> dict[str, Any]:
    """The body of a record; empty where it does not read as one, which its hash names."""
    try:
        body = json.loads(text)
    except ValueError:
        return {}
    return body if isinstance(body, dict) else {}


def _break(row: RecordRow, sentence: str) -> Break:
    return Break(row.seq, row.kind, row.subject, sentence)
