"""The printed record: the shapes, the words, and nothing in a note that breaks the page."""

import io
from datetime import UTC, datetime

import pytest
from pypdf import PdfReader
from reportlab.graphics.shapes import Circle, Line, Polygon, PolyLine, Rect

from brinefrost.core.runs import events as e
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.words import Manner, manner_of
from brinefrost.reports.curve import HEIGHT, LEFT, curve_drawing
from brinefrost.reports.paper import shape, when, words
from brinefrost.reports.record_pdf import record_pdf
from brinefrost.services.ledgers import Printed
from brinefrost.services.planning import Version
from brinefrost.services.views import view_of
from brinefrost.store.ledger import Head
from brinefrost.store.shelves import InstrumentInfo, SiteInfo
from tests.core.test_runs import at, chilling, core, recorded, started

SIGNED = Version(
    version=1,
    hash="abc",
    signed_by="Ilse Brandvik",
    signed_at=datetime(2026, 11, 1, tzinfo=UTC),
    proof_meets=True,
    seq=7,
)


def text_of(pdf: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())


def printed(batch, signed: Version = SIGNED) -> str:  # type: ignore[no-untyped-def]
    return text_of(record_pdf(paper(batch, signed), at(300)))


def paper(batch, signed: Version = SIGNED, zone: str = "Europe/Zurich") -> Printed:  # type: ignore[no-untyped-def]
    probe = InstrumentInfo("probe-2", "Probe", "probe", ("core",), 0.5, at(-9000), at(30000))
    site = SiteInfo("Skarn Ridge Observatory", 2140, zone, "us")
    view, sheet = view_of(batch, "1", at(300)), sheet_of_batch(batch, judge(batch, at(300)), at(300))
    return Printed(view, sheet, signed, site, (probe,), Head(9, "f" * 64, "e" * 64))


def test_the_sheet_is_the_first_page_and_lies_across() -> None:
    pages = PdfReader(io.BytesIO(record_pdf(paper(chilling((0, 62.5))), at(300)))).pages
    assert pages[0].mediabox.width > pages[0].mediabox.height
    assert pages[1].mediabox.width < pages[1].mediabox.height
    first = " ".join(pages[0].extract_text().split())
    for word in ("Journey", "Bath", "Slurry", "Salmonella"):
        assert word in first


@pytest.mark.parametrize(
    ("state", "kind", "filled"),
    [
        ("pass", Circle, True),
        ("fail", Rect, True),
        ("too_close", Polygon, False),
        ("pending", Circle, False),
        ("not_measured", Circle, False),
    ],
)
def test_states_differ_in_shape_not_only_in_colour(state: str, kind: type, filled: bool) -> None:
    first = shape(state).contents[0]
    assert isinstance(first, kind)
    assert (first.fillColor is not None) == filled


def test_markup_in_a_note_is_printed_not_obeyed() -> None:
    note = "<b>bold</b> & <script>alert(1)</script> <para>"
    batch = chilling((0, 62.5), extra=(core(125, 40.0, note=note),))
    assert "<script>alert(1)</script>" in printed(batch).replace(" ", "")


def test_names_of_many_tongues_and_signs_are_printed() -> None:
    batch = chilling((0, 62.5), extra=(core(125, 40.0, instrument_name="Źrebiec's Łęcka sonda"),))
    said = printed(batch)
    assert "Źrebiec's Łęcka sonda" in said
    assert "±0.5" in said


def test_a_record_in_progress_says_so() -> None:
    said = printed(chilling((0, 62.5)))
    assert "Not yet: this is a record in progress." in said
    assert "Not measured" in said


def test_a_plan_signed_against_its_proof_prints_the_reason() -> None:
    signed = SIGNED.model_copy(update={"proof_meets": False, "reason": "A trial for the authority"})
    assert "A trial for the authority" in printed(chilling((0, 62.5)), signed)


def test_deviation_action_decision_and_signature_are_printed() -> None:
    extra = (
        e.DeviationOpened(
            deviation="B-1-D1", step="chill", limit="us-cooling", cause="forecast", sentence="Will miss", at=at(140)
        ),
        e.ActionRecorded(step="chill", deviation="B-1-D1", action="parted and iced", changes_course=True, at=at(141)),
        e.DeviationDecided(deviation="B-1-D1", decision="rework", reason="cook again for soup", at=at(200)),
        e.BatchCountersigned(decision="rework", reason="see the deviation", at=at(210)),
    )
    said = printed(chilling((0, 62.5), (15, 62.0), extra=extra))
    for part in (
        "B-1-D1",
        "parted and iced",
        "Reprocess",
        "cook again for soup",
        "Record countersigned",
        "see the deviation",
    ):
        assert part in said


