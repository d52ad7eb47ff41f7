"""A plan from a file and its proof as plain data, as another program asks for it."""

import json
from pathlib import Path

import pytest

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.report import report_of
from brinefrost.core.words import Manner, manner_of
from brinefrost.prove import main
from tests.core.test_cook_runs import dish

FORMAT_1 = Path(__file__).parents[1] / "data" / "plan-format-1.json"


def test_a_report_says_what_the_proof_says() -> None:
    plan = dish("carrot, egg-pooled@fold", "boil 97C 20mm 40min; mix:fold 10min; keep 3C 1d")
    report, proof = report_of(plan), prove(plan)
    assert (report.state, report.sentence) == (proof.state, proof.sentence)
    assert [q.state for q in report.questions] == [p.verdict.state for p in proof.limits] + [
        f.state for f in proof.findings
    ]
    assert {h.key for h in report.hazards} >= {"s-aureus", "listeria"}
    assert all(q.source for q in report.questions[: len(proof.limits)])


def test_a_report_speaks_the_language_and_units_of_its_reader() -> None:
    plan = dish("chicken-breast", "bag 57C 30mm 60min; keep 3C 1d")
    with manner_of(Manner(language="es", temperature="°F")):
        found = json.loads(report_of(plan).model_dump_json())
    assert "El proceso" in found["sentence"]
    assert "°F" in found["sentence"]
    assert found["questions"][1]["unit"] == "°C"  # numbers stay in the units that the data are in


def test_the_dish_of_the_format_s_own_page_comes_to_what_it_says() -> None:
    page = (Path(__file__).parents[2] / "docs" / "plan-format.md").read_text(encoding="utf-8")
    plan = Plan.model_validate_json(page.partition("```json")[2].partition("```")[0])
    assert report_of(plan).state == "advisory"
    assert not any("eggs leave" in q.sentence for q in report_of(plan).questions)


def test_what_cannot_be_walked_is_not_proved_and_says_why() -> None:
    report = report_of(Plan(name="Nothing yet"))
    assert report.state == "not_proved"
    assert "step" in report.sentence


@pytest.mark.parametrize(("text", "code"), [("{", 2), ("[]", 2), ('{"name": "X", "steps": [{"kind": "no"}]}', 2)])
def test_what_is_no_plan_is_named_by_its_place(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], text: str, code: int
) -> None:
    path = tmp_path / "plan.json"
    path.write_text(text, encoding="utf-8")
    assert main([str(path)]) == code
    assert str(path) in capsys.readouterr().err
    assert main([]) == 2
    assert main([str(tmp_path / "nowhere.json")]) == 2


def test_a_plan_of_format_1_is_read_from_its_file(capsys: pytest.CaptureFixture[str]) -> None:
    assert main([str(FORMAT_1)]) in (0, 1)
    found = json.loads(capsys.readouterr().out)
    assert found["format"] == "brinefrost-proof/1"
    assert found["state"] in ("meets", "departs", "not_proved", "fails")
