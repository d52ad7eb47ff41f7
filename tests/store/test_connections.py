"""Connections that the server closed, and those that are still in use when the application stops."""

import psycopg
import pytest

from brinefrost.store import Database, database
from brinefrost.store.errors import StoreDownError


def _drop_all(url: str) -> int:
    """End every other session of the database, as a restart does."""
    ending = (
        "select pg_terminate_backend(pid, 5000) from pg_stat_activity where datname = current_database() and pid <> "
    )
    with psycopg.connect(url.replace("+psycopg", ""), autocommit=True) as connection:
        return len(connection.execute(f"{ending} pg_backend_pid()").fetchall())


def test_after_a_restart_an_idle_connection_is_replaced(
    database_url: str, app_url: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "FRESH_S", 0.0)
    kept = Database(app_url)
    with kept.transaction() as store:
        assert store.people.all() == []
    assert _drop_all(database_url) >= 1
    with kept.transaction() as store:
        assert store.people.all() == []
    kept.close()


def test_one_lost_within_a_breath_of_its_use_is_told_as_such_and_the_next_works(
    database_url: str, app_url: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "FRESH_S", 60.0)
    kept = Database(app_url)
    with kept.transaction() as store:
        store.people.all()
    _drop_all(database_url)
    with pytest.raises(StoreDownError, match="Nothing was saved"), kept.transaction() as store:
        store.people.all()
    with kept.transaction() as store:
        assert store.people.all() == []
    kept.close()


def test_one_in_use_at_the_end_finishes_its_work_and_is_ended(database_url: str, app_url: str) -> None:
    kept = Database(app_url)
    with kept.transaction() as store:
        kept.close()
        assert store.people.all() == []
    assert _drop_all(database_url) == 0
