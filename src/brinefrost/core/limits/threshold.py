"""A bound that no reading may pass: cold keeping, hot holding, pH."""

from typing import Literal

import numpy as np

from brinefrost.core.limits.base import LimitBase, LimitMark, Series, State, Verdict, number, unproved
from brinefrost.core.working import Input, Working, clock


class Threshold(LimitBase):
    """Every reading stays at or below (or at or above) one value."""

    kind: Literal["threshold"] = "threshold"
    comparison: Literal["at_most", "at_least"]
    value: float
    unit: str

    def margin(self, reading: float) -> float:
        """How far a reading is on the safe side [unit of the limit]; negative when on the wrong side.

        Valid for any finite reading.
        """
        return self.value - reading if self.comparison == "at_most" else reading - self.value

    def _difference(self) -> str:
        """The unit of a difference: kelvin for temperatures, so that nobody adds 32 to it."""
        return "K" if self.unit == "°C" else self.unit

    def sign(self) -> str:
        """≤ or ≥."""
        return "≤" if self.comparison == "at_most" else "≥"

    @property
    def each_by_itself(self) -> bool:
        """A limit about the moment it is read; one with a gap of its own is about all the time between."""
        return self.gap_s is None

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """Its value, drawn through."""
        words = f"{self.sign()}{self.value:g} {self.unit}"
        return [LimitMark(label=words, value=self.value, from_s=began_s, state=state)]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the worst reading so far.

        Parameters
        ----------
        series : Series
            Readings [unit of the limit], (n,).
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            Pass or fail when the worst reading is clear of the limit by the uncertainty, else too close; not measured
            where the limit must hold all the time and the silence between readings is longer than it bears.

        Raises
        ------
        ValueError
            Never for finite readings.

        Notes
        -----
        Valid for any finite readings. A limit without ``gap_s`` is about the moment it is read; one with it is about
        all the time of its step, from its opening to its end.

        References
        ----------
        JCGM 106:2012, 8.3: guarded acceptance with a guard band of the expanded uncertainty.
        """
        known = series.until(now_s)
        if not len(known):
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence="Not measured yet.",
                limit_value=self.value,
                unit=self.unit,
                working=self.explain(),
            )
        margins = [self.margin(float(value)) for value in known.values]
        index = min(range(len(margins)), key=margins.__getitem__)
        margin, reading = margins[index], float(known.values[index])
        close = known.uncertainty
        state: State = "pass" if margin >= close - 1e-9 else "fail" if margin < -close - 1e-9 else "too_close"
        if self.quantity == "age" and state == "pass" and not known.closed:
            state = "pending"  # days that still run are not met yet

        # a break is never written as a break by nothing
        more = next((n for n in range(4) if number(margin, self.unit, n) != "0"), 0) if state == "fail" else 0

        def written(value: float, sign: str = "") -> str:
            digits = number(value, self.unit, more)
            return f"{sign}pH {digits}" if self.unit == "pH" else f"{sign}{digits} {self.unit}"

        said = {
            "pending": f"{number(reading)} of {written(self.value)} so far.",
            "pass": f"{written(reading)} is within {written(self.value, self.sign())}.",
            "fail": f"{written(reading)} breaks {written(self.value, self.sign())} "
            f"by {number(-margin, self.unit, more)} {self.unit}.",
            "too_close": f"{written(reading)} is too close to {written(self.value)} to call: "
            f"it is known to ±{number(known.uncertainty, self.unit)} {self.unit}.",
        }[state]
        advice = {
            "too_close": ("Measure again with a better probe, or wait and measure again.",),
            "fail": ("Hold the food apart and tell the lead.",),
        }.get(state, ())
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=said,
            value=reading,
            limit_value=self.value,
            margin=margin,
            unit=self.unit,
            at_s=float(known.times_s[index]),
            advice=advice,
            working=self.explain(known, reading, margin),
        )
        return self._kept(found, known, now_s)

    def _kept(self, found: Verdict, known: Series, now_s: float) -> Verdict:
        """Over a whole step: good only where nobody was silent for longer than the limit bears, and over at its end."""
        if self.gap_s is None or known.basis == "computed" or found.state != "pass":
            return found
        if bool(np.any(known.silences(self.silence_s(known), now_s))):
            return unproved(found, f"it must be read at least every {clock(self.gap_s)} while it is kept")
        if known.opened_s is not None and not known.closed:
            return found.model_copy(update={"state": "pending", "sentence": f"So far {found.sentence}"})
        return found

    def explain(
        self, series: Series | None = None, reading: float | None = None, margin: float | None = None
    ) -> Working:
        """The comparison, with the values in it."""
        inputs = [Input(name="limit", value=self.value, unit=self.unit)]
        if series is not None and reading is not None:
            inputs += [
                Input(name="worst reading", value=reading, unit=self.unit),
                Input(name="uncertainty (k = 2)", value=series.uncertainty, unit=self._difference()),
                Input(name="readings", value=len(series)),
            ]
        return Working(
            title=self.title,
            formula=f"reading {self.sign()} limit, clear of it by the uncertainty",
            inputs=tuple(inputs),
            result="" if margin is None else f"margin {number(margin, self.unit)} {self._difference()}",
            source=self.source,
            assumptions=("each reading stands for the time around it",),
        )
