"""Judging what is expected with the same limits that judge what was measured."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.limits.base import LimitBase, Series, Verdict, number
from brinefrost.core.physics.body import Array
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.words import Words, amount, duration, say, temp
from brinefrost.core.working import Document, Working

LATE_S = 60.0  # what is later than planned by less is not told
SOON_S = 60.0  # what is nearer is now


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
    planned_s: float | None = None  # when the step was to be over


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
    left_s: float | None = None  # until it is met, where it will be
    sentence: Words
    working: Working


def forecast_of(limit: LimitBase, measured: Series, projection: Projection, now_s: float) -> Forecast:
    """Expected outcome of a limit.

    ``misses`` when the expected curve, judged as if it had been measured without error, breaks a stage, or the limit
    where it has no stages. Valid as far as the projection is; a forecast plans, it passes nothing. ``measured`` [the
    limit's unit], ``now_s`` [s]. The limit's own source.
    """
    end = float(projection.times_s[-1])
    exact = Series(measured.times_s, measured.values, 0.0, measured.opened_s)
    bridged_s = measured.longest_gap_s if limit.by_time else np.inf  # nothing is gathered across a silence
    expected = exact.joined(projection.times_s, projection.expected, bridged_s)
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
    reached = [stage.expected_s for stage in stages if stage.expected_s is not None]
    met = None if misses else max(reached) if reached else _met_s(limit, projection, expected)
    return Forecast(
        verdict=verdict,
        stages=tuple(stages),
        misses=misses,
        left_s=None if met is None else max(met - now_s, 0.0),
        sentence=_sentence(limit, missed, stages, now_s) if stages else _plain(limit, projection, met, misses, now_s),
        working=projection.working,
    )


def _plain(limit: LimitBase, projection: Projection, met_s: float | None, misses: bool, now_s: float) -> str:
    """Where it tends to, and whether that is good."""
    unit, rests = QUANTITIES[limit.quantity].unit if limit.quantity in QUANTITIES else "", projection.settles_at
    rest = temp(rests, ".1f") if unit == "°C" else amount(float(number(rests, unit)), unit)
    if misses:
        return say("limits.forecast.will_not_meet_it_as_it", rest=rest)
    left = None if met_s is None else duration(max(0.0, met_s - now_s))
    if left is not None and met_s is not None and projection.planned_s and met_s > projection.planned_s + LATE_S:
        late = duration(met_s - projection.planned_s)
        return say("limits.forecast.met_later_than_planned", left=left, late=late, rest=rest)
    when = "" if left is None else say("limits.forecast.in_value", value=left)
    return say("limits.forecast.on_course_met_it_tends_to", when=when, rest=rest)


def _met_s(limit: LimitBase, projection: Projection, expected: Series) -> float | None:
    """When it is met [s]: what gathers or is reached, by all that is expected; else by a reading at some time ahead."""
    found = limit.met_at_s(expected)
    if found is not None or limit.by_time:
        return found
    times, last, stride = projection.times_s, len(projection.times_s) - 1, max(1, len(projection.times_s) // 60)

    def meets(at: int) -> bool:
        one = Series(times[at : at + 1], projection.expected[at : at + 1], 0.0, None, True, np.inf, "computed")
        return limit.evaluate(one, float(times[at])).state == "pass"

    good = next((at for at in (*range(0, last, stride), last) if meets(at)), None)
    if good is None:
        return None
    while good > 0 and meets(good - 1):
        good -= 1
    return float(times[good])


def _sentence(limit: LimitBase, missed: StageForecast | None, stages: list[StageForecast], now_s: float) -> str:
    if missed is None:
        last = stages[-1]
        spare = min(stage.deadline_s - (stage.expected_s or stage.deadline_s) for stage in stages)
        left = (last.expected_s or now_s) - now_s
        if left < SOON_S:  # by the curve it is there; nobody has read it
            return say(
                "limits.forecast.on_course_expected_by_now",
                to=limit.bound_c(last.to_c, "g"),
                spare=duration(spare),
            )
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
