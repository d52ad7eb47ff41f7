"""Raw fish against the clock, the freezer and the pan: what each of them comes to."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    measured,
)
from brinefrost.core.bench.fish_question import FishQuestion, Reading
from brinefrost.core.bench.steady import laid_end_to_end
from brinefrost.core.kitchen.fish import Species
from brinefrost.core.kitchen.lines import ready_to_eat_clocks
from brinefrost.core.limits import Exposure, Freezing, Hold, Limit, Series, TimeAbove, Verdict, exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.rules import RuleSetId, rule_set, target
from brinefrost.core.words import say

DAY_S = 86400.0


DRESSED_AT_C = 22.0  # a dressing stands in the kitchen, above 21 °C; common practice, no source


RAW_CLOCKS = ("listeria", "v_parahaemolyticus")


@dataclass(frozen=True)
class FishClock:
    """One clock over all the handling, and whether it is histamine's, which nothing undoes."""

    limit: Exposure | TimeAbove
    verdict: Verdict
    histamine: bool

    def words(self) -> str:
        """What it says; a full histamine clock says that it is final."""
        said = say("bench.fish.title_sentence", title=self.limit.title, sentence=self.verdict.sentence)
        return say("bench.fish.discard_heat_cold_and_acid_do", said=said) if self.histamine and self.full else said

    @property
    def full(self) -> bool:
        """Whether its time is used up."""
        return self.verdict.state == "fail"


def _spans(question: FishQuestion) -> list[tuple[float, float]]:
    """All the time out of the cold: the rows, and in the dressing at the kitchen's own temperature."""
    found = [(each.temperature_c, each.duration_s) for each in question.out]
    if question.dish == "citrus" and question.dressing_s > 0:
        found.append((DRESSED_AT_C, question.dressing_s))
    return found


def clocks_of(question: FishQuestion, kind: Species) -> list[FishClock]:
    """Every clock that runs on this fish: ready to eat, Listeria, Vibrio, and histamine where its kind makes it.

    A cook ends the clocks of cells that it kills, never histamine's.
    """
    spans = _spans(question)
    if not spans:
        return []
    series = laid_end_to_end(spans)
    end = float(series.times_s[-1])
    found: list[FishClock] = []
    if kind.scombroid:
        limit = target("scombroid-frozen" if question.was_frozen else "scombroid-fresh", TimeAbove)
        found.append(FishClock(limit, limit.evaluate(series, end), True))
    raw = () if question.dish == "cooked" else RAW_CLOCKS
    clocks: list[Exposure | TimeAbove] = [*ready_to_eat_clocks(), *(exposure_of(organism(key)) for key in raw)]
    for clock_ in clocks:
        found.append(FishClock(clock_, clock_.evaluate(series, end), False))
    return found


def frozen(record: Verdict) -> tuple[str, AnswerState, str]:
    """Without a record it is not frozen: that is a stop, not an open question."""
    if record.state == "not_measured" and record.value is None:
        return "freeze", "would_fail", say("bench.fish.it_must_be_frozen_first_and")
    return "freeze", measured(record.state), record.sentence


def freeze_limit(rule_set_id: RuleSetId) -> Freezing:
    """The rule set's freezing; one without a figure takes the strictest of the others."""
    known = rule_set_id if rule_set(rule_set_id).entries_for("freeze.parasites") else "us"
    return rule_set(known).limit_as("freeze.parasites", Freezing)


def series_of(rows: tuple[Reading, ...]) -> Series:
    if not rows:
        return Series.empty(closed=True)
    ordered = sorted(rows, key=lambda row: row.time_s)
    times = np.array([row.time_s for row in ordered])
    return Series(times, np.array([row.temperature_c for row in ordered]), 0.5, float(times[0]), True, 24 * 3600.0)


def cooked(question: FishQuestion, kind: Species) -> list[tuple[str, AnswerState, str]]:
    """The rule set's own line for fish, and the parasites' and viruses' besides; the hold as it was timed."""
    limits = [rule_set(question.rule_set).limit_for("cook.whole")]
    if kind.bivalve:
        limits.append(target("bivalve-90", Hold))
    if kind.parasites:
        limits.append(target("anisakis-60", Hold))
    if question.core_c is None:
        return [("core", "not_measured", say("bench.fish.the_core_was_not_measured", title=limits[0].title))]
    held = question.core_held_s
    times = np.array([0.0, held]) if held > 0 else np.zeros(1)
    series = Series(times, np.full(len(times), question.core_c), 0.5, 0.0, True, max(held, 300.0))
    found: list[tuple[str, AnswerState, str]] = []
    for limit in limits:
        verdict = limit.evaluate(series, held)
        if verdict.state in ("fail", "not_measured") and held <= 0 and _at_once(limit, series):
            verdict = verdict.model_copy(
                update={"state": "pass", "sentence": say("bench.fish.hot_enough_at_once", title=limit.title)}
            )
        found.append(
            (
                "core",
                measured(verdict.state),
                say("bench.fish.title_sentence", title=limit.title, sentence=verdict.sentence),
            )
        )
    return found


def _at_once(limit: Limit, series: Series) -> bool:
    """Whether one reading is enough by itself: where the code's table asks for under a second."""
    instant = rule_set("us").limit_as("cook.filled", Hold)
    return isinstance(limit, Hold) and limit.at_least_c < 75 and instant.evaluate(series, 0.0).state == "pass"
