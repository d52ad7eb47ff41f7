"""Food is sealed in a bag with the air drawn off."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.document import Finding, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.words import say


class Seal(StepBase):
    """Food is sealed in a bag with the air drawn off."""

    kind: Literal["seal"] = "seal"
    pack_mass_kg: float = field("mass", ..., 0.02, 20, "kg", main=True, paper="each pack")
    packs: int = field("number", 6, 1, 500, main=True)
    without_oxygen: bool = field("flag", True)


class SealKind(StepKind[Seal]):
    """Says how much one bag holds; without oxygen the cold after it is a control."""

    settings = Seal
    blank = {"pack_mass_kg": 1.0}

    def acts(self, step: Seal) -> frozenset[Act]:
        """It is sealed."""
        return frozenset({"seals"})

    def makes(self, step: Seal) -> frozenset[str]:
        """Sealed, where the air is drawn off."""
        return frozenset({"sealed"} if step.without_oxygen else ())

    def portion_kg(self, step: Seal) -> float:
        """One bag."""
        return step.pack_mass_kg

    def packs(self, step: Seal) -> int:
        """As many bags."""
        return step.packs

    def find_faults(self, step: Seal, food: Food) -> list[Finding]:
        """What is sealed after the cook was handled bare."""
        if not food.cooked:
            return []
        said = say("steps.seal.comes_after_the_cook_what_is", name=step.name)
        return [Finding(step=step.id, state="fails", sentence=said)]


KIND = SealKind()
