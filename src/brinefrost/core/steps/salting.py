"""Salt goes into the food, rubbed on or out of a brine, until its middle has what was meant."""

from typing import Literal

import numpy as np

from brinefrost.core.chemistry.diffusion import Piece as Slab
from brinefrost.core.chemistry.diffusion import across, diffusivity_m2_s, share_in_middle, time_to_middle_s
from brinefrost.core.chemistry.nitrite import CURES, NITRATES, ingoing_ppm
from brinefrost.core.fields import field
from brinefrost.core.limits import Limit, Looked, Series, Threshold, TimeAbove
from brinefrost.core.limits.looked import RIGHT
from brinefrost.core.physics.body import Array, Shape
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import asked
from brinefrost.core.steps.common import (
    colder_or_discard,
    end_core,
    holds,
    in_hands,
    read_by_the_lead,
    read_first,
    watch_air,
    watch_core,
)
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food, Piece
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import LATE_STEP_S, Course, MakeStage
from brinefrost.core.words import duration, num, say
from brinefrost.core.working import Input, Source, Working

POINTS = 120
DAY_S = 86400.0
FLESH = (("poultry", "poultry"), ("fish", "fish"), ("pork", "pork"))  # by the Bench's names
FRIDGE_H = 10.0  # [W/m²·K], common practice
# under brine there is no air: what holds non-proteolytic C. botulinum, and the cold below which it does not grow;
# FDA, Fish and Fishery Products Hazards and Controls Guidance, ch. 13
AIRLESS_PERCENT, AIRLESS_C = 5.0, 3.0
PLACES = np.linspace(0.0, 1.0, 21)  # from the middle to the surface
TAKEN_UP = 0.25  # of its salt that is in the piece, and goes on to the middle by itself; common practice, no source
EVEN = 0.9  # of the final strength in the middle: common practice for cured through


CURED = ("no1", "no2", "eu_0.6", "eu_0.5", "eu_0.4")  # salts that bring nitrite
NEARLY_OVER = 0.9  # of a salting shorter than that: then at its end; common practice, no source


class Salting(StepBase):
    """Salt goes into the food."""

    kind: Literal["salting"] = "salting"
    way: Literal["rubbed", "brined"] = field("choice", "rubbed")
    salt_percent: float = field("percent", 1.8, 0.1, 25, step=0.1, main=True, paper="salt at rest")
    thickness_m: float = field("length", ..., 0.003, 0.3, "mm", 0.005, main=True)
    duration_s: float = field("time", ..., 600, 60 * 86400, "h", 3600, main=True, paper="for")
    kept_c: float = field("temperature", 3, -2, 15, paper="kept at")
    cure: Literal["none", "no1", "no2", "eu_0.6", "eu_0.5", "eu_0.4"] = field("choice", "none", paper="curing salt")
    cure_g_kg: float = field("number", 0, 0, 100, "g/kg", 0.1, only={"cure": CURED}, paper="so much of it")


