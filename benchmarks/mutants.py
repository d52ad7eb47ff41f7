"""Single changes made at random in the core, and which of them the tests find.

Run with ``python -m benchmarks.mutants --count 100 --seed 1``: it works on a copy of the tree and changes nothing here.
With pytest-cov installed (requirements/references.in) it first learns which test file reaches which line, and then asks
of a change only those that do; without it, those that name its module, then all others.
The core's own recorded output does not count, so the files that compare with it are left out. A change that nothing
finds is printed with its place: either a check is missing, or it makes no difference.
"""

import argparse
import ast
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from importlib import import_module
from importlib.util import find_spec
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
CORE = Path("src/brinefrost/core")
RECORDED = ("test_proof_golden.py",)  # the core's own output, not what is true
DATA = ("rules/*.toml", "microbes/*.toml", "food/media.toml", "kitchen/species.toml")
LEFT_OUT = ("words", "plans/templates")  # texts and examples
SWAPPED: dict[type[ast.AST], str] = {
    ast.Lt: "<=", ast.LtE: "<", ast.Gt: ">=", ast.GtE: ">", ast.Eq: "!=", ast.NotEq: "==",
    ast.Add: "-", ast.Sub: "+", ast.Mult: "/", ast.Div: "*", ast.And: "or", ast.Or: "and",
}  # fmt: skip
WRITTEN: dict[type[ast.AST], str] = {
    ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=", ast.Eq: "==", ast.NotEq: "!=",
    ast.Add: "+", ast.Sub: "-", ast.Mult: "*", ast.Div: "/", ast.And: "and", ast.Or: "or",
}  # fmt: skip
NUMBER = re.compile(r"(?<![\w.\"])-?\d+(?:\.\d+)?(?:e-?\d+)?(?![\w.\"])")
LONGEST_S = 1500.0
PYTEST = [sys.executable, "-m", "pytest", "-q", "-m", "not slow", "-p", "no:cacheprovider"]
Reached = dict[tuple[str, int], list[str]]  # by file and line: test files


@dataclass(frozen=True)
class Mutant:
    """One change: a stretch of a file and what is put in its place."""

    path: Path
    begin: int
    end: int
    new: str

    def told(self, text: str) -> str:
        """Where and what, for a person."""
        line = text.count("\n", 0, self.begin) + 1
        return f"{self.path}:{line}: {text[self.begin : self.end]!r} -> {self.new!r}"


def find_mutants(root: Path) -> list[Mutant]:
    """Every single change that could be made."""
    core = root / CORE
    code = [path for path in sorted(core.rglob("*.py")) if not _is_left_out(path.relative_to(core))]
    data = [path for pattern in DATA for path in sorted(core.glob(pattern))]
    return [each for path in code for each in _in_code(path)] + [each for path in data for each in _in_data(path)]


def _is_left_out(path: Path) -> bool:
    return any(path.as_posix().startswith(each) for each in LEFT_OUT)


def _in_code(path: Path) -> Iterator[Mutant]:
    text = path.read_text(encoding="utf-8")
    starts = [0, *(found.end() for found in re.finditer("\n", text))]

    def at(line: int, column: int) -> int:
        row = text[starts[line - 1] :].split("\n", 1)[0]
        return starts[line - 1] + len(row.encode()[:column].decode())

    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Constant) and _is_number(node.value):
            begin, end = at(node.lineno, node.col_offset), at(node.end_lineno or 0, node.end_col_offset or 0)
            yield Mutant(
                path,
                begin,
                end,
                _moved(float(str(node.value)) if isinstance(node.value, float) else int(str(node.value))),
            )
        for between, kind in _operators(node):
            left, right = between
            begin = at(left.end_lineno or 0, left.end_col_offset or 0)
            end = at(right.lineno, right.col_offset)
            place = text.find(WRITTEN[kind], begin, end)
            if place >= 0:
                yield Mutant(path, place, place + len(WRITTEN[kind]), SWAPPED[kind])


def _operators(node: ast.AST) -> Iterator[tuple[tuple[ast.expr, ast.expr], type[ast.AST]]]:
    if isinstance(node, ast.Compare) and type(node.ops[0]) in SWAPPED:
        yield (node.left, node.comparators[0]), type(node.ops[0])
    if isinstance(node, ast.BinOp) and type(node.op) in SWAPPED:
        yield (node.left, node.right), type(node.op)
    if isinstance(node, ast.BoolOp):
        yield (node.values[0], node.values[1]), type(node.op)


