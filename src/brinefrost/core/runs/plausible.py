"""What a piece can do between two readings: a core that changes faster than heat can flow is a slip, not a reading."""

from datetime import datetime, timedelta

import numpy as np

from brinefrost.core.errors import AskFirstError, ImplausibleReadingError, RefusedError
from brinefrost.core.plans.walk import context_at
from brinefrost.core.readings import CLOCK_TOLERANCE
from brinefrost.core.runs.batch import Batch, ReadingState
from brinefrost.core.steps import kind_of
from brinefrost.core.words import diff, duration, mm, say, temp

FIRST_ROOT = np.pi / 2  # of a slab whose surface is held: Carslaw & Jaeger (1959), 3.3
COLDEST_AROUND_C, HOTTEST_AROUND_C = -1.0, 100.0
SLACK_K, THINNER = 8.0, 9.0  # another bag, another spot: up to three times thinner; common practice, no source
STEP_LEAD = timedelta(minutes=2)  # as for a logger: common practice, no source
LONG_AGO = timedelta(hours=12)  # a time further back than a shift is likely a slip of the hand


def check_core(batch: Batch, step_id: str, value: float, taken_at: datetime, corrects: str | None) -> None:
    """Refuse a core that cannot follow from the one read before it, or lead to the one after.

    The reading may be kept. Raises ImplausibleReadingError if no bag of the plan's thickness, nor one a third as
    thick, could change so much in the time between. Valid for flat pieces; nothing is refused where no thickness is
    known. ``value`` [°C]. Carslaw & Jaeger (1959), 3.3: the slowest mode of a slab bounds how fast its middle follows.
    """
    context = context_at(batch.plan, batch.plan.step(step_id))
    if context.piece is None or context.thermal is None:
        return
    thick_m = context.piece.thickness_m
    planned = [c for each in batch.plan.steps if (c := kind_of(each).around_c(each)) is not None]
    coldest_c, hottest_c = min([COLDEST_AROUND_C, *planned]), max([HOTTEST_AROUND_C, *planned])
    rate = THINNER * FIRST_ROOT**2 * context.thermal.diffusivity_m2_s / (thick_m / 2) ** 2
    for other in _neighbours(batch, step_id, taken_at, corrects):
        early, late = (other.logged.value, value) if other.logged.taken_at <= taken_at else (value, other.logged.value)
        gap_s = abs((taken_at - other.logged.taken_at).total_seconds())
        around = coldest_c if late < early else hottest_c
        most = abs(early - around) * (1 - float(np.exp(-rate * gap_s))) + SLACK_K
        if abs(late - early) > most:
            raise ImplausibleReadingError(
                say(
                    "runs.plausible.a_core_of_cannot_be_from",
                    value=temp(value, "g"),
                    gap=duration(gap_s),
                    value2=temp(other.logged.value, "g"),
                    thick=mm(1000 * thick_m, ".0f"),
                    most=diff(most, ".0f"),
                ),
                reason="jump",
                value=value,
            )


def _neighbours(batch: Batch, step_id: str, taken_at: datetime, corrects: str | None) -> list[ReadingState]:
    """The core readings just before and just after, in the steps with the same bags."""
    cores = [
        reading
        for reading in batch.standing_readings()
        if reading.logged.quantity == "core" and reading.logged.reading != corrects
    ]
    before = [reading for reading in cores if reading.logged.taken_at <= taken_at]
    after = [reading for reading in cores if reading.logged.taken_at > taken_at]
    return [*before[-1:], *after[:1]]


def check_within(batch: Batch, step_id: str, taken_at: datetime) -> None:
    """Refuse a reading from before its step began: raises RefusedError.

    Valid for steps that have begun; a tap may come a little late.
    """
    began = batch.span(step_id).started
    if began is None or taken_at < began - STEP_LEAD:
        name = batch.plan.step(step_id).name
        if began is None:
            raise RefusedError(say("services.running.has_not_begun_so_nothing_can", name=name))
        raise RefusedError(
            say("runs.plausible.the_step_began_later", name=name, after=duration((began - taken_at).total_seconds())),
            reason="before",
        )


def check_moment(at: datetime, now: datetime, confirmed: bool) -> None:
    """Refuse a time to come, and ask about one long past.

    Raises ImplausibleReadingError for the future and for what is older than a month; AskFirstError beyond a shift.
    """
    if at > now + CLOCK_TOLERANCE:
        raise ImplausibleReadingError(say("runs.plausible.that_time_has_not_come_yet"), reason="future")
    if at < now - timedelta(days=31):
        raise ImplausibleReadingError(say("runs.plausible.that_is_more_than_a_month"), reason="past")
    if at < now - LONG_AGO and not confirmed:
        raise AskFirstError(
            say("runs.plausible.that_is_ago_is_it_right", total_seconds=duration((now - at).total_seconds())),
            reason="long_ago",
            value=None,
        )
