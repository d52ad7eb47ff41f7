"""A database put back to an older state, emptied, or signed in to with too many rights: each shows."""

from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import psycopg
import pytest

from brinefrost.services import household
from brinefrost.services.ledgers import check_integrity
from brinefrost.store import Database
from brinefrost.store.marking import move_marks
from brinefrost.store.marks import Mark, Marks
from brinefrost.store.sealing import VARIABLE
from tests.conftest import TestClock
from tests.kitchen import furnish

KEPT = ("records", "ledger_head", "users", "instruments", "site", "trace_files")
SNAPSHOT = "".join(f"create table before_{name} as table {name};" for name in KEPT)
PUT_BACK = "set session_replication_role = replica;" + "".join(
    f"delete from {name}; insert into {name} select * from before_{name};" for name in KEPT
)
EMPTIED = "set session_replication_role = replica;" + "".join(f"delete from {name};" for name in KEPT)


@pytest.fixture
def marked(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path, database_url: str, app_url: str, clock: TestClock
) -> Iterator[Database]:
    """A kitchen whose ledger has an end that its launcher has seen, and an older state of it kept beside."""
    monkeypatch.setenv(VARIABLE, "5" * 64)
    database = Database(app_url, marks=Marks(tmp_path / "marks.json"))
    lead = furnish(database, clock.now())["lead"]
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as owner:
        correct(database, lead, clock, "Skarn")
        owner.execute(SNAPSHOT)
        correct(database, lead, clock, "Skarn Ridge")
    move_marks(database, clock.now())
    yield database
    database.close()


def correct(database: Database, lead: object, clock: TestClock, name: str) -> None:
    with database.transaction() as store:
        change = household.SiteChange(name=name, altitude_m=2140, zone="Europe/Zurich", rule_set="us")
        household.correct_site(store, lead, clock.now(), change)  # type: ignore[arg-type]


def sentences(database: Database, clock: TestClock) -> str:
    with database.transaction() as store:
        return " ".join(str(each.sentence) for each in check_integrity(store, clock.now()).broken)


def test_a_ledger_that_goes_on_holds(marked: Database, clock: TestClock) -> None:
    assert sentences(marked, clock) == ""
    before = marked.marks.of("home")
    with marked.transaction() as store:
        lead = store.people.all()[0]
    assert before is not None
    correct(marked, household.Actor(lead.id, lead.name, "lead"), clock, "Skarn")
    move_marks(marked, clock.now())
    after = marked.marks.of("home")
    assert after is not None
    assert after.seq == before.seq + 1
    assert sentences(marked, clock) == ""


@pytest.mark.parametrize("statement", [PUT_BACK, EMPTIED], ids=["put back", "emptied"])
def test_an_older_state_is_named_and_stays_named(
    marked: Database, database_url: str, clock: TestClock, statement: str
) -> None:
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as owner:
        owner.execute(statement)
    marked.near.here().forget()
    assert "put back to an older state" in sentences(marked, clock)
    if statement == EMPTIED:
        return
    with marked.transaction() as store:  # as many records again: the mark is not moved over them
        lead = store.people.all()[0]
    for name in ("one", "two", "three"):
        correct(marked, household.Actor(lead.id, lead.name, "lead"), clock, name)
    move_marks(marked, clock.now())
    assert "put back to an older state" in sentences(marked, clock)


def test_the_file_cannot_be_moved_back_without_the_key(marked: Database, clock: TestClock, tmp_path: Path) -> None:
    kept = (tmp_path / "marks.json").read_text()
    known = marked.marks.of("home")
    assert known is not None
    marked.marks.move("home", Mark(known.seq - 1, known.hash, clock.now() + timedelta(hours=1)))
    sealed = marked.marks.of("home")
    assert sealed is not None
    assert sealed.seq == known.seq  # nor with it: a mark goes forward alone
    (tmp_path / "marks.json").write_text(kept.replace(f'"seq": {known.seq}', f'"seq": {known.seq - 1}'))
    assert "beside the database was changed" in sentences(marked, clock)
    move_marks(marked, clock.now())
    assert "beside the database was changed" in sentences(marked, clock)


def test_a_role_with_too_many_rights_is_named(marked: Database, database_url: str, clock: TestClock) -> None:
    as_owner = Database(database_url)
    assert "superuser" in sentences(as_owner, clock)
    as_owner.close()
