"""Time in the growth range, added up over bands, steps and days; and the time a food may stand without control."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, number, state_of, unproved
from brinefrost.core.microbes.exposure import BandTime, exposure, time_between_s
from brinefrost.core.microbes.organisms import Band, Organism
from brinefrost.core.physics.body import Array
from brinefrost.core.working import Input, Source, Working, clock

# how long food may go unread on a clock of exposure: twice a day while it lies cold, hourly else; common practice
COLD_GAP_S, WARM_GAP_S, LAID_COLD_C = 13 * 3600.0, 3600.0, 5.0


def unread(series: Series, now_s: float) -> bool:
    """Whether nobody read the food for longer than a clock of exposure bears, cold at both ends or not.

    Valid for measured series [°C], [s]; a computed one is known everywhere.
    """
    if series.basis == "computed" or not len(series):
        return False
    cold = series.values <= LAID_COLD_C
    both = cold[1:] & cold[:-1]
    allowed = np.maximum(np.where(both, COLD_GAP_S, WARM_GAP_S), series.longest_gap_s)
    if bool(np.any(np.diff(series.times_s) > allowed + 1e-6)):
        return True
    end = now_s if series.closed_s is None else min(series.closed_s, now_s)
    last = max(COLD_GAP_S if cold[-1] else WARM_GAP_S, series.longest_gap_s)
    first = max(COLD_GAP_S if cold[0] else WARM_GAP_S, series.longest_gap_s)
    late = series.opened_s is not None and float(series.times_s[0]) - series.opened_s > first
    # what is over was read to its end, unless it is known when it ended
    tail = (series.closed_s is not None or not series.closed) and end - float(series.times_s[-1]) > last
    return late or tail


class Exposure(LimitBase):
    """The shares of all bands' allowances come to at most one."""

    over_all: ClassVar[bool] = True
    kind: Literal["exposure"] = "exposure"
    bands: tuple[Band, ...] = Field(min_length=1, max_length=12)
    upper_c: float

    def used(self, series: Series, shift: float = 0.0) -> Array:
        """Share of the allowance used up to each reading [-], (n,), readings shifted by so many °C.

        Valid for rising times; straight between readings.
        """
        return self._run(series, shift)[0]

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the exposure so far.

        Parameters
        ----------
        series : Series
            Temperatures of the food [°C], (n,).
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            Its value is the share of the allowance used [%]; fail as soon as it passes 100, since time in the
            growth range cannot be taken back; not measured where nobody read it for too long.

        Raises
        ------
        OutOfRangeError
            If the times of the series do not rise.

        Notes
        -----
        Valid over any number of steps and days joined into one series.

        References
        ----------
        The limit's own source; JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if len(known) < 2:
            return self.unmeasured(series, 100.0, "%", self.explain((), 0.0))
        used, bands = self._run(known, 0.0)
        share = float(used[-1])
        raised = float(self.used(known, known.uncertainty)[-1]) if known.uncertainty else share
        state: State = "fail" if share > 1 else "too_close" if raised > 1 else "pass" if known.closed else "pending"
        when = None if share <= 1 else float(np.interp(1.0, used, known.times_s))
        said = f"{100 * share:.0f} % of the time allowed is used"
        if when is not None:
            said += f"; it was used up after {clock(when - float(known.times_s[0]))}"
        elif state == "too_close":
            said += f", {100 * raised:.0f} % if the probe reads low: too close to call"
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=said + ".",
            value=100 * share,
            limit_value=100.0,
            margin=100 * (1 - share),
            unit="%",
            at_s=when if when is not None else float(known.times_s[-1]),
            working=self.explain(bands, share),
            advice=("Time in the growth range cannot be taken back. The lead decides.",) if state == "fail" else (),
        )
        if state != "fail" and unread(known, now_s):
            return unproved(found, "nobody read it for longer than its clock bears, hourly, or twice a day while cold")
        return found

    def allowed_s(self, at_c: float, used: float = 0.0) -> float | None:
        """How long it may stand at a temperature [°C] before the clock is full, a share [-] of it used already [s].

        Valid for every temperature; None where the clock does not run.
        """
        band = [band.within_s for band in self.bands if band.from_c < at_c]
        return max(0.0, 1 - used) * band[-1] if band and at_c <= self.upper_c else None

    def explain(self, bands: tuple[BandTime, ...], share: float) -> Working:
        """Each band's time of its allowance."""
        parts = [f"{number(b.from_c)} to {number(b.to_c)} °C: {clock(b.spent_s)} of {clock(b.within_s)}" for b in bands]
        return Working(
            title=self.title,
            formula="Σ time in band / time allowed in band ≤ 1",
            inputs=tuple(
                Input(name=f"from {number(band.from_c)} °C", value=band.within_s / 3600, unit="h")
                for band in self.bands
            ),
            result="; ".join(parts) + f"; together {100 * share:.0f} %" if parts else "",
            source=self.source,
            assumptions=("straight between readings", "all steps and days add up"),
        )

    def _run(self, series: Series, shift: float) -> tuple[Array, tuple[BandTime, ...]]:
        bands = tuple((band.from_c, band.within_s) for band in self.bands)
        return exposure(bands, self.upper_c, series.times_s, series.values + shift)


