"""The record's first page: the batch's sheet, a column for each step, on one landscape page."""

from itertools import pairwise

from reportlab.graphics.shapes import Drawing, Line, PolyLine, Rect
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepInFrame, Paragraph, Table, TableStyle

from brinefrost.core.plans.sheet_parts import Sheet, SheetColumn, SheetRow
from brinefrost.core.words import duration, joined, say, temp
from brinefrost.reports.paper import BOLD, HAIR, INK, QUIET, WORDS, marked, strings, styles
from brinefrost.services.views import BatchView

EDGE, HEAD = 12 * mm, 33 * mm
WIDTH, HEIGHT = landscape(A4)[0] - 2 * EDGE, landscape(A4)[1] - 2 * EDGE - 14
JOURNEY = 42 * mm
LOW_C, HIGH_C = -25.0, 105.0
MOST = 14  # columns of one page; more go on to the next
ZONE = HexColor("#F3EADB")
STANDING = {"meets": "pass", "fails": "fail", "not_proved": "not_measured", "none": ""}


def sheet_pages(view: BatchView, sheet: Sheet) -> list[Flowable]:
    """The sheet as flowables, one for each page of so many columns; none for a plan that has no steps.

    Valid for every sheet.
    """
    pages: list[Flowable] = []
    for begin in range(0, len(sheet.columns), MOST):
        columns = sheet.columns[begin : begin + MOST]
        table = _table(view, sheet, columns, 7.4 if len(columns) <= 8 else 6.2 if len(columns) <= 11 else 5.4)
        pages.append(KeepInFrame(WIDTH, HEIGHT, [table], mode="shrink"))
    return pages


def _table(view: BatchView, sheet: Sheet, columns: tuple[SheetColumn, ...], size: float) -> Table:
    width = (WIDTH - HEAD) / len(columns)
    kept = [row for row in sheet.rows if row.taken and row.type == "biological"]
    head = say("paper.record_pdf.code_plan_name_2", code_=view.code, plan_name=view.plan_name)
    rows: list[list[object]] = [
        [_cell(head, size + 4, True), *[""] * len(columns)],
        [_cell(say("paper.sheet.steps"), size, True), *(_card(column, size) for column in columns)],
        [_cell(say("paper.sheet.journey"), size, True), _journey(sheet, columns, width), *[""] * (len(columns) - 1)],
        [_cell(say("paper.sheet.lasts"), size), *(_cell(duration(column.length_s), size) for column in columns)],
        *([_hazard(row, size), *(_happens(row, column, size) for column in columns)] for row in kept),
        [_cell(say("paper.sheet.limits"), size, True), *(_limits(column, size) for column in columns)],
        [_cell(say("paper.sheet.checks"), size, True), *(_checks(column, size) for column in columns)],
    ]
    table = Table(rows, colWidths=[HEAD, *[width] * len(columns)])
    critical = [
        ("BOX", (1 + c, 4 + r), (1 + c, 4 + r), 1.1, INK)
        for r, row in enumerate(kept)
        for c, column in enumerate(columns)
        if any(cell.step == column.step and cell.critical for cell in row.cells)
    ]
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("SPAN", (0, 0), (-1, 0)),
                ("SPAN", (1, 2), (-1, 2)),
                ("GRID", (1, 4), (-1, 3 + len(kept)), 0.4, HAIR),
                ("LINEBELOW", (0, 1), (-1, 1), 0.4, HAIR),
                ("LEFTPADDING", (0, 0), (-1, -1), 3),
                ("RIGHTPADDING", (0, 0), (-1, -1), 3),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
                ("LEFTPADDING", (1, 2), (-1, 2), 0),
                ("RIGHTPADDING", (1, 2), (-1, 2), 0),
                *critical,
            ]
        )
    )
    return table


