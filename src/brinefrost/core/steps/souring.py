"""Vegetables, meat, milk or beans are changed by what grows in them: it sours them, or a mould grows through them."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import DegreeHours, Ends, Limit, Projection, ReachedBy, Series, Threshold
from brinefrost.core.microbes.organisms import organisms
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import ROOM_H, holds, read_by_the_lead, watch_air, watch_ph, watch_salt
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import LATE_STEP_S, Course, Evidence, MakeStage
from brinefrost.core.steps.trend import approach, level, since_opened
from brinefrost.core.words import num, say, temp

BEGINS_PH, RESTS_PH, SOUR_PH, POINTS = 6.2, 3.6, 4.5, 60  # fresh vegetables on the high side; common practice
MEAT_PH, MEAT_RESTS_PH, MEAT_SOUR_PH = 5.8, 4.9, 5.2  # of a sausage with starter; common practice
DAY_S = 86400.0
ANIMALS = frozenset({"meat", "poultry", "fish", "egg", "crustacean", "bivalve"})
NO_SUGAR = ANIMALS - {"meat", "poultry"}  # nothing in it to sour on; common practice
SWEET = "honey"  # sugar holds back what spoils it until it is sour, and is what it sours on; common practice
STALLED_S = 1.5 * DAY_S  # readings that lie so far apart and are alike say that it stands still
QUICK_READ_S = 6 * 3600.0  # how often what a starter sours within a day is read
READ_S = 4 * 3600.0  # how often a warm chamber is read
GROWN_THROUGH_S = 12 * 3600.0  # how often what a mould or a quick starter grows in is read


class Souring(StepBase):
    """Salted food turns sour by itself or by a starter; or a mould grows through it."""

    kind: Literal["souring"] = "souring"
    salt_percent: float = field("percent", 2, 0, 25, step=0.1, main=True, paper="salt of everything")
    kept_c: float = field("temperature", 18, 0, 50, main=True, paper="kept at")
    sour_days: float = field("time", 5, 0.1, 90, "d", size=86400, paper="sour by day")
    days: float = field("time", 21, 0.1, 730, "d", size=86400, main=True, paper="for")
    starter: bool = field("flag", False)
    mould: bool = field("flag", False)


class SouringKind(StepKind[Souring]):
    """Judged by its pH, and by when it got there: what comes of the plan is the kitchen's own experience."""

    settings = Souring
    sets = {"air": "kept_c", "age": "days", "salt": "salt_percent"}
    logged = "ph"

    def acts(self, step: Souring) -> frozenset[Act]:
        """It makes the food sour; a mould does not, and no more does salt that nothing sours in."""
        return frozenset({"ripens"} if step.mould or _is_salt_kept(step) else {"acidifies"})

    def length_s(self, step: Souring) -> float:
        """Its days."""
        return step.days * 86400.0

    def own_limits(self, step: Souring, context: Context) -> tuple[Limit, ...]:
        """Sour in time, quicker with a starter, at leisure in the cold; meat before it has gathered too many
        degree-hours; grown through in time; or kept by its salt."""
        if _is_meat(context):
            return (target("sausage-5.3", Ends), target("degree-hours-f", DegreeHours))
        if step.mould:
            return (target("mould-days", Threshold),)
        if _is_salt_kept(step):
            return (target("ferment-salt-kept", Threshold),)
        if step.starter:
            return (target("ferment-starter", ReachedBy),)
        if _is_cold(step):
            return (target("ferment-cold", Threshold), target("ferment-cold-4.6", Ends))
        return (target("ferment-4.6", ReachedBy),)

    def work(self, step: Souring, course: Course, context: Context) -> None:
        """The pH as the plan expects it: at 4.5 by the day the kitchen's own ferments are."""
        if "acidifies" not in self.acts(step):
            super().work(step, course, context)
            return
        times = np.linspace(0.0, self.length_s(step), POINTS)
        begins, rests, sour = _turns(context)
        pace = float(np.log((begins - rests) / (sour - rests))) / (step.sour_days * 86400.0)
        ph = rests + (begins - rests) * np.exp(-pace * times)
        course.other[(step.id, "ph")] = Series.computed(times, ph, 0.1)
        if _is_meat(context):
            air = np.full(len(times), step.kept_c)
            course.other[(step.id, "air")] = Series.computed(times, air)
            super().work(step, course, context)

    def project(self, step: Souring, evidence: Evidence, context: Context) -> Projection | None:
        """As it has been turning sour; with one reading, as the kitchen's own do."""
        if evidence.limit is None or evidence.limit.quantity != "ph" or not len(evidence.series):
            return None
        begins, rests, sour = _turns(context)
        planned = float(np.log((begins - rests) / (sour - rests))) / (step.sour_days * DAY_S)
        left = max(self.length_s(step) - since_opened(evidence.series, evidence.now_s), DAY_S)
        found = approach(evidence, rests, left, "pH", planned)
        times = evidence.series.times_s
        if found is None and times[-1] - times[0] >= STALLED_S:
            return level(evidence, float(evidence.series.values[-1]), left, say("steps.ferment.it_does_not_move"))
        return found

    def simulate(self, step: Souring, context: Context, times_s: Array) -> dict[str, Array]:
        """The salt that was weighed in."""
        return {"salt": np.full(len(times_s), step.salt_percent)}

    def stages(self, step: Souring, course: Course, context: Context) -> list[MakeStage]:
        """In its chamber."""
        times = np.array([0.0, self.length_s(step)])
        late = max(LATE_STEP_S, self.length_s(step) / 400)
        return [lambda _: Stage(times, np.full(2, step.kept_c), ROOM_H, late)]

    def makes(self, step: Souring) -> frozenset[str]:
        """Sour, all through; or kept by its salt."""
        return frozenset({"salt_kept"} if _is_salt_kept(step) else () if step.mould else {"sour"})

    def change(self, step: Souring, food: Food) -> Food:
        """Milk is sour to its middle, as vegetables are."""
        left = super().change(step, food)
        through = "sour" in left.made and "dairy" in food.known and not food.known & ANIMALS
        return left.with_made("soured_through") if through else left

    def holds_back(self, step: Souring) -> frozenset[str]:
        """No growth model knows a starter: where one sours meat, pH and degree-hours answer for what grows."""
        return frozenset(organisms()) if step.starter else frozenset()

    def around_c(self, step: Souring) -> float:
        """Where it stands."""
        return step.kept_c

    def find_faults(self, step: Souring, food: Food) -> list[Finding]:
        """Too little or too much salt, too cold or too warm: it may rot before it is sour."""
        found = []
        if food.tags & {"meat", "poultry"} and not step.starter and "acidifies" in self.acts(step):
            said = say("steps.ferment.meat_sours_surely_only_with_starter", name=step.name)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        if food.known & ANIMALS and "ripens" in self.acts(step):
            said = say("steps.souring.only_plants", name=step.name)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        if food.raw & NO_SUGAR and "acidifies" in self.acts(step):
            said = say("steps.ferment.nothing_in_it_to_sour_on", name=step.name)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        needs_none = step.starter or step.mould or food.sour_by_nature or SWEET in food.known
        found += [] if needs_none else _outside_salt(step)
        found += _outside_warmth(step)
        return found

    def control(self, step: Souring, context: Context) -> ControlParts:
        """The line, and the pH every other day."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=_watch(step, context),
            corrective_actions=(
                say("steps.ferment.not_sour_in_time_discard"),
                say("steps.ferment.soft_slimy_or_foul_discard"),
            ),
            verification=read_by_the_lead(),
        )


def _watch(step: Souring, context: Context) -> tuple[Monitoring, ...]:
    """The pH as often as it may turn; the air where that decides, and of meat both."""
    air = watch_air(step.kept_c - 4, step.kept_c + 2, READ_S if _is_meat(context) else GROWN_THROUGH_S)
    if _is_meat(context):
        return (watch_ph(4.4, 6.2, 12 * 3600.0), air)
    if step.mould:
        return (air,)
    if _is_salt_kept(step):
        return (watch_salt(step.salt_percent),)
    if _is_cold(step):
        return (watch_ph(3.2, 6.5, 7 * DAY_S), air)
    return (watch_ph(3.2, 6.5, QUICK_READ_S if step.starter else 2 * DAY_S),)


def _is_cold(step: Souring) -> bool:
    return not step.starter and holds(target("ferment-cold", Threshold), step.kept_c)


def _is_salt_kept(step: Souring) -> bool:
    """Whether there is so much salt that it keeps by that, and not by what sours."""
    return not step.starter and not step.mould and holds(target("ferment-salt-kept", Threshold), step.salt_percent)


def _outside_salt(step: Souring) -> list[Finding]:
    low, high = (target(f"ferment-salt-{end}", Threshold) for end in ("least", "most"))
    if _is_salt_kept(step) or (holds(low, step.salt_percent) and holds(high, step.salt_percent)):
        return []
    least, most = num(low.value), num(high.value)
    said = say("steps.ferment.with_salt_outside_it_may_not", name=step.name, low=least, high=most)
    return [Finding(step=step.id, state="not_proved", sentence=said)]


def _outside_warmth(step: Souring) -> list[Finding]:
    """A starter has a warmth of its own; what sours or keeps in the cold needs none."""
    if step.starter or _is_cold(step) or _is_salt_kept(step):
        return []
    grower = "mould" if step.mould else "ferment"
    cool, warm = (target(f"{grower}-{end}", Threshold) for end in ("coolest", "warmest"))
    if holds(cool, step.kept_c) and holds(warm, step.kept_c):
        return []
    least, most = temp(cool.value, "g"), temp(warm.value, "g")
    said = say("steps.ferment.outside_to_nobody_can_say_when", name=step.name, low=least, high=most)
    return [Finding(step=step.id, state="not_proved", sentence=said)]


def _turns(context: Context) -> tuple[float, float, float]:
    """pH it begins at, comes to rest at, and is called sour at."""
    return (MEAT_PH, MEAT_RESTS_PH, MEAT_SOUR_PH) if _is_meat(context) else (BEGINS_PH, RESTS_PH, SOUR_PH)


def _is_meat(context: Context) -> bool:
    return bool(context.tags & {"meat", "poultry"})


KIND = SouringKind()
