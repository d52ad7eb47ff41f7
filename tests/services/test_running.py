"""A batch through the services: what stands next, what is opened by itself, and hands that write at the same moment."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

import pytest

from brinefrost.core.errors import AskFirstError, DomainError, RefusedError
from brinefrost.core.words import said
from brinefrost.services import keeping, ledgers, running, shift, starting, views
from brinefrost.services.office import Actor
from brinefrost.store import Database, Store
from tests.conftest import TestClock
from tests.kitchen import NAMES, signed_thigh


@pytest.fixture
def ground(furnished_template: str) -> str:
    return furnished_template


@pytest.fixture
def people(database: Database) -> dict[str, Actor]:
    with database.transaction() as store:
        found = {role: store.people.by_name(name) for role, name in NAMES.items()}
    return {role: Actor(person.id, person.name, role) for role, person in found.items() if person}  # type: ignore[arg-type]


class Kitchen:
    """One cook at work: each thing done is a transaction of its own."""

    def __init__(self, database: Database, clock: TestClock, people: dict[str, Actor]) -> None:
        self.database, self.clock, self.people = database, clock, people
        self.plan_id = signed_thigh(database, people["lead"], clock.now() - timedelta(days=1))

    def do(self, work: Callable[[Store], Any]) -> Any:
        with self.database.transaction() as store:
            return work(store)

    def start(self) -> str:
        entry = starting.BatchStart(plan_id=self.plan_id, packs=6)
        made = self.do(lambda store: starting.start_batch(store, self.people["cook"], self.clock.now(), entry))
        return str(made.batch_id)

    def begin(self, batch: str, step: str) -> None:
        mark = running.StepMark()
        self.do(lambda store: running.begin_step(store, self.people["cook"], self.clock.now(), batch, step, mark))

    def log(self, batch: str, step: str, value: float, quantity: Any = "core", **more: Any) -> None:
        entry = running.ReadingEntry(
            step=step, quantity=quantity, value=value, unit="°C", instrument="probe-2",
            **{"taken_at": self.clock.now(), **more},
        )  # fmt: skip
        self.do(lambda store: running.log_reading(store, self.people["cook"], self.clock.now(), batch, entry))

    def decide(self, batch: str, deviation: str, decision: Any, reason: str) -> None:
        entry = running.DecisionEntry(decision=decision, reason=reason)
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


def test_what_is_next_goes_from_trouble_to_review(kitchen: Kitchen) -> None:
    waiting, cooking = kitchen.start(), kitchen.start()
    kitchen.begin(cooking, "cook")
    kitchen.clock.forward(1)
    stalled = kitchen.stalled()
    found = kitchen.next()
    states = [item.state for item in found]
    order = ["trouble", "late", "due", "begin", "upcoming", "review"]
    assert states == sorted(states, key=order.index)
    assert (found[0].batch_id, found[0].kind) == (stalled, "trouble")
    assert waiting in {item.batch_id for item in found if item.kind == "begin"}
    assert cooking in {item.batch_id for item in found if item.state == "late"}
    dated = [item.due_at for item in found if item.state == "late"]
    assert dated == sorted(dated)  # of what is late the longest late first


def test_a_closed_batch_leaves_the_shift_and_stays_in_the_list(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    entry = running.DecisionEntry(decision="discard", reason="Dropped on the floor.")
    who, now = kitchen.people["lead"], kitchen.clock.now()
    kitchen.do(lambda store: running.countersign(store, who, now, batch, entry))
    assert batch not in {item.batch_id for item in kitchen.next()}
    assert [row.state for row in kitchen.do(lambda store: views.list_batches(store, now))] == ["closed"]
    with pytest.raises(DomainError):
        kitchen.begin(batch, "cook")


def test_a_miss_seen_coming_is_opened_once_and_decided_once(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    opened = kitchen.view(batch).deviations
    assert [each.cause for each in opened] == ["forecast"]
    kitchen.clock.forward(10)
    kitchen.log(batch, "chill", 61.0)
    assert len(kitchen.view(batch).deviations) == 1  # the same miss, not another
    kitchen.decide(batch, opened[0].deviation, "discard", "Too warm for too long.")
    kitchen.clock.forward(200)
    kitchen.log(batch, "chill", 55.0)
    assert len(kitchen.view(batch).deviations) == 1  # what came is what was seen coming
    with pytest.raises(RefusedError):
        kitchen.decide(batch, opened[0].deviation, "release", "On second thoughts it is quite all right.")


def test_what_was_released_while_it_was_well_is_opened_anew_when_it_breaks(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    first = kitchen.view(batch).deviations[0].deviation
    kitchen.decide(batch, first, "release", "Ice was added and stirred, the core is read again in ten minutes.")
    kitchen.clock.forward(240)
    kitchen.log(batch, "chill", 50.0)
    found = kitchen.view(batch).deviations

    assert [each.cause for each in found] == ["forecast", "breach"]
    assert found[1].decision is None


def test_a_release_of_what_was_seen_coming_answers_for_nothing_that_came(kitchen: Kitchen) -> None:
    """Released while the chill still ran, which then ended far too warm: that is a deviation of its own."""
    batch = kitchen.stalled()
    first = kitchen.view(batch).deviations[0].deviation
    kitchen.decide(batch, first, "release", "Ice was added and stirred, the core is read again in ten minutes.")
    kitchen.clock.forward(10)
    kitchen.begin(batch, "keep")
    kitchen.clock.forward(60)
    mark = running.StepMark()
    who, now = kitchen.people["cook"], kitchen.clock.now()
    kitchen.do(lambda store: running.finish_step(store, who, now, batch, "keep", mark))
    view = kitchen.view(batch)
    chill = next(each for each in view.limits if each.limit.kind == "cooling")
    assert chill.verdict.state != "pass"
    assert [(each.cause, each.decision) for each in view.deviations] == [("forecast", "release"), ("breach", None)]
    assert any(view.deviations[1].deviation in sentence for sentence in view.blocking)


def test_two_hands_at_once_both_land_on_one_chain(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(30)
    moments = [kitchen.clock.now() - timedelta(minutes=n) for n in range(12)]
    with ThreadPoolExecutor(6) as pool:
        list(pool.map(lambda at: kitchen.log(batch, "cook", 62.9, "bath", taken_at=at), moments))
    assert len(kitchen.view(batch).readings) == 12
    assert kitchen.do(lambda store: ledgers.check_integrity(store, kitchen.clock.now())).holds
    again = kitchen.do(
        lambda store: keeping.load(store, batch)
    )  # folded on, and folded from the first record: the same
    whole = kitchen.do(lambda store: keeping.fold_records(store, store.ledger.of_subject(keeping.subject_of(batch))))
    assert [r.logged.reading for r in again.readings] == [r.logged.reading for r in whole.readings]


def test_one_who_begins_a_step_while_another_does_is_told(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.clock.forward(1)

    def begin(_: int) -> str:
        try:
            kitchen.begin(batch, "cook")
        except DomainError as refusal:
            return str(refusal.sentence)
        return "begun"

    with ThreadPoolExecutor(4) as pool:
        told = list(pool.map(begin, range(4)))
    assert told.count("begun") == 1
    assert all(sentence.endswith(".") for sentence in told if sentence != "begun")


def test_the_same_reading_twice_is_asked_about_and_a_correction_is_not(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(10)
    kitchen.log(batch, "cook", 62.9, "bath")
    with pytest.raises(AskFirstError):
        kitchen.log(batch, "cook", 62.9, "bath")
    kitchen.log(batch, "cook", 62.9, "bath", confirmed=True)
    first = kitchen.view(batch).readings[0].reading
    kitchen.log(batch, "cook", 62.4, "bath", corrects=first)
    assert sorted(each.value for each in kitchen.view(batch).readings if not each.corrected_by) == [62.4, 62.9]


def test_the_ledger_is_searched_in_words_and_read_page_by_page(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    code = kitchen.view(batch).code
    find = lambda words, kinds=(), before=None, most=50: kitchen.do(  # noqa: E731
        lambda store: ledgers.search(store, words, list(kinds), before, most)
    )
    assert {record.kind for record in find("", ["reading_logged"])} == {"reading_logged"}
    assert any(code in said(record.words) or record.subject.endswith(batch) for record in find(NAMES["cook"]))
    first = find("", most=4)
    rest = find("", before=first[-1].seq, most=500)
    seqs = [record.seq for record in (*first, *rest)]
    assert seqs == sorted(seqs, reverse=True)
    assert seqs[-1] == 1
