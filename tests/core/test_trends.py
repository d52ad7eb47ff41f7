"""Readings that draw near to something are carried on: what is held hot and cools, what sours, what freezes."""

from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
import pytest

from brinefrost.core.limits import Hold, Series, forecast_of
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.plans.balance import way_of, way_through
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.events import BatchStarted, ReadingLogged, Recorded, StepStarted
from brinefrost.core.runs.judging import LimitStatus, judge
from brinefrost.core.runs.measured import measured_leg
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.steps.food import Piece
from brinefrost.core.steps.state import Evidence
from brinefrost.core.steps.trend import approach, level
from brinefrost.core.working import Source
from brinefrost.demo.weighing import decided

START = datetime(2026, 11, 17, 8, 0, tzinfo=UTC)


def batch_of(key: str, step: str, quantity: ReadingQuantity, unit: str, *read: tuple[float, float]) -> Batch:
    """A batch of a template with a step under way, and its readings by the hour."""
    made = template(key)
    plan = with_controls(decided(made.plan(made.name, "us")))
    events = [
        BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START),
        StepStarted(step=step, at=START),
        *(
            ReadingLogged(
                reading=f"r{hours}", step=step, quantity=quantity, value=value, unit=unit,
                taken_at=START + timedelta(hours=hours), instrument="i", instrument_name="I", uncertainty=0.2,
            )
            for hours, value in read
        ),
    ]  # fmt: skip
    rows = [
        Recorded(seq=n, actor_id="a", actor_name="A", actor_role="cook", recorded_at=START, event=event)
        for n, event in enumerate(events, 1)
    ]
    return fold(plan, rows)


def status(batch: Batch, step: str, hours: float) -> LimitStatus:
    return next(each for each in judge(batch, START + timedelta(hours=hours)).statuses if each.step == step)


def seen(*read: tuple[float, float], doubt: float = 0.1) -> Evidence:
    times, values = np.array([3600 * hours for hours, _ in read]), np.array([value for _, value in read])
    return Evidence(Series(times, values, doubt, 0.0), float(times[-1]))


def test_a_fall_towards_the_room_is_newtons() -> None:
    """80 to 50 °C in a room of 20 °C in an hour: half of what is above it every hour, so 35 °C after the next."""
    found = approach(seen((0, 80), (1, 50)), 20.0, 3600.0, "°C")
    assert found
    assert found.expected[-1] == pytest.approx(35.0, abs=1e-6)
    assert found.slow[-1] > found.expected[-1] > found.fast[-1]


def test_readings_that_do_not_move_beyond_their_doubt_lead_nowhere() -> None:
    assert approach(seen((0, 70.0), (1, 69.9)), 20.0, 3600.0, "°C") is None
    assert approach(seen((0, 70.0), (1, 71.0)), 20.0, 3600.0, "°C") is None
    assert approach(seen((0, 70.0)), 20.0, 3600.0, "°C") is None
    assert approach(seen((0, 70.0)), 20.0, 3600.0, "°C", 1e-4) is not None


def test_what_is_held_hot_and_cools_is_seen_coming_with_a_way_out() -> None:
    falling = status(batch_of("hot-hold", "hold", "core", "°C", (0, 84.0), (0.6, 76.0), (1.6, 71.0)), "hold", 1.61)
    assert falling.forecast
    assert falling.forecast.misses
    assert falling.options[0].works
    settling = status(batch_of("hot-hold", "hold", "core", "°C", (0, 84.0), (1, 70.0)), "hold", 1.1)
    assert settling.forecast is None  # it came in hot: one reading since tells no fall
    steady = status(batch_of("hot-hold", "hold", "core", "°C", (0, 70.0), (1, 70.1)), "hold", 1.1)
    assert steady.forecast is None


@pytest.mark.parametrize(
    ("read", "misses"),
    [
        (((0, 6.1), (48, 4.9)), False),
        (((0, 6.1), (48, 5.9)), True),
        (((0, 6.1), (48, 6.1)), True),
        (((12, 5.8),), False),
    ],
    ids=["on its way", "slow", "stands still", "one reading, as the kitchen's own go"],
)
def test_a_ferment_tells_early_whether_it_will_be_sour_in_time(
    read: tuple[tuple[float, float], ...], misses: bool
) -> None:
    found = status(batch_of("kraut", "sour", "ph", "pH", *read), "sour", read[-1][0] + 0.1)
    assert found.forecast
    assert found.forecast.misses is misses


def heated(key: str, step: str, thicker: float, around_c: float, marks_min: tuple[int, ...]) -> tuple[Batch, Series]:
    """A batch under heat whose pieces are thicker than planned, in such surroundings, and its true core."""
    plan = with_controls(decided(template(key).plan("Heat", "us")))
    heat: Any = plan.step(step)
    context = context_at(plan, heat)
    body = Piece(heat.thickness_m * thicker, heat.start_c).body(context.heat())
    true = heat_through(body, [Stage.steady(6 * 3600, around_c, context.h("bath"))], heat.start_c, 30.0)
    read = [(at / 60, round(float(np.interp(at * 60, true.times_s, true.core_c)), 1)) for at in marks_min]
    began = true.times_s + START.timestamp()
    return batch_of(key, step, "core", "°C", *read), Series(began, true.core_c, 0.0, began[0], True, np.inf)


def core_status(batch: Batch, step: str, kind: str, minutes: float) -> LimitStatus:
    found = judge(batch, START + timedelta(minutes=minutes)).statuses
    return next(each for each in found if each.step == step and each.limit.kind == kind)


