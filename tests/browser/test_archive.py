"""A plan that was put away says so on its own page, is only read, and can be brought back from there."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_writing import begin_blank

pytestmark = pytest.mark.browser


def test_a_deleted_draft_is_read_and_brought_back_on_its_own_page(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    begin_blank(page)
    address = page.url
    page.get_by_role("link", name="Plans").first.click()
    page.locator(".plan-line").get_by_role("button").first.click()
    page.get_by_role("button", name="Delete draft").click()
    expect(page.get_by_role("button", name="Delete draft")).to_have_count(0)
    page.goto(address)
    notice = page.get_by_role("status").filter(has_text="This draft was deleted")
    expect(notice).to_be_visible()
    expect(page.get_by_role("button", name="Undo")).to_have_count(0)
    cook = visit("cook", address)
    expect(cook.get_by_text("This draft was deleted")).to_be_visible()
    expect(cook.get_by_role("button", name="Bring back")).to_have_count(0)
    notice.get_by_role("button", name="Bring back").click()
    expect(notice).to_have_count(0)
    expect(page.get_by_role("button", name="Undo")).to_be_visible()
