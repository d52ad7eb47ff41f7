"""Batches: start, step, log, attach, act, decide, countersign, export."""

import hashlib
import json
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request, Response, UploadFile
from pydantic import Field, ValidationError

from brinefrost.api.downloads import download, record_export
from brinefrost.api.pages import USUAL, After, Find, Most, Page, bears, page_of
from brinefrost.api.seats import DeciderHand, Everyone, Kitchen, KitchenHand, OfficeHere
from brinefrost.api.together import together
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.plans.weighing import Amounts, ScaleStep, weigh_out
from brinefrost.core.runs.events import Disposition
from brinefrost.core.steps.document import Asked
from brinefrost.core.traces import LARGEST_BYTES, Trace, TraceOptions
from brinefrost.core.words import said, say
from brinefrost.core.working import Sent
from brinefrost.reports.calendar_ics import calendar_ics
from brinefrost.reports.record_pdf import record_pdf
from brinefrost.reports.workbook import workbook
from brinefrost.services import (
    accepting,
    accounts,
    binding,
    calendar,
    doubting,
    keeping,
    ledgers,
    readings,
    running,
    shift,
    starting,
    tracing,
    views,
)
from brinefrost.store import Store

router = APIRouter(prefix="/api/v1", tags=["batches"])
Mass = Annotated[float, Query(ge=0, le=20000, allow_inf_nan=False, description="In kg; 0: not said.")]
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class Countersignature(Sent):
    """The decision on the batch, signed with the password."""

    decision: Disposition
    reason: str = Field(min_length=3, max_length=1000)
    password: str = Field(min_length=1, max_length=200)


class SignedDecision(running.DeviationEntry):
    """The decision on a deviation; a release is signed with the password."""

    password: str = Field(default="", max_length=200)


class SignedRecall(running.RecallEntry):
    """Why a released batch is called back, signed with the password."""

    password: str = Field(min_length=1, max_length=200)


class TraceReading(Sent):
    """How a file was read: the assumptions, and each channel's span, without all its samples."""

    trace: Trace


@router.get("/shift/calendar.ics", response_class=Response)
def export_calendar(actor: Everyone, office: OfficeHere) -> Response:
    """Checks of the open batches, use-by dates and instruments due, as iCalendar (RFC 5545)."""
    now = office.clock.now()
    view = office.read(lambda store: calendar.read_calendar(store, now))
    return download(calendar_ics(view, now), "text/calendar; charset=utf-8", "brinefrost.ics")


@router.get("/shift", response_model=shift.ShiftView)
async def read_shift(request: Request, actor: Everyone, office: OfficeHere) -> Response:
    """The shift as it stands."""
    return await together(request, lambda: office.read(lambda store: shift.read_shift(store, office.clock.now())))


@router.get("/batches")
def list_batches(
    actor: Everyone,
    office: OfficeHere,
    find: Find = "",
    state: Literal["", "running", "trouble", "closed"] = "",
    after: After = None,
    most: Most = USUAL,
) -> Page[views.BatchSummary]:
    """Batches, the newest first; those in a state, or whose code, dish or step bears words."""

    def fits(row: views.BatchSummary) -> bool:
        text = " ".join((row.code, said(row.plan_name), said(row.current or ""), *row.lots))
        return state in ("", row.state) and bears(text, find)

    def listed(store: Store) -> Page[views.BatchSummary]:
        found = filter(fits, views.list_batches(store, office.clock.now()))
        return page_of(found, lambda row: row.batch_id, after, most)

    return office.read(listed)


@router.get("/plans/{plan_id}/start")
def offer_start(plan_id: str, actor: Kitchen, office: OfficeHere) -> starting.StartOffer:
    """What a plan asks of a new batch, and which batches it could take of."""
    return office.read(lambda store: starting.offer(store, plan_id, office.clock.now()))


@router.post("/plans/{plan_id}/fit")
def fit_today(plan_id: str, measured: starting.Measured, actor: Kitchen, office: OfficeHere) -> starting.FitToday:
    """Whether the signed plan's times do for today's pieces; nothing is kept."""
    return office.read(lambda store: starting.fit_today(store, plan_id, measured))


