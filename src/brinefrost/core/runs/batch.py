"""The state of a batch, folded from its events."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from datetime import datetime

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.plans.contexts import portion_of
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import steps_behind
from brinefrost.core.plans.validated import Validation
from brinefrost.core.runs.events import (
    ActionRecorded,
    BatchCountersigned,
    BatchRecalled,
    BatchStarted,
    CheckAnswered,
    DeviationDecided,
    DeviationOpened,
    DeviationWithdrawn,
    DoubtAnswered,
    InstrumentDoubted,
    ProbeBound,
    ProbeLetGo,
    ReadingLogged,
    Recorded,
    StepFinished,
    StepStarted,
    TraceAttached,
    TraceWithdrawn,
    ValidationEnded,
)
from brinefrost.core.runs.starting import fitted_plan
from brinefrost.core.steps import Step
from brinefrost.core.traces import Trace
from brinefrost.core.words import duration, say


@dataclass(frozen=True)
class Span:
    """When a step ran. Nothing for what has not happened."""

    started: datetime | None = None
    finished: datetime | None = None


@dataclass(frozen=True)
class ReadingState:
    """A reading as it stands: who took it, and what replaced it, if anything did."""

    logged: ReadingLogged
    by: str
    by_id: str
    recorded_at: datetime
    corrected_by: str | None = None
    as_read: float | None = None  # what was read, where its instrument was found off since and another value is judged

    @property
    def entered_late_s(self) -> float:
        """How long after it was taken it was written down [s].

        Valid for every reading; 0 for one stamped ahead.
        """
        return max(0.0, (self.recorded_at - self.logged.taken_at).total_seconds())


@dataclass(frozen=True)
class TraceState:
    """A trace laid to a step, with its samples."""

    attached: TraceAttached
    by: str
    by_id: str
    recorded_at: datetime
    trace: Trace | None
    withdrawn: TraceWithdrawn | None = None
    withdrawn_by: str = ""
    error: float = 0.0  # by which its instrument was found off since, in the unit of what it reads
    live: bool = False  # of a probe that delivers by itself; not a file


@dataclass(frozen=True)
class ProbeState:
    """A probe bound to a step, by whom, and when it was let go by hand; its step's end lets it go too."""

    bound: ProbeBound
    by: str
    by_id: str
    recorded_at: datetime
    let_go: datetime | None = None


@dataclass(frozen=True)
class DeviationState:
    """A deviation: how it came up, what was done, how it was decided."""

    opened: DeviationOpened
    by: str
    actions: tuple[tuple[ActionRecorded, str], ...] = ()
    decided: DeviationDecided | None = None
    decided_by: str | None = None
    withdrawn: DeviationWithdrawn | None = None

    @property
    def is_open(self) -> bool:
        """Whether it still wants a decision."""
        return self.decided is None and self.withdrawn is None


