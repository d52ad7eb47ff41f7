"""A proof with all that is shown beside it: curves, how other rule sets judge the same, and every sum."""

import numpy as np

from brinefrost.core.limits import Series, Verdict
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.balance import clock_workings
from brinefrost.core.plans.contexts import at
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import ways_of, ways_with
from brinefrost.core.plans.proof import LimitProof, Proof, prove
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps import kind_of
from brinefrost.core.words import Words
from brinefrost.core.working import Document, Working

DRAWN = 1600  # points of the curve that is drawn


class CurveData(Document):
    """The computed temperatures for the chart, as far as the last cook or chill goes."""

    times_s: tuple[float, ...]
    core_c: tuple[float, ...]
    surface_c: tuple[float, ...]
    surroundings_c: tuple[float, ...]
    lethality: tuple[float, ...] = ()
    cook_ends_s: float


class OtherCurve(Document):
    """A quantity other than heat over a step."""

    step: str
    step_name: Words
    quantity: Quantity
    times_s: tuple[float, ...]
    values: tuple[float, ...]


class OtherSchool(Document):
    """How another rule or school judges the same step."""

    step: str
    rule_set: str
    school: Words
    title: Words
    verdict: Verdict
    time_to_meet_s: float | None


class ShownProof(Proof):
    """A proof and what is drawn and told beside it."""

    curve: CurveData
    others: tuple[OtherCurve, ...] = ()
    schools: tuple[OtherSchool, ...]
    workings: tuple[Working, ...]


def show_proof(plan: Plan, proof: Proof | None = None) -> ShownProof:
    """A proof with its curves against time [s], other schools, and the sums behind it.

    Valid, and raises, as ``prove``, whose answer may be given.
    """
    found, ways = proof or prove(plan), ways_of(plan)
    others = {(each.step, each.quantity): each for way in reversed(ways) for each in _others(way)}
    return ShownProof(
        **dict(found),
        curve=_curve(ways[0], found.limits),
        others=tuple(others.values()),
        schools=tuple(_schools(plan)),
        workings=tuple(dict.fromkeys(each for way in ways for each in _workings(way))),
    )


def _workings(way: Plan) -> list[Working]:
    context, done = simulated(way)
    return [
        *(each for step in way.steps for each in kind_of(step).workings(step, done, at(context, way, step))),
        *clock_workings(way),
    ]


def _schools(plan: Plan) -> list[OtherSchool]:
    """By the first way through each step: its own line's."""
    return [
        OtherSchool(
            step=step.id,
            rule_set=each.rule_set,
            school=each.school,
            title=each.limit.title,
            verdict=each.verdict,
            time_to_meet_s=each.time_to_meet_s,
        )
        for step in plan.steps
        for way in ways_with(plan, step.id)[:1]
        for each in kind_of(step).schools(step, simulated(way)[1], at(simulated(way)[0], way, step))
    ]


def _curve(plan: Plan, judged: tuple[LimitProof, ...]) -> CurveData:
    """Of one way: the main line's."""
    done = simulated(plan)[1]
    if done.curve is None:
        return CurveData(times_s=(), core_c=(), surface_c=(), surroundings_c=(), cook_ends_s=0.0)
    active = [step for step in plan.steps if kind_of(step).changes(step)]
    heated = [step for step in active if "heats" in kind_of(step).acts(step)]
    ends = done.spans[(active or plan.steps)[-1].id][1]
    keep = done.curve.times_s <= ends + 1e-6
    curve = done.curve
    columns = [column[keep] for column in (curve.times_s, curve.core_c, curve.surface_c, curve.surroundings_c)]
    whole = Series(columns[0], columns[1], longest_gap_s=np.inf)
    minutes = next((m for proof in judged if (m := proof.limit.gathered(whole)) is not None), None)
    drawn = _pick_drawn(len(columns[0]))
    rounded = [tuple(np.round(column[drawn], 2).tolist()) for column in columns]
    return CurveData(
        times_s=rounded[0],
        core_c=rounded[1],
        surface_c=rounded[2],
        surroundings_c=rounded[3],
        lethality=tuple(np.round(minutes[drawn], 3).tolist()) if minutes is not None else (),
        cook_ends_s=done.spans[heated[0].id][1] if heated else 0.0,
    )


def _pick_drawn(points: int) -> Array:
    """Which points of a curve are drawn: all of a short one, of a long one as many as can be told apart."""
    return np.unique(np.linspace(0, points - 1, min(points, DRAWN)).astype(int))


def _others(plan: Plan) -> list[OtherCurve]:
    return [
        OtherCurve(
            step=step_id,
            step_name=plan.step(step_id).name,
            quantity=quantity,
            times_s=tuple(round(float(t), 1) for t in series.times_s),
            values=tuple(round(float(v), 3) for v in series.values),
        )
        for (step_id, quantity), series in simulated(plan)[1].others()
    ]
