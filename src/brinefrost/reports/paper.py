"""Type, ink and the five state shapes on paper. Everything reads in black and white."""

import re
from datetime import datetime
from functools import lru_cache
from html import escape
from importlib import resources
from itertools import pairwise
from zoneinfo import ZoneInfo

from reportlab.graphics.shapes import Circle, Drawing, Line, Polygon, Rect
from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph

INK, QUIET, HAIR, SEA, HOT = (HexColor(code) for code in ("#10252B", "#4A5E64", "#B9C6C8", "#0C5A58", "#B23A2E"))
BODY, BOLD, TITLE = "BarlowSemiCondensed-Regular", "BarlowSemiCondensed-SemiBold", "Barlow-SemiBold"

WORDS = {
    "pass": "met",
    "too_close": "too close to call",
    "fail": "not met",
    "pending": "running",
    "not_measured": "not measured",
}
_SYMBOLS = re.compile(r"([≤≥∫∂→θαβ∞√]+)")


@lru_cache(maxsize=1)
def styles() -> dict[str, ParagraphStyle]:
    """Paragraph styles, with the fonts registered."""
    folder = resources.files("brinefrost.reports") / "fonts"
    for name in (BODY, BOLD, TITLE):
        pdfmetrics.registerFont(TTFont(name, str(folder / f"{name}.ttf")))
    base = ParagraphStyle("base", fontName=BODY, fontSize=9.5, leading=12.5, textColor=INK)
    return {
        "base": base,
        "quiet": ParagraphStyle("quiet", base, fontSize=8.5, leading=11, textColor=QUIET),
        "bold": ParagraphStyle("bold", base, fontName=BOLD),
        "head": ParagraphStyle(
            "head", base, fontName=TITLE, fontSize=13, leading=17, spaceBefore=12, spaceAfter=4, keepWithNext=1
        ),
        "title": ParagraphStyle("title", base, fontName=TITLE, fontSize=20, leading=25),
    }


def words(text: str, style: str = "base") -> Paragraph:
    """A paragraph of plain text; signs the typeface lacks come from the symbol font."""
    marked = _SYMBOLS.sub(r'<font face="Symbol">\1</font>', escape(text))
    return Paragraph(marked, styles()[style])


def ended(text: str) -> str:
    """A sentence with one point at its end, whether it came with one or not."""
    return f"{text.strip().rstrip('.').rstrip()}."


def when(moment: datetime, zone: str, seconds: bool = False) -> str:
    """A moment in the kitchen's zone, with the zone."""
    local = moment.astimezone(ZoneInfo(zone))
    return local.strftime("%d %b %Y %H:%M:%S %Z" if seconds else "%d %b %H:%M %Z")


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
