"""The application in-process, with a client for each role."""

import uuid
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from brinefrost.store import Database
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, application, lead_of, signed_thigh


class Desk:
    """One signed-in person at the API."""

    def __init__(self, client: TestClient) -> None:
        self.client = client

    def get(self, path: str, **params: Any) -> Any:
        return self.client.get(f"/api{path}", params=params)

    def post(self, path: str, body: Any = None, key: str | None = None) -> Any:
        return self.client.post(f"/api{path}", json=body if body is not None else {}, headers=_key(key))

    def put(self, path: str, body: Any) -> Any:
        return self.client.put(f"/api{path}", json=body, headers=_key(None))

    def upload(self, path: str, name: str, content: bytes, key: str | None = None, **form: str) -> Any:
        return self.client.post(f"/api{path}", files={"file": (name, content)}, data=form, headers=_key(key))


def _key(key: str | None) -> dict[str, str]:
    return {"Idempotency-Key": key or uuid.uuid4().hex}


def deliver(cook: Desk, batch: str, **at: str) -> None:
    """The thighs come in and are sealed; how cold they came in is logged where a test goes on to a release."""
    for step in ("receive", "seal"):
        reply = cook.post(f"/v1/batches/{batch}/steps/{step}/start", at)
        assert reply.is_success, reply.text


def came_in_cold(cook: Desk, batch: str, at: str) -> None:
    """The delivery as it was read, entered afterwards."""
    body = {"step": "receive", "quantity": "core", "value": 2.5, "unit": "°C", "instrument": "probe-2", "taken_at": at}
    reply = cook.post(f"/v1/batches/{batch}/readings", body)
    assert reply.is_success, reply.text


@pytest.fixture
def ground(furnished_template: str) -> str:
    return furnished_template


@pytest.fixture
def app(app_url: str, clock: TestClock) -> Iterator[Any]:
    made = application(app_url, clock)
    yield made
    made.state.office.database.close()


@pytest.fixture
def sit(app: Any) -> Callable[[str], Desk]:
    """Sign somebody in by role."""

    def down(role: str) -> Desk:
        client = TestClient(app, base_url="http://127.0.0.1")
        reply = client.post("/api/session", json={"name": NAMES[role], "password": PASSWORDS[role]})
        assert reply.is_success, reply.text
        return Desk(client)

    return down


@pytest.fixture
def lead(sit: Callable[[str], Desk]) -> Desk:
    return sit("lead")


@pytest.fixture
def cook(sit: Callable[[str], Desk]) -> Desk:
    return sit("cook")


@pytest.fixture
def plan_id(app: Any, database: Database, clock: TestClock) -> str:
    return signed_thigh(database, lead_of(database), clock.now())


@pytest.fixture
def batch_id(cook: Desk, plan_id: str, clock: TestClock) -> str:
    """A batch of six bags in the bath since 08:30."""
    clock.forward(25)
    batch = cook.post("/batches", {"plan_id": plan_id, "packs": 6}).json()["batch_id"]
    deliver(cook, batch)
    clock.forward(5)
    assert cook.post(f"/batches/{batch}/steps/cook/start").status_code == 200
    return str(batch)
