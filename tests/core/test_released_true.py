"""No released record is false: what the proof judged is asked of every batch, and what was not done is answered for."""

from datetime import UTC, datetime, timedelta
from functools import cache

import pytest

from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.judged import judge_step
from brinefrost.core.plans.lines import has_lines, steps_before, steps_behind
from brinefrost.core.plans.monitored import limits_monitored, monitored_steps
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template, templates
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.deciding import answering, blocks_of_countersigning, to_answer
from brinefrost.core.runs.deviations import next_event
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.off_plan import LONG, SHORT, matters, off_time, steps_passed
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import said
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import Dish, dishes
from tests.kitchen import EACH_RULE_SET

START = datetime(2026, 11, 16, 8, 0, tzinfo=UTC)
DISHES = [key for key, each in templates().items() if each.ingredients]


@cache
def plan_of(key: str, rules: str = "us") -> Plan:
    made = template(key)
    return with_controls(decided(made.plan(made.name, rules)))  # type: ignore[arg-type]


def batch_of(plan: Plan, *happened: e.BatchEvent) -> Batch:
    started = e.BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START)
    return fold(
        plan,
        [
            e.Recorded(seq=n, actor_id="a", actor_name="Ama", actor_role="cook", recorded_at=START, event=event)
            for n, event in enumerate((started, *happened), 1)
        ],
    )


def ran(plan: Plan, without: tuple[str, ...] = (), lasting: dict[str, float] | None = None) -> tuple[Batch, datetime]:
    """A batch whose steps ran one after another for as long as planned, or as given [s], with nothing read."""
    at, happened = START, list[e.BatchEvent]()
    for step in plan.steps:
        if step.id in without:
            continue
        happened.append(e.StepStarted(step=step.id, at=at))
        at += timedelta(seconds=(lasting or {}).get(step.id, kind_of(step).length_s(step)))
        happened.append(e.StepFinished(step=step.id, at=at))
    return batch_of(plan, *happened), at + timedelta(minutes=1)


def step_named(plan: Plan, act: str) -> Step:
    return next(step for step in plan.steps if act in kind_of(step).acts(step))


@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
@pytest.mark.parametrize("key", DISHES)
def test_what_the_proof_judged_the_batch_asks(key: str, rules: str) -> None:
    """Limit by limit, and each with a check that reads it; Codex CXC 1-1969 (2022), principle 4."""
    plan = plan_of(key, rules)
    _, done = simulated(plan)
    batch, now = ran(plan)
    statuses = {(status.step, status.limit.id): status for status in judge(batch, now).statuses}
    checked = {(check.step, check.quantity) for check in checks_of(batch, now)}
    blocks = blocks_of_countersigning(batch, "release", now)
    for step in plan.steps:
        for each in judge_step(plan, step, done):
            status = statuses[step.id, each.limit.id]
            if each.limit.quantity == "age":  # known from the clock
                continue
            assert status.verdict.state != "pass", (step.id, each.limit.id)
            assert answering(batch, step.id, each.limit.id) is None
            assert any(step.name in said(block) for block in blocks), (step.id, blocks)
            read = {"loss": "mass"}.get(each.limit.quantity, each.limit.quantity)
            assert (step.id, read) in checked, (step.id, each.limit.id)


@pytest.mark.parametrize("dish", [each for each in dishes("safe") if not each.waits], ids=lambda each: each.name)
def test_what_the_proof_of_any_safe_dish_judged_has_a_check_that_reads_it(dish: Dish) -> None:
    """Unread, nothing passes; and each limit has a status and a check, whatever kind of step asks it."""
    plan = with_controls(decided(dish.plan(dish.rules[0])))
    if has_lines(plan):
        return  # each way is walked by itself, the templates of lines above
    done = simulated(plan)[1]
    batch, now = ran(plan)
    statuses = {(status.step, status.limit.id): status for status in judge(batch, now).statuses}
    checked = {(check.step, check.quantity) for check in checks_of(batch, now)}
    for step in plan.steps:
        for each in judge_step(plan, step, done):
            if each.limit.quantity == "age":  # known from the clock
                continue
            assert statuses[step.id, each.limit.id].verdict.state != "pass", (step.id, each.limit.id)
            read = {"loss": "mass"}.get(each.limit.quantity, each.limit.quantity)
            assert (step.id, read) in checked, (step.id, each.limit.id)


