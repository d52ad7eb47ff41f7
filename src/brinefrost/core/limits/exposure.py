"""Time in the growth range, added up over bands, steps and days; and the time a food may stand without control."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, state_of, unproved
from brinefrost.core.microbes.exposure import BandTime, exposure, time_between_s
from brinefrost.core.microbes.organisms import Band, Organism
from brinefrost.core.physics.body import Array
from brinefrost.core.words import bare, duration, joined, num, say, temp
from brinefrost.core.working import Input, Source, Working

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

    def used_up(self, share: float) -> bool:
        """Whether an allowance is gone of which so much is used [-]: a toxin may be there, and stays.

        Valid for a share added up along one food, ``used`` or with what parts brought. The limit's own source.
        """
        return share > 1

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the exposure so far.

        Its value is the share of the allowance used [%]; fail as soon as it passes 100, since time in the growth range
        cannot be taken back; not measured where nobody read it for too long. Raises OutOfRangeError if the times of
        the series do not rise. Valid over any number of steps and days joined into one series. ``series`` [°C],
        ``now_s`` [s]. The limit's own source; JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if len(known) < 2:
            return self.unmeasured(series, 100.0, "%", self.explain((), 0.0))
        used, bands = self._run(known, 0.0)
        share = float(used[-1])
        raised = float(self.used(known, known.uncertainty)[-1]) if known.uncertainty else share
        over: State | None = "fail" if self.used_up(share) else "too_close" if self.used_up(raised) else None
        state: State = over or ("pass" if known.closed else "pending")
        when = None if not self.used_up(share) else float(np.interp(1.0, used, known.times_s))
        said = say("limits.exposure.of_the_time_allowed_is_used", share=num(100 * share, ".0f"))
        if when is not None:
            said += say("limits.exposure.it_was_used_up_after", when=duration(when - float(known.times_s[0])))
        elif state == "too_close":
            said += say("limits.exposure.if_the_probe_reads_low_too", raised=num(100 * raised, ".0f"))
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
            advice=(say("limits.exposure.time_in_the_growth_range_cannot"),) if state == "fail" else (),
        )
        if state != "fail" and unread(known, now_s):
            return unproved(found, say("limits.exposure.nobody_read_it_for_longer_than"))
        return found

    def allowed_s(self, at_c: float, used: float = 0.0) -> float | None:
        """How long it may stand at a temperature [°C] before the clock is full, a share [-] of it used already [s].

        Valid for every temperature; None where the clock does not run.
        """
        band = [band.within_s for band in self.bands if band.from_c < at_c]
        return max(0.0, 1 - used) * band[-1] if band and at_c <= self.upper_c else None

    def explain(self, bands: tuple[BandTime, ...], share: float, brought: float = 0.0) -> Working:
        """Each band's time of its allowance, and what was used before [-]."""
        parts = [
            say(
                "working.exposure.to_of",
                from_=bare(self.bound_c(b.from_c)),
                to=self.bound_c(b.to_c),
                spent=duration(b.spent_s),
                within=duration(b.within_s),
            )
            for b in bands
        ]
        if brought:
            parts.append(say("working.exposure.brought", share=num(100 * brought, ".0f")))
        return Working(
            title=self.title,
            formula=say("working.exposure.time_in_band_time_allowed_in"),
            inputs=tuple(
                Input(
                    name=say("working.exposure.from_from", from_=self.bound_c(band.from_c)),
                    value=band.within_s / 3600,
                    unit="h",
                )
                for band in self.bands
            ),
            result=say("working.exposure.parts_together_share", parts=joined(parts), share=num(100 * share, ".0f"))
            if parts
            else "",
            source=self.source,
            assumptions=(
                say("working.cooling.straight_between_readings"),
                say("working.exposure.all_steps_and_days_add_up"),
            ),
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

        Its value is the share of the allowance used [%]; fail as soon as it passes 100; not measured where nobody read
        it for too long. Raises OutOfRangeError if the times of the series do not rise. Valid over any number of steps
        and days joined into one series; shares of two allowances are not added. ``series`` [°C], ``now_s`` [s]. The
        limit's own source; JCGM 106:2012, 8.3, for the guard band.
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
        said = say(
            "limits.exposure.above_of_allowed",
            share=duration(share * allowed),
            above=self.bound_c(self.above_c),
            allowed=duration(allowed),
        )
        if hot:
            said += say("limits.exposure.since_it_was_above", hot=self.bound_c(self.hot_c))
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=say(
                "limits.exposure.said_share_used_more",
                said=said,
                share=num(100 * share, ".0f"),
                more=say("limits.exposure.already_too_close_to_call") if state == "too_close" else ".",
            ),
            value=100 * share,
            limit_value=100.0,
            margin=100 * (1 - share),
            unit="%",
            at_s=float(known.times_s[-1]),
            working=self.explain(share * allowed, hot),
            advice=(say("limits.exposure.discard_it_neither_heat_nor_cold"),) if state == "fail" else (),
        )
        if state != "fail" and unread(known, now_s):
            return unproved(found, say("limits.exposure.nobody_read_it_for_longer_than"))
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
            formula=say("working.exposure.all_time_above_the_lower_temperature"),
            inputs=(
                Input(
                    name=say("working.exposure.never_above", hot=self.bound_c(self.hot_c)),
                    value=self.within_s / 3600,
                    unit="h",
                ),
                Input(
                    name=say("working.exposure.ever_above", hot=self.bound_c(self.hot_c)),
                    value=self.hot_within_s / 3600,
                    unit="h",
                ),
            ),
            result=say(
                "working.exposure.above_of",
                spent=duration(spent_s),
                above=self.bound_c(self.above_c),
                allowed=duration(allowed),
            ),
            source=self.source,
            assumptions=(
                say("working.cooling.straight_between_readings"),
                say("working.exposure.all_steps_and_days_add_up"),
            ),
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

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each part is on the strict side of another's; None where they cannot be compared."""
        if not isinstance(other, Uncontrolled):
            return None
        cool = (other.cool_within_s or 0.0) - (self.cool_within_s or 0.0)
        hot = (other.hot_within_s or other.within_s) - (self.hot_within_s or self.within_s)
        return [other.within_s - self.within_s, cool, hot]

    def turns_on(self) -> tuple[float, bool]:
        """Its time [s]."""
        return self.within_s, False

    def turned_to(self, value: float) -> Self:
        """The same with another time [s]."""
        return self.model_copy(
            update={"within_s": value, "title": say("limits.exposure.at_most", value=duration(value))}
        )

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the time since control ended.

        Its value is the time so far [s]; the longer allowance counts only while the food began cold and stayed cool;
        food that did not begin under control has no allowance. Raises OutOfRangeError if the times of the series fall.
        Valid for food served or discarded at the end; it does not go back to the fridge. ``series`` [°C], ``now_s``
        [s]. The limit's own source.
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
        said: str = say("limits.exposure.without_control_allowed", taken=duration(taken), allowed=duration(allowed))
        if left != "pass":
            said = self._start_words(float(known.values[0]), left)
        if self.use_at_once_s is not None and taken <= allowed:
            said += (
                say("limits.exposure.it_may_still_go_back_below", use_at_once=duration(self.use_at_once_s))
                if taken < self.use_at_once_s
                else say("limits.exposure.use_it_now_it_may_not")
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
            advice=(say("limits.exposure.discard_it"),) if state == "fail" else (),
        )

    def explain(self, allowed_s: float, taken_s: float) -> Working:
        """The clock and which allowance applies."""
        return Working(
            title=self.title,
            formula=say("working.exposure.time_since_control_ended_allowance"),
            inputs=(Input(name=say("working.exposure.allowance"), value=allowed_s / 3600, unit="h"),),
            result=duration(taken_s),
            source=self.source,
            assumptions=(say("working.exposure.the_clock_starts_when_the_food"),),
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
            ends.append(say("limits.exposure.or_below", starts_at_most=self.bound_c(self.starts_at_most_c)))
        if self.starts_at_least_c is not None:
            ends.append(say("limits.exposure.or_above", starts_at_least=self.bound_c(self.starts_at_least_c)))
        verb = (
            say("limits.exposure.may_not_begin")
            if left == "fail"
            else say("limits.exposure.can_hardly_be_said_to_begin")
        )
        return say(
            "limits.exposure.the_clock_at_food_leaves_control",
            verb=verb,
            first=temp(first_c),
            ends=joined(ends, "words.or"),
        )

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

    A limit like any other. Valid as the guidance's table; its upper end is the highest temperature of growth.
    ``organism`` [°C]. FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4.
    """
    return Exposure(
        id=f"exposure-{organism.key.replace('_', '-')}",
        title=say("limits.exposure.cumulative_exposure", name=organism.name),
        source=Source(
            citation="FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4, from memory, verify",
            tag="published_from_memory",
        ),
        bands=organism.bands,
        upper_c=organism.max_c,
    )
