"""A reading is durable before it is judged, in the same chain whichever way it was kept, and judged before answered."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

import psycopg
import pytest

from brinefrost.core.errors import AskFirstError, ConflictError, ImplausibleReadingError, NotFoundError, RefusedError
from brinefrost.services import accepting, household, keeping
from brinefrost.services.folding import FOLDED
from brinefrost.services.office import Office
from brinefrost.services.readings import ReadingEntry
from brinefrost.services.running import DeviationEntry, countersign
from brinefrost.store import Database, near
from brinefrost.store.changes import CHANNEL
from brinefrost.store.errors import StoreDownError
from brinefrost.store.kitchens import add_kitchen, in_kitchen
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


class Hands:
    """Readings logged as a request logs them."""

    def __init__(self, kitchen: Kitchen) -> None:
        self.kitchen, self.office = kitchen, Office(kitchen.database, kitchen.clock)
        self.batch = kitchen.start()
        kitchen.begin(self.batch, "cook")
        kitchen.clock.forward(5)
        self._turn = 0

    def entry(self, value: float = 62.8, **more: Any) -> ReadingEntry:
        given = {"step": "cook", "quantity": "bath", "value": value, "unit": "°C", "instrument": "probe-2"}
        return ReadingEntry.model_validate({**given, "taken_at": self.kitchen.clock.now(), **more})

    def log(self, value: float = 62.8, key: str = "", **more: Any) -> str:
        self._turn += 1
        cook, now = self.kitchen.people["cook"], self.kitchen.clock.now()
        key = key or f"reading-{self._turn:04}-{id(self)}"
        return accepting.log(self.office, cook, key, now, self.batch, self.entry(value, **more)).batch_id

    def values(self) -> list[float]:
        return [reading.value for reading in self.kitchen.view(self.batch).readings]

    def whole(self) -> bool:
        """Whether the chain holds, and the batch in memory is what its records give."""
        subject = keeping.subject_of(self.batch)
        count, _, breaks = self.kitchen.do(lambda store: store.ledger.check())
        fresh = self.kitchen.do(lambda store: keeping.fold_records(store, store.ledger.of_subject(subject)))
        kept = FOLDED.latest(subject)
        assert kept is not None
        end = self.kitchen.do(lambda store: store.summaries.end_of(subject))
        return bool(count and not breaks and (kept.seq, kept.digest) == end and kept.batch == fresh)


@pytest.fixture
def hands(kitchen: Kitchen) -> Hands:
    return Hands(kitchen)


@pytest.fixture
def written(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Which transactions were needed to write."""
    seen: list[str] = []
    real = Office.write

    def noted(self: Office, actor: Any, key: str, *rest: Any) -> Any:
        seen.append(key)
        return real(self, actor, key, *rest)

    monkeypatch.setattr(Office, "write", noted)
    return seen


def test_the_second_reading_takes_one_call_and_is_the_same_record(hands: Hands, written: list[str]) -> None:
    hands.log(62.8)
    hands.kitchen.clock.forward(2)
    hands.log(62.9, note="Lid on – 2 °C colder by the wall")
    assert len(written) == 1
    assert hands.values() == [62.8, 62.9]
    assert hands.whole()


def test_what_another_process_wrote_is_seen_before_anything_is_kept(
    hands: Hands, app_url: str, written: list[str]
) -> None:
    hands.log(62.8)
    other = Hands.__new__(Hands)
    other.__dict__ |= hands.__dict__
    elsewhere = Database(app_url)
    other.office = Office(elsewhere, hands.kitchen.clock)
    hands.kitchen.clock.forward(2)
    other.log(62.9, key="from-elsewhere")
    hands.kitchen.clock.forward(2)
    hands.log(63.0)
    assert len(written) == 3
    hands.kitchen.clock.forward(2)
    hands.log(63.1)
    elsewhere.close()
    assert len(written) == 3  # known again
    assert hands.values() == [62.8, 62.9, 63.0, 63.1]
    assert hands.whole()


