"""Today's pieces against the plan: the walk again with what was measured, and the time that it takes then."""

from typing import Literal

import numpy as np

from brinefrost.core.errors import OutOfRangeError, PlanIncompleteError
from brinefrost.core.fields import specs_of
from brinefrost.core.limits import Hold, Lethality, Limit
from brinefrost.core.plans.contexts import context_at, piece_of, provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.judged import find_end_faults, judged_on
from brinefrost.core.plans.lines import ways_of, ways_with
from brinefrost.core.runs.events import Adjusted
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import Words, duration, joined, mm, say, temp
from brinefrost.core.working import Document

ROUNDS = 12  # so often a time is made longer, before it is said that no time does it
MORE_S = 900.0
AS_PLANNED_M, AS_PLANNED_K = 0.0005, 0.25  # what a ruler and a probe tell apart


class Fit(Document):
    """Whether the plan's times do for what was measured; ``adjusted`` are the settings that this batch goes by."""

    state: Literal["as_planned", "fits", "longer", "fails"]
    sentence: Words
    adjusted: tuple[Adjusted, ...] = ()


def fitted_plan(plan: Plan, adjusted: tuple[Adjusted, ...]) -> Plan:
    """A plan with some settings as they are for one batch; raises OutOfRangeError for one that cannot be.

    Valid for adjustments of this plan's own steps and settings.
    """
    if not adjusted:
        return plan
    changed: dict[str, dict[str, float]] = {}
    for each in adjusted:
        changed.setdefault(each.step, {})[each.setting] = each.value
    steps = tuple(_find_changed(step, changed.get(step.id, {})) for step in plan.steps)
    return plan.model_copy(update={"steps": steps})


def _find_changed(step: Step, settings: dict[str, float]) -> Step:
    if not settings:
        return step
    specs = {spec.name: spec for spec in specs_of(type(step))}
    for name, value in settings.items():
        spec = specs.get(name)
        if spec is None or not (spec.low or 0.0) <= value <= (np.inf if spec.high is None else spec.high):
            raise OutOfRangeError(say("runs.starting.cannot_be_so", name=step.name))
    return step.model_copy(update=settings)


def fit(plan: Plan, thickness_m: float | None, start_c: float | None) -> Fit:
    """Walk a plan again with today's pieces, and give each step the time it then needs.

    ``fits`` where the plan's times suffice, ``longer`` with the times that do, ``fails`` where none does. Raises
    OutOfRangeError if a measured value lies outside what the step or the models take. Valid as ``walk``. Only what the
    plan itself meets is asked; times are made longer, never shorter. ``thickness_m`` [m], ``start_c`` [°C]. As
    ``prove``.
    """
    measured = _measure(plan, thickness_m, start_c)
    if not measured or provable(plan):
        return Fit(state="as_planned", sentence=say("runs.starting.as_planned"))
    known = _open(plan)
    here, said = fitted_plan(plan, measured), _tell(thickness_m, start_c)
    for _ in range(ROUNDS):
        wrong = _open(here) - known
        if not wrong:
            break
        longer = _longer(here, {step for step, _ in wrong})
        if longer is None:
            return Fit(state="fails", sentence=_no_time(here, wrong, said), adjusted=measured)
        here = longer
    else:
        return Fit(state="fails", sentence=_no_time(here, wrong, said), adjusted=measured)
    times = tuple(
        Adjusted(step=after.id, setting="duration_s", value=lasts)
        for before, after in zip(plan.steps, here.steps, strict=True)
        if (lasts := _lasts_s(after)) is not None and lasts != _lasts_s(before)
    )
    if not times:
        suffice = say("runs.starting.the_plans_times_suffice", measured=said)
        return Fit(state="fits", sentence=suffice, adjusted=measured)
    changes = joined(
        (
            say(
                "runs.starting.step_takes_instead_of",
                name=plan.step(each.step).name,
                takes=duration(each.value),
                planned=duration(_lasts_s(plan.step(each.step)) or 0.0),
            )
            for each in times
        ),
        " ",
    )
    sentence = say("runs.starting.takes_longer", measured=said, changes=changes)
    return Fit(state="longer", sentence=sentence, adjusted=(*measured, *times))


