"""A pot of liquid is brought to the boil and kept there: stock, soup, sauce, grain, with what swims in it."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import Cooling, Hold, Lethality, Limit, Projection, Series
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.physics.pot import Pot, heat_pot
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import (
    beside_line,
    boils_beans,
    find_no_cook_before,
    heat_topics,
    read_by_the_lead,
    watch_heated,
)
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import STEP_S, Course, Evidence
from brinefrost.core.steps.trend import approach
from brinefrost.core.words import say, temp

TRIED_S = 12 * 3600.0  # how long it may be kept on, to find how long is enough


class Simmer(StepBase):
    """A pot is brought to the boil and kept there."""

    kind: Literal["simmer"] = "simmer"
    mass_kg: float = field("mass", 10, 0.2, 500, "kg", main=True, paper="in the pot")
    heater_w: float = field("number", 3500, 200, 100000, "W", paper="burner")
    liquid_c: float = field("temperature", 97, 40, 105, main=True, paper="brought to")
    duration_s: float = field("time", 3600, 30, 72 * 3600, "min", 300, main=True, paper="kept there for")
    start_c: float = field("temperature", 10, 0, 100, paper="food begins at")
    piece_m: float = field("length", 0.02, 0.002, 0.2, "mm", 0.005, paper="thickest piece in it")
    covered: bool = field("flag", True)
    again: bool = field("flag", False)


class SimmerKind(StepKind[Simmer]):
    """Judged by the middle of the thickest piece in it; the liquid is even by its own boiling."""

    settings = Simmer
    logged = "core"

    def acts(self, step: Simmer) -> frozenset[Act]:
        """What was cooked before is heated again, which is no cook."""
        return frozenset({"heats", "reheats"}) if step.again else frozenset({"heats"})

    def change(self, step: Simmer, food: Food) -> Food:
        """It behind it: beans are boiled where it is hot enough for long enough."""
        left = super().change(step, food)
        return left.after_boil() if boils_beans(step.liquid_c, step.duration_s) else left

    def length_s(self, step: Simmer) -> float:
        """Up to its heat, and kept there."""
        return float(_heat_up(step, step.duration_s)[0][-1])

    def piece(self, step: Simmer) -> Piece:
        """The whole pot: left to itself it cools as one piece."""
        return pot_piece(step.mass_kg, step.start_c)

    def topics(self, step: Simmer, context: Context) -> tuple[str, ...]:
        """What must be killed, and how slowly it may come up; or how hot it must be again."""
        return heat_topics(context, step.again)

    def own_limits(self, step: Simmer, context: Context) -> tuple[Limit, ...]:
        """The rule set's own lines; what no line cooks is heated as ready-to-eat food is, against Listeria."""
        return (*super().own_limits(step, context), *beside_line(context, step.again))

    def work(self, step: Simmer, course: Course, context: Context) -> None:
        """The liquid as a whole, the middle of what swims in it behind."""
        if course.body is None:
            return
        liquid_c = min(step.liquid_c, context.boils_c)
        times, liquid = _heat_up(step.model_copy(update={"liquid_c": liquid_c}), step.duration_s, course.mean_c)
        course.stir(times, liquid, _middle(step, context, times, liquid), liquid)

    def around_c(self, step: Simmer) -> float:
        """The liquid."""
        return step.liquid_c

    def follows_core(self, step: Simmer, limit: Limit) -> bool:
        """All but a fall: it only warms."""
        return not isinstance(limit, Cooling)

    def find_faults(self, step: Simmer, food: Food) -> list[Finding]:
        """Heated again before any cook."""
        return find_no_cook_before(step, food) if step.again else []

    def control(self, step: Simmer, context: Context) -> ControlParts:
        """The rule set's own lines, the middle of the thickest piece at the end."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=watch_heated(
                self.length_s(step), min(step.liquid_c, 63.0) - 5, 101, self.own_limits(step, context)
            ),
            corrective_actions=(
                say("steps.heat.heat_on_until_the_core_is"),
                say("steps.heat.not_there_within_the_time_hold"),
            ),
            verification=read_by_the_lead(),
        )

    def inverse_s(self, step: Simmer, limit: Limit, context: Context) -> float | None:
        """On the same burner, kept on longer."""
        if not isinstance(limit, Lethality | Hold):
            return None
        times, liquid = _heat_up(step, TRIED_S)
        return limit.met_at_s(Series.computed(times, _middle(step, context, times, liquid)))

    def remedies(self, step: Simmer, limit: Limit, context: Context) -> list[str]:
        """Longer, or a stronger burner."""
        if isinstance(limit, Lethality | Hold):
            return [say("steps.simmer.longer_or_a_stronger_burner", liquid=temp(step.liquid_c, "g"))]
        return super().remedies(step, limit, context)

    def vary(self, step: Simmer) -> list[tuple[str, Simmer]]:
        """What usually goes differently."""
        return [(say("steps.simmer.half_as_much_again"), step.model_copy(update={"mass_kg": 1.5 * step.mass_kg}))]

    def project(self, step: Simmer, evidence: Evidence, context: Context) -> Projection | None:
        """Towards its boil, as it has been warming."""
        return approach(evidence, step.liquid_c, self.length_s(step), "°C") if len(evidence.series) else None


def pot_piece(mass_kg: float, start_c: float) -> Piece:
    """What a pot holds, as one piece [kg, °C]. Valid for a pot as deep filled as it is wide."""
    return Piece(Pot(mass_kg).wide_m, start_c, "cylinder")


def _heat_up(step: Simmer, held_s: float, start_c: float | None = None) -> tuple[Array, Array]:
    start = step.start_c if start_c is None else start_c
    return heat_pot(Pot(step.mass_kg, step.covered), step.heater_w, start, step.liquid_c, held_s)


def _middle(step: Simmer, context: Context, times_s: Array, liquid_c: Array) -> Array:
    """The middle of the thickest piece [°C] in a liquid that moves."""
    thermal = context.heat()
    body = Body(Shape.slab, step.piece_m / 2, thermal.diffusivity_m2_s, thermal.conductivity_w_mk)
    curve = heat_through(body, [Stage(times_s, liquid_c, context.h("boiling"))], float(liquid_c[0]), STEP_S)
    return np.asarray(np.interp(times_s, curve.times_s, curve.core_c))


KIND = SimmerKind()
