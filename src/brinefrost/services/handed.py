"""The last change of shift, as it is shown."""

from datetime import datetime, timedelta

from pydantic import ValidationError

from brinefrost.core.words import Words
from brinefrost.core.working import Sent
from brinefrost.store import Store

KIND = "shift_handed_over"
SHOWN = timedelta(hours=14)  # one long shift


class HandoverView(Sent):
    """Who handed the shift to whom, what they said, and what was left to do."""

    giver: str
    taker: str
    at: datetime
    note: str
    left: tuple[Words, ...]


def last_handover(store: Store, now: datetime) -> HandoverView | None:
    """The last one, while it is of this shift; None where there was none, or its record is damaged."""
    for record in store.ledger.of_kind(KIND, newest=1):
        try:
            found = HandoverView.model_validate(record.body)
        except ValidationError:
            return None
        return found if now - found.at < SHOWN else None
    return None
