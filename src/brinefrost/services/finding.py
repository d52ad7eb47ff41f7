"""Which batches, and from when to when, somebody asks the ledger about."""

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from brinefrost.store import Store

Outcome = Literal["release", "rework", "discard"]
FIRST, LAST = date(1970, 1, 1), date(9000, 1, 1)  # no record is of a day outside these


@dataclass(frozen=True)
class Asked:
    """What is asked for: all that is said has to fit. Dates are the kitchen's own, the last of them included."""

    words: str = ""
    since: date | None = None
    until: date | None = None
    person: str = ""
    instrument: str = ""
    plan: str = ""
    lot: str = ""
    outcome: Outcome | None = None


def span_of(store: Store, asked: Asked) -> tuple[datetime | None, datetime | None]:
    """The first moment that is asked for and the first after it, in the kitchen's zone; None where it is open."""
    zone = ZoneInfo(store.site.read().zone)
    since = max(asked.since, FIRST) if asked.since else None
    until = min(asked.until, LAST) + timedelta(days=1) if asked.until else None
    return _begin(since, zone), _begin(until, zone)


def _begin(day: date | None, zone: ZoneInfo) -> datetime | None:
    return datetime.combine(day, time(), zone) if day else None


def find_batches(store: Store, asked: Asked) -> list[str] | None:
    """The subjects of the batches of a plan, with a lot, of an outcome; None where none of these is asked for."""
    if not (asked.plan or asked.lot or asked.outcome):
        return None
    lot = asked.lot.casefold()
    found = [
        record.subject
        for record in store.ledger.of_kind("batch_started")
        if (not asked.plan or record.body.get("plan_id") == asked.plan)
        and (not lot or any(lot in str(each.get("lot", "")).casefold() for each in record.body.get("lots", ())))
    ]
    if asked.outcome is None:
        return found
    closed = {
        record.subject: record.body.get("decision")
        for record in store.ledger.of_kind("batch_countersigned", subjects=found)
    }
    return [subject for subject in found if closed.get(subject) == asked.outcome]
