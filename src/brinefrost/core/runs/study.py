"""A study of a step: batches in which its core was measured, and the bounds that they validate together.

Codex CXC 1-1969 (2022), 2.3: the evidence that a control measure works, got before it is relied on. That three batches
in a row are asked is common practice of process validation, no source.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from brinefrost.core.errors import OutOfRangeError, PlanIncompleteError, RefusedError
from brinefrost.core.limits import Series
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.plans.validated import (
    COLD_START_C,
    Bounds,
    core_limits,
    is_first_heat,
    load_of,
    medium_quantity,
    meets_at,
    settles_s,
)
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.judging import readings_of, verdict_of, wait_before
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import Words, duration, num, say
from brinefrost.core.working import Document

LEAST_RUNS = 3
SETTLED_READINGS = 2  # of what is around the food, once its load has settled
NEAR_K = 1.0  # by so much beside the doubt a measured core may lag behind the computed one


class Run(Document):
    """One batch of a study, at one step: what it was run at. ``why_not`` says what it lacks; nothing where it counts.

    Temperatures in °C, times in s, thickness in m; ``load`` in kg, or in packs where nothing says what one holds.
    """

    batch: str
    code: str
    at: datetime
    thickness_m: float | None
    start_c: float | None
    load: float
    in_kg: bool
    medium_c: float | None = None
    doubt: float = 0.0
    lasts_s: float | None = None
    lasts: Words = ""
    waits_s: float | None = None
    core: Words = ""  # how its limits of the core were met
    slower: bool = False  # its core lagged behind the computed one
    why_not: Words = ""


def run_of(batch: Batch, batch_id: str, step: Step) -> Run:
    """What a batch says of a step: the worst of what was around the food, its time, its piece, its load.

    Valid for every batch and every step that ``can_be_validated``; one that does not count says why.
    """
    load, in_kg = load_of(batch.plan, batch.started.packs)
    span, now = batch.span(step.id), batch.closed.at if batch.closed else batch.started.at
    known = Run(
        batch=batch_id,
        code=batch.started.code,
        at=batch.started.at,
        thickness_m=batch.started.thickness_m,
        start_c=batch.started.start_c,
        load=load,
        in_kg=in_kg,
    )
    if batch.closed is None or batch.closed.decision != "release" or batch.recalled is not None:
        return _lacks(known, say("runs.study.was_not_released"))
    if span.started is None or span.finished is None:
        return _lacks(known, say("runs.study.the_step_was_not_done"))
    if known.thickness_m is None:
        return _lacks(known, say("runs.study.its_thickest_piece_was_not_measured"))
    control, quantity = monitored_steps(batch.plan)[step.id], medium_quantity(step)
    verdicts = [verdict_of(batch, step.id, limit, now) for limit in core_limits(control)]
    if not verdicts or any(verdict.state != "pass" for verdict in verdicts):
        return _lacks(known, say("runs.study.its_core_was_not_measured_and_met"))
    if quantity is None:
        return _lacks(known, say("runs.study.nothing_reads_what_is_around_it"))
    around = _read_settled(batch, step, quantity)
    if len(around) < SETTLED_READINGS:
        return _lacks(known, say("runs.study.what_is_around_it_was_not_read_twice"))
    heats = "heats" in kind_of(step).acts(step)
    lasts_s = _time_shown(batch, step, (span.finished - span.started).total_seconds())
    return known.model_copy(
        update={
            "medium_c": round(float(np.min(around.values) if heats else np.max(around.values)), 2),
            "doubt": around.uncertainty,
            "lasts_s": lasts_s,
            "lasts": duration(lasts_s),
            "waits_s": None if heats else wait_before(batch, step.id),
            "core": verdicts[0].sentence,
            "slower": _is_slower(batch, step, heats),
        }
    )


def _time_shown(batch: Batch, step: Step, taken_s: float) -> float:
    """How long a step took [s]; as planned, where it went on for longer and its core had met its limits by then."""
    planned_s, started = kind_of(step).length_s(step), batch.span(step.id).started
    if started is None or taken_s <= planned_s:
        return taken_s
    then = started + timedelta(seconds=planned_s)
    limits = core_limits(monitored_steps(batch.plan)[step.id])
    met = all(verdict_of(batch, step.id, limit, then).state == "pass" for limit in limits)
    return planned_s if met else taken_s


def _lacks(run: Run, why: Words) -> Run:
    return run.model_copy(update={"why_not": why})


def _read_settled(batch: Batch, step: Step, quantity: ReadingQuantity) -> Series:
    """What was read around the food from when its load had settled to its end."""
    series, span = readings_of(batch, step.id, quantity), batch.span(step.id)
    if span.started is None or span.finished is None or not len(series):
        return Series.empty()
    from_s, until_s = span.started.timestamp() + settles_s(step), span.finished.timestamp()
    keep = (series.times_s >= from_s) & (series.times_s <= until_s)
    return Series(series.times_s[keep], series.values[keep], series.uncertainty)


def _is_slower(batch: Batch, step: Step, heats: bool) -> bool:
    """Whether the core lagged behind the computed one in the second half of its step; also if nothing computes it."""
    span, read = batch.span(step.id), readings_of(batch, step.id, "core")
    if span.started is None or span.finished is None or not len(read):
        return True
    try:
        _, course = simulated(ways_with(batch.plan, step.id)[0])
    except (OutOfRangeError, PlanIncompleteError):
        return True
    core = course.core_in(step.id) if step.id in course.spans else None
    if core is None or len(core) < 2:
        return True
    times = read.times_s - span.started.timestamp()
    later = times >= 0.5 * (span.finished - span.started).total_seconds()
    if not np.any(later):
        return True
    computed = np.interp(times[later], core.times_s - course.spans[step.id][0], core.values)
    ahead = (read.values[later] - computed) * (1.0 if heats else -1.0)
    return bool(np.min(ahead) < -(read.uncertainty + NEAR_K))


@dataclass(frozen=True)
class Study:
    """Some runs of a step, and the bounds they validate."""

    runs: tuple[Run, ...]
    bounds: Bounds


def study_of(plan: Plan, step: Step, runs: tuple[Run, ...]) -> Study:
    """The bounds that some runs validate together: RefusedError where one does not count, or there are too few.

    As wide as all of the runs, where the worst of everything at once meets the limits by computation and no core lagged
    behind it; else such that each of the runs was harder than all that is let in. Valid for runs of one step.
    """
    short = next((run for run in runs if run.why_not), None)
    if short is not None:
        raise RefusedError(say("runs.study.does_not_count", batch=short.code, why=short.why_not))
    if len({run.batch for run in runs}) < LEAST_RUNS:
        raise RefusedError(say("runs.study.needs_so_many", runs=num(LEAST_RUNS)))
    if len({run.in_kg for run in runs}) > 1:
        raise RefusedError(say("runs.study.loads_cannot_be_compared"))
    wide = _bounds(plan, step, runs, strict=False)
    if not any(run.slower for run in runs) and meets_at(plan, step, wide):
        return Study(runs, wide)
    if wide.start_c is not None and any(run.start_c is None for run in runs):
        raise RefusedError(say("runs.study.how_warm_it_went_in"))
    return Study(runs, _bounds(plan, step, runs, strict=True))


def _bounds(plan: Plan, step: Step, runs: tuple[Run, ...], strict: bool) -> Bounds:
    """The worst of everything that was run; or, if ``strict``, what each of the runs was worse than."""
    quantity, heats = medium_quantity(step), "heats" in kind_of(step).acts(step)
    assert quantity is not None  # noqa: S101 (a run without one does not count)
    low, high = (max, min) if strict else (min, max)
    around = [run.medium_c or 0.0 for run in runs]
    start_c = None
    if heats and is_first_heat(plan, step):
        planned_c = float(getattr(step, "start_c", COLD_START_C))
        start_c = max(run.start_c or 0.0 for run in runs) if strict else min(planned_c, COLD_START_C)
    waits = [run.waits_s for run in runs if run.waits_s is not None]
    return Bounds(
        quantity=quantity,
        heats=heats,
        medium_c=low(around) if heats else high(around),
        doubt=0.0 if strict else max(run.doubt for run in runs),
        settles_s=settles_s(step),
        lasts_s=low(run.lasts_s or 0.0 for run in runs),
        thickness_m=high(run.thickness_m or 0.0 for run in runs),
        load=high(run.load for run in runs),
        in_kg=runs[0].in_kg,
        start_c=start_c,
        waits_s=None if heats else high(waits) if waits else 0.0,
        computed=not strict,
    )
