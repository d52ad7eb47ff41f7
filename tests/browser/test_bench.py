"""The Bench in the browser: drag, type, link, keep, print, units, keys, every page accessible and at home in °F."""

import re
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import pytest
from playwright.sync_api import APIResponse, Error, Page, Route, expect

from brinefrost.core.bench.families import FAMILIES
from tests.browser.accessible import faults
from tests.browser.conftest import House

pytestmark = pytest.mark.browser


def verdict(page: Page) -> str:
    return page.locator(".bench-verdict .verdict-big p").inner_text()


def test_a_question_is_asked_dragged_linked_and_kept(visit: Callable[..., Page]) -> None:
    page = visit("cook", "/bench")
    page.get_by_role("link", name="A 50 mm loin, an hour at 57 °C").click()
    expect(page.locator(".bench-verdict")).to_contain_text("Will not meet it: the core is at 52.9 °C after 1 h")
    expect(page.locator(".chart canvas")).to_be_visible()
    page.get_by_label("Thickness or diameter", exact=True).fill("18")
    expect(page.locator(".bench-verdict")).to_contain_text("Should meet it")
    expect(page).to_have_url(re.compile(r"thickness_m=0\.018"))
    # the address alone brings the same question back
    page.goto(page.url)
    expect(page.get_by_label("Thickness or diameter", exact=True)).to_have_value("18")
    expect(page.locator(".bench-verdict")).to_contain_text("Should meet it")
    page.get_by_role("slider", name="Drag: Surroundings").focus()
    for _ in range(10):
        page.keyboard.press("ArrowLeft")
    expect(page.get_by_label("Surroundings", exact=True)).to_have_value("52")
    expect(page.locator(".bench-verdict")).to_contain_text("No time at this temperature meets it")
    page.get_by_role("button", name="Keep").click()
    page.get_by_label("Under the name").fill("Loin at 52")
    page.get_by_role("dialog").get_by_role("button", name="Keep").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.get_by_role("link", name="Bench").click()
    page.get_by_role("link", name="Loin at 52").click()
    expect(page.get_by_label("Surroundings", exact=True)).to_have_value("52")
    page.get_by_role("link", name="Bench").click()
    page.get_by_role("button", name="Discard").click()
    expect(page.get_by_role("link", name="Loin at 52")).to_have_count(0)
    page.get_by_role("button", name="Put it back").click()
    expect(page.get_by_role("link", name="Loin at 52")).to_have_count(1)
    expect(page.get_by_role("button", name="Put it back")).to_have_count(0)


def test_the_map_moves_by_hand_and_by_keys(visit: Callable[..., Page]) -> None:
    page = visit("cook", "/bench/heat")
    area = page.locator("svg.bench-map").first
    expect(area).to_be_visible()
    area.scroll_into_view_if_needed()
    box = area.bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] * 0.8, box["y"] + box["height"] * 0.6)
    expect(page.get_by_label("Surroundings", exact=True)).not_to_have_value("57")
    before = page.get_by_label("Thickness or diameter", exact=True).input_value()
    area.focus()
    page.keyboard.press("ArrowUp")
    expect(page.get_by_label("Thickness or diameter", exact=True)).not_to_have_value(before)


def test_rows_presets_and_bad_input(visit: Callable[..., Page]) -> None:
    page = visit("cook", "/bench/ferment")
    expect(page.locator(".bench-verdict")).to_contain_text("before day 7")
    page.get_by_role("button", name="Add a row").click()
    expect(page.get_by_label("Day", exact=True)).to_have_count(5)
    page.get_by_label("pH", exact=True).last.fill("4,3")  # a decimal comma
    expect(page.locator(".bench-verdict")).to_contain_text("below 4.6 since day")
    page.get_by_label("pH", exact=True).last.fill("74")
    expect(page.get_by_text("Type a number from 2 to 9 pH.")).to_be_visible()
    expect(page.locator(".bench-verdict")).to_contain_text("below 4.6 since day")  # the last good answer stays
    page.get_by_role("button", name="Remove row 5").click()
    expect(page.locator(".bench-verdict")).to_contain_text("before day 7")
    page.goto("/bench/jars")
    page.get_by_label("Start from").select_option(label="Roasted garlic blended into oil and cheese")
    expect(page.locator(".bench-verdict")).to_contain_text("Garlic in oil: never this way.")
    page.goto("/bench/eggs?water_c=99")
    expect(page.get_by_text("At 2140 m water boils at 92.9 °C")).to_be_visible()
    page.goto("/bench/nothing")
    expect(page.get_by_role("heading", name="Bench")).to_be_visible()


