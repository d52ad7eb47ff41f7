"""Samples over HTTP: a hub's token opens one door and no other; what a batch's probes read is on its page."""

from datetime import timedelta
from typing import Any

import pytest
from fastapi.testclient import TestClient

from brinefrost.store.sealing import VARIABLE
from tests.api.conftest import Desk
from tests.conftest import TestClock

HUB = {
    "name": "Hub by the bath",
    "channels": [
        {"key": "1", "name": "Bath needle", "quantity": "core", "uncertainty": 0.3},
        {"key": "2", "name": "Bath water", "quantity": "bath", "uncertainty": 0.3},
    ],
}


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture(autouse=True)
def _sealed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv(VARIABLE, "7" * 64)


def delivery(clock: TestClock, *values: float, channel: str = "1") -> dict[str, Any]:
    now = clock.now()
    samples = [
        {"channel": channel, "at": (now - timedelta(seconds=10 * n)).isoformat(), "value": value, "unit": "°C"}
        for n, value in enumerate(values)
    ]
    return {"sent_at": now.isoformat(), "samples": samples}


def bearing(token: str) -> dict[str, str]:
    return {"Authorization": f"Bearer {token}"}


def test_a_hub_delivers_by_its_token_until_it_is_ended(app: Any, lead: Desk, cook: Desk, clock: TestClock) -> None:
    made = lead.post("/v1/household/hubs", HUB, key="hub-once-0001").json()
    again = lead.post("/v1/household/hubs", HUB, key="hub-once-0001").json()
    assert made["token"] == again["token"]
    assert len(made["token"]) == 64
    listed = lead.get("/v1/household/hubs").json()
    assert listed[0]["token"] == ""
    hub = TestClient(app, base_url="http://127.0.0.1")
    sent = delivery(clock, 3.0, 3.1)
    kept = hub.post("/api/v1/samples", json=sent, headers=bearing(made["token"]))
    assert (kept.status_code, kept.json()["kept"]) == (200, 2)
    assert hub.post("/api/v1/samples", json=sent, headers=bearing(made["token"])).json()["known"] == 2
    for token in ("", "x" * 64, made["token"][:-1]):
        assert hub.post("/api/v1/samples", json=sent, headers=bearing(token)).status_code == 401
    assert hub.get("/api/v1/batches", headers=bearing(made["token"])).status_code == 401
    assert cook.client.post("/api/v1/samples", json=sent).status_code == 401, "a session is no hub"
    shown = lead.get("/v1/household/hubs").json()[0]["channels"][0]
    assert shown["value"] == 3.0
    lead.post(f"/v1/household/hubs/{made['id']}/end")
    assert hub.post("/api/v1/samples", json=sent, headers=bearing(made["token"])).status_code == 401


def test_a_large_delivery_is_taken_from_a_hub_and_from_nobody_else(app: Any, lead: Desk, clock: TestClock) -> None:
    token = lead.post("/v1/household/hubs", HUB).json()["token"]
    hub = TestClient(app, base_url="http://127.0.0.1")
    large = delivery(clock, *[3.0 + n / 1000 for n in range(1999)])
    assert hub.post("/api/v1/samples", json=large, headers=bearing(token)).json()["kept"] == 1999
    assert hub.post("/api/v1/samples", json=large, headers=bearing("no")).status_code == 401
    too_many = delivery(clock, *[3.0] * 2001)
    assert hub.post("/api/v1/samples", json=too_many, headers=bearing(token)).status_code == 422


def test_a_probe_is_bound_shown_and_let_go(app: Any, lead: Desk, cook: Desk, clock: TestClock) -> None:
    token = lead.post("/v1/household/hubs", HUB).json()["token"]
    hub = TestClient(app, base_url="http://127.0.0.1")
    plan = cook.get("/v1/plans").json()["items"][0]["plan_id"]
    batch = cook.post("/v1/batches", {"plan_id": plan, "packs": 6}).json()["batch_id"]
    cook.post(f"/v1/batches/{batch}/steps/cook/start", {"confirmed": True})
    clock.forward(1)
    hub.post("/api/v1/samples", json=delivery(clock, 5.0, 4.5), headers=bearing(token))
    offered = cook.get(f"/v1/batches/{batch}/probes").json()
    core = next(each for each in offered if each["quantity"] == "core")
    cook.post(f"/v1/batches/{batch}/probes", {"step": "cook", "channel": core["channel"], "confirmed": True})
    clock.forward(1)
    hub.post("/api/v1/samples", json=delivery(clock, 9.0), headers=bearing(token))
    (probe,) = cook.get(f"/v1/batches/{batch}").json()["probes"]
    assert (probe["value"], probe["state"], probe["samples"]) == (9.0, "measuring", 1), (
        "a needle counts from when it is bound"
    )
    assert probe["binding"] not in str(cook.get(f"/v1/batches/{batch}").json()["traces"])
    clock.forward(10)
    assert cook.get(f"/v1/batches/{batch}").json()["probes"][0]["state"] == "silent"
    cook.post(f"/v1/batches/{batch}/probes/{probe['binding']}/release")
    assert cook.get(f"/v1/batches/{batch}").json()["probes"][0]["until"] is not None
    lead.client.get(f"/api/v1/batches/{batch}/record.pdf").raise_for_status()
