"""Public core functions say their units, errors, valid range and source."""

import ast
import re
from pathlib import Path

import pytest

CORE = Path(__file__).parents[2] / "src" / "brinefrost" / "core"
SECTIONS = ("Parameters", "Returns", "Raises", "Notes", "References")
# functions of the physics and the judges: those that turn numbers into numbers or verdicts
PLACES = [
    *sorted((CORE / "physics").glob("*.py")),
    *sorted((CORE / "limits").glob("*.py")),
    *sorted((CORE / "chemistry").glob("*.py")),
    *sorted((CORE / "microbes").glob("*.py")),
    *sorted((CORE / "kitchen").glob("*.py")),
    *sorted((CORE / "bench").glob("*.py")),
    CORE / "rules" / "layers.py",
    CORE / "traces" / "spikes.py",
    CORE / "roots.py",
    CORE / "quantity.py",
    CORE / "readings.py",
    CORE / "plans" / "decisions.py",
    CORE / "runs" / "schedule.py",
]
SHORT = {
    "rising_crossing", "number", "worst", "in_range", "path_of", "expected_length_s", "blocks_of", "state_of",
    # look-ups: a line says all there is
    "organisms", "organism", "vegetables", "vegetable", "water_kg", "species", "species_of", "white_state",
    "yolk_state", "unproved", "unread", "topic_of", "lines_of", "last_fall", "fall_words", "may_be_rare", "cook_fix",
    "quality_until", "missed_checks",
}  # fmt: skip


def documented() -> list[tuple[str, str]]:
    found = []
    for path in PLACES:
        for node in ast.parse(path.read_text()).body:
            if path.parent.name == "bench" and not getattr(node, "name", "").startswith("answer_"):
                continue  # the parts an answer is put together from: a line says all there is
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_") and node.name not in SHORT:
                found.append((f"{path.name}:{node.name}", ast.get_docstring(node) or ""))
            if isinstance(node, ast.ClassDef):
                found += [
                    (f"{path.name}:{node.name}.evaluate", ast.get_docstring(inner) or "")
                    for inner in node.body
                    if isinstance(inner, ast.FunctionDef) and inner.name == "evaluate"
                ]
    return found


@pytest.mark.parametrize(("name", "text"), documented())
def test_docstring_is_whole(name: str, text: str) -> None:
    for section in SECTIONS:
        assert re.search(rf"^{section}\n-+$", text, re.M), f"{name} lacks {section}"
    assert "alid" in text.split("Notes")[1], f"{name} does not give its valid range"


NUMBERS = re.compile(r"\b(float|Array)\b")


def numeric() -> list[tuple[str, str]]:
    """Every public function and method of the core that takes or gives numbers and is not written out at length."""
    found = []
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.parse(path.read_text()).body:
            if getattr(node, "name", "_").startswith("_"):
                continue
            owner = f"{node.name}." if isinstance(node, ast.ClassDef) else ""
            inside = node.body if isinstance(node, ast.ClassDef) else [node]
            for each in inside:
                if not isinstance(each, ast.FunctionDef) or each.name.startswith("_") or each.name == "explain":
                    continue
                signature = ast.unparse(each.args) + ast.unparse(each.returns or ast.Constant(None))
                text = ast.get_docstring(each) or ""
                if NUMBERS.search(signature) and "Parameters\n" not in text:
                    found.append((f"{path.relative_to(CORE)}:{owner}{each.name}", text))
    return found


@pytest.mark.parametrize(("name", "text"), numeric())
def test_short_docstring_gives_unit_and_validity(name: str, text: str) -> None:
    assert re.search(r"\[[^\]]+\]", text), f"{name} gives no unit"
    assert "Valid" in text, f"{name} does not say where it is valid"
