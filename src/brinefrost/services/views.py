"""What the screens and the record show of a batch."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.sheet_parts import Sheet
from brinefrost.core.plans.undone import told_to_guests
from brinefrost.core.plans.validated import Validation, tell_bounds
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.deciding import answering, blocks_of_countersigning, to_answer
from brinefrost.core.runs.events import Adjusted, Lot
from brinefrost.core.runs.judging import Judgement, LimitStatus, judge, moment, seen_of
from brinefrost.core.runs.parts import allergens_of, gone_by
from brinefrost.core.runs.schedule import Block, Check, blocks_of, checks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.document import Asked
from brinefrost.core.words import STORED, Words, joined, say
from brinefrost.core.words import moment as words_moment
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.binding import ProbeView, probe_views
from brinefrost.services.curves import Curve, Mark, curves_of, marks_of
from brinefrost.services.keeping import DAMAGED
from brinefrost.services.rows import (
    ActionView,
    DeviationView,
    ReadingView,
    TraceView,
    deviation_row,
    reading_row,
    trace_row,
)
from brinefrost.services.starting import GivenView, PartView, given_view, parts_blocking, parts_view
from brinefrost.store import Store

AT_A_TIME = 60  # batches of a list read together


class ClosedView(Sent):
    """The countersignature."""

    decision: str
    reason: str
    by: str
    at: datetime


class UnprovedView(Sent):
    """A limit not met after its step, which waits for a reading that is still there, or for somebody to decide."""

    step: str
    limit: str
    title: Words


class ValidatedStep(Sent):
    """A step whose process is monitored in place of the core, and what that rests on."""

    step: str
    step_name: Words
    sentence: Words


class BatchView(Sent):
    """One batch, whole."""

    batch_id: str
    code: str
    now: datetime
    plan_id: str
    plan_name: Words
    plan_version: int
    plan_hash: str
    packs: int
    mass_kg: float
    started_at: datetime
    started_by: str
    plan: Plan
    blocks: tuple[Block, ...]
    checks: tuple[Check, ...]
    startable: tuple[str, ...]
    current_step: str | None
    running: tuple[str, ...]  # every step that runs now
    limits: tuple[LimitStatus, ...]
    readings: tuple[ReadingView, ...]
    traces: tuple[TraceView, ...]
    actions: tuple[ActionView, ...]
    deviations: tuple[DeviationView, ...]
    curves: tuple[Curve, ...]
    marks: tuple[Mark, ...]
    blocking: tuple[Words, ...]
    unproved: tuple[UnprovedView, ...]
    closed: ClosedView | None
    recalled: ClosedView | None
    in_doubt: tuple[Words, ...]  # instruments found off since it was released, unanswered
    doubt_answered: ClosedView | None
    to_discard: bool  # a decision threw it away, and it is not closed as thrown away yet
    allergens: tuple[Words, ...]
    told: tuple[Words, ...]  # what the menu says of what is eaten raw or rare
    gone_by: datetime | None  # when the first of it has to be used or thrown away
    lots: tuple[Lot, ...]
    adjusted: tuple[Adjusted, ...]
    parts: tuple[PartView, ...] = ()
    given: tuple[GivenView, ...] = ()
    probes: tuple[ProbeView, ...] = ()
    validated: tuple[ValidatedStep, ...] = ()  # whose process is monitored in place of the core


class BatchSummary(Sent):
    """A batch in a list."""

    batch_id: str
    code: str
    plan_name: Words
    packs: int
    mass_kg: float
    started_at: datetime
    current: Words | None
    state: str
    open_deviations: int
    waits_for: Words
    gone_by: datetime | None = None
    lots: tuple[str, ...] = ()  # suppliers' lots in it, to be searched


def read_batch(store: Store, batch_id: str, now: datetime) -> BatchView:
    """One batch as it stands."""
    batch = keeping.load(store, batch_id)
    view = view_of(batch, batch_id, now)
    blocking = () if batch.closed else (*view.blocking, *parts_blocking(store, batch, now))
    family = {
        "parts": parts_view(store, batch),
        "given": given_view(store, batch_id),
        "blocking": blocking,
        "probes": probe_views(store, batch, now),
    }
    return view.model_copy(update=family)


def questions_of(store: Store, batch_id: str, now: datetime) -> tuple[Asked, ...]:
    """What the step under way would ask the Bench; nothing while none is."""
    batch = keeping.load(store, batch_id)
    step = batch.current_step()
    control = asked_steps(batch).get(step.id) if step else None
    if step is None or control is None:
        return ()
    context = context_at(batch.plan, step)
    return tuple(
        asked
        for limit in control.limits
        for asked in kind_of(step).running_asked(step, seen_of(batch, step.id, limit, now), context)
    )


def view_of(batch: Batch, batch_id: str, now: datetime) -> BatchView:
    """A folded batch as the screens see it."""
    as_of = batch.closed.at if batch.closed else now
    judgement = judge(batch, as_of)
    running = batch.current_step()
    return BatchView(
        batch_id=batch_id,
        code=batch.started.code,
        now=now,
        plan_id=batch.started.plan_id,
        plan_name=batch.plan.name,
        plan_version=batch.started.plan_version,
        plan_hash=batch.started.plan_hash,
        packs=batch.started.packs,
        mass_kg=batch.mass_kg(),
        started_at=batch.started.at,
        started_by=batch.started_by,
        plan=batch.plan,
        blocks=tuple(blocks_of(batch, as_of)),
        checks=tuple(checks_of(batch, as_of)),
        startable=tuple(step.id for step in batch.startable()) if not batch.closed else (),
        current_step=running.id if running else None,
        running=tuple(step.id for step in batch.running_steps()),
        limits=tuple(judgement.statuses),
        readings=tuple(
            reading_row(batch, reading) for reading in sorted(batch.readings, key=lambda r: r.logged.taken_at)
        ),
        traces=tuple(trace_row(batch, trace) for trace in batch.traces if not trace.live),
        actions=tuple(ActionView(action=a.action, by=by, at=a.at, step=a.step) for a, by in batch.actions),
        deviations=tuple(deviation_row(batch, d, judgement) for d in batch.deviations.values()),
        curves=tuple(curves_of(batch, judgement)),
        marks=tuple(marks_of(batch, judgement, as_of)),
        blocking=tuple(blocks_of_countersigning(batch, "release", as_of)) if not batch.closed else (),
        unproved=tuple(_find_unproved(batch, judgement, as_of)) if not batch.closed else (),
        closed=ClosedView(
            decision=batch.closed.decision, reason=batch.closed.reason, by=batch.closed_by or "", at=batch.closed.at
        )
        if batch.closed
        else None,
        recalled=ClosedView(decision="recall", reason=batch.recalled.reason, by=batch.recalled_by, at=batch.recalled.at)
        if batch.recalled
        else None,
        in_doubt=tuple(each.sentence for each in batch.doubts) if batch.is_in_doubt else (),
        doubt_answered=ClosedView(
            decision="stands",
            reason=batch.doubt_answered[0].reason,
            by=batch.doubt_answered[1],
            at=batch.doubt_answered[0].at,
        )
        if batch.doubt_answered
        else None,
        to_discard=batch.is_to_be_discarded and batch.closed is None,
        allergens=allergens_of(batch),
        told=told_to_guests(batch.plan),
        gone_by=gone_by(batch),
        lots=batch.started.lots,
        adjusted=batch.started.adjusted,
        validated=tuple(_tell_validated(batch, each) for each in batch.validated.values()),
    )


def _tell_validated(batch: Batch, validation: Validation) -> ValidatedStep:
    name = batch.plan.step(validation.step).name
    sentence = say(
        "services.views.is_validated",
        name=name,
        batches=joined(validation.batches, ", "),
        by=validation.by,
        bounds=tell_bounds(validation.bounds),
    )
    return ValidatedStep(step=validation.step, step_name=name, sentence=sentence)


def _find_unproved(batch: Batch, judgement: Judgement, now: datetime) -> list[UnprovedView]:
    limits = [
        UnprovedView(
            step=s.step,
            limit=s.limit.id,
            title=say("services.views.step_name_title", step_name=s.step_name, title=s.limit.title),
        )
        for s in judgement.statuses
        if s.verdict.state != "pass" and batch.span(s.step).finished and answering(batch, s.step, s.limit.id) is None
    ]
    steps = [] if batch.running_steps() else to_answer(batch, now)
    return [*limits, *(UnprovedView(step=each.step.id, limit="", title=each.sentence) for each in steps)]


class BatchSheet(Sent):
    """A batch on its plan's sheet, and where the clock stands on it."""

    sheet: Sheet
    now_step: str | None
    now_share: float


