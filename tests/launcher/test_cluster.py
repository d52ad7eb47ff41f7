"""The launcher's cluster: made once, started twice, found again after a kill, with the port taken."""

import os
import signal
import socket
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest

from launcher import places
from launcher.cluster import Cluster, free_port
from launcher.commands import main
from launcher.shell import LauncherError


@pytest.fixture(scope="module")
def cluster() -> Iterator[Cluster]:
    folder = Path(tempfile.mkdtemp(prefix="brinefrost-launcher-"))
    os.chmod(folder, 0o755)
    made = Cluster(folder, throw_away=True)
    made.start()
    yield made
    made.started_here = True
    made.stop()


def select_one(cluster: Cluster) -> int:
    with psycopg.connect(cluster.url("postgres").replace("+psycopg", "")) as connection:
        row = connection.execute("select 1").fetchone()
        assert row
        return int(row[0])


def test_the_application_signs_in_with_few_rights(cluster: Cluster) -> None:
    with psycopg.connect(cluster.url("postgres").replace("+psycopg", "")) as connection:
        rights = connection.execute(
            "select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname = current_user"
        ).fetchone()
    assert rights == (False, False, False)


def test_it_listens_on_loopback_only(cluster: Cluster) -> None:
    with psycopg.connect(cluster.owner_url("postgres").replace("+psycopg", "")) as connection:
        shown = [
            connection.execute(f"show {name}").fetchone() for name in ("listen_addresses", "unix_socket_directories")
        ]
    assert shown == [("127.0.0.1",), ("",)]


def test_a_second_launcher_uses_the_running_server(cluster: Cluster) -> None:
    again = Cluster(cluster._home)
    again.start()
    assert again.port == cluster.port
    assert not again.started_here
    assert select_one(again) == 1


def test_it_comes_up_after_a_kill(cluster: Cluster) -> None:
    pid = int((cluster._data / "postmaster.pid").read_text().splitlines()[0])
    os.kill(pid, signal.SIGKILL)
    time.sleep(0.5)
    again = Cluster(cluster._home)
    again.start()
    assert select_one(again) == 1
    cluster.port = again.port


def test_databases_are_made_once_dumped_and_restored(cluster: Cluster, tmp_path: Path) -> None:
    assert cluster.ensure_database("once")
    assert not cluster.ensure_database("once")
    url = cluster.owner_url("once").replace("+psycopg", "")
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("create table kept (n int)")
        connection.execute("insert into kept values (7)")
    cluster.dump("once", tmp_path / "records")
    cluster.ensure_database("again")
    cluster.restore("again", tmp_path / "records")
    with psycopg.connect(cluster.owner_url("again").replace("+psycopg", "")) as connection:
        assert connection.execute("select n from kept").fetchone() == (7,)
    with pytest.raises(LauncherError, match="restore failed"):
        cluster.restore("again", tmp_path / "nothing")


def test_a_taken_port_gives_another() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert free_port(port) != port
    assert free_port(port) == port


def test_data_folder_where_others_cannot_reach(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("BRINEFROST_DATA", str(tmp_path / "mine"))
    assert places.data_folder() == tmp_path / "mine"
    closed = tmp_path / "home"
    closed.mkdir(mode=0o700)
    assert not places._others_can_reach(closed)


def test_words_for_no_command_and_a_wrong_one(capsys: pytest.CaptureFixture[str]) -> None:
    assert main([]) == 0
    assert main(["dance"]) == 2
    assert "Usage: ./brinefrost" in capsys.readouterr().out