@dataclass
class Batch:
    """Everything known of a batch."""

    plan: Plan
    started: BatchStarted
    started_by: str
    spans: dict[str, Span] = field(default_factory=dict)
    readings: list[ReadingState] = field(default_factory=list)
    traces: list[TraceState] = field(default_factory=list)
    actions: list[tuple[ActionRecorded, str]] = field(default_factory=list)
    deviations: dict[str, DeviationState] = field(default_factory=dict)
    answers: dict[str, tuple[CheckAnswered, str]] = field(default_factory=dict)
    closed: BatchCountersigned | None = None
    closed_by: str | None = None
    doubts: list[InstrumentDoubted] = field(default_factory=list)
    doubt_answered: tuple[DoubtAnswered, str] | None = None  # and by whom
    recalled: BatchRecalled | None = None
    recalled_by: str = ""
    probes: dict[str, ProbeState] = field(default_factory=dict)  # by binding
    validated: dict[str, Validation] = field(default_factory=dict)  # by step, as far as they still hold

    def span(self, step_id: str) -> Span:
        """When a step ran."""
        return self.spans.get(step_id, Span())

    def running_steps(self) -> list[Step]:
        """The steps that run now: mostly one, several where one was begun beside another."""
        return [s for s in self.plan.steps if self.span(s.id).started and not self.span(s.id).finished]

    def current_step(self) -> Step | None:
        """The last of the steps that run now."""
        running = self.running_steps()
        return running[-1] if running else None

    def is_begun(self, step: Step) -> bool:
        """Whether a step, or one behind it on the way of its food, was begun."""
        return any(self.span(each.id).started for each in (step, *steps_behind(self.plan, step.id)))

    def next_steps(self) -> list[Step]:
        """The next step of each line, where what it takes or comes out of has got so far."""
        found: dict[str, Step] = {}
        for step in self.plan.steps:
            if step.line not in found and not self.is_begun(step):
                found[step.line] = step
        return [step for step in found.values() if self._has_come(step)]

    def _has_come(self, step: Step) -> bool:
        """Whether the lines a step takes have begun their last step, and what its own comes out of was begun."""
        lines = [each for each in self.plan.steps if each.line in step.takes]
        last = {each.line: each for each in lines}
        out_of = (self.plan.step(step.out_of),) if step.out_of else ()
        return all(self.is_begun(each) for each in (*last.values(), *out_of))

    def next_step(self) -> Step | None:
        """The first of the next steps of all lines."""
        return next(iter(self.next_steps()), None)

    def is_ahead(self, step_id: str) -> bool:
        """Whether a step may still come: not begun, nothing behind it begun, and the batch not closed."""
        return self.closed is None and not self.is_begun(self.plan.step(step_id))

    def startable(self) -> list[Step]:
        """Steps that may begin now: of each line those ahead, up to and with its first critical one or its join."""
        found = []
        for upcoming in self.next_steps():
            own = [step for step in self.plan.steps if step.line == upcoming.line]
            for step in own[own.index(upcoming) :]:
                if step is not upcoming and not self._has_come(step):
                    break
                found.append(step)
                if self.plan.control_of(step.id):
                    break
        return found

    def standing_readings(self, step_id: str | None = None) -> list[ReadingState]:
        """Readings that nothing has replaced, in the order they were taken."""
        kept = [r for r in self.readings if r.corrected_by is None and step_id in (None, r.logged.step)]
        return sorted(kept, key=lambda reading: reading.logged.taken_at)

    def standing_traces(self, step_id: str | None = None) -> list[TraceState]:
        """Logger files that count, in the order they were attached."""
        return [t for t in self.traces if t.withdrawn is None and step_id in (None, t.attached.step)]

    @property
    def is_in_doubt(self) -> bool:
        """Whether a released batch was read with what was found off since, and nobody has answered for it."""
        released = self.closed is not None and self.closed.decision == "release" and self.recalled is None
        return released and bool(self.doubts) and self.doubt_answered is None

    def mass_kg(self) -> float:
        """All its packs together [kg]; 0 where no step makes packs.

        Valid for every batch.
        """
        portion = portion_of(self.plan)
        return round(portion[0] * self.started.packs, 3) if portion else 0.0

    def probe_until(self, state: ProbeState) -> datetime | None:
        """When a probe was let go: by hand, or as its step ended; None while it measures."""
        ends = [each for each in (state.let_go, self.span(state.bound.step).finished) if each is not None]
        ends += [self.closed.at] if self.closed else []
        return min(ends, default=None)

    def hands(self) -> set[str]:
        """The ids of everybody who logged a reading or laid a file to it."""
        return {*(reading.by_id for reading in self.readings), *(trace.by_id for trace in self.traces)}

    @property
    def is_to_be_discarded(self) -> bool:
        """Whether a decision threw it away, on a deviation or on the whole: nothing of it is food any more."""
        if self.closed is not None and self.closed.decision == "discard":
            return True
        return any(each.decided is not None and each.decided.decision == "discard" for each in self.deviations.values())

    def open_deviations(self) -> list[DeviationState]:
        """Deviations that want a decision."""
        return [deviation for deviation in self.deviations.values() if deviation.is_open]


def fold(plan: Plan, records: Iterable[Recorded], traces: dict[str, Trace] | None = None) -> Batch:
    """The state of a batch after its events.

    Raises NotFoundError if the first event does not start a batch, or an event names something that is not there.
    Valid for events that ``check_event`` let through.
    """
    rows = list(records)
    if not rows or not isinstance(rows[0].event, BatchStarted):
        raise NotFoundError(say("runs.batch.there_is_no_such_batch"))
    batch = Batch(fitted_plan(plan, rows[0].event.adjusted), rows[0].event, rows[0].actor_name)
    batch.validated = {each.step: each for each in rows[0].event.validated}
    for row in rows[1:]:
        _apply(batch, row, traces or {})
    return batch


def followed(batch: Batch, records: Iterable[Recorded], traces: dict[str, Trace] | None = None) -> Batch:
    """A batch after some more events; the one it was stays as it was.

    Valid for events that come after all it was folded from.
    """
    later = replace(
        batch,
        spans=dict(batch.spans),
        readings=list(batch.readings),
        traces=list(batch.traces),
        actions=list(batch.actions),
        deviations=dict(batch.deviations),
        answers=dict(batch.answers),
        doubts=list(batch.doubts),
        validated=dict(batch.validated),
        probes=dict(batch.probes),
    )
    for row in records:
        _apply(later, row, traces or {})
    return later


