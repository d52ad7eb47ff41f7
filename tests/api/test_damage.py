"""What is broken is named and hides nothing else; what is nonsense is refused with a sentence, never with a 500."""

from pathlib import Path

import psycopg
import pytest

from brinefrost.store import Database
from brinefrost.store.sealing import VARIABLE
from tests.api.conftest import Desk
from tests.api.test_batches import to_chill
from tests.conftest import TestClock


def tamper(database_url: str, *statements: str) -> None:
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("alter table records disable trigger user")
        for statement in statements:
            connection.execute(statement)


@pytest.mark.parametrize("kind", ["batch_started", "trace_attached", "reading_logged", "step_started", "plan_signed"])
@pytest.mark.parametrize("body", ["'{}'", "'x'", "'[1]'", """'{"plan_id":"x","plan_version":null}'"""])
def test_a_damaged_record_hides_nobody_elses(
    cook: Desk, lead: Desk, plan_id: str, batch_id: str, clock: TestClock, data: Path, database_url: str, kind: str,
    body: str,
) -> None:  # fmt: skip
    to_chill(cook, batch_id, clock, data)
    tamper(database_url, f"update records set body = {body} where kind = '{kind}'")
    checked = lead.get("/ledger/integrity")
    assert checked.status_code == 200, checked.text
    assert checked.json()["holds"] is False
    for path in ("/ledger", "/shift", "/batches"):
        reply = lead.get(path)
        assert reply.status_code == 200, (path, reply.text)
    if kind != "plan_signed":
        assert lead.get("/plans").status_code == 200
    assert any("damaged" in item["title"] for item in lead.get("/shift").json()["next"])
    assert lead.get(f"/batches/{batch_id}").status_code < 500


SEALED = "a-key-that-is-kept-beside-the-database"


@pytest.mark.parametrize(
    "statement",
    [
        "delete from ledger_head",
        "update ledger_head set seal = ''",
        "update ledger_head set seal = repeat('a', 64)",
        # the tail cut off and the head set back to match
        "with cut as (delete from records where seq = (select max(seq) from records) returning seq) "
        "update ledger_head set seq = (select seq from cut) - 1, "
        "hash = (select hash from records where seq = (select seq from cut) - 1)",
    ],
)
def test_the_seal_shows_what_was_written_past_brinefrost(
    monkeypatch: pytest.MonkeyPatch, database: Database, database_url: str, statement: str, clock: TestClock
) -> None:
    from brinefrost.store.chain import Author

    monkeypatch.setenv(VARIABLE, SEALED)
    with database.transaction() as store:
        assert store.ledger.reseal() == ""  # the kitchen was furnished before there was a key
    for n in range(4):
        with database.transaction() as store:
            store.ledger.append("noted", "kitchen", {"n": n}, Author("a", "A", "lead"), clock.now())
    with database.transaction() as store:
        assert store.ledger.check()[2] == []
    tamper(database_url, statement)
    with database.transaction() as store:
        assert store.ledger.check()[2]


@pytest.mark.parametrize(
    "content",
    [
        b"\xff\xfe" + "time;core\n".encode("utf-16-le")[:-1] + b"\x00\xd8",
        b"time,core\n2026-11-17T08:00:00Z,60\n2026-11-17T08:01:00Z," + b"6" * 200_000,
        b'time,core\n"2026-11-17T08:00:00Z,60\n2026-11-17T08:01:00Z,61\n2026-11-17T08:02:00Z,62\n',
        b"time,core\n2026-13-25T10:00:00Z,60\n2026-13-25T10:01:00Z,61\n2026-13-25T10:02:00Z,62\n",
        b"time,core\n0000-01-01T10:00:00Z,60\n0000-01-01T10:01:00Z,61\n",
        b"date,time,core\n32.11.2026,10:00,60\n32.11.2026,10:01,61\n32.11.2026,10:02,61\n",
        b"\n".join([b",".join([b"1"] * 200_000)] * 2),
        b"\n".join([b"1,"] * 150_000),
    ],
)
def test_a_file_that_cannot_be_is_refused_with_a_sentence(cook: Desk, content: bytes) -> None:
    reply = cook.upload("/traces/preview", "log.csv", content)
    assert reply.status_code == 422, reply.text
    assert reply.json()["sentence"].endswith((".", "?"))


@pytest.mark.parametrize("path", ["/batches/%00", "/plans/%00", "/ledger?find=%00", "/ledger?kind=%00"])
def test_a_letter_that_cannot_be_kept_is_no_outage(lead: Desk, path: str) -> None:
    assert lead.get(path).status_code in (200, 404, 422)


def test_odd_names_and_days_are_refused(lead: Desk) -> None:
    for name in ("\0", "İ" * 80):
        reply = lead.client.post("/api/session", json={"name": name, "password": "x" * 12})
        assert reply.status_code in (401, 422), reply.text
    reply = lead.post("/bench/dates", {"made_on": "1999-12-31"})
    assert reply.status_code == 422
    assert "2000" in reply.json()["sentence"]


def test_a_host_that_is_not_ours_is_refused(lead: Desk) -> None:
    assert lead.client.get("/api/health", headers={"Host": "evil.example"}).status_code == 400
