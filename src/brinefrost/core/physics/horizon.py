"""The way of a piece that is left in its heat for two days: what every "how long" is read off, on whatever page."""

from dataclasses import replace
from functools import lru_cache

import numpy as np

from brinefrost.core.physics.body import Body
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.pan import Pan
from brinefrost.core.physics.reservoir import Reservoir, immerse

HORIZON_S = 48 * 3600.0
QUICK_STEP_S, STEP_S, LATE_STEP_S, LAST_STEP_S = 15.0, 60.0, 300.0, 600.0
QUICK_S, EARLY_S, DAY_S = 3600.0, 4 * 3600.0, 24 * 3600.0
STIRRED_S = 3 * 3600.0  # after this long in the bath its temperature no longer changes


@lru_cache(maxsize=128)
def left_in(
    body: Body,
    start_c: float,
    around_c: float,
    h_w_m2k: float,
    boils_c: float | None = None,
    vapour_pa: float | None = None,
) -> HeatCurve:
    """A piece left in steady surroundings: close steps at first, wide ones when it only creeps.

    Parameters
    ----------
    body : Body
        The piece.
    start_c, around_c : float
        The piece and what surrounds it [°C].
    h_w_m2k : float
        Surface coefficient [W/m²·K].
    boils_c, vapour_pa : float or None
        Where its surface boils [°C], and the vapour in the air that dries it [Pa].

    Returns
    -------
    HeatCurve
        To the horizon, (n,).

    Raises
    ------
    OutOfRangeError
        As ``heat_through``.

    Notes
    -----
    Valid as ``heat_through``.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III, VII, IX.
    """
    stages = [
        Stage(np.array([0.0, until - since]), np.full(2, around_c), h_w_m2k, step, None, boils_c, vapour_pa)
        for since, until, step in (
            (0.0, QUICK_S, QUICK_STEP_S),
            (QUICK_S, EARLY_S, STEP_S),
            (EARLY_S, DAY_S, LATE_STEP_S),
            (DAY_S, HORIZON_S, LAST_STEP_S),
        )
    ]
    return heat_through(body, stages, start_c, step_s=STEP_S)


@lru_cache(maxsize=256)
def left_in_pan(body: Body, start_c: float, pan: Pan, duration_s: float) -> HeatCurve:
    """A slab in a pan for so long.

    Parameters
    ----------
    body : Body
        A slab.
    start_c : float
        [°C].
    pan : Pan
        What it lies in.
    duration_s : float
        [s].

    Returns
    -------
    HeatCurve
        To the end of that time, (n,).

    Raises
    ------
    OutOfRangeError
        As ``carry_in_pan``.

    Notes
    -----
    Valid as ``carry_in_pan``.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III.
    """
    stage = replace(Stage.steady(duration_s, pan.pan_c, pan.h_w_m2k), pan=pan)
    return heat_through(body, [stage], start_c)


@lru_cache(maxsize=64)
def left_in_bath(
    body: Body, start_c: float, bath: Reservoir, food_kg: float, density_kg_m3: float, h_w_m2k: float
) -> HeatCurve:
    """A load left in a bath that dips when it goes in, then stays as warm as it came to be.

    Parameters
    ----------
    body : Body
        One piece of the load.
    start_c : float
        The pieces [°C].
    bath : Reservoir
        The water with its heater.
    food_kg, density_kg_m3, h_w_m2k : float
        The load [kg], its density [kg/m³], the surface coefficient [W/m²·K].

    Returns
    -------
    HeatCurve
        To the horizon, (n,).

    Raises
    ------
    OutOfRangeError
        As ``immerse``.

    Notes
    -----
    Valid as ``immerse``.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III; heat balance of the water.
    """
    dip = immerse(body, food_kg, density_kg_m3, start_c, h_w_m2k, bath, STIRRED_S, step_s=STEP_S)
    settled = dip.surroundings_c[-1]
    stages = [
        dip,
        Stage(np.array([0.0, DAY_S - STIRRED_S]), np.full(2, settled), h_w_m2k, LATE_STEP_S),
        Stage(np.array([0.0, HORIZON_S - DAY_S]), np.full(2, settled), h_w_m2k, LAST_STEP_S),
    ]
    return heat_through(body, stages, start_c, step_s=STEP_S)
