"""Rows of a question filled from a logger file: the channel that fits, counted from its first reading."""

from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.bench.families import FAMILIES
from brinefrost.core.errors import NotFoundError, UnreadableFileError
from brinefrost.core.fields import FieldSpec, FileUse, specs_of
from brinefrost.core.physics.body import Array
from brinefrost.core.quantities import ChannelQuantity
from brinefrost.core.traces import Channel, Trace
from brinefrost.core.words import Words, joined, say
from brinefrost.core.working import Document

MOST_ROWS = 120  # a question lives in an address: more would make it too long to send on
DAY_S = 86400.0
BESIDE = ("core", "air", "unknown", "bath")  # where a temperature beside a pH comes from


class Use(NamedTuple):
    """Which channels fill rows, the likeliest first, and which of many readings stand for the rest."""

    quantities: tuple[ChannelQuantity, ...]
    keep: Literal["even", "coldest", "warmest"] = "even"
    by_doubt: bool = False  # a channel that does not say what it measured is taken, and that is said


# Where readings are judged as measured, the ones kept are those that make it hardest, and bath or air is no core.
USES: dict[FileUse, Use] = {
    "core": Use(("core", "unknown"), "coldest", by_doubt=True),
    "course": Use(("core", "unknown"), "even", by_doubt=True),
    "record": Use(("core", "unknown"), "warmest", by_doubt=True),
    "surroundings": Use(("air", "bath", "unknown", "core")),
    "ph": Use(("ph",)),
}


class FileRows(Document):
    """Rows taken from a file, from which channel, and what was left out."""

    rows: tuple[dict[str, float], ...]
    channel: str
    channels: tuple[str, ...]
    read: int
    left_out: int
    doubts: tuple[Words, ...]


def rows_from(trace: Trace, family: str, name: str, channel: str | None = None) -> FileRows:
    """Fill a question's rows from a trace.

    At most 120 rows, or as many as the field takes; times [s] or days [d] from the first reading. Of more, those that
    make it hardest where they are judged as measured, else evenly chosen. Raises NotFoundError if the page has no such
    rows, or they do not run in time; UnreadableFileError if no channel fits, or none of its readings lies in the
    field's range. Valid for rows of a time or day and a temperature or pH. Readings outside the field's range are left
    out and counted. ``trace`` [s].
    """
    field = _rows_field(family, name)
    if field.file is None:
        raise NotFoundError(say("bench.from_file.these_rows_cannot_be_filled_from"))
    use = USES[field.file]
    clock = next(column for column in field.columns if column.name in ("time_s", "day"))
    value = next(column for column in field.columns if column.kind == ("ph" if field.file == "ph" else "temperature"))
    fitting = [each for each in trace.channels if _fits(each, use.quantities)]
    if not fitting:
        raise UnreadableFileError(_wanting(trace, field.file))
    named = next((each for each in fitting if each.name == channel), None)
    taken = named or min(fitting, key=lambda each: use.quantities.index(each.quantity))
    times, values = map(np.array, taken.once(use.keep == "warmest"))
    since = (times - times[0]) / (DAY_S if clock.name == "day" else 1.0)
    inside = _within(since, clock) & _within(values, value)
    if not inside.any():
        raise UnreadableFileError(say("bench.from_file.no_reading_of_lies_in_the", name=taken.name))
    keep = _thin(np.flatnonzero(inside), values, min(field.most or MOST_ROWS, MOST_ROWS), use.keep)
    rows = [{clock.name: round(float(since[i]), 3), value.name: round(float(values[i]), 3)} for i in keep]
    _add_beside(rows, field, trace, times[keep])
    is_doubted = use.by_doubt and taken.quantity == "unknown"
    doubts = [say("bench.from_file.name_does_not_say_what_it", name=taken.name)] if is_doubted else []
    if len(keep) < inside.sum() and use.keep != "even":
        doubts.append(say("bench.from_file.of_every_few_readings_only_the", keep=use.keep))
    return FileRows(
        rows=tuple(rows),
        channel=taken.name,
        channels=tuple(each.name for each in fitting),
        read=len(times),
        left_out=int(np.sum(~inside)),
        doubts=(*doubts, *(each.sentence for each in trace.assumptions if not each.certain)),
    )


def _wanting(trace: Trace, use: FileUse) -> str:
    found = joined((each.name for each in trace.channels), ", ") or say("bench.from_file.nothing")
    wanted = {"ph": say("bench.from_file.a_ph"), "surroundings": say("bench.from_file.a_temperature")}
    return say(
        "bench.from_file.these_rows_need_and_the_file",
        get=wanted.get(use, say("bench.from_file.a_core_temperature")),
        found=found,
    )


def _thin(
    keep: NDArray[np.intp], values: Array, most: int, which: Literal["even", "coldest", "warmest"]
) -> NDArray[np.intp]:
    """At most so many of the readings, in their order."""
    if len(keep) <= most:
        return keep
    if which == "even":
        at = np.unique(np.linspace(0, len(keep) - 1, most).round().astype(int))
        return np.asarray(keep[at], dtype=np.intp)
    # the first stays, since the clock starts with it; each stretch after it is stood for by its hardest reading
    signed = values if which == "coldest" else -values
    hardest = [int(part[int(np.argmin(signed[part]))]) for part in np.array_split(keep[1:], most - 1)]
    return np.array([int(keep[0]), *hardest], dtype=np.intp)


def _rows_field(family: str, name: str) -> FieldSpec:
    if family not in FAMILIES:
        raise NotFoundError(say("bench.from_file.the_bench_has_no_page", family=family), family=family)
    for field in specs_of(FAMILIES[family].question):
        if field.name == name and field.kind == "rows":
            return field
    raise NotFoundError(say("bench.from_file.that_page_has_no_rows", name=name), field=name)


def _fits(channel: Channel, quantities: tuple[str, ...]) -> bool:
    return channel.quantity in quantities and (channel.quantity == "ph" or channel.unit == "°C")


def _within(values: Array, column: FieldSpec) -> NDArray[np.bool_]:
    low = -np.inf if column.low is None else column.low
    high = np.inf if column.high is None else column.high
    return (values >= low) & (values <= high)


def _add_beside(rows: list[dict[str, float]], field: FieldSpec, trace: Trace, times: Array) -> None:
    """A temperature that the file has beside the pH goes along; a column nobody measured keeps its usual value."""
    for column in field.columns:
        if rows and column.name not in rows[0]:
            beside = [each for each in trace.channels if column.kind == "temperature" and _fits(each, BESIDE)]
            at = np.interp(times, beside[0].times_s, beside[0].values) if beside else None
            for i, row in enumerate(rows):
                usual = column.fallback if isinstance(column.fallback, float | int) else 0.0
                row[column.name] = float(usual) if at is None else round(float(at[i]), 2)
