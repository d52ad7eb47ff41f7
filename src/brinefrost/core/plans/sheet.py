"""The sheet: a plan as columns of steps, with the journey, every hazard's balance, limits and checks under them."""

from typing import Literal

import numpy as np

from brinefrost.core.limits import Lethality, Limit, LimitMark, Series, Verdict
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.balance import way_through
from brinefrost.core.plans.contexts import context_of, provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.judged import series_at
from brinefrost.core.plans.legs import Leg
from brinefrost.core.plans.lines import ways_of
from brinefrost.core.plans.proof import LimitProof, Proof, prove
from brinefrost.core.plans.reading_times import control_parts
from brinefrost.core.plans.sheet_inside import parts_inside
from brinefrost.core.plans.sheet_lines import joined_sheet, laid_in_lines
from brinefrost.core.plans.sheet_parts import (
    Sheet,
    SheetCheck,
    SheetColumn,
    SheetCurve,
    SheetLimit,
    standing_of,
    worst_standing,
)
from brinefrost.core.plans.sheet_rows import leading_clock, rows_of, states_of
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.document import Monitoring
from brinefrost.core.steps.state import Course
from brinefrost.core.words import Message, apart, duration, num, say

POINTS = 72  # of a column's curve
DECIMALS: dict[Quantity, int] = {"aw": 4}  # of a curve's values, where two are too few


def sheet_of(plan: Plan, proof: Proof | None = None) -> Sheet:
    """Lay a plan out.

    A column for each step and a row for each hazard; curves only where the plan can be walked. Raises OutOfRangeError
    if a parameter lies outside the models' ranges. Valid for every plan; what cannot be worked out is left empty, and
    says so in its sentence. As ``walk``, ``balance_of`` and each limit.
    """
    missing, ways = provable(plan), ways_of(plan)
    found = proof or (None if missing else prove(plan))
    judged: dict[str, list[LimitProof]] = {}
    for each in found.limits if found else ():
        judged.setdefault(each.step, []).append(each)
    parts = parts_inside(plan, judged) if plan.steps else ()
    told = len({part.enters for part in parts}) > 1 or any(part.state == "undone" for part in parts)
    laid = joined_sheet(plan, ways, tuple(_of_way(plan, way, found, judged, missing) for way in ways))
    return laid_in_lines(plan, laid).model_copy(update={"parts": parts if told else ()})


def _of_way(whole: Plan, plan: Plan, found: Proof | None, judged: dict[str, list[LimitProof]], missing: str) -> Sheet:
    """One way of a plan laid out, with the verdicts of the whole."""
    context, done = simulated(plan) if not missing else (None, Course(None))
    way = way_through(plan) if context else None
    legs = way.legs if way else ()
    rows, clocks = rows_of(plan, way, done, states_of(plan, judged))
    leading, run = leading_clock(clocks, len(plan.steps))
    columns = tuple(
        _column(whole, step, legs[index] if legs else None, done, judged.get(step.id, []), found, float(run[index]))
        for index, step in enumerate(plan.steps)
    )
    return Sheet(
        state=found.state if found else "empty",
        sentence=found.sentence if found else missing,
        columns=columns,
        rows=rows,
        cold_c=context_of(plan).rules.bound_for("hold.cold").value,
        hot_c=context_of(plan).rules.bound_for("hold.hot").value,
        exposed_by=organism(leading).name if leading else "",
    )


def _column(
    plan: Plan,
    step: Step,
    leg: Leg | None,
    done: Course,
    judged: list[LimitProof],
    proof: Proof | None,
    exposed: float,
) -> SheetColumn:
    control = plan.control_of(step.id)
    limits = tuple(_limits(step, done, judged))
    found = [each for each in (proof.findings if proof else ()) if each.step == step.id]
    usual = control_parts(plan, step) if control is None else None
    watched = control.monitoring if control else usual.monitoring if usual else ()
    return SheetColumn(
        step=step.id,
        name=step.name,
        length_s=leg.length_s if leg else kind_of(step).length_s(step),
        critical=control is not None or step.id in plan.critical_steps(),
        standing=worst_standing(
            [
                *(limit.standing for limit in limits),
                *(each.state for each in found if each.state in ("fails", "not_proved")),
            ]
        ),
        curves=tuple(_curves(step, leg, done)),
        exposed=round(exposed, 4),
        limits=limits,
        checks=tuple(_check(each, control is not None) for each in watched),
        findings=tuple(each.sentence for each in found),
    )


