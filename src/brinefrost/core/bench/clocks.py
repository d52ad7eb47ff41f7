"""Growth and exposure: a dish's whole history on one clock, over steps and days."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    CurvePicture,
    Dial,
    DialPicture,
    Figure,
    SchoolAnswer,
    Table,
    Zone,
    line,
    of_whole,
    planned,
    school,
    worst_of,
)
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.limits import (
    ComeUp,
    Composition,
    Cooling,
    Exposure,
    Growth,
    Limit,
    Measured,
    Quantity,
    Series,
    Threshold,
    TimeAbove,
    Uncontrolled,
    Verdict,
    exposure_of,
)
from brinefrost.core.microbes.growth import perfringens_log, seafood_relative_rate, storage_log
from brinefrost.core.microbes.organisms import grows_at, organism, organisms
from brinefrost.core.physics.body import Array
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set, target, targets_for
from brinefrost.core.words import bare, duration, joined, legal, num, percent, say, temp
from brinefrost.core.working import Document, Input, Sent, Source, Working

FoodClass = Literal[
    "cooked_meat", "ready_to_eat", "raw_fish", "raw_fish_frozen", "shellfish", "rice", "raw_meat", "sealed"
]
CHOSEN: dict[str, tuple[str, ...]] = {
    "cooked_meat": ("c_perfringens", "s_aureus", "listeria", "ready_to_eat"),
    "ready_to_eat": ("listeria", "s_aureus", "salmonella", "ready_to_eat"),
    "raw_fish": ("listeria", "v_parahaemolyticus", "ready_to_eat"),
    "raw_fish_frozen": ("listeria", "v_parahaemolyticus", "ready_to_eat"),
    "shellfish": ("v_parahaemolyticus", "listeria", "ready_to_eat"),
    "rice": ("b_cereus", "s_aureus", "ready_to_eat"),
    "raw_meat": ("salmonella", "e_coli", "s_aureus", "listeria"),
    "sealed": ("c_botulinum_a", "c_botulinum_b", "listeria", "ready_to_eat"),
}
# kept cold up to, kept hot from: FDA Food Code 2022, 3-501.16(A)
KEPT_UP_TO_C, HOT_FROM_C = 5.0, 57.0
KILLED_BY_COOKING = ("salmonella", "e_coli", "listeria", "v_parahaemolyticus")  # no toxin and no spores stay behind
COOKED_C, HEATED_C = 75.0, 54.4
BLINK_S = 1e-3
REHEAT_S = 7200.0  # FDA Food Code 2022, 3-403.11(D); the other rule sets say rapidly, taken alike
SUSHI_PH = 4.6  # acidified rice is timed by the authority; common practice, no source
StepKind = Literal["hot", "fall", "handled"]
RAW = ("raw_fish", "raw_fish_frozen", "shellfish", "raw_meat")
STATE_WORDS: dict[AnswerState, str] = {
    "would_meet": say("bench.clocks.in_time"),
    "would_fail": say("bench.clocks.too_long"),
    "too_close": say("bench.clocks.too_close"),
}


class Span(Document):
    """A step: from one temperature to another over a time."""

    from_c: float = field("temperature", 5, -30, 110)
    to_c: float = field("temperature", 5, -30, 110)
    duration_s: float = field("time", 3600, 60, 60 * 86400, "h")


BRAISE = (
    Span(from_c=12, to_c=85, duration_s=2 * 3600),
    Span(from_c=85, to_c=85, duration_s=3 * 3600),
    Span(from_c=85, to_c=5, duration_s=7 * 3600),
    Span(from_c=5, to_c=5, duration_s=10 * 3600),
    Span(from_c=5, to_c=80, duration_s=1.5 * 3600),
    Span(from_c=80, to_c=5, duration_s=6 * 3600),
    Span(from_c=5, to_c=5, duration_s=14 * 3600),
    Span(from_c=5, to_c=78, duration_s=2 * 3600),
)


class ClocksQuestion(Sent):
    """What a food is and what it went through."""

    food: FoodClass = field("choice", "cooked_meat", main=True)
    ph: float = field("ph", 6.2, 2, 9, step=0.1, main=True)
    aw: float = field("number", 0.985, 0.6, 1, "aw", 0.005, main=True)
    cooking: Literal["keeps", "resets"] = field("choice", "keeps")
    then_c: float = field("temperature", 20, -5, 60)
    rule_set: RuleSetId = field("choice", "us")
    spans: tuple[Span, ...] = field("rows", BRAISE, most=60, main=True)


def answer_clocks(question: ClocksQuestion) -> BenchAnswer:
    """Add up exposure and growth over every step.

    The worst clock, each clock's share, estimated growth in store and while cooling, time without control. Raises
    OutOfRangeError if there is no step. Valid for a food as a whole, by its slowest part. Time spent before a cook
    stays on the clock, the stricter school; the other resets the clocks of cells that a core of 75 °C kills, never
    those of toxins and spores. FDA, Fish and Fishery Products Hazards and Controls Guidance,
    appendix 4 and ch. 7; each limit carries its own.
    """
    history = _history(question)
    times, temperature = history.times, history.temperature
    free = _free_of_control(question)
    clocks = [] if free else _clock_parts(question, history)
    law = [] if free else _law_parts(question, history)
    falls = [] if free or question.food in RAW else _fall_parts(question, history)
    rises = [] if free else _rise_parts(question, history)
    judged = [*falls, *rises, *clocks, *law]
    states = [part.state for part in judged]
    by_authority = question.food == "rice" and question.ph <= SUSHI_PH and not free
    state = worst_of(states) if states else "would_meet"
    if by_authority and state == "would_fail":
        state = "ask"
    in_zone = _zone_time_s(times, temperature)
    return BenchAnswer(
        state=state,
        sentence=_sentence(question, judged, free, by_authority),
        reason=_reason(question, judged, in_zone),
        fixes=_fixes(falls, [*clocks, *law]) if state in ("would_fail", "too_close") else (),
        figures=(*_figures(question, history, in_zone), *_left(question, clocks)),
        pictures=(
            CurvePicture(
                title=say("bench.clocks.history"),
                x_kind="time",
                y_kind="temperature",
                lines=(line(say("bench.clocks.food"), "core", times, temperature),),
                zone=Zone(words=say("bench.chill.growth_zone"), low=KEPT_UP_TO_C, high=HOT_FROM_C),
                y_low=0,
            ),
            *(
                (DialPicture(title=say("bench.clocks.exposure"), dials=tuple(_dial(part) for part in clocks)),)
                if clocks
                else ()
            ),
        ),
        tables=(_steps(question, history, clocks), *_falls_table(falls)),
        schools=tuple(_without_control(history)),
        workings=(*(part.verdict.working for part in judged[:6]), _growth_working()),
        caution=say("bench.clocks.clocks_are_for_planning_and_for"),
    )


@dataclass(frozen=True)
class Part:
    """One thing judged: a clock over all the handling, or one fall or one rise."""

    name: str
    limit: Limit
    verdict: Verdict
    state: AnswerState


@dataclass(frozen=True)
class History:
    """The food's temperature over all steps, and what each step was: a fall from hot, a rise through, or handling."""

    times: Array
    temperature: Array
    kinds: tuple[StepKind, ...]  # one a span
    ends_s: tuple[float, ...]

    def of(self, index: int) -> tuple[Array, Array]:
        """Times [s] and temperatures [°C] of one step, (n,).

        Valid for every step.
        """
        begin = self.ends_s[index - 1] if index else 0.0
        keep = (self.times >= begin - 1e-6) & (self.times <= self.ends_s[index] + 1e-6)
        if index and len(self.times[keep]) > 1 and self.times[keep][1] - begin <= 1.0 + 1e-6:
            keep &= self.times > begin + 0.5  # a jump between two steps belongs to neither
        return self.times[keep], self.temperature[keep]