def sheet_view(store: Store, batch_id: str, now: datetime) -> BatchSheet:
    """A batch on its plan's sheet."""
    batch = keeping.load(store, batch_id)
    as_of = batch.closed.at if batch.closed else now
    sheet = sheet_of_batch(batch, judge(batch, as_of), as_of)
    running = batch.current_step()
    column = next((each for each in sheet.columns if running and each.step == running.id), None)
    began = batch.span(column.step).started if column else None
    share = (as_of - began).total_seconds() / max(column.length_s, 1.0) if column and began else 0.0
    return BatchSheet(
        sheet=sheet, now_step=column.step if column else None, now_share=round(min(max(share, 0.0), 1.0), 4)
    )


def list_batches(store: Store, now: datetime) -> Iterator[BatchSummary]:
    """Every batch, the newest first, some at a time; one whose record cannot be read says so and hides nobody else's.

    A closed batch does not change any more: its line is kept, and made anew where its records are others.
    """
    subjects = store.ledger.subjects("batch_started")[::-1]
    for begin in range(0, len(subjects), AT_A_TIME):
        some = subjects[begin : begin + AT_A_TIME]
        lasts = store.summaries.lasts(some)
        kept = store.summaries.of([subject.removeprefix(keeping.PREFIX) for subject in some])
        lines = {subject: kept.get(subject.removeprefix(keeping.PREFIX), (0, "")) for subject in some}
        batches = keeping.fold_all(store, [subject for subject in some if lines[subject][0] != lasts[subject]])
        for subject in some:
            if subject in batches:
                yield _sum(store, subject, batches[subject], lasts[subject], now)
            else:
                yield BatchSummary.model_validate_json(lines[subject][1])


