"""What one step hands to the next: the food's curve so far, what was done to it, what a batch has seen of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

import numpy as np

from brinefrost.core.limits import Limit, Series
from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.heat import HeatCourse, HeatCurve, Stage
from brinefrost.core.quantities import Quantity

FRIDGE_C = 4.0  # how warm goods come in where nothing says so; common practice
BOILS_C = 100.0  # what is wet is no hotter, whatever the walk of its surface says
# water on its way to ice holds food of a chiller's air here; what a freezer's air makes of it is followed by freezing
HELD_C, CHILLED_C = -1.0, -12.0
STEP_S, LATE_STEP_S = 60.0, 300.0
MakeStage = Callable[[float], Stage]


def wet_c(celsius: float) -> float:
    """How warm wet food is where conduction alone would have it so warm [°C]; valid for what ovens and chillers do."""
    return HELD_C if CHILLED_C <= celsius < HELD_C else min(celsius, BOILS_C)


@dataclass
class Course:
    """How far the food has come: one temperature field through every step, and what else the steps changed."""

    body: Body | None
    start_c: float = 4.0
    spans: dict[str, tuple[float, float]] = field(default_factory=dict)  # step: from, to [s] on the curve
    out_s: dict[str, float] = field(default_factory=dict)  # step: when the food last left heat or cold before it [s]
    chilled_from_s: dict[str, float] = field(default_factory=dict)  # step: when its chill began, in whichever step [s]
    evened_c: dict[float, float] = field(default_factory=dict)  # when it came to one temperature, unfollowed [s]
    loose_from_s: dict[str, float] = field(default_factory=dict)  # step: since when nothing kept it hot or cold [s]
    loose_around: dict[str, tuple[tuple[float, float], ...]] = field(default_factory=dict)  # so warm [°C], so long [s]
    held_c: dict[str, float] = field(default_factory=dict)  # step: how warm what kept it before held it [°C]
    run_from_s: dict[str, float] = field(default_factory=dict)  # cook: since when its run's heat counts for it [s]
    now_s: float = 0.0
    days_before: dict[str, float] = field(default_factory=dict)  # store: days that had run of the food by then [d]
    other: dict[tuple[str, Quantity], Series] = field(default_factory=dict)  # what is not heat, by step
    by_nature: bool = False  # its pH is that of what it grew as
    dry_by_nature: bool = False  # and its water activity that of what was bought dry
    pack_kg: float | None = None  # what one pack holds, where there are packs
    heat: HeatCourse | None = None  # the way of the pieces it is in now
    before: HeatCurve | None = None  # the way of those it was in before
    begun_s: float = 0.0  # when it became these pieces, and how warm they then were on average
    begun_c: float | None = None
    _whole: HeatCurve | None = None

    @property
    def curve(self) -> HeatCurve | None:
        """Its whole way so far; None while nothing heats or cools it."""
        if self.heat is None:
            return self.before
        if self.before is None:
            return self.heat.curve
        if self._whole is None:
            self._whole = _follow(self.before, self.heat.curve, self.begun_s)
        return self._whole

    @property
    def mean_c(self) -> float:
        """How warm the food is now, on average [°C]."""
        if self.heat is not None:
            return self.heat.mean_c
        return self.start_c if self.begun_c is None else self.begun_c

    def through(self, make: MakeStage) -> None:
        """On through what surrounds it next."""
        if self.body is None:
            return
        stage = make(self.mean_c)
        if self.heat is None:
            self.heat = HeatCourse(self.body, self.start_c if self.begun_c is None else self.begun_c, STEP_S)
        self.heat.go(stage)
        self.now_s += stage.length_s
        self._whole = None

    def stir(self, times_s: Array, liquid_c: Array, core_c: Array, around_c: Array) -> None:
        """On through a time in which it is even by being stirred; what swims in it may lag behind."""
        if self.body is None:
            return
        if self.heat is None:
            self.heat = HeatCourse(self.body, self.start_c if self.begun_c is None else self.begun_c, STEP_S)
        self.heat.go_even(times_s, liquid_c, core_c, around_c)
        self.now_s += float(times_s[-1])
        self._whole = None

    def cut(self, body: Body | None, by_hand: bool = False) -> None:
        """From here on it is in other pieces, as warm throughout as it was on average; hands cut what is thawed."""
        if body == self.body or body is None:
            return
        if by_hand and self.heat is None and self.begun_c is not None:
            self.begun_c = max(self.begun_c, HELD_C)
        elif self.curve is not None:
            is_frozen = self.heat is not None and self.heat.is_frozen
            mean = self.mean_c if is_frozen else wet_c(self.mean_c)
            self.before, self.begun_s, self.begun_c = self.curve, self.now_s, max(mean, HELD_C) if by_hand else mean
            self.heat = None
        self.body = body

    def set_even(self, celsius: float) -> None:
        """It has come to one temperature throughout [°C], by a way that is not followed."""
        self.begun_c = celsius
        if self.curve is None:
            self.start_c = celsius
        else:
            self.before, self.begun_s, self.heat = self.curve, self.now_s, None

    def core_in(self, step_id: str, since_s: float | None = None) -> Series | None:
        """The core over a step [°C], or from an earlier time on [s]; None where nothing was walked."""
        if self.curve is None:
            return None
        begin, end = self.spans[step_id]
        begin, times = min(begin, begin if since_s is None else since_s), self.curve.times_s
        keep = (times >= begin - 1e-6) & (times <= end + 1e-6)
        if not np.any(keep):
            return None
        core = self.curve.core_c[keep]
        if begin in self.evened_c:  # the moment between two steps is the second's, where it was made even
            core = np.insert(core[1:], 0, self.evened_c[begin])
        return Series(times[keep], core, 0.0, float(times[keep][0]), True, np.inf, "computed")

    def fallen(self, step_id: str, to_s: float) -> Series | None:
        """The core since it last left heat or cold before a step [°C], to a time [s]; None where it had neither."""
        out_s = self.out_s.get(step_id)
        if self.curve is None or out_s is None or out_s >= to_s:
            return None
        inside = (self.curve.times_s > out_s) & (self.curve.times_s < to_s)
        times = np.concatenate(([out_s], self.curve.times_s[inside], [to_s]))
        values = np.interp(times, self.curve.times_s, self.curve.core_c)
        return Series(times, values, 0.0, out_s, False, np.inf, "computed")

    def comes_in_c(self, step_id: str) -> float:
        """The core as a step begins [°C]: after what brought it there by a way that is not followed."""
        begin = self.spans[step_id][0]
        return self.evened_c.get(begin, self.core_at(begin))

    def others(self) -> list[tuple[tuple[str, Quantity], Series]]:
        """What is not heat and runs over time."""
        return [(key, series) for key, series in self.other.items() if len(series) > 1]

    def core_at(self, seconds: float) -> float:
        """The core at a time [s] of the walk [°C]."""
        assert self.curve is not None  # noqa: S101 (asked of a walked food)
        return float(np.interp(seconds, self.curve.times_s, self.curve.core_c))


def _follow(before: HeatCurve, here: HeatCurve, begun_s: float) -> HeatCurve:
    """One way after another; the moment between them belongs to the first."""
    last = len(before.times_s) - 1
    return HeatCurve(
        np.concatenate((before.times_s, here.times_s[1:] + begun_s)),
        np.concatenate((before.core_c, here.core_c[1:])),
        np.concatenate((before.surface_c, here.surface_c[1:])),
        np.concatenate((before.mean_c, here.mean_c[1:])),
        np.concatenate((before.surroundings_c, here.surroundings_c[1:])),
        (*before.ends, *(end + last for end in here.ends)),
    )


@dataclass(frozen=True)
class Evidence:
    """What a running batch has measured of a step's limit, and when its course was changed [s]."""

    series: Series
    now_s: float
    changes_s: tuple[float, ...] = ()
    mass_kg: float = 1.0
    limit: Limit | None = None
    beside: Mapping[Quantity, Series] = field(default_factory=dict)  # what else it is carried on by
