"""Judging what is expected with the same limits that judge what was measured."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.limits.base import LimitBase, Series, Verdict
from brinefrost.core.physics.body import Array
from brinefrost.core.words import Words, amount, duration, say
from brinefrost.core.working import Document, Working


@dataclass(frozen=True)
class Projection:
    """What is expected of a quantity from now on [its unit], with a slow and a fast case.

    ``settles_at`` is where it tends to; closer than ``near`` there is nothing left to see.
    """

    times_s: Array
    expected: Array
    slow: Array
    fast: Array
    working: Working
    settles_at: float = 0.0
    near: float = 1.0


class StageForecast(Document):
    """When a stage is expected to be reached, and how much too late."""

    to_c: float
    deadline_s: float
    expected_s: float | None
    slow_s: float | None
    fast_s: float | None
    late_by_s: float | None
    misses: bool


class Forecast(Document):
    """What the readings so far lead to."""

    verdict: Verdict
    stages: tuple[StageForecast, ...]
    misses: bool
    sentence: Words
    working: Working


def forecast_of(limit: LimitBase, measured: Series, projection: Projection, now_s: float) -> Forecast:
    """Expected outcome of a limit.

    Parameters
    ----------
    limit : LimitBase
        The limit.
    measured : Series
        Readings so far [the limit's unit], (n,).
    projection : Projection
        What is expected, (m,), in a slow, an expected and a fast case.
    now_s : float
        Now [s].

    Returns
    -------
    Forecast
        ``misses`` when the expected curve, judged as if it had been measured without error, breaks a stage, or the
        limit where it has no stages.

    Raises
    ------
    ValueError
        Never for finite temperatures.

    Notes
    -----
    Valid as far as the projection is; a forecast plans, it passes nothing.

    References
    ----------
    The limit's own source.
    """
    end = float(projection.times_s[-1])
    exact = Series(measured.times_s, measured.values, 0.0, measured.opened_s)
    expected = exact.joined(projection.times_s, projection.expected)
    verdict = limit.evaluate(expected, end)
    cases = [
        limit.results(exact.joined(projection.times_s, case), end)
        for case in (projection.expected, projection.slow, projection.fast)
    ]
    stages = []
    for normal, slow, fast in zip(*cases, strict=True):
        deadline = normal.deadline_s if normal.deadline_s is not None else end
        late = None if normal.reached_s is None else max(0.0, normal.reached_s - deadline)
        stages.append(
            StageForecast(
                to_c=normal.to_c,
                deadline_s=deadline,
                expected_s=normal.reached_s,
                slow_s=slow.reached_s,
                fast_s=fast.reached_s,
                late_by_s=late,
                misses=normal.reached_s is None or normal.reached_s > deadline,
            )
        )
    missed = next((stage for stage in stages if stage.misses), None)
    misses = missed is not None if stages else verdict.state != "pass"
    return Forecast(
        verdict=verdict,
        stages=tuple(stages),
        misses=misses,
        sentence=_sentence(limit, missed, stages, now_s) if stages else _plain(limit, projection, misses, now_s),
        working=projection.working,
    )


def _plain(limit: LimitBase, projection: Projection, misses: bool, now_s: float) -> str:
    """Where it tends to, and whether that is good."""
    rest = amount(projection.settles_at, limit.marks_unit())
    if misses:
        return say("limits.forecast.will_not_meet_it_as_it", rest=rest)
    met = next((float(t) for t, ok in _met(limit, projection) if ok), None)
    when = "" if met is None else say("limits.forecast.in_value", value=duration(max(0.0, met - now_s)))
    return say("limits.forecast.on_course_met_it_tends_to", when=when, rest=rest)


def _met(limit: LimitBase, projection: Projection) -> list[tuple[float, bool]]:
    """Whether a reading as expected would meet it, at some times ahead [s]."""
    picked = range(0, len(projection.times_s), max(1, len(projection.times_s) // 60))
    judged = []
    for i in picked:
        one = Series(projection.times_s[i : i + 1], projection.expected[i : i + 1], 0.0, None, True, np.inf, "computed")
        judged.append((float(projection.times_s[i]), limit.evaluate(one, float(projection.times_s[i])).state == "pass"))
    return judged


def _sentence(limit: LimitBase, missed: StageForecast | None, stages: list[StageForecast], now_s: float) -> str:
    if missed is None:
        last = stages[-1]
        spare = min(stage.deadline_s - (stage.expected_s or stage.deadline_s) for stage in stages)
        left = max(0.0, (last.expected_s or now_s) - now_s)
        return say(
            "limits.forecast.on_course_expected_in_to_spare",
            to=limit.bound_c(last.to_c, "g"),
            left=duration(left),
            spare=duration(spare),
        )
    if missed.expected_s is None:
        return say("limits.forecast.will_not_reach_as_it_is", to=limit.bound_c(missed.to_c, "g"))
    return say(
        "limits.forecast.will_miss_by", to=limit.bound_c(missed.to_c, "g"), value=duration(missed.late_by_s or 0.0)
    )
