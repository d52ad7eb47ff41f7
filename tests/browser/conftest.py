"""The application on a port of its own, and headless Chromium that may talk to nothing else."""

import os
import socket
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import pytest
import uvicorn
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, application

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
expect.set_options(timeout=45_000)  # a cold machine may take long over the first hash


class House:
    """The running application: its address, its clock, and the means to take it down and up again."""

    def __init__(self, app_url: str, clock: TestClock) -> None:
        self.clock, self._url = clock, app_url
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.up()

    def up(self) -> None:
        self.app = application(self._url, self.clock, Path(os.environ["BRINEFROST_WEB_ROOT"]))
        self._server = uvicorn.Server(
            uvicorn.Config(
                self.app, host="127.0.0.1", port=self.port, log_level="error", lifespan="off", timeout_keep_alive=75
            )
        )
        self._thread = threading.Thread(target=self._server.run, daemon=True)
        self._thread.start()
        while not self._server.started:
            time.sleep(0.02)

    def down(self) -> None:
        self._server.should_exit = True
        self._server.force_exit = True
        self._thread.join(10)
        self.app.state.office.database.close()


@pytest.fixture
def ground(furnished_template: str) -> str:
    return furnished_template


@pytest.fixture
def house(app_url: str, clock: TestClock) -> Iterator[House]:
    made = House(app_url, clock)
    yield made
    made.down()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        made = playwright.chromium.launch(executable_path=os.environ["BRINEFROST_CHROMIUM"], args=FLAGS)
        yield made
        made.close()


def new_context(browser: Browser, address: str, **options: Any) -> BrowserContext:
    """A browser of one person, at a desk; nothing moves for its own sake, so that no test waits for it.

    The page is not kept for hours without a network, unless a test asks for that: it would be loaded twice each time.
    """
    usual = {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce", "service_workers": "block"}
    options = {**usual, **options}
    return browser.new_context(base_url=address, **options)


@pytest.fixture
def visit(browser: Browser, house: House) -> Iterator[Callable[..., Page]]:
    """Open a page as somebody. A request to any other host fails the test, and so does a script error."""
    contexts: list[BrowserContext] = []
    pages: list[Page] = []
    strangers: list[str] = []
    errors: list[str] = []

    def opened(role: str | None = "lead", path: str = "/", **options: object) -> Page:
        context = new_context(browser, house.address, **options)
        contexts.append(context)
        context.on("request", lambda request: _watch(request.url, house, strangers))
        if role:
            context.request.post("/api/session", data={"name": NAMES[role], "password": PASSWORDS[role]})
        page = context.new_page()
        pages.append(page)
        page.on("pageerror", lambda error: errors.append(str(error)))
        page.on(
            "console",
            lambda message: errors.append(message.text) if "Content Security Policy" in message.text else None,
        )
        page.goto(path)
        return page

    opened.pages = pages  # type: ignore[attr-defined]
    yield opened
    for context in contexts:
        context.close()
    assert strangers == []
    assert errors == []


@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[None]:
    """What stood on the screen when a test failed: the one thing a message about a missing button does not tell."""
    outcome = yield
    report = outcome.get_result()  # type: ignore[attr-defined]
    if report.when != "call" or not report.failed or not isinstance(item, pytest.Function):
        return
    for page in getattr(item.funcargs.get("visit"), "pages", []):
        if not page.is_closed():
            report.sections.append((f"screen at {page.url}", page.locator("body").inner_text(timeout=2000)[:4000]))


def _watch(url: str, house: House, strangers: list[str]) -> None:
    parts = urlsplit(url)
    if parts.scheme in ("http", "https", "ws", "wss") and parts.netloc != urlsplit(house.address).netloc:
        strangers.append(url)
