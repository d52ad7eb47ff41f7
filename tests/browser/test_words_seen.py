"""How many words stand before a cook: a shift is read in a breath, a batch in two, a batch in trouble in three."""

import pytest
from playwright.sync_api import Browser, expect

from tests.browser.conftest import House, new_context
from tests.conftest import ODD_DAY, TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser

# words of two letters and more that stand on the page; units and what is folded away or said to a reader alone are none
COUNT = r"""() => {
  const units = new Set(['kg', 'min', 'log', 'mm'])
  const counted = (text) => (text.match(/\p{L}[\p{L}'’-]+/gu) ?? []).filter((word) => !units.has(word)).length
  const shown = (node) => {
    if (node.nodeType === 3) return counted(node.textContent)
    if (node.nodeType !== 1) return 0
    const style = getComputedStyle(node)
    if (style.display === 'none' || style.visibility === 'hidden') return 0
    if (node.matches('.visually-hidden, option, defs')) return 0
    const within = [...node.childNodes]
    const folded = node.matches('details:not([open])')
    return (folded ? within.filter((each) => each.nodeName === 'SUMMARY') : within)
      .map(shown)
      .reduce((sum, each) => sum + each, 0)
  }
  return shown(document.body)
}"""
MOST = {"/shift": 200, "B-140": 300, "B-142": 300, "B-141": 400}  # the last is in trouble


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


def test_few_words_stand_before_a_cook(browser: Browser, app_url: str) -> None:
    house = House(app_url, TestClock(ODD_DAY))
    try:
        for wide, high in ((1280, 800), (390, 844)):
            context = new_context(browser, house.address, viewport={"width": wide, "height": high})
            context.request.post("/api/session", data={"name": NAMES["cook"], "password": PASSWORDS["cook"]})
            known = {b["code"]: b["batch_id"] for b in context.request.get("/api/batches?most=200").json()["items"]}
            page, found = context.new_page(), {}
            for place in MOST:
                page.goto(place if place.startswith("/") else f"/batches/{known[place]}")
                expect(page.get_by_role("heading", level=1)).to_be_visible()
                page.wait_for_load_state("networkidle")
                found[place] = page.evaluate(COUNT)
            context.close()
            assert all(found[place] > 40 for place in MOST), found  # the pages stand
            assert {place: seen for place, seen in found.items() if seen > MOST[place]} == {}
    finally:
        house.down()
