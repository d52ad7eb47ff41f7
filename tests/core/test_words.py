"""Codes and words: one for the other, the same parameters in every language, and numbers that stay what they are."""

import ast
import re
import tomllib
from collections import defaultdict
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from pydantic import TypeAdapter, ValidationError

from brinefrost.core.bench.families import FAMILIES, answer, presets
from brinefrost.core.fields import specs_of
from brinefrost.core.limits import Hold, Limit, Series
from brinefrost.core.plans.document import Plan, canonical
from brinefrost.core.plans.templates import template
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set
from brinefrost.core.steps import KINDS
from brinefrost.core.words import (
    LANGUAGES,
    OWN_TITLES,
    STORED,
    Manner,
    Message,
    amount,
    apart,
    bare,
    bound,
    diff,
    duration,
    joined,
    legal,
    manner_of,
    mm,
    packed,
    restored,
    said,
    say,
    temp,
    title_of_own,
    unpacked,
)
from brinefrost.core.words.catalogue import template_of, texts
from brinefrost.core.words.render import known
from brinefrost.core.working import Source
from tests.core.test_step_kinds import ready
from tests.kitchen import thigh_plan

ROOT = Path(__file__).parents[2] / "src" / "brinefrost"
SLOT = re.compile(r"\{\{([^{}]+)\}\}")
NAME = re.compile(r"[a-z_][a-z_0-9]*$")
OTHERS = [language for language in LANGUAGES if language != "en"]
ODD = Manner(temperature="°F", length="in", mass="oz")


@cache
def calls() -> dict[str, list[set[str]]]:
    """Every code said anywhere, with the names of its parameters at each place."""
    found: dict[str, list[set[str]]] = defaultdict(list)
    for path in ROOT.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "say"):
                continue
            first, given = node.args[0], {word.arg for word in node.keywords if word.arg}
            if isinstance(first, ast.Constant):
                found[str(first.value)].append(given)
            elif isinstance(first, ast.JoinedStr):  # a family of codes: services.views.closed_{decision}
                stem = "".join(str(part.value) for part in first.values if isinstance(part, ast.Constant))
                for code in texts("en"):
                    if code.startswith(stem):
                        found[code].append(given)
    return found


def names(text: str) -> set[str]:
    """The parameters a text needs."""
    return {slot for slot in SLOT.findall(text) if NAME.match(slot)}


def plain(code: str) -> str:
    """A code without the ending of its plural."""
    return re.sub(r"_(one|other)$", "", code) if code not in calls() else code


def test_no_code_without_words_and_no_words_without_code() -> None:
    english = texts("en")
    codes = {code if code in english else f"{code}_other" for code in calls()}
    assert not sorted(codes - set(english))
    spoken = {code for code in english if not code.startswith(("law.", "units.", "words.", "paper.fields."))}
    assert not sorted(code for code in spoken if plain(code) not in calls())


def test_every_parameter_is_given_and_none_is_idle() -> None:
    english = texts("en")
    wrong = [
        (code, given ^ names(english[code]))
        for code, places in calls().items()
        for given in places
        if code in english and given != names(english[code])
    ]
    assert not wrong


@pytest.mark.parametrize("language", OTHERS)
def test_every_code_has_words_in_every_language(language: str) -> None:
    mine = texts(language)
    worded = re.compile(r"[^\W\d_]{2,}")
    owed = [code for code, text in texts("en").items() if worded.search(SLOT.sub("", text))]
    if language == "zh":  # which has one form for any number
        owed = [code for code in owed if not code.endswith("_one")]
    assert not [code for code in owed if code not in mine]


@pytest.mark.parametrize("language", OTHERS)
def test_parameters_and_legal_numbers_are_equal_in_every_language(language: str) -> None:
    english = texts("en")
    for code, text in texts(language).items():
        assert code in english, code
        assert sorted(set(SLOT.findall(text))) == sorted(set(SLOT.findall(english[code]))), code


def law_texts() -> list[str]:
    """Titles and names of the rule sets and templates, as their files write them."""
    found: list[str] = []

    def walk(node: Any, key: str) -> None:
        if isinstance(node, dict):
            for inner, value in node.items():
                if inner not in ("source", "model"):
                    walk(value, inner)
        elif isinstance(node, list):
            for value in node:
                walk(value, key)
        elif isinstance(node, str) and key in ("title", "school", "qualifier", "approval", "about"):
            found.append(node)

    for path in [*(ROOT / "core" / "rules").glob("*.toml"), *(ROOT / "core" / "plans").rglob("*.toml")]:
        walk(tomllib.loads(path.read_text(encoding="utf-8")), "")
    return found


def test_every_title_of_the_law_has_words() -> None:
    titles = law_texts()
    assert len(titles) > 150
    assert not [title for title in titles if " " in title and known(title) is None]


