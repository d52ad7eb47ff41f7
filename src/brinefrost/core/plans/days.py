"""Days of food that is ready to eat: they run on through every cold room and every pair of hands."""

from collections.abc import Callable

from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.once import once
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.acts import Act

DAY_S = 86400.0
LEAST_CURE_S = 12 * 3600.0  # what was salted, smoked or soured for less is no cure; common practice, no source
CURES: frozenset[Act] = frozenset({"salts", "smokes", "dries", "acidifies"})
NOT_COUNTED: frozenset[Act] = frozenset(
    {"heats", "cools", "holds", "freezes", "stores_frozen"}
)  # have limits of their own, or rest

Spans = Callable[[Step], tuple[float, float] | None]  # when a step began and ended [s]; None for one that did not run


def is_store(step: Step) -> bool:
    """Whether food is only stored cold here, by days: not frozen, salted, smoked or dried meanwhile."""
    return "stores" in kind_of(step).acts(step)


def days_before(plan: Plan, step: Step, span_of: Spans) -> float:
    """Days [d] that had run of ready-to-eat food when it came into a cold store.

    They begin with its first cook; else with the end of its last cure before a store; else with the first store it was
    in. Each store, handling and wait after that counts; heating, chilling and hot holding answer to limits of their
    own, and time in the freezer rests. 0 where the store is the first. Valid for steps in order. FDA Food Code 2022,
    3-501.17(A) to (C); frozen time off elsewhere by common practice, as the Bench's page on dates has it.
    """
    earlier = list(plan.steps[: [each.id for each in plan.steps].index(step.id)])
    began = _ready_after(earlier, span_of)
    if began is None:
        return 0.0
    here = span_of(step)
    spans = [(each, span) for each in earlier if (span := span_of(each)) is not None and span[0] >= began - 1e-6]
    if not any(is_store(each) for each, _ in spans):
        return 0.0
    begun = min(span[0] for each, span in spans if is_store(each))
    ended = here[0] if here else max(span[1] for _, span in spans)
    rests = sum(
        max(min(span[1], ended) - max(span[0], begun), 0.0)
        for each, span in spans
        if kind_of(each).acts(each) & NOT_COUNTED
    )
    return max(ended - begun - rests, 0.0) / DAY_S


def _ready_after(earlier: list[Step], span_of: Spans) -> float | None:
    """From when on stores count [s]; None where no store came before."""
    ran = [(each, span) for each in earlier if (span := span_of(each)) is not None]
    cooked = next((span[1] for each, span in ran if "cooks" in words_of(each)), None)
    if cooked is not None:
        return cooked
    cured = [span[1] for each, span in ran if kind_of(each).acts(each) & CURES and span[1] - span[0] >= LEAST_CURE_S]
    stores = [span[0] for each, span in ran if is_store(each)]
    return cured[-1] if cured else min(stores, default=None)


def planned_spans(plan: Plan) -> Spans:
    """When each step runs by the plan's own lengths [s], one behind the other. Valid for every plan."""
    found, cursor = dict[str, tuple[float, float]](), 0.0
    for step in plan.steps:
        length = kind_of(step).length_s(step)
        found[step.id] = (cursor, cursor + length)
        cursor += length
    return lambda step: found[step.id]


def kept_in_all(plan: Plan, step: Step) -> float:
    """Days [d] that food is kept cold in all once it is ready, from this step on; a store before its cook counts by
    itself. Valid for every step of a plan without lines."""
    place = [each.id for each in plan.steps].index(step.id)
    if is_store(step) and any("cooks" in words_of(each) for each in plan.steps[place:]):
        return kind_of(step).length_s(step) / DAY_S
    return max((_days_by_end(plan)[each.id] for each in plan.steps[place:] if is_store(each)), default=0.0)


@once
def _days_by_end(plan: Plan) -> dict[str, float]:
    """By store: days [d] that have run by its end."""
    spans = planned_spans(plan)
    stores = [each for each in plan.steps if is_store(each)]
    return {each.id: days_before(plan, each, spans) + kind_of(each).length_s(each) / DAY_S for each in stores}


def with_days_before(step: Step, limit: Limit, law: tuple[Limit, ...], before: float) -> Limit:
    """A limit of days as it is for food that was kept for some days before [d]: the rule set's days are for all of it.

    The kitchen's own fewer days are for this store alone, and never stretch the rule set's. ``law`` is what the rule
    set asks of the step. Valid for every limit; others stay as they are.
    """
    if before <= 0 or not isinstance(limit, Threshold) or limit.quantity != "age" or not is_store(step):
        return limit
    days, own = next((each for each in law if each.quantity == "age"), None), limit.value + before
    if not isinstance(days, Threshold) or days.value <= limit.value:
        return limit
    if days.value <= own:
        return limit.model_copy(update={"value": days.value, "title": days.title, "source": days.source})
    return limit.model_copy(update={"value": own})
