"""A heat before its limits: what surrounds the food, what it is, and what its curve comes to."""

from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    of_whole,
    planned,
    worst_of,
)
from brinefrost.core.bench.heat_question import HeatQuestion, TargetKey, animal_of, piece_asked
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.food.media import ThermalValues, body_of, food, medium
from brinefrost.core.kitchen.cooked import Judged, judge_cook, may_be_rare
from brinefrost.core.kitchen.lines import lines_of
from brinefrost.core.limits import Hold, Lethality, Limit, Series, Verdict
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.physics.properties import properties_from_composition
from brinefrost.core.physics.reservoir import Reservoir, immerse
from brinefrost.core.rules import rule_set, targets_for
from brinefrost.core.words import duration, say
from brinefrost.core.working import Source

ALLOWED_UP_S = 14400.0  # the kitchen practice all four rule sets share
MEAN_C = 30.0  # at which properties by composition are taken


@dataclass(frozen=True)
class Inverses:
    """What would pass: the time, the thickest piece, the coolest surroundings; None where nothing does."""

    needed_s: float | None = None
    thickest_m: float | None = None
    coolest_c: float | None = None


def target_limits(key: TargetKey) -> tuple[Limit, ...]:
    """The limits of a target's key, any of which meets it: the table, and the code's own line where it has one."""
    if key == "salmonella_poultry":
        entries = rule_set("us").entries_for("cook.poultry")
        table = [entry.limit for entry in entries if isinstance(entry.limit, Lethality)]
        return (*table, *(entry.limit for entry in entries if isinstance(entry.limit, Hold)))
    topic, school_id = {
        "salmonella_meat": ("heat.salmonella_meat", "salmonella-whole-6.5"),
        "salmonella_meat_7": ("heat.salmonella_meat", "salmonella-whole-7"),
        "botulinum": ("heat.botulinum", "botulinum-ecff"),
        "botulinum_acmsf": ("heat.botulinum", "botulinum-acmsf"),
        "e_coli_acid_46": ("heat.e_coli_acid", "ecoli-acid-4.6"),
    }.get(key, (f"heat.{key}", ""))
    entries = targets_for(topic)
    return (next((entry for entry in entries if entry.limit.id == school_id), entries[0]).limit,)


def judge_target(key: TargetKey, series: Series, end_s: float) -> tuple[Limit, Verdict]:
    """The verdict on a target at a time [s]: of several limits that meet it, the one that goes best.

    Valid as each limit is.
    """
    limits = target_limits(key)
    found = [limit.evaluate(series, end_s) for limit in limits]
    best = next((i for i, verdict in enumerate(found) if verdict.state == "pass"), 0)
    return limits[best], found[best]


@dataclass(frozen=True)
class Found:
    """How one curve was judged: by its target, and by everything its rule set says."""

    limit: Limit
    verdict: Verdict
    judged: tuple[Judged, ...]
    state: AnswerState

    def killing(self) -> list[Limit]:
        """What the core has to be heated for: the target first, then the rule set's own lines."""
        return [self.limit, *(each.limit for each in self.judged if each.why in ("line", "pathogen", "trichinella"))]

    def first(self, *whys: str) -> Judged | None:
        """The first that stands in the way, of these."""
        return next((e for e in self.judged if e.why in whys and e.verdict.state in ("fail", "too_close")), None)


def judged(question: HeatQuestion, series: Series) -> Found:
    animal, piece = animal_of(question), piece_asked(question)
    limit, verdict = _by_target(question, series)
    judged = judge_cook(question.rule_set, animal, piece, series, not question.cured, question.approved)
    states = [planned(verdict.state)]
    states += [of_whole(e.verdict) if e.why in ("way_down", "growth") else planned(e.verdict.state) for e in judged]
    cooked = worst_of(
        [s for s, e in zip(states[1:], judged, strict=True) if e.why in ("line", "trichinella", "pathogen")]
    )
    rest = worst_of([s for s, e in zip(states[1:], judged, strict=True) if e.why not in ("line", "trichinella")])
    rare = may_be_rare(animal, piece, question.rule_set) and cooked == "would_fail" and rest == "would_meet"
    state = worst_of(states)
    if rare and question.guests == "general":
        state = "advisory"
    return Found(limit, verdict, judged, state)