def test_every_setting_of_a_step_has_a_name_on_paper() -> None:
    specs = [spec for kind in KINDS.values() for spec in specs_of(kind.settings)]
    named = {spec.plain_name() for spec in specs if spec.name not in ("id", "name", "kind")}
    assert named == {text for code, text in texts("en").items() if code.startswith("paper.fields.")}


@pytest.mark.parametrize(
    ("made", "house", "own"),
    [
        (temp(62.84), "62.8 °C", "145.1 °F"),
        (temp(21), "21 °C", "69.8 °F"),  # measured: converted exactly
        (legal(21), "21 °C", "70 °F"),  # FDA Food Code 2022, 3-501.14: 21 °C (70 °F)
        (legal(57), "57 °C", "135 °F"),  # FDA Food Code 2022, 3-501.16: 57 °C (135 °F)
        (legal(54.4), "54.4 °C", "130 °F"),  # FSIS Appendix A: 130 °F
        (legal(63), "63 °C", "145.4 °F"),  # UK and EU set it in °C: no other number
        (diff(0.5), "0.5 K", "0.9 °F"),
        (apart(0.5, "°C"), "0.5 °C", "0.9 °F"),
        (bound(5, "°C"), "5 °C", "41 °F"),
        (amount(4.55, "pH"), "pH 4.55", "pH 4.55"),
        (apart(0.05, "pH"), "0.05 pH", "0.05 pH"),
        (mm(25.4), "25.4 mm", "1 in"),
        (bare(temp(5, "g")), "5", "41"),
        (duration(4800), "1 h 20 min", "1 h 20 min"),
    ],
)
def test_a_number_is_said_by_its_kind(made: Message, house: str, own: str) -> None:
    assert made == house
    with manner_of(ODD):
        assert said(made) == own


def test_the_decimal_mark_and_the_words_are_the_persons() -> None:
    limit = Hold(id="x", title="x", source=Source(citation="x", tag="derived"), at_least_c=74, for_s=0)
    found = limit.evaluate(Series.of(74.5), 0.0).sentence
    assert found == "Held 74 °C: hottest 74.5 °C."
    with manner_of(Manner(language="es")):
        assert said(found) == "Mantenido 74 °C: máximo 74,5 °C."
    with manner_of(Manner(language="zh", temperature="°F")):
        assert said(found) == "已保持 165.2 °F：最高 166.1 °F。"


def test_a_kept_message_comes_back_and_an_unknown_code_is_its_text() -> None:
    made = say("limits.hold.hot_enough", again=say("limits.hold.for_for", for_=duration(120)))
    assert restored(made.stored()) == made
    assert isinstance(unpacked(packed(made)), Message)
    assert restored({"code": "gone.away", "params": {}, "text": "As it was said."}) == "As it was said."
    assert unpacked("Somebody's own words.") == "Somebody's own words."
    with pytest.raises(ValueError, match="neither"):
        restored(3)


def test_several_are_joined_and_nothing_is_left_for_what_is_empty() -> None:
    assert joined(["a", "", "b"], " ") == "a b"
    both = joined([temp(5), temp(60)], "words.or")
    assert both == "5 °C or 60 °C"
    with manner_of(Manner(language="fr", temperature="°F")):
        assert said(both) == "41 °F ou 140 °F"
    assert (temp(5) + " so far").code == "list"


def test_titles_that_a_plan_keeps_are_known_and_own_words_stay() -> None:
    with manner_of(Manner(language="es", temperature="°F")):
        assert said("Cooling 57 → 21 °C in 2 h, → 5 °C in 6 h in all").startswith(
            "Enfriado 135 → 70 °F en 2 h, → 41 °F"
        )
        code = "FDA Food Code 2022, 3-501.16(A)(2): 5 °C (41 °F)"
        assert said(f"The kitchen's own, stricter than 5 °C ({code})") == (
            f"La de la cocina, más estricta que 41 °F ({code})"
        )
        assert said("The kitchen's own, stricter than 5 d (Common practice under 3.2.2A)").startswith(
            "La de la cocina, más estricta que 5 d"
        )
        assert said("As cold as our walk-in goes") == "As cold as our walk-in goes"


def test_what_a_stored_plan_holds_in_english_is_known_by_the_numbers_beside_it() -> None:
    """A bound by its own value, what is declared by the ingredients; no English is taken apart."""
    plan = ready(template("custard").plan("Custard", "us"))
    stored = Plan.model_validate_json(plan.model_dump_json())
    assert canonical(stored) == canonical(plan)
    keep = stored.control_of("keep")
    assert keep is not None
    allergens = next(each for each in stored.hazards if each.key == "allergens")
    with manner_of(Manner(language="es", temperature="°F")):
        assert said(keep.limits[0].title) == "Conservado a 37,4 °F o menos"
        assert said(allergens.reason).endswith("huevos, leche. Dígalo en cada etiqueta.")
    for code in OWN_TITLES:
        assert title_of_own(str(Message(code, {SLOT.split(template_of(code, "en"))[1]: OWN_TITLES[code](4.0)})), 4.0)
    assert title_of_own("Kept at or below 3 °C", 4.0) == "Kept at or below 3 °C"
    assert not isinstance(title_of_own("Kept at or below 3 °C", 4.0), Message)


