"""Every clock and every fall and rise of a history before its limit."""

import numpy as np

from brinefrost.core.bench.answer import (
    of_whole,
    planned,
)
from brinefrost.core.bench.clocks_history import History, Part, handled_of, since_of, stretches
from brinefrost.core.bench.clocks_question import CHOSEN, EATEN_AS_IT_IS, HEATED_C, RAW, ClocksQuestion
from brinefrost.core.kitchen.lines import ready_to_eat_clocks
from brinefrost.core.limits import (
    ComeUp,
    Composition,
    Cooling,
    Exposure,
    Measured,
    Quantity,
    Series,
    Threshold,
    TimeAbove,
    Uncontrolled,
    exposure_of,
)
from brinefrost.core.microbes.organisms import grows_at, organism
from brinefrost.core.rules import rule_set, target, targets_for
from brinefrost.core.words import say, temp

REHEAT_S = 7200.0  # FDA Food Code 2022, 3-403.11(D); the other rule sets say rapidly, taken alike
SUSHI_PH = 4.6  # acidified rice is timed by the authority; common practice, no source


def free_of_control(question: ClocksQuestion) -> bool:
    """Whether it needs no time or temperature control by the interaction tables; raw flesh always does."""
    if question.food in RAW:
        return False
    table = target("tcs-a" if question.food == "sealed" else "tcs-b", Composition)
    facts: dict[Quantity, Measured] = {"ph": Measured(value=question.ph), "aw": Measured(value=question.aw)}
    return table.judge(facts, "computed").state == "pass"


def clock_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """Every clock over the handling alone, or over all since the last cook in the school where that resets cells."""
    found = []
    for limit in _limits(question):
        series = handled_of(history, since_of(question, history, limit))
        if len(series) < 2:
            continue
        verdict = limit.evaluate(series, float(series.times_s[-1]))
        found.append(Part(limit.title, limit, verdict, planned(verdict.state)))
    return found


def law_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """The rule set's own line on time without control, over all the handling; common practice alone is no line."""
    limit = rule_set(question.rule_set).limit_for("time.uncontrolled")
    if question.food in RAW or not isinstance(limit, Uncontrolled) or limit.source.tag == "common_practice":
        return []
    colds = [entry.limit for entry in rule_set(question.rule_set).entries if entry.topic == "hold.cold"]
    cold = max(each.value for each in colds if isinstance(each, Threshold))
    handled = handled_of(history)
    inside = (handled.values[1:] > cold + 1e-9) | (handled.values[:-1] > cold + 1e-9)
    out_s = float(np.sum(np.diff(handled.times_s)[inside])) if len(handled) > 1 else 0.0
    if out_s <= 0:
        return []
    # handling begins at any temperature; the longer allowance is for what never grew warm
    line_ = limit.model_copy(
        update={
            "starts_at_most_c": None,
            "starts_at_least_c": None,
            "hot_from_c": None,
            "cool_start_c": limit.cool_ceiling_c,
        }
    )
    warmest = float(np.max(handled.values))
    series = Series.computed(np.array([0.0, out_s]), np.array([warmest, warmest]))
    verdict = line_.evaluate(series, out_s)
    return [
        Part(
            say("bench.clocks.upper_above_cold", upper=question.rule_set.upper(), cold=temp(cold)),
            line_,
            verdict,
            planned(verdict.state),
        )
    ]


def fall_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """Each fall from hot by the cooling rule and growth, until it is heated again or ends."""
    rule = rule_set(question.rule_set).limit_as("chill.cooked", Cooling)
    growth = targets_for("grow.perfringens")[0].limit
    found: list[Part] = []
    for number_, (first, last) in enumerate(stretches(history), start=1):
        begin = history.ends_s[first - 1] if first else 0.0
        keep = (history.times >= begin - 1e-6) & (history.times <= history.ends_s[last] + 1e-6)
        times, core = history.times[keep], history.temperature[keep]
        if len(times) < 2:
            continue
        closed = last < len(history.kinds) - 1
        series = Series(times, core, 0.0, float(times[0]), closed, np.inf, "computed")
        end = float(times[-1])
        cooled = rule.evaluate(series, end)
        found.append(
            Part(
                say("bench.clocks.fall_number_title", number=number_, title=rule.title), rule, cooled, of_whole(cooled)
            )
        )
        if question.food in ("cooked_meat", "sealed") and grows_at(organism("c_perfringens"), question.ph, question.aw):
            grown = growth.evaluate(series, end)
            found.append(Part(say("bench.clocks.fall_c_perfringens", number=number_), growth, grown, of_whole(grown)))
    return found


def rise_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """Each rise through the growth zone: the first by the come-up rule, cooked food's by reheating's 2 h."""
    rule = rule_set(question.rule_set).limit_as("come_up", ComeUp)
    found: list[Part] = []
    cooked = question.food not in RAW and question.food != "rice"
    for i, (span, kind) in enumerate(zip(question.spans, history.kinds, strict=True)):
        if kind != "hot" or span.from_c >= HEATED_C:
            continue
        again = any(k in ("hot", "fall") for k in history.kinds[:i]) and cooked
        limit = (
            rule.model_copy(update={"within_s": REHEAT_S, "title": say("bench.clocks.reheated_within_2_h")})
            if again
            else rule
        )
        at, temperature = history.of(i)
        if len(at) < 2:
            continue
        series = Series.computed(at - at[0], temperature)
        verdict = limit.evaluate(series, float(series.times_s[-1]))
        if verdict.state != "pass":
            found.append(
                Part(
                    say("bench.clocks.step_i_title", i=i + 1, title=limit.title), limit, verdict, planned(verdict.state)
                )
            )
    return found


def _limits(question: ClocksQuestion) -> list[Exposure | TimeAbove]:
    found: list[Exposure | TimeAbove] = [
        exposure_of(organism(key)) for key in CHOSEN[question.food] if grows_at(organism(key), question.ph, question.aw)
    ]
    if question.food in EATEN_AS_IT_IS or not found:
        found += ready_to_eat_clocks()
    if question.food in ("raw_fish", "raw_fish_frozen"):
        entry = targets_for("fish.scombroid")[question.food == "raw_fish_frozen"]
        if isinstance(entry.limit, TimeAbove):
            found.append(entry.limit)
    return found
