"""What every limit shares: the series it judges, the verdict it gives."""

import re
from dataclasses import dataclass, field, replace
from math import isfinite
from typing import ClassVar, Literal, Self

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array
from brinefrost.core.quantities import Quantity
from brinefrost.core.words import Message, Named, Words, legal, say, temp
from brinefrost.core.words.printed import PAIRS_F
from brinefrost.core.working import Document, Source, Working

State = Literal["pass", "too_close", "fail", "pending", "not_measured"]
Basis = Literal["measured", "computed"]

# worst first: the state of several verdicts together is the first that occurs
ORDER: tuple[State, ...] = ("fail", "too_close", "not_measured", "pending", "pass")
DECIMALS = {"pH": 2, "aw": 3}
TOLERANCE = 1e-9  # relative: a published row held exactly for exactly its time meets itself
SET_IN_F = re.compile(r"Food Code|FSIS|FDA|AFDO")  # whose limits are set, or printed too, in °F
STANDS_S = 15.0  # a probe in food is read once it has stood still so long; instant-read probes, USDA FSIS, from memory
MOST_READING = 1e6  # no quantity of a kitchen is larger in its own unit


@dataclass(frozen=True)
class Series:
    """Readings of one quantity in time order, and how surely they are known.

    ``opened_s`` is when the step began, ``closed`` whether more readings may still come,
    ``longest_gap_s`` the longest silence across which credit is given, ``uncertainty`` the instrument's
    expanded uncertainty (k = 2) in the unit of the values.
    """

    times_s: Array
    values: Array
    uncertainty: float = 0.0
    opened_s: float | None = None
    closed: bool = False
    longest_gap_s: float = 300.0
    basis: Basis = "measured"
    notes: tuple[str, ...] = field(default=())
    closed_s: float | None = None  # when the step ended, where that is known
    chilled_from_s: float | None = None  # when what chills it began, where that is known

    def __post_init__(self) -> None:
        times, values = np.asarray(self.times_s, dtype=float), np.asarray(self.values, dtype=float)
        if times.shape != values.shape or times.ndim != 1:
            raise OutOfRangeError(say("limits.base.every_reading_needs_one_time_and"))
        if not len(times):
            return
        if not (np.isfinite(times).all() and (np.abs(values) <= MOST_READING).all()):
            raise OutOfRangeError(say("limits.base.a_reading_is_missing_or_is"))
        if (times[1:] < times[:-1]).any():
            raise OutOfRangeError(say("limits.base.the_times_of_the_readings_must"))
        if not 0 <= self.uncertainty <= MOST_READING or not self.longest_gap_s >= 0:
            raise OutOfRangeError(say("limits.base.an_uncertainty_cannot_be_negative"), uncertainty=self.uncertainty)
        if not all(isfinite(edge) for edge in (self.opened_s, self.closed_s) if edge is not None):
            raise OutOfRangeError(say("limits.base.the_time_the_step_began_or"))

    @staticmethod
    def of(value: float, uncertainty: float = 0.0, basis: Basis = "measured") -> "Series":
        """One reading [its unit] of something that does not change, at time 0, with its expanded uncertainty, k = 2.

        Valid for any finite value.
        """
        return Series(np.zeros(1), np.array([float(value)]), uncertainty, 0.0, True, np.inf, basis)

    @staticmethod
    def computed(times_s: Array, values: Array, uncertainty: float = 0.0) -> "Series":
        """A way that was worked out, not read: known between its points [s, its unit], from 0 to its end.

        Valid for rising times.
        """
        return Series(times_s, values, uncertainty, 0.0, True, np.inf, "computed")

    @staticmethod
    def empty(opened_s: float | None = None, closed: bool = False) -> "Series":
        """No readings yet of a step opened at a time [s]. Valid for steps not begun as well."""
        return Series(np.empty(0), np.empty(0), opened_s=opened_s, closed=closed)

    def __len__(self) -> int:
        return len(self.times_s)

    def until(self, end_s: float) -> "Series":
        """The readings up to a time [s], as they stood then: still open.

        Valid for any time; before the first reading it is empty.
        """
        keep = self.times_s <= end_s
        return Series(
            self.times_s[keep],
            self.values[keep],
            self.uncertainty,
            self.opened_s,
            self.closed and bool(np.all(keep)),
            self.longest_gap_s,
            self.basis,
            self.notes,
            self.closed_s,
            self.chilled_from_s,
        )

    def stood(self) -> "Series":
        """With each reading that stands alone told for as long as a probe takes to stand still, just before it [s].

        Valid for the core of food: it was so warm for that long, since nobody reads a probe that still moves. What was
        computed, and what follows another reading within the longest silence, stays as it is.
        """
        if self.basis != "measured" or not np.isfinite(self.longest_gap_s) or not len(self):
            return self
        alone = np.insert(np.diff(self.times_s) > max(self.longest_gap_s, STANDS_S), 0, True)
        times = np.concatenate((self.times_s, self.times_s[alone] - STANDS_S))
        order = np.argsort(times, kind="stable")
        values = np.concatenate((self.values, self.values[alone]))
        return replace(self, times_s=times[order], values=values[order])

    def from_opening(self) -> "Series":
        """With the first reading told from the step's opening on: the most that nobody read may have been [s].

        Valid to say that something was not measured; nothing is credited by it.
        """
        if self.basis != "measured" or self.opened_s is None or not len(self) or self.opened_s >= self.times_s[0]:
            return self
        times, values = np.insert(self.times_s, 0, self.opened_s), np.insert(self.values, 0, self.values[0])
        return replace(self, times_s=times, values=values)

    def silences(self, allowed_s: float, now_s: float | None = None) -> NDArray[np.bool_]:
        """Which stretches between readings are longer than allowed [s], (n - 1,).

        With ``now_s`` the stretch from the step's opening to the first reading, and from the last reading to the
        step's end or to now, are put at either end, (n + 1,). Valid for rising times.
        """
        times = np.asarray(self.times_s, dtype=float)
        if now_s is None:
            return np.diff(times) > allowed_s + 1e-6
        end = now_s if self.closed_s is None else min(self.closed_s, now_s)
        first = times[0] if self.opened_s is None else min(self.opened_s, float(times[0]))
        return np.diff(np.concatenate(([first], times, [max(end, float(times[-1]))]))) > allowed_s + 1e-6

    def joined(self, times_s: Array, values: Array, longest_gap_s: float = np.inf) -> "Series":
        """These readings followed by expected ones, (m,), at later times [s], taken as exact.

        Valid for rising times: those not later than the last reading are left out. Silences longer than given [s] still
        earn nothing.
        """
        later = times_s > (self.times_s[-1] if len(self) else -np.inf)
        return Series(
            np.concatenate((self.times_s, times_s[later])),
            np.concatenate((self.values, values[later])),
            self.uncertainty,
            self.opened_s,
            True,
            longest_gap_s,
            "computed",
            self.notes,
        )


