"""Logger files: the five dialects, and what must be refused."""

from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from brinefrost.core.errors import UnreadableFileError
from brinefrost.core.limits import Lethality
from brinefrost.core.physics.lethality import lethality_min
from brinefrost.core.rules import rule_set
from brinefrost.core.traces import LARGEST_BYTES, TraceOptions, read_trace

DATA = Path(__file__).parent.parent / "data"
ZONE = "Europe/Zurich"


def read(name: str, **options: object):  # type: ignore[no-untyped-def]
    return read_trace((DATA / name).read_bytes(), TraceOptions.model_validate(options), ZONE)


def test_iso_two_channels() -> None:
    trace = read("thigh-bath-63c.csv")
    assert [(c.name, c.quantity, len(c.values)) for c in trace.channels] == [
        ("core_c", "core", 181),
        ("bath_c", "bath", 181),
    ]
    assert datetime.fromtimestamp(trace.first_s, UTC) == datetime(2026, 11, 17, 8, 30, tzinfo=UTC)
    assert trace.interval_s == 60
    assert trace.notes == ()


def test_lethality_of_the_trace_by_both_rule_sets() -> None:
    """The trace's own numbers, integrated a second way (small steps), meet both targets."""
    core = read("thigh-bath-63c.csv").channel("core")
    times, values = np.array(core.times_s), np.array(core.values)
    for rules in ("us", "uk"):
        limit = next(e.limit for e in rule_set(rules).entries_for("cook.poultry") if isinstance(e.limit, Lethality))
        law = limit.model.law()
        fine = np.linspace(times[0], times[-1], 400_001)
        rough = np.trapezoid(law.rate(np.interp(fine, times, values)), fine) / 60
        got = lethality_min(law, times, values)[-1]
        assert got == pytest.approx(rough, rel=1e-4)
        assert got > law.goal_min


def test_preamble_semicolons_decimal_comma_day_first() -> None:
    trace = read("stew-chill-stall.csv")
    assert len(trace.channels) == 1
    assert trace.channels[0].values[0] == 77.8
    assert datetime.fromtimestamp(trace.first_s, UTC) == datetime(2026, 11, 18, 13, 5, tzinfo=UTC)  # 14:05 in Zurich
    said = {a.about: a for a in trace.assumptions}
    assert not said["zone"].certain
    assert not said["channel"].certain
    assert said["decimal"].certain


def test_fahrenheit_month_first_gap_error_word_and_spike() -> None:
    trace = read("confit-overnight-f.tsv", quantities={"Channel A (F)": "core"})
    core = trace.channel("core")
    assert core is not None
    assert core.values[0] == pytest.approx((40.9 - 32) / 1.8, abs=1e-3)
    assert max(core.values) < 90
    notes = " ".join(trace.notes)
    assert "SENSOR ERR" in notes
    assert "spike" in notes
    assert "35 min" in notes
    assert datetime.fromtimestamp(trace.first_s, UTC).day == 19


def test_epoch_seconds() -> None:
    trace = read("walk-in-six-days.csv")
    assert trace.channels[0].quantity == "air"
    assert datetime.fromtimestamp(trace.first_s, UTC) == datetime(2026, 11, 16, tzinfo=UTC)


def test_ferment_log_has_no_core() -> None:
    trace = read("kraut-ph.csv")
    assert [c.quantity for c in trace.channels] == ["ph", "unknown", "salt"]
    assert trace.channel("core") is None


def test_corrections_are_taken() -> None:
    text = b"when,temp\n03/04/2026 10:00,145\n03/04/2026 10:01,146\n"
    guess = read_trace(text, TraceOptions(), ZONE)
    assert datetime.fromtimestamp(guess.first_s, UTC).month == 4
    assert any(a.about == "dates" and not a.certain for a in guess.assumptions)
    told = read_trace(
        text, TraceOptions(date_order="month_first", units={"temp": "°F"}, zone="UTC", shift_s=3600), ZONE
    )
    assert datetime.fromtimestamp(told.first_s, UTC) == datetime(
        2026, 3, 4, 11, 0, tzinfo=UTC
    )  # 10:00 moved by the hour
    assert told.channels[0].values[0] == pytest.approx(62.78, abs=0.01)
    assert told.channels[0].times_s[0] - told.first_s == pytest.approx(0)


