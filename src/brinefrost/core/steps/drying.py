"""Food dries until so little water is free in it that what spoils it cannot grow."""

from typing import Literal

import numpy as np

from brinefrost.core.chemistry.water_activity import aw_of_mixture, loss_for_aw
from brinefrost.core.fields import field
from brinefrost.core.limits import Ends, Limit, Projection, Series, Threshold
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import asked
from brinefrost.core.steps.common import colder_or_discard, holds, read_by_the_lead, watch_air, watch_core
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.drying_lines import is_for_plants, line_of_air
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import LATE_STEP_S, Course, Evidence, MakeStage
from brinefrost.core.words import Words, num, percent, say
from brinefrost.core.working import Input, Source, Working

POINTS = 60
PACE = 3.0  # of the loss: nineteen twentieths by the end of its time; common practice, no source
CHAMBER_H = 15.0  # moved air [W/m²·K], common practice
MOST_AHEAD_S = 120 * 86400.0
SATURATED = 2.85  # water to salt by mass where no more dissolves: 26 % brine, at 20 °C
SYRUP = 1 / 2.9  # water to sugar where the sum of its water activity ends
COLD_C = 5.0  # up to where food hangs in the cold: FDA Food Code 2022, 3-501.16
HOT_C = 57.0  # the coolest line of hot holding, FDA Food Code 2022, 3-501.16
WEIGHED_S = 2 * 86400.0
WARM_READ_S = 2 * 3600.0  # how often a warm chamber is read; common practice, no source
DOUBT_AW = 0.01  # of an estimate from salt, sugar and water
SUGAR = "glucose"  # of plants, and on the side of sucrose that holds less


class Drying(StepBase):
    """Food dries in moved air: cold, warm once it is cured through, or as hot as nothing grows in."""

    kind: Literal["drying"] = "drying"
    surroundings_c: float = field("temperature", 4, 0, 80, main=True, paper="in")
    water_percent: float = field("percent", 62, 20, 97, step=0.5, paper="water at the start")
    salt_percent: float = field("percent", 2.8, 0, 12, step=0.1, paper="salt at the start")
    sugar_percent: float = field("percent", 0, 0, 70, step=0.5, paper="sugar at the start")
    loss_percent: float = field("percent", 32, 2, 95, step=0.5, main=True, paper="loses")
    target_aw: float = field("number", 0.93, 0.75, 0.99, "aw", 0.005, main=True, paper="down to")
    duration_s: float = field("time", 14 * 86400, 1800, MOST_AHEAD_S, "d", 3600, main=True, paper="for")


def loss_at(step: Drying, times_s: Array) -> Array:
    """How much of its mass is gone at times since it began [%], (n,). Valid from 0 on; quick at first, then slower."""
    gone = (1 - np.exp(-PACE * times_s / step.duration_s)) / (1 - np.exp(-PACE))
    return np.asarray(step.loss_percent * np.minimum(gone, 1.0))


def aw_at(step: Drying, loss_percent: Array) -> Array:
    """Water activity after losses [%], (n,), of its salt and sugar in the water left. Valid until that is full."""
    salt, sugar, water = step.salt_percent / 100, step.sugar_percent / 100, step.water_percent / 100
    least = max(SATURATED * salt, SYRUP * sugar, 0.002)
    sugars = {SUGAR: sugar}
    return np.array([aw_of_mixture(salt, sugars, max(water - loss / 100, least)) for loss in loss_percent])


