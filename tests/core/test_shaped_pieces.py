"""The shape of a piece in a plan's steps: a block or a cup is neither slower nor quicker than the sums say."""

import math

import numpy as np
import pytest
from scipy.optimize import brentq
from scipy.special import j0, j1

from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.physics.settling import Settling
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from tests.core.dish_notation import read_dish

ALPHA, K = 1.3e-7, 0.48
BLOCK = "shape=brick length_m=0.2 width_m=0.1"
CUP = "shape=finite_cylinder length_m=0.06"


def _slab_theta(biot: float, fourier: float) -> float:
    """Carslaw & Jaeger (1959), 3.11: the series of the infinite slab, roots of β tan β = Bi."""
    total = 0.0
    for n in range(40):
        low, high = n * math.pi + 1e-9, n * math.pi + math.pi / 2 - 1e-9
        root = brentq(lambda b: b * math.tan(b) - biot, low, high)
        total += 4 * math.sin(root) / (2 * root + math.sin(2 * root)) * math.exp(-(root**2) * fourier)
    return total


def _cylinder_theta(biot: float, fourier: float) -> float:
    """Carslaw & Jaeger (1959), 7.7: roots of β J1(β) = Bi J0(β)."""
    total, found, step = 0.0, 0, 0.02
    at = step
    while found < 30:

        def off(b: float) -> float:
            return float(b * j1(b) - biot * j0(b))

        if off(at) * off(at + step) < 0:
            root = brentq(off, at, at + step)
            total += 2 * biot / ((root**2 + biot**2) * j0(root)) * math.exp(-(root**2) * fourier)
            found += 1
        at += step
    return total


@pytest.mark.parametrize("hours", [0.75, 1.5, 3])
@pytest.mark.parametrize("h", [12.0, 95.0])
def test_a_block_is_the_product_of_three_slabs(h: float, hours: float) -> None:
    """Newman (1936): what is left of a brick's way is the product of what is left of three slabs' ways."""
    halves = (0.03, 0.05, 0.1)
    left = math.prod(_slab_theta(h * half / K, ALPHA * hours * 3600 / half**2) for half in halves)
    body = Body(Shape.slab, halves[0], ALPHA, K, halves[1:])
    core = heat_through(body, [Stage.steady(hours * 3600, 90, h)], 5, 60).core_c[-1]
    assert core == pytest.approx(90 - 85 * left, abs=0.02)
    pace = Settling(body, h, 90, 0.0, 5.0)
    assert pace.core_c(np.array([hours * 3600.0]), 1.0)[0] == pytest.approx(90 - 85 * left, abs=0.02)


@pytest.mark.parametrize("hours", [0.5, 1.5])
def test_a_cup_is_the_product_of_a_cylinder_and_a_slab(hours: float) -> None:
    """Newman (1936), for the short cylinder."""
    h, radius, half = 60.0, 0.035, 0.03
    left = _cylinder_theta(h * radius / K, ALPHA * hours * 3600 / radius**2)
    left *= _slab_theta(h * half / K, ALPHA * hours * 3600 / half**2)
    body = Body(Shape.cylinder, radius, ALPHA, K, (half,))
    core = heat_through(body, [Stage.steady(hours * 3600, 88, h)], 6, 30).core_c[-1]
    assert core == pytest.approx(88 - 82 * left, abs=0.02)


def _core_ends(steps: str, rules: str = "us") -> dict[str, float]:
    plan = Plan.model_validate(read_dish(f"dish | {rules} | pork-mince | {steps} | shape").plan(rules))
    course = simulated(plan)[1]
    return {step.id: course.core_at(course.spans[step.id][1]) for step in plan.steps}


@pytest.mark.parametrize("sides", [BLOCK, CUP])
@pytest.mark.parametrize("heat", ["oven 130C 60mm 90min", "bag 80C 60mm 90min", "steam 95C 60mm 60min", "frying"])
def test_more_sides_are_never_slower(heat: str, sides: str) -> None:
    heat = "fry 170C 60mm 40min" if heat == "frying" else heat
    flat = _core_ends(f"{heat}; blast -4C 60mm 3h")
    shaped = _core_ends(f"{heat} {sides}; blast -4C 60mm 3h {sides}")
    key, chill = list(flat)[1:3]
    assert shaped[key] > flat[key] + 1
    assert shaped[chill] < flat[chill] - 1


@pytest.mark.parametrize("open_oven", ["oven 170C 60mm 100min open", "oven 170C 60mm 150min start_c=-18"])
def test_what_is_followed_along_its_thickness_alone_is_as_slow_as_a_slab(open_oven: str) -> None:
    """A dry surface and ice are followed along the thickness: a block is then no quicker than it might be."""
    flat, block = _core_ends(open_oven), _core_ends(f"{open_oven} {BLOCK}")
    key = list(flat)[1]
    assert block[key] == pytest.approx(flat[key], abs=0.3)


def test_a_block_goes_on_from_a_dry_oven_as_warm_as_it_was() -> None:
    """No jump where shells hand over to the modes of a block."""
    ends = _core_ends(f"oven 170C 60mm 90min open {BLOCK}; steam 90C 60mm 2min {BLOCK}")
    first, second = list(ends.values())[1:3]
    assert second == pytest.approx(first, abs=2.0)


def test_a_chill_of_another_shape_begins_as_even_as_it_is_on_average() -> None:
    ends = _core_ends(f"bag 80C 60mm 4h {BLOCK}; blast -4C 60mm 3h")
    flat = _core_ends("bag 80C 60mm 9h; blast -4C 60mm 3h")
    assert list(ends.values())[2] == pytest.approx(list(flat.values())[2], abs=1.5)