def test_clock_change_is_named() -> None:
    rows = "\n".join(f"25/10/2026;02:{minute:02d}:00;3,{minute % 10}" for minute in range(0, 60, 10))
    trace = read_trace(f"Date;Time;air [°C]\n{rows}\n".encode(), TraceOptions(), ZONE)
    assert any("clock change" in note for note in trace.notes)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"  \n\n", "empty"),
        (b"\x89PNG\r\n\x1a\n" + bytes(200), "not a text file"),
        (b"PK\x03\x04" + bytes(500), "not a text file"),
        (bytes(range(256)) * 40, "not a text file"),
        (b"hello\nworld\n", "No table"),
        (b"name,colour\nbath 1,red 3\nbath 2,blue 4\n", "No table|No column of dates"),
        (b"2026-11-17T08:30:00Z,ok\n2026-11-17T08:31:00Z,ok\n2026-11-17T08:32:00Z,ok\n", "no column of readings"),
        (b"x" * (LARGEST_BYTES + 1), "the most is 8 MB"),
    ],
)
def test_refusals_say_what_to_do(content: bytes, words: str) -> None:
    with pytest.raises(UnreadableFileError, match=words):
        read_trace(content, TraceOptions(), ZONE)


def test_unknown_zone_is_refused() -> None:
    with pytest.raises(UnreadableFileError, match="zone"):
        read_trace(b"a,b\n01/02/2026 10:00,1.5\n01/02/2026 10:01,1.6\n", TraceOptions(zone="Mars/Base"), ZONE)


@given(st.binary(max_size=600))
def test_any_bytes_are_read_or_refused(content: bytes) -> None:
    """Never another error than a refusal with a sentence."""
    with suppress(UnreadableFileError):
        read_trace(content, TraceOptions(), ZONE)


def night_of_the_change(form: str, newest_first: bool = False) -> list[str]:
    """A reading every quarter of an hour from 01:30 to 03:15, with the hour from two that comes twice in Zurich."""
    clock = [(1, 30), (1, 45), *[(2, m) for m in (0, 15, 30, 45)] * 2, (3, 0), (3, 15)]
    rows = [f"{form.format(h=h, m=m)},{60 - 3 * i}" for i, (h, m) in enumerate(clock)]
    return rows[::-1] if newest_first else rows


@pytest.mark.parametrize("form", ["2026-10-25 {h:02}:{m:02}:00", "25.10.2026 {h:02}:{m:02}:00"])
@pytest.mark.parametrize("newest_first", [False, True])
def test_the_hour_that_comes_twice_is_read_in_the_order_of_the_file(form: str, newest_first: bool) -> None:
    """CET begins on the last Sunday of October at 03:00 CEST (directive 2000/84/EC)."""
    file = "\n".join(["time,core °C", *night_of_the_change(form, newest_first)])
    trace = read_trace(file.encode(), TraceOptions(), "Europe/Zurich")
    times = np.array(trace.channels[0].times_s)
    assert np.diff(times) == pytest.approx(900)
    assert trace.channels[0].values == tuple(60.0 - 3 * i for i in range(12))
    assert not trace.notes


def test_a_file_that_lies_within_the_doubled_hours_keeps_its_order() -> None:
    clock = [(2, 30), (2, 40), (2, 50), (2, 0), (2, 10), (2, 20)]  # its last clock time is before its first
    rows = ["time,core °C", *(f"2026-10-25 {h:02}:{m:02}:00,{60 - 3 * i}" for i, (h, m) in enumerate(clock))]
    trace = read_trace("\n".join(rows).encode(), TraceOptions(), "Europe/Zurich")
    assert np.diff(trace.channels[0].times_s) == pytest.approx(600)
    assert trace.channels[0].values == tuple(60.0 - 3 * i for i in range(6))


def test_one_round_of_the_doubled_hour_is_taken_as_the_first_and_said() -> None:
    rows = ["time,core °C", *(f"2026-10-25 02:{m:02}:00,{60 - m}" for m in (0, 15, 30, 45))]
    trace = read_trace("\n".join(rows).encode(), TraceOptions(), "Europe/Zurich")
    assert any("clock change" in note for note in trace.notes)


def test_of_two_readings_at_one_time_both_stay_and_the_worse_counts() -> None:
    rows = ["time,core °C", *(f"2026-11-17 10:0{m}:00,{20 + i}" for i, m in enumerate((0, 1, 1, 2, 3)))]
    trace = read_trace("\n".join(rows).encode(), TraceOptions(), "UTC")
    channel = trace.channels[0]
    assert channel.once(highest=True)[1] == (20, 22, 23, 24)
    assert channel.once(highest=False)[1] == (20, 21, 23, 24)
    assert any("1 reading at a time" in note for note in trace.notes)


