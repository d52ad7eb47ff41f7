"""Which reading answers which check: the one touched, the one it was read near, the end's only at the end."""

from datetime import datetime, timedelta

import pytest

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.runs import events as e
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.schedule import Check, checks_of
from tests.core.test_released_true import START, batch_of, plan_of

COOK = "cook"


def minutes(of: float) -> datetime:
    return START + timedelta(minutes=of)


def read(at: float, value: float, quantity: str = "bath", check: str = "", step: str = COOK) -> e.ReadingLogged:
    return e.ReadingLogged(
        reading=f"{step}-{quantity}-{at}", step=step, check=check, quantity=quantity, value=value, unit="°C",
        taken_at=minutes(at), instrument="probe", instrument_name="Probe", uncertainty=0.5,
    )  # fmt: skip


def checks(*happened: e.BatchEvent, now: float, of: str = "bath", plan: Plan | None = None) -> list[Check]:
    batch = batch_of(plan or plan_of("thigh"), e.StepStarted(step=COOK, at=START), *happened)
    return [each for each in checks_of(batch, minutes(now)) if each.step == COOK and each.quantity == of]


def states(found: list[Check]) -> list[str]:
    return [each.state for each in found]


def test_the_check_that_was_touched_is_answered_and_no_later_one() -> None:
    """Bath checks at 0, 30 and 60 min, none made; that of 0 min is touched after 4 h 36 min."""
    found = checks(read(276, 63.1, check="cook.bath.1"), now=276)
    assert states(found) == ["done", "late", "late"]


@pytest.mark.parametrize("at", [14, 16, 31, 44, 46, 60, 74])
def test_a_reading_logged_for_none_answers_the_one_it_was_near(at: float) -> None:
    found = checks(read(at, 63.1), now=76)
    near = [abs(at - due) <= 15 for due in (0, 30, 60)]
    assert [each.state == "done" for each in found] == near


def test_one_reading_answers_the_late_check_touched_and_the_one_of_its_own_time() -> None:
    found = checks(read(31, 63.1, check="cook.bath.1"), now=32)
    assert states(found)[:2] == ["done", "done"]


def test_a_reading_long_after_the_last_check_answers_none() -> None:
    assert states(checks(read(276, 63.1), now=276)) == ["late", "late", "late"]


def of_the_end(*happened: e.BatchEvent, now: float) -> list[Check]:
    return [each for each in checks(*happened, now=now, of="core") if each.monitoring == "core"]


def test_the_core_of_the_end_is_read_at_the_end() -> None:
    """Nine cores by probe from the first minute on; the check of the end waits for the end."""
    early = [read(1 + 10 * n, 14 + 6 * n, "core", check="cook.core.1") for n in range(7)]
    found = of_the_end(*early, now=70)
    assert states(found) == ["upcoming"]
    length = 120.0
    ended = e.StepFinished(step=COOK, at=minutes(length))
    assert states(of_the_end(*early, ended, now=length + 1)) == ["missed"]
    assert states(of_the_end(*early, read(length - 2, 62.8, "core"), ended, now=length + 1)) == ["done"]


def test_a_bath_read_after_its_end_says_nothing_of_the_cook() -> None:
    ended = e.StepFinished(step=COOK, at=minutes(120))
    late = read(276, 40.0, check="cook.bath.3")
    batch = batch_of(plan_of("thigh"), e.StepStarted(step=COOK, at=START), ended, late)
    without = batch_of(plan_of("thigh"), e.StepStarted(step=COOK, at=START), ended)
    now = minutes(280)
    of_bath = [(s.limit.id, s.verdict.state) for s in judge(batch, now).statuses if s.limit.quantity == "bath"]
    assert of_bath == [
        (s.limit.id, s.verdict.state) for s in judge(without, now).statuses if s.limit.quantity == "bath"
    ]


@pytest.mark.parametrize(("key", "step"), [("broth", "again"), ("stew", "again")])
def test_a_hold_of_seconds_is_shown_by_a_probe_that_stood_still(key: str, step: str) -> None:
    """74 °C for 15 s, FDA Food Code 2022, 3-403.11(A): a reading has stood so long."""
    plan = plan_of(key)
    if step not in {each.id for each in plan.steps}:
        pytest.skip(f"{key} is not heated again")
    control = monitored_steps(plan)[step]
    assert [each.id for each in control.monitoring] == ["core", "core-again"]
    begun = e.StepStarted(step=step, at=START)

    def done(*happened: e.BatchEvent) -> list[bool]:
        batch = batch_of(plan, begun, *happened, e.StepFinished(step=step, at=minutes(30)))
        return [c.state == "done" for c in checks_of(batch, minutes(31)) if c.step == step]

    def verdict(*happened: e.BatchEvent) -> set[str]:
        batch = batch_of(plan, begun, *happened, e.StepFinished(step=step, at=minutes(30)))
        return {
            s.verdict.state for s in judge(batch, minutes(31)).statuses if s.step == step and s.limit.kind == "hold"
        }

    once, again = read(29, 78, "core", step=step), read(29.5, 79, "core", step=step)
    assert (done(once), verdict(once)) == ([True, False], {"pass"})
    assert (done(once, again), verdict(once, again)) == ([True, True], {"pass"})
