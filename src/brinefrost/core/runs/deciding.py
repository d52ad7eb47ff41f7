"""Who may decide, with what reason, and what stands in the way of a decision on a batch."""

from datetime import datetime

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.plans.validated import MARK
from brinefrost.core.reasons import says
from brinefrost.core.runs.asked import limits_asked
from brinefrost.core.runs.batch import Batch, DeviationState
from brinefrost.core.runs.events import STEP_CAUSES, DeviationOpened, Disposition
from brinefrost.core.runs.exposure import toxins_made
from brinefrost.core.runs.grounds import Ground, grounds_for
from brinefrost.core.runs.judging import LimitStatus, judge, verdict_of
from brinefrost.core.runs.off_plan import OffPlan, off_plan, steps_not_done
from brinefrost.core.runs.parts import as_dated
from brinefrost.core.runs.schedule import missed_checks
from brinefrost.core.words import joined, say

LEAST_REASON, LEAST_WORDS = 20, 4  # of a reason that says something; common practice, no source


def check_reason(reason: str, about: str) -> None:
    """Refuse a reason that says nothing: raises RefusedError.

    Valid for any text; what counts is letters and words, not what they say.
    """
    if not says(reason, LEAST_REASON, LEAST_WORDS):
        raise RefusedError(
            say(
                "runs.deciding.needs_a_reason_an_inspector_can",
                about=about,
                least_reason=LEAST_REASON,
                least_words=LEAST_WORDS,
            ),
            reason="reason",
        )


def check_second_pair(batch: Batch, person_id: str, others: dict[str, str]) -> bool:
    """Whether somebody decides on their own work because there is nobody else. ``others``: name by id.

    Raises RefusedError where another person may decide.
    """
    if person_id not in batch.hands():
        return False
    free = [name for other, name in others.items() if other not in batch.hands()]
    if free:
        raise RefusedError(
            say("runs.deciding.you_logged_for_this_batch_yourself", free=joined(free, "words.or")), reason="second_pair"
        )
    return True


def broken(batch: Batch, step: str, limit: str, now: datetime) -> LimitStatus | None:
    """The limit as it stands, where it is not met; None where it is."""
    found = next((s for s in judge(batch, now).statuses if (s.step, s.limit.id) == (step, limit)), None)
    return found if found is not None and found.verdict.state != "pass" else None


def grounds_of(batch: Batch, opened: DeviationOpened) -> tuple[Ground, ...]:
    """What can be found of a deviation of a batch. Valid for every deviation."""
    limits = limits_asked(batch, opened.step)
    return grounds_for(opened, next((each for each in limits if each.id == opened.limit), None))


def answering(batch: Batch, step: str, limit: str) -> DeviationState | None:
    """The deviation that answers for a limit: an open one, or one that was decided on what came of it.

    A release while the step still ran and the limit could yet be met decided on what was seen coming: it answers for
    nothing that came afterwards.
    """
    for known in batch.deviations.values():
        if known.withdrawn or (known.decided and not _final(batch, known)):
            continue
        if known.opened.step != step:
            continue
        if known.opened.limit == limit or (known.opened.cause == "skipped" and batch.plan.control_of(step) is None):
            return known  # who answers for a step that was never done answers for what nobody read there
    return None


def answering_step(batch: Batch, found: OffPlan) -> DeviationState | None:
    """The deviation that answers for a step not done as planned, open or decided. Valid for every such step."""
    for known in batch.deviations.values():
        if (known.opened.step, known.opened.cause) == (found.step.id, found.cause) and not known.withdrawn:
            return known
    return None


def _final(batch: Batch, known: DeviationState) -> bool:
    """Whether a decision was made on what had come: thrown away or reworked, the step over, or the limit broken."""
    decided, span = known.decided, batch.span(known.opened.step)
    if known.opened.cause in STEP_CAUSES:
        return decided is not None
    if decided is None or decided.decision != "release" or (span.finished and decided.at >= span.finished):
        return decided is not None
    return broken_then(batch, known.opened.step, known.opened.limit, decided.at)


def to_answer(batch: Batch, now: datetime) -> list[OffPlan]:
    """Steps not done, or done far off their planned time, that nobody has taken up yet.

    Valid for every batch; those still ahead are among them, since a release now would pass them over.
    """
    found = {(each.step.id, each.cause): each for each in (*off_plan(batch, now), *steps_not_done(batch))}
    return [each for each in found.values() if answering_step(batch, each) is None]


