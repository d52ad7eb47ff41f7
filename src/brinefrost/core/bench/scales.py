"""Numbers beside each other on one scale: what is allowed by whom, and where the food stands."""

from datetime import date

from brinefrost.core.bench.answer import ScaleMark, ScalePicture, ScaleRow
from brinefrost.core.fields import Kind


def scales(
    title: str,
    x_kind: Kind,
    rows: list[ScaleRow],
    x_show: str = "",
    marks: tuple[ScaleMark, ...] = (),
    bounds: tuple[float | None, float | None] = (None, None),
    first_day: date | None = None,
    pointer: str = "",
    still: str = "",
) -> ScalePicture:
    """Scales with room on either side of what stands on them.

    Its span holds every pointer and mark, and each stretch's nearer end. Raises ValueError if nothing stands on the
    scales. Valid for finite values. ``rows`` [the quantity's unit], ``marks`` [the quantity's unit].
    """
    found = [mark.x for mark in marks]
    for row in rows:
        found += [] if row.at is None else [row.at - row.doubt, row.at + row.doubt]
        found += [end for each in row.stretches for end in (each.low, each.high)]
    low = min(found) if bounds[0] is None else bounds[0]
    high = max(found) if bounds[1] is None else bounds[1]
    room = 0.06 * (high - low) or 1.0
    low, high = (low - room if bounds[0] is None else low), (high + room if bounds[1] is None else high)
    return ScalePicture(
        title=title,
        x_kind=x_kind,
        x_show=x_show,
        x_low=low,
        x_high=high,
        rows=tuple(_cut(row, low, high) for row in rows),
        marks=marks,
        first_day=first_day,
        pointer=pointer,
        still=still,
    )


def _cut(row: ScaleRow, low: float, high: float) -> ScaleRow:
    kept = tuple(
        each.model_copy(update={"low": max(each.low, low), "high": min(each.high, high)})
        for each in row.stretches
        if each.high > low and each.low < high
    )
    return row.model_copy(update={"stretches": kept})
