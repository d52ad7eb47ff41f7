"""A day with six cooks on three tablets: two without a network for an hour, a power cut, a wrong name, a handover.

What comes of it is known beforehand, record by record: nothing is lost, nothing doubled, nothing under another name.
"""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from brinefrost.services import accounts, household
from brinefrost.services.office import Office
from tests.browser.acting import start_batch
from tests.browser.conftest import House
from tests.browser.test_offline import KEPT_MS, keep
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, lead_of

pytestmark = pytest.mark.browser

TOMASZ = NAMES["cook"]
COOKS = {  # of their own here: name, password, PIN
    "Bo Lindfeld": ("samphire-at-dawn", "5521"),
    "Cyra Maillet": ("walnut-and-whey", "6632"),
    "Dag Ferrani": ("salted-lemon-peel", "7743"),
    "Eli Okonda": ("smoke-over-alder", "8854"),
    "Fen Aldous": ("barley-in-the-pot", "9965"),
}


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture
def office(house: House, clock: TestClock) -> Office:
    """The kitchen's office, with five cooks more."""
    found: Office = house.app.state.office
    with found.database.transaction() as store:
        for name, (password, pin) in COOKS.items():
            accounts.add_person(store, name, "cook", password, pin)
    return found


def tablet(visit: Callable[..., Page], name: str, code: str) -> Page:
    """A tablet on which somebody has begun a batch and looked at it; it holds the page itself."""
    page = visit(None, "/", service_workers="allow")
    password = PASSWORDS["cook"] if name == TOMASZ else COOKS[name][0]
    assert page.context.request.post("/api/session", data={"name": name, "password": password}).ok
    page.goto("/batches")
    start_batch(page)
    expect(page.get_by_role("button", name="Start Receive")).to_be_visible()
    page.goto("/shift")
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.wait_for_function(
        "caches.keys().then(async (keys) => (await (await caches.open(keys[0])).keys()).length > 20)"
    )
    page.get_by_role("link", name=code).first.click()
    expect(page.get_by_role("button", name="Start Receive")).to_be_visible()
    page.wait_for_timeout(KEPT_MS)
    return page


def receive(page: Page, reads: str, kept: bool) -> None:
    """Begin the first step and read the air there; kept on the tablet where the server is away."""
    page.get_by_role("button", name="Start Receive").click()
    if kept:
        keep(page)
    expect(page.get_by_text("Receive runs since")).to_be_visible()
    read_air(page, reads, kept)


def read_air(page: Page, reads: str, kept: bool) -> None:
    page.get_by_role("button", name="Air temperature", exact=True).click()
    page.keyboard.type(reads)
    page.keyboard.press("Enter")
    if kept:
        keep(page)


def take_tablet(page: Page, name: str, path: str = "/switch", note: str = "") -> None:
    """Somebody takes a tablet by their PIN."""
    page.goto(path)
    page.get_by_role("button", name=f"{name} cook").click()
    if note:
        page.get_by_label("What is left").or_(page.locator("textarea")).first.fill(note)
    page.locator("#pin").fill(COOKS[name][1])
    page.locator("form.pin button[type=submit]").click()
    expect(page).to_have_url(re.compile("/shift$"))


def records(office: Office, code: str) -> list[tuple[str, str]]:
    """What a batch's records are, and whose."""
    with office.database.transaction() as store:
        started = next(each for each in store.ledger.of_kind("batch_started") if each.body["code"] == code)
        found = store.ledger.of_subject(started.subject)
    return [(each.kind, each.actor_name) for each in found]


def test_six_cooks_three_tablets_two_offline_a_power_cut_a_wrong_name_and_a_handover(
    house: House, office: Office, clock: TestClock, visit: Callable[..., Page]
) -> None:
    first, second, third = (
        tablet(visit, name, code)
        for name, code in ((TOMASZ, "B-101"), ("Bo Lindfeld", "B-102"), ("Cyra Maillet", "B-103"))
    )
    # two tablets lose the network; work goes on there
    for page, reads in ((second, "3.2"), (third, "3.3")):
        page.context.set_offline(True)
        receive(page, reads, kept=True)
        expect(page.get_by_text("2 entries wait on this tablet")).to_be_visible()
    receive(first, "3.1", kept=False)
    expect(first.locator("tbody .value")).to_have_text(["3.1 °C"])
    clock.forward(60)
    # a power cut takes the server away from everybody
    house.down()
    read_air(first, "3.4", kept=True)
    expect(first.get_by_text("One entry waits on this tablet")).to_be_visible()
    house.up()
    office = house.app.state.office
    expect(first.get_by_text("waits on this tablet")).to_be_hidden()
    assert records(office, "B-102") == [("batch_started", "Bo Lindfeld")]
    # the network is back on the second: what waited goes, once, under whoever did it
    second.context.set_offline(False)
    expect(second.get_by_text("wait on this tablet")).to_be_hidden()
    # the third tablet's cook was signed out meanwhile; another takes the tablet, and what waited is not theirs
    with office.database.transaction() as store:
        person = store.people.by_name("Cyra Maillet")
        assert person
        household.sign_out_everywhere(store, lead_of(office.database), clock.now(), person.id)
    third.context.set_offline(False)
    third.context.clear_cookies()
    assert third.context.request.post(
        "/api/session", data={"name": "Dag Ferrani", "password": COOKS["Dag Ferrani"][0]}
    ).ok
    third.reload()
    expect(third.get_by_role("heading", level=1)).to_be_visible()
    expect(third.get_by_role("button", name="Signed in as Dag Ferrani")).to_be_visible()
    third.wait_for_timeout(KEPT_MS)
    assert records(office, "B-103") == [("batch_started", "Cyra Maillet")]
    take_tablet(third, "Cyra Maillet")
    expect(third.get_by_text("wait on this tablet")).to_be_hidden()
    # the shift goes on: a tablet by its PIN, and one handed over with what is left
    take_tablet(first, "Fen Aldous")
    first.get_by_role("link", name="B-101").first.click()
    read_air(first, "3.5", kept=False)
    expect(first.locator("tbody .value")).to_have_count(3)
    take_tablet(second, "Eli Okonda", "/handover", "Receive of B-102 runs; the labels are in the drawer.")
    second.get_by_role("link", name="B-102").first.click()
    read_air(second, "3.6", kept=False)
    expect(second.locator("tbody .value")).to_have_count(2)
    logged = ("reading_logged", "step_started")
    assert records(office, "B-101") == [
        ("batch_started", TOMASZ),
        (logged[1], TOMASZ),
        (logged[0], TOMASZ),
        (logged[0], TOMASZ),
        (logged[0], "Fen Aldous"),
    ]
    assert records(office, "B-102") == [
        ("batch_started", "Bo Lindfeld"),
        (logged[1], "Bo Lindfeld"),
        (logged[0], "Bo Lindfeld"),
        (logged[0], "Eli Okonda"),
    ]
    assert records(office, "B-103") == [
        ("batch_started", "Cyra Maillet"),
        (logged[1], "Cyra Maillet"),
        (logged[0], "Cyra Maillet"),
    ]
    with office.database.transaction() as store:
        assert store.ledger.check()[2] == []
        (handed,) = store.ledger.of_kind("shift_handed_over")
        assert (handed.body["giver"], handed.body["taker"]) == ("Bo Lindfeld", "Eli Okonda")
