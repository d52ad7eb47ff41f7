"""The seals on what hubs delivered: records with the digest of what was received in a stretch of time."""

from collections.abc import Iterable
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from brinefrost.core.words import Words, say
from brinefrost.store.samples import digest_of

KIND, SUBJECT = "samples_sealed", "samples"


def find_changed_samples(session: Session, sealed: Iterable[tuple[int, dict[str, Any]]]) -> list[tuple[int, Words]]:
    """The seals whose samples are no longer what was sealed, by the number of their record."""
    found: list[tuple[int, Words]] = []
    for seq, body in sealed:
        try:
            since, until = (datetime.fromisoformat(body[key]) for key in ("from", "until"))
            same = digest_of(session, since, until) == (body["count"], body["sha256"])
        except (KeyError, TypeError, ValueError):
            same = False
        if not same:
            found.append((seq, say("store.chain.samples_were_changed")))
    return found
