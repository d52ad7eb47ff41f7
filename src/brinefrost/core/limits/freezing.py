"""Freezing against parasites: cold enough for long enough, at the core or in the air as the rule says."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import TOLERANCE, LimitBase, Series, State, Verdict, number, unproved
from brinefrost.core.physics.body import Array
from brinefrost.core.working import Document, Input, Working, clock

DAY_S = 86400.0


class FreezeOption(Document):
    """Frozen solid at or below one temperature first, if asked, then held at or below another."""

    solid_at_c: float | None = None
    hold_at_c: float
    for_s: float = Field(gt=0)

    def words(self) -> str:
        """As a cook would say it."""
        first = "" if self.solid_at_c is None else f"solid at {number(self.solid_at_c)} °C, then "
        return f"{first}{number(self.hold_at_c)} °C for {clock(self.for_s)}"


class Freezing(LimitBase):
    """One of several freezings, without a break."""

    over_all: ClassVar[bool] = True
    kind: Literal["freezing"] = "freezing"
    options: tuple[FreezeOption, ...] = Field(min_length=1, max_length=6)

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the longest unbroken time cold enough.

        Parameters
        ----------
        series : Series
            Core or air temperatures, as the limit's quantity says [°C], (n,).
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            Pass when one option holds with the readings raised by their uncertainty.

        Raises
        ------
        OutOfRangeError
            If the times of the series fall.

        Notes
        -----
        Valid for readings straight between each other with no silence above the series' longest.

        References
        ----------
        The limit's own source; JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if not len(known):
            return self.unmeasured(series, self.options[0].hold_at_c, "°C", self.explain(0.0))
        nominal = [self._held_s(option, known, 0.0) for option in self.options]
        guarded = [self._held_s(option, known, known.uncertainty) for option in self.options]
        sure = [held >= option.for_s * (1 - TOLERANCE) for held, option in zip(guarded, self.options, strict=True)]
        near = [held >= option.for_s * (1 - TOLERANCE) for held, option in zip(nominal, self.options, strict=True)]
        best = max(range(len(nominal)), key=lambda i: (sure[i], nominal[i] / self.options[i].for_s))
        option = self.options[best]
        state: State = "pass" if any(sure) else "too_close" if any(near) else "fail" if known.closed else "pending"
        said = {
            "pass": f"Frozen: {option.words()}, held {clock(nominal[best])}.",
            "too_close": f"{option.words()}: within the probe's uncertainty. Hold it longer.",
            "fail": f"Not frozen enough: {clock(nominal[best])} of {option.words()}.",
            "pending": f"{clock(nominal[best])} of {option.words()} so far.",
        }[state]
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=said,
            value=nominal[best],
            limit_value=option.for_s,
            margin=nominal[best] - option.for_s,
            unit="s",
            at_s=float(known.times_s[-1]),
            working=self.explain(nominal[best]),
            advice=() if state == "pass" else ("Leave it in the freezer; do not serve it raw yet.",),
        )
        if state not in ("fail", "pending"):
            return found
        across = [self._held_s(each, known, known.uncertainty, bridged=True) >= each.for_s for each in self.options]
        if not any(across) or not known.closed:
            return found
        longest = float(np.max(np.diff(known.times_s), initial=0.0))
        least = max(self._gap_s(each, known) for each in self.options)
        return unproved(
            found, f"readings lie {clock(longest)} apart; nothing is credited across more than {clock(least)}"
        )

    def _gap_s(self, option: FreezeOption, series: Series) -> float:
        """The longest silence an option bears: a quarter of its time, a day at most; common practice, no source."""
        if series.basis == "computed" or series.longest_gap_s == np.inf:
            return np.inf
        return min(series.longest_gap_s, option.for_s / 4, DAY_S)

    def explain(self, held_s: float) -> Working:
        """The options and the time held."""
        return Working(
            title=self.title,
            formula="T ≤ limit without a break for the time",
            inputs=tuple(Input(name=f"option {i + 1}", value=option.words()) for i, option in enumerate(self.options)),
            result=f"held {clock(held_s)}",
            source=self.source,
            assumptions=("the thickest piece was measured" if self.quantity == "core" else "the freezer's air counts",),
        )

    def _held_s(self, option: FreezeOption, series: Series, shift: float, bridged: bool = False) -> float:
        start = 0
        if option.solid_at_c is not None:
            solid = np.flatnonzero(series.values + shift <= option.solid_at_c)
            if not len(solid):
                return 0.0
            start = int(solid[0])
        return _longest_below_s(
            series.times_s[start:],
            series.values[start:] + shift,
            option.hold_at_c,
            np.inf if bridged else self._gap_s(option, series),
        )


def _longest_below_s(times_s: Array, values: Array, level: float, longest_gap_s: float) -> float:
    """Longest unbroken time at or below a level [s], crossings straight between readings."""
    best, since = 0.0, None
    for i, (time, value) in enumerate(zip(times_s, values, strict=True)):
        broken = i and time - times_s[i - 1] > longest_gap_s
        if value > level:
            if since is not None and not broken:
                share = (level - values[i - 1]) / (value - values[i - 1])
                best = max(best, float(times_s[i - 1] + share * (time - times_s[i - 1]) - since))
            since = None
            continue
        if since is None or broken:
            came_down = i and not broken and values[i - 1] > level
            share = (values[i - 1] - level) / (values[i - 1] - value) if came_down else 1.0
            since = float(times_s[i - 1] + share * (time - times_s[i - 1])) if came_down else float(time)
        best = max(best, float(time - since))
    return best
