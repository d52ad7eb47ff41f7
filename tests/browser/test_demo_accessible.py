"""Every page of the demo under axe-core, on light and on dark ground."""

import pytest
from playwright.sync_api import Browser

from tests.browser.accessible import faults, faults_at_night
from tests.browser.conftest import House, new_context
from tests.conftest import ODD_DAY, TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


def test_the_demo_is_accessible_on_every_page(browser: Browser, app_url: str) -> None:
    """WCAG 2.1 A and AA: contrast, names, roles; each page by day and by night."""
    house = House(app_url, TestClock(ODD_DAY))
    try:
        context = new_context(browser, house.address)
        context.request.post("/api/session", data={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
        batches = context.request.get("/api/batches?most=200").json()["items"]
        plans = context.request.get("/api/plans").json()["items"]
        page, wrong = context.new_page(), []
        trouble = next(batch for batch in batches if batch["state"] == "trouble")
        for path in (
            "/shift",
            "/batches",
            f"/batches/{trouble['batch_id']}",
            "/plans",
            f"/plans/{plans[0]['plan_id']}",
            "/ledger",
            "/switch",
        ):
            page.goto(path)
            page.wait_for_load_state("networkidle")
            wrong += [(path, "light", *each) for each in faults(page)]
            wrong += [(path, "dark", *each) for each in faults_at_night(page)]
        context.close()
        assert wrong == []
    finally:
        house.down()
