"""The front end's own tests, run from here so that one command runs everything."""

import os
import shutil
import subprocess
from pathlib import Path

import pytest

WEB = Path(__file__).parents[2] / "web"


def test_front_end_units() -> None:
    npm = os.environ.get("BRINEFROST_NPM", shutil.which("npm") or "").split()
    if not npm:
        pytest.fail("There is no npm: run the tests with ./brinefrost test.")
    done = subprocess.run([*npm, "run", "-s", "test"], cwd=WEB, capture_output=True, text=True, check=False)  # noqa: S603
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-1000:]
