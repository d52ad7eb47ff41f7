"""No page of the demo says in English what its reader's language has words for."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from brinefrost.core.bench.families import FAMILIES
from brinefrost.core.words import LANGUAGES
from brinefrost.core.words.catalogue import texts
from tests.browser.conftest import House, new_context
from tests.conftest import ODD_DAY, TestClock
from tests.kitchen import NAMES, PASSWORDS

pytestmark = pytest.mark.browser

ROOT = Path(__file__).parents[2] / "src" / "brinefrost"
WORDS = Path(__file__).parents[2] / "web" / "src" / "shared" / "text"
# what the kitchen itself named, and citations made of parts: both stay
OWN = ("Blast chiller", "Water-activity meter", "The kitchen's own, stricter than")
SLOT = re.compile(r"\{\{[^{}]+\}\}|\[[^\]]+\]")
OTHERS = [language for language in LANGUAGES if language != "en"]
TABS = ("hazards", "controls", "proof", "validation", "sign")  # of a plan
# what is written on the page and in its drawings, its choices, and how its controls are named
LINES = """() => [
  document.body.innerText,
  ...[...document.querySelectorAll('[aria-label]')].map((each) => each.getAttribute('aria-label')),
  ...[...document.querySelectorAll('svg text, option')].map((each) => each.textContent),
].join('\\n')"""


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


def own_words(language: str) -> list[str]:
    """The interface's own words in a language: every string of its files."""
    source = "".join((WORDS / f"{file}.{language}.ts").read_text("utf-8") for file in ("pass", "office", "bench"))
    source += (WORDS / f"bench.asked.{language}.ts").read_text("utf-8")
    whole = re.sub(r"'\s*\+\s*'", "", source)  # a string laid over several lines
    return re.findall(r": '([^']*)'", whole)


def english_only(language: str) -> list[str]:
    """What nobody may find on a page in a language: the longest piece of each English text that it never says."""
    cited = [path.read_text("utf-8") for path in (ROOT / "core" / "rules").glob("*.toml")]
    mine = "\n".join(
        [*texts(language).values(), *own_words(language), *re.findall('citation = "([^"]+)"', "".join(cited))]
    )
    found = set()
    for text in (*texts("en").values(), *own_words("en")):
        piece = max((part.strip() for part in SLOT.split(text)), key=len)
        if len(re.findall(r"[A-Za-z]{2,}", piece)) >= 2 and len(piece) >= 12 and piece not in mine and piece not in OWN:
            found.add(piece)
    return sorted(found)


def paths(page: Page) -> list[str]:
    """Every page of the demo a lead comes to: one batch of each state, a plan with its tabs, each page of the Bench."""
    batches = page.request.get("/api/batches?most=200").json()["items"]
    plan = page.request.get("/api/plans").json()["items"][0]["plan_id"]
    states = {batch["state"]: f"/batches/{batch['batch_id']}" for batch in batches}
    tabs = [f"/plans/{plan}?tab={tab}" for tab in TABS]
    return [
        "/shift", "/batches", *states.values(), "/plans", f"/plans/{plan}", *tabs, "/ledger", "/household", "/bench",
        *(f"/bench/{family}" for family in FAMILIES), "/switch",
    ]  # fmt: skip


@pytest.mark.parametrize("language", OTHERS)
def test_no_page_falls_back_to_english(language: str, browser: Browser, app_url: str) -> None:
    house = House(app_url, TestClock(ODD_DAY))
    try:
        context = new_context(browser, house.address)
        context.request.post("/api/session", data={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
        context.request.put("/api/session/manners", data={"language": language})
        page, pieces, found = context.new_page(), english_only(language), list[tuple[str, str]]()
        assert len(pieces) > 2000
        for path in paths(page):
            page.goto(path)
            page.wait_for_load_state("networkidle")
            told = page.evaluate(LINES)
            found += [(path, piece) for piece in pieces if piece in told]
        context.close()
        assert not found, "\n".join(map(str, found))
    finally:
        house.down()
