"""A batch's record as open files: whole, the same as what is on the screen, and harmless in a spreadsheet."""

import csv
import io
import json
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

import pytest

from brinefrost.core.words import manner_of
from brinefrost.core.words.manner import Manner
from brinefrost.services import keeping, ledgers, running
from brinefrost.services.finding import Asked
from tests.services.conftest import Kitchen
from tests.services.test_starting import finished

NASTY = ["=1+1", "+1+1", "-1+1", "@SUM(A1)", "\t=1", "\r=1", '=HYPERLINK("http://x")', "＝1+1"]


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


@pytest.fixture
def batch(kitchen: Kitchen) -> str:
    return finished(kitchen)


def whole(kitchen: Kitchen, batch: str) -> dict[str, Any]:
    """The JSON, through text and back, as somebody else reads it."""
    made = kitchen.do(lambda store: ledgers.batch_json(store, batch, kitchen.clock.now()))
    return dict(json.loads(json.dumps(made, allow_nan=False)))


def rows(kitchen: Kitchen, batch: str) -> list[dict[str, str]]:
    text = kitchen.do(lambda store: ledgers.batch_csv(store, batch))
    return list(csv.DictReader(io.StringIO(text, newline="")))


def test_the_json_names_its_format_and_holds_every_record_in_order(kitchen: Kitchen, batch: str) -> None:
    record = whole(kitchen, batch)
    assert record["format"] == "brinefrost-record/1"
    assert record["site"] == "Skarn Ridge Observatory"
    seqs = [each["seq"] for each in record["records"]]
    assert seqs == sorted(set(seqs))
    assert record["records"][0]["kind"] == "batch_started"
    kinds = [each["kind"] for each in record["records"]]
    assert kinds.count("reading_logged") == len(record["batch"]["readings"]) == 5
    assert len({each["hash"] for each in record["records"]}) == len(seqs)


def test_every_moment_in_it_bears_its_zone(kitchen: Kitchen, batch: str) -> None:
    def moments(value: Any, name: str = "") -> list[str]:
        if isinstance(value, dict):
            return [found for key, each in value.items() for found in moments(each, key)]
        if isinstance(value, list):
            return [found for each in value for found in moments(each, name)]
        return [value] if isinstance(value, str) and (name.endswith("_at") or name == "at") else []

    found = moments(whole(kitchen, batch))
    assert len(found) > 20
    assert all(datetime.fromisoformat(each).tzinfo is not None for each in found)


