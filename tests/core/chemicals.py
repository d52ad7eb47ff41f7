"""Amounts of acids as bottles and recipes give them, for the checks of the core's chemistry."""

from brinefrost.core.chemistry.acid import ACIDS

# by how much a litre grows heavier with each per cent [g]; CRC Handbook of Chemistry and Physics
HEAVIER_G_L = {"acetic": 1.4, "citric": 3.9, "lactic": 2.5, "malic": 4.0, "tartaric": 4.7}


def molality_of(acid: str, percent_w_v: float) -> float:
    """The amount [mol/kg of water] of so many grams of an acid in 100 mL of its solution, good to 1 % up to 10 %."""
    water_kg_l = (998 + HEAVIER_G_L[acid] * percent_w_v - 10 * percent_w_v) / 1000
    return percent_w_v * 10 / ACIDS[acid][1] / water_kg_l
