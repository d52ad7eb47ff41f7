"""Takes docs/screenshots anew from the demo data. Run with ``./brinefrost pictures``."""

import os
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from brinefrost.demo.seed import seed
from brinefrost.store import Database
from brinefrost.store.migrate import migrate
from tests.browser.conftest import FLAGS, House
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS

ROOT = Path(__file__).parents[1]
SHOTS = ROOT / "docs" / "screenshots"
Doing = Callable[[Page], object]


def tab(name: str) -> Doing:
    return lambda page: page.get_by_role("tab", name=name).click()


def pad(page: Page) -> None:
    page.get_by_role("button", name="Bath temperature", exact=True).first.click()
    page.get_by_role("textbox", name="Bath temperature").fill("145")
    page.get_by_role("button", name="Log it").click()


def drop(page: Page) -> None:
    page.set_input_files("input[type=file]", ROOT / "tests" / "data" / "confit-overnight-f.tsv")
    page.get_by_text("What was assumed").wait_for()


def start_broth(page: Page) -> None:
    page.get_by_role("button", name="Start a batch").click()
    page.get_by_role("radio", name="Barley broth from trim").click()
    page.get_by_label("Thickest piece").fill("65")
    page.get_by_role("button", name="Add a part").click()
    givers = page.get_by_label("Of which batch")
    saddle = givers.locator("option", has_text="Saddle").first.get_attribute("value")
    givers.select_option(saddle)
    page.get_by_text("no longer suffices").wait_for()


def check_chain(page: Page) -> None:
    page.get_by_role("button", name="Check the whole chain").click()
    page.get_by_text("The chain holds").wait_for()


BRAISE = """Lamb shoulder, braised
2 kg lamb shoulder
2 onions
4 cloves garlic
400 ml lamb stock
30 g salt
1 tbsp rosemary, chopped

Brown the lamb in a hot pan for 10 minutes.
Add onions, garlic and stock and braise, covered, at 150 °C for 3 hours.
Chill in the blast chiller to 5 °C. Keep in the fridge for 4 days.
Reheat to 75 °C. Scatter with the rosemary and serve.
"""


def paste(page: Page) -> None:
    page.get_by_label("Recipe: what goes in").fill(BRAISE)
    page.get_by_role("button", name="Create plan").wait_for()
    page.locator(".recipe-verdict").wait_for()
    page.wait_for_load_state("networkidle")


class Camera:
    """One browser at the demo, and where things are in it."""

    def __init__(self, browser: Browser, house: House) -> None:
        self._browser, self._house = browser, house

    def take(
        self,
        name: str,
        place: str,
        doing: Doing | None = None,
        dark: bool = False,
        size: tuple[int, int] = (1280, 800),
        role: str = "lead",
        tall: bool = False,
        us: bool = False,
    ) -> None:
        context = self._browser.new_context(
            viewport={"width": size[0], "height": size[1]}, base_url=self._house.address
        )
        manners = {"theme": "dark" if dark else None}
        if us:
            manners |= {"temperature": "°F", "length": "in", "mass": "oz"}
        context.request.post("/api/session", data={"name": NAMES[role], "password": PASSWORDS[role]})
        context.request.put("/api/session/manners", data=manners)
        page = context.new_page()
        batches, plans = (context.request.get(f"/api/{each}?most=200").json()["items"] for each in ("batches", "plans"))
        page.goto(self._path(batches, plans, place))
        page.wait_for_load_state("networkidle")
        if doing:
            doing(page)
        page.wait_for_timeout(900)
        page.screenshot(path=SHOTS / f"{name}.png", full_page=tall)
        context.close()

    @staticmethod
    def _path(batches: list[dict[str, str]], plans: list[dict[str, str]], place: str) -> str:
        if place.startswith("batch of "):
            plan, state = place.removeprefix("batch of ").split(": ")
            fits = [b for b in batches if b["plan_name"] == plan and b["state"] == state]
            return "/batches/" + fits[0]["batch_id"]
        if place.startswith("plan of "):
            name, _, at = place.removeprefix("plan of ").partition(" at ")
            return (
                "/plans/"
                + next(plan["plan_id"] for plan in plans if plan["name"] == name)
                + (f"?at={at}" if at else "")
            )
        return place


def take_all(camera: Camera) -> None:
    thigh, confit = "Chicken thigh, in bag", "Goose-leg confit, kept under fat"
    wrong = f"batch of {thigh}: trouble"
    camera.take("shift", "/shift")
    camera.take("plans-dark", "/plans", dark=True)
    camera.take("batch-trouble", wrong, tall=True)
    camera.take("batch-confit", f"batch of {confit}: running")
    camera.take("number-pad", f"batch of {thigh}: running", pad, role="cook")
    camera.take("logger-file", wrong, drop)
    camera.take("plan-sheet", "plan of Duck confit, filled and coated", size=(1280, 960))
    camera.take("plan-fails-dark", "plan of Chicken thigh, soft (trial) at cook:limits", dark=True)
    camera.take("plan-recipe", "/plans/recipe", paste, size=(1280, 960))
    camera.take("plan-phone", "plan of Chicken thigh, soft (trial)", size=(390, 844))
    camera.take("plan-proof", f"plan of {thigh}", tab("Proof"))
    camera.take("plan-validated", f"plan of {thigh}", tab("Validation"))
    camera.take("batch-sausage", "batch of Semi-dry lamb sausage: running")
    camera.take("start-batch", "/batches", start_broth)
    camera.take("bench-heat", "/bench/heat", tall=True)
    camera.take("bench-chill-dark", "/bench/chill?p=2", us=True, dark=True)
    camera.take("ledger", "/ledger", check_chain)
    camera.take("household", "/household")
    camera.take("tablet-batch", wrong, size=(800, 1180), role="cook")


def main() -> None:
    url = os.environ["BRINEFROST_DATABASE_URL"]
    migrate(os.environ["BRINEFROST_OWNER_URL"], os.environ["BRINEFROST_APP_ROLE"])
    now = datetime.now(tz=UTC).replace(hour=12, minute=12, second=0, microsecond=0)
    seed(Database(url), now)
    house = House(url, TestClock(now))
    SHOTS.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=os.environ["BRINEFROST_CHROMIUM"], args=FLAGS)
        take_all(Camera(browser, house))
        browser.close()
    house.down()


if __name__ == "__main__":
    main()
