"""What a piece can do between two readings: a core that changes faster than heat can flow is a slip, not a reading."""

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from brinefrost.core.errors import AskFirstError, DomainError, ImplausibleReadingError, RefusedError
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.settling import Settling
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.readings import CLOCK_TOLERANCE
from brinefrost.core.runs.batch import Batch, ReadingState
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.context import Context
from brinefrost.core.words import Words, diff, duration, mm, say, temp

FIRST_ROOT = np.pi / 2  # of a slab whose surface is held: Carslaw & Jaeger (1959), 3.3
COLDEST_AROUND_C, HOTTEST_AROUND_C = -1.0, 100.0
SLACK_K, THINNER = 8.0, 3.0  # another bag, another spot: up to three times thinner; common practice, no source
THINNEST_M = 0.0005  # half of the thinnest slab that is followed
STEP_LEAD = timedelta(minutes=2)  # as for a logger: common practice, no source
LONG_AGO = timedelta(hours=12)  # a time further back than a shift is likely a slip of the hand


@dataclass(frozen=True)
class Change:
    """How far a core can move in a time [K]: beyond ``ever`` in no medium, beyond ``here`` not in what is around it."""

    ever: float
    here: float


def most_change(batch: Batch, steps: list[Step], early_c: float, falls: bool, gap_s: float) -> Change | None:
    """How far the core of the batch's pieces can fall or rise from a temperature [°C] in a time [s].

    ``steps`` are those it happens in. Valid for flat pieces, three times thinner than planned at most; None where no
    thickness is known. Carslaw & Jaeger (1959), 3.3 and 3.11: a surface that is held bounds every medium, the first
    mode with the medium's own coefficient what it can do itself.
    """
    context = context_at(batch.plan, steps[-1])
    if context.food.piece is None or context.food.thermal is None:
        return None
    half = context.food.piece.thickness_m / 2 / THINNER
    planned = [c for each in batch.plan.steps if (c := kind_of(each).around_c(each)) is not None]
    around = min([COLDEST_AROUND_C, *planned]) if falls else max([HOTTEST_AROUND_C, *planned])
    rate = FIRST_ROOT**2 * context.food.thermal.diffusivity_m2_s / half**2
    ever = abs(early_c - around) * (1 - float(np.exp(-rate * gap_s))) + SLACK_K
    here = max((_by_medium(batch, step, context, half, early_c, falls, gap_s, ever) for step in steps), default=ever)
    return Change(ever, min(here, ever))


def _by_medium(
    batch: Batch, step: Step, context: Context, half_m: float, early_c: float, falls: bool, gap_s: float, ever: float
) -> float:
    """What a step's own medium can do [K]; all there is where the plan names none, or its course was changed."""
    kind = kind_of(step)
    key, around = kind.medium(step), kind.around_c(step)
    changed = any(action.step == step.id and action.changes_course for action, _ in batch.actions)
    if key is None or around is None or changed or (around < early_c) != falls:
        return ever
    body = Body(
        Shape.slab, min(max(half_m, THINNEST_M), 0.5), context.heat().diffusivity_m2_s, context.heat().conductivity_w_mk
    )
    way = Settling(body, context.h(key), around, 0.0, early_c, settled=True)
    return abs(early_c - float(way.core_c(np.array([gap_s]), 1.0)[0])) + SLACK_K


def check_core(
    batch: Batch, step_id: str, value: float, taken_at: datetime, corrects: str | None, confirmed: bool = False
) -> None:
    """Refuse a core that cannot follow from the one read before it, or lead to the one after; ask about one that what
    surrounds it could not bring about.

    The reading may be kept. Raises ImplausibleReadingError if no piece of the plan's thickness, nor one a third as
    thick, could change so much in the time between; AskFirstError if it could, but not in the step's own air or water.
    Valid as ``most_change``. ``value`` [°C].
    """
    for other in _neighbours(batch, step_id, taken_at, corrects):
        first = other.logged.taken_at <= taken_at
        early, late = (other.logged.value, value) if first else (value, other.logged.value)
        gap_s = abs((taken_at - other.logged.taken_at).total_seconds())
        steps = [batch.plan.step(other.logged.step), batch.plan.step(step_id)]
        most = most_change(batch, steps if first else steps[::-1], early, late < early, gap_s)
        if most is None:
            return
        for allowed, error in ((most.ever, ImplausibleReadingError), (most.here, AskFirstError)):
            if abs(late - early) > allowed and not (confirmed and error is AskFirstError):
                raise error(
                    _cannot_follow(batch, step_id, value, other, gap_s, allowed, error), reason="jump", value=value
                )


def _cannot_follow(
    batch: Batch,
    step_id: str,
    value: float,
    other: ReadingState,
    gap_s: float,
    most_k: float,
    error: type[DomainError],
) -> Words:
    piece = context_at(batch.plan, batch.plan.step(step_id)).food.piece
    thick = mm(1000 * piece.thickness_m if piece else 0.0, ".0f")
    read, before, most = temp(value, "g"), temp(other.logged.value, "g"), diff(most_k, ".0f")
    gap = duration(gap_s)
    if error is AskFirstError:
        return say("runs.plausible.not_in_this_medium", value=read, gap=gap, value2=before, thick=thick, most=most)
    return say("runs.plausible.a_core_of_cannot_be_from", value=read, gap=gap, value2=before, thick=thick, most=most)


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
