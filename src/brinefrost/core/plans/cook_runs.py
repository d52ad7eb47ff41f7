"""A cook is a run of heats: sear and oven, brown and braise, blanch and fry are one cook, asked of the whole run."""

from itertools import pairwise

from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.once import once
from brinefrost.core.plans.parts import own_entries_of, tags_from
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.acts import COLD, LOOSE

TO_BE_COOKED = frozenset({*ANIMALS, "plant", "starch", "raw", "unknown"})
MOST_BEGUN_S = 3600.0  # a cook that is only begun: Food Code 2022, 3-401.14(A)
MOST_PAUSE_S = 3600.0  # longer between two heats, and they are two cooks; common practice, no source


def is_cook(step: Step) -> bool:
    """Whether it heats what was not cooked before."""
    acts = kind_of(step).acts(step)
    return "heats" in acts and "reheats" not in acts


@once
def cook_runs(plan: Plan) -> dict[str, tuple[str, ...]]:
    """By cooking step: the steps of its run, the heats and what lies between them, in order.

    A run goes on over pauses of an hour at most, and ends where food is chilled, frozen or kept. Valid for every plan.
    Food Code 2022, 3-401.14, for what is cooked in part and goes into the cold: it is no run.
    """
    found: dict[str, tuple[str, ...]] = {}
    run: list[Step] = []
    between: list[Step] = []
    for step in plan.steps:
        acts = kind_of(step).acts(step)
        if is_cook(step):
            run = [*run, *between, step] if run else [step]
            between = []
            ids = tuple(each.id for each in run)
            found |= {each.id: ids for each in run if is_cook(each)}
        elif run and not acts & (COLD | {"keeps", "reheats", "holds"}):
            between.append(step)
            if sum(kind_of(each).length_s(each) for each in between) > MOST_PAUSE_S:
                run, between = [], []
        else:
            run, between = [], []
    return found


@once
def late_parts(plan: Plan) -> tuple[int, ...]:
    """The places behind the first step at which something goes in that is to be cooked, in order.

    What comes in ready to eat, bought dairy, fat, herbs and spices are none of it. Valid for every plan.
    """
    return tuple(
        at
        for at, part in own_entries_of(plan).items()
        if at and tags_from(part, plan.rule_set, bought_cooked=False) & TO_BE_COOKED
    )


@once
def cold_parts(plan: Plan) -> frozenset[str]:
    """The heats that something comes to cold that no heat before had: what goes in later is not as hot as the pot.

    Valid for every plan.
    """
    heats = [i for i, step in enumerate(plan.steps) if is_cook(step)]
    first = [next((i for i in heats if i >= at), None) for at in late_parts(plan)]
    return frozenset(plan.steps[i].id for i in first if i is not None and i != heats[0])


@once
def part_cooks(plan: Plan) -> frozenset[str]:
    """The heats of runs that only begin a cook: an hour at most, cooled at once, and cooked by a later run.

    Nothing of such a run is added: the later one meets the whole line. Valid for every plan. Food Code 2022, 3-401.14:
    heated for 60 min at most, cooled as cooked food is, kept cold, then cooked through, by a written procedure.
    """
    order = [step.id for step in plan.steps]
    runs = list(dict.fromkeys(cook_runs(plan).values()))
    found = set[str]()
    for run, later in pairwise(runs):
        heated = sum(kind_of(plan.step(each)).length_s(plan.step(each)) for each in run)
        behind = plan.steps[order.index(run[-1]) + 1 : order.index(later[0])]
        acts = [kind_of(step).acts(step) for step in behind]
        served = any("serves" in each for each in acts)
        cooled = next((each for each in acts if not each <= LOOSE), frozenset())
        if heated <= MOST_BEGUN_S and cooled & COLD and not served:
            found.update(run)
    return frozenset(found)


def goes_on(plan: Plan, step_id: str) -> bool:
    """Whether another heat of the same cook follows, or a later run cooks what this one only begins: the line is asked
    there."""
    run = cook_runs(plan).get(step_id, ())
    return bool(run) and (run[-1] != step_id or step_id in part_cooks(plan))


def counts_from(plan: Plan, step_id: str) -> tuple[str, ...]:
    """The steps whose heat counts for the cook that ends with this one: from the last entry within the run on.

    What goes in at a later heat of the run was in no earlier one. Empty where the step is no cook. Valid for every
    step.
    """
    run = cook_runs(plan).get(step_id, ())
    order = {step.id: i for i, step in enumerate(plan.steps)}
    last = max((at for at in late_parts(plan) if at <= order[step_id]), default=0)
    return tuple(each for each in run if order[each] >= last and order[each] <= order[step_id])