class DryingKind(StepKind[Drying]):
    """Judged by its water activity when it ends, and by the air it hangs in; by the cold alone where it only dries its
    surface, or ages."""

    settings = Drying
    sets = {"air": "surroundings_c"}
    logged = "air"
    carried_by = ("loss",)

    def acts(self, step: Drying) -> frozenset[Act]:
        """It dries, and stores meanwhile: cold, or hot."""
        if _is_aged(step):
            return frozenset({"handles", "keeps"})
        return frozenset({"dries", "holds"} if step.surroundings_c >= HOT_C else {"dries", "keeps"})

    def makes(self, step: Drying) -> frozenset[str]:
        """So dry that nothing grows in it, where that is what it is dried to."""
        return frozenset({"dry_kept"} if holds(target("dry-kept", Threshold), step.target_aw) else ())

    def length_s(self, step: Drying) -> float:
        """Its days."""
        return step.duration_s

    def topics(self, step: Drying, context: Context) -> tuple[str, ...]:
        """The cold of the store it hangs in, or that it is as hot as what is held hot."""
        if _is_aged(step):
            return ("keep.cold",)
        if context.food.needs_no_cold or _line(step, context):
            return ()
        return ("hold.hot",) if _is_hot(step, context) else ("keep.cold",)

    def own_limits(self, step: Drying, context: Context) -> tuple[Limit, ...]:
        """As dry as the plan asks; and as cold as raw food, or no warmer than what is cured through may hang."""
        if _is_aged(step):
            return super().own_limits(step, context)
        warm = _line(step, context)
        counts = _counts_on_it(step) or not is_for_plants(warm)
        dried = (_dried_line(step),) if counts else ()
        return (*super().own_limits(step, context), *((warm,) if warm else ()), *dried)

    def stages(self, step: Drying, course: Course, context: Context) -> list[MakeStage]:
        """In its air."""
        times = np.array([0.0, step.duration_s])
        late = max(LATE_STEP_S, step.duration_s / 400)
        return [lambda _: Stage(times, np.full(2, step.surroundings_c), CHAMBER_H, late)]

    def work(self, step: Drying, course: Course, context: Context) -> None:
        """Its air, its loss, its water activity."""
        super().work(step, course, context)
        times = np.linspace(0.0, step.duration_s, POINTS)
        loss = loss_at(step, times)
        course.other[(step.id, "loss")] = Series.computed(times, loss)
        if not _is_aged(step):
            course.other[(step.id, "aw")] = Series.computed(times, aw_at(step, loss), DOUBT_AW)

    def follows_core(self, step: Drying, limit: Limit) -> bool:
        """How hot it is in hot air."""
        return limit.quantity == "core"

    def around_c(self, step: Drying) -> float:
        """The air the plan sets."""
        return step.surroundings_c

    def control(self, step: Drying, context: Context) -> ControlParts:
        """The air twice a day, the mass every other day, the water activity at the end."""
        if _is_aged(step):
            return ControlParts(
                limits=self.own_limits(step, context),
                monitoring=(watch_air(-1, step.surroundings_c + 2, 43200.0),),
                corrective_actions=colder_or_discard(),
                verification=read_by_the_lead(),
            )
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                _watch_chamber(step, context),
                *((_hot_core(step),) if "hold.hot" in self.topics(step, context) else ()),
                Monitoring(
                    id="mass",
                    what=say("steps.dry.mass_of_the_marked_piece"),
                    quantity="mass",
                    how=say("steps.dry.the_same_piece_on_the_same_scale"),
                    offsets_s=(0.0,),
                    every_s=WEIGHED_S,
                    expected_low_c=0.001,
                    expected_high_c=500,
                ),
                Monitoring(
                    id="aw",
                    what=say("steps.dry.water_activity_of_its_middle"),
                    quantity="aw",
                    how=say("steps.dry.a_slice_of_the_thickest_in_the_meter"),
                    expected_low_c=round(step.target_aw - 0.08, 3),
                    expected_high_c=round(step.target_aw + 0.01, 3),
                ),
            ),
            corrective_actions=(say("steps.dry.not_dry_enough_hang_on"), *colder_or_discard()),
            verification=read_by_the_lead(),
        )

    def find_faults(self, step: Drying, food: Food) -> list[Finding]:
        """It cannot lose more than the water that is in it, nor be more than all of itself."""
        said = list[Words]()
        if step.loss_percent >= step.water_percent:
            water, lost = percent(step.water_percent), percent(step.loss_percent)
            said.append(say("steps.dry.loses_more_than_its_water", name=step.name, lost=lost, water=water))
        if not _adds_up(step):
            said.append(say("steps.dry.water_salt_and_sugar_are_too_much", name=step.name))
        return [Finding(step=step.id, state="not_proved", sentence=each) for each in said]

    def vary(self, step: Drying) -> list[tuple[str, Drying]]:
        """What usually goes differently."""
        less = step.model_copy(update={"loss_percent": 0.8 * step.loss_percent})
        return [(say("steps.dry.a_fifth_less_lost"), less)]

    def inverse_s(self, step: Drying, limit: Limit, context: Context) -> float | None:
        """When it is dry enough."""
        if limit.quantity != "aw":
            return None
        times = np.linspace(0.0, step.duration_s, 4 * POINTS)
        for time, value in zip(times, aw_at(step, loss_at(step, times)), strict=True):
            if limit.evaluate(Series.of(float(value), DOUBT_AW, "computed"), 0.0).state == "pass":
                return float(time)
        return None

    def remedies(self, step: Drying, limit: Limit, context: Context) -> list[str]:
        """How much it has to lose."""
        if limit.quantity != "aw":
            return super().remedies(step, limit, context)
        needed = _find_needed(step)
        if needed is None:
            return [say("steps.dry.drying_alone_does_not_get_there")]
        return [say("steps.dry.it_has_to_lose", needed=percent(100 * needed))]

    def asked(self, step: Drying, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on drying."""
        return asked(
            "dry",
            mass_kg=max(context.food_kg, 0.05),
            water_percent=step.water_percent,
            salt_percent=step.salt_percent,
            glucose_percent=step.sugar_percent,
            lost_percent=step.loss_percent,
            target_aw=step.target_aw,
            chamber=[],
        )

    def workings(self, step: Drying, course: Course, context: Context) -> list[Working]:
        """Salt in the water that is left."""
        if _is_aged(step):
            return []
        last = float(course.other[(step.id, "aw")].values[-1])
        return [
            Working(
                title=say("working.dry.water_activity_of", name=step.name),
                formula=say("working.dry.salt_in_the_water_left"),
                inputs=(
                    Input(name=say("working.dry.water"), value=step.water_percent, unit="%"),
                    Input(name=say("working.dry.salt"), value=step.salt_percent, unit="%"),
                    Input(name=say("working.dry.sugar"), value=step.sugar_percent, unit="%"),
                    Input(name=say("working.dry.loss"), value=step.loss_percent, unit="%"),
                ),
                result=say("working.dry.aw_at_the_end", aw=num(last, ".3f"), doubt=num(DOUBT_AW)),
                source=Source(citation="Pitzer & Mayorga (1973), salt in water at 25 °C", tag="published"),
                assumptions=(say("working.dry.as_even_as_if_it_rested"),),
            )
        ]

    def project(self, step: Drying, evidence: Evidence, context: Context) -> Projection | None:
        """Its water activity by how quickly it has lost so far."""
        lost = evidence.beside["loss"]
        if evidence.limit is None or evidence.limit.quantity != "aw" or not len(lost) or lost.opened_s is None:
            return None
        return _carry(step, lost, evidence.series)

    def simulate(self, step: Drying, context: Context, times_s: Array) -> dict[str, Array]:
        """What a scale and a meter with no fault would read of a piece of a kilogram."""
        loss = loss_at(step, times_s)
        return {"mass": 1.0 - loss / 100, "aw": aw_at(step, loss)}


def _is_aged(step: Drying) -> bool:
    """Whether it hangs in the cold and nothing counts on how dry it gets: a bird's skin, an aged rib."""
    return step.surroundings_c <= COLD_C and not _counts_on_it(step)


def _counts_on_it(step: Drying) -> bool:
    """Whether it gets so dry that something counts on it: half-dried tomatoes are kept by the cold."""
    return holds(target("dried-aw", Ends), step.target_aw)


def _is_hot(step: Drying, context: Context) -> bool:
    """Whether it dries in air as hot as food is held hot in."""
    return holds(context.rules.bound_for("hold.hot"), step.surroundings_c)


def _line(step: Drying, context: Context) -> Threshold | None:
    """The line of its air, where neither the cold nor its acid keeps it; flesh in hot air is held hot."""
    if context.food.needs_no_cold:
        return None
    found = line_of_air(context.food, step.surroundings_c, step.duration_s)
    return found if is_for_plants(found) or not _is_hot(step, context) else None


def _watch_chamber(step: Drying, context: Context) -> Monitoring:
    """Its air twice a day; every two hours where it has to be warm."""
    line = _line(step, context)
    if line is None or not is_for_plants(line):
        return watch_air(-1, step.surroundings_c + 2, 43200.0)
    return watch_air(line.value, step.surroundings_c + 2, WARM_READ_S)


def _hot_core(step: Drying) -> Monitoring:
    """The core every hour, as of what is held hot."""
    return watch_core(HOT_C, step.surroundings_c + 1, (0.0,)).model_copy(update={"every_s": 3600.0})


def _find_needed(step: Drying) -> float | None:
    """The share of its mass it has to lose, doubt included; None where drying alone does not get there."""
    if not _adds_up(step):
        return None
    sugars = {SUGAR: step.sugar_percent / 100}
    return loss_for_aw(1, step.water_percent / 100, step.salt_percent / 100, sugars, step.target_aw - DOUBT_AW)


def _adds_up(step: Drying) -> bool:
    """Whether its water, salt and sugar are no more than all of it."""
    return step.water_percent + step.salt_percent + step.sugar_percent <= 100


def _as_far_as(step: Drying, loss_percent: float) -> float:
    """When it is planned to have lost as much [s]. Valid below all it is planned to lose."""
    return float(-step.duration_s / PACE * np.log(1 - loss_percent / step.loss_percent * (1 - np.exp(-PACE))))


def _carry(step: Drying, lost: Series, read: Series) -> Projection | None:
    """The planned loss at the pace of the last weighing, the water activity after it, as far off as its meter was."""
    opened_s, last_s = float(lost.opened_s or 0.0), float(lost.times_s[-1])
    paces = []
    for doubt in (0.0, -lost.uncertainty, lost.uncertainty):
        loss = float(np.clip(lost.values[-1] + doubt, 0.0, 0.999 * step.loss_percent))
        paces.append(_as_far_as(step, loss) / max(last_s - opened_s, 1.0))
    if paces[0] <= 0:
        return None
    times = last_s + np.linspace(0.0, min(step.duration_s / paces[0], MOST_AHEAD_S), POINTS)
    off = DOUBT_AW
    if len(read):
        then = loss_at(step, np.array([paces[0] * (read.times_s[-1] - opened_s)]))
        off = float(read.values[-1] - aw_at(step, then)[0])
    cases = [aw_at(step, loss_at(step, pace * (times - opened_s))) + off for pace in paces]
    working = Working(
        title=say("working.dry.when_it_is_dry"),
        formula=say("working.dry.planned_loss_at_the_pace_so_far"),
        inputs=(
            Input(name=say("working.dry.loss"), value=round(float(lost.values[-1]), 1), unit="%"),
            Input(name=say("working.core_course.pace_s_against_the_plan"), value=round(paces[0], 3)),
            Input(name=say("working.dry.added_for_doubt"), value=round(off, 3)),
        ),
        result=say("working.dry.aw_at_the_end", aw=num(float(cases[0][-1]), ".3f"), doubt=num(DOUBT_AW)),
        source=Source(citation="Pitzer & Mayorga (1973), salt in water at 25 °C", tag="published"),
        assumptions=(
            say("working.core_course.nothing_changes_from_here_on"),
            say("working.dry.as_even_as_if_it_rested"),
        ),
        valid_range=say("working.core_course.a_planning_estimate_it_warns_it"),
    )
    rest, planned_s = float(cases[0][-1]), opened_s + step.duration_s
    return Projection(times, cases[0], cases[1], cases[2], working, settles_at=rest, near=0.005, planned_s=planned_s)


def _dried_line(step: Drying) -> Ends:
    """As dry as the plan asks."""
    law = target("dried-aw", Ends)
    return law.model_copy(update={"value": min(step.target_aw, law.value)})


KIND = DryingKind()