@pytest.mark.parametrize("key", DISHES)
def test_a_step_that_was_never_done_is_asked_about_and_blocks(key: str) -> None:
    plan = plan_of(key)
    for step in plan.steps[:-1]:
        if not matters(batch_of(plan), step):
            continue
        batch, now = ran(plan, without=(step.id,))
        behind = steps_behind(plan, step.id)[0]
        others = [s.id for s in steps_before(plan, behind.id) if s.id != step.id]
        until = batch_of(plan, *(e.StepStarted(step=each, at=START) for each in others))
        assert [each.step.id for each in steps_passed(until, before=behind.id)] == [step.id]
        assert any(step.name in said(block) for block in blocks_of_countersigning(batch, "release", now)), step.id


@pytest.mark.parametrize(
    ("key", "step", "lasting", "cause"),
    [
        ("custard", "chill", 9 * 3600.0, "too_long"),
        ("hot-smoked-trout", "chill", 14 * 3600.0, "too_long"),
        ("hot-hold", "cook", 2.0, "too_short"),
        ("cold-smoked-char", "salt", 600.0, "too_short"),
        ("garlic-confit", "soak", 60.0, "too_short"),
        ("confit", "tubs", 9 * 3600.0, "too_long"),
        ("receive-only", "", 0.0, ""),
    ],
)
def test_a_step_far_off_its_time_is_asked_about_blocks_and_says_how_far(
    key: str, step: str, lasting: float, cause: str
) -> None:
    if not step:  # a delivery that took two minutes is nobody's business
        plan = plan_of("custard")
        batch, now = ran(plan, lasting={"receive": 120.0})
        assert off_time(batch, plan.step("receive"), START + timedelta(minutes=2), now) is None
        return
    plan = plan_of(key)
    batch, now = ran(plan, lasting={step: lasting})
    found = next(each for each in to_answer(batch, now) if each.step.id == step)
    assert found.cause == cause
    event = next_event(batch, now)
    causes = set()
    rows = [*batch.spans]
    assert rows
    for _ in range(30):  # everything that is to be opened, one after another
        if event is None:
            break
        assert isinstance(event, e.DeviationOpened)
        causes.add((event.step, event.cause))
        batch.deviations[event.deviation] = batch_of(plan, event).deviations[event.deviation]
        event = next_event(batch, now)
    assert (step, cause) in causes
    assert any("not decided" in said(block) for block in blocks_of_countersigning(batch, "release", now))


def test_a_time_within_what_the_plan_allows_for_is_not_asked_about() -> None:
    plan = plan_of("custard")
    chill = plan.step("chill")
    planned = kind_of(chill).length_s(chill)
    for share in (SHORT + 0.01, 1.0, LONG - 0.01):
        batch, now = ran(plan, lasting={"chill": share * planned})
        assert off_time(batch, chill, batch.span("chill").finished or now, now) is None


def test_a_short_chill_whose_core_was_read_cold_is_not_asked_about() -> None:
    """Measured decides: 5 °C reached in time is what the chill was for."""
    plan = plan_of("custard")
    chill, began = plan.step("chill"), START + timedelta(hours=2)
    reads = [(0, 62.0), (20, 40.0), (40, 22.0), (60, 9.0), (70, 3.0)]
    happened: list[e.BatchEvent] = [
        e.StepStarted(step="bake", at=START),
        e.StepFinished(step="bake", at=began),
        e.StepStarted(step="chill", at=began),
        *(core("chill", value, began + timedelta(minutes=minutes), n) for n, (minutes, value) in enumerate(reads)),
        e.StepFinished(step="chill", at=began + timedelta(minutes=75)),
    ]
    batch, now = batch_of(plan, *happened), began + timedelta(minutes=80)
    assert off_time(batch, chill, began + timedelta(minutes=75), now) is None
    short = batch_of(plan, *happened[:5], happened[-1])
    assert off_time(short, chill, began + timedelta(minutes=75), now) is not None


