"""A slice in a hot pan: one face touches it and boils, the other stands in the kitchen's air, until it is turned."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.phases import FREEZES_C, PhaseCurve, conductivities_of, enthalpies_of
from brinefrost.core.words import say

SLICES = 20  # from face to face
STEPS = 160
LEAST_STEPS = 4  # between two turns
MOST_TURNS = STEPS // LEAST_STEPS
ROOM_C, ROOM_H = 25.0, 15.0  # over the face that does not touch: still air and radiation, common practice, no source
OFTEN_S = 60.0  # turned every minute
TOUCHING = 0.25  # of what is round and rolled, so much touches at a time; common practice, no source


@dataclass(frozen=True)
class Pan:
    """A hot pan [°C]: how it gives heat where it touches [W/m²K], where water boils [°C], when food is turned [s]."""

    pan_c: float
    h_w_m2k: float
    boils_c: float
    turned_every_s: float


def carry_in_pan(body: Body, slices_c: Array, duration_s: float, pan: Pan) -> PhaseCurve:
    """Carry a slab through a pan that heats one of its faces at a time.

    Parameters
    ----------
    body : Body
        A slab; half thickness [m], conductivity [W/m·K], diffusivity [m²/s].
    slices_c : array
        Equal slices from the face that touches first to the other [°C], (m,).
    duration_s : float
        [s].
    pan : Pan
        How hot it is, and how often the piece is turned.

    Returns
    -------
    PhaseCurve
        Core and surface are the place, and the face, that come least far; shells are the mean of both halves from the
        middle out, (m / 2,), which is all that both faces alike can tell from then on. No rim.

    Raises
    ------
    OutOfRangeError
        For what is no slab.

    Notes
    -----
    Valid from -60 to 350 °C, as an estimate: the face that touches is never above boiling, what steams off the other
    is left out. Implicit Euler in enthalpy, as ``carry_phases``; compared with finite volumes in tests.

    References
    ----------
    Conduction with two faces apart: Carslaw & Jaeger (1959), ch. III; contact of a pan is common practice.
    """
    if body.shape != Shape.slab or body.other_halves_m:
        raise OutOfRangeError(say("physics.oven.a_roast_is_reckoned_as_a"))
    piece, turns = _Slice(body, slices_c, pan), _turns(duration_s, pan.turned_every_s)
    times, rows = [0.0], [piece.read()]
    steps = max(LEAST_STEPS, STEPS // (len(turns) - 1))
    for n in range(len(turns) - 1):
        marks = np.linspace(turns[n], turns[n + 1], steps + 1)
        seconds = float(marks[1] - marks[0])
        for k in range(steps):
            piece.step(seconds)
            times.append(float(marks[k + 1]))
            rows.append(piece.read())
        piece.turn()
    way = np.array(rows)
    inside, faces = way[:, 1:-1], way[:, [0, -1]]
    least, colder = (int(np.argmin(each.max(axis=0))) for each in (inside, faces))
    half, last = len(slices_c) // 2, inside[-1]
    even = (last[:half][::-1] + last[half:]) / 2
    return PhaseCurve(
        np.array(times), inside[:, least], faces[:, colder], inside.mean(axis=1), np.zeros(len(way)), even
    )


def _turns(duration_s: float, every_s: float) -> Array:
    """When it is turned [s], with its beginning and its end: at most as often as the steps can tell."""
    count = int(np.clip(np.ceil(duration_s / every_s - 1e-9), 1, MOST_TURNS))
    return np.linspace(0.0, duration_s, count + 1)


class _Slice:
    """Slices from the face that went in first to the other, their enthalpy, and which of them touches."""

    def __init__(self, body: Body, slices_c: Array, pan: Pan) -> None:
        self._pan, self._k, self._capacity = pan, body.conductivity_w_mk, body.heat_capacity_j_m3k()
        self._width = 2.0 * body.half_thickness_m / len(slices_c)
        self._passes = np.full(len(slices_c) - 1, self._k / self._width)
        self._conducts = np.full(2, 2.0 * self._k / self._width)
        self._enthalpies, self._celsius = enthalpies_of(self._capacity)
        self._rises = np.diff(self._enthalpies) / np.diff(self._celsius)
        self._inverses: dict[tuple[float, int, bool, bool], Array] = {}
        self._matrix, self._on = np.zeros((len(slices_c), len(slices_c))), np.arange(len(slices_c))
        self._slices, self._touches = slices_c, 0
        self._held: Array | None = None  # enthalpy [J/m³], while there is ice
        self._skins = self._skins_now()

    def turn(self) -> None:
        """The other face down."""
        self._touches = -1 - self._touches
        self._skins = self._skins_now()

    def read(self) -> Array:
        """One face, every slice, the other face [°C]."""
        return np.concatenate(([self._skins[0]], self._slices, [self._skins[1]]))

    def step(self, seconds: float) -> None:
        """On by one implicit step."""
        if self._slices.min() > FREEZES_C:
            self._slices = self._slices + self._inverse(seconds) @ self._gains(self._passes)
            self._held = None
        else:
            self._step_frozen(seconds)
        self._skins = self._skins_now()

    def _inverse(self, seconds: float) -> Array:
        """Of the step's own matrix: the same again and again where nothing freezes."""
        key = (seconds, self._touches, self._skins[0] >= self._pan.boils_c, self._skins[1] >= self._pan.boils_c)
        if key not in self._inverses:
            capacities = np.full(len(self._slices), self._capacity)
            self._inverses[key] = np.asarray(np.linalg.inv(self._slope(seconds, capacities, self._passes)), float)
        return self._inverses[key]

    def _step_frozen(self, seconds: float) -> None:
        held = np.interp(self._slices, self._celsius, self._enthalpies) if self._held is None else self._held
        at = np.clip(np.searchsorted(self._enthalpies, held) - 1, 0, len(self._rises) - 1)
        capacities, k = self._rises[at], conductivities_of(self._k, self._slices)
        passes = 2.0 * k[1:] * k[:-1] / (k[1:] + k[:-1]) / self._width
        self._conducts = 2.0 * k[[0, -1]] / self._width
        self._skins = self._skins_now()
        change = np.linalg.solve(self._slope(seconds, capacities, passes), self._gains(passes))
        self._held = held + capacities * change
        self._slices = np.interp(self._held, self._enthalpies, self._celsius)

    def _gains(self, passes: Array) -> Array:
        flows = passes * (self._slices[1:] - self._slices[:-1])
        gains = np.zeros(len(self._slices))
        gains[:-1] += flows
        gains[1:] -= flows
        gains[[0, -1]] += self._conducts * (self._skins - self._slices[[0, -1]])
        return gains

    def _slope(self, seconds: float, capacities: Array, passes: Array) -> Array:
        slope, on = self._matrix, self._on
        slope[on, on] = self._width * capacities / seconds
        slope[on[:-1], on[:-1]] += passes
        slope[on[1:], on[1:]] += passes
        slope[on[:-1], on[1:]] = slope[on[1:], on[:-1]] = -passes
        for end in (0, -1):
            h, conducts = self._h(end), float(self._conducts[end])
            slope[end, end] += conducts if self._skins[end] >= self._pan.boils_c else conducts * h / (conducts + h)
        return slope

    def _h(self, end: int) -> float:
        return self._pan.h_w_m2k if end == self._touches else ROOM_H

    def _skins_now(self) -> Array:
        """How warm both faces are [°C]: never above boiling."""
        h = np.array([self._h(0), self._h(-1)])
        outside = np.where(np.array([0, -1]) == self._touches, self._pan.pan_c, ROOM_C)
        skins = (h * outside + self._conducts * self._slices[[0, -1]]) / (h + self._conducts)
        return np.asarray(np.minimum(skins, self._pan.boils_c))


def roll_in_pan(pan_c: float, h_w_m2k: float, share: float = TOUCHING) -> tuple[float, float]:
    """What surrounds a round piece that is rolled in a pan, all round [°C], and its coefficient [W/m²K].

    Parameters
    ----------
    pan_c, h_w_m2k : float
        The pan [°C] and what it gives where it touches [W/m²K].
    share : float
        So much of its surface touches at a time [-]; half of a slab that is turned.

    Returns
    -------
    tuple of float
        [°C], [W/m²K].

    Raises
    ------
    TypeError
        If these are no numbers.

    Notes
    -----
    Valid where it is rolled often; a quarter of it touches at a time.

    References
    ----------
    Means of pan and air by what each gives; common practice, no source.
    """
    touching, open_ = share * h_w_m2k, (1.0 - share) * ROOM_H
    both = touching + open_
    return (touching * pan_c + open_ * ROOM_C) / both, both
