"""Hubs, their channels, and what they measured: SQL of its own, since there are many samples."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from numpy.typing import NDArray
from sqlalchemy import text
from sqlalchemy.orm import Session

from brinefrost.core.errors import NotFoundError
from brinefrost.core.words import say
from brinefrost.store.changes import CHANNEL
from brinefrost.store.standing import Standing

MOST_READ = 20_000  # samples of one channel in one look
LONG_BUCKET_S = 60.0  # of a core that was measured for days
BUCKET_S = 300.0  # of what surrounds the food: a door open for a minute is not its temperature

ADD = text(
    "insert into samples (channel_id, at, value, received_at) "
    "select * from unnest(cast(:channels as text[]), cast(:times as timestamptz[]), cast(:values as float8[]), "
    "cast(:received as timestamptz[])) on conflict do nothing"
)
RAW = text(
    "select extract(epoch from at)::float8, value from samples where channel_id = :channel and at > :since "
    "and at <= :until order by at limit :most"
)
MEDIAN = text(
    "select extract(epoch from max(at))::float8, percentile_cont(0.5) within group (order by value) from samples "
    "where channel_id = :channel and at > :since and at <= :until "
    "group by floor(extract(epoch from at) / :bucket) order by 1 limit :most"
)
LAST = text("select max(at) from samples where channel_id = :channel and at > :since and at <= :until")
LATEST = text(
    "select c.id, s.at, s.value from hub_channels c join lateral (select at, value from samples "
    "where channel_id = c.id and at > :since order by at desc limit 1) s on true"
)
# what was received in a stretch of time, in one order, as one text: the seal is over this
DIGEST = text(
    "select count(*), coalesce(encode(sha256(convert_to(string_agg(channel_id || ' ' || "
    "to_char(at at time zone 'UTC', 'YYYYMMDDHH24MISSUS') || ' ' || value::text, E'\\n' order by channel_id, at), "
    "'UTF8')), 'hex'), '') from samples where received_at >= :since and received_at < :until"
)


@dataclass(frozen=True)
class Channel:
    """One channel of a hub; its id is its instrument's."""

    id: str
    key: str
    quantity: str


@dataclass(frozen=True)
class Hub:
    """Something that delivers samples by itself, with when it was heard last and how far its clock is off [s]."""

    id: str
    name: str
    added_at: datetime
    ended_at: datetime | None
    seen_at: datetime | None
    skew_s: float
    refused: int
    refusal: str
    channels: tuple[Channel, ...]


@dataclass(frozen=True)
class Sample:
    """One value of one channel."""

    channel: str
    at: datetime
    value: float


def digest_of(session: Session, since: datetime, until: datetime) -> tuple[int, str]:
    """How many samples were received in a stretch of time, and the SHA-256 over them in one order."""
    count, digest = session.execute(DIGEST, {"since": since, "until": until}).one()
    return int(count), str(digest)


