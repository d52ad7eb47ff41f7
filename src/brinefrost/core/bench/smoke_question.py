"""What the Bench asks about smoking."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.kitchen.cooked import Guests
from brinefrost.core.kitchen.lines import Animal, PieceState
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Sent

RoastShape = Literal["slab", "cylinder", "sphere"]


AnimalKey = Literal["wild_boar", "game", "pork", "beef", "lamb", "poultry", "duck", "fish"]


SmokeWay = Literal["roast", "hot_smoke", "cold_smoke"]


FOODS: dict[str, Literal["red_meat", "poultry", "fish"]] = {"poultry": "poultry", "duck": "poultry", "fish": "fish"}


ANIMALS: dict[str, Animal] = {
    "wild_boar": "wild_boar", "game": "game", "pork": "pork", "beef": "beef", "lamb": "beef", "poultry": "poultry",
    "duck": "other_bird", "fish": "fish",
}  # fmt: skip


class SmokeQuestion(Sent):
    """A piece in an oven or smoker, and when the alarm is set to ring."""

    way: SmokeWay = field("choice", "roast", main=True)
    animal: AnimalKey = field("choice", "wild_boar", main=True)
    piece: PieceState = field("choice", "whole", main=True)
    shape: RoastShape = field("choice", "cylinder")
    thickness_m: float = field("length", 0.08, 0.005, 0.3, "mm", 0.005, main=True)
    start_c: float = field("temperature", 5, -2, 40)
    chamber_c: float = field("temperature", 120, 5, 300, main=True)
    humidity_percent: float = field("percent", 10, 0, 100, step=5, main=True)
    wet: bool = field("flag", True)
    kept_wet: bool = field("flag", False, only={"way": ("roast", "hot_smoke")})
    alarm_c: float = field("temperature", 52, 5, 98, main=True, only={"way": ("roast", "hot_smoke")})
    hold_s: float = field("time", 0, 0, 24 * 3600, "min", only={"way": ("roast", "hot_smoke")})
    rest_s: float = field("time", 1200, 0, 4 * 3600, "min", only={"way": ("roast", "hot_smoke")})
    hours_s: float = field("time", 8 * 3600, 600, 5 * 86400, "h", only={"way": ("cold_smoke",)}, main=True)
    wps_percent: float | None = field("percent", 3.2, 0, 25)
    nitrite_ppm: float = field("number", 0, 0, 300, "ppm")
    packed: bool = field("flag", False)
    probe_c: float = field("difference", 0.5, 0, 3, step=0.1)
    altitude_m: float = field("height", 2140, 0, 4500)
    rule_set: RuleSetId = field("choice", "us", main=True)
    guests: Guests = field("choice", "general")
