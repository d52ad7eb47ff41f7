"""What leaves a plan raw, what is served as soon as it is cooked, and what is kept by its acid."""

from typing import Any

import pytest

from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.proof_shown import show_proof
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.suggest import suggested_hazards, with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId
from brinefrost.demo.weighing import decided
from tests.core.test_practice_more import dress, hand, pickle
from tests.core.test_practice_plans import BLAST, FRIDGE, failing, heat, plan
from tests.kitchen import EACH_RULE_SET

CUT = {"duration_s": 600, "surroundings_c": 12}
COLD = {**FRIDGE, "days": 1, "max_c": 2}
FROST = {"kind": "freeze_down", "id": "freeze", "surroundings_c": -24, "thickness_m": 0.03, "days": 9}
CURE = {"kind": "salting", "id": "cure", "way": "rubbed", "salt_percent": 4, "thickness_m": 0.03, "kept_c": 3}
CURE |= {"duration_s": 48 * 3600}
SOUR = {"kind": "souring", "id": "sour", "salt_percent": 2.2, "kept_c": 18, "sour_days": 4, "days": 21}


@pytest.mark.parametrize(
    ("keys", "steps", "state", "said"),
    [
        (["beef-fillet", "shallot"], [COLD, hand("mince", **CUT)], "not_proved", "raw meat"),
        (["chicken-breast"], [COLD, hand("portion", **CUT)], "not_proved", "raw meat"),
        (["beef-fillet"], [COLD], "meets", ""),  # only stored: nobody's meal yet
        (["ham-cooked", "onion"], [COLD, hand("portion", **CUT)], "meets", ""),  # cooked where it was bought
        (["salmon"], [COLD, hand("portion", **CUT)], "not_proved", "worms"),
        (["salmon", "salt"], [CURE, COLD], "not_proved", "worms"),
        (["salmon-letter", "salt"], [CURE, COLD], "meets", ""),
        (["fish-frozen-letter"], [COLD, hand("portion", **CUT)], "meets", ""),
        (["salmon", "salt"], [FROST, CURE, COLD], "meets", ""),
        (["squid", "lime"], [COLD, dress("poured", ph=2.8, duration_s=600)], "not_proved", "worms"),
        (["yolk", "white", "chocolate"], [hand("strain", **CUT), COLD], "not_proved", "pasteurised"),
        (["yolk-pasteurised", "white-pasteurised"], [hand("strain", **CUT), COLD], "meets", ""),
    ],
)
def test_what_leaves_the_plan_raw_is_not_proved_until_something_answers_for_it(
    keys: list[str], steps: list[dict[str, Any]], state: str, said: str
) -> None:
    """Food Code 3-401.11(D), 3-402.11: raw only by freezing, by paper or by what the authority lets a kitchen do."""
    proof = prove(plan(keys, *map(dict, steps), rules="eu"))
    assert proof.state == state, proof.sentence
    assert said in proof.sentence


SMOKE = {"kind": "cold_smoke", "id": "smoke", "surroundings_c": 20, "duration_s": 6 * 3600}


@pytest.mark.parametrize(
    ("keys", "steps", "said"),
    [
        (["pork-neck"], [SMOKE], "salts it with 2 %"),  # and it leaves raw
        (["salmon-letter"], [SMOKE], "salts it with 2 %"),
        (["salmon-letter"], [{**CURE, "salt_percent": 0.5}, SMOKE], "salts it with 2 %"),
        (["pork-neck"], [CURE, SMOKE], "raw meat"),  # salt and smoke cook nothing
        (["beef-fillet", "vinegar"], [dress("soaked", ph=3.8, duration_s=7200), COLD], "raw meat"),
        (["pork-knuckle"], [{**CURE, "salt_percent": 1.5, "duration_s": 20 * 86400}], "seasons"),
        (["herring"], [FROST, pickle(), COLD], "vegetables"),
        (
            ["beef-shin"],
            [heat(medium="steam", surroundings_c=90, thickness_m=0.03, start_c=60, duration_s=7200)],
            "no step before",
        ),
    ],
)
def test_salt_smoke_and_acid_prove_nothing_by_themselves(
    keys: list[str], steps: list[dict[str, Any]], said: str
) -> None:
    proof = prove(plan(keys, *map(dict, steps), rules="eu"))
    assert proof.state == "not_proved", proof.sentence
    assert said in proof.sentence


def test_what_is_salted_well_or_kept_cold_may_hang_in_smoke() -> None:
    assert prove(plan(["salmon-letter"], dict(CURE), dict(SMOKE), dict(COLD), rules="eu")).meets
    assert prove(plan(["salmon-letter"], {**SMOKE, "surroundings_c": 4}, dict(COLD), rules="eu")).meets
    assert prove(plan(["butter"], dict(SMOKE), dict(COLD), rules="eu")).meets


def test_what_comes_of_a_batch_of_this_kitchen_answers_to_that_batch() -> None:
    """Rillettes of a confit: the legs were cooked where they were made."""
    bought = plan(["goose-leg", "goose-fat"], hand("portion", thickness_m=0.02, **CUT), dict(FRIDGE))
    assert prove(bought).state == "not_proved"
    legs, fat = bought.ingredients
    made = bought.model_copy(update={"ingredients": (legs.model_copy(update={"made_here": True}), fat)})
    assert prove(made).meets


def test_hours_in_hands_count_where_nothing_says_how_thick_it_is() -> None:
    """What no curve follows lies in the kitchen's warmth for as long as the step takes."""
    slow = plan(["tuna"], hand("portion", duration_s=8 * 3600, surroundings_c=22), dict(COLD))
    assert prove(slow).state == "fails"
    assert prove(plan(["tuna"], hand("portion", duration_s=8 * 3600, surroundings_c=4), dict(COLD))).meets