def _history(question: ClocksQuestion) -> History:
    if not question.spans:
        raise OutOfRangeError(say("bench.clocks.add_at_least_one_step_with"))
    times, temperature, now = [0.0], [question.spans[0].from_c], 0.0
    kinds: list[StepKind] = []
    ends: list[float] = []
    for i, span in enumerate(question.spans):
        kinds.append(_kind(question, i, kinds))
        if abs(span.from_c - temperature[-1]) > 1e-9:
            times.append(now + 1.0)
            temperature.append(span.from_c)
        now += span.duration_s
        ends.append(now)
        cooling = span.to_c < span.from_c - 1
        for share in np.linspace(0, 1, 25)[1:]:
            # heating and cooling fade towards their end; a straight line would understate the time near it
            faded = share if not cooling else (1 - np.exp(-3 * share)) / (1 - np.exp(-3))
            at = now - span.duration_s * (1 - share)
            if at > times[-1]:
                times.append(at)
                temperature.append(span.from_c + (span.to_c - span.from_c) * float(faded))
    return History(np.array(times), np.array(temperature), tuple(kinds), tuple(ends))


def _kind(question: ClocksQuestion, index: int, before: list[StepKind]) -> StepKind:
    """What a step is: a fall goes on through steps that fall further in the same pot; raw food only rises."""
    span = question.spans[index]
    if span.from_c < HEATED_C <= span.to_c or (span.from_c >= HEATED_C and span.to_c >= HEATED_C):
        return "hot"
    falling = span.to_c < span.from_c - 0.5
    if question.food in RAW or not falling:
        return "handled"
    if span.from_c >= HOT_FROM_C - 1e-9 or span.from_c >= HEATED_C:
        return "fall"
    follows = index > 0 and before[-1] == "fall" and abs(question.spans[index - 1].to_c - span.from_c) < 1.0
    return "fall" if follows else "handled"


