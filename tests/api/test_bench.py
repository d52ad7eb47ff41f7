"""The Bench over HTTP: a description for every field, an answer for every family, a shelf for what is kept."""

from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest

from brinefrost.core.bench.families import FAMILIES
from tests.api.conftest import Desk
from tests.conftest import TestClock


def test_the_pages_describe_themselves(cook: Desk) -> None:
    pages = cook.get("/bench").json()
    assert [page["key"] for page in pages] == list(FAMILIES)
    dates = next(page for page in pages if page["key"] == "dates")
    assert dates["presets"][1]["question"]["made_on"] == "2026-11-17"  # the kitchen's own day
    assert dates["presets"][1]["question"]["as_of"] is None


def test_the_day_is_the_kitchens_own_also_after_midnight(sit: Callable[[str], Desk], clock: TestClock) -> None:
    """Skarn Ridge is an hour ahead of UTC in winter: at 23:30 UTC its next day has begun."""
    asked = {"made_on": "2026-11-12"}  # us: last day 18 November
    clock.moment = datetime(2026, 11, 17, 22, 30, tzinfo=UTC)
    cook = sit("cook")
    assert cook.post("/bench/dates", asked).json()["state"] == "would_meet"
    clock.forward(60)
    late = cook.post("/bench/dates", asked).json()
    assert (late["state"], late["sentence"]) == ("too_close", "18 Nov 2026 is its last day.")
    entry = {"family": "dates", "name": "Stew", "question": asked}
    assert cook.post("/bench/kept", entry).json()["state"] == "too_close"
    assert cook.get("/bench/kept").json()["items"][0]["question"]["as_of"] is None  # asked again later, it is older


@pytest.mark.parametrize("family", list(FAMILIES))
def test_every_family_answers_its_own_questions(cook: Desk, family: str) -> None:
    page = next(each for each in cook.get("/bench").json() if each["key"] == family)
    for preset in page["presets"]:
        reply = cook.post(f"/bench/{family}", preset["question"])
        assert reply.status_code == 200, reply.text
        assert reply.json()["sentence"]


def test_every_family_is_described(cook: Desk) -> None:
    paths = cook.client.get("/api/openapi.json").json()["paths"]
    for family in FAMILIES:
        described = paths[f"/api/v1/bench/{family}"]["post"]
        assert described["summary"]
        assert described["requestBody"]["content"]["application/json"]["schema"]


@pytest.mark.parametrize(
    ("family", "question", "words"),
    [
        ("heat", {"thickness_m": 3}, "Thickness must be at most 300 mm."),
        ("heat", {"thickness_m": 0}, "Thickness must be at least 3 mm."),
        ("chill", {"depth_m": -1}, "Depth must be at least 5 mm."),
        ("acid", {"measured_ph": 74}, "Measured ph must be at most 9."),
        (
            "acid",
            {"vinegar_kg": 0, "second_vinegar_kg": 0, "water_kg": 0, "vegetable_kg": 0},
            "Vegetable must be at least 0.001 kg.",
        ),
        ("cure", {"cure_kg": "a spoon"}, "Cure must be a number."),
        ("heat", {"weather": "fine"}, "must be left out"),
        ("eggs", {"water_c": 99}, "At 2140 m water boils at 92.9 °C; it cannot be at 99 °C."),
        ("dates", {"made_on": "2026-13-45"}, "must be a day"),
        ("dry", {"lost_percent": 80}, "So much water is not in it"),
    ],
)
def test_questions_that_make_no_sense_get_a_sentence(
    cook: Desk, family: str, question: dict[str, Any], words: str
) -> None:
    reply = cook.post(f"/bench/{family}", question)
    assert reply.status_code == 422
    assert words in reply.json()["sentence"]


def kept(desk: Desk, name: str = "Thin loin", key: str | None = None, **question: Any) -> Any:
    return desk.post("/bench/kept", {"family": "heat", "name": name, "question": question}, key)


def test_an_answer_is_kept_once_and_found_again(cook: Desk) -> None:
    first, again = (kept(cook, key="keep-it-once", thickness_m=0.015) for _ in range(2))
    assert first.json() == again.json()
    listed = cook.get("/bench/kept").json()["items"]
    assert len(listed) == 1
    assert listed[0]["question"]["thickness_m"] == 0.015
    assert listed[0]["sentence"].startswith("Should meet it") == (listed[0]["state"] == "would_meet")


def test_only_its_keeper_or_the_lead_takes_it_away(sit: Callable[[str], Desk]) -> None:
    cook, reviewer, lead = sit("cook"), sit("reviewer"), sit("lead")
    mine, theirs = kept(cook).json()["id"], kept(reviewer, "Theirs").json()["id"]
    headers = {"Idempotency-Key": "take-away-1"}
    assert cook.client.delete(f"/api/bench/kept/{theirs}", headers=headers).status_code == 403
    assert cook.client.delete(f"/api/bench/kept/{mine}", headers={"Idempotency-Key": "take-away-2"}).status_code == 200
    assert (
        lead.client.delete(f"/api/bench/kept/{theirs}", headers={"Idempotency-Key": "take-away-3"}).status_code == 200
    )
    assert (
        lead.client.delete(f"/api/bench/kept/{theirs}", headers={"Idempotency-Key": "take-away-4"}).status_code == 404
    )
    assert lead.get("/bench/kept").json()["items"] == []


@pytest.mark.parametrize("entry", [{"family": "weather"}, {"question": {"thickness_m": 9}}, {"name": ""}])
def test_what_cannot_be_kept(cook: Desk, entry: dict[str, Any]) -> None:
    reply = cook.post("/bench/kept", {"family": "heat", "name": "x", "question": {}, **entry})
    assert reply.status_code in (404, 422)
    assert reply.json()["sentence"]
    assert cook.get("/bench/kept").json()["items"] == []


def test_the_shelf_has_an_end(cook: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("brinefrost.services.benching.MOST_KEPT", 2)
    assert [kept(cook, str(i)).status_code for i in range(3)] == [201, 201, 409]


def test_rows_come_from_a_file_and_nothing_is_kept(cook: Desk, data: Path) -> None:
    content = (data / "thigh-bath-63c.csv").read_bytes()
    found = cook.upload("/bench/rows", "thigh.csv", content, family="kill", field="readings").json()
    assert (found["channel"], found["read"]) == ("core_c", 181)
    core = cook.upload("/bench/rows", "thigh.csv", content, family="heat", field="recorded", channel="core_c").json()
    assert core["channel"] == "core_c"
    for name, body, words in (
        ("empty.csv", b"", "empty"),
        ("picture.png", b"\x89PNG\r\n\x1a\n" + bytes(range(256)), ""),
        ("kraut.csv", (data / "kraut-ph.csv").read_bytes(), ""),
    ):
        reply = cook.upload("/bench/rows", name, body, family="kill", field="no_such_rows")
        assert reply.status_code in (404, 422), name
        assert words in reply.json()["sentence"]
    assert cook.get("/bench/kept").json()["items"] == []
