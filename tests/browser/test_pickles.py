"""Pickles, in the browser, from their template to a countersigned record: pH where the thigh has heat."""

import io
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from brinefrost.store import Database
from brinefrost.store.shelves import InstrumentInfo
from tests.browser.acting import begin, end, start_batch
from tests.browser.conftest import House
from tests.conftest import OPENED
from tests.kitchen import PASSWORDS

pytestmark = pytest.mark.browser


@pytest.fixture(autouse=True)
def meter(database: Database, house: House) -> None:
    with database.transaction() as store:
        info = InstrumentInfo("meter-1", "pH meter", "meter", ("ph",), 0.05, OPENED, OPENED.replace(year=2027))
        store.instruments.add(info)


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name).click()


def write_and_sign(page: Page) -> None:
    page.get_by_role("button", name="New plan").click()
    page.get_by_label("Name of the dish").fill("Courgette pickles")
    page.get_by_label("Begin with").select_option("pickles")
    page.get_by_role("dialog").get_by_role("button", name="New plan").click()
    page.locator(".sh-card", has_text="Brine over").click()
    expect(page.get_by_label("Vinegar", exact=True)).to_have_value("3")
    page.get_by_label("Thickest piece").fill("1/4 in")
    page.get_by_label("Vinegar", exact=True).fill("0.1")
    tab(page, "Hazards")
    page.get_by_role("button", name="Take over the suggested hazards").click()
    page.get_by_role("button", name="Answer as is usual here").click()
    tab(page, "Sheet")
    expect(page.locator(".sh-card.critical-step")).to_have_count(2)
    tab(page, "Proof")
    expect(page.get_by_text("does not meet 2 of its limits").first).to_be_visible()
    expect(page.get_by_text("of margin included")).to_be_visible()  # what would pass, in grams of this vinegar
    tab(page, "Sheet")
    page.locator(".sh-card", has_text="Brine over").click()
    page.get_by_label("Vinegar", exact=True).fill("3")
    tab(page, "Proof")
    expect(page.get_by_text("The process should meet its limits.").first).to_be_visible()
    expect(page.get_by_role("heading", name="Brine over: pH")).to_be_visible()
    expect(page.locator(".chart canvas")).to_be_visible()
    tab(page, "Sign")
    page.get_by_label("Your password, as signature").fill(PASSWORDS["lead"])
    page.get_by_role("button", name="Sign the plan").click()
    expect(page.get_by_text("Version 1, ")).to_be_visible()


def log(page: Page, what: str, value: str) -> None:
    page.get_by_role("button", name=f"Log {what}").first.click()
    expect(page.get_by_role("dialog").get_by_role("textbox").first).to_be_focused()  # as a person sees it before typing
    page.keyboard.type(value)
    page.keyboard.press("Enter")


def run(page: Page, house: House) -> None:
    start_batch(page)
    begin(page, "Receive")  # whole vegetables come in as warm as they are: nothing is asked of them
    expect(page.get_by_role("button", name="Log Warmest pack of the delivery")).to_have_count(0)
    begin(page, "Brine over")
    expect(page.get_by_text("Brine over runs since")).to_be_visible()
    house.clock.forward(24 * 60 + 2)


def test_pickles_from_template_to_countersigned_record(visit: Callable[..., Page], house: House) -> None:
    write_and_sign(visit("lead", "/plans"))
    run(visit("cook", "/batches"), house)
    cook = visit("cook", "/batches")
    cook.get_by_role("link", name="B-101").click()
    log(cook, "pH of a blended, drained sample", "48")  # a lost decimal mark
    expect(cook.get_by_text("Did you mean pH 4.8")).to_be_visible()
    cook.get_by_role("dialog").get_by_role("textbox").first.fill("3.62")
    cook.keyboard.press("Enter")
    expect(cook.get_by_text("pH 3.62: met by pH ≤ 4.60.").first).to_be_visible()
    begin(cook, "Cold keep")
    log(cook, "Air in the cold store", "2.4")
    expect(cook.get_by_role("dialog")).to_be_hidden()
    log(cook, "pH of a blended sample", "3.6")  # four weeks in the cold rest on it
    expect(cook.get_by_text("pH 3.60: met by pH < 4.20.").first).to_be_visible()
    end(cook, "Cold keep")
    lead = visit("lead", cook.url.removeprefix(house.address))
    lead.get_by_label("Reason, printed on the record").fill("pH and cold store read")
    lead.get_by_label("Your password, as signature").fill(PASSWORDS["lead"])
    lead.get_by_role("button", name="Sign off", exact=True).click()
    expect(lead.get_by_text("Release, ").first).to_be_visible()
    with lead.expect_download() as download:
        lead.get_by_role("link", name="PDF").click()
    paper = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(Path(download.value.path()).read_bytes())).pages)
    assert "pH 3.62" in " ".join(paper.split())
    assert ". ." not in " ".join(paper.split())
