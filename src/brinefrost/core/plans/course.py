"""A plan's steps in order, over one temperature field: what each step makes of the food that comes to it.

The steps speak for themselves: no kind of step is named here.
"""

from collections.abc import Callable

import numpy as np

from brinefrost.core.limits import Series
from brinefrost.core.plans.contexts import at, body_in, context_of, portion_of, provable
from brinefrost.core.plans.cook_runs import cold_parts, counts_from
from brinefrost.core.plans.days import days_before, is_store, planned_spans
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import ways_of
from brinefrost.core.plans.once import once
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.acts import COLD, HOT, LOOSE, RIPENS
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.state import FRIDGE_C, Course

UNSOURED_PH = 6.5  # of food that nobody soured; on the fast side
DRY_AW = 0.75  # of flour, nuts, sugar, spices and dried fruit as bought, at the most; common practice, no source
UNHELD: dict[Quantity, float] = {"ph": UNSOURED_PH, "aw": 0.99}  # and that nobody dried


def last_left_s(steps: tuple[Step, ...], step_id: str, ended: Callable[[str], float | None]) -> float | None:
    """When food last left its heat before a step, or the cold once it had been chilled, or where something grew in it
    that was meant to [s]; None where it had none of them.

    ``ended`` says when a step was over [s], None while it was not. Valid for every step.
    """
    left: float | None = None
    chilled = False
    for step in steps:
        if step.id == step_id:
            break
        acts, end = kind_of(step).acts(step), ended(step.id)
        if acts & HOT and end is not None:
            left, chilled = end, False
        elif acts & (COLD | RIPENS) and end is not None:
            left, chilled = end, True
        elif "keeps" in acts and chilled:
            left = end
    return left


def simulate(plan: Plan, context: Context | None = None) -> Course:
    """Carry the food through every step.

    The curve [°C] against time [s], from and to when each step ran on it, and what else changed. Raises
    OutOfRangeError if a parameter lies outside the models' ranges; PlanIncompleteError if there is a piece to be
    heated or cooled and no ingredient has known thermal values. Valid for flat, round and spherical pieces in one
    layer. A step that makes other pieces of it begins with their mean temperature, exact for what is mixed, a planning
    value for what is cut. Steps without heat take no time.
    """
    around = context or context_of(plan)
    portion = portion_of(plan)
    found = Course(body_in(around), _comes_in_c(plan, around), pack_kg=portion[0] if portion else None)
    _carry(found, plan, plan.steps, around)
    spans = planned_spans(plan)
    found.days_before = {step.id: days_before(plan, step, spans) for step in plan.steps if is_store(step)}
    return found


def _comes_in_c(plan: Plan, context: Context) -> float:
    """How warm the food comes in [°C]: as its first heat has it; as the goods are, where none is before it is chilled;
    else the fridge."""
    if context.food.piece is None:
        return FRIDGE_C
    place = next(n for n, step in enumerate(plan.steps) if kind_of(step).piece(step) is not None)
    before = plan.steps[:place]
    is_cold = "cools" in kind_of(plan.steps[place]).acts(plan.steps[place])
    if not is_cold or any("heats" in kind_of(step).acts(step) for step in before):
        return context.food.piece.start_c
    received = kind_of(plan.steps[0]).around_c(plan.steps[0])
    return FRIDGE_C if received is None else received


def simulate_from(plan: Plan, step_id: str, core_c: float) -> Course:
    """Carry the food on from the beginning of a step, where all of it is as warm as its core was last read [°C].

    As ``walk``, for that step and those behind it. An estimate: a piece is not as warm throughout as its core.
    """
    around = context_of(plan)
    steps = plan.steps[[step.id for step in plan.steps].index(step_id) :]
    found = Course(body_in(at(around, plan, steps[0])), core_c)
    _carry(found, plan, steps, around)
    return found


