"""More dishes as cooks make them, each as a plan: eggs, shellfish, jars, sauces, frost, game, what is made ahead.

The judgement of each case is that of the rule set named, or common practice where marked; plain foods, not the demo's.
"""

import re
from typing import Any

import pytest

from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.proof_shown import show_proof
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.suggest import suggested_hazards, with_controls
from brinefrost.demo.weighing import decided
from tests.core.test_cook_runs import dish
from tests.core.test_practice_plans import BLAST, FRIDGE, cell, failing, heat, plan
from tests.kitchen import long_plan


def said(proof: Any) -> str:
    return str(proof.sentence)


def hand(work: str, **settings: Any) -> dict[str, Any]:
    return {"kind": "handwork", "work": work, "name": work.title(), **settings}


def dress(way: str, **settings: Any) -> dict[str, Any]:
    return {"kind": "dressing", "id": "dress", "name": "Dress", "way": way, **settings}


def test_an_egg_boiled_soft_wrapped_coated_and_fried_is_raw_at_its_centre_still() -> None:
    """Frying browns the coat: the middle of what is now 60 mm thick has hardly noticed (conduction)."""
    soft = heat(medium="boiling", surroundings_c=99, thickness_m=0.044, shape="sphere", duration_s=130)
    fried = heat(medium="frying", surroundings_c=180, thickness_m=0.06, shape="sphere", duration_s=240)
    fried |= {"id": "fry", "name": "Fry"}
    proof = prove(plan(["egg", "bread"], soft, hand("coat", thickness_m=0.06), fried))
    assert failing(proof) == {"fry"}  # one cook of two heats, and its line is asked at the last of them


@pytest.mark.parametrize(
    ("bath_c", "minutes", "meets"), [(60, 60, False), (65, 90, True)], ids=["60 for 60", "65 for 90"]
)
def test_eggs_by_their_centre(bath_c: float, minutes: float, meets: bool) -> None:
    """In water of 60 °C for an hour the centre has some 20 min near it, and never 63 °C (Food Code 3-401.11(A)(1))."""
    slow = heat(medium="bath", surroundings_c=bath_c, thickness_m=0.043, shape="sphere", duration_s=60 * minutes)
    assert prove(plan(["egg"], slow)).meets is meets


def bagged(thickness_m: float, bath_c: float, minutes: float) -> dict[str, Any]:
    settings = {"thickness_m": thickness_m, "bath_c": bath_c, "duration_s": 60 * minutes, "start_c": 8}
    return {"kind": "bath_cook", "id": "cook", "name": "Bath", **settings}


@pytest.mark.parametrize("thickness_m", [0.01, 0.02, 0.03])
def test_a_bag_of_egg_sauce_in_a_bath_of_62_for_half_an_hour_is_not_done(thickness_m: float) -> None:
    """At 30 mm its middle is near 49 °C; thin, it still lies below the first row for salted yolks, 62.2 °C."""
    sauce = plan(["yolk-salted", "butter"], bagged(thickness_m, 62, 30))
    proof = prove(sauce)
    assert failing(proof) == {"cook"}
    titles = [each.limit.id for each in proof.limits if each.step == "cook"]
    assert "egg-yolk-salted" in titles
    core = next(curve for curve in sheet_of(sauce).columns[1].curves if curve.quantity == "core").values[-1]
    assert core == pytest.approx({0.01: 61.8, 0.02: 59.0, 0.03: 49.0}[thickness_m], abs=3.0)


def test_egg_sauce_by_thickness_and_its_salted_row() -> None:
    """Hot and long enough for its thickness it passes; plain yolks ask for less than salted ones."""
    assert prove(plan(["yolk-salted", "butter"], bagged(0.018, 68, 60))).meets
    rows = {
        key: next(each for each in prove(plan([key], bagged(0.02, 66, 60))).limits if each.limit.id.startswith("egg-y"))
        for key in ("yolk", "yolk-salted")
    }
    quick, slow = rows["yolk"].time_to_meet_s, rows["yolk-salted"].time_to_meet_s
    assert quick
    assert slow
    assert quick < slow


@pytest.mark.parametrize(("held_c", "meets"), [(60, True), (50, False)])
def test_sauce_over_a_gratin_is_held_hot_or_not_at_all(held_c: float, meets: bool) -> None:
    hold = {"kind": "hot_hold", "id": "hold", "name": "Over the gratin", "held_c": held_c, "duration_s": 3600}
    proof = prove(plan(["yolk-salted", "butter"], bagged(0.018, 68, 60), hand("strain", duration_s=300), hold))
    assert proof.meets is meets, said(proof)