def _free_of_control(question: ClocksQuestion) -> bool:
    """Whether it needs no time or temperature control by the interaction tables; raw flesh always does."""
    if question.food in RAW:
        return False
    table = target("tcs-a" if question.food == "sealed" else "tcs-b", Composition)
    facts: dict[Quantity, Measured] = {"ph": Measured(value=question.ph), "aw": Measured(value=question.aw)}
    return table.judge(facts, "computed").state == "pass"


def _clock_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """Every clock over the handling alone, or over all since the last cook in the school where that resets cells."""
    found = []
    for limit in _limits(question):
        series = _handled(history, _since(question, history, limit))
        if len(series) < 2:
            continue
        verdict = limit.evaluate(series, float(series.times_s[-1]))
        found.append(Part(limit.title, limit, verdict, planned(verdict.state)))
    return found


def _law_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """The rule set's own line on time without control, over all the handling; common practice alone is no line."""
    limit = rule_set(question.rule_set).limit_for("time.uncontrolled")
    if question.food in RAW or not isinstance(limit, Uncontrolled) or limit.source.tag == "common_practice":
        return []
    colds = [entry.limit for entry in rule_set(question.rule_set).entries if entry.topic == "hold.cold"]
    cold = max(each.value for each in colds if isinstance(each, Threshold))
    handled = _handled(history)
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


def _since(question: ClocksQuestion, history: History, limit: Exposure | TimeAbove) -> int:
    """The first step that counts: all of them, or those after a cook that killed the cells."""
    cells = {f"exposure-{key.replace('_', '-')}" for key in KILLED_BY_COOKING}
    if question.cooking == "keeps" or limit.id not in cells:
        return 0
    cooked = [i for i, span in enumerate(question.spans) if max(span.from_c, span.to_c) >= COOKED_C]
    return cooked[-1] if cooked else 0


def _handled(history: History, first: int = 0) -> Series:
    """The steps in which it lay or was handled, laid end to end; a fall and a rise through are judged by themselves."""
    times: list[float] = []
    values: list[float] = []
    now = 0.0
    for i, kind in enumerate(history.kinds):
        if kind != "handled" or i < first:
            continue
        at, temperature = history.of(i)
        times += [float(t - at[0]) + now + (BLINK_S if times else 0.0) for t in at]
        values += [float(t) for t in temperature]
        now = times[-1]
    return Series(np.array(times), np.array(values), 0.0, None, True, np.inf, "computed")