def _carry(found: Course, plan: Plan, steps: tuple[Step, ...], around: Context) -> None:
    """The food through some steps, in order."""
    for step in steps:
        here, begun = at(around, plan, step), found.now_s
        if here.food.piece is not None and kind_of(step).piece(step) is not None:
            found.cut(body_in(here), "handles" in kind_of(step).acts(step))
        left_s = last_left_s(steps, step.id, lambda key: found.spans[key][1])
        if left_s is not None:
            found.out_s[step.id] = left_s
        counted = counts_from(plan, step.id)
        if counted and counted[0] in found.spans:
            found.run_from_s[step.id] = found.spans[counted[0]][0]
        _begin_chill(found, step, steps)
        _lie(found, step, plan)
        piece = kind_of(step).piece(step)
        if step.id in cold_parts(plan) and piece is not None:
            found.set_even(piece.start_c)
            found.evened_c[found.now_s] = piece.start_c
        if here.food.came_diluted:
            _dilute(found, step)
        _bring_acid(found, step, here.food)
        _bring_dryness(found, step, here.food)
        kind_of(step).work(step, found, here)
        found.spans[step.id] = (begun, found.now_s)


def _begin_chill(found: Course, step: Step, steps: tuple[Step, ...]) -> None:
    """Since when what chills it runs: through every cold step since its heat."""
    if "cools" not in kind_of(step).acts(step):
        return
    hot = [found.spans[each.id][1] for each in steps if each.id in found.spans and kind_of(each).acts(each) & HOT]
    earlier = [at for at in found.chilled_from_s.values() if not hot or at >= hot[-1]]
    found.chilled_from_s[step.id] = min([*earlier, found.now_s])


def _dilute(found: Course, step: Step) -> None:
    """What goes in later is as if nothing had soured, salted or dried it, until a step does that to all of it."""
    known = {what for _, what in found.other}
    for quantity, free in ((each, value) for each, value in UNHELD.items() if each in known):
        found.other[(step.id, quantity)] = Series.computed(np.zeros(1), np.full(1, free))
    found.by_nature = False


def _bring_acid(found: Course, step: Step, food: Food) -> None:
    """The pH of what is sour by nature, until a step changes it; what goes in later and is not, is as if none were."""
    sour = [key for key in found.other if key[1] == "ph"]
    if food.nature_ph is not None and not sour:
        found.other[(step.id, "ph")] = Series.computed(np.zeros(1), np.full(1, food.nature_ph))
        found.by_nature = True
    elif food.nature_ph is None and found.by_nature:
        found.other[(step.id, "ph")] = Series.computed(np.zeros(1), np.full(1, UNSOURED_PH))
        found.by_nature = False


def _bring_dryness(found: Course, step: Step, food: Food) -> None:
    """How dry it is as bought, while all of it is; what goes in later and is not, makes all of it wet."""
    is_dry = food.is_dry_as_bought
    known = [series for (_, what), series in found.other.items() if what == "aw"]
    if is_dry and not known:
        found.other[(step.id, "aw")] = Series.computed(np.zeros(1), np.full(1, DRY_AW))
        found.dry_by_nature = True
    elif not is_dry and found.dry_by_nature:
        found.other[(step.id, "aw")] = Series.computed(np.zeros(1), np.full(1, UNHELD["aw"]))
        found.dry_by_nature = False


def _lie(found: Course, step: Step, plan: Plan) -> None:
    """Since when nothing has kept the food hot or cold, as a step begins, and how warm it lay where."""
    kind, acts = kind_of(step), kind_of(step).acts(step)
    if not acts or acts - LOOSE:
        return
    place = [each.id for each in plan.steps].index(step.id)
    before = plan.steps[place - 1].id if place else ""
    held = kind_of(plan.steps[place - 1]).around_c(plan.steps[place - 1]) if place else None
    found.held_c[step.id] = found.held_c.get(before, FRIDGE_C if held is None else held)
    around = kind.around_c(step)
    here = () if around is None else ((around, kind.length_s(step)),)
    found.loose_from_s[step.id] = found.loose_from_s.get(before, found.now_s)
    found.loose_around[step.id] = (*found.loose_around.get(before, ()), *here)


@once
def simulated(plan: Plan) -> tuple[Context, Course]:
    """What the steps cannot know, and the walk with it; once for every plan.

    Valid as ``walk``. What it gives is for reading alone.
    """
    context = context_of(plan)
    return context, simulate(plan, context)


def questions_of(plan: Plan) -> tuple[Asked, ...]:
    """What this plan's steps would ask the Bench; nothing while it cannot be walked."""
    if provable(plan):
        return ()
    found: dict[str, list[Asked]] = {}
    for way in ways_of(plan):
        context, done = simulated(way)
        for step in way.steps:
            if step.id not in found:
                found[step.id] = kind_of(step).asked(step, done, at(context, way, step))
    return tuple(asked for each in found.values() for asked in each)
