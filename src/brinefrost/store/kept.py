"""Answers of the Bench that somebody kept."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from brinefrost.core.errors import NotFoundError
from brinefrost.core.words import say
from brinefrost.store.tables import KeptAnswerRow


@dataclass(frozen=True)
class KeptInfo:
    """One kept answer."""

    id: str
    family: str
    name: str
    question: str
    state: str
    sentence: str
    person_id: str
    person_name: str
    kept_at: datetime


class KeptAnswers:
    """The shelf of kept answers."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, info: KeptInfo) -> None:
        """Keep one."""
        self._session.add(KeptAnswerRow(**vars(info)))
        self._session.flush()

    def count(self) -> int:
        """How many are kept."""
        return int(self._session.scalar(select(func.count()).select_from(KeptAnswerRow)) or 0)

    def latest(self, most: int) -> list[KeptInfo]:
        """The newest first."""
        rows = self._session.scalars(select(KeptAnswerRow).order_by(KeptAnswerRow.kept_at.desc()).limit(most))
        return [_info(row) for row in rows]

    def read(self, kept_id: str) -> KeptInfo:
        """One by its id."""
        return _info(self._row(kept_id))

    def remove(self, kept_id: str) -> None:
        """Take one off the shelf."""
        self._session.delete(self._row(kept_id))

    def _row(self, kept_id: str) -> KeptAnswerRow:
        row = self._session.get(KeptAnswerRow, kept_id)
        if row is None:
            raise NotFoundError(say("store.refused.answer_no_longer_kept"), kept=kept_id)
        return row


def _info(row: KeptAnswerRow) -> KeptInfo:
    return KeptInfo(**{name: getattr(row, name) for name in KeptInfo.__dataclass_fields__})
