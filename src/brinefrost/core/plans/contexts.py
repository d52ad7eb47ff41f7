"""What a step of a plan cannot know by itself: the rule set, who eats, what the food is there, how much there is."""

from dataclasses import replace

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.physics.body import Body
from brinefrost.core.plans.cook_runs import goes_on
from brinefrost.core.plans.days import is_store, kept_in_all
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.foods import food_at
from brinefrost.core.plans.lines import ways_of, ways_with
from brinefrost.core.plans.once import once
from brinefrost.core.plans.parts import tags_from, thermal_from
from brinefrost.core.rules import rule_set
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.acts import AT_ONCE_S
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.words import say

UNSAID_KG = 10.0  # what a kitchen makes at a time, where nobody says how much; common practice, no source


def portion_of(plan: Plan) -> tuple[float, int] | None:
    """What one pack holds [kg] and how many there are, where a step makes packs."""
    for step in plan.steps:
        mass = kind_of(step).portion_kg(step)
        if mass is not None:
            return mass, kind_of(step).packs(step) or 1
    return None


def piece_of(plan: Plan) -> Piece | None:
    """The piece the first step that has one is planned for."""
    return next((piece for step in plan.steps if (piece := kind_of(step).piece(step)) is not None), None)


def at(context: Context, plan: Plan, step: Step) -> Context:
    """The context as it is at a step: the food as it is by then, and what the plan does with it next.

    Valid for every step of the plan.
    """
    return _contexts(plan)[step.id] if context is context_of(plan) else _at(context, plan, step)


@once
def _contexts(plan: Plan) -> dict[str, Context]:
    """By step: its context, worked out once."""
    return {step.id: _at(context_of(plan), plan, step) for step in plan.steps}


def _at(context: Context, plan: Plan, step: Step) -> Context:
    ways = ways_with(plan, step.id)
    food = food_at(ways, step)
    if "cooks" in words_of(step):
        food = food.for_cook()
    whole = context.food
    return replace(
        context,
        food=food.entered(piece=food.piece or whole.piece, thermal=food.thermal or whole.thermal),
        cook_goes_on=goes_on(ways[0], step.id),
        kept_days=max(kept_in_all(way, step) for way in ways),
        kept_c=max(
            (_kept_c(way, step) for way in ways), default=None, key=lambda each: -99.0 if each is None else each
        ),
        served_next=_is_served_next(ways[0], step.id),
        cooked_later=all(
            _cooks_behind(way, step) and not any(item.eaten == "raw" for item in way.ingredients) for way in ways
        ),
    )


def _cooks_behind(way: Plan, step: Step) -> bool:
    """Whether a step behind this one cooks it."""
    place = [each.id for each in way.steps].index(step.id)
    return any("cooks" in words_of(each) for each in way.steps[place + 1 :])


def _kept_c(way: Plan, step: Step) -> float | None:
    """How warm the warmest store may be that it is in once it is cooked [°C]; None where it is in none."""
    if not is_store(step):
        return None
    cooks = [i for i, each in enumerate(way.steps) if "cooks" in words_of(each)]
    behind = way.steps[cooks[-1] if cooks else 0 :]
    stores = [around for each in behind if is_store(each) and (around := kind_of(each).around_c(each)) is not None]
    return max(stores, default=None)


def _is_served_next(way: Plan, step_id: str) -> bool:
    """Whether the step behind this one serves it at once."""
    place = [step.id for step in way.steps].index(step_id)
    behind = way.steps[place + 1 : place + 2]
    return any("serves" in kind_of(step).acts(step) and kind_of(step).length_s(step) <= AT_ONCE_S for step in behind)


def context_at(plan: Plan, step: Step) -> Context:
    """What a step of a plan cannot know by itself, as it is by then. Valid for every step of the plan."""
    return at(context_of(plan), plan, step)


@once
def context_of(plan: Plan) -> Context:
    """What the steps of a plan cannot know by themselves.

    Valid for every plan; a kitchen's batch where no step says how much there is.
    """
    portion = portion_of(plan)
    return Context(
        rule_set_id=plan.rule_set,
        guests=plan.guests,
        food=Food(
            known=tags_from(plan.ingredients, plan.rule_set),
            thermal=thermal_from(plan.ingredients),
            piece=piece_of(plan),
        ),
        food_kg=UNSAID_KG if portion is None else portion[0] * portion[1],
        approved=_by_approval(plan),
        altitude_m=plan.altitude_m or 0.0,
    )


def _by_approval(plan: Plan) -> bool:
    """Whether the plan cooks by a line that only an approved plan may take."""
    allowed = {
        entry.limit.id
        for entry in rule_set(plan.rule_set).entries
        if entry.approval and entry.topic.startswith("cook.")
    }
    return any(limit.id in allowed for control in plan.controls for limit in control.limits)


def provable(plan: Plan) -> str:
    """What is missing before a plan can be walked at all; nothing where it can."""
    if not plan.steps:
        return say("plans.walk.lay_out_at_least_one_step")
    if not any(
        kind_of(step).changes(step) or kind_of(step).acts(step) & {"keeps", "serves", "ripens"} for step in plan.steps
    ):
        return say("plans.walk.no_step_here_heats_chills_or")
    for way in ways_of(plan):
        try:
            body_in(context_of(way))
        except PlanIncompleteError as error:
            return error.sentence
    return ""


def body_in(context: Context) -> Body | None:
    """The piece as the heat equation sees it; None where there is none. Raises PlanIncompleteError without values."""
    if context.food.piece is None:
        return None
    return context.food.piece.body(context.heat())
