"""Something sour is poured over food, mixed into it, or food is soaked in it."""

from functools import lru_cache
from typing import Literal

import numpy as np

from brinefrost.core.chemistry.diffusion import Piece as Slice
from brinefrost.core.chemistry.diffusion import diffusivity_m2_s, share_in_middle, time_to_middle_s
from brinefrost.core.fields import field
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Composition, Limit, Series
from brinefrost.core.physics.body import Array, Shape
from brinefrost.core.physics.heat import Stage
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.common import (
    ROOM_H,
    colder_or_discard,
    end_core,
    in_hands,
    read_by_the_lead,
    watch_air,
    watch_core,
)
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, Need, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, MakeStage
from brinefrost.core.steps.stricter import for_guests
from brinefrost.core.words import duration, num, say
from brinefrost.core.working import Input, Source, Working

FLESH = frozenset(ANIMALS) - {"egg"} | {"unknown"}  # acid takes its time to the middle of it; an egg is stirred
SOUR_PH = 4.6  # FDA Food Code 2022, 1-201.10
NEARLY = 0.9  # of a soak: from then on a blended sample tells; common practice


class Dressing(StepBase):
    """Something sour comes to the food."""

    kind: Literal["dressing"] = "dressing"
    way: Literal["poured", "mixed", "soaked"] = field("choice", "mixed", main=True)
    ph: float = field("ph", 4.0, 2, 7, step=0.1, main=True, paper="comes to")
    duration_s: float = field("time", 900, 60, 7 * 86400, "min", 300, main=True, paper="for")
    kept_c: float = field("temperature", 4, 0, 40, paper="kept at")
    soaked_m: float = field("length", 0.02, 0.001, 0.1, "mm", 0.001, only={"way": ("soaked",)}, paper="pieces of")


