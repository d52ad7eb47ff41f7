"""What a batch of a plan is asked at each step: everything that the plan's proof judged, critical or not."""

from brinefrost.core.limits import Hold, Limit
from brinefrost.core.plans.asked_limits import limits_of
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.plans.once import once
from brinefrost.core.plans.reading_times import EARLY, control_parts, read_long_enough
from brinefrost.core.quantities import QUANTITIES, WORKED_FROM, ReadingQuantity
from brinefrost.core.steps import Step
from brinefrost.core.steps.document import ControlParts, Monitoring
from brinefrost.core.words import duration, say

AGAIN = "-again"  # ends the name of a check that is another's second reading
READ_AGAIN_S = 120.0  # a hold so short is shown by a probe that stays in; a longer one by a course of readings


@once
def monitored_steps(plan: Plan) -> dict[str, Control]:
    """By step: the limits a batch is judged by there, and the checks that measure them.

    A critical step's are its signed control's. Any other step that has limits answers to those its proof judged, with
    the checks its kind asks for; it has no hazards of its own. A hold for seconds is read twice. A limit whose quantity
    no check reads gets one at the end of the step. Valid for every plan; raises NotFoundError where the rule set lacks
    a limit. Codex CXC 1-1969 (2022), principles 3 and 4: what is validated is monitored.
    """
    found: dict[str, Control] = {}
    for step in plan.steps:
        control = plan.control_of(step.id) or _of_proof(plan, step)
        if control is not None:
            found[step.id] = _read_again(read_long_enough(plan, step, control))
    return found


def _read_again(control: Control) -> Control:
    """A temperature to be kept for seconds is read twice: where one check of the end is all that reads it, a second."""
    for limit in control.limits:
        if not isinstance(limit, Hold) or not 0 < limit.for_s <= READ_AGAIN_S:
            continue
        read = [each for each in control.monitoring if each.quantity == limit.quantity]
        if len(read) != 1 or read[0].offsets_s or read[0].every_s:
            continue
        how = say("plans.monitored.leave_it_in", for_=duration(limit.for_s))
        what = say("plans.monitored.once_more", what=read[0].what)
        again = read[0].model_copy(update={"id": read[0].id + AGAIN, "what": what, "how": how})
        return control.model_copy(update={"monitoring": (*control.monitoring, again)})
    return control


def limits_monitored(plan: Plan, step_id: str) -> tuple[Limit, ...]:
    """The limits a batch is judged by at a step; none where nothing is asked of it. Valid for every step."""
    control = monitored_steps(plan).get(step_id)
    return control.limits if control else ()


def _of_proof(plan: Plan, step: Step) -> Control | None:
    """What the proof asks of a step that no decision made critical; None where it asks nothing."""
    limits = limits_of(plan, step)
    usual = control_parts(plan, step) if limits or context_at(plan, step).cook_goes_on else ControlParts()
    if not limits and not any(each.id == EARLY for each in usual.monitoring):
        return None
    read = {each.quantity for each in usual.monitoring}
    missing = sorted({quantity for limit in limits if (quantity := _find_quantity(limit)) and quantity not in read})
    return Control(
        step=step.id,
        hazards=(),
        limits=limits,
        monitoring=(*usual.monitoring, *map(_at_the_end, missing)),
        corrective_actions=usual.corrective_actions,
        verification=usual.verification,
    )


def _find_quantity(limit: Limit) -> ReadingQuantity | None:
    """What is read to judge a limit; None where the batch's own times tell."""
    quantity = WORKED_FROM.get(limit.quantity, limit.quantity)
    return next((each for each in QUANTITIES if each == quantity), None)


def _at_the_end(quantity: ReadingQuantity) -> Monitoring:
    """One reading of a quantity as the step ends, for a limit that no check of its kind reads."""
    known = QUANTITIES[quantity]
    return Monitoring(
        id=f"{quantity}-end",
        what=known.noun,
        quantity=quantity,
        how=say("plans.monitored.read_it_as_the_step_ends"),
        expected_low_c=known.low,
        expected_high_c=known.high,
    )
