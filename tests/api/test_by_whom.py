"""Who did it: a session opened by PIN logs and nothing else, and nobody's reading goes out under another's name."""

import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from threading import Event
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient

from brinefrost.services import accounts
from brinefrost.services.weak_secrets import is_weak_password, is_weak_pin
from brinefrost.store.errors import StoreDownError
from tests.api.conftest import Desk
from tests.api.test_batches import reading
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, PIN

NEW_PIN = "7391"


@pytest.fixture
def by_pin(app: Any, lead: Desk, cook: Desk) -> Desk:
    """The lead, switched to by PIN on the cook's tablet."""
    me = lead.get("/v1/session").json()["person"]["id"]
    reply = lead.post(f"/v1/household/people/{me}/secrets", {"pin": NEW_PIN, "current": PASSWORDS["lead"]})
    assert reply.status_code == 200, reply.text
    switched = cook.post("/v1/session/switch", {"person": me, "pin": NEW_PIN})
    assert switched.status_code == 200, switched.text
    assert switched.json()["by_pin"] is True
    assert switched.json()["kitchen"]
    return cook


def test_a_session_opened_by_pin_logs_and_nothing_else(
    by_pin: Desk, sit: Callable[[str], Desk], batch_id: str, plan_id: str, clock: TestClock
) -> None:
    """architecture.md: a PIN on a shared tablet is for logging, not for signing."""
    person = by_pin.get("/v1/session").json()["person"]["id"]
    site = {"name": "X", "altitude_m": 10, "zone": "UTC", "rule_set": "us"}
    for path, body in (
        (f"household/people/{person}/secrets", {"password": "thief-chose-this1", "current": "x"}),
        ("household/people", {"name": "Zo", "role": "lead", "password": "three-odd-words-here"}),
        (f"household/people/{person}/presence", {"active": False}),
        (f"household/people/{person}/sign-out", {}),
        ("household/instruments", {"name": "P", "kind": "probe", "quantities": ["core"], "uncertainty": 0.5}),
        ("household/instruments/probe-2/calibration", {"against": "ice", "as_found": 0.1}),
        ("plans", {"name": "New", "rule_set": "us"}),
        (f"batches/{batch_id}/deviations", {"step": "cook", "limit": ""}),
        (f"batches/{batch_id}/recall", {"reason": "The supplier called it back today.", "password": "x"}),
        (f"batches/{batch_id}/countersignature", {"decision": "discard", "reason": "gone", "password": "x"}),
    ):
        reply = by_pin.post(f"/v1/{path}", body)
        assert (reply.status_code, reply.json()["code"]) == (403, "password_needed"), path
    assert by_pin.put("/v1/household/site", site).json()["code"] == "password_needed"
    logged = by_pin.post(f"/v1/batches/{batch_id}/readings", reading(clock, "cook", "bath", 62.8))
    assert logged.status_code == 200, logged.text


def test_ones_own_password_is_changed_with_the_one_there_was(lead: Desk) -> None:
    me = lead.get("/v1/session").json()["person"]["id"]
    path, new = f"/v1/household/people/{me}/secrets", "gravel-and-thyme-9"
    assert lead.post(path, {"password": new}).status_code == 401
    assert lead.post(path, {"password": new, "current": "not-this-one"}).status_code == 401
    assert lead.post(path, {"password": new, "current": PASSWORDS["lead"]}).status_code == 200


def test_a_reading_goes_out_under_whoever_took_it_alone(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock
) -> None:
    me = cook.get("/v1/session").json()["person"]["id"]
    body = reading(clock, "cook", "bath", 62.6, taken_by=me)
    refused = lead.post(f"/v1/batches/{batch_id}/readings", body, key="waits-on-the-tablet")
    assert (refused.status_code, refused.json()["fields"]["reason"]) == (409, "taker")
    assert cook.post(f"/v1/batches/{batch_id}/readings", body, key="waits-on-the-tablet").status_code == 200
    again = cook.post(f"/v1/batches/{batch_id}/readings", body, key="waits-on-the-tablet")
    assert again.status_code == 200
    view = cook.get(f"/v1/batches/{batch_id}").json()
    assert [(r["value"], r["by"]) for r in view["readings"]] == [(62.6, NAMES["cook"])]


