"""A validated step of the demo: shown with its study, revoked with a reason, and signed anew."""

import re

import pytest
from playwright.sync_api import Browser, expect

from tests.browser.accessible import faults
from tests.browser.conftest import House, new_context
from tests.conftest import ODD_DAY, TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


def test_a_validation_is_read_revoked_and_signed_anew(browser: Browser, app_url: str) -> None:
    house = House(app_url, TestClock(ODD_DAY))
    try:
        context = new_context(browser, house.address)
        context.request.post("/api/session", data={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
        plans = context.request.get("/api/plans").json()["items"]
        thigh = next(each["plan_id"] for each in plans if each["name"] == "Chicken thigh, in bag")
        page = context.new_page()
        page.goto(f"/plans/{thigh}?tab=validation")
        expect(page.get_by_text("Validated. Inside these bounds")).to_be_visible()
        assert faults(page) == []
        page.get_by_role("button", name="Revoke the validation").click()
        page.get_by_label("Why it holds no more").fill("The circulator was exchanged for another one.")
        page.get_by_role("button", name="Revoke it").click()
        expect(page.get_by_text(re.compile("^Revoked: its core is read"))).to_be_visible()
        boxes = page.get_by_role("checkbox")
        expect(boxes.nth(2)).to_be_visible()
        for n in range(3):
            boxes.nth(n).check()
        page.get_by_label("Your password, as signature").fill(PASSWORDS["lead"])
        page.get_by_role("button", name="Take these 3 as evidence").click()
        expect(page.get_by_text("Validated. Inside these bounds")).to_be_visible()
        context.close()
    finally:
        house.down()
