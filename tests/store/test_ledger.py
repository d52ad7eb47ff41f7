"""The chain of records and the kept replies, under many hands at once."""

from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta, timezone

import psycopg
import pytest

from brinefrost.core.errors import ConflictError, NotFoundError
from brinefrost.services.office import Actor, Office
from brinefrost.services.running import BatchId
from brinefrost.store import Database, Store
from brinefrost.store.chain import GENESIS, Author
from brinefrost.store.errors import StoreDownError
from brinefrost.store.ledger import Sought
from brinefrost.store.shelves import Draft
from tests.conftest import TestClock

AUTHOR = Author("a", "Ama Kesewaa", "cook")
NOW = datetime(2026, 11, 24, 12, 0, tzinfo=UTC)


def append(database: Database, subject: str = "batch:1", at: datetime = NOW, **body: object) -> int:
    with database.transaction() as store:
        return store.ledger.append("note", subject, body, AUTHOR, at).seq


def test_each_record_follows_the_one_before(database: Database) -> None:
    assert [append(database, n=n) for n in range(5)] == [1, 2, 3, 4, 5]
    with database.transaction() as store:
        count, head, breaks = store.ledger.check()
        records = store.ledger.of_subject("batch:1")
    assert (count, breaks) == (5, [])
    assert head == records[-1].hash
    assert len({record.hash for record in records} | {GENESIS}) == 6


def test_many_writers_make_one_chain(database: Database) -> None:
    with ThreadPoolExecutor(8) as pool:
        seqs = list(pool.map(lambda n: append(database, f"batch:{n % 3}", n=n), range(40)))
    assert sorted(seqs) == list(range(1, 41))
    with database.transaction() as store:
        count, _, breaks = store.ledger.check()
    assert (count, breaks) == (40, [])


def test_a_failed_transaction_leaves_no_record(database: Database) -> None:
    append(database)

    def work() -> None:
        with database.transaction() as store:
            store.ledger.append("note", "batch:1", {}, AUTHOR, NOW)
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        work()
    assert append(database) == 2


def test_the_hash_does_not_depend_on_the_zone_it_was_told_in(database: Database) -> None:
    append(database, at=NOW.astimezone(timezone(timedelta(hours=-9))))
    with database.transaction() as store:
        assert store.ledger.check()[2] == []
        assert store.ledger.of_subject("batch:1")[0].recorded_at == NOW


@pytest.mark.parametrize(
    ("statement", "seq", "words"),
    [
        ("update records set body = '{\"n\":9}' where seq = 2", 2, "content was changed"),
        ("update records set actor_name = 'Somebody' where seq = 3", 3, "content was changed"),
        ("update records set recorded_at = recorded_at + interval '1 second' where seq = 1", 1, "content was changed"),
        ("update records set prev_hash = repeat('a', 64) where seq = 4", 4, "does not follow"),
        ("delete from records where seq = 2", 3, "are missing"),
        ("delete from records where seq = 5", 5, "should end at record 5"),
        ("update ledger_head set hash = repeat('b', 64)", 5, "should end"),
    ],
)
def test_whatever_is_altered_is_named(
    database: Database, database_url: str, statement: str, seq: int, words: str
) -> None:
    for n in range(5):
        append(database, n=n)
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("alter table records disable trigger user")
        connection.execute(statement)
    with database.transaction() as store:
        breaks = store.ledger.check()[2]
    assert breaks[0].seq == seq
    assert any(words in found.sentence for found in breaks)


def test_rewriting_one_row_and_its_hash_shows_in_the_next(database: Database, database_url: str) -> None:
    """Somebody who also mends the altered row's own hash is caught by the row after it."""
    for n in range(3):
        append(database, n=n)
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("alter table records disable trigger user")
        connection.execute("update records set body = '{}', hash = repeat('c', 64) where seq = 2")
    with database.transaction() as store:
        assert {found.seq for found in store.ledger.check()[2]} == {2, 3}


def test_a_record_without_the_end_of_its_chain_is_never_kept(database: Database, database_url: str) -> None:
    append(database)

    def work() -> None:
        with database.transaction() as store:
            store.ledger.seal_standing(held=True)  # the end is known to it
            store.ledger.head()
            with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
                connection.execute("delete from ledger_head")
            store.ledger.append("note", "batch:1", {"n": 2}, AUTHOR, NOW)

    with pytest.raises(ConflictError, match="Nothing was saved"):
        work()
    with database.transaction() as store:
        assert [record.seq for record in store.ledger.of_subject("batch:1")] == [1]


