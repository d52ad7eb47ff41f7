"""Hands do something to the food: trim, mince, fill, roll, portion. It changes what the food is, and how it lies."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import Series
from brinefrost.core.physics.heat import Stage
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import ROOM_H, in_hands
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Finding, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, MakeStage
from brinefrost.core.words import duration, say, temp

Work = Literal[
    "trim",
    "mince",
    "fill",
    "roll",
    "portion",
    "shred",
    "press",
    "mix",
    "strain",
    "coat",
    "pierce",
    "shell",
    "rinse",
    "glue",
    "bread",
    "slice",
]
# what the food is afterwards, where the law asks
MAKES: dict[str, frozenset[str]] = {
    "mince": frozenset({"minced"}),
    "fill": frozenset({"filled"}),
    "roll": frozenset({"minced"}),  # the inside was outside: 9 CFR and Food Code 3-401.11(A)(2)
    "pierce": frozenset({"minced"}),
    "glue": frozenset({"minced"}),  # what was outside is inside
    "mix": frozenset({"mixed"}),
}


class Handwork(StepBase):
    """Hands do something to the food."""

    kind: Literal["handwork"] = "handwork"
    work: Work = field("choice", "portion", main=True, paper="by hand")
    duration_s: float = field("time", 1200, 60, 24 * 3600, "min", 300, main=True, paper="for")
    surroundings_c: float = field("temperature", 20, -2, 40, paper="in")
    thickness_m: float = field("length", 0, 0, 0.3, "mm", 0.005, paper="then as thick as")


class HandworkKind(StepKind[Handwork]):
    """Nothing is measured here; what hands bring is counted later, and how long it lies between cold and hot."""

    settings = Handwork
    ends_by_growth = True

    def acts(self, step: Handwork) -> frozenset[Act]:
        """Hands touch the food."""
        return frozenset({"handles"})

    def length_s(self, step: Handwork) -> float:
        """As long as it takes."""
        return step.duration_s

    def piece(self, step: Handwork) -> Piece | None:
        """The piece it makes, where it makes another."""
        return Piece(step.thickness_m, 4.0) if step.thickness_m > 0 else None

    def makes(self, step: Handwork) -> frozenset[str]:
        """What the law calls it from here on."""
        return MAKES.get(step.work, frozenset())

    def stages(self, step: Handwork, course: Course, context: Context) -> list[MakeStage]:
        """In the kitchen's air."""
        return [lambda _: Stage.steady(step.duration_s, step.surroundings_c, ROOM_H)]

    def around_c(self, step: Handwork) -> float:
        """The kitchen's air."""
        return step.surroundings_c

    def find_faults(self, step: Handwork, food: Food) -> list[Finding]:
        """What is touched after the last heat has hands on it, and a bag that was sealed is open."""
        if step.work == "rinse" and "poultry" in food.tags and not food.cooked:
            said = say("steps.hand.rinsing_a_raw_bird_spreads", name=step.name)
            return [Finding(step=step.id, state="fails", sentence=said)]
        if not (food.sealed and food.cooked and food.kept) or food.reheated:
            return []
        said = say("steps.hand.opens_what_was_sealed_its_days", name=step.name)
        return [Finding(step=step.id, state="not_proved", sentence=said)]

    def find_end_faults(self, step: Handwork, course: Course) -> list[Finding]:
        """Not too long between cold and hot since it last left either, through all that hands do: by the core and
        by the surface, or by the whole time where nothing says how thick it is."""
        end = course.spans.get(step.id, (0.0, 0.0))[1]
        begin = course.loose_from_s.get(step.id, end)
        if course.curve is None or end <= begin:
            lay = [lying(*course.loose_around.get(step.id, ((step.surroundings_c, step.duration_s),)))]
        else:
            curve = course.curve
            keep = (curve.times_s >= begin - 1e-6) & (curve.times_s <= end + 1e-6)
            lay = [Series.computed(curve.times_s[keep], each[keep]) for each in (curve.core_c, curve.surface_c)]
        limit = in_hands()
        longest = max(lay, key=lambda each: float(limit.used(each)[-1]))
        if all(limit.evaluate(each, float(each.times_s[-1])).state == "pass" for each in lay):
            return []
        said = say(
            "steps.hand.lies_between_longer_than",
            name=step.name,
            spent=duration(float(limit.used(longest)[-1]) * limit.within_s),
            cold=temp(limit.above_c, "g"),
            hot=temp(limit.upper_c, "g"),
            most=duration(limit.within_s),
        )
        return [Finding(step=step.id, state="fails", sentence=said)]


def lying(*spells: tuple[float, float]) -> Series:
    """Food as warm as what surrounds it [°C], for so long [s], one spell after another; valid for any temperature."""
    ends = np.cumsum([0.0, *(seconds for _, seconds in spells)])
    times = np.repeat(ends, 2)[1:-1] + np.tile([0.0, -1e-3], len(spells))
    return Series.computed(times, np.repeat([celsius for celsius, _ in spells], 2))


KIND = HandworkKind()
