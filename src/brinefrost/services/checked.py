"""What came of the last integrity check that ran by itself: the launcher asks for one a day, and keeps it in a file."""

import json
from pathlib import Path
from typing import Any

from brinefrost.store.kitchens import kitchen_here


class Checked:
    """The file that ``brinefrost.verify`` writes."""

    def __init__(self, file: Path | None) -> None:
        self._file = file

    def last(self) -> Any:
        """What it found of the kitchen at hand, as it was written; None where it has not run yet."""
        if self._file is None:
            return None
        try:
            return json.loads(self._file.read_text(encoding="utf-8"))[kitchen_here()]
        except (OSError, ValueError, KeyError, TypeError):
            return None
