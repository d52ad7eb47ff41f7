"""Discard dates: the rule set's days, freezing that stops the count, and parents that hand theirs on."""

from datetime import date, timedelta
from typing import Literal

from brinefrost.core.bounds import Bound, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Series, Threshold, Verdict
from brinefrost.core.rules import RuleSetId, rule_set, target
from brinefrost.core.words import Message, Words, moment, say
from brinefrost.core.working import Document, Source

Pack = Literal["open", "cooked_sealed", "vacuum", "sour"]
HALF_DAY = 0.5
Made = Literal[
    "ready_to_eat", "raw_white", "stock", "picked_shellfish", "oil_paste", "custard", "filled_raw", "compound_butter"
]


class Life(Document):
    """How long a thing of a kitchen keeps: days cold, and months frozen before its quality goes."""

    days: float | None
    months: float


# Common practice, no source; the rule set's own days still bind where they are fewer.
LIVES: dict[Made, Life] = {
    "ready_to_eat": Life(days=None, months=3),
    "raw_white": Life(days=4, months=6),
    "stock": Life(days=3, months=4),
    "picked_shellfish": Life(days=2, months=2),
    "oil_paste": Life(days=4, months=3),
    "custard": Life(days=3, months=1),
    "filled_raw": Life(days=1, months=1),
    "compound_butter": Life(days=None, months=3),
}


def quality_until(made: Made, since: date) -> date:
    """The day up to which what was frozen on a day is at its best; safe beyond, if it stayed frozen.

    Valid for every kind; common practice, no source.
    """
    return since + timedelta(days=round(LIVES[made].months * 30.4))


TOPICS: dict[str, str] = {"open": "date.ready_to_eat", "cooked_sealed": "keep.days", "vacuum": "date.vacuum"}


class Frozen(Document):
    """From the day it went in to the day it came out to thaw; no end while it is in."""

    since: date
    until: date | None = None


class DiscardDate(Document):
    """The last day it may be used, and where the date comes from."""

    last_day: date | None
    days_allowed: float
    days_frozen: int
    because: Words
    source: Source


def days_allowed(rule_set_id: RuleSetId, pack: Pack) -> Threshold:
    """The day limit of a rule set for a pack.

    Parameters
    ----------
    rule_set_id : str
        ``us``, ``uk``, ``eu`` or ``anz``.
    pack : str
        ``open``, ``cooked_sealed``, ``vacuum``, or ``sour``: vegetables measured below pH 4.2, kept by their acid.

    Returns
    -------
    Threshold
        In days, the day it is made counting as day 1.

    Raises
    ------
    NotFoundError
        If the rule set has none.

    Notes
    -----
    Valid for food kept cold as its limit asks. A rule set with no rule for vacuum packs uses its sealed one.

    References
    ----------
    Each limit carries its own.
    """
    if pack == "sour":
        return target("sour-days", Threshold)
    rules = rule_set(rule_set_id)
    topic = TOPICS[pack] if rules.entries_for(TOPICS[pack]) else TOPICS["cooked_sealed"]
    return rules.bound_for(topic)


def discard_date(
    rule_set_id: RuleSetId,
    pack: Pack,
    made_on: date,
    today: date,
    frozen: tuple[Frozen, ...] = (),
    parents: tuple[date, ...] = (),
    own_days: float | None = None,
) -> DiscardDate:
    """The last day a food may be used.

    Parameters
    ----------
    rule_set_id, pack : str
        As ``days_allowed``.
    made_on, today : date
        In the kitchen's own zone.
    frozen : tuple of Frozen
        Days in the freezer.
    parents : tuple of date
        Last days of what it was made from.
    own_days : float or None
        The kitchen's own limit [d]; only a stricter one counts.

    Returns
    -------
    DiscardDate
        The earliest of its own date and its parents'; no date while it is in the freezer.

    Raises
    ------
    OutOfRangeError
        If it was made after today, a freezing ends before it begins or lies before the making, or freezings overlap.

    Notes
    -----
    Valid in calendar days: the day made is day 1; a day spent wholly in the freezer does not count, the days it
    goes in and comes out do. Freezing does not stretch what a parent handed on.

    References
    ----------
    FDA Food Code 2022, 3-501.17 and 3-501.18 for the count and the earliest-part rule; common practice elsewhere.
    """
    limit = days_allowed(rule_set_id, pack)
    if own_days is not None:
        check("own_days", own_days, Bound(1.0, 3650.0, "d"))
    allowed = limit.value if own_days is None else min(limit.value, own_days)
    if made_on > today or allowed < 1:
        raise OutOfRangeError(say("kitchen.dates.it_must_have_been_made_by"))
    rested = _days_frozen(made_on, today, frozen)
    if any(each.until is not None and each.until > today for each in frozen):
        raise OutOfRangeError(say("kitchen.dates.a_freezing_cannot_end_after_the"))
    since = [each.since for each in frozen if each.until is None]

    def counted(last_day: date | None, because: Message) -> DiscardDate:
        return DiscardDate(
            last_day=last_day, days_allowed=allowed, days_frozen=rested, because=because, source=limit.source
        )

    ran_out = _last_before(made_on, allowed, today, frozen, parents)
    if ran_out is not None:
        return counted(ran_out, say("kitchen.dates.its_last_day_was_before_the", ran_out=moment(ran_out, "%d %b %Y")))
    if since:
        return counted(None, say("kitchen.dates.in_the_freezer_the_count_stands"))
    own = made_on + timedelta(days=int(allowed) - 1 + rested)
    earliest = min((own, *parents))
    if earliest < own:
        return counted(earliest, say("kitchen.dates.handed_on_by_its_oldest_part"))
    return counted(earliest, say("kitchen.dates.the_day_it_is_made_is", title=limit.title))


def use_by(made_on: date, last_day: date, today: date) -> Verdict:
    """Whether a food is still within its days.

    Parameters
    ----------
    made_on, last_day, today : date
        In the kitchen's own zone.

    Returns
    -------
    Verdict
        In days [d], the day made being day 1: pass before the last day, too close on it, fail after it.

    Notes
    -----
    Valid for whole days. The hour it was made is not counted, so a day is good to half a day: the last day itself
    is a warning, not a pass.

    References
    ----------
    FDA Food Code 2022, 3-501.17(A): the day of preparation is day 1.
    """
    limit = Threshold(
        id="use-by",
        title=say("kitchen.dates.used_by_its_last_day"),
        source=Source(citation="FDA Food Code 2022, 3-501.17(A): the day of preparation is day 1", tag="published"),
        quantity="age",
        comparison="at_most",
        value=(last_day - made_on).days + 1,
        unit="d",
    )
    return limit.evaluate(Series.of((today - made_on).days + 1, HALF_DAY), 0.0)


def _last_before(
    made_on: date, allowed: float, today: date, frozen: tuple[Frozen, ...], parents: tuple[date, ...]
) -> date | None:
    """The last day that had passed before a freezing began, if one had."""
    for each in sorted(frozen, key=lambda f: f.since):
        before = tuple(f for f in frozen if f.since < each.since)
        last = min((made_on + timedelta(days=int(allowed) - 1 + _days_frozen(made_on, today, before)), *parents))
        if last < each.since:
            return last
    return None


def _days_frozen(made_on: date, today: date, frozen: tuple[Frozen, ...]) -> int:
    total, last = 0, made_on
    for each in sorted(frozen, key=lambda f: f.since):
        end = each.until or today
        if each.since < last or end < each.since:
            raise OutOfRangeError(say("kitchen.dates.freezings_must_follow_the_making_end"))
        total += max((end - each.since).days - 1, 0)
        last = end
    return total
