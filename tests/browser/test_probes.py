"""A probe that delivers by itself: added by the lead, bound in two touches, on every screen within a second."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from brinefrost.standins.hub import HubStandIn, Wire, post_to
from brinefrost.standins.truth import steady
from tests.browser.accessible import faults
from tests.browser.acting import begin, start_batch
from tests.browser.conftest import House
from tests.conftest import TestClock

pytestmark = pytest.mark.browser
SOON_MS = 3000  # far sooner than a screen would ask by itself


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def deliver(house: House, clock: TestClock, token: str, value: float, minutes: int = 2) -> None:
    """What a hub by the bath measures for some minutes, sent as one delivery."""
    hub = HubStandIn([Wire("1", steady(value, 0.05))], post_to(house.address, token))
    for _ in range(minutes * 4):
        clock.forward(0.25)
        hub.measure(clock.now())
    answer = hub.deliver(clock.now())
    assert answer is not None
    assert answer["refused"] == 0


def test_a_hub_is_added_a_probe_bound_and_its_value_stands_at_once(
    house: House, visit: Callable[..., Page], clock: TestClock
) -> None:
    lead = visit("lead", "/household")
    lead.get_by_label("Name of the hub").fill("Bath probe")
    lead.get_by_label("Channel 1 reads").select_option("bath")
    lead.get_by_role("button", name="Add a hub").click()
    token = lead.locator(".asked .hash").inner_text()
    assert re.fullmatch(r"[0-9a-f]{64}", token)
    assert faults(lead) == []
    cook = visit("cook", "/batches")
    start_batch(cook)
    begin(cook, "Bath")
    deliver(house, clock, token, 63.2)
    cook.get_by_role("button", name="Bind a probe").click()  # two touches
    cook.get_by_role("button", name=re.compile("Bath probe 1")).click()
    cook.get_by_role("button", name="Bind it all the same").click()  # its first check is due: it is asked about
    line = cook.get_by_role("listitem").filter(has_text=re.compile("Bath probe 1Bath"))
    expect(line).to_contain_text("63.2")
    deliver(house, clock, token, 61.4)
    expect(line).to_contain_text("61.4", timeout=SOON_MS)
    assert faults(cook) == []
    line.get_by_role("button", name="Let it go").click()
    expect(line.get_by_role("button", name="Let it go")).to_have_count(0)
    again = visit("lead", "/household")
    again.get_by_role("button", name="Let it deliver no more").click()
    expect(again.get_by_text("Delivers no more since")).to_be_visible()
