"""What a check has to show, and what the same was read as last."""

from datetime import datetime

from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.judging import Judgement
from brinefrost.core.runs.schedule import Check
from brinefrost.core.words import Words
from brinefrost.core.working import Sent


class LastRead(Sent):
    """The latest reading of a quantity at a step, in the quantity's own unit, and when it was taken."""

    value: float
    at: datetime


def find_aim(judgement: Judgement, check: Check) -> Words:
    """The limit that a check is taken for, in the limit's own title; "" where none has the check's quantity.

    Critical limits come first. Valid for every check of the judged batch; a limit of what was killed or grown is no
    aim, for nobody reads it off a probe.
    """
    asked = [
        status
        for status in judgement.statuses
        if (status.step, status.limit.quantity) == (check.step, check.quantity) and status.limit.read_off
    ]
    return min(asked, key=lambda status: not status.critical).title if asked else ""


def find_last(batch: Batch, check: Check) -> LastRead | None:
    """The latest reading of a check's quantity at its step, by hand or by a probe; None where there is none."""
    by_hand = [
        LastRead(value=reading.logged.value, at=reading.logged.taken_at)
        for reading in batch.standing_readings(check.step)
        if reading.logged.quantity == check.quantity
    ]
    by_probe = [
        LastRead(value=channel.values[-1], at=datetime.fromtimestamp(channel.times_s[-1], tz=check.due_at.tzinfo))
        for state in batch.standing_traces(check.step)
        for channel in (state.trace.channels if state.trace else ())
        if channel.quantity == check.quantity and channel.values
    ]
    return max((*by_hand, *by_probe), key=lambda read: read.at, default=None)
