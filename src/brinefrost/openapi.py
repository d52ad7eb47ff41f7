"""Writes the descriptions that are committed. Run as ``python -m brinefrost.openapi FOLDER``."""

import json
import sys
from pathlib import Path
from typing import Any

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.report import ProofReport
from brinefrost.main import Settings, create_app


def descriptions() -> dict[str, dict[str, Any]]:
    """By file name: the interface, the format of a plan, and what a proof comes to."""
    app = create_app(Settings(database_url="postgresql+psycopg://nobody@127.0.0.1:1/none"))
    return {
        "openapi.json": app.openapi(),
        "plan.schema.json": Plan.model_json_schema(),
        "proof.schema.json": ProofReport.model_json_schema(),
    }


def to_text(description: dict[str, Any]) -> str:
    """A description as committed: sorted, indented."""
    return json.dumps(description, indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    for name, found in descriptions().items():
        (Path(sys.argv[1]) / name).write_text(to_text(found), encoding="utf-8")