def core(step: str, value: float, at: datetime, n: int = 0) -> e.ReadingLogged:
    return e.ReadingLogged(
        reading=f"r-{step}-{n}-{at:%H%M%S}", step=step, quantity="core", value=value, unit="°C", taken_at=at,
        instrument="probe", instrument_name="Probe", uncertainty=0.5,
    )  # fmt: skip


def test_a_limit_signed_against_its_proof_is_judged_in_the_batch() -> None:
    """A fry that its proof says fails, signed with a reason, and then never read."""
    plan = plan_of("confit")
    crisp = plan.step("crisp")
    cold = crisp.model_copy(update={"duration_s": 60.0})
    plan = plan.model_copy(update={"steps": tuple(cold if s.id == "crisp" else s for s in plan.steps)})
    assert prove(plan).state == "fails"
    batch, now = ran(plan)
    assert limits_monitored(plan, "crisp")
    assert any("Crisp" in said(block) for block in blocks_of_countersigning(batch, "release", now))


def test_a_core_read_in_the_fridge_counts_for_the_chill_it_ends() -> None:
    """57 to 21 °C in 2 h, to 5 °C in 6 h, FDA Food Code 2022, 3-501.14(A): 3.0 °C ± 0.5 after 2 h 10 min is in time."""
    plan = plan_of("custard")
    began = START + timedelta(hours=2)
    chilled: list[e.BatchEvent] = [
        e.StepStarted(step="bake", at=START),
        e.StepFinished(step="bake", at=began),
        e.StepStarted(step="chill", at=began),
        *(
            core("chill", value, began + timedelta(minutes=minutes), n)
            for n, (minutes, value) in enumerate([(0, 62.0), (14, 35.0), (29, 20.0), (59, 4.6)])
        ),
        e.StepFinished(step="chill", at=began + timedelta(minutes=60)),
        e.StepStarted(step="keep", at=began + timedelta(minutes=60)),
    ]
    now = began + timedelta(minutes=100)
    assert cooling(batch_of(plan, *chilled), now) == "too_close"
    read = core("keep", 3.0, began + timedelta(minutes=95))
    assert cooling(batch_of(plan, *chilled, read), now) == "pass"


@pytest.mark.parametrize("skipped", [False, True])
def test_hot_custard_in_the_fridge_is_a_broken_chill(skipped: bool) -> None:
    """61 °C after an hour and 38 °C after three, read in the cold room: no chill was, whether it was begun or not."""
    plan = plan_of("custard")
    out = START + timedelta(hours=2)
    happened: list[e.BatchEvent] = [e.StepStarted(step="bake", at=START), e.StepFinished(step="bake", at=out)]
    if not skipped:
        happened += [e.StepStarted(step="chill", at=out), e.StepFinished(step="chill", at=out + timedelta(minutes=5))]
    keep = out + timedelta(minutes=5)
    happened += [
        e.StepStarted(step="keep", at=keep),
        core("keep", 61.0, keep + timedelta(hours=1)),
        core("keep", 38.0, keep + timedelta(hours=3)),
    ]
    now = keep + timedelta(hours=3, minutes=5)
    assert cooling(batch_of(plan, *happened), now) == "pending"  # it fell through 57 °C less than two hours ago
    happened.append(core("keep", 30.0, keep + timedelta(hours=4)))
    assert cooling(batch_of(plan, *happened), keep + timedelta(hours=4, minutes=5)) == "fail"


def cooling(batch: Batch, now: datetime) -> str:
    return next(s.verdict.state for s in judge(batch, now).statuses if s.limit.kind == "cooling")


