"""Binding a probe that delivers by itself to a step of a batch, in two touches; its step's end lets it go."""

from datetime import UTC, datetime, timedelta

from pydantic import Field

from brinefrost.core.errors import AskFirstError, NotFoundError, RefusedError
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import ProbeBound, ProbeLetGo
from brinefrost.core.runs.file_doubts import find_core_elsewhere
from brinefrost.core.runs.live import ProbeReads, read_probes
from brinefrost.core.words import Words, amount, moment, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.hubs import LATELY
from brinefrost.services.measured import samples_of
from brinefrost.services.office import Actor
from brinefrost.services.starting import BatchId
from brinefrost.store import Store
from brinefrost.store.samples import Sample

BEFORE = timedelta(minutes=10)  # what a probe measured so long before it was bound may count, if its step ran


class BindEntry(Sent):
    """Which channel measures at which step. ``confirmed`` answers a question that was asked about it."""

    step: str = Field(max_length=40)
    channel: str = Field(max_length=64)
    confirmed: bool = False


class ProbeOffer(Sent):
    """A channel that can be bound to a step that runs, with what it shows now."""

    channel: str
    name: str
    step: str
    step_name: Words
    quantity: str
    value: float | None
    at: datetime | None


class ProbeView(Sent):
    """A probe bound to a step: what it shows, how many samples there are, whether it still measures."""

    binding: str
    step: str
    step_name: Words
    quantity: str
    instrument: str
    instrument_name: str
    uncertainty: float
    by: str
    since: datetime
    until: datetime | None
    state: str
    samples: int
    value: float | None = None
    at: datetime | None = None
    asked: Words = ""


def offer_probes(store: Store, batch_id: str, now: datetime) -> tuple[ProbeOffer, ...]:
    """For each step that runs: the channels that read what its checks ask, bound nowhere in this batch yet."""
    batch = keeping.load(store, batch_id)
    names, latest = {each.id: each.name for each in store.instruments.all()}, store.samples.latest(now - LATELY)
    hubs = [hub for hub in store.samples.hubs() if hub.ended_at is None]
    bound = {
        (state.bound.step, state.bound.instrument)
        for state in batch.probes.values()
        if batch.probe_until(state) is None
    }
    found = []
    for step in batch.running_steps():
        control = asked_steps(batch).get(step.id)
        asked = (*control.monitoring, *control.limits) if control else ()
        wanted = {each.quantity for each in asked}  # a validated step's core too: who reads it verifies
        for channel in (each for hub in hubs for each in hub.channels):
            if channel.quantity not in wanted or (step.id, channel.id) in bound:
                continue
            seen = latest.get(channel.id)
            found.append(
                ProbeOffer(
                    channel=channel.id,
                    name=names.get(channel.id, channel.key),
                    step=step.id,
                    step_name=step.name,
                    quantity=channel.quantity,
                    value=seen.value if seen else None,
                    at=seen.at if seen else None,
                )
            )
    return tuple(found)


def bind_probe(store: Store, actor: Actor, now: datetime, batch_id: str, entry: BindEntry) -> BatchId:
    """Bind a channel to a step that runs; raises AskFirstError where it shows something else than is expected there."""
    batch = keeping.load_open(store, batch_id)
    step, span = batch.plan.step(entry.step), batch.span(entry.step)
    if span.started is None or span.finished is not None:
        raise RefusedError(say("services.binding.the_step_does_not_run", name=step.name))
    known = [each for hub in store.samples.hubs() if hub.ended_at is None for each in hub.channels]
    channel = next((each for each in known if each.id == entry.channel), None)
    if channel is None:
        raise NotFoundError(say("services.binding.there_is_no_such_channel"), channel=entry.channel)
    for state in batch.probes.values():
        same = (state.bound.step, state.bound.instrument) == (entry.step, entry.channel)
        if same and batch.probe_until(state) is None:
            raise RefusedError(say("services.binding.it_is_bound_there"))
    info, quantity = store.instruments.by_id(channel.id), QUANTITIES[channel.quantity]  # type: ignore[index]
    asked = _doubts(store, batch, entry, channel.quantity, info.due_at, now)
    if asked and not entry.confirmed:
        raise AskFirstError(asked, reason="probe", value=None)
    event = ProbeBound(
        binding=keeping.new_id(),
        step=entry.step,
        quantity=quantity.key,
        instrument=info.id,
        instrument_name=info.name,
        uncertainty=info.uncertainty,
        asked=asked,
        # a needle was elsewhere until it is bound; a bath or a store was there before
        at=now if channel.quantity == "core" else max(span.started, now - BEFORE),
    )
    if channel.quantity == "core":
        _let_go_elsewhere(store, actor, now, batch_id, channel.id)
    keeping.write(store, batch_id, event, actor.author, now)
    keeping.watch(store, batch_id, now, keeping.load(store, batch_id))
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _let_go_elsewhere(store: Store, actor: Actor, now: datetime, batch_id: str, instrument: str) -> None:
    """A needle is in one piece: wherever else it is bound, it is let go."""
    for subject, bound in keeping.open_with_probes(store).items():
        if instrument not in bound:
            continue
        other = subject.removeprefix(keeping.PREFIX)
        batch = keeping.load(store, other)
        for key, state in batch.probes.items():
            if state.bound.instrument == instrument and batch.probe_until(state) is None:
                event = ProbeLetGo(binding=key, at=max(now, state.bound.at))
                record = keeping.write(store, other, event, actor.author, now)
                if other != batch_id:
                    keeping.watch(store, other, now, keeping.measured_after(store, batch, record))


