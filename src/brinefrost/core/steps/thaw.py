"""Frozen food thaws in the cold, or under running water."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.food.media import MediumKey, ShapeKey
from brinefrost.core.limits import Limit, Threshold, TimeAbove
from brinefrost.core.physics.heat import Stage
from brinefrost.core.physics.phases import is_frozen
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import colder_or_discard, read_by_the_lead, watch_air, watch_core
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.shaped import length_field, piece_of, shape_field, width_field
from brinefrost.core.steps.state import Course, MakeStage
from brinefrost.core.words import say, temp

WATER_H = 95.0  # running water over a piece [W/m²K], as a stirred bath; common practice


class Thaw(StepBase):
    """Frozen food thaws."""

    kind: Literal["thaw"] = "thaw"
    medium: Literal["fan_fridge", "still_fridge", "running_water"] = field("choice", "fan_fridge", main=True)
    surroundings_c: float = field("temperature", 4, 0, 25, main=True, paper="in")
    thickness_m: float = field("length", 0.03, 0.003, 0.3, "mm", 0.005, main=True)
    shape: ShapeKey = shape_field()
    length_m: float = length_field()
    width_m: float = width_field()
    start_c: float = field("temperature", -18, -60, 4, paper="food begins at")
    duration_s: float = field("time", 24 * 3600, 600, 7 * 86400, "h", 3600, main=True, paper="for")


class ThawKind(StepKind[Thaw]):
    """Judged by the cold it thaws in, or by how long running water leaves it warm."""

    settings = Thaw
    sets = {"air": "surroundings_c", "bath": "surroundings_c"}
    logged = "core"

    def acts(self, step: Thaw) -> frozenset[Act]:
        """It thaws; in the cold it is kept meanwhile."""
        return frozenset({"thaws"} if step.medium == "running_water" else {"thaws", "keeps"})

    def length_s(self, step: Thaw) -> float:
        """As long as it lies."""
        return step.duration_s

    def piece(self, step: Thaw) -> Piece:
        """The piece it is planned for."""
        return piece_of(step, step.start_c)

    def topics(self, step: Thaw, context: Context) -> tuple[str, ...]:
        """The cold it lies in."""
        return () if step.medium == "running_water" else ("keep.cold",)

    def own_limits(self, step: Thaw, context: Context) -> tuple[Limit, ...]:
        """The rule set's cold; water no warmer than it may run, and few hours above the cold."""
        if step.medium != "running_water":
            return super().own_limits(step, context)
        return (target("thaw-water", Threshold), target("thaw-water-4h", TimeAbove))

    def stages(self, step: Thaw, course: Course, context: Context) -> list[MakeStage]:
        """What surrounds it, steady."""
        h = WATER_H if step.medium == "running_water" else context.h(step.medium)
        return [lambda _: Stage.steady(step.duration_s, step.surroundings_c, h)]

    def medium(self, step: Thaw) -> MediumKey | None:
        """The cold store, where it is one."""
        return None if step.medium == "running_water" else step.medium

    def around_c(self, step: Thaw) -> float:
        """What the plan sets."""
        return step.surroundings_c

    def follows_core(self, step: Thaw, limit: Limit) -> bool:
        """How warm it comes to be."""
        return limit.quantity == "core"

    def find_end_faults(self, step: Thaw, course: Course) -> list[Finding]:
        """Thawed to its middle: what goes on with ice in it is not as warm as the plan takes it for."""
        begin, end = course.spans[step.id]
        if course.curve is None or end <= begin or not is_frozen(course.core_at(end)):
            return []
        said = say("steps.thaw.is_still_frozen", name=step.name, core=temp(course.core_at(end), ".1f"))
        return [Finding(step=step.id, state="not_proved", sentence=said)]

    def control(self, step: Thaw, context: Context) -> ControlParts:
        """The cold, or the water and the core as it comes out."""
        limits = self.own_limits(step, context)
        if step.medium != "running_water":
            watched: tuple[Monitoring, ...] = (watch_air(-1, step.surroundings_c + 1, 43200.0),)
        else:
            water = watch_core(step.surroundings_c - 5, step.surroundings_c + 2, (0.0,))
            said = say("steps.thaw.water_that_runs")
            early = watch_core(-20, 21, (step.duration_s / 2,)).model_copy(update={"id": "core-early"})
            end = watch_core(-3, 21)
            watched = (water.model_copy(update={"id": "water", "quantity": "bath", "what": said}), early, end)
        return ControlParts(
            limits=limits,
            monitoring=watched,
            corrective_actions=colder_or_discard(),
            verification=read_by_the_lead(),
        )

    def remedies(self, step: Thaw, limit: Limit, context: Context) -> list[str]:
        """In the cold, or thinner."""
        return [say("steps.thaw.in_the_cold_or_thinner")]

    def simulate(self, step: Thaw, context: Context, times_s: np.ndarray) -> dict[str, np.ndarray]:
        """Water or air as it is set."""
        steady = np.full(len(times_s), step.surroundings_c)
        return {"bath": steady} if step.medium == "running_water" else {"air": steady}


KIND = ThawKind()
