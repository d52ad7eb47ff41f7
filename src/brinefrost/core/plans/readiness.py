"""What stands between a plan and a signature."""

from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Control, Hazard, Plan
from brinefrost.core.working import Document


class Gap(Document):
    """Something missing, and where."""

    where: str
    sentence: str


def gaps_of(plan: Plan) -> tuple[Gap, ...]:
    """Everything that must be settled before a plan can be signed.

    Parameters
    ----------
    plan : Plan
        The plan as it stands.

    Returns
    -------
    tuple of Gap
        Empty when it can be signed.

    Raises
    ------
    PlanIncompleteError
        If a question of a tree has two answers.

    Notes
    -----
    Valid for every plan; the proof is judged apart.

    References
    ----------
    Codex CXC 1-1969 (2022), chapter two, principles 1 to 6.
    """
    found: list[Gap] = []
    if not plan.ingredients:
        found.append(Gap(where="process", sentence="Name the ingredients: the hazards come from them."))
    if not plan.steps:
        found.append(Gap(where="process", sentence="Lay out at least one step."))
    if not plan.hazards:
        found.append(Gap(where="hazards", sentence="Take over or add the hazards."))
    for hazard in plan.hazards:
        found += _hazard_gaps(plan, hazard)
    critical = plan.critical_steps()
    for step_id in critical:
        control = plan.control_of(step_id)
        if control is None:
            name = plan.step(step_id).name
            found.append(Gap(where="controls", sentence=f"{name} is critical and has no limits yet."))
        else:
            found += _control_gaps(plan, control)
    if plan.hazards and not critical:
        found.append(Gap(where="hazards", sentence="No step is critical. Finish the decisions."))
    return tuple(found)


def _hazard_gaps(plan: Plan, hazard: Hazard) -> list[Gap]:
    if not hazard.significant:
        if hazard.set_aside_because:
            return []
        return [Gap(where="hazards", sentence=f"{hazard.name} is set aside; say why.")]
    found = []
    outcomes = [(decision, outcome_of(decision.tree, decision.answers)) for decision in hazard.decisions]
    known = {step.id for step in plan.steps}
    for decision, outcome in outcomes:
        if decision.step not in known:
            found.append(Gap(where="hazards", sentence=f"{hazard.name} is weighed at a step that is gone."))
        elif outcome == "open":
            name = plan.step(decision.step).name
            found.append(Gap(where="hazards", sentence=f"{hazard.name} at {name}: the decision is not finished."))
    if outcomes and all(outcome == "modify" for _, outcome in outcomes):
        found.append(Gap(where="hazards", sentence=f"{hazard.name}: no step controls it. Change the process."))
    return found


def _control_gaps(plan: Plan, control: Control) -> list[Gap]:
    name = plan.step(control.step).name
    needs = (
        (control.limits, "a critical limit"),
        (control.monitoring, "monitoring"),
        (control.corrective_actions, "a corrective action"),
        (control.verification, "verification"),
    )
    return [Gap(where="controls", sentence=f"{name} needs {words}.") for part, words in needs if not part]
