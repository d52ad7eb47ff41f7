"""What one person writes stands on everybody's screen while they look."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.acting import begin, start_batch
from tests.browser.conftest import House

pytestmark = pytest.mark.browser


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def test_a_batch_begun_here_and_a_reading_logged_there_show_at_once(house: House, visit: Callable[..., Page]) -> None:
    watching = visit("lead", "/shift")
    expect(watching.get_by_text("No batches running.")).to_be_visible()
    cook = visit("cook", "/batches")
    start_batch(cook)
    expect(cook.get_by_text("Next: Receive")).to_be_visible()  # written; a busy machine proves a plan in its own time
    expect(watching.get_by_text("B-101").first).to_be_visible(timeout=3000)  # far sooner than it would ask by itself
    begin(cook, "Bath")
    expect(watching.get_by_role("button", name="Log Bath temperature").first).to_be_visible(timeout=3000)


def test_after_a_fall_the_screens_follow_again(house: House, visit: Callable[..., Page]) -> None:
    watching = visit("lead", "/shift")
    expect(watching.get_by_text("No batches running.")).to_be_visible()
    house.down()
    house.up()
    cook = visit("cook", "/batches")  # at once, before the watching browser has come back by itself
    start_batch(cook)
    expect(watching.get_by_text("B-101").first).to_be_visible(timeout=20_000)
