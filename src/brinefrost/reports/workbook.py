"""A table as a workbook (ECMA-376, Office Open XML)."""

import io
from collections.abc import Sequence

import xlsxwriter

WIDEST = 48  # signs of a column
MOST_SIGNS = 32_767  # a cell bears no more


def workbook(rows: Sequence[Sequence[object]], title: str) -> bytes:
    """Rows as one sheet of a workbook [bytes], the first of them its heads, which stay in sight.

    Text is written as text whatever it begins with: nothing a person typed becomes a formula or a link. Valid for every
    table; ``title`` is cut to the 31 signs a sheet may be called.
    """
    out = io.BytesIO()
    with xlsxwriter.Workbook(out, {"in_memory": True}) as book:
        sheet = book.add_worksheet("".join(sign for sign in title if sign not in "[]:*?/\\'")[:31] or "1")
        head = book.add_format({"bold": True})
        widths: dict[int, int] = {}
        for i, row in enumerate(rows):
            for j, cell in enumerate(row):
                if isinstance(cell, int | float) and not isinstance(cell, bool):
                    sheet.write_number(i, j, cell)
                elif text := str("" if cell is None else cell)[:MOST_SIGNS]:
                    sheet.write_string(i, j, text, head if i == 0 else None)
                widths[j] = min(max(widths.get(j, 8), len(str(cell)) + 1), WIDEST)
        for j, width in widths.items():
            sheet.set_column(j, j, width)
        sheet.freeze_panes(1, 0)
    return out.getvalue()
