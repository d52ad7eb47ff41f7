"""What a kind of step does to food: its acts, what surrounds the food meanwhile, and the food behind it."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar, Generic, TypeVar

from brinefrost.core.food.media import MediumKey
from brinefrost.core.steps.acts import CHANGING, Act
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Finding, Need, StepBase
from brinefrost.core.steps.food import Food, Piece

if TYPE_CHECKING:
    from brinefrost.core.steps.state import Course, MakeStage

S = TypeVar("S", bound=StepBase)


class Does(Generic[S]):
    """What a kind does. What it does not say: it does nothing, for a quarter of an hour."""

    def acts(self, step: S) -> frozenset[Act]:
        """What this step does to the food, by its own settings; the one answer to that question.

        Each kind says it; a kind that says nothing does nothing.
        """
        return frozenset()

    def changes(self, step: S) -> bool:
        """Whether a proof has something to work out at it; what is declared alone is not worked out."""
        acts = self.acts(step)
        return bool(acts & CHANGING) and not ("reheats" in acts and self.brings_to_c(step) is not None)

    @property
    def has_own_length(self) -> bool:
        """Whether a plan says how long it takes; else it is done when it is done."""
        return type(self).length_s is not Does.length_s

    def length_s(self, step: S) -> float:
        """How long it takes by the plan [s]; a quarter of an hour where it has no time of its own."""
        return 900.0

    def portion_kg(self, step: S) -> float | None:
        """What one pack of it holds [kg], where it makes packs."""
        return None

    def packs(self, step: S) -> int | None:
        """How many packs the plan makes here, where it makes packs."""
        return None

    def piece(self, step: S) -> Piece | None:
        """The piece it is planned for, where it has one."""
        return None

    def makes(self, step: S) -> frozenset[str]:
        """What the food is from here on, beside what its ingredients are: minced, filled and the like."""
        return frozenset()

    def brings_to_c(self, step: S) -> float | None:
        """How warm the core is when it ends [°C], where the plan says so and no walk works it out."""
        return None

    def medium(self, step: S) -> MediumKey | None:
        """What surrounds the food by the plan, where that has a name."""
        return None

    def around_c(self, step: S) -> float | None:
        """How warm what surrounds the food is by the plan [°C]."""
        return None

    def stages(self, step: S, course: Course, context: Context) -> list[MakeStage]:
        """What surrounds the food through it, each stage made for the mean temperature the food comes in with [°C]."""
        return []

    def work(self, step: S, course: Course, context: Context) -> None:
        """Carry the food through it: its heat, and whatever else it changes."""
        for make in self.stages(step, course, context):
            course.through(make)

    ends_by_growth: ClassVar[bool] = False  # what it is to bring about holds growth: nothing of what its acid holds

    def find_end_faults(self, step: S, course: Course) -> list[Finding]:
        """What it was to bring about and does not, by the walk."""
        return []

    def change(self, step: S, food: Food) -> Food:
        """The food behind it: what it did and made."""
        return food.through(step.id, step.name, self.acts(step), self.makes(step))

    def find_faults(self, step: S, food: Food) -> list[Finding]:
        """What is wrong with it in this place, by what came before."""
        return []

    def needs_later(self, step: S, food: Food) -> Need | None:
        """What it leaves for a later step to do, where it does."""
        return None
