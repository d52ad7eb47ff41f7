"""The few questions asked when a kitchen starts with its own records."""

from collections.abc import Callable, Iterator

import psycopg
import pytest

from brinefrost.services import setup
from brinefrost.store import Database

PASSWORD = "larder-at-2140"


@pytest.fixture
def answering(monkeypatch: pytest.MonkeyPatch) -> Callable[..., None]:
    """Somebody at the terminal who types these answers, then no more."""

    def with_answers(*typed: str, passwords: tuple[str, ...] = (PASSWORD,) * 4, at_terminal: bool = True) -> None:
        answers: Iterator[str] = iter(typed)
        secrets = iter(passwords)
        monkeypatch.setattr("builtins.input", lambda _: next(answers))
        monkeypatch.setattr("getpass.getpass", lambda _: next(secrets))
        monkeypatch.setattr("sys.stdin.isatty", lambda: at_terminal, raising=False)
        monkeypatch.delenv("TZ", raising=False)

    return with_answers


def test_a_kitchen_is_asked_for_once(
    database: Database, answering: Callable[..., None], capsys: pytest.CaptureFixture[str]
) -> None:
    answering("Skarn Ridge", "2140,5", "Europe/Zurich", "uk", "Ilse", "lead", "2140", "Ama", "cook", "", "")
    assert setup.set_up(database) == 0
    with database.transaction() as store:
        site = store.site.read()
        assert (site.name, site.altitude_m, site.zone, site.rule_set) == ("Skarn Ridge", 2140.5, "Europe/Zurich", "uk")
        assert {(p.name, p.role) for p in store.people.all()} == {("Ilse", "lead"), ("Ama", "cook")}
        assert {i.kind for i in store.instruments.all()} == {"probe", "logger"}
    answering()  # asked once: no question now, or the empty answers would end the test
    assert setup.set_up(database) == 0
    assert capsys.readouterr().out.count("A few questions") == 1


def test_what_cannot_be_is_asked_again(
    database: Database, answering: Callable[..., None], capsys: pytest.CaptureFixture[str]
) -> None:
    answering(
        "", "Skarn Ridge",  # a kitchen has a name
        "high up", "9999", "nan", "300",
        "Ridge/Time", "UTC",
        "usa", "us",
        "",  # nobody yet
        "Ama", "chef", "cook", "",
        "",  # still no lead
        "Ilse", "lead", "12", "Ilse", "lead", "1234", "Ilse", "lead", "7316",
        "",
        passwords=(PASSWORD, PASSWORD, PASSWORD, PASSWORD),
    )  # fmt: skip
    assert setup.set_up(database) == 0
    said = capsys.readouterr().out
    assert said.count("Type the height as a number") == 3
    assert "That zone is not known." in said
    assert said.count("One person must be the lead") == 2
    assert "PIN" in said


def test_a_short_password_is_refused_with_a_sentence(
    database: Database, answering: Callable[..., None], capsys: pytest.CaptureFixture[str]
) -> None:
    answering(
        "Skarn Ridge", "0", "UTC", "us", "Ilse", "lead", "", "Ilse", "lead", "", "", passwords=("short", PASSWORD)
    )
    assert setup.set_up(database) == 0
    assert "10 characters" in capsys.readouterr().out


def test_cut_off_in_the_middle_nothing_is_half_saved(database: Database, answering: Callable[..., None]) -> None:
    answering("Skarn Ridge", "0", "UTC", "us", "Ilse", "lead", "")  # and then the terminal is closed
    with pytest.raises(StopIteration):
        setup.set_up(database)
    with database.transaction() as store:
        assert not store.site.exists()
        assert store.people.all() == []


@pytest.mark.parametrize("end", [KeyboardInterrupt, EOFError])
def test_broken_off_it_says_that_nothing_was_saved(
    database: Database, answering: Callable[..., None], monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str], end: type[BaseException],
) -> None:  # fmt: skip
    answering()

    def broken_off(question: str) -> str:
        if "Time zone" in question:
            raise end
        return "12"

    monkeypatch.setattr("builtins.input", broken_off)
    assert setup.set_up(database) == 1
    assert "Nothing was saved. Run ./brinefrost start again" in capsys.readouterr().out
    with database.transaction() as store:
        assert not store.site.exists()


def test_nobody_types_against_the_clock_of_a_transaction(
    database: Database, app_url: str, answering: Callable[..., None], monkeypatch: pytest.MonkeyPatch
) -> None:
    """While questions are asked nothing is held, however long somebody looks for the height of their kitchen."""
    answers = iter(["Skarn Ridge", "0", "UTC", "us", "Ilse", "lead", "", "ILSE", "Ama", "cook", "", ""])
    answering()

    def typed(_: str) -> str:
        with psycopg.connect(app_url.replace("+psycopg", ""), autocommit=True) as other:
            open_ones = other.execute(
                "select count(*) from pg_stat_activity where datname = current_database() and state like 'idle in%'"
            ).fetchone()
        assert open_ones == (0,)
        return next(answers)

    monkeypatch.setattr("builtins.input", typed)
    assert setup.set_up(database) == 0
    with database.transaction() as store:
        assert [person.name for person in store.people.all()] == ["Ama", "Ilse"]


def test_without_a_terminal_it_says_what_to_do(
    database: Database, answering: Callable[..., None], capsys: pytest.CaptureFixture[str]
) -> None:
    answering(at_terminal=False)
    assert setup.set_up(database) == 1
    assert "Run ./brinefrost start once in a terminal" in capsys.readouterr().out
