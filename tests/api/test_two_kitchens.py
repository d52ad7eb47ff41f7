"""Two kitchens in one installation: neither can see, guess or hold up the other, tried route by route."""

import json
import re
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient

from brinefrost.api.seats import COOKIE
from brinefrost.services.ledgers import check_integrity
from brinefrost.store import Database
from brinefrost.store.changes import Changes
from brinefrost.store.kitchens import SETTING, add_kitchen, every_kitchen, in_kitchen
from tests.api.conftest import Desk
from tests.api.test_access import routes
from tests.api.test_batches import log
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, awaited, furnish, signed_thigh

OTHER = "annex"


@dataclass
class Held:
    """What the first kitchen holds, by the name of the parameter that asks for it."""

    ids: dict[str, str]
    words: set[str]


def seated(app: Any, kitchen: str, role: str) -> Desk:
    client = TestClient(app, base_url="http://127.0.0.1", headers={"Brinefrost-Kitchen": kitchen})
    reply = client.post("/api/session", json={"name": NAMES[role], "password": PASSWORDS[role]})
    assert reply.is_success, reply.text
    return Desk(client)


@pytest.fixture
def sit(app: Any) -> Callable[[str], Desk]:
    """Sign somebody of the first kitchen in by role."""
    return lambda role: seated(app, "home", role)


@pytest.fixture
def annex(app: Any, database_url: str, database: Database, clock: TestClock) -> Callable[[str], Desk]:
    """A second kitchen with people of the same names; signs one of them in by role."""
    add_kitchen(database_url, OTHER)
    with in_kitchen(OTHER):
        people = furnish(database, clock.now())
        signed_thigh(database, people["lead"], clock.now())

    return lambda role: seated(app, OTHER, role)


@pytest.fixture
def held(lead: Desk, cook: Desk, plan_id: str, batch_id: str, clock: TestClock) -> Held:
    """One of everything in the first kitchen, bearing words that stand nowhere else."""
    added = lead.post(
        "/household/instruments",
        {"name": "Quillonprobe", "kind": "probe", "quantities": ["core"], "uncertainty": 0.4},
    )
    found = {
        "plan_id": plan_id,
        "other": plan_id,
        "batch_id": batch_id,
        "version": "1",
        "step": "cook",
        "hazard": "salmonella",
    }
    found["trace"] = "no-such-file"
    logged = log(cook, batch_id, clock, "cook", "core", 61.0, note="Quillonnote")
    family = cook.get("/bench").json()[0]
    entry = {"family": family["key"], "name": "Quillonkept", "question": family["presets"][0]["question"]}
    kept = cook.post("/bench/kept", entry)
    acted = cook.post(f"/batches/{batch_id}/actions", {"step": "cook", "action": "Quillon was taken out."})
    code = lead.get(f"/batches/{batch_id}").json()["code"]
    channel = {"key": "1", "name": "Quillonneedle", "quantity": "core", "uncertainty": 0.3}
    hub = lead.post("/household/hubs", {"name": "Quillonhub", "channels": [channel]})
    needle = hub.json()["channels"][0]["id"]
    bound = cook.post(f"/batches/{batch_id}/probes", {"step": "cook", "channel": needle, "confirmed": True})
    for reply in (added, logged, kept, acted, hub, bound):
        assert reply.is_success, reply.text
    people = {person["name"]: person["id"] for person in lead.get("/household/people").json()}
    ids = {**found, "kept_id": kept.json()["id"], "deviation": f"{code}-D1", "person_id": people[NAMES["cook"]]}
    instruments = {each["name"]: each["id"] for each in lead.get("/instruments").json()}
    ids["instrument_id"], ids["hub_id"], ids["channel"] = instruments["Quillonprobe"], hub.json()["id"], needle
    ids["bound"] = lead.get(f"/batches/{batch_id}").json()["probes"][0]["binding"]
    theirs = {ids[each] for each in ("kept_id", "instrument_id", "hub_id", "channel", "bound")}
    return Held(ids, {"Quillon", plan_id, batch_id, *people.values(), *theirs})


def seen(reply: Any, words: set[str]) -> set[str]:
    """Which of the words an answer gives away, but for those that were asked with."""
    asked = reply.request.url.path
    return {word for word in words if word in reply.text and word not in asked}


def test_no_route_shows_the_other_kitchen(app: Any, annex: Callable[[str], Desk], held: Held) -> None:
    strangers = {role: annex(role) for role in ("lead", "cook", "reviewer")}
    walked = 0
    for route in routes(app):
        if route.name in ("follow_changes", "sign_in", "sign_out", "switch_person", "renew_secrets"):
            continue  # tried below, each by itself
        method = next(iter(route.methods))
        path = re.sub(r"{(\w+)}", lambda found: held.ids[found[1]], route.path)
        for role, desk in strangers.items():
            reply = desk.client.request(method, path, headers={"Idempotency-Key": uuid.uuid4().hex})
            assert seen(reply, held.words) == set(), (route.name, role)
            if re.search(r"{(plan|batch|kept|person|instrument|hub)_", route.path):
                assert reply.status_code in (403, 404, 422), (route.name, role, reply.status_code)
            walked += 1
    assert walked > 150


