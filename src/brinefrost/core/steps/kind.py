"""What every kind of step says of itself. A kind is one short module; a step of a plan is its settings.

Proof, batch, schedule, forecast, the Bench's links and the demo's instruments ask the kind and name none.
"""

from typing import Any, ClassVar, TypeVar

from brinefrost.core.steps.answers import Answers
from brinefrost.core.steps.document import StepBase
from brinefrost.core.steps.does import Does
from brinefrost.core.steps.proves import Proves
from brinefrost.core.steps.runs import Runs

S = TypeVar("S", bound=StepBase)


class StepKind(Does[S], Answers[S], Proves[S], Runs[S]):
    """A kind of step: what it does, what it answers to, what it proves and how it runs."""

    settings: type[S]
    blank: ClassVar[dict[str, Any]] = {}  # what a new one begins with, beside the settings' own defaults

    @property
    def key(self) -> str:
        """The name in plans, in texts and in the catalogue."""
        return str(self.settings.model_fields["kind"].default)
