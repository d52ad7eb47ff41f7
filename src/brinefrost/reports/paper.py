"""Type, ink and the five state shapes on paper. Everything reads in black and white."""

import re
from datetime import datetime
from functools import lru_cache
from html import escape
from importlib import resources
from itertools import pairwise
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from reportlab.graphics.shapes import Circle, Drawing, Line, Polygon, Rect, String
from reportlab.lib.colors import Color, HexColor
from reportlab.lib.enums import TA_RIGHT
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph, Table, TableStyle

from brinefrost.core.words import Message, current, moment, said, say

INK, QUIET, HAIR, SEA, HOT = (HexColor(code) for code in ("#10252B", "#4A5E64", "#B9C6C8", "#0C5A58", "#B23A2E"))
MARGIN = 17 * mm
BODY, BOLD, TITLE = "BarlowSemiCondensed-Regular", "BarlowSemiCondensed-SemiBold", "Barlow-SemiBold"

CHINESE = Path("/usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf")  # Debian: fonts-droid-fallback

WORDS = {
    "pass": say("paper.paper.met"),
    "too_close": say("paper.paper.too_close_to_call"),
    "fail": say("paper.paper.not_met"),
    "pending": say("paper.paper.running"),
    "not_measured": say("paper.paper.not_measured"),
}
_SYMBOLS = re.compile(r"([≤≥∫∂→θαβ∞√]+)")
_HAN = re.compile(r"([\u2e80-\u9fff\uf900-\ufaff\uff00-\uffef]+)")  # what only the Chinese typeface has


@lru_cache(maxsize=1)
def _register() -> None:
    folder = resources.files("brinefrost.reports") / "fonts"
    for name in (BODY, BOLD, TITLE):
        pdfmetrics.registerFont(TTFont(name, str(folder / f"{name}.ttf")))
    if CHINESE.exists():
        pdfmetrics.registerFont(TTFont("Chinese", str(CHINESE)))


def styles() -> dict[str, ParagraphStyle]:
    """Paragraph styles, with the fonts registered, for the language of whoever asks."""
    _register()
    return _styles("CJK" if current().language == "zh" else None)


@lru_cache(maxsize=2)
def _styles(wrap: str | None) -> dict[str, ParagraphStyle]:
    base = ParagraphStyle("base", fontName=BODY, fontSize=9.5, leading=12.5, textColor=INK, wordWrap=wrap)
    return {
        "base": base,
        "quiet": ParagraphStyle("quiet", base, fontSize=8.5, leading=11, textColor=QUIET),
        "foot": ParagraphStyle("foot", base, fontSize=7.5, leading=9, textColor=QUIET),
        "page": ParagraphStyle("page", base, fontSize=7.5, leading=9, textColor=QUIET, alignment=TA_RIGHT),
        "bold": ParagraphStyle("bold", base, fontName=BOLD),
        "head": ParagraphStyle(
            "head", base, fontName=TITLE, fontSize=13, leading=17, spaceBefore=12, spaceAfter=4, keepWithNext=1
        ),
        "title": ParagraphStyle("title", base, fontName=TITLE, fontSize=20, leading=25),
    }


def words(text: str, style: str = "base") -> Paragraph:
    """A paragraph of plain text; signs the typeface lacks come from the symbol font."""
    return Paragraph(marked(text), styles()[style])


def marked(text: str) -> str:
    """A text as a paragraph takes it, in the typefaces its signs need. Valid for every text."""
    found = _SYMBOLS.sub(r'<font face="Symbol">\1</font>', escape(said(text)))
    return _HAN.sub(r'<font face="Chinese">\1</font>', found) if CHINESE.exists() else found


def strings(x: float, y: float, text: str, size: float, ink: Color, anchor: str = "start") -> list[String]:
    """A line of text in a drawing at a point [pt], in the typefaces its signs need."""
    _register()
    runs = [(part, "Chinese" if _HAN.fullmatch(part) and CHINESE.exists() else BODY) for part in _HAN.split(said(text))]
    runs = [(part, name) for part, name in runs if part]
    widths = [pdfmetrics.stringWidth(part, name, size) for part, name in runs]
    x -= {"start": 0.0, "middle": 0.5, "end": 1.0}[anchor] * sum(widths)
    found = []
    for (part, name), width in zip(runs, widths, strict=True):
        found.append(String(x, y, part, fontName=name, fontSize=size, fillColor=ink))
        x += width
    return found


def ended(text: str) -> Message:
    """A sentence with one point at its end, whether it came with one or not."""
    return Message("end", {"text": text})


def when(at: datetime, zone: str, seconds: bool = False) -> Message:
    """A moment in the kitchen's zone, with the zone and the year: paper outlives the year it was printed in."""
    local = at.astimezone(ZoneInfo(zone))
    return moment(local, f"%d %b %Y %H:%M{':%S' if seconds else ''} {local.tzname()}")


def time_of(at: datetime, zone: str) -> str:
    """The time of day in the kitchen's zone."""
    return at.astimezone(ZoneInfo(zone)).strftime("%H:%M")


def shape(state: str, size: float = 9.0) -> Drawing:
    """The state's shape: disc with tick, half diamond, square with cross, open ring."""
    drawing, middle = Drawing(size, size), size / 2
    if state == "pass":
        drawing.add(Circle(middle, middle, middle * 0.9, fillColor=INK, strokeColor=INK))
        _stroke(drawing, [(0.28, 0.5), (0.45, 0.33), (0.74, 0.66)], size)
    elif state == "fail":
        drawing.add(Rect(0.4, 0.4, size - 0.8, size - 0.8, fillColor=INK, strokeColor=INK))  # type: ignore[arg-type]  # stubs ask for a TypedDict
        _stroke(drawing, [(0.28, 0.28), (0.72, 0.72)], size)
        _stroke(drawing, [(0.28, 0.72), (0.72, 0.28)], size)
    elif state == "too_close":
        corners = [middle, 0, size, middle, middle, size, 0, middle]
        drawing.add(Polygon(corners, fillColor=None, strokeColor=INK, strokeWidth=1))
        drawing.add(Polygon([middle, 0, size, middle, middle, size], fillColor=INK, strokeColor=INK))
    else:
        drawing.add(Circle(middle, middle, middle * 0.82, fillColor=None, strokeColor=INK, strokeWidth=1.3))
    return drawing


def _stroke(drawing: Drawing, points: list[tuple[float, float]], size: float) -> None:
    for (x0, y0), (x1, y1) in pairwise(points):
        drawing.add(Line(x0 * size, y0 * size, x1 * size, y1 * size, strokeColor=HexColor("#FFFFFF"), strokeWidth=1.2))


def table(rows: list[list[Any]], widths: list[float | None], repeat: int = 0, across: bool = False) -> Table:
    """Rows with a hair between; a column without a width takes what is left of the page, or of one on its side."""
    known = sum(width for width in widths if width)
    rest = A4[1 if across else 0] - 2 * MARGIN - known
    made = Table(rows, colWidths=[width or rest for width in widths], repeatRows=repeat, hAlign="LEFT")
    made.setStyle(
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
    return made
