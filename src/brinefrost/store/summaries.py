"""Closed batches in one line each: worked out from the records once, and again should they be gone."""

import hmac
from collections.abc import Collection
from hashlib import sha256

from sqlalchemy import bindparam, func, literal, select
from sqlalchemy.dialects.postgresql import aggregate_order_by, insert
from sqlalchemy.orm import Session

from brinefrost.store.kitchens import HOME
from brinefrost.store.sealing import sealed_text
from brinefrost.store.tables import RecordRow, SummaryRow

DIGITS = 64  # of a digest, before the text it is of

WHOLE = func.md5(
    func.string_agg(RecordRow.body, aggregate_order_by(literal("\x1f"), RecordRow.seq))
)  # of a subject's records, as a digest
WHOLE_UNTIL = func.md5(
    func.string_agg(RecordRow.body, aggregate_order_by(literal("\x1f"), RecordRow.seq)).filter(
        RecordRow.seq <= bindparam("until")
    )
)


END = select(func.max(RecordRow.seq), WHOLE).where(RecordRow.subject == bindparam("subject"))
SINCE = (
    select(RecordRow.subject, func.max(RecordRow.seq), WHOLE, WHOLE_UNTIL)
    .where(RecordRow.subject.in_((bindparam("subject"), bindparam("beside"))))
    .group_by(RecordRow.subject)
)


class Summaries:
    """Kept summaries, each as of a record."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._digests: dict[str, str] = {}  # of subjects that this transaction does not write to

    def of(self, batch_ids: Collection[str]) -> dict[str, tuple[int, str]]:
        """By batch: the last record they were made of, and their text."""
        rows = self._session.scalars(select(SummaryRow).where(SummaryRow.batch_id.in_(batch_ids)))
        opened = ((row.batch_id, row.seq, self._open(row.batch_id, row.seq, row.body)) for row in rows)
        return {batch_id: (seq, body) for batch_id, seq, body in opened if body is not None}

    def keep(self, batch_id: str, seq: int, body: str) -> None:
        """Keep one, in place of an older one."""
        body = self._digest(batch_id, seq, body) + body
        row = insert(SummaryRow).values(batch_id=batch_id, seq=seq, body=body)
        newer = row.on_conflict_do_update(constraint="batch_summaries_pkey", set_={"seq": seq, "body": body})
        self._session.execute(newer)

    def _digest(self, batch_id: str, seq: int, body: str) -> str:
        """The digest before a kept text: sealed with the key that the database does not know, where there is one."""
        kitchen = self._session.info.get("kitchen", HOME)
        told = "\x1f".join(("line", kitchen, batch_id, str(seq), body))
        return sealed_text(told) or sha256(told.encode()).hexdigest()

    def _open(self, batch_id: str, seq: int, kept: str) -> str | None:
        """The text behind its digest; None where it does not bear it, and has to be made anew."""
        body = kept[DIGITS:]
        return body if hmac.compare_digest(kept[:DIGITS].encode(), self._digest(batch_id, seq, body).encode()) else None

    def digest_once(self, subject: str) -> str:
        """The digest of all a subject holds, asked for once in a transaction."""
        if subject not in self._digests:
            self._digests[subject] = self.end_of(subject)[1]
        return self._digests[subject]

    def end_of(self, subject: str, until: int | None = None) -> tuple[int, str]:
        """The last record of one subject, up to a number if one is given, and a digest of all it holds till there.

        0 and nothing where there is none.
        """
        query = END if until is None else END.where(RecordRow.seq <= until)
        seq, digest = self._session.execute(query, {"subject": subject}).one()
        return (0, "") if seq is None else (int(seq), str(digest))

    def since(self, subject: str, before: int, beside: str) -> tuple[int, str, str]:
        """The last record of a subject, a digest of all it holds, and one of what it held up to a number.

        Asked together with the digest of another subject, which ``digest_once`` then knows. 0 and nothing where there
        is none.
        """
        rows = self._session.execute(SINCE, {"subject": subject, "beside": beside, "until": before})
        found = {str(name): (int(seq), str(digest), str(until or "")) for name, seq, digest, until in rows}
        self._digests[beside] = found.get(beside, (0, "", ""))[1]
        return found.get(subject, (0, "", ""))

    def lasts(self, subjects: Collection[str]) -> dict[str, int]:
        """By subject: its last record."""
        query = select(RecordRow.subject, func.max(RecordRow.seq)).where(RecordRow.subject.in_(subjects))
        return {str(subject): int(seq) for subject, seq in self._session.execute(query.group_by(RecordRow.subject))}

    def ends(self, subjects: Collection[str]) -> dict[str, tuple[int, str]]:
        """By subject: its last record, and a digest of all it holds."""
        query = select(RecordRow.subject, func.max(RecordRow.seq), WHOLE).where(RecordRow.subject.in_(subjects))
        rows = self._session.execute(query.group_by(RecordRow.subject))
        return {str(subject): (int(seq), str(digest)) for subject, seq, digest in rows}
