"""Dishes as cooks make them, each as a plan: what is safe comes out as safe, what is not as not, and why.

The judgement of each case is that of the rule set named, or common practice where marked; plain foods, not the demo's.
"""

from typing import Any

import pytest

from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.proof import Proof, prove
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.sheet_parts import Sheet

FRIDGE = {"kind": "cold_keep", "id": "keep", "name": "Fridge", "max_c": 3, "days": 3}
BLAST = {"kind": "chill_air", "medium": "blast", "surroundings_c": -4, "thickness_m": 0.03, "begin_within_s": 600}


def plan(keys: list[str], *steps: dict[str, Any], rules: Any = "us", **more: Any) -> Plan:
    known = [catalogue().ingredient(key) for key in keys]
    named = tuple(Ingredient(name=each.name, catalogue=each.key, allergens=each.allergens) for each in known)
    laid = [{"kind": "receive", "id": "receive", "name": "Receive"}, *steps]
    for index, step in enumerate(laid):
        step.setdefault("id", f"s{index}")
        step.setdefault("name", step["kind"])
    return Plan.model_validate({"name": "Practice", "rule_set": rules, "ingredients": named, "steps": laid, **more})


def failing(proof: Proof) -> set[str]:
    """The limits that are not met, by step."""
    return {each.step for each in proof.limits if each.verdict.state in ("fail", "too_close", "pending")}


def cell(sheet: Sheet, hazard: str, step: str) -> Any:
    row = next(row for row in sheet.rows if row.key == hazard)
    return next(each for each in row.cells if each.step == step)


def heat(**settings: Any) -> dict[str, Any]:
    return {"kind": "heat_in", "id": "heat", "name": "Heat", **settings}


def test_small_legs_overnight_in_an_oven_nearly_off_stay_too_long_in_the_zone() -> None:
    """Under fat at 60 °C: the core creeps up, and a bird's 74 °C is never reached (Food Code 3-401.11(A)(3))."""
    low = heat(medium="still_fat", surroundings_c=60, thickness_m=0.03, duration_s=10 * 3600)
    proof = prove(plan(["goose-leg"], low, {**BLAST, "id": "chill"}, dict(FRIDGE)))
    assert failing(proof) == {"heat"}
    assert not proof.meets
    hot = heat(medium="still_fat", surroundings_c=86, thickness_m=0.03, duration_s=10 * 3600)
    assert prove(plan(["goose-leg"], hot, {**BLAST, "id": "chill"}, dict(FRIDGE))).meets


def test_a_soft_boiled_egg_is_raw_at_its_centre() -> None:
    """2 min 10 s in boiling water: the middle of a 44 mm egg is still cold (conduction; common practice)."""
    soft = heat(medium="boiling", surroundings_c=99, thickness_m=0.044, shape="sphere", duration_s=130)
    proof = prove(plan(["egg"], soft))
    assert failing(proof) == {"heat"}
    sheet = sheet_of(
        plan(["egg"], heat(medium="boiling", surroundings_c=99, thickness_m=0.044, shape="sphere", duration_s=130))
    )
    assert sheet.columns[1].curves[0].values[-1] < 45


@pytest.mark.parametrize(("duration_s", "meets"), [(4 * 3600, True), (20 * 60, False)])
def test_an_egg_at_sixty_four_needs_its_time(duration_s: float, meets: bool) -> None:
    slow = heat(medium="bath", surroundings_c=65, thickness_m=0.044, shape="sphere", duration_s=duration_s)
    assert prove(plan(["egg"], slow)).meets is meets


def test_a_custard_cooled_by_itself_misses_the_fall() -> None:
    """Eight yolks and four eggs in a tray of water, then left to stand: the core is right, the fall is not."""
    baked = heat(medium="still_oven", surroundings_c=145, thickness_m=0.03, start_c=15, duration_s=6000)
    stood = {"kind": "handwork", "id": "stand", "name": "Stands", "work": "portion", "duration_s": 6 * 3600}
    proof = prove(plan(["egg-pooled", "cream"], baked, stood, dict(FRIDGE)))
    assert not proof.meets
    assert "heat" not in failing(proof)
    assert any(each.step == "keep" for each in proof.findings)
    blasted = {**BLAST, "id": "chill", "thickness_m": 0.03, "duration_s": 4 * 3600}
    assert prove(plan(["egg-pooled", "cream"], baked, blasted, dict(FRIDGE))).meets


