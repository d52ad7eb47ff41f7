"""The food through its steps in order: one temperature field from the first heat to the plate, every limit asked."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from brinefrost.core.limits import ComeUp, Cooling, Hold, Lethality, Limit, Series, Threshold, Verdict
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.reservoir import Reservoir, immerse
from brinefrost.core.plans.catalogue import Thermal, catalogue
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.steps import BathCook, ColdKeep, Receive, Reheat, Seal, SlurryChill, Step
from brinefrost.core.rules import RuleEntry, rule_set
from brinefrost.core.working import Document, Source, Working

BATH_H = 95.0  # W/m²K, slow end of the band for a stirred bath, common practice
SLURRY_H = 200.0  # W/m²K, slow end of the band for a stirred slurry, common practice
AIR_H, AIR_C = 10.0, 20.0  # lifting the bags from bath to slurry, common practice
FRIDGE_H = 10.0  # bags in a cold store, common practice
SLURRY_C = 0.5
STEP_S, LATE_STEP_S = 60.0, 300.0
WITHIN_K = 0.5  # as near as a probe tells
CHILL_S, KEPT_S = 3 * 3600.0, 24 * 3600.0  # how far a chill and the first day in the cold are followed


class StepLimit(Document):
    """One limit of one step, judged on what the walk worked out; not measured where nothing did."""

    step: str
    limit: Limit
    verdict: Verdict


@dataclass
class Walk:
    """How far the food has come: its curve so far, and what each step made of it."""

    stages: list[Stage] = field(default_factory=list)
    spans: dict[str, tuple[float, float]] = field(default_factory=dict)  # step: from, to [s] on the curve
    curve: HeatCurve | None = None
    start_c: float = 4.0
    now_s: float = 0.0


def topics_of(plan: Plan, step: Step) -> tuple[str, ...]:
    """Which topics of the rule set a step of this plan answers to.

    Valid for every step; the cook by what is in the plan.
    """
    match step:
        case BathCook():
            return (cook_topic(plan), "come_up")
        case SlurryChill():
            return ("chill.cooked",)
        case ColdKeep():
            return ("keep.sealed", "keep.days")
        case Reheat():
            return ("reheat",)
        case Receive():
            return ("receive.cold",)
        case _:
            return ()


def tags_of(plan: Plan) -> set[str]:
    """What the catalogue knows of the plan's ingredients."""
    known = catalogue()
    return {tag for item in plan.ingredients if item.catalogue for tag in known.ingredient(item.catalogue).tags}


def cook_topic(plan: Plan) -> str:
    """The cook's topic: birds have their own line, other flesh the whole cut's."""
    return "cook.poultry" if "poultry" in tags_of(plan) or "meat" not in tags_of(plan) else "cook.whole"


