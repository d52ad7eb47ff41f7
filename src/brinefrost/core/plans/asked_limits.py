"""The limits that are asked at a step: its control's, those it was signed with, or the rule set's own."""

from brinefrost.core.limits import Limit
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.once import once
from brinefrost.core.rules import RuleEntry, targets
from brinefrost.core.steps import Step, kind_of


def topics_of(plan: Plan, step: Step) -> tuple[str, ...]:
    """Which topics of the rule set a step of this plan answers to.

    Valid for every step.
    """
    return kind_of(step).topics(step, context_at(plan, step))


def default_limits(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """What the rule set itself asks of a step, with the plan's guests in mind."""
    return _own_limits(plan)[step.id]


@once
def _own_limits(plan: Plan) -> dict[str, tuple[Limit, ...]]:
    """By step: what its rule set asks of it, worked out once."""
    return {step.id: kind_of(step).own_limits(step, context_at(plan, step)) for step in plan.steps}


def limits_of(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """The limits of a step: its control's, where it is critical, else those it was signed with, else the rule set's."""
    control = plan.control_of(step.id)
    if control:
        return control.limits
    if plan.questions is not None:
        return tuple(each.limit for each in plan.questions if each.step == step.id)
    return default_limits(plan, step)


def answered_by(plan: Plan, step: Step, limit: Limit) -> tuple[str, ...]:
    """The organisms that a limit answers for where it is met: by its rule set's entry, else by the target's own.

    Valid for every limit of a step.
    """
    entry = entry_of(plan, step, limit) or next((each for each in targets() if each.limit.id == limit.id), None)
    return entry.answers if entry else ()


def entry_of(plan: Plan, step: Step, limit: Limit) -> RuleEntry | None:
    """The rule set's entry a limit was taken from, by its id; None for the kitchen's own.

    Valid for every limit of a step.
    """
    rules = context_at(plan, step).rules
    for topic in topics_of(plan, step):
        for entry in rules.entries_for(topic):
            if entry.limit.id == limit.id:
                return entry
    return None
