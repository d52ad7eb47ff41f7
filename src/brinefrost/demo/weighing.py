"""The lead weighs a plan's hazards as is usual."""

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.suggest import later_step, suggested_answers, suggested_hazards


def decided(plan: Plan) -> Plan:
    """The plan with the suggested hazards and the decisions the lead came to."""
    hazards = tuple(
        hazard.model_copy(
            update={
                "decisions": tuple(
                    decision.model_copy(
                        update={
                            "answers": suggested_answers(
                                decision.tree,
                                hazard.key,
                                plan.step(decision.step),
                                later_step(plan, hazard.key, plan.step(decision.step)),
                            )
                        }
                    )
                    for decision in hazard.decisions
                )
            }
        )
        for hazard in suggested_hazards(plan)
    )
    return plan.model_copy(update={"hazards": hazards})
