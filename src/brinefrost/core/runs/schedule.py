"""The checks of a batch against the clock: what is due, done, late."""

from bisect import bisect_left
from datetime import UTC, datetime, timedelta
from typing import Literal

from brinefrost.core.errors import AskFirstError
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.runs.asked import asked_steps, limits_asked
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.matching import GRACE, match_at_end, match_readings, reach_after
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.document import Monitoring
from brinefrost.core.words import Words, duration, say
from brinefrost.core.working import Document

CheckState = Literal["done", "due", "late", "upcoming", "missed"]
AGAIN_S = 600.0  # how soon after an action it is read whether it helped; common practice, no source
DUE_AHEAD = timedelta(minutes=5)
AT_LEAST_S = 120.0  # as near to a check as a logger's reading answers it; common practice, no source
MOST_CHECKS = 5_000  # of one kind at one step: every minute for three days


class Check(Document):
    """One check of the schedule."""

    id: str
    step: str
    step_name: Words
    monitoring: str
    what: Words
    how: Words
    who: str
    quantity: ReadingQuantity
    due_at: datetime
    good_until: datetime  # a reading later than this is asked about before it is this check's
    planned: bool  # True while the step has not begun, so the time is the plan's
    state: CheckState
    reading: str | None = None
    file: str | None = None  # the logger file that read it all the time, by its id
    answer: Words | None = None  # why it was missed
    answered_by: str | None = None
    expected_low_c: float
    expected_high_c: float
    critical: bool = True


class Block(Document):
    """One step on the clock, as it ran or as planned."""

    step: str
    name: Words
    kind: str
    starts: datetime
    ends: datetime
    planned_end: datetime  # by the plan's own length, from when it began
    started: bool
    finished: bool
    critical: bool
    endless: bool = False  # it runs until somebody ends it
    takes: ReadingQuantity | None = None  # what a logger file laid to it must have read


def blocks_of(batch: Batch, now: datetime) -> list[Block]:
    """Every step on the clock; those not begun follow the one ahead at the plan's lengths."""
    found: list[Block] = []
    ended: dict[str, datetime] = {}  # line: when the last of its steps so far is over
    for step in batch.plan.steps:
        span = batch.span(step.id)
        cursor = _comes_at(batch, step, ended, found)
        starts = span.started or max(cursor, now)
        length = timedelta(seconds=kind_of(step).length_s(step))
        ends = span.finished or (
            max(starts + length, now) if span.started and not kind_of(step).endless else starts + length
        )
        found.append(
            Block(
                step=step.id,
                name=step.name,
                kind=step.kind,
                starts=starts,
                ends=ends,
                planned_end=starts + length,
                started=span.started is not None,
                finished=span.finished is not None,
                critical=batch.plan.control_of(step.id) is not None,
                endless=kind_of(step).endless,
                takes=kind_of(step).logged,
            )
        )
        ended[step.line] = ends
    return _not_before_wanted(batch.plan, found)


def _comes_at(batch: Batch, step: Step, ended: dict[str, datetime], blocks: list[Block]) -> datetime:
    """When all that a step needs has come: its own line, the lines it takes, the step its line comes out of."""
    out_of = [block.ends for block in blocks if block.step == step.out_of]
    lines = [ended[line] for line in (step.line, *step.takes) if line in ended]
    return max([batch.started.at, *lines, *out_of])


def _not_before_wanted(plan: Plan, blocks: list[Block]) -> list[Block]:
    """A line nobody began yet is laid so that it ends when it is taken, and waits nowhere."""
    found = {block.step: block for block in blocks}
    for taker in reversed(plan.steps):
        for line in taker.takes:
            own = [step.id for step in plan.steps if step.line == line]
            spare = found[taker.id].starts - found[own[-1]].ends
            if spare > timedelta(0) and not any(found[each].started for each in own):
                found |= {each: _later(found[each], spare) for each in own}
    return list(found.values())


def _later(block: Block, by: timedelta) -> Block:
    moved = {name: getattr(block, name) + by for name in ("starts", "ends", "planned_end")}
    return block.model_copy(update=moved)


def checks_of(batch: Batch, now: datetime, known: list[Block] | None = None) -> list[Check]:
    """Every check with its clock time and state.

    In order of time. Raises NotFoundError if a control names a step the plan does not have. Valid across midnight and
    clock changes, since instants are compared. What answers a check is told by ``match_readings`` and
    ``match_at_end``. Codex CXC 1-1969 (2022), principle 4.
    """
    blocks = {block.step: block for block in (blocks_of(batch, now) if known is None else known)}
    found: list[Check] = []
    for control in asked_steps(batch).values():
        block = blocks[control.step]
        for i, monitoring in enumerate(control.monitoring):
            before = sum(_is_at_end(e) and e.quantity == monitoring.quantity for e in control.monitoring[:i])
            found += _checks(batch, block, monitoring, now, before)
        found += _after_actions(batch, block, control, now)
    return sorted((_mark_answered(batch, check) for check in found), key=lambda check: check.due_at)


def _mark_answered(batch: Batch, check: Check) -> Check:
    if check.id not in batch.answers or check.state != "missed":
        return check
    answer, by = batch.answers[check.id]
    return check.model_copy(update={"answer": answer.reason, "answered_by": by})


