"""Rows of the Bench from the made-up logger files: the right channel and clock, bounded, and what they lead to."""

from datetime import date
from pathlib import Path
from typing import Any

import pytest

from brinefrost.core.bench.families import FAMILIES, answer, presets
from brinefrost.core.bench.from_file import MOST_ROWS, FileRows, rows_from
from brinefrost.core.errors import NotFoundError, UnreadableFileError
from brinefrost.core.traces import Trace, TraceOptions, read_trace

DATA = Path(__file__).parents[1] / "data"
TODAY = date(2026, 11, 25)


def trace(name: str) -> Trace:
    return read_trace((DATA / name).read_bytes(), TraceOptions(), "Europe/Zurich")


def asked(family: str, found: FileRows, field: str, **more: Any) -> Any:
    opening = presets(TODAY)[family][0][1].model_dump()
    question = FAMILIES[family].question.model_validate({**opening, **more, field: found.rows})
    return answer(family, question, TODAY)


def test_a_bath_cook_is_judged_on_its_file() -> None:
    found = rows_from(trace("thigh-bath-63c.csv"), "kill", "readings")
    assert (found.channel, found.channels, found.read) == ("core_c", ("core_c",), 181)  # the bath is no core
    assert len(found.rows) == MOST_ROWS
    assert found.rows[0] == {"time_s": 0.0, "core_c": 4.07}
    assert found.rows[-1]["time_s"] >= 179 * 60
    assert "only the coldest" in found.doubts[0]
    assert asked("kill", found, "readings", way="trace").state == "pass"


def test_the_bath_of_the_same_file_surrounds_a_piece() -> None:
    found = rows_from(trace("thigh-bath-63c.csv"), "heat", "recorded")
    assert found.channel == "bath_c"  # what surrounds the food, not its core
    swapped = rows_from(trace("thigh-bath-63c.csv"), "heat", "recorded", "core_c")
    assert swapped.channel == "core_c"
    about = asked("heat", found, "recorded", thickness_m=0.028, shape="slab", food="poultry", start_c=4)
    assert about.state == "would_fail"  # the US line for poultry is 74 °C; its 7-log table needs approval
    table: dict[str, Any] = {"approved": True, "target": "salmonella_poultry"}
    about = asked("heat", found, "recorded", thickness_m=0.028, shape="slab", food="poultry", start_c=4, **table)
    assert about.state == "would_meet"


def test_a_chill_that_stalls_is_carried_on() -> None:
    found = rows_from(trace("stew-chill-stall.csv"), "fit", "readings")
    assert len(found.rows) <= 60  # what the field takes
    warmest = max(row["core_c"] for row in found.rows)
    rows = [row for row in found.rows if row["time_s"] > 0]
    answered = asked(
        "fit", found.model_copy(update={"rows": tuple(rows)}), "readings", start_c=warmest, surroundings_c=1
    )
    assert answered.state == "would_fail"


def test_a_ferment_brings_its_temperature_along() -> None:
    found = rows_from(trace("kraut-ph.csv"), "ferment", "readings")
    assert found.channel == "pH"
    assert found.rows[0]["day"] == 0
    assert found.rows[1]["day"] == pytest.approx(1 + 1 / 1440, abs=1e-3)
    assert [found.rows[i]["temperature_c"] for i in range(3)] == [19.7, 19.4, 18.8]
    assert asked("ferment", found, "readings").state == "pass"


def test_air_in_fahrenheit_and_epochs() -> None:
    warm = rows_from(trace("confit-overnight-f.tsv"), "kill", "readings")
    assert warm.rows[0]["core_c"] == pytest.approx((40.9 - 32) / 1.8, abs=0.01)  # NIST: 32 °F is 0 °C, 1.8 °F a degree
    assert "does not say what it measured" in warm.doubts[0]
    air = rows_from(trace("walk-in-six-days.csv"), "heat", "recorded")
    assert (air.channel, air.rows[0]["temperature_c"]) == ("air_c", 3.26)


def test_what_does_not_fit_is_refused_or_counted() -> None:
    with pytest.raises(UnreadableFileError, match="need a pH"):
        rows_from(trace("thigh-bath-63c.csv"), "ferment", "readings")
    with pytest.raises(NotFoundError):
        rows_from(trace("kraut-ph.csv"), "dates", "frozen")
    with pytest.raises(NotFoundError):
        rows_from(trace("kraut-ph.csv"), "kill", "no_such_rows")
    with pytest.raises(NotFoundError):
        rows_from(trace("kraut-ph.csv"), "weather", "readings")
    spiked = trace("thigh-bath-63c.csv")
    core = spiked.channels[0]
    hot = core.model_copy(update={"values": (640.0, *core.values[1:])})
    found = rows_from(spiked.model_copy(update={"channels": (hot,)}), "kill", "readings")
    assert found.left_out == 1
    lost = core.model_copy(update={"values": tuple(640.0 for _ in core.values)})
    with pytest.raises(UnreadableFileError, match="No reading"):
        rows_from(spiked.model_copy(update={"channels": (lost,)}), "kill", "readings")


def test_no_core_in_the_file_is_no_core_on_the_bench() -> None:
    """Air is cold or hot before the core is: judged as the core it would pass what nobody measured."""
    for family, field in (("kill", "readings"), ("fit", "readings"), ("fish", "record")):
        with pytest.raises(UnreadableFileError, match="need a core temperature"):
            rows_from(trace("walk-in-six-days.csv"), family, field)


def test_thinning_never_hides_a_dip_nor_a_thaw() -> None:
    """Of a thousand readings one is bad: where they are judged as measured, it is among those kept."""
    long = trace("thigh-bath-63c.csv")
    core = long.channels[0]
    times = tuple(core.times_s[0] + 30.0 * i for i in range(1000))
    for bad in (0, 1, 357, 999):
        dipped = core.model_copy(
            update={"times_s": times, "values": tuple(40.0 if i == bad else 63.0 for i in range(1000))}
        )
        found = rows_from(long.model_copy(update={"channels": (dipped,)}), "kill", "readings")
        assert min(row["core_c"] for row in found.rows) == 40.0
        thawed = core.model_copy(
            update={"times_s": times, "values": tuple(-5.0 if i == bad else -22.0 for i in range(1000))}
        )
        record = rows_from(long.model_copy(update={"channels": (thawed,)}), "fish", "record")
        assert max(row["temperature_c"] for row in record.rows) == -5.0
