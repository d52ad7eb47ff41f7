"""Conduction into slabs, cylinders and spheres whose surroundings change with time, stage after stage."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from brinefrost.core.bounds import AT_LEAST_0, SPAN, TEMPERATURE, TIME, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.memo import Fixed, memoize
from brinefrost.core.physics.body import Array, Body, Shape, in_range
from brinefrost.core.physics.field import KEPT, Field, field_of, line_inside, spread_line
from brinefrost.core.physics.modes import fit_profile, modes_of, read_profile
from brinefrost.core.physics.pan import SLICES, Pan, carry_in_pan
from brinefrost.core.physics.phases import FREEZES_C, SHELLS, Air, PhaseCurve, carry_phases, is_frozen
from brinefrost.core.words import num, say

BLOCK = 32  # steps carried through at once
MOST_STEPS = 200_000  # points of one answer: more than a week at 5 s
NEVER_K = 1e-9  # so far from what warms or cools it a piece stays, where the digits would have it there
BOILING_H = 5000.0  # a surface that is held at a temperature [W/m²·K]
FORGOTTEN = 1e-12  # a mode that decays by this much within one step just follows its surroundings


@dataclass(frozen=True)
class Stage:
    """A time in one surrounding: its temperature along straight lines between the given points."""

    times_s: Array  # from 0 [s], (n,)
    surroundings_c: Array  # [°C], (n,)
    h_w_m2k: float
    step_s: float | None = None  # spacing of this stage's answer, where it differs from the rest [s]
    taken_s: Array | None = None  # when it really is at ``times_s``, where its surroundings cannot take the heat [s]
    boils_c: float | None = None  # no surface is hotter, where its water can boil away [°C]
    vapour_pa: float | None = None  # in the air around an open surface, which dries and stays cool [Pa]
    pan: Pan | None = None  # that touches one face of a slab at a time

    @property
    def length_s(self) -> float:
        """How long it really takes [s]."""
        return float((self.times_s if self.taken_s is None else self.taken_s)[-1])

    @staticmethod
    def steady(
        duration_s: float,
        surroundings_c: float,
        h_w_m2k: float,
        boils_c: float | None = None,
        vapour_pa: float | None = None,
    ) -> "Stage":
        """A stage of a duration [s] at one temperature [°C] with a coefficient [W/m²·K].

        Valid for durations above 0; ``boils_c`` and ``vapour_pa`` as the stage has them.
        """
        times, around = np.array([0.0, duration_s]), np.full(2, surroundings_c)
        return Stage(times, around, h_w_m2k, boils_c=boils_c, vapour_pa=vapour_pa)

    @staticmethod
    def ramp(duration_s: float, from_c: float, to_c: float, h_w_m2k: float) -> "Stage":
        """A stage of a duration [s] whose surroundings go from one temperature to another [°C] along a straight line.

        Valid for durations above 0.
        """
        return Stage(np.array([0.0, duration_s]), np.array([from_c, to_c]), h_w_m2k)

    @staticmethod
    def fading(duration_s: float, from_c: float, to_c: float, time_constant_s: float, h_w_m2k: float) -> "Stage":
        """.

        A stage of a duration [s] whose surroundings fade towards a temperature [°C] with a time constant [s], as an
        oven that was turned off. Valid for durations and constants above 0; Newton's law of cooling.
        """
        times = np.linspace(0.0, duration_s, 121)
        return Stage(times, to_c + (from_c - to_c) * np.exp(-times / time_constant_s), h_w_m2k)


@dataclass(frozen=True)
class HeatCurve:
    """Temperatures against time over all stages. ``ends`` holds the index at which each stage ends."""

    times_s: Array
    core_c: Array
    surface_c: Array
    mean_c: Array
    surroundings_c: Array
    ends: tuple[int, ...]


def heat_through(body: Body, stages: Sequence[Stage], initial_c: float, step_s: float = 15.0) -> HeatCurve:
    """Carry one temperature field through stages of heating or cooling.

    Parameters
    ----------
    body : Body
        The piece; half thickness [m], diffusivity [m²/s], conductivity [W/m·K].
    stages : sequence of Stage
        Surroundings [°C] against time [s] and surface coefficient [W/m²·K] of each.
    initial_c : float
        Even temperature at the start [°C].
    step_s : float
        Spacing of the answer, and of the straight lines the surroundings are read along [s].

    Returns
    -------
    HeatCurve
        Core, surface, mean and surroundings [°C] at times [s], each (n,).

    Raises
    ------
    OutOfRangeError
        If a number lies outside ``RANGES`` or is not finite, a stage is empty, its times do not rise, or the answer
        would have more than 200,000 points.

    Notes
    -----
    Valid for constant properties, Fo above 1e-3, and by ``carry_phases`` for what comes in frozen or stands open in hot
    air; exact in time for surroundings that are straight between points ``step_s`` apart. Carry-over after heating
    comes out by itself, since the field, not the core alone, is handed on.

    References
    ----------
    Carslaw & Jaeger (1959), ch. III, VII, IX. Checked against the eigenvalue series in
    tests/core/test_heat.py.
    """
    course = HeatCourse(body, initial_c, step_s)
    for stage in stages:
        course.go(stage)
    return course.curve


@dataclass(frozen=True)
class _Way:
    """A stretch by conduction: temperatures [°C] against time [s], each (n,), and the field it leaves behind."""

    times_s: Array
    core_c: Array
    surface_c: Array
    mean_c: Array
    surroundings_c: Array
    basis: Array


class HeatCourse:
    """A piece on its way: one temperature field, carried on by a stage at a time. What was computed stays so.

    Takes what ``heat_through`` takes, with its ranges, errors and source.
    """

    def __init__(self, body: Body, initial_c: float, step_s: float = 15.0) -> None:
        in_range("initial_c", initial_c)
        check("step_s", step_s, SPAN)
        self.body, self._initial_c, self._step_s = body, initial_c, step_s
        self._parts: list[tuple[Array, Array, Array, Array, Array]] = []
        self._basis: Array | None = None
        self._been_c = (initial_c, initial_c)  # the coldest and the warmest of any part of the piece so far
        self._shells: Array | None = None  # while there is ice in it
        self._ends: list[int] = []
        self._offset_s = 0.0
        self._curve: HeatCurve | None = None

    @property
    def is_frozen(self) -> bool:
        """Whether there is ice in it now."""
        return self._is_frozen()

    @property
    def mean_c(self) -> float:
        """How warm the piece is now, on average [°C]."""
        return float(self._parts[-1][3][-1]) if self._parts else self._initial_c

    def go(self, stage: Stage) -> None:
        """On through a stage: surroundings [°C], coefficient [W/m²·K]."""
        if stage.pan is not None:
            self._go_pan(stage, stage.pan)
        elif self._is_frozen() or stage.vapour_pa is not None:
            self._go_phases(stage)
        elif stage.boils_c is not None and float(np.max(stage.surroundings_c)) > stage.boils_c:
            self._go_boiling(stage, stage.boils_c)
        else:
            self._go_linear(stage)
        self._ends.append(sum(len(part[0]) for part in self._parts) - 1)
        self._curve = None

    def go_even(self, times_s: Array, liquid_c: Array, core_c: Array, around_c: Array) -> None:
        """On through a time [s] in which it is stirred: the liquid even, the core of what swims in it behind it [°C].

        It goes on from there as even as that core: slower to be hot, and to be cold, than it is. Valid for liquids.
        """
        self._been_c = (
            float(min(self._been_c[0], np.min(core_c), np.min(liquid_c))),
            float(max(self._been_c[1], np.max(core_c), np.max(liquid_c))),
        )
        self._add(times_s, core_c, liquid_c, liquid_c, around_c)
        field = field_of(self.body, BOILING_H)
        self._basis, self._shells = field.to_basis(float(core_c[-1]) * field.gain), None
        self._ends.append(sum(len(part[0]) for part in self._parts) - 1)
        self._curve = None

    def _is_frozen(self) -> bool:
        """Whether there is ice in it: it came in so, or has not thawed since."""
        if self._shells is not None:
            return is_frozen(float(np.min(self._shells)))
        return self._basis is None and is_frozen(self._initial_c - FREEZES_C / 2)

    def _go_boiling(self, stage: Stage, boils_c: float) -> None:
        """Through surroundings in which its surface comes to boil: until it does, then at that, until they are cooler.

        Two linear stages: the surface is held by what evaporates, and conduction inside stays what it was.
        """
        times, outside = _grid(stage, stage.step_s or self._step_s)
        hotter = outside > boils_c
        edges = [0, *(np.flatnonzero(np.diff(hotter)) + 1), len(times) - 1]
        for begin, end in pairwise(edges):
            if end <= begin:
                continue
            part = Stage(times[begin : end + 1] - times[begin], outside[begin : end + 1], stage.h_w_m2k, stage.step_s)
            if not hotter[begin]:
                self._go_linear(part)
                continue
            warming = self._goes_linear(part)
            cut = _first_at(warming, boils_c)
            if cut is None:
                self._keep(warming)
                continue
            until = np.append(part.times_s[part.times_s < cut], cut)
            around = np.interp(until, part.times_s, part.surroundings_c)
            there = self._goes_linear(Stage(until, around, stage.h_w_m2k, stage.step_s))
            self._keep(replace(there, surface_c=np.minimum(there.surface_c, boils_c)))
            rest = part.length_s - cut
            held = self._goes_linear(Stage.steady(rest, boils_c, BOILING_H))
            shown = np.interp(held.times_s + cut, part.times_s, part.surroundings_c)
            self._keep(replace(held, surroundings_c=shown))

    def _go_phases(self, stage: Stage) -> None:
        """Through what freezes, thaws or dries it, by shells; handed back to the modes once no ice is left."""
        air = Air(stage.h_w_m2k, 100.0 if stage.boils_c is None else stage.boils_c, stage.vapour_pa)
        found = carry_phases(self.body, self._in_shells(), stage.times_s, stage.surroundings_c, air)
        self._keep_phases(found, np.interp(found.times_s, stage.times_s, stage.surroundings_c))
        self._leave(float(found.core_c[-1]), found.shells_c, float(found.surface_c[-1]))

    def _go_pan(self, stage: Stage, pan: Pan) -> None:
        """Through a pan, a face at a time; it leaves the mean of both halves, which is all that both faces tell."""
        shells = self._in_shells()
        half = np.interp((np.arange(SLICES // 2) + 0.5) * 2 / SLICES, (np.arange(SHELLS) + 0.5) / SHELLS, shells)
        found = carry_in_pan(self.body, np.concatenate((half[::-1], half)), stage.length_s, pan)
        wide = (np.arange(SLICES // 2) + 0.5) * 2 / SLICES
        even = np.interp((np.arange(SHELLS) + 0.5) / SHELLS, wide, found.shells_c)
        self._keep_phases(found, np.full(len(found.times_s), pan.pan_c))
        self._leave(float(even[0]), even, float(1.5 * even[-1] - 0.5 * even[-2]))

    def _in_shells(self) -> Array:
        """How warm it is, from the middle out [°C]; of a block along its thickness, the last to be hot or cold."""
        if self._shells is not None:
            return self._shells
        places = (np.arange(SHELLS) + 0.5) / SHELLS
        if self._basis is None:
            return np.full(SHELLS, self._initial_c)
        return read_profile(line_inside(self._basis), places)

    def _keep_phases(self, found: PhaseCurve, outside: Array) -> None:
        self._been_c = (
            float(min(self._been_c[0], np.min(found.surface_c), np.min(found.core_c))),
            float(max(self._been_c[1], np.max(found.surface_c), np.max(found.core_c))),
        )
        self._add(found.times_s, found.core_c, found.surface_c, found.mean_c, outside)

    def _leave(self, core_c: float, shells_c: Array, surface_c: float) -> None:
        """What shells leave behind, as the modes have it; the shells themselves while there is ice [°C]."""
        places = np.concatenate(([0.0], (np.arange(SHELLS) + 0.5) / SHELLS, [1.0]))
        values = np.concatenate(([core_c], shells_c, [surface_c]))
        axes = self.body.axes()
        line = fit_profile(axes[0][0], places, values, KEPT[len(axes)])
        self._basis = spread_line(line, len(axes))
        self._shells = shells_c
        if not self._is_frozen():
            self._shells = None

    def _go_linear(self, stage: Stage) -> None:
        self._keep(self._goes_linear(stage))

    def _goes_linear(self, stage: Stage) -> "_Way":
        """Where a stage leads by conduction alone."""
        times, outside = _grid(stage, stage.step_s or self._step_s)
        begin = self._initial_c if self._basis is None else Fixed(self._basis)
        found = _carry_linear(self.body, stage.h_w_m2k, begin, float(times[-1]), Fixed(outside))
        core, surface = (self._never_there(values, outside) for values in (found.core_c, found.surface_c))
        real = times if stage.taken_s is None else np.interp(times, stage.times_s, stage.taken_s)
        return replace(found, times_s=real, core_c=core, surface_c=surface)

    def _keep(self, way: "_Way") -> None:
        """A way that it went."""
        self._been_c = (
            float(min(self._been_c[0], np.min(way.surface_c), np.min(way.core_c))),
            float(max(self._been_c[1], np.max(way.surface_c), np.max(way.core_c))),
        )
        self._basis = way.basis
        self._add(way.times_s, way.core_c, way.surface_c, way.mean_c, way.surroundings_c)

    def _add(self, times_s: Array, *columns: Array) -> None:
        keep = slice(1, None) if self._parts else slice(0, None)
        core, surface, mean, outside = (column[keep] for column in columns)
        self._parts.append(((times_s + self._offset_s)[keep], core, surface, mean, outside))
        self._offset_s += float(times_s[-1])

    def _never_there(self, values_c: Array, outside_c: Array) -> Array:
        """What is warmed or cooled comes near to what warms or cools it, and is never there (the maximum principle):
        a limit that counts from the bath's own temperature is not met by the last digit of a sum."""
        coldest, warmest = np.minimum.accumulate(outside_c), np.maximum.accumulate(outside_c)
        below = np.where(warmest > self._been_c[1], warmest - NEVER_K, np.inf)
        above = np.where(coldest < self._been_c[0], coldest + NEVER_K, -np.inf)
        return np.clip(values_c, np.minimum(above, below), below)

    @property
    def curve(self) -> HeatCurve:
        """The way so far: temperatures [°C] against time [s]."""
        if not self._parts:
            raise OutOfRangeError(say("physics.heat.there_is_no_heating_or_cooling"))
        if self._curve is None:
            columns = [np.concatenate(column) for column in zip(*self._parts, strict=True)]
            self._curve = HeatCurve(columns[0], columns[1], columns[2], columns[3], columns[4], tuple(self._ends))
        return self._curve


