"""What is kept of a batch in memory is what its records give: after each write, after one undone, after one changed."""

import psycopg
import pytest

from brinefrost.services import keeping, readings, running
from brinefrost.services.folding import FOLDED
from brinefrost.store import Store
from brinefrost.store.errors import StoreDownError
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def folded(kitchen: Kitchen, batch: str) -> object:
    """From the records alone."""
    subject = keeping.subject_of(batch)
    return kitchen.do(lambda store: keeping.fold_records(store, store.ledger.of_subject(subject)))


def test_what_a_write_leaves_is_kept_without_reading_it_again(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    subject = keeping.subject_of(batch)
    kept = FOLDED.latest(subject)
    assert kept is not None
    assert kept.batch.deviations  # opened in the same write as the reading that showed it
    assert (kept.seq, kept.digest) == kitchen.do(lambda store: store.summaries.end_of(subject))
    assert kitchen.do(lambda store: keeping.load(store, batch)) is kept.batch
    assert kept.batch == folded(kitchen, batch)


def test_a_reading_that_was_not_kept_is_not_remembered(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    before = folded(kitchen, batch)
    kitchen.clock.forward(10)
    cook, now = kitchen.people["cook"], kitchen.clock.now()
    entry = readings.ReadingEntry(
        step="chill", quantity="core", value=60.1, unit="°C", taken_at=now, instrument="probe-2"
    )

    def breaks_off(store: object) -> None:
        readings.log_reading(store, cook, now, batch, entry)  # type: ignore[arg-type]
        raise StoreDownError("The lights went out.")

    with pytest.raises(StoreDownError):
        kitchen.do(breaks_off)
    assert kitchen.do(lambda store: keeping.load(store, batch)) == before == folded(kitchen, batch)


def test_a_batch_begun_and_taken_on_in_one_transaction_is_kept_as_it_is(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    cook, now = kitchen.people["cook"], kitchen.clock.now()

    def twice(store: object) -> None:
        running.begin_step(store, cook, now, batch, "receive", running.StepMark())  # type: ignore[arg-type]
        running.finish_step(store, cook, now, batch, "receive", running.StepMark())  # type: ignore[arg-type]

    kitchen.do(twice)
    kept = FOLDED.latest(keeping.subject_of(batch))
    assert kept is not None
    assert kitchen.do(lambda store: keeping.load(store, batch)) == kept.batch == folded(kitchen, batch)


def test_what_was_written_past_brinefrost_is_not_taken_from_memory(kitchen: Kitchen, database_url: str) -> None:
    batch = kitchen.stalled()
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as owner:
        owner.execute("alter table records disable trigger all")
        owner.execute("update records set body = replace(body, '\"value\":61.4', '\"value\":3.4')")
    loaded = kitchen.do(lambda store: keeping.load(store, batch))
    assert loaded.readings[-1].logged.value == pytest.approx(3.4)


def test_a_look_that_began_before_a_reading_does_not_double_it(kitchen: Kitchen) -> None:
    """The shift asks where each batch ends, and folds them then: what was logged in between is in memory by then."""
    batch = kitchen.stalled()
    subject = keeping.subject_of(batch)

    def look(store: Store) -> None:
        ends = store.summaries.ends([subject])
        kitchen.clock.forward(1)
        kitchen.log(batch, "chill", 60.9, "core")
        seen = keeping.fold_once(store, subject, ends[subject])
        assert seen.readings[-1].logged.value == pytest.approx(60.9)

    kitchen.do(look)
    kept = FOLDED.latest(subject)
    assert kept is not None
    assert (kept.seq, kept.digest) == kitchen.do(lambda store: store.summaries.end_of(subject))
    assert kept.sum is not None
    kitchen.clock.forward(1)
    kitchen.log(batch, "chill", 60.8, "core")
    assert kitchen.do(lambda store: keeping.load(store, batch)) == folded(kitchen, batch)


def test_several_read_together_are_what_each_is_by_itself(kitchen: Kitchen, database_url: str) -> None:
    """Known, known as it was before, not known at all, closed, and damaged."""
    batches = [kitchen.stalled(), *(kitchen.start() for _ in range(4))]
    subjects = [keeping.subject_of(batch) for batch in batches]
    kitchen.view(batches[1])
    stale = FOLDED.latest(subjects[1])
    kitchen.begin(batches[1], "cook")
    assert stale is not None
    FOLDED.put(subjects[1], stale)
    FOLDED.drop(subjects[2])
    lead, now = kitchen.people["lead"], kitchen.clock.now()
    thrown = running.DeviationEntry(decision="discard", reason="Dropped on the floor, all of it.")
    kitchen.do(lambda store: running.countersign(store, lead, now, batches[3], thrown))
    FOLDED.drop(subjects[4])
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as owner:
        owner.execute("alter table records disable trigger all")
        owner.execute("update records set body = '{}' where subject = %s", (subjects[4],))
    found = kitchen.do(lambda store: keeping.fold_all(store, subjects))
    assert list(found) == subjects
    assert [found[subject] for subject in subjects[:4]] == [folded(kitchen, batch) for batch in batches[:4]]
    assert found[subjects[3]].closed
    assert found[subjects[4]] is None
    assert FOLDED.latest(subjects[3]) is None  # what is closed is not held