@router.post("/batches", status_code=201)
def start_batch(entry: starting.BatchStart, hand: KitchenHand) -> starting.BatchId:
    """Start a batch from the latest signed version of a plan."""
    asked = {"start_batch": entry.model_dump(mode="json")}
    made = hand.write(starting.BatchId, asked, lambda store: starting.start_batch(store, hand.actor, hand.now, entry))
    return hand.made(made, f"/api/v1/batches/{made.batch_id}")


@router.get("/batches/{batch_id}", response_model=views.BatchView)
async def read_batch(batch_id: str, request: Request, actor: Everyone, office: OfficeHere) -> Response:
    """One batch, whole."""
    return await together(
        request, lambda: office.read(lambda store: views.read_batch(store, batch_id, office.clock.now()))
    )


@router.get("/batches/{batch_id}/sheet", response_model=views.BatchSheet)
async def lay_out_batch(batch_id: str, request: Request, actor: Everyone, office: OfficeHere) -> Response:
    """The batch on its plan's sheet: measured, expected, and how everything stands."""
    return await together(
        request, lambda: office.read(lambda store: views.sheet_view(store, batch_id, office.clock.now()))
    )


@router.get("/batches/{batch_id}/questions")
def ask_of_batch(batch_id: str, actor: Everyone, office: OfficeHere) -> tuple[Asked, ...]:
    """The readings of the chill under way as a question for the Bench."""
    return office.read(lambda store: views.questions_of(store, batch_id, office.clock.now()))


@router.post("/batches/{batch_id}/steps/{step}/start")
def begin_step(batch_id: str, step: str, mark: running.StepMark, hand: KitchenHand) -> starting.BatchId:
    """Begin a step; the running one ends."""
    asked = {"begin": [batch_id, step, mark.model_dump(mode="json")]}
    return hand.write(
        starting.BatchId, asked, lambda store: running.begin_step(store, hand.actor, hand.now, batch_id, step, mark)
    )


@router.post("/batches/{batch_id}/steps/{step}/finish")
def finish_step(batch_id: str, step: str, mark: running.StepMark, hand: KitchenHand) -> starting.BatchId:
    """End a step."""
    asked = {"finish": [batch_id, step, mark.model_dump(mode="json")]}
    return hand.write(
        starting.BatchId, asked, lambda store: running.finish_step(store, hand.actor, hand.now, batch_id, step, mark)
    )


@router.post("/batches/{batch_id}/readings")
def log_reading(batch_id: str, entry: readings.ReadingEntry, hand: KitchenHand) -> starting.BatchId:
    """Log a reading, or correct one."""
    return accepting.log(hand.office, hand.actor, hand.key, hand.now, batch_id, entry)


@router.get("/batches/{batch_id}/probes")
def offer_probes(batch_id: str, actor: Kitchen, office: OfficeHere) -> tuple[binding.ProbeOffer, ...]:
    """The channels that could measure what the steps that run ask, with what each shows now."""
    return office.read(lambda store: binding.offer_probes(store, batch_id, office.clock.now()))


@router.post("/batches/{batch_id}/probes")
def bind_probe(batch_id: str, entry: binding.BindEntry, hand: KitchenHand) -> starting.BatchId:
    """Bind a channel to a step: what it measures counts there until the step ends."""
    asked = {"bind": [batch_id, entry.model_dump(mode="json")]}
    return hand.write(
        starting.BatchId, asked, lambda store: binding.bind_probe(store, hand.actor, hand.now, batch_id, entry)
    )


@router.post("/batches/{batch_id}/probes/{bound}/release")
def let_probe_go(batch_id: str, bound: str, hand: KitchenHand) -> starting.BatchId:
    """Let a probe measure for its step no more."""
    asked = {"let_go": [batch_id, bound]}
    return hand.write(
        starting.BatchId, asked, lambda store: binding.let_go(store, hand.actor, hand.now, batch_id, bound)
    )


@router.post("/traces/preview")
def preview_trace(
    file: UploadFile, actor: Kitchen, office: OfficeHere, options: Annotated[str, Form()] = "{}"
) -> TraceReading:
    """How a logger file would be read. Nothing is kept."""
    read = _options(options)
    content = file.file.read(LARGEST_BYTES + 1)
    return TraceReading(trace=office.read(lambda store: tracing.preview(store, content, read)))


