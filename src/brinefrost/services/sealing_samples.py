"""What hubs delivered is sealed into the chain a quarter hour at a time."""

from datetime import UTC, datetime, timedelta

from brinefrost.services.office import SYSTEM
from brinefrost.store import Store
from brinefrost.store.sample_seals import KIND, SUBJECT

QUARTER_S = 900
SETTLED = timedelta(seconds=90)  # longer than any transaction may take: what was received by then is all there


def quarter_before(now: datetime) -> datetime:
    """The end of the last quarter hour of which all is kept by a time. Valid for times with a zone."""
    settled = (now - SETTLED).timestamp()
    return datetime.fromtimestamp(settled - settled % QUARTER_S, tz=UTC)


def seal_samples(store: Store, now: datetime) -> bool:
    """Seal what was received since the last seal, to the end of the last quarter hour; whether there was anything.

    By when it was received, so that what comes late is sealed with the quarter it came in.
    """
    until = quarter_before(now)
    last = store.ledger.of_kind(KIND, newest=1)
    since = datetime.fromisoformat(last[0].body["until"]) if last else datetime(1970, 1, 1, tzinfo=UTC)
    first = store.samples.first_received(since)
    if first is None or first >= until:
        return False
    store.ledger.lock()  # several processes may seal: the one that comes second finds it done
    again = store.ledger.of_kind(KIND, newest=1)
    if (again[0].seq if again else 0) != (last[0].seq if last else 0):
        return False
    count, digest = store.samples.digest(since, until)
    body = {"from": since.isoformat(), "until": until.isoformat(), "count": count, "sha256": digest}
    store.ledger.append(KIND, SUBJECT, body, SYSTEM, now)
    return True
