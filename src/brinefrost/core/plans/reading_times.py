"""When a step's core is read: as the planned course crosses each mark, and for as long as a kill needs before its end.

A check at a fixed minute shows a fall only by luck: the clock starts when the core leaves the hot line, which is the
plan's own to say. What is asked here is what a batch that goes as planned needs in order to be judged.
"""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from brinefrost.core.errors import OutOfRangeError, PlanIncompleteError
from brinefrost.core.limits import ComeUp, Cooling, Hold, Lethality, Limit, Series
from brinefrost.core.limits.base import STANDS_S
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.asked_limits import default_limits
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.days import planned_spans
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.common import early_core, watch_core
from brinefrost.core.steps.document import ControlParts, Monitoring

ASIDE_S = 300.0  # before and behind a crossing: a silence of ten minutes tells when it was (limits.base)
CLOSE_S = 540.0  # between two readings of a kill
BEFORE_END_S, LONG_S = 120.0, 600.0  # who reads the end reads it a little before, where it takes long
SOON = 0.75  # of the time a come-up has: what is over by then needs no reading on its way
BEHIND_K = 0.5  # a core that is a little behind its plan
EARLY, HELD = "core-early", "core-held"  # checks of a come-up, and of a kill before its end, as heats name them
MOST = 20  # readings of one check; beyond that a logger does it
WINDOWS_S = (45, 75, 95, 120, 160, 240, 420, 600, 900, 1200, 1800, 2700, 3600, 5400, 7200, 9000)


def control_parts(plan: Plan, step: Step) -> ControlParts:
    """What a step's kind asks where it is critical, its core read when the plan's own course needs it.

    Valid for every step; where nothing walks the food its kind's own times stay.
    """
    parts = kind_of(step).control(step, context_at(plan, step))
    walked = _walk(plan, step)
    if walked is None or not any(each.quantity == "core" for each in parts.monitoring):
        return parts
    times, core = walked
    limits = (*parts.limits, *_asked_later(plan, step))
    falls, rises, holds = (
        sorted({_round_time(at, times[-1]) for limit in limits for at in found(limit, times, core) if at < times[-1]})
        for found in (_at_falls, _at_rises, _at_kills)
    )
    return replace(parts, monitoring=_set_times(parts.monitoring, falls, rises, holds))


def read_long_enough(plan: Plan, step: Step, control: Control) -> Control:
    """A signed control with the readings that its kill needs, where it asks for the end alone.

    The school of a limit may be chosen after its checks: a table of hours is shown by no reading of the end. Valid for
    every control.
    """
    of_core = [each for each in control.monitoring if each.quantity == "core"]
    if not of_core or any(each.id == HELD or each.every_s for each in of_core):
        return control
    walked = _walk(plan, step)
    if walked is None:
        return control
    times, core = walked
    holds = sorted({_round_time(at, times[-1]) for limit in control.limits for at in _at_kills(limit, times, core)})
    return control.model_copy(update={"monitoring": _set_times(control.monitoring, [], [], holds)})


