"""The change of shift: who goes says what is left, who comes takes it with their own PIN, and it is a record."""

from datetime import datetime

from pydantic import Field

from brinefrost.core.errors import RefusedError
from brinefrost.core.words import STORED, Words, joined, say
from brinefrost.core.working import Sent
from brinefrost.services import accounts, shift
from brinefrost.services.handed import KIND, HandoverView
from brinefrost.services.office import Actor, Office
from brinefrost.store import Store

MOST_LEFT = 20
OPEN = ("trouble", "late", "due")


class HandoverEntry(Sent):
    """Who takes the shift, their PIN, and what they should know."""

    to: str = Field(min_length=1, max_length=64)
    pin: str = Field(min_length=1, max_length=12)
    note: str = Field(default="", max_length=2000)


def hand_over(office: Office, actor: Actor, entry: HandoverEntry) -> tuple[str, Actor]:
    """Hand the shift over: the token of whoever took it, and who they are.

    What is due, late or in trouble at that moment is kept with the note. Raises RefusedError where it is handed to
    oneself or to somebody who does not log.
    """
    if entry.to == actor.id:
        raise RefusedError(say("services.handover.to_somebody_else"))
    token, taker = accounts.switch(office, entry.to, entry.pin)
    if taker.role == "reviewer":
        accounts.sign_out(office, token)
        raise RefusedError(say("services.handover.a_reviewer_takes_no_shift"))
    now = office.clock.now()
    office.read(lambda store: _keep(store, actor, taker, entry.note.strip(), now))
    return token, taker


def _keep(store: Store, actor: Actor, taker: Actor, note: str, now: datetime) -> None:
    told = HandoverView(giver=actor.name, taker=taker.name, at=now, note=note, left=_list_left(store, now))
    store.ledger.append(KIND, "kitchen", told.model_dump(mode="json", context=STORED), actor.author, now)


def _list_left(store: Store, now: datetime) -> tuple[Words, ...]:
    items = [item for item in shift.read_shift(store, now).next if item.state in OPEN]
    return tuple(joined([item.code, item.title], " ") for item in items[:MOST_LEFT])
