"""What a plan is signed with: the limits its batches are asked, kept in it, and what is asked beside them since."""

from brinefrost.core.plans.asked_limits import default_limits
from brinefrost.core.plans.document import Plan, Question
from brinefrost.core.words import Words


def with_questions(plan: Plan) -> Plan:
    """A plan as it is signed, in format 2: with the limits of every step that no control decides.

    Raises NotFoundError where its rule set lacks a limit. Valid for every plan.
    """
    asked = tuple(
        Question(step=step.id, limit=limit)
        for step in plan.steps
        if plan.control_of(step.id) is None
        for limit in default_limits(plan, step)
    )
    return plan.model_copy(update={"format": "brinefrost-plan/2", "questions": asked})


def asked_since(plan: Plan) -> tuple[Words, ...]:
    """What the rules of today ask of a signed plan beside its own questions: titles; none where it keeps none.

    Valid for every plan. It changes nothing in a batch that runs; it is signed again before the next begins.
    """
    if plan.questions is None:
        return ()
    own = {(each.step, each.limit.id) for each in plan.questions}
    return tuple(
        limit.title
        for step in plan.steps
        if plan.control_of(step.id) is None
        for limit in default_limits(plan, step)
        if (step.id, limit.id) not in own
    )
