"""From a recipe to a signed plan and its batch in the browser, with the touches counted."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.acting import start_batch
from tests.browser.test_cooks_hour import COUNTS, touches
from tests.kitchen import PASSWORDS

pytestmark = pytest.mark.browser
RECIPE = """Thigh from a recipe
1.2 kg chicken thighs
18 g salt
1 tbsp rapeseed oil

Rub the thighs with the salt. Seal in bags with the oil.
Cook in a water bath at 76 °C for 90 minutes. Chill in ice water.
Keep in the fridge for 3 days. Reheat to 75 °C and serve.
"""
MOST_TOUCHES = 15  # from the text to the signature, by somebody who knows the dish


def test_a_recipe_becomes_a_signed_plan_in_a_few_touches_and_a_batch(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    page.context.add_init_script(COUNTS)
    page.reload()
    page.get_by_role("link", name="From a recipe").click()
    page.get_by_label("Recipe: what goes in").fill(RECIPE)
    expect(page.get_by_role("heading", name="Thigh from a recipe")).to_be_visible()
    expect(page.get_by_text("1.2 kg").first).to_be_visible()
    expect(page.get_by_text("by 0.915 kg per litre")).to_be_visible()
    page.get_by_role("button", name="28 mm").click()  # the one thing the recipe does not say
    page.get_by_role("button", name="Create plan").click()
    page.get_by_role("tab", name="Hazards").click()
    page.get_by_role("button", name="Take over the suggested hazards").click()
    page.get_by_role("button", name="Answer as is usual here").click()
    page.get_by_role("tab", name="Sign").click()
    page.get_by_label("Your password, as signature").click()
    page.get_by_label("Your password, as signature").fill(PASSWORDS["lead"])
    page.get_by_role("button", name="Sign the plan").click()
    expect(page.get_by_text("Version 1, ")).to_be_visible()
    assert touches(page) <= MOST_TOUCHES
    cook = visit("cook", "/batches")
    start_batch(cook)
    expect(cook.get_by_role("heading", level=1)).to_contain_text("Thigh from a recipe")
    weigh_for_what_there_is(cook)


def weigh_for_what_there_is(cook: Page) -> None:
    """2.4 kg of thighs came in, twice the recipe's: everything is weighed twice, and the scale's step is told."""
    cook.get_by_text("What to weigh").click()
    lines = cook.locator(".weigh-list li")
    expect(lines.filter(has_text="Salt")).to_contain_text("18 g")
    cook.get_by_label("For how much of").select_option(index=1)
    cook.get_by_label("How much there is").fill("2.4")
    expect(lines.filter(has_text="thigh")).to_contain_text("2.4 kg")
    expect(lines.filter(has_text="Salt")).to_contain_text("36 g")
    cook.get_by_label("The scale shows steps of").select_option("10")
    expect(lines.filter(has_text="Salt")).to_contain_text("40 g")
    expect(lines.filter(has_text="Salt")).to_contain_text("use a finer scale")


def test_what_was_typed_is_there_when_one_comes_back(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans/recipe")
    page.get_by_label("Recipe: what goes in").fill("Hello there")
    expect(page.get_by_role("alert")).to_contain_text("No step was found")
    page.get_by_role("link", name="Shift").click()
    page.go_back()
    expect(page.get_by_label("Recipe: what goes in")).to_have_value("Hello there")
