"""The watcher: it never gives a server up, and takes up one whose launcher was killed. What it may be started with."""

import os
import signal
import subprocess
import sys
from pathlib import Path
from typing import cast

import pytest

from launcher import watch as watching
from launcher.cluster import Cluster
from launcher.serving import read_options
from launcher.shell import LauncherError
from launcher.watch import Orphan, Watch


class Answering:
    """A cluster that is well."""

    def answers(self) -> bool:
        return True


@pytest.fixture(autouse=True)
def handlers() -> object:
    before = signal.getsignal(signal.SIGTERM)
    yield
    signal.signal(signal.SIGTERM, before)


def sleeping(seconds: float) -> subprocess.Popen[bytes]:
    return subprocess.Popen([sys.executable, "-c", f"import time; time.sleep({seconds})"])


def test_a_server_that_keeps_dying_is_never_given_up(monkeypatch: pytest.MonkeyPatch) -> None:
    waits: list[float] = []
    started: list[subprocess.Popen[bytes]] = []

    def start() -> subprocess.Popen[bytes]:
        started.append(sleeping(0 if len(started) < 9 else 60))
        return started[-1]

    watch = Watch(start, cast(Cluster, Answering()))
    monkeypatch.setattr(watch, "_rest", lambda seconds: waits.append(seconds))

    def again(server: object) -> None:
        if len(started) == 10:
            os.kill(os.getpid(), signal.SIGTERM)  # somebody stops it at last

    assert watch.run(again) == 0
    assert waits == [1, 2, 4, 8, 16, 32, 60, 60, 60]
    assert started[-1].poll() is not None


def test_a_server_without_its_launcher_is_taken_up(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(watching, "LOOK_EVERY_S", 0.1)
    orphan = sleeping(60)
    started: list[subprocess.Popen[bytes]] = []

    def start() -> subprocess.Popen[bytes]:
        started.append(sleeping(60))
        return started[-1]

    def meanwhile() -> None:
        if not started and orphan.poll() is None:
            orphan.kill()
            orphan.wait()

    watch = Watch(start, cast(Cluster, Answering()), meanwhile, Orphan(orphan.pid))
    assert watch.server.pid == orphan.pid
    monkeypatch.setattr(watch, "_rest", lambda seconds: False)
    assert watch.run(lambda server: os.kill(os.getpid(), signal.SIGTERM)) == 0
    assert len(started) == 1


def test_it_listens_here_alone_unless_it_is_told_otherwise() -> None:
    options = read_options([])
    assert options.listen == "127.0.0.1"
    assert options.alone
    assert options.shown_address(8717) == ""
    assert options.hosts() == ["127.0.0.1", "localhost"]


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["--listen", "192.0.2.10"], "in the clear"),
        (["--listen", "pass.kitchen"], "no address to listen on"),
        (["--certificate", "x.pem"], "both"),
        (["--certificate", "x.pem", "--private-key", "y.pem"], "no file"),
    ],
)
def test_passwords_never_go_in_the_clear(arguments: list[str], said: str) -> None:
    with pytest.raises(LauncherError, match=said):
        read_options(arguments)


def test_with_a_certificate_tablets_reach_it_by_name(tmp_path: Path) -> None:
    for name in ("c.pem", "k.pem"):
        (tmp_path / name).touch()
    secured = ["--certificate", str(tmp_path / "c.pem"), "--private-key", str(tmp_path / "k.pem")]
    everywhere = "0.0.0.0"  # noqa: S104 (nothing listens: only read)
    options = read_options(["--listen", everywhere, "--name", "pass.kitchen", *secured])
    assert options.shown_address(8717) == "https://pass.kitchen:8717"
    assert "pass.kitchen" in options.hosts()
    assert options.probe_host() == "127.0.0.1"
    proxied = read_options(["--behind-proxy", "--name", "pass.kitchen"])
    assert proxied.shown_address(8717) == "https://pass.kitchen"
    assert proxied.alone
