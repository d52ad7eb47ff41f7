"""Hands do something to the food: trim, mince, fill, roll, portion. It changes what the food is, and how it lies."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.physics.heat import Stage
from brinefrost.core.steps.base import Context, Finding, Piece, StepBase, StepKind
from brinefrost.core.steps.common import ROOM_H
from brinefrost.core.steps.state import Flow, MakeStage, Walk
from brinefrost.core.words import say

Work = Literal["trim", "mince", "fill", "roll", "portion", "shred", "press", "mix", "strain", "coat", "pierce", "shell"]
# what the food is afterwards, where the law asks
MAKES: dict[str, frozenset[str]] = {
    "mince": frozenset({"minced"}),
    "fill": frozenset({"filled"}),
    "roll": frozenset({"minced"}),  # the inside was outside: 9 CFR and Food Code 3-401.11(A)(2)
    "pierce": frozenset({"minced"}),
    "mix": frozenset({"mixed"}),
}


class Hand(StepBase):
    """Hands do something to the food."""

    kind: Literal["handwork"] = "handwork"
    work: Work = field("choice", "portion", main=True, paper="by hand")
    duration_s: float = field("time", 1200, 60, 8 * 3600, "min", 300, main=True, paper="for")
    surroundings_c: float = field("temperature", 20, -2, 40, paper="in")
    thickness_m: float = field("length", 0, 0, 0.3, "mm", 0.005, paper="then as thick as")


class HandKind(StepKind[Hand]):
    """Nothing is measured here; what hands bring and what warms is counted in what follows."""

    settings = Hand
    acts = frozenset({"handles"})

    def length_s(self, step: Hand) -> float:
        """As long as it takes."""
        return step.duration_s

    def piece(self, step: Hand) -> Piece | None:
        """The piece it makes, where it makes another."""
        return Piece(step.thickness_m, 4.0) if step.thickness_m > 0 else None

    def makes(self, step: Hand) -> frozenset[str]:
        """What the law calls it from here on."""
        return MAKES.get(step.work, frozenset())

    def stages(self, step: Hand, walk: Walk, context: Context) -> list[MakeStage]:
        """In the kitchen's air."""
        return [lambda _: Stage.steady(step.duration_s, step.surroundings_c, ROOM_H)]

    def around_c(self, step: Hand) -> float:
        """The kitchen's air."""
        return step.surroundings_c

    def lays(self, step: Hand, flow: Flow) -> list[Finding]:
        """What is touched after the last heat has hands on it, and a bag that was sealed is open."""
        if flow.sealed and flow.hot:
            said = say("steps.hand.opens_what_was_sealed_its_days", name=step.name)
            flow.sealed = False
            return [Finding(step=step.id, state="not_proved", sentence=said)] if flow.kept and not flow.reheated else []
        return []


KIND = HandKind()
