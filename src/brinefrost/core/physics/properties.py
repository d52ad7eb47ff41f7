"""How a food conducts and holds heat, from what it is made of."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import SHARE, TEMPERATURE, bounded, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import joined, num, say

PARTS = ("water", "protein", "fat", "carbohydrate", "fibre", "ash")

# Choi & Okos (1986), as in ASHRAE Handbook Refrigeration ch. 19, tables 1 and 2; coefficients of 1, t and t², t in °C
CONDUCTIVITY = {
    "water": (5.7109e-1, 1.7625e-3, -6.7036e-6),
    "protein": (1.7881e-1, 1.1958e-3, -2.7178e-6),
    "fat": (1.8071e-1, -2.7604e-4, -1.7749e-7),
    "carbohydrate": (2.0141e-1, 1.3874e-3, -4.3312e-6),
    "fibre": (1.8331e-1, 1.2497e-3, -3.1683e-6),
    "ash": (3.2962e-1, 1.4011e-3, -2.9069e-6),
}
DENSITY = {
    "water": (9.9718e2, 3.1439e-3, -3.7574e-3),
    "protein": (1.3299e3, -5.1840e-1, 0.0),
    "fat": (9.2559e2, -4.1757e-1, 0.0),
    "carbohydrate": (1.5991e3, -3.1046e-1, 0.0),
    "fibre": (1.3115e3, -3.6589e-1, 0.0),
    "ash": (2.4238e3, -2.8063e-1, 0.0),
}
HEAT_CAPACITY = {
    "water": (4.1289e3, -9.0864e-2, 5.4731e-3),
    "protein": (2.0082e3, 1.2089, -1.3129e-3),
    "fat": (1.9842e3, 1.4733, -4.8008e-3),
    "carbohydrate": (1.5488e3, 1.9625, -5.9399e-3),
    "fibre": (1.8459e3, 1.8306, -4.6509e-3),
    "ash": (1.0926e3, 1.8896, -3.6817e-3),
}
LOW_C, HIGH_C = 0.0, 150.0


@dataclass(frozen=True)
class Properties:
    """What the heat equation needs to know of a food."""

    conductivity_w_mk: float
    density_kg_m3: float
    heat_capacity_j_kgk: float

    @property
    def diffusivity_m2_s(self) -> float:
        """k / (ρ c) [m²/s].

        Valid wherever the properties are.
        """
        return self.conductivity_w_mk / (self.density_kg_m3 * self.heat_capacity_j_kgk)


@bounded(temperature_c=TEMPERATURE)
def properties_from_composition(shares: dict[str, float], temperature_c: float) -> Properties:
    """Thermal properties of an unfrozen food.

    Parameters
    ----------
    shares : dict of str to float
        Mass fractions of ``PARTS`` [-]; what is missing counts as nothing.
    temperature_c : float
        [°C].

    Returns
    -------
    Properties
        Conductivity [W/m·K], density [kg/m³], heat capacity [J/kg·K].

    Raises
    ------
    OutOfRangeError
        If a part is not known, the fractions do not come to 1 within 2 %, or the temperature is outside 0 to 150 °C.

    Notes
    -----
    Valid for unfrozen food without much air, 0 to 150 °C; conductivity by the parallel model, which is
    within about 10 % for moist foods.

    References
    ----------
    Choi & Okos (1986), Effects of temperature and composition on the thermal properties of foods; ASHRAE
    Handbook, Refrigeration, ch. 19, tables 1 and 2 (from memory; compared with CoolProp in tests).
    """
    for name, share in shares.items():
        check(name, share, SHARE)
    unknown = set(shares) - set(PARTS)
    total = sum(shares.values())
    if unknown or min(shares.values(), default=-1.0) < 0 or not 0.98 <= total <= 1.02:
        raise OutOfRangeError(
            say(
                "physics.properties.the_composition_must_name_and_come",
                parts=joined(PARTS, ", "),
                total=num(total * 100, ".0f"),
            ),
            total=total,
        )
    if not LOW_C <= temperature_c <= HIGH_C:
        raise OutOfRangeError(
            say("physics.properties.thermal_properties_are_known_from_to"), temperature_c=temperature_c
        )
    powers = np.array([1.0, temperature_c, temperature_c**2])
    parts = {name: share / total for name, share in shares.items() if share > 0}
    densities = {name: float(powers @ np.array(DENSITY[name])) for name in parts}
    volume = {name: share / densities[name] for name, share in parts.items()}
    whole = sum(volume.values())
    conductivity = sum(volume[name] / whole * float(powers @ np.array(CONDUCTIVITY[name])) for name in parts)
    capacity = sum(share * float(powers @ np.array(HEAT_CAPACITY[name])) for name, share in parts.items())
    return Properties(conductivity, 1.0 / whole, capacity)
