"""Which reading answers which check: the one that was touched, or the one it was read near; never one long past."""

from bisect import bisect_left
from datetime import datetime, timedelta
from typing import Protocol

from brinefrost.core.quantities import Quantity
from brinefrost.core.runs.batch import Batch, ReadingState

GRACE = timedelta(minutes=10)  # a check is late when this much over its time; common practice, no source
AT_END = 0.25  # of the step's time, before its end, in which a check of its end can be made; common practice, no source
MEDIA: frozenset[Quantity] = frozenset({"bath", "air"})  # what is around the food: gone when its step has ended


class Spanned(Protocol):
    """A step on the clock: from when to when, as far as is known."""

    @property
    def starts(self) -> datetime: ...
    @property
    def ends(self) -> datetime: ...


def match_readings(
    block: Spanned, ids: list[str], times: list[datetime], readings: list[ReadingState]
) -> dict[int, str]:
    """The reading of each check that has one: by the check's place, the reading's id.

    ``ids`` and ``times`` are the checks', in order of time. A reading answers the check it was logged for, and the one
    it was read nearest to, within half the way to the next; a second reading takes no other's place. Valid for
    readings in order of time.
    """
    taken: dict[int, str] = {}
    for reading in readings:
        at = reading.logged.taken_at
        if reading.logged.check in ids:
            i = ids.index(reading.logged.check)
            if at >= times[i] - reach_before(block, times, i):
                taken.setdefault(i, reading.logged.reading)
    for reading in readings:
        at = reading.logged.taken_at
        near = _nearest(times, at)
        if -reach_before(block, times, near) <= at - times[near] <= reach_after(block, times, near):
            taken.setdefault(near, reading.logged.reading)
    return taken


def match_at_end(block: Spanned, readings: list[ReadingState], before: int) -> dict[int, str]:
    """The reading of a check of the step's end, at place 0: one from near the end, whatever it was logged for.

    ``before``: so many of those from near the end belong to other checks. Valid for readings in order of time.
    """
    from_then = block.ends - max(GRACE, AT_END * (block.ends - block.starts))
    last = [r for r in readings if from_then <= r.logged.taken_at <= block.ends + GRACE]
    return {0: last[before].logged.reading} if len(last) > before else {}


def _nearest(times: list[datetime], at: datetime) -> int:
    after = bisect_left(times, at)
    return min(range(max(after - 1, 0), min(after + 1, len(times))), key=lambda i: abs(times[i] - at))


def reach_before(block: Spanned, times: list[datetime], i: int) -> timedelta:
    """How long before its time a check can be made: half the way from the one before, or from the step's start."""
    return max(GRACE, (times[i] - (times[i - 1] if i else block.starts)) / 2)


def reach_after(block: Spanned, times: list[datetime], i: int) -> timedelta:
    """How long after its time a check is made by a reading that was not logged for it: half the way to the next, or as
    long as the one before it had; the only one of a step until the step ends."""
    if i + 1 < len(times):
        return max(GRACE, (times[i + 1] - times[i]) / 2)
    if i:
        return reach_before(block, times, i)
    return max(block.ends - times[i], timedelta()) + GRACE


def readings_during(batch: Batch, step_id: str, quantity: Quantity) -> list[ReadingState]:
    """The standing readings of a quantity that were of the step: of what is around the food, none from after its end.

    Valid for every step of the batch; in order of time.
    """
    ended = batch.span(step_id).finished
    return [
        each
        for each in batch.standing_readings(step_id)
        if each.logged.quantity == quantity
        and not (quantity in MEDIA and ended is not None and each.logged.taken_at > ended + GRACE)
    ]
