"""Who may decide, with what reason, and what stands in the way of a decision on a batch."""

from datetime import datetime

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import Disposition
from brinefrost.core.runs.judging import LimitStatus, judge
from brinefrost.core.runs.schedule import missed_checks

LEAST_REASON, LEAST_WORDS = 20, 4  # of a reason that says something; common practice, no source


def check_reason(reason: str, about: str) -> None:
    """Refuse a reason that says nothing: raises RefusedError.

    Valid for any text; what counts is letters and words, not what they say.
    """
    words = {word for word in reason.lower().split() if sum(letter.isalpha() for letter in word) >= 2}
    if len(reason.strip()) < LEAST_REASON or len(words) < LEAST_WORDS:
        raise RefusedError(
            f"{about} needs a reason an inspector can follow: what was found, and why the food is safe. "
            f"Write at least {LEAST_REASON} characters in {LEAST_WORDS} words.",
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
            f"You logged for this batch yourself. {' or '.join(free)} must decide on it.", reason="second_pair"
        )
    return True


def broken(batch: Batch, step: str, limit: str, now: datetime) -> LimitStatus | None:
    """The limit as it stands, where it is not met; None where it is."""
    found = next((s for s in judge(batch, now).statuses if (s.step, s.limit.id) == (step, limit)), None)
    return found if found is not None and found.verdict.state != "pass" else None


def check_unproved(batch: Batch, step: str, limit: str, now: datetime) -> LimitStatus:
    """The limit, where only a decision can help: not met, its step over, and no deviation on it yet.

    Raises RefusedError where a reading can still be had, and NotFoundError where there is no such limit.
    """
    if not any(each.id == limit for control in batch.plan.controls if control.step == step for each in control.limits):
        raise NotFoundError("There is no such limit on this batch.", limit=limit)
    found = broken(batch, step, limit, now)
    if found is None:
        raise RefusedError("That limit is met. There is nothing to decide.")
    if not batch.span(step).finished:
        raise RefusedError(f"{found.step_name} has not ended. Measure first: a reading decides better.")
    known = next((d for d in batch.deviations.values() if (d.opened.step, d.opened.limit) == (step, limit)), None)
    if known:
        raise RefusedError(f"{known.opened.deviation} stands for that limit. Decide on it.")
    return found


def blocks_of_countersigning(batch: Batch, decision: Disposition, now: datetime) -> list[str]:
    """What stands in the way of a decision on the whole batch.

    Parameters
    ----------
    batch : Batch
        The batch.
    decision : str
        ``release``, ``rework`` or ``discard``.
    now : datetime
        Now, with a zone.

    Returns
    -------
    list of str
        Sentences; none where it may be decided. Food that is thrown away needs no proof.

    Raises
    ------
    NotFoundError
        If a control names a step the plan does not have.

    Notes
    -----
    Valid for any batch.

    References
    ----------
    Codex CXC 1-1969 (2022), principles 5 and 6.
    """
    found = [f"{d.opened.deviation} is not decided." for d in batch.open_deviations()]
    if decision == "discard":
        return found
    decided = {(d.opened.step, d.opened.limit) for d in batch.deviations.values() if d.decided}
    for control in batch.plan.controls:
        if not batch.span(control.step).finished:
            found.append(f"{batch.plan.step(control.step).name} has not ended.")
    for status in judge(batch, now).statuses:
        if status.verdict.state != "pass" and (status.step, status.limit.id) not in decided:
            found.append(f"{status.step_name}, {status.limit.title}: {status.verdict.sentence}")
    found += [
        f"{check.step_name}, {check.what}: missed. Enter the reading, or say why there is none."
        for check in missed_checks(batch, now)
    ]
    if decision == "release" and any(d.decided and d.decided.decision == "discard" for d in batch.deviations.values()):
        found.append("A deviation was decided as discard, so the batch cannot be released.")
    return found
