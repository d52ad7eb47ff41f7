"""What the Bench asks about eggs."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Sent

Form = Literal["shell", "sauce", "custard", "pooled"]


EggPart = Literal["yolk", "whole", "white"]


class EggQuestion(Sent):
    """Eggs in their shells, a bag of egg sauce, or a pool of eggs."""

    form: Form = field("choice", "shell", main=True)
    mass_kg: float = field("mass", 0.06, 0.02, 0.15, "g", 0.001, main=True, only={"form": ("shell",)})
    thickness_m: float = field(
        "length", 0.02, 0.003, 0.1, "mm", 0.001, main=True, only={"form": ("sauce", "custard", "pooled")}
    )
    part: EggPart = field("choice", "yolk", only={"form": ("sauce", "pooled")})
    salt_percent: float = field("percent", 2.7, 0, 15, step=0.1, only={"form": ("sauce", "pooled")}, main=True)
    sugar_percent: float = field("percent", 0, 0, 60, step=1, only={"form": ("sauce", "custard", "pooled")}, main=True)
    start_c: float = field("temperature", 5, 0, 40, main=True)
    boiling: bool = field("flag", False, main=True)
    water_c: float = field("temperature", 60, 50, 100, step=0.5, main=True)
    duration_s: float = field("time", 3600, 10, 8 * 3600, "min", 60, main=True)
    altitude_m: float = field("height", 2140, 0, 4500, main=True)
    held_s: float = field("time", 0, 0, 24 * 3600, "h")
    held_c: float = field("temperature", 60, 0, 90)
    eggs: float = field("number", 1, 1, 1000, "eggs", step=1)
    guests: Literal["general", "higher_risk"] = field("choice", "general")
    pasteurised: bool = field("flag", False)
    rule_set: RuleSetId = field("choice", "us")