def _check(each: Monitoring, critical: bool) -> SheetCheck:
    return SheetCheck(
        what=each.what,
        quantity=each.quantity,
        offsets_s=each.offsets_s,
        every_s=each.every_s,
        who=each.who,
        critical=critical,
    )


def _curves(step: Step, leg: Leg | None, done: Course) -> list[SheetCurve]:
    curves = []
    if leg is not None and len(leg.core_c):
        curves.append(thinned("core", leg.times_s, leg.core_c, "computed" if leg.computed else "declared"))
    for (step_id, quantity), series in done.other.items():
        if step_id == step.id and len(series) > 1 and quantity != "core":
            curves.append(thinned(quantity, series.times_s, series.values, "computed"))
    return curves


def thinned(
    quantity: Quantity,
    times_s: Array,
    values: Array,
    basis: Literal["measured", "expected", "computed", "declared"],
) -> SheetCurve:
    """A curve with as many points as a column shows; a few readings as they are. Valid for one point or more."""
    at = (
        times_s
        if len(times_s) <= POINTS
        else np.union1d(np.linspace(times_s[0], times_s[-1], POINTS), times_s[[0, -1]])
    )
    shown = np.interp(at, times_s, values)
    return SheetCurve(
        quantity=quantity,
        times_s=tuple(round(float(t), 1) for t in at),
        values=tuple(round(float(v), DECIMALS.get(quantity, 2)) for v in shown),
        basis=basis,
    )


def _limits(step: Step, done: Course, proofs: list[LimitProof]) -> list[SheetLimit]:
    found = []
    for judged in proofs:
        begin, end = done.spans[step.id]
        series = series_at(step, judged.limit, done)
        known = series if series is not None and len(series) > 1 else Series.empty()
        marks = [
            _from_begin(mark, begin if len(known) and judged.limit.quantity == "core" else 0.0)
            for mark in judged.limit.marks(known, begin, end, end, judged.verdict.state)
        ]
        found.append(
            SheetLimit(
                id=judged.limit.id,
                title=judged.limit.title,
                standing=standing_of(judged.verdict),
                sentence=judged.verdict.sentence,
                room=room_of(judged.limit, judged.verdict),
                share=share_of(judged.verdict),
                marks=tuple(marks),
                quantity=judged.limit.quantity,
            )
        )
    return found


def _from_begin(mark: LimitMark, begin_s: float) -> LimitMark:
    """A mark on the walk's clock, on the column's own."""
    moved = {
        name: value - begin_s for name in ("by_s", "from_s", "until_s") if (value := getattr(mark, name)) is not None
    }
    return mark.model_copy(update=moved)


def room_of(limit: Limit, verdict: Verdict) -> Message | str:
    """The room to spare in the limit's own unit, or how far it misses.

    Valid for every verdict; nothing where there is no margin.
    """
    if verdict.margin is None or (verdict.margin >= 0 and standing_of(verdict) == "fails"):
        return ""
    far = abs(verdict.margin)
    if verdict.unit == "s" or (verdict.unit == "°C" and verdict.working is not None and _is_time(verdict)):
        said: Message = duration(far)
    elif verdict.value is not None and verdict.limit_value and isinstance(limit, Lethality):
        return say("plans.sheet.gathered", gathered=num(verdict.value, ".0f"), goal=num(verdict.limit_value, ".3g"))
    else:
        said = apart(far, str(verdict.unit))
    if verdict.margin < 0 and verdict.state == "pending":
        return say("plans.sheet.to_go", amount=said)
    return say("plans.sheet.room", amount=said) if verdict.margin >= 0 else say("plans.sheet.short", amount=said)


def _is_time(verdict: Verdict) -> bool:
    """A cooling verdict's margin is a time, though its value is a temperature."""
    value, bound = verdict.value, verdict.limit_value
    return verdict.margin is not None and (
        value is None or bound is None or abs(abs(value - bound) - abs(verdict.margin)) > 1e-6
    )


def share_of(verdict: Verdict) -> float | None:
    """Where a value lies on the little scale: 0.5 is the limit itself, more is room to spare.

    Valid for every verdict; None where there is no margin.
    """
    if verdict.margin is None or (verdict.margin >= 0 and standing_of(verdict) == "fails"):
        return None
    scale = abs(verdict.limit_value or 0.0) if verdict.unit not in ("°C", "s") and not _is_time(verdict) else 0.0
    scale = scale or (10.0 if verdict.unit == "°C" and not _is_time(verdict) else 3600.0)
    return round(float(0.5 + 0.5 * np.tanh(verdict.margin / scale)), 3)
