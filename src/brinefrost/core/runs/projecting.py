"""Where a chill is going, and where it would go after something is done."""

from dataclasses import dataclass
from datetime import datetime

import numpy as np

from brinefrost.core.limits import Projection, Series
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.chilling import Chill, Pace, fit_pace
from brinefrost.core.physics.reservoir import ice_needed_kg
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import planned_chill_stage, thermal_of
from brinefrost.core.runs.batch import Batch
from brinefrost.core.working import Input, Source, Working

AHEAD_S = 14 * 3600.0
POINTS = 841
ICE_RESERVE = 1.5  # half again as much ice as the sum says; common practice, no source
SUREST_TRACE_POINTS = 60
TWO_DEEP = 0.25  # twice the thickness takes four times as long: conduction goes with the square


@dataclass(frozen=True)
class Course:
    """The fitted pace and what it leads to."""

    chill: Chill
    pace: Pace
    projection: Projection


def course_of(batch: Batch, step_id: str, series: Series, now: datetime) -> Course:
    """Fit the readings since the chill, or its last change, began, and carry them on.

    Parameters
    ----------
    batch : Batch
        The batch.
    step_id : str
        The chill.
    series : Series
        Core readings so far [°C], (n,).
    now : datetime
        Now, with a zone.

    Returns
    -------
    Course
        Expected, slow and fast core temperatures [°C] from now on.

    Raises
    ------
    OutOfRangeError
        If no reading follows the start, or the core is no warmer than the slurry.
    PlanIncompleteError
        If the plan has no bath.

    Notes
    -----
    Valid while nothing changes; after a recorded change of course only later readings are fitted, with the
    field taken as settled. Slow and fast are one standard error of the pace either way.

    References
    ----------
    See ``fit_pace`` and ``heat_through``.
    """
    body, h_w_m2k, surroundings = planned_chill_stage(batch.plan)
    start_s, start_c, settled = _begin(batch, step_id, series)
    chill = Chill(body, h_w_m2k, surroundings, start_s, start_c, settled)
    times, core = _thinned(series.times_s, series.values)
    pace = fit_pace(chill, times, core)
    return Course(chill, pace, _project(chill, pace, float(series.times_s[-1]), float(series.values[-1])))


def rescue_options(batch: Batch, step_id: str, series: Series, now: datetime) -> list[tuple[str, Projection]]:
    """What can still be done in this kitchen, each with where it would lead from now, core [°C] over times [s].

    Valid as ``course_of``; raises PlanIncompleteError without a bath.
    """
    body, h_w_m2k, surroundings = planned_chill_stage(batch.plan)
    core = float(series.values[-1])
    chill = Chill(body, h_w_m2k, surroundings, now.timestamp(), core)
    ice = ice_for(batch.plan, batch.started.packs, core)
    return [
        (f"Part the bags into one layer, add {ice:.0f} kg ice, keep it stirred", _fixed(chill, 1.0)),
        (f"Two bags deep at most, add {ice:.0f} kg ice, keep it stirred", _fixed(chill, TWO_DEEP)),
    ]


def ice_for(plan: Plan, packs: int, core_c: float) -> float:
    """Ice to bring the batch down to 3 °C from its core temperature [kg], with half as much again.

    Valid above 3 °C, else as at 3 °C; raises PlanIncompleteError without thermal values.
    """
    seal, thermal = plan.seal(), thermal_of(plan)
    mass = (seal.pack_mass_kg if seal else 1.0) * packs
    return float(np.ceil(ICE_RESERVE * ice_needed_kg(mass, thermal.heat_capacity_j_kgk, max(core_c, 3.0), 3.0)))


def _begin(batch: Batch, step_id: str, series: Series) -> tuple[float, float, bool]:
    """When the present course began, how warm the core was, and whether the field had settled."""
    changes = [action.at.timestamp() for action, _ in batch.actions if action.step == step_id and action.changes_course]
    turned = [at for at in changes if at < series.times_s[-1]]
    if turned:
        at = max(turned)
        return at, float(np.interp(at, series.times_s, series.values)), True
    return float(series.times_s[0]), float(series.values[0]), False


def _thinned(times_s: Array, values: Array) -> tuple[Array, Array]:
    stride = max(1, len(times_s) // SUREST_TRACE_POINTS)
    keep = np.arange(len(times_s) - 1, -1, -stride)[::-1]
    return times_s[keep], values[keep]


def _project(chill: Chill, pace: Pace, from_s: float, last_c: float) -> Projection:
    """From the last reading on, at the fitted pace; the slow and fast cases bound it."""
    times = from_s + np.linspace(0.0, AHEAD_S, POINTS)
    cases = []
    for factor in (0.0, -1.0, 1.0):
        curve = chill.core_c(times, pace.scale * float(np.exp(factor * pace.log_error)))
        above = curve[0] - chill.surroundings_c
        shift = (last_c - chill.surroundings_c) / above if above > 0.1 else 1.0
        cases.append(chill.surroundings_c + (curve - chill.surroundings_c) * max(shift, 0.0))
    return Projection(times, cases[0], cases[1], cases[2], _working(chill, pace))


def _fixed(chill: Chill, scale: float) -> Projection:
    times = chill.start_s + np.linspace(0.0, AHEAD_S, POINTS)
    curve = chill.core_c(times, scale)
    pace = Pace(scale, 0.0, 0, 0.0)
    return Projection(times, curve, curve, curve, _working(chill, pace))


def _working(chill: Chill, pace: Pace) -> Working:
    fitted = pace.readings > 0
    return Working(
        title="Where the chill is going",
        formula="T(t) = T∞ + (T0 − T∞) · θ(Bi, s·α·t/R²), s fitted by least squares"
        if fitted
        else "T(t) = T∞ + (T0 − T∞) · θ(Bi, s·α·t/R²)",
        inputs=(
            Input(name="core at the start of this course", value=round(chill.start_c, 1), unit="°C"),
            Input(name="slurry as planned", value=chill.surroundings_c, unit="°C"),
            Input(name="thickness as planned", value=round(2000 * chill.body.half_thickness_m, 1), unit="mm"),
            Input(name="pace s against the plan", value=round(pace.scale, 3)),
            Input(name="readings fitted", value=pace.readings),
        ),
        result=f"the chill runs at {pace.scale:.0%} of the planned pace"
        if fitted
        else f"at {pace.scale:.0%} of the planned pace",
        source=Source(
            citation="Conduction into a slab, Carslaw & Jaeger (1959), ch. III; one-parameter least squares",
            tag="derived",
        ),
        assumptions=(
            "nothing changes from here on",
            "the pace gathers thickness, stacking, stirring and ice in one number",
            "first mode only, counted from the last change of course"
            if chill.settled
            else "an even field at the start",
        ),
        valid_range="a planning estimate: it warns, it passes nothing",
    )