def test_whites_and_herb_butter_in_the_frost_have_their_days() -> None:
    """Frost keeps; it kills nothing, and half a year is for quality (common practice)."""
    for keys in (["white"], ["butter", "herbs"]):
        frozen = {"kind": "freeze_down", "id": "freeze", "name": "Freeze", "thickness_m": 0.03, "days": 60}
        assert prove(plan(keys, dict(frozen))).meets
        assert failing(prove(plan(keys, frozen | {"days": 300}))) == {"freeze"}
        assert failing(prove(plan(keys, frozen | {"surroundings_c": -12}))) == {"freeze"}


@pytest.mark.parametrize(("depth_m", "meets"), [(0.025, True), (0.12, False)], ids=["small moulds", "one bowl"])
def test_a_gelatin_cream_has_a_cooling_of_its_own(depth_m: float, meets: bool) -> None:
    warm = heat(medium="boiling", surroundings_c=85, thickness_m=depth_m, duration_s=3 * 3600)
    chill = BLAST | {"id": "chill", "thickness_m": depth_m, "surroundings_c": 0, "medium": "fan_fridge"}
    chill |= {"duration_s": 20 * 3600}
    proof = prove(plan(["cream", "gelatin"], warm, chill, dict(FRIDGE)))
    assert proof.meets is meets, said(proof)
    assert meets or "chill" in failing(proof)


@pytest.mark.parametrize(("keep_days", "picked_s", "meets"), [(2, 1800, True), (9, 1800, False), (2, 3 * 3600, False)])
def test_crustaceans_steamed_picked_and_kept(keep_days: float, picked_s: float, meets: bool) -> None:
    """Core, hands, then the clock of what is ready to eat (Food Code 3-501.17: 7 days)."""
    steam = heat(medium="steam", surroundings_c=100, thickness_m=0.02, shape="cylinder", duration_s=540)
    chill = BLAST | {"id": "chill", "duration_s": 7200, "thickness_m": 0.02}
    pick = hand("shell", id="pick", duration_s=picked_s)
    made = plan(["prawn"], steam, chill, pick, FRIDGE | {"days": keep_days})
    proof = prove(made)
    assert proof.meets is meets, said(proof)
    assert cell(sheet_of(made), "s-aureus", "pick").act == "comes_in"


def test_a_whole_bird_is_neither_rinsed_nor_stuffed() -> None:
    """Water spreads Campylobacter; bread in the cavity has to reach 74 °C, and the bird is dry long before."""
    roast = {"medium": "fan_oven", "surroundings_c": 180, "start_c": 4}
    plain = heat(thickness_m=0.07, shape="cylinder", duration_s=110 * 60, **roast)
    assert prove(plan(["chicken-whole"], plain)).meets
    rinsed = prove(plan(["chicken-whole"], hand("rinse"), dict(plain)))
    assert rinsed.state == "fails"
    assert "Campylobacter" in said(rinsed)
    stuffed = plan(
        ["chicken-whole", "bread"],
        hand("fill", thickness_m=0.13),
        heat(thickness_m=0.13, duration_s=100 * 60, **roast),
    )
    assert failing(prove(stuffed)) == {"heat"}
    assert "us-filled" in {each.limit.id for each in prove(stuffed).limits}


def test_a_breast_filled_and_made_ahead_answers_to_its_filling() -> None:
    ahead = (hand("fill", thickness_m=0.045), FRIDGE | {"days": 1})
    low = heat(medium="bath", surroundings_c=64, thickness_m=0.045, duration_s=2 * 3600)
    assert failing(prove(plan(["chicken-breast", "goose-fat"], *ahead, low))) == {"heat"}
    done = heat(medium="steam", surroundings_c=85, thickness_m=0.045, duration_s=2 * 3600)
    assert prove(plan(["chicken-breast", "goose-fat"], hand("fill", thickness_m=0.045), done)).meets
    late = FRIDGE | {"days": 9}
    assert "keep" in failing(prove(plan(["chicken-breast"], hand("fill", thickness_m=0.045), late, dict(done))))


