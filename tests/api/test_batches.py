"""Batches over HTTP: the whole story, its bad input, and the ledger."""

import csv
import io
import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import psycopg
import pytest
from icalendar import Calendar
from openpyxl import load_workbook
from pypdf import PdfReader

from brinefrost.services.ledgers import harmless
from tests.api.conftest import Desk, came_in_cold
from tests.conftest import TestClock
from tests.kitchen import PASSWORDS


def reading(clock: TestClock, step: str, quantity: str, value: float, **more: Any) -> dict[str, Any]:
    return {
        "step": step,
        "quantity": quantity,
        "value": value,
        "unit": "°C",
        "taken_at": clock.now().isoformat(),
        "instrument": "unit-1" if quantity == "air" else "probe-2",
        **more,
    }


def log(cook: Desk, batch: str, clock: TestClock, step: str, quantity: str, value: float, **more: Any) -> Any:
    return cook.post(f"/batches/{batch}/readings", reading(clock, step, quantity, value, **more))


def cooling(view: dict[str, Any]) -> dict[str, Any]:
    return next(status for status in view["limits"] if status["limit"]["kind"] == "cooling")


def to_chill(cook: Desk, batch: str, clock: TestClock, data: Path) -> None:
    clock.forward(181)
    trace = (data / "thigh-bath-63c.csv").read_bytes()
    reply = cook.upload(f"/batches/{batch}/traces", "thigh-bath-63c.csv", trace, step="cook", instrument="logger-7")
    assert reply.status_code == 200, reply.text
    assert log(cook, batch, clock, "cook", "core", 62.9).status_code == 200
    assert cook.post(f"/batches/{batch}/steps/chill/start").status_code == 200


def slow_chill(cook: Desk, batch: str, clock: TestClock) -> None:
    for minutes, value in ((0, 62.5), (15, 62.2), (15, 61.0)):
        clock.forward(minutes)
        assert log(cook, batch, clock, "chill", "core", value).status_code == 200


def test_the_whole_story(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock, data: Path, database_url: str
) -> None:
    to_chill(cook, batch_id, clock, data)
    lethal = next(s for s in cook.get(f"/batches/{batch_id}").json()["limits"] if s["limit"]["kind"] == "lethality")
    assert lethal["verdict"]["state"] == "pass"
    assert lethal["verdict"]["basis"] == "measured"

    slow_chill(cook, batch_id, clock)
    view = cook.get(f"/batches/{batch_id}").json()
    assert cooling(view)["forecast"]["misses"]
    deviation = view["deviations"][0]
    assert deviation["cause"] == "forecast"
    assert deviation["late_by_s"] > 0
    option = cooling(view)["options"][0]
    assert option["works"]
    acted = cook.post(
        f"/batches/{batch_id}/actions",
        {"step": "chill", "deviation": deviation["deviation"], "action": option["action"], "changes_course": True},
    )
    assert acted.status_code == 200

    for minutes, value in ((10, 40.0), (10, 24.0), (15, 11.0), (15, 4.2)):
        clock.forward(minutes)
        log(cook, batch_id, clock, "chill", "core", value)
    view = cook.get(f"/batches/{batch_id}").json()
    assert cooling(view)["verdict"]["state"] == "pass"
    assert view["deviations"][0]["state"] == "pass"

    cook.post(f"/batches/{batch_id}/steps/keep/start")
    log(cook, batch_id, clock, "keep", "air", 2.1)
    early = lead.post(
        f"/batches/{batch_id}/countersignature",
        {"decision": "release", "reason": "all read", "password": PASSWORDS["lead"]},
    )
    assert early.status_code == 409
    for _ in range(6):  # twice a day for three days
        clock.forward(720)
        lead, cook = again(lead), again(cook, "cook")
        assert log(cook, batch_id, clock, "keep", "air", 2.4).status_code == 200
    warm_again(cook, batch_id, clock)
    came_in_cold(cook, batch_id, cook.get(f"/batches/{batch_id}").json()["started_at"])
    answer_missed(cook, batch_id)
    decided = lead.post(
        f"/batches/{batch_id}/deviations/{deviation['deviation']}/decision",
        {"decision": "release", "reason": "brought back in time", "password": PASSWORDS["lead"]},
    )
    assert decided.status_code == 200
    closed = lead.post(
        f"/batches/{batch_id}/countersignature",
        {"decision": "release", "reason": "all read", "password": PASSWORDS["lead"]},
    )
    assert closed.status_code == 200, closed.text
    assert log(cook, batch_id, clock, "keep", "air", 2.2).status_code == 409
    check_exports(lead, batch_id)
    check_ledger(lead, batch_id, database_url)


