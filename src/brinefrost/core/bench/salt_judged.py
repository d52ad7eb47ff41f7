"""What is said of a brine or a cure: too warm, too long for raw flesh, seasoned, salted through, preserved."""

from typing import NamedTuple

import numpy as np

from brinefrost.core.bench.answer import AnswerState, planned
from brinefrost.core.bench.salt_clock import CURE_DAYS, raw_clock
from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.chemistry.diffusion import Piece, across, diffusivity_m2_s
from brinefrost.core.limits import Composition, Limit, Measured, Series, Threshold, Verdict
from brinefrost.core.physics.body import Shape
from brinefrost.core.rules import target
from brinefrost.core.words import duration, legal, mm, num, percent, say, temp

LEAST_CUT = 0.5
EVEN = 0.9  # nine tenths of the final strength in the middle counts as through


class Said(NamedTuple):
    """A verdict, its sentence and what would mend it."""

    state: AnswerState
    sentence: str
    fixes: tuple[str, ...] = ()


def piece_of(question: SaltQuestion) -> Piece:
    """The piece, taking up salt at the temperature it is kept at."""
    return Piece(Shape[question.shape], question.thickness_m, diffusivity_m2_s("salt_meat", question.kept_c))


def front_m(question: SaltQuestion, piece: Piece) -> float:
    """How deep half the final strength has come [m]; 0 where not even the surface has it.

    Valid as ``across``. Crank (1975).
    """
    places = np.linspace(0, 1, 401)
    salted = across(piece, question.duration_s, places) >= 0.5
    return float((1 - places[salted][0]) * piece.thickness_m / 2) if salted.any() else 0.0


def judged(question: SaltQuestion, reached: float, needed: float, phase: float) -> Said:
    """What stands in the way first: warmth, the clock of raw flesh, then what it is salted for."""
    warm = _too_warm(question)
    if warm is not None:
        return warm
    clock, verdict, within_s = raw_clock(question, phase)
    if verdict.state not in ("pass", "pending"):
        return _too_long(question, clock, verdict, within_s)
    return _for_its_purpose(question, (reached, needed), phase, within_s)


def _too_warm(question: SaltQuestion) -> Said | None:
    """Flesh is salted cold, in cold brine."""
    cold = target("salting-cold", Threshold)
    brine = cold.evaluate(Series.of(question.brine_in_c, basis="computed"), 0.0)
    if question.way == "brine" and brine.state != "pass":
        return Said(
            planned(brine.state),
            say("bench.salt.brine_at_over_cold_meat_warms", brine_in=temp(question.brine_in_c, "g")),
            (say("bench.salt.cool_the_brine_to_or_below", value=legal(cold.value, "g")),),
        )
    kept = cold.evaluate(Series.of(question.kept_c, basis="computed"), 0.0)
    if kept.state == "pass":
        return None
    return Said(
        planned(kept.state),
        say("bench.salt.kept_at_flesh_is_salted_at", kept=temp(question.kept_c, "g"), value=legal(cold.value, "g")),
        (say("bench.salt.keep_it_at_or_below", value=legal(cold.value, "g")),),
    )


def _too_long(question: SaltQuestion, clock: Limit, verdict: Verdict, within_s: float) -> Said:
    spent, kept = duration(question.duration_s), temp(question.kept_c, "g")
    why = say("bench.fish.title_sentence", title=clock.title, sentence=verdict.sentence)
    if clock.id == CURE_DAYS:
        too_long = say("bench.salt.is_too_long_for_a_cure", spent=spent, kept=kept, why=why)
        then = say("bench.salt.then_it_is_dried")
    else:
        too_long = say("bench.salt.is_too_long_for_raw_flesh", spent=spent, kept=kept, why=why)
        then = say("bench.salt.to_keep_it_longer_it_needs")
    return Said("would_fail", too_long, (say("bench.salt.take_it_out_within", within=duration(within_s)), then))


def _for_its_purpose(question: SaltQuestion, middle: tuple[float, float], phase: float, within_s: float) -> Said:
    reached, needed = middle
    if question.purpose == "season":
        depth, within = mm(1000 * front_m(question, piece_of(question)), ".0f"), duration(within_s)
        return Said("would_meet", say("bench.salt.seasoning_only_half_its_final_salt", depth=depth, within=within))
    share = say("bench.salt.less_than_1") if reached < 0.01 else percent(100 * reached)
    through = say("bench.salt.after_the_middle_has_of_its", duration=duration(question.duration_s), share=share)
    if reached < EVEN:
        needs = say("bench.salt.it_needs", through=through, needed=duration(needed))
        return Said("would_fail", needs, _through_fixes(question, needed, within_s))
    if question.purpose == "cure":
        cold = say("bench.salt.salted_through_within_of_its_cold", through=through, within=duration(within_s))
        return Said("would_meet", cold)
    return _judge_preserved(question, through, phase)


def _judge_preserved(question: SaltQuestion, through: str, phase: float) -> Said:
    """Salt that preserves does so by its analysis: by computation at most asked for."""
    packed = target("wps-packed-fish", Composition)
    salt = Measured(value=min(phase, 40.0), uncertainty=0.1)
    verdict = packed.judge({"salt": salt, "nitrite": Measured(value=question.nitrite_ppm)}, "computed")
    if verdict.state == "pass":
        state: AnswerState = "ask"
        said = say("bench.salt.preserved_only_once_an_analysis_shows")
        fix = say("bench.salt.have_the_water_phase_salt_of")
    else:
        state, said = "would_fail", say("bench.salt.not_enough_to_preserve")
        fix = say("bench.salt.it_needs_in_the_thickest_part", words=packed.ways[0].words())
    return Said(state, say("bench.salt.in_its_water", through=through, phase=num(phase, ".1f"), said=said), (fix,))


def _through_fixes(question: SaltQuestion, needed: float, within_s: float) -> tuple[str, ...]:
    """What salts it through before its own clock is full; where nothing does, that is said."""
    said = []
    if needed <= within_s:
        said.append(say("bench.salt.leave_it", needed=duration(needed)))
    time_s = min(question.duration_s, within_s)
    thin = question.thickness_m * (time_s / needed) ** 0.5
    if thin >= LEAST_CUT * question.thickness_m:
        floor = mm(np.floor(1000 * thin), ".0f")
        said.append(say("bench.salt.or_cut_it_to_for", floor=floor, duration=duration(time_s)))
    if not said:
        said.append(say("bench.salt.not_by_this_brine_in_the"))
    return (*said, say("bench.salt.half_the_thickness_needs_a_quarter"))
