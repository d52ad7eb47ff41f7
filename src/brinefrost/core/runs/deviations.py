"""When a batch opens a deviation by itself, and when one closes itself."""

from datetime import datetime

from brinefrost.core.plans.validated import MARK
from brinefrost.core.runs.batch import Batch, DeviationState
from brinefrost.core.runs.deciding import answering_step, broken_then
from brinefrost.core.runs.events import STEP_CAUSES, DeviationOpened, DeviationWithdrawn
from brinefrost.core.runs.judging import Judgement, LimitStatus, judge
from brinefrost.core.runs.off_plan import OffPlan, off_plan
from brinefrost.core.words import Words, say


def next_event(batch: Batch, now: datetime) -> DeviationOpened | DeviationWithdrawn | None:
    """The next deviation to open or to withdraw, as things stand; None where nothing is to be written.

    Opened for a limit that is broken or forecast to be, and for a step not done as planned; withdrawn where readings
    that came later show that the limit was never broken, or that the step did its work. Valid for open batches; asked
    again after each event until it has none.
    """
    if batch.closed or batch.is_to_be_discarded:
        return None  # what is thrown away wants no more decisions
    judgement, found = judge(batch, now), off_plan(batch, now)
    known = [state for state in batch.deviations.values() if state.is_open]
    withdrawn = (_withdrawn(batch, state, judgement, found, now) for state in known)
    opened = (_for_limit(batch, status, now) for status in judgement.statuses)
    for_steps = (_for_step(batch, each, now) for each in found)
    return next((event for event in (*withdrawn, *opened, *for_steps) if event is not None), None)


def step_deviation(batch: Batch, found: OffPlan, now: datetime) -> DeviationOpened:
    """The deviation on a step not done as planned. Valid for every such step."""
    return DeviationOpened(
        deviation=_number(batch), step=found.step.id, cause=found.cause, sentence=found.sentence, at=now
    )


def _for_step(batch: Batch, found: OffPlan, now: datetime) -> DeviationOpened | None:
    return step_deviation(batch, found, now) if answering_step(batch, found) is None else None


def _withdrawn(
    batch: Batch, state: DeviationState, judgement: Judgement, off: list[OffPlan], now: datetime
) -> DeviationWithdrawn | None:
    """A breach that later readings refute, or a step whose time they explain; what was forecast waits for a person."""
    opened = state.opened
    if opened.cause in STEP_CAUSES:
        if any((each.step.id, each.cause) == (opened.step, opened.cause) for each in off):
            return None
        return _closing(opened, say("runs.deviations.later_readings_show_the_step"), now)
    if opened.cause != "breach":
        return None
    status = next((s for s in judgement.statuses if (s.step, s.limit.id) == (opened.step, opened.limit)), None)
    if status is None and opened.step in batch.validated and opened.limit.startswith(MARK):
        # its core was read since, and met
        return _closing(opened, say("runs.deviations.the_core_was_measured"), now)
    if status is None or status.verdict.state not in ("pass", "pending"):
        return None
    return _closing(opened, status.verdict.sentence, now)


def _closing(opened: DeviationOpened, sentence: str, now: datetime) -> DeviationWithdrawn:
    said = say("runs.deviations.closed_by_later_readings", sentence=sentence)
    return DeviationWithdrawn(deviation=opened.deviation, sentence=said, at=now)


def _number(batch: Batch) -> str:
    return f"{batch.started.code}-D{len(batch.deviations) + 1}"


def _covers(batch: Batch, status: LimitStatus, known: DeviationState) -> bool:
    """Whether a deviation stands for its limit: open, not released, or released when the limit was broken already."""
    if known.withdrawn:
        return False
    if known.decided is None or known.decided.decision != "release":
        return True
    return broken_then(batch, status.step, status.limit.id, known.decided.at)


def _for_limit(batch: Batch, status: LimitStatus, now: datetime) -> DeviationOpened | None:
    known = [
        each
        for each in batch.deviations.values()
        if (each.opened.step, each.opened.limit) == (status.step, status.limit.id) and not each.withdrawn
    ]
    if any(_covers(batch, status, each) for each in known):
        return None  # one limit is decided on once: what was forecast and came is the same deviation
    causes = {each.opened.cause for each in known}
    if status.verdict.state == "fail" and "breach" not in causes:
        sentence, late, cause = status.verdict.sentence, None, "breach"
    elif status.forecast and status.forecast.misses and not causes:
        missed = next((stage for stage in status.forecast.stages if stage.misses), None)
        sentence, late, cause = status.forecast.sentence, missed.late_by_s if missed else None, "forecast"
    else:
        return None
    return DeviationOpened(
        deviation=_number(batch),
        step=status.step,
        limit=status.limit.id,
        cause=cause,
        sentence=_at_step(status, sentence),
        late_by_s=late,
        at=now,
    )


def _at_step(status: LimitStatus, sentence: str) -> Words:
    """What is said of a limit, with its step; kept as code and numbers, to be read in any language later."""
    return say("services.running.step_name_sentence", step_name=status.step_name, sentence=sentence)