def _first_at(way: _Way, surface_c: float) -> float | None:
    """When its surface is first so warm [s], at least one step on; None where it is so at its end alone, or never."""
    over = np.flatnonzero(way.surface_c[1:-1] >= surface_c)
    if not len(over):
        return None
    last = slice(int(over[0]), int(over[0]) + 2)
    at = float(np.interp(surface_c, way.surface_c[last], way.times_s[last]))
    return max(at, float(way.times_s[1]) / 2)


def centre_theta(shape: Shape, biot: float, fourier: Array) -> Array:
    """Dimensionless centre temperature after a step in the surroundings.

    Parameters
    ----------
    shape : Shape
        Slab, cylinder or sphere.
    biot : float
        h R / k [-].
    fourier : array
        α t / R² [-], (n,).

    Returns
    -------
    array
        (T − T∞) / (T0 − T∞) at the centre [-], (n,).

    Raises
    ------
    OutOfRangeError
        If a Fourier number is negative or not finite, or the Biot number outside its range.

    Notes
    -----
    Valid for Fo ≥ 0 and Biot 1e-6 to 1e6.

    References
    ----------
    Carslaw & Jaeger (1959); Heisler charts plot the same function.
    """
    check("fourier", fourier, AT_LEAST_0)
    modes = modes_of(int(shape), biot)
    return np.asarray((modes.at_centre * modes.gain) @ np.exp(-np.outer(modes.rates, fourier)))


