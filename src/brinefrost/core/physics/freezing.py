"""Freezing times by Plank and Pham."""

from dataclasses import dataclass

from brinefrost.core.bounds import (
    Bound,
)
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Shape
from brinefrost.core.words import num, say

WAYS = {Shape.slab: 1.0, Shape.cylinder: 2.0, Shape.sphere: 3.0}
FUSION_J_KG = 333_600.0
LATENT = Bound(1e4, 4e5, "J/kg")
HIGHEST_BIOT = 11.0


@dataclass(frozen=True)
class Freezable:
    """A food as freezing sees it."""

    density_kg_m3: float
    water_share: float
    heat_capacity_j_kgk: float
    frozen_heat_capacity_j_kgk: float
    frozen_conductivity_w_mk: float
    freezing_point_c: float

    @property
    def latent_j_kg(self) -> float:
        """Heat of freezing its water [J/kg].

        Valid for the water that freezes; 334 kJ/kg of water.
        """
        return FUSION_J_KG * self.water_share


# ASHRAE Handbook, Refrigeration, ch. 19, table 3 (fish, lean meat), from memory, verify; rounded to the slow side
FISH = Freezable(1050.0, 0.78, 3600.0, 2000.0, 1.4, -1.9)
MEAT = Freezable(1050.0, 0.74, 3500.0, 1950.0, 1.3, -1.7)


def pham_s(
    food: Freezable,
    shape: Shape,
    thickness_m: float,
    h_w_m2k: float,
    start_c: float,
    final_core_c: float,
    air_c: float,
) -> float:
    """Time from the start to a final core temperature.

    Parameters
    ----------
    food : Freezable
        Its thermal values.
    shape : Shape
        Slab, cylinder or sphere.
    thickness_m : float
        Thickness or diameter [m].
    h_w_m2k : float
        Surface coefficient [W/m²·K].
    start_c, final_core_c, air_c : float
        [°C].

    Returns
    -------
    float
        [s].

    Raises
    ------
    OutOfRangeError
        If the final core is not below freezing and above the air, or a number is outside the method's range.

    Notes
    -----
    Valid for Biot up to 11, air -10 to -60 °C, start -1 to 60 °C; published for air of -15 to -45 °C, within about 10 %
    of published data and 9 to 15 % longer than an enthalpy model for 30 to 80 mm.

    References
    ----------
    Pham (1986), simplified equation for predicting the freezing time of foodstuffs, J. Food Technol. 21;
    Singh & Heldman, ch. 7: mean freezing temperature 1.8 + 0.263 Tc + 0.105 Ta.
    """
    if not air_c < final_core_c < food.freezing_point_c:
        raise OutOfRangeError(say("physics.freezing.the_final_core_must_lie_below"), final_core_c=final_core_c)
    if not (-60 <= air_c <= -10 and -1 <= start_c <= 60 and 0.002 <= thickness_m <= 0.6 and 2 <= h_w_m2k <= 1000):
        raise OutOfRangeError(say("physics.freezing.freezing_times_are_known_for_air"))
    mean_c = 1.8 + 0.263 * final_core_c + 0.105 * air_c
    chilling = food.density_kg_m3 * food.heat_capacity_j_kgk * max(start_c - mean_c, 0.0)
    freezing = food.density_kg_m3 * (food.latent_j_kg + food.frozen_heat_capacity_j_kgk * (mean_c - final_core_c))
    half = thickness_m / 2
    biot = h_w_m2k * half / food.frozen_conductivity_w_mk
    if biot > HIGHEST_BIOT:
        raise OutOfRangeError(
            say("physics.freezing.so_thick_a_piece_in_so", biot=num(biot, ".0f")),
            biot=biot,
        )
    drives = chilling / ((start_c + mean_c) / 2 - air_c) + freezing / (mean_c - air_c)
    return half / (WAYS[shape] * h_w_m2k) * drives * (1 + biot / 2)
