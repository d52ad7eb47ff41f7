"""Samples: parted by month, held to their kitchen, never changed, and sealed so that a change past Brinefrost shows."""

from datetime import UTC, datetime, timedelta

import psycopg
import pytest
from sqlalchemy import create_engine, text

from brinefrost.core.errors import DomainError
from brinefrost.services.sealing_samples import quarter_before, seal_samples
from brinefrost.store import Database
from brinefrost.store.kitchens import add_kitchen, in_kitchen
from brinefrost.store.partitions import make_partitions
from brinefrost.store.samples import Sample

AT = datetime(2026, 12, 1, 8, 0, tzinfo=UTC)
SINCE = AT - timedelta(seconds=1)


def plain(url: str) -> str:
    return url.replace("+psycopg", "")


def fill(database: Database, count: int = 40, received: datetime = AT) -> None:
    with database.transaction() as store:
        added = [Sample("probe", AT + timedelta(seconds=10 * n), 3.0 + n / 100) for n in range(count)]
        assert store.samples.add(added, received) == count
        assert store.samples.add(added, received) == 0, "once is once"


def breaks(database: Database) -> list[str]:
    with database.transaction() as store:
        return [str(each.sentence) for each in store.ledger.check()[2]]


def seal(database: Database, now: datetime) -> bool:
    with database.transaction() as store:
        return seal_samples(store, now)


def test_a_month_has_its_partition_and_what_lies_elsewhere_is_kept_too(database_url: str, database: Database) -> None:
    engine = create_engine(database_url)
    with engine.begin() as connection:
        made = make_partitions(connection, datetime(2031, 5, 20, tzinfo=UTC))
        assert made[0] == "samples_2031_03"
        assert len(made) == 27
        assert make_partitions(connection, datetime(2031, 5, 20, tzinfo=UTC)) == []
    with database.transaction() as store:
        for year in (2031, 1999):
            store.samples.add([Sample("probe", datetime(year, 5, 20, tzinfo=UTC), 4.0)], AT)
    with engine.connect() as connection:
        parts = connection.execute(text("select tableoid::regclass::text from samples order by 1")).scalars().all()
    engine.dispose()
    assert parts == ["samples_2031_05", "samples_other"]


def test_the_application_may_add_samples_and_do_nothing_else(app_url: str, database: Database) -> None:
    fill(database)
    with psycopg.connect(plain(app_url), autocommit=True) as connection:
        for refused in (
            "update samples set value = 1", "delete from samples", "truncate samples",
            "select * from samples_other", "insert into samples_2026_12 select * from samples",
        ):  # fmt: skip
            with pytest.raises(psycopg.Error):
                connection.execute(refused)  # type: ignore[arg-type]


def test_another_kitchen_sees_none_of_them(database_url: str, database: Database) -> None:
    fill(database)
    add_kitchen(database_url, "harbour")
    with in_kitchen("harbour"), database.transaction() as store:
        assert store.samples.first_received(AT - timedelta(days=1)) is None
        assert len(store.samples.read("probe", AT, AT + timedelta(days=1), smoothed=False)[0]) == 0


def test_what_was_received_in_a_quarter_is_sealed_once_and_what_comes_late_with_its_own(database: Database) -> None:
    fill(database, 10)
    assert not seal(database, AT + timedelta(minutes=15)), "it may not all be there yet"
    assert seal(database, AT + timedelta(minutes=17))
    assert not seal(database, AT + timedelta(minutes=29))
    late = AT + timedelta(minutes=20)
    with database.transaction() as store:
        store.samples.add([Sample("probe", AT + timedelta(seconds=5), 2.0)], late)
    assert seal(database, AT + timedelta(minutes=40))
    with database.transaction() as store:
        assert [each.body["count"] for each in store.ledger.of_kind("samples_sealed")] == [10, 1]
    assert breaks(database) == []


@pytest.mark.parametrize(
    "statement",
    [
        "update samples set value = 2 where value = 3.05",
        "delete from samples where value = 3.05",
        "update samples set at = at + interval '1 second' where value = 3.05",
        "insert into samples select kitchen_id, channel_id, at + interval '3 seconds', value, received_at from samples "
        "where value = 3.05",
    ],
)
def test_a_sealed_sample_that_was_changed_past_it_is_named(
    statement: str, database_url: str, database: Database
) -> None:
    fill(database)
    assert seal(database, AT + timedelta(hours=1))
    with psycopg.connect(plain(database_url), autocommit=True) as owner:
        owner.execute("set session_replication_role = replica")
        assert owner.execute(statement).rowcount == 1  # type: ignore[arg-type]
    assert any("Samples" in each for each in breaks(database))


def test_a_door_open_for_a_minute_is_not_the_air_of_a_store(database: Database) -> None:
    with database.transaction() as store:
        air = [Sample("air", AT + timedelta(seconds=10 * n), 12.0 if 30 <= n < 36 else 3.0) for n in range(180)]
        store.samples.add(air, AT)
        raw = store.samples.read("air", SINCE, AT + timedelta(hours=1), smoothed=False)[1]
        smoothed = store.samples.read("air", SINCE, AT + timedelta(hours=1), smoothed=True)[1]
    assert raw.max() == 12.0
    assert smoothed.max() == 3.0
    assert len(smoothed) == 6


def test_a_value_that_is_no_number_is_refused(database: Database) -> None:
    with pytest.raises(DomainError), database.transaction() as store:
        store.samples.add([Sample("probe", AT, 3.0), Sample("x" * 90, AT, 3.0)], AT)


def test_a_quarter_ends_when_all_of_it_is_kept() -> None:
    assert quarter_before(AT + timedelta(minutes=16)) == AT
    assert quarter_before(AT + timedelta(minutes=16, seconds=31)) == AT + timedelta(minutes=15)


def test_days_of_a_core_are_told_to_their_end(database: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    """Not the first so many alone: what was measured last is what is asked for."""
    monkeypatch.setattr("brinefrost.store.samples.MOST_READ", 100)
    with database.transaction() as store:
        store.samples.add([Sample("core", AT + timedelta(seconds=20 * n), 3.0 + n / 100) for n in range(900)], AT)
        times, values = store.samples.read("core", SINCE, AT + timedelta(days=1), smoothed=False)
    assert len(times) <= 100
    assert times[-1] == (AT + timedelta(seconds=20 * 899)).timestamp()
    assert values[-1] == pytest.approx(3.0 + 8.99, abs=0.1)
