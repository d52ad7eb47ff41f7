"""The proof with one thing different at a time: what usually goes differently in a kitchen."""

from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import ways_of, ways_with
from brinefrost.core.plans.proof import judge_way
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import Words
from brinefrost.core.working import Document


class WhatIfStep(Document):
    """Whether a step still meets its limits."""

    step: str
    step_name: Words
    meets: bool


class WhatIf(Document):
    """The same proof with one thing different."""

    step: str
    step_name: Words
    name: Words
    steps: tuple[WhatIfStep, ...]
    time_to_meet_s: float | None
    core_at_end_c: float | None


def what_ifs(plan: Plan) -> tuple[WhatIf, ...]:
    """The walk again and again, each time with one step different; nothing for a plan that cannot be walked."""
    if provable(plan):
        return ()
    return tuple(_what_if(plan, changed, name) for step in plan.steps for name, changed in kind_of(step).vary(step))


def _what_if(plan: Plan, changed: Step, name: str) -> WhatIf:
    steps = tuple(changed if step.id == changed.id else step for step in plan.steps)
    other = plan.model_copy(update={"steps": steps})
    kind, judged = kind_of(changed), [each for way in ways_of(other) for each in judge_way(way)]
    said = [
        WhatIfStep(
            step=step.id,
            step_name=step.name,
            meets=all(each.verdict.state == "pass" for each in judged if each.step == step.id),
        )
        for step in other.steps
        if kind_of(step).changes(step)
    ]
    limits = [each.limit for each in judged if each.step == changed.id]
    times = {each.limit.id: each.time_to_meet_s for each in judged if each.step == changed.id}
    done = simulated(ways_with(other, changed.id)[0])[1]
    never = any(limit.by_time and times[limit.id] is None for limit in limits)
    heats = done.curve is not None and "heats" in kind.acts(changed)
    return WhatIf(
        step=changed.id,
        step_name=changed.name,
        name=name,
        steps=tuple(said),
        time_to_meet_s=None if never else max((time for time in times.values() if time is not None), default=None),
        core_at_end_c=round(done.core_at(done.spans[changed.id][1]), 2) if heats else None,
    )
