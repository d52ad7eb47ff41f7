"""What a batch is asked at each step: what its plan's proof judged, or what its validated process is held to."""

from brinefrost.core.limits import Limit
from brinefrost.core.plans.document import Control
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.plans.validated import with_process
from brinefrost.core.runs.batch import Batch


def asked_steps(batch: Batch) -> dict[str, Control]:
    """By step: the limits a batch is judged by there, and the checks that measure them.

    At a step whose validation holds for it, what is around the food and how long come before the core, which nobody has
    to read. Valid for every batch. Codex CXC 1-1969 (2022), principles 4 and 6.
    """
    asked = monitored_steps(batch.plan)
    if not batch.validated:
        return asked
    held = batch.validated
    return {key: with_process(batch.plan, each, held[key]) if key in held else each for key, each in asked.items()}


def limits_asked(batch: Batch, step_id: str) -> tuple[Limit, ...]:
    """The limits a batch is judged by at a step; none where nothing is asked of it. Valid for every step."""
    control = asked_steps(batch).get(step_id)
    return control.limits if control else ()
