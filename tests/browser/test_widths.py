"""On a phone and a tablet no page scrolls sideways; at every width the way out stands where a hand can reach it."""

import os

import pytest
from playwright.sync_api import Browser, ViewportSize

from tests.browser.conftest import House, new_context
from tests.conftest import ODD_DAY, TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser
SCREENS = (ViewportSize(width=390, height=844), ViewportSize(width=800, height=1180))  # a phone and a tablet
WIDER = """() => [...document.querySelectorAll('body *')]
    .filter((each) => each.getBoundingClientRect().right > innerWidth + 1 && each.offsetParent)
    .slice(0, 6).map((each) => `${each.tagName}.${each.className} ${Math.round(each.getBoundingClientRect().right)}`)"""


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


def test_no_page_scrolls_sideways(browser: Browser, app_url: str) -> None:
    house = House(app_url, TestClock(ODD_DAY))
    try:
        context = new_context(browser, house.address, viewport=SCREENS[0])
        context.request.post("/api/session", data={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
        batches = context.request.get("/api/batches?most=200").json()["items"]
        plans = context.request.get("/api/plans?most=200").json()["items"]
        page, wide = context.new_page(), []
        shown = {batch["state"]: f"/batches/{batch['batch_id']}" for batch in batches}
        paths = ["/shift", "/batches", *shown.values(), "/plans", "/ledger"]
        longest = [plan for plan in plans if "three days" in plan["name"]]  # ten steps, wider than a tablet
        paths += [f"/plans/{plan['plan_id']}" for plan in (plans[0], *longest)]
        for path in [*paths, "/household", "/bench/heat", "/bench/chill", "/bench/kit"]:
            page.goto(path)
            page.wait_for_load_state("networkidle")
            for screen in SCREENS:
                page.set_viewport_size(screen)
                page.wait_for_timeout(200)
                across = page.evaluate("document.documentElement.scrollWidth")
                if across > screen["width"]:
                    wide.append((path, screen["width"], across, page.evaluate(WIDER)))
                if os.environ.get("SHOTS"):
                    page.screenshot(path=f"{os.environ['SHOTS']}/{screen['width']}{path.replace('/', '_')}.png")
        context.close()
        assert not wide, "\n".join(map(str, wide))
    finally:
        house.down()
