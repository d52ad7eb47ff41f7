"""What the first page costs over the wire, and that it is not asked for twice."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.browser
FIRST_PAGE = 250_000  # bytes, with headers and fonts


def test_the_first_page_is_light_and_is_kept(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/shift")
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    page.wait_for_load_state("networkidle")
    sizes: dict[str, int] = page.evaluate(
        "Object.fromEntries(performance.getEntries().filter((e) => 'transferSize' in e)"
        ".map((e) => [e.name, e.transferSize]))"
    )
    assert sum(sizes.values()) < FIRST_PAGE, sizes
    page.reload()
    page.wait_for_load_state("networkidle")
    again: int = page.evaluate(
        "performance.getEntriesByType('resource').filter((e) => e.name.includes('/assets/'))"
        ".reduce((sum, e) => sum + e.transferSize, 0)"
    )
    assert again == 0
