"""A pot of liquid that is stirred: heated as a whole by a burner, chilled as a whole in ice or running water."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import ABOVE_0, COEFFICIENT, MASS, SPAN, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.cooling import pot_area_m2
from brinefrost.core.physics.reservoir import FUSION_J_KG, WATER_J_KGK
from brinefrost.core.words import say

DENSITY_KG_M3 = 1000.0
LOSES_H = 12.0  # a pot in a kitchen's air [W/m²K], still air and radiation; common practice
ROOM_C, ICE_C = 20.0, 0.5
LONGEST_S = 6 * 3600.0  # a burner that takes longer is not waited for
POINTS = 240


@dataclass(frozen=True)
class Pot:
    """A round pot, as deep filled as it is wide: what is in it [kg], and whether it has a lid."""

    mass_kg: float
    covered: bool = True

    def __post_init__(self) -> None:
        if not 0.2 <= self.mass_kg <= 800:
            raise OutOfRangeError(say("physics.pot.a_pot_holds"), mass_kg=self.mass_kg)

    @property
    def wide_m(self) -> float:
        """Its width, and how deep it is filled [m]. Valid for every pot; geometry."""
        return float((4 * self.mass_kg / DENSITY_KG_M3 / np.pi) ** (1 / 3))

    @property
    def wet_area_m2(self) -> float:
        """Side and base, which stand in a bath [m²]. Valid for every pot; geometry."""
        volume = self.mass_kg / DENSITY_KG_M3
        return pot_area_m2(volume, self.wide_m, covered=True) + float(np.pi * self.wide_m**2 / 4)

    @property
    def capacity_j_k(self) -> float:
        """Heat it takes [J/K], as water: on the slow side. Valid for every pot."""
        return self.mass_kg * WATER_J_KGK


@bounded(power_w=ABOVE_0, start_c=TEMPERATURE, target_c=TEMPERATURE, held_s=SPAN)
def heat_pot(pot: Pot, power_w: float, start_c: float, target_c: float, held_s: float) -> tuple[Array, Array]:
    """A stirred pot on its burner: up to a temperature, and held there.

    Parameters
    ----------
    pot : Pot
        What is heated.
    power_w : float
        What goes into the pot [W].
    start_c, target_c : float
        [°C].
    held_s : float
        How long it is held once it is there [s].

    Returns
    -------
    tuple of array
        Times [s] and temperature of the liquid [°C], each (n,); it stays below the target where the burner cannot.

    Raises
    ------
    OutOfRangeError
        If a number lies outside its range.

    Notes
    -----
    Valid while stirring or its own boiling keeps the liquid even.

    References
    ----------
    Heat balance, Singh & Heldman, ch. 4: m c dT/dt = P - U A (T - room).
    """
    loses = LOSES_H * pot_area_m2(pot.mass_kg / DENSITY_KG_M3, pot.wide_m, pot.covered)
    tau, rests = pot.capacity_j_k / loses, ROOM_C + power_w / loses
    there = LONGEST_S
    if start_c >= target_c:
        there = 0.0
    elif rests > target_c:
        there = min(float(tau * np.log((rests - start_c) / (rests - target_c))), LONGEST_S)
    times = np.unique(np.concatenate((np.linspace(0.0, there, POINTS), np.linspace(there, there + held_s, POINTS))))
    rising = rests + (start_c - rests) * np.exp(-np.minimum(times, there) / tau)
    if start_c >= target_c:
        return times, np.full(len(times), target_c)
    return times, np.minimum(rising, target_c)


@bounded(start_c=TEMPERATURE, water_c=TEMPERATURE, ice_kg=MASS, h_w_m2k=COEFFICIENT, duration_s=SPAN)
def chill_pot(
    pot: Pot, start_c: float, water_c: float, ice_kg: float, h_w_m2k: float, duration_s: float
) -> tuple[Array, Array, Array]:
    """A stirred pot in ice and water, or in running water.

    Parameters
    ----------
    pot : Pot
        What is chilled.
    start_c, water_c : float
        The liquid, and running water [°C].
    ice_kg : float
        In as much water again [kg]; 0 for running water.
    h_w_m2k : float
        Through the wall, from liquid to bath [W/m²·K].
    duration_s : float
        [s].

    Returns
    -------
    tuple of array
        Times [s], the liquid and the bath [°C], each (n,).

    Raises
    ------
    OutOfRangeError
        If a number lies outside its range.

    Notes
    -----
    Valid while both are stirred. Once its ice is gone the bath warms.

    References
    ----------
    Newton's law of cooling and heat balance of the bath, Singh & Heldman, ch. 4.
    """
    steps = 8 * POINTS
    seconds, passes = duration_s / steps, h_w_m2k * pot.wet_area_m2
    bath_j_k, ice_j = 2 * ice_kg * WATER_J_KGK, ice_kg * FUSION_J_KG
    liquid, bath = start_c, ICE_C if ice_kg > 0 else water_c
    rows = [(liquid, bath)]
    fades = float(np.exp(-seconds * passes / pot.capacity_j_k))
    for _ in range(steps):
        given = (liquid - bath) * (1 - fades) * pot.capacity_j_k
        liquid -= given / pot.capacity_j_k
        if ice_j > 0:
            ice_j -= given
        elif bath_j_k > 0:
            bath += given / bath_j_k
        rows.append((liquid, bath))
    found = np.array(rows)[::8]
    return np.linspace(0.0, duration_s, POINTS + 1), found[:, 0], found[:, 1]
