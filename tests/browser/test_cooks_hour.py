"""A cook's hour in Spanish on a phone, with the touches counted."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import House

pytestmark = pytest.mark.browser

COUNTS = """addEventListener('click', (event) => {
  if (event.isTrusted) sessionStorage.touches = Number(sessionStorage.touches ?? 0) + 1
}, true)"""
PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def touches(page: Page) -> int:
    """How often the glass was touched since this was asked last."""
    found = int(page.evaluate("Number(sessionStorage.touches ?? 0)"))
    page.evaluate("sessionStorage.touches = 0")
    return found


def log(page: Page, what: str, value: str) -> None:
    """A value on the pad's own keys."""
    page.get_by_role("button", name=f"Anotar {what}").first.tap()
    pad = page.get_by_role("dialog")
    for key in value:
        pad.get_by_role("button", name=key, exact=True).tap()
    pad.get_by_role("button", name="Anotar", exact=True).tap()
    expect(pad).to_be_hidden()


def go_on(page: Page, step: str) -> None:
    """End what runs and begin what follows."""
    page.get_by_role("button", name=re.compile(rf"^(Terminar .+ y empezar|Empezar) {step}$")).first.tap()
    asked = page.get_by_role("button", name="Sí, continuar")
    runs = page.get_by_text(f"{step} en curso desde")
    expect(runs.or_(asked).first).to_be_visible()
    if asked.count():
        asked.tap()
    expect(runs).to_be_visible()


def test_a_cooks_hour_in_spanish_on_a_phone(visit: Callable[..., Page], house: House) -> None:
    page = visit("cook", "/", **PHONE)
    assert page.context.request.put("/api/v1/session/manners", data={"language": "es"}).ok
    page.add_init_script(COUNTS)
    page.goto("/shift")
    page.get_by_role("button", name="Iniciar un lote").tap()
    page.get_by_role("radio").first.tap()
    page.get_by_role("dialog").get_by_role("button", name="Iniciar un lote").tap()
    expect(page.get_by_role("heading", level=1)).to_contain_text("B-101")
    assert touches(page) == 3  # a batch: press, choose, start
    go_on(page, "Recibir")
    log(page, "Envase más caliente de la entrega", "3.4")
    expect(page.get_by_text("3,4 °C").first).to_be_visible()  # a comma on the page, whatever the key
    assert touches(page) <= 6  # begin; the check, three keys, log
    house.clock.forward(5)
    go_on(page, "Sellar")
    house.clock.forward(10)
    go_on(page, "Baño")
    assert touches(page) <= 3
    for minutes, value in ((2, "63.1"), (30, "63.0")):
        house.clock.forward(minutes)
        page.goto("/shift")  # where a cook looks first: what is due stands there with its key
        log(page, "Temperatura del baño", value)
    assert touches(page) <= 12
    page.get_by_role("link", name="B-101").first.tap()
    expect(page.get_by_text("63,1 °C").first).to_be_attached()
    widths = page.evaluate("[document.documentElement.scrollWidth, innerWidth]")
    assert widths[0] <= widths[1]
    names = {b.get_attribute("aria-label") or b.inner_text() for b in page.get_by_role("button").all()}
    assert not names & {"Close", "Open", "Start", "Log"}  # no button speaks another language
