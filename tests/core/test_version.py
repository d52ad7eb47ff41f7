"""One version, in one place, and the changelog's newest heading bears it."""

import re
from pathlib import Path

import brinefrost

ROOT = Path(__file__).parents[2]


def test_the_newest_heading_of_the_changelog_is_the_version() -> None:
    headings = re.findall(r"^## \[?(\d+\.\d+\.\d+)", (ROOT / "CHANGELOG.md").read_text(encoding="utf-8"), re.M)
    assert headings[0] == brinefrost.__version__
    assert 'dynamic = ["version"]' in (ROOT / "pyproject.toml").read_text(encoding="utf-8")
