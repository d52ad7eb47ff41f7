"""Labels on paper: every place of every sheet inside its page, nothing cut off, and a code that is whole."""

import io
from datetime import UTC, datetime
from itertools import pairwise

import pytest
from pypdf import PdfReader

from brinefrost.core.errors import RefusedError
from brinefrost.core.runs.labels import Label
from brinefrost.core.words import LANGUAGES, Manner, manner_of
from brinefrost.reports.label_sheets import SHEETS
from brinefrost.reports.labels_pdf import LabelJob, labels_pdf

MADE = datetime(2026, 12, 2, 9, 30, tzinfo=UTC)
MILLIMETRE = 72 / 25.4
LABEL = Label(
    code="B-142", name="Skarn tub of stew", made_at=MADE, use_by=datetime(2026, 12, 7, 9, 30, tzinfo=UTC), undated="",
    keep=("Keep at or below 3 °C",), allergens=("milk", "mustard"), told=(), released=False,
)  # fmt: skip


def job(**more: object) -> LabelJob:
    label = LABEL.model_copy(update=more)
    return LabelJob(label, "Nils Ravna", "Skarn Ridge", "Europe/Oslo", "https://pass.kitchen:8717/batches/" + "a" * 36)


def pages(data: bytes) -> list[str]:
    return [page.extract_text() for page in PdfReader(io.BytesIO(data)).pages]


@pytest.mark.parametrize("key", SHEETS)
@pytest.mark.parametrize("language", LANGUAGES)
def test_every_size_bears_the_whole_text(key: str, language: str) -> None:
    with manner_of(Manner(language=language)):  # type: ignore[arg-type]
        (text,) = pages(labels_pdf(job(), SHEETS[key], 1))  # type: ignore[index]
    for part in ("B-142", "Skarn tub", "10:30", "Nils Ravna", "3 °C"):  # in the kitchen's own time
        assert part in " ".join(text.split())


@pytest.mark.parametrize("sheet", SHEETS.values(), ids=SHEETS)
def test_every_place_lies_on_its_page_and_on_no_other(sheet) -> None:  # type: ignore[no-untyped-def]
    page_w, page_h = sheet.page_mm
    corners = [sheet.corner_mm(place) for place in range(sheet.places)]
    for x, y in corners:
        assert x >= -0.01
        assert y >= -0.01
        assert x + sheet.width_mm <= page_w + 0.01
        assert y + sheet.height_mm <= page_h + 0.6  # rows of a full sheet are rounded
    for (x, y), (right, below) in pairwise(corners):
        assert right >= x + sheet.width_mm - 0.01 or below >= y + sheet.height_mm - 0.01


def test_a_begun_sheet_is_used_up_before_the_next() -> None:
    sheet = SHEETS["a4-70x37"]
    counts = [text.count("B-142") for text in pages(labels_pdf(job(), sheet, 30, first=20))]
    assert counts == [5, 24, 1]
    assert len(pages(labels_pdf(job(), SHEETS["roll-62x40"], 3))) == 3


def test_a_roll_has_pages_as_large_as_its_labels() -> None:
    page = PdfReader(io.BytesIO(labels_pdf(job(), SHEETS["roll-62x40"], 1))).pages[0]
    assert float(page.mediabox.width) == pytest.approx(62 * MILLIMETRE, abs=0.1)
    assert float(page.mediabox.height) == pytest.approx(40 * MILLIMETRE, abs=0.1)


def test_what_does_not_fit_is_refused_and_nothing_is_left_off() -> None:
    many = tuple(f"allergen number {n}" for n in range(30))
    with pytest.raises(RefusedError, match="larger labels"):
        labels_pdf(job(allergens=many), SHEETS["letter-67x25"], 1)
    (text,) = pages(labels_pdf(job(allergens=many[:14]), SHEETS["roll-100x60"], 1))
    assert "number 13" in " ".join(text.split())


def test_on_hold_until_it_is_released_and_without_a_date_it_says_why() -> None:
    (text,) = pages(labels_pdf(job(), SHEETS["a4-70x37"], 1))
    assert "ON HOLD" in text
    (text,) = pages(labels_pdf(job(released=True, use_by=None, undated="not dated yet"), SHEETS["a4-70x37"], 1))
    assert "ON HOLD" not in text
    assert "Use by: not dated yet" in text
