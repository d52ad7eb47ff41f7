"""Freezing against parasites: cold enough for long enough, at the core or in the air as the rule says."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import TOLERANCE, LimitBase, Series, State, Verdict, unproved
from brinefrost.core.physics.body import Array
from brinefrost.core.words import duration, say, temp
from brinefrost.core.working import Document, Input, Working

DAY_S = 26 * 3600.0  # once a day, as people do it


class FreezeOption(Document):
    """Frozen solid at or below one temperature first, if asked, then held at or below another."""

    solid_at_c: float | None = None
    hold_at_c: float
    for_s: float = Field(gt=0)

    @property
    def silence_s(self) -> float:
        """The longest silence it bears [s]: a quarter of its time, a day at most; common practice, no source."""
        return min(self.for_s / 4, DAY_S)

    def words(self) -> str:
        """As a cook would say it."""
        first = "" if self.solid_at_c is None else say("limits.freezing.solid_at_then", solid_at=temp(self.solid_at_c))
        return say(
            "limits.freezing.first_hold_at_for_for",
            first=first,
            hold_at=temp(self.hold_at_c),
            for_=duration(self.for_s),
        )


class Freezing(LimitBase):
    """One of several freezings, without a break."""

    needs_curve: ClassVar[bool] = True
    over_all: ClassVar[bool] = True
    kind: Literal["freezing"] = "freezing"
    options: tuple[FreezeOption, ...] = Field(min_length=1, max_length=6)

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the longest unbroken time cold enough.

        Pass when one option holds with the readings raised by their uncertainty. Raises OutOfRangeError if the times
        of the series fall. Valid for readings straight between each other with no silence above the series' longest.
        ``series`` [°C], ``now_s`` [s]. The limit's own source; JCGM 106:2012, 8.3, for the guard band.
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
            "pass": say("limits.freezing.frozen_held", words=option.words(), nominal=duration(nominal[best])),
            "too_close": say("limits.freezing.within_the_probes_uncertainty_hold_it", words=option.words()),
            "fail": say("limits.freezing.not_frozen_enough_of", nominal=duration(nominal[best]), words=option.words()),
            "pending": say("limits.freezing.of_so_far", nominal=duration(nominal[best]), words=option.words()),
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
            advice=() if state == "pass" else (say("limits.freezing.leave_it_in_the_freezer_do"),),
        )
        return self._silent(found, known) if state == "fail" else found

    def _silent(self, found: Verdict, known: Series) -> Verdict:
        """Not enough as read, but enough if its silences had been read: that is not measured, and says so."""
        across = [self._held_s(each, known, known.uncertainty, bridged=True) >= each.for_s for each in self.options]
        if not any(across):
            return found
        longest = float(np.max(np.diff(known.times_s), initial=0.0))
        least = max(self._gap_s(each, known) for each in self.options)
        return unproved(
            found,
            say(
                "limits.freezing.readings_lie_apart_nothing_is_credited",
                longest=duration(longest),
                least=duration(least),
            ),
        )

    def _gap_s(self, option: FreezeOption, series: Series) -> float:
        """The longest silence an option bears [s], as these readings were taken."""
        if series.basis == "computed" or series.longest_gap_s == np.inf:
            return np.inf
        return min(series.longest_gap_s, option.silence_s)

    def explain(self, held_s: float) -> Working:
        """The options and the time held."""
        return Working(
            title=self.title,
            formula=say("working.freezing.t_limit_without_a_break_for"),
            inputs=tuple(
                Input(name=say("working.freezing.option_i", i=i + 1), value=option.words())
                for i, option in enumerate(self.options)
            ),
            result=say("working.freezing.held_held", held=duration(held_s)),
            source=self.source,
            assumptions=(
                say("working.freezing.the_thickest_piece_was_measured")
                if self.quantity == "core"
                else say("working.freezing.the_freezers_air_counts"),
            ),
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
