"""A pan that heats one face at a time, against the method of lines by scipy and sums by hand."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.heat import HeatCourse, Stage, heat_through
from brinefrost.core.physics.pan import ROOM_C, ROOM_H, SLICES, Pan, carry_in_pan, roll_in_pan
from brinefrost.core.physics.phases import FREEZES_C, FROZEN_SHARE, FUSION_J_KG, ICE_W_MK, WATER_KG_M3

CELLS = 60
BURGER = Body(Shape.slab, 0.010, 1.3e-7, 0.48)
HOT = Pan(180.0, 300.0, 100.0, 300.0)


def slices_by_scipy(body: Body, start_c: float, pan: Pan, seconds: float) -> Array:
    """Temperature of every cell [°C] at each of some hundred times, (times, CELLS), by lines and scipy's BDF."""
    width, warm, k = 2 * body.half_thickness_m / CELLS, body.heat_capacity_j_m3k(), body.conductivity_w_mk

    def slopes(time: float, cells: Array) -> Array:
        frozen, cold = cells < FREEZES_C, np.minimum(cells, FREEZES_C)
        capacity = np.where(frozen, FROZEN_SHARE * warm - FUSION_J_KG * WATER_KG_M3 * FREEZES_C / cold**2, warm)
        conducts = np.where(frozen, k + (ICE_W_MK - k) * (1 - FREEZES_C / cold), k)
        between = (conducts[1:] + conducts[:-1]) / 2 * np.diff(cells) / width
        down = int(time // pan.turned_every_s) % 2
        enters = []
        for end in (0, -1):
            touches = (end == 0) == (down == 0)
            h, outside = (pan.h_w_m2k, pan.pan_c) if touches else (ROOM_H, ROOM_C)
            half = width / 2 / conducts[end]
            skin = min((h * outside + cells[end] / half) / (h + 1 / half), pan.boils_c)
            enters.append((skin - cells[end]) / half)
        return np.diff(np.concatenate(([-enters[0]], between, [enters[1]]))) / width / capacity

    rows, cells, time = [np.full(CELLS, start_c)], np.full(CELLS, start_c), 0.0
    while time < seconds - 1e-6:
        until = min(time + pan.turned_every_s, seconds)
        marks = np.linspace(time + 1e-9, until - 1e-9, 40)
        done = solve_ivp(slopes, (marks[0], marks[-1]), cells, method="BDF", rtol=1e-6, atol=1e-4, t_eval=marks)
        rows.extend(done.y.T)
        cells, time = done.y[:, -1], until
    return np.array(rows)


@pytest.mark.parametrize(
    ("half_m", "start_c", "pan", "seconds"),
    [
        (0.010, 5.0, HOT, 600.0),
        (0.010, 5.0, Pan(180.0, 300.0, 100.0, 60.0), 600.0),
        (0.0125, 5.0, Pan(200.0, 300.0, 92.9, 60.0), 720.0),
        (0.006, -18.0, Pan(180.0, 300.0, 100.0, 240.0), 480.0),
        (0.010, -18.0, Pan(200.0, 300.0, 100.0, 60.0), 900.0),
        (0.015, 20.0, Pan(150.0, 500.0, 100.0, 900.0), 900.0),
    ],
)
def test_the_pan_goes_as_finite_volumes_do(half_m: float, start_c: float, pan: Pan, seconds: float) -> None:
    body = Body(Shape.slab, half_m, 1.3e-7, 0.48)
    found = carry_in_pan(body, np.full(SLICES, start_c), seconds, pan)
    other = slices_by_scipy(body, start_c, pan, seconds)
    coldest = float(np.min(np.max(other, axis=0)))
    assert float(np.max(found.core_c)) == pytest.approx(coldest, abs=1.0)
    last = other[-1]
    even = (last[: CELLS // 2][::-1] + last[CELLS // 2 :]) / 2
    assert float(np.mean(found.shells_c)) == pytest.approx(float(np.mean(even)), abs=1.0)


def test_one_face_is_slower_than_both_and_turning_often_is_quicker_than_once() -> None:
    both = heat_through(BURGER, [Stage.steady(900.0, 180.0, 300.0)], 5.0)
    often = carry_in_pan(BURGER, np.full(SLICES, 5.0), 900.0, Pan(180.0, 300.0, 200.0, 60.0))
    reached, there = (float(way.times_s[np.flatnonzero(way.core_c >= 68.3)[0]]) for way in (both, often))
    assert reached < 0.8 * there
    once = carry_in_pan(BURGER, np.full(SLICES, 5.0), 600.0, HOT)
    turned = carry_in_pan(BURGER, np.full(SLICES, 5.0), 600.0, Pan(180.0, 300.0, 100.0, 60.0))
    assert float(np.max(once.core_c)) < float(np.max(turned.core_c))


def test_an_unturned_slab_comes_to_the_straight_line_between_its_faces() -> None:
    """Steady: the face that touches boils, the other gives h (T - 25); k (100 - T) / L = h (T - 25)."""
    found = carry_in_pan(BURGER, np.full(SLICES, 60.0), 7200.0, Pan(250.0, 5000.0, 100.0, 8000.0))
    through = 0.48 / 0.02
    face = (through * 100.0 + ROOM_H * ROOM_C) / (through + ROOM_H)
    assert float(found.surface_c[-1]) == pytest.approx(face, abs=0.3)
    assert float(found.mean_c[-1]) == pytest.approx((100.0 + face) / 2, abs=0.3)


def test_what_leaves_the_pan_goes_on_in_the_oven_from_the_mean_of_its_halves() -> None:
    course = HeatCourse(BURGER, 5.0)
    course.go(Stage(np.array([0.0, 300.0]), np.full(2, 180.0), 300.0, boils_c=100.0, pan=HOT))
    left = carry_in_pan(BURGER, np.full(SLICES, 5.0), 300.0, HOT)
    course.go(Stage.steady(1.0, float(left.mean_c[-1]), 5.0))
    assert course.mean_c == pytest.approx(float(left.mean_c[-1]), abs=1.0)


def test_a_round_piece_has_a_quarter_of_its_face_in_the_pan() -> None:
    around, gives = roll_in_pan(180.0, 300.0)
    assert gives == pytest.approx(0.25 * 300 + 0.75 * 15)
    assert gives * (around - 60.0) == pytest.approx(0.25 * 300 * (180 - 60) + 0.75 * 15 * (25 - 60))


def test_a_slab_that_is_turned_has_half_of_its_faces_in_the_pan() -> None:
    around, gives = roll_in_pan(180.0, 300.0, 0.5)
    assert gives == pytest.approx((300 + 15) / 2)
    assert around == pytest.approx((300 * 180 + 15 * 25) / 315)