def _fall_parts(question: ClocksQuestion, history: History) -> list[Part]:
    """Each fall from hot by the cooling rule and growth, until it is heated again or ends."""
    rule = rule_set(question.rule_set).limit_as("chill.cooked", Cooling)
    growth = targets_for("grow.perfringens")[0].limit
    found: list[Part] = []
    for number_, (first, last) in enumerate(_stretches(history), start=1):
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


def _rise_parts(question: ClocksQuestion, history: History) -> list[Part]:
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


def _stretches(history: History) -> list[tuple[int, int]]:
    """First and last step of each fall, what follows it included until the food is heated again."""
    found: list[tuple[int, int]] = []
    i = 0
    while i < len(history.kinds):
        if history.kinds[i] != "fall":
            i += 1
            continue
        j = i
        while j + 1 < len(history.kinds) and not _heated_at(history, j + 1):
            j += 1
        found.append((i, j))
        i = j + 1
    return found


def _heated_at(history: History, index: int) -> bool:
    """Whether a step heats it again, or begins hot where the one before ended cold."""
    if history.kinds[index] == "hot":
        return True
    ended, begins = history.of(index - 1)[1], history.of(index)[1]
    return bool(len(ended) and len(begins) and ended[-1] < HEATED_C <= begins[0])


def _sentence(question: ClocksQuestion, judged: list[Part], free: bool, by_authority: bool) -> str:
    if free:
        return say("bench.clocks.no_clock_at_ph_and_water", ph=num(question.ph), aw=num(question.aw))
    if not judged:
        return say("bench.clocks.no_clock_runs_it_was_hot")
    stands = next((part for part in judged if part.state in ("would_fail", "too_close")), None)
    if by_authority and stands is not None:
        said = say("bench.clocks.acidified_rice_at_ph_ask_your", ph=num(question.ph))
        return say("bench.clocks.said_name_sentence", said=said, name=stands.name, sentence=stands.verdict.sentence)
    if stands is not None:
        return say("bench.clocks.name_sentence", name=stands.name, sentence=stands.verdict.sentence)
    fullest = max(judged, key=lambda part: part.verdict.value or 0.0 if part.verdict.unit == "%" else -1.0)
    if fullest.verdict.unit != "%":
        return say("bench.clocks.every_fall_in_time", sentence=judged[0].verdict.sentence)
    return say("bench.clocks.name_sentence", name=fullest.name, sentence=fullest.verdict.sentence)


def _reason(question: ClocksQuestion, judged: list[Part], in_zone: float) -> str:
    said = [
        say(
            "bench.clocks.in_all_from_to_over_steps",
            in_zone=duration(in_zone),
            kept_up_to=legal(KEPT_UP_TO_C, "g"),
            hot_from=legal(HOT_FROM_C, "g"),
            spans=len(question.spans),
        )
    ]
    told = [p for p in judged if p.state in ("would_fail", "too_close")]
    said += [say("bench.clocks.name_sentence", name=part.name, sentence=part.verdict.sentence) for part in told[1:4]]
    return joined(said, " ")


def _falls_table(falls: list[Part]) -> tuple[Table, ...]:
    if not falls:
        return ()
    rows = tuple((part.name, part.verdict.sentence, STATE_WORDS.get(part.state, "")) for part in falls)
    return (Table(title=say("bench.clocks.each_fall_by_itself"), head=("", "", ""), rows=rows),)


def _limits(question: ClocksQuestion) -> list[Exposure | TimeAbove]:
    found: list[Exposure | TimeAbove] = [
        exposure_of(organism(key)) for key in CHOSEN[question.food] if grows_at(organism(key), question.ph, question.aw)
    ]
    if question.food in ("raw_fish", "raw_fish_frozen"):
        entry = targets_for("fish.scombroid")[question.food == "raw_fish_frozen"]
        if isinstance(entry.limit, TimeAbove):
            found.append(entry.limit)
    return found or [exposure_of(organism("ready_to_eat"))]


def _zone_time_s(times: Array, temperature: Array) -> float:
    inside = (temperature[1:] > KEPT_UP_TO_C) & (temperature[:-1] < HOT_FROM_C) | (temperature[:-1] > KEPT_UP_TO_C) & (
        temperature[1:] < HOT_FROM_C
    )
    both = inside & (np.minimum(temperature[1:], temperature[:-1]) < HOT_FROM_C)
    return float(np.sum(np.diff(times)[both]))