def _doubts(store: Store, batch: Batch, entry: BindEntry, quantity: str, due_at: datetime, now: datetime) -> Words:
    """What there is to ask before a channel is bound: it shows nothing, something else, or its check is overdue."""
    seen = store.samples.latest(now - LATELY).get(entry.channel)
    if seen is None:
        return say("services.binding.it_shows_nothing_now")
    control = asked_steps(batch).get(entry.step)
    checks = [each for each in (control.monitoring if control else ()) if each.quantity == quantity]
    info = QUANTITIES[quantity]  # type: ignore[index]
    low = min((each.expected_low_c for each in checks), default=info.low) - info.far
    high = max((each.expected_high_c for each in checks), default=info.high) + info.far
    shown = amount(seen.value, info.unit)
    if info.unit == "°C" and not low <= seen.value <= high and low <= (seen.value - 32) / 1.8 <= high:
        return say("services.binding.perhaps_fahrenheit", shown=shown)
    started = batch.span(entry.step).started
    if quantity == "core":
        before = find_core_elsewhere(batch, entry.step, seen.at.timestamp(), seen.value)
        if before is not None:
            return say("services.binding.not_in_the_food", shown=shown, before=amount(before, info.unit))
    elif not low <= seen.value <= high:
        return say("services.binding.far_from_expected", shown=shown)
    if due_at < now and started is not None:
        return say("services.binding.its_check_is_overdue", due_at=moment(due_at, "%d %b"))
    return ""


def let_go(store: Store, actor: Actor, now: datetime, batch_id: str, binding: str) -> BatchId:
    """Let a probe measure for its step no more; what it measured stays."""
    batch = keeping.load_open(store, batch_id)
    state = batch.probes.get(binding)
    if state is None or batch.probe_until(state) is not None:
        raise RefusedError(say("services.binding.it_is_let_go_already"))
    written = keeping.write(store, batch_id, ProbeLetGo(binding=binding, at=now), actor.author, now)
    keeping.watch(store, batch_id, now, keeping.measured_after(store, batch, written))
    return BatchId(batch_id=batch_id, code=batch.started.code)


def probe_views(store: Store, batch: Batch, now: datetime) -> tuple[ProbeView, ...]:
    """The probes of a batch as they stand; one that still measures with what it showed last. Valid for every batch."""
    if not batch.probes:
        return ()
    latest = store.samples.latest(now - LATELY)
    return tuple(
        _view(batch, reads, latest.get(reads.probe.bound.instrument))
        for reads in read_probes(batch, samples_of(store, batch), now)
    )


def _view(batch: Batch, reads: ProbeReads, latest: Sample | None) -> ProbeView:
    bound, until = reads.probe.bound, batch.probe_until(reads.probe)
    value = float(reads.values[-1]) if len(reads.values) else None
    at = datetime.fromtimestamp(float(reads.times_s[-1]), tz=UTC) if len(reads.times_s) else None
    if latest is not None and until is None and reads.state == "measuring":
        value, at = latest.value, latest.at
    return ProbeView(
        binding=bound.binding,
        step=bound.step,
        step_name=batch.plan.step(bound.step).name,
        quantity=bound.quantity,
        instrument=bound.instrument,
        instrument_name=bound.instrument_name,
        uncertainty=bound.uncertainty,
        by=reads.probe.by,
        since=bound.at,
        until=until,
        state=reads.state,
        samples=len(reads.times_s),
        value=None if value is None else round(value, 3),
        at=at,
        asked=bound.asked,
    )
