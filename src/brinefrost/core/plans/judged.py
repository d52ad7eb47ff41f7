"""Every limit of a step judged on what the course worked out; not measured where nothing did.

A limit that nothing computes and nothing declares is not measured here, and so the plan is not proved; nothing is
passed over.
"""

from dataclasses import replace

import numpy as np

from brinefrost.core.limits import Hold, Limit, Series, TimeAbove, Uncontrolled, Verdict
from brinefrost.core.plans.asked_limits import default_limits, limits_of
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.days import with_days_before
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.foods import passages_on
from brinefrost.core.plans.once import once
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.document import Finding
from brinefrost.core.steps.state import FRIDGE_C, Course
from brinefrost.core.words import say
from brinefrost.core.working import Document, Working


class StepLimit(Document):
    """One limit of one step, judged on what the walk worked out; not measured where nothing did."""

    step: str
    limit: Limit
    verdict: Verdict


def judge_step(plan: Plan, step: Step, done: Course) -> list[StepLimit]:
    """Every limit of a step, each with a verdict: on its curve, on what the plan sets, or not measured.

    Valid for every step of the plan that was walked.
    """
    before, law = done.days_before.get(step.id, 0.0), default_limits(plan, step)
    limits = [with_days_before(step, limit, law, before) for limit in limits_of(plan, step)]
    return [StepLimit(step=step.id, limit=limit, verdict=_verdict(step, limit, done)) for limit in limits]


@once
def judged_on(way: Plan) -> dict[str, list[StepLimit]]:
    """By step: every limit judged, once for all who ask. Valid for a plan without lines that can be simulated."""
    done = simulated(way)[1]
    return {step.id: judge_step(way, step, done) for step in way.steps}


def _verdict(step: Step, limit: Limit, done: Course) -> Verdict:
    series = series_at(step, limit, done)
    if series is None:
        return _unknown(limit)
    series = replace(series, chilled_from_s=done.chilled_from_s.get(step.id))
    quiet_s = kind_of(step).tells_after_s(step, limit) if limit.quantity == "core" else 0.0
    told = series.times_s >= done.spans[step.id][0] + quiet_s - 1e-6 if quiet_s else np.zeros(0, dtype=bool)
    if np.any(told):
        series = replace(series, times_s=series.times_s[told], values=series.values[told])
    return limit.evaluate(series, max(float(series.times_s[-1]), 0.0))


def series_at(step: Step, limit: Limit, done: Course) -> Series | None:
    """What the walk knows of a limit's quantity at a step; None where nothing computes or declares it.

    Food falls from when it left its last heat, whatever hands do to it before it is chilled. Valid for every step and
    limit.
    """
    kind = kind_of(step)
    known = done.other.get((step.id, limit.quantity))
    if known is not None:
        return known
    if isinstance(limit, Uncontrolled | TimeAbove) and done.curve is None and step.id in done.loose_around:
        return _lain(step, done)
    if limit.quantity == "core" and done.curve is not None and kind.follows_core(step, limit):
        since_s = 0.0 if limit.over_all else done.run_from_s.get(step.id)
        if isinstance(limit, Uncontrolled | TimeAbove):
            since_s = done.loose_from_s.get(step.id)
        return _fallen(step, limit, done) or done.core_in(step.id, since_s)
    declared = kind.declare(step, limit)
    if declared is None:
        return None
    if limit.quantity == "age":
        declared += done.days_before.get(step.id, 0.0)
    held = limit.for_s if isinstance(limit, Hold) else 0.0
    times = np.array([0.0, held]) if held > 0 else np.zeros(1)
    return Series.computed(times, np.full(len(times), declared))


def _lain(step: Step, done: Course) -> Series:
    """Food nobody says how thick it is: as it left the cold or the heat, and from then on as warm as the air."""
    spells = done.loose_around[step.id]
    times = np.concatenate(([0.0, 1.0], np.cumsum([seconds for _, seconds in spells])))
    air = [celsius for celsius, _ in spells]
    return Series.computed(times, np.array([done.held_c.get(step.id, FRIDGE_C), air[0], *air]))


def _fallen(step: Step, limit: Limit, done: Course) -> Series | None:
    """A fall from where it begins: hot food's from its last heat on, through what hands do; what was below the hot line
    by then is judged in its own step, its clock since it was left."""
    hot_c, left_s = limit.falls_from_c, done.out_s.get(step.id)
    if hot_c is None or left_s is None:
        return None
    own = done.core_in(step.id)
    if done.core_at(left_s) > hot_c or own is None or own.opened_s is None:
        return done.core_in(step.id, left_s)
    return replace(own, opened_s=min(left_s, own.opened_s))


def _unknown(limit: Limit) -> Verdict:
    return Verdict(
        state="not_measured",
        basis="computed",
        sentence=say("plans.walk.not_proved_nothing_in_this_plan", title=limit.title),
        working=Working(title=limit.title, formula="", inputs=(), result="", source=limit.source),
        advice=(say("plans.walk.take_the_limit_out_or_move"),),
    )


def is_done_before(plan: Plan, place: int) -> bool:
    """Whether all that is in it before a step has had its cook by then, so that what goes in there is alone to be
    cooked: every limit of the heats before is met without it. Valid for a plan without lines."""
    on = {step.id for step in plan.steps[:place]}
    before = plan.model_copy(
        update={
            "steps": plan.steps[:place],
            "ingredients": tuple(item for item in plan.ingredients if not item.enters or item.enters in on),
            "controls": tuple(control for control in plan.controls if control.step in on),
        }
    )
    heats = [step for step in before.steps if "cooks" in words_of(step)]
    if not heats or provable(before):
        return False
    return all(each.verdict.state == "pass" for step in heats for each in judged_on(before)[step.id])


def find_end_faults(plan: Plan, done: Course) -> tuple[Finding, ...]:
    """What steps were to bring about and do not, by the walk.

    Valid for a plan that was walked.
    """
    free = {step_id for step_id, passage in passages_on(plan).items() if passage.after.needs_no_cold}
    return tuple(
        finding
        for step in plan.steps
        if not (kind_of(step).ends_by_growth and step.id in free)
        for finding in kind_of(step).find_end_faults(step, done)
    )