def typed(plan: Plan, reads: list[tuple[float, float]], now: datetime) -> tuple[Batch, list[str]]:
    """A chill typed from paper afterwards, judged after each entry: the batch and what was written of it."""
    began = START + timedelta(hours=2)
    before = [step.id for step in plan.steps[: [step.id for step in plan.steps].index("chill")]]
    times = {key: START if key != "bake" else START + timedelta(minutes=20) for key in before}
    batch = batch_of(
        plan,
        *(e.StepStarted(step=key, at=at) for key, at in times.items()),
        *(e.StepFinished(step=key, at=START + timedelta(minutes=19)) for key in before if key != "bake"),
        e.StepFinished(step="bake", at=began),
        e.StepStarted(step="chill", at=began),
    )
    written = []
    for n, (minutes, value) in enumerate(reads):
        logged = batch_of(plan, core("chill", value, began + timedelta(minutes=minutes), n)).readings[0]
        batch.readings.append(logged)
        while (event := next_event(batch, now)) is not None:
            written.append(event.kind)
            known = batch.deviations.get(event.deviation)  # type: ignore[union-attr]
            if isinstance(event, e.DeviationOpened):
                batch.deviations[event.deviation] = batch_of(plan, event).deviations[event.deviation]
            elif known is not None:
                opened = batch_of(plan, known.opened, event)
                batch.deviations[known.opened.deviation] = opened.deviations[known.opened.deviation]
    return batch, written


def test_readings_typed_after_the_fact_in_order_open_nothing_the_later_ones_refute() -> None:
    now = START + timedelta(hours=6)
    batch, written = typed(plan_of("custard"), [(0, 62.0), (14, 35.0), (29, 20.5), (59, 4.0)], now)
    assert "deviation_opened" not in written
    assert cooling(batch, now) == "pass"


def test_a_breach_that_a_later_reading_refutes_closes_itself_and_says_so() -> None:
    """24 °C read just after the two hours; then the reading of 20 °C that had been forgotten is typed."""
    plan = plan_of("custard")
    now = START + timedelta(hours=4, minutes=12)
    batch, written = typed(plan, [(0, 62.0), (30, 45.0), (130, 20.9), (90, 20.0)], now)
    assert written == ["deviation_opened", "deviation_withdrawn"]
    (state,) = batch.deviations.values()
    assert not state.is_open
    assert state.decided is None
    assert "later" in said(state.withdrawn.sentence if state.withdrawn else "")
    assert batch.open_deviations() == []


def test_nothing_planned_stands_on_a_batchs_sheet_as_if_it_were_measured() -> None:
    """Every room to spare and every kill of a step ahead says that it is planned; of one passed over, that it was not
    done."""
    for key in ("custard", "hot-hold", "stew", "thigh" if "thigh" in DISHES else "confit"):
        plan = plan_of(key)
        for batch, now in ((batch_of(plan), START), ran(plan)):
            sheet = sheet_of_batch(batch, judge(batch, now), now)
            for column in sheet.columns:
                for limit in column.limits:
                    if limit.quantity != "age":
                        assert limit.standing != "meets"
                        assert "planned" in said(limit.room) or "not measured" in said(limit.room).lower(), limit
            for row in sheet.rows:
                for cell in row.cells:
                    assert cell.act != "killed" or cell.planned, (key, row.key, cell)
                assert "killed" not in said(row.balance) or "planned" in said(row.balance)


def test_the_course_of_a_batch_goes_on_from_what_was_read() -> None:
    """A core of 4 °C in the fat at the end of its hours: what is behind does not begin at the plan's 75 °C, and hands
    kill nothing."""
    plan = plan_of("confit")
    cook = step_named(plan, "heats")
    began = START + timedelta(hours=20)
    before = plan.steps[: [step.id for step in plan.steps].index(cook.id)]
    events: list[e.BatchEvent] = []
    for n, step in enumerate(before):
        events += [e.StepStarted(step=step.id, at=START + timedelta(hours=n))]
        events += [e.StepFinished(step=step.id, at=START + timedelta(hours=n, minutes=50))]
    events += [
        e.StepStarted(step=cook.id, at=began),
        core(cook.id, 61.6, began + timedelta(hours=3)),
        core(cook.id, 4.2, began + timedelta(hours=5)),
    ]
    batch, now = batch_of(plan, *events), began + timedelta(hours=5, minutes=1)
    sheet = sheet_of_batch(batch, judge(batch, now), now)
    column = next(each for each in sheet.columns if each.step == cook.id)
    ahead = [curve for curve in column.curves if curve.quantity == "core" and curve.basis != "measured"]
    assert abs(ahead[-1].values[0] - 4.2) < 1.0
    for row in sheet.rows:
        for cell in row.cells:
            assert cell.act != "killed" or "heats" in kind_of(plan.step(cell.step)).acts(plan.step(cell.step))
    assert monitored_steps(plan)