def test_half_the_thickness_takes_a_quarter_of_the_time_in_brine() -> None:
    """A chop in cold 3 % brine: “half the size, half the time” is wrong; it goes with the square (Crank 1975)."""

    def middle(thickness_m: float, hours: float) -> float:
        brine = {"kind": "salting", "id": "brine", "way": "brined", "salt_percent": 3, "kept_c": 3}
        made = plan(["lamb-shoulder"], {**brine, "thickness_m": thickness_m, "duration_s": hours * 3600})
        column = next(each for each in sheet_of(made).columns if each.step == "brine")
        return next(curve for curve in column.curves if curve.quantity == "salt").values[-1]

    assert middle(0.02, 12) == pytest.approx(middle(0.01, 3), abs=0.02)
    assert middle(0.01, 6) > 1.3 * middle(0.02, 12)


def test_a_filled_piece_answers_to_its_filling() -> None:
    """Filled: 74 °C at the filling's middle (Food Code 3-401.11(A)(3)), which a whole cut does not need."""
    done = heat(medium="steam", surroundings_c=68, thickness_m=0.04, duration_s=3 * 3600)
    fill = {"kind": "handwork", "id": "fill", "work": "fill", "duration_s": 1200, "surroundings_c": 12}
    assert prove(plan(["lamb-saddle"], dict(done))).meets
    assert failing(prove(plan(["lamb-saddle"], fill, dict(done)))) == {"heat"}
    hotter = heat(medium="steam", surroundings_c=80, thickness_m=0.04, duration_s=3 * 3600)
    assert prove(plan(["lamb-saddle"], dict(fill), hotter)).meets


def test_meat_rolled_round_its_stuffing_answers_to_the_opened_lines() -> None:
    """57.2 °C for 2 h does a whole roast by its table; rolled, its inside was outside: 68 °C or equal."""
    rolled = {"kind": "handwork", "id": "roll", "work": "roll", "duration_s": 900, "surroundings_c": 12}
    cooked = heat(medium="bath", surroundings_c=57.2, thickness_m=0.05, shape="cylinder", duration_s=2 * 3600)
    assert failing(prove(plan(["lamb-saddle"], rolled, cooked))) == {"heat"}


def test_a_tenderloin_without_numbers_cannot_be_proved() -> None:
    nothing = plan(["short-rib"], {"kind": "seal", "id": "seal", "name": "Seal", "pack_mass_kg": 1})
    assert sheet_of(nothing).state == "empty"
    assert "nothing to prove" in sheet_of(nothing).sentence


def test_octopus_kind_of_cook_pressed_cold_passes_and_pressed_warm_does_not() -> None:
    """Five hours at 76.7 °C, then pressed overnight: in the cold it is safe, on the bench it is not."""
    cooked = heat(medium="bath", surroundings_c=76.7, thickness_m=0.03, duration_s=5 * 3600)
    chilled = {**BLAST, "id": "chill"}
    cold = {"kind": "handwork", "id": "press", "work": "press", "duration_s": 8 * 3600, "surroundings_c": 3}
    assert prove(plan(["cuttlefish"], dict(cooked), dict(chilled), cold, dict(FRIDGE))).meets
    warm = plan(["cuttlefish"], dict(cooked), {**cold, "surroundings_c": 20}, dict(FRIDGE))
    assert not prove(warm).meets