def test_meat_rolled_round_garlic_in_a_bag_at_57_fails_as_filled() -> None:
    """57.2 °C for 2 h is a whole roast's row: what is rolled or filled is none (Food Code 3-401.11(A)(2), (3))."""
    for work, line in (("fill", "us-filled"), ("roll", "us-minced")):
        rolled = plan(["lamb-saddle", "garlic", "herbs"], hand(work, thickness_m=0.06), bagged(0.06, 57.2, 120))
        proof = prove(rolled)
        assert "cook" in failing(proof)
        assert line in {each.limit.id for each in proof.limits}


@pytest.mark.parametrize(("days", "meets"), [(4, True), (6, False)])
def test_the_same_paste_as_a_sauce_is_kept_cold_four_days_at_most(days: float, meets: bool) -> None:
    """Garlic and herbs under oil, not soured: FDA's advice, the stricter end."""
    boiled = heat(medium="boiling", surroundings_c=95, thickness_m=0.03, duration_s=3600)
    keep = FRIDGE | {"days": days}
    chill = BLAST | {"id": "chill", "duration_s": 3 * 3600}
    proof = prove(plan(["garlic", "herbs", "rapeseed-oil"], boiled, chill, keep))
    assert proof.meets is meets, said(proof)
    sour = dress("mixed", ph=4.0)
    assert prove(plan(["garlic", "herbs", "rapeseed-oil"], sour, FRIDGE | {"days": 6})).meets


def test_a_marinade_that_raw_meat_lay_in_is_no_sauce_until_it_boiled() -> None:
    raw = decided(plan(["marinade-used"], dress("poured", ph=3.5, duration_s=600)))
    assert any("Salmonella" in gap.sentence for gap in gaps_of(with_controls(raw)))
    boiled = heat(medium="boiling", surroundings_c=99, thickness_m=0.02, duration_s=900)
    assert prove(plan(["marinade-used"], boiled)).meets


@pytest.mark.parametrize(("rules", "frozen"), [("us", False), ("eu", True)])
def test_tuna_is_raw_under_its_crust_and_in_citrus(rules: Any, frozen: bool) -> None:
    """Exempt from freezing by species in the Food Code, 3-402.11(B); in the EU it is frozen first."""
    seared = heat(medium="pan", surroundings_c=220, thickness_m=0.04, duration_s=40)
    assert failing(prove(plan(["tuna"], seared, rules=rules))) == {"heat"}
    citrus = plan(["tuna"], FRIDGE | {"days": 1, "max_c": 2}, dress("poured", ph=2.8, duration_s=240), rules=rules)
    raised = {hazard.key for hazard in suggested_hazards(citrus)}
    assert "histamine" in raised
    assert ("parasites" in raised) is frozen
    open_ = [gap.sentence for gap in gaps_of(with_controls(decided(citrus)))]
    assert any("Parasites" in each for each in open_) is frozen
    assert cell(sheet_of(citrus), "histamine", "keep").critical is False


def test_boar_smoked_to_52_fails_for_trichinella_and_by_the_line_of_game() -> None:
    smoked = heat(medium="steam", surroundings_c=66, thickness_m=0.05, duration_s=4500)  # taken out with 52 °C inside
    made = decided(plan(["boar"], smoked))
    assert failing(prove(made)) == {"heat"}
    sheet = sheet_of(made)
    assert sheet.columns[1].curves[0].values[-1] == pytest.approx(51, abs=2)
    assert cell(sheet, "trichinella", "heat").act == "lives"
    hot = heat(medium="steam", surroundings_c=90, thickness_m=0.05, duration_s=3 * 3600)
    done = decided(plan(["boar"], hot))
    assert prove(done).meets
    assert cell(sheet_of(done), "trichinella", "heat").act == "killed"


def test_what_comes_in_warm_is_not_cold_because_its_bowl_stands_cold() -> None:
    """Fish cut for two hours in a warm kitchen lies under its dressing past them; thick meat is salted above 5 °C,
    and what is thin comes down to it within the two hours that hands may have (3-501.16: prepared)."""
    warm = hand("portion", duration_s=3000, surroundings_c=20, thickness_m=0.01)
    slow = warm | {"duration_s": 7100}
    keep, poured = FRIDGE | {"days": 1, "max_c": 2}, dress("poured", ph=2.8, kept_c=20, duration_s=1200)
    assert "dress" in failing(prove(plan(["scallop"], dict(keep), dict(slow), dict(poured))))
    assert "dress" not in failing(prove(plan(["scallop"], dict(keep), dict(warm), dict(poured))))  # 3-501.16: prepared
    salted = {"kind": "salting", "id": "salt", "name": "Salt", "thickness_m": 0.01, "duration_s": 6 * 3600}
    thick, stood = salted | {"thickness_m": 0.08}, slow | {"thickness_m": 0.08}
    assert "salt" in failing(prove(plan(["lamb-saddle"], dict(stood), dict(thick), dict(keep))))
    assert "salt" not in failing(prove(plan(["lamb-saddle"], dict(warm), dict(salted), dict(keep))))
    assert "salt" not in failing(prove(plan(["lamb-saddle"], dict(salted), dict(keep))))


