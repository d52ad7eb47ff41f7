"""What can surround a food, with the surface coefficient planned with, and foods with their thermal values."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.words import height, say, temp
from brinefrost.core.working import Document, Source

MediumKey = Literal[
    "bath",
    "boiling",
    "steam",
    "fan_oven",
    "still_oven",
    "still_fat",
    "frying",
    "pan",
    "pressure",
    "oven_bath",
    "smoke_pan",
    "slurry",
    "blast",
    "fan_fridge",
    "still_fridge",
    "bench",
]
AllRoundKey = Literal[  # that heat or cool every face alike, which is what the Bench asks of
    "bath", "boiling", "steam", "fan_oven", "still_oven", "still_fat", "frying", "oven_bath", "smoke_pan", "slurry",
    "blast", "fan_fridge", "still_fridge", "bench",
]  # fmt: skip
FoodKey = Literal["red_meat", "poultry", "fish", "stew", "egg_sauce", "custard", "vegetable", "fat_meat"]
ShapeKey = Literal["slab", "cylinder", "sphere", "finite_cylinder", "brick"]


HOTTEST_PRESSURE_C = 130.0  # steam of 1.7 bar over the sea's; kitchens have no hotter, common practice, no source


class Medium(Document):
    """A surrounding: its coefficient on the slow side of the band."""

    key: str
    name: str
    h_w_m2k: float
    low: float
    high: float
    source: Source


class ThermalValues(Document):
    """A food: planned on the slow side."""

    key: FoodKey | Literal["composition"]
    name: str
    diffusivity_m2_s: float
    conductivity_w_mk: float
    density_kg_m3: float
    heat_capacity_j_kgk: float
    source: Source


@lru_cache(maxsize=1)
def _data() -> tuple[dict[str, Medium], dict[str, ThermalValues]]:
    text = resources.files(__name__.rpartition(".")[0]).joinpath("media.toml").read_text(encoding="utf-8")
    data = tomllib.loads(text)
    media = [Medium.model_validate(each) for each in data["media"]]
    foods = [ThermalValues.model_validate(each) for each in data["foods"]]
    return {m.key: m for m in media}, {f.key: f for f in foods}


WATER: tuple[MediumKey, ...] = (
    "bath",
    "boiling",
    "steam",
    "oven_bath",
)  # no hotter than water boils at the kitchen's height
CHILLERS: tuple[MediumKey, ...] = ("slurry", "blast", "fan_fridge", "still_fridge")
# what a usual chiller of a kitchen takes up [W]; ice takes what comes; common practice, no source
USUAL_W: dict[str, float] = {"blast": 3000.0, "fan_fridge": 1000.0, "still_fridge": 300.0}
LIGHT_KG = 2.0  # less than this troubles no chiller; common practice, no source
COLDEST_SLURRY_C, WARMEST_SLURRY_C = -5.0, 5.0


def check_medium(key: MediumKey, temperature_c: float, altitude_m: float) -> None:
    """Refuse what a surrounding cannot be: water above its boiling point [°C, m], a slurry that is warm.

    Valid for altitudes of the standard atmosphere; OutOfRangeError says what to do.
    """
    highest = boiling_c(altitude_m)
    if key in WATER and temperature_c > highest + 0.05:
        raise OutOfRangeError(
            say(
                "food.media.at_m_water_boils_at_open",
                altitude=height(altitude_m),
                highest=temp(highest, ".1f"),
                temperature=temp(temperature_c, "g"),
            ),
            surroundings_c=temperature_c,
        )
    if key == "slurry" and not COLDEST_SLURRY_C <= temperature_c <= WARMEST_SLURRY_C:
        raise OutOfRangeError(
            say("food.media.ice_and_water_lie_near_not", temperature=temp(temperature_c, "g")),
            surroundings_c=temperature_c,
        )
    if key == "pressure" and temperature_c > HOTTEST_PRESSURE_C:
        raise OutOfRangeError(
            say("food.media.a_is_not_at_enter_what", name=medium(key).name, temperature=temp(temperature_c, "g"))
        )
    if key in CHILLERS and temperature_c > 25:
        raise OutOfRangeError(
            say("food.media.a_is_not_at_enter_what", name=medium(key).name, temperature=temp(temperature_c, "g"))
        )


def media() -> tuple[Medium, ...]:
    """Every surrounding of the table."""
    return tuple(_data()[0].values())


def medium(key: MediumKey) -> Medium:
    """The surrounding of a key."""
    return _data()[0][key]


def food(key: FoodKey) -> ThermalValues:
    """The food of a key."""
    return _data()[1][key]


def body_of(shape: ShapeKey, thickness_m: float, length_m: float, width_m: float, kind: ThermalValues) -> Body:
    """A piece of a food, all lengths [m]; length closes a finite cylinder, length and width a brick.

    Valid as ``Body``, which raises OutOfRangeError outside its lengths.
    """
    others = {"finite_cylinder": (length_m / 2,), "brick": (length_m / 2, width_m / 2)}.get(shape, ())
    base = {"finite_cylinder": Shape.cylinder, "brick": Shape.slab}.get(shape)
    base = Shape[shape] if base is None else base
    return Body(base, thickness_m / 2, kind.diffusivity_m2_s, kind.conductivity_w_mk, others)