def test_a_plan_and_its_hash_do_not_turn_with_the_reader() -> None:
    plan = thigh_plan("uk")
    assert any(control.limits for control in plan.controls)
    before = canonical(plan)
    with manner_of(Manner(language="fr", temperature="°F")):
        assert canonical(plan) == before


def test_a_record_keeps_code_and_parameters_and_a_reader_gets_words() -> None:
    limit = Hold(id="x", title="x", source=Source(citation="x", tag="derived"), at_least_c=74, for_s=0)
    verdict = limit.evaluate(Series.of(70.0), 0.0)
    kept = verdict.model_dump(mode="json", context=STORED)["sentence"]
    assert kept["code"] == "limits.hold.did_not_hold_hottest"
    assert kept["text"] == "Did not hold 74 °C: hottest 70 °C."
    with manner_of(ODD):
        assert verdict.model_dump(mode="json")["sentence"] == "Did not hold 165.2 °F: hottest 158 °F."
    assert type(verdict).model_validate(verdict.model_dump(mode="json", context=STORED)) == verdict


def test_no_sentence_of_the_core_is_written_past_the_catalogue() -> None:
    """An f-string that writes a temperature, or a refusal in plain text, is English and °C for everybody."""
    loose = []
    for path in (ROOT / "core").rglob("*.py"):
        if path.parent.name == "words":
            continue
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.JoinedStr):
                text = "".join(str(part.value) if isinstance(part, ast.Constant) else "1" for part in node.values)
                if re.search(r"\d (°C|K|mm|kg|g)\b", text):
                    loose.append((path.name, node.lineno, text))
            if isinstance(node, ast.Raise) and isinstance(node.exc, ast.Call) and node.exc.args:
                first = node.exc.args[0]
                if isinstance(first, ast.JoinedStr) or (isinstance(first, ast.Constant) and " " in str(first.value)):
                    loose.append((path.name, node.lineno, ast.unparse(first)))
    assert not loose


SOURCES = sorted(
    {entry.limit.source.citation for set_id in RULE_SET_IDS for entry in rule_set(set_id).entries},
    key=len,
    reverse=True,
)
CITED = re.compile(r'"citation":"(?:[^"\\]|\\.)*"')


@pytest.mark.parametrize("family", list(FAMILIES))
def test_no_answer_of_the_bench_speaks_celsius_or_millimetres_to_who_reads_otherwise(family: str) -> None:
    for _, question in presets(date(2026, 11, 26))[family]:
        answer_ = answer(family, question, date(2026, 11, 26))
        with manner_of(ODD):
            told = CITED.sub("", answer_.model_dump_json())
        for source in SOURCES:  # a source is quoted as it stands
            told = told.replace(source, "")
        assert not re.findall(r"[^\"]{0,40}\d (?:°C|mm|kg|K)(?![\w/·])[^\"]{0,30}", told)


def test_marks_of_the_law_are_printed_as_the_code_prints_them() -> None:
    answer_ = answer("chill", presets(date(2026, 11, 26))["chill"][0][1], date(2026, 11, 26))
    with manner_of(ODD):
        told = [figure["words"] for figure in answer_.model_dump(mode="json")["figures"]]
    assert "to 70 °F, allowed 2 h" in told


@pytest.mark.parametrize(("rules", "first"), [("us", "70 °F"), ("anz", "69.8 °F")])
def test_the_same_number_is_another_in_fahrenheit_where_another_law_sets_it(rules: RuleSetId, first: str) -> None:
    """FDA Food Code 2022, 3-501.14, prints 21 °C (70 °F); FSANZ 3.2.2 sets 21 °C alone, that is 69.8 °F."""
    cooling = rule_set(rules).limit_for("chill.cooked")
    verdict = cooling.evaluate(Series(np.array([0.0, 60.0]), np.array([56.0, 50.0]), opened_s=0.0), 60.0)
    with manner_of(ODD):
        assert f"{first} must be reached" in said(verdict.sentence)
        assert first.removesuffix(" °F") in said(cooling.title)


def test_a_document_that_is_sent_brings_no_message_of_its_own() -> None:
    limit = rule_set("us").limit_for("chill.cooked").model_dump(mode="json")
    limit["title"] = {"code": "amount.number", "params": {"value": 1.0, "spec": ".9f"}, "text": "1.000000000"}
    with pytest.raises(ValidationError):
        TypeAdapter(Limit).validate_python(limit)
