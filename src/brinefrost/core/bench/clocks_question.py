"""What is asked of the clocks: a food and the steps it went through."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Document, Sent

FoodClass = Literal[
    "cooked_meat", "ready_to_eat", "raw_fish", "raw_fish_frozen", "shellfish", "rice", "raw_meat", "sealed"
]
CHOSEN: dict[str, tuple[str, ...]] = {
    "cooked_meat": ("c_perfringens", "s_aureus", "listeria"),
    "ready_to_eat": ("listeria", "s_aureus", "salmonella"),
    "raw_fish": ("listeria", "v_parahaemolyticus"),
    "raw_fish_frozen": ("listeria", "v_parahaemolyticus"),
    "shellfish": ("v_parahaemolyticus", "listeria"),
    "rice": ("b_cereus", "s_aureus"),
    "raw_meat": ("salmonella", "e_coli", "s_aureus", "listeria"),
    "sealed": ("c_botulinum_a", "c_botulinum_b", "listeria"),
}
EATEN_AS_IT_IS = tuple(food for food in CHOSEN if food != "raw_meat")  # and no heat comes behind
KEPT_UP_TO_C = 5.0  # kept cold up to: FDA Food Code 2022, 3-501.16(A)
HOT_FROM_C = 57.0  # kept hot from: the same
KILLED_BY_COOKING = ("salmonella", "e_coli", "listeria", "v_parahaemolyticus")  # no toxin and no spores stay behind
HEATED_C = 54.4
COOKED_C = 75.0
BLINK_S = 1e-3
StepKind = Literal["hot", "fall", "handled"]
RAW = ("raw_fish", "raw_fish_frozen", "shellfish", "raw_meat")


class Span(Document):
    """A step: from one temperature to another over a time."""

    from_c: float = field("temperature", 5, -30, 110)
    to_c: float = field("temperature", 5, -30, 110)
    duration_s: float = field("time", 3600, 60, 60 * 86400, "h")


BRAISE = (
    Span(from_c=12, to_c=85, duration_s=2 * 3600),
    Span(from_c=85, to_c=85, duration_s=3 * 3600),
    Span(from_c=85, to_c=5, duration_s=7 * 3600),
    Span(from_c=5, to_c=5, duration_s=10 * 3600),
    Span(from_c=5, to_c=80, duration_s=1.5 * 3600),
    Span(from_c=80, to_c=5, duration_s=6 * 3600),
    Span(from_c=5, to_c=5, duration_s=14 * 3600),
    Span(from_c=5, to_c=78, duration_s=2 * 3600),
)


class ClocksQuestion(Sent):
    """What a food is and what it went through."""

    food: FoodClass = field("choice", "cooked_meat", main=True)
    ph: float = field("ph", 6.2, 2, 9, step=0.1, main=True)
    aw: float = field("number", 0.985, 0.6, 1, "aw", 0.005, main=True)
    cooking: Literal["keeps", "resets"] = field("choice", "keeps")
    then_c: float = field("temperature", 20, -5, 60)
    rule_set: RuleSetId = field("choice", "us")
    spans: tuple[Span, ...] = field("rows", BRAISE, most=60, main=True)
