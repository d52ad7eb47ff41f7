"""What a plan of lines asks is enough: its checks made as asked, its batch closes; any one left out, it does not."""

from datetime import datetime, timedelta
from random import Random

import pytest

from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.legs import Leg, lay_legs
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.plans.proof import prove
from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.runs.deviations import next_event
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.off_plan import off_plan, waits_before
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.steps import kind_of
from brinefrost.core.words import said
from brinefrost.demo.readings import check_times, value_of
from tests.core.test_cook_runs import dish
from tests.core.test_lines import braise, mousse
from tests.core.test_released_true import START, batch_of

EVERY_S = 300.0  # of a core that is followed: closer than readings by hand may lie apart
TRIMMED = (
    "trim:trim 15min 12C; oven:roast 180C 20mm 45min; serve:plate; boil:pot 97C 30mm 3h /stock ^trim; "
    "blast:cold -6C 30mm 4h /stock; keep:keep 3C 3d /stock"
)
DISHES = {
    "mousse of raw whites, told": mousse,
    "braise with mince boiled in it": braise,
    "stock of the trimmings": lambda: dish("beef-fillet, carrot@pot", TRIMMED),
    "rare steak": lambda: dish("beef-sirloin=rare", "pan:sear 220C 30mm 6min; serve:plate"),
    "buffet": lambda: dish("carrot", "boil:pot 97C 20mm 40min; blast:cold -6C 20mm 80min; keep:keep 3C 1d; serve 4h"),
}


def reading(step: str, quantity: str, value: float, at: datetime, n: int) -> e.ReadingLogged:
    unit = QUANTITIES[quantity].unit  # type: ignore[index]
    return e.ReadingLogged(
        reading=f"r{n}", step=step, quantity=quantity, value=value, unit=unit, taken_at=at,  # type: ignore[arg-type]
        instrument="probe", instrument_name="Probe", uncertainty=0.3,
    )  # fmt: skip


def legs_of(plan: Plan) -> dict[str, Leg]:
    """By step, as its own line's food has it."""
    return {
        step.id: next(leg for leg in lay_legs(way, *simulated(way)) if leg.step.id == step.id)
        for step in plan.steps
        for way in ways_with(plan, step.id)[:1]
    }


def cooked(plan: Plan, unread: str = "") -> tuple[Batch, datetime]:
    """A batch whose steps ran as laid out, with every check made as asked but those of one step."""
    at, happened, chance, n = START, list[e.BatchEvent](), Random(7), 0
    for step_id, leg in legs_of(plan).items():
        step, done = plan.step(step_id), simulated(ways_with(plan, step_id)[0])[1]
        length = leg.length_s
        happened.append(e.StepStarted(step=step_id, at=at))
        control = monitored_steps(plan).get(step_id)
        for item in control.monitoring if control and step_id != unread else ():
            times = set(check_times(item, length))
            if item.quantity == "core" and kind_of(step).acts(step) & {"heats", "cools"}:
                times |= {min(t * EVERY_S, length - 1) for t in range(1, int(length // EVERY_S) + 1)}
            for seconds in sorted(times):
                n += 1
                value = value_of(leg, item, seconds, done.other, chance)
                happened.append(reading(step_id, item.quantity, value, at + timedelta(seconds=seconds), n))
        at += timedelta(seconds=length)
        happened.append(e.StepFinished(step=step_id, at=at))
    return batch_of(plan, *happened), at + timedelta(minutes=1)


@pytest.mark.parametrize("name", DISHES)
def test_a_batch_whose_checks_are_made_as_asked_closes(name: str) -> None:
    plan = DISHES[name]()
    assert prove(plan).meets, said(prove(plan).sentence)
    batch, now = cooked(plan)
    assert {s.verdict.state for s in judge(batch, now).statuses} <= {"pass"}, [
        (s.step, s.limit.id, s.verdict.state, said(s.verdict.sentence)) for s in judge(batch, now).statuses
    ]
    assert next_event(batch, now) is None
    assert [said(block) for block in blocks_of_countersigning(batch, "release", now)] == []
    sheet = sheet_of_batch(batch, judge(batch, now), now)
    assert [column.step for column in sheet.columns] == [step.id for step in plan.steps]
    assert {column.state for column in sheet.columns} == {"done"}


@pytest.mark.parametrize("name", DISHES)
def test_a_batch_with_the_readings_of_any_one_step_left_out_does_not_close(name: str) -> None:
    plan = DISHES[name]()
    for step_id in monitored_steps(plan):
        batch, now = cooked(plan, unread=step_id)
        assert blocks_of_countersigning(batch, "release", now), step_id


def test_time_without_control_runs_from_the_store_through_hands_to_the_table() -> None:
    """Food Code 2022, 3-501.19: 110 min in hands and 5 h on the table are 6 h 50 min, over 6 h and over 4."""
    plan = dish(
        "carrot",
        "boil:pot 97C 20mm 40min; blast:cold -6C 20mm 80min; keep:keep 3C 1d; portion:cut 110min 12C; serve:out 5h",
    )
    assert prove(plan).state == "fails"
    batch, now = cooked(plan)
    states = {status.verdict.state for status in judge(batch, now).statuses if status.step == "out"}
    assert states == {"fail"}


def test_what_waits_between_two_steps_is_asked_about_and_stands_on_the_record() -> None:
    """Whites that were whipped and stood for two hours before the fold, at no temperature anybody kept."""
    plan = mousse()
    happened: list[e.BatchEvent] = []
    at = {"melt": (90, 120), "whip": (0, 10), "fold": (130, 145)}
    for step in plan.steps[:1]:
        happened += [e.StepStarted(step=step.id, at=START), e.StepFinished(step=step.id, at=START)]
    for key in ("whip", "melt", "fold"):
        begun, ended = (START + timedelta(minutes=m) for m in at[key])
        happened += [e.StepStarted(step=key, at=begun), e.StepFinished(step=key, at=ended)]
    batch = batch_of(plan, *happened)
    (asked,) = waits_before(batch, "fold", START + timedelta(minutes=130))
    assert (asked.step.id, asked.cause, asked.taken_s) == ("whip", "waited", 7200.0)
    found = next_event(batch, START + timedelta(minutes=146))
    assert found is not None
    assert "waited" in {each.cause for each in off_plan(batch, START + timedelta(minutes=146))}
    soon = batch_of(plan, *(each for each in happened if each.step != "fold"))
    assert not waits_before(soon, "fold", START + timedelta(minutes=60))
