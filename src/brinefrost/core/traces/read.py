"""Reading a logger file whole."""

from brinefrost.core.errors import UnreadableFileError
from brinefrost.core.traces.channels import channels_from_rows
from brinefrost.core.traces.model import Trace, TraceOptions
from brinefrost.core.traces.sensors import split_by_sensor
from brinefrost.core.traces.stamps import stamps_from_rows
from brinefrost.core.traces.table import table_from_bytes
from brinefrost.core.words import num, say

LARGEST_BYTES = 8_000_000


def read_trace(data: bytes, options: TraceOptions, site_zone: str) -> Trace:
    """Read a logger file, saying what was assumed.

    Channels with times [s since 1970 UTC] and values [°C, pH or %], assumptions and notes. Raises UnreadableFileError
    if the file is too large, empty, not text, or has no times or no readings. Valid for delimited text with one row a
    reading. ``data`` [bytes]. RFC 4180; ISO 8601.
    """
    if len(data) > LARGEST_BYTES:
        raise UnreadableFileError(
            say(
                "traces.read.the_file_has_mb_the_most",
                data=num(len(data) / 1e6, ".0f"),
                largest_bytes=num(LARGEST_BYTES / 1e6, ".0f"),
            ),
            size=len(data),
        )
    table = table_from_bytes(data)
    stamps = stamps_from_rows(table.rows, options, site_zone)
    unread = sum(time is None for time in stamps.times_s)
    if len(stamps.times_s) - unread < 2:
        raise UnreadableFileError(say("traces.read.the_dates_in_the_file_cannot"))
    header, rows = split_by_sensor(table.header, table.rows, stamps.columns)
    split = rows is not table.rows
    times_in = set(range(len(stamps.columns))) if split else stamps.columns
    columns = channels_from_rows(header, rows, stamps.times_s, times_in, options)
    if not columns.channels:
        raise UnreadableFileError(say("traces.read.the_file_has_times_but_no"))
    times = [time for channel in columns.channels for time in (channel.times_s[0], channel.times_s[-1])]
    notes = [*stamps.notes, *columns.notes]
    if unread:
        notes.append(say("traces.read.untimed", count=unread))
    return Trace(
        channels=tuple(columns.channels),
        assumptions=(*table.assumptions, *stamps.assumptions, *columns.assumptions),
        notes=tuple(notes),
        interval_s=columns.interval_s,
        first_s=min(times),
        last_s=max(times),
        questions=tuple(stamps.questions),
    )