def warm_again(cook: Desk, batch: str, clock: TestClock) -> None:
    """Heated again for service, and read twice, half a minute apart."""
    assert cook.post(f"/batches/{batch}/steps/reheat/start").status_code == 200
    for value in (76.4, 76.9):
        clock.forward(1)
        assert log(cook, batch, clock, "reheat", "core", value).status_code == 200
    assert cook.post(f"/batches/{batch}/steps/reheat/finish").status_code == 200


def again(desk: Desk, role: str = "lead") -> Desk:
    name = {"lead": "Ilse Brandvik", "cook": "Tomasz Źrebiec"}[role]
    assert desk.client.post("/api/session", json={"name": name, "password": PASSWORDS[role]}).status_code == 200
    return desk


def answer_missed(cook: Desk, batch: str) -> None:
    for check in cook.get(f"/batches/{batch}").json()["checks"]:
        if check["state"] == "missed":
            body = {"check": check["id"], "reason": "The probe was in the other kitchen; the logger ran all the time."}
            assert cook.post(f"/batches/{batch}/checks/answer", body).status_code == 200


def check_exports(lead: Desk, batch: str) -> None:
    pdf = PdfReader(io.BytesIO(lead.get(f"/batches/{batch}/record.pdf").content))
    text = " ".join(" ".join(page.extract_text() for page in pdf.pages).split())
    for words in (
        "Chicken thigh, in bag",
        "version 1",
        "Tomasz Źrebiec",
        "Probe 2",
        "B-101-D1",
        "brought back in time",
        "Record countersigned",
        "Salmonella in chicken",
        "thigh-bath-63c.csv",
    ):
        assert words in text, words
    rows = list(csv.DictReader(io.StringIO(lead.get(f"/batches/{batch}/record.csv").text.lstrip("\ufeff"))))
    assert {"batch_started", "reading_logged", "trace_attached", "deviation_opened", "batch_countersigned"} <= {
        r["kind"] for r in rows
    }
    record = json.loads(lead.get(f"/batches/{batch}/record.json").text)
    assert record["format"] == "brinefrost-record/1"
    assert record["samples"][0]["channels"][0]["values"][0] == 4.07
    assert record["batch"]["closed"]["decision"] == "release"


def check_ledger(lead: Desk, batch: str, database_url: str) -> None:
    assert lead.get("/ledger/integrity").json()["holds"]
    found = lead.get("/ledger", find="62.9 probe").json()["items"]
    assert found
    assert all("62.9" in row["words"] for row in found)
    url = database_url.replace("+psycopg", "")
    with psycopg.connect(url, autocommit=True) as connection:
        for statement in (
            "update records set body = '{}'",
            "delete from records",
            "truncate records",
            "delete from trace_files",
        ):
            with pytest.raises(psycopg.errors.RaiseException, match="append-only"):
                connection.execute(statement)
        row = connection.execute(
            "select seq from records where kind = 'reading_logged' order by seq limit 1 offset 2"
        ).fetchone()
        assert row
        connection.execute("alter table records disable trigger user")
        connection.execute("update records set body = replace(body, '62.', '64.') where seq = %s", row)
    broken = lead.get("/ledger/integrity").json()
    assert not broken["holds"]
    assert broken["broken"][0]["seq"] == row[0]
    assert any("switched off" in b["sentence"] for b in broken["broken"])  # the triggers are off
    assert f"record {row[0]}" in broken["sentence"]