class TimeAbove(LimitBase):
    """All the time above one temperature together, within an allowance that shrinks once it was ever hotter."""

    over_all: ClassVar[bool] = True
    kind: Literal["time_above"] = "time_above"
    above_c: float
    within_s: float = Field(gt=0)
    hot_c: float
    hot_within_s: float = Field(gt=0)
    upper_c: float

    def used(self, series: Series, shift: float = 0.0) -> Array:
        """Share of the allowance used up to each reading [-], (n,), readings shifted by so many °C.

        Valid for rising times; straight between readings. The allowance is the one that the hottest reading up to
        then leaves.
        """
        values = series.values + shift
        spent = time_between_s(series.times_s, values, self.above_c, self.upper_c)
        hottest = np.maximum.accumulate(np.where(values <= self.upper_c, values, self.above_c))
        return np.asarray(spent / np.where(hottest > self.hot_c, self.hot_within_s, self.within_s))

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the time so far.

        Parameters
        ----------
        series : Series
            Temperatures of the food [°C], (n,).
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            Its value is the share of the allowance used [%]; fail as soon as it passes 100; not measured where nobody
            read it for too long.

        Raises
        ------
        OutOfRangeError
            If the times of the series do not rise.

        Notes
        -----
        Valid over any number of steps and days joined into one series; shares of two allowances are not added.

        References
        ----------
        The limit's own source; JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if len(known) < 2:
            return self.unmeasured(series, 100.0, "%", self.explain(0.0, False))
        used = self.used(known)
        share = float(used[-1])
        raised = float(self.used(known, known.uncertainty)[-1]) if known.uncertainty else share
        hot = bool(np.any((known.values > self.hot_c) & (known.values <= self.upper_c)))
        allowed = self.hot_within_s if hot else self.within_s
        state: State = "fail" if share > 1 else "too_close" if raised > 1 else "pass" if known.closed else "pending"
        said = f"{clock(share * allowed)} above {number(self.above_c)} °C of {clock(allowed)} allowed"
        if hot:
            said += f", since it was above {number(self.hot_c)} °C"
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=f"{said}: {100 * share:.0f} % used"
            + (" already; too close to call." if state == "too_close" else "."),
            value=100 * share,
            limit_value=100.0,
            margin=100 * (1 - share),
            unit="%",
            at_s=float(known.times_s[-1]),
            working=self.explain(share * allowed, hot),
            advice=("Discard it: neither heat nor cold nor acid takes it away.",) if state == "fail" else (),
        )
        if state != "fail" and unread(known, now_s):
            return unproved(found, "nobody read it for longer than its clock bears, hourly, or twice a day while cold")
        return found

    def allowed_s(self, at_c: float, used: float = 0.0) -> float | None:
        """How long it may stand at a temperature [°C] before the clock is full, a share [-] of it used already [s].

        Valid for every temperature; None where the clock does not run.
        """
        if not self.above_c < at_c <= self.upper_c:
            return None
        return max(0.0, 1 - used) * (self.hot_within_s if at_c > self.hot_c else self.within_s)

    def explain(self, spent_s: float, hot: bool) -> Working:
        """The time and the allowance that applies."""
        allowed = self.hot_within_s if hot else self.within_s
        return Working(
            title=self.title,
            formula="all time above the lower temperature ≤ the allowance that the hottest moment leaves",
            inputs=(
                Input(name=f"never above {number(self.hot_c)} °C", value=self.within_s / 3600, unit="h"),
                Input(name=f"ever above {number(self.hot_c)} °C", value=self.hot_within_s / 3600, unit="h"),
            ),
            result=f"{clock(spent_s)} above {number(self.above_c)} °C of {clock(allowed)}",
            source=self.source,
            assumptions=("straight between readings", "all steps and days add up"),
        )