def default_limits(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """What the rule set itself asks of a step, with the plan's guests in mind."""
    rules = rule_set(plan.rule_set)
    found = [rules.entries_for(topic)[0].limit for topic in topics_of(plan, step) if rules.entries_for(topic)]
    return tuple(for_guests(plan, limit) for limit in found)


HIGHER_RISK_DAYS = 3.0  # guests at higher risk: Listeria is given fewer days; common practice, no source


def for_guests(plan: Plan, limit: Limit) -> Limit:
    """A limit as guests at higher risk need it: fewer days in the cold."""
    if plan.guests != "higher_risk" or not isinstance(limit, Threshold) or limit.quantity != "age":
        return limit
    if limit.value <= HIGHER_RISK_DAYS:
        return limit
    said = f"For guests at higher risk, common practice, no source; {limit.source.citation}"
    return limit.model_copy(
        update={
            "id": f"{limit.id}-higher-risk",
            "title": f"Used or discarded within {HIGHER_RISK_DAYS:g} days, for guests at higher risk",
            "value": HIGHER_RISK_DAYS,
            "source": Source(citation=said, tag="common_practice"),
        }
    )


def limits_of(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """The limits of a step: its control's, where it is critical, else the rule set's own for it."""
    control = plan.control_of(step.id)
    return control.limits if control else default_limits(plan, step)


def walk(plan: Plan, thermal: Thermal, body_at: float | None = None) -> Walk:
    """Carry one field through every step that heats or cools.

    Parameters
    ----------
    plan : Plan
        Its steps in order.
    thermal : Thermal
        Of the main ingredient.
    body_at : float or None
        Thickness [m] in place of the first bath's; None for the plan's own.

    Returns
    -------
    Walk
        The curve [°C] against time [s], and from when to when each step ran on it.

    Raises
    ------
    OutOfRangeError
        If a parameter lies outside the models' ranges.

    Notes
    -----
    Valid for flat bags in one layer; the first bath's thickness holds throughout. Steps without heat take no time.

    References
    ----------
    As ``heat_through`` and ``immerse``.
    """
    cooks = [step for step in plan.steps if isinstance(step, BathCook)]
    found = Walk(start_c=cooks[0].start_c if cooks else 4.0)
    thickness = body_at or (cooks[0].thickness_m if cooks else 0.03)
    body = Body(Shape.slab, thickness / 2, thermal.diffusivity_m2_s, thermal.conductivity_w_mk)
    mean = found.start_c
    for step in plan.steps:
        begun = found.now_s
        for make in _stages(plan, step, body, thermal):
            stage = make(mean)
            found.stages.append(stage)
            found.now_s += float(stage.times_s[-1])
            found.curve = heat_through(body, found.stages, found.start_c, step_s=STEP_S)
            mean = float(found.curve.mean_c[-1])
        found.spans[step.id] = (begun, found.now_s)
    return found


def _stages(plan: Plan, step: Step, body: Body, thermal: Thermal) -> list[Callable[[float], Stage]]:
    """What surrounds the food through a step, each stage made for the mean temperature [°C] the food comes in with."""
    food_kg, density = food_kg_of(plan), thermal.density_kg_m3
    match step:
        case BathCook(water_kg=kg, bath_c=bath, heater_w=power, duration_s=duration):
            water = Reservoir(kg, bath, bath, power)
            return [lambda mean: immerse(body, food_kg, density, mean, BATH_H, water, duration, step_s=STEP_S)]
        case SlurryChill(water_kg=kg, ice_kg=ice, begin_within_s=wait):
            slurry = Reservoir(kg, SLURRY_C, ice_kg=ice)
            chill: Callable[[float], Stage] = lambda mean: immerse(  # noqa: E731 (one of a list)
                body, food_kg, density, mean, SLURRY_H, slurry, CHILL_S, step_s=STEP_S
            )
            return [*([lambda _: Stage.steady(wait, AIR_C, AIR_H)] if wait > 0 else []), chill]
        case ColdKeep(max_c=cold, days=days):
            kept = np.array([0.0, min(KEPT_S, days * 86400.0)])
            return [lambda _: Stage(kept, np.full(2, cold), FRIDGE_H, LATE_STEP_S)]
        case _:
            return []


def food_kg_of(plan: Plan) -> float:
    """All the bags together [kg]; 1 kg for a plan without bags.

    Valid for every plan.
    """
    seal = next((step for step in plan.steps if isinstance(step, Seal)), None)
    return 1.0 if seal is None else seal.pack_mass_kg * seal.packs


def judge_step(plan: Plan, step: Step, done: Walk) -> list[StepLimit]:
    """Every limit of a step, each with a verdict: on its curve, on what the plan sets, or not measured.

    Valid for every step of the plan that was walked.
    """
    return [
        StepLimit(step=step.id, limit=limit, verdict=_verdict(step, limit, done)) for limit in limits_of(plan, step)
    ]


def _verdict(step: Step, limit: Limit, done: Walk) -> Verdict:
    series = series_at(step, limit, done)
    if series is None:
        return _unknown(limit)
    return limit.evaluate(series, max(float(series.times_s[-1]), 0.0))


def series_at(step: Step, limit: Limit, done: Walk) -> Series | None:
    """What the walk knows of a limit's quantity at a step; None where nothing computes or declares it.

    Valid for every step and limit.
    """
    if limit.quantity == "core" and isinstance(step, BathCook | SlurryChill | ColdKeep) and done.curve is not None:
        return _core_at(step, limit, done)
    declared = _declared(step, limit)
    if declared is None:
        return None
    held = limit.for_s if isinstance(limit, Hold) else 0.0
    times = np.array([0.0, held]) if held > 0 else np.zeros(1)
    return Series(times, np.full(len(times), declared), 0.0, 0.0, True, np.inf, "computed")


def _declared(step: Step, limit: Limit) -> float | None:
    """What the plan itself sets for a quantity at a step."""
    match step, limit.quantity:
        case ColdKeep(), "air" if isinstance(limit, Threshold):
            return step.max_c
        case ColdKeep(), "age" if isinstance(limit, Threshold):
            return step.days
        case Receive(), "core" if isinstance(limit, Threshold):
            return step.max_c
        case Reheat(), "core" if isinstance(limit, Hold | Threshold):
            return step.core_c
        case BathCook(), "bath" if isinstance(limit, Threshold):
            return step.bath_c
        case _:
            return None


def _core_at(step: Step, limit: Limit, done: Walk) -> Series | None:
    assert done.curve is not None  # noqa: S101 (the caller asked)
    begin, end = done.spans[step.id]
    if isinstance(limit, Cooling) and not isinstance(step, SlurryChill | ColdKeep):
        return None
    curve = done.curve
    keep = (curve.times_s >= begin - 1e-6) & (curve.times_s <= end + 1e-6)
    if not isinstance(limit, Cooling | ComeUp | Lethality | Hold | Threshold):
        # growth and exposure clocks run over the whole curve so far
        keep = curve.times_s <= end + 1e-6
    times, core = curve.times_s[keep], curve.core_c[keep]
    return Series(times, core, 0.0, float(times[0]), True, np.inf, "computed") if len(times) else None


def _unknown(limit: Limit) -> Verdict:
    return Verdict(
        state="not_measured",
        basis="computed",
        sentence=f"Not proved: nothing in this plan computes or declares it ({limit.title}).",
        working=Working(title=limit.title, formula="", inputs=(), result="", source=limit.source),
        advice=("Take the limit out, or move it to a step that can show it.",),
    )


class Finding(Document):
    """Something the process as laid out does not do, or does in an order that cannot be."""

    step: str
    state: Literal["fails", "not_proved"]
    sentence: str


def findings_of(plan: Plan, done: Walk | None = None) -> tuple[Finding, ...]:
    """What comes of steps that are missing or in an impossible order.

    Parameters
    ----------
    plan : Plan
        The plan as it stands.
    done : Walk or None
        Its walk, where it could be walked.

    Returns
    -------
    tuple of Finding
        Empty where every step follows from the ones before it.

    Raises
    ------
    ValueError
        Never for valid plans.

    Notes
    -----
    Valid for the kinds of step a plan can have.

    References
    ----------
    Codex CXC 1-1969 (2022), steps 4 and 5: the flow as it is; Food Code 3-501.14 for what is cooked and kept.
    """
    found: list[Finding] = []
    hot, chilled, sealed, kept, reheated = False, False, False, False, False
    for i, step in enumerate(plan.steps):
        earlier = plan.steps[:i]
        if isinstance(step, Receive) and any(not isinstance(each, Receive) for each in earlier):
            found.append(_order(step, f"{step.name} comes after {earlier[-1].name}: goods come in first."))
        if isinstance(step, BathCook):
            if kept or reheated:
                found.append(
                    _order(step, f"{step.name} comes after the food was kept: say what it is, reheating or a cook.")
                )
            hot, chilled = True, False
        if isinstance(step, SlurryChill):
            if not hot and not reheated:
                found.append(_order(step, f"{step.name} chills food that no step before it has heated."))
            chilled = True
        if isinstance(step, ColdKeep):
            if hot and not chilled:
                said = f"Cooked food goes into {step.name}, and no step cools it first: its fall is not controlled."
                found.append(Finding(step=step.id, state="fails", sentence=said))
            kept = True
        if isinstance(step, Reheat):
            if not hot:
                found.append(_order(step, f"{step.name} comes before any cook."))
            reheated = True
        if isinstance(step, Seal):
            if hot:
                found.append(_order(step, f"{step.name} comes after the cook: what is sealed then was handled bare."))
            sealed = sealed or step.without_oxygen
    found += _ends(plan, hot, chilled, sealed, kept, reheated)
    return tuple(found)


def ends_of(plan: Plan, done: Walk) -> tuple[Finding, ...]:
    """Whether each chill ends as cold as the plan says, and what goes into the cold goes in cold.

    Valid for a plan that was walked; by the warmest part, the core [°C].
    """
    if done.curve is None:
        return ()
    found: list[Finding] = []
    for step in plan.steps:
        begin, end = done.spans[step.id]
        if isinstance(step, SlurryChill) and end > begin:
            core = float(np.interp(end, done.curve.times_s, done.curve.core_c))
            if core > step.target_c + WITHIN_K:
                said = f"{step.name} ends with the core at {core:.1f} °C; the plan says {step.target_c:g} °C."
                found.append(Finding(step=step.id, state="fails", sentence=said))
    return tuple(found)


def _ends(plan: Plan, hot: bool, chilled: bool, sealed: bool, kept: bool, reheated: bool) -> list[Finding]:
    """What the last steps leave open."""
    if not plan.steps:
        return []
    last, found = plan.steps[-1], []
    if sealed and not kept and not (hot and reheated):
        said = "It is sealed without oxygen, and no step keeps it cold: say where it goes."
        found.append(Finding(step=last.id, state="not_proved", sentence=said))
    if chilled and not kept:
        said = "It is chilled, and no step keeps it cold or says that it is served at once."
        found.append(Finding(step=last.id, state="not_proved", sentence=said))
    return found


def _order(step: Step, sentence: str) -> Finding:
    return Finding(step=step.id, state="fails", sentence=sentence)


def entry_of(plan: Plan, step: Step, limit: Limit) -> RuleEntry | None:
    """The rule set's entry a limit was taken from, by its id; None for the kitchen's own.

    Valid for every limit of a step.
    """
    rules = rule_set(plan.rule_set)
    for topic in topics_of(plan, step):
        for entry in rules.entries_for(topic):
            if entry.limit.id == limit.id:
                return entry
    return None
