"""What the Bench asks about a chill."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.food.media import AllRoundKey, FoodKey
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Sent

ChillShape = Literal["pan", "mould", "cylinder", "sphere"]


class ChillQuestion(Sent):
    """A food that cools in a pan, pot or bag."""

    food: FoodKey = field("choice", "custard", main=True)
    mass_kg: float = field("mass", 6.4, 0.05, 500, "kg", main=True)
    shape: ChillShape = field("choice", "pan", main=True)
    depth_m: float = field("length", 0.16, 0.005, 0.6, "mm", 0.005, main=True)
    width_m: float | None = field("length", None, 0.01, 1.0, "mm", 0.005, only={"shape": ("mould",)})
    both_sides: bool = field("flag", True)
    stirred: bool = field("flag", False, main=True)
    covered: bool = field("flag", False)
    start_c: float = field("temperature", 82, 5, 110, main=True)
    waited_s: float | None = field("time", None, 0, 86400, "min", 300)
    medium: AllRoundKey = field("choice", "bench", main=True)
    surroundings_c: float = field("temperature", 20, -45, 45, main=True)
    chiller_w: float | None = field("number", None, 50, 100000, "W")
    rule_set: RuleSetId = field("choice", "us", main=True)
    kept_as: Literal["cook_chill", "few_days"] = field("choice", "cook_chill")  # where a rule set tells them apart
    pans: float = field("number", 1, 1, 60, step=1)
    uncured: Literal["yes", "no"] = field("choice", "yes")
    spread_thickness_m: float = field("length", 0.003, 0, 0.05, "mm", 0.001)
    spread_start_c: float = field("difference", 2, 0, 10, step=0.5)
    spread_bath_c: float = field("difference", 1, 0, 5, step=0.1)
    spread_probe_c: float = field("difference", 0.25, 0, 5, step=0.05)
