"""The calendar file, read back by a library that is not ours."""

from collections.abc import Iterator
from datetime import UTC, timedelta
from typing import Any

import pytest
from icalendar import Calendar

from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.schedule import blocks_of, checks_of
from brinefrost.core.words import Manner, manner_of
from brinefrost.reports.calendar_ics import calendar_ics
from brinefrost.services.calendar import CalendarView, Dated
from brinefrost.services.shift import Lane
from tests.core.test_parts import START, kept, plan_of

NOW = START + timedelta(hours=2)


@pytest.fixture
def batch() -> Batch:
    return kept(plan_of("short-rib"), timedelta(hours=1))


def view_of(batch: Batch) -> CalendarView:
    checks = tuple(checks_of(batch, NOW))
    lane = Lane(
        batch_id="b1", code="B-2", name=batch.plan.name, packs=1, mass_kg=1.0, blocks=tuple(blocks_of(batch, NOW)),
        checks=checks, curves=(), growth_from_c=None, growth_to_c=None, words="", waits_for="", trouble=False,
    )  # fmt: skip
    dated = Dated(id="b1-use-by", title="B-2: use or discard", at=NOW + timedelta(days=3))
    return CalendarView(site="Skarn Ridge; kitchen, two", zone="Europe/Zurich", lanes=(lane,), dated=(dated,))


def events(data: bytes) -> Iterator[Any]:
    return Calendar.from_ical(data).walk("VEVENT")  # type: ignore[no-any-return]


def test_every_open_check_stands_at_its_own_moment(batch: Batch) -> None:
    view = view_of(batch)
    wanted = {
        (f"b1-{c.id}@brinefrost", c.due_at) for c in view.lanes[0].checks if c.state in ("upcoming", "due", "late")
    }
    found = list(events(calendar_ics(view, NOW)))
    checks = {(str(each["uid"]), each.decoded("dtstart")) for each in found if "use-by" not in each["uid"]}
    assert checks == wanted
    assert wanted
    assert all(each.decoded("dtstart").tzinfo is not None for each in found)
    assert [each.decoded("dtstart") for each in found if "use-by" in each["uid"]] == [view.dated[0].at.astimezone(UTC)]


def test_what_is_planned_only_is_tentative_and_rings_nowhere(batch: Batch) -> None:
    view = view_of(batch)
    planned = {f"b1-{check.id}@brinefrost" for check in view.lanes[0].checks if check.planned}
    for each in events(calendar_ics(view, NOW)):
        if "use-by" in each["uid"]:
            continue
        assert (each["status"] == "TENTATIVE") == (str(each["uid"]) in planned)
        assert bool(each.walk("VALARM")) != (str(each["uid"]) in planned)


def test_ids_are_the_same_when_it_is_read_again_and_words_are_the_readers(batch: Batch) -> None:
    first, again = calendar_ics(view_of(batch), NOW), calendar_ics(view_of(batch), NOW + timedelta(minutes=1))
    assert {str(e["uid"]) for e in events(first)} == {str(e["uid"]) for e in events(again)}
    with manner_of(Manner("es")):
        spanish = calendar_ics(view_of(batch), NOW)
    assert {str(e["summary"]) for e in events(first)} != {str(e["summary"]) for e in events(spanish)}
