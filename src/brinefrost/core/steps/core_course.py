"""Where a core is going that cools or warms: the pace of its readings, carried on."""

from dataclasses import replace

import numpy as np

from brinefrost.core.errors import DomainError
from brinefrost.core.limits import Projection, Series
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.settling import Followed, Pace, Settling, fit_pace
from brinefrost.core.steps.state import Evidence
from brinefrost.core.words import num, say
from brinefrost.core.working import Input, Source, Working

AHEAD_S = 14 * 3600.0
POINTS = 841
SUREST_TRACE_POINTS = 60


def course_of(
    planned: tuple[Body, float, float], evidence: Evidence, begun_c: float | None = None, planned_s: float | None = None
) -> Projection | None:
    """Fit the readings since the step, or its last change, began, and carry them on.

    Expected, slow and fast core temperatures [°C] from the last reading on; None where no reading follows the start,
    or the core began as warm as what surrounds it. Raises OutOfRangeError if the body lies outside the models' ranges.
    Valid while nothing changes; after a recorded change of course only later readings are fitted, with the field taken
    as settled. Slow and fast are one standard error of the pace either way. ``planned`` [W/m²K], ``seen`` [°C],
    ``begun_c`` [°C], ``planned_s`` [s]. See ``fit_pace`` and ``heat_through``.
    """
    way = Settling(*planned, *begin_of(evidence, begun_c))
    return course_along(way, evidence, planned_s)


def course_along(way: Settling | Followed, evidence: Evidence, planned_s: float | None = None) -> Projection | None:
    """As ``course_of``, along a way of its own."""
    times, core = _thin(evidence.series)
    try:
        pace = fit_pace(way, times, core)
    except DomainError:
        return None
    found = _carry(way, pace, float(evidence.series.times_s[-1]), float(evidence.series.values[-1]))
    return replace(found, planned_s=planned_s)


def fixed(way: Settling | Followed, scale: float) -> Projection:
    """It at a pace of its own [-], from its start on.

    Valid for positive paces.
    """
    times = way.start_s + np.linspace(0.0, AHEAD_S, POINTS)
    curve = way.core_c(times, scale)
    working = _working(way, Pace(scale, 0.0, 0, 0.0))
    return Projection(times, curve, curve, curve, working, settles_at=way.surroundings_c)


def begin_of(evidence: Evidence, begun_c: float | None) -> tuple[float, float, bool]:
    """When the present course began, how warm the core was, and whether the field had settled.

    Valid for a step that was read at least once.
    """
    series = evidence.series
    turned = [at for at in evidence.changes_s if at < series.times_s[-1]]
    if turned:
        at = max(turned)
        return at, float(np.interp(at, series.times_s, series.values)), True
    if begun_c is not None and series.opened_s is not None:
        return series.opened_s, begun_c, False
    return float(series.times_s[0]), float(series.values[0]), False


def _thin(series: Series) -> tuple[Array, Array]:
    stride = max(1, len(series) // SUREST_TRACE_POINTS)
    keep = np.arange(len(series) - 1, -1, -stride)[::-1]
    return series.times_s[keep], series.values[keep]


def _carry(way: Settling | Followed, pace: Pace, from_s: float, last_c: float) -> Projection:
    """From the last reading on, at the fitted pace; the slow and fast cases bound it."""
    times = from_s + np.linspace(0.0, AHEAD_S, POINTS)
    cases = []
    for factor in (0.0, -1.0, 1.0):
        curve = way.core_c(times, pace.scale * float(np.exp(factor * pace.log_error)))
        away = curve[0] - way.surroundings_c
        shift = (last_c - way.surroundings_c) / away if abs(away) > 0.1 else 1.0
        cases.append(way.surroundings_c + (curve - way.surroundings_c) * max(shift, 0.0))
    working = _working(way, pace)
    return Projection(times, cases[0], cases[1], cases[2], working, settles_at=way.surroundings_c)


def _working(way: Settling | Followed, pace: Pace) -> Working:
    fitted = pace.readings > 0
    return Working(
        title=say("working.core_course.where_it_is_going"),
        formula=say("working.core_course.t_t_t_t0_t_bi") if fitted else say("working.core_course.t_t_t_t0_t_bi_2"),
        inputs=(
            Input(name=say("working.core_course.core_at_the_start_of_this"), value=round(way.start_c, 1), unit="°C"),
            Input(name=say("working.core_course.surroundings_as_planned"), value=way.surroundings_c, unit="°C"),
            Input(
                name=say("working.core_course.thickness_as_planned"),
                value=round(2000 * way.body.half_thickness_m, 1),
                unit="mm",
            ),
            Input(name=say("working.core_course.pace_s_against_the_plan"), value=round(pace.scale, 3)),
            Input(name=say("working.core_course.readings_fitted"), value=pace.readings),
        ),
        result=say("working.core_course.it_runs_at_of_the", scale=num(pace.scale, ".0%"))
        if fitted
        else say("working.core_course.at_of_the_planned_pace", scale=num(pace.scale, ".0%")),
        source=Source(
            citation="Conduction into a slab, Carslaw & Jaeger (1959), ch. III; one-parameter least squares",
            tag="derived",
        ),
        assumptions=(
            say("working.core_course.nothing_changes_from_here_on"),
            say("working.core_course.the_pace_gathers_thickness_stacking_stir"),
            say("working.core_course.first_mode_only_counted_from_the")
            if way.settled
            else say("working.core_course.an_even_field_at_the_start"),
        ),
        valid_range=say("working.core_course.a_planning_estimate_it_warns_it"),
    )