@pytest.mark.parametrize(
    "password",
    ["aaaaaaaaaa", "1234567890", "password12", "passwordpassword", "          ", "ilsebrandvik", "Ilse Brandvik 1",
     "qwertyuiop", "abcdefghij", "kitchen2026!", "abcabcabcabc", "9876543210"],
)  # fmt: skip
def test_weak_passwords_are_refused(lead: Desk, password: str) -> None:
    assert is_weak_password(password, "Ilse Brandvik")
    entry = {"name": "Ilse Brandvik", "role": "cook", "password": password}
    assert lead.post("/v1/household/people", {**entry, "name": "Ilse Brandvik jr"}).status_code == 422


@pytest.mark.parametrize(
    "password", [*PASSWORDS.values(), "courgette-jar", "thief-chose-this1", "salt and seven stairs"]
)
def test_odd_words_are_taken(password: str) -> None:
    assert not is_weak_password(password, "Ilse Brandvik")


PINS = [
    ("0000", 1),
    ("1111", 1),
    ("1234", 1),
    ("9876", 1),
    ("1212", 1),
    ("45454545", 1),
    (PIN, 0),
    ("7391", 0),
    ("2140", 0),
]


@pytest.mark.parametrize(("pin", "weak"), PINS)
def test_weak_pins_are_refused(lead: Desk, pin: str, weak: int) -> None:
    assert is_weak_pin(pin) == bool(weak)
    reply = lead.post(
        "/v1/household/people", {"name": f"P{pin}", "role": "cook", "password": "odd-words-are-good", "pin": pin}
    )
    assert reply.status_code == (422 if weak else 201)


