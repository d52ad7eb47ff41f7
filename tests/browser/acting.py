"""What hands do at a batch: start it, begin and end its steps, and answer what is asked on the way."""

import re

from playwright.sync_api import Page, expect


def start_batch(page: Page, plan: int = 1) -> None:
    """Nothing is preselected: the plan is chosen, the rest stays as it is offered."""
    page.get_by_role("button", name="Start a batch").click()
    page.get_by_role("radiogroup", name="Plan").get_by_role("radio").nth(plan - 1).click()
    page.get_by_role("dialog").get_by_role("button", name="Start a batch").click()


def begin(page: Page, name: str) -> None:
    """Begin a step, also where earlier ones were not done and that is asked about."""
    page.get_by_role("button", name=re.compile(rf"^(Start|End .+ and start) {re.escape(name)}$")).click()
    _go_on(page, page.get_by_text(f"{name} runs since"))


def end(page: Page, name: str) -> None:
    """End a step, also sooner or later than planned."""
    page.get_by_role("button", name=f"End {name}", exact=True).click()
    asked = page.get_by_role("button", name="Yes, go on")
    over = page.get_by_text(f"{name} runs since")
    expect(page.locator(f":root:not(:has-text('{name} runs since'))").or_(asked).first).to_be_visible()
    if asked.count():
        asked.click()
    expect(over).to_have_count(0)


def _go_on(page: Page, there: object) -> None:
    asked = page.get_by_role("button", name="Yes, go on")
    expect(there.or_(asked).first).to_be_visible()  # type: ignore[attr-defined]
    if asked.count():
        asked.click()
    expect(there).to_be_visible()  # type: ignore[call-overload]


def unfold(page: Page, title: str) -> None:
    """Open what is folded away under a title, if it is."""
    fold = page.locator("details", has=page.locator("summary", has_text=re.compile(rf"^{re.escape(title)}"))).first
    expect(fold).to_be_attached()
    if fold.get_attribute("open") is None:
        fold.locator("summary").click()