def test_what_closed_itself_and_what_was_called_back_are_printed() -> None:
    """A record tells all that became known: a breach that later readings refute, and a recall after the release."""
    opened = e.DeviationOpened(
        deviation="B-1-D1", step="chill", limit="us-cooling", cause="breach", sentence="Missed", at=at(140)
    )
    refuted = e.DeviationWithdrawn(deviation="B-1-D1", sentence="Cooled in time after all.", at=at(150))
    closed = e.BatchCountersigned(decision="release", reason="all read and in time", at=at(210))
    recalled = e.BatchRecalled(reason="The supplier called its salt back.", at=at(260))
    said = printed(chilling((0, 62.5), (15, 62.0), extra=(opened, refuted, closed, recalled)))
    assert "Closed by itself: Cooled in time after all." in said
    assert "Recalled" in said
    assert "The supplier called its salt back." in said


def test_a_correction_prints_both_entries() -> None:
    batch = chilling((0, 62.5), (15, 6.1), extra=(core(136, 61.0, corrects="r135"),))
    said = printed(batch)
    assert "6.1 °C" in said
    assert "replaced" in said
    assert "corrects r135" in said


def test_it_bears_what_an_inspector_asks_for() -> None:
    """9 CFR 417.5, 21 CFR 120.12: limits, monitoring, corrective actions, who and when, and what was not done."""
    said = printed(chilling((0, 62.5), (15, 6.1)))
    for part in (
        "Process as it ran", "Missed checks", "Hazards and decisions", "Critical control points", "Monitored:",
        "If it is not met:", "Allergens", "last checked", "Departs from", "seal " + "e" * 20, "2140 m",
    ):  # fmt: skip
        assert part in said, part
    assert "verify" not in said
    assert "from memory" not in said


@pytest.mark.slow
def test_hundreds_of_readings_run_over_pages_with_the_head_repeated() -> None:
    batch = chilling(*[(minute / 2, 62.0 - minute * 0.05) for minute in range(300)])
    pdf = record_pdf(paper(batch, zone="UTC"), at(300))
    pages = PdfReader(io.BytesIO(pdf)).pages
    assert len(pages) > 5
    assert sum("Written down" in page.extract_text() for page in pages) > 4


def test_nothing_measured_draws_no_curve() -> None:
    assert curve_drawing(view_of(recorded(started()), "1", at(10)), "UTC") is None


def test_moments_carry_their_zone() -> None:
    summer, winter = datetime(2026, 7, 1, 12, tzinfo=UTC), datetime(2026, 12, 1, 12, tzinfo=UTC)
    assert when(summer, "Europe/Zurich") == "01 Jul 2026 14:00 CEST"
    assert when(winter, "Europe/Zurich", seconds=True) == "01 Dec 2026 13:00:00 CET"


def test_signs_the_typeface_lacks_come_from_the_symbol_font() -> None:
    assert "Symbol" in words("∫ 10^((T − 70)/7.5) dt ≤ 5").text


@pytest.mark.parametrize(
    "readings", [((0, 62.0), (20, 40.0)), ((0, 96.5), (20, 60.0)), ((0, 20.0), (20, -24.0)), ((0, 240.0), (20, 30.0))]
)
def test_the_curve_stays_within_its_frame_however_hot_or_cold(readings: tuple[tuple[float, float], ...]) -> None:
    drawn = curve_drawing(view_of(chilling(*readings), "1", at(300)), "UTC")
    assert drawn is not None
    heights = [y for each in drawn.contents for y in _heights(each)]
    assert min(heights) >= 0
    assert max(heights) <= HEIGHT
    lines = [
        each for each in drawn.contents if isinstance(each, Line) and each.x1 == LEFT and each.strokeDashArray is None
    ]
    assert 5 <= len(lines) <= 9  # of the axis: legible at any span


def _heights(each: object) -> list[float]:
    if isinstance(each, Line):
        return [each.y1, each.y2]
    if isinstance(each, PolyLine):
        return list(each.points[1::2])
    return [each.cy - each.r, each.cy + each.r] if isinstance(each, Circle) else []


@pytest.mark.parametrize(
    ("language", "confirmed", "core_said"),
    [("es", "confirmada", "temperatura del centro"), ("fr", "confirmée", "température à cœur")],
)
def test_a_reading_is_printed_in_the_readers_language(language: str, confirmed: str, core_said: str) -> None:
    batch = chilling((0, 62.5), extra=(core(136, 61.0, corrects="r135", confirmed=True),))
    with manner_of(Manner(language)):  # type: ignore[arg-type]
        said = printed(batch)
    assert confirmed in said
    assert core_said in said  # in one piece: the column is wide enough for its words
    assert "core temperature" not in said
    assert "confirmed" not in said
