"""The record of a batch as PDF: plan, limits, curve, readings, deviations, decision, signatures."""

import io
from datetime import datetime
from typing import Any, cast

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import BaseDocTemplate, Flowable, Frame, KeepTogether, PageTemplate, Spacer, Table, TableStyle

from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.working import clock
from brinefrost.reports.curve import curve_drawing
from brinefrost.reports.paper import BODY, HAIR, QUIET, WORDS, ended, shape, styles, when, words
from brinefrost.reports.plan_part import allergens_of, cited, missed_part, plan_part, steps_rows
from brinefrost.services.ledgers import Printed
from brinefrost.services.planning import Version
from brinefrost.services.views import BatchView
from brinefrost.store.shelves import SiteInfo

MARGIN = 17 * mm
LATE_S = 900.0  # written down more than this after it was taken counts as entered late; common practice, no source
CAUTION = (
    "A record-keeping and planning aid. Local law and the kitchen's authority come first. "
    "Computed and forecast values plan; only measurements pass."
)


def record_pdf(paper: Printed, now: datetime) -> bytes:
    """The whole record as a PDF file [bytes]."""
    view, signed, site, zone = paper.view, paper.signed, paper.site.name, paper.site.zone
    styles()
    out = io.BytesIO()
    document = BaseDocTemplate(
        out,
        pagesize=A4,
        title=f"{view.code} {view.plan_name}",
        author=site,
        leftMargin=MARGIN,
        rightMargin=MARGIN,
        topMargin=MARGIN,
        bottomMargin=MARGIN + 12,
    )
    frame = Frame(MARGIN, MARGIN + 12, A4[0] - 2 * MARGIN, A4[1] - 2 * MARGIN - 12, 0, 0, 0, 0)

    def footer(canvas: Canvas, template: Any) -> None:
        canvas.setFont(BODY, 7.5)
        canvas.setFillColor(QUIET)
        canvas.drawString(MARGIN, MARGIN, f"{site} · {view.code} · printed {when(now, zone)}")
        canvas.drawString(MARGIN, MARGIN - 10, CAUTION)
        canvas.drawRightString(A4[0] - MARGIN, MARGIN, f"page {template.page}")

    document.addPageTemplates([PageTemplate(id="page", frames=[frame], onPage=footer)])
    parts = [
        *_head(view, signed, paper.site),
        *_steps(view, zone),
        *_limits(view),
        *_curve(view, zone),
        *_readings(view, zone),
        *_traces(view, zone),
        *missed_part(view, zone),
        *_deviations(view, zone),
        *_signatures(view, signed, zone),
        *_kit(paper, zone),
        *plan_part(view.plan),
        *_workings(view),
        *_chain(paper),
    ]
    document.build(parts)
    return out.getvalue()


def _head(view: BatchView, signed: Version, place: SiteInfo) -> list[Flowable]:
    zone = place.zone
    rows = [
        ("Kitchen", f"{place.name}, {place.altitude_m:g} m above the sea, times in {place.zone}"),
        ("Batch", f"{view.packs} packs, {view.mass_kg:g} kg, begun {when(view.started_at, zone)} by {view.started_by}"),
        ("Plan", f"{view.plan_name}, version {view.plan_version}"),
        ("Plan hash", view.plan_hash),
        ("Rule set", view.plan.rule_set.upper()),
        ("Ingredients", ", ".join(item.name for item in view.plan.ingredients)),
        ("Allergens", allergens_of(view.plan)),
    ]
    if not signed.proof_meets:
        rows.append(("Signed although the proof fails", signed.reason))
    table = [[words(name, "quiet"), words(text)] for name, text in rows]
    return [words(f"{view.code}  {view.plan_name}", "title"), Spacer(1, 4), _table(table, [32 * mm, None])]


