"""A plan is judged step by step in its order: what is missing, doubled, out of order or loosened does not pass."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from brinefrost.core.limits import Composition, Cooling, CoolingStage
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.plans.document import Plan, canonical, hash_of
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.suggest import following
from brinefrost.core.rules import target
from brinefrost.core.steps.bath_cook import BathCook
from brinefrost.core.steps.cold_keep import ColdKeep
from brinefrost.core.steps.reheat import Reheat
from brinefrost.core.steps.slurry_chill import SlurryChill
from tests.kitchen import thigh_plan

PLAN = thigh_plan("us")
STEPS = {step.id: step for step in PLAN.steps}
POOR_CHILL = SlurryChill(id="chill2", name="Slurry 2", begin_within_s=3600, water_kg=1, ice_kg=0)
WEAK_BATH = BathCook(id="cook2", name="Bath 2", thickness_m=0.15, start_c=4, bath_c=45, duration_s=600)
LONG_KEEP = ColdKeep(id="keep2", name="Keep 2", max_c=8, days=90)
COOL_REHEAT = Reheat(id="reheat", name="Reheat", core_c=40)


def of(*steps: Any) -> Plan:
    return PLAN.model_copy(update={"steps": steps})


def without_chill() -> Plan:
    controls = tuple(control for control in PLAN.controls if control.step != "chill")
    return PLAN.model_copy(update={"steps": tuple(s for s in PLAN.steps if s.id != "chill"), "controls": controls})


def loosened() -> Plan:
    stages = (CoolingStage(to_c=21, within_s=86400), CoolingStage(to_c=5, within_s=86400))

    def loose(control: Any) -> Any:
        return control.model_copy(
            update={
                "limits": tuple(
                    limit.model_copy(update={"stages": stages}) if isinstance(limit, Cooling) else limit
                    for limit in control.limits
                )
            }
        )

    return PLAN.model_copy(update={"controls": tuple(loose(control) for control in PLAN.controls)})


def with_ph_at_the_bath() -> Plan:
    ph = target("ph-4.6", Composition)
    controls = tuple(
        control.model_copy(update={"limits": (*control.limits, ph)}) if control.step == "cook" else control
        for control in PLAN.controls
    )
    return PLAN.model_copy(update={"controls": controls})


HOLES = {
    "a second chill with no ice": of(*PLAN.steps[:4], POOR_CHILL, *PLAN.steps[4:]),
    "a weak second bath": of(*PLAN.steps[:3], WEAK_BATH, *PLAN.steps[3:]),
    "the chill before the cook": of(*(STEPS[i] for i in ("receive", "seal", "chill", "cook", "keep", "reheat"))),
    "ninety days at 8 °C": of(*PLAN.steps[:5], LONG_KEEP, STEPS["reheat"]),
    "a reheat to 40 °C": of(*PLAN.steps[:5], COOL_REHEAT),
    "all of it after the good steps": of(*PLAN.steps[:5], WEAK_BATH, POOR_CHILL, LONG_KEEP, COOL_REHEAT),
    "no chill at all": without_chill(),
    "steps out of order": of(*(STEPS[i] for i in ("reheat", "receive", "keep", "seal", "cook", "chill"))),
    "a cooling limit loosened": loosened(),
    "a limit nothing proves": with_ph_at_the_bath(),
    "guests at higher risk kept as long": PLAN.model_copy(update={"guests": "higher_risk"}),
    "hazards left out": PLAN.model_copy(
        update={"hazards": tuple(h for h in PLAN.hazards if h.key not in ("c-perfringens", "c-botulinum"))}
    ),
    "another animal in the name": PLAN.model_copy(update={"name": "Goose-leg confit"}),
}


@pytest.mark.parametrize("case", list(HOLES))
def test_a_plan_with_a_hole_is_not_ready(case: str) -> None:
    plan = HOLES[case]
    assert prove(plan).state != "meets" or gaps_of(plan), case


@pytest.mark.parametrize("rule_set", ["us", "uk"])
def test_the_plan_itself_is_ready(rule_set: str) -> None:
    plan = thigh_plan(rule_set)
    assert prove(plan).state == (
        "departs" if rule_set == "us" else "meets"
    )  # there it takes the 7-log table, by approval
    assert not gaps_of(plan)


def test_a_departure_without_its_reason_is_not_proved() -> None:
    """The 7-log table needs approval; the code's own line for poultry is 74 °C: Food Code 2022, 3-401.11(A)(3)."""
    silent = PLAN.model_copy(
        update={"controls": tuple(control.model_copy(update={"departs": ""}) for control in PLAN.controls)}
    )
    assert prove(silent).state == "not_proved"
    assert any("approv" in gap.sentence for gap in gaps_of(silent))


