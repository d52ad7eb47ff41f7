"""A database for each test that asks for one, as its template is; a clock that the test moves."""

import atexit
import os
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from functools import cache
from pathlib import Path

import psycopg
import pytest
from hypothesis import settings
from psycopg import sql
from sqlalchemy import make_url

from brinefrost.demo.seed import seed
from brinefrost.services import accounts
from brinefrost.store import Database
from brinefrost.store.migrate import migrate
from tests.kitchen import furnish, lead_of, signed_thigh

accounts.hash_cheaply()
settings.register_profile("unhurried", deadline=None)  # a slow machine is no fault of what is tested
settings.load_profile("unhurried")
ADMIN = os.environ.get("BRINEFROST_TEST_DATABASE_URL", "")
OPENED = datetime(2026, 11, 17, 8, 0, tzinfo=UTC)  # when the tests' clock begins
RUN = os.environ.get("PYTEST_XDIST_TESTRUNUID") or uuid.uuid4().hex
APP = os.environ.get("BRINEFROST_TEST_APP_URL", "")
COPY = sql.SQL("create database {} template {} strategy file_copy")
ODD_DAY = datetime(2027, 3, 28, 0, 40, tzinfo=UTC)  # minutes before the kitchen's clocks change


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


@cache
def _owner() -> psycopg.Connection:
    """Whoever makes and drops databases, on one connection for a worker's whole life."""
    connection = psycopg.connect(_plain(ADMIN), autocommit=True)
    atexit.register(connection.close)
    return connection


def _run(statement: sql.Composed) -> None:
    _owner().execute(statement)


def _address(name: str) -> str:
    return ADMIN.rsplit("/", 1)[0] + "/" + name


def _app_address(name: str) -> str:
    return APP.rsplit("/", 1)[0] + "/" + name


@contextmanager
def _copied(template: str, name: str) -> Iterator[str]:
    """A copy of a database, for as long as it is wanted."""
    _run(COPY.format(sql.Identifier(name), sql.Identifier(template)))
    yield name
    _run(sql.SQL("drop database {} with (force)").format(sql.Identifier(name)))


STANDING = """
    create schema ground;
    do $do$ declare name text; begin
        for name in select relname from pg_class where relnamespace = 'public'::regnamespace
            and relkind in ('r', 'p') and not relispartition loop
            execute format('create table ground.%1$I as table public.%1$I', name);
        end loop;
    end $do$
"""
AS_IT_WAS = """
    select pg_terminate_backend(pid) from pg_stat_activity
        where datname = current_database() and pid <> pg_backend_pid();
    set session_replication_role = replica;
    do $do$ declare name text; begin
        for name in select tablename from pg_tables where schemaname = 'ground' loop
            execute format('delete from public.%1$I', name);
            execute format('insert into public.%1$I select * from ground.%1$I', name);
        end loop;
    end $do$
"""


@cache
def _standing(template: str) -> tuple[str, psycopg.Connection]:
    """A copy that one worker's tests use in turn, and its owner; what the application does there is undone by rows."""
    name = f"standing_{uuid.uuid4().hex[:10]}"
    _run(COPY.format(sql.Identifier(name), sql.Identifier(template)))
    owner = psycopg.connect(_plain(_address(name)), autocommit=True)
    atexit.register(owner.close)
    owner.execute(STANDING)
    return name, owner


def _made_once(name: str, make: Callable[[str], None]) -> str:
    """A database to be copied, made by whichever worker of this run is the first to ask; the cluster is thrown away."""
    if not ADMIN:
        pytest.fail("Run the tests with ./brinefrost test: they need a PostgreSQL of their own.")
    whole, half = f"{name}_{RUN}", f"{name}_{RUN}_half"
    with psycopg.connect(_plain(ADMIN), autocommit=True) as connection:
        connection.execute("select pg_advisory_lock(hashtext(%s))", [whole])
        if not connection.execute("select 1 from pg_database where datname = %s", [whole]).fetchone():
            connection.execute(sql.SQL("drop database if exists {}").format(sql.Identifier(half)))
            make(half)
            connection.execute(
                sql.SQL("alter database {} rename to {}").format(sql.Identifier(half), sql.Identifier(whole))
            )
    return whole


def _filled(template: str, name: str, fill: Callable[[Database], object]) -> str:
    """A copy with something in it, to be copied in its turn."""

    def make(half: str) -> None:
        _run(COPY.format(sql.Identifier(half), sql.Identifier(template)))
        database = Database(_app_address(half))
        fill(database)
        database.close()

    return _made_once(name, make)


@pytest.fixture(scope="session")
def template() -> str:
    """Every table and no row."""

    def make(half: str) -> None:
        _run(sql.SQL("create database {}").format(sql.Identifier(half)))
        migrate(_address(half), make_url(APP).username or "")

    return _made_once("template", make)


@pytest.fixture(scope="session")
def furnished_template(template: str) -> str:
    """The kitchen with its people and kit."""
    return _filled(template, "furnished", lambda database: furnish(database, OPENED))


@pytest.fixture(scope="session")
def signed_template(furnished_template: str) -> str:
    """The same with the thigh signed the day before."""
    signed_at = OPENED - timedelta(days=1)
    return _filled(furnished_template, "signed", lambda database: signed_thigh(database, lead_of(database), signed_at))


@pytest.fixture(scope="session")
def demo_template(template: str) -> str:
    """Skarn Ridge with its six weeks, as it opens on a day on which a change of the clocks falls into what it does."""
    return _filled(template, "demo", lambda database: seed(database, ODD_DAY))


@pytest.fixture
def ground(template: str) -> str:
    """What a test's database begins as: empty, until a folder or a file says otherwise."""
    return template


@pytest.fixture
def database_url(ground: str) -> Iterator[str]:
    """A database of one's own, as its owner, who can change tables too: the application never signs in so."""
    with _copied(ground, f"test_{uuid.uuid4().hex[:10]}") as name:
        yield _address(name)


@pytest.fixture
def app_url(request: pytest.FixtureRequest, ground: str) -> str:
    """A database as the application signs in to it; the same as its owner's, where the test asks for that one."""
    if "database_url" in request.fixturenames:
        return _app_address(request.getfixturevalue("database_url").rsplit("/", 1)[1])
    name, owner = _standing(ground)
    owner.execute(AS_IT_WAS)
    return _app_address(name)


@pytest.fixture
def database(app_url: str) -> Iterator[Database]:
    made = Database(app_url)
    yield made
    made.close()


@pytest.fixture
def clock() -> TestClock:
    return TestClock(OPENED)


@pytest.fixture
def data() -> Path:
    return Path(__file__).parent / "data"