def _in_data(path: Path) -> Iterator[Mutant]:
    text = path.read_text(encoding="utf-8")
    for found in NUMBER.finditer(text):
        line = text[text.rfind("\n", 0, found.start()) + 1 : found.end()]
        if line.count('"') % 2 == 0 and not line.lstrip().startswith("#"):
            yield Mutant(path, found.start(), found.end(), _moved(float(found.group())))


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _moved(value: float) -> str:
    """A number a tenth larger, or one more where it is small and whole."""
    if isinstance(value, int) or float(value).is_integer():
        return str(int(value) + max(1, abs(int(value)) // 10))
    return repr(value * 1.1)


def is_found(copy: Path, mutant: Mutant, text: str, reached: Reached) -> bool:
    """Whether a test fails with the change made: those that reach it, or else those that name its module first."""
    path = copy / mutant.path.relative_to(ROOT)
    path.write_text(text[: mutant.begin] + mutant.new + text[mutant.end :], encoding="utf-8")
    line = text.count("\n", 0, mutant.begin) + 1
    asked = reached.get((str(path), line), [])
    near, other = _ordered(copy, path)
    ways = ([each for each in asked if each in near], [each for each in asked if each not in near])
    if not any(ways):  # a line that runs as it is imported, or a table
        ways = (near, other)
    try:
        return any(_fails(copy, tests) for tests in ways if tests)
    finally:
        path.write_text(text, encoding="utf-8")


def find_reached(copy: Path) -> Reached:
    """By file and line of the core: the test files that run it, the quickest first; nothing without pytest-cov."""
    if find_spec("coverage") is None:
        return {}
    coverage = import_module("coverage")  # installed by hand, so that no check may ask for its types
    with ThreadPoolExecutor(2) as pool:
        took = dict(zip(files := _files(copy), pool.map(lambda file: _measure(copy, file), files), strict=True))
    found: Reached = {}
    for file in sorted(files, key=took.__getitem__):
        data = coverage.CoverageData(basename=str(_covered(copy, file)))
        data.read()
        for source in data.measured_files():
            for line in data.lines(source) or ():
                found.setdefault((source, line), []).append(file)
    return found


def _measure(copy: Path, file: str) -> float:
    """Run one test file and keep what it reached; how long it took [s]."""
    began = time.monotonic()
    command = [*PYTEST, f"--cov={copy / CORE}", "--cov-report=", file]
    environment = _environment(copy) | {"COVERAGE_FILE": str(_covered(copy, file))}
    subprocess.run(command, cwd=copy, env=environment, capture_output=True, check=False)
    return time.monotonic() - began


def _covered(copy: Path, file: str) -> Path:
    return copy / f".covered-{Path(file).stem}"


def _files(copy: Path) -> list[str]:
    return [str(each) for each in sorted((copy / "tests/core").glob("test_*.py")) if each.name not in RECORDED]


def _environment(copy: Path) -> dict[str, str]:
    return os.environ | {"PYTHONPATH": str(copy / "src"), "PYTHONDONTWRITEBYTECODE": "1"}


def _ordered(copy: Path, path: Path) -> tuple[list[str], list[str]]:
    """Test files: those that import the module or its folder's name, then all others."""
    module = path.relative_to(copy / "src").with_suffix("").as_posix().replace("/", ".")
    files = _files(copy)
    near = [each for each in files if module in Path(each).read_text(encoding="utf-8") or path.stem in Path(each).stem]
    return near, [each for each in files if each not in near]


def _fails(copy: Path, tests: list[str]) -> bool:
    command = [*PYTEST, "-x", "-n", "2", *tests]
    environment = _environment(copy)
    try:
        done = subprocess.run(command, cwd=copy, env=environment, capture_output=True, timeout=LONGEST_S, check=False)
    except subprocess.TimeoutExpired:
        return True  # it never ends: that is noticed
    return done.returncode not in (0, 5)


def main() -> None:
    """Make some changes, one after another, and print which were found."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=20)
    asked.add_argument("--seed", type=int, default=1)
    given = asked.parse_args()
    known = find_mutants(ROOT)
    places = np.random.default_rng(given.seed).choice(len(known), given.count, replace=False)
    chosen = [known[place] for place in places]
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "tree"
        shutil.copytree(ROOT, copy, ignore=shutil.ignore_patterns(".git", ".venv", "node_modules", "__pycache__"))
        reached, found = find_reached(copy), 0
        for n, mutant in enumerate(chosen, start=1):
            text, began = mutant.path.read_text(encoding="utf-8"), time.monotonic()
            is_so = is_found(copy, mutant, text, reached)
            found += is_so
            state = "found   " if is_so else "SURVIVED"
            told = mutant.told(text).replace(f"{ROOT}/", "")
            print(f"{n:3} {state} {time.monotonic() - began:5.0f} s  {told}", flush=True)
        print(f"{found} of {len(chosen)} found.")


if __name__ == "__main__":
    main()