def test_made_up_names_from_one_address_are_refused_before_hashing(app: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    hashed = []
    verify = accounts._verify
    monkeypatch.setattr(accounts, "_verify", lambda kept, given: hashed.append(1) or verify(kept, given))
    client = TestClient(app, base_url="http://127.0.0.1")
    told = [
        client.post("/api/v1/session", json={"name": f"Nobody {n}", "password": "x" * 12}).status_code
        for n in range(60)
    ]
    assert told.count(429) == 60 - accounts.MOST_PER_ADDRESS
    assert len(hashed) == accounts.MOST_PER_ADDRESS
    right = client.post("/api/v1/session", json={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
    assert right.status_code == 200  # behind one proxy every tablet has the same address


def test_sixty_strangers_at_once_hold_no_reading(
    app: Any, cook: Desk, batch_id: str, clock: TestClock, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Hashing has a place of its own: while it works, readings are kept as on a quiet day."""
    verify, kept_all = accounts._verify, Event()

    def slow(kept: str, given: str) -> bool:
        kept_all.wait(40)  # it works for as long as the readings take, on any machine
        return verify(kept, given)

    monkeypatch.setattr(accounts, "_verify", slow)

    def stranger(n: int) -> int:
        client = TestClient(app, base_url="http://127.0.0.1")
        return client.post("/api/v1/session", json={"name": f"Nobody {n}", "password": "x" * 12}).status_code

    with ThreadPoolExecutor(60) as pool:
        flood = [pool.submit(stranger, n) for n in range(60)]
        try:
            for value in (62.1, 62.2, 62.3, 62.4):
                clock.forward(2)
                reply = cook.post(f"/v1/batches/{batch_id}/readings", reading(clock, "cook", "bath", value))
                assert reply.status_code == 200, reply.text
            assert not all(each.done() for each in flood)  # the readings did not wait for the strangers
        finally:
            kept_all.set()
        assert {each.result() for each in flood} <= {401, 429}


@pytest.mark.parametrize("origin", ["http://[::1", "http://[x]/", "http://elsewhere", "null"])
def test_another_origin_is_refused_however_it_is_written(app: Any, origin: str) -> None:
    client = TestClient(app, base_url="http://127.0.0.1")
    reply = client.post("/api/v1/session", json={"name": "a", "password": "b"}, headers={"Origin": origin})
    assert reply.status_code == 403


def test_an_altered_signed_plan_damages_its_own_row_alone(lead: Desk, plan_id: str, database_url: str) -> None:
    other = lead.post("/v1/plans", {"name": "Another", "rule_set": "us"}).json()["plan_id"]
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("alter table records disable trigger user")
        connection.execute("update records set body = '[]' where kind = 'plan_signed'")
    listed = lead.get("/v1/plans")
    assert listed.status_code == 200, listed.text
    rows = {row["plan_id"]: row["damaged"] for row in listed.json()["items"]}
    assert rows[plan_id]
    assert rows[other] == ""
    assert lead.get(f"/v1/plans/{other}").status_code == 200
    assert lead.get(f"/v1/plans/{plan_id}").status_code == 409
    assert lead.get("/v1/ledger/integrity").json()["holds"] is False


@pytest.mark.parametrize("change", ["replace(body, 'closed', 'running')", "'x'", "''", "body || ' '"])
def test_a_kept_line_that_was_altered_is_made_anew(
    lead: Desk, sit: Callable[[str], Desk], batch_id: str, database_url: str, change: str
) -> None:
    entry = {"decision": "discard", "reason": "Dropped on the floor.", "password": PASSWORDS["lead"]}
    assert lead.post(f"/v1/batches/{batch_id}/countersignature", entry).status_code == 200
    before = lead.get("/v1/batches").json()["items"]
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        changed = connection.execute(f"update batch_summaries set body = {change}").rowcount
    assert changed == 1
    assert lead.get("/v1/batches").json()["items"] == before


@pytest.mark.parametrize(
    ("method", "path"),
    [("GET", "/api/v1/session"), ("POST", "/api/v1/session"), ("GET", "/api/v1/health"), ("GET", "/api/v1/shift"),
     ("POST", "/api/v1/traces/preview")],
)  # fmt: skip
def test_a_database_away_is_503_everywhere_and_one_line_in_the_log(
    app: Any, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture, method: str, path: str
) -> None:
    from brinefrost.api import problems

    database = app.state.office.database

    def away(*_: object, **__: object) -> None:
        raise StoreDownError("The database cannot be reached.")

    for name in ("kitchen_called", "transaction", "signed_in"):
        monkeypatch.setattr(database, name, away)
    monkeypatch.setattr(problems, "_outage", problems._Outage())
    client = TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    for cookie in ({}, {"brinefrost_session": "home.abc"}):
        client.cookies.update(cookie)
        body = {"json": {"name": "a", "password": "b"}} if path.endswith("session") and method == "POST" else {}
        if path.endswith("preview"):
            body = {"content": b"x" * 30_000}
        for _ in range(3):
            reply = client.request(method, path, **body)
            assert reply.status_code == 503, (path, reply.text)
            assert reply.json()["code"] == StoreDownError.code
    assert len([r for r in caplog.records if "database is away" in r.message]) == 1


def test_a_session_that_ran_out_is_taken_up_by_pin_for_a_day(cook: Desk, batch_id: str, clock: TestClock) -> None:
    """Before a shift's end wet hands type four digits; the browser keeps the cookie as long as that."""
    me = cook.get("/v1/session").json()["person"]["id"]
    cookie = next(each for each in cook.client.cookies.jar if each.name == "brinefrost_session")
    kept = accounts.SESSION_LENGTH + accounts.TAKEN_UP_WITHIN
    assert cookie.expires is not None
    assert cookie.expires - time.time() == pytest.approx(kept.total_seconds(), abs=60)
    clock.forward(accounts.SESSION_LENGTH.total_seconds() / 60 + 5)
    assert cook.get(f"/v1/batches/{batch_id}").status_code == 401
    assert cook.post("/v1/session/renewal", {"pin": "8264"}).status_code == 401
    again = cook.post("/v1/session/renewal", {"pin": PIN})
    assert again.status_code == 200, again.text
    assert again.json()["person"]["id"] == me
    assert again.json()["by_pin"] is True
    assert cook.get(f"/v1/batches/{batch_id}").status_code == 200
    clock.forward(kept.total_seconds() / 60 + 5)
    assert cook.post("/v1/session/renewal", {"pin": PIN}).status_code == 401


def test_strangers_do_not_shut_somebody_out_of_a_browser_that_knows_them(
    app: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """attack: six wrong tries by anybody shut a named person out; on their own tablet they get in all the same."""
    monkeypatch.setenv("BRINEFROST_LEDGER_KEY", "5" * 64)
    right = {"name": NAMES["lead"], "password": PASSWORDS["lead"]}
    own, stranger, other = (TestClient(app, base_url="http://127.0.0.1") for _ in range(3))
    assert own.post("/api/session", json=right).status_code == 200
    own.delete("/api/session")
    tries = [stranger.post("/api/session", json={**right, "password": "wrong"}).status_code for _ in range(8)]
    assert tries[-1] == 429
    assert other.post("/api/session", json=right).status_code == 429
    assert own.post("/api/session", json=right).status_code == 200
    forged = own.cookies["brinefrost_device"].replace(".", ".9", 1)
    other.cookies.set("brinefrost_device", forged)
    assert other.post("/api/session", json=right).status_code == 429


def test_who_came_in_and_who_was_refused_is_a_record(lead: Desk, app: Any) -> None:
    stranger = TestClient(app, base_url="http://127.0.0.1")
    stranger.post("/api/session", json={"name": NAMES["cook"], "password": "wrong"})
    stranger.post("/api/session", json={"name": "Nobody Here", "password": "wrong"})
    found = [(row["kind"], row["words"]) for row in lead.get("/ledger").json()["items"]]
    assert ("sign_in_refused", f"{NAMES['cook']}, by password") in found
    assert ("signed_in", f"{NAMES['lead']}, by password") in found
    assert not any("Nobody" in words for _, words in found)  # what strangers type does not fill the ledger


def test_who_took_a_record_out_is_a_record(lead: Desk, batch_id: str) -> None:
    for form in ("json", "csv", "pdf"):
        assert lead.get(f"/batches/{batch_id}/record.{form}").status_code == 200
    found = [row["words"] for row in lead.get("/ledger", kind="record_exported").json()["items"]]
    assert found == ["B-101, PDF", "B-101, CSV", "B-101, JSON"]


@pytest.mark.parametrize("name", ["Ann\u0430 Lead", "Anna\u200bLead", "Anna\u202eLead"])
def test_nobody_is_added_under_what_reads_as_another_name(lead: Desk, name: str) -> None:
    entry = {"name": name, "role": "cook", "password": "larder-cold-91"}
    refused = lead.post("/v1/household/people", entry)
    assert refused.status_code == 422
    assert "name" in refused.json()["sentence"]


def test_a_reading_is_a_number_and_an_action_goes_under_whoever_did_it(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock
) -> None:
    body = {
        "step": "receive",
        "quantity": "core",
        "unit": "°C",
        "instrument": "probe-2",
        "taken_at": clock.now().isoformat(),
    }
    assert cook.post(f"/batches/{batch_id}/readings", {**body, "value": True}).status_code == 422
    me = lead.get("/session").json()["person"]["id"]
    path, headers = (
        f"/api/v1/batches/{batch_id}/actions",
        {"Idempotency-Key": "k" * 12, "Brinefrost-Person": me},
    )
    turned = {"step": "receive", "action": "Turned the tray"}
    other = cook.client.post(path, json=turned, headers=headers)
    assert other.status_code == 409
    assert "Another person" in other.json()["sentence"]
    assert lead.client.post(path, json=turned, headers=headers).status_code == 200


def test_new_secrets_under_one_key_are_those_that_were_sent(lead: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("BRINEFROST_LEDGER_KEY", "5" * 64)
    made = lead.post("/v1/household/people", {"name": "Third Person", "role": "cook", "password": "larder-cold-91"})
    path = f"/v1/household/people/{made.json()['id']}/secrets"
    assert lead.post(path, {"password": "gravel-and-thyme-9"}, key="same-key-1").status_code == 200
    assert lead.post(path, {"password": "gravel-and-thyme-9"}, key="same-key-1").status_code == 200
    assert lead.post(path, {"password": "another-of-them-9"}, key="same-key-1").status_code == 409


def test_a_shift_goes_over_with_a_note_and_what_is_left(cook: Desk, lead: Desk, app: Any, batch_id: str) -> None:
    taker = lead.get("/v1/session").json()["person"]["id"]
    reply = lead.post(f"/v1/household/people/{taker}/secrets", {"pin": NEW_PIN, "current": PASSWORDS["lead"]})
    assert reply.status_code == 200
    lead.client.post("/api/session", json={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
    me = cook.get("/v1/session").json()["person"]["id"]
    path, note = "/v1/session/handover", "The walk-in stood open until ten."
    assert cook.post(path, {"to": me, "pin": PIN, "note": note}).status_code == 409
    assert cook.post(path, {"to": taker, "pin": "0000", "note": note}).status_code == 401
    assert lead.get("/shift").json()["handover"] is None
    over = cook.post(path, {"to": taker, "pin": NEW_PIN, "note": note})
    assert over.status_code == 200, over.text
    assert (over.json()["person"]["id"], over.json()["by_pin"]) == (taker, True)
    told = lead.get("/shift").json()["handover"]
    assert (told["giver"], told["taker"], told["note"]) == (NAMES["cook"], NAMES["lead"], note)
    row = next(each for each in lead.get("/ledger").json()["items"] if each["kind"] == "shift_handed_over")
    assert (row["actor"], note in row["words"]) == (NAMES["cook"], True)
