"""What the first page costs over the wire, and that it is not asked for twice."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.browser
AHEAD_MS = 1400  # a little less than the page itself waits, web/src/App.tsx
FIRST_PAGE = 256_000  # bytes, with headers and fonts, and what keeps the page for a time without a network


def test_the_first_page_is_light_and_is_kept(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/shift")
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    page.wait_for_load_state("networkidle")
    # other places are fetched ahead a while after this one stands: on a slow day before it is read here
    sizes: dict[str, int] = page.evaluate(
        "(ahead) => { const all = performance.getEntries().filter((e) => 'transferSize' in e);"
        "const stands = all.find((e) => e.name.includes('/api/v1/shift'))?.startTime ?? 0;"
        "return Object.fromEntries(all.filter((e) => e.startTime < stands + ahead)"
        ".map((e) => [e.name, e.transferSize])) }",
        AHEAD_MS,
    )
    assert any("/api/v1/shift" in name for name in sizes)
    assert sum(sizes.values()) < FIRST_PAGE, sizes
    page.reload()
    page.wait_for_load_state("networkidle")
    again: int = page.evaluate(
        "performance.getEntriesByType('resource').filter((e) => e.name.includes('/assets/'))"
        ".reduce((sum, e) => sum + e.transferSize, 0)"
    )
    assert again == 0