def test_a_braise_over_three_days_passes_when_each_chill_does_and_fails_when_one_is_left_out() -> None:
    """Each chill is a control and answers for its fall; what was not chilled adds up."""
    pot = {"kind": "heat_in", "medium": "boiling", "surroundings_c": 98, "thickness_m": 0.03}
    day1 = [{**pot, "id": "cook", "duration_s": 9000}, {**BLAST, "id": "chill"}, {**FRIDGE, "id": "k1", "days": 1}]
    day2 = [{**pot, "id": "again", "duration_s": 5400, "again": True}, {**BLAST, "id": "chill2"}]
    day3 = [{**FRIDGE, "id": "k2", "days": 1}, {**pot, "id": "serve", "duration_s": 5400, "again": True}]
    whole = plan(["lamb-shoulder", "beans"], *day1, *day2, *day3)
    assert prove(whole).meets
    skipped = plan(["lamb-shoulder", "beans"], *day1, day2[0], *day3)
    assert not prove(skipped).meets
    clock, more = ([column.exposed for column in sheet_of(each).columns] for each in (whole, skipped))
    assert max(more) > max(clock)


def test_fish_in_citrus_is_raw_fish() -> None:
    """Acid is no kill: without frost nothing controls the parasites; with it, it stands."""
    sliced = {"kind": "handwork", "id": "slice", "work": "portion", "duration_s": 600, "surroundings_c": 15}
    raw = plan(["trout", "lemon"], {**FRIDGE, "days": 1}, dict(sliced))
    parasites = next(row for row in sheet_of(raw).rows if row.key == "parasites")
    assert not any(each.act == "killed" or each.critical for each in parasites.cells)
    frozen = {"kind": "freeze_down", "id": "freeze", "surroundings_c": -24, "thickness_m": 0.03, "days": 9}
    assert prove(plan(["trout", "lemon"], frozen, {**FRIDGE, "days": 1}, dict(sliced))).meets
    short = {**frozen, "days": 2}
    assert failing(prove(plan(["trout", "lemon"], short, {**FRIDGE, "days": 1}, dict(sliced)))) == {"freeze"}


def test_a_loin_cooked_low_for_an_hour_and_smoked_for_flavour_fails_with_the_time_that_passes() -> None:
    """57 °C for 1 h at 50 mm: the middle is not there yet; the smoke adds no heat that counts."""
    low = heat(medium="bath", surroundings_c=57.2, thickness_m=0.05, duration_s=3600)
    smoke = {"kind": "cold_smoke", "id": "smoke", "surroundings_c": 22, "duration_s": 2 * 3600}
    proof = prove(plan(["lamb-saddle"], low, smoke))
    assert "heat" in failing(proof)
    said = next(each for each in proof.limits if each.step == "heat")
    assert said.time_to_meet_s is None or said.time_to_meet_s > 3600


def test_confit_opened_and_formed_again_has_hands_in_it_and_is_heated_again() -> None:
    fat = heat(medium="still_fat", surroundings_c=86, thickness_m=0.03, duration_s=10 * 3600)
    form = {"kind": "handwork", "id": "form", "work": "coat", "duration_s": 1800, "surroundings_c": 15}
    fry = {"kind": "heat_in", "id": "fry", "medium": "frying", "surroundings_c": 175, "thickness_m": 0.03}
    again = {**fry, "duration_s": 1500, "again": True}
    made = plan(["goose-leg"], fat, {**BLAST, "id": "chill"}, dict(FRIDGE), form, again)
    assert prove(made).meets
    assert cell(sheet_of(made), "listeria", "form").said == "from hands"
    barely = plan(
        ["goose-leg"], dict(fat), {**BLAST, "id": "chill"}, dict(FRIDGE), dict(form), {**again, "duration_s": 120}
    )
    assert failing(prove(barely)) == {"fry"}