def test_a_plan_that_only_keeps_has_a_curve_to_draw() -> None:
    proof = show_proof(plan(["beans"], hand("portion", thickness_m=0.03, **CUT), dict(FRIDGE)))
    assert proof.curve.times_s


@pytest.mark.parametrize(("rules", "proved"), [("us", True), ("eu", False)])
def test_tuna_cut_raw_goes_by_its_species(rules: Any, proved: bool) -> None:
    """Food Code 3-402.11(B) exempts six tunas; Reg. (EC) 853/2004 none."""
    assert (prove(plan(["tuna"], dict(COLD), hand("portion", **CUT), rules=rules)).state == "meets") is proved


def test_meat_cooked_and_served_has_no_fall_to_control() -> None:
    """C. perfringens grows while meat cools or is kept: what goes to the table at once is not asked for it."""
    seared = heat(medium="pan", surroundings_c=220, thickness_m=0.025, duration_s=600)
    served = plan(["beef-sirloin"], seared)
    assert "c-perfringens" not in {each.key for each in suggested_hazards(served)}
    assert gaps_of(with_controls(decided(served))) == ()
    for after in (dict(FRIDGE), {**BLAST, "id": "chill"}, {"kind": "hot_hold", "id": "hold"}):
        kept = plan(["beef-sirloin"], dict(seared), after)
        assert "c-perfringens" in {each.key for each in suggested_hazards(kept)}
    sliced = plan(["beef-sirloin"], dict(seared), hand("portion"))  # hours in hands have a limit of their own
    assert "c-perfringens" not in {each.key for each in suggested_hazards(sliced)}
    again = plan(["beef-sirloin"], {**seared, "again": True}, {**BLAST, "id": "chill"})  # cooked in another plan
    assert "c-perfringens" in {each.key for each in suggested_hazards(again)}
    only = plan(["beef-sirloin"], {**BLAST, "id": "chill"})
    assert "c-perfringens" in {each.key for each in suggested_hazards(only)}
    before = plan(["beef-sirloin"], dict(FRIDGE), dict(seared))
    assert "c-perfringens" not in {each.key for each in suggested_hazards(before)}


@pytest.mark.parametrize("rules", RULE_SET_IDS)
@pytest.mark.parametrize(
    ("keys", "soured", "days", "fails"),
    [
        (["cabbage", "salt"], SOUR, 42, set()),
        (["cabbage", "salt"], SOUR, 90, {"keep"}),
        (["shallot", "vinegar"], pickle(), 42, set()),
        (["shallot", "vinegar"], pickle(vinegar_kg=0.05), 42, {"keep", "brine"}),
        (["yolk-salted", "rapeseed-oil"], dress("mixed", ph=3.9), 20, {"keep"}),  # raw eggs are kept by days
    ],
)
def test_what_is_sour_through_is_kept_by_its_acid_and_not_by_days(
    rules: Any, keys: list[str], soured: dict[str, Any], days: float, fails: set[str]
) -> None:
    """Food Code 1-201.10, table B: below pH 4.2 no time or temperature control; 60 days for quality."""
    proof = prove(plan(keys, dict(soured), {**FRIDGE, "days": days}, rules=rules))
    assert failing(proof) == fails, proof.sentence


def test_what_is_kept_by_its_acid_is_measured_as_it_goes_in() -> None:
    whole = with_controls(decided(plan(["cabbage", "salt"], dict(SOUR), {**FRIDGE, "days": 42})))
    control = whole.control_of("keep")
    assert control is not None
    assert {"keep-sour"} <= {limit.id for limit in control.limits}
    assert "ph" in {each.quantity for each in control.monitoring}
    assert gaps_of(whole) == ()
    short = with_controls(decided(plan(["cabbage", "salt"], dict(SOUR), {**FRIDGE, "days": 3})))
    kept = short.control_of("keep")
    assert kept is not None
    assert "keep-sour" not in {limit.id for limit in kept.limits}
    risky = plan(["cabbage", "salt"], dict(SOUR), {**FRIDGE, "days": 42}, guests="higher_risk")
    assert failing(prove(risky)) == set()  # Listeria does not grow below pH 4.4: Reg. (EC) 2073/2005, annex I, note 8
    control = with_controls(decided(risky)).control_of("keep")
    assert control is not None
    assert "keep-sour" in {limit.id for limit in control.limits}  # and the pH is measured below that


@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
@pytest.mark.parametrize("key", ["pickles", "kraut"])
def test_guests_at_higher_risk_get_what_is_kept_by_its_acid(key: str, rules: RuleSetId) -> None:
    made = template(key)
    whole = made.plan(made.name, rules).model_copy(update={"guests": "higher_risk"})
    ready = with_controls(decided(whole))
    assert prove(ready).state == "meets"
    assert gaps_of(ready) == ()


@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
def test_bought_cooked_ham_is_not_raw_and_dried_ham_is(rules: RuleSetId) -> None:
    """Sliced and kept three days; Food Code 3-801.11(C) keeps raw food of animals from these guests, not cooked."""
    keep = {**FRIDGE, "days": 3}
    cooked, dried = (
        decided(plan([f"ham-{how}"], hand("portion", **CUT), keep, guests="higher_risk", rules=rules))
        for how in ("cooked", "dried")
    )
    assert "raw" not in str(prove(cooked).sentence)
    assert "salmonella-meat" not in {hazard.key for hazard in cooked.hazards}
    assert "raw" in str(prove(dried).sentence)
