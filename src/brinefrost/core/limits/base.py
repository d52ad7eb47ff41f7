"""What every limit shares: the series it judges, the verdict it gives."""

from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from brinefrost.core.physics.body import Array
from brinefrost.core.working import Document, Source, Working

State = Literal["pass", "too_close", "fail", "pending", "not_measured"]
Basis = Literal["measured", "computed"]
Quantity = Literal["core", "bath", "air", "age", "ph", "aw", "salt", "nitrite", "slope", "log"]

# worst first: the state of several verdicts together is the first that occurs
ORDER: tuple[State, ...] = ("fail", "too_close", "not_measured", "pending", "pass")
DECIMALS = {"pH": 2, "aw": 3}


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

    @staticmethod
    def of(value: float, uncertainty: float = 0.0, basis: Basis = "measured") -> "Series":
        """One reading [its unit] of something that does not change, at time 0, with its expanded uncertainty, k = 2.

        Valid for any finite value.
        """
        return Series(np.zeros(1), np.array([float(value)]), uncertainty, 0.0, True, np.inf, basis)

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
        )

    def joined(self, times_s: Array, values: Array) -> "Series":
        """These readings followed by expected ones, (m,), at later times [s], taken as exact.

        Valid for rising times: those not later than the last reading are left out.
        """
        later = times_s > (self.times_s[-1] if len(self) else -np.inf)
        return Series(
            np.concatenate((self.times_s, times_s[later])),
            np.concatenate((self.values, values[later])),
            self.uncertainty,
            self.opened_s,
            True,
            np.inf,
            "computed",
            self.notes,
        )


class Verdict(Document):
    """One limit's judgement of one series, with its working."""

    state: State
    basis: Basis
    sentence: str
    value: float | None = None
    limit_value: float | None = None
    margin: float | None = None
    unit: str = ""
    at_s: float | None = None
    working: Working
    advice: tuple[str, ...] = ()


class LimitBase(Document):
    """Every limit has a name of its own, words, and a source."""

    id: str
    title: str
    source: Source
    quantity: Quantity = "core"
    qualifier: str = ""

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge a series as it stands.

        Parameters
        ----------
        series : Series
            Readings of the limit's quantity [its unit], (n,).
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            State, words, margin and working.

        Raises
        ------
        NotImplementedError
            Here; every limit has its own.

        Notes
        -----
        Valid as each limit says.

        References
        ----------
        Each limit carries its own.
        """
        raise NotImplementedError

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
            sentence="Not measured yet.",
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


def state_of(surely: bool, nominally: bool, over: bool) -> State:
    """Pass when met for sure, too close when met only as read, else fail once it is over."""
    return "pass" if surely else "too_close" if nominally else "fail" if over else "pending"
