"""What the Bench asks about salting."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.working import Sent

SaltWay = Literal["brine", "dry", "rub"]


SaltPurpose = Literal["season", "cure", "preserve"]


SaltShape = Literal["slab", "cylinder", "sphere"]


FLESH = Literal["red_meat", "pork", "poultry", "fish", "fat_fish"]


class SaltQuestion(Sent):
    """What is salted, how, for how long."""

    way: SaltWay = field("choice", "brine", main=True)
    purpose: SaltPurpose = field("choice", "season", main=True)
    flesh: FLESH = field("choice", "pork", main=True)
    nitrite_ppm: float = field("number", 0, 0, 700, "ppm", only={"purpose": ("cure", "preserve")})
    food_kg: float = field("mass", 1.2, 0.01, 500, "kg", main=True)
    thickness_m: float = field("length", 0.05, 0.002, 0.3, "mm", 0.001, main=True)
    shape: SaltShape = field("choice", "slab")
    water_kg: float = field("mass", 2, 0, 2000, "kg", main=True, only={"way": ("brine",)})
    salt_kg: float = field("mass", 0.06, 0, 500, "g", 0.005, main=True, only={"way": ("brine", "dry")})
    rub_ml: float = field("number", 60, 0, 20000, "mL", only={"way": ("rub",)}, main=True)
    rub_salt_parts: float = field("number", 1, 0, 20, "parts", only={"way": ("rub",)})
    rub_other_parts: float = field("number", 1, 0, 20, "parts", only={"way": ("rub",)})
    duration_s: float = field("time", 12 * 3600, 600, 120 * 86400, "h", 3600, main=True)
    kept_c: float = field("temperature", 4, 0, 25, main=True)
    brine_in_c: float = field("temperature", 4, 0, 100, only={"way": ("brine",)})
    wanted_percent: float = field("percent", 1.8, 0.2, 12, step=0.1)
    gravity_kg_m3: float | None = field("number", None, 1000, 1200, "kg/m³")
