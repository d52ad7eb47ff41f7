"""Writes the OpenAPI description. Run as ``python -m brinefrost.openapi PATH``."""

import json
import sys
from pathlib import Path

from brinefrost.main import Settings, create_app


def description() -> str:
    """The description as committed: sorted, indented."""
    app = create_app(Settings(database_url="postgresql+psycopg://nobody@127.0.0.1:1/none"))
    return json.dumps(app.openapi(), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(description(), encoding="utf-8")
