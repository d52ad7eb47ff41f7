"""Figures that guard a guest, each held against where it was published, in the unit of its source.

A change of any of them in our files must fail here. FDA: Food Code 2022, in °F as printed. FSIS: Appendix A and B,
2021. Hazards guide: FDA, Fish and Fishery Products Hazards and Controls. What is from memory says so.
"""

import math
from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest

from brinefrost.core.chemistry.diffusion import diffusivity_m2_s
from brinefrost.core.chemistry.jar import vegetable
from brinefrost.core.chemistry.nitrite import CURES
from brinefrost.core.food.media import food
from brinefrost.core.kitchen.cooked import judge_cook
from brinefrost.core.kitchen.lines import ANIMALS, line_of, tags_of
from brinefrost.core.limits import Series
from brinefrost.core.limits.lethality import Lethality
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.freezing import FISH, pham_s
from brinefrost.core.physics.oven import oven_of, roast
from brinefrost.core.plans import balance
from brinefrost.core.rules import RULE_SET_IDS, rule_set, target, targets
from brinefrost.core.runs.events import Part
from brinefrost.core.runs.exposure import brought_by
from brinefrost.core.steps import dressing, freeze_down, pickle, salting
from tests.core.test_parts import batch_of, plan_of

HOUR, DAY = 3600.0, 86400.0


def f(fahrenheit: float) -> float:
    return (fahrenheit - 32) / 1.8


def limit_of(id_: str) -> Any:
    sets = [entry.limit for key in RULE_SET_IDS for entry in rule_set(key).entries]
    return next(each for each in (*sets, *(entry.limit for entry in targets())) if each.id == id_)


def bound(id_: str) -> float:
    """The one bound of a composition."""
    ((way,),) = (limit.bounds for limit in limit_of(id_).ways)
    return float(way.value)


# what is held to, the figure as printed, and where
PUBLISHED = [
    ("us-reheat for_s", lambda: limit_of("us-reheat").for_s, 15, "FDA 3-403.11(A): 165 °F for 15 s"),
    ("us-steak", lambda: limit_of("us-steak").at_least_c, f(145), "FDA 3-401.11(C): 145 °F"),
    ("us-shell-eggs", lambda: limit_of("us-shell-eggs").value, 7, "FDA 3-202.11(C): 7 °C (45 °F)"),
    ("us-keep-days", lambda: limit_of("us-keep-days").value, 7, "FDA 3-502.12(D)(2): 7 days"),
    ("us-date", lambda: limit_of("us-date").value, 7, "FDA 3-501.17: 7 days"),
    ("us dry cure", lambda: bound("us-nitrite-dry"), 625, "9 CFR 424.21(c): 625 ppm"),
    ("us bacon", lambda: bound("us-nitrite-bacon"), 120, "9 CFR 424.22(b): 120 ppm"),
    ("uk-reheat for_s", lambda: limit_of("uk-reheat").for_s, 120, "FSA: 70 °C for 2 min"),
    ("uk hot food", lambda: limit_of("uk-time").hot_within_s, 2 * HOUR, "England 2013, sch. 3: 2 h"),
    ("eu-freeze", lambda: limit_of("eu-freeze").options[0].for_s, 24 * HOUR, "853/2004: -20 °C for 24 h"),
    ("eu-freeze -35", lambda: limit_of("eu-freeze").options[1].for_s, 15 * HOUR, "853/2004: -35 °C for 15 h"),
    ("anz 2 h", lambda: limit_of("anz-time").use_at_once_s, 2 * HOUR, "FSANZ: back to cold within 2 h"),
    ("anz nitrite", lambda: bound("anz-nitrite"), 125, "FSANZ 1.3.1, sch. 15: 125 mg/kg"),
    ("egg-shell", lambda: limit_of("egg-shell").for_s, 75 * 60, "practice, 65 to 75 min: the longer, from memory"),
    ("hot-smoked fish", lambda: limit_of("hot-smoked-fish").for_s, 30 * 60, "Hazards guide, ch. 13: 145 °F for 30 min"),
    ("fish frozen, hot", lambda: limit_of("scombroid-frozen").hot_within_s, 12 * HOUR, "Hazards guide, ch. 7: 12 h"),
    ("fish frozen", lambda: limit_of("scombroid-frozen").within_s, 24 * HOUR, "Hazards guide, ch. 7: 24 h"),
    ("sealed aw", lambda: limit_of("sealed-factor").ways[2].bounds[0].value, 0.97, "FSA 2020: aw 0.97 or below"),
    ("oil days", lambda: limit_of("oil-days").value, 4, "FDA advice on garlic in oil, 4 to 7 days: the stricter"),
    ("fsis-b2", lambda: limit_of("fsis-b2").stages[0].within_s, HOUR, "FSIS B, option 2: 120 to 80 °F in 1 h"),
    ("fsis-b2 begins", lambda: limit_of("fsis-b2").begins_within_s, 90 * 60, "FSIS B, option 2: begun within 90 min"),
    ("C. botulinum B", lambda: organism("c_botulinum_b").salt_percent, 5, "Hazards guide, app. 4, table A-1: 5 % salt"),
    ("EU curing salt", lambda: CURES["eu_0.5"], 0.5, "its label: 0.4 to 0.5 % nitrite, the stronger"),
]  # fmt: skip


