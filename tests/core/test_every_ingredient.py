"""Every ingredient of the catalogue: raw animals done well meet every rule set, done barely none; each is declared."""

from typing import Any

import pytest

from brinefrost.core.food.catalogue import CatalogueIngredient, catalogue
from brinefrost.core.kitchen.fish import species
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.readiness import SPECIES_WORDS, gaps_of
from brinefrost.core.plans.suggest import suggested_hazards, with_controls
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.demo.weighing import decided
from tests.core.test_practice_plans import BLAST, FRIDGE, failing, heat, plan

ALL = catalogue().ingredients
RAW = [each for each in ALL if "raw" in each.tags and set(each.tags) & set(ANIMALS)]
STEAM: dict[str, Any] = {"medium": "steam", "thickness_m": 0.02, "duration_s": 5400}


def rules_of(each: CatalogueIngredient) -> Any:
    """Each in one rule set, all of them in turn."""
    return RULE_SET_IDS[ALL.index(each) % 4]


def test_keys_and_names_are_each_ones_own() -> None:
    assert len({each.key for each in ALL}) == len({each.name for each in ALL}) == len(ALL) > 300
    assert {each.species for each in ALL if each.species} <= set(species())


@pytest.mark.parametrize("each", RAW, ids=lambda each: each.key)
def test_done_well_it_meets_and_done_barely_it_does_not(each: CatalogueIngredient) -> None:
    chill = {**BLAST, "id": "chill", "thickness_m": 0.02, "surroundings_c": -8}
    well = heat(surroundings_c=96, **STEAM)
    done = plan([each.key], well, chill, dict(FRIDGE), rules=rules_of(each))
    proof = prove(done)
    assert proof.meets, proof.sentence
    assert gaps_of(with_controls(decided(done))) == ()
    barely = plan([each.key], heat(surroundings_c=52, **STEAM), dict(chill), dict(FRIDGE), rules=rules_of(each))
    assert "heat" in failing(prove(barely))


@pytest.mark.parametrize("each", [each for each in RAW if {"fish"} & set(each.tags)], ids=lambda each: each.key)
def test_fish_and_squid_eaten_raw_raise_their_worms(each: CatalogueIngredient) -> None:
    """Reg. (EC) 853/2004 annex III sect. VIII ch. III D 3: finfish and cephalopods; farmed on proved feed is exempt."""
    raised = {hazard.key for hazard in suggested_hazards(plan([each.key], {**FRIDGE, "days": 1}, rules="eu"))}
    exempt = each.origin == "farmed_feed" or each.key in ("roe", "fish-frozen-letter")
    assert ("parasites" in raised) is not exempt


@pytest.mark.parametrize("word", SPECIES_WORDS)
def test_a_dish_named_after_an_animal_can_be_made_of_it(word: str) -> None:
    """What a name asks for is in the catalogue: no dish is refused because nobody wrote its animal down."""
    assert any(SPECIES_WORDS[word] in each.tags for each in ALL)


@pytest.mark.parametrize(
    ("group", "allergen"),
    [
        ("Fish", "fish"),
        ("Eggs", "eggs"),
        ("Milk and cheese, pasteurised", "milk"),
    ],
)
def test_a_whole_group_is_declared(group: str, allergen: str) -> None:
    """Reg. (EU) 1169/2011, annex II."""
    assert all(allergen in each.allergens for each in ALL if each.group == group)


def test_crustaceans_and_molluscs_are_declared_as_such() -> None:
    """Land snails are molluscs, insects stand with crustaceans (Reg. (EU) 2017/2470), sauces by what they hold."""
    made = {"snail", "insects", "surimi", "oyster-sauce", "curry-paste"}
    for each in ALL:
        of = {"crustaceans": {"crustacean"} & set(each.tags), "molluscs": {"bivalve", "cephalopod"} & set(each.tags)}
        for allergen, tags in of.items():
            assert allergen in each.allergens or not tags, each.key
            assert bool(tags) or allergen not in each.allergens or each.key in made, each.key