def test_a_terrine_of_stems_pressed_in_the_kitchen_grows_and_in_the_cold_does_not() -> None:
    blanch = heat(medium="boiling", surroundings_c=98, thickness_m=0.015, duration_s=600)
    cold = {"kind": "handwork", "id": "press", "work": "press", "duration_s": 5400, "surroundings_c": 3}
    made = plan(["chard"], blanch, {**BLAST, "id": "chill"}, cold, dict(FRIDGE))
    assert prove(made).meets
    warm = plan(
        ["chard"],
        dict(blanch),
        {**BLAST, "id": "chill"},
        {**cold, "surroundings_c": 24, "duration_s": 6 * 3600},
        dict(FRIDGE),
    )
    assert any(each.step == "press" for each in prove(warm).findings)
    assert not prove(warm).meets


def test_what_was_only_declared_kills_nothing() -> None:
    """A reheat that the plan only promises is credited with no kill: it was not computed."""
    cooked = heat(medium="steam", surroundings_c=90, thickness_m=0.03, duration_s=3600)
    reheat = {"kind": "reheat", "id": "reheat", "name": "Reheat", "core_c": 80}
    sheet = sheet_of(plan(["lamb-shoulder"], cooked, {**BLAST, "id": "chill"}, dict(FRIDGE), reheat))
    assert cell(sheet, "salmonella-meat", "heat").act == "killed"
    assert all(cell(sheet, key, "reheat").act != "killed" for key in ("salmonella-meat", "listeria"))


def test_an_open_oven_takes_longer() -> None:
    """A dry surface is cooler than the air: what is done under a lid is not yet done without."""
    for covered, hours, meets in ((False, 1.2, False), (True, 1.2, True), (False, 2.0, True)):
        oven = heat(medium="fan_oven", surroundings_c=160, thickness_m=0.05, duration_s=hours * 3600, covered=covered)
        assert prove(plan(["lamb-shoulder"], oven)).meets == meets


def test_held_hot_below_the_line_fails_and_above_it_passes() -> None:
    cooked = heat(medium="boiling", surroundings_c=98, thickness_m=0.04, duration_s=7200)
    for held, meets in ((50, False), (66, True)):
        hold = {"kind": "hot_hold", "id": "hold", "name": "Hold", "held_c": held, "duration_s": 7200}
        assert prove(plan(["beans"], dict(cooked), hold)).meets is meets


@pytest.mark.parametrize(
    ("salt", "warm", "state"), [(2.0, 18, "meets"), (0.3, 18, "not_proved"), (2.0, 34, "not_proved")]
)
def test_a_ferment_asks_for_its_salt_and_its_place(salt: float, warm: float, state: str) -> None:
    sour = {"kind": "souring", "id": "sour", "name": "Sour", "salt_percent": salt, "kept_c": warm, "sour_days": 4}
    assert prove(plan(["cabbage"], sour, dict(FRIDGE))).state == state


def test_pieces_do_not_become_thinner_by_themselves() -> None:
    """A chill planned for thinner pieces than were cooked proves nothing; cut by hand before it, it does."""
    thick = heat(medium="steam", surroundings_c=90, thickness_m=0.06, duration_s=3 * 3600)
    cut = {"kind": "handwork", "id": "cut", "work": "portion", "duration_s": 900, "thickness_m": 0.03}
    assert prove(plan(["lamb-shoulder"], dict(thick), {**BLAST, "id": "chill"}, dict(FRIDGE))).state == "not_proved"
    assert prove(plan(["lamb-shoulder"], dict(thick), cut, {**BLAST, "id": "chill"}, dict(FRIDGE))).meets


def test_what_was_chilled_again_cannot_be_held_hot() -> None:
    pot = {"kind": "heat_in", "medium": "boiling", "surroundings_c": 98, "thickness_m": 0.03}
    steps = [{**pot, "id": "cook", "duration_s": 7200}, {**BLAST, "id": "c1"}, {**FRIDGE, "id": "k1", "days": 1}]
    steps += [{**pot, "id": "again", "duration_s": 5400, "again": True}, {**BLAST, "id": "c2"}]
    hold = {"kind": "hot_hold", "id": "hold", "name": "Hold", "held_c": 66, "duration_s": 3600}
    assert any(each.step == "hold" for each in prove(plan(["lamb-shoulder"], *steps, hold)).findings)
