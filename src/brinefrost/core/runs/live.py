"""What probes measured by themselves, laid to the steps they were bound to, as a logger's file would be."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Literal

import numpy as np

from brinefrost.core.physics.body import Array
from brinefrost.core.runs.batch import Batch, ProbeState, TraceState
from brinefrost.core.runs.events import TraceAttached
from brinefrost.core.runs.jumps import own_samples, pace_of
from brinefrost.core.steps import kind_of
from brinefrost.core.traces import Channel, Trace

Times = tuple[Array, Array]  # seconds since 1970 and values, (n,) each
SILENT, LEAST_SILENT_S = 5.0, 120.0  # times the usual interval, and at least so long [s], without a sample
STUCK_S = 1800.0  # a core that shows one value for so long while it must move; common practice, no source
STUCK_AROUND_S = 12 * 3600.0  # the air of a store that shows one value for so long
NEAR_AROUND_K = 3.0  # a core so near to what is around it may stand still
LARGEST_STEP_S = 3600.0

State = Literal["measuring", "silent", "stuck", "moved", "waits"]


@dataclass(frozen=True)
class ProbeReads:
    """A bound probe as it stands: its samples that count, and whether it still measures in its place."""

    probe: ProbeState
    state: State
    times_s: Array
    values: Array
    since_s: float | None  # when it fell silent, stood still, or left its place


def with_samples(batch: Batch, samples: Mapping[str, Times]) -> Batch:
    """A batch with what its probes measured so far, by binding; what was laid to it before goes.

    What a probe shows once it stands still is no measurement and is left out, so that its limit is *not measured* from
    then on. Valid for samples of each probe's own time.
    """
    files = [each for each in batch.traces if not each.live]
    live = [_as_trace(batch, each) for each in read_probes(batch, samples) if len(each.times_s)]
    return replace(batch, traces=[*files, *live])


def read_probes(batch: Batch, samples: Mapping[str, Times], now: datetime | None = None) -> list[ProbeReads]:
    """Each probe of a batch with what counts of it; whether it is silent by ``now``. Valid for samples in order of
    time, perhaps none."""
    return [_read_probe(batch, state, samples.get(key), now) for key, state in batch.probes.items()]


def _read_probe(batch: Batch, state: ProbeState, samples: Times | None, now: datetime | None) -> ProbeReads:
    times, values = samples if samples is not None else (np.empty(0), np.empty(0))
    if not len(times):
        return ProbeReads(state, "waits", times, values, None)
    left_s = None
    if state.bound.quantity == "core":
        own = own_samples(times, values, state.bound.at.timestamp(), pace_of(batch, state.bound.step))
        times, values, left_s = times[own.keep], values[own.keep], own.left_s
    stands = _stands_from(batch, state, times, values)
    if stands is not None:
        keep = times <= times[stands]
        return ProbeReads(state, "stuck", times[keep], values[keep], float(times[stands]))
    if left_s is not None:
        return ProbeReads(state, "moved", times, values, left_s)
    until = batch.probe_until(state)
    now_s = times[-1] if now is None else now.timestamp()
    silent = now_s - times[-1] > max(SILENT * _interval_s(times), LEAST_SILENT_S)
    said: State = "silent" if silent and until is None else "measuring"
    return ProbeReads(state, said, times, values, float(times[-1]) if silent else None)


def _interval_s(times: Array) -> float:
    """How far apart its samples usually lie [s]."""
    return float(np.median(np.diff(times))) if len(times) > 2 else 60.0


def _stands_from(batch: Batch, state: ProbeState, times: Array, values: Array) -> int | None:
    """Where a probe began to show one and the same value for longer than it can; None where it never did."""
    step = batch.plan.step(state.bound.step)
    kind = kind_of(step)
    moves = bool(kind.acts(step) & {"heats", "cools", "freezes"}) and state.bound.quantity == "core"
    longest = STUCK_S if moves else STUCK_AROUND_S
    around = kind.around_c(step)
    begins = np.flatnonzero(np.append(True, np.abs(np.diff(values)) > 1e-9))
    ends = np.append(begins[1:] - 1, len(values) - 1)
    for begin, end in zip(begins, ends, strict=True):
        if times[end] - times[begin] < longest:
            continue
        if moves and around is not None and abs(values[begin] - around) <= NEAR_AROUND_K:
            continue  # it has come as near as it comes
        return int(begin)
    return None


def _as_trace(batch: Batch, reads: ProbeReads) -> TraceState:
    bound = reads.probe.bound
    interval = min(_interval_s(reads.times_s), LARGEST_STEP_S)
    channel = Channel(
        name=bound.instrument_name,
        quantity=bound.quantity if bound.quantity in ("core", "bath", "air", "ph", "salt", "aw") else "unknown",
        unit="",
        times_s=tuple(float(each) for each in reads.times_s),
        values=tuple(float(each) for each in reads.values),
    )
    first, last = (datetime.fromtimestamp(float(reads.times_s[i]), tz=UTC) for i in (0, -1))
    attached = TraceAttached(
        trace=bound.binding,
        step=bound.step,
        filename=bound.instrument_name,
        sha256="",
        parsed_sha256="",
        channels=(bound.instrument_name,),
        asked=bound.asked,
        assumptions=(),
        notes=(),
        instrument=bound.instrument,
        instrument_name=bound.instrument_name,
        uncertainty=bound.uncertainty,
        first_at=first,
        last_at=last,
    )
    trace = Trace(
        channels=(channel,),
        assumptions=(),
        notes=(),
        interval_s=interval,
        first_s=float(reads.times_s[0]),
        last_s=float(reads.times_s[-1]),
    )
    error = _error_since(batch, bound.instrument, last)
    probe = reads.probe
    return TraceState(attached, probe.by, probe.by_id, probe.recorded_at, trace, error=error, live=True)


def _error_since(batch: Batch, instrument: str, last: datetime) -> float:
    """By which a probe was found off since its last good check, in its unit; 0 where it was not."""
    found = [each.error for each in batch.doubts if each.instrument == instrument and last >= each.since]
    return found[-1] if found else 0.0
