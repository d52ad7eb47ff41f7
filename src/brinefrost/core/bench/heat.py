"""Heat to the middle: will the core get there, how long, how thick, how hot, and how surely."""

from collections.abc import Iterator

import numpy as np

from brinefrost.core.bench.answer import (
    BenchAnswer,
    SchoolAnswer,
    school,
    worst_of,
)
from brinefrost.core.bench.heat_judged import Found, Inverses, food_asked, judged, loaded, stages_asked
from brinefrost.core.bench.heat_question import HeatQuestion, animal_of, piece_asked
from brinefrost.core.bench.heat_shown import as_steady, figures_of, pictures_of, robust, working_of
from brinefrost.core.bench.heat_words import MEASURED, WHOLE_CUTS, course_fixes, fixes_of, reason_of, sentence_of
from brinefrost.core.bench.slips import warm_raw
from brinefrost.core.food.media import body_of, check_medium, medium
from brinefrost.core.inverse import Way, coolest_c, met_s, steadily, thickest_m
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.kitchen.lines import lines_of
from brinefrost.core.limits import Series
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.heat import HeatCurve, heat_through
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.horizon import left_in_bath
from brinefrost.core.physics.reservoir import Reservoir
from brinefrost.core.rules import RULE_SET_IDS, targets_for
from brinefrost.core.words import say


def answer_heat(question: HeatQuestion) -> BenchAnswer:
    """Compute the core curve and judge it: the target, the rule set's own line, the way up and the way down.

    The worst of: the target, the chosen rule set's line for this food in its state, the come-up, and, where the curve
    falls from hot, its cooling rule and the growth of *C. perfringens*; time to the target, thickest piece and coolest
    surroundings that pass, a map over both, the chance of failing, other schools, working. Raises OutOfRangeError if a
    number lies outside the range of a model, or water is hotter than it boils at the kitchen's height. Valid as
    ``heat_through``: no freezing, no crust; a planning estimate on the slow side. Carslaw & Jaeger
    (1959); each limit carries its own.
    """
    _check(question)
    kind = food_asked(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    h = medium(question.medium).h_w_m2k
    curve = heat_through(body, stages_asked(question), question.start_c, step_s=max(question.duration_s / 240, 15.0))
    heating = Heating(body, h, question.start_c, question.surroundings_c, boiling_c(question.altitude_m))
    series = Series.computed(curve.times_s, curve.core_c)
    found = judged(question, series)
    steady = question.programme == "steady" and not question.recorded and question.surroundings_c > question.start_c
    would = _inverses(question, heating, found) if steady else Inverses()
    at_end = float(np.interp(question.duration_s, curve.times_s, curve.core_c))
    slip = warm_raw(question.start_c) if animal_of(question) != "plant" else ""
    return BenchAnswer(
        state=worst_of([found.state, "ask"]) if slip else found.state,
        sentence=say(
            "bench.heat.slip_sentence", slip=slip, sentence=sentence_of(question, found, at_end, would.needed_s)
        ),
        reason=reason_of(found, series),
        fixes=fixes_of(question, found, would, heating) if steady else course_fixes(question, found),
        figures=figures_of(question, found.limit, would, at_end, steady, curve),
        pictures=pictures_of(question, curve, heating, found.killing(), would, steady),
        tables=robust(question, as_steady(question, heating, curve), found.killing()) if steady else (),
        schools=tuple(_schools(question, series)),
        workings=(
            working_of(question, body.biot(h), at_end),
            found.verdict.working,
            *(each.verdict.working for each in found.judged if each.limit.id != found.limit.id),
        ),
        caution=WHOLE_CUTS if question.target.startswith("salmonella_meat") else MEASURED,
        advisory=advisory(question.rule_set) if found.state == "advisory" else "",
    )


def _check(question: HeatQuestion) -> None:
    check_medium(question.medium, question.surroundings_c, question.altitude_m)
    if question.programme != "steady":
        check_medium(question.medium, question.final_c, question.altitude_m)
    for stage in question.later:
        check_medium(stage.medium, stage.temperature_c, question.altitude_m)


def _inverses(question: HeatQuestion, heating: Heating, found: Found) -> Inverses:
    """What would meet the target and the rule set's line in these surroundings, by each of the three ways."""
    limits, way = found.killing(), _left_in(question)
    return Inverses(
        met_s(limits, way(heating)),
        thickest_m(limits, heating, question.duration_s, way),
        coolest_c(limits, heating, question.duration_s, way),
    )


def _left_in(question: HeatQuestion) -> Way:
    """A piece left where the question puts it: a loaded bath dips first, as it does in a plan."""
    if not loaded(question):
        return steadily
    density = food_asked(question).density_kg_m3

    def in_bath(heating: Heating) -> HeatCurve:
        bath = Reservoir(question.water_kg, heating.surroundings_c, heating.surroundings_c, question.heater_w)
        return left_in_bath(heating.body, heating.start_c, bath, question.load_kg, density, heating.h_w_m2k)

    return in_bath


def _schools(question: HeatQuestion, series: Series) -> Iterator[SchoolAnswer]:
    end = float(series.times_s[-1])
    for set_id in RULE_SET_IDS:
        for entry in lines_of(set_id, animal_of(question), piece_asked(question)):
            told = school(set_id.upper(), entry.limit, entry.limit.evaluate(series, end))
            yield told.model_copy(
                update={
                    "sentence": say("bench.heat.sentence_approval", sentence=told.sentence, approval=entry.approval)
                }
            )
    if question.target.startswith("botulinum"):
        for entry in targets_for("heat.botulinum"):
            yield school(entry.school, entry.limit, entry.limit.evaluate(series, end))
