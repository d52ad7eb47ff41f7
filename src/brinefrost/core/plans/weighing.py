"""What to weigh: a plan's amounts for today's mass, or for as much as there is of the one thing that is scarce."""

import math
from typing import Literal

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent

MOST_TIMES = 1000.0  # a recipe made so many times over is another recipe
COARSE = 0.05  # half a scale's step is more than this share of what is weighed: it is weighed finer; no source

ScaleStep = Literal["0.01", "0.1", "1", "5", "10", "50"]  # as scales are sold [g]


class Weighed(Sent):
    """One ingredient to weigh. ``shown_kg`` is what the scale can show; ``error`` the most that is off, as a share."""

    name: Words
    step: Words  # where it goes in; nothing at the first
    kg: float
    shown_kg: float
    share: float  # of all that is weighed
    error: float
    too_coarse: bool


class Amounts(Sent):
    """A plan's amounts for one batch; ``times`` the plan's own. ``unsaid``: ingredients whose amount nobody wrote."""

    times: float
    total_kg: float
    step_g: float
    weighed: tuple[Weighed, ...]
    unsaid: tuple[Words, ...]


def weigh_out(plan: Plan, step_g: float = 1.0, total_kg: float = 0.0, of: str = "", kg: float = 0.0) -> Amounts:
    """Amounts [kg] to the step of a scale [g]: for a total, or for so much of one ingredient; else the plan's own.

    Raises OutOfRangeError where the ingredient has no amount in this plan, or the result is more than a thousand times
    the plan's own. Valid for steps above 0. All are scaled alike, so shares stay what the plan was proved with.
    """
    known = [each for each in plan.ingredients if each.amount_kg > 0]
    whole = sum(each.amount_kg for each in known)
    times = _find_times(known, whole, total_kg, of, kg)
    if times > MOST_TIMES:
        raise OutOfRangeError(say("plans.weighing.too_much", times=f"{MOST_TIMES:g}"))
    names = {step.id: step.name for step in plan.steps}
    return Amounts(
        times=times,
        total_kg=whole * times,
        step_g=step_g,
        weighed=tuple(_weigh(each, times, whole, step_g / 1000.0, names) for each in known),
        unsaid=tuple(each.name for each in plan.ingredients if each.amount_kg <= 0),
    )


def _find_times(known: list[Ingredient], whole: float, total_kg: float, of: str, kg: float) -> float:
    if of and kg > 0:
        own = next((each.amount_kg for each in known if each.name == of), None)
        if own is None:
            raise OutOfRangeError(say("plans.weighing.no_amount", name=of))
        return kg / own
    return total_kg / whole if total_kg > 0 and whole > 0 else 1.0


def _weigh(item: Ingredient, times: float, whole: float, step_kg: float, names: dict[str, str]) -> Weighed:
    kg = item.amount_kg * times
    error = min(0.5 * step_kg / kg, 1.0)  # below half a step the scale shows nothing at all
    return Weighed(
        name=item.name,
        step=names.get(item.enters, ""),
        kg=kg,
        shown_kg=round(math.floor(kg / step_kg + 0.5 + 1e-9) * step_kg, 9),
        share=item.amount_kg / whole,
        error=error,
        too_coarse=error > COARSE,
    )
