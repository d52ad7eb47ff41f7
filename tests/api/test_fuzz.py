"""Made-up requests: the API answers with a sentence, never with an unexpected error, and bounded in time and size."""

from datetime import date
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from brinefrost.api.problems import sentence_for
from brinefrost.core.bench.families import FAMILIES, presets
from tests.api.conftest import Desk
from tests.kitchen import thigh_plan

FEW = settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
SCALARS = st.one_of(st.none(), st.booleans(), st.integers(-(10**30), 10**30), st.floats(), st.text(max_size=40))
JSON = st.recursive(
    SCALARS,
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=12), inner, max_size=4),
    max_leaves=12,
)
DOCUMENT = thigh_plan().model_dump(mode="json")


def spoiled(document: Any, path: list[int], value: Any) -> Any:
    """The document with one place, found by walking the path, replaced."""
    if not path or not isinstance(document, dict | list) or not document:
        return value
    keys = list(document) if isinstance(document, dict) else list(range(len(document)))
    key = keys[path[0] % len(keys)]
    copy = document.copy()
    copy[key] = spoiled(document[key], path[1:], value)
    return copy


def posted(desk: Desk, path: str, body: Any) -> Any:
    try:
        return desk.post(path, body)
    except ValueError:
        return None  # the client itself refuses to send what is not JSON (NaN)


@FEW
@given(path=st.lists(st.integers(0, 30), min_size=1, max_size=6), value=JSON)
def test_a_spoiled_plan_is_proved_or_refused(lead: Desk, path: list[int], value: Any) -> None:
    reply = posted(lead, "/plans/x/proof", spoiled(DOCUMENT, path, value))
    if reply is not None:
        assert reply.status_code in (200, 404, 409, 422), reply.text
        assert reply.status_code == 200 or reply.json()["sentence"]


@FEW
@given(path=st.lists(st.integers(0, 12), min_size=1, max_size=2), value=JSON)
def test_a_spoiled_reading_is_kept_or_refused(cook: Desk, batch_id: str, path: list[int], value: Any) -> None:
    body = {
        "step": "cook",
        "quantity": "bath",
        "value": 62.6,
        "unit": "°C",
        "taken_at": "2026-11-17T08:30:00Z",
        "instrument": "probe-2",
        "check": "",
        "confirmed": False,
        "corrects": None,
        "note": "",
    }
    reply = posted(cook, f"/batches/{batch_id}/readings", spoiled(body, path, value))
    if reply is not None:
        assert reply.status_code in (200, 404, 409, 422), reply.text
        assert reply.status_code == 200 or reply.json()["sentence"]


@FEW
@given(content=st.binary(max_size=2000), options=st.text(max_size=60))
def test_any_file_is_read_or_refused(cook: Desk, content: bytes, options: str) -> None:
    reply = cook.upload("/traces/preview", "x.csv", content, options=options or "{}")
    assert reply.status_code in (200, 422), reply.text


@pytest.mark.parametrize(
    "path",
    ["/ledger?most=0", "/ledger?most=100000", "/ledger?after=99999999999999999999", "/ledger?find=" + "x" * 300],
)
def test_sizes_in_requests_are_bounded(lead: Desk, path: str) -> None:
    assert lead.client.get(f"/api{path}").status_code == 422


def test_a_plan_too_long_is_refused_quickly(lead: Desk) -> None:
    made = lead.post("/plans", {"name": "x", "rule_set": "us"}).json()
    huge = {**DOCUMENT, "steps": DOCUMENT["steps"] * 50}
    assert lead.put(f"/plans/{made['plan_id']}", {"revision": made["revision"], "document": huge}).status_code == 422
    assert lead.put(f"/plans/{made['plan_id']}", {"revision": 10**40, "document": DOCUMENT}).status_code == 422


@pytest.mark.parametrize(
    ("error", "words"),
    [
        (
            {"loc": ("body", "packs"), "type": "greater_than_equal", "ctx": {"ge": 1}},
            "Number of packs must be at least 1.",
        ),
        (
            {"loc": ("body", "bath_c"), "type": "less_than_equal", "ctx": {"le": 100}},
            "Bath temperature must be at most 100 °C.",
        ),
        ({"loc": ("body", "days"), "type": "greater_than", "ctx": {"gt": 0}}, "Days kept must be more than 0 d."),
        (
            {"loc": ("body", "reason"), "type": "string_too_short", "ctx": {"min_length": 2}},
            "The reason is too short: 2 letters at least.",
        ),
        (
            {"loc": ("body", "note"), "type": "string_too_long", "ctx": {"max_length": 400}},
            "The note is too long: 400 letters at most.",
        ),
        ({"loc": ("body", "note"), "type": "string_type"}, "The note must be a text."),
        ({"loc": ("body", "pin"), "type": "string_pattern_mismatch"}, "Pin is not as expected."),
        (
            {"loc": ("body", "guests"), "type": "literal_error", "ctx": {"expected": "'general' or 'higher_risk'"}},
            "Guests must be 'general' or 'higher_risk'.",
        ),
        ({"loc": ("body", "name"), "type": "missing"}, "The name is missing."),
        ({"loc": ("body", "odd_field"), "type": "missing"}, "Odd field is missing."),
        (
            {"loc": ("body",), "type": "value_error", "msg": "Value error, Two steps have the same id."},
            "Two steps have the same id.",
        ),
        (
            {"loc": (), "type": "json_invalid", "msg": "JSON decode error"},
            "The request is not as expected.",
        ),
    ],
)
def test_sentences_for_what_is_wrong(error: dict[str, Any], words: str) -> None:
    assert sentence_for(error) == words


@FEW
@given(family=st.sampled_from(list(FAMILIES)), path=st.lists(st.integers(0, 40), min_size=1, max_size=3), value=JSON)
def test_a_spoiled_question_of_the_bench_is_answered_or_refused(
    cook: Desk, family: str, path: list[int], value: Any
) -> None:
    question = presets(date(2026, 11, 17))[family][0][1].model_dump(mode="json")
    reply = posted(cook, f"/bench/{family}", spoiled(question, path, value))
    if reply is not None:
        assert reply.status_code in (200, 404, 409, 422), reply.text
        assert reply.json()["sentence"]
