"""An hour without a network: the page opens, shows what was last seen, and keeps what is done under whoever did it."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from brinefrost.services import keeping
from tests.browser.acting import start_batch
from tests.browser.conftest import House
from tests.conftest import TestClock
from tests.kitchen import NAMES

pytestmark = pytest.mark.browser
KEPT_MS = 5_000  # what is seen is kept every 4 s


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture
def tablet(visit: Callable[..., Page]) -> Page:
    """A cook's tablet that has seen the shift and one batch, and holds the page itself."""
    page = visit("cook", "/batches", service_workers="allow")
    start_batch(page)
    expect(page.get_by_role("button", name="Start Receive")).to_be_visible()
    page.goto("/shift")
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.wait_for_function(
        "caches.keys().then(async (keys) => (await (await caches.open(keys[0])).keys()).length > 20)"
    )
    page.get_by_role("link", name="B-101").first.click()
    expect(page.get_by_role("button", name="Start Receive")).to_be_visible()
    page.wait_for_timeout(KEPT_MS)
    return page


def keep(page: Page) -> None:
    page.get_by_role("button", name="Save on this tablet").click()


def test_work_goes_on_without_a_network_and_lands_once_under_its_person(
    tablet: Page, house: House, clock: TestClock
) -> None:
    address = tablet.url
    house.down()
    tablet.reload()  # the tablet was put away and taken out again
    expect(tablet.get_by_text("No connection since")).to_be_visible()
    tablet.get_by_role("button", name="Start Receive").click()
    keep(tablet)
    expect(tablet.get_by_text("One entry waits on this tablet")).to_be_visible()
    expect(tablet.get_by_text("Receive runs since")).to_be_visible()  # as it will be, so that work goes on
    tablet.get_by_role("button", name="Air temperature", exact=True).click()
    tablet.keyboard.type("3.1")
    tablet.keyboard.press("Enter")
    keep(tablet)
    expect(tablet.get_by_text("2 entries wait on this tablet")).to_be_visible()
    again = tablet.context.new_page()  # closed and opened anew
    tablet.close()
    again.goto("/shift")
    expect(again.get_by_role("link", name="B-101").first).to_be_visible()
    expect(again.get_by_text("2 entries wait on this tablet")).to_be_visible()
    house.up()
    expect(again.get_by_text("wait on this tablet")).to_be_hidden()
    again.goto(address)
    expect(again.get_by_text("Receive runs since")).to_be_visible()
    expect(again.locator("tbody .value")).to_have_text(["3.1 °C"])
    office = house.app.state.office
    batch_id = address.rsplit("/", 1)[1]
    with office.database.transaction() as store:
        records = store.ledger.of_subject(keeping.subject_of(batch_id))
    assert [record.kind for record in records] == ["batch_started", "step_started", "reading_logged"]
    assert {record.actor_name for record in records} == {NAMES["cook"]}


def test_a_place_not_opened_before_opens_without_a_network(tablet: Page, house: House) -> None:
    house.down()
    tablet.get_by_role("link", name="Bench").click()
    expect(tablet.get_by_role("navigation", name="Places")).to_be_visible()
    expect(tablet.get_by_text("cannot be reached").first).to_be_visible()
    tablet.go_back()
    expect(tablet.get_by_role("button", name="Start Receive")).to_be_visible()


def test_nothing_of_the_kitchen_stays_once_somebody_signs_out(tablet: Page, house: House) -> None:
    tablet.get_by_role("button", name=NAMES["cook"]).click()
    tablet.get_by_text("Sign out").click()
    expect(tablet.get_by_label("Password")).to_be_visible()
    tablet.wait_for_timeout(KEPT_MS)
    house.down()
    tablet.reload()
    expect(tablet.get_by_label("Password")).to_be_visible()
    expect(tablet.get_by_text("B-101")).to_have_count(0)
    kept = tablet.evaluate(
        "new Promise(done => { const ask = indexedDB.open('keyval-store'); ask.onsuccess = () => {"
        "const all = ask.result.transaction('keyval').objectStore('keyval').getAll();"
        "all.onsuccess = () => done(JSON.stringify(all.result)) } })"
    )
    assert "B-101" not in kept