def test_search_takes_words_literally_and_pages_backwards(database: Database) -> None:
    append(database, note="100 % salt_pct")
    append(database, note="plain")
    append(database, note="Żurek, plain")
    with database.transaction() as store:
        find = store.ledger.search

        def found(words: str, kinds: tuple[str, ...] = (), before: int | None = None, most: int = 10) -> list[int]:
            return [record.seq for record in find(Sought(words=words, kinds=kinds), before, most)]

        assert found("100 %") == [1]
        assert found("_pct") == [1]
        assert found("PLAIN żurek") == [3]
        assert found("", most=2) == [3, 2]
        assert found("", before=2) == [1]
        assert found("", ("other",)) == []
        assert found("'; drop table records; --") == []
        assert find(Sought(since=NOW + timedelta(days=1)), None, 10) == []
        assert find(Sought(until=NOW - timedelta(days=1)), None, 10) == []
        assert find(Sought(subjects=frozenset()), None, 10) == []
        assert find(Sought(person="nobody"), None, 10) == []


def test_drafts_refuse_a_stale_revision(database: Database) -> None:
    with database.transaction() as store:
        store.drafts.create(Draft("p", "{}", 1, "Ilse", NOW))
        assert store.drafts.save("p", '{"a":1}', 1, "Ilse", NOW).revision == 2
    with pytest.raises(ConflictError, match="Ilse saved"), database.transaction() as store:
        store.drafts.save("p", '{"a":2}', 1, "Ama", NOW)
    with pytest.raises(NotFoundError), database.transaction() as store:
        store.drafts.save("none", "{}", 1, "Ama", NOW)
    with database.transaction() as store:
        assert store.drafts.read("p").document == '{"a":1}'


def test_two_drafts_of_one_id_are_a_conflict_not_a_driver_error(database: Database) -> None:
    with database.transaction() as store:
        store.drafts.create(Draft("p", "{}", 1, "Ilse", NOW))
    with pytest.raises(ConflictError), database.transaction() as store:
        store.drafts.create(Draft("p", "{}", 1, "Ilse", NOW))


def test_a_database_that_is_gone_is_said_in_a_sentence() -> None:
    gone = Database("postgresql+psycopg://nobody@127.0.0.1:9/none")
    with pytest.raises(StoreDownError, match="Nothing was saved"), gone.transaction() as store:
        store.ledger.check()


ACTOR = Actor("a", "Ama Kesewaa", "cook")


def test_one_key_lands_once_however_many_send_it(database: Database, clock: TestClock) -> None:
    office = Office(database, clock)
    ran = []

    def work(store: Store) -> BatchId:
        ran.append(1)
        seq = store.ledger.append("note", "batch:1", {}, AUTHOR, NOW).seq
        return BatchId(batch_id=str(seq), code="B")

    with ThreadPoolExecutor(6) as pool:
        replies = list(pool.map(lambda _: office.write(ACTOR, "one-key-1", {"x": 1}, work), range(6)))
    assert replies == [{"batch_id": "1", "code": "B"}] * 6
    assert len(ran) == 1


def test_a_key_is_bound_to_its_sender_and_its_content(database: Database, clock: TestClock) -> None:
    office = Office(database, clock)

    def work(_: Store) -> BatchId:
        return BatchId(batch_id="1", code="B")

    office.write(ACTOR, "bound-key-1", {"x": 1}, work)
    with pytest.raises(ConflictError):
        office.write(ACTOR, "bound-key-1", {"x": 2}, work)
    with pytest.raises(ConflictError):
        office.write(Actor("b", "Tomasz", "cook"), "bound-key-1", {"x": 1}, work)


def test_a_refused_write_keeps_no_reply(database: Database, clock: TestClock) -> None:
    """A refusal is not kept under the key, so the mended cause lets the same entry through."""
    office, allowed = Office(database, clock), []

    def work(_: Store) -> BatchId:
        if not allowed:
            raise NotFoundError("not yet")
        return BatchId(batch_id="1", code="B")

    with pytest.raises(NotFoundError):
        office.write(ACTOR, "later-key-1", {}, work)
    allowed.append(1)
    assert office.write(ACTOR, "later-key-1", {}, work)["code"] == "B"