class DressingKind(StepKind[Dressing]):
    """What acid has not made sour all through it only flavours: the cold it lies in is judged, or its time out of it;
    else its pH is."""

    settings = Dressing
    sets = {"core": "kept_c", "air": "kept_c"}
    logged = "ph"

    def acts(self, step: Dressing) -> frozenset[Act]:
        """What is poured over, or soaked for too short a time, is not sour in its middle."""
        return frozenset({"acidifies"} if sours(step) else {"handles"} if _is_short(step) else {"handles", "keeps"})

    def makes(self, step: Dressing) -> frozenset[str]:
        """Sour, where it goes all through."""
        through = {"sour", "soured_through"} if step.way == "soaked" else {"sour"}
        outside = {"sour_outside"} if step.ph <= SOUR_PH else set[str]()
        return frozenset(through if sours(step) else outside)

    def change(self, step: Dressing, food: Food) -> Food:
        """It with the pH it is meant to come to, where that goes all through."""
        left = super().change(step, food)
        return left.entered(mixed_ph=step.ph) if sours(step) else left

    def length_s(self, step: Dressing) -> float:
        """As long as it takes."""
        return step.duration_s

    def tells_after_s(self, step: Dressing, limit: Limit) -> float:
        """A soak has to come to the middle first."""
        return NEARLY * step.duration_s if step.way == "soaked" and limit.quantity == "ph" else 0.0

    def own_limits(self, step: Dressing, context: Context) -> tuple[Limit, ...]:
        """How long it lies between cold and hot, as under hands, or the line of what it is: raw eggs have their own."""
        colds = (context.general_rules.bound_for("keep.cold"),) if _lies_cold(step, context) else ()  # no cook-chill
        cold = tuple(for_guests(context.guests, each) for each in colds)
        if not sours(step):
            return (in_hands(),) if _is_short(step) else cold
        sour = target("ph-raw-egg" if "egg" in context.tags else "ph-4.6", Composition)
        return (*cold, sour)

    def stages(self, step: Dressing, course: Course, context: Context) -> list[MakeStage]:
        """Where it stands."""
        return [lambda _: Stage.steady(step.duration_s, step.kept_c, ROOM_H)]

    def work(self, step: Dressing, course: Course, context: Context) -> None:
        """Its warmth; and where it goes all through, the pH it is meant to come to."""
        super().work(step, course, context)
        if sours(step):
            times = np.array([0.0, step.duration_s])
            course.other[(step.id, "ph")] = Series.computed(times, np.full(2, step.ph))

    def simulate(self, step: Dressing, context: Context, times_s: Array) -> dict[str, Array]:
        """What a meter with no fault would read of it, and of the air around it."""
        return {"ph": np.full(len(times_s), step.ph), "air": np.full(len(times_s), step.kept_c)}

    def around_c(self, step: Dressing) -> float:
        """Where it stands."""
        return step.kept_c

    def follows_core(self, step: Dressing, limit: Limit) -> bool:
        """How warm it comes in counts: raw food sliced in a warm kitchen is not cold because a bowl stands cold."""
        return True

    def needs_later(self, step: Dressing, food: Food) -> Need | None:
        """What is sour all through wants the cold all the same."""
        if not sours(step):
            return None
        said = say("steps.dress.is_not_kept_by_acid_alone", name=step.name)
        return Need("cold", Finding(step=step.id, state="not_proved", sentence=said))

    def workings(self, step: Dressing, course: Course, context: Context) -> list[Working]:
        """How long a soak takes to the middle, where it is too short to be more than flavour."""
        if step.way != "soaked" or sours(step):
            return []
        piece = Slice(Shape.slab, step.soaked_m, diffusivity_m2_s("acid", step.kept_c))
        return [
            Working(
                title=say("steps.dress.acid_in", name=step.name),
                formula=say("steps.dress.share_in_the_middle", share=num(100 * NEARLY)),
                inputs=(
                    Input(name=say("working.heat.thickness"), value=1000 * step.soaked_m, unit="mm"),
                    Input(name="pH", value=step.ph),
                ),
                result=say(
                    "steps.dress.flavour_alone", needed=duration(time_to_middle_s(piece, NEARLY)), line=num(SOUR_PH)
                ),
                source=Source(citation="Crank (1975), The Mathematics of Diffusion, ch. 4", tag="published"),
            )
        ]

    def control(self, step: Dressing, context: Context) -> ControlParts:
        """How warm what lies under acid is; the pH of a blended sample of what is sour."""
        limits = self.own_limits(step, context)
        if not sours(step):
            core = (watch_core(-1, step.kept_c + 2, (0.0,)), end_core(step.kept_c + 2))
            return ControlParts(
                limits=limits,
                monitoring=core if _is_short(step) else (watch_air(-1, step.kept_c + 1, 43200.0),),
                corrective_actions=colder_or_discard(),
                verification=read_by_the_lead(),
            )
        return ControlParts(
            limits=limits,
            monitoring=(
                *((watch_air(-1, step.kept_c + 1, 43200.0),) if _lies_cold(step, context) else ()),
                Monitoring(
                    id="ph",
                    what=say("steps.pickle.ph_of_a_blended_drained_sample"),
                    quantity="ph",
                    how=say("steps.pickle.meter_set_on_two_buffers_today"),
                    expected_low_c=round(step.ph - 0.5, 1),
                    expected_high_c=round(step.ph + 0.3, 1),
                ),
            ),
            corrective_actions=(say("steps.dress.above_the_limit_add_acid"),),
            verification=read_by_the_lead(),
        )


def sours(step: Dressing) -> bool:
    """Whether it is sour all through when it is over: mixed in, or soaked for as long as acid takes to the middle."""
    if step.way == "poured" or step.ph > SOUR_PH:
        return False
    return step.way == "mixed" or _is_through(step.soaked_m, step.kept_c, step.duration_s)


def _is_short(step: Dressing) -> bool:
    """Whether it is over before the cold is asked for."""
    return step.duration_s <= in_hands().within_s


def _lies_cold(step: Dressing, context: Context) -> bool:
    """Whether it is for the cold to hold it: with its marinade; meat and fish until the acid is through them, too."""
    return not _is_short(step) and (not sours(step) or bool(context.tags & FLESH))


@lru_cache(maxsize=256)
def _is_through(soaked_m: float, kept_c: float, duration_s: float) -> bool:
    piece = Slice(Shape.slab, soaked_m, diffusivity_m2_s("acid", kept_c))
    return float(share_in_middle(piece, np.array([duration_s]))[0]) >= NEARLY


KIND = DressingKind()
