"""Probes that deliver by themselves: hubs that misbehave, batches judged by what they measure, samples sealed."""

from datetime import timedelta
from typing import Any

import pytest

from brinefrost.core.errors import AskFirstError, RefusedError
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.runs.judging import judge
from brinefrost.core.words import said
from brinefrost.services import binding, doubting, hubs, ingesting, keeping, planning
from brinefrost.services.office import Office
from brinefrost.services.sealing_samples import seal_samples
from brinefrost.standins.hub import Fault, HubStandIn, Wire
from brinefrost.standins.truth import core_of, fridge, steady
from brinefrost.store import Store
from tests.services.conftest import Kitchen

EVERY_S = 30


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


class Bench:
    """A hub of four channels in a kitchen with a batch in the bath."""

    def __init__(self, kitchen: Kitchen, *faults: Fault, wire_faults: tuple[Fault, ...] = ()) -> None:
        self.kitchen = kitchen
        self.office = Office(kitchen.database, kitchen.clock)
        entry = hubs.NewHub(
            name="Hub by the bath",
            channels=tuple(
                hubs.NewChannel(key=key, name=name, quantity=quantity, uncertainty=0.3)  # type: ignore[arg-type]
                for key, name, quantity in (
                    ("1", "Bath needle", "core"), ("2", "Bath water", "bath"),
                    ("3", "Walk-in air", "air"), ("4", "Crock pH", "ph"),
                )
            ),
        )  # fmt: skip
        who, now = kitchen.people["lead"], kitchen.clock.now()
        self.hub = kitchen.do(lambda store: hubs.add_hub(store, who, now, entry, "t" * 64))
        self.ids = {each.key: each.id for each in self.hub.channels}
        self.batch = kitchen.start()
        kitchen.begin(self.batch, "cook")
        begins = kitchen.clock.now()
        plan = kitchen.do(lambda store: planning.signed_plan(store, kitchen.plan_id)).document
        bad: dict[Fault, Any] = {fault: begins + timedelta(minutes=30) for fault in wire_faults}
        self.core = Wire("1", core_of(plan, "cook", begins), faults=bad)
        door = (begins + timedelta(minutes=40),)
        wires = (self.core, Wire("2", steady(63.0)), Wire("3", fridge(2.5, door)), Wire("4", steady(4.1, 0.01), "pH"))
        self.hub_in = HubStandIn(wires, self.send, faults=frozenset(faults))
        self.answers: list[ingesting.Receipt] = []

    def send(self, delivery: dict[str, Any]) -> dict[str, Any]:
        answer = ingesting.take_in(self.office, self.hub.id, ingesting.Delivery.model_validate(delivery))
        self.answers.append(answer)
        return answer.model_dump()

    def run(self, minutes: float) -> None:
        """Measure every half minute, deliver every two."""
        for n in range(int(minutes * 60 / EVERY_S)):
            self.kitchen.clock.forward(EVERY_S / 60)
            self.hub_in.measure(self.kitchen.clock.now())
            if n % 4 == 3:
                self.hub_in.deliver(self.kitchen.clock.now())

    def bind(self, key: str, confirmed: bool = True, step: str = "cook") -> None:
        entry = binding.BindEntry(step=step, channel=self.ids[key], confirmed=confirmed)
        who, now = self.kitchen.people["cook"], self.kitchen.clock.now()
        self.kitchen.do(lambda store: binding.bind_probe(store, who, now, self.batch, entry))

    def cooked(self) -> list[str]:
        """Bind core and bath two minutes in, let it cook to its end, and say what still stands of the cook."""
        self.run(2)
        self.bind("1")
        self.bind("2")
        self.run(118)
        self.kitchen.begin(self.batch, "chill", confirmed=True)
        known = self.kitchen.do(lambda store: keeping.load(store, self.batch))
        blocks = blocks_of_countersigning(known, "release", self.kitchen.clock.now())
        return [said(each) for each in blocks if each.startswith("Bath")]


