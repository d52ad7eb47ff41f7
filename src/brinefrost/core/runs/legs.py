"""A batch's way, step by step: as it was measured, where it was, and from there as it goes on."""

from dataclasses import replace
from datetime import datetime

import numpy as np

from brinefrost.core.limits import Series
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.journey import Leg
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.judging import MANUAL_GAP_S, Judgement, readings_of

CURVE = 2  # readings from which on a course is known


def is_curve(series: Series) -> bool:
    """Whether readings lie close enough for a course to be known between them. Valid for any series."""
    allowed = max(series.longest_gap_s, MANUAL_GAP_S)
    return len(series) >= CURVE and float(np.max(np.diff(series.times_s))) <= allowed


def measured_leg(batch: Batch, leg: Leg, now: datetime, judgement: Judgement) -> Leg:
    """A leg of the journey as it was measured, where it was; from there as it goes on, or as planned.

    Valid for every leg of the batch's plan.
    """
    span = batch.span(leg.step.id)
    if span.started is None:
        return leg
    series: Series = readings_of(batch, leg.step.id, "core")
    length = max(((span.finished or now) - span.started).total_seconds(), 60.0)
    if not span.finished:
        length = max(length, leg.length_s)
    if len(series) < 2:
        return replace(leg, length_s=length) if span.finished else leg
    times = np.clip(series.times_s - span.started.timestamp(), 0.0, length)
    times, index = np.unique(times, return_index=True)
    core, first_s, last_s = series.values[index], float(times[0]), float(times[-1])
    if len(times) < 2:
        return leg
    if times[0] > 0:  # from as warm as it came in
        times, core = np.insert(times, 0, 0.0), np.insert(core, 0, leg.core_c[0])
    ahead = _goes_on(leg, judgement, span.started.timestamp()) if not span.finished else None
    if ahead is None:
        times, core = np.append(times, length), np.append(core, core[-1])
    else:
        later = (ahead[0] > times[-1]) & (ahead[0] < length)
        times = np.concatenate((times, ahead[0][later], [length]))
        core = np.concatenate((core, ahead[1][later], [np.interp(length, ahead[0], ahead[1])]))
    times, index = np.unique(times, return_index=True)
    return Leg(leg.step, times, core[index], is_curve(series), length, first_s, last_s)


def _goes_on(leg: Leg, judgement: Judgement, began_s: float) -> tuple[Array, Array]:
    """Where the core of a step under way goes [°C], against times since it began [s]: its course, else its plan."""
    quantity, course = judgement.courses.get(leg.step.id, ("", None))
    if course is not None and quantity == "core":
        return course.times_s - began_s, course.expected
    return leg.times_s, leg.core_c
