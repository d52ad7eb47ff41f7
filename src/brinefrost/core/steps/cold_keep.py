"""Food is kept cold until it is used."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Composition, Cooling, Limit, Series, Threshold
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import holds, watch_ph
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import LATE_STEP_S, Course, MakeStage
from brinefrost.core.steps.stricter import for_guests, stricter
from brinefrost.core.words import num, say, temp

_OF_ANIMALS = frozenset({*ANIMALS, "dairy"})
FRIDGE_H = 10.0  # bags in a cold store [W/m²K], common practice
SOUR_READ_S = 14 * 86400.0  # how often what is kept by its acid is read; common practice
KEPT_S = 24 * 3600.0  # how far the first day in the cold is followed


class ColdKeep(StepBase):
    """Food is kept cold until it is used."""

    kind: Literal["cold_keep"] = "cold_keep"
    max_c: float = field("temperature", 3, -30, 8, main=True, paper="at most")
    days: float = field("time", 5, 0, 400, "d", size=86400, main=True, paper="for")
    label_days: float = field("time", 0, 0, 730, "d", size=86400, paper="label gives")  # 0: not said


class ColdKeepKind(StepKind[ColdKeep]):
    """Judged by the air around it and by its age."""

    settings = ColdKeep
    sets = {"air": "max_c", "age": "days"}
    logged = "air"
    endless = True

    def acts(self, step: ColdKeep) -> frozenset[Act]:
        """It stores, cold or frozen; frozen, no days run."""
        return frozenset({"keeps", "stores_frozen" if _is_frozen(step) else "stores"})

    def length_s(self, step: ColdKeep) -> float:
        """Its days."""
        return step.days * 86400.0

    def topics(self, step: ColdKeep, context: Context) -> tuple[str, ...]:
        """How cold, and how many days; what its acid, salt or dryness keeps answers to lines of its own."""
        if _is_frozen(step) or _by_itself(step, context) or _by_label(step, context):
            return ()
        return ("keep.days",) if _is_held(context) else ("keep.cold", "keep.days")

    def own_limits(self, step: ColdKeep, context: Context) -> tuple[Limit, ...]:
        """The rule set's own lines; fewer days for plants under oil, and acid in their place for what is sour."""
        if _is_frozen(step) or _by_itself(step, context) or _by_label(step, context):
            return (_cold(step, context), _days(step, context), *_acid(step, context))
        cold = (_cold(step, context),) if _is_held(context) else ()
        lines = (*cold, *super().own_limits(step, context))
        return tuple(_days(step, context) if limit.quantity == "age" else limit for limit in lines)

    def work(self, step: ColdKeep, course: Course, context: Context) -> None:
        """The cold; and as sour as it came."""
        super().work(step, course, context)
        sours = [series for (_, quantity), series in course.other.items() if quantity == "ph"]
        if sours and _acid(step, context):
            last = sours[-1]
            course.other[(step.id, "ph")] = Series.computed(np.zeros(1), last.values[-1:], last.uncertainty)

    def stages(self, step: ColdKeep, course: Course, context: Context) -> list[MakeStage]:
        """The first day in the cold."""
        kept = np.array([0.0, min(KEPT_S, step.days * 86400.0)])
        h = context.h_w_m2k.get("cold_keep", FRIDGE_H)
        return [lambda _: Stage(kept, np.full(2, step.max_c), h, LATE_STEP_S)]

    def around_c(self, step: ColdKeep) -> float:
        """The air the plan sets."""
        return step.max_c

    def follows_core(self, step: ColdKeep, limit: Limit) -> bool:
        """What goes in warm is followed as it cools."""
        return True

    def find_faults(self, step: ColdKeep, food: Food) -> list[Finding]:
        """Cooked food goes in cold."""
        if not food.cooked or food.chilled or food.is_held_by_itself or food.needs_no_cold:
            return []
        said = say("steps.cold_keep.cooked_food_goes_into_and_no", name=step.name)
        return [Finding(step=step.id, state="fails", sentence=said)]

    def remedies(self, step: ColdKeep, limit: Limit, context: Context) -> list[str]:
        """Food that is still warm has to be cooled before."""
        if isinstance(limit, Cooling):
            return [say("steps.cold_keep.chill_it_first_a_cold_store")]
        if limit.quantity == "age" and context.food.is_as_bought and not step.label_days:
            return [*super().remedies(step, limit, context), say("steps.cold_keep.enter_the_days_its_label_gives")]
        return super().remedies(step, limit, context)

    def control(self, step: ColdKeep, context: Context) -> ControlParts:
        """Cold and days, each the stricter of the plan's own and the rule set's."""
        days, sour = _days(step, context), _acid(step, context)
        return ControlParts(
            limits=(
                stricter(
                    _cold(step, context),
                    step.max_c,
                    "own-keep-c",
                    say("steps.cold_keep.kept_at_or_below", max=temp(step.max_c, "g")),
                ),
                stricter(
                    days,
                    step.days,
                    "own-keep-days",
                    say("steps.cold_keep.used_or_discarded_within_days", days=num(step.days)),
                ),
                *sour,
            ),
            monitoring=(
                *((watch_ph(3.0, 4.2, SOUR_READ_S),) if sour else ()),
                Monitoring(
                    id="air",
                    what=say("steps.cold_keep.air_in_the_cold_store"),
                    quantity="air",
                    how=say("steps.cold_keep.units_own_logger_or_a_probe"),
                    every_s=43200.0,
                    offsets_s=(0.0,),
                    expected_low_c=min(-1.0, step.max_c - 12),
                    expected_high_c=step.max_c + 1,
                ),
            ),
            corrective_actions=(
                say("steps.cold_keep.above_the_limit_move_it_to"),
                say("steps.cold_keep.past_its_date_discard"),
            ),
            verification=(say("steps.cold_keep.the_lead_reads_the_units_log"),),
        )


