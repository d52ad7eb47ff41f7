"""What is drawn of a batch: measured and expected curves, and the marks of its limits."""

from datetime import datetime
from typing import Literal

import numpy as np

from brinefrost.core.limits import LimitMark
from brinefrost.core.quantities import BY_CLOCK
from brinefrost.core.runs.batch import Batch, ReadingState, TraceState
from brinefrost.core.runs.judging import Judgement, series_of
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent

MOST_POINTS = 400


class Curve(Sent):
    """A line of the chart, measured or expected."""

    name: Words
    quantity: str
    step: str
    basis: Literal["logger", "hand", "expected", "slow"]
    times_s: tuple[float, ...]
    values: tuple[float, ...]


class Mark(LimitMark):
    """How a limit is drawn over its quantity, at its step."""

    step: str
    quantity: str


def curves_of(batch: Batch, judgement: Judgement) -> list[Curve]:
    """Measured traces, hand readings, and where a chill is going."""
    found = [
        _trace_curve(state, channel.name)
        for state in batch.standing_traces()
        if state.trace
        for channel in state.trace.channels
    ]
    grouped: dict[tuple[str, str], list[ReadingState]] = {}
    for reading in batch.standing_readings():
        grouped.setdefault((reading.logged.step, reading.logged.quantity), []).append(reading)
    for (step, quantity), readings in grouped.items():
        found.append(
            Curve(
                name=say("services.views.by_hand"),
                quantity=quantity,
                step=step,
                basis="hand",
                times_s=tuple(r.logged.taken_at.timestamp() for r in readings),
                values=tuple(r.logged.value for r in readings),
            )
        )
    for step, (quantity, course) in judgement.courses.items():
        shown = np.abs(course.expected - course.settles_at) > course.near
        for basis, values in (("expected", course.expected), ("slow", course.slow)):
            found.append(
                Curve(
                    name=say("services.views.expected"),
                    quantity=quantity,
                    step=step,
                    basis=basis,
                    times_s=tuple(course.times_s[shown][::4].round(0)),
                    values=tuple(values[shown][::4].round(2)),
                )
            )
    return found


def marks_of(batch: Batch, judgement: Judgement, now: datetime) -> list[Mark]:
    """The lines and points of the limits, for the chart; a number of days is no line."""
    found: list[Mark] = []
    for status in judgement.statuses:
        span = batch.span(status.step)
        if span.started is None or status.limit.quantity in ("age", *BY_CLOCK):
            continue
        began, ended = span.started.timestamp(), span.finished.timestamp() if span.finished else None
        series = series_of(batch, status.step, status.limit, now)[0]
        drawn = status.limit.marks(series, began, ended, now.timestamp(), status.verdict.state)
        found += [Mark(step=status.step, quantity=status.limit.quantity, **vars(mark)) for mark in drawn]
    return found


def _trace_curve(state: TraceState, channel_name: str) -> Curve:
    trace = state.trace
    assert trace is not None  # noqa: S101 (the caller filters)
    channel = next(channel for channel in trace.channels if channel.name == channel_name)
    stride = max(1, len(channel.values) // MOST_POINTS)
    return Curve(
        name=channel.name
        if state.live
        else say(
            "services.views.instrument_name_name", instrument_name=state.attached.instrument_name, name=channel.name
        ),
        quantity=channel.quantity,
        step=state.attached.step,
        basis="logger",
        times_s=channel.times_s[::stride],
        values=channel.values[::stride],
    )
