"""What people do with a batch: start it, take it through its steps, log, act, decide, countersign."""

from datetime import datetime

from pydantic import Field

from brinefrost.core.errors import AskFirstError, NotFoundError, RefusedError
from brinefrost.core.readings import check_time
from brinefrost.core.runs.batch import Batch, check_step_finish, check_step_start
from brinefrost.core.runs.deciding import (
    blocks_of_countersigning,
    broken,
    check_forecast_over,
    check_reason,
    check_recall,
    check_second_pair,
    check_unproved,
    grounds_of,
    to_answer,
)
from brinefrost.core.runs.deviations import step_deviation
from brinefrost.core.runs.events import (
    STEP_CAUSES,
    ActionRecorded,
    BatchCountersigned,
    BatchRecalled,
    CheckAnswered,
    DeviationDecided,
    DeviationOpened,
    Disposition,
    Moment,
    StepFinished,
    StepStarted,
)
from brinefrost.core.runs.grounds import Ground, check_ground
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.off_plan import OffPlan, off_time, steps_passed, waits_before
from brinefrost.core.runs.plausible import check_moment
from brinefrost.core.runs.schedule import checks_of, left_outside
from brinefrost.core.words import Words, joined, said, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping, revoking, standings
from brinefrost.services.office import Actor
from brinefrost.services.starting import BatchId, parts_blocking
from brinefrost.store import Store


class StepMark(Sent):
    """Begin or end a step, now or at a time given."""

    at: Moment | None = None
    confirmed: bool = False
    beside: bool = False  # it begins while what runs goes on


class ActionEntry(Sent):
    """What was done."""

    step: str = Field(max_length=40)
    action: str = Field(min_length=3, max_length=1000)
    deviation: str | None = Field(default=None, max_length=64)
    changes_course: bool = False
    at: Moment | None = None


class DecisionEntry(Sent):
    """The lead's decision."""

    decision: Disposition
    reason: str = Field(min_length=3, max_length=1000)


class DeviationEntry(DecisionEntry):
    """The decision on a deviation, and what was found where food is released although a limit was not met."""

    found: Ground | None = None


class RecallEntry(Sent):
    """Why a released batch is called back, or a logger file is taken back."""

    reason: str = Field(min_length=3, max_length=1000)


class CheckAnswer(Sent):
    """Why a check was missed."""

    check: str = Field(max_length=64)
    reason: str = Field(min_length=3, max_length=1000)


class Unproved(Sent):
    """A limit that nothing proves."""

    step: str = Field(max_length=40)
    limit: str = Field(default="", max_length=64)  # nothing: the step as a whole was not done as planned


def begin_step(store: Store, actor: Actor, now: datetime, batch_id: str, step_id: str, mark: StepMark) -> BatchId:
    """Begin a step; what runs ends at the same moment, unless it is begun beside it."""
    batch, at = keeping.load_open(store, batch_id), mark.at or now
    check_moment(at, now, mark.confirmed)
    check_step_start(batch, step_id, at)
    ended = [] if mark.beside else batch.running_steps()
    found = [*steps_passed(batch, before=step_id), *(f for each in ended if (f := off_time(batch, each, at, now)))]
    found += waits_before(batch, step_id, at)
    _ask_about(found, [q for each in ended for q in left_outside(batch, each.id, at)], mark.confirmed)
    events: list[StepFinished | StepStarted] = []
    for running in ended:
        check_step_finish(batch, running.id, at)
        events.append(StepFinished(step=running.id, at=at))
    events.append(StepStarted(step=step_id, at=at))
    written = [keeping.write(store, batch_id, event, actor.author, now) for event in events]
    return _watch(store, batch_id, keeping.after(batch, *written), now)


def finish_step(store: Store, actor: Actor, now: datetime, batch_id: str, step_id: str, mark: StepMark) -> BatchId:
    """End a step."""
    batch, at = keeping.load_open(store, batch_id), mark.at or now
    check_moment(at, now, mark.confirmed)
    check_step_finish(batch, step_id, at)
    found = off_time(batch, batch.plan.step(step_id), at, now)
    _ask_about([found] if found else [], left_outside(batch, step_id, at), mark.confirmed)
    written = keeping.write(store, batch_id, StepFinished(step=step_id, at=at), actor.author, now)
    return _watch(store, batch_id, keeping.after(batch, written), now)


def _ask_about(found: list[OffPlan], outside: list[Words], confirmed: bool) -> None:
    """Ask before it is written: about what is not as planned, which opens a deviation once confirmed, and about
    readings from after the end."""
    if confirmed or not (found or outside):
        return
    sentence = joined([*(each.sentence for each in found), *outside], " ")
    if found:
        sentence = say("services.running.not_as_planned_all_the_same", sentence=sentence)
    raise AskFirstError(sentence, reason="off_plan", value=None)