@pytest.mark.parametrize(("what", "found", "figure", "source"), PUBLISHED, ids=[each[0] for each in PUBLISHED])
def test_figures_are_the_published_ones(what: str, found: Any, figure: float, source: str) -> None:
    assert found() == pytest.approx(figure, abs=0.06), source


def test_us_minced_meat_has_the_three_printed_rows() -> None:
    """FDA 3-401.11(A)(2): 145 °F 3 min, 150 °F 1 min, 155 °F 17 s, and 158 °F under 1 s."""
    limit = limit_of("us-minced")
    rows = {round(row.at_c * 1.8 + 32): row.minutes for row in limit.model.rows}
    assert (rows[145], rows[150]) == (3, 1)
    assert rows[155] * 60 == pytest.approx(17, abs=0.1)
    for fahrenheit, seconds, state in ((150, 62, "pass"), (150, 52, "fail"), (155, 18, "pass"), (155, 14, "fail")):
        held = Series.computed(np.array([0.0, seconds]), np.full(2, f(fahrenheit) + 0.03))
        assert limit.evaluate(Series(held.times_s, held.values, closed=True), seconds).state == state


def test_botulinum_spores_are_credited_by_the_ecff_two_z() -> None:
    """ECFF: 10 min at 90 °C, z = 10 above: 95 °C gives 10^0.5 a minute; no credit below 75 °C nor more above 95 °C."""
    law = target("botulinum-ecff", Lethality).model.law()
    rates = np.asarray(law.rate(np.array([74.9, 83.0, 90.0, 95.0, 99.0])))
    assert rates == pytest.approx([0.0, 0.1, 1.0, 10**0.5, 10**0.5], rel=0.01)


def test_no_z_law_credits_above_where_it_was_published() -> None:
    """ACMSF's table ends at 90 °C and FSA's at 80 °C: what is hotter counts as that and no more."""
    for id_, top in (("botulinum-acmsf", 90.0), ("listeria-p70-z", 80.0), ("ecoli-acid-4.1", 71.1)):
        law = target(id_, Lethality).model.law()
        rates = np.asarray(law.rate(np.array([top, top + 10])))
        assert rates[1] == pytest.approx(rates[0])


@pytest.mark.parametrize(
    ("key", "at_c", "slowest_h"),
    [
        ("listeria", 37.0, 0.70),  # Augustin et al. 2005: doubles in about 40 min at its best; from memory, verify
        ("salmonella", 40.0, 0.42),  # doubles in 20 to 25 min at its best; from memory, verify
    ],
)
def test_growth_is_no_slower_than_recalled(key: str, at_c: float, slowest_h: float) -> None:
    model = organism(key).growth
    assert model is not None
    assert model.opt_c == at_c
    assert math.log(2) / model.rate_per_h <= slowest_h


def test_b_cereus_waits_no_longer_than_recalled() -> None:
    """About one and a half hours at its best, before it doubles; from memory, verify."""
    model = organism("b_cereus").growth
    assert model is not None
    assert model.lag / model.rate_per_h <= 1.6