LEADS = PASSWORDS["lead"]
CHECKED = {"against": "ice", "as_found": 0.1}
READING: dict[str, Any] = {"step": "cook", "quantity": "core", "value": 64.0, "unit": "°C", "instrument": "probe-2"}
READING["taken_at"] = "2026-11-17T08:40:00+00:00"
WRITES: list[tuple[str, str, Any]] = [
    ("post", "/batches", {"plan_id": "{plan_id}", "packs": 2}),
    ("post", "/batches/{batch_id}/steps/cook/finish", {}),
    ("post", "/batches/{batch_id}/readings", READING),
    ("post", "/batches/{batch_id}/actions", {"step": "cook", "action": "It was put into ice water."}),
    ("post", "/batches/{batch_id}/deviations", {"step": "cook", "limit": "us-poultry"}),
    ("post", "/batches/{batch_id}/checks/answer", {"check": "cook-1", "reason": "Nobody was there."}),
    ("post", "/batches/{batch_id}/countersignature", {"decision": "discard", "reason": "Gone.", "password": LEADS}),
    ("post", "/batches/{batch_id}/deviations/{deviation}/decision", {"decision": "discard", "reason": "Gone."}),
    ("post", "/batches/{batch_id}/traces/x/withdrawal", {"reason": "It was another batch's file."}),
    ("post", "/batches/{batch_id}/recall", {"reason": "The supplier called it back.", "password": LEADS}),
    ("post", "/batches/{batch_id}/doubt", {"reason": "It was read with another too.", "password": LEADS}),
    ("post", "/plans/{plan_id}/signature", {"revision": 2, "password": LEADS}),
    ("post", "/plans/{plan_id}/validations", {"step": "cook", "batches": ["{batch_id}"], "password": LEADS}),
    ("post", "/batches/{batch_id}/probes", {"step": "cook", "channel": "{channel}"}),
    ("post", "/batches/{batch_id}/probes/{bound}/release", {}),
    ("post", "/household/hubs/{hub_id}/end", {}),
    ("post", "/household/people/{person_id}/presence", {"active": False}),
    ("post", "/household/people/{person_id}/secrets", {"password": "a-new-password"}),
    ("post", "/household/people/{person_id}/sign-out", {}),
    ("post", "/household/instruments/{instrument_id}/calibration", CHECKED),
    ("delete", "/bench/kept/{kept_id}", None),
]


def test_no_write_reaches_the_other_kitchen(annex: Callable[[str], Desk], lead: Desk, held: Held) -> None:
    before = lead.get("/ledger").json()
    desk = annex("lead")
    for method, path, body in WRITES:
        text = json.dumps(body)
        for name, value in held.ids.items():
            path, text = path.replace(f"{{{name}}}", value), text.replace(f"{{{name}}}", value)
        headers = {"Idempotency-Key": uuid.uuid4().hex}
        reply = desk.client.request(method, f"/api{path}", json=json.loads(text), headers=headers)
        assert reply.status_code == 404, (method, path, reply.text)
        assert lead.get("/ledger").json() == before, (method, path)


def test_a_session_of_one_kitchen_is_nobody_in_the_other(app: Any, lead: Desk, annex: Callable[[str], Desk]) -> None:
    annex("lead")
    own = lead.client.cookies[COOKIE]
    for forged in (own.replace("home.", f"{OTHER}."), own.replace("home.", "door."), own.removeprefix("home.")):
        thief = TestClient(app, base_url="http://127.0.0.1", cookies={COOKIE: forged})
        assert thief.get("/api/plans").status_code == 401
        assert thief.get("/api/session").json()["site"] == ""


def test_the_door_gives_no_kitchen_away(app: Any, annex: Callable[[str], Desk]) -> None:
    """A right word with a wrong password, a wrong word, and no word say the same."""
    said = set()
    for word in (OTHER, "nowhere", ""):
        client = TestClient(app, base_url="http://127.0.0.1", headers={"Brinefrost-Kitchen": word} if word else {})
        door = client.get("/api/session").json()
        reply = client.post("/api/session", json={"name": NAMES["lead"], "password": "wrong-password"})
        said.add((reply.status_code, reply.json()["sentence"], door["site"], door["asks_kitchen"]))
    assert len(said) == 1
    assert next(iter(said))[3]


def test_one_kitchen_alone_is_asked_for_no_word(app: Any) -> None:
    door = TestClient(app, base_url="http://127.0.0.1").get("/api/session").json()
    assert not door["asks_kitchen"]
    assert door["site"] == "Skarn Ridge Observatory"