def test_a_hot_hold_heats_nothing() -> None:
    """Left to stand an hour, a sauce is cooler than it is said to be held at (heat lost to still air)."""
    hold = {"kind": "hot_hold", "id": "hold", "name": "Hold", "held_c": 65, "duration_s": 3600}
    stood = hand("strain", duration_s=3600)
    proof = prove(plan(["yolk-salted", "butter"], bagged(0.018, 70, 60), stood, hold))
    assert proof.state == "fails"
    assert "does not heat" in said(proof)


def test_raw_food_is_not_for_guests_at_higher_risk() -> None:
    cold = FRIDGE | {"days": 1, "max_c": 2}
    poured = dress("poured", ph=2.8, duration_s=240)
    assert prove(plan(["scallop"], dict(cold), dict(poured))).meets
    risky = prove(plan(["scallop"], dict(cold), dict(poured), guests="higher_risk"))
    assert risky.state == "fails"
    assert "no raw food" in said(risky)
    mayonnaise = plan(["yolk-salted", "rapeseed-oil"], dress("mixed", ph=3.9), dict(cold), guests="higher_risk")
    assert prove(mayonnaise).state == "fails"


@pytest.mark.parametrize(("ph", "meets"), [(3.9, True), (4.5, False)])
def test_an_emulsion_of_raw_yolks_stands_on_its_measured_acid(ph: float, meets: bool) -> None:
    """NSW Food Authority: raw egg dressings at pH 4.2 or below."""
    proof = prove(plan(["yolk-salted", "rapeseed-oil"], dress("mixed", ph=ph), dict(FRIDGE)))
    assert proof.meets is meets, said(proof)


def pickle(**settings: Any) -> dict[str, Any]:
    given = {"vegetable": "onion", "vegetable_kg": 1, "vinegar_kg": 1, "vinegar_percent": 6, "piece_m": 0.004}
    return {"kind": "pickle", "id": "brine", "name": "Brine", **given, **settings}


def test_a_quick_pickle_of_shallots_and_chillies_says_when_it_is_sour() -> None:
    proof = prove(plan(["shallot", "chilli", "vinegar"], pickle(), dict(FRIDGE)))
    assert proof.meets, said(proof)
    sour = next(each for each in proof.limits if each.step == "brine")
    assert sour.time_to_meet_s
    assert 600 < sour.time_to_meet_s < 86400


JARS = {"kind": "jar_heat", "id": "jars", "name": "Jars", "surroundings_c": 60, "thickness_m": 0.08, "start_c": 20}
SHELF = {"kind": "shelf_keep", "id": "shelf", "name": "Shelf", "days": 90}


def jarred(*before: dict[str, Any], **settings: Any) -> Any:
    given = {"duration_s": 2.5 * 3600, "ph": 4.1, "scheduled": True, **settings}
    return prove(plan(["onion", "vinegar"], *before, JARS | given, dict(SHELF)))


def test_jars_at_sixty_degrees_go_by_content_process_and_lid() -> None:
    """At pH 4.1 the middle needs some 13 min at 60 °C, which a jar of 80 mm takes more than two hours to have."""
    sour = pickle(keep="shelf", kept_c=20)
    assert jarred(dict(sour)).meets, said(jarred(dict(sour)))
    hurried = jarred(dict(sour), duration_s=3600)
    assert failing(hurried) == {"jars"}
    weak = pickle(keep="shelf", kept_c=20, vinegar_kg=0.12)
    assert not jarred(weak).meets
    nobody = jarred(dict(sour), scheduled=False)
    assert nobody.state != "meets"
    assert "scheduled process" in said(nobody)
    assert "fridge" in said(jarred(dict(sour), lid="one_piece"))
    never = jarred()  # nothing makes it sour
    assert never.state == "fails"
    assert "pressure" in said(never)
    fridge = prove(plan(["onion", "vinegar"], pickle(), dict(FRIDGE)))
    assert fridge.meets
    heated = JARS | {"duration_s": 2.5 * 3600, "ph": 4.1, "scheduled": True}
    assert prove(plan(["onion", "vinegar"], pickle(), heated, dict(FRIDGE))).meets  # heated, and kept cold all the same


