"""Time in the growth range, added up over bands, steps and days; and the time a food may stand without control."""

from typing import Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, number, state_of
from brinefrost.core.microbes.exposure import BandTime, exposure
from brinefrost.core.microbes.organisms import Band, Organism
from brinefrost.core.physics.body import Array
from brinefrost.core.working import Input, Source, Working, clock


class Exposure(LimitBase):
    """The shares of all bands' allowances come to at most one."""

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
            growth range cannot be taken back.

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
        return Verdict(
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


class Uncontrolled(LimitBase):
    """Time out of temperature control, from when it left it: one clock, with a longer one for food that stays cool."""

    kind: Literal["uncontrolled"] = "uncontrolled"
    within_s: float
    cool_start_c: float | None = None
    cool_ceiling_c: float | None = None
    cool_within_s: float | None = None
    use_at_once_s: float | None = None

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
            cool.

        Raises
        ------
        ValueError
            Never for finite readings.

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
        taken, allowed = end - began, self._allowed_s(known)
        state = state_of(known.closed and taken <= allowed, False, taken > allowed)
        said = f"{clock(taken)} without control, allowed {clock(allowed)}."
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
        )

    def _allowed_s(self, series: Series) -> float:
        if self.cool_start_c is None or self.cool_ceiling_c is None or self.cool_within_s is None:
            return self.within_s
        warmest, first = float(np.max(series.values)) + series.uncertainty, float(series.values[0]) + series.uncertainty
        cool = first <= self.cool_start_c and warmest <= self.cool_ceiling_c
        return self.cool_within_s if cool else self.within_s


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
