"""The server away, the session over, a change regretted: what somebody typed is not lost, and nothing lands twice."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.acting import begin, start_batch
from tests.browser.conftest import House
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture
def cook(visit: Callable[..., Page]) -> Page:
    """A cook with the number pad open over a batch in the bath."""
    page = visit("cook", "/batches")
    start_batch(page)
    begin(page, "Bath")
    page.get_by_role("button", name="Log Bath temperature").first.click()
    expect(page.get_by_role("textbox", name="Bath temperature")).to_be_focused()
    page.keyboard.type("62.6")
    return page


def test_a_reading_waits_on_the_tablet_and_goes_by_itself(cook: Page, house: House) -> None:
    house.down()
    cook.keyboard.press("Enter")
    cook.get_by_role("button", name="Save on this tablet").click()
    expect(cook.get_by_text("One entry waits on this tablet and is not recorded yet.")).to_be_visible()
    house.up()
    expect(cook.locator("tbody .value")).to_have_text(["62.6 °C"])
    expect(cook.get_by_text("waits on this tablet")).to_be_hidden()


def test_the_session_ends_under_an_open_pad(cook: Page, clock: TestClock) -> None:
    clock.forward(9 * 60)
    cook.keyboard.press("Enter")
    again = cook.get_by_role("dialog").filter(has_text="Your session has run out")
    expect(again.get_by_label("Name")).to_have_value(NAMES["cook"])
    again.get_by_label("Password").fill(PASSWORDS["cook"])
    again.get_by_role("button", name="Sign in").click()
    expect(again).to_be_hidden()
    expect(cook.get_by_role("textbox", name="Bath temperature")).to_have_value("62.6")


def test_a_plan_is_undone_and_its_tab_stays_in_the_address(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    page.get_by_role("button", name="New plan").click()
    page.get_by_label("Name of the dish").fill("Undone thigh")
    page.get_by_role("dialog").get_by_role("button", name="New plan").click()
    expect(page).to_have_title("Undone thigh · Brinefrost")
    about = page.get_by_label("What it is, and for whom")
    about.fill("for the terrace")
    page.get_by_role("button", name="Undo").click()
    expect(about).to_have_value("")
    page.get_by_role("button", name="Redo").click()
    expect(about).to_have_value("for the terrace")
    expect(page.get_by_text("Draft · Saved")).to_be_visible()
    page.get_by_role("tab", name="Sheet").focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name="Hazards")).to_be_focused()
    page.reload()
    expect(page.get_by_role("tab", name="Hazards")).to_have_attribute("aria-selected", "true")
    page.go_back()
    expect(page.get_by_role("tab", name="Sheet")).to_have_attribute("aria-selected", "true")


def test_the_content_is_one_key_away(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/shift")
    page.get_by_role("heading", level=1).wait_for()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="To the content")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_be_focused()
