"""Everything a cook reads at the pass comes out of the words: in English with marks on it, nothing stands unmarked."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from brinefrost.store import Database
from tests.browser.conftest import House
from tests.conftest import TestClock
from tests.kitchen import NAMES, lead_of, signed_thigh

pytestmark = pytest.mark.browser

# what the kitchen itself named: people, instruments, the place
OWN = r"Probe \d|Thermocouple|Walk-in display|pH meter|Logger [^·±]*|Skarn Ridge Observatory"
LOOSE = r"""(own) => {
  const names = new RegExp(own, 'g')
  const found = []
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  while (walker.nextNode()) {
    const at = walker.currentNode.parentElement
    if (!at || at.closest('[lang], script, style, .formula, code')) continue
    let text = walker.currentNode.nodeValue ?? ''
    for (let before = ''; before !== text; ) {
      before = text
      text = text.replace(/⟦[^⟦⟧]*⟧/g, ' ')
    }
    text = text.replace(names, ' ')
    if (/[A-Za-z]{3,}/.test(text)) found.push(text.trim())
  }
  return found
}"""


def loose(page: Page) -> list[str]:
    """Whatever stands on the page and did not come out of the words."""
    people = "|".join(NAMES.values())
    return list(page.evaluate(LOOSE, f"{OWN}|{people}"))


@pytest.fixture
def marked(house: House, visit: Callable[..., Page], database: Database, clock: TestClock) -> Page:
    """A cook who reads English with marks on it, at a batch in the bath."""
    with database.transaction() as store:
        cook = store.people.by_name(NAMES["cook"])
        assert cook
        store.people.set_manners(cook.id, '{"language": "xx", "temperature": "°F"}')
    signed_thigh(database, lead_of(database), clock.now())
    page = visit("cook", "/batches")
    expect(page.get_by_role("heading", name="⟦Bátçhéš⟧")).to_be_visible()
    return page


def test_nothing_at_the_pass_is_written_past_the_words(marked: Page) -> None:
    assert loose(marked) == []
    marked.get_by_role("button", name="⟦Stárt á bátçh⟧").click()
    assert loose(marked) == []
    marked.get_by_role("radio").first.click()
    marked.get_by_role("dialog").get_by_role("button", name="⟦Stárt á bátçh⟧").click()
    marked.get_by_role("button", name="⟦Stárt ⟦Báth⟧⟧").click()
    marked.get_by_role("button", name="⟦Yéš, gó óñ⟧").click()
    expect(marked.get_by_text("rúñš šíñçé")).to_be_visible()
    assert loose(marked) == []
    marked.get_by_role("button", name="⟦Lóg ⟦Báth").first.click()
    expect(marked.get_by_role("dialog")).to_be_visible()
    expect(marked.get_by_role("dialog").get_by_role("textbox").first).to_be_focused()
    marked.keyboard.type("500")
    marked.keyboard.press("Enter")
    expect(marked.get_by_text("çáññót bé")).to_be_visible()
    assert loose(marked) == []
    marked.goto("/shift")  # what was typed keeps the pad open
    expect(marked.get_by_text("⟦Néxt⟧")).to_be_visible()
    assert loose(marked) == []


def test_a_language_is_chosen_once_and_follows_the_person(
    house: House, visit: Callable[..., Page], database: Database, clock: TestClock
) -> None:
    page = visit("cook", "/shift")
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_text("Español").click()
    expect(page.get_by_role("link", name="Lotes")).to_be_visible()
    expect(page.get_by_text("No hay lotes en curso.")).to_be_visible()
    page.reload()
    expect(page.get_by_role("link", name="Lotes")).to_be_visible()
    page.get_by_role("button", name="Sesión de").click()
    page.get_by_text("中文").click()
    expect(page.get_by_role("link", name="批次")).to_be_visible()
    assert page.evaluate("document.documentElement.lang") == "zh"
    page.evaluate("document.fonts.ready")
    assert page.evaluate(
        "[...document.fonts].some((face) => face.family.includes('Noto Sans SC') && face.status === 'loaded')"
    )