class SaltingKind(StepKind[Salting]):
    """Judged by the cold it stands in; the salt in its middle is worked out."""

    settings = Salting
    sets = {"core": "kept_c"}
    blank = {"thickness_m": 0.04, "duration_s": 18 * 3600}
    logged = "air"

    def acts(self, step: Salting) -> frozenset[Act]:
        """It salts, in the cold; a pinch before the pan is work by hand."""
        return frozenset({"handles"} if _is_short(step) else {"salts", "keeps"})

    def length_s(self, step: Salting) -> float:
        """As long as it lies."""
        return step.duration_s

    def piece(self, step: Salting) -> Piece:
        """The piece it is planned for."""
        return Piece(step.thickness_m, step.kept_c)

    def own_limits(self, step: Salting, context: Context) -> tuple[Limit, ...]:
        """Meat and brine stay cold, with enough nitrite that cold answers for what grows; for a while in hands."""
        if _is_short(step):
            return (in_hands(),)
        cold = target("curing-cold" if "nitrited" in self.makes(step) else "salting-cold", Threshold)
        return (cold, *((_cure_limit(step),) if nitrite_ppm(step) > 0 else ()))

    def declare(self, step: Salting, limit: Limit) -> float | None:
        """That the curing salt is weighed as it says is what the plan means to find."""
        return RIGHT if isinstance(limit, Looked) else super().declare(step, limit)

    def simulate(self, step: Salting, context: Context, times_s: Array) -> dict[str, Array]:
        """Curing salt as it ought to be."""
        return {"looks": np.full(len(times_s), RIGHT)} if nitrite_ppm(step) > 0 else {}

    def stages(self, step: Salting, course: Course, context: Context) -> list[MakeStage]:
        """In the cold."""
        times = np.array([0.0, step.duration_s])
        return [lambda _: Stage(times, np.full(2, step.kept_c), FRIDGE_H, max(LATE_STEP_S, step.duration_s / 400))]

    def work(self, step: Salting, course: Course, context: Context) -> None:
        """The cold, and salt on its way to the middle."""
        super().work(step, course, context)
        times = np.linspace(0.0, step.duration_s, POINTS)
        middle = step.salt_percent * share_in_middle(_slab(step), times)
        course.other[(step.id, "salt")] = Series.computed(times, middle)

    def follows_core(self, step: Salting, limit: Limit) -> bool:
        """How warm it comes in counts: warm meat in a cold brine is not cold."""
        return isinstance(limit, Threshold | TimeAbove)

    def tells_after_s(self, step: Salting, limit: Limit) -> float:
        """What hands had a while comes down to the cold first: as long as hands may have it, and no longer."""
        if limit.quantity != "core" or _is_short(step):
            return 0.0
        return min(in_hands().within_s, NEARLY_OVER * step.duration_s)

    def makes(self, step: Salting) -> frozenset[str]:
        """Cured, where there is enough of it and it has gone in; salted through, or so much that salt alone holds it,
        once its middle has it; with nitrite that holds spores back."""
        if not _cures(step) or _is_short(step):
            return frozenset()
        middle = step.salt_percent * float(share_in_middle(_slab(step), np.array([step.duration_s]))[0])
        made = {
            "cured": True,
            "salted_through": holds(target("salt-cures", Threshold), middle),
            "salted_hard": holds(target("salt-through-4.5", Threshold), middle),
            "nitrited": holds(target("nitrite-holds", Threshold), nitrite_ppm(step)),
        }
        return frozenset(name for name, is_so in made.items() if is_so)

    def find_faults(self, step: Salting, food: Food) -> list[Finding]:
        """Enough of it holds back what grows; less is seasoning, and lies no longer than cold food does."""
        cures, days = _cures(step), target("seasoned-days", Threshold)
        if holds(days, step.duration_s / DAY_S):
            return []
        if cures and not (step.way == "brined" and step.salt_percent < AIRLESS_PERCENT and step.kept_c > AIRLESS_C):
            return []
        said = say("steps.salt.seasons_and_lies_too_long", name=step.name, most=duration(days.value * DAY_S))
        return [Finding(step=step.id, state="not_proved", sentence=said)]

    def around_c(self, step: Salting) -> float:
        """The air the plan sets."""
        return step.kept_c

    def control(self, step: Salting, context: Context) -> ControlParts:
        """Cold once it has come down, and throughout; or the core before and behind."""
        limits = self.own_limits(step, context)
        down_s = max((self.tells_after_s(step, limit) for limit in limits), default=0.0)
        air = (end_core(step.kept_c + 2),) if _is_short(step) else (watch_air(-2, step.kept_c + 1, 43200.0),)
        return ControlParts(
            limits=limits,
            monitoring=(
                watch_core(-2, step.kept_c + 2, (down_s,)),
                *air,
                *((_watch_cure(step),) if any(isinstance(limit, Looked) for limit in limits) else ()),
            ),
            corrective_actions=colder_or_discard(),
            verification=read_by_the_lead(),
        )

    def vary(self, step: Salting) -> list[tuple[str, Salting]]:
        """What usually goes differently."""
        thicker = step.model_copy(update={"thickness_m": min(1.2 * step.thickness_m, 0.3)})
        return [(say("steps.heat.a_fifth_thicker"), thicker)]

    def asked(self, step: Salting, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on salt: as much rubbed on as is in it at rest, whichever way it goes in."""
        flesh = next((each for tag, each in FLESH if tag in context.tags), "red_meat")
        salt_kg = context.food_kg * step.salt_percent / (100 - step.salt_percent)
        return asked(
            "salt",
            way="dry",
            purpose="season",
            flesh=flesh,
            food_kg=context.food_kg,
            salt_kg=salt_kg,
            thickness_m=step.thickness_m,
            duration_s=step.duration_s,
            kept_c=max(step.kept_c, 0.0),
        )

    def workings(self, step: Salting, course: Course, context: Context) -> list[Working]:
        """Diffusion to the middle."""
        middle = float(course.other[(step.id, "salt")].values[-1])
        even = time_to_middle_s(_slab(step), EVEN)
        return [
            Working(
                title=say("working.salt.salt_in_the_middle_of", name=step.name),
                formula=say("working.salt.crank_slab_half_the_thickness"),
                inputs=(
                    Input(name=say("working.heat.thickness"), value=1000 * step.thickness_m, unit="mm"),
                    Input(name=say("working.salt.at_rest"), value=step.salt_percent, unit="%"),
                    Input(name=say("working.salt.nine_tenths_after"), value=duration(even)),
                ),
                result=say("working.salt.percent_in_the_middle", middle=num(middle, ".2f")),
                source=Source(
                    citation="Crank (1975), ch. 4; diffusivity of salt in flesh, on the slow side", tag="published"
                ),
            )
        ]


def _cure_limit(step: Salting) -> Looked:
    """Its curing salt on a scale: too little holds nothing back, too much is poison."""
    title = say("steps.salt.curing_salt_weighed", g=num(step.cure_g_kg))
    return target("cure-weighed", Looked).model_copy(update={"title": title})


def _watch_cure(step: Salting) -> Monitoring:
    what, how = (
        say("steps.salt.curing_salt_weighed", g=num(step.cure_g_kg)),
        say("steps.salt.on_a_scale_that_shows_a_gram"),
    )
    return read_first("cure", "looks", what, how, (0.0, 1.0))


def nitrite_ppm(step: Salting) -> float:
    """Ingoing sodium nitrite of its curing salt [mg/kg], on all that it goes into. Valid for every salting."""
    if step.cure == "none" or step.cure_g_kg <= 0:
        return 0.0
    return ingoing_ppm("dry", step.cure_g_kg / 1000, CURES[step.cure], 1.0)


def nitrate_ppm(step: Salting) -> float:
    """Ingoing sodium nitrate of its curing salt [mg/kg], on all that it goes into. Valid for every salting."""
    return 1000 * step.cure_g_kg * NITRATES.get(step.cure, 0.0) / 100 if step.cure != "none" else 0.0


def _is_short(step: Salting) -> bool:
    """Whether it is over before the cold is asked for."""
    warm = not holds(target("salting-cold", Threshold), step.kept_c)
    return warm and step.duration_s <= in_hands().within_s


def _cures(step: Salting) -> bool:
    """Whether it is enough to hold back what grows, and has gone in."""
    taken_up = float(np.mean(across(_slab(step), step.duration_s, PLACES)))
    return holds(target("salt-cures", Threshold), step.salt_percent) and taken_up >= TAKEN_UP


def _slab(step: Salting) -> Slab:
    return Slab(Shape.slab, step.thickness_m, diffusivity_m2_s("salt_meat", max(step.kept_c, 0.0)))


KIND = SaltingKind()
