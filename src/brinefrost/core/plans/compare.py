"""What changed between two versions of a plan."""

from typing import Any

from brinefrost.core.plans.document import Plan
from brinefrost.core.working import Document


class Change(Document):
    """One value that differs: where, from what, to what."""

    where: str
    before: str
    after: str


def changes_between(before: Plan, after: Plan) -> tuple[Change, ...]:
    """Every leaf that differs, named by its path.

    In document order; steps, hazards and controls are matched by their ids, not their places. Valid for two plans of
    one format.
    """
    old, new = dict(_leaves(before.model_dump(mode="json"), "")), dict(_leaves(after.model_dump(mode="json"), ""))
    return tuple(
        Change(where=path, before=old.get(path, "—"), after=new.get(path, "—"))
        for path in dict.fromkeys([*new, *old])
        if old.get(path) != new.get(path)
    )


def _leaves(value: Any, path: str) -> list[tuple[str, str]]:
    if isinstance(value, dict):
        return [leaf for key, inner in value.items() for leaf in _leaves(inner, f"{path} › {key}" if path else key)]
    if isinstance(value, list):
        return [leaf for i, inner in enumerate(value) for leaf in _leaves(inner, f"{path} › {_label(inner, i)}")]
    return [(path, str(value))]


def _label(item: Any, index: int) -> str:
    if isinstance(item, dict):
        for key in ("id", "key", "step", "question", "name"):
            if isinstance(item.get(key), str):
                return str(item[key])
    return str(index + 1)
