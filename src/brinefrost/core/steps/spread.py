"""How often a heat or a chill would fail if its piece, start, surroundings and probe vary as they usually do."""

from dataclasses import replace

import numpy as np

from brinefrost.core.limits import Cooling, Lethality, Limit
from brinefrost.core.physics.cooling import taken_s
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.robustness import NO_LOAD, USUAL, Load, repeat, repeat_chill, repeat_until
from brinefrost.core.roots import changeover
from brinefrost.core.steps.proves import Chance
from brinefrost.core.steps.state import Course


def heated(heating: Heating, limit: Limit, duration_s: float) -> Chance | None:
    """Ten thousand times so long in the heat [s]; None for what is not met by time.

    Valid as ``repeat`` and ``repeat_until``.
    """
    if isinstance(limit, Lethality):
        done = repeat(heating, limit.model.law(), duration_s, USUAL)
        return Chance(done.failing_share, done.failing_error, done.matters)
    return Chance(*repeat_until(heating, limit.rows_met_s, duration_s, USUAL)) if limit.by_time else None


def chilled(
    chilling: Heating, limit: Limit, step_id: str, into_s: float, course: Course, load: Load = NO_LOAD
) -> Chance | None:
    """Ten thousand times in the cold; None for what is no cooling in stages, or where the cold is not cold enough.

    It goes into the cold at ``into_s`` of the walk, warmer in its middle than outside: it is taken as warm throughout
    as brings it to each mark no earlier than the plan's own curve. Its clock may run already by then. Valid as
    ``repeat_chill``, with ``load`` as that takes it.
    """
    if not isinstance(limit, Cooling) or chilling.surroundings_c >= limit.stages[-1].to_c:
        return None
    stages = tuple((stage.to_c, stage.within_s, stage.further) for stage in limit.stages)
    fallen = course.fallen(step_id, into_s)
    begun = limit.clock_start_s(fallen) if fallen is not None else None
    waited = None if begun is None else into_s - begun
    alike = [_even(chilling, stage.to_c, step_id, into_s, course, load) for stage in limit.stages]
    even, end_s = max(alike, key=lambda each: each.start_c), course.spans[step_id][1] - into_s
    return Chance(*repeat_chill(even, limit.from_c, stages, USUAL, waited_s=waited, load=load, until_s=end_s))


def _even(chilling: Heating, to_c: float, step_id: str, into_s: float, course: Course, load: Load) -> Heating:
    """The same piece, as warm throughout as comes to a temperature [°C] when the walk does; at most as its core is."""
    core = course.core_in(step_id)
    after = None if core is None else core.times_s[(core.times_s > into_s) & (core.values <= to_c)]
    if after is None or not len(after):
        return chilling
    times = np.linspace(0.0, float(after[0]) - into_s, 200)

    def later(start_c: float) -> bool:
        piece = replace(chilling, start_c=start_c)
        taken = taken_s(times, piece.mean_c(times), *load) if np.isfinite(load[1]) else times
        return bool(np.interp(times[-1], taken, piece.core_c(times)) >= to_c)

    start = changeover(later, max(to_c, chilling.surroundings_c) + 0.5, chilling.start_c, 0.05)
    return chilling if start is None else replace(chilling, start_c=start)
