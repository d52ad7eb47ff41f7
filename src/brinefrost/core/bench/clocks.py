"""Growth and exposure: a dish's whole history on one clock, over steps and days."""

from brinefrost.core.bench.answer import (
    BenchAnswer,
    CurvePicture,
    DialPicture,
    Zone,
    line,
    worst_of,
)
from brinefrost.core.bench.clocks_history import Part, history_of
from brinefrost.core.bench.clocks_judged import (
    SUSHI_PH,
    clock_parts,
    fall_parts,
    free_of_control,
    law_parts,
    rise_parts,
)
from brinefrost.core.bench.clocks_question import HOT_FROM_C, KEPT_UP_TO_C, RAW, ClocksQuestion
from brinefrost.core.bench.clocks_shown import (
    dial_of,
    falls_table,
    figures_of,
    growth_working,
    left_of,
    steps_table,
    without_control,
    zone_time_s,
)
from brinefrost.core.words import duration, joined, legal, num, say


def answer_clocks(question: ClocksQuestion) -> BenchAnswer:
    """Add up exposure and growth over every step.

    The worst clock, each clock's share, estimated growth in store and while cooling, time without control. Raises
    OutOfRangeError if there is no step. Valid for a food as a whole, by its slowest part. Time spent before a cook
    stays on the clock, the stricter school; the other resets the clocks of cells that a core of 75 °C kills, never
    those of toxins and spores. FDA, Fish and Fishery Products Hazards and Controls Guidance,
    appendix 4 and ch. 7; each limit carries its own.
    """
    history = history_of(question)
    times, temperature = history.times, history.temperature
    free = free_of_control(question)
    clocks = [] if free else clock_parts(question, history)
    law = [] if free else law_parts(question, history)
    falls = [] if free or question.food in RAW else fall_parts(question, history)
    rises = [] if free else rise_parts(question, history)
    judged = [*falls, *rises, *clocks, *law]
    states = [part.state for part in judged]
    by_authority = question.food == "rice" and question.ph <= SUSHI_PH and not free
    state = worst_of(states) if states else "would_meet"
    if by_authority and state == "would_fail":
        state = "ask"
    in_zone = zone_time_s(times, temperature)
    return BenchAnswer(
        state=state,
        sentence=_sentence(question, judged, free, by_authority),
        reason=_reason(question, judged, in_zone),
        fixes=_fixes(falls, [*clocks, *law]) if state in ("would_fail", "too_close") else (),
        figures=(*figures_of(question, history, in_zone), *left_of(question, clocks)),
        pictures=(
            CurvePicture(
                title="history",
                x_kind="time",
                y_kind="temperature",
                lines=(line(say("bench.clocks.food"), "core", times, temperature),),
                zone=Zone(words=say("bench.chill.growth_zone"), low=KEPT_UP_TO_C, high=HOT_FROM_C),
                y_low=0,
            ),
            *((DialPicture(title="exposure", dials=tuple(dial_of(part) for part in clocks)),) if clocks else ()),
        ),
        tables=(steps_table(question, history, clocks), *falls_table(falls)),
        schools=tuple(without_control(history)),
        workings=(*(part.verdict.working for part in judged[:6]), growth_working()),
        caution=say("bench.clocks.clocks_are_for_planning_and_for"),
    )


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


def _fixes(falls: list[Part], clocks: list[Part]) -> tuple[str, ...]:
    said = []
    if any(part.state != "would_meet" for part in falls):
        said.append(say("bench.clocks.cool_in_shallow_pans_or_an"))
        said.append(say("bench.clocks.cook_once_portion_and_reheat_only"))
    if any(part.state != "would_meet" for part in clocks):
        said.append(say("bench.clocks.keep_it_at_or_below_or"))
    said.append(say("bench.clocks.what_has_already_been_spent_cannot"))
    return tuple(said)
