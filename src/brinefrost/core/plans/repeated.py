"""A plan's proof ten thousand times over: how often it would fail if thickness, start, bath and probe vary."""

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.limits import Limit
from brinefrost.core.plans.asked_limits import limits_of
from brinefrost.core.plans.contexts import at, provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.plans.proof import Proof
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import Words
from brinefrost.core.working import Document


class Share(Document):
    """How much of the spread one input explains."""

    name: Words
    share: float


class Repeated(Document):
    """How often one step fails, to what standard error, and what matters most."""

    step: str
    title: Words
    failing_share: float
    error: float
    matters: tuple[Share, ...]


def repeat_plan(plan: Plan, proof: Proof) -> tuple[Repeated, ...]:
    """Repeat a proof's cook and chill over spreads of their inputs.

    One for each kind of limit whose kind of step can be repeated: of a step's limits the one that fails most. Raises
    PlanIncompleteError if it cannot be walked. Valid as each kind of step says; one standard deviation each is what is
    usual, common practice, no source. As ``repeat`` and ``repeat_chill``.
    """
    missing = provable(plan)
    if missing:
        raise PlanIncompleteError(missing)
    found: dict[tuple[str, str], Repeated] = {}
    for judged in proof.limits:
        step = plan.step(judged.step)
        told = found.get(key := (kind_of(step).key, judged.limit.kind))
        if told is not None and told.step != judged.step:
            continue  # what comes after the first of its kind is proved once, not repeated
        way = _asking(plan, step, judged.limit)
        context, done = simulated(way)
        chance = kind_of(step).repeat(step, judged.limit, done, at(context, way, step))
        if chance is not None and (told is None or chance.failing_share > told.failing_share):
            found[key] = _tell(judged.step, judged.limit.title, chance.failing_share, chance.error, chance.matters)
    return tuple(found.values())


def _asking(plan: Plan, step: Step, limit: Limit) -> Plan:
    """The way through a step whose food is asked a limit there."""
    ways = ways_with(plan, step.id)
    return next((way for way in ways if any(each.id == limit.id for each in limits_of(way, step))), ways[0])


def _tell(step: str, title: str, share: float, error: float, matters: tuple[tuple[str, float], ...]) -> Repeated:
    told = tuple(Share(name=name, share=part) for name, part in matters)
    return Repeated(step=step, title=title, failing_share=share, error=error, matters=told)
