"""How food falls in its pan, and what load its chiller then bears."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.food.media import LIGHT_KG, USUAL_W, ThermalValues, medium
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.cooling import lumped_c, pot_area_m2, taken_s
from brinefrost.core.physics.heating import Heating

AMBIENT_C = 30.0  # food that begins no warmer was made at room temperature


PORTION_KG = 1.0  # a portion cools through its side too


HORIZON_S = 24 * 3600.0


CELLS = 24


def chiller_w(question: ChillQuestion) -> float:
    """What the chiller takes up at its best [W]: as entered, else a usual one of its kind; ice takes what comes.

    Valid for every medium.
    """
    return USUAL_W.get(question.medium, np.inf) if question.chiller_w is None else question.chiller_w


def first_load_w(question: ChillQuestion, kind: ThermalValues) -> float:
    """What all the food gives off over its first ten minutes [W]."""
    times = np.array([0.0, 600.0])
    mean = falls(question, kind, question.depth_m, times).mean
    span = question.start_c - question.surroundings_c
    return float(span * (mean[0] - mean[1]) * question.mass_kg * kind.heat_capacity_j_kgk / 600.0)


def body_in(question: ChillQuestion, kind: ThermalValues, depth_m: float) -> Body:
    """The food as it stands [m]: a pan as a slab; a mould, a small portion, a roll or an egg by its own shape.

    Valid as ``Body``, whose OutOfRangeError it raises.
    """
    both = question.both_sides and not question.covered
    share_m3 = question.mass_kg / question.pans / kind.density_kg_m3
    if question.shape in ("cylinder", "sphere"):
        return Body(Shape[question.shape], depth_m / 2, kind.diffusivity_m2_s, kind.conductivity_w_mk)
    round_m = question.width_m or 2 * float(np.sqrt(share_m3 / (np.pi * depth_m)))
    small = question.mass_kg / question.pans <= PORTION_KG and round_m < 4 * depth_m
    upright = depth_m / 2 if both else depth_m
    if question.shape == "mould" or small:
        return Body(Shape.cylinder, round_m / 2, kind.diffusivity_m2_s, kind.conductivity_w_mk, (upright,))
    return Body(Shape.slab, upright, kind.diffusivity_m2_s, kind.conductivity_w_mk)


@dataclass(frozen=True)
class Fall:
    """How far the middle and the mean still are from their surroundings, of the way they began with [-], (n,)."""

    core: Array
    mean: Array

    def in_air(self, question: ChillQuestion, kind: ThermalValues, air_c: float, times_s: Array) -> Array:
        """The core [°C] in such air; where the chiller cannot take the heat, time runs as slowly as it takes it.

        Valid for every air [°C] and times that rise [s].
        """
        span = question.start_c - air_c
        free, power = air_c + span * self.core, chiller_w(question)
        if not np.isfinite(power) or (question.mass_kg <= LIGHT_KG and question.chiller_w is None):
            return free
        capacity = question.mass_kg * kind.heat_capacity_j_kgk
        return np.interp(times_s, taken_s(times_s, span * self.mean, capacity, power), free)


def falls(question: ChillQuestion, kind: ThermalValues, depth_m: float, times_s: Array) -> Fall:
    """Of one depth [m]; how warm the air is changes nothing of it."""
    h = medium(question.medium).h_w_m2k
    if question.stirred:
        share = question.mass_kg / question.pans
        area = pot_area_m2(share / kind.density_kg_m3, depth_m, question.covered)
        even = lumped_c(times_s, share, kind.heat_capacity_j_kgk, h, area, 1.0, 0.0)
        return Fall(even, even)
    unit = Heating(body_in(question, kind, depth_m), h, 1.0, 0.0)
    return Fall(unit.core_c(times_s), unit.mean_c(times_s))


def core_in(question: ChillQuestion, kind: ThermalValues, depth_m: float, times_s: Array) -> Array:
    """The core [°C] at times [s]."""
    return falls(question, kind, depth_m, times_s).in_air(question, kind, question.surroundings_c, times_s)