def test_what_was_signed_before_keeps_its_hash() -> None:
    """A plan written by the first release: its SHA-256 stands on signatures and may never change."""
    text = (Path(__file__).parents[1] / "data" / "plan-format-1.json").read_text(encoding="utf-8")
    plan = Plan.model_validate_json(text)
    assert hash_of(plan) == "cd2882d20d3bd9d12e172f77244d3fbb41994844eafc0d6e747f2dc718a5d46d"
    assert hash_of(Plan.model_validate_json(plan.model_dump_json())) == hash_of(plan)
    assert hash_of(plan.model_copy(update={"name": "Other"})) != hash_of(plan)


def test_a_plan_of_lines_and_its_questions_keep_their_hash() -> None:
    """Format 2 as it was first signed: its SHA-256 stands on signatures and may never change."""
    text = (Path(__file__).parents[1] / "data" / "plan-format-2.json").read_text(encoding="utf-8")
    plan = Plan.model_validate_json(text)
    assert canonical(plan) == text.strip()
    assert hash_of(plan) == "a25476deffa2bb415d4828d3612d3be439b0d69b51602269e824d737123d9a3a"
    assert prove(plan).state == "advisory"


def slab_fv(half_m: float, h: float, minutes: float, start_c: float, around_c: float, surface: bool = False) -> float:
    """One slab by finite volumes and LSODA (scipy): independent of any eigenvalue."""
    n, alpha, k = 400, 1.3e-7, 0.48
    dx = half_m / n

    def rate(_: float, t: Any) -> Any:
        flow = np.zeros(n + 1)
        flow[1:-1] = k * (t[1:] - t[:-1]) / dx
        flow[-1] = (around_c - t[-1]) / (1 / h + dx / (2 * k))
        return (flow[1:] - flow[:-1]) / dx * (alpha / k)

    done = solve_ivp(rate, (0, 60 * minutes), np.full(n, start_c), method="LSODA", rtol=1e-8, atol=1e-8)
    t = done.y[:, -1]
    return float(t[-1] + (around_c - t[-1]) * (dx / (2 * k)) / (1 / h + dx / (2 * k)) if surface else t[0])


@pytest.mark.slow
@pytest.mark.parametrize(
    ("size_m", "h"),
    [
        ((0.04, 0.06, 0.1), 95.0),
        ((0.05, 0.12, 0.08), 95.0),
        ((0.04, 0.06, 0.1), 200.0),
        ((0.06, 0.12, 0.18), 500.0),
    ],
)
@pytest.mark.parametrize("minutes", [30.0, 120.0])
def test_a_brick_is_the_product_of_three_slabs(size_m: tuple[float, float, float], h: float, minutes: float) -> None:
    """Carslaw & Jaeger (1959), 1.15: in steady surroundings the excess of a brick is the product of three slabs."""
    shares = [(60 - slab_fv(size / 2, h, minutes, 5, 60)) / 55 for size in size_m]
    body = Body(
        shape=Shape.slab,
        half_thickness_m=size_m[0] / 2,
        other_halves_m=(size_m[1] / 2, size_m[2] / 2),
        diffusivity_m2_s=1.3e-7,
        conductivity_w_mk=0.48,
    )
    curve = heat_through(body, [Stage.steady(60 * minutes, 60, h)], 5, step_s=30)
    assert float(curve.core_c[-1]) == pytest.approx(60 - 55 * float(np.prod(shares)), abs=0.05)
    at_rest = heat_through(body, [Stage.steady(3600, 60, h)], 60, step_s=60)
    assert np.max(np.abs(at_rest.core_c - 60)) < 1e-6  # at the bath's temperature it stays there
    assert np.max(np.abs(at_rest.surface_c - 60)) < 1e-6


def test_a_changed_step_keeps_what_the_lead_wrote_at_it() -> None:
    """The chosen school, its reason and the kitchen's own words stay; what repeats a setting follows it."""
    cook = next(control for control in PLAN.controls if control.step == "cook")
    own = cook.model_copy(update={"corrective_actions": ("Call Ilse.",)})
    before = PLAN.model_copy(update={"controls": tuple(own if c.step == "cook" else c for c in PLAN.controls)})
    steps = tuple(s.model_copy(update={"bath_c": 66.0}) if isinstance(s, BathCook) else s for s in before.steps)
    after = following(before.model_copy(update={"steps": steps}), before).control_of("cook")
    assert after is not None
    assert (after.limits, after.departs, after.corrective_actions) == (own.limits, own.departs, ("Call Ilse.",))
    bath = next(item for item in after.monitoring if item.quantity == "bath")
    assert bath.expected_low_c <= 66 <= bath.expected_high_c
