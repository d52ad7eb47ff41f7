"""The pages of a document: those that stand, those that lie on their side, and what is at the foot of each."""

import io
from typing import Any

from reportlab.lib.pagesizes import A4, landscape
from reportlab.platypus import BaseDocTemplate, Frame, PageTemplate

from brinefrost.core.words import Words, said, say
from brinefrost.reports.paper import MARGIN, words
from brinefrost.reports.sheet_page import EDGE, HEIGHT, WIDTH

CAUTION = say("paper.record_pdf.a_record_keeping_and_planning_aid")


def lay_pages(out: io.BytesIO, title: Words, kitchen: str, printed: Words, sheets: int = 0) -> BaseDocTemplate:
    """A document whose first ``sheets`` pages lie on their side for a sheet; templates sheet, page and across."""
    document = BaseDocTemplate(
        out,
        pagesize=A4,
        title=said(title),
        author=kitchen,
        leftMargin=MARGIN,
        rightMargin=MARGIN,
        topMargin=MARGIN,
        bottomMargin=MARGIN + 12,
    )
    frame = Frame(MARGIN, MARGIN + 12, A4[0] - 2 * MARGIN, A4[1] - 2 * MARGIN - 12, 0, 0, 0, 0)
    wide = Frame(EDGE, EDGE + 14, WIDTH, HEIGHT + 1, 0, 0, 0, 0)
    across = Frame(MARGIN, MARGIN + 12, A4[1] - 2 * MARGIN, A4[0] - 2 * MARGIN - 12, 0, 0, 0, 0)

    def foot(size: tuple[float, float]) -> Any:
        def draw(canvas: Any, template: Any) -> None:
            width = size[0] - 2 * MARGIN
            page = say("paper.record_pdf.page_page", page=template.page)
            for text, style, y in ((printed, "foot", MARGIN), (CAUTION, "foot", MARGIN - 10), (page, "page", MARGIN)):
                line = words(text, style)
                line.wrapOn(canvas, width, 12)
                line.drawOn(canvas, MARGIN, y - 2)

        return draw

    kinds = [
        PageTemplate(id="sheet", frames=[wide], onPage=foot(landscape(A4)), pagesize=landscape(A4)),
        PageTemplate(id="page", frames=[frame], onPage=foot(A4), pagesize=A4),
        PageTemplate(id="across", frames=[across], onPage=foot(landscape(A4)), pagesize=landscape(A4)),
    ]
    document.addPageTemplates(kinds if sheets else [kinds[1], kinds[0], kinds[2]])
    return document
