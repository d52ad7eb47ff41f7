"""The sheet: columns are steps; keyboard, mouse and phone reach every cell of it."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from brinefrost.services import planning
from brinefrost.store import Database
from tests.browser.acting import begin, start_batch
from tests.conftest import TestClock
from tests.kitchen import lead_of, long_plan, signed_thigh


@pytest.fixture
def address(database: Database, clock: TestClock, app_url: str) -> str:
    return "/plans/" + signed_thigh(database, lead_of(database), clock.now())


def names(page: Page) -> list[str]:
    return [text.strip() for text in page.locator(".sh-card-name").all_inner_texts()]


def test_the_sheet_says_what_happens_to_each_hazard_at_each_step(visit: Callable[..., Page], address: str) -> None:
    page = visit("lead", address)
    expect(page.get_by_role("button", name="Salmonella: killed > 11 log, critical, predicted OK")).to_be_visible()
    expect(page.get_by_role("button", name="Staphylococcus aureus toxin: from hands")).to_be_visible()
    expect(page.get_by_text("more than 11 log killed").first).to_be_visible()
    expect(page.get_by_role("img", name="The core through 6 steps")).to_be_visible()
    expect(page.locator(".sh-limits", has_text="margin").first).to_be_visible()
    page.get_by_role("button", name="4 more, by good practice").click()
    expect(page.get_by_text("Leaking bag")).to_be_visible()


def test_the_keyboard_reaches_every_cell_and_escape_comes_back(visit: Callable[..., Page], address: str) -> None:
    page = visit("lead", address)
    page.locator(".sh-card").first.focus()
    for key in ("ArrowRight", "ArrowRight", "ArrowDown", "Enter"):
        page.keyboard.press(key)
    drawer = page.get_by_role("complementary", name="Bath")
    expect(drawer.get_by_text("Raw poultry carries it often")).to_be_visible()
    expect(page).to_have_url(page.url)
    assert "at=cook%3Ahazard%3Asalmonella" in page.url
    page.reload()
    expect(drawer).to_be_visible()  # the place is in the address
    page.keyboard.press("Escape")
    expect(drawer).to_be_hidden()


def test_a_step_moves_by_key_and_by_mouse_and_back_again(visit: Callable[..., Page], address: str) -> None:
    page = visit("lead", address)
    page.locator(".sh-card", has_text="Seal").focus()
    page.keyboard.press("Alt+ArrowRight")
    expect(page.locator(".sh-card-name").nth(1)).to_contain_text("Bath")
    expect(page.get_by_text("what is sealed", exact=False).first).to_be_visible()  # sealing after the cook is wrong
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".sh-card-name").nth(1)).to_contain_text("Seal")
    page.locator(".sh-card", has_text="Slurry").drag_to(page.locator(".sh-card", has_text="Bath"))
    expect(page.locator(".sh-card-name").nth(2)).to_contain_text("Slurry")
    expect(page.locator(".sh-card.fails, .sh-card:has(.mark-fail), .sh-card:has(.mark-none)").first).to_be_visible()


def test_a_cook_may_look_and_not_touch(visit: Callable[..., Page], address: str) -> None:
    page = visit("cook", address)
    page.locator(".sh-card", has_text="Bath").click()
    expect(page.get_by_role("textbox", name="Bath", exact=True)).to_be_disabled()
    assert page.locator(".sh-card").first.get_attribute("draggable") == "false"


def test_a_phone_has_one_step_at_a_time(visit: Callable[..., Page], address: str) -> None:
    page = visit("lead", address)
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_role("button", name="Slurry").click()
    page.keyboard.press("Escape")
    expect(page.locator(".ph-step")).to_have_count(6)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_forty_steps_stand_whole_above_and_open_where_it_goes_wrong(
    visit: Callable[..., Page], database: Database, clock: TestClock
) -> None:
    actor = lead_of(database)
    with database.transaction() as store:
        made = planning.create_plan(store, actor, clock.now(), "Stew", "us")
        planning.save_plan(store, actor, clock.now(), made.plan_id, made.revision, long_plan(40))
    page = visit("lead", f"/plans/{made.plan_id}")
    expect(page.locator(".sh-card")).to_have_count(40)
    expect(page.locator(".sh-overview")).to_be_visible()
    wrong = page.locator(".sh-card.fails").first
    expect(wrong).to_be_in_viewport(ratio=0.9)
    expect(page.get_by_text("does not meet").first).to_be_visible()
    page.locator(".sh-overview").click(position={"x": 5, "y": 20})  # back to where it begins
    expect(page.get_by_role("button", name="Receive").first).to_be_in_viewport(ratio=0.9)
    page.set_viewport_size({"width": 740, "height": 360})  # a phone held sideways
    expect(page.locator(".ph-step")).to_have_count(40)
    assert page.evaluate("document.documentElement.scrollWidth") <= 740


def test_a_limit_opens_its_working_and_other_schools(visit: Callable[..., Page], address: str) -> None:
    page = visit("lead", address)
    page.get_by_role("button", name="Bath, Limits").click()
    drawer = page.get_by_role("complementary", name="Bath")
    expect(drawer.get_by_text("Salmonella in chicken, 7-log").first).to_be_visible()
    drawer.get_by_role("button", name="Working").first.click()
    expect(drawer.get_by_text("How the rule sets judge this cook")).to_be_visible()


def test_two_who_write_at_once_keep_both_and_are_told(visit: Callable[..., Page], address: str) -> None:
    first, second = visit("lead", address), visit("lead", address)
    for page, card in ((first, "Bath"), (second, "Slurry")):
        page.locator(".sh-card", has_text=card).click()
    with first.expect_response(lambda reply: reply.request.method == "PUT"):
        first.get_by_role("textbox", name="Time", exact=True).fill("150")
    expect(first.locator(".sh-card", has_text="2 h 30 min")).to_be_visible()
    second.get_by_role("textbox", name="Ice", exact=True).fill("20")
    expect(second.get_by_text("one change is taken over, nothing of yours is lost")).to_be_visible()
    expect(second.locator(".sh-card", has_text="2 h 30 min")).to_be_visible()
    expect(second.locator(".sh-card", has_text="20 kg")).to_be_visible()
    expect(second.get_by_text("changed since version 1 · Saved")).to_be_visible()
    first.reload()
    expect(first.locator(".sh-card", has_text="20 kg")).to_be_visible()


def test_a_batch_wears_the_sheet_of_its_plan(visit: Callable[..., Page], address: str) -> None:
    visit("lead", address)
    page = visit("cook", "/batches")
    start_batch(page)
    begin(page, "Bath")
    expect(page.locator(".sh-card.running", has_text="Bath")).to_be_visible()
    expect(page.locator(".journey .track-now")).to_have_count(1)
    page.get_by_role("button", name="Log Bath temperature").first.click()
    expect(page.get_by_role("textbox", name="Bath temperature")).to_be_focused()
    page.keyboard.type("62.6")
    page.keyboard.press("Enter")
    expect(page.locator(".sh-card", has_text="62.6 °C")).to_be_visible()
    page.get_by_role("button", name=re.compile(r"^\d+ hazards$")).click()
    expect(page.get_by_role("button", name="Salmonella: not measured").first).to_be_visible()
