"""Food that needs no cold stands on a shelf until it is used."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import Limit, Looked, Series, Threshold
from brinefrost.core.limits.looked import RIGHT
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import Stage
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import ROOM_H, read_by_the_lead, watch_aw
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import LATE_STEP_S, Course, MakeStage
from brinefrost.core.steps.stricter import for_guests
from brinefrost.core.words import num, say

DAY_S = 86400.0


class ShelfKeep(StepBase):
    """Jars, or what is dry enough, stand on a shelf."""

    kind: Literal["shelf_keep"] = "shelf_keep"
    days: float = field("time", 180, 1, 730, "d", size=86400, main=True, paper="for")
    around: float = field("temperature", 18, 0, 30, main=True, paper="at most")
    kept_by: Literal["made", "dryness"] = field("choice", "made")
    dry_aw: float = field("number", 0.6, 0.2, 0.85, "aw", 0.01, only={"kept_by": ("dryness",)}, paper="as dry as")


class ShelfKeepKind(StepKind[ShelfKeep]):
    """Judged by its lids, its looks and its days; by its water activity where that alone keeps it, as of biscuits.

    What is not made for a shelf does not belong there.
    """

    settings = ShelfKeep
    endless = True

    def acts(self, step: ShelfKeep) -> frozenset[Act]:
        """It stores."""
        return frozenset({"keeps", "shelves"})

    def length_s(self, step: ShelfKeep) -> float:
        """Its days."""
        return step.days * DAY_S

    def own_limits(self, step: ShelfKeep, context: Context) -> tuple[Limit, ...]:
        """Lids down where there are any, nothing that looks wrong, used in its days."""
        law = target("shelf-days", Threshold)
        days = min(step.days, law.value)
        own = law.model_copy(update={"value": days, "title": say("steps.shelf.used_within", days=num(days))})
        lids = () if is_dry(context.food) else (target("lid-down", Looked),)
        dry = (target("dry-kept", Threshold),) if step.kept_by == "dryness" else ()
        return (*lids, *dry, target("looks-right", Looked), for_guests("general", own))

    def declare(self, step: ShelfKeep, limit: Limit) -> float | None:
        """Its days; that lids are down and food looks right is what the plan means to find."""
        if limit.quantity == "aw":
            return step.dry_aw
        return step.days if limit.quantity == "age" else 1.0 if isinstance(limit, Looked) else None

    def makes(self, step: ShelfKeep) -> frozenset[str]:
        """So dry that nothing grows, where a meter shows that it is."""
        return frozenset({"dry_kept"} if step.kept_by == "dryness" else ())

    def work(self, step: ShelfKeep, course: Course, context: Context) -> None:
        """Its first day; and where its dryness keeps it, the water activity it is meant to have."""
        if step.kept_by == "dryness":
            course.other[(step.id, "aw")] = Series.computed(np.array([0.0, DAY_S]), np.full(2, step.dry_aw))
        super().work(step, course, context)

    def stages(self, step: ShelfKeep, course: Course, context: Context) -> list[MakeStage]:
        """The first day, until it is as warm as the store."""
        followed = np.array([0.0, min(DAY_S, step.days * DAY_S)])
        return [lambda _: Stage(followed, np.full(2, step.around), ROOM_H, LATE_STEP_S)]

    def around_c(self, step: ShelfKeep) -> float:
        """The store's air."""
        return step.around

    def find_faults(self, step: ShelfKeep, food: Food) -> list[Finding]:
        """Only what was made for it: in its jar, or by its dryness."""
        if step.kept_by == "dryness" and not food.may_be_dry:
            said = say("steps.shelf.fresh_food_is_in_it", name=step.name)
            return [Finding(step=step.id, state="not_proved", sentence=said)]
        if "for_shelf" in food.made or is_dry(food) or step.kept_by == "dryness":
            return []
        said = say("steps.shelf.is_not_made_for_a_shelf", name=step.name)
        return [Finding(step=step.id, state="fails", sentence=said)]

    def control(self, step: ShelfKeep, context: Context) -> ControlParts:
        """Lids after a day, looks then and every month."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                *(() if is_dry(context.food) else (_lids(),)),
                *((watch_aw(step.dry_aw),) if step.kept_by == "dryness" else ()),
                _look("looks", say("steps.shelf.no_gas_cloud_or_leak"), say("steps.shelf.hold_it_to_the_light"), 30.0),
            ),
            corrective_actions=(say("steps.shelf.lid_not_down_the_fridge"), say("steps.shelf.looks_wrong_discard")),
            verification=read_by_the_lead(),
        )

    def simulate(self, step: ShelfKeep, context: Context, times_s: Array) -> dict[str, Array]:
        """Jars as they ought to be."""
        right = np.full(len(times_s), RIGHT)
        return {"lid": right, "looks": right, "aw": np.full(len(times_s), step.dry_aw)}


def is_dry(food: Food) -> bool:
    """Whether its dryness alone, or the tin it was bought in, keeps it. Valid for food as a step finds it."""
    return ("dry_kept" in food.made or food.stands_dry) and "for_shelf" not in food.made


def _lids() -> Monitoring:
    return _look("lid", say("steps.shelf.every_lid_down"), say("steps.shelf.ring_off_press_the_middle"), None)


def _look(quantity: ReadingQuantity, what: str, how: str, every_days: float | None) -> Monitoring:
    """A look a day after, and every so many days."""
    return Monitoring(
        id=quantity,
        what=what,
        quantity=quantity,
        how=how,
        offsets_s=(DAY_S,),
        every_s=None if every_days is None else every_days * DAY_S,
        expected_low_c=1,
        expected_high_c=1,
    )


KIND = ShelfKeepKind()
