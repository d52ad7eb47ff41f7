"""Schedules and limits over midnight, clock changes and leap days: instants are compared, never clock readings."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import fold
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import blocks_of, checks_of
from brinefrost.core.working import clock
from tests.kitchen import thigh_plan

ZURICH = ZoneInfo("Europe/Zurich")
PLAN = thigh_plan()
NIGHTS = [
    datetime(2026, 10, 24, 23, 0, tzinfo=ZURICH),  # the clocks go back an hour in this night
    datetime(2027, 3, 27, 23, 0, tzinfo=ZURICH),  # and forward in this one
    datetime(2027, 12, 31, 22, 0, tzinfo=ZURICH),
    datetime(2028, 2, 28, 22, 0, tzinfo=ZURICH),  # a leap day follows
]


def batch_of(start: datetime, *readings: tuple[float, float]):  # type: ignore[no-untyped-def]
    def later(minutes: float) -> datetime:
        return (start.astimezone(UTC) + timedelta(minutes=minutes)).astimezone(ZURICH)

    events: list[e.BatchEvent] = [
        e.BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=6, at=start),
        e.StepStarted(step="cook", at=start),
        e.StepFinished(step="cook", at=later(120)),
        e.StepStarted(step="chill", at=later(120)),
    ]
    for minutes, value in readings:
        events.append(
            e.ReadingLogged.model_validate(
                {
                    "reading": f"r{minutes}",
                    "step": "chill",
                    "quantity": "core",
                    "value": value,
                    "unit": "°C",
                    "taken_at": later(120 + minutes),
                    "instrument": "p",
                    "instrument_name": "P",
                    "uncertainty": 0.3,
                }
            )
        )
    rows = [
        e.Recorded(seq=i, actor_id="a", actor_name="A", actor_role="cook", recorded_at=start, event=event)
        for i, event in enumerate(events)
    ]
    return fold(PLAN, rows), later


@pytest.mark.parametrize("start", NIGHTS)
def test_the_two_hour_mark_is_two_hours(start: datetime) -> None:
    """57 °C at once, 21 °C after 115 or 125 minutes of real time, whatever the wall clock did meanwhile."""
    for minutes, state in ((115, "pass"), (125, "fail")):
        batch, later = batch_of(start, (0, 56.9), (minutes, 20.5), (300, 4.0))
        status = next(s for s in judge(batch, later(500)).statuses if s.limit.kind == "cooling")
        assert status.verdict.state == state, (start, minutes)


@pytest.mark.parametrize("start", NIGHTS)
def test_checks_are_due_by_elapsed_time(start: datetime) -> None:
    batch, later = batch_of(start, (0, 62.0))
    core = [
        check.due_at for check in checks_of(batch, later(121)) if check.step == "chill" and check.monitoring == "core"
    ]
    elapsed = [(due.astimezone(UTC) - later(120).astimezone(UTC)).total_seconds() / 60 for due in core]
    asked = next(each for each in monitored_steps(batch.plan)["chill"].monitoring if each.id == "core")
    assert elapsed == [at / 60 for at in asked.offsets_s]


@pytest.mark.parametrize("start", NIGHTS)
def test_blocks_follow_one_another_without_gaps(start: datetime) -> None:
    batch, later = batch_of(start, (0, 62.0))
    blocks = blocks_of(batch, later(130))
    ahead = [block for block in blocks if not block.started and block.step in ("keep", "reheat")]
    running = next(block for block in blocks if block.step == "chill")
    assert ahead[0].starts >= running.starts
    assert ahead[1].starts == ahead[0].ends


@pytest.mark.parametrize(
    ("seconds", "words"),
    [
        (0, "0 s"),
        (90, "90 s"),
        (119.6, "120 s"),
        (120, "2 min"),
        (3599, "1 h"),
        (3600, "1 h"),
        (3660, "1 h 01 min"),
        (7260, "2 h 01 min"),
        (86400, "24 h"),
        (48 * 3600, "2 d"),
        (-600, "-10 min"),
    ],
)
def test_lengths_in_words(seconds: float, words: str) -> None:
    assert clock(seconds) == words


def test_an_infinite_length_is_refused() -> None:
    with pytest.raises(OverflowError):
        clock(float("inf"))
