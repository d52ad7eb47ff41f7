"""A batch as the fold of its events: schedule, judging, forecast, ways out."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from brinefrost.core.errors import NotFoundError, OutOfRangeError, RefusedError
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.settling import Settling, fit_pace
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch, check_open, check_step_finish, check_step_start, fold
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import checks_of
from tests.kitchen import thigh_plan

START = datetime(2026, 11, 24, 22, 30, tzinfo=UTC)  # the shift crosses midnight
PLAN = thigh_plan()


def at(minutes: float) -> datetime:
    return START + timedelta(minutes=minutes)


def recorded(*events: e.BatchEvent) -> Batch:
    rows = [
        e.Recorded(seq=i, actor_id="a", actor_name="Ama", actor_role="cook", recorded_at=at(0), event=event)
        for i, event in enumerate(events)
    ]
    return fold(PLAN, rows)


def started() -> e.BatchStarted:
    return e.BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=6, at=at(0))


def core(minutes: float, value: float, step: str = "chill", **more: object) -> e.ReadingLogged:
    return e.ReadingLogged.model_validate(
        {
            "reading": f"r{minutes}",
            "step": step,
            "quantity": "core",
            "value": value,
            "unit": "°C",
            "taken_at": at(minutes),
            "instrument": "probe",
            "instrument_name": "Probe",
            "uncertainty": 0.5,
            **more,
        }
    )


def chilling(*readings: tuple[float, float], extra: tuple[e.BatchEvent, ...] = ()) -> Batch:
    steps = (
        e.StepStarted(step="cook", at=at(0)),
        e.StepFinished(step="cook", at=at(120)),
        e.StepStarted(step="chill", at=at(120)),
    )
    return recorded(started(), *steps, *(core(120 + m, v) for m, v in readings), *extra)


def test_the_first_event_starts_a_batch() -> None:
    with pytest.raises(NotFoundError):
        fold(PLAN, [])
    with pytest.raises(NotFoundError):
        recorded(started(), started())


def test_a_correction_points_at_the_old_entry_and_both_stay() -> None:
    batch = chilling((0, 62.0), (15, 6.0), extra=(core(136, 60.0, corrects="r135"),))
    assert len(batch.readings) == 3
    assert [r.logged.value for r in batch.standing_readings("chill")] == [62.0, 60.0]
    assert batch.readings[1].corrected_by == "r136"


def offsets_of(batch: Batch, step: str, check: str) -> tuple[float, ...]:
    return next(each for each in monitored_steps(batch.plan)[step].monitoring if each.id == check).offsets_s


def test_schedule_crosses_midnight_and_knows_done_due_late() -> None:
    batch = chilling((0, 62.0))
    checks = [c for c in checks_of(batch, at(138)) if c.step == "chill" and c.monitoring == "core"]
    asked = offsets_of(batch, "chill", "core")
    assert [c.due_at for c in checks] == [at(120 + each / 60) for each in asked]
    second = 120 + asked[1] / 60
    due, late = (
        [c.state for c in checks_of(batch, at(second + after)) if c.step == "chill" and c.monitoring == "core"]
        for after in (3, 13)
    )
    assert due[:2] == ["done", "due"]
    assert set(due[3:]) == {"upcoming"}
    assert late[1] == "late"
    assert checks[-1].due_at.day == 25


def test_planned_steps_have_clock_times_before_they_begin() -> None:
    batch = recorded(started())
    checks = checks_of(batch, at(0))
    assert all(check.planned for check in checks)
    assert {check.step for check in checks} == {"receive", "cook", "chill", "keep", "reheat"}


def test_missed_checks_show_once_the_step_is_over() -> None:
    batch = chilling((0, 62.0), (30, 20.0), extra=(e.StepFinished(step="chill", at=at(165)),))
    states = {c.due_at: c.state for c in checks_of(batch, at(170)) if c.step == "chill" and c.monitoring == "core"}
    assert states[at(120 + offsets_of(batch, "chill", "core")[2] / 60)] == "missed"


def test_step_order_is_kept() -> None:
    batch = recorded(started(), e.StepStarted(step="receive", at=at(1)))
    check_step_start(batch, "cook", at(5))  # sealing is not critical and may be passed over
    with pytest.raises(RefusedError, match="cannot begin yet"):
        check_step_start(batch, "chill", at(5))
    with pytest.raises(RefusedError, match="already begun"):
        check_step_start(batch, "receive", at(5))
    with pytest.raises(RefusedError, match="before what came ahead"):
        check_step_start(batch, "cook", at(-5))
    with pytest.raises(RefusedError, match="has not begun"):
        check_step_finish(batch, "cook", at(5))
    closed = recorded(started(), e.BatchCountersigned(decision="discard", reason="x", at=at(2)))
    with pytest.raises(RefusedError, match="closed"):
        check_open(closed)


def cooling_status(batch: Batch, now: datetime):  # type: ignore[no-untyped-def]
    return next(s for s in judge(batch, now).statuses if s.limit.kind == "cooling")


@pytest.mark.parametrize(("minutes", "state"), [(175.0, "pending"), (186.0, "fail")])
def test_food_already_below_the_hot_line_has_been_falling_since_it_left_its_heat(minutes: float, state: str) -> None:
    """An hour and a half in hands between bath and slurry: its 2 h to 21 °C began when it was taken out, at 60 min."""
    steps = (
        e.StepStarted(step="cook", at=at(0)),
        e.StepFinished(step="cook", at=at(60)),
        e.StepStarted(step="chill", at=at(150)),
    )
    read = [core(150, 40.0), core(160, 33.0), core(170, 26.0), core(minutes, 20.5)]
    assert cooling_status(recorded(started(), *steps, *read), at(minutes + 1)).verdict.state == state


def test_a_normal_chill_is_on_course_and_then_met() -> None:
    # values of the planned chill itself, computed with half the slurry coefficient: slower, still fine
    batch = chilling((0, 62.5), (10, 41.0), (20, 23.0))
    status = cooling_status(batch, at(141))
    assert status.forecast is not None
    assert not status.forecast.misses
    done = chilling((0, 62.5), (10, 41.0), (20, 20.0), (45, 4.0))
    assert cooling_status(done, at(170)).verdict.state == "pass"


def test_trouble_is_announced_long_before_the_mark() -> None:
    batch = chilling((0, 62.5), (15, 62.3), (30, 61.0))
    status = cooling_status(batch, at(151))
    assert status.verdict.state == "pending"
    assert status.forecast.misses
    assert status.forecast.stages[0].late_by_s > 600
    assert status.options[0].works
    assert "one layer" in status.options[0].action


def test_an_action_brings_the_forecast_back_or_leaves_it_open() -> None:
    act = e.ActionRecorded(step="chill", action="parted, iced", changes_course=True, at=at(151))
    better = chilling((0, 62.5), (15, 62.3), (30, 61.0), (41, 38.0), (48, 27.0), extra=(act,))
    assert not cooling_status(better, at(169)).forecast.misses
    no_better = chilling((0, 62.5), (15, 62.3), (30, 61.0), (45, 58.0), (60, 55.5), extra=(act,))
    assert cooling_status(no_better, at(181)).forecast.misses


def test_lethality_of_hand_readings_alone_is_never_a_pass() -> None:
    batch = recorded(
        started(),
        e.StepStarted(step="cook", at=at(0)),
        core(1, 5.0, "cook"),
        core(119, 62.9, "cook"),
        e.StepFinished(step="cook", at=at(120)),
    )
    lethal = next(s for s in judge(batch, at(121)).statuses if s.limit.kind == "lethality")
    assert lethal.verdict.state != "pass"


def test_two_hand_readings_an_hour_apart_are_no_curve() -> None:
    """Hot at both ends says nothing of the hour between: no lethality, no hold."""
    readings = [core(m, 62.9, "cook") for m in (60, 119)]
    batch = recorded(
        started(), e.StepStarted(step="cook", at=at(0)), *readings, e.StepFinished(step="cook", at=at(120))
    )
    lethal = next(s for s in judge(batch, at(121)).statuses if s.limit.kind == "lethality")
    assert lethal.verdict.value < 1.0  # what each showed for as long as its probe stood still
    assert lethal.verdict.state == "not_measured"


def test_days_are_counted_by_the_clock() -> None:
    keep = (e.StepFinished(step="chill", at=at(170)), e.StepStarted(step="keep", at=at(170)))
    batch = chilling((0, 62.5), (20, 20.0), (45, 4.0), extra=keep)
    days = next(s for s in judge(batch, at(170 + 6 * 1440)).statuses if s.limit.quantity == "age")
    assert days.verdict.state == "fail"
    early = next(s for s in judge(batch, at(170 + 1440)).statuses if s.limit.quantity == "age")
    assert early.verdict.state == "pending"  # days that still run are not shown as met


CHILL = Settling(Body(Shape.slab, 0.014, 1.2e-7, 0.48), 200, 0.5, 0.0, 62.0)


@pytest.mark.parametrize("scale", [0.03, 0.2, 0.5, 1.0, 2.0])
def test_fit_finds_the_pace_it_was_made_with(scale: float) -> None:
    times = np.array([0.0, 600, 1200, 1800, 2400])
    pace = fit_pace(CHILL, times, CHILL.core_c(times, scale))
    assert pace.scale == pytest.approx(scale, rel=0.02)


def test_fit_error_covers_the_truth_under_noise() -> None:
    """Seeded: in 60 made-up chills the true pace lies within two standard errors at least nine times in ten."""
    rng = np.random.default_rng(2140)
    times = np.array([0.0, 600, 1200, 1800, 2400])
    inside = 0
    for _ in range(60):
        noisy = CHILL.core_c(times, 0.3) + rng.normal(0, 0.3, 5)
        pace = fit_pace(CHILL, times, noisy)
        inside += abs(np.log(pace.scale / 0.3)) < 2 * pace.log_error
    assert inside >= 54


def test_fit_refuses_what_it_cannot_do() -> None:
    with pytest.raises(OutOfRangeError, match="at least one reading"):
        fit_pace(CHILL, np.array([0.0]), np.array([62.0]))
    cold = Settling(CHILL.body, 200, 0.5, 0.0, 1.0)
    with pytest.raises(OutOfRangeError, match="as warm as"):
        fit_pace(cold, np.array([60.0]), np.array([1.0]))
