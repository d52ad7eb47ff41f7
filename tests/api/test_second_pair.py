"""Nothing is released by a few letters, nor by the one who logged it; what was missed or moved is answered for."""

import json
from datetime import timedelta
from pathlib import Path
from typing import Any

import psycopg
import pytest

from tests.api.conftest import Desk, deliver
from tests.api.test_batches import cooling, log, reading, slow_chill, to_chill
from tests.conftest import TestClock
from tests.kitchen import PASSWORDS

WHY = "Core passed 21 °C late; growth stayed under one log by the logger's own curve, kept cold since."


@pytest.fixture
def broken(cook: Desk, batch_id: str, clock: TestClock, data: Path) -> str:
    """A batch whose chill has missed its limit; its one deviation."""
    to_chill(cook, batch_id, clock, data)
    slow_chill(cook, batch_id, clock)
    for minutes, value in ((60, 52.0), (120, 38.0)):
        clock.forward(minutes)
        assert log(cook, batch_id, clock, "chill", "core", value).status_code == 200
    view = cook.get(f"/batches/{batch_id}").json()
    assert cooling(view)["verdict"]["state"] == "fail"
    return str(view["deviations"][0]["deviation"])


def decide(desk: Desk, batch: str, deviation: str, **body: Any) -> Any:
    return desk.post(f"/batches/{batch}/deviations/{deviation}/decision", {"found": "measured_again", **body})


@pytest.mark.parametrize(
    "reason", ["ok!", "fine fine fine fine fine", "........................", "ok ok ok ok ok ok ok ok ok"]
)
def test_a_broken_limit_is_not_released_by_a_few_letters(lead: Desk, batch_id: str, broken: str, reason: str) -> None:
    reply = decide(lead, batch_id, broken, decision="release", reason=reason, password=PASSWORDS["lead"])
    assert reply.status_code == 409
    assert "reason" in reply.json()["sentence"]


@pytest.mark.parametrize(
    ("found", "reason", "said"),
    [
        (None, "aaab bbbc cccd ddde eeef", "Choose what was found"),  # five words that mean nothing
        ("done_otherwise", "Read again with the other probe, 4.6", "Choose what was found"),  # not of a cooling
        ("other", "Read again with the other probe, 4.6", "None of the list was chosen"),
    ],
)
def test_a_broken_limit_is_not_released_on_words_alone(
    lead: Desk, batch_id: str, broken: str, found: str | None, reason: str, said: str
) -> None:
    asked = {"decision": "release", "reason": reason, "password": PASSWORDS["lead"], "found": found}
    reply = decide(lead, batch_id, broken, **asked)
    assert reply.status_code == 409
    assert said in reply.json()["sentence"]
    offered = [each["key"] for each in lead.get(f"/batches/{batch_id}").json()["deviations"][0]["grounds"]]
    assert "chilled_anew" in offered
    assert decide(lead, batch_id, broken, **{**asked, "found": "chilled_anew", "reason": WHY}).status_code == 200
    view = lead.get(f"/batches/{batch_id}").json()["deviations"][0]
    assert view["reason"].startswith("It was heated through again and cooled anew")
    assert view["grounds"] == []


def test_a_release_is_signed_and_a_discard_is_not(lead: Desk, batch_id: str, broken: str) -> None:
    assert decide(lead, batch_id, broken, decision="release", reason=WHY).status_code == 401
    assert decide(lead, batch_id, broken, decision="release", reason=WHY, password="wrong-password").status_code == 401
    done = decide(lead, batch_id, broken, decision="release", reason=WHY, password=PASSWORDS["lead"])
    assert done.status_code == 200


def test_who_logged_it_does_not_decide_on_it(
    lead: Desk, sit: Any, batch_id: str, broken: str, clock: TestClock
) -> None:
    assert log(lead, batch_id, clock, "chill", "core", 37.5).status_code == 200
    own = decide(lead, batch_id, broken, decision="release", reason=WHY, password=PASSWORDS["lead"])
    assert own.status_code == 409
    assert "must decide" in own.json()["sentence"]
    reviewer = sit("reviewer")
    done = decide(reviewer, batch_id, broken, decision="release", reason=WHY, password=PASSWORDS["reviewer"])
    assert done.status_code == 200, done.text


