"""Backup, restore, verify and a new password, as somebody types them, on a data folder of their own."""

import json
import os
import shutil
import tarfile
import tempfile
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import psycopg
import pytest

from brinefrost.services import accounts, household, new_password
from brinefrost.services.office import Office, WallClock
from brinefrost.store import Database
from launcher import packages, records
from launcher.backups import write_backup
from launcher.cluster import Cluster
from launcher.shell import LauncherError
from tests.kitchen import PASSWORDS, furnish


@pytest.fixture(autouse=True)
def installed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(packages, "everything", lambda development: None)


@pytest.fixture(scope="module")
def place() -> Iterator[Path]:
    """A data folder with a furnished kitchen in it."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(packages, "everything", lambda development: None)
        folder = Path(tempfile.mkdtemp(prefix="brinefrost-records-"))
        os.chmod(folder, 0o755)
        patch.setenv("BRINEFROST_DATA", str(folder))
        cluster = Cluster(folder / "pg", durable=False)
        cluster.start()
        cluster.ensure_database("brinefrost")
        env = records.program_env(cluster, "brinefrost")
        records.run([records.PYTHON, "-m", "brinefrost.store.migrate"], "made", records.ROOT, env)
        patch.setenv("BRINEFROST_LEDGER_KEY_FILE", env["BRINEFROST_LEDGER_KEY_FILE"])
        database = Database(cluster.url("brinefrost"))
        lead = furnish(database, datetime.now(tz=UTC))["lead"]
        correct_site(database, lead)
        database.close()
        yield folder
        cluster.stop(adopted=True)
        shutil.rmtree(folder, ignore_errors=True)


def correct_site(database: Database, lead: object) -> None:
    with database.transaction() as store:
        change = household.SiteChange(name="Skarn", altitude_m=2140, zone="Europe/Zurich", rule_set="us")
        household.correct_site(store, lead, datetime.now(tz=UTC), change)  # type: ignore[arg-type]


@pytest.fixture
def at_home(monkeypatch: pytest.MonkeyPatch, place: Path) -> Path:
    monkeypatch.setenv("BRINEFROST_DATA", str(place))
    return place


@pytest.fixture
def elsewhere(monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    folder = Path(tempfile.mkdtemp(prefix="brinefrost-elsewhere-"))
    os.chmod(folder, 0o755)
    monkeypatch.setenv("BRINEFROST_DATA", str(folder))
    yield folder
    if (folder / "pg").exists():
        Cluster(folder / "pg").stop(adopted=True)
    shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="module")
def made(place: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    file = tmp_path_factory.mktemp("backups") / "records.bak"
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("BRINEFROST_DATA", str(place))
        patch.setattr(packages, "everything", lambda development: None)
        assert records.backup([str(file)]) == 0
    return file


def forged(made: Path, folder: Path) -> Path:
    """The same backup with other records in it, and the statement as it was."""
    parts = folder / "parts"
    parts.mkdir()
    with tarfile.open(made) as whole:
        whole.extractall(parts, filter="data")
    with (parts / "records.dump").open("ab") as out:
        out.write(b"\0")
    file = folder / "forged.bak"
    with tarfile.open(file, "w") as whole:
        for name in ("statement.json", "records.dump"):
            whole.add(parts / name, name)
    return file


def kinds(folder: Path) -> list[tuple[str, str]]:
    cluster = Cluster(folder / "pg")
    cluster.start()
    with psycopg.connect(cluster.owner_url("brinefrost").replace("+psycopg", "")) as connection:
        return connection.execute("select kind, body from records order by seq").fetchall()


def test_what_holds_is_verified_and_its_end_kept(at_home: Path) -> None:
    assert records.verify([]) == 0
    kept = json.loads((at_home / "brinefrost-marks.json").read_text())
    assert kept["home"]["seq"] >= 1


def test_a_backup_is_readable_by_its_owner_alone_and_is_never_overwritten(at_home: Path, made: Path) -> None:
    assert made.stat().st_mode & 0o077 == 0
    with pytest.raises(LauncherError, match="there already"):
        records.backup([str(made)])


def test_of_nothing_no_backup_is_made(elsewhere: Path, tmp_path: Path) -> None:
    with pytest.raises(LauncherError, match="nothing to back up"):
        records.backup([str(tmp_path / "none.bak")])
    assert not (tmp_path / "none.bak").exists()


def test_a_backup_is_verified_without_a_store(at_home: Path, made: Path, capfd: pytest.CaptureFixture[str]) -> None:
    assert records.verify([str(made)]) == 0
    assert "its seal fits" in capfd.readouterr().out


def test_a_backup_of_another_place_asks_for_its_key(place: Path, elsewhere: Path, made: Path) -> None:
    with pytest.raises(LauncherError, match="does not bear the seal of this place"):
        records.restore([str(made)])
    assert records.restore([str(made), "--key", str(place / "ledger.key")]) == 0
    kind, body = kinds(elsewhere)[-1]
    assert kind == "records_restored"
    assert "seals_were_checked" in body
    assert records.verify([]) == 0


def test_a_restore_without_the_key_says_so_for_ever(elsewhere: Path, made: Path) -> None:
    assert records.restore([str(made), "--without-key"]) == 0
    assert "seals_were_not_checked" in kinds(elsewhere)[-1][1]


@pytest.mark.usefixtures("elsewhere")
def test_an_altered_backup_is_refused(place: Path, made: Path, tmp_path: Path) -> None:
    file = forged(made, tmp_path)
    for extra in (["--key", str(place / "ledger.key")], ["--without-key"]):
        with pytest.raises(LauncherError, match="altered since it was made"):
            records.restore([str(file), *extra])


def test_records_altered_before_they_were_sealed_are_refused(
    place: Path, elsewhere: Path, made: Path, tmp_path: Path, capfd: pytest.CaptureFixture[str]
) -> None:
    """Whoever alters the records and seals a new statement with the key of the place still lacks the chain's seal."""
    cluster = Cluster(elsewhere / "pg")
    cluster.start()
    with records.open_backup(made, (place / "ledger.key").read_text().strip()) as opened:
        cluster.ensure_database("altered")
        cluster.restore("altered", opened.records)
    with psycopg.connect(cluster.owner_url("altered").replace("+psycopg", ""), autocommit=True) as owner:
        owner.execute("alter table records disable trigger all")
        owner.execute("update records set body = replace(body, 'Skarn', 'Skern')")
        owner.execute("alter table records enable trigger all")
    file = tmp_path / "altered.bak"
    write_backup(cluster, "altered", file, (place / "ledger.key").read_text().strip())
    with pytest.raises(LauncherError, match="Chain walked and sealed here failed"):
        records.restore([str(file), "--key", str(place / "ledger.key")])
    assert not cluster.has_database("brinefrost")