@pytest.mark.parametrize("thicker", [1.0, 1.2, 1.5])
@pytest.mark.parametrize("marks", [(20,), (20, 30), (20, 40, 60)])
def test_a_heat_under_way_tells_when_its_core_is_there(thicker: float, marks: tuple[int, ...]) -> None:
    """The truth is a thicker piece, computed apart: the time left is told within a sixth, and rather too long."""
    batch, true = heated("thigh", "cook", thicker, 76.0, marks)
    now = marks[-1] + 1.0
    found = core_status(batch, "cook", "hold", now)
    assert found.forecast
    assert not found.forecast.misses
    really = found.limit.met_at_s(true)
    seen_s = found.limit.met_at_s(_expected(batch, "cook", now))
    assert really
    assert seen_s
    left_s, told_s = (at - START.timestamp() - now * 60 for at in (really, seen_s))
    assert told_s == pytest.approx(left_s, rel=1 / 6)
    assert told_s > left_s - 120
    late = really > START.timestamp() + 5400 + 120
    assert ("later than planned" in found.forecast.sentence) is late


def _expected(batch: Batch, step: str, minutes: float) -> Series:
    _, course = judge(batch, START + timedelta(minutes=minutes)).courses[step]
    return Series(course.times_s, course.expected, 0.0, None, True, np.inf)


def test_in_its_lag_a_core_tells_nothing() -> None:
    batch, _ = heated("thigh", "cook", 1.0, 76.0, (4,))
    assert core_status(batch, "cook", "hold", 5).forecast is None


def test_a_bath_too_cool_is_told_with_the_heat_that_would_do() -> None:
    """A bath meant for 76 °C that stands at 66: the core is nearly there and no longer moves."""
    batch, _ = heated("thigh", "cook", 1.0, 66.0, (60, 75, 90, 105))
    found = core_status(batch, "cook", "hold", 106)
    assert found.forecast
    slow = "later than planned" in found.forecast.sentence or found.forecast.misses
    assert slow


def test_what_comes_up_too_slowly_is_told_in_time_and_hotter_is_a_way_out() -> None:
    """A pot of stew whose pieces are four times as thick as planned."""
    batch, true = heated("thigh", "cook", 4.0, 76.0, (60, 90))
    found = core_status(batch, "cook", "come_up", 91)
    assert found.limit.met_at_s(true) is None
    assert found.forecast
    assert found.forecast.misses
    assert [option.changes_course for option in found.options]


def test_nothing_is_gathered_across_a_silence_in_what_is_expected() -> None:
    """Read at 75 °C now and an hour ago, by hand: two minutes at 70 °C are expected from now on, not from then."""
    hold = Hold(id="h", title="70 °C for 2 min", source=Source(citation="made up", tag="common_practice"),
                at_least_c=70, for_s=120)  # fmt: skip
    read = Evidence(Series(np.array([0.0, 3600.0]), np.array([75.0, 75.0]), 0.3, 0.0, longest_gap_s=600), 3600.0)
    told = forecast_of(hold, read.series, level(read, 75.0, 7200.0, "as it is", 121), 3600.0)
    assert not told.misses
    assert "met in 2 min" in told.sentence


@pytest.mark.parametrize(("days", "kg", "late"), [(4.0, 0.75, False), (4.0, 0.9, True)], ids=["as planned", "slowly"])
def test_drying_tells_by_its_weighings_when_it_will_be_dry(days: float, kg: float, late: bool) -> None:
    """A piece that has lost a quarter in four days of fourteen goes as planned; a tenth, and it takes far longer."""
    batch = batch_of("semi-dry-sausage", "dry", "mass", "kg", (0, 1.0), (24 * days, kg))
    found = next(
        each for each in judge(batch, START + timedelta(days=days, hours=1)).statuses if each.limit.quantity == "aw"
    )
    assert found.forecast
    assert not found.forecast.misses
    assert ("later than planned" in found.forecast.sentence) is late


def test_what_is_only_expected_of_a_heat_under_way_kills_nothing_yet() -> None:
    """Three readings, the last of 57 °C in a bath of 76: the way goes on, the kill waits."""
    batch, _ = heated("thigh", "cook", 1.0, 76.0, (20, 25, 30))
    now = START + timedelta(minutes=31)
    sheet = sheet_of_batch(batch, judge(batch, now), now)
    assert sheet.columns[2].curves[-1].basis == "expected"
    cell = next(row for row in sheet.rows if row.key == "salmonella").cells[2]
    assert ">" not in cell.amount
    room = next(limit for limit in sheet.columns[2].limits if limit.standing == "none").room
    assert room.startswith("there in")
    aureus = next(row for row in sheet.rows if row.key == "s-aureus").cells[2]
    planned = next(row for row in sheet_of(batch.plan).rows if row.key == "s-aureus").cells[2]
    assert float(aureus.amount.split()[0]) < 1.5 * float(planned.amount.split()[0])  # it does not stand still at 57 °C


def test_no_kill_is_told_of_the_way_to_the_first_reading_nor_after_the_last() -> None:
    """Two readings a minute apart, an hour in: what lay before and after was not measured, and kills nothing."""
    batch, _ = heated("thigh", "cook", 0.2, 76.0, (60, 61))
    now = START + timedelta(minutes=75)
    planned = next(leg for leg in way_through(batch.plan).legs if leg.step.id == "cook")
    leg = measured_leg(batch, planned, now, judge(batch, now))
    assert (leg.known_from_s, leg.known_s) == (3600, 3660)
    way = way_of(batch.plan, [leg])
    inside = (way.times_s >= 3600) & (way.times_s <= 3660)
    assert np.all(way.counts_c[inside] > 70)
    assert np.all(way.counts_c[~inside] <= 0)
    assert np.max(way.core_c[~inside]) > 70  # it is followed all the same
