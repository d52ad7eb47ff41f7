"""What is said of a heat: verdict, reason, and what to do."""

import numpy as np

from brinefrost.core.bench.heat_judged import ALLOWED_UP_S, Found, Inverses, lasting, passes_all
from brinefrost.core.bench.heat_question import LONGEST_S, HeatQuestion, animal_of, piece_asked
from brinefrost.core.kitchen.cooked import cook_fix, fall_words
from brinefrost.core.kitchen.lines import lines_of
from brinefrost.core.limits import Series
from brinefrost.core.physics.heating import Heating
from brinefrost.core.words import duration, joined, mm, say, temp

LEAST_CUT = 0.5  # a piece cut to less than half is another dish
WHOLE_CUTS = say("bench.heat.the_measured_core_decides_the_whole")
MEASURED = say("bench.heat.the_measured_core_decides_below_the")


def reason_of(found: Found, series: Series) -> str:
    said = [found.verdict.sentence]
    for each in found.judged:
        told = each.verdict.state in ("fail", "too_close") and each.limit.id != found.limit.id
        if told:
            said.append(say("bench.fish.title_sentence", title=each.limit.title, sentence=each.verdict.sentence))
    if found.first("way_down", "growth"):
        said.append(fall_words(found.judged, series))
    return joined(said, " ")


def sentence_of(question: HeatQuestion, found: Found, at_end: float, needed: float | None) -> str:
    core = say("bench.heat.the_core_is_at_after", at_end=temp(at_end, ".1f"), duration=duration(question.duration_s))
    if found.state == "would_meet":
        return say("bench.heat.should_meet_it", core=core)
    if found.state == "advisory":
        return say("bench.heat.only_with_an_advisory_for_general", core=core)
    stands = found.first("way_down", "growth")
    if found.verdict.state == "pass" and stands and not found.first("line", "way_up", "trichinella", "pathogen"):
        return say("bench.heat.cooked_then_too_long_in_the", core=core)
    slow = found.first("way_up")
    if slow is not None and slow.verdict.state == "fail" and (slow.verdict.value or 0.0) > ALLOWED_UP_S:
        return say("bench.heat.too_long_in_the_growth_zone", core=core)
    if found.verdict.state == "pass" and found.first("line", "pathogen", "trichinella"):
        line_ = found.first("line", "pathogen", "trichinella")
        assert line_ is not None  # noqa: S101 (just asked)
        return say("bench.heat.not_by_is_its_line", upper=question.rule_set.upper(), core=core, title=line_.limit.title)
    if found.state == "too_close":
        return say("bench.heat.too_close_to_call", core=core)
    return say(
        "bench.heat.will_not_meet_it",
        core=core,
        more="." if needed is None else say("bench.heat.and_it_needs", lasting=lasting(needed)),
    )


def fixes_of(question: HeatQuestion, found: Found, would: Inverses, heating: Heating) -> tuple[str, ...]:
    """What a cook can do, the likeliest first: longer; then thinner; never another dish unasked."""
    if found.state == "would_meet":
        return ()
    said: list[str] = []
    cooked = found.verdict.state == "pass" and not found.first("line", "pathogen", "trichinella")
    if not cooked:
        longer = _longer(question, would)
        if longer:
            said.append(longer)
        elif would.needed_s is None:
            lines = lines_of(question.rule_set, animal_of(question), piece_asked(question), question.approved)
            said.append(say("bench.heat.no_time_at_this_temperature_meets"))
            said += [cook_fix(lines[0].limit)] if lines else []
        thin = _thinner(question, would)
        said += [thin] if thin else []
    slow = found.first("way_up")
    if slow is not None and (slow.verdict.value or 0.0) > ALLOWED_UP_S:
        said.append(say("bench.heat.thinner_pieces_or_a_start_from"))
    if found.first("way_down", "growth"):
        said += _fall_fixes()
    return tuple(said)


def _longer(question: HeatQuestion, would: Inverses) -> str | None:
    """The time that passes by the same judgement, not merely by its target."""
    if would.needed_s is None:
        return None
    first = float(np.ceil(would.needed_s / 60) * 60)
    for wanted in (first, first + 60.0, first + 120.0):  # a loaded bath's course is told to half a minute
        if not question.duration_s < wanted <= LONGEST_S or question.later:
            continue
        if passes_all(question.model_copy(update={"duration_s": wanted})):
            return say("bench.heat.leave_it_in_for", wanted=duration(wanted))
    return None


def _thinner(question: HeatQuestion, would: Inverses) -> str | None:
    if would.thickest_m is None or question.shape not in ("slab", "cylinder", "sphere"):
        return None
    thick = float(np.floor(would.thickest_m * 1000)) / 1000
    if not LEAST_CUT * question.thickness_m <= thick < question.thickness_m:
        return None  # another dish, or no change
    asked = question.model_copy(update={"thickness_m": thick})
    return say("bench.heat.or_cut_it_to", thick=mm(1000 * thick, ".0f")) if passes_all(asked) else None


def _fall_fixes() -> list[str]:
    return [
        say("bench.heat.take_it_out_while_it_is"),
        say("bench.heat.or_keep_it_hot_until_it"),
    ]


def course_fixes(question: HeatQuestion, found: Found) -> tuple[str, ...]:
    """For a programme that changes: what stands in the way decides what is said."""
    if found.state == "would_meet":
        return ()
    said: list[str] = []
    if found.first("way_up") and question.programme != "steady":
        said.append(say("bench.heat.bring_it_to_temperature_first_hot"))
    if found.first("way_up") and question.medium == "still_fat":
        said.append(say("bench.heat.start_in_fat_that_is_already"))
    if found.verdict.state != "pass" or found.first("line", "pathogen", "trichinella"):
        lines = lines_of(question.rule_set, animal_of(question), piece_asked(question), question.approved)
        limit = lines[0].limit if lines and found.first("line") else found.limit
        said.append(cook_fix(limit))
    if found.first("way_down", "growth"):
        said += _fall_fixes()
    said.append(say("bench.heat.log_the_core_of_the_thickest"))
    return tuple(said)
