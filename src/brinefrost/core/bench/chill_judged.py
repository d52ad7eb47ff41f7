"""How a chill is judged: by its rule set, with its load and its wait; what depth passes, and how surely."""

import numpy as np

from brinefrost.core.bench.answer import (
    Table,
    chance,
)
from brinefrost.core.bench.chill_fall import (
    AMBIENT_C,
    HORIZON_S,
    PORTION_KG,
    body_in,
    chiller_w,
    core_in,
)
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.food.media import LIGHT_KG, ThermalValues, medium
from brinefrost.core.kitchen.lines import rules_for
from brinefrost.core.limits import Cooling, Series, Verdict
from brinefrost.core.physics.body import Array, Shape
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.robustness import NO_LOAD, Spread, repeat_chill
from brinefrost.core.roots import changeover
from brinefrost.core.rules import RuleSetId
from brinefrost.core.words import percent, say


def rule_of(rule_set_id: RuleSetId, question: ChillQuestion) -> Cooling:
    """The cooling a food answers to by how warm it begins, cooked and hot or made at room temperature, and by how it is
    kept behind it.

    Valid for every question.
    """
    topic = "chill.ambient" if question.start_c <= AMBIENT_C else "chill.cooked"
    return rules_for(rule_set_id, "", general=question.kept_as == "few_days").limit_as(topic, Cooling)


def series_of(question: ChillQuestion, limit: Cooling, times_s: Array, core_c: Array) -> Series:
    """The curve to be judged: with the time since it left the hot line in front, where that is known."""
    waited = waited_s(question, limit)
    if waited:
        times_s, core_c = np.append(0.0, times_s + waited), np.append(max(limit.from_c, question.start_c), core_c)
    return Series.computed(times_s, core_c)


def waited_s(question: ChillQuestion, limit: Cooling) -> float | None:
    """How long its clock ran before it goes into the cold [s]; None where it starts there.

    Food made at room temperature has a past too: its limit counts from when it was made.
    """
    runs = limit.from_end_of_cooking or question.start_c < limit.from_c
    return question.waited_s if runs else None


def judged(limit: Cooling, series: Series) -> Verdict:
    """The whole curve; where it fails, as it stands when the first mark it misses is due."""
    missed = next((r for r in limit.results(series, HORIZON_S) if r.state == "fail"), None)
    if missed is None or missed.deadline_s is None:
        return limit.evaluate(series, HORIZON_S)
    due = missed.deadline_s + 1.0
    times = np.append(series.times_s[series.times_s < due], due)
    core = np.interp(times, series.times_s, series.values)
    return limit.evaluate(Series.computed(times, core), due + 1.0)


def robust(question: ChillQuestion, kind: ThermalValues, limit: Cooling) -> tuple[Table, ...]:
    """How often it misses a mark, if depth, start, air and probe vary."""
    if question.stirred or question.surroundings_c >= limit.stages[-1].to_c:
        return ()
    body = body_in(question, kind, question.depth_m)
    chilling = Heating(body, medium(question.medium).h_w_m2k, question.start_c, question.surroundings_c)
    spread = Spread(
        question.spread_thickness_m, question.spread_start_c, question.spread_bath_c, question.spread_probe_c
    )
    stages = tuple((stage.to_c, stage.within_s, stage.further) for stage in limit.stages)
    power, capacity = chiller_w(question), question.mass_kg * kind.heat_capacity_j_kgk
    light = question.mass_kg <= LIGHT_KG and question.chiller_w is None
    share, error, matters = repeat_chill(
        chilling,
        limit.from_c,
        stages,
        spread,
        waited_s=waited_s(question, limit),
        load=NO_LOAD if light else (capacity, power),
    )
    rows = [(say("bench.chill.chance_of_missing_a_mark"), *chance(share, error))]
    rows += [
        (say("bench.chill.share_of_the_spread_from", name=name), percent(100 * part), "") for name, part in matters
    ]
    return (Table(title=say("bench.chill.if_it_varies_10_000_times"), head=("", "", ""), rows=tuple(rows)),)


def meets(question: ChillQuestion, kind: ThermalValues, limit: Cooling, depth_m: float, times_s: Array) -> bool:
    series = series_of(question, limit, times_s, core_in(question, kind, depth_m, times_s))
    return limit.evaluate(series, HORIZON_S).state == "pass"


def deepest_m(question: ChillQuestion, kind: ThermalValues, limit: Cooling, times_s: Array) -> float | None:
    if question.stirred or body_in(question, kind, question.depth_m).shape is not Shape.slab:
        return None  # a portion or mould of one mass only grows narrower as it grows deeper
    return changeover(lambda d: meets(question, kind, limit, d, times_s), 0.4, 0.003, 5e-4)


def is_small(question: ChillQuestion) -> bool:
    return question.mass_kg / question.pans <= PORTION_KG