def test_a_plan_of_forty_steps_is_laid_out_whole() -> None:
    """Each day cut, cooked, chilled and kept: every step weighs what is raised there."""
    day = (
        hand("portion", duration_s=600),
        heat(medium="steam", surroundings_c=95, thickness_m=0.03, duration_s=3600),
        BLAST | {"duration_s": 3 * 3600},
        FRIDGE | {"days": 1},
    )
    steps = [dict(step) | {"id": f"d{n}-{i}"} for n in range(10) for i, step in enumerate(day)][:39]
    whole = decided(plan(["lamb-shoulder"], *steps))
    sheet = sheet_of(whole)
    assert len(sheet.columns) == 40
    assert all(len(row.cells) == 40 for row in sheet.rows)


def test_butter_in_cold_smoke_for_eight_hours() -> None:
    """Nothing raw in it and the chamber below 30 °C: flavour and no cooking (common practice)."""
    smoke = {"kind": "cold_smoke", "id": "smoke", "name": "Smoke", "surroundings_c": 16, "duration_s": 8 * 3600}
    assert prove(plan(["butter"], dict(smoke), FRIDGE | {"days": 5})).meets
    assert failing(prove(plan(["butter"], smoke | {"surroundings_c": 36}, dict(FRIDGE)))) == {"smoke"}


def test_meat_sours_only_with_a_starter_and_within_its_degree_hours() -> None:
    """Fewer than 1200 °F·h below 90 °F (American Meat Institute): 24 °C for 4 days has 1459."""
    sour = {"kind": "souring", "id": "sour", "name": "Sour", "salt_percent": 2.6, "kept_c": 24, "sour_days": 1.2}
    rest = (
        heat(medium="steam", surroundings_c=78, thickness_m=0.04, duration_s=7200),
        BLAST | {"id": "chill", "thickness_m": 0.04},
    )
    keep = dict(FRIDGE)
    good = plan(["lamb-mince"], hand("mince"), sour | {"days": 2, "starter": True}, *rest, keep)
    assert prove(good).meets, said(prove(good))
    bare = plan(["lamb-mince"], hand("mince"), sour | {"days": 2}, *rest, keep)
    assert prove(bare).state == "not_proved"
    long = plan(["lamb-mince"], hand("mince"), sour | {"days": 4, "starter": True}, *rest, keep)
    assert "sour" in failing(prove(long))


def test_clocks_add_up_over_the_days_until_a_toxin_can_be_there() -> None:
    """A stew portioned warm day after day: once is well, four times is not, though each time is within its 2 h.

    Cumulative exposure of toxin formers: FDA Fish and Fishery Products Hazards and Controls, Appendix 4, Table A-1. A
    lawful chill adds nothing: a week of them meets.
    """
    warm, cold = "portion 110min 26C 10mm; keep 3C 1d", "boil 97C 30mm 3h; blast -6C 30mm 4h; keep 3C 1d; "
    assert prove(long_plan(24)).state == "meets"
    assert prove(dish("beef-chuck", cold + warm)).state == "meets"
    again = dish("beef-chuck", cold + "; ".join([warm] * 4))
    week = show_proof(again)
    assert week.state == "fails"
    assert {proof.verdict.state for proof in week.limits} <= {"pass", "not_measured"}
    assert any("can have made its toxin" in finding.sentence for finding in week.findings)
    aureus = next(row for row in sheet_of(again).rows if row.key == "s-aureus")
    assert aureus.standing == "fails"
    shown = next(each for each in week.workings if "aureus" in each.title)
    allowed = {each.value for each in shown.inputs}  # Table A-1: 14 days above 7 °C, 12 h above 10, 3 h above 21
    assert allowed == {14 * 24, 12, 3}
    told = re.search(r"([\d.]+) %", week.findings[0].sentence)
    assert told
    assert f"{told.group(1)} %" in shown.result  # the same number, with how it came about
    hazards = tuple(each.model_copy(update={"significant": False}) for each in again.hazards)
    assert prove(again.model_copy(update={"hazards": hazards})).state != "fails"


def test_what_grew_before_a_heat_is_gone_with_it() -> None:
    """Five chills in a row with a boil between them: spores live, what came of them does not add up."""
    perfringens = next(row for row in sheet_of(long_plan(24)).rows if row.key == "c-perfringens")
    assert perfringens.balance.startswith("+0.")