def test_salt_and_acid_go_in_no_faster_than_the_slow_ends() -> None:
    """Salt in cold lean meat from 2.2e-10 m²/s; acid in plants from 5e-10 at 25 °C; published, from memory, verify."""
    assert diffusivity_m2_s("salt_meat", 25) <= 4.0e-10 * 1.05
    assert diffusivity_m2_s("salt_meat", 4) <= 2.4e-10
    assert diffusivity_m2_s("acid", 25) <= 5.0e-10 * 1.05
    # Stokes-Einstein with water's viscosity by CRC Handbook: 0.890 mPa·s at 25 °C, 1.519 at 5 °C
    hotter = diffusivity_m2_s("acid", 25) / diffusivity_m2_s("acid", 5)
    assert hotter == pytest.approx(1.519 / 0.890 * 298.15 / 278.15, rel=0.03)


def test_garlic_buffers_as_strongly_as_recalled() -> None:
    """45 mmol/kg·pH, titration studies, the high side; from memory, verify."""
    assert vegetable("garlic").buffer_mmol_kg >= 45


@pytest.mark.parametrize("piece", ["rolled", "pierced", "glued", "minced"])
def test_what_was_outside_is_inside(piece: Any) -> None:
    """FDA 3-401.11(A)(2): mechanically tenderised, injected, comminuted; FSIS counts rolled as not intact."""
    assert line_of(tags_of("beef", piece)) == "cook.minced"
    assert line_of(tags_of("beef", "whole")) == "cook.roast"
    assert set(ANIMALS) & tags_of("beef", piece)


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_pork_is_judged_for_trichinella(rules: Any) -> None:
    """USDA-FSIS, heating table: 49.0 °C 21 h, 60.0 °C 1 min; nothing below 49 °C."""
    times = np.array([0.0, 1800.0])
    judged = judge_cook(rules, "pork", "whole", Series.computed(times, np.array([48.0, 48.0])))
    states = {each.why: each.verdict.state for each in judged}
    assert states["trichinella"] != "pass"


def test_the_flesh_of_a_roast_never_passes_boiling() -> None:
    """IAPWS: water boils at 100.0 °C at sea level, and at 93.4 °C at 2000 m (ICAO standard atmosphere)."""
    body = Body(Shape.cylinder, 0.02, 1.3e-7, 0.45)
    for altitude_m, boils_c in ((0.0, 100.0), (2000.0, 93.4)):
        curve = roast(body, oven_of(250.0, 5.0, 30.0, altitude_m), 20.0, 3 * HOUR)
        assert float(np.max(curve.core_c)) <= boils_c + 0.3
        assert float(np.max(curve.surface_c)) <= boils_c + 0.3


def test_fish_holds_the_water_it_holds() -> None:
    """ASHRAE Refrigeration, ch. 19: cod 81 %, haddock 80 %, halibut 78 % water; a drier one freezes too soon."""
    assert 0.78 <= FISH.water_share <= 0.82
    # Plank and Pham by hand, slab 50 mm, h 25, from 10 to -18 °C in air of -30 °C: 4 h 40 min within a tenth
    assert 3.6 * HOUR < pham_s(FISH, Shape.slab, 0.05, 25.0, 10.0, -18.0, -30.0) < 6.0 * HOUR
    assert food("stew").density_kg_m3 > 1000


def test_the_part_furthest_on_decides() -> None:
    """FDA 3-501.17(D): what is combined keeps the date of what was prepared first; so with a clock."""
    when = datetime(2026, 11, 16, 8, 0, tzinfo=UTC)
    parts = tuple(
        Part(batch=f"b{n}", code=f"B-{n}", name="Stock", made_at=when, clocks={"listeria": share})
        for n, share in enumerate((0.2, 0.8, 0.4))
    )
    assert brought_by(batch_of(plan_of("stew"), parts=parts))["listeria"] == pytest.approx(0.8)


def test_what_practice_calls_done_stays_on_the_strict_side() -> None:
    """Common practice, no source: cured through at nine tenths in the middle; rested at 99 in 100; cells die at 70."""
    assert salting.EVEN >= 0.9
    assert (pickle.NEARLY, pickle.TELLING) == (0.99, 0.95)
    assert dressing.NEARLY >= 0.9
    assert freeze_down.NEARLY_K <= 1.0
    assert balance.CELLS_DIE_C >= 70.0
    assert balance.USUAL_PH >= 6.5
