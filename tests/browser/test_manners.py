"""What the interface does when things go wrong, for keys, for eyes, in °F and in the dark."""

from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from brinefrost.store import Database
from tests.browser.acting import begin, start_batch, unfold
from tests.browser.conftest import House
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture
def batch(visit: Callable[..., Page]) -> Page:
    """A cook at a batch in the bath."""
    page = visit("cook", "/batches")
    start_batch(page)
    begin(page, "Bath")
    expect(page.get_by_text("Bath runs since")).to_be_visible()
    return page


def open_pad(page: Page) -> None:
    page.get_by_role("button", name="Log Bath temperature").first.click()
    expect(page.get_by_role("textbox", name="Bath temperature")).to_be_focused()
    expect(page.get_by_label("Instrument")).to_have_value("probe-2")


def test_server_gone_in_mid_entry_the_entry_stays_and_lands_once(batch: Page, house: House) -> None:
    open_pad(batch)
    batch.keyboard.type("62,6")
    house.down()
    batch.keyboard.press("Enter")
    expect(batch.get_by_text("The server cannot be reached.")).to_be_visible()
    expect(batch.get_by_role("textbox", name="Bath temperature")).to_have_value("62,6")
    house.up()
    batch.get_by_role("button", name="Send again").click()
    expect(batch.get_by_role("dialog")).to_be_hidden()
    expect(batch.locator("tbody .value")).to_have_text(["62.6 °C"])


def test_fahrenheit_typed_for_celsius_is_asked_about(batch: Page) -> None:
    open_pad(batch)
    batch.keyboard.type("145")
    batch.keyboard.press("Enter")
    expect(batch.get_by_text("Did you mean")).to_be_visible()
    batch.get_by_role("button", name="It is °F: keep 62.8 °C").click()
    expect(batch.locator("tbody .value")).to_have_text(["62.8 °C"])


def test_a_far_reading_is_asked_about_and_may_be_kept(batch: Page) -> None:
    open_pad(batch)
    batch.keyboard.type("20")
    batch.keyboard.press("Enter")
    expect(batch.get_by_text("far from what is expected")).to_be_visible()
    batch.get_by_role("button", name="Yes, keep it as typed").click()
    unfold(batch, "Readings")
    expect(batch.get_by_text("asked about and confirmed")).to_be_visible()


def test_a_wrong_file_is_refused_and_a_channel_can_be_named(batch: Page, data: Path) -> None:
    batch.set_input_files(
        "input[type=file]", {"name": "photo.png", "mimeType": "image/png", "buffer": b"\x89PNG\r\n\x1a\n" + bytes(300)}
    )
    expect(batch.get_by_text("This is not a text file.")).to_be_visible()
    batch.get_by_role("button", name="Cancel").click()
    batch.set_input_files("input[type=file]", data / "kraut-ph.csv")
    batch.get_by_role("button", name="Attach to Bath").click()
    expect(batch.get_by_text("Bath needs core temperature")).to_be_visible()
    batch.get_by_label("It measures: temp_c").select_option("core")
    expect(batch.get_by_text("Bath needs core temperature")).to_be_hidden()


def test_a_wrong_entry_is_corrected_not_erased(batch: Page) -> None:
    open_pad(batch)
    batch.keyboard.type("60.6")
    batch.keyboard.press("Enter")
    unfold(batch, "Readings")
    batch.get_by_role("button", name="Correct").click()
    batch.keyboard.type("62.6")
    batch.keyboard.press("Enter")
    expect(batch.get_by_role("dialog")).to_be_hidden()
    expect(batch.get_by_text("replaced by a later entry")).to_be_visible()
    expect(batch.locator("tbody .value")).to_have_count(2)


def test_fahrenheit_for_who_wants_it(batch: Page) -> None:
    open_pad(batch)
    batch.keyboard.type("62.6")
    batch.keyboard.press("Enter")
    batch.get_by_role("button", name="Signed in as").click()
    batch.get_by_role("button", name="Temperatures in °F").click()
    expect(batch.locator("tbody .value")).to_have_text(["144.7 °F"])
    expect(batch.get_by_text("Core from 50 to 130 °F within 4 h")).to_be_visible()


def test_two_people_on_one_plan(visit: Callable[..., Page], house: House, database: Database, clock: TestClock) -> None:
    first = visit("lead", "/plans")
    first.get_by_role("button", name="New plan").click()
    first.get_by_label("Name of the dish").fill("Shared thigh")
    first.get_by_role("dialog").get_by_role("button", name="New plan").click()
    expect(first.get_by_label("What it is, and for whom")).to_be_visible()
    second = visit("lead", first.url.removeprefix(house.address))
    expect(second.get_by_label("What it is, and for whom")).to_be_visible()
    first.get_by_label("What it is, and for whom").fill("as the first has it")
    expect(first.get_by_text("Draft · Saved")).to_be_visible()
    second.get_by_label("What it is, and for whom").fill("as the second has it")
    expect(second.get_by_text("saved this plan while you were writing")).to_be_visible()
    expect(second.get_by_label("What it is, and for whom")).to_have_value("as the second has it")
    second.get_by_role("button", name="Save mine over it").click()
    expect(second.get_by_text("Draft · Saved")).to_be_visible()


def test_a_reviewer_reads_decides_and_logs_nothing(visit: Callable[..., Page], batch: Page, house: House) -> None:
    page = visit("reviewer", batch.url.removeprefix(house.address))
    expect(page.get_by_role("heading", name="B-101")).to_be_visible()
    for name in ("End Bath and start Slurry", "Log Bath temperature", "Choose a logger file"):
        expect(page.get_by_role("button", name=name)).to_have_count(0)
    unfold(page, "Before it can be released")
    expect(page.get_by_role("button", name="Sign off")).to_be_visible()  # the second pair of eyes


def test_wrong_password_says_so(visit: Callable[..., Page]) -> None:
    page = visit(None)
    page.get_by_label("Name").fill(NAMES["lead"])
    page.get_by_label("Password").fill("not " + PASSWORDS["lead"])
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("Name and password do not fit.")).to_be_visible()


def test_chart_by_keys(batch: Page) -> None:
    open_pad(batch)
    batch.keyboard.type("62.6")
    batch.keyboard.press("Enter")
    expect(batch.get_by_role("dialog")).to_be_hidden()
    chart = batch.locator(".chart")
    chart.focus()
    batch.keyboard.press("ArrowRight")
    expect(batch.locator(".chart-words")).to_contain_text("62.6 °C")
    batch.get_by_role("button", name="Table behind the chart").click()
    expect(batch.locator(".table-behind")).to_contain_text("62.6 °C")