def _steps(view: BatchView, zone: str) -> list[Flowable]:
    rows: list[list[Any]] = [[words(text, "quiet") for text in ("Step", "As planned", "Ran")]]
    rows += [[words(name, "bold"), words(setting), words(ran)] for name, setting, ran in steps_rows(view, zone)]
    return [words("Process as it ran", "head"), _table(rows, [34 * mm, None, 62 * mm])]


def _kit(paper: Printed, zone: str) -> list[Flowable]:
    used = {reading.instrument for reading in paper.view.readings} | {t.instrument for t in paper.view.traces}
    rows = [
        [
            words(item.name, "bold"),
            words(f"last checked {when(item.calibrated_at, zone)}, due {when(item.due_at, zone)}"),
        ]
        for item in paper.instruments
        if item.name in used
    ]
    return [words("Instruments", "head"), _table(rows, [38 * mm, None])] if rows else []


def _chain(paper: Printed) -> list[Flowable]:
    said = f"Record {paper.head.seq} of the ledger, hash {paper.head.hash}"
    said += f", seal {paper.head.seal}." if paper.head.seal else ", not sealed."
    return [KeepTogether([words("Where the ledger stood when this was printed", "head"), words(said, "quiet")])]


def _limits(view: BatchView) -> list[Flowable]:
    rows: list[list[Any]] = [[words(text, "quiet") for text in ("", "Step", "Critical limit", "Judgement", "Source")]]
    for status in view.limits:
        state = status.verdict.state
        rows.append(
            [
                shape(state),
                words(status.step_name, "bold"),
                words(status.limit.title),
                words(f"{WORDS[state].capitalize()}. {status.verdict.sentence}"),
                words(cited(status.limit.source.citation), "quiet"),
            ]
        )
    return [words("Critical limits", "head"), _table(rows, [6 * mm, 20 * mm, 40 * mm, 60 * mm, None])]


def _curve(view: BatchView, zone: str) -> list[Flowable]:
    drawing = curve_drawing(view, zone)
    if drawing is None:
        return []
    key = (
        "Heavy line: core. Thin line: bath or slurry. Discs: read by hand. Dotted: limits. Upright strokes: deadlines."
    )
    return [KeepTogether([words("Curve as measured", "head"), drawing, words(key, "quiet")])]


def _readings(view: BatchView, zone: str) -> list[Flowable]:
    head = ("Taken", "Step", "What", "Reading", "Instrument", "By", "Written down")
    rows: list[list[Any]] = [[words(text, "quiet") for text in head]]
    for r in view.readings:
        value = f"{r.value:g} {r.unit}" + (f" (typed {r.typed})" if "°F" in r.typed else "")
        marks = [
            f"corrects {r.corrects[:6]}" if r.corrects else "",
            f"no. {r.reading[:6]} replaced" if r.corrected_by else "",
            "confirmed" if r.confirmed else "",
            r.note,
        ]
        late = f", {clock(r.entered_late_s)} late" if r.entered_late_s > LATE_S else ""
        rows.append(
            [
                words(when(r.taken_at, zone)),
                words(r.step_name),
                words(QUANTITIES[cast(ReadingQuantity, r.quantity)].noun),
                words("; ".join([value, *filter(None, marks)])),
                words(f"{r.instrument} ±{r.uncertainty:g} {r.unit}"),
                words(r.by),
                words(when(r.recorded_at, zone)[7:] + late),
            ]
        )
    if len(rows) == 1:
        return [words("Readings", "head"), words("None by hand.")]
    widths = [27 * mm, 17 * mm, 12 * mm, 32 * mm, 31 * mm, 27 * mm, None]
    return [words("Readings by hand", "head"), _table(rows, widths, repeat=1)]


