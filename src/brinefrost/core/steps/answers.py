"""What a kind of step answers to: the limits it is asked, and what is done where it is critical."""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Generic, TypeVar

from brinefrost.core.limits import Limit
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, StepBase
from brinefrost.core.steps.stricter import for_guests

S = TypeVar("S", bound=StepBase)


class Answers(Generic[S]):
    """What a kind answers to. What it does not say: no limit."""

    sets: ClassVar[Mapping[Quantity, str]] = {}  # the setting by which a plan itself sets a quantity

    def topics(self, step: S, context: Context) -> tuple[str, ...]:
        """Which topics of the rule set it answers to."""
        return ()

    def own_limits(self, step: S, context: Context) -> tuple[Limit, ...]:
        """What is asked of it wherever it stands: the rule set's own lines for its topics, with the guests in mind."""
        entries = [context.rules.entries_for(topic) for topic in self.topics(step, context)]
        return tuple(for_guests(context.guests, found[0].limit) for found in entries if found)

    def declare(self, step: S, limit: Limit) -> float | None:
        """What the plan itself sets for a limit's quantity here [its unit]: only what is one bound can be set."""
        setting = self.sets.get(limit.quantity)
        return getattr(step, setting) if setting and limit.one_bound else None

    def follows_core(self, step: S, limit: Limit) -> bool:
        """Whether the walk's core temperature bears on a limit here."""
        return False

    def holds_back(self, step: S) -> frozenset[str]:
        """Organisms whose clock a limit of its own counts in another way: the sheet leaves them to that limit."""
        return frozenset()

    def control(self, step: S, context: Context) -> ControlParts:
        """Limits, monitoring, corrective actions and verification where it is critical."""
        return ControlParts()
