"""From bytes to a table: encoding, separator, preamble, header, rows."""

import csv
import io
import re
from dataclasses import dataclass

from brinefrost.core.errors import UnreadableFileError
from brinefrost.core.traces.model import Assumption
from brinefrost.core.words import num, say

SEPARATORS = {
    "\t": say("traces.table.tabs"),
    ";": say("traces.table.semicolons"),
    ",": say("traces.table.commas"),
    "|": say("traces.table.bars"),
}
LARGEST_ROWS = 250_000
LARGEST_COLUMNS = 64  # more are no log of one kitchen
_DIGIT = re.compile(r"\d")


@dataclass(frozen=True)
class Table:
    """Header and rows of equal width."""

    header: list[str]
    rows: list[list[str]]
    assumptions: list[Assumption]


def table_from_bytes(data: bytes) -> Table:
    """Find the table in a logger file.

    Header and rows of text, and what was assumed. Raises UnreadableFileError if the file is empty, not text, or holds
    no table of two columns and two rows. Valid for delimited text in UTF-8, UTF-16 with a byte-order mark, or
    Windows-1252. RFC 4180 for quoting; the rest is what loggers commonly write.
    """
    if not data.strip():
        raise UnreadableFileError(say("traces.table.the_file_is_empty_export_the"))
    text, encoding = _decode(data)
    lines = [line for line in text.splitlines() if line.strip()]
    if len(lines) > LARGEST_ROWS:
        raise UnreadableFileError(
            say(
                "traces.table.the_file_has_lines_the_most",
                lines=num(len(lines), ","),
                largest_rows=num(LARGEST_ROWS, ","),
            )
        )
    separator, width, first, end = _body(lines)
    try:
        rows = list(csv.reader(io.StringIO("\n".join(lines[first:end])), delimiter=separator))
        before = next(csv.reader([lines[first - 1]], delimiter=separator), []) if first else []
    except csv.Error as error:
        raise UnreadableFileError(say("traces.table.a_cell_of_the_file_cannot", error=error)) from error
    named = len(before) == width and not _looks_like_data(before)
    header = [cell.strip() for cell in before] if named else [f"column {i + 1}" for i in range(width)]
    kept = [[cell.strip() for cell in row] for row in rows if len(row) == width]
    if len(kept) < 2:
        raise UnreadableFileError(say("traces.table.the_rows_of_the_file_do"))
    skipped = first - (1 if named else 0)
    return Table(header, kept, _assume(encoding, separator, skipped, named))


def _assume(encoding: str, separator: str, skipped: int, named: bool) -> list[Assumption]:
    """What was taken for granted in reading it."""
    assumptions = [
        Assumption(
            about="encoding",
            sentence=say("traces.table.read_as", encoding=encoding),
            certain=encoding != "Windows-1252",
        ),
        Assumption(
            about="separator",
            sentence=say("traces.table.columns_are_parted_by", separators=SEPARATORS[separator]),
            certain=True,
        ),
    ]
    if skipped:
        assumptions.append(
            Assumption(
                about="header",
                sentence=say("traces.table.skipped_lines_before_the_table", skipped=skipped),
                certain=True,
            )
        )
    if not named:
        assumptions.append(
            Assumption(about="header", sentence=say("traces.table.the_columns_have_no_names"), certain=False)
        )
    return assumptions


def _decode(data: bytes) -> tuple[str, str]:
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", errors="replace"), "UTF-16"
    if b"\0" in data[:4096] or data.startswith((b"PK\x03\x04", b"%PDF", b"\x89PNG")):
        raise UnreadableFileError(say("traces.table.this_is_not_a_text_file"))
    try:
        return data.decode("utf-8-sig"), "UTF-8"
    except UnicodeDecodeError:
        text = data.decode("cp1252", errors="replace")
    if sum(not (char.isprintable() or char in "\r\n\t") for char in text[:4096]) > 20:
        raise UnreadableFileError(say("traces.table.this_is_not_a_text_file"))
    return text, "Windows-1252"


def _body(lines: list[str]) -> tuple[str, int, int, int]:
    """Separator, width, first row and end of the longest run of data rows of one width."""
    best: tuple[int, str, int, int, int] | None = None
    for separator in SEPARATORS:
        counts = [_cells_in(line, separator) for line in lines]
        widths = [
            count if 1 < count <= LARGEST_COLUMNS and _DIGIT.search(line) else 0
            for count, line in zip(counts, lines, strict=True)
        ]
        start = 0
        for i in range(1, len(lines) + 1):
            if i < len(lines) and widths[i] == widths[start]:
                continue
            width = widths[start]
            first = start
            while first < i and not _looks_like_data(_cells(lines[first], separator)):
                first += 1
            if width >= 2 and i - first >= 2 and (best is None or (i - first, width) > (best[0], best[2])):
                best = (i - first, separator, width, first, i)
            start = i
    if best is None:
        raise UnreadableFileError(say("traces.table.no_table_of_times_and_readings", largest_columns=LARGEST_COLUMNS))
    return best[1], best[2], best[3], best[4]


def _cells(line: str, separator: str) -> list[str]:
    """The cells of a line; a separator within quotation marks parts nothing (RFC 4180, 2.6)."""
    return next(csv.reader([line], delimiter=separator), []) if '"' in line else line.split(separator)


def _cells_in(line: str, separator: str) -> int:
    if '"' not in line or line.count('"') % 2:
        return line.count(separator) + 1
    return len(_cells(line, separator))


def _looks_like_data(cells: list[str]) -> bool:
    """At least half the cells begin with a digit, the sign of a number or a date."""
    return sum(bool(re.match(r"\s*\"?[+-]?\d", cell)) for cell in cells) * 2 >= len(cells)
