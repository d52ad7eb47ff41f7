"""Hubs that deliver what their probes measure: the lead adds them, each with a token of its own, and ends them."""

import hashlib
import secrets
import uuid
from datetime import datetime, timedelta

from pydantic import Field

from brinefrost.core.errors import RefusedError
from brinefrost.core.names import Name
from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent
from brinefrost.services.office import Actor
from brinefrost.store import Store
from brinefrost.store.sealing import sealed_text
from brinefrost.store.shelves import InstrumentInfo

KITCHEN = "kitchen"
LATELY = timedelta(minutes=5)  # a sample so old is still told as what a channel shows


class NewChannel(Sent):
    """A channel: the hub's own name for it, what people call its probe, what it reads, how good it is (k = 2)."""

    key: str = Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9._-]+$")
    name: Name
    quantity: ReadingQuantity
    uncertainty: float = Field(gt=0, le=3)


class NewHub(Sent):
    """A hub, a recorder or a meter that delivers by itself."""

    name: Name
    channels: tuple[NewChannel, ...] = Field(min_length=1, max_length=32)


class ChannelState(Sent):
    """A channel as it stands; its id is its instrument's. Nothing shown where it was not heard lately."""

    id: str
    key: str
    name: str
    quantity: str
    unit: str
    value: float | None = None
    at: datetime | None = None


class HubState(Sent):
    """A hub as it stands. ``token`` is shown once, as it is added."""

    id: str
    name: str
    added_at: datetime
    ended_at: datetime | None
    seen_at: datetime | None
    skew_s: float
    refused: int
    refusal: Words
    channels: tuple[ChannelState, ...]
    token: str = ""


def token_hash(token: str) -> str:
    """What is kept of a token. Valid for any text."""
    return hashlib.sha256(token.encode()).hexdigest()


def make_token(key: str) -> str:
    """A new hub's token: of the ledger's key and the request's own, so that it is kept nowhere and a request that is
    sent again gets the same. Without a key of the ledger it is drawn, and cannot be had again."""
    return sealed_text(f"hub {key}") or secrets.token_hex(32)


def add_hub(store: Store, actor: Actor, now: datetime, entry: NewHub, token: str) -> HubState:
    """Add a hub with its channels, each an instrument that is due for its first check at once."""
    keys = [each.key for each in entry.channels]
    if len(set(keys)) < len(keys):
        raise RefusedError(say("services.hubs.two_channels_have_one_key"))
    taken = {each.name.lower() for each in store.instruments.all()}
    double = next((each.name for each in entry.channels if each.name.strip().lower() in taken), None)
    if double is not None:
        raise RefusedError(say("services.household.there_is_a_already_choose_another", strip=double))
    hub_id = uuid.uuid4().hex[:12]
    store.samples.add_hub(hub_id, entry.name.strip(), token_hash(token), now)
    for each in entry.channels:
        channel = uuid.uuid4().hex[:12]
        kind = "meter" if each.quantity in ("ph", "aw", "salt") else "logger"
        info = InstrumentInfo(channel, each.name.strip(), kind, (each.quantity,), each.uncertainty, now, now)
        store.instruments.add(info)
        store.samples.add_channel(channel, hub_id, each.key, each.quantity)
    said = {"hub": hub_id, "name": entry.name.strip(), "channels": [each.model_dump() for each in entry.channels]}
    store.ledger.append("hub_added", KITCHEN, said, actor.author, now)
    return next(each for each in list_hubs(store, now) if each.id == hub_id)


def end_hub(store: Store, actor: Actor, now: datetime, hub_id: str) -> HubState:
    """Let a hub deliver no more; what it measured stays."""
    store.samples.end_hub(hub_id, now)
    found = next(each for each in list_hubs(store, now) if each.id == hub_id)
    store.ledger.append("hub_ended", KITCHEN, {"hub": hub_id, "name": found.name}, actor.author, now)
    return found


def list_hubs(store: Store, now: datetime) -> list[HubState]:
    """Every hub with its channels and what each shows now."""
    names, latest = {each.id: each.name for each in store.instruments.all()}, store.samples.latest(now - LATELY)
    return [
        HubState(
            id=hub.id,
            name=hub.name,
            added_at=hub.added_at,
            ended_at=hub.ended_at,
            seen_at=hub.seen_at,
            skew_s=round(hub.skew_s, 1),
            refused=hub.refused,
            refusal=hub.refusal,
            channels=tuple(
                ChannelState(
                    id=each.id,
                    key=each.key,
                    name=names.get(each.id, each.key),
                    quantity=each.quantity,
                    unit=QUANTITIES[each.quantity].unit if each.quantity in QUANTITIES else "",
                    value=latest[each.id].value if each.id in latest else None,
                    at=latest[each.id].at if each.id in latest else None,
                )
                for each in hub.channels
            ),
        )
        for hub in store.samples.hubs()
    ]
