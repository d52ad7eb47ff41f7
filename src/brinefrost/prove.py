"""``./brinefrost prove FILE``: a plan from a file, its proof as JSON on the screen. Nothing is kept."""

import sys
from pathlib import Path

from pydantic import ValidationError

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.report import report_of

MOST_BYTES = 1_000_000


def _say(sentence: str) -> None:
    sys.stderr.write(sentence + "\n")


def main(arguments: list[str]) -> int:
    """Print the report of a plan; 0 if it meets, with an advisory too, or departs; 1 if not; 2 where it is no plan."""
    if len(arguments) != 1:
        _say("Name one file: ./brinefrost prove FILE")
        return 2
    path = Path(arguments[0])
    try:
        if path.stat().st_size > MOST_BYTES:
            _say(f"{path} is larger than a plan can be: {MOST_BYTES // 1000:,} kB at most.")
            return 2
        plan = Plan.model_validate_json(path.read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError) as error:
        _say(f"{path} cannot be read: {error}. Name a plan as JSON.")
        return 2
    except ValidationError as error:
        for each in error.errors():
            _say(f"{path}: {'.'.join(map(str, each['loc'])) or 'the plan'}: {each['msg']}")
        return 2
    report = report_of(plan)
    sys.stdout.write(report.model_dump_json(indent=2) + "\n")
    return 0 if report.state in ("meets", "advisory", "departs") else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
