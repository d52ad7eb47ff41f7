"""Where there is a formula, a function says its units, errors, valid range and source."""

import ast
import re
from pathlib import Path

import pytest

CORE = Path(__file__).parents[2] / "src" / "brinefrost" / "core"
SECTIONS = ("Parameters", "Returns", "Raises", "Notes", "References")
FORMULAE = ("physics", "chemistry", "microbes")
PLACES = [path for name in FORMULAE for path in sorted((CORE / name).glob("*.py"))]
SHORT = {
    # look-ups: a line says all there is
    "organisms", "organism", "vegetables", "vegetable", "water_kg", "rising_crossing", "in_range",
}  # fmt: skip


def documented() -> list[tuple[str, str]]:
    found = []
    for path in PLACES:
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_") and node.name not in SHORT:
                found.append((f"{path.name}:{node.name}", ast.get_docstring(node) or ""))
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
    for path in PLACES:
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
