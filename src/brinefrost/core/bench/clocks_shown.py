"""What is shown of the clocks: dials, figures, tables, the sum."""

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.bench.answer import (
    AnswerState,
    Dial,
    Figure,
    SchoolAnswer,
    Table,
    school,
)
from brinefrost.core.bench.clocks_history import History, Part
from brinefrost.core.bench.clocks_judged import fall_parts
from brinefrost.core.bench.clocks_question import CHOSEN, HOT_FROM_C, KEPT_UP_TO_C, ClocksQuestion
from brinefrost.core.limits import (
    Exposure,
    Growth,
    Series,
    TimeAbove,
    Uncontrolled,
)
from brinefrost.core.microbes.growth import perfringens_log, seafood_relative_rate, storage_log
from brinefrost.core.microbes.organisms import grows_at, organism, organisms
from brinefrost.core.physics.body import Array
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from brinefrost.core.words import bare, duration, joined, percent, say, temp
from brinefrost.core.working import Input, Source, Working

STATE_WORDS: dict[AnswerState, str] = {
    "would_meet": say("bench.clocks.in_time"),
    "would_fail": say("bench.clocks.too_long"),
    "too_close": say("bench.clocks.too_close"),
}

SEAFOOD = ("raw_fish", "shellfish", "raw_fish_frozen")


def falls_table(falls: list[Part]) -> tuple[Table, ...]:
    if not falls:
        return ()
    rows = tuple((part.name, part.verdict.sentence, STATE_WORDS.get(part.state, "")) for part in falls)
    return (Table(title=say("bench.clocks.each_fall_by_itself"), head=("", "", ""), rows=rows),)


def zone_time_s(times: Array, temperature: Array) -> float:
    inside = (temperature[1:] > KEPT_UP_TO_C) & (temperature[:-1] < HOT_FROM_C) | (temperature[:-1] > KEPT_UP_TO_C) & (
        temperature[1:] < HOT_FROM_C
    )
    both = inside & (np.minimum(temperature[1:], temperature[:-1]) < HOT_FROM_C)
    return float(np.sum(np.diff(times)[both]))


def dial_of(part: Part) -> Dial:
    return Dial(
        name=part.limit.title,
        used=(part.verdict.value or 0.0) / 100,
        words=part.verdict.working.result,
        state=part.state,
    )


def left_of(question: ClocksQuestion, clocks: list[Part]) -> tuple[Figure, ...]:
    """How long it may still stand at a temperature before the first clock is full."""
    left = [
        part.limit.allowed_s(question.then_c, (part.verdict.value or 0.0) / 100)
        for part in clocks
        if isinstance(part.limit, Exposure | TimeAbove)
    ]
    known = [each for each in left if each is not None]
    return (
        Figure(
            name="time_left",
            value=min(known) if known else None,
            kind="time",
            show="h",
            words=say("bench.clocks.at_by_the_first_clock_to", then=temp(question.then_c, "g")),
            absent=say("bench.clocks.no_clock_runs_there"),
        ),
    )


def figures_of(question: ClocksQuestion, history: History, in_zone: float) -> tuple[Figure, ...]:
    times, temperature = history.times, history.temperature
    found = [
        Figure(
            name="in_zone",
            value=in_zone,
            kind="time",
            show="h",
            main=True,
            low=0,
            high=8 * 3600,
            band_from=0,
            band_to=4 * 3600,
        )
    ]
    if question.food in ("cooked_meat", "sealed"):
        grown, words = _perfringens(question, history)
        found.append(_grown("perfringens_log", grown, words))
    for key in ("listeria", "b_cereus", "s_aureus", "salmonella"):
        model = organism(key).growth
        if key in CHOSEN[question.food] and model:
            grown = float(storage_log(model, times, temperature, question.ph, question.aw)[-1])
            found.append(_grown(f"{key}_log", grown, say("bench.clocks.estimate_fast_side")))
    return (*found, *(_spoils(times, temperature) if question.food in SEAFOOD else ()))


def _grown(name: str, grown: float, words: str) -> Figure:
    return Figure(
        name=name,
        value=round(min(grown, 6.0), 2),
        kind="number",
        show="log",
        words=words,
        low=0,
        high=3,
        band_from=0,
        band_to=1,
    )


