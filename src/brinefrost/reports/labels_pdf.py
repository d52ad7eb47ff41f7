"""Labels for tubs, bags and jars as PDF: on sheets, or one a page for a roll."""

import io
from dataclasses import dataclass
from datetime import datetime
from zoneinfo import ZoneInfo

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Paragraph

from brinefrost.core.errors import RefusedError
from brinefrost.core.runs.labels import Label
from brinefrost.core.words import Words, joined, moment, num, say
from brinefrost.reports.label_sheets import LabelSheet
from brinefrost.reports.paper import BOLD, marked, styles
from brinefrost.reports.qr import qr_modules

EDGE_MM = (1.5, 2.5)  # what a printer's feed may be out: the less the smaller the label
EDGE_SHARE = 0.065  # of the label's height
SIZES = (
    13.0,
    12.0,
    11.0,
    10.0,
    9.5,
    9.0,
    8.5,
    8.0,
    7.5,
    7.0,
    6.5,
)  # pt, the largest that fits; smaller is not read at arm's length
CODE_MM = (12.0, 22.0)  # a side of the square code: what a camera reads at a hand's length, and no larger than needed
CODE_SHARE = 0.3  # of the label's width


@dataclass(frozen=True)
class LabelJob:
    """What is the same on every label of a batch: its text, who prints, where, in which zone; what its code opens."""

    label: Label
    person: str
    kitchen: str
    zone: str
    opens: str


def labels_pdf(job: LabelJob, sheet: LabelSheet, count: int, first: int = 1) -> bytes:
    """So many labels as a PDF file [bytes]; on a sheet from its ``first`` free place.

    Raises RefusedError where the text does not fit. Valid for 1 to 500 labels, and places that the sheet has.
    """
    out = io.BytesIO()
    width, height = (side * mm for side in sheet.page_mm)
    canvas = Canvas(out, pagesize=(width, height), pageCompression=1)
    canvas.setTitle(f"{job.label.code}")
    drawn = _Drawn(job, sheet)
    for place in range(first - 1, first - 1 + count):
        if place > first - 1 and place % sheet.places == 0:
            canvas.showPage()
        x, y = (side * mm for side in sheet.corner_mm(place))
        drawn.draw_at(canvas, x, height - y)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


class _Drawn:
    """A label laid out once, and drawn at every place."""

    def __init__(self, job: LabelJob, sheet: LabelSheet) -> None:
        self._edge = min(max(EDGE_MM[0], EDGE_SHARE * sheet.height_mm), EDGE_MM[1]) * mm
        width, height = sheet.width_mm * mm - 2 * self._edge, sheet.height_mm * mm - 2 * self._edge
        self._code = qr_modules(job.opens)
        self._side = min(max(CODE_MM[0] * mm, CODE_SHARE * width), CODE_MM[1] * mm, height)
        room = width - self._side
        for size in SIZES:
            self._lines = [_paragraph(text, size, bold) for text, bold in _texts(job)]
            heights = [line.wrap(room, height)[1] for line in self._lines]
            if sum(heights) <= height:
                break
        else:
            wide, high = num(sheet.width_mm, "g"), num(sheet.height_mm, "g")
            raise RefusedError(say("paper.labels.too_small", width=wide, height=high))
        self._heights, self._width = heights, width

    def draw_at(self, canvas: Canvas, left: float, top: float) -> None:
        """Draw it with its upper left corner at a point [pt], from the page's lower left."""
        y = top - self._edge
        for line, height in zip(self._lines, self._heights, strict=True):
            y -= height
            line.drawOn(canvas, left + self._edge, y)
        size, dark = self._code
        module = self._side / size
        corner = left + self._edge + self._width - self._side
        path = canvas.beginPath()
        for x, down in dark:
            path.rect(corner + x * module, top - self._edge - (down + 1) * module, module, module)
        canvas.drawPath(path, stroke=0, fill=1)


def _paragraph(text: Words, size: float, bold: bool) -> Paragraph:
    base = styles()["base"]
    style = ParagraphStyle(
        f"label-{size}-{bold}", base, fontName=BOLD if bold else base.fontName, fontSize=size, leading=size * 1.2
    )
    return Paragraph(marked(text), style)


def _texts(job: LabelJob) -> list[tuple[Words, bool]]:
    """The lines from the top, and whether they are bold: what it is, until when, whether it is released, the rest."""
    label = job.label
    made = say("paper.labels.made", when=_when(label.made_at, job.zone))
    contains = joined(label.allergens, ", ")
    found: list[tuple[Words, bool]] = [(label.name, True)]
    if label.use_by is not None:
        found.append((say("paper.labels.use_by", when=_when(label.use_by, job.zone)), True))
    elif label.undated:
        found.append((say("paper.labels.use_by_undated", why=label.undated), True))
    if not label.released:
        found.append((say("paper.labels.on_hold"), True))
    by = say("paper.labels.by", person=job.person, kitchen=job.kitchen)
    found.append((joined((say("paper.labels.lot", batch=label.code), made, by), " · "), False))
    found += [(each, False) for each in label.keep]
    none = say("paper.labels.declares_none")
    found.append((say("paper.labels.contains", allergens=contains) if label.allergens else none, bool(label.allergens)))
    found += [(each, False) for each in label.told]
    return found


def _when(at: datetime, zone: str) -> Words:
    return moment(at.astimezone(ZoneInfo(zone)), "%d %b %Y %H:%M")
