"""Proof before the first batch: can this process meet its limits?"""

from typing import Literal

import numpy as np

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.limits import Limit, Series, Verdict
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.balance import clock_workings, full_clocks
from brinefrost.core.plans.contexts import at, context_of, provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.plans.histamine import histamine_made
from brinefrost.core.plans.judged import ends_of, judged_on
from brinefrost.core.plans.lines import ways_by_line, ways_of, ways_with
from brinefrost.core.plans.nitrite import find_nitrite
from brinefrost.core.plans.order import find_order_faults
from brinefrost.core.plans.pickled import reckoned_otherwise
from brinefrost.core.plans.readiness import departures_of
from brinefrost.core.plans.sides import between, met_on_the_quick_side
from brinefrost.core.plans.taken_away import taken_away
from brinefrost.core.plans.undone import not_for_higher_risk, undone_parts
from brinefrost.core.plans.unheld import unheld_organisms
from brinefrost.core.quantities import Quantity
from brinefrost.core.reasons import is_reason
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import Words, joined, say
from brinefrost.core.working import Document, Working

DRAWN = 1600  # points of the curve that is drawn


ProofState = Literal["meets", "advisory", "departs", "needs_measuring", "not_proved", "fails"]


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


class LimitProof(Document):
    """One limit judged on the computed curve."""

    step: str
    step_name: Words
    title: Words  # of the limit, as whoever asks reads it; the limit itself keeps its own
    limit: Limit
    verdict: Verdict
    time_to_meet_s: float | None = None


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


class OtherSchool(Document):
    """How another rule or school judges the same step."""

    step: str
    rule_set: str
    school: Words
    title: Words
    verdict: Verdict
    time_to_meet_s: float | None


class Proof(Document):
    """What the computation says of a plan. It passes nothing: measurement decides.

    The worst of all it is asked. ``meets`` only where every limit of every step has a verdict and each is good, and
    every step follows from the ones before it; what nothing computed or declared is not proved, and what is missed with
    slow surroundings and met with quick ones needs measuring. A limit looser than the
    rule set's own, with its reason written, departs: it is met, and is not the law's. ``advisory``: it meets them, and
    its guests are told that something is eaten raw or rare.
    """

    meets: bool
    state: ProofState
    sentence: Words
    findings: tuple[Finding, ...] = ()
    curve: CurveData
    others: tuple[OtherCurve, ...] = ()
    limits: tuple[LimitProof, ...]
    schools: tuple[OtherSchool, ...]
    remedies: tuple[Words, ...]
    workings: tuple[Working, ...]


def prove(plan: Plan) -> Proof:
    """Walk a plan and judge every limit of every step.

    Curves against time [s], a verdict for each limit, other schools, and what would meet a limit that fails. Raises
    PlanIncompleteError if nothing is there to prove, or no ingredient has known thermal values; OutOfRangeError if a
    parameter lies outside the models' ranges. Valid as ``walk``. A planning estimate on the slow side; measurement
    decides. Carslaw & Jaeger (1959) for conduction; each limit and each kind of step carries its own source.
    """
    if plan.questions is not None:  # a proof asks what the rules ask, not what a document says it was signed with
        plan = plan.model_copy(update={"questions": None})
    missing = provable(plan)
    if missing:
        raise PlanIncompleteError(missing)
    ways = ways_of(plan)
    judged = _worst_by_limit(plan, [each for line, way in ways_by_line(plan).items() for each in _judged(way, line)])
    findings = tuple(
        dict.fromkeys(
            (
                *(each for way in ways for each in _found_on(way)),
                *_departures(plan),
                *taken_away(plan),
                *unheld_organisms(plan),
            )
        )
    )
    judged = _on_both_sides(plan, judged)
    fails = [proof for proof in judged if proof.verdict.state not in ("pass", "not_measured", "too_close")]
    open_ = [proof for proof in judged if proof.verdict.state == "not_measured"]
    unsure = [proof for proof in judged if proof.verdict.state == "too_close"]
    state = _state(findings, fails, open_, unsure)
    return Proof(
        meets=state in ("meets", "advisory"),
        state=state,
        sentence=_sentence(findings, fails, open_, unsure),
        findings=findings,
        curve=_curve(ways[0], judged),
        others=tuple({(each.step, each.quantity): each for way in reversed(ways) for each in _others(way)}.values()),
        limits=tuple(judged),
        schools=tuple(_schools(plan)),
        remedies=_remedies(plan, [*fails, *unsure], context_of(plan)),
        workings=tuple(dict.fromkeys(each for way in ways for each in _workings(way))),
    )