def states(bench: Bench) -> set[str]:
    known = bench.kitchen.do(lambda store: keeping.load(store, bench.batch))
    return {each.verdict.state for each in judge(known, bench.kitchen.clock.now()).statuses if each.step == "cook"}


@pytest.mark.parametrize("faults", [(), ("drop_outs",), ("doubled",), ("late",), ("skewed",)], ids=str)
def test_a_cook_that_its_probes_read_wants_nothing_by_hand(kitchen: Kitchen, faults: tuple[Fault, ...]) -> None:
    """However it comes: with gaps shorter than the limit bears, twice, late, by a clock that is off."""
    hub, wire = tuple(f for f in faults if f != "drop_outs"), tuple(f for f in faults if f == "drop_outs")
    bench = Bench(kitchen, *hub, wire_faults=wire)
    still = bench.cooked()
    if "late" in faults:
        bench.run(40)  # what was held back has come by then
        known = kitchen.do(lambda store: keeping.load(store, bench.batch))
        still = [
            said(each)
            for each in blocks_of_countersigning(known, "release", kitchen.clock.now())
            if each.startswith("Bath")
        ]
    assert still == []
    assert states(bench) == {"pass"}
    if "doubled" in faults:
        assert sum(answer.known for answer in bench.answers) > 0
    if "skewed" in faults:
        assert all(abs(answer.skew_s - 420) < 1 for answer in bench.answers)


@pytest.mark.parametrize("fault", ["stuck", "fahrenheit", "pulled"])
def test_what_cannot_be_is_not_measured(kitchen: Kitchen, fault: Fault) -> None:
    """A probe that stands still, or goes over to another unit, while the food warms: nothing is credited to it."""
    bench = Bench(kitchen, wire_faults=(fault,))
    assert bench.cooked() != []
    assert "pass" not in states(bench)
    view = bench.kitchen.view(bench.batch)
    if fault != "fahrenheit":  # what is beyond the instrument's range is refused soon after
        assert {each.state for each in view.probes} & {"stuck", "moved"}


def test_a_probe_that_drifts_low_never_shows_more_than_there_is(kitchen: Kitchen) -> None:
    bench = Bench(kitchen, wire_faults=("drift",))
    bench.cooked()
    assert states(bench) <= {"pass", "fail", "too_close", "not_measured"}


def test_it_is_let_go_with_its_step_and_its_door_may_stand_open_a_minute(kitchen: Kitchen) -> None:
    bench = Bench(kitchen)
    bench.cooked()
    view = kitchen.view(bench.batch)
    assert {each.until is not None for each in view.probes} == {True}
    kitchen.clock.forward(5)
    kitchen.begin(bench.batch, "keep", confirmed=True)
    bench.run(3)
    bench.bind("3", step="keep")
    bench.run(60)
    known = kitchen.do(lambda store: keeping.load(store, bench.batch))
    air = [s for s in judge(known, kitchen.clock.now()).statuses if s.step == "keep" and s.limit.quantity == "air"]
    assert air
    assert {each.verdict.state for each in air} <= {"pass", "pending", "not_measured"}
    assert not [each for each in kitchen.view(bench.batch).deviations if each.step == "keep"]


def test_two_touches_bind_it_and_what_looks_wrong_is_asked_about(kitchen: Kitchen) -> None:
    bench = Bench(kitchen)
    with pytest.raises(AskFirstError, match="sent nothing"):
        bench.bind("1", confirmed=False)
    bench.run(2)
    offered = kitchen.do(lambda store: binding.offer_probes(store, bench.batch, kitchen.clock.now()))
    assert {(each.step, each.quantity) for each in offered} == {("cook", "core"), ("cook", "bath")}
    with pytest.raises(AskFirstError, match="check was due"):
        bench.bind("2", confirmed=False)
    bench.bind("2")
    with pytest.raises(RefusedError, match="bound there already"):
        bench.bind("2")
    with pytest.raises(RefusedError, match="does not run"):
        bench.bind("2", step="chill")


