"""How a kind of step goes in a batch: what tells of it, where it leads, what can still be done."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar, Generic, TypeVar

from brinefrost.core.limits import Limit
from brinefrost.core.physics.body import Array
from brinefrost.core.quantities import Quantity, ReadingQuantity
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, StepBase

if TYPE_CHECKING:
    from brinefrost.core.limits import Projection
    from brinefrost.core.steps.state import Evidence

S = TypeVar("S", bound=StepBase)


class Runs(Generic[S]):
    """How a kind goes in a batch. What it does not say: it is read, and not carried on."""

    logged: ClassVar[ReadingQuantity | None] = None  # what a logger file laid to it must have read
    carried_by: ClassVar[tuple[Quantity, ...]] = ()  # what its course is carried on by, beside a limit's own readings
    endless: ClassVar[bool] = False  # it runs until somebody ends it, however long the plan says

    def tells_after_s(self, step: S, limit: Limit) -> float:
        """How long after its start a reading begins to tell of a limit [s]: one before warns, and proves nothing."""
        return 0.0

    def project(self, step: S, evidence: Evidence, context: Context) -> Projection | None:
        """Where the readings so far lead; None where it cannot be carried on."""
        return None

    def rescues(self, step: S, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """What can still be done, each with where it would lead from now."""
        return []

    def simulate(self, step: S, context: Context, times_s: Array) -> dict[str, Array]:
        """What instruments without a fault would read, by quantity, at times since it began [s]; heat is the walk's."""
        return {}

    def running_asked(self, step: S, evidence: Evidence, context: Context) -> list[Asked]:
        """The readings of a step under way as questions for the Bench."""
        return []
