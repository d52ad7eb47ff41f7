"""The temperature curve on paper: measured solid, bath thin, limits dotted with their number."""

import math
from datetime import datetime

from reportlab.graphics.shapes import Circle, Drawing, Line, PolyLine

from brinefrost.core.words import temp
from brinefrost.reports.paper import HAIR, INK, QUIET, strings, time_of
from brinefrost.services.curves import Curve
from brinefrost.services.views import BatchView

WIDTH, HEIGHT, LEFT, BOTTOM = 500.0, 190.0, 30.0, 22.0
MOST_LINES = 8
LONGEST_S = 12 * 3600.0  # cook and chill; days of keeping would flatten them


def curve_drawing(view: BatchView, zone: str) -> Drawing | None:
    """The core and bath of a batch over its first hours, with its limits; None when nothing was measured."""
    measured = [
        c for c in view.curves if c.basis in ("logger", "hand") and c.quantity in ("core", "bath") and c.times_s
    ]
    if not measured:
        return None
    start = min(curve.times_s[0] for curve in measured)
    end = min(max(curve.times_s[-1] for curve in measured), start + LONGEST_S)
    span = max(end - start, 600.0)
    drawing = Drawing(WIDTH, HEIGHT)
    marks = [mark for mark in view.marks if mark.quantity in ("core", "bath")]
    frame = _Frame(start, span, [*(value for each in measured for value in each.values), *(m.value for m in marks)])
    _axes(drawing, frame, zone)
    for mark in marks:
        y = frame.y(mark.value)
        drawing.add(Line(LEFT, y, WIDTH, y, strokeColor=INK, strokeWidth=0.5, strokeDashArray=[1, 2]))
        for part in strings(WIDTH - 2, y + 2, mark.label, 7, INK, "end"):
            drawing.add(part)
        if mark.by_s is not None and start <= mark.by_s <= start + span:
            drawing.add(Line(frame.x(mark.by_s), y - 5, frame.x(mark.by_s), y + 5, strokeColor=INK, strokeWidth=1.2))
    for curve in measured:
        _plot(drawing, frame, curve)
    return drawing


class _Frame:
    """From seconds and °C to points on paper: 0 to 80 °C, and as far beyond as anything was read."""

    def __init__(self, start_s: float, span_s: float, values_c: list[float]) -> None:
        self.start_s, self.span_s = start_s, span_s
        self.low_c, self.high_c = min(0.0, *values_c) - 2, max(80.0, *values_c)
        self.step_c = 20 if self.high_c - self.low_c <= MOST_LINES * 20 else 50

    def x(self, time_s: float) -> float:
        return LEFT + (time_s - self.start_s) / self.span_s * (WIDTH - LEFT)

    def y(self, value_c: float) -> float:
        return BOTTOM + (value_c - self.low_c) / (self.high_c - self.low_c) * (HEIGHT - BOTTOM - 4)


def _axes(drawing: Drawing, frame: _Frame, zone: str) -> None:
    for value in range(math.ceil(frame.low_c / frame.step_c) * frame.step_c, int(frame.high_c) + 1, frame.step_c):
        y = frame.y(value)
        drawing.add(Line(LEFT, y, WIDTH, y, strokeColor=HAIR, strokeWidth=0.4))
        for part in strings(LEFT - 4, y - 2.5, temp(value, "g"), 7.5, QUIET, "end"):
            drawing.add(part)
    step = next(s for s in (900, 1800, 3600, 7200, 14400) if frame.span_s / s <= 9 or s == 14400)
    tick = math.ceil(frame.start_s / step) * step
    while tick <= frame.start_s + frame.span_s:
        label = time_of(datetime.fromtimestamp(tick).astimezone(), zone)
        drawing.add(Line(frame.x(tick), BOTTOM - 3, frame.x(tick), BOTTOM, strokeColor=QUIET, strokeWidth=0.6))
        for part in strings(frame.x(tick), 8, label, 7.5, QUIET, "middle"):
            drawing.add(part)
        tick += step


def _plot(drawing: Drawing, frame: _Frame, curve: Curve) -> None:
    limit = frame.start_s + frame.span_s
    points = [(frame.x(t), frame.y(v)) for t, v in zip(curve.times_s, curve.values, strict=True) if t <= limit]
    heavy = curve.quantity == "core"
    if curve.basis == "hand":
        for x, y in points:
            drawing.add(
                Circle(x, y, 2.2 if heavy else 1.6, fillColor=INK if heavy else None, strokeColor=INK, strokeWidth=0.8)
            )
    if len(points) > 1:
        flat = [coordinate for point in points for coordinate in point]
        drawing.add(PolyLine(flat, strokeColor=INK if heavy else QUIET, strokeWidth=1.4 if heavy else 0.6))