def test_a_needle_is_in_one_piece_and_what_it_read_before_is_not_this_ones(kitchen: Kitchen) -> None:
    """Bound to another batch it is let go at the first; nothing it read there counts for the second."""
    bench = Bench(kitchen)
    bench.run(2)
    bench.bind("1")
    bench.run(60)
    other = kitchen.start()
    kitchen.begin(other, "cook")
    who, now = kitchen.people["cook"], kitchen.clock.now()
    entry = binding.BindEntry(step="cook", channel=bench.ids["1"], confirmed=True)
    kitchen.do(lambda store: binding.bind_probe(store, who, now, other, entry))
    assert [each.until for each in kitchen.view(bench.batch).probes] == [now]
    assert [each.since for each in kitchen.view(other).probes] == [now]
    assert kitchen.view(other).probes[0].samples == 0


def test_a_needle_beside_the_food_is_asked_about_and_a_check_of_it_looks_back(kitchen: Kitchen) -> None:
    """Lying in the bath it shows the bath; found off later, what it read is judged with that (ISO 22000:2018, 8.7)."""
    bench = Bench(kitchen)
    in_food, bench.core.truth = bench.core.truth, steady(63.0)
    bench.run(2)
    with pytest.raises(AskFirstError, match="the food was at"):
        bench.bind("1", confirmed=False)
    bench.core.truth = in_food
    assert bench.cooked() == []
    now = kitchen.clock.now()

    def doubt(store: Store) -> tuple[doubting.DoubtedBatch, ...]:
        return doubting.doubt_past(store, now, store.instruments.by_id(bench.ids["1"]), 20.0, "°C")

    assert [(each.batch_id, each.changes) for each in kitchen.do(doubt)] == [(bench.batch, True)]
    assert "pass" not in {
        each.verdict.state
        for each in judge(kitchen.do(lambda store: keeping.load(store, bench.batch)), now).statuses
        if each.step == "cook" and each.limit.quantity == "core"
    }


def test_a_cold_bath_is_a_deviation_without_a_touch(kitchen: Kitchen) -> None:
    bench = Bench(kitchen)
    bench.core.truth = steady(41.0)
    bench.run(2)
    bench.bind("1")
    bench.run(120)
    kitchen.begin(bench.batch, "chill", confirmed=True)
    bench.run(10)
    assert {each.step for each in kitchen.view(bench.batch).deviations} == {"cook"}


def test_a_quarter_hour_is_sealed_and_a_changed_sample_is_named(kitchen: Kitchen) -> None:
    bench = Bench(kitchen)
    bench.run(35)
    sealed = kitchen.do(lambda store: store.ledger.of_kind("samples_sealed"))
    assert sealed
    assert not kitchen.do(lambda store: seal_samples(store, kitchen.clock.now())), "nothing is sealed twice"
    assert kitchen.do(lambda store: store.ledger.check())[2] == []
    total = sum(each.body["count"] for each in sealed)
    assert total > 4 * 2 * 15


def test_what_is_no_sample_is_refused_and_said(kitchen: Kitchen) -> None:
    bench = Bench(kitchen)
    now = kitchen.clock.now()

    def deliver(**more: Any) -> ingesting.Receipt:
        sample = {"channel": "1", "at": now.isoformat(), "value": 20.0, "unit": "°C", **more}
        return ingesting.Receipt.model_validate(bench.send({"sent_at": now.isoformat(), "samples": [sample]}))

    assert deliver().kept == 1
    assert deliver().known == 1
    assert deliver(at=(now + timedelta(seconds=1)).isoformat(), value=68.0, unit="°F").kept == 1
    for bad in (
        {"channel": "9"},
        {"value": 200.0},
        {"unit": "pH"},
        {"at": (now + timedelta(hours=1)).isoformat()},
        {"at": (now - timedelta(days=40)).isoformat()},
    ):
        found = deliver(**bad)
        assert (found.kept, found.refused) == (0, 1), bad
        assert found.refusal