def test_a_cut_tail_and_a_changed_file_are_named(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock, data: Path, database_url: str
) -> None:
    to_chill(cook, batch_id, clock, data)
    with psycopg.connect(database_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute("alter table records disable trigger user")
        connection.execute("alter table trace_files disable trigger user")
        connection.execute("update trace_files set parsed = replace(parsed, '4.07', '9.07')")
        connection.execute("delete from records where seq = (select max(seq) from records)")
    sentences = [b["sentence"] for b in lead.get("/ledger/integrity").json()["broken"]]
    assert any("should end at record" in sentence for sentence in sentences)
    assert any("thigh-bath-63c.csv" in sentence for sentence in sentences)


def test_a_retry_never_doubles(cook: Desk, batch_id: str, clock: TestClock) -> None:
    body = reading(clock, "cook", "bath", 62.6)
    first = cook.post(f"/batches/{batch_id}/readings", body, key="same-key-1")
    second = cook.post(f"/batches/{batch_id}/readings", body, key="same-key-1")
    assert first.json() == second.json()
    assert len(cook.get(f"/batches/{batch_id}").json()["readings"]) == 1
    other = cook.post(f"/batches/{batch_id}/readings", {**body, "value": 62.0}, key="same-key-1")
    assert other.status_code == 409


@pytest.mark.parametrize(
    ("change", "status", "words"),
    [
        ({"value": 635}, 422, "cannot be"),
        ({"quantity": "core", "value": 145, "unit": "°C"}, 422, "145 °F"),
        ({"value": 38}, 409, "far from what is expected"),
        ({"instrument": "probe-1"}, 409, "calibration"),
        ({"instrument": "unit-1"}, 409, "does not read that"),
        ({"instrument": "none"}, 404, "not in the kit"),
        ({"step": "chill"}, 409, "has not begun"),
        ({"step": "none"}, 404, "no step"),
        ({"taken_at": "2026-11-17T09:30:00Z"}, 422, "not come yet"),
        ({"taken_at": "2026-11-16T09:30:00Z"}, 422, "before the batch"),
        ({"taken_at": "2026-11-17T08:30:00"}, 422, "The time"),
        ({"quantity": "ph", "value": 74, "unit": "pH"}, 422, "pH 7.4"),
        ({"corrects": "nothing"}, 409, "not there"),
        ({"value": "62,5"}, 422, "must be a number"),
    ],
)
def test_bad_readings_get_a_sentence_and_nothing_is_kept(
    cook: Desk, batch_id: str, clock: TestClock, change: dict[str, Any], status: int, words: str
) -> None:
    reply = cook.post(f"/batches/{batch_id}/readings", {**reading(clock, "cook", "bath", 62.6), **change})
    assert reply.status_code == status, reply.text
    assert words in reply.json()["sentence"]
    assert cook.get(f"/batches/{batch_id}").json()["readings"] == []


def test_what_was_asked_about_is_kept_once_confirmed(cook: Desk, batch_id: str, clock: TestClock) -> None:
    assert log(cook, batch_id, clock, "cook", "bath", 38, confirmed=True).status_code == 200
    overdue = log(cook, batch_id, clock, "cook", "bath", 60.1, instrument="probe-1", confirmed=True)
    assert overdue.status_code == 200
    assert log(cook, batch_id, clock, "cook", "bath", 62.6).status_code == 200
    twice = log(cook, batch_id, clock, "cook", "bath", 62.6)
    assert twice.json()["fields"]["reason"] == "twice"
    assert log(cook, batch_id, clock, "cook", "bath", 145, unit="°F", confirmed=True).status_code == 200
    values = [r["value"] for r in cook.get(f"/batches/{batch_id}").json()["readings"]]
    assert values == [38, 60.1, 62.6, pytest.approx(62.7778)]
    notes = [r["note"] for r in cook.get(f"/batches/{batch_id}").json()["readings"]]
    assert notes == ["", "calibration overdue", "", ""]


def test_a_correction_keeps_both(cook: Desk, batch_id: str, clock: TestClock) -> None:
    log(cook, batch_id, clock, "cook", "bath", 60.6)
    wrong = cook.get(f"/batches/{batch_id}").json()["readings"][0]
    assert log(cook, batch_id, clock, "cook", "bath", 62.6, corrects=wrong["reading"]).status_code == 200
    readings = cook.get(f"/batches/{batch_id}").json()["readings"]
    assert [r["value"] for r in readings] == [60.6, 62.6]
    assert readings[0]["corrected_by"] == readings[1]["reading"]


def test_all_five_files_import_or_are_refused_with_a_reason(
    cook: Desk, batch_id: str, clock: TestClock, data: Path
) -> None:
    clock.forward(181)
    outcomes = {}
    for name in (
        "thigh-bath-63c.csv",
        "stew-chill-stall.csv",
        "confit-overnight-f.tsv",
        "walk-in-six-days.csv",
        "kraut-ph.csv",
    ):
        content = (data / name).read_bytes()
        assert cook.upload("/traces/preview", name, content).status_code == 200
        reply = cook.upload(f"/batches/{batch_id}/traces", name, content, step="cook", instrument="logger-7")
        outcomes[name] = (reply.status_code, reply.json().get("fields", {}).get("reason"))
    assert outcomes == {
        "thigh-bath-63c.csv": (200, None),
        "stew-chill-stall.csv": (422, "channel"),
        "confit-overnight-f.tsv": (422, "channel"),
        "walk-in-six-days.csv": (422, "channel"),
        "kraut-ph.csv": (422, "channel"),
    }


def test_a_file_of_another_day_is_asked_about_and_moved(
    cook: Desk, sit: Callable[[str], Desk], batch_id: str, clock: TestClock, data: Path
) -> None:
    clock.forward(10 * 60)
    cook, lead = sit("cook"), sit("lead")
    content = (data / "stew-chill-stall.csv").read_bytes()
    named = {"quantities": {"T1 [°C]": "core"}}
    asked = cook.upload(
        f"/batches/{batch_id}/traces",
        "stew.csv",
        content,
        step="cook",
        instrument="logger-7",
        options=json.dumps(named),
    )
    assert asked.status_code == 409
    shift = asked.json()["fields"]["suggestion_shift_s"]
    form = {"step": "cook", "instrument": "logger-7", "options": json.dumps({**named, "shift_s": shift})}
    why = "The logger lost its clock: the same file shows the door at 09:12, which was at 17:12."
    by_cook = cook.upload(f"/batches/{batch_id}/traces", "stew.csv", content, **form, reason=why)
    assert by_cook.status_code == 403
    unsaid = lead.upload(f"/batches/{batch_id}/traces", "stew.csv", content, **form, reason="ok!")
    assert (unsaid.status_code, "reason" in unsaid.json()["sentence"]) == (409, True)
    asked = lead.upload(f"/batches/{batch_id}/traces", "stew.csv", content, **form, reason=why)
    assert (asked.status_code, "hotter" in asked.json()["sentence"]) == (409, True)  # than the bath it is laid to
    moved = lead.upload(f"/batches/{batch_id}/traces", "stew.csv", content, **form, reason=why, confirmed="true")
    assert moved.status_code == 200, moved.text
    trace = cook.get(f"/batches/{batch_id}").json()["traces"][0]
    assert trace["first_at"].startswith("2026-11-17T08:30")
    twice = lead.upload(f"/batches/{batch_id}/traces", "stew.csv", content, **form, reason=why)
    assert "already" in twice.json()["sentence"]


@pytest.mark.parametrize("content", [b"", b"\x89PNG\r\n" + bytes(100), b"hello"])
def test_files_that_are_no_logs_are_refused(cook: Desk, batch_id: str, content: bytes) -> None:
    for path, form in (
        ("/traces/preview", {}),
        (f"/batches/{batch_id}/traces", {"step": "cook", "instrument": "logger-7"}),
    ):
        reply = cook.upload(path, "x.csv", content, **form)
        assert reply.status_code == 422
        assert reply.json()["code"] == "unreadable_file"


def test_a_missed_chill_stays_open_and_blocks_release(
    cook: Desk, lead: Desk, batch_id: str, clock: TestClock, data: Path
) -> None:
    to_chill(cook, batch_id, clock, data)
    slow_chill(cook, batch_id, clock)
    for minutes, value in ((60, 52.0), (120, 38.0)):
        clock.forward(minutes)
        log(cook, batch_id, clock, "chill", "core", value)
    view = cook.get(f"/batches/{batch_id}").json()
    assert [d["cause"] for d in view["deviations"]] == ["forecast"]  # seen coming and come: one, decided on once
    assert cooling(view)["verdict"]["state"] == "fail"
    for deviation in view["deviations"]:
        lead.post(
            f"/batches/{batch_id}/deviations/{deviation['deviation']}/decision",
            {"decision": "discard", "reason": "too long warm"},
        )
    body = {"reason": "too long warm", "password": PASSWORDS["lead"]}
    assert lead.post(f"/batches/{batch_id}/countersignature", {**body, "decision": "release"}).status_code == 409
    assert lead.post(f"/batches/{batch_id}/countersignature", {**body, "decision": "discard"}).status_code == 200


def test_the_shift_puts_trouble_first(cook: Desk, batch_id: str, clock: TestClock, data: Path) -> None:
    to_chill(cook, batch_id, clock, data)
    slow_chill(cook, batch_id, clock)
    shift = cook.get("/shift").json()
    assert shift["next"][0]["kind"] == "trouble"
    assert "Will miss 21 °C" in shift["lanes"][0]["words"]


@pytest.mark.parametrize("text", ["=1+1", "+1", "-1", "@x", "\tx", "\rx"])
def test_no_cell_is_a_formula(text: str) -> None:
    assert str(harmless(text)).startswith("'")
    assert harmless(-1.5) == -1.5


def test_formula_in_a_note_is_harmless_in_the_csv(cook: Desk, batch_id: str, clock: TestClock) -> None:
    log(cook, batch_id, clock, "cook", "bath", 62.6, note='=HYPERLINK("http://x")')
    assert "'=HYPERLINK" in cook.get(f"/batches/{batch_id}/record.csv").text


def test_the_csv_is_in_its_readers_language(cook: Desk, batch_id: str, clock: TestClock) -> None:
    log(cook, batch_id, clock, "cook", "bath", 62.6)
    keys = cook.get(f"/batches/{batch_id}/record.csv").text
    assert all(key in keys for key in ("reading_logged", "step_started", ",bath,", ",cook,"))
    cook.client.put("/api/session/manners", json={"language": "es"})
    said = cook.get(f"/batches/{batch_id}/record.csv").text
    assert all(word in said for word in ("lectura anotada", "paso empezado", ",baño,", ",cocinero,", "tipo"))
    assert not [key for key in ("reading_logged", "step_started", ",bath,") if key in said]


def test_a_batch_needs_a_signed_plan_and_a_past_start(cook: Desk, lead: Desk, plan_id: str, clock: TestClock) -> None:
    unsigned = lead.post("/plans", {"name": "x", "rule_set": "us"}).json()["plan_id"]
    assert cook.post("/batches", {"plan_id": unsigned, "packs": 6}).status_code == 404
    assert (
        cook.post("/batches", {"plan_id": plan_id, "packs": 0}).json()["sentence"]
        == "Number of packs must be at least 1."
    )
    assert cook.post("/batches", {"plan_id": plan_id, "packs": 6, "at": "2027-01-01T00:00:00Z"}).status_code == 422


def test_a_chill_under_way_asks_the_bench(cook: Desk, batch_id: str, clock: TestClock, data: Path) -> None:
    assert cook.get(f"/batches/{batch_id}/questions").json() == []  # the bath runs, no chill yet
    to_chill(cook, batch_id, clock, data)
    assert cook.get(f"/batches/{batch_id}/questions").json() == []  # no reading yet
    slow_chill(cook, batch_id, clock)
    asked = cook.get(f"/batches/{batch_id}/questions").json()
    assert [each["family"] for each in asked] == ["fit"]
    assert [row["core_c"] for row in asked[0]["question"]["readings"]] == [62.2, 61.0]
    found = cook.post("/bench/fit", asked[0]["question"]).json()
    assert found["state"] == "would_fail"  # as the batch itself forecasts
    assert cooling(cook.get(f"/batches/{batch_id}").json())["forecast"]["misses"]


def test_the_ledger_says_every_kind_of_record_in_words(cook: Desk, batch_id: str, clock: TestClock, data: Path) -> None:
    to_chill(cook, batch_id, clock, data)
    slow_chill(cook, batch_id, clock)
    rows = cook.get("/ledger").json()["items"]
    rows = rows["rows"] if isinstance(rows, dict) else rows
    said = {row["kind"]: row["words"] for row in rows}
    assert said["batch_started"].startswith("B-101, 6 packs")
    assert said["trace_attached"] == "Bath: thigh-bath-63c.csv from Logger L-07"
    assert "core temperature 6" in said["reading_logged"]
    assert "D1" in said["deviation_opened"]


def test_labels_are_printed_by_the_kitchen_alone_and_recorded(
    cook: Desk, lead: Desk, sit: Callable[[str], Desk], batch_id: str
) -> None:
    label = cook.get(f"/batches/{batch_id}/label").json()
    assert (label["code"], label["released"], label["use_by"]) == ("B-101", False, None)
    keys = [sheet["key"] for sheet in cook.get("/label-sheets").json()]
    for key in keys:
        reply = cook.get(f"/batches/{batch_id}/labels.pdf", sheet=key, count=3, first=99)
        assert reply.status_code == 200, reply.text
        texts = [page.extract_text() for page in PdfReader(io.BytesIO(reply.content)).pages]
        assert sum(text.count("Lot B-101") for text in texts) == 3
    assert cook.get(f"/batches/{batch_id}/labels.pdf", count=501).status_code == 422
    assert cook.get(f"/batches/{batch_id}/labels.pdf", sheet="a9").status_code == 422
    assert sit("reviewer").get(f"/batches/{batch_id}/labels.pdf").status_code == 403
    taken = [row for row in lead.get("/ledger", find="B-101").json()["items"] if row["kind"] == "record_exported"]
    assert len(taken) == len(keys)


def test_the_record_as_a_workbook_has_the_rows_of_the_text(cook: Desk, batch_id: str) -> None:
    text = list(csv.reader(io.StringIO(cook.get(f"/batches/{batch_id}/record.csv").content.decode("utf-8-sig"))))
    book = load_workbook(io.BytesIO(cook.get(f"/batches/{batch_id}/record.xlsx").content)).active
    assert book is not None
    rows = [["" if cell.value is None else str(cell.value) for cell in row] for row in book.iter_rows()]
    assert rows[0] == text[0]
    assert len(rows) == len(text)
    assert [row[:3] for row in rows[1:]] == [row[:3] for row in text[1:]]


def test_the_calendar_holds_the_checks_that_are_open(cook: Desk, batch_id: str) -> None:
    found = Calendar.from_ical(cook.get("/shift/calendar.ics").content)
    checks = cook.get(f"/batches/{batch_id}").json()["checks"]
    checks = [each for each in checks if each["state"] in ("upcoming", "due", "late")]
    told = {str(event["uid"]) for event in found.walk("VEVENT")}
    assert {f"{batch_id}-{check['id']}@brinefrost" for check in checks} <= told
    assert any(name.startswith("instrument-") for name in told)