def _lasts_s(step: Step) -> float | None:
    """How long a step lasts, where that is a setting of it [s]."""
    found = getattr(step, "duration_s", None)
    return None if found is None else float(found)


def _measure(plan: Plan, thickness_m: float | None, start_c: float | None) -> tuple[Adjusted, ...]:
    """The settings that what was measured stands for: the first pieces' thickness, wherever it is, and their warmth."""
    planned = piece_of(plan)
    if planned is None:
        return ()
    found: list[Adjusted] = []
    if thickness_m is not None and abs(thickness_m - planned.thickness_m) > AS_PLANNED_M:
        found += [
            Adjusted(step=step.id, setting="thickness_m", value=thickness_m)
            for step in plan.steps
            if abs(getattr(step, "thickness_m", -1.0) - planned.thickness_m) < 1e-9
        ]
    if start_c is not None and abs(start_c - planned.start_c) > AS_PLANNED_K:
        first = next((step for step in plan.steps if "start_c" in type(step).model_fields), None)
        found += [Adjusted(step=first.id, setting="start_c", value=start_c)] if first else []
    return tuple(found)


def _open(plan: Plan) -> set[tuple[str, str]]:
    """What a plan does not meet: step and limit, or step alone where it does not end as it should."""
    try:
        walks = [(way, simulated(way)[1]) for way in ways_of(plan)]
    except PlanIncompleteError:
        return set()
    missed = {
        (step.id, judged.limit.id)
        for way, _ in walks
        for step in way.steps
        for judged in judged_on(way)[step.id]
        if judged.verdict.state != "pass"
    }
    return missed | {(finding.step, "") for way, done in walks for finding in find_end_faults(way, done)}


def _longer(plan: Plan, wrong: set[str]) -> Plan | None:
    """The plan with more time at the steps that are wrong; None where time changes nothing there."""
    changed = []
    for step in plan.steps:
        more = _time_for(plan, step) if step.id in wrong else None
        if more is not None:
            changed.append(Adjusted(step=step.id, setting="duration_s", value=more))
    if not changed:
        return None
    try:
        return fitted_plan(plan, tuple(changed))
    except OutOfRangeError:
        return None


def _time_for(plan: Plan, step: Step) -> float | None:
    """A longer time for a step: what its heat needs, or a little more where it only has to get there [s]."""
    now = _lasts_s(step)
    kind, context = kind_of(step), context_at(plan, step)
    if now is None or not kind.acts(step) & {"heats", "cools"}:
        return None
    limits = _missed_at(plan, step)
    if any(not isinstance(limit, Lethality | Hold) for limit in limits):
        return None
    needed = [time for limit in limits if (time := kind.inverse_s(step, limit, context)) is not None]
    if limits and not needed:
        return None
    if not needed:
        return now + MORE_S
    return max(float(np.ceil(max(needed) / 300.0) * 300.0), now + 300.0)


def _missed_at(plan: Plan, step: Step) -> list[Limit]:
    """The limits of a step that some food does not meet there."""
    return [
        judged.limit
        for way in ways_with(plan, step.id)
        for judged in judged_on(way)[step.id]
        if judged.verdict.state != "pass"
    ]


def _tell(thickness_m: float | None, start_c: float | None) -> str:
    parts = []
    if thickness_m is not None:
        parts.append(say("runs.starting.pieces_of", thickness=mm(1000 * thickness_m, "g")))
    if start_c is not None:
        parts.append(say("runs.starting.going_in_at", start=temp(start_c, "g")))
    return joined(parts, ", ")


def _no_time(plan: Plan, wrong: set[tuple[str, str]], said: str) -> str:
    step = next(step for step in plan.steps if step.id in {each for each, _ in wrong})
    titles = [
        judged.limit.title
        for way in ways_with(plan, step.id)
        for judged in judged_on(way)[step.id]
        if (step.id, judged.limit.id) in wrong
    ]
    what = joined(titles, ", ") if titles else say("runs.starting.its_end")
    return say("runs.starting.no_time_does_it", measured=said, name=step.name, what=what)
