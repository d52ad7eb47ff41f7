"""Skarn Ridge's hub: what its fridges and baths measured up to now, and a stand-in that goes on measuring.

Run as ``python -m brinefrost.demo.hub ADDRESS`` beside the demo, it delivers to a server as a hub would.
"""

import os
import sys
import time
from datetime import UTC, datetime, timedelta

from brinefrost.core.kitchen.checking import Against
from brinefrost.core.steps import kind_of
from brinefrost.demo.kitchen import Kitchen, Ticket
from brinefrost.services import binding, household, hubs, keeping
from brinefrost.services.office import Actor
from brinefrost.services.sealing_samples import seal_samples
from brinefrost.standins.hub import HubStandIn, Wire, post_to
from brinefrost.standins.truth import Truth, core_of, fridge, steady
from brinefrost.store import Database, Store
from brinefrost.store.samples import Sample

KEY = "skarn-ridge-hub"  # of the request that added it: its token comes of this and of the ledger's key
CHANNELS = (
    hubs.NewChannel(key="1", name="Walk-in air", quantity="air", uncertainty=0.4),
    hubs.NewChannel(key="2", name="Bath A water", quantity="bath", uncertainty=0.3),
    hubs.NewChannel(key="3", name="Bath A needle", quantity="core", uncertainty=0.3),
    hubs.NewChannel(key="4", name="Blast chiller air", quantity="air", uncertainty=0.4),
    hubs.NewChannel(key="5", name="Blast chiller needle", quantity="core", uncertainty=0.3),
)
ICE: Against = "ice"
USUAL: dict[str, Truth] = {"1": fridge(2.1), "2": steady(63.1), "3": steady(21.0), "4": fridge(-2.0), "5": steady(20.0)}
TOGETHER = 4  # measurements of one delivery
EVERY = timedelta(minutes=1)  # of what was measured before the demo opened
MEASURES_S, DELIVERS_S = 5.0, 10.0


def add_hub(kitchen: Kitchen, at: datetime) -> dict[str, str]:
    """Put the hub into the kitchen, checked in ice: its channels' ids by their keys, known once that is done."""
    ids: dict[str, str] = {}

    def work(store: Store) -> None:
        entry = hubs.NewHub(name="Hub by the baths", channels=CHANNELS)
        made = hubs.add_hub(store, kitchen.lead, at, entry, hubs.make_token(KEY))
        for channel in made.channels:
            ids[channel.key] = channel.id
            check = household.Calibration(against=ICE, as_found=0.1, due_days=365)
            household.calibrate(store, kitchen.lead, at, channel.id, check)

    kitchen.at(at, work)
    return ids


def bind(kitchen: Kitchen, ids: dict[str, str], key: str, batch: Ticket, step: str, at: datetime, who: Actor) -> None:
    """Bind a channel to a step of a batch."""

    def work(store: Store) -> None:
        entry = binding.BindEntry(step=step, channel=ids[key], confirmed=True)
        binding.bind_probe(store, who, at, batch.id, entry)

    kitchen.at(at, work)


def deliver_past(kitchen: Kitchen, ids: dict[str, str], since: datetime, now: datetime) -> None:
    """What every channel measured up to now, delivered and sealed as it was."""

    def deliver(store: Store, until: datetime) -> None:
        times = [until - n * EVERY for n in range(TOGETHER)]
        shown = [(key, at, round(USUAL[key](at), 2)) for at in times for key in ("1", "2", "4")]
        store.samples.add([Sample(ids[key], at, value) for key, at, value in shown], until)
        for hub in store.samples.hubs():
            store.samples.heard(hub.id, until, 0.0, 0, "")
        seal_samples(store, until)

    for n in range(int((now - since) / (TOGETHER * EVERY)) + 1):
        until = now - n * TOGETHER * EVERY
        kitchen.at(until, lambda store, until=until: deliver(store, until))  # type: ignore[misc]


def truths(store: Store) -> dict[str, Truth]:
    """What is true at each channel now: of a needle, the walk of the step it is bound to; else as usual."""
    channels = {each.id: each.key for hub in store.samples.hubs() for each in hub.channels}
    found = dict(USUAL)
    for subject in keeping.open_with_probes(store):
        batch = keeping.load(store, subject.removeprefix(keeping.PREFIX))
        for state in batch.probes.values():
            key, begins = channels.get(state.bound.instrument), batch.span(state.bound.step).started
            if key is None or begins is None or batch.probe_until(state) is not None:
                continue
            step = batch.plan.step(state.bound.step)
            around = kind_of(step).around_c(step)
            if state.bound.quantity == "core":
                found[key] = core_of(batch.plan, step.id, begins)
            elif around is not None and state.bound.quantity == "bath":
                found[key] = steady(around)
    return found


def main() -> None:
    """Measure and deliver until it is ended."""
    database = Database(os.environ["BRINEFROST_DATABASE_URL"])
    wires = [Wire(channel.key, USUAL[channel.key]) for channel in CHANNELS]
    hub = HubStandIn(wires, post_to(sys.argv[1], hubs.make_token(KEY)))
    delivered, parent = 0.0, os.getppid()
    while os.getppid() == parent:
        now = datetime.now(tz=UTC)
        hub.measure(now)
        if time.monotonic() - delivered >= DELIVERS_S:
            delivered = time.monotonic()
            with database.transaction() as store:
                true = truths(store)
            for wire in wires:
                wire.truth = true[wire.key]
            hub.deliver(now)
        time.sleep(MEASURES_S)


if __name__ == "__main__":
    main()
