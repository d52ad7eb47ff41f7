"""What is shipped as words is in the catalogue: no plain English in the code, none in what a cook reads."""

import ast
import re
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import pytest

import brinefrost
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.templates import template
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.words import LANGUAGES, Manner, Message, manner_of, message, said
from brinefrost.core.words.catalogue import texts
from brinefrost.core.words.render import known
from tests.core.test_languages import DISHES, START, half_way
from tests.core.test_step_kinds import ready

ROOT = Path(brinefrost.__file__).parent
PARTS = ("core", "services", "api", "reports", "store")
# the catalogue itself, the console's dialogue, SQL
APART = ("core/words/", "services/setup.py", "services/new_password.py", "store/migrat")
SENTENCE = re.compile(r"[A-Za-z]{2,} [a-z]{2,}|[a-z]{3,}[.!?]( |$)")
# what is read by programs, or cites: no words of ours
READ_BY_PROGRAMS = {
    "say", "compile", "text", "getLogger", "Source", "field", "execute", "TypeError", "ValueError", "info", "warning",
    "exception", "prepared", "of_kitchen",
}  # fmt: skip
DOCUMENTED = ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef
OF_PROGRAMS = {"citation", "pattern", "paper", "description"}


def aside(tree: ast.AST) -> Iterator[ast.AST]:
    """What of a source is no text for people: docstrings, codes, keys, annotations, what goes to a program."""
    for node in ast.walk(tree):
        if (
            isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef)
            and ast.get_docstring(node) is not None
        ):
            yield node.body[0]
        elif isinstance(node, ast.keyword) and node.arg in OF_PROGRAMS:
            yield node.value
        elif isinstance(node, ast.Call) and ast.unparse(node.func).rpartition(".")[2] in READ_BY_PROGRAMS:
            yield from node.args
        elif isinstance(node, ast.Subscript):
            yield node.slice
        elif isinstance(node, ast.AnnAssign):
            yield node.annotation
        elif isinstance(node, ast.Compare):
            yield node
        elif isinstance(node, ast.Dict):
            yield from (key for key in node.keys if key is not None)


def plain_sentences(path: Path) -> list[tuple[str, int, str]]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    skipped = {id(inner) for node in aside(tree) for inner in ast.walk(node)}
    return [
        (path.name, node.lineno, node.value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in skipped
        if SENTENCE.search(node.value)
    ]


ALLOWED = re.compile(
    r"^(Brinefrost|default-src|camera=|attachment; |text/csv|event: |: |Value error, |-c | -c |id, name, "
    r"|logger file$|This kitchen$|Common practice, no source$|The kitchen's own, by common practice$"
    r"|<font |(heat|cook)\.$)"
)


def test_no_sentence_is_written_past_the_catalogue() -> None:
    found = [
        each
        for part in PARTS
        for path in sorted((ROOT / part).rglob("*.py"))
        if not path.relative_to(ROOT).as_posix().startswith(APART)
        for each in plain_sentences(path)
        if not ALLOWED.match(each[2]) and not re.match(r"\s*(select|insert|update|delete|grant|set) ", each[2], re.I)
    ]
    assert not found


@pytest.fixture
def plain(monkeypatch: pytest.MonkeyPatch) -> set[str]:
    """The texts in English letters that somebody read as they were, since no code says them."""
    found: set[str] = set()
    turn = message.said

    def noted(text: str) -> str:
        if not isinstance(text, Message) and known(text) is None and re.search(r"[a-z]{3,}", text):
            found.add(text)
        return turn(text)

    monkeypatch.setattr(message, "said", noted)
    return found


@pytest.mark.parametrize("key", DISHES)
def test_nothing_of_a_dish_is_said_in_no_code(key: str, plain: set[str]) -> None:
    """Every step, check, limit, verdict and sheet: but for what the kitchen named, and for what is cited."""
    plan = ready(template(key).plan(template(key).name, RULE_SET_IDS[DISHES.index(key) % 4]))
    named = {plan.name, *(step.name for step in plan.steps), *(item.name for item in plan.ingredients)}
    with manner_of(Manner("es")):
        for seen in range(len(plan.steps)):
            batch, now = half_way(plan, seen), START + timedelta(hours=2 * seen + 1)
            judgement = judge(batch, now)
            for each in (*judgement.statuses, *checks_of(batch, now), sheet_of_batch(batch, judgement, now)):
                each.model_dump(mode="json")
    assert not plain - named


@pytest.mark.parametrize("language", [each for each in LANGUAGES if each != "en"])
def test_what_is_read_off_an_instrument_has_a_name_in_every_language(language: str) -> None:
    with manner_of(Manner(language)):
        told = {said(info.noun) for info in QUANTITIES.values()} | {said(info.name) for info in QUANTITIES.values()}
    assert not told & {str(info.noun) for info in QUANTITIES.values() if info.key not in ("ph", "bath")}


@pytest.mark.parametrize("language", [each for each in LANGUAGES if each != "en"])
def test_every_ingredient_of_the_catalogue_has_a_name_in_every_language(language: str) -> None:
    wanted = {f"law.ingredients.{item.key.replace('-', '_')}_name": item.name for item in catalogue().ingredients}
    assert {code: texts("en").get(code) for code in wanted} == wanted
    assert not set(wanted) - set(texts(language))