def _cold(step: ColdKeep, context: Context) -> Threshold:
    """How cold: what its acid, its salt or its dryness holds needs no colder store than any food."""
    if _is_frozen(step):
        return target("frozen-store", Threshold)
    is_general = _is_held(context) or _by_label(step, context)
    rules = context.general_rules if is_general else context.rules
    return rules.bound_for("keep.cold")


def _days(step: ColdKeep, context: Context) -> Threshold:
    """How many days there are: the rule set's, fewer for guests at higher risk, and for plants under oil that are not
    sour; more for what is kept by its acid, its salt or its dryness."""
    if _is_frozen(step):
        return target("frozen-days", Threshold)
    if _by_label(step, context):
        law = target("label-days", Threshold)
        return law.model_copy(update={"value": min(law.value, step.label_days or law.value)})
    if not _by_itself(step, context):
        return _own_days(context)
    animal = context.tags & _OF_ANIMALS and not _is_without_water(context)
    return target("sour-animal-days" if animal else "sour-days", Threshold)


def _acid(step: ColdKeep, context: Context) -> tuple[Limit, ...]:
    """What is kept by its acid is read for it."""
    by_acid = (
        not _is_frozen(step)
        and _by_itself(step, context)
        and not _by_label(step, context)
        and not _is_without_water(context)
    )
    return (target("keep-sour", Composition),) if by_acid else ()


def _by_itself(step: ColdKeep, context: Context) -> bool:
    """Whether vegetables that a step soured, what was soaked sour to its middle, or what so much salt is in that
    nothing sours, are to be kept for longer than a rule set lets what is kept by cold. Eggs are not: what is in them
    outlives it."""
    return _is_held(context) and step.days > _own_days(context).value


def _is_frozen(step: ColdKeep) -> bool:
    """Whether it is a frozen store."""
    return holds(target("frozen-store", Threshold), step.max_c)


def _by_label(step: ColdKeep, context: Context) -> bool:
    """Whether its days are its maker's: of goods as bought where the label's are said, and opened of what lasts."""
    food = context.food
    return food.lasts or food.is_whole_plants or (food.is_as_bought and (step.label_days > 0 or food.stands_dry))


def _is_held(context: Context) -> bool:
    """Whether its acid, its salt or its dryness holds it, however long it is kept."""
    soured = "soured_through" if context.tags & _OF_ANIMALS else "sour"
    return "egg" not in context.tags and (soured in context.tags or _is_without_water(context))


def _is_without_water(context: Context) -> bool:
    """Whether so much salt or so little water is in it that nothing grows."""
    return bool(context.tags & {"salt_kept", "dry_kept"})


def _own_days(context: Context) -> Threshold:
    days = for_guests(context.guests, context.rules.bound_for("keep.days"))
    assert isinstance(days, Threshold)  # noqa: S101 (a bound stays one)
    oil = target("oil-days", Threshold)
    return oil if _under_oil(context) and oil.value < days.value else days


def _under_oil(context: Context) -> bool:
    """Plants without air and without acid; meat under fat has its own line, by cold and salt."""
    return bool(context.tags & {"under_fat", "plants_in_oil"}) and not context.tags & {"meat", "sour"}


KIND = ColdKeepKind()
