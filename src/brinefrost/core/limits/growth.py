"""Estimated growth along a curve, held to what the rule was built to allow."""

from typing import ClassVar, Literal

import numpy as np

from brinefrost.core.limits.base import LimitBase, Series, State, Verdict, unproved
from brinefrost.core.microbes.growth import perfringens_log
from brinefrost.core.words import duration, num, say
from brinefrost.core.working import Input, Working

LONGEST_GAP_S = 3600.0  # at its best rate it doubles many times in longer; common practice, no source
MOST_LOG = 6.0  # beyond this the food is full of it, and the model says no more


class Growth(LimitBase):
    """*C. perfringens* grows at most so many log while the food cools. An estimate, never a release."""

    over_all: ClassVar[bool] = True
    kind: Literal["growth"] = "growth"
    at_most_log: float

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Estimate the growth so far.

        Its value is log10 of the increase [log]. A growth below the limit is a pass of the estimate only. Raises
        OutOfRangeError if the times of the series do not rise. Valid for uncured cooked meat and poultry while it
        cools. ``series`` [°C], ``now_s`` [s]. As ``perfringens_log``; the limit's own source.
        """
        known = series.until(now_s)
        if len(known) < 2:
            return self.unmeasured(series, self.at_most_log, "log", self.explain(0.0))
        grown = float(perfringens_log(known.times_s, known.values)[-1])
        state: State = "fail" if grown > self.at_most_log else "pass" if known.closed else "pending"
        found = Verdict(
            state=state,
            basis="computed",
            sentence=say(
                "limits.growth.c_perfringens_of_growth_at_most", words=_words(grown), at_most_log=num(self.at_most_log)
            ),
            value=grown,
            limit_value=self.at_most_log,
            margin=self.at_most_log - grown,
            unit="log",
            at_s=float(np.max(known.times_s)),
            working=self.explain(grown),
            advice=(say("limits.growth.this_is_an_estimate_the_lead"),) if state == "fail" else (),
        )
        silent = series.basis == "measured" and bool(np.any(known.silences(max(self.silence_s(known), LONGEST_GAP_S))))
        if state != "fail" and silent:
            return unproved(
                found, say("limits.growth.nobody_read_it_for_longer_than", longest_gap=duration(LONGEST_GAP_S))
            )
        return found

    def explain(self, grown: float) -> Working:
        """The model and what it gave."""
        return Working(
            title=self.title,
            formula=say("working.growth.ln_n_n0_ln_1_q0"),
            inputs=(
                Input(name=say("working.growth.cardinal_temperatures"), value="10 / 45 / 52", unit="°C"),
                Input(name=say("working.growth.best_rate"), value=4.6, unit="1/h"),
                Input(name=say("working.growth.lag"), value=4.0),
            ),
            result=say("working.growth.grown_log", grown=num(grown, ".2f")),
            source=self.source,
            assumptions=(
                say("working.growth.uncured_cooked_meat"),
                say("working.growth.spores_start_to_germinate_as_it"),
            ),
        )


def _words(grown: float) -> str:
    return (
        say("limits.growth.about_log", grown=num(grown, ".1f"))
        if grown <= MOST_LOG
        else say("limits.growth.more_than_log", most_log=num(MOST_LOG))
    )
