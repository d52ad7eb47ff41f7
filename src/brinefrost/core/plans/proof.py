"""Proof before the first batch: can this process meet its limits?"""

from typing import Literal

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.limits import Limit, Verdict
from brinefrost.core.plans.balance import find_toxins
from brinefrost.core.plans.contexts import at, context_of, provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Control, Plan
from brinefrost.core.plans.histamine import histamine_made
from brinefrost.core.plans.judged import find_end_faults, judged_on
from brinefrost.core.plans.lines import ways_by_line, ways_of
from brinefrost.core.plans.nitrite import find_nitrite
from brinefrost.core.plans.order import find_order_faults
from brinefrost.core.plans.pickled import reckoned_otherwise
from brinefrost.core.plans.readiness import departures_of
from brinefrost.core.plans.sides import between, met_on_the_quick_side
from brinefrost.core.plans.taken_away import taken_away
from brinefrost.core.plans.undone import not_for_higher_risk, undone_parts
from brinefrost.core.plans.unheld import unheld_organisms
from brinefrost.core.reasons import is_reason
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import Words, joined, say
from brinefrost.core.working import Document

DRAWN = 1600  # points of the curve that is drawn


ProofState = Literal["meets", "advisory", "departs", "needs_measuring", "not_proved", "fails"]


class LimitProof(Document):
    """One limit judged on the computed curve."""

    step: str
    step_name: Words
    title: Words  # of the limit, as whoever asks reads it; the limit itself keeps its own
    limit: Limit
    verdict: Verdict
    time_to_meet_s: float | None = None


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
    limits: tuple[LimitProof, ...]
    remedies: tuple[Words, ...]


def prove(plan: Plan) -> Proof:
    """Walk a plan and judge every limit of every step.

    A verdict for each limit, times in s, and what would meet one that fails. Raises
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
    judged = _worst_by_limit(plan, [each for line, way in ways_by_line(plan).items() for each in judge_way(way, line)])
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
        limits=tuple(judged),
        remedies=_remedies(plan, [*fails, *unsure], context_of(plan)),
    )


def judge_way(way: Plan, line: str = "") -> list[LimitProof]:
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
        *find_end_faults(way, simulated(way)[1]),
        *find_toxins(way),
        *histamine_made(way),
        *undone_parts(way),
        *not_for_higher_risk(way),
        *reckoned_otherwise(way),
        *find_nitrite(way),
    )


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
    told = list(dict.fromkeys(each.sentence for each in findings if each.state == "advisory"))
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