def test_nothing_typed_is_lost_while_the_address_follows(visit: Callable[..., Page]) -> None:
    """The address is written a little after the typing; on a slow tablet it arrives later still."""
    page = visit("cook", "/bench/heat")
    expect(page.locator(".bench-verdict")).to_be_visible()
    slow = page.context.new_cdp_session(page)
    slow.send("Emulation.setCPUThrottlingRate", {"rate": 8})
    thickness = page.get_by_label("Thickness or diameter", exact=True)
    for wait_ms in range(135, 185, 10):  # around the moment at which an address is written
        thickness.fill("31")
        page.wait_for_timeout(wait_ms)
        thickness.fill("32")
        page.wait_for_timeout(400)
        expect(thickness).to_have_value("32")
        expect(page).to_have_url(re.compile(r"thickness_m=0\.032"))
    page.goto("/bench/ferment")
    page.get_by_label("pH", exact=True).nth(1).fill("74")  # half typed, then the row above it is taken out
    page.get_by_role("button", name="Remove row 1").click()
    expect(page.get_by_label("pH", exact=True).nth(1)).not_to_have_value("74")


def test_rows_are_taken_from_a_logger_file(visit: Callable[..., Page], data: Path) -> None:
    page = visit("cook", "/bench/kill?way=trace")
    page.set_input_files("input[type=file]", data / "thigh-bath-63c.csv")
    expect(page.get_by_text("120 of 181 readings of core_c, from thigh-bath-63c.csv.")).to_be_visible()
    expect(page.locator(".bench-verdict")).to_contain_text("met after 1 h 31 min")
    expect(page.get_by_text("only the coldest is judged here")).to_be_visible()
    expect(page.get_by_label("Channel", exact=True)).to_have_count(0)  # a bath is no core
    page.get_by_role("button", name="Show all 120 rows").click()
    expect(page.get_by_label("Core", exact=True)).to_have_count(120)
    page.get_by_role("button", name="Back to the rows before").click()
    expect(page.get_by_label("Core", exact=True)).to_have_count(0)
    # what is changed while a file is being read stays changed
    held: list[Route] = []
    page.route("**/api/v1/bench/rows", lambda route: held.append(route))
    page.set_input_files("input[type=file]", data / "thigh-bath-63c.csv")
    expect(page.get_by_role("button", name="Reading the file")).to_be_visible()
    page.get_by_label("Target", exact=True).select_option("trichinella")
    held[0].continue_()
    expect(page.get_by_text("120 of 181 readings of core_c")).to_be_visible()
    expect(page.get_by_label("Target", exact=True)).to_have_value("trichinella")
    page.unroute("**/api/v1/bench/rows")
    page.set_input_files("input[type=file]", data / "kraut-ph.csv")
    expect(page.get_by_text("120 of 181")).to_have_count(0)


def test_in_fahrenheit_inches_and_ounces(visit: Callable[..., Page]) -> None:
    page = visit("cook", "/bench")
    slow: list[Route] = []
    page.route("**/api/v1/session/manners", lambda route: route.continue_() if slow else slow.append(route))
    held: list[Route] = []
    late: list[tuple[Route, APIResponse]] = []

    def answers(route: Route) -> None:
        """The first answer is worked out in the units of then, and still on its way when they change."""
        if held:
            route.continue_()
        else:
            held.append(route)
            late.append((route, route.fetch()))

    page.route("**/api/v1/bench/heat", answers)
    with page.expect_request("**/api/v1/bench/heat"):
        page.goto("/bench/heat")
    for choice in ("Temperatures in °F", "Lengths in in", "Masses in oz, lb"):
        page.get_by_role("button", name="Signed in as").click()
        page.get_by_role("button", name=choice).click()
    slow[0].continue_()  # the first is kept last of all: none of the three is lost
    expect(page.locator(".bench-verdict")).to_contain_text("°F")
    for route, said in late:
        with suppress(Error):  # dropped by the page
            route.fulfill(response=said)
    expect(page.get_by_label("Surroundings", exact=True)).to_have_value("134.6")
    expect(page.get_by_label("Thickness or diameter", exact=True)).to_have_value("1.97")
    expect(page.locator(".bench-verdict")).to_contain_text("°F")
    expect(page.locator(".bench-verdict")).not_to_contain_text("°C")
    page.get_by_label("Surroundings", exact=True).fill("140")  # exactly 60 °C
    expect(page).to_have_url(re.compile(r"surroundings_c=60\b"))
    page.reload()
    expect(page.get_by_label("Surroundings", exact=True)).to_have_value("140")
    expect(page.get_by_label("Thickness or diameter", exact=True)).to_have_value("1.97")