def _cell(text: str, size: float, bold: bool = False) -> Paragraph:
    base = styles()["base"]
    style = ParagraphStyle(f"cell{size}{bold}", base, fontSize=size, leading=size * 1.25)
    if bold:
        style.fontName = BOLD
    return Paragraph(marked(text), style)


def _card(column: SheetColumn, size: float) -> list[Paragraph]:
    state = STANDING[column.standing]
    into = [say("paper.sheet.goes_in", what=joined((*column.takes, *column.goes_in), ", "))]
    return [
        *([_cell(column.line, size)] if column.line else []),
        _cell(column.name, size + 1, True),
        *(_cell(each, size) for each in into if column.takes or column.goes_in),
        *([_cell(WORDS[state], size)] if state else []),
    ]


def _hazard(row: SheetRow, size: float) -> list[Paragraph]:
    return [_cell(row.name, size, True), *([_cell(row.balance, size - 0.6)] if row.balance else [])]


def _happens(row: SheetRow, column: SheetColumn, size: float) -> Paragraph:
    cell = next((each for each in row.cells if each.step == column.step), None)
    if cell is None or not cell.said:
        return _cell("", size)
    text = joined((cell.said, cell.amount), " ") if cell.amount else cell.said
    return _cell(text, size, cell.critical)


def _limits(column: SheetColumn, size: float) -> list[Paragraph]:
    return [
        _cell(joined((limit.title, limit.room or limit.sentence), ": "), size - 0.8) for limit in column.limits
    ] or [_cell("", size)]


def _checks(column: SheetColumn, size: float) -> list[Paragraph]:
    taken = [check for check in column.checks if check.value]
    last = {check.quantity: check for check in taken}
    said = [_cell(joined((check.what, check.value), ": "), size - 0.8) for check in last.values()]
    return said or [_cell("", size)]


def _journey(sheet: Sheet, columns: tuple[SheetColumn, ...], width: float) -> Drawing:
    """The core through every column over the growth zone: measured solid, expected dashed, declared dotted."""
    drawing = Drawing(width * len(columns), JOURNEY)

    def y(celsius: float) -> float:
        return (min(max(celsius, LOW_C), HIGH_C) - LOW_C) / (HIGH_C - LOW_C) * JOURNEY

    band = y(sheet.hot_c) - y(sheet.cold_c)
    drawing.add(
        Rect(0, y(sheet.cold_c), width * len(columns), band, fillColor=ZONE, strokeColor=None)  # type: ignore[arg-type]  # stubs ask for a TypedDict
    )
    for celsius in (0.0, 50.0, 100.0):
        for part in strings(2, y(celsius) + 1.5, temp(celsius, "g"), 5.5, QUIET):
            drawing.add(part)
        drawing.add(Line(0, y(celsius), width * len(columns), y(celsius), strokeColor=HAIR, strokeWidth=0.3))
    for index, column in enumerate(columns):
        left = index * width
        drawing.add(Line(left, 0, left, JOURNEY, strokeColor=HAIR, strokeWidth=0.4))
        for curve in column.curves:
            if curve.quantity != "core" or len(curve.times_s) < 2:
                continue
            length = max(column.length_s, curve.times_s[-1], 1.0)
            points = [(left + t / length * width, y(v)) for t, v in zip(curve.times_s, curve.values, strict=True)]
            dashes = {"measured": None, "expected": [3, 2], "computed": [3, 2], "declared": [1, 2]}[curve.basis]
            flat = [value for point in points for value in point]
            line = PolyLine(flat, strokeColor=INK, strokeWidth=1.3 if dashes is None else 0.8)
            if dashes is not None:
                line.strokeDashArray = dashes
            drawing.add(line)
            if any(limit.standing == "fails" for limit in column.limits):
                for (x0, _), (x1, _) in pairwise(((left, 0), (left + width, 0))):
                    drawing.add(Line(x0, 0.6, x1, 0.6, strokeColor=INK, strokeWidth=1.2))
    return drawing
