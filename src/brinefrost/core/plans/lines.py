"""The lines of a dish: runs of steps that begin with parts of their own, or out of another, and run into others.

A plan stays one list of steps. What a line brings has a past of its own up to the join, and one with the rest behind
it: each way that food goes through a plan is followed by itself, and a dish is as good as the worst of them.
"""

from dataclasses import dataclass

from brinefrost.core.plans.document import Brought, Ingredient, Plan
from brinefrost.core.plans.once import once
from brinefrost.core.steps import Step

MAIN = ""  # the line that every step is in which names none


def has_lines(plan: Plan) -> bool:
    """Whether its food comes in more than one line. Valid for every plan."""
    return any(step.line != MAIN for step in plan.steps)


def line_names(plan: Plan) -> tuple[str, ...]:
    """The names of its lines, in the order they begin; the main one has none. Valid for every plan."""
    return tuple(dict.fromkeys(step.line for step in plan.steps))


@dataclass(frozen=True)
class _Net:
    """Where each step's food goes next and where it came from, by id."""

    onward: dict[str, str]
    line_first: dict[str, Step]
    taker: dict[str, str]  # line: the step it runs into


@once
def _net_of(plan: Plan) -> _Net:
    onward: dict[str, str] = {}
    last: dict[str, str] = {}
    first: dict[str, Step] = {}
    taker: dict[str, str] = {}
    for step in plan.steps:
        if step.line in last:
            onward[last[step.line]] = step.id
        first.setdefault(step.line, step)
        last[step.line] = step.id
        for line in step.takes:
            if line in last:
                onward[last[line]] = step.id
                taker[line] = step.id
    return _Net(onward, first, taker)


def _forward(plan: Plan, step_id: str) -> list[str]:
    """A step and all that follow it on the way of its food."""
    net, found = _net_of(plan), [step_id]
    while (after := net.onward.get(found[-1])) is not None:
        found.append(after)
    return found


def _before_line(plan: Plan, line: str) -> list[str]:
    """The steps a line comes out of, from where that food began."""
    out_of = _net_of(plan).line_first[line].out_of
    if not out_of:
        return []
    root = plan.step(out_of)
    own = [step.id for step in plan.steps if step.line == root.line]
    return [*_before_line(plan, root.line), *own[: own.index(root.id) + 1]]


def ways_by_line(plan: Plan) -> dict[str, Plan]:
    """As ``ways_of``, each by the name of the line it begins with. Valid for every plan."""
    return _ways_by_line(plan) if has_lines(plan) else {MAIN: plan}


def ways_of(plan: Plan) -> tuple[Plan, ...]:
    """Each way that food goes through a plan, as a plan of one line; the main line's first.

    One for every line that begins with parts, or out of another's step; a line that begins where others meet is the end
    of their ways and none of its own. What other lines bring is in it from the join on, its past told in its own way.
    Valid for every plan; one of a single line is its own way.
    """
    return tuple(ways_by_line(plan).values())


@once
def _ways_by_line(plan: Plan) -> dict[str, Plan]:
    """By the line it begins with."""
    begins = {plan.step(item.enters).id if item.enters else plan.steps[0].id for item in plan.ingredients}
    found: dict[str, Plan] = {}
    for line in line_names(plan):
        first = _net_of(plan).line_first[line]
        if first.takes and not first.out_of and first.id not in begins:
            continue
        before = _before_line(plan, line)
        found[line] = _way(plan, [*before, *_forward(plan, first.id)], frozenset(before))
    return found


def _way(plan: Plan, ids: list[str], before: frozenset[str]) -> Plan:
    """The plan of some steps alone, in one line; those ``before`` are another line's, out of which it comes."""
    on = set(ids)
    steps = tuple(plan.step(each).model_copy(update={"line": MAIN, "takes": ()}) for each in ids)
    items: list[Ingredient] = []
    for item in plan.ingredients:
        enters = item.enters or plan.steps[0].id
        if enters in on:
            items.append(
                item.model_copy(update={"enters": enters, "eaten": _eaten_on(item, ids[-1], enters in before)})
            )
            continue
        arrives = next((each for each in _forward(plan, enters) if each in on), None)
        if arrives is not None:
            items.append(Brought(**(item.model_dump() | {"enters": arrives})))
    hazards = tuple(
        hazard.model_copy(update={"decisions": tuple(each for each in hazard.decisions if each.step in on)})
        for hazard in plan.hazards
    )
    controls = tuple(control for control in plan.controls if control.step in on)
    return plan.model_copy(
        update={"steps": steps, "ingredients": tuple(items), "hazards": hazards, "controls": controls}
    )


def _eaten_on(item: Ingredient, last: str, comes_out: bool) -> str:
    """How a part is eaten at the end of a way: as it is said to be where that end is named.

    Where none is, at the end of its own line and of those that line runs into; what comes out of a step by a line of
    its own (trim, juices, the half that is kept) is done, until somebody says otherwise.
    """
    if item.eaten == "by_table":  # a cook, and the same on every way
        return item.eaten
    told = last in item.eaten_at if item.eaten_at else not comes_out
    return item.eaten if told else ""


def ways_with(plan: Plan, step_id: str) -> tuple[Plan, ...]:
    """The ways that lead through a step, its own line's first; more than one where lines have met.

    Valid for every step of the plan.
    """
    if not has_lines(plan):
        return (plan,)
    line = plan.step(step_id).line
    found = {key: way for key, way in _ways_by_line(plan).items() if any(step.id == step_id for step in way.steps)}
    return tuple(found[key] for key in sorted(found, key=lambda key: key != line))


def steps_behind(plan: Plan, step_id: str) -> tuple[Step, ...]:
    """The steps that follow on the way of its food, across every join. Valid for every step of the plan."""
    return tuple(plan.step(each) for each in _forward(plan, step_id)[1:])


def steps_before(plan: Plan, step_id: str) -> tuple[Step, ...]:
    """Every step whose food is in a step's, in the plan's order. Valid for every step of the plan."""
    return tuple(step for step in plan.steps if step.id != step_id and step_id in _leads_to(plan, step.id))


def _leads_to(plan: Plan, step_id: str) -> set[str]:
    """All steps that some of a step's food comes to: on its own way, and out of it by lines that begin there."""
    found = set(_forward(plan, step_id))
    for line in line_names(plan):
        first = _net_of(plan).line_first[line]
        if first.out_of in found and first.id not in found:
            found |= _leads_to(plan, first.id)
    return found