@pytest.mark.parametrize("before", [0, 1], ids=["by a transaction", "by one call"])
def test_the_same_key_is_kept_once_and_with_other_content_refused(hands: Hands, before: int) -> None:
    for _ in range(before):
        hands.log(62.5)
        hands.kitchen.clock.forward(2)
    taken = hands.kitchen.clock.now()
    assert hands.log(62.8, key="sent-twice") == hands.log(62.8, key="sent-twice")
    hands.kitchen.clock.forward(2)
    assert hands.log(62.8, key="sent-twice", taken_at=taken) == hands.batch
    with pytest.raises(ConflictError):
        hands.log(61.0, key="sent-twice", taken_at=taken)
    assert hands.values()[before:] == [62.8]
    assert hands.whole()


def broken_off(*_: object) -> None:
    raise StoreDownError("The lights went out.")


def test_what_was_kept_and_not_judged_is_judged_when_it_is_sent_again(
    hands: Hands, monkeypatch: pytest.MonkeyPatch
) -> None:
    kitchen = hands.kitchen
    hands.batch = kitchen.start()
    for step, minutes in (("cook", 120), ("chill", 0)):
        kitchen.begin(hands.batch, step)
        kitchen.clock.forward(minutes)
    kitchen.clock.forward(1)
    hands.log(62.4, step="chill", quantity="core")
    kitchen.clock.forward(40)
    taken = kitchen.clock.now()
    judged = accepting.next_event
    monkeypatch.setattr(accepting, "next_event", broken_off)
    with pytest.raises(StoreDownError):
        hands.log(61.4, "the-last-one", step="chill", quantity="core", taken_at=taken)
    monkeypatch.setattr(accepting, "next_event", judged)
    view = kitchen.view(hands.batch)
    assert [reading.value for reading in view.readings] == [62.4, 61.4]  # nothing is lost
    assert not view.deviations
    hands.log(61.4, "the-last-one", step="chill", quantity="core", taken_at=taken)
    view = kitchen.view(hands.batch)
    assert len(view.readings) == 2
    assert [deviation.cause for deviation in view.deviations] == ["forecast"]
    assert hands.whole()


def test_an_instrument_checked_in_between_counts_as_it_is_now(hands: Hands, written: list[str]) -> None:
    kitchen = hands.kitchen
    hands.log(62.8)
    kitchen.clock.forward(2)
    hands.log(62.7)
    entry = household.Calibration.model_validate({"against": "ice", "as_found": 0.9})
    kitchen.do(lambda s: household.calibrate(s, kitchen.people["lead"], kitchen.clock.now(), "probe-2", entry))
    kitchen.clock.forward(2)
    hands.log(62.9)
    assert len(written) == 2
    first, _, last = kitchen.do(lambda store: keeping.load(store, hands.batch)).readings
    assert first.logged.uncertainty < last.logged.uncertainty == pytest.approx(0.9, abs=0.11)


def test_what_is_asked_or_refused_keeps_nothing_either_way(hands: Hands) -> None:
    hands.log(62.8)
    cases: list[tuple[type[Exception], dict[str, Any]]] = [
        (ImplausibleReadingError, {"value": 145.0}),
        (AskFirstError, {"value": 30.0}),
        (AskFirstError, {"value": 62.8}),  # the same again, less than a minute later
        (NotFoundError, {"instrument": "probe-9"}),
        (RefusedError, {"step": "chill", "quantity": "core"}),
        (RefusedError, {"unit": "pH"}),
    ]
    for error, more in cases:
        with pytest.raises(error):
            hands.log(**more)
    assert hands.values() == [62.8]
    hands.kitchen.clock.forward(2)
    now, lead = hands.kitchen.clock.now(), hands.kitchen.people["lead"]
    thrown = DeviationEntry(decision="discard", reason="Dropped on the floor, all of it.")
    hands.kitchen.do(lambda store: countersign(store, lead, now, hands.batch, thrown))
    with pytest.raises(RefusedError):
        hands.log(62.9)


def test_many_at_once_follow_one_another_in_the_chain(hands: Hands) -> None:
    hands.log(62.8)
    hands.kitchen.clock.forward(20)
    start = hands.kitchen.clock.now()

    def one(n: int) -> Callable[[], str]:
        taken = start.replace(second=n)
        return lambda: hands.log(62.8, key=f"at-once-{n:02}", taken_at=taken, confirmed=True)

    with ThreadPoolExecutor(6) as pool:
        done = [pool.submit(one(n % 12)) for n in range(24)]  # each sent twice
        assert {each.result() for each in done} == {hands.batch}
    assert len(hands.values()) == 13
    assert hands.whole()


