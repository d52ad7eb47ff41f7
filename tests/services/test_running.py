"""A batch through the services: what stands next, what is opened by itself, and hands that write at the same moment."""

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest

from brinefrost.core.errors import AskFirstError, DomainError, RefusedError
from brinefrost.core.words import said
from brinefrost.services import keeping, ledgers, running, views
from brinefrost.services.finding import Asked
from tests.kitchen import NAMES
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


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
    entry = running.DeviationEntry(decision="discard", reason="Dropped on the floor.")
    who, now = kitchen.people["lead"], kitchen.clock.now()
    kitchen.do(lambda store: running.countersign(store, who, now, batch, entry))
    assert batch not in {item.batch_id for item in kitchen.next()}
    assert [row.state for row in kitchen.do(lambda store: list(views.list_batches(store, now)))] == ["closed"]
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


def test_what_is_only_forecast_cannot_be_released_while_its_step_runs(kitchen: Kitchen) -> None:
    """The way out stays until the limit is met or missed; a release would only silence it."""
    batch = kitchen.stalled()
    first = kitchen.view(batch).deviations[0].deviation
    with pytest.raises(RefusedError, match="still running"):
        kitchen.decide(batch, first, "release", "Ice was added and stirred, the core is read again in ten minutes.")
    assert kitchen.view(batch).deviations[0].decision is None
    assert next(s for s in kitchen.view(batch).limits if s.limit.kind == "cooling").options
    kitchen.clock.forward(240)
    kitchen.log(batch, "chill", 50.0)
    found = kitchen.view(batch).deviations
    assert [each.cause for each in found] == ["forecast"]  # what came is what was forecast
    kitchen.decide(
        batch,
        first,
        "release",
        "Held above 60 degrees all the time by mistake, seen on the unit's log.",
        "entry_wrong",
    )
    assert kitchen.view(batch).deviations[0].decision == "release"


def test_a_chill_that_ended_too_warm_goes_on_in_the_fridge_and_is_not_forgotten(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    kitchen.clock.forward(10)
    kitchen.begin(batch, "keep", confirmed=True)
    kitchen.clock.forward(8 * 60)
    mark = running.StepMark()
    who, now = kitchen.people["cook"], kitchen.clock.now()
    kitchen.do(lambda store: running.finish_step(store, who, now, batch, "keep", mark))
    view = kitchen.view(batch)
    chill = next(each for each in view.limits if each.limit.kind == "cooling")
    assert chill.verdict.state != "pass"
    assert view.deviations[0].cause == "forecast"
    assert any(view.deviations[0].deviation in sentence for sentence in view.blocking)


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
        lambda store: ledgers.search(store, Asked(words=words), before, most, tuple(kinds))
    )
    assert {record.kind for record in find("", ["reading_logged"])} == {"reading_logged"}
    assert any(code in said(record.words) or record.subject.endswith(batch) for record in find(NAMES["cook"]))
    first = find("", most=4)
    rest = find("", before=first[-1].seq, most=500)
    seqs = [record.seq for record in (*first, *rest)]
    assert seqs == sorted(seqs, reverse=True)
    assert seqs[-1] == 1


def test_a_reading_long_after_its_check_or_its_step_is_asked_about(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(276)
    with pytest.raises(AskFirstError, match="Log it for that check all the same") as asked:
        kitchen.log(batch, "cook", 63.1, "bath", check="cook.bath.1")
    assert asked.value.fields["reason"] == "late_check"
    kitchen.log(batch, "cook", 63.1, "bath", check="cook.bath.1", confirmed=True)
    found = [each.state for each in kitchen.view(batch).checks if each.id.startswith("cook.bath")]
    assert found == ["done", "late", "late"]
    who, early = kitchen.people["cook"], kitchen.clock.now() - timedelta(hours=2)
    mark = running.StepMark(at=early)
    with pytest.raises(AskFirstError, match="has readings from after this end"):
        kitchen.do(lambda store: running.finish_step(store, who, kitchen.clock.now(), batch, "cook", mark))
    mark = running.StepMark(at=early, confirmed=True)
    kitchen.do(lambda store: running.finish_step(store, who, kitchen.clock.now(), batch, "cook", mark))
    with pytest.raises(AskFirstError, match="ended 2 h") as asked:
        kitchen.log(batch, "cook", 63.0, "bath")
    assert asked.value.fields["reason"] == "ended"


def test_what_corrects_a_reading_stands_for_the_check_it_was_logged_for(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(1)
    kitchen.log(batch, "cook", 61.0, "bath", check="cook.bath.1")
    first = kitchen.view(batch).readings[-1]
    kitchen.log(batch, "cook", 63.0, "bath", corrects=first.reading, taken_at=first.taken_at)
    corrected = kitchen.view(batch).readings[-1]
    check = next(each for each in kitchen.view(batch).checks if each.id == "cook.bath.1")
    assert (check.state, check.reading) == ("done", corrected.reading)


def test_what_is_next_says_its_aim_and_what_was_read_last(kitchen: Kitchen) -> None:
    stalled = kitchen.stalled()
    found = [item for item in kitchen.next() if item.batch_id == stalled and item.check is not None]
    cores = [item for item in found if item.check is not None and item.check.quantity == "core" and item.aim]
    assert cores
    assert "°C" in said(cores[0].aim)
    read = kitchen.view(stalled).readings
    for item in found:
        check = item.check
        assert check is not None
        own = [each for each in read if (each.step, each.quantity) == (check.step, check.quantity)]
        newest = max(own, key=lambda each: each.taken_at, default=None)
        assert (item.last and (item.last.value, item.last.at)) == (newest and (newest.value, newest.taken_at))
    assert any(item.last for item in found)
