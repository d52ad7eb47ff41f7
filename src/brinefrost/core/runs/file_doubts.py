"""What a logger file is asked before it is attached: all that a reading by hand would be asked."""

from datetime import UTC, datetime, tzinfo

import numpy as np

from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.legs import lay_legs
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.plausible import SLACK_K, most_change
from brinefrost.core.steps import kind_of
from brinefrost.core.traces import Channel, Trace
from brinefrost.core.traces.names import quantities_named
from brinefrost.core.words import Words, duration, moment, say, temp

NEAR_F_K = 15.0  # how near to its surroundings a cook in °F would come; common practice, no source
BEYOND_K = 3.0  # a core is no hotter, nor colder, than what is around it, as near as two probes agree
LATE_START_S, NEAR_START_S = 1200.0, 600.0  # how far a file's start lies off its step, and how near it would; in UTC
MOST_PAIRS = 4000  # neighbouring readings that are looked at


def doubts_of(batch: Batch, step_id: str, trace: Trace, zone: tzinfo) -> list[Words]:
    """Questions to ask before a file is attached to a step that has begun; none where nothing is in doubt.

    A pace or a temperature that the piece, its medium or the unit cannot do, °F without a unit, a start that does not
    follow from what was read before, channels whose names dispute what they measure, clock times that do not exist,
    times that look like UTC. Valid for every trace; ``zone`` is the kitchen's. As ``most_change``; the rest is common
    practice, no source.
    """
    found: list[Words] = [*trace.questions]
    for channel in trace.channels:
        named = channel.quantity == "unknown" and len(quantities_named(channel.name)) > 1
        if named:
            found.append(say("runs.file_doubts.name_disputes", name=channel.name))
        if channel.quantity == "core":
            found += _of_core(batch, step_id, trace, channel, zone)
        elif channel.quantity in ("bath", "air"):
            found += _of_surroundings(batch, step_id, channel)
    return [*found, *_looks_like_utc(batch, step_id, trace, zone)]


def _of_core(batch: Batch, step_id: str, trace: Trace, channel: Channel, zone: tzinfo) -> list[Words]:
    times, values = _in_step(batch, step_id, channel)
    if len(times) < 2:
        return []
    said = _beyond(batch, step_id, trace, channel, values)
    if said is not None:
        return [said]
    jump = _jump(batch, step_id, times, values)
    if jump is not None:
        at, early, late, most = jump
        when = moment(datetime.fromtimestamp(at, tz=zone), "%H:%M")
        said = say(
            "runs.file_doubts.jumps", name=channel.name, early=temp(early), late=temp(late), when=when, most=most
        )
        return [said]
    return _start(batch, step_id, channel, float(times[0]), float(values[0]))


def _in_step(batch: Batch, step_id: str, channel: Channel) -> tuple[np.ndarray, np.ndarray]:
    span = batch.span(step_id)
    times, values = np.array(channel.times_s), np.array(channel.values)
    keep = times >= (span.started.timestamp() if span.started else -np.inf)
    if span.finished:
        keep &= times <= span.finished.timestamp()
    return times[keep], values[keep]


def _beyond(batch: Batch, step_id: str, trace: Trace, channel: Channel, values: np.ndarray) -> Words | None:
    """A core beyond what surrounds it: in °F perhaps, or another thing than the core."""
    step = batch.plan.step(step_id)
    kind, acts = kind_of(step), kind_of(step).acts(step)
    read = [v for c in trace.channels if c.quantity in ("bath", "air") for v in _in_step(batch, step_id, c)[1]]
    around = [*([c] if (c := kind.around_c(step)) is not None else []), *read]
    hottest, coldest = float(np.max(values)), float(np.min(values))
    if "heats" in acts and around and hottest > max(around) + BEYOND_K:
        if max(around) - NEAR_F_K <= (hottest - 32) / 1.8 <= max(around) + BEYOND_K:
            return say("runs.file_doubts.in_fahrenheit", name=channel.name, value=temp(hottest, ".1f"))
        return say("runs.file_doubts.hotter", name=channel.name, value=temp(hottest), around=temp(max(around)))
    if acts & {"cools", "keeps"} and around and coldest < min(around) - BEYOND_K:
        return say("runs.file_doubts.colder", name=channel.name, value=temp(coldest), around=temp(min(around)))
    return None