def _traces(view: BatchView, zone: str) -> list[Flowable]:
    found: list[Flowable] = []
    for trace in view.traces:
        shift = f", CLOCK MOVED by {clock(abs(trace.shift_s))}: {trace.shift_reason}" if trace.shift_s else ""
        found += [
            words(
                f"{trace.step_name}: {trace.filename}, {trace.instrument} ±{trace.uncertainty:g} °C, "
                f"{when(trace.first_at, zone)} to {when(trace.last_at, zone)}{shift}, attached by {trace.by}",
                "bold",
            ),
            words(f"Channels: {'; '.join(trace.channels)}. {' '.join((*trace.assumptions, *trace.notes))}", "quiet"),
            words(f"SHA-256 of the file {trace.sha256}", "quiet"),
            *([words(f"Asked about and attached all the same: {trace.asked}", "bold")] if trace.asked else []),
            Spacer(1, 3),
        ]
    return [words("Logger files", "head"), *found] if found else []


def _deviations(view: BatchView, zone: str) -> list[Flowable]:
    if not view.deviations:
        return [words("Deviations", "head"), words("None.")]
    found: list[Flowable] = [words("Deviations", "head")]
    for deviation in view.deviations:
        found.append(
            words(
                f"{deviation.deviation}, {when(deviation.opened_at, zone)} ({deviation.cause}): {deviation.sentence}",
                "bold",
            )
        )
        found += [
            words(f"Action, {when(action.at, zone)}, {action.by}: {action.action}") for action in deviation.actions
        ]
        found.append(words(f"As it stands: {deviation.standing}"))
        decided = "Decision: none yet."
        if deviation.decision and deviation.decided_at:
            signed = f"{deviation.decided_by}, {when(deviation.decided_at, zone)}"
            decided = f"Decision: {deviation.decision}, {signed}. {deviation.reason}"
        found += [words(decided), Spacer(1, 5)]
    return found


def _signatures(view: BatchView, signed: Version, zone: str) -> list[Flowable]:
    rows = [
        [
            words("Plan signed", "quiet"),
            words(f"{signed.signed_by}, {when(signed.signed_at, zone, seconds=True)}, record {signed.seq}"),
        ]
    ]
    if view.closed:
        rows.append(
            [
                words("Record countersigned", "quiet"),
                words(f"{view.closed.by}, {when(view.closed.at, zone, seconds=True)}"),
            ]
        )
        rows.append(
            [
                words("Decision", "quiet"),
                words(f"{view.closed.decision.capitalize()}. {view.closed.reason}"),
            ]
        )
    else:
        rows.append([words("Record countersigned", "quiet"), words("Not yet: this is a record in progress.")])
    return [KeepTogether([words("Signatures", "head"), _table(rows, [38 * mm, None])])]


def _workings(view: BatchView) -> list[Flowable]:
    found: list[Flowable] = []
    for status in view.limits:
        working = status.verdict.working
        inputs = "; ".join(f"{i.name} {_value(i.value)} {i.unit}".rstrip() for i in working.inputs)
        lines = [
            *([] if found else [words("Working", "head")]),
            words(f"{status.step_name}: {working.title}", "bold"),
            words(working.formula),
            words(" ".join(ended(said) for said in (inputs, working.result) if said.strip(" ."))),
            words(f"Assumes: {'; '.join(working.assumptions)}.", "quiet"),
            Spacer(1, 4),
        ]
        found.append(KeepTogether(lines))
    return found


def _value(value: float | str) -> str:
    return value if isinstance(value, str) else f"{round(value, 3):g}" if abs(value) >= 1e-3 else f"{value:.2g}"


def _table(rows: list[list[Any]], widths: list[float | None], repeat: int = 0) -> Table:
    known = sum(width for width in widths if width)
    rest = A4[0] - 2 * MARGIN - known
    table = Table(rows, colWidths=[width or rest for width in widths], repeatRows=repeat, hAlign="LEFT")
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, HAIR),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
                ("RIGHTPADDING", (0, 0), (-1, -1), 5),
                ("TOPPADDING", (0, 0), (-1, -1), 2.5),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
            ]
        )
    )
    return table
