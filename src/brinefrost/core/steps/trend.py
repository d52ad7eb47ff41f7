"""Where readings are going that draw near to something: the pace of the last ones, carried on."""

import numpy as np

from brinefrost.core.limits import Projection, Series
from brinefrost.core.steps.state import Evidence
from brinefrost.core.words import amount, duration, num, say
from brinefrost.core.working import Input, Source, Working

POINTS = 120
LAST = 5  # readings the pace is taken from
LEAST_PACE = 1e-9  # [1/s]


def approach(
    evidence: Evidence, rests_at: float, ahead_s: float, unit: str, planned_pace: float | None = None
) -> Projection | None:
    """The readings so far as they draw near to where they come to rest, carried on from the last.

    None where the readings do not draw near by more than they are known to, or are there already. Valid while nothing
    changes: one exponential, from the readings since the last change of course. Slow and fast are what the readings'
    uncertainty makes of the pace. ``seen`` [unit], ``rests_at`` [unit], ``ahead_s`` [s], ``planned_pace`` [1/s].
    Newton's law of cooling; first-order approach to rest.
    """
    since = max(
        (at for at in evidence.changes_s if len(evidence.series) and at < evidence.series.times_s[-1]), default=-np.inf
    )
    keep = evidence.series.times_s >= since
    times, away = evidence.series.times_s[keep][-LAST:], evidence.series.values[keep][-LAST:] - rests_at
    if not len(away) or abs(away[-1]) < 1e-6 or np.any(np.sign(away) != np.sign(away[-1])):
        return None
    pace, error = planned_pace, 0.0
    doubt = evidence.series.uncertainty * 2**0.5
    if len(away) > 1 and times[-1] > times[0]:
        moved = abs(float(away[0])) - abs(float(away[-1]))
        if moved <= doubt:
            return None
        pace = float(np.log(away[0] / away[-1]) / (times[-1] - times[0]))
        error = min(doubt / moved, 1.0)
    if pace is None or pace < LEAST_PACE:
        return None
    ahead = np.linspace(0.0, ahead_s, POINTS)
    cases = [rests_at + float(away[-1]) * np.exp(-pace * factor * ahead) for factor in (1.0, 1 - error, 1 + error)]
    working = Working(
        title=say("working.trend.where_it_is_going"),
        formula=say("working.trend.rest_plus_what_is_left"),
        inputs=(
            Input(name=say("working.trend.last_reading"), value=amount(float(evidence.series.values[-1]), unit)),
            Input(name=say("working.trend.comes_to_rest_at"), value=amount(rests_at, unit)),
            Input(name=say("working.trend.halves_every"), value=duration(float(np.log(2)) / pace)),
            Input(name=say("working.core_course.readings_fitted"), value=len(away)),
        ),
        result=say("working.trend.after", ahead=duration(ahead_s), value=amount(float(cases[0][-1]), unit)),
        source=Source(citation="Newton's law of cooling; first-order approach to rest", tag="derived"),
        assumptions=(say("working.core_course.nothing_changes_from_here_on"),),
        valid_range=say("working.core_course.a_planning_estimate_it_warns_it"),
    )
    times_s = float(evidence.series.times_s[-1]) + ahead
    return Projection(times_s, cases[0], cases[1], cases[2], working, settles_at=rests_at, near=0.05)


def level(evidence: Evidence, value: float, ahead_s: float, how: str, points: int = 3) -> Projection:
    """At one value from now on [its unit], as somebody brings it there. Valid for any value."""
    times = evidence.now_s + np.linspace(0.0, ahead_s, points)
    flat = np.full(points, value)
    working = Working(
        title=how, formula="", inputs=(), result=num(value, ".1f"), source=Source(citation=how, tag="derived")
    )
    return Projection(times, flat, flat, flat, working, settles_at=value)


def since_opened(series: Series, now_s: float) -> float:
    """How long the step has run [s]. Valid for series that know when it began, else from the first reading."""
    began = series.opened_s if series.opened_s is not None else float(series.times_s[0]) if len(series) else now_s
    return max(now_s - began, 0.0)