def _sum(store: Store, subject: str, batch: Batch | None, last: int, now: datetime) -> BatchSummary:
    """A batch in one line, from its records; that of a closed one is kept."""
    if batch is None:
        return _damaged_summary(subject, now)
    batch_id = subject.removeprefix(keeping.PREFIX)
    summary = summary_of(batch, batch_id, now)
    if batch.closed:
        store.summaries.keep(batch_id, last, summary.model_dump_json(context=STORED))
    return summary


@dataclass(frozen=True)
class Batches:
    """Folded batches, the oldest first, and the subjects whose records do not fold."""

    batches: list[tuple[str, Batch]]
    damaged: list[str]


def open_batches(store: Store) -> Batches:
    """Every batch not countersigned yet, folded."""
    found = Batches([], [])
    for subject, batch in keeping.fold_all(
        store, store.ledger.subjects("batch_started", without="batch_countersigned")
    ).items():
        if batch is None:
            found.damaged.append(subject)
        else:
            found.batches.append((subject.removeprefix(keeping.PREFIX), batch))
    return found


def _damaged_summary(subject: str, now: datetime) -> BatchSummary:
    batch_id = subject.removeprefix(keeping.PREFIX)
    return BatchSummary(
        batch_id=batch_id,
        code=batch_id,
        plan_name=DAMAGED,
        packs=0,
        mass_kg=0.0,
        started_at=now,
        current=None,
        state="trouble",
        open_deviations=0,
        waits_for=DAMAGED,
    )


def summary_of(batch: Batch, batch_id: str, now: datetime) -> BatchSummary:
    """A batch in one line."""
    running = batch.current_step()
    deviations = len(batch.open_deviations())
    return BatchSummary(
        batch_id=batch_id,
        code=batch.started.code,
        plan_name=batch.plan.name,
        packs=batch.started.packs,
        mass_kg=batch.mass_kg(),
        started_at=batch.started.at,
        current=running.name if running else None,
        state=_state(batch),
        open_deviations=deviations,
        waits_for=waits_for(batch, [] if batch.closed else checks_of(batch, now)),
        gone_by=gone_by(batch),
        lots=tuple(lot.lot for lot in batch.started.lots),
    )


def _state(batch: Batch) -> str:
    if (
        batch.recalled is not None
        or batch.is_in_doubt
        or batch.open_deviations()
        or (batch.is_to_be_discarded and not batch.closed)
    ):
        return "trouble"
    return "closed" if batch.closed else "running"


def waits_for(batch: Batch, checks: list[Check]) -> str:
    """What a batch waits for, in a few words."""
    if batch.recalled is not None:
        return say("services.views.recalled")
    if batch.is_to_be_discarded and not batch.closed:
        return say("services.shift.bin_it_and_record_it")
    if batch.closed:
        return say(f"services.views.closed_{batch.closed.decision}")
    if batch.open_deviations():
        return say("services.views.deviation_decide", deviation=batch.open_deviations()[0].opened.deviation)
    for check in checks:
        if check.state in ("late", "due"):
            return say(f"services.views.check_{check.state}", what=check.what)
    if batch.next_step() is None and batch.current_step() is None:
        return say("services.shift.review_and_countersign")
    upcoming = next((check for check in checks if check.state == "upcoming" and not check.planned), None)
    if upcoming:
        return say(
            "services.views.what_moment",
            what=upcoming.what,
            day=words_moment(moment(upcoming.due_at.timestamp()), "%d %b"),
        )
    step = batch.next_step()
    return say("services.shift.begin_name", name=step.name) if step else say("services.views.finish_the_step")
