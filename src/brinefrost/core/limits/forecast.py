"""Judging what is expected with the same limits that judge what was measured."""

from dataclasses import dataclass

from brinefrost.core.limits.base import Series, Verdict
from brinefrost.core.limits.cooling import Cooling
from brinefrost.core.physics.body import Array
from brinefrost.core.working import Document, Working, clock


@dataclass(frozen=True)
class Projection:
    """Expected temperatures from now on, with a slow and a fast case."""

    times_s: Array
    expected_c: Array
    slow_c: Array
    fast_c: Array
    working: Working


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
    sentence: str
    working: Working


def forecast_cooling(limit: Cooling, measured: Series, projection: Projection, now_s: float) -> Forecast:
    """Expected outcome of a cooling limit.

    Parameters
    ----------
    limit : Cooling
        The limit.
    measured : Series
        Readings so far [°C], (n,).
    projection : Projection
        Expected core temperatures [°C], (m,), in a slow, an expected and a fast case.
    now_s : float
        Now [s].

    Returns
    -------
    Forecast
        ``misses`` when the expected curve, judged as if it had been measured without error, breaks a stage.

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
    expected = exact.joined(projection.times_s, projection.expected_c)
    verdict = limit.evaluate(expected, end)
    cases = [
        limit.results(exact.joined(projection.times_s, case), end)
        for case in (projection.expected_c, projection.slow_c, projection.fast_c)
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
    return Forecast(
        verdict=verdict,
        stages=tuple(stages),
        misses=missed is not None,
        sentence=_sentence(missed, stages, now_s),
        working=projection.working,
    )


def _sentence(missed: StageForecast | None, stages: list[StageForecast], now_s: float) -> str:
    if missed is None:
        last = stages[-1]
        spare = min(stage.deadline_s - (stage.expected_s or stage.deadline_s) for stage in stages)
        left = max(0.0, (last.expected_s or now_s) - now_s)
        return f"On course: {last.to_c:g} °C expected in {clock(left)}, {clock(spare)} to spare."
    if missed.expected_s is None:
        return f"Will not reach {missed.to_c:g} °C as it is going."
    return f"Will miss {missed.to_c:g} °C by {clock(missed.late_by_s or 0.0)}."
