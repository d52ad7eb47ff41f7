"""Kit and people: the lead keeps them in order, and each change is a record."""

from datetime import datetime
from typing import Any

import pytest

from tests.api.conftest import Desk
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, PIN


def kinds(lead: Desk) -> list[str]:
    return [record["kind"] for record in lead.get("/ledger").json()["items"]]


def sign_in(desk: Desk, name: str, password: str) -> int:
    return int(desk.client.post("/api/session", json={"name": name, "password": password}).status_code)


def test_a_cook_comes_forgets_and_leaves(lead: Desk, cook: Desk) -> None:
    entry = {"name": "Aino Vahter", "role": "cook", "password": "long-enough-1", "pin": "8123"}
    added = lead.post("/household/people", entry)
    assert added.status_code == 201, added.text
    person = added.json()["id"]
    assert lead.post("/household/people", entry, key="another-key-1").status_code == 409
    assert sign_in(cook, "Aino Vahter", "long-enough-1") == 200
    renewed = lead.post(f"/household/people/{person}/secrets", {"password": "quite-another-2"})
    assert renewed.status_code == 200
    assert cook.get("/shift").status_code == 401  # her sessions ended
    assert sign_in(cook, "Aino Vahter", "long-enough-1") == 401
    assert sign_in(cook, "Aino Vahter", "quite-another-2") == 200
    assert lead.post(f"/household/people/{person}/presence", {"active": False}).status_code == 200
    assert cook.get("/shift").status_code == 401
    assert sign_in(cook, "Aino Vahter", "quite-another-2") == 401
    assert {"person_added", "secrets_renewed", "person_left"} <= set(kinds(lead))
    assert "quite-another-2" not in lead.get("/ledger").text


def test_the_only_lead_stays(lead: Desk) -> None:
    person = next(p for p in lead.get("/household/people").json() if p["role"] == "lead")
    reply = lead.post(f"/household/people/{person['id']}/presence", {"active": False})
    assert reply.status_code == 409
    assert "only lead" in reply.json()["sentence"]


def test_the_lead_lifts_a_lock(lead: Desk, sit: Any) -> None:
    tablet = sit("reviewer")
    for _ in range(7):
        sign_in(tablet, NAMES["cook"], "wrong-password")
    assert sign_in(tablet, NAMES["cook"], PASSWORDS["cook"]) == 429
    person = next(p for p in lead.get("/household/people").json() if p["name"] == NAMES["cook"])
    assert lead.post(f"/household/people/{person['id']}/sign-out").status_code == 200
    assert sign_in(tablet, NAMES["cook"], PASSWORDS["cook"]) == 200


@pytest.mark.parametrize(
    ("check", "expected", "in_use"),
    [
        ({"against": "ice", "as_found": 0.3}, 0.0, True),
        ({"against": "ice", "as_found": 2.4}, 0.0, False),
        ({"against": "ice", "as_found": 2.4, "as_left": 0.1}, 0.0, True),
        ({"against": "boiling", "as_found": 92.7}, 92.9, True),  # ICAO atmosphere, IAPWS-97: 92.9 °C at 2140 m
        ({"against": "boiling", "as_found": 100.0}, 92.9, False),
        ({"against": "reference", "reference": 60.0, "as_found": 60.4}, 60.0, True),
    ],
)
def test_a_probe_is_checked(lead: Desk, clock: TestClock, check: dict[str, Any], expected: float, in_use: bool) -> None:
    body = {"name": "Probe 9", "kind": "probe", "quantities": ["core", "air"], "uncertainty": 0.5}
    added = lead.post("/household/instruments", body)
    assert added.status_code == 201, added.text
    probe = added.json()["id"]
    done = lead.post(f"/household/instruments/{probe}/calibration", check)
    assert done.status_code == 200, done.text
    assert done.json()["expected"] == pytest.approx(expected, abs=0.06)
    assert done.json()["in_use"] is in_use
    listed = next(item for item in lead.get("/instruments").json() if item["id"] == probe)
    assert (datetime.fromisoformat(listed["due_at"]) > clock.now()) is in_use
    assert "instrument_calibrated" in kinds(lead)


