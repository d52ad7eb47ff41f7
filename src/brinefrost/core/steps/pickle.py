"""Brine is poured over vegetables: sour in the middle, in the end, and kept cold or on the shelf."""

from functools import lru_cache
from typing import Literal

import numpy as np

from brinefrost.core.chemistry.acid import Solution, balance
from brinefrost.core.chemistry.diffusion import Piece as Slice
from brinefrost.core.chemistry.diffusion import diffusivity_m2_s, share_in_middle, time_to_middle_s
from brinefrost.core.chemistry.jar import (
    DOUBT_PH,
    Jar,
    VegetableKey,
    resting_ph,
    solution_of,
    vinegar_needed_kg,
    vinegar_to_add_kg,
)
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Composition, Limit, Projection, Series
from brinefrost.core.physics.body import Array, Shape
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.asks import asked
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Asked, ControlParts, Finding, Monitoring, Need, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.state import Course, Evidence
from brinefrost.core.words import duration, grams, num, say
from brinefrost.core.working import Input, Source, Working

DAY_S = 86400.0
POINTS = 120
SHARES = 40  # points of the middle's pH against the share of acid that has come there
NEARLY = 0.99  # of the final strength: what is called at rest
TELLING = 0.95  # of it in the middle: from here on a blended sample tells; before, the brine may be all that is read


class Pickle(StepBase):
    """Brine is poured over vegetables."""

    kind: Literal["pickle"] = "pickle"
    vegetable: VegetableKey = field("choice", "courgette", main=True)
    vegetable_kg: float = field("mass", ..., 0.01, 500, "kg", 0.05, paper="of it")
    vinegar_kg: float = field("mass", ..., 0, 500, "kg", 0.05, main=True)
    vinegar_percent: float = field("percent", 6, 0.5, 25, step=0.1, main=True, paper="acid in the vinegar")
    water_kg: float = field("mass", 0, 0, 500, "kg", 0.05)
    salt_kg: float = field("mass", 0, 0, 100, "g", 0.005)
    sugar_kg: float = field("mass", 0, 0, 300, "g", 0.01)
    piece_m: float = field("length", 0.005, 0.001, 0.1, "mm", 0.001, main=True, paper="thickest piece")
    kept_c: float = field("temperature", 4, 0, 40, paper="kept at")
    keep: Literal["fridge", "shelf"] = field("choice", "fridge", main=True, paper="for the")


def jar_of(step: Pickle) -> Jar:
    """What goes in, by mass."""
    parts = ("vegetable", "vegetable_kg", "vinegar_kg", "vinegar_percent", "water_kg", "salt_kg", "sugar_kg")
    return Jar.model_validate({name: getattr(step, name) for name in parts})


def _slice(step: Pickle) -> Slice:
    return Slice(Shape.slab, step.piece_m, diffusivity_m2_s("acid", step.kept_c))


def middle_ph(step: Pickle, times_s: Array) -> Array:
    """pH in the middle of a piece at times since the brine was poured over [s], (n,).

    Valid for one temperature from the start on. The middle is taken to hold the share of the acids that has come to it,
    with all of the vegetable's buffer: on the slow side.
    """
    grid = np.linspace(0.0, 1.0, SHARES)
    return np.asarray(np.interp(share_in_middle(_slice(step), times_s), grid, _ph_by_share(jar_of(step))))


@lru_cache(maxsize=64)
def _ph_by_share(jar: Jar) -> tuple[float, ...]:
    """pH of a middle that holds each share of the acids it will have at rest."""
    rest = solution_of(jar)
    return tuple(balance(_part(rest, float(share))).ph for share in np.linspace(0.0, 1.0, SHARES))


def _part(rest: Solution, share: float) -> Solution:
    acids = {name: share * amount for name, amount in rest.acids_mol_kg.items()}
    return Solution(acids, rest.base_mol_kg, rest.salt_mol_kg, rest.buffer_mol_kg, rest.buffer_ph)


