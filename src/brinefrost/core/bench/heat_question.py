"""What is asked of a heat."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.food.media import AllRoundKey, FoodKey, ShapeKey
from brinefrost.core.kitchen.cooked import Guests
from brinefrost.core.kitchen.lines import Animal, PieceState
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Document, Sent, Source

TargetKey = Literal[
    "listeria",
    "salmonella_meat",
    "salmonella_meat_7",
    "salmonella_poultry",
    "botulinum",
    "botulinum_acmsf",
    "trichinella",
    "egg_yolk",
    "egg_yolk_salted",
    "egg_whole",
    "egg_white",
    "egg_shell",
    "e_coli_acid",
    "e_coli_acid_46",
    "custard",
    "custard_baked",
    "anisakis",
    "norovirus",
]
Programme = Literal["steady", "rising", "fading"]
LONGEST_S = 72 * 3600.0
ANIMALS: dict[str, Animal] = {  # whose line a food answers to where nobody says more
    "red_meat": "beef", "poultry": "poultry", "fish": "fish", "stew": "beef", "egg_sauce": "egg", "custard": "egg",
    "vegetable": "plant", "fat_meat": "other_bird", "composition": "beef",
}  # fmt: skip
CONDUCTION = Source(citation="Carslaw & Jaeger, Conduction of Heat in Solids (1959), ch. III, VII, IX", tag="published")


class LaterStage(Document):
    """What comes after: rest, another heat, a chill."""

    medium: AllRoundKey = field("choice", "bench")
    temperature_c: float = field("temperature", 20, -5, 120)
    duration_s: float = field("time", 1800, 60, 72 * 3600, "min")


class Recorded(Document):
    """One reading of what surrounded the food."""

    time_s: float = field("time", 0, 0, 72 * 3600, "min")
    temperature_c: float = field("temperature", 20, -5, 250)


class HeatQuestion(Sent):
    """A piece, what surrounds it, for how long, and what it must reach."""

    food: FoodKey | Literal["composition"] = field("choice", "red_meat", main=True)
    animal: Animal | Literal["by_food"] = field("choice", "by_food")
    piece: PieceState = field("choice", "whole", main=True)
    water_percent: float = field("percent", 70, 0, 100, step=1, only={"food": ("composition",)}, main=True)
    protein_percent: float = field("percent", 20, 0, 100, step=1, only={"food": ("composition",)})
    fat_percent: float = field("percent", 9, 0, 100, step=1, only={"food": ("composition",)}, main=True)
    carbohydrate_percent: float = field("percent", 0, 0, 100, step=1, only={"food": ("composition",)})
    ash_percent: float = field("percent", 1, 0, 30, step=0.5, only={"food": ("composition",)})
    shape: ShapeKey = field("choice", "cylinder", main=True)
    thickness_m: float = field("length", 0.05, 0.003, 0.3, "mm", 0.001, main=True)
    length_m: float = field("length", 0.15, 0.003, 0.6, "mm", 0.005, only={"shape": ("finite_cylinder", "brick")})
    width_m: float = field("length", 0.1, 0.003, 0.6, "mm", 0.005, only={"shape": ("brick",)})
    start_c: float = field("temperature", 5, -2, 60, step=0.5, main=True)
    medium: AllRoundKey = field("choice", "bath", main=True)
    surroundings_c: float = field("temperature", 57, 0, 120, step=0.5, main=True)
    duration_s: float = field("time", 3600, 60, 72 * 3600, "min", 300, main=True)
    wanted_core_c: float | None = field("temperature", None, 0, 120)
    target: TargetKey | Literal["line"] = field("choice", "salmonella_meat", main=True)
    rule_set: RuleSetId = field("choice", "us")
    approved: bool = field("flag", False)
    guests: Guests = field("choice", "general")
    cured: bool = field("flag", False)
    altitude_m: float = field("height", 2140, -100, 4500)
    programme: Programme = field("choice", "steady")
    final_c: float = field("temperature", 30, 0, 120, only={"programme": ("rising", "fading")})
    fading_s: float = field("time", 4 * 3600, 600, 48 * 3600, "h", only={"programme": ("fading",)})
    load_kg: float = field("mass", 0, 0, 200, "kg", only={"medium": ("bath",)})
    water_kg: float = field("mass", 20, 2, 2000, "kg", only={"medium": ("bath",)})
    heater_w: float = field("number", 2000, 0, 60000, "W", only={"medium": ("bath",)})
    recorded: tuple[Recorded, ...] = field("rows", (), most=200, file="surroundings")
    later: tuple[LaterStage, ...] = field("rows", (), most=6)
    spread_thickness_m: float = field("length", 0.002, 0, 0.05, "mm", 0.001)
    spread_start_c: float = field("difference", 1, 0, 10, step=0.5)
    spread_bath_c: float = field("difference", 0.3, 0, 5, step=0.1)
    spread_probe_c: float = field("difference", 0.25, 0, 5, step=0.05)


def animal_of(question: HeatQuestion) -> Animal:
    """Whose line the food answers to."""
    return ANIMALS[question.food] if question.animal == "by_food" else question.animal


def piece_asked(question: HeatQuestion) -> PieceState:
    """A stew is of pieces, no whole roast; a custard or egg sauce is of eggs beaten together, a ball of it one egg."""
    if question.piece != "whole" or (question.food == "custard" and question.shape == "sphere"):
        return question.piece
    return {"stew": "steak", "custard": "minced", "egg_sauce": "minced"}.get(question.food, "whole")  # type: ignore[return-value]
