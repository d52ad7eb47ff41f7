"""Readings, logger files and deviations of a batch as they are shown: each with who, when and what with."""

from datetime import datetime
from typing import cast

from brinefrost.core.runs.batch import Batch, DeviationState, ReadingState, TraceState
from brinefrost.core.runs.deciding import grounds_of
from brinefrost.core.runs.events import STEP_CAUSES
from brinefrost.core.runs.grounds import Ground, ground_said, with_ground
from brinefrost.core.runs.judging import Judgement, LimitStatus
from brinefrost.core.words import Words
from brinefrost.core.working import Sent


class ReadingView(Sent):
    """A reading with who and when."""

    reading: str
    step: str
    step_name: Words
    quantity: str
    value: float
    unit: str
    typed: str
    taken_at: datetime
    recorded_at: datetime
    entered_late_s: float
    by: str
    instrument: str
    uncertainty: float
    confirmed: bool
    corrects: str | None
    corrected_by: str | None
    note: Words
    judged_as: float | None = None  # its instrument was found off since: what it is judged as


class TraceView(Sent):
    """An attached logger file."""

    trace: str
    step: str
    step_name: Words
    filename: str
    sha256: str
    instrument: str
    uncertainty: float
    by: str
    recorded_at: datetime
    first_at: datetime
    last_at: datetime
    shift_s: float
    shift_reason: str
    asked: Words
    channels: tuple[Words, ...]
    assumptions: tuple[Words, ...]
    notes: tuple[Words, ...]
    withdrawn: str = ""  # why it was taken back
    withdrawn_by: str = ""


class ActionView(Sent):
    """What was done."""

    action: Words
    by: str
    at: datetime
    step: str


class GroundView(Sent):
    """What can have been found, to be chosen."""

    key: Ground
    said: Words


class DeviationView(Sent):
    """A deviation, from its opening to the decision."""

    deviation: str
    step: str
    step_name: Words
    limit: str
    cause: str
    sentence: Words
    late_by_s: float | None
    opened_at: datetime
    actions: tuple[ActionView, ...]
    standing: Words
    state: str
    decision: str | None
    reason: Words | None
    decided_by: str | None
    decided_at: datetime | None
    withdrawn: Words = ""  # why it closed itself
    grounds: tuple[GroundView, ...] = ()  # one of them is chosen by whoever releases; none where nothing is broken


def reading_row(batch: Batch, state: ReadingState) -> ReadingView:
    """A reading as it is shown."""
    logged = state.logged
    return ReadingView(
        reading=logged.reading,
        step=logged.step,
        step_name=batch.plan.step(logged.step).name,
        quantity=logged.quantity,
        value=logged.value if state.as_read is None else state.as_read,
        judged_as=None if state.as_read is None else logged.value,
        unit=logged.unit,
        typed=logged.typed,
        taken_at=logged.taken_at,
        recorded_at=state.recorded_at,
        entered_late_s=state.entered_late_s,
        by=state.by,
        instrument=logged.instrument_name,
        uncertainty=logged.uncertainty,
        confirmed=logged.confirmed,
        corrects=logged.corrects,
        corrected_by=state.corrected_by,
        note=logged.note,
    )


def trace_row(batch: Batch, state: TraceState) -> TraceView:
    """A logger file as it is shown."""
    kept = state.attached
    return TraceView(
        trace=kept.trace,
        step=kept.step,
        step_name=batch.plan.step(kept.step).name,
        filename=kept.filename,
        sha256=kept.sha256,
        instrument=kept.instrument_name,
        uncertainty=kept.uncertainty,
        by=state.by,
        recorded_at=state.recorded_at,
        first_at=kept.first_at,
        last_at=kept.last_at,
        shift_s=kept.shift_s,
        shift_reason=kept.shift_reason,
        asked=kept.asked,
        channels=kept.channels,
        assumptions=kept.assumptions,
        notes=kept.notes,
        withdrawn=state.withdrawn.reason if state.withdrawn else "",
        withdrawn_by=state.withdrawn_by,
    )


def deviation_row(batch: Batch, state: DeviationState, judgement: Judgement) -> DeviationView:
    """A deviation as it is shown, with how its limit stands."""
    opened, decided = state.opened, state.decided
    status = next((s for s in judgement.statuses if (s.step, s.limit.id) == (opened.step, opened.limit)), None)
    return DeviationView(
        deviation=opened.deviation,
        step=opened.step,
        step_name=batch.plan.step(opened.step).name,
        limit=opened.limit,
        cause=opened.cause,
        sentence=opened.sentence,
        late_by_s=opened.late_by_s,
        opened_at=opened.at,
        actions=tuple(ActionView(action=a.action, by=by, at=a.at, step=a.step) for a, by in state.actions),
        standing=_standing(status),
        state=status.verdict.state if status else "not_measured",
        decision=decided.decision if decided else None,
        reason=with_ground(cast("Ground | None", decided.found), decided.reason) if decided else None,
        decided_by=state.decided_by,
        decided_at=decided.at if decided else None,
        withdrawn=state.withdrawn.sentence if state.withdrawn else "",
        grounds=_grounds(batch, state, status),
    )


def _grounds(batch: Batch, state: DeviationState, status: LimitStatus | None) -> tuple[GroundView, ...]:
    met = status is not None and status.verdict.state == "pass" and state.opened.cause not in STEP_CAUSES
    if not state.is_open or met:
        return ()
    return tuple(GroundView(key=each, said=ground_said(each)) for each in grounds_of(batch, state.opened))


def _standing(status: LimitStatus | None) -> str:
    if status is None:
        return ""
    ahead = status.forecast if status.verdict.state in ("pending", "not_measured") else None
    return ahead.sentence if ahead else status.verdict.sentence