class Verdict(Document):
    """One limit's judgement of one series, with its working."""

    state: State
    basis: Basis
    sentence: Words
    value: float | None = None
    limit_value: float | None = None
    margin: float | None = None
    unit: Words = ""
    at_s: float | None = None
    working: Working
    advice: tuple[Words, ...] = ()


class LimitMark(Document):
    """How a limit is drawn over its quantity: a line, or a point that must be reached by a time."""

    label: Words
    value: float
    by_s: float | None = None
    from_s: float | None = None
    until_s: float | None = None
    state: str = "pending"


class StageResult(Document):
    """One mark of a limit as far as it is known: its value, and when it is to be reached and was [s]."""

    to_c: float
    within_s: float
    state: State
    deadline_s: float | None
    reached_s: float | None
    since_s: float | None = None  # when its own clock began


class LimitBase(Document):
    """Every limit has a name of its own, words, and a source. What a limit does not say is answered here."""

    needs_curve: ClassVar[bool] = False  # readings by hand count only where no logger ran
    one_bound: ClassVar[bool] = False  # one number that each reading keeps to: a plan can set it
    read_off: ClassVar[bool] = False  # an instrument shows what its title asks for
    by_time: ClassVar[bool] = False  # it is met once enough time was spent warm enough
    over_all: ClassVar[bool] = False  # what came before the step counts too: clocks and growth add up

    id: str
    title: Named
    source: Source
    quantity: Quantity = "core"
    qualifier: Named = ""
    gap_s: float | None = None  # the longest silence between readings that this limit bears; None: as the series says

    def silence_s(self, series: Series) -> float:
        """The longest silence across which a series counts for this limit [s].

        Valid for every series: the longer of what the limit bears and what the series can bridge.
        """
        return max(series.longest_gap_s, self.gap_s or 0.0)

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge a series as it stands.

        Valid as each limit says. ``series`` [its unit], ``now_s`` [s].
        """
        raise NotImplementedError

    def bound_c(self, celsius: float, spec: str = "") -> Message:
        """A temperature it sets [°C], to be said: in °F as its own code prints it, or exactly where it is set in °C.

        Valid for finite numbers.
        """
        exact = celsius in PAIRS_F and not SET_IN_F.search(self.source.citation)
        return temp(celsius, spec) if exact else legal(celsius, spec)

    def stricter_by(self, other: "LimitBase") -> list[float] | None:
        """How far each part is on the strict side of another's; None where they cannot be compared."""
        return None

    def turns_on(self) -> tuple[float, bool] | None:
        """The one number it turns on, and whether more is on its safe side; None for a table."""
        return None

    def turned_to(self, value: float) -> Self | None:
        """The same limit turned on another number, with its title; None for a table."""
        return None

    @property
    def each_by_itself(self) -> bool:
        """Whether every reading is judged alone, whatever lies between."""
        return False

    @property
    def from_end_of_cooking(self) -> bool:
        """Whether its clock runs from when the food came out of the heat."""
        return False

    @property
    def falls_from_c(self) -> float | None:
        """The temperature below which its clock runs, wherever the food falls through it [°C]; None for no fall."""
        return None

    @property
    def last_mark_s(self) -> float:
        """How long after its clock began its last mark may still be reached [s]; 0 where it has none."""
        return 0.0

    def met_at_s(self, series: Series, guarded: bool = False) -> float | None:
        """When it was met [s], for what is met by time; else, and if it was not, None.

        Guarded, readings are lowered by their uncertainty. Valid for rising times.
        """
        return None

    def rows_met_s(self, times_s: Array, rows: Array) -> Array:
        """When it was met on each of several computed curves over the same times [s], (m,); infinite where it was not.

        Valid as ``met_at_s``; what is met by time alone.
        """
        found = [self.met_at_s(Series.computed(times_s, row)) for row in rows]
        return np.array([np.inf if met is None else met for met in found])

    def gathered(self, series: Series) -> Array | None:
        """What has been gathered towards it at every reading, where it is a sum over time; else nothing."""
        return None

    def zone(self) -> tuple[float, float] | None:
        """The temperatures it wants the food out of [°C], to be drawn as a band."""
        return None

    def results(self, series: Series, now_s: float) -> list[StageResult]:
        """Each of its marks by itself at a time [s]; none for a limit without marks."""
        return []

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """How it is drawn over its quantity, for a step that began and ended then [s]."""
        return []

    def forecast(self, measured: Series, times_s: Array, expected: Array) -> Verdict:
        """The verdict to expect if what follows, (m,) [the limit's unit] at times [s], goes as expected.

        The same judge over both curves joined. Valid as far as the expectation is; it plans, it passes nothing.
        """
        exact = Series(measured.times_s, measured.values, 0.0, measured.opened_s, notes=measured.notes)
        return self.evaluate(exact.joined(times_s, expected), float(times_s[-1]))

    def unmeasured(self, series: Series, limit_value: float, unit: str, working: Working) -> Verdict:
        """What is said while nothing was measured, with the limit's value [its unit].

        Valid for an empty series only.
        """
        return Verdict(
            state="not_measured",
            basis=series.basis,
            sentence=say("limits.base.not_measured_yet"),
            limit_value=limit_value,
            unit=unit,
            working=working,
        )


def worst(states: list[State]) -> State:
    """The state of several together; with none, nothing was measured."""
    return next((state for state in ORDER if state in states), "not_measured")


def number(value: float, unit: str = "", more: int = 0) -> str:
    """A reading [the unit] as it is written: as many decimals as its instruments tell apart, and no idle zeros.

    Valid for finite values; a pH has two decimals, a water activity three, everything else one, and ``more`` if asked.
    """
    text = f"{value:.{DECIMALS.get(unit, 1) + more}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def unproved(verdict: Verdict, why: str) -> Verdict:
    """A verdict that would have been better than it is, had somebody read in between: not measured, and why."""
    return verdict.model_copy(
        update={
            "state": "not_measured",
            "sentence": say("limits.base.not_measured_as_far_as_it", why=why, sentence=verdict.sentence),
            "advice": (say("limits.base.nothing_is_credited_across_a_silence"),),
        }
    )


def state_of(surely: bool, nominally: bool, over: bool) -> State:
    """Pass when met for sure, too close when met only as read, else fail once it is over."""
    return "pass" if surely else "too_close" if nominally else "fail" if over else "pending"
