"""A table as a workbook, read back by a library that is not ours."""

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from brinefrost.reports.workbook import workbook

# what an XML document can bear at all; a lone carriage return is a line feed there (XML 1.0, 2.11)
TEXT = st.text(st.characters(codec="utf-8", exclude_categories=["Cc", "Cs", "Cn"]), min_size=1, max_size=40)
CELL = st.one_of(TEXT, st.integers(-(10**9), 10**9), st.floats(allow_nan=False, allow_infinity=False, width=32))
TRICKS = ["=1+1", "+cmd|'/c calc'!A0", "-2+3", "@SUM(A1)", "http://example.org", "internal:Sheet1!A1", "{=1}", "\t=1"]


def read_back(data: bytes) -> list[list[object]]:
    sheet = load_workbook(io.BytesIO(data)).active
    assert sheet is not None
    return [[cell.value for cell in row] for row in sheet.iter_rows()]


@given(st.lists(st.lists(CELL, min_size=3, max_size=3), min_size=1, max_size=4))
def test_what_goes_in_comes_back(rows: list[list[object]]) -> None:
    for have, wanted in zip(read_back(workbook(rows, "B-1")), rows, strict=True):
        numbers = [each for each in wanted if not isinstance(each, str)]
        assert [each for each in have if isinstance(each, str)] == [each for each in wanted if isinstance(each, str)]
        assert [each for each in have if not isinstance(each, str)] == pytest.approx(numbers, rel=1e-14)  # 16 digits


def test_nothing_typed_is_a_formula_or_a_link() -> None:
    sheet = load_workbook(io.BytesIO(workbook([["note"], *([each] for each in TRICKS)], "B-1"))).active
    assert sheet is not None
    cells = [cell for row in sheet.iter_rows(min_row=2) for cell in row]
    assert [cell.value for cell in cells] == TRICKS
    assert {cell.data_type for cell in cells} == {"s"}
    assert all(cell.hyperlink is None for cell in cells)


def test_a_sheet_takes_every_name() -> None:
    for title in ("B-101", "a/b:c*d?e[f]", "", "x" * 90):
        assert read_back(workbook([["head"]], title)) == [["head"]]
