"""Taking in what a hub delivers: looked at, kept once, told to every screen, judged after it is kept.

A hub says in each delivery what its own clock shows as it sends; how far that is off is taken from its times. A sample
that came before is left as it is, so that a hub may send again whatever it is not sure of.
"""

from datetime import datetime, timedelta
from typing import Literal

from pydantic import AwareDatetime, Field

from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.quantity import to_inside
from brinefrost.core.runs.deviations import next_event
from brinefrost.core.words import Words, num, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.office import Office
from brinefrost.services.sealing_samples import quarter_before, seal_samples
from brinefrost.store.kitchens import kitchen_here
from brinefrost.store.samples import Channel, Sample

MOST = 2000  # samples of one delivery
OLDEST, AHEAD = timedelta(days=30), timedelta(minutes=2)  # later than that nobody delivers; common practice
SKEWED_S = 5.0  # a clock that is less off is right


class SampleEntry(Sent):
    """One value of one channel, in the unit of what it reads, or in °F."""

    channel: str = Field(min_length=1, max_length=40)
    at: AwareDatetime
    value: float = Field(strict=True, allow_inf_nan=False, ge=-1e6, le=1e6)
    unit: Literal["°C", "°F", "pH", "%", "aw", "kg", ""] = ""


class Delivery(Sent):
    """What a hub sends: its own time as it does so, and samples in any order."""

    sent_at: AwareDatetime
    samples: tuple[SampleEntry, ...] = Field(min_length=1, max_length=MOST)


class Receipt(Sent):
    """What became of a delivery. What was refused is not sent again."""

    kept: int
    known: int  # that had come before
    refused: int
    skew_s: float
    refusal: Words = ""


def take_in(office: Office, hub_id: str, delivery: Delivery) -> Receipt:
    """Keep what a hub delivers, then judge the batches its probes are bound to.

    Valid for a hub of the kitchen at hand.
    """
    now = office.clock.now()
    off_s = (now - delivery.sent_at).total_seconds()
    skew_s = off_s if abs(off_s) > SKEWED_S else 0.0
    with office.database.transaction() as store:
        channels, good, refusals = store.samples.channels_of(hub_id), list[Sample](), list[Words]()
        for entry in delivery.samples:
            sample, refusal = _look_at(entry, channels.get(entry.channel), skew_s, now)
            if sample is not None:
                good.append(sample)
            else:
                refusals.append(refusal)
        fresh = list({(each.channel, each.at): each for each in good}.values())
        kept = store.samples.add(fresh, now)
        said = refusals[-1] if refusals else ""
        store.samples.heard(hub_id, now, -skew_s, len(refusals), str(said)[:400])
        batches = _bound_to(keeping.open_with_probes(store), {each.channel for each in fresh}) if kept else []
        for subject in (*batches, "samples"):
            store.samples.tell(kitchen_here(), subject)
        sealed_to = office.database.near.here().samples_sealed
    if sealed_to is None or quarter_before(now) > sealed_to:
        seal(office, now)
    for subject in batches:
        judge_by_samples(office, subject.removeprefix(keeping.PREFIX), now)
    return Receipt(kept=kept, known=len(good) - kept, refused=len(refusals), skew_s=round(-skew_s, 1), refusal=said)


def seal(office: Office, now: datetime) -> None:
    """Seal what was delivered in the quarter hours that are over."""
    with office.database.transaction() as store:
        seal_samples(store, now)
    office.database.near.here().samples_sealed = quarter_before(now)


def _look_at(entry: SampleEntry, channel: Channel | None, skew_s: float, now: datetime) -> tuple[Sample | None, Words]:
    """A sample as it is kept, or why it is not."""
    if channel is None:
        return None, say("services.ingesting.no_such_channel", channel=entry.channel)
    info = QUANTITIES[channel.quantity]  # type: ignore[index]
    if entry.unit and entry.unit != info.unit and not (info.unit == "°C" and entry.unit == "°F"):
        return None, say("services.ingesting.another_unit", channel=entry.channel, unit=entry.unit, wanted=info.unit)
    value = to_inside(entry.value, "°F") if entry.unit == "°F" else entry.value
    at = entry.at + timedelta(seconds=skew_s)
    if not now - OLDEST <= at <= now + AHEAD:
        return None, say("services.ingesting.another_time", channel=entry.channel)
    if not info.low <= value <= info.high:
        shown = num(round(value, 2))
        return None, say("services.ingesting.cannot_be", channel=entry.channel, value=shown, unit=info.unit)
    return Sample(channel.id, at, round(value, 4)), ""


def _bound_to(open_: dict[str, set[str]], channels: set[str]) -> list[str]:
    return [subject for subject, probes in open_.items() if probes & channels]


def judge_by_samples(office: Office, batch_id: str, now: datetime) -> None:
    """Judge a batch with its probes' samples; the chain is held only where something has to be written."""
    with office.database.transaction() as store:
        waits = next_event(keeping.load(store, batch_id), now) is not None
    if not waits:
        return
    with office.database.transaction() as store:
        store.ledger.lock()
        keeping.watch(store, batch_id, now, keeping.load(store, batch_id))