def _grid(stage: Stage, step_s: float) -> tuple[Array, Array]:
    check("times_s", stage.times_s, TIME)
    check("surroundings_c", stage.surroundings_c, TEMPERATURE)
    check("step_s", step_s, SPAN)
    if len(stage.times_s) < 2 or len(stage.times_s) != len(stage.surroundings_c) or np.any(np.diff(stage.times_s) <= 0):
        raise OutOfRangeError(say("physics.heat.the_times_of_a_step_must"))
    duration = float(stage.times_s[-1])
    if not duration > 0:
        raise OutOfRangeError(say("physics.heat.a_step_needs_a_duration_above"), duration_s=duration)
    if duration / step_s > MOST_STEPS:
        raise OutOfRangeError(
            say("physics.heat.that_is_more_than_points_take", most_steps=num(MOST_STEPS, ",")), step_s=step_s
        )
    steps = max(2, int(np.ceil(duration / step_s)))
    times = np.linspace(0.0, duration, steps + 1)
    return times, np.interp(times, stage.times_s, stage.surroundings_c)


@memoize
def _carry_linear(body: Body, h_w_m2k: float, begin: float | Fixed, length_s: float, around: Fixed) -> _Way:
    """By conduction through surroundings [°C] at evenly spaced times; from one temperature [°C], or a field."""
    field, outside = field_of(body, h_w_m2k), around.array
    start = field.from_basis(begin.array) if isinstance(begin, Fixed) else begin * field.gain
    times = np.linspace(0.0, length_s, len(outside))
    amplitudes = _relax(field, start, times, outside)
    core, surface, mean = (place @ amplitudes for place in (field.at_centre, field.at_surface, field.mean))
    return _Way(times, core, surface, mean, outside, field.to_basis(amplitudes[:, -1]))


