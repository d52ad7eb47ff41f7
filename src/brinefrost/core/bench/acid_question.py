"""What the Bench asks about a pickle."""

from typing import Literal

from brinefrost.core.chemistry.jar import (
    VegetableKey,
)
from brinefrost.core.fields import field
from brinefrost.core.words import say
from brinefrost.core.working import Sent


class AcidQuestion(Sent):
    """What goes into the jar, and how it is kept."""

    vegetable: VegetableKey = field("choice", "onion", main=True)
    vegetable_kg: float = field("mass", 1, 0.001, 500, "g", 0.05, main=True)
    vinegar_kg: float = field("mass", 0.333, 0, 500, "g", 0.01, main=True)
    vinegar_percent: float = field("percent", 6, 0, 25, step=0.1, main=True)
    second_vinegar_kg: float = field("mass", 0.333, 0, 500, "g", 0.01, main=True)
    second_vinegar_percent: float = field("percent", 4.3, 0, 25, step=0.1, main=True)
    water_kg: float = field("mass", 0.333, 0, 500, "g", 0.01, main=True)
    salt_kg: float = field("mass", 0.02, 0, 100, "g", 0.001)
    sugar_kg: float = field("mass", 0.05, 0, 300, "g", 0.01)
    other_acid: Literal["none", "citric", "lactic", "malic", "tartaric"] = field("choice", "none")
    other_acid_kg: float = field(
        "mass", 0, 0, 50, "g", 0.001, only={"other_acid": ("citric", "lactic", "malic", "tartaric")}
    )
    target_ph: float = field("ph", 4.0, 2.8, 4.6, step=0.1, main=True)
    piece_m: float = field("length", 0.003, 0.001, 0.1, "mm", 0.001, main=True)
    fill_c: float = field("temperature", 90, 0, 100)
    kept_c: float = field("temperature", 4, 0, 40)
    measured_ph: float | None = field("ph", None, 1, 9)
    sample: Literal["blended", "brine"] = field("choice", "blended")
    rested_s: float = field("time", 24 * 3600, 0, 60 * 86400, "h")
    ph_uncertainty: float = field("number", 0.05, 0, 0.5, "pH")
    base_ml: float | None = field("number", None, 0.1, 200, say("bench.acid.ml_naoh"))
    base_mol_l: float = field("number", 0.1, 0.001, 2, "mol/L")
    sample_g: float = field("mass", 0.01, 0.0005, 1, "g")
    jar_diameter_m: float = field("length", 0.08, 0.03, 0.3, "mm", 0.005)
    jar_height_m: float = field("length", 0.11, 0.03, 0.5, "mm", 0.005)
    process_c: float = field("temperature", 82, 40, 100)
