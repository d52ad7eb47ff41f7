"""What is in a dish, part by part: where it goes in, and until where it is raw."""

from typing import Literal

from brinefrost.core.plans.cook_runs import cook_runs
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.lines import ways_of
from brinefrost.core.plans.parts import is_undone, known_of, own_entries_of
from brinefrost.core.plans.proof import LimitProof
from brinefrost.core.plans.sheet_parts import SheetPart
from brinefrost.core.plans.undone import row_of
from brinefrost.core.words import Words

RAW = "raw"
PartState = Literal["raw", "done", "undone", "plain"]


def parts_inside(plan: Plan, judged: dict[str, list[LimitProof]]) -> tuple[SheetPart, ...]:
    """The parts of a plan in the order of the steps they go in at, those of one step and state together.

    ``judged`` is the proof by step. Valid for every plan; a part is done where the cook it is in meets its lines.
    """
    order = {step.id: i for i, step in enumerate(plan.steps)}
    found: dict[tuple[str, PartState, str], list[Words]] = {}
    for way in ways_of(plan):
        for at, part in own_entries_of(way).items():
            for item in part:
                done = _done_at(way, at, judged)
                key = (way.steps[at].id, _state(way, item, done), done)
                names = found.setdefault(key, [])
                if item.name not in names:
                    names.append(item.name)
    return tuple(
        SheetPart(names=tuple(names), enters=enters, state=state, done_at=done if state == "done" else "")
        for (enters, state, done), names in sorted(found.items(), key=lambda each: order[each[0][0]])
    )


def _state(way: Plan, item: Ingredient, done: str) -> PartState:
    if RAW not in {tag for row in known_of((item,)) for tag in row.tags}:
        return "plain"
    if is_undone(item):
        return "undone" if row_of(way, item) is not None else "raw"
    return "done" if done else "raw"


def _done_at(way: Plan, at: int, judged: dict[str, list[LimitProof]]) -> str:
    """The last heat of the first cook behind an entry whose lines are met; nothing where there is none."""
    runs = cook_runs(way)
    for step in way.steps[at:]:
        if step.id in runs and runs[step.id][-1] == step.id:
            lines = [each for each in judged.get(step.id, []) if each.limit.quantity == "core"]
            if lines and all(each.verdict.state == "pass" for each in lines):
                return step.id
    return ""
