"""What the Bench asks about raw fish."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.kitchen.fish import Origin
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Document, Sent

SpeciesKey = Literal[
    "arctic_char", "trout", "atlantic_salmon", "pacific_salmon", "bluefin_tuna", "southern_bluefin", "yellowfin_tuna",
    "bigeye_tuna", "albacore", "blackfin_tuna", "skipjack", "mackerel", "herring", "sardine", "anchovy", "mahi",
    "amberjack", "bonito", "bluefish", "swordfish", "escolar", "pacific_bluefin", "cod", "halibut", "sea_bass",
    "sea_bream", "turbot", "pike", "haddock", "hake", "plaice", "sole", "monkfish", "perch", "zander", "carp", "eel",
    "cuttlefish", "octopus", "squid", "scallop", "oyster", "mussel", "shrimp", "roe",
]  # fmt: skip


Dish = Literal["raw", "citrus", "seared", "cold_smoked", "cooked"]


class Reading(Document):
    """One reading of the freezer's or the fish's temperature."""

    time_s: float = field("time", 0, 0, 40 * 86400, "h")
    temperature_c: float = field("temperature", -20, -80, 30)


class Handling(Document):
    """A time out of the cold."""

    temperature_c: float = field("temperature", 12, -5, 40)
    duration_s: float = field("time", 1200, 60, 7 * 86400, "min")


class FishQuestion(Sent):
    """Which fish, from where, made into what, frozen how, out for how long."""

    species: SpeciesKey = field("choice", "arctic_char", main=True)
    origin: Origin = field("choice", "wild", main=True)
    dish: Dish = field("choice", "citrus", main=True)
    rule_set: RuleSetId = field("choice", "us", main=True)
    guests: Literal["general", "higher_risk"] = field("choice", "general", main=True)
    dressing_s: float = field("time", 300, 0, 4 * 3600, "min", main=True, only={"dish": ("citrus",)})
    sear_s: float = field("time", 10, 1, 600, "s", main=True, only={"dish": ("seared",)})
    thickness_m: float = field("length", 0.03, 0.003, 0.3, "mm", 0.001, main=True)
    core_c: float | None = field("temperature", None, 0, 120, only={"dish": ("cooked",)})
    core_held_s: float = field("time", 0, 0, 4 * 3600, "min", only={"dish": ("cooked",)})
    freezer_c: float = field("temperature", -30, -60, -12)
    freezer_h: float = field("number", 15, 3, 200, "W/m²K")
    was_frozen: bool = field("flag", False)
    record: tuple[Reading, ...] = field("rows", (), most=200, main=True, file="record")
    out: tuple[Handling, ...] = field("rows", (Handling(),), most=40, main=True)
