"""Three server processes over one database: what lands on any of them lands once, and shows on all."""

import os
import queue
import socket
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from itertools import cycle
from pathlib import Path

import httpx2 as httpx
import pytest

from brinefrost.services import starting
from brinefrost.services.office import Actor
from brinefrost.store import Database
from tests.kitchen import NAMES, PASSWORDS

ROOT = Path(__file__).parents[2]
PROCESSES, WRITERS, EACH = 3, 6, 8
UP_WITHIN_S, TOLD_WITHIN_S = 60.0, 5.0


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture
def ports(app_url: str) -> Iterator[list[int]]:
    """The processes, each on a port of its own; ended by id."""
    found, running = [_free_port() for _ in range(PROCESSES)], []
    env = {**os.environ, "BRINEFROST_DATABASE_URL": app_url, "PYTHONPATH": str(ROOT / "src")}
    for port in found:
        command = [sys.executable, "-m", "uvicorn", "--factory", "brinefrost.main:create_app", "--port", str(port)]
        running.append(
            subprocess.Popen([*command, "--log-level", "error", "--timeout-graceful-shutdown", "1"], env=env)
        )
    try:
        for port in found:
            _wait_for(port)
        yield found
    finally:
        for each in running:
            each.terminate()
        for each in running:
            each.wait(20)


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _wait_for(port: int) -> None:
    until = time.monotonic() + UP_WITHIN_S
    while time.monotonic() < until:
        try:
            if httpx.get(f"http://127.0.0.1:{port}/api/v1/health").status_code == 200:
                return
        except httpx.TransportError:
            time.sleep(0.2)
    pytest.fail("A process did not come up.")


class Proxy:
    """A proxy without a home for anybody: each request goes to the next process."""

    def __init__(self, ports: list[int], role: str) -> None:
        self._ports, self._turn = cycle(ports), threading.Lock()
        self.client = httpx.Client(timeout=30)
        reply = self.send("POST", "/api/v1/session", {"name": NAMES[role], "password": PASSWORDS[role]})
        assert reply.is_success, reply.text

    def send(self, method: str, path: str, body: object = None, key: str = "") -> httpx.Response:
        with self._turn:
            port = next(self._ports)
        headers = {"Idempotency-Key": key or uuid.uuid4().hex}
        return self.client.request(method, f"http://127.0.0.1:{port}{path}", json=body, headers=headers)


@pytest.fixture
def proxy(ports: list[int]) -> Iterator[Proxy]:
    made = Proxy(ports, "cook")
    yield made
    made.client.close()


def begun(database: Database) -> str:
    """A batch in its bath for forty minutes."""
    now = datetime.now(tz=UTC)
    with database.transaction() as store:
        (plan,) = (each.plan_id for each in store.drafts.all())
        person = store.people.by_name(NAMES["cook"])
        assert person
        who = Actor(person.id, person.name, "cook")
        entry = starting.BatchStart(plan_id=plan, packs=6, at=now - timedelta(minutes=60))
        return str(starting.start_batch(store, who, now, entry).batch_id)


def test_what_lands_on_any_process_lands_once_and_shows_on_all(
    ports: list[int], database: Database, proxy: Proxy
) -> None:
    assert proxy.client.cookies.get("brinefrost_home") == "home", "by which a proxy knows a kitchen's own process"
    batch, now = begun(database), datetime.now(tz=UTC)
    at = {"at": (now - timedelta(minutes=50)).isoformat(), "confirmed": True}
    with ThreadPoolExecutor(PROCESSES) as pool:  # one turn for all: a step begins once, whoever begins it
        begins = [pool.submit(proxy.send, "POST", f"/api/v1/batches/{batch}/steps/cook/start", at) for _ in ports]
    assert sorted(each.result().status_code // 100 for each in begins) == [2, 4, 4]
    told, stop = _follow(ports[0], proxy.client)

    def log(writer: int) -> None:
        for n in range(EACH):
            taken = now - timedelta(minutes=45) + timedelta(seconds=60 * n + 7 * writer)
            reading = {
                "step": "cook", "quantity": "bath", "value": 62.0 + (writer * EACH + n) / 100, "unit": "°C",
                "taken_at": taken.isoformat(), "instrument": "probe-2", "confirmed": True,
            }  # fmt: skip
            key = uuid.uuid4().hex
            for _ in range(2):  # sent again, to another process
                reply = proxy.send("POST", f"/api/v1/batches/{batch}/readings", reading, key)
                assert reply.is_success, reply.text

    with ThreadPoolExecutor(WRITERS) as pool:
        for each in [pool.submit(log, writer) for writer in range(WRITERS)]:
            each.result()
    for _ in ports:  # every process says the same
        view = proxy.send("GET", f"/api/v1/batches/{batch}").json()
        bath = [each["value"] for each in view["readings"] if each["quantity"] == "bath"]
        assert len(bath) == len(set(bath)) == WRITERS * EACH
    assert told(batch, TOLD_WITHIN_S), "the first process was told of all writes"
    stop()
    with database.transaction() as store:
        assert store.ledger.check()[2] == []


def _follow(port: int, client: httpx.Client) -> tuple[Callable[[str, float], bool], Callable[[], None]]:
    """Follow the live events of one process: whether a subject is told within so long [s], and what ends it."""
    heard: queue.Queue[str] = queue.Queue()
    ended, cookies = threading.Event(), dict(client.cookies)

    def listen() -> None:
        with (
            suppress(httpx.HTTPError),
            httpx.Client(cookies=cookies, timeout=20) as own,
            own.stream("GET", f"http://127.0.0.1:{port}/api/v1/live") as stream,
        ):
            for line in stream.iter_lines():
                if line.startswith("data:"):
                    heard.put(line)
                if ended.is_set():
                    return

    thread = threading.Thread(target=listen, daemon=True)
    thread.start()
    time.sleep(1.0)

    def is_told(subject: str, within_s: float) -> bool:
        until = time.monotonic() + within_s
        while time.monotonic() < until:
            with suppress(queue.Empty):
                if subject in heard.get(timeout=0.2):
                    return True
        return False

    def stop() -> None:
        ended.set()
        thread.join(1)

    return is_told, stop