class Uncontrolled(LimitBase):
    """Time out of temperature control, from when it left it: one clock, with a longer one for food that stays cool."""

    over_all: ClassVar[bool] = True
    kind: Literal["uncontrolled"] = "uncontrolled"
    within_s: float
    cool_start_c: float | None = None
    cool_ceiling_c: float | None = None
    cool_within_s: float | None = None
    use_at_once_s: float | None = None
    starts_at_most_c: float | None = None  # it must leave control as cold as this,
    starts_at_least_c: float | None = None  # or as hot as this; None: from anywhere
    hot_from_c: float | None = None  # food that begins above this is hot food,
    hot_within_s: float | None = None  # with a clock of its own

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the time since control ended.

        Parameters
        ----------
        series : Series
            Temperatures of the food since it left control [°C], (n,).
        now_s : float
            The time of judging [s].

        Returns
        -------
        Verdict
            Its value is the time so far [s]; the longer allowance counts only while the food began cold and stayed
            cool; food that did not begin under control has no allowance.

        Raises
        ------
        OutOfRangeError
            If the times of the series fall.

        Notes
        -----
        Valid for food served or discarded at the end; it does not go back to the fridge.

        References
        ----------
        The limit's own source.
        """
        known = series.until(now_s)
        if not len(known):
            return self.unmeasured(series, self.within_s, "s", self.explain(self.within_s, 0.0))
        began = known.opened_s if known.opened_s is not None else float(known.times_s[0])
        end = float(known.times_s[-1]) if known.closed else now_s
        taken, allowed, left = end - began, self._allowed_s(known), self._left_control(known)
        state = state_of(known.closed and taken <= allowed and left == "pass", False, taken > allowed)
        if left != "pass":
            state = "fail" if left == "fail" or state == "fail" else "too_close"
        said = f"{clock(taken)} without control, allowed {clock(allowed)}."
        if left != "pass":
            said = self._start_words(float(known.values[0]), left)
        if self.use_at_once_s is not None and taken <= allowed:
            said += (
                f" It may still go back below 5 °C until {clock(self.use_at_once_s)}."
                if taken < self.use_at_once_s
                else " Use it now; it may not go back to the fridge."
            )
        return Verdict(
            state=state,
            basis=series.basis,
            sentence=said,
            value=taken,
            limit_value=allowed,
            margin=allowed - taken,
            unit="s",
            at_s=end,
            working=self.explain(allowed, taken),
            advice=("Discard it.",) if state == "fail" else (),
        )

    def explain(self, allowed_s: float, taken_s: float) -> Working:
        """The clock and which allowance applies."""
        return Working(
            title=self.title,
            formula="time since control ended ≤ allowance",
            inputs=(Input(name="allowance", value=allowed_s / 3600, unit="h"),),
            result=clock(taken_s),
            source=self.source,
            assumptions=("the clock starts when the food leaves control",),
            valid_range=self.qualifier,
        )

    def _left_control(self, series: Series) -> State:
        """Whether it was under control when the clock began."""
        low, high = self.starts_at_most_c, self.starts_at_least_c
        if low is None and high is None:
            return "pass"
        first, doubt = float(series.values[0]), series.uncertainty
        sure = (low is not None and first <= low - doubt + 1e-9) or (high is not None and first >= high + doubt - 1e-9)
        near = (low is not None and first <= low + doubt) or (high is not None and first >= high - doubt)
        return "pass" if sure else "too_close" if near else "fail"

    def _start_words(self, first_c: float, left: State) -> str:
        ends = []
        if self.starts_at_most_c is not None:
            ends.append(f"{number(self.starts_at_most_c)} °C or below")
        if self.starts_at_least_c is not None:
            ends.append(f"{number(self.starts_at_least_c)} °C or above")
        verb = "may not begin" if left == "fail" else "can hardly be said to begin"
        return f"The clock {verb} at {number(first_c)} °C: food leaves control at {' or '.join(ends)}."

    def _allowed_s(self, series: Series) -> float:
        warmest, first = float(np.max(series.values)) + series.uncertainty, float(series.values[0]) + series.uncertainty
        if self.hot_from_c is not None and self.hot_within_s is not None and first > self.hot_from_c:
            return self.hot_within_s
        if self.cool_start_c is None or self.cool_ceiling_c is None or self.cool_within_s is None:
            return self.within_s
        cool = first <= self.cool_start_c and warmest <= self.cool_ceiling_c
        seen = series.basis == "computed" or not bool(np.any(series.silences(max(series.longest_gap_s, WARM_GAP_S))))
        return self.cool_within_s if cool and seen else self.within_s


def exposure_of(organism: Organism) -> Exposure:
    """The exposure clock of an organism.

    Parameters
    ----------
    organism : Organism
        With its bands [°C], [s].

    Returns
    -------
    Exposure
        A limit like any other.

    Raises
    ------
    ValueError
        Never for an organism of the table.

    Notes
    -----
    Valid as the guidance's table; its upper end is the highest temperature of growth.

    References
    ----------
    FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4.
    """
    return Exposure(
        id=f"exposure-{organism.key.replace('_', '-')}",
        title=f"{organism.name}: cumulative exposure",
        source=Source(
            citation="FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4, from memory, verify",
            tag="published_from_memory",
        ),
        bands=organism.bands,
        upper_c=organism.max_c,
    )
