"""Rows of a question filled from a logger file: the channel that fits, counted from its first reading."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.bench.families import FAMILIES
from brinefrost.core.bench.fields import FieldSpec, specs_of
from brinefrost.core.errors import NotFoundError, UnreadableFileError
from brinefrost.core.physics.body import Array
from brinefrost.core.traces import Channel, Trace
from brinefrost.core.working import Document

MOST_ROWS = 120  # a question lives in an address: more would make it too long to send on
DAY_S = 86400.0
# which channels a column takes, the likeliest first
TEMPERATURES = {"core_c": ("core", "unknown", "bath", "air"), "temperature_c": ("air", "bath", "core", "unknown")}


class FileRows(Document):
    """Rows taken from a file, from which channel, and what was left out."""

    rows: tuple[dict[str, float], ...]
    channel: str
    channels: tuple[str, ...]
    read: int
    left_out: int
    doubts: tuple[str, ...]


def rows_from(trace: Trace, family: str, name: str, channel: str | None = None) -> FileRows:
    """Fill a question's rows from a trace.

    Parameters
    ----------
    trace : Trace
        A logger file as it was read, times [s], values [°C, pH or %].
    family, name : str
        The page and its field of rows.
    channel : str or None
        The channel to take; None for the likeliest.

    Returns
    -------
    FileRows
        At most 120 rows, or as many as the field takes, evenly chosen with the first and the last; times [s] or days
        [d] from the first reading.

    Raises
    ------
    NotFoundError
        If the page has no such rows, or they do not run in time.
    UnreadableFileError
        If no channel fits, or none of its readings lies in the field's range.

    Notes
    -----
    Valid for rows of a time or day and a temperature or pH. Readings outside the field's range
    are left out and counted.

    References
    ----------
    None needed: the file's own readings.
    """
    field = _rows_field(family, name)
    clock = _column(field, lambda c: c.name in ("time_s", "day"))
    value = _column(field, lambda c: c.kind == "ph") or _column(field, lambda c: c.name in TEMPERATURES)
    if clock is None or value is None:
        raise NotFoundError("These rows cannot be filled from a file: they do not run in time.")
    fitting = [each for each in trace.channels if _fits(each, value)]
    if not fitting:
        found = ", ".join(each.name for each in trace.channels) or "nothing"
        wanted = "pH" if value.kind == "ph" else "temperature"
        raise UnreadableFileError(f"These rows need a {wanted}, and the file has {found}. Choose another file.")
    taken = _chosen(fitting, value, channel)
    times, values = np.array(taken.times_s), np.array(taken.values)
    since = (times - times[0]) / (DAY_S if clock.name == "day" else 1.0)
    inside = _within(since, clock) & _within(values, value)
    if not inside.any():
        raise UnreadableFileError(
            f"No reading of {taken.name} lies in the range of these rows. Choose another channel."
        )
    keep = np.flatnonzero(inside)
    most = min(field.most or MOST_ROWS, MOST_ROWS)
    keep = keep[np.unique(np.linspace(0, len(keep) - 1, min(most, len(keep))).round().astype(int))]
    rows = [{clock.name: round(float(since[i]), 3), value.name: round(float(values[i]), 3)} for i in keep]
    _add_beside(rows, field, trace, times[keep])
    return FileRows(
        rows=tuple(rows),
        channel=taken.name,
        channels=tuple(each.name for each in fitting),
        read=len(times),
        left_out=int(np.sum(~inside)),
        doubts=tuple(each.sentence for each in trace.assumptions if not each.certain),
    )


def _rows_field(family: str, name: str) -> FieldSpec:
    if family not in FAMILIES:
        raise NotFoundError(f"The Bench has no page “{family}”.", family=family)
    for field in specs_of(FAMILIES[family].question):
        if field.name == name and field.kind == "rows":
            return field
    raise NotFoundError(f"That page has no rows “{name}”.", field=name)


def _column(field: FieldSpec, fits: Callable[[FieldSpec], bool]) -> FieldSpec | None:
    return next((column for column in field.columns if fits(column)), None)


def _quantities(column: FieldSpec) -> tuple[str, ...]:
    return ("ph",) if column.kind == "ph" else TEMPERATURES[column.name]


def _fits(channel: Channel, column: FieldSpec) -> bool:
    return channel.quantity in _quantities(column) and (column.kind == "ph" or channel.unit == "°C")


def _chosen(fitting: list[Channel], column: FieldSpec, name: str | None) -> Channel:
    named = next((each for each in fitting if each.name == name), None)
    order = _quantities(column)
    return named or min(fitting, key=lambda each: order.index(each.quantity))


def _within(values: Array, column: FieldSpec) -> NDArray[np.bool_]:
    low = -np.inf if column.low is None else column.low
    high = np.inf if column.high is None else column.high
    return (values >= low) & (values <= high)


def _add_beside(rows: list[dict[str, float]], field: FieldSpec, trace: Trace, times: Array) -> None:
    """A temperature that the file has beside the pH goes along; a column nobody measured keeps its usual value."""
    for column in field.columns:
        if rows and column.name not in rows[0]:
            beside = [each for each in trace.channels if column.name in TEMPERATURES and _fits(each, column)]
            at = np.interp(times, beside[0].times_s, beside[0].values) if beside else None
            for i, row in enumerate(rows):
                usual = column.fallback if isinstance(column.fallback, float | int) else 0.0
                row[column.name] = float(usual) if at is None else round(float(at[i]), 2)
