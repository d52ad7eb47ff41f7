"""More dishes written from a blank page: ferments, cures, frozen food, open ovens, pots, a food without a row."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page

from tests.browser.test_writing import MEETS, SERVE, Part, Written, hands, heat, verdict, written

pytestmark = pytest.mark.browser


def ferment(**sets: str) -> Written:
    return Written("souring", "Ferment", sets)


def keep(celsius: str, days: str) -> Written:
    return Written("cold_keep", "Keep", {"max_c": celsius, "days": days})


CURED = {"thickness_m": "60", "cure": "eu_0.4", "cure_g_kg": "30"}
DISHES: dict[str, tuple[tuple[Written, ...], tuple[Part, ...], str]] = {
    "kimchi": (
        (ferment(salt_percent="2.5", kept_c="18", sour_days="2", days="4"), keep("4", "21")),
        (Part("cabbage", "White cabbage"), Part("garlic", "Garlic")),
        MEETS,
    ),
    "kimchi at nine degrees": (
        (ferment(salt_percent="2.5", kept_c="9", sour_days="12", days="20"), keep("4", "14")),
        (Part("cabbage", "White cabbage"),),
        "does not meet",
    ),
    "bresaola": (
        (
            Written("salting", "Salt", {**CURED, "salt_percent": "4", "duration_s": "720", "kept_c": "3"}),
            Written(
                "drying",
                "Hang",
                {"surroundings_c": "12", "loss_percent": "45", "target_aw": "0.92", "duration_s": "40",
                 "salt_percent": "4"},
            ),
            keep("3", "3"),
        ),
        (Part("beef-silverside", "Beef silverside"),),
        MEETS,
    ),
    "ham in brine": (
        (
            Written(
                "salting", "Brine", {**CURED, "way": "brined", "salt_percent": "2.5", "duration_s": "288"}
            ),
            heat("Boil", "boiling", "80", "60", "300"),
            Written("hot_hold", "Hold", {"held_c": "65"}),
            SERVE,
        ),
        (Part("pork-leg", "Pork leg"),),
        MEETS,
    ),
    "rice for sushi": (
        (
            heat("Boil", "boiling", "92", "10", "40"),
            Written("dressing", "Season", {"way": "mixed", "ph": "4.0", "duration_s": "30", "kept_c": "30"}),
            Written("serve", "Serve", {"duration_s": "240"}),
        ),
        (Part("rice", "Rice"),),
        MEETS,
    ),
    "roast chicken, open": (
        (
            Written(
                "heat_in",
                "Roast",
                {"surroundings_c": "180", "thickness_m": "70", "shape": "cylinder", "duration_s": "85", "covered": ""},
            ),
            SERVE,
        ),
        (Part("chicken-whole", "Chicken, whole"),),
        MEETS,
    ),
    "burgers from the freezer": (
        (Written("heat_in", "Fry", {"medium": "pan", "surroundings_c": "180", "thickness_m": "12", "start_c": "-18",
                                    "duration_s": "16", "turned": "often"}), SERVE),
        (Part("beef-mince", "Beef, minced"),),
        MEETS,
    ),
    "burgers as if thawed": (
        (Written("heat_in", "Fry", {"medium": "pan", "surroundings_c": "180", "thickness_m": "20", "start_c": "-18",
                                    "duration_s": "8"}), SERVE),
        (Part("beef-mince", "Beef, minced"),),
        "does not meet",
    ),
    "stockpot": (
        (
            Written("simmer", "Simmer", {"mass_kg": "40", "heater_w": "9000", "duration_s": "180"}),
            Written("pot_chill", "Ice", {"mass_kg": "40", "ice_kg": "60", "duration_s": "150"}),
            keep("3", "3"),
        ),
        (Part("chicken-carcass", "Chicken carcasses and wings for stock"),),
        MEETS,
    ),
    "yoghurt": (
        (
            heat("Scald", "boiling", "85", "30", "30"),
            ferment(salt_percent="0", kept_c="43", sour_days="0.5", days="1", starter="yes"),
            keep("3", "7"),
        ),
        (Part("milk", "Milk"),),
        MEETS,
    ),
    "garlic soaked sour, then under oil": (
        (
            Written("dressing", "Soak", {"way": "soaked", "ph": "4.0", "duration_s": "4320", "soaked_m": "10"}),
            hands("Fill up", "mix"),
            keep("3", "20"),
        ),
        (Part("garlic", "Garlic"), Part("olive-oil", "Olive oil", "Fill up")),
        MEETS,
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", DISHES)
def test_a_dish_written_from_blank_has_the_verdict_it_ought_to_have(name: str, visit: Callable[..., Page]) -> None:
    steps, parts, said = DISHES[name]
    page = visit("lead", "/plans")
    written(page, steps, *parts)
    verdict(page, said)


def test_a_food_without_a_row_is_described_and_answered_for(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    written(page, (heat("Boil", "boiling", "92", "20", "60"), SERVE))
    drawer = page.locator(".drawer")
    drawer.get_by_label("A food the catalogue does not have").fill("Ptarmigan sausage")
    drawer.get_by_role("button", name="Describe it").click()
    verdict(page, MEETS)  # mixed and raw: the strictest cook, which this boil is
    page.get_by_label("What Ptarmigan sausage is").select_option("bird")
    page.get_by_label("Who answers for Ptarmigan sausage").fill("Maren")
    verdict(page, MEETS)
    page.locator(".sh-card", has_text="Boil").click()
    page.locator("#field-surroundings_c").fill("62")
    verdict(page, "does not meet")
