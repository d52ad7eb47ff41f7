"""Pooled eggs held warm or cold: how far their clocks run."""

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    planned,
    worst_of,
)
from brinefrost.core.bench.egg_question import EggQuestion
from brinefrost.core.limits import Series, exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.rules import rule_set
from brinefrost.core.words import legal, lowered, say, temp

HELD_CLOCKS = ("s_aureus", "b_cereus", "salmonella")


NEARLY = 0.9  # a hold that uses more of its clock than this has no minute to spare


def held_eggs(question: EggQuestion) -> tuple[AnswerState, str]:
    """Whether it is held hot enough, or so briefly that neither rule nor clock is near its end."""
    if question.held_s <= 0:
        return "would_meet", ""
    rules = rule_set(question.rule_set)
    hot = rules.bound_for("hold.hot")
    if hot.evaluate(Series.of(question.held_c, basis="computed"), 0.0).state == "pass":
        return "would_meet", say(
            "bench.eggs.held_at_is_kept", held=temp(question.held_c, "g"), small=lowered(hot.title)
        )
    cold = rules.bound_for("hold.cold")
    if cold.evaluate(Series.of(question.held_c, basis="computed"), 0.0).state == "pass":
        return "would_meet", say(
            "bench.eggs.held_at_is_kept", held=temp(question.held_c, "g"), small=lowered(cold.title)
        )
    limit = rules.limit_for("time.uncontrolled")
    times = np.array([0.0, *((1.0,) if question.held_s > 1 else ()), max(question.held_s, 2.0)])
    # it leaves control hot, from the bath, and lies at its holding temperature from then on
    started = max(hot.value, question.held_c)
    values = np.array([started, *(question.held_c for _ in times[1:])])
    verdict = limit.evaluate(Series.computed(times, values), question.held_s)
    lying = Series(
        np.array([0.0, max(question.held_s, 1.0)]), np.full(2, question.held_c), 0, 0, True, np.inf, "computed"
    )
    clocks = [exposure_of(organism(key)) for key in HELD_CLOCKS]
    full = [(each, each.evaluate(lying, question.held_s)) for each in clocks]
    worst_clock = max(full, key=lambda pair: pair[1].value or 0.0)
    state = worst_of([planned(verdict.state), *(planned(v.state) for _, v in full)])
    said = say(
        "bench.eggs.held_at_below",
        held=temp(question.held_c, "g"),
        value=legal(hot.value, "g"),
        sentence=verdict.sentence,
    )
    if state == "would_meet" and question.held_s > NEARLY * (verdict.limit_value or question.held_s):
        return "too_close", say("bench.eggs.that_is_the_last_of_it", said=said)
    if worst_clock[1].state != "pass":
        said += say("bench.eggs.title_sentence", title=worst_clock[0].title, sentence=worst_clock[1].sentence)
    return state, said