def test_a_sentence_is_kept_with_its_code_and_numbers_not_only_in_english(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    (opened,) = (r for r in whole(kitchen, batch)["records"] if r["kind"] == "deviation_opened")
    sentence = opened["body"]["sentence"]
    assert set(sentence) == {"code", "params", "text"}
    assert "21 °C" in sentence["text"]


def test_readings_by_hand_and_their_limits_say_what_the_screen_says(kitchen: Kitchen, batch: str) -> None:
    record, view = whole(kitchen, batch)["batch"], kitchen.view(batch)
    assert [r["value"] for r in record["readings"]] == [r.value for r in view.readings]
    assert [s["verdict"]["state"] for s in record["limits"]] == [s.verdict.state for s in view.limits]
    assert record["code"] == view.code


def test_the_table_has_a_row_for_every_record(kitchen: Kitchen, batch: str) -> None:
    record, table = whole(kitchen, batch), rows(kitchen, batch)
    assert len(table) == len(record["records"])
    hashes = [each["hash"] for each in record["records"]]
    assert [hashes[i] in row.values() for i, row in enumerate(table)] == [True] * len(table)
    read = [row for row in table if "reading_logged" in row.values()]
    assert {"62.0", "40.0", "22.0", "12.0", "4.0"} <= {cell for row in read for cell in row.values()}


def test_the_table_opens_in_another_language_with_the_same_numbers(kitchen: Kitchen, batch: str) -> None:
    plain = kitchen.do(lambda store: ledgers.batch_csv(store, batch))
    with manner_of(Manner("es", "°F", "in", "oz")):
        spanish = kitchen.do(lambda store: ledgers.batch_csv(store, batch))
    head, other = plain.splitlines()[0], spanish.splitlines()[0]
    assert head != other
    assert len(next(csv.reader([head]))) == len(next(csv.reader([other])))
    cells = {cell for row in csv.reader(io.StringIO(spanish, newline="")) for cell in row}
    assert "40.0" in cells  # a record keeps the unit it was written in
    assert "104.0" not in cells


@pytest.mark.parametrize("text", NASTY)
def test_whatever_somebody_writes_no_cell_is_a_formula(kitchen: Kitchen, text: str) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(3)
    kitchen.log(batch, "cook", 62.8, quantity="bath", note=text)
    action = running.ActionEntry(step="cook", action=text + " and more")
    kitchen.do(lambda store: running.record_action(store, kitchen.people["cook"], kitchen.clock.now(), batch, action))
    for row in rows(kitchen, batch):
        for cell in row.values():
            assert not cell.startswith(("=", "+", "@", "\t", "\r", "＝")), cell
            if cell.startswith("-"):
                float(cell)  # a number below nought is one


def test_a_name_with_commas_quotes_and_lines_stays_in_its_cell(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(3)
    note = 'He said "hot", then\nleft; 62,8 °C, or so'
    kitchen.log(batch, "cook", 62.8, quantity="bath", note=note)
    table = rows(kitchen, batch)
    assert any(note in row.values() for row in table)
    assert len({len(row) for row in table}) == 1
    assert None not in table[0]


def test_what_was_corrected_stands_beside_what_corrects_it(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(3)
    kitchen.log(batch, "cook", 26.8, quantity="bath", confirmed=True)
    (wrong,) = kitchen.view(batch).readings
    kitchen.log(batch, "cook", 62.8, quantity="bath", corrects=wrong.reading)
    record = whole(kitchen, batch)["batch"]
    assert [r["corrected_by"] is None for r in record["readings"]] == [False, True]
    assert record["readings"][1]["corrects"] == wrong.reading
    table = rows(kitchen, batch)
    assert any(wrong.reading in row.values() and "62.8" in row.values() for row in table)


def test_what_is_printed_is_asked_for_once(kitchen: Kitchen, batch: str) -> None:
    printed = kitchen.do(lambda store: ledgers.for_print(store, batch, kitchen.clock.now()))
    assert printed.view == kitchen.view(batch)
    assert printed.signed.version == 1
    assert printed.head.seq >= len(whole(kitchen, batch)["records"])
    assert {each.name for each in printed.instruments} >= {"Probe 2", "Logger L-07"}


def test_the_table_says_when_it_was_read_and_at_which_step_by_name(kitchen: Kitchen, batch: str) -> None:
    """What is typed half an hour later was read when it was read, in kitchen time; steps are named, not numbered."""
    zone = ZoneInfo(kitchen.do(lambda store: store.site.read().zone))
    named = {row["step"] for row in rows(kitchen, batch) if row["step"]}
    plan = kitchen.do(lambda store: keeping.load(store, batch).plan)
    assert named <= {step.name for step in plan.steps}
    taken = [row for row in rows(kitchen, batch) if row["taken_at"]]
    assert taken
    for row in taken:
        there = datetime.fromisoformat(row["taken_at"]).astimezone(zone)
        assert row["kitchen_time"] == there.strftime("%Y-%m-%d %H:%M:%S")


def test_the_ledger_names_steps(kitchen: Kitchen, batch: str) -> None:
    found = kitchen.do(lambda store: ledgers.search(store, Asked(), None, 50, ("reading_logged",)))
    plan = kitchen.do(lambda store: keeping.load(store, batch).plan)
    assert found
    for record in found:
        assert any(str(record.words).startswith(step.name) for step in plan.steps)