def record_action(store: Store, actor: Actor, now: datetime, batch_id: str, entry: ActionEntry) -> BatchId:
    """Write down what was done about a deviation, or just done."""
    batch, at = keeping.load_open(store, batch_id), entry.at or now
    check_time(at, now, batch.started.at)
    batch.plan.step(entry.step)
    if entry.deviation and entry.deviation not in batch.deviations:
        raise NotFoundError(say("services.running.there_is_no_such_deviation_on"), deviation=entry.deviation)
    event = ActionRecorded(
        step=entry.step,
        deviation=entry.deviation,
        action=_as_offered(batch, entry.action, now),
        changes_course=entry.changes_course,
        at=at,
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _as_offered(batch: Batch, action: str, now: datetime) -> str:
    """An action as it was offered, where it is one: code and numbers are kept, not the language it was read in."""
    options = (option for status in judge(batch, now).statuses for option in status.options)
    return next((option.action for option in options if said(option.action) == action), action)


def open_deviation(store: Store, actor: Actor, now: datetime, batch_id: str, entry: Unproved) -> BatchId:
    """Take up a limit that nothing proves and nothing will, so that somebody decides on it."""
    batch = keeping.load_open(store, batch_id)
    if not entry.limit:
        return _open_on_step(store, actor, now, batch_id, batch, entry.step)
    status = check_unproved(batch, entry.step, entry.limit, now)
    event = DeviationOpened(
        deviation=f"{batch.started.code}-D{len(batch.deviations) + 1}",
        step=entry.step,
        limit=entry.limit,
        cause="unproved",
        sentence=say(
            "services.running.step_name_sentence", step_name=status.step_name, sentence=status.verdict.sentence
        ),
        at=now,
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _open_on_step(store: Store, actor: Actor, now: datetime, batch_id: str, batch: Batch, step: str) -> BatchId:
    """Take up a step that was not done as planned."""
    found = next((each for each in to_answer(batch, now) if each.step.id == step), None)
    if found is None:
        raise RefusedError(say("runs.deciding.that_step_was_done_as_planned"))
    keeping.write(store, batch_id, step_deviation(batch, found, now), actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def decide(store: Store, actor: Actor, now: datetime, batch_id: str, deviation: str, entry: DeviationEntry) -> BatchId:
    """Decide on a deviation."""
    batch = keeping.load_open(store, batch_id)
    kept = batch.deviations.get(deviation)
    if kept is None:
        raise NotFoundError(say("services.running.there_is_no_such_deviation_on"), deviation=deviation)
    if not kept.is_open:
        raise RefusedError(say("services.running.this_deviation_is_decided_already_write"))
    own = False
    if entry.decision == "release":
        check_forecast_over(batch, kept, now)
        own = check_second_pair(batch, actor.id, _others_who_decide(store, actor))
        if kept.opened.cause in STEP_CAUSES or broken(batch, kept.opened.step, kept.opened.limit, now):
            check_reason(entry.reason, say("services.running.releasing_food_with_a_broken_critical"))
            check_ground(entry.found, grounds_of(batch, kept.opened), entry.reason)
    event = DeviationDecided(
        deviation=deviation, decision=entry.decision, reason=entry.reason, at=now, own_work=own, found=entry.found
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def countersign(store: Store, actor: Actor, now: datetime, batch_id: str, entry: DecisionEntry) -> BatchId:
    """Review done: decide on the batch and close its record."""
    batch = keeping.load_open(store, batch_id)
    reasons = blocks_of_countersigning(batch, entry.decision, now)
    if entry.decision == "release":
        reasons = [*reasons, *parts_blocking(store, batch, now)]
    if reasons:
        raise RefusedError(say("services.running.not_yet", reasons=reasons[0]), reasons=reasons)
    own = entry.decision == "release" and check_second_pair(batch, actor.id, _others_who_decide(store, actor))
    event = BatchCountersigned(decision=entry.decision, reason=entry.reason, at=now, own_work=own)
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def recall(store: Store, actor: Actor, now: datetime, batch_id: str, entry: RecallEntry) -> BatchId:
    """Call a released batch back: a record of its own on a record that is closed."""
    store.ledger.lock()
    batch = keeping.load(store, batch_id)
    check_recall(batch, entry.reason)
    keeping.write(store, batch_id, BatchRecalled(reason=entry.reason, at=now), actor.author, now)
    said = say("services.validating.was_recalled", batch=batch.started.code, reason=entry.reason)
    plan = standings.subject_of(batch.started.plan_id)
    revoking.revoke_resting_on(store, plan, batch_id, said, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def answer_check(store: Store, actor: Actor, now: datetime, batch_id: str, entry: CheckAnswer) -> BatchId:
    """Say why a check was missed."""
    batch = keeping.load_open(store, batch_id)
    check = next((each for each in checks_of(batch, now) if each.id == entry.check), None)
    if check is None or check.state != "missed":
        raise RefusedError(say("services.running.that_check_is_not_missed_log"))
    check_reason(entry.reason, say("services.running.a_missed_check"))
    event = CheckAnswered(check=check.id, step=check.step, reason=entry.reason, at=now)
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _watch(store: Store, batch_id: str, batch: Batch, now: datetime) -> BatchId:
    keeping.watch(store, batch_id, now, batch)
    return BatchId(batch_id=batch_id, code=batch.started.code)


def _others_who_decide(store: Store, actor: Actor) -> dict[str, str]:
    """Everybody else who may decide and countersign: name by id."""
    return {p.id: p.name for p in store.people.all() if p.role in ("lead", "reviewer") and p.id != actor.id}