def _dial(part: Part) -> Dial:
    return Dial(
        name=part.limit.title,
        used=(part.verdict.value or 0.0) / 100,
        words=part.verdict.working.result,
        state=part.state,
    )


def _left(question: ClocksQuestion, clocks: list[Part]) -> tuple[Figure, ...]:
    """How long it may still stand at a temperature before the first clock is full."""
    left = [
        part.limit.allowed_s(question.then_c, (part.verdict.value or 0.0) / 100)
        for part in clocks
        if isinstance(part.limit, Exposure | TimeAbove)
    ]
    known = [each for each in left if each is not None]
    return (
        Figure(
            name=say("bench.clocks.time_left"),
            value=min(known) if known else None,
            kind="time",
            show="h",
            words=say("bench.clocks.at_by_the_first_clock_to", then=temp(question.then_c, "g")),
            absent=say("bench.clocks.no_clock_runs_there"),
        ),
    )


def _figures(question: ClocksQuestion, history: History, in_zone: float) -> tuple[Figure, ...]:
    times, temperature = history.times, history.temperature
    found = [
        Figure(
            name=say("bench.clocks.in_zone"),
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
        stops = not grows_at(organism("c_perfringens"), question.ph, question.aw)
        falls = [part.verdict.value or 0.0 for part in _fall_parts(question, history) if isinstance(part.limit, Growth)]
        grown = 0.0 if stops else max(falls) if falls else float(perfringens_log(times, temperature)[-1])
        found.append(
            Figure(
                name=say("bench.clocks.perfringens_log"),
                value=round(min(grown, 6.0), 2),
                kind="number",
                show="log",
                words=say("bench.clocks.its_ph_or_dryness_stops_it")
                if stops
                else say("bench.clocks.in_the_worst_fall_by_itself")
                if falls
                else say("bench.clocks.while_it_lay_and_warmed"),
                low=0,
                high=3,
                band_from=0,
                band_to=1,
            )
        )
    for key in ("listeria", "b_cereus", "s_aureus", "salmonella"):
        model = organism(key).growth
        if key in CHOSEN[question.food] and model:
            grown = float(storage_log(model, times, temperature, question.ph, question.aw)[-1])
            found.append(
                Figure(
                    name=f"{key}_log",
                    value=round(min(grown, 6.0), 2),
                    kind="number",
                    show="log",
                    words=say("bench.clocks.estimate_fast_side"),
                    low=0,
                    high=3,
                    band_from=0,
                    band_to=1,
                )
            )
    if question.food in ("raw_fish", "shellfish", "raw_fish_frozen"):
        mean = float(np.average((temperature[1:] + temperature[:-1]) / 2, weights=np.diff(times)))
        if -5 <= mean <= 20:
            found.append(
                Figure(
                    name=say("bench.clocks.spoils"),
                    value=round(seafood_relative_rate(mean), 2),
                    kind="number",
                    show=say("bench.clocks.as_at_zero"),
                    words=say("bench.clocks.at_on_average", mean=temp(mean, ".1f")),
                )
            )
    return tuple(found)


def _steps(question: ClocksQuestion, history: History, clocks: list[Part]) -> Table:
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
        head=("Step", "", "Time", say("bench.clocks.adds_to_the_fullest_clock")),
        rows=tuple(rows),
    )


def _without_control(history: History) -> list[SchoolAnswer]:
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


def _fixes(falls: list[Part], clocks: list[Part]) -> tuple[str, ...]:
    said = []
    if any(part.state != "would_meet" for part in falls):
        said.append(say("bench.clocks.cool_in_shallow_pans_or_an"))
        said.append(say("bench.clocks.cook_once_portion_and_reheat_only"))
    if any(part.state != "would_meet" for part in clocks):
        said.append(say("bench.clocks.keep_it_at_or_below_or"))
    said.append(say("bench.clocks.what_has_already_been_spent_cannot"))
    return tuple(said)


def _growth_working() -> Working:
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
