"""One cook at work through the services, and the people of the kitchen."""

from collections.abc import Callable
from typing import Any

import pytest

from brinefrost.services import library, readings, running, shift, starting, views
from brinefrost.services.office import Actor
from brinefrost.store import Database, Store
from tests.conftest import TestClock
from tests.kitchen import NAMES


@pytest.fixture
def people(database: Database) -> dict[str, Actor]:
    with database.transaction() as store:
        found = {role: store.people.by_name(name) for role, name in NAMES.items()}
    return {role: Actor(person.id, person.name, role) for role, person in found.items() if person}  # type: ignore[arg-type]


class Kitchen:
    """One cook at work: each thing done is a transaction of its own."""

    def __init__(self, database: Database, clock: TestClock, people: dict[str, Actor]) -> None:
        self.database, self.clock, self.people = database, clock, people
        with database.transaction() as store:
            (self.plan_id,) = (plan.plan_id for plan in library.list_plans(store, clock.now()))

    def do(self, work: Callable[[Store], Any]) -> Any:
        with self.database.transaction() as store:
            return work(store)

    def start(self) -> str:
        entry = starting.BatchStart(plan_id=self.plan_id, packs=6)
        made = self.do(lambda store: starting.start_batch(store, self.people["cook"], self.clock.now(), entry))
        return str(made.batch_id)

    def deliver(self, batch: str) -> None:
        """The thighs come in and are sealed; how cold they came in is logged where a test goes on to a release."""
        self.begin(batch, "receive")
        self.begin(batch, "seal")

    def begin(self, batch: str, step: str, confirmed: bool = False) -> None:
        if step == "cook" and "receive" not in {block.step for block in self.view(batch).blocks if block.started}:
            self.deliver(batch)
        mark = running.StepMark(confirmed=confirmed)
        self.do(lambda store: running.begin_step(store, self.people["cook"], self.clock.now(), batch, step, mark))

    def log(self, batch: str, step: str, value: float, quantity: Any = "core", **more: Any) -> None:
        entry = readings.ReadingEntry(
            step=step, quantity=quantity, value=value, unit="°C",
            **{"taken_at": self.clock.now(), "instrument": "probe-2", **more},
        )  # fmt: skip
        self.do(lambda store: readings.log_reading(store, self.people["cook"], self.clock.now(), batch, entry))

    def decide(self, batch: str, deviation: str, decision: Any, reason: str, found: Any = None) -> None:
        entry = running.DeviationEntry(decision=decision, reason=reason, found=found)
        who, now = self.people["reviewer"], self.clock.now()
        self.do(lambda store: running.decide(store, who, now, batch, deviation, entry))

    def view(self, batch: str) -> views.BatchView:
        return self.do(lambda store: views.read_batch(store, batch, self.clock.now()))  # type: ignore[no-any-return]

    def next(self) -> list[shift.NextItem]:
        return list(self.do(lambda store: shift.read_shift(store, self.clock.now())).next)

    def stalled(self) -> str:
        """A batch whose chill hardly moves."""
        batch = self.start()
        for step, minutes in (("cook", 120), ("chill", 0)):
            self.begin(batch, step)
            self.clock.forward(minutes)
        for minutes, value in ((1, 62.4), (20, 62.0), (20, 61.4)):
            self.clock.forward(minutes)
            self.log(batch, "chill", value)
        return batch


@pytest.fixture
def kitchen(database: Database, clock: TestClock, people: dict[str, Actor]) -> Kitchen:
    return Kitchen(database, clock, people)
