"""Where food under heat is going: the pace of its core so far, carried on to when its limits are met."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.limits import Projection
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.heat import HeatCurve
from brinefrost.core.physics.settling import Followed, Settling
from brinefrost.core.steps.core_course import AHEAD_S, POINTS, begin_of, course_along, fixed
from brinefrost.core.steps.state import Evidence
from brinefrost.core.steps.trend import level
from brinefrost.core.words import say, temp

LEAST_RISE = 0.1  # of the way to the surroundings: before that the lag tells nothing of the pace
THERE_K = 1.0  # as warm as what surrounds it
HOTTER_K = (5.0, 10.0)  # ways out


@dataclass(frozen=True)
class Warming:
    """A heat as planned: the piece, its coefficient [W/m²·K], surroundings and start [°C], its time [s]."""

    body: Body
    h_w_m2k: float
    surroundings_c: float
    start_c: float
    duration_s: float
    curve: HeatCurve | None = None  # its own way, where no one surrounding acts on all of it

    @property
    def comes_to_c(self) -> float:
        """What its core comes to [°C]."""
        return self.surroundings_c if self.curve is None else float(self.curve.core_c[-1])

    def way(self, start_s: float, start_c: float, settled: bool = False) -> Settling | Followed:
        """It from a moment on [s], as warm as it then was [°C]; valid for a heat that warms."""
        if self.curve is None:
            return Settling(self.body, self.h_w_m2k, self.surroundings_c, start_s, start_c, settled)
        return Followed(self.body, self.curve.times_s, self.curve.core_c, start_s, start_c, settled)


def warming_of(heat: Warming, evidence: Evidence) -> Projection | None:
    """The core so far, carried on in the same surroundings.

    None before the core has made a tenth of its way: until then any pace would fit. Raises OutOfRangeError if the body
    lies outside the models' ranges. Valid while nothing changes. Food as warm as what surrounds it stays so. ``seen``
    [°C]. See ``fit_pace``.
    """
    series = evidence.series
    if not len(series) or evidence.limit is None or evidence.limit.quantity != "core":
        return None
    last, whole = float(series.values[-1]), heat.comes_to_c - heat.start_c
    planned_s = None if series.opened_s is None else series.opened_s + heat.duration_s
    if whole <= 0 or last - heat.start_c < LEAST_RISE * whole:
        return None
    if last >= heat.comes_to_c - THERE_K:
        said = say("working.core_course.as_warm_as_what_surrounds_it")
        return level(evidence, last, AHEAD_S, said, POINTS)
    return course_along(heat.way(*begin_of(evidence, heat.start_c)), evidence, planned_s)


def hotter(
    heat: Warming, evidence: Evidence, most_c: float, at: Callable[[float], Warming] | None = None
) -> list[tuple[str, Projection]]:
    """Hotter surroundings from now on, as far as they go [°C]; the core taken as warm as the whole piece.

    ``at`` is the heat in other surroundings [°C], where it has a way of its own. Valid while it warms.
    """
    if not len(evidence.series):
        return []
    core = float(evidence.series.values[-1])
    pace, ways = _pace(heat, evidence), list[tuple[str, Projection]]()
    for around in (heat.surroundings_c + more for more in HOTTER_K):
        other = at(around) if at else replace(heat, surroundings_c=around)
        if around <= most_c and other.comes_to_c > core + THERE_K:
            way = other.way(evidence.now_s, core, other.curve is not None)
            ways.append((say("steps.warming.surroundings_up_to", around=temp(around, "g")), fixed(way, pace)))
    return ways


def _pace(heat: Warming, evidence: Evidence) -> float:
    """How the core keeps up with the plan [-]: never taken as faster."""
    series = evidence.series
    if series.opened_s is None:
        return 1.0
    expected = heat.way(series.opened_s, heat.start_c)
    spent = np.array([series.times_s[-1]])
    by_plan = float(expected.core_c(spent, 1.0)[0]) - heat.start_c
    return float(np.clip((series.values[-1] - heat.start_c) / by_plan, 0.1, 1.0)) if by_plan > 0 else 1.0
