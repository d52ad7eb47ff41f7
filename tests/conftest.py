"""A database for each test that asks for one, copied from a migrated template; a clock that the test moves."""

import os
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import psycopg
import pytest
from psycopg import sql

from brinefrost.store import Database
from brinefrost.store.migrate import migrate

ADMIN = os.environ.get("BRINEFROST_TEST_DATABASE_URL", "")


class TestClock:
    """A clock that stands until it is moved."""

    __test__ = False

    def __init__(self, moment: datetime) -> None:
        self.moment = moment

    def now(self) -> datetime:
        return self.moment

    def forward(self, minutes: float) -> None:
        self.moment += timedelta(minutes=minutes)


def _plain(url: str) -> str:
    return url.replace("+psycopg", "")


def _run(statement: sql.Composed) -> None:
    with psycopg.connect(_plain(ADMIN), autocommit=True) as connection:
        connection.execute(statement)


def _address(name: str) -> str:
    return ADMIN.rsplit("/", 1)[0] + "/" + name


@pytest.fixture(scope="session")
def template() -> Iterator[str]:
    if not ADMIN:
        pytest.fail("Run the tests with ./brinefrost test: they need a PostgreSQL of their own.")
    name = f"template_{uuid.uuid4().hex[:10]}"
    _run(sql.SQL("create database {}").format(sql.Identifier(name)))
    migrate(_address(name))
    yield name
    _run(sql.SQL("drop database {} with (force)").format(sql.Identifier(name)))


@pytest.fixture
def database_url(template: str) -> Iterator[str]:
    name = f"test_{uuid.uuid4().hex[:10]}"
    _run(sql.SQL("create database {} template {}").format(sql.Identifier(name), sql.Identifier(template)))
    yield _address(name)
    _run(sql.SQL("drop database {} with (force)").format(sql.Identifier(name)))


@pytest.fixture
def database(database_url: str) -> Iterator[Database]:
    made = Database(database_url)
    yield made
    made.close()


@pytest.fixture
def clock() -> TestClock:
    return TestClock(datetime(2026, 11, 17, 8, 0, tzinfo=UTC))


@pytest.fixture
def data() -> Path:
    return Path(__file__).parent / "data"