def _judged(way: Plan, line: str = "") -> list[LimitProof]:
    """Every limit of every step as the food of one way has it; of one that comes by a line, the line is named."""
    context = simulated(way)[0]
    return [
        LimitProof(
            step=judged.step,
            step_name=step.name,
            title=judged.limit.title,
            limit=judged.limit,
            verdict=_name_line(judged.verdict, line),
            time_to_meet_s=kind_of(step).inverse_s(step, judged.limit, at(context, way, step)),
        )
        for step in way.steps
        for judged in judged_on(way)[step.id]
    ]


def _on_both_sides(plan: Plan, judged: list[LimitProof]) -> list[LimitProof]:
    """Where all that misses with slow surroundings is met with quick ones, it is between: it needs measuring."""
    missed = {(proof.step, proof.limit.id) for proof in judged if proof.verdict.state == "fail"}
    if not missed or not missed <= met_on_the_quick_side(plan):
        return judged
    return [
        proof.model_copy(update={"verdict": between(proof.verdict)}) if proof.verdict.state == "fail" else proof
        for proof in judged
    ]


def _name_line(verdict: Verdict, line: str) -> Verdict:
    if not line or verdict.state == "pass":
        return verdict
    return verdict.model_copy(update={"sentence": say("plans.proof.of_line", line=line, said=verdict.sentence)})


def _worst_by_limit(plan: Plan, judged: list[LimitProof]) -> list[LimitProof]:
    """Each limit of each step once, as the food has it that is worse; in the plan's order."""
    place = {step.id: i for i, step in enumerate(plan.steps)}
    found: dict[tuple[str, str], LimitProof] = {}
    for each in judged:
        key = (each.step, each.limit.id)
        if key not in found or _is_worse(each, found[key]):
            found[key] = each
    return sorted(found.values(), key=lambda each: place[each.step])


def _is_worse(one: LimitProof, other: LimitProof) -> bool:
    order = {"pass": 2, "not_measured": 1}
    here, there = order.get(one.verdict.state, 0), order.get(other.verdict.state, 0)
    return here < there or (here == there and (one.verdict.margin or 0.0) < (other.verdict.margin or 0.0))


def _found_on(way: Plan) -> tuple[Finding, ...]:
    return (
        *find_order_faults(way),
        *ends_of(way, simulated(way)[1]),
        *full_clocks(way),
        *histamine_made(way),
        *undone_parts(way),
        *not_for_higher_risk(way),
        *reckoned_otherwise(way),
        *find_nitrite(way),
    )


def _workings(way: Plan) -> list[Working]:
    context, done = simulated(way)
    return [
        *(each for step in way.steps for each in kind_of(step).workings(step, done, at(context, way, step))),
        *clock_workings(way),
    ]


def _departures(plan: Plan) -> tuple[Finding, ...]:
    """A limit looser than the rule set's own proves nothing by being met; with its written reason the plan departs."""

    def state(control: Control) -> Literal["departs", "not_proved"]:
        return "departs" if plan.guests != "higher_risk" and is_reason(control.departs) else "not_proved"

    return tuple(
        Finding(step=control.step, state=state(control), sentence=said)
        for control in plan.controls
        for said in departures_of(plan, control)
    )


def _state(
    findings: tuple[Finding, ...], fails: list[LimitProof], open_: list[LimitProof], unsure: list[LimitProof]
) -> ProofState:
    states = {each.state for each in findings}
    if fails or "fails" in states:
        return "fails"
    if open_ or "not_proved" in states:
        return "not_proved"
    if unsure:
        return "needs_measuring"
    return "departs" if "departs" in states else "advisory" if "advisory" in states else "meets"