def _asked_later(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """The come-up of the cook that this heat begins: it is asked at the cook's last heat, of all of them."""
    if not context_at(plan, step).cook_goes_on:
        return ()
    behind = ways_with(plan, step.id)[0].steps
    later = behind[[each.id for each in behind].index(step.id) + 1 :]
    last = next((each for each in later if "cooks" in words_of(each) and not context_at(plan, each).cook_goes_on), None)
    spans = planned_spans(ways_with(plan, step.id)[0])
    begins, ends = spans(step), None if last is None else spans(last)
    taken = ends[1] - begins[0] if begins and ends else 0.0
    asked = () if last is None else default_limits(plan, last)
    return tuple(each for each in asked if isinstance(each, ComeUp) and taken > SOON * each.within_s)


def _walk(plan: Plan, step: Step) -> tuple[Array, Array] | None:
    """The core through a step on the first way that leads through it [s from its beginning, °C]."""
    try:
        _, course = simulated(ways_with(plan, step.id)[0])
    except (PlanIncompleteError, OutOfRangeError):
        return None
    core = course.core_in(step.id) if step.id in course.spans else None
    if core is None or len(core) < 2:
        return None
    return core.times_s - course.spans[step.id][0], core.values


def _at_falls(limit: Limit, times_s: Array, core_c: Array) -> Iterator[float]:
    """Around the start of a fall's clock, behind each of its marks as planned, and as each is due [s]."""
    if not isinstance(limit, Cooling):
        return
    start = _crossing(times_s, core_c, limit.from_c) if limit.counts_from == "falling" else 0.0
    if start is None:
        return
    if start > 0:
        yield from (max(start - ASIDE_S, 0.0), start + ASIDE_S)
    due = start
    for stage in limit.stages:
        due = (due if stage.further else start) + stage.within_s
        there = _crossing(times_s, core_c, stage.to_c)
        if there == 0:
            continue  # it began below this mark
        if there is not None and there < due:
            yield min((there + due) / 2, there + 2 * ASIDE_S)
        yield due


def _at_kills(limit: Limit, times_s: Array, core_c: Array) -> Iterator[float]:
    """So long before the end that what is read from then on meets the limit by itself [s]."""
    if not isinstance(limit, Lethality | Hold) or limit.quantity != "core":
        return
    if isinstance(limit, Hold) and limit.for_s <= STANDS_S:
        return
    own = (1.05 * limit.for_s, 1.2 * limit.for_s) if isinstance(limit, Hold) else ()
    early = BEFORE_END_S if times_s[-1] > LONG_S else 0.0
    for before, behind in ((early, BEHIND_K), (early, 0.0), (0.0, 0.0)):
        end = float(times_s[-1]) - before
        for window in (*sorted(each for each in (*WINDOWS_S, *own) if each < end), end):
            read = np.linspace(end - window, end, int(np.ceil(window / CLOSE_S)) + 1)
            if limit.met_at_s(Series.computed(read, np.interp(read, times_s, core_c) - behind)) is not None:
                yield from read[:-1] if len(read) <= MOST else ()
                return


def _at_rises(limit: Limit, times_s: Array, core_c: Array) -> Iterator[float]:
    """Behind the end of a come-up as planned; around its beginning where it takes most of its time [s]."""
    if not isinstance(limit, ComeUp):
        return
    begun, there = (_crossing(times_s, -core_c, -level) for level in (limit.from_c, limit.to_c))
    if begun is None or there is None or there - begun >= limit.within_s or times_s[-1] <= SOON * limit.within_s:
        return  # what is over in time was up in time, as its end shows
    read = min((there + begun + limit.within_s) / 2, there + 2 * ASIDE_S)
    if read > limit.within_s:
        yield from (max(begun - ASIDE_S, 0.0), begun + ASIDE_S)
    yield read


def _crossing(times_s: Array, core_c: Array, level_c: float) -> float | None:
    """When a curve first falls through a level [s]; 0 where it begins below, None where it never does."""
    below = np.flatnonzero(core_c <= level_c)
    if not len(below):
        return None
    at = int(below[0])
    if at == 0:
        return 0.0
    return float(np.interp(level_c, core_c[[at, at - 1]], times_s[[at, at - 1]]))


def _round_time(at_s: float, length_s: float) -> float:
    """A time a cook can keep: to the minute in what is long, to five seconds in what is short [s]."""
    whole = 60.0 if length_s > 1800.0 else 5.0
    return float(np.floor(at_s / whole) * whole)


def _set_times(
    monitoring: tuple[Monitoring, ...], falls: list[float], rises: list[float], holds: list[float]
) -> tuple[Monitoring, ...]:
    """Checks of the core at these times beside the end."""
    checks = list(monitoring)
    of_core = [each for each in checks if each.quantity == "core"]
    falling = next((each for each in of_core if each.offsets_s), None)
    if falls and falling is not None:
        checks[checks.index(falling)] = _at(falling, [0.0, *falls])
    end = next((each for each in of_core if not each.offsets_s), None)
    if end is None:
        return tuple(checks)
    for key, times in ((HELD, holds), (EARLY, rises)):
        if not times:
            continue
        there = next((each for each in checks if each.id == key), None)
        held = watch_core(end.expected_low_c, end.expected_high_c).model_copy(update={"id": HELD, "how": end.how})
        new = early_core(end.expected_high_c) if key == EARLY else held
        if there is not None:
            checks[checks.index(there)] = _at(there, times)
        else:
            checks.insert(checks.index(end), _at(new, times))
    return tuple(checks)


def _at(check: Monitoring, times_s: list[float]) -> Monitoring:
    """A check at these times [s]."""
    return check.model_copy(update={"offsets_s": tuple(sorted(set(times_s)))[:MOST]})
