"""What the application's own role may not do, and what shows when somebody wrote past it."""

from datetime import timedelta

import psycopg
import pytest

from brinefrost.services import household
from brinefrost.services.ledgers import check_integrity
from brinefrost.store import Database
from brinefrost.store.kitchens import add_kitchen
from brinefrost.store.migrate import NewerRecordsError, migrate
from brinefrost.store.sealing import VARIABLE
from tests.conftest import TestClock
from tests.kitchen import furnish

SEALED = "5" * 64


def plain(url: str) -> str:
    return url.replace("+psycopg", "")


@pytest.fixture
def furnished(monkeypatch: pytest.MonkeyPatch, database: Database, clock: TestClock) -> Database:
    monkeypatch.setenv(VARIABLE, SEALED)
    lead = furnish(database, clock.now())["lead"]
    with database.transaction() as store:
        change = household.SiteChange(name="Skarn", altitude_m=2140, zone="Europe/Zurich", rule_set="us")
        household.correct_site(store, lead, clock.now(), change)
    return database


@pytest.mark.parametrize(
    "statement",
    [
        "update records set body = '{}'",
        "delete from records",
        "truncate records",
        "alter table records disable trigger all",
        "update trace_files set filename = 'x'",
        "delete from ledger_head",
        "delete from users",
        "drop table replies",
        "set session_replication_role = replica",
        "create table mine (n int)",
        "update alembic_version set version_num = '0001'",
        "copy users to program 'cat'",
    ],
)
def test_the_application_cannot_rewrite_its_records(furnished: Database, app_url: str, statement: str) -> None:
    with psycopg.connect(plain(app_url)) as connection, pytest.raises(psycopg.errors.InsufficientPrivilege):
        connection.execute(statement)


@pytest.mark.parametrize(
    "statement",
    [
        "update users set role = 'lead' where role = 'cook'",
        "update users set password_hash = (select password_hash from users where role = 'cook')",
        "update users set active = not active",
        "update instruments set uncertainty = 0.01",
        "update instruments set due_at = due_at + interval '1 year'",
        "update site set altitude_m = 0",
        "update site set rule_set = 'uk'",
        "insert into instruments select 'x', 'x', kind, quantities, 0.1, calibrated_at, due_at, kitchen_id "
        "from instruments limit 1",
        "alter table records disable trigger records_keep",
        "drop trigger trace_files_keep on trace_files",
        "alter table records disable trigger all; delete from records; delete from ledger_head",
        "alter table records disable trigger all; delete from records; "
        "update ledger_head set seq = 0, hash = repeat('0', 64)",
        "create or replace function refuse_change() returns trigger language plpgsql as $$ begin return new; end $$",
        "alter table records disable row level security",
        "create policy anybody on users using (true)",
        "alter policy records_of_kitchen on records using (true)",
        "grant update, delete on records to brinefrost_app",
        "grant delete on ledger_head to public",
        "create or replace trigger records_keep before update or delete on records "
        "for each row execute function keep_kitchen()",
    ],
)
def test_what_was_written_past_brinefrost_shows(
    furnished: Database, database_url: str, clock: TestClock, statement: str
) -> None:
    with furnished.transaction() as store:
        assert check_integrity(store, clock.now()).holds
    with psycopg.connect(plain(database_url), autocommit=True) as connection:
        connection.execute(statement)
    with furnished.transaction() as store:
        assert not check_integrity(store, clock.now()).holds


def test_a_later_change_does_not_bless_an_earlier_one(furnished: Database, database_url: str, clock: TestClock) -> None:
    """What was found written past Brinefrost stays in the ledger, though the next change seals the rows anew."""
    with psycopg.connect(plain(database_url), autocommit=True) as connection:
        connection.execute("update users set role = 'lead' where role = 'cook'")
    with furnished.transaction() as store:
        store.instruments.calibrated("probe-1", clock.now(), clock.now() + timedelta(days=30), 0.4)
    with furnished.transaction() as store:
        assert store.ledger.count("standing_found_changed") == 1
        assert check_integrity(store, clock.now()).holds


def test_a_kitchen_that_has_records_cannot_be_taken_away(furnished: Database, database_url: str) -> None:
    add_kitchen(database_url, "fjord")
    with psycopg.connect(plain(database_url), autocommit=True) as owner:
        with pytest.raises(psycopg.errors.RaiseException, match="this kitchen has records"):
            owner.execute("delete from kitchens where id = 'home'")
        owner.execute("delete from ledger_head where kitchen_id = 'fjord'")
        owner.execute("delete from kitchens where id = 'fjord'")


def test_newer_records_are_left_alone(database_url: str) -> None:
    with psycopg.connect(plain(database_url), autocommit=True) as connection:
        connection.execute("update alembic_version set version_num = '0999'")
    with pytest.raises(NewerRecordsError, match=r"newer Brinefrost.*0999"):
        migrate(database_url)
