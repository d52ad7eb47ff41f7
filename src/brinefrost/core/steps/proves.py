"""What a proof tells of a kind of step beside its limits: what goes otherwise, how others judge it, its sums."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Generic, TypeVar

from brinefrost.core.limits import Limit
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, StepBase
from brinefrost.core.words import say
from brinefrost.core.working import Working

if TYPE_CHECKING:
    from brinefrost.core.limits import Verdict
    from brinefrost.core.steps.state import Course

S = TypeVar("S", bound=StepBase)


class Proves(Generic[S]):
    """What a kind tells a proof. What it does not say: nothing more."""

    def vary(self, step: S) -> list[tuple[str, S]]:
        """The same step with something different, named, for the what-ifs of a proof."""
        return []

    def inverse_s(self, step: S, limit: Limit, context: Context) -> float | None:
        """The shortest time here that meets a limit [s]; None where no time does, or time does not decide."""
        return None

    def schools(self, step: S, course: Course, context: Context) -> list[School]:
        """How every rule set and school judges the same step."""
        return []

    def remedies(self, step: S, limit: Limit, context: Context) -> list[str]:
        """What would meet a limit that fails."""
        return [say("steps.base.change_the_plan_to", title=limit.title)]

    def workings(self, step: S, course: Course, context: Context) -> list[Working]:
        """The sums behind it."""
        return []

    def repeat(self, step: S, limit: Limit, course: Course, context: Context) -> Chance | None:
        """How often a limit would be missed if what goes in varies."""
        return None

    def asked(self, step: S, course: Course, context: Context) -> list[Asked]:
        """The same step as questions for the Bench."""
        return []


@dataclass(frozen=True)
class School:
    """One rule set's or school's judgement of the same step."""

    rule_set: str
    school: str
    limit: Limit
    verdict: Verdict
    time_to_meet_s: float | None


@dataclass(frozen=True)
class Chance:
    """How often something fails, to what standard error, and how much of the spread each input explains."""

    failing_share: float
    error: float
    matters: tuple[tuple[str, float], ...]