def check_forecast_over(batch: Batch, known: DeviationState, now: datetime) -> None:
    """Refuse to release what was only forecast while its step runs and its limit can still be met: RefusedError."""
    opened = known.opened
    if opened.cause != "forecast" or batch.span(opened.step).finished:
        return
    status = broken(batch, opened.step, opened.limit, now)
    if status is not None and status.verdict.state != "fail":
        raise RefusedError(
            say("runs.deciding.is_still_running_act_and_read_again", step_name=status.step_name), reason="forecast"
        )


def broken_then(batch: Batch, step: str, limit: str, at: datetime) -> bool:
    """Whether a limit was broken already at a time, by what was read until then."""
    limits = limits_asked(batch, step)
    dated = (as_dated(batch, step, each, at) for each in limits)
    found = next((each for each in dated if each.id == limit), None)
    return found is not None and verdict_of(batch, step, found, at).state == "fail"


def check_unproved(batch: Batch, step: str, limit: str, now: datetime) -> LimitStatus:
    """The limit, where only a decision can help: not met, its step over, and no deviation on it yet.

    Raises RefusedError where a reading can still be had, and NotFoundError where there is no such limit.
    """
    if not any(each.id == limit for each in limits_asked(batch, step)):
        raise NotFoundError(say("runs.deciding.there_is_no_such_limit_on"), limit=limit)
    found = broken(batch, step, limit, now)
    if found is None:
        raise RefusedError(say("runs.deciding.that_limit_is_met_there_is"))
    if not batch.span(step).finished:
        raise RefusedError(say("runs.deciding.has_not_ended_measure_first_a", step_name=found.step_name))
    known = answering(batch, step, limit)
    if known:
        raise RefusedError(say("runs.deciding.stands_for_that_limit_decide_on", deviation=known.opened.deviation))
    return found


def blocks_of_countersigning(batch: Batch, decision: Disposition, now: datetime) -> list[str]:
    """What stands in the way of a decision on the whole batch.

    Sentences; none where it may be decided. Food that is thrown away needs no proof. Raises NotFoundError if a control
    names a step the plan does not have. Valid for any batch. Codex CXC 1-1969 (2022), principles 5 and 6.
    """
    found: list[str] = [
        say("runs.deciding.is_not_decided", deviation=d.opened.deviation) for d in batch.open_deviations()
    ]
    if decision == "discard":
        return found
    if batch.is_to_be_discarded:
        return [*found, say("runs.deciding.a_deviation_was_decided_as_discard")]
    for control in batch.plan.controls:
        if not batch.span(control.step).finished:
            found.append(say("runs.deciding.has_not_ended", name=batch.plan.step(control.step).name))
    statuses = judge(batch, now).statuses
    for status in statuses:
        if not status.critical and not batch.span(status.step).started:
            continue  # said once, of the step
        if status.verdict.state != "pass" and answering(batch, status.step, status.limit.id) is None:
            found.append(
                say(
                    "runs.deciding.step_name_title_sentence",
                    step_name=status.step_name,
                    title=status.limit.title,
                    sentence=status.verdict.sentence,
                )
            )
    found += [each.sentence for each in to_answer(batch, now)]
    core_read = {each.step for each in statuses if each.step in batch.validated and each.limit.quantity == "core"}
    found += [
        say("runs.deciding.missed_enter_the_reading_or_say", step_name=check.step_name, what=check.what)
        for check in missed_checks(batch, now)
        if not (check.monitoring.startswith(MARK) and check.step in core_read)
    ]
    found += toxins_made(batch, now)
    return found


def check_recall(batch: Batch, reason: str) -> None:
    """Refuse to recall what was not released, or what is recalled already: raises RefusedError.

    Reg. (EC) 178/2002, art. 19: what has left and may be unsafe is called back.
    """
    if batch.closed is None or batch.closed.decision != "release":
        raise RefusedError(say("runs.deciding.only_what_was_released_is_recalled"))
    if batch.recalled is not None:
        raise RefusedError(say("runs.deciding.is_recalled_already"))
    check_reason(reason, say("runs.deciding.a_recall"))
