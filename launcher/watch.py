"""Keeping the server and its PostgreSQL up: what dies is started again, at the same address, and never given up."""

import os
import secrets
import signal
import subprocess
import time
from collections.abc import Callable
from pathlib import Path
from types import FrameType
from typing import Protocol

from launcher.cluster import Cluster
from launcher.shell import LauncherError, say

LOOK_EVERY_S = 1.0
ENOUGH_SILENCE = 3  # looks in a row without an answer
CALM_S = 60.0  # a server that ran so long has come up well: the next start is at once again
LONGEST_WAIT_S = 60.0  # between two starts of one that keeps dying


def ledger_key(folder: Path) -> str:
    """The key that seals the end of the ledger, made once and kept where only its owner can read it."""
    file = folder / "ledger.key"
    if not file.exists():
        folder.mkdir(parents=True, exist_ok=True)
        descriptor = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "w") as out:
            out.write(secrets.token_hex(32))
    return file.read_text().strip()


class Server(Protocol):
    """What is watched: a process of one's own, or one whose launcher was killed."""

    pid: int

    def wait(self, timeout: float | None = None) -> int:
        """Until it ends; raises TimeoutExpired."""

    def poll(self) -> int | None:
        """None while it runs."""

    def terminate(self) -> None:
        """Ask it to end."""


class Orphan:
    """A server that goes on though its launcher was killed: nobody's child, known by its number."""

    def __init__(self, pid: int) -> None:
        self.pid = pid

    def poll(self) -> int | None:
        """None while it runs."""
        try:
            os.kill(self.pid, 0)
        except ProcessLookupError:
            return 0
        return None

    def wait(self, timeout: float | None = None) -> int:
        """Until it ends."""
        until = time.monotonic() + (timeout or LONGEST_WAIT_S)
        while self.poll() is None:
            if time.monotonic() > until:
                raise subprocess.TimeoutExpired("server", timeout or LONGEST_WAIT_S)
            time.sleep(0.1)
        return 0

    def terminate(self) -> None:
        """Ask it to end."""
        os.kill(self.pid, signal.SIGTERM)


class Watch:
    """One server process, watched until somebody asks it to stop."""

    def __init__(
        self,
        start: Callable[[], subprocess.Popen[bytes]],
        cluster: Cluster,
        meanwhile: Callable[[], None] = lambda: None,
        running: Orphan | None = None,
    ) -> None:
        """``meanwhile`` is called at every look; ``running`` is taken up instead of starting one."""
        self._start, self._cluster, self._meanwhile = start, cluster, meanwhile
        self.asked = False
        self.server: Server = running or start()
        signal.signal(signal.SIGTERM, self._ask)

    def _ask(self, _signal: int, _frame: FrameType | None) -> None:
        self.asked = True
        self.server.terminate()

    def run(self, again: Callable[[Server], None]) -> int:
        """Wait; start again what died, after a longer wait each time it dies young, and never give it up.

        Whoever is told ``again`` hears of every new process.
        """
        silent, wait_s, begun = 0, 0.0, time.monotonic()
        while True:
            self._meanwhile()
            try:
                self.server.wait(LOOK_EVERY_S)
            except subprocess.TimeoutExpired:
                silent = 0 if self._cluster.answers() else silent + 1
                if silent >= ENOUGH_SILENCE and not self.asked:
                    self._wake_cluster()
                    silent = 0
                continue
            if self.asked:
                return 0
            wait_s = 0.0 if time.monotonic() - begun > CALM_S else min(max(2 * wait_s, 1.0), LONGEST_WAIT_S)
            after = f" in {wait_s:.0f} s" if wait_s else ""
            say(f"The server ended; starting it again{after}")
            if self._rest(wait_s):
                return 0
            self.server, begun = self._start(), time.monotonic()
            again(self.server)

    def _wake_cluster(self) -> None:
        say("PostgreSQL does not answer; looking after it")
        try:
            self._cluster.start_again()
        except LauncherError as error:
            say(f"{error} Trying again in a moment.")

    def _rest(self, seconds: float) -> bool:
        """Wait; whether it was asked to stop meanwhile."""
        until = time.monotonic() + seconds
        while time.monotonic() < until and not self.asked:
            time.sleep(min(LOOK_EVERY_S, seconds))
        return self.asked

    def stop(self) -> None:
        """End the server, if it runs."""
        if self.server.poll() is None:
            self.server.terminate()
            self.server.wait(20)