def ask_if_untimely(batch: Batch, step_id: str, check_id: str, taken_at: datetime, now: datetime) -> None:
    """Ask about a reading from long after what it is logged for: raises AskFirstError.

    After the end of its step, or later than half the way from its check to the next. A fall goes on behind its step,
    so a core there is not asked about. Valid for readings of steps that have begun.
    """
    ended, name = batch.span(step_id).finished, batch.plan.step(step_id).name
    falls = any(limit.falls_from_c is not None for limit in limits_asked(batch, step_id))
    if ended is not None and taken_at > ended + GRACE and not falls:
        after = duration((taken_at - ended).total_seconds())
        raise AskFirstError(say("runs.schedule.read_after_the_end", name=name, after=after), reason="ended", value=None)
    check = next((each for each in checks_of(batch, now) if each.id == check_id), None) if check_id else None
    if check is not None and taken_at > check.good_until:
        after = duration((taken_at - check.due_at).total_seconds())
        said = say("runs.schedule.read_long_after_its_check", what=check.what, after=after)
        raise AskFirstError(said, reason="late_check", value=None)


def left_outside(batch: Batch, step_id: str, ends: datetime) -> list[Words]:
    """What there is to ask where a step is said to have ended before readings that stand in it; nothing if none does.

    Valid for every step that has begun.
    """
    after = [r.logged for r in batch.standing_readings(step_id) if r.logged.taken_at > ends + GRACE]
    if not after:
        return []
    last = duration((after[-1].taken_at - ends).total_seconds())
    return [say("runs.schedule.ends_before_its_readings", name=batch.plan.step(step_id).name, last=last)]


def missed_checks(batch: Batch, now: datetime) -> list[Check]:
    """The checks of critical steps that nobody made and nobody has answered for.

    Valid for batches whose steps have ended. At other steps the limit itself decides: not measured where nobody read.
    """
    missed = [check for check in checks_of(batch, now) if check.state == "missed" and check.critical]
    return [check for check in missed if check.answer is None]


def _is_at_end(monitoring: Monitoring) -> bool:
    return not monitoring.offsets_s and not monitoring.every_s


def _checks(batch: Batch, block: Block, monitoring: Monitoring, now: datetime, before: int = 0) -> list[Check]:
    """The checks of one kind at a step. ``before``: how many other checks of the end read the same quantity first."""
    times = _times(block, monitoring)
    ids = [f"{block.step}.{monitoring.id}.{i + 1}" for i in range(len(times))]
    readings = [r for r in batch.standing_readings(block.step) if r.logged.quantity == monitoring.quantity]
    taken = dict[int, str]()
    if block.started and _is_at_end(monitoring):
        taken = match_at_end(block, readings, before)
    elif block.started:
        taken = match_readings(block, ids, times, readings)
    files = _find_covered(batch, block.step, monitoring.quantity, times) if block.started else {}
    over = block.finished or batch.closed is not None
    return [
        Check(
            id=ids[i],
            step=block.step,
            step_name=block.name,
            monitoring=monitoring.id,
            what=monitoring.what,
            how=monitoring.how,
            who=monitoring.who,
            quantity=monitoring.quantity,
            due_at=time,
            good_until=time + reach_after(block, times, i),
            planned=not block.started,
            reading=taken.get(i),
            file=files.get(i),
            state=_state(time, taken.get(i) or files.get(i), block, over, now),
            expected_low_c=monitoring.expected_low_c,
            expected_high_c=monitoring.expected_high_c,
            critical=block.critical,
        )
        for i, time in enumerate(times)
        if not (over and time > block.ends + GRACE and i not in taken and i not in files)
    ]


def _after_actions(batch: Batch, block: Block, control: Control, now: datetime) -> list[Check]:
    """The reading a change of course asks for: whether it helped is measured soon after, while more can be done."""
    judged = {limit.quantity for limit in control.limits[:1]}
    first = next((each for each in control.monitoring if each.quantity in judged), None)
    turned = [a.at for a, _ in batch.actions if a.step == block.step and a.changes_course]
    if first is None or not turned or not block.started:
        return []
    asked = first.model_copy(
        update={
            "id": "after-action",
            "offsets_s": tuple((at - block.starts).total_seconds() + AGAIN_S for at in turned),
        }
    )
    return _checks(batch, block, asked.model_copy(update={"every_s": None}), now)


def _times(block: Block, monitoring: Monitoring) -> list[datetime]:
    times = [block.starts + timedelta(seconds=offset) for offset in sorted(monitoring.offsets_s)]
    if monitoring.every_s:
        step = timedelta(seconds=monitoring.every_s)
        next_time = (times[-1] if times else block.starts) + step
        while next_time <= block.ends and len(times) < MOST_CHECKS:
            times.append(next_time)
            next_time += step
    if not times:
        times = [block.ends]
    return times


def _find_covered(batch: Batch, step: str, quantity: ReadingQuantity, times: list[datetime]) -> dict[int, str]:
    """The checks that a logger file answers: it read that quantity then, and nobody has to read it again.

    A continuous record is a record of each of its moments: FDA Food Code 2022, 3-501.16 and 3-501.17, ask for one.
    """
    found: dict[int, str] = {}
    for state in batch.standing_traces(step):
        for channel in state.trace.channels_of(quantity) if state.trace else ():
            reach = timedelta(seconds=max(AT_LEAST_S, 3 * (state.trace.interval_s if state.trace else 0.0)))
            read = [datetime.fromtimestamp(each, tz=UTC) for each in channel.times_s]
            for i, time in enumerate(times):
                at = bisect_left(read, time)
                near = read[max(at - 1, 0) : at + 1]
                if any(abs(each - time) <= reach for each in near):
                    found.setdefault(i, state.attached.trace)
    return found


def _state(time: datetime, reading: str | None, block: Block, over: bool, now: datetime) -> CheckState:
    if reading:
        return "done"
    if over:
        return "missed"
    if not block.started or now < time - DUE_AHEAD:
        return "upcoming"
    return "due" if now <= time + GRACE else "late"
