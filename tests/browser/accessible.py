"""axe-core over the page at hand."""

from functools import cache
from pathlib import Path

from playwright.sync_api import Page

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
WCAG = {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"], "resultTypes": ["violations"]}
CONTRAST = {"runOnly": {"type": "rule", "values": ["color-contrast"]}, "resultTypes": ["violations"]}


@cache
def _axe() -> str:
    return AXE.read_text()


def faults(page: Page) -> list[tuple[str, list[str]]]:
    """What WCAG 2.1 A and AA have against the page as it stands: the rule, and up to three places."""
    page.evaluate(_axe())  # through the debugger, which the content security policy lets pass
    return _run(page, WCAG)


def faults_at_night(page: Page) -> list[tuple[str, list[str]]]:
    """What changes with the ground: the contrast of a page that ``faults`` looked at, on the dark one."""
    page.evaluate("document.documentElement.dataset.bsTheme = 'dark'")
    return _run(page, CONTRAST)


def _run(page: Page, options: dict[str, object]) -> list[tuple[str, list[str]]]:
    found = page.evaluate("options => axe.run(document, options)", options)
    return [(each["id"], [node["target"] for node in each["nodes"]][:3]) for each in found["violations"]]