def _perfringens(question: ClocksQuestion, history: History) -> tuple[float, str]:
    """How far C. perfringens grows [log], and while what."""
    if not grows_at(organism("c_perfringens"), question.ph, question.aw):
        return 0.0, say("bench.clocks.its_ph_or_dryness_stops_it")
    falls = [part.verdict.value or 0.0 for part in fall_parts(question, history) if isinstance(part.limit, Growth)]
    if falls:
        return max(falls), say("bench.clocks.in_the_worst_fall_by_itself")
    grown = float(perfringens_log(history.times, history.temperature)[-1])
    return grown, say("bench.clocks.while_it_lay_and_warmed")


def _spoils(times: Array, temperature: Array) -> tuple[Figure, ...]:
    """How fast seafood spoils against 0 °C; nothing where its rate is not known."""
    mean = float(np.average((temperature[1:] + temperature[:-1]) / 2, weights=np.diff(times)))
    if not -5 <= mean <= 20:
        return ()
    return (
        Figure(
            name="spoils",
            value=round(seafood_relative_rate(mean), 2),
            kind="number",
            show=say("bench.clocks.as_at_zero"),
            words=say("bench.clocks.at_on_average", mean=temp(mean, ".1f")),
        ),
    )


def steps_table(question: ClocksQuestion, history: History, clocks: list[Part]) -> Table:
    rows = []
    for index, span in enumerate(question.spans):
        at, temperature = history.of(index)
        kind = history.kinds[index]
        adds: str = (
            say("bench.clocks.heated_through") if kind == "hot" else say("bench.clocks.cooling_judged_by_its_rule")
        )
        if kind == "handled" and len(at) > 1:
            part = Series(at - at[0], temperature, 0.0, None, True, np.inf, "computed")
            shares = [100 * float(p.limit.used(part)[-1]) for p in clocks if isinstance(p.limit, Exposure | TimeAbove)]
            adds = percent(max(shares, default=0.0))
        rows.append(
            (
                f"{index + 1}",
                say("bench.clocks.from_to", from_=bare(temp(span.from_c, "g")), to=temp(span.to_c, "g")),
                duration(span.duration_s),
                adds,
            )
        )
    return Table(
        title=say("bench.clocks.step_by_step"),
        head=(say("bench.clocks.step"), "", say("bench.clocks.time"), say("bench.clocks.adds_to_the_fullest_clock")),
        rows=tuple(rows),
    )


def without_control(history: History) -> list[SchoolAnswer]:
    """How each rule set's plain clock would judge the longest stretch out of control."""
    series = Series(history.times, history.temperature, 0.0, None, True, np.inf, "computed")
    end = float(series.times_s[-1])
    out = series.values > KEPT_UP_TO_C
    hot = series.values >= HOT_FROM_C
    stretch = _longest(series.times_s, out & ~hot)
    if stretch is None:
        return []
    first, last = max(stretch[0] - 1, 0), stretch[1]  # from the last moment under control
    part = Series(
        series.times_s[first : last + 1],
        series.values[first : last + 1],
        0.0,
        float(series.times_s[first]),
        True,
        np.inf,
        "computed",
    )
    found = []
    for set_id in RULE_SET_IDS:
        limit = rule_set(set_id).limit_for("time.uncontrolled")
        if isinstance(limit, Uncontrolled):
            found.append(
                school(say("bench.clocks.longest_stretch", upper=set_id.upper()), limit, limit.evaluate(part, end))
            )
    return found


def _longest(times: Array, inside: NDArray[np.bool_]) -> tuple[int, int] | None:
    best, since = None, None
    for i, flag in enumerate([*inside, False]):
        if flag and since is None:
            since = i
        if not flag and since is not None:
            if best is None or times[i - 1] - times[since] > times[best[1]] - times[best[0]]:
                best = (since, i - 1)
            since = None
    return best if best and best[1] > best[0] else None


def growth_working() -> Working:
    return Working(
        title=say("bench.clocks.growth_in_store_and_while_cooling"),
        formula=say("bench.clocks.best_t_ph_aw_ln_n"),
        inputs=(
            Input(
                name=say("bench.clocks.organisms"),
                value=joined((o.name for o in organisms().values() if o.growth), ", "),
            ),
        ),
        result="",
        source=Source(
            citation="Rosso et al. 1993, 1995; Zwietering et al. 1992; Baranyi & Roberts 1994; values from memory",
            tag="published_from_memory",
        ),
        assumptions=(
            say("bench.clocks.no_competing_flora"),
            say("bench.clocks.fast_side"),
            say("bench.clocks.cooling_fades_towards_its_end"),
        ),
    )
