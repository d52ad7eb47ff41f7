"""Keeping the server and its PostgreSQL up: what dies is started again, at the same address."""

import os
import secrets
import signal
import subprocess
import time
from collections.abc import Callable
from pathlib import Path
from types import FrameType

from launcher.cluster import Cluster
from launcher.shell import LauncherError, say

MOST_RESTARTS = 5  # within a minute; then something is wrong that a restart does not mend
LOOK_EVERY_S = 1.0
ENOUGH_SILENCE = 3  # looks in a row without an answer


def ledger_key(folder: Path) -> str:
    """The key that seals the end of the ledger, made once and kept where only its owner can read it."""
    file = folder / "ledger.key"
    if not file.exists():
        folder.mkdir(parents=True, exist_ok=True)
        descriptor = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "w") as out:
            out.write(secrets.token_hex(32))
    return file.read_text().strip()


class Watch:
    """One server process, watched until somebody asks it to stop."""

    def __init__(self, start: Callable[[], subprocess.Popen[bytes]], cluster: Cluster) -> None:
        self._start, self._cluster = start, cluster
        self.asked = False
        self.server = start()
        signal.signal(signal.SIGTERM, self._ask)

    def _ask(self, _signal: int, _frame: FrameType | None) -> None:
        self.asked = True
        self.server.terminate()

    def run(self, again: Callable[[subprocess.Popen[bytes]], None]) -> int:
        """Wait; start again what died. Whoever is told ``again`` hears of every new process."""
        restarts: list[float] = []
        silent = 0
        while True:
            try:
                self.server.wait(LOOK_EVERY_S)
            except subprocess.TimeoutExpired:
                silent = 0 if self._cluster.answers() else silent + 1
                if silent >= ENOUGH_SILENCE and not self.asked:
                    say("PostgreSQL ended; starting it again")
                    self._cluster.start_again()
                    silent = 0
                continue
            if self.asked:
                return 0
            now = time.monotonic()
            restarts = [at for at in restarts if now - at < 60] + [now]
            if len(restarts) > MOST_RESTARTS:
                raise LauncherError(f"The server ended {len(restarts)} times within a minute. Its message is above.")
            say("The server ended; starting it again")
            self.server = self._start()
            again(self.server)

    def stop(self) -> None:
        """End the server, if it runs."""
        if self.server.poll() is None:
            self.server.terminate()
            self.server.wait(20)