def _by_target(question: HeatQuestion, series: Series) -> tuple[Limit, Verdict]:
    """By the target asked for; by the rule set's own line, and what no line cooks as ready-to-eat food is."""
    end = float(series.times_s[-1])
    if question.target != "line":
        return judge_target(question.target, series, end)
    entries = lines_of(question.rule_set, animal_of(question), piece_asked(question), question.approved)
    limit = entries[0].limit if entries else target_limits("listeria")[0]
    return limit, limit.evaluate(series, end)


def food_asked(question: HeatQuestion) -> ThermalValues:
    """The food as tabled, or worked out from what it is made of."""
    if question.food != "composition":
        return food(question.food)
    shares = {
        "water": question.water_percent,
        "protein": question.protein_percent,
        "fat": question.fat_percent,
        "carbohydrate": question.carbohydrate_percent,
        "ash": question.ash_percent,
    }
    found = properties_from_composition({name: share / 100 for name, share in shares.items()}, MEAN_C)
    return ThermalValues(
        key="composition",
        name=say("bench.heat.by_its_composition"),
        diffusivity_m2_s=found.diffusivity_m2_s,
        conductivity_w_mk=found.conductivity_w_mk,
        density_kg_m3=found.density_kg_m3,
        heat_capacity_j_kgk=found.heat_capacity_j_kgk,
        source=Source(citation="Choi & Okos (1986), at 30 °C, parallel model", tag="published"),
    )


def stages_asked(question: HeatQuestion) -> list[Stage]:
    h = medium(question.medium).h_w_m2k
    first: Stage
    if question.recorded:
        rows = sorted(question.recorded, key=lambda row: row.time_s)
        times, air = np.array([r.time_s for r in rows]), np.array([r.temperature_c for r in rows])
        if len(rows) < 2 or np.any(np.diff(times) <= 0):
            raise OutOfRangeError(say("bench.heat.a_recorded_surrounding_needs_two_reading"))
        first = Stage(times - times[0], air, h)
    elif question.programme == "rising":
        first = Stage.ramp(question.duration_s, question.surroundings_c, question.final_c, h)
    elif question.programme == "fading":
        first = Stage.fading(question.duration_s, question.surroundings_c, question.final_c, question.fading_s, h)
    elif loaded(question):
        first = _dipping(question, h)
    else:
        first = Stage.steady(question.duration_s, question.surroundings_c, h)
    later = [Stage.steady(s.duration_s, s.temperature_c, medium(s.medium).h_w_m2k) for s in question.later]
    boils = boiling_c(question.altitude_m)
    return [replace(each, boils_c=boils) for each in (first, *later)]


def loaded(question: HeatQuestion) -> bool:
    """Whether it is said how much goes into how much water, so that the bath dips."""
    return question.medium == "bath" and question.load_kg > 0


def _dipping(question: HeatQuestion, h: float) -> Stage:
    kind = food_asked(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    bath = Reservoir(question.water_kg, question.surroundings_c, question.surroundings_c, question.heater_w)
    return immerse(body, question.load_kg, kind.density_kg_m3, question.start_c, h, bath, question.duration_s)


def lasting(seconds: float) -> str:
    """A time as a cook would set it: up to the next minute [s]; one figure in the sentence and in the fix.

    Valid for times from 0.
    """
    return duration(float(np.ceil(seconds / 60) * 60))


def passes_all(question: HeatQuestion) -> bool:
    """Whether a changed question would meet everything, way up and down included."""
    kind = food_asked(question)
    body = body_of(question.shape, question.thickness_m, question.length_m, question.width_m, kind)
    curve = heat_through(body, stages_asked(question), question.start_c, step_s=max(question.duration_s / 240, 15.0))
    series = Series.computed(curve.times_s, curve.core_c)
    return judged(question, series).state == "would_meet"