def test_a_core_that_heat_cannot_follow_is_refused(cook: Desk, batch_id: str, clock: TestClock, data: Path) -> None:
    """57 K in two minutes in a 28 mm bag: it was the slurry."""
    to_chill(cook, batch_id, clock, data)
    assert log(cook, batch_id, clock, "chill", "core", 58.2).status_code == 200
    clock.forward(2)
    slip = log(cook, batch_id, clock, "chill", "core", 1.4, confirmed=True)
    assert slip.status_code == 422
    assert "cannot be" in slip.json()["sentence"]
    assert log(cook, batch_id, clock, "chill", "core", 55.1).status_code == 200


def test_a_unit_belongs_to_its_quantity(cook: Desk, batch_id: str, clock: TestClock) -> None:
    for unit in ("pH", "", "%"):
        reply = cook.post(f"/batches/{batch_id}/readings", {**reading(clock, "cook", "bath", 62.6), "unit": unit})
        assert reply.status_code == 409
        assert "°C" in reply.json()["sentence"]


def test_missed_checks_are_answered_one_by_one(cook: Desk, lead: Desk, batch_id: str, clock: TestClock) -> None:
    clock.forward(170)
    assert cook.post(f"/batches/{batch_id}/steps/cook/finish").status_code == 200
    view = cook.get(f"/batches/{batch_id}").json()
    missed = [check for check in view["checks"] if check["state"] == "missed"]
    assert missed
    assert any("missed" in line for line in view["blocking"])
    path = f"/batches/{batch_id}/checks/answer"
    assert cook.post(path, {"check": missed[0]["id"], "reason": "x y"}).status_code in (409, 422)
    why = "Two cooks were away and the probe lay in the pass until eleven."
    assert cook.post(path, {"check": missed[0]["id"], "reason": why}).status_code == 200
    after = cook.get(f"/batches/{batch_id}").json()
    answered = next(check for check in after["checks"] if check["id"] == missed[0]["id"])
    assert answered["answer"] == why
    assert sum("missed" in line for line in after["blocking"]) == len(missed) - 1
    # or the reading is entered late, with the time it was taken, and shown as late
    late = reading(clock, "cook", missed[1]["quantity"], 62.9)
    late["taken_at"] = missed[1]["due_at"]
    assert cook.post(f"/batches/{batch_id}/readings", late).status_code == 200
    done = cook.get(f"/batches/{batch_id}").json()
    assert next(c for c in done["checks"] if c["id"] == missed[1]["id"])["state"] == "done"
    assert done["readings"][-1]["entered_late_s"] > 0


def test_a_time_long_past_is_asked_about(sit: Any, plan_id: str, clock: TestClock) -> None:
    clock.forward(2 * 1440)
    cook = sit("cook")
    back = (clock.now() - timedelta(hours=23)).isoformat()
    asked = cook.post("/batches", {"plan_id": plan_id, "packs": 6, "at": back})
    assert (asked.status_code, asked.json()["code"]) == (409, "ask_first")
    assert cook.post("/batches", {"plan_id": plan_id, "packs": 6, "at": back, "confirmed": True}).status_code == 201
    before = (clock.now() - timedelta(days=10)).isoformat()
    assert cook.post("/batches", {"plan_id": plan_id, "packs": 6, "at": before, "confirmed": True}).status_code == 409
    for never in ("0001-01-01T00:00:00Z", "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00"):
        reply = cook.post("/batches", {"plan_id": plan_id, "packs": 6, "at": never, "confirmed": True})
        assert reply.status_code == 422, never


def test_a_file_against_the_hand_readings_is_asked_about(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock, data: Path
) -> None:
    clock.forward(60)
    assert log(cook, batch_id, clock, "cook", "core", 30.0, confirmed=True).status_code == 200
    clock.forward(121)
    content = (data / "thigh-bath-63c.csv").read_bytes()
    form = {"step": "cook", "instrument": "logger-7"}
    path = f"/batches/{batch_id}/traces"
    asked = cook.upload(path, "thigh-bath-63c.csv", content, **form)
    assert (asked.status_code, asked.json()["fields"]["reason"]) == (409, "differs")
    moved = json.dumps({"shift_s": 60})
    why = "The logger runs one minute behind the wall clock, as checked this morning."
    assert lead.upload(path, "thigh-bath-63c.csv", content, **form, options=moved, reason=why).status_code == 409
    assert cook.upload(path, "thigh-bath-63c.csv", content, **form, confirmed="true").status_code == 200
    trace = cook.get(f"/batches/{batch_id}").json()["traces"][0]
    assert "read 30" in trace["asked"]