@router.post("/batches/{batch_id}/traces")
def attach_trace(
    batch_id: str,
    file: UploadFile,
    hand: KitchenHand,
    step: Annotated[str, Form(max_length=40)],
    instrument: Annotated[str, Form(max_length=64)],
    options: Annotated[str, Form(max_length=4000)] = "{}",
    reason: Annotated[str, Form(max_length=1000)] = "",
    confirmed: Annotated[bool, Form()] = False,
) -> starting.BatchId:
    """Lay a logger file to a step."""
    entry = tracing.TraceEntry(
        step=step, instrument=instrument, options=_options(options), reason=reason, confirmed=confirmed
    )
    content, name = file.file.read(LARGEST_BYTES + 1), file.filename or "logger file"
    digest = hashlib.sha256(content).hexdigest()
    asked = {"attach": batch_id, "name": name, "sha256": digest, **entry.model_dump(mode="json")}
    return hand.write(
        starting.BatchId,
        asked,
        lambda store: tracing.attach_trace(store, hand.actor, hand.now, batch_id, name, content, entry),
    )


@router.post("/batches/{batch_id}/traces/{trace}/withdrawal")
def withdraw_trace(batch_id: str, trace: str, entry: running.RecallEntry, hand: KitchenHand) -> starting.BatchId:
    """Take back a logger file that was attached in error; it stays on the record with why."""
    asked = {"withdraw_trace": [batch_id, trace], **entry.model_dump(mode="json")}
    return hand.write(
        starting.BatchId,
        asked,
        lambda store: tracing.withdraw_trace(store, hand.actor, hand.now, batch_id, trace, entry.reason),
    )


@router.post("/batches/{batch_id}/recall")
def recall(batch_id: str, entry: SignedRecall, hand: DeciderHand) -> starting.BatchId:
    """Call a released batch back; what was made of it is in trouble with it."""
    accounts.confirm(hand.office, hand.actor, entry.password)
    recalled = running.RecallEntry(reason=entry.reason)
    asked = {"recall": batch_id, **recalled.model_dump(mode="json")}
    return hand.write(
        starting.BatchId, asked, lambda store: running.recall(store, hand.actor, hand.now, batch_id, recalled)
    )


@router.post("/batches/{batch_id}/doubt")
def answer_doubt(batch_id: str, entry: SignedRecall, hand: DeciderHand) -> starting.BatchId:
    """Decide that a released batch stands, although an instrument that read it was found off since."""
    accounts.confirm(hand.office, hand.actor, entry.password)
    asked = {"answer_doubt": batch_id, "reason": entry.reason}
    return hand.write(
        starting.BatchId,
        asked,
        lambda store: doubting.answer_doubt(store, hand.actor, hand.now, batch_id, entry.reason),
    )


@router.post("/batches/{batch_id}/actions")
def record_action(batch_id: str, entry: running.ActionEntry, hand: KitchenHand) -> starting.BatchId:
    """Write down what was done."""
    asked = {"act": batch_id, **entry.model_dump(mode="json")}
    return hand.write(
        starting.BatchId, asked, lambda store: running.record_action(store, hand.actor, hand.now, batch_id, entry)
    )


@router.post("/batches/{batch_id}/checks/answer")
def answer_check(batch_id: str, entry: running.CheckAnswer, hand: KitchenHand) -> starting.BatchId:
    """Say why a check was missed."""
    asked = {"answer_check": batch_id, **entry.model_dump(mode="json")}
    return hand.write(
        starting.BatchId, asked, lambda store: running.answer_check(store, hand.actor, hand.now, batch_id, entry)
    )


@router.post("/batches/{batch_id}/deviations")
def open_deviation(batch_id: str, entry: running.Unproved, hand: DeciderHand) -> starting.BatchId:
    """Take up a limit that nothing proves and nothing will, so that somebody decides on it."""
    asked = {"open_deviation": batch_id, **entry.model_dump(mode="json")}
    return hand.write(
        starting.BatchId, asked, lambda store: running.open_deviation(store, hand.actor, hand.now, batch_id, entry)
    )