def _relax(field: Field, start: Array, times_s: Array, outside_c: Array) -> Array:
    """Amplitudes (n, times) for surroundings straight between evenly spaced times."""
    step = float(times_s[1])
    decay = np.exp(-field.rates_s * step)
    # exact response of one mode to a straight line from u0 to u1 over the step
    lag = (1.0 - decay) / (field.rates_s * step)
    forcing = (field.gain * (1.0 - lag))[:, None] * outside_c[1:] + (field.gain * (lag - decay))[:, None] * outside_c[
        :-1
    ]
    lasting = int(np.searchsorted(-decay, -FORGOTTEN))
    amplitudes = np.column_stack((start, forcing))
    if lasting:
        amplitudes[:lasting, 1:] = _carried_through(decay[:lasting], start[:lasting], forcing[:lasting])
    amplitudes[lasting:, 1] += decay[lasting:] * start[lasting:]
    return amplitudes


def _carried_through(decay: Array, start: Array, forcing: Array) -> Array:
    """y[k] = decay · y[k−1] + forcing[k], a mode a row: within a block of steps by one product, then block to block."""
    count, steps = forcing.shape
    blocks = -(-steps // BLOCK)
    padded = np.zeros((count, blocks * BLOCK))
    padded[:, :steps] = forcing
    powers = decay[:, None] ** np.arange(BLOCK + 1)
    lags = np.subtract.outer(np.arange(BLOCK), np.arange(BLOCK))
    spread = np.where(lags >= 0, powers[:, np.maximum(lags, 0)], 0.0)
    within = np.matmul(padded.reshape(count, blocks, BLOCK), spread.transpose(0, 2, 1))
    reached = start
    for block in range(blocks):
        within[:, block] += powers[:, 1:] * reached[:, None]
        reached = within[:, block, -1]
    return np.asarray(within.reshape(count, -1)[:, :steps])
