"""What is asked of the ledger: days, person, instrument, dish, lot, outcome; and what fits as one document."""

import io
from datetime import date, datetime, timedelta
from types import SimpleNamespace

import pytest
from pypdf import PdfReader

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.words import said
from brinefrost.reports.register_pdf import _outcome_of, register_pdf
from brinefrost.services import ledgers, registering, running, starting
from brinefrost.services.finding import Asked, find_batches, span_of
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def found(kitchen: Kitchen, **asked: object) -> list[ledgers.RecordView]:
    return kitchen.do(lambda store: ledgers.search(store, Asked(**asked), None, 500))  # type: ignore[arg-type, no-any-return]


def discard(kitchen: Kitchen, batch: str) -> None:
    entry = running.DeviationEntry(decision="discard", reason="Dropped on the floor.")
    who, now = kitchen.people["lead"], kitchen.clock.now()
    kitchen.do(lambda store: running.countersign(store, who, now, batch, entry))


def test_days_are_the_kitchens_own_and_the_last_is_in(kitchen: Kitchen) -> None:
    with kitchen.database.transaction() as store:
        since, until = span_of(store, Asked(since=date(2026, 10, 24), until=date(2026, 10, 25)))
        zone = store.site.read().zone
    assert since is not None
    assert until is not None
    assert (since.hour, until.hour, until.date()) == (0, 0, date(2026, 10, 26))
    hours = (until.timestamp() - since.timestamp()) / 3600
    assert hours == (49 if zone.startswith("Europe") else 48)  # the clocks go back that night


def test_records_are_narrowed_by_day_person_and_instrument(kitchen: Kitchen) -> None:
    kitchen.stalled()
    today = kitchen.clock.now().date()
    everything = found(kitchen)
    assert found(kitchen, since=today + timedelta(days=2)) == []
    assert found(kitchen, until=today - timedelta(days=400)) == []
    cook = kitchen.people["cook"]
    by_cook = found(kitchen, person=cook.id)
    assert {record.actor for record in by_cook} == {cook.name}
    assert len(by_cook) < len(everything)
    read = found(kitchen, instrument="probe-2")
    assert {record.kind for record in read} == {"reading_logged"}
    assert found(kitchen, instrument="probe") == []  # an id is whole


def test_batches_are_found_by_plan_lot_and_outcome(kitchen: Kitchen) -> None:
    thrown, kept = kitchen.start(), kitchen.start()
    lot = starting.BatchStart.model_validate(
        {"plan_id": kitchen.plan_id, "packs": 6, "lots": [{"ingredient": "chicken-thigh", "lot": "LX-77"}]}
    )
    who = kitchen.people["cook"]
    with_lot = kitchen.do(lambda store: starting.start_batch(store, who, kitchen.clock.now(), lot)).batch_id
    discard(kitchen, thrown)

    def batches(**asked: object) -> set[str]:
        subjects = kitchen.do(lambda store: find_batches(store, Asked(**asked)))  # type: ignore[arg-type]
        return {subject.removeprefix("batch:") for subject in subjects}

    assert batches(plan=kitchen.plan_id) == {thrown, kept, with_lot}
    assert batches(plan="another") == set()
    assert batches(lot="lx-7") == {with_lot}
    assert batches(outcome="discard") == {thrown}
    assert batches(outcome="release") == set()
    assert kitchen.do(lambda store: find_batches(store, Asked(words="salt"))) is None
    assert {record.subject for record in found(kitchen, outcome="discard")} == {f"batch:{thrown}"}


def test_the_batches_of_a_dish_are_one_document(kitchen: Kitchen) -> None:
    first, second = kitchen.stalled(), kitchen.start()
    discard(kitchen, second)
    now: datetime = kitchen.clock.now()
    register = kitchen.do(lambda store: registering.read_register(store, Asked(plan=kitchen.plan_id), now))
    codes = [kitchen.view(batch).code for batch in (first, second)]
    assert [view.code for view, _ in register.batches] == codes
    pages = PdfReader(io.BytesIO(register_pdf(register, now))).pages
    front = " ".join(pages[0].extract_text().split())
    for word in (*codes, "Discard", "not decided yet"):
        assert word in front
    assert len(pages) >= 3


def test_days_that_no_calendar_of_a_kitchen_has_are_asked_for_in_vain(kitchen: Kitchen) -> None:
    kitchen.start()
    assert found(kitchen, since=date.min, until=date.max) == found(kitchen)
    assert found(kitchen, since=date.max, until=date.min) == []


def test_what_was_called_back_bears_no_tick_in_the_list() -> None:
    closed, by = SimpleNamespace(decision="release", by="Ilse"), SimpleNamespace(by="Ilse")
    marks = [
        _outcome_of(SimpleNamespace(closed=closed, recalled=recalled, in_doubt=doubt))  # type: ignore[arg-type]
        for recalled, doubt in ((None, ()), (by, ()), (None, ("Probe 2 read 1 K low.",)))
    ]
    assert [mark for mark, _ in marks] == ["pass", "fail", "too_close"]
    assert "Recalled" in said(marks[1][1])


def test_a_document_holds_no_more_than_it_can_and_is_never_empty(
    kitchen: Kitchen, monkeypatch: pytest.MonkeyPatch
) -> None:
    now = kitchen.clock.now()
    with pytest.raises(NotFoundError, match="No batch fits"):
        kitchen.do(lambda store: registering.read_register(store, Asked(), now))
    kitchen.start()
    kitchen.start()
    monkeypatch.setattr(registering, "MOST", 1)
    with pytest.raises(RefusedError, match="2 batches are more"):
        kitchen.do(lambda store: registering.read_register(store, Asked(), now))