def _jump(
    batch: Batch, step_id: str, times: np.ndarray, values: np.ndarray
) -> tuple[float, float, float, Words] | None:
    """The first two readings further apart than the piece can go in that time."""
    step = batch.plan.step(step_id)
    far = np.flatnonzero(np.abs(np.diff(values)) > SLACK_K)[:MOST_PAIRS]
    for i in far:
        early, late, gap = float(values[i]), float(values[i + 1]), float(times[i + 1] - times[i])
        most = most_change(batch, [step], early, late < early, gap)
        if most is not None and abs(late - early) > most.here:
            return float(times[i + 1]), early, late, duration(gap)
    # what no single step betrays: from the first reading to each later one
    stride = max(1, len(times) // 200)
    for i in range(stride, len(times), stride):
        early, late, gap = float(values[0]), float(values[i]), float(times[i] - times[0])
        if abs(late - early) <= SLACK_K:
            continue
        most = most_change(batch, [step], early, late < early, gap)
        if most is not None and abs(late - early) > most.here:
            return float(times[i]), early, late, duration(gap)
    return None


def _start(batch: Batch, step_id: str, channel: Channel, first_s: float, first_c: float) -> list[Words]:
    """Whether it begins where the food was: as it was last read, else as the plan has it."""
    core_c = find_core_elsewhere(batch, step_id, first_s, first_c)
    if core_c is None:
        return []
    return [say("runs.file_doubts.starts_elsewhere", name=channel.name, value=temp(first_c), before=temp(core_c))]


def find_core_elsewhere(batch: Batch, step_id: str, first_s: float, first_c: float) -> float | None:
    """How warm the core was before a step [°C], where what is read first [s since 1970, °C] cannot be of it.

    None where it can, or nobody knows. Valid as ``most_change``.
    """
    before = _core_before(batch, step_id)
    if before is None:
        return None
    at_s, core_c = before
    most = most_change(batch, [batch.plan.step(step_id)], core_c, first_c < core_c, max(first_s - at_s, 0.0))
    near = most is None or abs(first_c - core_c) <= most.here + QUANTITIES["core"].far
    return None if near else core_c


def _core_before(batch: Batch, step_id: str) -> tuple[float, float] | None:
    """When [s] and how warm [°C] the core was last before a step: read, or planned where nobody read it."""
    began = batch.span(step_id).started
    if began is None:
        return None
    reads = [r.logged for r in batch.standing_readings() if r.logged.quantity == "core"]
    earlier = [r for r in reads if r.taken_at <= began and r.step != step_id]
    if earlier:
        last = max(earlier, key=lambda each: each.taken_at)
        return last.taken_at.timestamp(), last.value
    if provable(batch.plan):
        return None
    way = ways_with(batch.plan, step_id)[0]
    legs = lay_legs(way, *simulated(way))
    index = [leg.step.id for leg in legs].index(step_id)
    return (began.timestamp(), float(legs[index].core_c[0])) if len(legs[index].core_c) else None


def _of_surroundings(batch: Batch, step_id: str, channel: Channel) -> list[Words]:
    """A bath, an oven or a store far from what its checks expect: another thing perhaps, or in °F."""
    control = asked_steps(batch).get(step_id)
    bands = [m for m in (control.monitoring if control else ()) if m.quantity == channel.quantity]
    _, values = _in_step(batch, step_id, channel)
    if not bands or not len(values):
        return []
    middle, far = float(np.median(values)), QUANTITIES[bands[0].quantity].far
    low, high = min(m.expected_low_c for m in bands) - far, max(m.expected_high_c for m in bands) + far
    if low <= middle <= high:
        return []
    if low <= (middle - 32) / 1.8 <= high:
        return [say("runs.file_doubts.in_fahrenheit", name=channel.name, value=temp(middle, ".1f"))]
    return [say("runs.file_doubts.far_from_expected", name=channel.name, value=temp(middle))]


def _looks_like_utc(batch: Batch, step_id: str, trace: Trace, zone: tzinfo) -> list[Words]:
    """Times taken as the kitchen's own that would fit the step in UTC, and do not as they are."""
    began = batch.span(step_id).started
    assumed = any(each.about == "zone" and not each.certain for each in trace.assumptions)
    if began is None or not assumed:
        return []
    offset = datetime.fromtimestamp(trace.first_s, tz=UTC).astimezone(zone).utcoffset()
    shift = offset.total_seconds() if offset else 0.0
    here, there = abs(trace.first_s - began.timestamp()), abs(trace.first_s + shift - began.timestamp())
    if not shift or here < LATE_START_S or there > NEAR_START_S:
        return []
    return [say("runs.file_doubts.looks_like_utc", shift=duration(abs(shift)))]