def what_ifs(plan: Plan) -> tuple[WhatIf, ...]:
    """The walk again and again, each time with one step different; nothing for a plan that cannot be walked."""
    if provable(plan):
        return ()
    return tuple(_what_if(plan, changed, name) for step in plan.steps for name, changed in kind_of(step).varied(step))


def _what_if(plan: Plan, changed: Step, name: str) -> WhatIf:
    steps = tuple(changed if step.id == changed.id else step for step in plan.steps)
    other = plan.model_copy(update={"steps": steps})
    kind, judged = kind_of(changed), [each for way in ways_of(other) for each in _judged(way)]
    said = [
        WhatIfStep(
            step=step.id,
            step_name=step.name,
            meets=all(each.verdict.state == "pass" for each in judged if each.step == step.id),
        )
        for step in _active(other)
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


def _active(plan: Plan) -> list[Step]:
    """Steps that change the food."""
    return [step for step in plan.steps if kind_of(step).changes(step)]


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


def _remedies(plan: Plan, fails: list[LimitProof], context: Context) -> tuple[str, ...]:
    said = [
        remedy
        for proof in fails
        for remedy in kind_of(plan.step(proof.step)).remedies(
            plan.step(proof.step), proof.limit, at(context, plan, plan.step(proof.step))
        )
    ]
    return tuple(dict.fromkeys(said))


def _sentence(
    findings: tuple[Finding, ...], fails: list[LimitProof], open_: list[LimitProof], unsure: list[LimitProof]
) -> str:
    told = [each.sentence for each in findings if each.state == "advisory"]
    wrong = [each for each in findings if each.state != "advisory"]
    if not fails and not open_ and not unsure and not wrong:
        meets = say("plans.proof.the_process_should_meet_its_limits")
        return joined([meets, *told], " ") if told else meets
    said: list[str] = []
    if fails:
        said.append(say("plans.proof.the_process_does_not_meet_of", fails=len(fails)))
        said += [_name_bound(proof) for proof in fails]
    said += [each.sentence for each in wrong if each.state != "departs"]
    departs = [each.sentence for each in findings if each.state == "departs"]
    if unsure:
        said.append(say("plans.proof.needs_measuring"))
        said += [proof.verdict.sentence for proof in unsure]
    if departs and not said and not open_:
        said.append(say("plans.proof.it_departs_from_its_rule_set", said=joined(departs, " ")))
    if open_:
        said.append(say("plans.proof.not_proved", items=joined((proof.limit.title for proof in open_), ", ")))
    return joined(said, " ")


def _name_bound(proof: LimitProof) -> str:
    """What a verdict says; a bare bound says what it is of."""
    if proof.limit.one_bound:
        return say("plans.proof.title_and", title=proof.title, said=proof.verdict.sentence)
    return proof.verdict.sentence


def _curve(plan: Plan, judged: list[LimitProof]) -> CurveData:
    """Of one way: the main line's."""
    done = simulated(plan)[1]
    if done.curve is None:
        return CurveData(times_s=(), core_c=(), surface_c=(), surroundings_c=(), cook_ends_s=0.0)
    heated = [step for step in _active(plan) if "heats" in kind_of(step).acts(step)]
    ends = done.spans[(_active(plan) or plan.steps)[-1].id][1]
    keep = done.curve.times_s <= ends + 1e-6
    curve = done.curve
    columns = [column[keep] for column in (curve.times_s, curve.core_c, curve.surface_c, curve.surroundings_c)]
    whole = Series(columns[0], columns[1], longest_gap_s=np.inf)
    minutes = next((m for proof in judged if (m := proof.limit.gathered(whole)) is not None), None)
    drawn = _drawn(len(columns[0]))
    rounded = [tuple(np.round(column[drawn], 2).tolist()) for column in columns]
    return CurveData(
        times_s=rounded[0],
        core_c=rounded[1],
        surface_c=rounded[2],
        surroundings_c=rounded[3],
        lethality=tuple(np.round(minutes[drawn], 3).tolist()) if minutes is not None else (),
        cook_ends_s=done.spans[heated[0].id][1] if heated else 0.0,
    )


def _drawn(points: int) -> Array:
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
