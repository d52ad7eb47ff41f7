"""Saying what goes on, and running commands."""

import os
import subprocess
import sys
import time
from collections.abc import Sequence
from pathlib import Path

ALWAYS = {
    "PYTHONDONTWRITEBYTECODE": "",  # without compiled files every start takes seconds more
    "OPENBLAS_NUM_THREADS": "1",  # our matrices are small: threads cost more than they carry
}


class LauncherError(Exception):
    """Something that stops the launcher, with a sentence that says what to do."""


def say(text: str) -> None:
    """One line to the person."""
    print(f"  {text}", flush=True)


def run(
    command: Sequence[str | Path],
    what: str,
    cwd: Path | None = None,
    env: dict[str, str] | None = None,
    log: Path | None = None,
) -> None:
    """Run a command quietly; when it fails, show the end of what it said."""
    begun = time.monotonic()
    done = subprocess.run(
        [str(part) for part in command],
        cwd=cwd,
        env={**os.environ, **ALWAYS, **(env or {})},
        capture_output=True,
        text=True,
        check=False,
    )
    if log:
        log.write_text(done.stdout + done.stderr, encoding="utf-8")
    if done.returncode:
        tail = (done.stdout + done.stderr).strip()[-3000:]
        raise LauncherError(f"{what} failed:\n{tail}")
    say(f"{what}: done in {time.monotonic() - begun:.0f} s")


def pass_through(command: Sequence[str | Path], cwd: Path, env: dict[str, str] | None = None) -> int:
    """Run a command in full view; its exit code."""
    sys.stdout.flush()
    done = subprocess.run(
        [str(part) for part in command], cwd=cwd, env={**os.environ, **ALWAYS, **(env or {})}, check=False
    )
    return done.returncode