def test_the_same_file_on_another_batch_is_asked_about(
    cook: Desk, plan_id: str, batch_id: str, clock: TestClock, data: Path
) -> None:
    to_chill(cook, batch_id, clock, data)
    started = cook.post(
        "/batches", {"plan_id": plan_id, "packs": 6, "at": (clock.now() - timedelta(hours=3)).isoformat()}
    )
    other = started.json()["batch_id"]
    at = (clock.now() - timedelta(hours=3)).isoformat()
    deliver(cook, other, at=at)
    assert cook.post(f"/batches/{other}/steps/cook/start", {"at": at}).status_code == 200
    content = (data / "thigh-bath-63c.csv").read_bytes()
    again = cook.upload(f"/batches/{other}/traces", "copy.csv", content, step="cook", instrument="logger-7")
    assert again.status_code == 409
    assert "another batch" in again.json()["sentence"]


def test_a_limit_that_nothing_will_prove_is_decided_on(
    cook: Desk, lead: Desk, sit: Any, batch_id: str, clock: TestClock
) -> None:
    """A cook whose file is lost is no dead end: it is taken up, decided on with a reason, and printed."""
    path = f"/batches/{batch_id}/deviations"
    limit = next(each for each in cook.get(f"/batches/{batch_id}").json()["limits"] if each["step"] == "cook")
    entry = {"step": "cook", "limit": limit["limit"]["id"]}
    early = lead.post(path, entry)
    assert (early.status_code, "has not ended" in early.json()["sentence"]) == (409, True)
    clock.forward(130)
    assert cook.post(f"/batches/{batch_id}/steps/cook/finish").status_code == 200
    view = cook.get(f"/batches/{batch_id}").json()
    assert view["deviations"] == []  # a file may still come: nobody is bothered before
    assert entry in [{"step": each["step"], "limit": each["limit"]} for each in view["unproved"]]
    assert cook.post(path, entry).status_code == 403
    assert lead.post(path, entry).status_code == 200
    twice = lead.post(path, entry)
    assert (twice.status_code, "stands for that limit" in twice.json()["sentence"]) == (409, True)
    assert lead.post(path, {"step": "cook", "limit": "nothing"}).status_code == 404
    opened = cook.get(f"/batches/{batch_id}").json()["deviations"][0]
    assert opened["cause"] == "unproved"
    thin = decide(lead, batch_id, opened["deviation"], decision="release", reason="ok!", password=PASSWORDS["lead"])
    assert thin.status_code == 409
    assert decide(lead, batch_id, opened["deviation"], decision="discard", reason="No file.").status_code == 200


def test_the_second_pair_is_known_by_who_they_are_not_by_their_name(
    lead: Desk, batch_id: str, broken: str, clock: TestClock, database_url: str
) -> None:
    """A lead who logged and was renamed since is still the one who logged."""
    assert log(lead, batch_id, clock, "chill", "core", 37.5).status_code == 200
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("update users set name = 'Ilse B.' where role = 'lead'")
    own = decide(lead, batch_id, broken, decision="release", reason=WHY, password=PASSWORDS["lead"])
    assert own.status_code == 409


def test_a_file_bears_the_name_of_what_can_have_written_it(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock, data: Path
) -> None:
    """The doubt of a pH meter is a tenth of a logger's: no core is judged by it."""
    meter = {"name": "pH meter", "kind": "meter", "quantities": ["ph"], "uncertainty": 0.05}
    meter_id = lead.post("/household/instruments", meter).json()["id"]
    clock.forward(181)
    content = (data / "thigh-bath-63c.csv").read_bytes()
    path = f"/batches/{batch_id}/traces"
    refused = cook.upload(path, "thigh-bath-63c.csv", content, step="cook", instrument=meter_id)
    assert refused.status_code == 409
    assert "does not read that" in refused.json()["sentence"]
    form = {"step": "cook", "instrument": "probe-1"}  # which was due for its check a day ago
    asked = cook.upload(path, "thigh-bath-63c.csv", content, **form)
    assert (asked.status_code, asked.json()["fields"]["reason"]) == (409, "differs")
    assert "due for calibration" in asked.json()["sentence"]
    assert cook.upload(path, "thigh-bath-63c.csv", content, **form, confirmed="true").status_code == 200
    assert "due for calibration" in cook.get(f"/batches/{batch_id}").json()["traces"][0]["asked"]