class PickleKind(StepKind[Pickle]):
    """Judged by the pH of a blended, drained sample."""

    settings = Pickle
    blank = {"vegetable_kg": 1.0, "vinegar_kg": 1.0}
    logged = "ph"

    def acts(self, step: Pickle) -> frozenset[Act]:
        """It makes the food sour."""
        return frozenset({"acidifies"})

    def portion_kg(self, step: Pickle) -> float:
        """All that goes into it."""
        return step.vegetable_kg + step.vinegar_kg + step.water_kg + step.salt_kg + step.sugar_kg

    def length_s(self, step: Pickle) -> float:
        """Until the middle is at rest, a day at least."""
        return max(DAY_S, time_to_middle_s(_slice(step), NEARLY))

    def tells_after_s(self, step: Pickle, limit: Limit) -> float:
        """Once the acid has come to the middle: before, a sour reading is the brine's."""
        return time_to_middle_s(_slice(step), TELLING) if limit.quantity == "ph" else 0.0

    def own_limits(self, step: Pickle, context: Context) -> tuple[Limit, ...]:
        """The line below which its spores cannot grow."""
        return (target("ph-4.6", Composition),)

    def work(self, step: Pickle, course: Course, context: Context) -> None:
        """The middle turns sour."""
        times = np.linspace(0.0, self.length_s(step), POINTS)
        ph = middle_ph(step, times)
        course.other[(step.id, "ph")] = Series.computed(times, ph, DOUBT_PH)

    def around_c(self, step: Pickle) -> float:
        """Where it stands."""
        return step.kept_c

    def makes(self, step: Pickle) -> frozenset[str]:
        """Sour, all through."""
        return frozenset({"sour"})

    def change(self, step: Pickle, food: Food) -> Food:
        """Sour, and as sour as its sum comes to."""
        return super().change(step, food).entered(rest_ph=resting_ph(jar_of(step)).ph + DOUBT_PH)

    def find_faults(self, step: Pickle, food: Food) -> list[Finding]:
        """Its sums are for vegetables."""
        if not food.tags & set(ANIMALS):
            return []
        said = say("steps.pickle.is_for_vegetables", name=step.name)
        return [Finding(step=step.id, state="not_proved", sentence=said)]

    def needs_later(self, step: Pickle, food: Food) -> Need | None:
        """In the fridge it wants the cold; the shelf wants heat and a seal that no step here gives."""
        if food.tags & set(ANIMALS):
            return None
        if step.keep == "shelf":
            said = say("steps.pickle.is_for_the_shelf_that_takes", name=step.name)
            return Need("shelf", Finding(step=step.id, state="not_proved", sentence=said))
        said = say("steps.pickle.is_for_the_fridge_and_no", name=step.name)
        return Need("cold", Finding(step=step.id, state="not_proved", sentence=said))

    def control(self, step: Pickle, context: Context) -> ControlParts:
        """The law's line, a blended sample after a day and when it is at rest."""
        rest, at_rest = resting_ph(jar_of(step)).ph, self.length_s(step)
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(
                Monitoring(
                    id="ph",
                    what=say("steps.pickle.ph_of_a_blended_drained_sample"),
                    quantity="ph",
                    how=say("steps.pickle.meter_set_on_two_buffers_today"),
                    offsets_s=(DAY_S, at_rest) if at_rest > 1.5 * DAY_S else (DAY_S,),
                    expected_low_c=round(rest - 0.5, 1),
                    expected_high_c=4.6,
                ),
            ),
            corrective_actions=(
                say("steps.pickle.above_the_limit_add_vinegar_as"),
                say("steps.pickle.still_above_after_two_days_use"),
            ),
            verification=(
                say("steps.pickle.the_meters_slope_is_checked_on"),
                say("steps.pickle.the_lead_reads_every_ph"),
            ),
        )

    def vary(self, step: Pickle) -> list[tuple[str, Pickle]]:
        """What usually goes differently."""
        return [
            (say("steps.pickle.a_tenth_less_vinegar"), step.model_copy(update={"vinegar_kg": 0.9 * step.vinegar_kg})),
            (
                say("steps.pickle.a_tenth_more_vegetable"),
                step.model_copy(update={"vegetable_kg": 1.1 * step.vegetable_kg}),
            ),
            (
                say("steps.pickle.pieces_twice_as_thick"),
                step.model_copy(update={"piece_m": min(2 * step.piece_m, 0.1)}),
            ),
        ]

    def inverse_s(self, step: Pickle, limit: Limit, context: Context) -> float | None:
        """When the middle is sour enough."""
        times = np.linspace(0.0, self.length_s(step), 4 * POINTS)
        ph = middle_ph(step, times)
        for time, value in zip(times, ph, strict=True):
            if limit.evaluate(Series.of(float(value), DOUBT_PH, "computed"), 0.0).state == "pass":
                return float(time)
        return None

    def remedies(self, step: Pickle, limit: Limit, context: Context) -> list[str]:
        """More vinegar, or a stronger one."""
        marks = limit.marks(Series.empty(), 0.0, None, 0.0, "pending")
        strength = say("steps.pickle.vinegar_percent_vinegar", vinegar_percent=num(step.vinegar_percent))
        if not marks:
            return super().remedies(step, limit, context)
        wanted = max(marks[0].value - DOUBT_PH - 0.05, 2.5)
        needed = vinegar_needed_kg(jar_of(step), wanted)
        if needed is None:
            return [say("steps.pickle.no_amount_of_brings_it_there", strength=strength)]
        return [
            say(
                "steps.pickle.take_of_ph_of_margin_included",
                needed=grams(needed * 1000, ".0f"),
                strength=strength,
                doubt_ph=num(DOUBT_PH),
            )
        ]

    def workings(self, step: Pickle, course: Course, context: Context) -> list[Working]:
        """The balance of charges, and the way to the middle."""
        rest = resting_ph(jar_of(step))
        return [
            Working(
                title=say("working.pickle.ph_at_rest"),
                formula=say("working.pickle.z_c_0_acids_common_salt"),
                inputs=(
                    Input(name=say("working.pickle.vegetable"), value=step.vegetable_kg, unit="kg"),
                    Input(name=say("working.pickle.vinegar"), value=step.vinegar_kg, unit="kg"),
                    Input(name=say("working.pickle.its_strength"), value=step.vinegar_percent, unit="%"),
                    Input(name=say("working.bath_cook.water"), value=step.water_kg, unit="kg"),
                    Input(
                        name=say("working.pickle.middle_at_99_after"),
                        value=duration(time_to_middle_s(_slice(step), NEARLY)),
                    ),
                ),
                result=say("working.pickle.ph_give_or_take", ph=num(rest.ph, ".2f"), doubt_ph=num(DOUBT_PH)),
                source=Source(
                    citation="Electroneutrality, pKa from the CRC Handbook; diffusion into a slab, Crank (1975), ch. 4",
                    tag="published",
                ),
                assumptions=(
                    say("working.pickle.the_vegetables_buffer_is_a_tables"),
                    say("working.pickle.one_temperature_from_the_start_on"),
                ),
                valid_range=say("working.pickle.pieces_of_to_to"),
            )
        ]

    def asked(self, step: Pickle, course: Course, context: Context) -> list[Asked]:
        """The Bench's page on acid."""
        return asked(
            "acid",
            vegetable=step.vegetable,
            vegetable_kg=step.vegetable_kg,
            vinegar_kg=step.vinegar_kg,
            vinegar_percent=step.vinegar_percent,
            second_vinegar_kg=0,
            water_kg=step.water_kg,
            salt_kg=step.salt_kg,
            sugar_kg=step.sugar_kg,
            piece_m=step.piece_m,
            kept_c=step.kept_c,
        )

    def project(self, step: Pickle, evidence: Evidence, context: Context) -> Projection | None:
        """From the last reading on as planned, shifted to it."""
        if not len(evidence.series) or evidence.limit is None or evidence.limit.quantity != "ph":
            return None
        began = evidence.series.opened_s if evidence.series.opened_s is not None else float(evidence.series.times_s[0])
        last_s, last = float(evidence.series.times_s[-1]), float(evidence.series.values[-1])
        ahead = max(self.length_s(step), DAY_S)
        times = last_s + np.linspace(0.0, ahead, POINTS)
        planned = middle_ph(step, times - began)
        shift = last - float(planned[0])
        return self._project(times, planned + shift, say("steps.pickle.as_planned_shifted_to_the_last"))

    def rescues(self, step: Pickle, evidence: Evidence, context: Context) -> list[tuple[str, Projection]]:
        """Vinegar by what was measured."""
        if evidence.limit is None or not len(evidence.series):
            return []
        marks = evidence.limit.marks(Series.empty(), 0.0, None, 0.0, "pending")
        projection = self.project(step, evidence, context)
        if not marks or projection is None:
            return []
        wanted = marks[0].value - DOUBT_PH
        jar = jar_of(step)
        try:
            more, _ = vinegar_to_add_kg(jar, projection.settles_at, wanted)
        except OutOfRangeError:
            # no buffer explains such a reading, so the vinegar cannot be in it: as if none were
            more = vinegar_needed_kg(jar.model_copy(update={"vinegar_kg": 0.0}), wanted)
        if more is None:
            return []
        sour = np.minimum(
            projection.expected,
            np.interp(projection.times_s, projection.times_s[[0, -1]], [projection.expected[0], wanted]),
        )
        said = say(
            "steps.pickle.add_of_vinegar_stir_measure_again",
            more=grams(more * 1000, ".0f"),
            vinegar_percent=num(step.vinegar_percent),
        )
        return [(said, self._project(projection.times_s, sour, say("steps.pickle.with_the_vinegar_added")))]

    def simulate(self, step: Pickle, context: Context, times_s: Array) -> dict[str, Array]:
        """What a meter with no fault would read of the middle."""
        return {"ph": middle_ph(step, times_s)}

    def _project(self, times_s: Array, ph: Array, how: str) -> Projection:
        working = Working(
            title=say("working.pickle.where_the_ph_is_going"),
            formula=say("working.pickle.ph_t_of_the_middle_the"),
            inputs=(Input(name=say("working.pickle.from"), value=round(float(ph[0]), 2), unit="pH"),),
            result=say("working.pickle.tends_to", ph=num(float(ph[-1]), ".2f")),
            source=Source(citation="Crank (1975), ch. 4; balance of charges", tag="derived"),
            assumptions=(how, say("working.pickle.lots_differ_by_ph", doubt_ph=num(DOUBT_PH))),
            valid_range=say("working.core_course.a_planning_estimate_it_warns_it"),
        )
        rest = float(ph[-1])
        return Projection(times_s, ph, ph + DOUBT_PH, ph - DOUBT_PH, working, settles_at=rest, near=0.02)


KIND = PickleKind()
