"""Sheets and rolls that labels are sold on, by their measures; common practice, no source."""

from typing import Literal

from brinefrost.core.working import Sent

LabelKey = Literal["a4-70x37", "a4-99x38", "a4-64x38", "letter-67x25", "letter-102x51", "roll-62x40", "roll-100x60"]
A4_MM = (210.0, 297.0)
LETTER_MM = (215.9, 279.4)


class LabelSheet(Sent):
    """One sheet of labels, or a roll with one a page [mm]; ``gap_mm`` stands between two that are side by side."""

    key: LabelKey
    paper: Literal["a4", "letter", "roll"]
    across: int
    down: int
    width_mm: float
    height_mm: float
    gap_mm: float = 0.0

    @property
    def page_mm(self) -> tuple[float, float]:
        """Width and height of a page."""
        return {"a4": A4_MM, "letter": LETTER_MM, "roll": (self.width_mm, self.height_mm)}[self.paper]

    @property
    def places(self) -> int:
        """How many labels a page has."""
        return self.across * self.down

    def corner_mm(self, place: int) -> tuple[float, float]:
        """The upper left corner of a place on its page, from the left and the top: row by row, the first is 0."""
        page_w, page_h = self.page_mm
        whole_w = self.across * self.width_mm + (self.across - 1) * self.gap_mm
        row, column = divmod(place % self.places, self.across)
        left, top = (page_w - whole_w) / 2, (page_h - self.down * self.height_mm) / 2
        return left + column * (self.width_mm + self.gap_mm), top + row * self.height_mm


SHEETS: dict[LabelKey, LabelSheet] = {
    each.key: each
    for each in (
        LabelSheet(key="a4-70x37", paper="a4", across=3, down=8, width_mm=70, height_mm=37),
        LabelSheet(key="a4-99x38", paper="a4", across=2, down=7, width_mm=99.1, height_mm=38.1, gap_mm=2.5),
        LabelSheet(key="a4-64x38", paper="a4", across=3, down=7, width_mm=63.5, height_mm=38.1, gap_mm=2.5),
        LabelSheet(key="letter-67x25", paper="letter", across=3, down=10, width_mm=66.7, height_mm=25.4, gap_mm=3.2),
        LabelSheet(key="letter-102x51", paper="letter", across=2, down=5, width_mm=101.6, height_mm=50.8, gap_mm=4.8),
        LabelSheet(key="roll-62x40", paper="roll", across=1, down=1, width_mm=62, height_mm=40),
        LabelSheet(key="roll-100x60", paper="roll", across=1, down=1, width_mm=100, height_mm=60),
    )
}
