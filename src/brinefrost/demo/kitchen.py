"""Doing a kitchen's work through the services, in the order of the clock."""

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.runs.events import Disposition
from brinefrost.core.traces import TraceOptions
from brinefrost.demo.making import Truth, chill_core_c, cook_curve, logger_file, noisy
from brinefrost.services import keeping, readings, running, starting, tracing
from brinefrost.services.office import Actor
from brinefrost.store import Database, Store

SLURRY_AGAIN = 30  # minutes after which the slurry is read once more
SLOW = 0.062  # pace of a chill with the bags stacked in the tub and the ice gone
TYPING = timedelta(seconds=20)  # between looking at the probe and the record
INSTRUMENTS = {"air": "unit-walk-in", "core": "probe-2", "ph": "meter-1", "aw": "meter-2", "mass": "scale-1"}


@dataclass
class Ticket:
    """A batch to be: its id is known once it has begun."""

    id: str = ""


@dataclass
class Kitchen:
    """The made-up kitchen. Work is put on the agenda first and done in the order of its times."""

    database: Database
    lead: Actor
    cooks: list[Actor]
    chance: random.Random
    agenda: list[tuple[datetime, int, Callable[[Store], object]]] = field(default_factory=list)
    added: int = 0

    def at(self, moment: datetime, work: Callable[[Store], object]) -> None:
        """Put one use case on the agenda."""
        self.added += 1
        self.agenda.append((moment, self.added, work))

    def run(self) -> None:
        """Do everything on the agenda in the order of its times, each in a transaction of its own.

        What is done may put more on the agenda, as long as it lies ahead.
        """
        while self.agenda:
            entry = min(self.agenda, key=lambda entry: entry[:2])
            self.agenda.remove(entry)
            with self.database.transaction() as store:
                entry[2](store)

    def start(self, plan_id: str, at: datetime, cook: Actor, packs: int = 6, known: Truth | None = None) -> Ticket:
        """Start a batch, its bags measured or not, and take it to the bath."""
        ticket = Ticket()
        pieces = {"thickness_m": known.thickness_m, "start_c": known.start_c} if known else {}
        entry = starting.BatchStart.model_validate({"plan_id": plan_id, "packs": packs, "at": at, **pieces})

        def work(store: Store) -> None:
            ticket.id = starting.start_batch(store, cook, at, entry).batch_id

        self.at(at, work)
        for step, minutes in (("receive", 0), ("seal", 12), ("cook", 35)):
            self.begin(ticket, step, at + timedelta(minutes=minutes), cook)
        self.log(ticket, "receive", "core", noisy(2.6, self.chance, 0.3), at + timedelta(minutes=3), cook)
        return ticket

    def reheat(self, batch: Ticket, begins: datetime, cook: Actor) -> None:
        """Heated again for service, and read twice."""
        self.begin(batch, "reheat", begins, cook)
        for minutes in (36, 37):
            self.log(batch, "reheat", "core", noisy(76.5, self.chance, 0.2), begins + timedelta(minutes=minutes), cook)
        self.finish(batch, "reheat", begins + timedelta(minutes=40), cook)

    def begin(self, batch: Ticket, step: str, at: datetime, cook: Actor) -> None:
        """Begin a step."""
        self.at(at, lambda s: running.begin_step(s, cook, at, batch.id, step, running.StepMark(at=at)))

    def finish(self, batch: Ticket, step: str, at: datetime, cook: Actor) -> None:
        """End a step; who ends it far off its planned time has said that they mean it."""
        mark = running.StepMark(at=at, confirmed=True)
        self.at(at, lambda s: running.finish_step(s, cook, at, batch.id, step, mark))

    def log(
        self,
        batch: Ticket,
        step: str,
        quantity: ReadingQuantity,
        value: float,
        at: datetime,
        cook: Actor,
        late: timedelta = TYPING,
    ) -> None:
        """Log a reading with the instrument for it."""
        instrument = INSTRUMENTS.get(quantity, "probe-3")
        entry = readings.ReadingEntry.model_validate(
            {
                "step": step,
                "quantity": quantity,
                "value": value,
                "unit": QUANTITIES[quantity].unit,
                "taken_at": at,
                "instrument": instrument,
            }
        )
        self.at(at + late, lambda s: readings.log_reading(s, cook, at + late, batch.id, entry))

    def cook(self, batch: Ticket, begins: datetime, truth: Truth, cook: Actor, attach: bool = True) -> float:
        """The cook's checks and its logger file; the hot core at its end [°C]."""
        curve = cook_curve(truth)
        for minutes in (0, 30, 60):
            bath = truth.bath_c - (0.5 if minutes == 0 else 0.0)
            self.log(batch, "cook", "bath", noisy(bath, self.chance, 0.08), begins + timedelta(minutes=minutes), cook)
        ends, hot = begins + timedelta(seconds=truth.cook_s), float(curve.core_c[-1])
        self.log(batch, "cook", "core", noisy(hot, self.chance, 0.08), ends - timedelta(minutes=1), cook)
        if attach:
            name, content = f"L-07_{begins:%Y%m%d}.csv", logger_file(truth, begins, self.chance)
            entry = tracing.TraceEntry(step="cook", instrument="logger-7", options=TraceOptions())
            read_out = ends + timedelta(minutes=2)
            self.at(read_out, lambda s: tracing.attach_trace(s, cook, read_out, batch.id, name, content, entry))
        return hot

    def chill(
        self,
        batch: Ticket,
        begins: datetime,
        truth: Truth,
        hot_c: float,
        minutes: Sequence[float],
        cook: Actor,
        turned: tuple[float, float] | None = None,
    ) -> None:
        """The chill's core checks at the minutes given; ``turned`` is a (minute, new pace)."""
        changes = [(turned[0] * 60, turned[1])] if turned else []
        cores = chill_core_c(truth, hot_c, [m * 60 for m in minutes], changes)
        for minute, core in zip(minutes, cores, strict=True):
            at = begins + timedelta(minutes=minute)
            if (minute >= SLURRY_AGAIN and minute - SLURRY_AGAIN < 5) or minute == 0:
                slurry = noisy(0.6 + 1.5 * (truth.pace < 0.5), self.chance, 0.1)
                self.log(batch, "chill", "bath", slurry, begins + timedelta(minutes=min(minute, SLURRY_AGAIN)), cook)
            self.log(batch, "chill", "core", noisy(core, self.chance), at, cook)

    def act(self, batch: Ticket, step: str, at: datetime, action: str, cook: Actor) -> None:
        """Write down what was done about the open deviation."""

        def work(store: Store) -> None:
            opened = keeping.load(store, batch.id).open_deviations()
            name = opened[0].opened.deviation if opened else None
            entry = running.ActionEntry(step=step, action=action, deviation=name, changes_course=True, at=at)
            running.record_action(store, cook, at, batch.id, entry)

        self.at(at, work)

    def keep(self, batch: Ticket, begins: datetime, until: datetime) -> None:
        """Air readings twice a day; now and then one is written down late."""
        at, turn = begins + timedelta(minutes=5), 0
        while at < until - timedelta(minutes=10):
            minutes = 190.0 if self.chance.random() < 0.06 else self.chance.uniform(0, 4)
            late = min(timedelta(minutes=minutes), until - at - timedelta(minutes=5))
            self.log(batch, "keep", "air", noisy(1.9, self.chance, 0.15), at, self.cooks[turn % len(self.cooks)], late)
            at, turn = at + timedelta(hours=12, minutes=self.chance.uniform(-6, 8)), turn + 1

    def close(self, batch: Ticket, at: datetime, decision: Disposition, reason: str) -> None:
        """Review and countersign."""
        entry = running.DecisionEntry(decision=decision, reason=reason)
        self.at(at, lambda s: running.countersign(s, self.lead, at, batch.id, entry))

    def decide_all(self, batch: Ticket, at: datetime, decision: Disposition, reason: str) -> None:
        """Decide on every deviation that is open."""
        entry = running.DeviationEntry(decision=decision, reason=reason)

        def work(store: Store) -> None:
            for deviation in keeping.load(store, batch.id).open_deviations():
                running.decide(store, self.lead, at, batch.id, deviation.opened.deviation, entry)

        self.at(at, work)
