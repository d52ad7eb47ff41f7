"""What one step hands to the next: the food's curve so far, what was done to it, what a batch has seen of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from brinefrost.core.limits import Limit, Series
from brinefrost.core.physics.body import Body
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps.base import Finding

STEP_S, LATE_STEP_S = 60.0, 300.0
MakeStage = Callable[[float], Stage]


@dataclass
class Walk:
    """How far the food has come: one temperature field through every step, and what else the steps changed."""

    body: Body | None
    start_c: float = 4.0
    stages: list[Stage] = field(default_factory=list)
    spans: dict[str, tuple[float, float]] = field(default_factory=dict)  # step: from, to [s] on the curve
    curve: HeatCurve | None = None
    now_s: float = 0.0
    other: dict[tuple[str, Quantity], Series] = field(default_factory=dict)  # what is not heat, by step
    pack_kg: float | None = None  # what one pack holds, where there are packs

    @property
    def mean_c(self) -> float:
        """How warm the food is now, on average [°C]."""
        return float(self.curve.mean_c[-1]) if self.curve is not None else self.start_c

    def through(self, make: MakeStage) -> None:
        """On through what surrounds it next."""
        if self.body is None:
            return
        stage = make(self.mean_c)
        self.stages.append(stage)
        self.now_s += float(stage.times_s[-1])
        self.curve = heat_through(self.body, self.stages, self.start_c, step_s=STEP_S)

    def core_in(self, step_id: str, whole: bool = False) -> Series | None:
        """The core over a step [°C], or over all so far; None where nothing was walked."""
        if self.curve is None:
            return None
        begin, end = self.spans[step_id]
        times = self.curve.times_s
        keep = times <= end + 1e-6 if whole else (times >= begin - 1e-6) & (times <= end + 1e-6)
        if not np.any(keep):
            return None
        return Series(times[keep], self.curve.core_c[keep], 0.0, float(times[keep][0]), True, np.inf, "computed")

    def others(self) -> list[tuple[tuple[str, Quantity], Series]]:
        """What is not heat and runs over time."""
        return [(key, series) for key, series in self.other.items() if len(series) > 1]

    def core_at(self, seconds: float) -> float:
        """The core at a time [s] of the walk [°C]."""
        assert self.curve is not None  # noqa: S101 (asked of a walked food)
        return float(np.interp(seconds, self.curve.times_s, self.curve.core_c))


@dataclass
class Flow:
    """What has been done to the food by the steps so far, and which they were."""

    earlier: list[str] = field(default_factory=list)  # names
    received_only: bool = True
    hot: bool = False
    chilled: bool = False
    sealed: bool = False
    kept: bool = False
    reheated: bool = False
    acid: bool = False
    wants_cold: list[Finding] = field(default_factory=list)  # what is open until a step keeps it cold


@dataclass(frozen=True)
class Seen:
    """What a running batch has measured of a step's limit, and when its course was changed [s]."""

    series: Series
    now_s: float
    changes_s: tuple[float, ...] = ()
    mass_kg: float = 1.0
    limit: Limit | None = None