# between them every kind of field and picture: maps, curves, rows, dials, scales, ground, dates
UNLIKE = ("", "heat", "kill", "clocks", "acid", "dates", "kit")


def test_every_page_stands_is_accessible_and_fits_a_tablet(visit: Callable[..., Page]) -> None:
    """axe-core, WCAG 2.1 A and AA, on a page of every make; no key without its words; no sideways scroll on a tablet
    or a phone held sideways."""
    page, wrong = visit("cook", "/bench"), []
    for place in ("", *FAMILIES):
        page.goto(f"/bench/{place}")
        if place:
            expect(page.locator(".bench-verdict")).to_be_visible()
            assert verdict(page)
        if place in UNLIKE:
            wrong += [(place, *each) for each in faults(page)]
        words = page.locator("main").inner_text()
        wrong += [(place, word) for word in (r"\bundefined\b", r"\bbench\.", r"\bNaN\b") if re.search(word, words)]
        for held in ({"width": 800, "height": 1180}, {"width": 844, "height": 390}):
            page.set_viewport_size(held)
            if not page.evaluate("() => document.documentElement.scrollWidth <= window.innerWidth + 1"):
                wrong.append((place, f"scrolls sideways at {held['width']}"))
            if place:  # the verdict stays in sight above the question, also on a phone held sideways
                page.evaluate("() => window.scrollTo(0, 300)")
                expect(page.locator(".bench-said")).to_be_in_viewport()
        page.set_viewport_size({"width": 1280, "height": 800})
    assert wrong == []


def test_with_the_server_gone_the_question_stays_and_is_answered_again(
    visit: Callable[..., Page], house: House
) -> None:
    page = visit("cook", "/bench/heat")
    expect(page.locator(".bench-verdict")).to_be_visible()
    house.down()
    page.get_by_label("Thickness or diameter", exact=True).fill("18")
    expect(page.get_by_role("alert").first).to_be_visible()
    expect(page.locator(".bench-verdict")).to_have_count(0)  # no old verdict beside a new question
    expect(page.get_by_label("Thickness or diameter", exact=True)).to_have_value("18")
    house.up()
    page.get_by_role("button", name="Try again").click()
    expect(page.locator(".bench-verdict")).to_contain_text("Should meet it")
    expect(page).to_have_url(re.compile(r"thickness_m=0\.018"))


def test_a_bath_is_sent_into_a_plan(visit: Callable[..., Page], house: House) -> None:
    page = visit("lead", "/plans")
    page.get_by_role("button", name="New plan").click()
    page.get_by_label("Name of the dish").fill("Short rib, in bag")
    page.get_by_role("dialog").get_by_role("button", name="New plan").click()
    expect(page.get_by_role("heading", name="Short rib, in bag")).to_be_visible()
    page.goto("/bench/heat?thickness_m=0.035&surroundings_c=66&medium=steam")
    page.get_by_role("button", name="Send into a plan").click()
    expect(page.get_by_text("Only a bath can be sent so far.")).to_be_visible()
    expect(page.get_by_role("button", name="Send", exact=True)).to_be_disabled()
    page.keyboard.press("Escape")
    page.goto("/bench/heat?thickness_m=0.035&surroundings_c=66&shape=brick&length_m=0.22&width_m=0.12")
    page.get_by_role("button", name="Send into a plan").click()
    page.get_by_role("button", name="Send", exact=True).click()
    expect(page.get_by_label("Thickness", exact=True)).to_have_value("35")
    expect(page.get_by_label("Shape", exact=True)).to_have_value("brick")
    expect(page.get_by_label("Width", exact=True)).to_have_value("120")
    expect(page.get_by_role("textbox", name="Bath", exact=True)).to_have_value("66")
    cook = visit("cook", "/bench/heat")
    expect(cook.locator(".bench-verdict")).to_be_visible()
    expect(cook.get_by_role("button", name="Send into a plan")).to_have_count(0)  # plans are the lead's


def test_on_paper_it_says_whose_kitchen_who_and_when(visit: Callable[..., Page]) -> None:
    page = visit("cook", "/bench/heat")
    expect(page.locator(".bench-verdict")).to_be_visible()
    where = page.locator(".print-only")
    expect(where).to_be_hidden()
    page.emulate_media(media="print")
    expect(where).to_contain_text("Skarn Ridge Observatory")
    expect(where).to_contain_text("/bench/heat")