@router.post("/batches/{batch_id}/deviations/{deviation}/decision")
def decide(batch_id: str, deviation: str, entry: SignedDecision, hand: DeciderHand) -> starting.BatchId:
    """Decide on a deviation."""
    if entry.decision == "release":
        accounts.confirm(hand.office, hand.actor, entry.password)
    decision = running.DeviationEntry(decision=entry.decision, reason=entry.reason, found=entry.found)
    asked = {"decide": [batch_id, deviation], **decision.model_dump(mode="json")}
    return hand.write(
        starting.BatchId,
        asked,
        lambda store: running.decide(store, hand.actor, hand.now, batch_id, deviation, decision),
    )


@router.post("/batches/{batch_id}/countersignature")
def countersign(batch_id: str, entry: Countersignature, hand: DeciderHand) -> starting.BatchId:
    """Close the record with a decision and a signature."""
    accounts.confirm(hand.office, hand.actor, entry.password)
    decision = running.DecisionEntry(decision=entry.decision, reason=entry.reason)
    asked = {"countersign": batch_id, **decision.model_dump()}
    return hand.write(
        starting.BatchId, asked, lambda store: running.countersign(store, hand.actor, hand.now, batch_id, decision)
    )


@router.get("/batches/{batch_id}/amounts")
def read_amounts(
    batch_id: str,
    actor: Everyone,
    office: OfficeHere,
    step_g: ScaleStep = "1",
    total_kg: Mass = 0.0,
    of: Annotated[str, Query(max_length=80)] = "",
    kg: Mass = 0.0,
) -> Amounts:
    """What to weigh for it: the plan's own amounts, or for a total [kg], or for so much of one ingredient [kg]."""
    batch = office.read(lambda store: keeping.load(store, batch_id))
    return weigh_out(batch.plan, float(step_g), total_kg, of, kg)


@router.get("/batches/{batch_id}/record.json", response_class=Response)
def export_json(batch_id: str, actor: Everyone, office: OfficeHere) -> Response:
    """The record as JSON."""
    data = office.read(lambda store: ledgers.batch_json(store, batch_id, office.clock.now()))
    text = json.dumps(data, indent=1, ensure_ascii=False)
    record_export(office, actor, data["batch"]["code"], "JSON")
    return download(text.encode(), "application/json", f"{data['batch']['code']}.json")


@router.get("/batches/{batch_id}/record.csv", response_class=Response)
def export_csv(batch_id: str, actor: Everyone, office: OfficeHere) -> Response:
    """The record as CSV."""
    text, code = office.read(
        lambda store: (ledgers.batch_csv(store, batch_id), _code(views.read_batch(store, batch_id, office.clock.now())))
    )
    record_export(office, actor, code, "CSV")
    return download(text.encode("utf-8-sig"), "text/csv; charset=utf-8", f"{code}.csv")


@router.get("/batches/{batch_id}/record.xlsx", response_class=Response)
def export_workbook(batch_id: str, actor: Everyone, office: OfficeHere) -> Response:
    """The record as a workbook."""
    rows, code = office.read(
        lambda store: (
            ledgers.batch_rows(store, batch_id),
            _code(views.read_batch(store, batch_id, office.clock.now())),
        )
    )
    record_export(office, actor, code, "XLSX")
    return download(workbook(rows, code), XLSX, f"{code}.xlsx")


@router.get("/batches/{batch_id}/record.pdf", response_class=Response)
def export_pdf(batch_id: str, actor: Everyone, office: OfficeHere) -> Response:
    """The record as PDF."""
    now = office.clock.now()
    paper = office.read(lambda store: ledgers.for_print(store, batch_id, now))
    printed = record_pdf(paper, now)
    record_export(office, actor, paper.view.code, "PDF")
    return download(printed, "application/pdf", f"{paper.view.code}.pdf")


def _options(text: str) -> TraceOptions:
    try:
        return TraceOptions.model_validate_json(text)
    except ValidationError:
        raise OutOfRangeError(say("api.batches.the_corrections_to_the_files_reading")) from None


def _code(view: views.BatchView) -> str:
    return view.code
