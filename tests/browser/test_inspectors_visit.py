"""An inspector's two minutes: a dish of last week, its signed plan, its records on paper, whether the ledger holds."""

import io
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Locator, Page, expect
from pypdf import PdfReader

from tests.browser.conftest import House, new_context
from tests.browser.test_cooks_hour import COUNTS, touches
from tests.conftest import ODD_DAY, TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser
DISH = "Chicken thigh, in bag"


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


@pytest.fixture
def page(browser: Browser, app_url: str) -> Iterator[Page]:
    house = House(app_url, TestClock(ODD_DAY))
    context = new_context(browser, house.address)
    context.request.post("/api/session", data={"name": NAMES["reviewer"], "password": PASSWORDS["reviewer"]})
    context.add_init_script(COUNTS)
    found = context.new_page()
    found.goto("/shift")
    yield found
    context.close()
    house.down()


def taken(page: Page, link: Locator) -> str:
    """What a document says that a link hands out."""
    with page.expect_download() as download:
        link.click()
    pages = PdfReader(io.BytesIO(Path(download.value.path()).read_bytes())).pages
    return " ".join(" ".join(each.extract_text() for each in pages).split())


def test_an_inspectors_two_minutes(page: Page) -> None:
    page.get_by_role("link", name="Ledger").click()
    page.get_by_role("button", name="Check the whole chain").click()
    expect(page.get_by_text("The chain holds").first).to_be_visible()
    assert touches(page) == 2  # whether anything was changed
    page.get_by_text("Narrow down").click()
    page.get_by_label("Dish").select_option(label=DISH)
    page.get_by_label("From").fill((ODD_DAY - timedelta(days=7)).date().isoformat())
    register = taken(page, page.get_by_role("link", name="These batches as one PDF"))
    assert DISH in register
    assert touches(page) <= 6  # a dish's week on one document; choosing and dating are touches too
    page.get_by_role("link", name="Plans").click()
    page.get_by_role("button", name=f"More for {DISH}", exact=True).click()
    plan = taken(page, page.get_by_role("link", name="as PDF"))
    assert "Critical limit" in plan
    assert touches(page) == 3  # the plan it was made by, as it was signed