def test_wrong_tries_in_one_kitchen_shut_nobody_out_of_the_other(app: Any, annex: Callable[[str], Desk]) -> None:
    annex("cook")
    home = TestClient(app, base_url="http://127.0.0.1", headers={"Brinefrost-Kitchen": "home"})
    for _ in range(8):
        last = home.post("/api/session", json={"name": NAMES["cook"], "password": "wrong-password"})
    assert last.status_code == 429
    annex("cook")


def test_the_same_key_in_two_kitchens_is_two_writes(lead: Desk, annex: Callable[[str], Desk]) -> None:
    key = uuid.uuid4().hex
    here = lead.post("/plans", {"name": "Kohlrabi", "rule_set": "us"}, key)
    there = annex("lead").post("/plans", {"name": "Turnip", "rule_set": "us"}, key)
    assert here.is_success
    assert there.is_success, there.text
    assert here.json()["plan_id"] != there.json()["plan_id"]


def test_a_held_chain_holds_up_its_own_kitchen_alone(
    database: Database, lead: Desk, annex: Callable[[str], Desk]
) -> None:
    desk = annex("lead")
    with database.transaction() as store:
        store.ledger.lock()
        assert desk.post("/plans", {"name": "Turnip", "rule_set": "us"}).is_success  # would wait for ever


def test_each_kitchen_has_a_chain_that_holds(
    database: Database, database_url: str, lead: Desk, annex: Callable[[str], Desk], clock: TestClock
) -> None:
    annex("lead").put("/household/site", {"name": "Annex", "altitude_m": 10, "zone": "UTC", "rule_set": "uk"})
    assert lead.get("/session").json()["site"] == "Skarn Ridge Observatory"
    assert every_kitchen(database_url) == [OTHER, "home"]
    heads = set()
    for kitchen in every_kitchen(database_url):
        with in_kitchen(kitchen), database.transaction() as store:
            assert check_integrity(store, clock.now()).holds
            heads.add(store.ledger.head().hash)
    assert len(heads) == 2


def test_a_chain_moved_into_another_kitchen_does_not_hold(
    database: Database, database_url: str, held: Held, clock: TestClock
) -> None:
    """Whoever writes past Brinefrost cannot pass one kitchen's records off as another's."""
    add_kitchen(database_url, OTHER)
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        for table in ("records", "ledger_head", "site"):
            columns = "select string_agg(column_name, ', ') from information_schema.columns where table_name = %s"
            row = connection.execute(f"{columns} and column_name <> 'kitchen_id'", (table,)).fetchone()
            assert row
            connection.execute(f"insert into {table} ({row[0]}, kitchen_id) select {row[0]}, 'annex' from {table}")
    with in_kitchen(OTHER), database.transaction() as store:
        assert not check_integrity(store, clock.now()).holds


def test_without_a_kitchen_the_application_sees_and_writes_no_row(app_url: str, held: Held) -> None:
    with psycopg.connect(app_url.replace("+psycopg", "")) as connection:
        for table in ("records", "users", "site", "trace_files", "ledger_head", "drafts", "replies", "sessions"):
            assert connection.execute(f"select count(*) from {table}").fetchone() == (0,)
        with pytest.raises(psycopg.errors.InsufficientPrivilege):
            connection.execute("select * from kitchens")
    with psycopg.connect(app_url.replace("+psycopg", "")) as connection:
        connection.execute("select set_config(%s, 'annex', false)", (SETTING,))
        moved = "insert into drafts (plan_id, document, revision, updated_by, updated_at, kitchen_id) values "
        with pytest.raises(psycopg.errors.InsufficientPrivilege):
            connection.execute(moved + "('x', '{}', 1, 'x', now(), 'home')")


@pytest.mark.parametrize("word", ["", "door", "Annex", "a", "x" * 40, "an annex", "'; drop table site"])
def test_a_word_that_is_none_is_refused(database_url: str, word: str) -> None:
    with pytest.raises(ValueError, match="Choose another"):
        add_kitchen(database_url, word)


def test_a_word_is_given_once(database_url: str) -> None:
    add_kitchen(database_url, OTHER)
    with pytest.raises(ValueError, match="already"):
        add_kitchen(database_url, OTHER)


def test_who_follows_hears_of_their_own_kitchen_alone(database: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(Changes, "_listen", lambda self: None)

    async def heard() -> tuple[list[str | None], int]:
        with in_kitchen(OTHER):
            theirs = database.changes.follow()
        ours = database.changes.follow()
        count = database.changes.count()
        database.changes._tell("home batch:1")
        found = [await ours.next(0.5), await theirs.next(0.1)]
        database.changes._tell("*")
        found += [await ours.next(0.5), await theirs.next(0.5)]
        return found, count

    found, count = awaited(heard())
    assert found == ["batch:1", None, "*", "*"]
    assert count == 1