class Samples:
    """What hubs delivered, of the kitchen at hand."""

    def __init__(self, session: Session, standing: Standing) -> None:
        self._session, self._standing = session, standing

    def add_hub(self, hub_id: str, name: str, token_hash: str, at: datetime) -> None:
        """Keep a new hub."""
        self._standing.touch()
        self._session.flush()
        self._session.execute(
            text("insert into hubs (id, name, token_hash, added_at) values (:id, :name, :token, :at)"),
            {"id": hub_id, "name": name, "token": token_hash, "at": at},
        )

    def add_channel(self, channel_id: str, hub_id: str, key: str, quantity: str) -> None:
        """Keep a channel of a hub; its instrument is there already."""
        self._standing.touch()
        self._session.flush()
        self._session.execute(
            text("insert into hub_channels (id, hub_id, key, quantity) values (:id, :hub, :key, :quantity)"),
            {"id": channel_id, "hub": hub_id, "key": key, "quantity": quantity},
        )

    def end_hub(self, hub_id: str, at: datetime) -> None:
        """Let a hub deliver no more. Raises NotFoundError for one that does not, or does no longer."""
        self._standing.touch()
        ended = text("update hubs set ended_at = :at where id = :id and ended_at is null returning id")
        if self._session.execute(ended, {"at": at, "id": hub_id}).first() is None:
            raise NotFoundError(say("store.refused.there_is_no_such_hub"), hub=hub_id)

    def hubs(self) -> list[Hub]:
        """Every hub with its channels, those that ended too."""
        channels: dict[str, list[Channel]] = {}
        for row in self._session.execute(text("select hub_id, id, key, quantity from hub_channels order by key")):
            channels.setdefault(row.hub_id, []).append(Channel(row.id, row.key, row.quantity))
        query = text("select id, name, added_at, ended_at, seen_at, skew_s, refused, refusal from hubs order by name")
        return [
            Hub(
                row.id,
                row.name,
                row.added_at,
                row.ended_at,
                row.seen_at,
                row.skew_s,
                row.refused,
                row.refusal,
                tuple(channels.get(row.id, ())),
            )
            for row in self._session.execute(query)
        ]

    def channels_of(self, hub_id: str) -> dict[str, Channel]:
        """A hub's channels by its own names for them."""
        query = text("select id, key, quantity from hub_channels where hub_id = :hub")
        return {
            row.key: Channel(row.id, row.key, row.quantity) for row in self._session.execute(query, {"hub": hub_id})
        }

    def heard(self, hub_id: str, at: datetime, skew_s: float, refused: int, refusal: str) -> None:
        """Keep when a hub was heard, how far its clock is off [s], and what of it was refused."""
        self._session.execute(
            text(
                "update hubs set seen_at = :at, skew_s = :skew, refused = refused + :refused, "
                "refusal = case when :refused > 0 then :refusal else refusal end where id = :id"
            ),
            {"id": hub_id, "at": at, "skew": skew_s, "refused": refused, "refusal": refusal},
        )

    def add(self, samples: Sequence[Sample], received_at: datetime) -> int:
        """Keep samples; one that is there already is left as it is. How many were new."""
        if not samples:
            return 0
        columns = {
            "channels": [each.channel for each in samples],
            "times": [each.at for each in samples],
            "values": [each.value for each in samples],
            "received": [received_at] * len(samples),
        }
        return int(self._session.execute(ADD, columns).rowcount)  # type: ignore[attr-defined]

    def read(
        self, channel_id: str, since: datetime, until: datetime, smoothed: bool
    ) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Times [s since 1970] and values of a channel, (n,) each; the median of each five minutes if ``smoothed``."""
        asked = {"channel": channel_id, "since": since, "until": until, "most": MOST_READ, "bucket": BUCKET_S}
        rows = self._session.execute(MEDIAN if smoothed else RAW, asked | {"most": MOST_READ + 1}).all()
        if len(rows) > MOST_READ:  # days of samples: the median of each minute, or of as long as it takes
            last = self._session.scalar(LAST, {"channel": channel_id, "since": since, "until": until})
            wide = max(LONG_BUCKET_S, 2 * (last - since).total_seconds() / MOST_READ)
            rows = self._session.execute(MEDIAN, asked | {"bucket": wide}).all()
        found = np.array([tuple(row) for row in rows], dtype=float).reshape(-1, 2)
        return found[:, 0], found[:, 1]

    def latest(self, since: datetime) -> dict[str, Sample]:
        """By channel: its last sample since then."""
        rows = self._session.execute(LATEST, {"since": since})
        return {row.id: Sample(row.id, row.at, row.value) for row in rows}

    def digest(self, since: datetime, until: datetime) -> tuple[int, str]:
        """How many samples were received in a stretch of time, and the SHA-256 over them."""
        return digest_of(self._session, since, until)

    def first_received(self, since: datetime) -> datetime | None:
        """When the first sample since a time was received."""
        query = text("select min(received_at) from samples where received_at >= :since")
        found: datetime | None = self._session.scalar(query, {"since": since})
        return found

    def tell(self, kitchen: str, subject: str) -> None:
        """Tell whoever follows, as soon as this is durable."""
        said = {"channel": CHANNEL, "said": f"{kitchen} {subject}"}
        self._session.execute(text("select pg_notify(:channel, :said)"), said)
