"""A logger file answers to all that a reading by hand answers to, and every channel of it is judged."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from brinefrost.core.plans.document import Plan
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.file_doubts import doubts_of
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.traces import Trace, TraceOptions, read_trace
from tests.core.test_released_true import START, core, plan_of
from tests.kitchen import thigh_plan

BATH = START + timedelta(minutes=30)
CHILL = BATH + timedelta(minutes=120)


def file(columns: dict[str, list[float]], begin: datetime, every_s: float = 60.0, zone: str = "Z") -> bytes:
    """A log: each column's readings, so far apart, with UTC stamps or bare ones in the kitchen's clock."""
    rows = ["time," + ",".join(columns)]
    for i, values in enumerate(zip(*columns.values(), strict=True)):
        at = begin + timedelta(seconds=i * every_s)
        rows.append(f"{at:%Y-%m-%dT%H:%M:%S}{zone}," + ",".join(f"{value:.2f}" for value in values))
    return "\n".join(rows).encode()


def with_files(plan: Plan, step: str, *files: bytes, more: tuple[e.BatchEvent, ...] = (), ended: bool = True) -> Batch:
    """The bath from 08:30 for two hours, then the slurry; files attached to a step."""
    started = e.BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START)
    steps: list[e.BatchEvent] = [
        e.StepStarted(step="receive", at=START), e.StepFinished(step="receive", at=START),
        e.StepStarted(step="cook", at=BATH), e.StepFinished(step="cook", at=CHILL),
        e.StepStarted(step="chill", at=CHILL),
        *([e.StepFinished(step="chill", at=CHILL + timedelta(hours=6, minutes=5))] if ended else []),
    ]  # fmt: skip
    traces = {f"t{n}": read_trace(content, TraceOptions(), "UTC") for n, content in enumerate(files)}
    attached = [
        e.TraceAttached(
            trace=key, step=step, filename=f"{key}.csv", sha256=key, parsed_sha256=key, channels=(), assumptions=(),
            notes=(), instrument="logger-7", instrument_name="L-07", uncertainty=0.4,
            first_at=datetime.fromtimestamp(trace.first_s, UTC), last_at=datetime.fromtimestamp(trace.last_s, UTC),
        )
        for key, trace in traces.items()
    ]  # fmt: skip
    events = [started, *steps, *attached, *more]
    rows = [
        e.Recorded(seq=n, actor_id="a", actor_name="Ama", actor_role="cook", recorded_at=START, event=event)
        for n, event in enumerate(events, 1)
    ]
    return fold(plan, rows, traces)


def states(batch: Batch, step: str) -> set[str]:
    now = CHILL + timedelta(hours=7)
    return {s.verdict.state for s in judge(batch, now).statuses if s.step == step and s.limit.quantity == "core"}


def cook(to_c: float) -> list[float]:
    return [to_c - (to_c - 4.0) * float(np.exp(-m / 12.0)) for m in range(121)]


def chill(tau_min: float, from_c: float = 60.0, minutes: int = 365) -> list[float]:
    return [1.0 + (from_c - 1.0) * float(np.exp(-m / tau_min)) for m in range(minutes)]


@pytest.mark.parametrize("order", [1, -1])
def test_of_two_probes_the_colder_decides_on_a_cook(order: int) -> None:
    """One piece at 63 °C and one at 57 °C: whichever column comes first, the cook is not met."""
    plan = thigh_plan("us")
    both = dict([("Core 1", cook(63.0)), ("Core 2", cook(57.0))][::order])
    assert "fail" in states(with_files(plan, "cook", file(both, BATH)), "cook")
    good = {"Core 1": cook(63.0), "Core 2": cook(62.8)}
    assert states(with_files(plan, "cook", file(good, BATH)), "cook") == {"pass"}


@pytest.mark.parametrize("order", [1, -1])
def test_of_two_probes_the_warmer_decides_on_a_chill(order: int) -> None:
    """A thin pan at 5 °C within two hours, a thick one at 33 °C after them."""
    plan = thigh_plan("us")
    both = dict([("Core 1", chill(30.0)), ("Core 2", chill(190.0))][::order])
    assert states(with_files(plan, "chill", file(both, CHILL)), "chill") == {"fail"}


def test_at_doubled_stamps_the_worse_counts() -> None:
    plan = thigh_plan("us")
    rows = ["time,Core"]
    for m, (pan, air) in enumerate(zip(chill(190.0), chill(20.0), strict=True)):
        rows += [f"{CHILL + timedelta(minutes=m):%Y-%m-%dT%H:%M:%S}Z,{value:.1f}" for value in (air, pan)]
    assert states(with_files(plan, "chill", "\n".join(rows).encode()), "chill") == {"fail"}


def test_files_of_one_instrument_are_one_curve() -> None:
    """A good chill cut in two: each half alone breaks on silence, together they pass."""
    plan, whole = thigh_plan("us"), chill(55.0)
    first = file({"Core": whole[:60]}, CHILL)
    second = file({"Core": whole[60:]}, CHILL + timedelta(minutes=60))
    assert states(with_files(plan, "chill", first), "chill") != {"pass"}
    assert states(with_files(plan, "chill", first, second), "chill") == {"pass"}


def test_a_file_attached_in_error_is_taken_back_and_both_are_kept() -> None:
    plan = thigh_plan("us")
    wrong, right = file({"Core": chill(190.0)}, CHILL), file({"Core": chill(55.0)}, CHILL)
    assert states(with_files(plan, "chill", wrong, right), "chill") != {"pass"}
    gone = e.TraceWithdrawn(trace="t0", step="chill", reason="It was the other pan's file.", at=CHILL)
    batch = with_files(plan, "chill", wrong, right, more=(gone,))
    assert states(batch, "chill") == {"pass"}
    assert [(t.attached.trace, t.withdrawn is None) for t in batch.traces] == [("t0", False), ("t1", True)]


def test_a_files_core_at_a_checks_time_is_that_check() -> None:
    """Food Code and FSIS ask for a record, and a continuous one is the better."""
    plan = thigh_plan("us")
    batch = with_files(plan, "chill", file({"Core": chill(55.0)}, CHILL))
    checks = [c for c in checks_of(batch, CHILL + timedelta(hours=7)) if (c.step, c.quantity) == ("chill", "core")]
    assert checks
    assert {(c.state, c.file) for c in checks} == {("done", "t0")}
    others = {c.state for c in checks_of(batch, CHILL + timedelta(hours=7)) if c.quantity == "bath"}
    assert others == {"missed"}  # what the file does not read is not read by it


def asked(plan: Plan, step: str, content: bytes, *reads: e.ReadingLogged, zone: str = "UTC") -> list[str]:
    batch = with_files(plan, step, more=reads)
    trace: Trace = read_trace(content, TraceOptions(), zone)
    return [str(each) for each in doubts_of(batch, step, trace, ZoneInfo(zone))]


HOT = core("cook", 62.9, CHILL - timedelta(minutes=1))


def test_a_file_that_food_can_have_written_is_not_asked_about() -> None:
    plan = thigh_plan("us")
    assert asked(plan, "cook", file({"Core": cook(62.8), "Bath": [63.0] * 121}, BATH)) == []
    assert asked(plan, "chill", file({"Core": chill(22.0, 62.8)}, CHILL), HOT) == []


@pytest.mark.parametrize(
    ("step", "columns", "said"),
    [
        ("cook", {"Core": [140.0 - 100 * float(np.exp(-m / 12)) for m in range(121)]}, "°F"),
        ("cook", {"Core": cook(90.0), "Bath": [63.0] * 121}, "hotter"),
        ("cook", {"Core": [10.0, *[63.0] * 120], "Bath": [63.0] * 121}, "goes from"),
        ("chill", {"Core": [*chill(60.0, 62.8)[:40], *[3.0] * 200]}, "goes from"),
        ("chill", {"Core": chill(60.0, 15.0)}, "begins at"),
        ("chill", {"Core": [-20.0] * 300}, "colder"),
        ("cook", {"Core": cook(62.8), "Bath": [145.4] * 121}, "°F"),
        ("cook", {"Core": cook(62.8), "Bath": [21.0] * 121}, "far from"),
        ("cook", {"Core": cook(62.8), "Meat fridge air": [3.0] * 121}, "two ways"),
    ],
)
def test_what_food_or_a_unit_cannot_do_is_asked(step: str, columns: dict[str, list[float]], said: str) -> None:
    found = asked(thigh_plan("us"), step, file(columns, BATH if step == "cook" else CHILL), HOT)
    assert any(said in each for each in found), found


def test_a_logger_in_utc_is_asked_about_where_the_kitchens_own_zone_does_not_fit() -> None:
    plan = thigh_plan("us")
    summer = file({"Core": chill(60.0, 62.8)}, CHILL, zone="")  # bare stamps, really UTC
    assert any("UTC" in each for each in asked(plan, "chill", summer, HOT, zone="Asia/Tokyo"))
    assert asked(plan, "chill", summer, HOT, zone="UTC") == []


@pytest.mark.parametrize(("late_c", "asks"), [(3.0, True), (50.0, False)])
def test_a_core_that_its_own_air_cannot_bring_about_is_asked_about(late_c: float, asks: bool) -> None:
    """25 mm in air at -6 °C: tau = rho c L / h = 1030 x 3700 x 0.0125 / 25 = 1,905 s, so 62 to 3 °C takes over an
    hour; in five minutes at most a third of the way even for a third of the thickness."""
    from brinefrost.core.errors import AskFirstError
    from brinefrost.core.runs.plausible import check_core

    plan = plan_of("stew")
    chill_step = next(step for step in plan.steps if step.kind == "chill_air")
    thin = chill_step.model_copy(update={"thickness_m": 0.025, "surroundings_c": -6.0, "medium": "blast"})
    plan = plan.model_copy(update={"steps": tuple(thin if s.id == thin.id else s for s in plan.steps)})
    started = e.BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START)
    events = [started, e.StepStarted(step=thin.id, at=START), core(thin.id, 62.0, START)]
    rows = [
        e.Recorded(seq=n, actor_id="a", actor_name="Ama", actor_role="cook", recorded_at=START, event=event)
        for n, event in enumerate(events, 1)
    ]
    batch, at = fold(plan, rows), START + timedelta(minutes=5)
    if not asks:
        check_core(batch, thin.id, late_c, at, None)
        return
    with pytest.raises(AskFirstError, match="in the food"):
        check_core(batch, thin.id, late_c, at, None)
    check_core(batch, thin.id, late_c, at, None, confirmed=True)