def test_a_forgotten_password_is_set_by_command(
    at_home: Path, monkeypatch: pytest.MonkeyPatch, capfd: pytest.CaptureFixture[str]
) -> None:
    cluster = Cluster(at_home / "pg")
    cluster.start()
    monkeypatch.setenv("BRINEFROST_LEDGER_KEY_FILE", str(at_home / "ledger.key"))
    monkeypatch.setenv("BRINEFROST_DATABASE_URL", cluster.url("brinefrost"))
    database = Database(cluster.url("brinefrost"))
    with database.transaction() as store:
        name = next(each.name for each in store.people.all() if each.role == "lead")
    answers = iter(["cellar-door-91", "cellar-door-91", "short", "short", "one-of-these-two", "the-other-of-two"])
    monkeypatch.setattr("getpass.getpass", lambda _: next(answers))
    assert new_password.main([name]) == 0
    assert new_password.main([name]) == 1  # too short
    assert new_password.main([name]) == 1  # not alike
    assert new_password.set_password(database, "Nobody", "cellar-door-91", datetime.now(tz=UTC)).startswith(
        "Nobody here"
    )
    office = Office(database, WallClock())
    assert accounts.sign_in(office, name, "cellar-door-91", "here")[1].role == "lead"
    with pytest.raises(Exception, match="do not fit"):
        accounts.sign_in(office, name, PASSWORDS["lead"], "here")
    database.close()
    assert "secrets_renewed" in [kind for kind, _ in kinds(at_home)]
