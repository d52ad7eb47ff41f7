"""What lies ahead of a kitchen, for a calendar: checks of the open batches, use-by dates, instruments due."""

from datetime import datetime

from brinefrost.core.runs.parts import gone_by
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent
from brinefrost.services.shift import Lane, read_shift
from brinefrost.services.views import open_batches
from brinefrost.store import Store


class Dated(Sent):
    """One moment that something is due at."""

    id: str
    title: Words
    at: datetime


class CalendarView(Sent):
    """What lies ahead: the open batches with their checks, and what is dated."""

    site: Words
    zone: str
    lanes: tuple[Lane, ...]
    dated: tuple[Dated, ...]


def read_calendar(store: Store, now: datetime) -> CalendarView:
    """Every open batch's checks, the use by of each, and when each instrument is due. Valid at every time."""
    site = store.site.read()
    return CalendarView(
        site=site.name,
        zone=site.zone,
        lanes=read_shift(store, now).lanes,
        dated=(*_use_by(store), *_instruments_due(store)),
    )


def _use_by(store: Store) -> list[Dated]:
    found = []
    for batch_id, batch in open_batches(store).batches:
        by = gone_by(batch) if batch.running_steps() or batch.next_step() else None
        if by is not None and not batch.closed:
            title = say("paper.calendar.use_by", batch=batch.started.code, dish=batch.plan.name)
            found.append(Dated(id=f"{batch_id}-use-by", title=title, at=by))
    return found


def _instruments_due(store: Store) -> list[Dated]:
    return [
        Dated(id=f"instrument-{each.id}", title=say("paper.calendar.instrument", name=each.name), at=each.due_at)
        for each in store.instruments.all()
    ]
