"""An older database is brought up with its records whole; code and tables agree; the way back works."""

import psycopg
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.runtime.migration import MigrationContext
from sqlalchemy import create_engine

from brinefrost.store import Database
from brinefrost.store.migrate import config_for, migrate
from brinefrost.store.tables import Base
from tests.conftest import TestClock
from tests.kitchen import furnish


def tables(url: str) -> set[str]:
    with psycopg.connect(url.replace("+psycopg", "")) as connection:
        return {row[0] for row in connection.execute("select tablename from pg_tables where schemaname = 'public'")}


def test_an_older_database_keeps_its_people_on_the_way_up_and_back(database_url: str, clock: TestClock) -> None:
    database = Database(database_url)
    furnish(database, clock.now())
    with database.transaction() as store:
        before = [person.name for person in store.people.all()]
    command.downgrade(config_for(database_url), "0001")
    assert "kept_answers" not in tables(database_url)
    migrate(database_url)
    migrate(database_url)  # twice is once
    assert "kept_answers" in tables(database_url)
    with database.transaction() as store:
        assert [person.name for person in store.people.all()] == before
        assert store.kept.latest(10) == []
    database.close()


def test_the_code_and_the_tables_agree(database_url: str) -> None:
    engine = create_engine(database_url)
    with engine.connect() as connection:
        found = compare_metadata(MigrationContext.configure(connection), Base.metadata)
    engine.dispose()
    structure = [each for each in found if each[0] in ("add_table", "add_column", "remove_column", "remove_table")]
    ours = {each[1].name for each in structure if each[0] == "remove_table"}
    assert {name for name in ours if not name.startswith("samples")} == {"kitchens", "hubs", "hub_channels"}
    assert "samples" in ours  # with its partitions; SQL of its own, in store/samples.py
    columns = [each for each in structure if each[0] != "remove_table"]
    assert {(kind, column.name) for kind, _, _, column in columns} == {("remove_column", "kitchen_id")}
    assert {table for _, _, table, _ in columns} == set(Base.metadata.tables)  # on every row