def _apply(batch: Batch, row: Recorded, traces: dict[str, Trace]) -> None:
    match row.event:
        case StepStarted(step=step, at=at):
            batch.spans[step] = Span(started=at)
        case StepFinished(step=step, at=at):
            batch.spans[step] = Span(started=batch.span(step).started, finished=at)
        case ReadingLogged() as logged:
            _log(batch, logged, row)
        case TraceAttached() as attached:
            batch.traces.append(
                TraceState(attached, row.actor_name, row.actor_id, row.recorded_at, traces.get(attached.trace))
            )
        case TraceWithdrawn() as gone:
            batch.traces = [
                replace(each, withdrawn=gone, withdrawn_by=row.actor_name)
                if each.attached.trace == gone.trace
                else each
                for each in batch.traces
            ]
        case CheckAnswered() as answer:
            batch.answers[answer.check] = (answer, row.actor_name)
        case DeviationOpened() as opened:
            batch.deviations[opened.deviation] = DeviationState(opened, row.actor_name)
        case ActionRecorded() as action:
            _act(batch, action, row.actor_name)
        case DeviationDecided() as decided:
            known = batch.deviations[decided.deviation]
            batch.deviations[decided.deviation] = replace(known, decided=decided, decided_by=row.actor_name)
        case DeviationWithdrawn() as withdrawn:
            known = batch.deviations[withdrawn.deviation]
            batch.deviations[withdrawn.deviation] = replace(known, withdrawn=withdrawn)
        case BatchCountersigned() as signed:
            batch.closed, batch.closed_by = signed, row.actor_name
        case InstrumentDoubted() as doubted:
            _doubt(batch, doubted)
        case ProbeBound() as bound:
            batch.probes[bound.binding] = ProbeState(bound, row.actor_name, row.actor_id, row.recorded_at)
        case ProbeLetGo(binding=binding, at=at):
            batch.probes[binding] = replace(batch.probes[binding], let_go=at)
        case ValidationEnded(step=step):
            batch.validated.pop(step, None)
        case DoubtAnswered() as stands:
            batch.doubt_answered = (stands, row.actor_name)
        case BatchRecalled() as recalled:
            batch.recalled, batch.recalled_by = recalled, row.actor_name
        case _:
            raise NotFoundError(say("runs.batch.a_batch_can_only_be_started"))


def _log(batch: Batch, logged: ReadingLogged, row: Recorded) -> None:
    if logged.corrects:
        batch.readings = [
            replace(r, corrected_by=logged.reading) if r.logged.reading == logged.corrects else r
            for r in batch.readings
        ]
    batch.readings.append(ReadingState(logged, row.actor_name, row.actor_id, row.recorded_at))


def _doubt(batch: Batch, found: InstrumentDoubted) -> None:
    """What an instrument read since its last good check, less what it was found off by; what was read is kept."""

    def take_off_error(state: ReadingState) -> ReadingState:
        logged = state.logged
        if logged.instrument != found.instrument or not found.since <= logged.taken_at <= found.at:
            return state
        value = round(logged.value - found.error, 4)
        return replace(state, logged=logged.model_copy(update={"value": value}), as_read=logged.value)

    batch.doubts.append(found)
    batch.readings = [take_off_error(each) for each in batch.readings]
    batch.traces = [
        replace(each, error=found.error)
        if each.attached.instrument == found.instrument and each.attached.last_at >= found.since
        else each
        for each in batch.traces
    ]


def _act(batch: Batch, action: ActionRecorded, by: str) -> None:
    batch.actions.append((action, by))
    if action.deviation and action.deviation in batch.deviations:
        known = batch.deviations[action.deviation]
        batch.deviations[action.deviation] = replace(known, actions=(*known.actions, (action, by)))


def check_open(batch: Batch) -> None:
    """Refuse whatever comes after the countersignature: raises RefusedError."""
    if batch.closed:
        raise RefusedError(say("runs.batch.this_record_is_countersigned_and_closed"))


def check_step_start(batch: Batch, step_id: str, at: datetime) -> None:
    """Refuse a step out of order, twice, or before the one ahead of it: raises RefusedError."""
    check_open(batch)
    name = batch.plan.step(step_id).name
    if batch.span(step_id).started:
        raise RefusedError(say("runs.batch.has_already_begun", name=name))
    allowed = batch.startable()
    if step_id not in [step.id for step in allowed]:
        raise RefusedError(
            say(
                "runs.batch.cannot_begin_yet_is_next",
                name=name,
                more=allowed[-1].name if allowed else say("runs.batch.nothing_more"),
            )
        )
    ahead = max((batch.started.at, *_moments(batch)))
    if at < ahead:
        later = duration((ahead - at).total_seconds())
        raise RefusedError(say("runs.batch.it_cannot_begin_before_what_came_ahead", later=later))


def check_step_finish(batch: Batch, step_id: str, at: datetime) -> None:
    """Refuse to end a step that does not run: raises RefusedError."""
    check_open(batch)
    span = batch.span(step_id)
    if not span.started:
        raise RefusedError(say("runs.batch.has_not_begun", name=batch.plan.step(step_id).name))
    if span.finished:
        raise RefusedError(say("runs.batch.has_already_ended", name=batch.plan.step(step_id).name))
    if at < span.started:
        later = duration((span.started - at).total_seconds())
        raise RefusedError(say("runs.batch.it_cannot_end_before_it_began", later=later))


def _moments(batch: Batch) -> list[datetime]:
    return [moment for span in batch.spans.values() for moment in (span.started, span.finished) if moment]