def test_hands_at_several_batches_do_not_make_one_another_unsure(hands: Hands, written: list[str]) -> None:
    """Once each batch is known, no reading needs a transaction because another hand wrote a moment before."""
    kitchen, batches = hands.kitchen, [hands.batch]
    for _ in range(3):
        batches.append(kitchen.start())
        kitchen.begin(batches[-1], "cook")
    kitchen.clock.forward(20)
    start = kitchen.clock.now()

    def log(batch: str, second: int) -> None:
        mine = Hands.__new__(Hands)
        mine.__dict__ |= {**hands.__dict__, "batch": batch}
        mine.log(62.8, key=f"{batch}-{second:02}", taken_at=start.replace(second=second), confirmed=True)

    for batch in batches:
        log(batch, 0)
    assert len(written) == 1  # by which the instrument is known
    with ThreadPoolExecutor(6) as pool:
        for done in [pool.submit(log, batch, second) for second in range(1, 8) for batch in batches]:
            done.result()
    assert len(written) == 1  # by which the instrument is known
    assert len(hands.values()) == 8
    assert hands.whole()


def test_who_follows_is_told_whichever_way_it_was_judged(hands: Hands, app_url: str) -> None:
    """By a transaction, in memory, and where another write came between a reading and its judgement."""
    cook, subject = hands.kitchen.people["cook"], f"home {keeping.subject_of(hands.batch)}"
    with psycopg.connect(app_url.replace("+psycopg", ""), autocommit=True) as listener:
        listener.execute(f"listen {CHANNEL}")

        def told() -> set[str]:
            return {note.payload for note in listener.notifies(timeout=0.3, stop_after=1)}

        hands.log(62.8)
        assert told() == {subject}
        list(listener.notifies(timeout=0.1))
        hands.kitchen.clock.forward(2)
        now = hands.kitchen.clock.now()
        accepting.accept(hands.office, cook, "accepted-alone", now, hands.batch, hands.entry(62.9))
        assert told() == set()  # it stands there, and nothing was made of it yet
        accepting.settle(hands.office, hands.batch, now)
        assert told() == {subject}
        hands.kitchen.clock.forward(2)
        now = hands.kitchen.clock.now()
        accepting.accept(hands.office, cook, "before-another", now, hands.batch, hands.entry(63.0))
        hands.kitchen.log(hands.batch, "cook", 63.1, "bath", taken_at=now + timedelta(seconds=1), confirmed=True)
        list(listener.notifies(timeout=0.1))
        hands.office.database.near.here().forget()
        accepting.settle(hands.office, hands.batch, now)
        assert told() == {subject}


def test_one_kitchen_knows_nothing_of_another(hands: Hands, database_url: str) -> None:
    hands.log(62.8)
    add_kitchen(database_url, "fjord")
    with in_kitchen("fjord"):
        assert hands.office.database.near.here().end is None
        with pytest.raises(NotFoundError):
            hands.log(62.8)
    hands.kitchen.clock.forward(2)
    hands.log(62.9)
    assert hands.whole()


def test_a_connection_that_was_cut_is_replaced_and_what_was_known_is_learned_anew(
    hands: Hands, database_url: str
) -> None:
    hands.log(62.8)
    hands.kitchen.clock.forward(2)
    hands.log(62.9)
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as owner:
        owner.execute(
            "select pg_terminate_backend(pid) from pg_stat_activity "
            "where datname = current_database() and query like 'select pg_notify%'"
        )
    hands.kitchen.clock.forward(2)
    with pytest.raises(StoreDownError):
        hands.log(63.0, key="cut-off")
    hands.log(63.0, key="cut-off")
    assert hands.values() == [62.8, 62.9, 63.0]
    assert hands.whole()


def test_whoever_waits_too_long_for_their_turn_is_told_and_nothing_is_saved(
    hands: Hands, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(near, "WAIT_S", 0.05)
    hands.log(62.8)
    hands.kitchen.clock.forward(2)
    with ThreadPoolExecutor(1) as elsewhere, hands.office.database.near.here().turn():
        waiting = elsewhere.submit(hands.log, 62.9)
        with pytest.raises(StoreDownError, match="Nothing was saved"):
            waiting.result()
    assert hands.values() == [62.8]
    hands.log(62.9)
    assert hands.values() == [62.8, 62.9]
    assert hands.whole()
