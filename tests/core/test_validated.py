"""Validation, then monitoring: what a study of batches lets a kitchen leave unread, and where it does not."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from pydantic import ValidationError

from brinefrost.core.errors import RefusedError
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import has_lines
from brinefrost.core.plans.monitored import AGAIN, monitored_steps
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import templates
from brinefrost.core.plans.validated import (
    Bounds,
    Validation,
    can_be_validated,
    core_limits,
    fingerprint_of,
    is_inside,
    is_process,
    medium_quantity,
    meets_at,
)
from brinefrost.core.runs import events as e
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.runs.deviations import next_event
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.study import run_of, study_of
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import said
from brinefrost.demo.products import legs_of
from brinefrost.demo.readings import check_times, value_of
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import dishes
from tests.core.test_released_true import START
from tests.core.test_safe_dishes_released import Steady
from tests.kitchen import thigh_plan

ONCE_MORE_S = 90.0  # a probe left in for two minutes and a half
RULES = ("us", "uk", "eu", "anz")


def plans() -> list[tuple[str, Plan]]:
    """Every template in every rule set, and the safe dishes, as far as a step of theirs can be validated."""
    made = [
        (f"{t.key} {rules}", with_controls(decided(t.plan(t.name, rules))))  # type: ignore[arg-type]
        for t in templates().values()
        for rules in RULES
    ]
    made += [(d.name, with_controls(decided(d.plan(d.rules[0])))) for d in dishes("safe")[::2] if not d.waits]
    return [(name, plan) for name, plan in made if not has_lines(plan) and not provable(plan) and validatable(plan)]


def validatable(plan: Plan) -> list[Step]:
    return [step for step in plan.steps if can_be_validated(plan, step)]


def piece_m(plan: Plan, step: Step) -> float:
    return float(next(kind_of(each).piece(each) for each in plan.steps if kind_of(each).piece(each)).thickness_m)  # type: ignore[union-attr]


def batch_of(plan: Plan, *unread: str, **more: Any) -> tuple[Batch, datetime]:
    """A batch of ``events_of``, folded, and when it was over."""
    events, now = events_of(plan, *unread, **more)
    return fold(plan, [as_record(n, event) for n, event in enumerate(events, 1)]), now


def events_of(
    plan: Plan,
    *unread: str,
    at: datetime = START,
    validated: tuple[Validation, ...] = (),
    lasting: dict[str, float] | None = None,
    colder: dict[str, float] | None = None,
    more: tuple[str, ...] = (),
    end: bool = True,
    thickness_m: float | None = None,
    instrument: str = "i",
) -> tuple[list[e.BatchEvent], datetime]:
    """A batch that goes as planned, each check made as asked but those of ``unread`` (a step and a quantity).

    ``lasting`` [s] and ``colder`` [K, of what is around it] change a step; ``more`` reads the medium of a study's step.
    """
    first = e.BatchStarted(
        code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=at, validated=validated,
        thickness_m=thickness_m, start_c=4.0,
    )  # fmt: skip
    found, told = list[e.BatchEvent](), Steady()
    asked = asked_steps(fold(plan, [as_record(1, first)]))
    for leg, other in legs_of(plan):
        step, length = leg.step, (lasting or {}).get(leg.step.id, leg.length_s)
        control = asked.get(step.id)
        found.append(e.StepStarted(step=step.id, at=at))
        for item, seconds in [(m, s) for m in (control.monitoring if control else ()) for s in check_times(m, length)]:
            if f"{step.id} {item.quantity}" in unread:
                continue
            again = control is not None and any(each.id == item.id + AGAIN for each in control.monitoring)
            value = value_of(leg, item, seconds, other, told)
            if item.quantity in ("bath", "air"):
                if step.id in {each.step for each in validated}:
                    value = float(kind_of(step).around_c(step) or 0.0)
                value -= (colder or {}).get(step.id, 0.0)
            when = at + timedelta(seconds=max(seconds - ONCE_MORE_S * again, 0.0))
            found.append(read(step.id, item.quantity, value, when, instrument))
        if step.id in more:
            quantity, around = medium_quantity(step), kind_of(step).around_c(step)
            assert quantity is not None
            assert around is not None
            times = [at + timedelta(seconds=share * length) for share in (0.6, 0.9)]
            found += [read(step.id, quantity, around, when, instrument) for when in times]
        at += timedelta(seconds=length)
        found.append(e.StepFinished(step=step.id, at=at))
    found.sort(key=lambda each: each.taken_at if isinstance(each, e.ReadingLogged) else each.at)
    now = at + timedelta(minutes=1)
    if end:
        found.append(e.BatchCountersigned(decision="release", reason="All read, all met.", at=now))
    return [first, *found], now


def as_record(seq: int, event: e.BatchEvent) -> e.Recorded:
    return e.Recorded(seq=seq, actor_id="a", actor_name="Ama", actor_role="cook", recorded_at=START, event=event)


def read(step: str, quantity: str, value: float, at: datetime, instrument: str = "i") -> e.ReadingLogged:
    return e.ReadingLogged.model_validate(
        {
            "reading": f"{step}{quantity}{at:%d%H%M%S}", "step": step, "quantity": quantity, "value": value,
            "unit": "", "taken_at": at, "instrument": instrument, "instrument_name": "I", "uncertainty": 0.0,
        }
    )  # fmt: skip


def is_met(plan: Plan) -> bool:
    """Whether a batch that goes as planned is released: some templates need other settings in another rule set."""
    return not blocks_of_countersigning(*_first(batch_of(plan, end=False)))


def validation_of(plan: Plan, step: Step) -> Validation:
    """A step validated by three batches as planned."""
    batch, _ = batch_of(plan, more=(step.id,), thickness_m=piece_m(plan, step))
    runs = tuple(run_of(batch, f"b{n}", step) for n in range(3))
    assert [said(run.why_not) for run in runs] == ["", "", ""]
    study = study_of(plan, step, runs)
    return Validation(step=step.id, record=7, batches=("B-1", "B-2", "B-3"), bounds=study.bounds, by="Ama", at=START)


PLANS = dict(plans())


@pytest.mark.parametrize("name", PLANS)
def test_inside_what_was_validated_no_core_is_needed_and_everything_else_is(name: str) -> None:
    """Codex CXC 1-1969 (2022), 2.3 and principles 4 and 6: validated once, monitored each time."""
    plan = PLANS[name]
    for step in validatable(plan):
        if not is_met(plan):
            continue
        held = validation_of(plan, step)
        core, medium = f"{step.id} core", f"{step.id} {held.bounds.quantity}"
        batch, now = batch_of(plan, core, validated=(held,), end=False)
        assert [said(each) for each in blocks_of_countersigning(batch, "release", now)] == [], step.id
        judged = [each for each in judge(batch, now).statuses if each.step == step.id]
        assert {each.limit.quantity for each in judged} & {"core"} == set(), "nobody measured it: it is not told as met"
        assert any(is_process(each.limit) for each in judged)
        # without the validation, or with its surroundings unread, it is not released
        assert blocks_of_countersigning(*_first(batch_of(plan, core, end=False)))
        assert blocks_of_countersigning(*_first(batch_of(plan, core, medium, validated=(held,), end=False)))
        # too cold a heat, too warm a chill, or too short a time breaks it
        off = -3.0 if not held.bounds.heats else 3.0
        for batch, now in (
            batch_of(plan, core, validated=(held,), colder={step.id: off}, end=False),
            batch_of(plan, core, validated=(held,), lasting={step.id: 0.9 * kind_of(step).length_s(step)}, end=False),
        ):
            opened = next_event(batch, now)
            assert isinstance(opened, e.DeviationOpened)
            assert opened.step == step.id
            assert opened.cause == "breach"


def _first(made: tuple[Batch, datetime]) -> tuple[Batch, str, datetime]:
    return made[0], "release", made[1]


def thigh() -> tuple[Plan, Step]:
    plan = PLANS["thigh us"]
    return plan, plan.step("cook")


def test_a_core_that_is_read_decides_over_the_process() -> None:
    plan, step = thigh()
    held = validation_of(plan, step)
    with_core, now = cored(plan, held, None)
    assert {each.limit.quantity for each in judge(with_core, now).statuses if each.step == "cook"} == {"core"}
    assert blocks_of_countersigning(with_core, "release", now) == []
    low, now = cored(plan, held, 58.0)
    opened = next_event(low, now)
    assert isinstance(opened, e.DeviationOpened)
    assert not opened.limit.startswith("validated-")


def cored(plan: Plan, held: Validation, core_c: float | None) -> tuple[Batch, datetime]:
    """A batch under validation whose core was read too: as the unvalidated plan asks, or at one value [°C]."""
    plain, now = batch_of(plan, end=False)
    events: list[e.BatchEvent] = [
        e.BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START, validated=(held,))
    ]
    for step, span in plain.spans.items():
        events += [e.StepStarted(step=step, at=span.started), e.StepFinished(step=step, at=span.finished)]  # type: ignore[arg-type]
    for state in plain.readings:
        logged = state.logged
        if core_c is not None and logged.step == "cook" and logged.quantity == "core":
            logged = logged.model_copy(update={"value": core_c})
        events.append(logged)
    events[1:] = sorted(events[1:], key=lambda each: each.taken_at if isinstance(each, e.ReadingLogged) else each.at)
    return fold(plan, [as_record(n, event) for n, event in enumerate(events, 1)]), now


def test_a_revoked_validation_asks_for_the_core_again() -> None:
    plan, step = thigh()
    batch, now = batch_of(plan, "cook core", validated=(validation_of(plan, step),), end=False)
    assert blocks_of_countersigning(batch, "release", now) == []
    batch.validated.pop("cook")
    assert blocks_of_countersigning(batch, "release", now)


@pytest.mark.parametrize(
    ("thickness_m", "start_c", "load", "inside"),
    [(0.03, 2.0, 6.0, True), (0.0301, 2.0, 6.0, False), (0.03, 2.0, 6.1, False), (None, 2.0, 6.0, False)],
)
def test_only_what_was_measured_and_no_worse_lies_inside(
    thickness_m: float | None, start_c: float, load: float, inside: bool
) -> None:
    bounds = Bounds(
        quantity="bath", heats=True, medium_c=63, settles_s=1800, lasts_s=7200, thickness_m=0.03, load=6, in_kg=True,
        computed=True,
    )  # fmt: skip
    assert is_inside(bounds, thickness_m, start_c, load) is inside
    strict = bounds.model_copy(update={"start_c": 3.0})
    assert not is_inside(strict, thickness_m, start_c, load)
    assert not is_inside(strict, thickness_m, None, load)


def test_a_study_needs_three_batches_that_count() -> None:
    plan, step = thigh()
    whole, _ = batch_of(plan, more=("cook",), thickness_m=0.03)
    runs = [run_of(whole, f"b{n}", step) for n in range(3)]
    with pytest.raises(RefusedError, match="3 batches"):
        study_of(plan, step, tuple(runs[:2]))
    with pytest.raises(RefusedError, match="3 batches"):
        study_of(plan, step, (runs[0], runs[0], runs[0]))
    for made in (
        batch_of(plan, more=("cook",))[0],  # its piece was not measured
        batch_of(plan, "cook core", more=("cook",), thickness_m=0.03)[0],
        batch_of(plan, "cook bath", thickness_m=0.03)[0],
        batch_of(plan, more=("cook",), thickness_m=0.03, end=False)[0],
    ):
        assert run_of(made, "b9", step).why_not
        with pytest.raises(RefusedError, match="does not count"):
            study_of(plan, step, (*runs[:2], run_of(made, "b9", step)))


def test_where_the_core_lags_behind_the_sum_the_bounds_are_what_each_run_was_harder_than() -> None:
    plan, step = thigh()
    batch, _ = batch_of(plan, more=("cook",), thickness_m=0.03)
    run = run_of(batch, "b", step)
    runs = tuple(
        run.model_copy(
            update={"batch": f"b{n}", "medium_c": 63.0 + n / 10, "lasts_s": 7200.0 + n, "thickness_m": 0.03 - n / 1e3}
        )
        for n in range(3)
    )  # fmt: skip
    wide, strict = (
        study_of(plan, step, runs).bounds,
        study_of(plan, step, tuple(r.model_copy(update={"slower": True}) for r in runs)).bounds,
    )
    if wide.computed:
        assert (wide.medium_c, wide.lasts_s, wide.thickness_m) == (63.0, 7200.0, 0.03)
    assert (strict.medium_c, strict.lasts_s, strict.thickness_m, strict.start_c) == (
        63.2,
        7202.0,
        pytest.approx(0.028),
        4.0,
    )
    assert not strict.computed
    assert strict.doubt == 0


def test_what_the_sum_does_not_meet_at_the_worst_of_all_runs_is_not_let_in() -> None:
    """The 7-log table for chicken (FSIS, 1999) wants longer at 60 °C than at 63: an edge that cold is not met."""
    plan, step = thigh()
    held = validation_of(plan, step)
    assert meets_at(plan, step, held.bounds)
    assert not meets_at(plan, step, held.bounds.model_copy(update={"medium_c": 56.0}))
    assert not meets_at(plan, step, held.bounds.model_copy(update={"thickness_m": 0.08}))


def test_a_change_of_what_it_rests_on_is_another_process() -> None:
    plan, step = thigh()
    changed = plan.model_copy(
        update={
            "steps": tuple(s.model_copy(update={"bath_c": 64.0}) if s.id == "cook" else s for s in plan.steps),
        }
    )
    later = plan.model_copy(
        update={"steps": tuple(s.model_copy(update={"name": "Walk-in"}) if s.id == "keep" else s for s in plan.steps)}
    )
    assert fingerprint_of(plan, step) != fingerprint_of(changed, changed.step("cook"))
    assert fingerprint_of(plan, step) == fingerprint_of(later, step)
    assert fingerprint_of(plan, step) == fingerprint_of(plan.model_copy(update={"name": "Thigh"}), step)


def test_every_validatable_step_answers_to_its_core() -> None:
    assert len(PLANS) > 40
    for plan in PLANS.values():
        for step in validatable(plan):
            assert core_limits(monitored_steps(plan)[step.id])


def test_no_document_says_by_itself_that_a_limit_is_of_a_validation() -> None:
    """Its evidence alone lays them: a lead's own limit by such an id would stand in for a core that nobody read."""
    said = thigh_plan().model_dump(mode="json")
    said["controls"][0]["limits"][0]["id"] = "validated-bath"
    with pytest.raises(ValidationError, match="belong to a validation"):
        Plan.model_validate(said)
