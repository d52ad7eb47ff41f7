"""A batch's way, step by step: as it was measured, where it was, and from there as it goes on."""

from dataclasses import replace
from datetime import datetime

import numpy as np

from brinefrost.core.limits import Series
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.legs import Leg, legs_from
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.judging import MANUAL_GAP_S, Judgement, readings_of

CURVE = 2  # readings from which on a course is known
AS_PLANNED_K = 0.5  # food as near to the plan goes on as planned


def is_curve(series: Series) -> bool:
    """Whether readings lie close enough for a course to be known between them. Valid for any series."""
    allowed = max(series.longest_gap_s, MANUAL_GAP_S)
    return len(series) >= CURVE and float(np.max(np.diff(series.times_s))) <= allowed


def measured_legs(batch: Batch, legs: list[Leg], now: datetime, judgement: Judgement) -> list[Leg]:
    """The batch's way: measured where it was, carried on where a step runs, and from there on as the plan would go.

    Steps ahead begin as warm as the food was last read or is expected to be, never as warm as the plan had it. Valid
    for the legs of the batch's plan, in order.
    """
    found = [measured_leg(batch, leg, now, judgement) for leg in legs]
    begun = [i for i, leg in enumerate(found) if batch.span(leg.step.id).started]
    last = begun[-1] if begun else -1
    if last < 0 or last + 1 >= len(found) or not len(found[last].core_c):
        return found
    read = [i for i in begun if len(readings_of(batch, found[i].step.id, "core"))]
    if not read or abs(found[last].core_c[-1] - legs[last].core_c[-1]) < AS_PLANNED_K:
        return found
    return [*found[: last + 1], *legs_from(batch.plan, found[last + 1].step.id, float(found[last].core_c[-1]))]


def measured_leg(batch: Batch, leg: Leg, now: datetime, judgement: Judgement) -> Leg:
    """A leg of the journey as it was measured, where it was; from there as it goes on from what was read.

    Valid for every leg of the batch's plan.
    """
    span = batch.span(leg.step.id)
    if span.started is None:
        return leg
    series: Series = readings_of(batch, leg.step.id, "core")
    length = max(((span.finished or now) - span.started).total_seconds(), 60.0)
    if not span.finished:
        length = max(length, leg.length_s)
    if not len(series):
        return replace(leg, length_s=length) if span.finished else leg
    times = np.clip(series.times_s - span.started.timestamp(), 0.0, length)
    times, index = np.unique(times, return_index=True)
    core, first_s, last_s = series.values[index], float(times[0]), float(times[-1])
    if times[0] > 0:  # from as warm as it came in
        times, core = np.insert(times, 0, 0.0), np.insert(core, 0, leg.core_c[0])
    if span.finished:
        times, core = np.append(times, length), np.append(core, core[-1])
    else:
        ahead = _goes_on(batch, leg, judgement, span.started.timestamp(), last_s, float(core[-1]))
        later = (ahead[0] > times[-1]) & (ahead[0] < length)
        times = np.concatenate((times, ahead[0][later], [length]))
        core = np.concatenate((core, ahead[1][later], [np.interp(length, ahead[0], ahead[1])]))
    times, index = np.unique(times, return_index=True)
    return Leg(leg.step, times, core[index], len(series) > 1 and is_curve(series), length, first_s, last_s)


def _goes_on(
    batch: Batch, leg: Leg, judgement: Judgement, began_s: float, last_s: float, last_c: float
) -> tuple[Array, Array]:
    """Where the core of a step under way goes [°C], against times since it began [s]: its course, else the plan's own
    surroundings working on what was last read."""
    quantity, course = judgement.courses.get(leg.step.id, ("", None))
    if course is not None and quantity == "core":
        return course.times_s - began_s, course.expected
    onward = legs_from(batch.plan, leg.step.id, last_c)[0]
    return onward.times_s + last_s, onward.core_c
