"""Cooling: will it make both marks, how deep may it be, what ice and what chiller it takes."""

import numpy as np

from brinefrost.core.bench.answer import (
    BenchAnswer,
    SchoolAnswer,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.chill_fall import (
    AMBIENT_C,
    HORIZON_S,
    chiller_w,
    core_in,
    first_load_w,
)
from brinefrost.core.bench.chill_judged import deepest_m, is_small, judged, meets, robust, rule_of, series_of
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.chill_shown import figures_of, map_of, pans_of, picture_of, working_of
from brinefrost.core.food.media import ThermalValues, check_medium, food, medium
from brinefrost.core.limits import Cooling, Series
from brinefrost.core.physics.body import Array
from brinefrost.core.roots import changeover
from brinefrost.core.rules import RULE_SET_IDS, targets_for
from brinefrost.core.words import joined, kg, legal, mm, num, say, temp

MEATS = ("red_meat", "poultry", "stew", "fat_meat")
LEAST_CUT = 0.5


def answer_chill(question: ChillQuestion) -> BenchAnswer:
    """Compute the cooling curve and judge it by every rule set.

    Verdict on the rule set's marks, the deepest pan that passes, ice, chiller load, estimated growth of *C.
    perfringens*. Raises OutOfRangeError if a number lies outside the range of a model. Valid for food that does not
    freeze. Unstirred food cools as a slab from both faces, or from one when it stands on something that does not cool
    it; a deep pot also cools through its side, which is left out, on the slow side, unless it is stirred. Carslaw &
    Jaeger (1959); Newton's law of cooling; each limit carries its own.
    """
    check_medium(question.medium, question.surroundings_c, 0.0)
    kind = food(question.food)
    times = np.concatenate(([0.0], np.geomspace(30.0, HORIZON_S, 500)))
    core = core_in(question, kind, question.depth_m, times)
    limit = rule_of(question.rule_set, question)
    series = series_of(question, limit, times, core)
    verdict = judged(limit, series)
    unsaid = _unsaid(question, limit)
    growth = targets_for("grow.perfringens")[0].limit.evaluate(series, HORIZON_S)
    grows = question.uncured == "yes" and growth.state == "fail" and question.food in MEATS
    deepest = deepest_m(question, kind, limit, times)
    met = verdict.state == "pass"
    return BenchAnswer(
        state=worst_of(
            [planned(verdict.state), "would_fail" if grows else "would_meet", "ask" if unsaid else "would_meet"]
        ),
        sentence=say("bench.chill.unsaid_sentence", unsaid=unsaid, sentence=verdict.sentence)
        if met and not grows
        else say("bench.chill.will_not_make_it", more=growth.sentence if met else verdict.sentence),
        reason=joined(
            (
                part
                for part in (growth.sentence if question.uncured == "yes" else "", _load_words(question, kind))
                if part
            ),
            " ",
        ),
        fixes=() if met else _fixes(question, kind, limit, deepest, times),
        figures=figures_of(question, kind, limit, series, deepest),
        pictures=(picture_of(question, limit, times, core), map_of(question, kind, limit, times, core)),
        tables=(pans_of(question, kind, limit, times), *robust(question, kind, limit)),
        schools=tuple(_schools(series, question)),
        workings=(working_of(question, kind, core, times), verdict.working, growth.working),
        caution=say("bench.chill.the_warmest_part_decides_the_middle"),
    )


def _unsaid(question: ChillQuestion, limit: Cooling) -> str:
    """What to ask about food that is below the hot line already: its clock runs since it left it."""
    if question.waited_s is not None or not AMBIENT_C < question.start_c < limit.from_c:
        return ""
    return say(
        "bench.chill.at_it_is_below_already_and", start=temp(question.start_c, "g"), from_=legal(limit.from_c, "g")
    )


def _load_words(question: ChillQuestion, kind: ThermalValues) -> str:
    power, most = chiller_w(question), first_load_w(question, kind)
    if not np.isfinite(power) or most <= power:
        return ""
    whose = (
        say("bench.chill.as_entered")
        if question.chiller_w is not None
        else say("bench.chill.taken_as_usual_for_its_kind")
    )
    return say(
        "bench.chill.at_first_it_gives_off_kw",
        most=num(most / 1000, ".1f"),
        power=num(power / 1000, ".1f"),
        whose=whose,
    )


def _fixes(
    question: ChillQuestion, kind: ThermalValues, limit: Cooling, deepest: float | None, times: Array
) -> tuple[str, ...]:
    """What passes by the same judgement, the likeliest first."""
    said = []
    if question.covered and meets(question.model_copy(update={"covered": False}), kind, limit, question.depth_m, times):
        said.append(say("bench.chill.take_the_cover_off_until_it"))
    if chiller_w(question) < first_load_w(question, kind):
        most = changeover(
            lambda kg: meets(question.model_copy(update={"mass_kg": kg}), kind, limit, question.depth_m, times),
            question.mass_kg,
            max(0.2, question.mass_kg / 50),
            max(0.1, question.mass_kg / 200),
        )
        if most is not None and most < question.mass_kg:
            said.append(say("bench.chill.chill_at_most_at_once_in", most=kg(most, ".0f")))
    where = medium(question.medium).name
    if (deepest and deepest >= LEAST_CUT * question.depth_m) or (
        question.shape == "pan" and deepest and not is_small(question)
    ):
        said.append(say("bench.chill.in_this_it_would_have_to", where=where, floor=mm(np.floor(deepest * 1000), ".0f")))
    pans = question.model_copy(
        update={"medium": "blast", "surroundings_c": 0.0, "stirred": False, "covered": False, "both_sides": True}
    )
    if question.medium not in ("slurry", "blast") and meets(pans, kind, limit, min(question.depth_m, 0.05), times):
        said.append(say("bench.chill.in_a_blast_chiller_deep_or"))
    if not said:
        said.append(say("bench.chill.smaller_pieces_or_portions_half_the"))
    said.append(say("bench.chill.do_not_stack_do_not_cover"))
    return tuple(said)


def _schools(series: Series, question: ChillQuestion) -> list[SchoolAnswer]:
    uncured = question.uncured == "yes"
    found = []
    for set_id in RULE_SET_IDS:
        limit = rule_of(set_id, question)
        found.append(school(set_id.upper(), limit, judged(limit, series)))
    if question.start_c <= AMBIENT_C:
        return found
    for entry in targets_for("cool.appendix_b"):
        if (entry.school == "cured") != uncured:
            verdict = entry.limit.evaluate(series, HORIZON_S)
            if isinstance(entry.limit, Cooling):
                verdict = judged(entry.limit, series)
            found.append(school(say("bench.chill.fsis_school", school=entry.school), entry.limit, verdict))
    return found
