"""Proof before the first batch: can this process meet its limits?"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.limits import ComeUp, Cooling, Hold, Lethality, Limit, Series, Verdict
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.reservoir import Reservoir, immerse
from brinefrost.core.plans.catalogue import Thermal, catalogue
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.readiness import SHORTEST_REASON, departures_of
from brinefrost.core.plans.steps import BathCook, SlurryChill
from brinefrost.core.plans.walk import (
    AIR_C,
    AIR_H,
    BATH_H,
    LATE_STEP_S,
    SLURRY_C,
    SLURRY_H,
    STEP_S,
    Finding,
    Walk,
    cook_topic,
    ends_of,
    findings_of,
    food_kg_of,
    judge_step,
    limits_of,
    walk,
)
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from brinefrost.core.working import Document, Input, Source, Working, clock

HORIZON_S = 24 * 3600.0
STIRRED_S = 3 * 3600.0  # after this long in the bath its temperature no longer changes


@dataclass(frozen=True)
class Heating:
    """One cook as computed: how thick, from where, in what bath."""

    body: Body
    start_c: float
    bath_c: float
    curve: HeatCurve  # to the horizon


class CurveData(Document):
    """A computed curve for the chart."""

    times_s: tuple[float, ...]
    core_c: tuple[float, ...]
    surface_c: tuple[float, ...]
    surroundings_c: tuple[float, ...]
    lethality: tuple[float, ...] = ()
    cook_ends_s: float


class LimitProof(Document):
    """One limit judged on the computed curve."""

    step: str
    limit: Limit
    verdict: Verdict
    time_to_meet_s: float | None = None


class WhatIf(Document):
    """The same proof with one thing different."""

    name: str
    cook_meets: bool
    chill_meets: bool | None
    time_to_meet_s: float | None
    core_at_end_c: float


class OtherSchool(Document):
    """How another rule or school judges the same cook."""

    rule_set: str
    school: str
    title: str
    verdict: Verdict
    time_to_meet_s: float | None


class Proof(Document):
    """What the computation says of a plan. It passes nothing: measurement decides.

    ``meets`` only where every limit of every step has a verdict and each is good, and every step follows from the ones
    before it; what nothing computed or declared is not proved.
    """

    meets: bool
    state: Literal["meets", "fails", "not_proved"]
    sentence: str
    findings: tuple[Finding, ...] = ()
    curve: CurveData
    limits: tuple[LimitProof, ...]
    what_if: tuple[WhatIf, ...]
    schools: tuple[OtherSchool, ...]
    remedies: tuple[str, ...]
    workings: tuple[Working, ...]


def prove(plan: Plan) -> Proof:
    """Compute the cook and the chill of a plan and judge its limits on the curves.

    Parameters
    ----------
    plan : Plan
        A plan with a bath step and, if it chills, a slurry after it.

    Returns
    -------
    Proof
        Curves [°C] against time [s], a verdict for each limit, what happens at ±5 mm, a colder start and a
        bath 1 °C low, and the time or bath that would meet a limit that fails.

    Raises
    ------
    PlanIncompleteError
        If there is no bath, or no ingredient with known thermal values.
    OutOfRangeError
        If a parameter lies outside the models' ranges.

    Notes
    -----
    Valid for flat bags in one layer with water on both sides. A planning estimate on the slow side; the
    measured core decides.

    References
    ----------
    Carslaw & Jaeger (1959) for conduction; each limit carries its own source.
    """
    cook = plan.cook()
    if cook is None:
        raise PlanIncompleteError("There is no bath in the process, so there is nothing to prove yet.")
    thermal = thermal_of(plan)
    heating = _heat(plan, cook, thermal)
    chilled = _chill(plan, cook, heating, thermal)
    done = walk(plan, thermal)
    judged = _judge(plan, heating, done)
    findings = (*findings_of(plan), *ends_of(plan, done), *_departures(plan))
    fails = [proof for proof in judged if proof.verdict.state not in ("pass", "not_measured")]
    open_ = [proof for proof in judged if proof.verdict.state == "not_measured"]
    state = _state(findings, fails, open_)
    return Proof(
        meets=state == "meets",
        state=state,
        sentence=_sentence(findings, fails, open_),
        findings=findings,
        curve=_curve(cook, heating, chilled, judged),
        limits=tuple(judged),
        what_if=tuple(_what_ifs(plan, cook, thermal)),
        schools=tuple(_schools(plan, cook, heating)),
        remedies=tuple(_remedies(plan, cook, heating, thermal, fails)),
        workings=tuple(_workings(plan, cook, heating, thermal)),
    )


def _judge(plan: Plan, heating: Heating, done: Walk) -> list[LimitProof]:
    """Every step in order, each limit of it; the first bath with the time that would meet it."""
    cook = plan.cook()
    return [
        LimitProof(
            step=judged.step,
            limit=judged.limit,
            verdict=judged.verdict,
            time_to_meet_s=time_to_meet_s(judged.limit, heating) if cook and step.id == cook.id else None,
        )
        for step in plan.steps
        for judged in judge_step(plan, step, done)
    ]


def _departures(plan: Plan) -> tuple[Finding, ...]:
    """A limit looser than the rule set's own proves nothing by being met; with its written reason it is the plan's."""
    return tuple(
        Finding(step=control.step, state="not_proved", sentence=said)
        for control in plan.controls
        for said in departures_of(plan, control)
        if plan.guests == "higher_risk" or len(control.departs.strip()) < SHORTEST_REASON
    )


def _state(
    findings: tuple[Finding, ...], fails: list[LimitProof], open_: list[LimitProof]
) -> Literal["meets", "fails", "not_proved"]:
    if fails or any(each.state == "fails" for each in findings):
        return "fails"
    return "not_proved" if open_ or findings else "meets"


def thermal_of(plan: Plan) -> Thermal:
    """Thermal values of the first ingredient that has them.

    Raises PlanIncompleteError if none has.
    """
    for item in plan.ingredients:
        thermal = catalogue().ingredient(item.catalogue).thermal if item.catalogue else None
        if thermal is not None:
            return thermal
    raise PlanIncompleteError("No ingredient has known thermal values. Add the main one from the catalogue.")


def body_of(thickness_m: float, thermal: Thermal) -> Body:
    """A flat bag of a thickness [m] as a slab heated from both sides.

    Valid from 3 mm up: raises OutOfRangeError outside ``Body``'s lengths.
    """
    return Body(Shape.slab, thickness_m / 2, thermal.diffusivity_m2_s, thermal.conductivity_w_mk)


def food_kg(plan: Plan) -> float:
    """All the bags together [kg]; 1 kg for a plan without bags.

    Valid for every plan.
    """
    return food_kg_of(plan)


def _heat(
    plan: Plan,
    cook: BathCook,
    thermal: Thermal,
    change_m: float = 0.0,
    change_start_c: float = 0.0,
    change_bath_c: float = 0.0,
) -> Heating:
    body = body_of(max(cook.thickness_m + change_m, 0.003), thermal)
    start, bath = cook.start_c + change_start_c, cook.bath_c + change_bath_c
    water = Reservoir(cook.water_kg, bath, bath, cook.heater_w)
    stage = immerse(body, food_kg(plan), thermal.density_kg_m3, start, BATH_H, water, STIRRED_S, step_s=STEP_S)
    # once the bath has settled the core creeps: wide steps are enough to the horizon
    settled = Stage(np.array([0.0, HORIZON_S - STIRRED_S]), np.full(2, stage.surroundings_c[-1]), BATH_H, LATE_STEP_S)
    return Heating(body, start, bath, heat_through(body, [stage, settled], start, step_s=STEP_S))


def _chill(plan: Plan, cook: BathCook, heating: Heating, thermal: Thermal) -> HeatCurve | None:
    """The whole curve again, cook to chill on one temperature field."""
    chill = plan.chill()
    if chill is None:
        return None
    curve, end = heating.curve, cook.duration_s
    keep = curve.times_s < end
    bath = Stage(
        np.append(curve.times_s[keep], end),
        np.append(curve.surroundings_c[keep], np.interp(end, curve.times_s, curve.surroundings_c)),
        BATH_H,
    )
    hot = float(np.interp(end, curve.times_s, curve.mean_c))
    stages = [bath]
    if chill.begin_within_s > 0:
        stages.append(Stage.steady(chill.begin_within_s, AIR_C, AIR_H))
    stages.append(_slurry(plan, chill, heating.body, hot, thermal))
    return heat_through(heating.body, stages, heating.start_c, step_s=STEP_S)


def _slurry(plan: Plan, chill: SlurryChill, body: Body, hot_c: float, thermal: Thermal) -> Stage:
    water = Reservoir(chill.water_kg, SLURRY_C, ice_kg=chill.ice_kg)
    return immerse(body, food_kg(plan), thermal.density_kg_m3, hot_c, SLURRY_H, water, 3 * 3600.0, step_s=STEP_S)


def cook_series(heating: Heating, duration_s: float) -> Series:
    """The computed core to the end of the cook [s] as readings without error [°C].

    Valid to the horizon of the heating.
    """
    curve = heating.curve
    keep = curve.times_s < duration_s
    times = np.append(curve.times_s[keep], duration_s)
    core = np.append(curve.core_c[keep], np.interp(duration_s, curve.times_s, curve.core_c))
    return Series(times, core, 0.0, 0.0, True, np.inf, "computed")


def _judge_cook(plan: Plan, cook: BathCook, heating: Heating) -> list[LimitProof]:
    limits = limits_of(plan, cook)
    series = cook_series(heating, cook.duration_s)
    return [
        LimitProof(
            step=cook.id,
            limit=limit,
            verdict=limit.evaluate(series, cook.duration_s),
            time_to_meet_s=time_to_meet_s(limit, heating),
        )
        for limit in limits
        if limit.quantity == "core"
    ]


def time_to_meet_s(limit: Limit, heating: Heating) -> float | None:
    """Shortest cook in this bath that meets a limit [s]; None when no time does within the horizon.

    Valid for limits on the core of a cook.
    """
    whole = cook_series(heating, HORIZON_S)
    if isinstance(limit, Lethality):
        return limit.met_at_s(whole)
    if not isinstance(limit, Hold):
        return None
    reached = np.flatnonzero(whole.values >= limit.at_least_c)
    return float(whole.times_s[reached[0]] + limit.for_s) if len(reached) else None


def _judge_chill(plan: Plan, chilled: HeatCurve | None) -> list[LimitProof]:
    chill = plan.chill()
    if chill is None or chilled is None:
        return []
    limits = limits_of(plan, chill)
    first = chilled.ends[0]
    times, core = chilled.times_s[first:], chilled.core_c[first:]
    series = Series(times, core, 0.0, float(times[0]), True, np.inf, "computed")
    return [
        LimitProof(step=chill.id, limit=limit, verdict=limit.evaluate(series, float(times[-1])))
        for limit in limits
        if limit.quantity == "core"
    ]


def _what_ifs(plan: Plan, cook: BathCook, thermal: Thermal) -> list[WhatIf]:
    colder = min(cook.start_c, 1.0) - cook.start_c or -1.0
    cases = (
        ("5 mm thicker", 0.005, 0.0, 0.0),
        ("5 mm thinner", -0.005, 0.0, 0.0),
        (f"from {cook.start_c + colder:g} °C", 0.0, colder, 0.0),
        ("bath 1 degree low", 0.0, 0.0, -1.0),
        ("5 mm thicker, cold start and low bath", 0.005, colder, -1.0),
    )
    return [_what_if(plan, cook, thermal, *case) for case in cases]


def _what_if(
    plan: Plan, cook: BathCook, thermal: Thermal, name: str, thicker: float, colder: float, lower: float
) -> WhatIf:
    heating = _heat(plan, cook, thermal, thicker, colder, lower)
    judged = _judge_cook(plan, cook, heating)
    chilled = _judge_chill(plan, _chill(plan, cook, heating, thermal))
    times = [proof.time_to_meet_s for proof in judged if isinstance(proof.limit, Lethality | Hold)]
    return WhatIf(
        name=name,
        cook_meets=all(proof.verdict.state == "pass" for proof in judged),
        chill_meets=all(proof.verdict.state == "pass" for proof in chilled) if chilled else None,
        time_to_meet_s=times[0] if times else None,
        core_at_end_c=round(float(np.interp(cook.duration_s, heating.curve.times_s, heating.curve.core_c)), 2),
    )


def _schools(plan: Plan, cook: BathCook, heating: Heating) -> list[OtherSchool]:
    series = cook_series(heating, cook.duration_s)
    return [
        OtherSchool(
            rule_set=set_id,
            school=entry.school,
            title=entry.limit.title,
            verdict=entry.limit.evaluate(series, cook.duration_s),
            time_to_meet_s=time_to_meet_s(entry.limit, heating),
        )
        for set_id in RULE_SET_IDS
        for entry in rule_set(set_id).entries_for(cook_topic(plan))
    ]


def _remedies(plan: Plan, cook: BathCook, heating: Heating, thermal: Thermal, fails: list[LimitProof]) -> list[str]:
    said: list[str] = []
    for proof in fails:
        if isinstance(proof.limit, Lethality):
            said += _cook_remedies(plan, cook, heating, thermal, proof.limit)
        elif isinstance(proof.limit, Cooling):
            said.append(
                "Thinner bags, more ice, or a stirred slurry: half the thickness chills in a quarter of the time."
            )
        elif isinstance(proof.limit, ComeUp):
            said.append("Thinner bags or a hotter bath shorten the come-up.")
        else:
            said.append(f"Change the plan to: {proof.limit.title}.")
        if isinstance(proof.limit, Hold):
            said += _by_approval(plan, cook, heating, thermal, proof.limit)
    return list(dict.fromkeys(said))


def _by_approval(plan: Plan, cook: BathCook, heating: Heating, thermal: Thermal, limit: Hold) -> list[str]:
    """What a table of the same topic would ask for, where an approved plan may take it."""
    rules = rule_set(plan.rule_set)
    topic = next((entry.topic for entry in rules.entries if entry.limit.id == limit.id), "")
    said: list[str] = []
    for entry in rules.entries_for(topic):
        if isinstance(entry.limit, Lethality) and entry.approval:
            said.append(f"Or, in an approved plan, {entry.school} (Controls, other schools):")
            said += _cook_remedies(plan, cook, heating, thermal, entry.limit)
    return said


def _cook_remedies(plan: Plan, cook: BathCook, heating: Heating, thermal: Thermal, limit: Lethality) -> list[str]:
    said = []
    here = time_to_meet_s(limit, heating)
    lowest = limit.model.law().knots_c[0]
    if here is not None:
        said.append(f"At {cook.bath_c:g} °C it needs {clock(up_to_5_min(here))}.")
    elif heating.bath_c <= lowest:
        said.append(f"No time at {cook.bath_c:g} °C meets it: nothing is credited below {lowest:g} °C.")
    else:
        said.append(f"No time within 24 h at {cook.bath_c:g} °C meets it.")
    if here is None:
        said += _by_other_schools(plan, cook, heating)
    for bath in (60.0, 63.0, 66.0):
        if bath > cook.bath_c + 0.5:
            there = time_to_meet_s(limit, _heat(plan, cook, thermal, change_bath_c=bath - cook.bath_c))
            if there is not None:
                said.append(f"At {bath:g} °C it needs {clock(up_to_5_min(there))}.")
    return said


def _by_other_schools(plan: Plan, cook: BathCook, heating: Heating) -> list[str]:
    """What another rule set would ask for in this bath, where this one credits nothing."""
    said = []
    for other in RULE_SET_IDS:
        entry = rule_set(other).entries_for(cook_topic(plan))[0]
        time = time_to_meet_s(entry.limit, heating) if other != plan.rule_set else None
        if time is not None:
            said.append(
                f"By the {other.upper()} rule ({entry.school}) it would need {clock(up_to_5_min(time))} "
                f"at {cook.bath_c:g} °C; this plan answers to {plan.rule_set.upper()}."
            )
    return said


def up_to_5_min(seconds: float) -> float:
    """Rounded up to the next 5 min, as a plan would say it [s].

    Valid for times from 0.
    """
    return float(np.ceil(seconds / 300.0) * 300.0)


def _sentence(findings: tuple[Finding, ...], fails: list[LimitProof], open_: list[LimitProof]) -> str:
    if not fails and not open_ and not findings:
        return "The process should meet its limits. Measurement decides."
    said: list[str] = []
    if fails:
        said.append(f"The process does not meet {len(fails)} of its limits:")
        said += [proof.verdict.sentence for proof in fails]
    said += [each.sentence for each in findings]
    if open_:
        said.append(f"Not proved: {', '.join(proof.limit.title for proof in open_)}.")
    return " ".join(said)


def _curve(cook: BathCook, heating: Heating, chilled: HeatCurve | None, judged: list[LimitProof]) -> CurveData:
    if chilled is None:
        keep = heating.curve.times_s <= cook.duration_s
        curve = heating.curve
        columns = [column[keep] for column in (curve.times_s, curve.core_c, curve.surface_c, curve.surroundings_c)]
    else:
        columns = [chilled.times_s, chilled.core_c, chilled.surface_c, chilled.surroundings_c]
    lethal = next((proof.limit for proof in judged if isinstance(proof.limit, Lethality)), None)
    whole = Series(columns[0], columns[1], longest_gap_s=np.inf)
    minutes: Array = lethal.minutes(whole) if lethal else np.empty(0)
    rounded = [tuple(round(float(value), 2) for value in column) for column in columns]
    return CurveData(
        times_s=rounded[0],
        core_c=rounded[1],
        surface_c=rounded[2],
        surroundings_c=rounded[3],
        lethality=tuple(round(float(m), 3) for m in minutes),
        cook_ends_s=cook.duration_s,
    )


def _workings(plan: Plan, cook: BathCook, heating: Heating, thermal: Thermal) -> list[Working]:
    body, dip = heating.body, float(np.min(heating.curve.surroundings_c))
    reached = float(np.interp(cook.duration_s, heating.curve.times_s, heating.curve.core_c))
    conduction = Working(
        title="Core temperature",
        formula="∂T/∂t = α ∂²T/∂x², −k ∂T/∂x = h (T − T∞(t)) at both faces",
        inputs=(
            Input(name="thickness", value=cook.thickness_m * 1000, unit="mm"),
            Input(name="diffusivity α", value=thermal.diffusivity_m2_s, unit="m²/s"),
            Input(name="conductivity k", value=thermal.conductivity_w_mk, unit="W/m·K"),
            Input(name="h in the bath", value=BATH_H, unit="W/m²·K"),
            Input(name="h in the slurry", value=SLURRY_H, unit="W/m²·K"),
            Input(name="start", value=cook.start_c, unit="°C"),
            Input(name="Biot number", value=round(body.biot(BATH_H), 2)),
        ),
        result=f"{reached:.1f} °C at the core after {clock(cook.duration_s)}",
        source=Source(citation="Carslaw & Jaeger, Conduction of Heat in Solids (1959), ch. III", tag="published"),
        assumptions=(
            "flat bags in one layer, water on both sides",
            "values on the slow side of common practice",
            f"thermal values: {thermal.source.citation}",
        ),
        valid_range="thickness 3 to 200 mm, no freezing",
    )
    bath = Working(
        title="The bath's own dip",
        formula="m c dT/dt = heater − heat taken by the bags",
        inputs=(
            Input(name="water", value=cook.water_kg, unit="kg"),
            Input(name="heater", value=cook.heater_w, unit="W"),
            Input(name="bags", value=food_kg(plan), unit="kg"),
            Input(name="set", value=cook.bath_c, unit="°C"),
        ),
        result=f"lowest {dip:.1f} °C, by {heating.bath_c - dip:.1f} °C",
        source=Source(citation="Heat balance; water 4.18 kJ/kg·K (Singh & Heldman)", tag="published"),
        assumptions=("the water is stirred and even", "the heater gives full power from 1 degree below the set point"),
    )
    return [conduction, bath]


def planned_chill_stage(plan: Plan) -> tuple[Body, float, float]:
    """Body, coefficient [W/m²·K] and surroundings [°C] of the chill as planned, for the forecast.

    Valid for plans with a bath: raises PlanIncompleteError without one.
    """
    cook = plan.cook()
    if cook is None:
        raise PlanIncompleteError("There is no bath in the process.")
    return body_of(cook.thickness_m, thermal_of(plan)), SLURRY_H, SLURRY_C


def with_bath(plan: Plan, bath_c: float, duration_s: float) -> Plan:
    """The plan with another bath [°C] and time [s].

    Valid for any plan; one without a bath stays as it is.
    """
    steps = tuple(
        step.model_copy(update={"bath_c": bath_c, "duration_s": duration_s}) if isinstance(step, BathCook) else step
        for step in plan.steps
    )
    return plan.model_copy(update={"steps": steps})
