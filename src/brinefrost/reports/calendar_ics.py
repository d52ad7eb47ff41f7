"""Checks, dates and days of the open batches as a calendar file (RFC 5545), to be opened by any calendar."""

from datetime import UTC, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from brinefrost import __version__
from brinefrost.core.runs.schedule import Check
from brinefrost.core.words import Words, said, say
from brinefrost.services.calendar import CalendarView, Dated

CHECK = timedelta(minutes=5)  # as long as a check blocks; common practice, no source
OPEN = ("upcoming", "due", "late")


def calendar_ics(view: CalendarView, now: datetime) -> bytes:
    """The calendar as a file [bytes], in the language of whoever asks. Valid for every view.

    A check whose step has not begun is tentative: its time is the plan's. Each event keeps its id, so that a calendar
    that reads the file again moves it.
    """
    found = Calendar()
    found.add("prodid", f"-//Brinefrost//{__version__}//EN")
    found.add("version", "2.0")
    found.add("x-wr-calname", said(view.site))
    found.add("x-wr-timezone", view.zone)
    for lane in view.lanes:
        for check in lane.checks:
            if check.state in OPEN and not check.reading:
                found.add_component(_tell_check(check, lane.code, lane.batch_id, lane.name, now))
    for dated in view.dated:
        found.add_component(_tell_dated(dated, now))
    return bytes(found.to_ical())


def _tell_check(check: Check, code: str, batch_id: str, dish: Words, now: datetime) -> Event:
    event = _event(f"{batch_id}-{check.id}", say("paper.calendar.check", batch=code, what=check.what), now)
    event.add("dtstart", check.due_at.astimezone(UTC))
    event.add("duration", CHECK)
    event.add("description", said(say("paper.calendar.of", dish=dish, step=check.step_name, how=check.how)))
    event.add("status", "TENTATIVE" if check.planned else "CONFIRMED")
    if not check.planned:
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("trigger", timedelta(0))
        alarm.add("description", said(check.what))
        event.add_component(alarm)
    return event


def _tell_dated(dated: Dated, now: datetime) -> Event:
    event = _event(dated.id, dated.title, now)
    event.add("dtstart", dated.at.astimezone(UTC))
    event.add("duration", timedelta(0))
    event.add("transp", "TRANSPARENT")
    return event


def _event(name: str, title: Words, now: datetime) -> Event:
    event = Event()
    event.add("uid", f"{name}@brinefrost")
    event.add("dtstamp", now.astimezone(UTC))
    event.add("summary", said(title))
    return event