@pytest.mark.parametrize(
    ("name", "quantity"),
    [
        ("Bath probe (°C)", "bath"), ("Oven probe (°C)", "bath"), ("Air probe (°C)", "air"), ("Probe 1 (Air)", "air"),
        ("Foodservice fridge (°C)", "air"), ("pH probe", "ph"), ("Core 2", "core"), ("Probe 1", "core"),
        ("Kern", "core"), ("cœur °C", "core"), ("T° centro", "core"), ("produit", "core"), ("Eau du bain", "bath"),
        ("Cámara 2 (°C)", "air"), ("Horno", "bath"), ("中心温度", "core"), ("冷库", "air"), ("水浴探针", "bath"),
        ("Chair", "unknown"), ("Hair dryer", "unknown"), ("Temp", "unknown"),
        # what two words dispute is nobody's to guess
        ("Chamber meat probe", "unknown"), ("Oven meat rack air (C)", "unknown"), ("Meat fridge air (°C)", "unknown"),
        ("Food store ambient (°C)", "unknown"),
    ],
)  # fmt: skip
def test_what_stands_around_the_food_comes_before_the_probe(name: str, quantity: str) -> None:
    rows = [f"time,{name}", *(f"2026-11-17 10:0{m}:00,{20 + m}" for m in range(4))]
    assert [c.quantity for c in read_trace("\n".join(rows).encode(), TraceOptions(), "UTC").channels] == [quantity]


def test_columns_of_one_name_can_be_told_apart() -> None:
    rows = ["time,Temp,Temp", *(f"2026-11-17 10:0{m}:00,{20 + m},{40 + m}" for m in range(4))]
    options = TraceOptions(quantities={"Temp (2)": "core"})
    trace = read_trace("\n".join(rows).encode(), options, "UTC")
    assert [(c.name, c.quantity) for c in trace.channels] == [("Temp", "unknown"), ("Temp (2)", "core")]


def test_a_column_of_sensor_names_parts_the_rows_into_channels() -> None:
    """Row by row, thin pan, thick pan and air under one title."""
    rows = ["time;sensor;value (°C)"]
    for m in range(6):
        rows += [f"2026-11-17 10:{m:02}:00;{who};{value - m}" for who, value in (("Core thin", 40), ("Core thick", 57))]
        rows.append(f"2026-11-17 10:{m:02}:00;Air;3")
    trace = read_trace("\n".join(rows).encode(), TraceOptions(), "UTC")
    assert {c.name.split(" (")[0]: (c.quantity, c.values[0]) for c in trace.channels} == {
        "Core thin": ("core", 40.0), "Core thick": ("core", 57.0), "Air": ("air", 3.0),
    }  # fmt: skip
    assert all(len(c.values) == 6 for c in trace.channels)


def test_a_quoted_decimal_comma_between_commas_is_read() -> None:
    """RFC 4180, 2.6: a cell with a comma stands within quotation marks."""
    rows = ["time,core °C", *(f'"2026-07-02T10:0{m}:00Z","6{m},50"' for m in range(4))]
    trace = read_trace("\n".join(rows).encode(), TraceOptions(), "UTC")
    assert trace.channels[0].values == (60.5, 61.5, 62.5, 63.5)
    assert trace.channels[0].name == "core °C"


def test_a_day_at_one_a_second_is_thinned_with_its_extremes() -> None:
    begin, n = datetime(2026, 7, 2, tzinfo=UTC).timestamp(), 86_400
    values = 3.0 + np.sin(np.arange(n) / 900.0)
    values[40_000], values[70_000:70_030] = 9.5, 7.7
    lines = ["epoch,air °C,core °C", *(f"{begin + i:.0f},{v:.2f},{v - 1:.2f}" for i, v in enumerate(values))]
    trace = read_trace("\n".join(lines).encode(), TraceOptions(), "UTC")
    air = trace.channels[0]
    assert len(air.values) <= 12_000
    assert max(air.values) >= 7.7
    assert min(air.values) == pytest.approx(values.min(), abs=0.01)
    assert max(np.diff(air.times_s)) <= air.stretch_s <= 60
    assert any("86400" in note.replace(",", "") for note in trace.notes)


def test_times_that_do_not_exist_in_the_zone_are_a_question() -> None:
    """London's clocks go forward at 01:00 on 29 March 2026: a logger on winter time writes an hour that never was."""
    rows = [
        "time,core °C",
        *(f"2026-03-29 {h:02}:{m:02}:00,{60 - h * 4 - m / 15}" for h in (0, 1, 2) for m in (0, 20, 40)),
    ]
    there = read_trace("\n".join(rows).encode(), TraceOptions(), "Europe/London")
    assert len(there.questions) == 1
    assert "01:00" in there.questions[0]
    assert read_trace("\n".join(rows).encode(), TraceOptions(zone="UTC"), "Europe/London").questions == ()
    assert read_trace("\n".join(rows).encode(), TraceOptions(), "Asia/Tokyo").questions == ()
