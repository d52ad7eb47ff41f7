"""What is not known has two sides: a limit that is missed with slow surroundings and met with quick ones."""

from dataclasses import replace

from brinefrost.core.food.media import CHILLERS, media
from brinefrost.core.limits import Verdict
from brinefrost.core.plans.contexts import context_of
from brinefrost.core.plans.course import simulate
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.judged import judge_step
from brinefrost.core.plans.lines import ways_by_line
from brinefrost.core.steps import kind_of
from brinefrost.core.words import say


def met_on_the_quick_side(plan: Plan) -> frozenset[tuple[str, str]]:
    """The limits, by step and id, that every way meets where its surroundings give heat as quickly as such can.

    A plan is reckoned with the slow end of each band [W/m²K]; here what chills is at its quick end, or all are: either
    will do. Raises OutOfRangeError as ``simulate``. Valid for plans that can be
    simulated. The bands are those of the table of media.
    """
    found = frozenset[tuple[str, str]]()
    for only in (frozenset(CHILLERS), frozenset(each.key for each in media())):
        found |= _met_with({each.key: each.high for each in media() if each.key in only}, plan)
    return found


def _met_with(h_w_m2k: dict[str, float], plan: Plan) -> frozenset[tuple[str, str]]:
    met: set[tuple[str, str]] = set()
    missed: set[tuple[str, str]] = set()
    for way in ways_by_line(plan).values():
        done = simulate(way, replace(context_of(way), h_w_m2k=h_w_m2k))
        for step in way.steps:
            for judged in judge_step(way, step, done):
                passed = judged.verdict.state == "pass" and kind_of(step).follows_core(step, judged.limit)
                (met if passed else missed).add((step.id, judged.limit.id))
    return frozenset(met - missed)


def between(verdict: Verdict) -> Verdict:
    """A verdict that fails on the slow side and not on the quick one: nobody knows before it is measured.

    Valid for verdicts that fail.
    """
    said = say("plans.sides.between", said=verdict.sentence)
    return verdict.model_copy(
        update={"state": "too_close", "sentence": said, "advice": (say("plans.sides.measure_the_first_batch"),)}
    )