@pytest.mark.parametrize(
    ("kind", "quantity", "doubt", "check", "in_use"),
    [
        ("meter", "ph", 0.05, {"against": "buffers", "reference": 4.01, "as_found": 4.05}, True),
        ("meter", "ph", 0.05, {"against": "buffers", "reference": 4.01, "as_found": 4.30}, False),
        ("meter", "aw", 0.005, {"against": "reference", "reference": 0.92, "as_found": 0.925}, True),
        ("meter", "aw", 0.005, {"against": "reference", "reference": 0.92, "as_found": 0.80}, False),
        ("meter", "salt", 0.3, {"against": "reference", "reference": 3.0, "as_found": 3.9}, False),
        ("scale", "mass", 0.002, {"against": "reference", "reference": 1.0, "as_found": 1.4}, False),
        ("scale", "mass", 0.002, {"against": "reference", "reference": 1.0, "as_found": 1.001}, True),
    ],
)
def test_what_reads_no_temperature_is_checked_in_its_own_unit(
    lead: Desk, kind: str, quantity: str, doubt: float, check: dict[str, Any], in_use: bool
) -> None:
    body = {"name": "Instrument 9", "kind": kind, "quantities": [quantity], "uncertainty": doubt}
    added = lead.post("/household/instruments", body)
    assert added.status_code == 201, added.text
    path = f"/household/instruments/{added.json()['id']}/calibration"
    assert lead.post(path, {"against": "ice", "as_found": 0.1}).status_code == 422
    done = lead.post(path, check)
    assert done.status_code == 200, done.text
    assert done.json()["in_use"] is in_use
    assert "°" not in done.json()["sentence"]
    assert " 0 " not in done.json()["sentence"]  # off by something, told as something
    assert ("in doubt" in done.json()["sentence"]) is not in_use


def test_what_a_check_finds_counts_in_every_reading_until_a_better_one(lead: Desk) -> None:
    """A probe that its maker says is good to 0.4 and that reads 0.8 off passes nothing by those 0.8."""
    body = {"name": "Probe 9", "kind": "probe", "quantities": ["core"], "uncertainty": 0.4}
    probe = lead.post("/household/instruments", body).json()["id"]

    def good_to(**check: float) -> float:
        done = lead.post(f"/household/instruments/{probe}/calibration", {"against": "ice", **check})
        assert done.status_code == 200, done.text
        listed = next(item for item in lead.get("/instruments").json() if item["id"] == probe)
        return float(listed["uncertainty"])

    assert good_to(as_found=0.8) == pytest.approx(0.8)
    assert good_to(as_found=0.8, as_left=0.1) == pytest.approx(0.4)
    assert good_to(as_found=-2.5) == pytest.approx(2.5)
    assert good_to(as_found=0.0) == pytest.approx(0.4)
    assert lead.get("/ledger/integrity").json()["holds"]


def test_what_the_maker_says_comes_back_after_a_better_check_also_for_kit_from_before(lead: Desk) -> None:
    def good_to(as_found: float) -> float:
        done = lead.post("/household/instruments/probe-2/calibration", {"against": "ice", "as_found": as_found})
        assert done.status_code == 200, done.text
        return float(next(item["uncertainty"] for item in lead.get("/instruments").json() if item["id"] == "probe-2"))

    assert [good_to(each) for each in (0.9, -3.0, 0.1)] == [pytest.approx(each) for each in (0.9, 3.0, 0.4)]


def test_an_instrument_that_reads_in_two_units_is_two(lead: Desk) -> None:
    body = {"name": "Meter 9", "kind": "meter", "quantities": ["ph", "aw"], "uncertainty": 0.05}
    refused = lead.post("/household/instruments", body)
    assert refused.status_code == 422
    assert "one unit" in refused.json()["sentence"]


def test_the_site_is_corrected(lead: Desk) -> None:
    body = {"name": "Skarn Ridge, new pass", "altitude_m": 2150, "zone": "Europe/Zurich", "rule_set": "us"}
    assert lead.put("/household/site", body).status_code == 200
    assert lead.get("/session").json()["altitude_m"] == 2150
    assert lead.put("/household/site", {**body, "zone": "Berlin"}).status_code == 422
    assert "site_corrected" in kinds(lead)


def test_a_pin_is_renewed(lead: Desk, cook: Desk) -> None:
    people = {p["name"]: p for p in lead.get("/household/people").json()}
    person = people[NAMES["cook"]]["id"]
    assert lead.post(f"/household/people/{person}/secrets", {"pin": "7316"}).status_code == 200
    assert lead.post("/session/switch", {"person": person, "pin": PIN}).status_code == 401
    assert lead.post("/session/switch", {"person": person, "pin": "7316"}).status_code == 200
