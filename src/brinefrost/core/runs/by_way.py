"""A batch of a dish of several lines, seen along each way of its food."""

from dataclasses import replace

from brinefrost.core.plans.lines import ways_of
from brinefrost.core.runs.batch import Batch


def by_way(batch: Batch) -> tuple[Batch, ...]:
    """The batch once for each way of its plan, with what was read at the steps of that way.

    Valid for every batch; one of a single line is its own way.
    """
    ways = ways_of(batch.plan)
    if len(ways) == 1:
        return (batch,)
    return tuple(_along(batch, {step.id for step in way.steps}, i) for i, way in enumerate(ways))


def _along(batch: Batch, steps: set[str], place: int) -> Batch:
    return replace(
        batch,
        plan=ways_of(batch.plan)[place],
        spans={key: span for key, span in batch.spans.items() if key in steps},
        readings=[each for each in batch.readings if each.logged.step in steps],
        traces=[each for each in batch.traces if each.attached.step in steps],
        actions=[each for each in batch.actions if each[0].step in steps],
    )
