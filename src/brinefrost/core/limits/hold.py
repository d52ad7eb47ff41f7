"""A temperature kept for a time: reheating, pasteurising by a plain rule."""

from typing import ClassVar, Literal, Self

import numpy as np

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, unproved
from brinefrost.core.physics.body import Array
from brinefrost.core.words import duration, joined, say, temp
from brinefrost.core.working import Input, Working


class Hold(LimitBase):
    """The core stays at or above one temperature for a time without a break."""

    by_time: ClassVar[bool] = True
    kind: Literal["hold"] = "hold"
    read_off: ClassVar[bool] = True
    at_least_c: float
    for_s: float

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How far each part is on the strict side of another's; None where they cannot be compared."""
        if not isinstance(other, Hold):
            return None
        return [self.at_least_c - other.at_least_c, self.for_s - other.for_s]

    def turns_on(self) -> tuple[float, bool]:
        """Its temperature."""
        return self.at_least_c, True

    def turned_to(self, value: float) -> Self:
        """As long at another temperature."""
        held = say("limits.hold.for_for", for_=duration(self.for_s)) if self.for_s else ""
        return self.model_copy(update={"at_least_c": value, "title": joined((temp(value, "g"), held), "")})

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the longest unbroken time at temperature.

        Pass when the readings less their uncertainty stayed there long enough. One reading shows an instant and is
        never a hold: the time runs from one reading at temperature to another. Raises OutOfRangeError if the times of
        the series fall. Valid for core readings taken as straight between each other, with no gap above the series'
        longest. ``series`` [°C], ``now_s`` [s]. JCGM 106:2012, 8.3, for the guard band.
        """
        known = series.until(now_s)
        if not len(known):
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence=say("limits.base.not_measured_yet"),
                limit_value=self.at_least_c,
                unit="°C",
                working=self.explain(0.0),
            )
        gap, need = self.silence_s(known), self.for_s * (1 - 1e-9)
        nominal = self._held(known.times_s, known.values, gap)
        guarded = self._held(known.times_s, known.values - known.uncertainty, gap)
        hottest = float(np.max(known.values))
        state: State = (
            "pass" if guarded >= need else "too_close" if nominal >= need else "fail" if known.closed else "pending"
        )
        target = say(
            "limits.hold.at_least_more",
            at_least=self.bound_c(self.at_least_c),
            more=say("limits.hold.for_for", for_=duration(self.for_s)) if self.for_s else "",
        )
        said = {
            "pass": say("limits.hold.held_hottest", target=target, hottest=temp(hottest)),
            "too_close": say("limits.hold.is_too_close_to_to_call", hottest=temp(hottest), target=target),
            "fail": say("limits.hold.did_not_hold_hottest", target=target, hottest=temp(hottest)),
            "pending": say("limits.hold.so_far_needs", hottest=temp(hottest), target=target),
        }[state]
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=said,
            value=hottest,
            limit_value=self.at_least_c,
            margin=hottest - self.at_least_c,
            unit="°C",
            at_s=float(known.times_s[-1]),
            working=self.explain(max(nominal, 0.0)),
            advice=() if state == "pass" else (say("limits.hold.heat_on_and_measure_the_core"),),
        )
        return self._say_unproved(found, known, nominal)

    def _say_unproved(self, found: Verdict, known: Series, held_s: float) -> Verdict:
        """Hot enough when it was read, and nobody read it long enough or often enough: that is not a failure."""
        if found.state not in ("fail", "pending") or held_s < 0:
            return found
        again = say("limits.hold.read_it_again_or_more_later", for_=duration(self.for_s))
        if found.state == "pending":
            return found.model_copy(update={"advice": (say("limits.hold.hot_enough", again=again),)})
        whole = known.from_opening()
        if self._held(whole.times_s, whole.values, np.inf) >= self.for_s * (1 - 1e-9):
            return unproved(
                found, say("limits.hold.it_was_at_temperature_but_nobody", longest_gap=duration(known.longest_gap_s))
            )
        if int(np.sum(known.values >= self.at_least_c)) < 2 and known.values[-1] >= self.at_least_c:
            return unproved(found, say("limits.hold.one_reading_is_no_hold", again=again))
        return found

    def met_at_s(self, series: Series, guarded: bool = False) -> float | None:
        """When it had been warm enough for long enough [s], or None. Valid as ``evaluate``."""
        values, since = series.values - (series.uncertainty if guarded else 0.0), None
        silent = np.concatenate(([False], series.silences(self.silence_s(series))))
        for time, value, after_silence in zip(series.times_s, values, silent, strict=True):
            if value < self.at_least_c:
                since = None
                continue
            since = time if since is None or after_silence else since
            if self.for_s == 0 or (time - since >= self.for_s * (1 - 1e-9) and time > since):
                return float(since + self.for_s)
        return None

    def rows_met_s(self, times_s: Array, rows: Array) -> Array:
        """When each of several computed curves that only rise has been there for its time [s], (m,)."""
        there = rows >= self.at_least_c
        each, first = np.arange(len(rows)), np.argmax(there, axis=1)
        before = np.maximum(first - 1, 0)
        rise = np.where(first > 0, rows[each, first] - rows[each, before], np.inf)
        since = (rows[each, first] - self.at_least_c) / rise * (times_s[first] - times_s[before])
        held = times_s[first] - since + self.for_s
        return np.where(there.any(axis=1) & (held <= times_s[-1]), held, np.inf)

    def _held(self, times_s: Array, values_c: Array, longest_gap_s: float) -> float:
        """Longest unbroken time at or above the limit [s]; -1 when never there."""
        warm = np.flatnonzero(values_c >= self.at_least_c)
        if not len(warm):
            return -1.0
        # a run ends where a reading was colder, or where nobody looked for too long
        broken = (np.diff(warm) > 1) | (np.diff(times_s)[warm[1:] - 1] > longest_gap_s)
        first = np.concatenate(([0], np.flatnonzero(broken) + 1))
        last = np.concatenate((np.flatnonzero(broken), [len(warm) - 1]))
        return float(np.max(times_s[warm[last]] - times_s[warm[first]]))

    def explain(self, held_s: float) -> Working:
        """The rule with the time held."""
        return Working(
            title=self.title,
            formula=say("working.hold.core_limit_without_a_break_for"),
            inputs=(
                Input(name=say("working.hold.limit"), value=self.at_least_c, unit="°C"),
                Input(name=say("working.hold.for"), value=self.for_s, unit="s"),
            ),
            result=say("working.freezing.held_held", held=duration(held_s)),
            source=self.source,
            assumptions=(
                say("working.come_up.the_probe_sits_in_the_coldest"),
                say("working.hold.from_one_reading_at_temperature_to"),
            ),
        )
