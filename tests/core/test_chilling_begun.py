"""When what chills it has to begin: cook-chill within 30 min of the end of cooking, whatever it falls to by two hours.

Department of Health, Chilled and Frozen: guidelines on cook-chill and cook-freeze (from memory): chilling begins within
30 min of leaving the cooker, and the food is at 0 to 3 °C within a further 90 min.
"""

from datetime import timedelta

import numpy as np
import pytest

from brinefrost.core.limits import Cooling, Series
from brinefrost.core.plans.monitored import limits_monitored
from brinefrost.core.rules import rule_set
from brinefrost.core.runs import events as e
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.runs.judging import verdict_of
from brinefrost.core.steps import kind_of
from tests.core.dish_notation import dishes
from tests.core.test_released_true import batch_of
from tests.core.test_safe_dishes_released import cooked, plan_of

LIMIT = rule_set("uk").limit_as("chill.cooked", Cooling)


def fall(chilled_from_min: float | None) -> Series:
    """From 80 °C to 2 °C in 115 min, its chill begun so long after cooking [min]."""
    times, core = np.array([0.0, 60.0, 115.0, 119.0]) * 60, np.array([80.0, 70.0, 2.0, 2.0])
    begun = None if chilled_from_min is None else chilled_from_min * 60
    return Series(times, core, 0.5, 0.0, True, 7200.0, chilled_from_s=begun)


@pytest.mark.parametrize(("minutes", "state"), [(0, "pass"), (29, "pass"), (31, "fail"), (60, "fail"), (None, "pass")])
def test_chilling_begins_in_time(minutes: float | None, state: str) -> None:
    found = LIMIT.evaluate(fall(minutes), 119 * 60.0)
    assert found.state == state
    assert (getattr(found.sentence, "code", "") == "limits.cooling.chilled_only_so_long_after_cooking") is (
        state == "fail"
    )


def test_what_was_read_up_to_a_time_keeps_when_the_chill_began() -> None:
    assert fall(60).until(3600).chilled_from_s == 3600.0


def test_other_rule_sets_ask_nothing_of_when_it_begins() -> None:
    assert all(
        rule_set(each).limit_as("chill.cooked", Cooling).chilled_within_s is None for each in ("us", "eu", "anz")
    )


@pytest.mark.parametrize(("minutes", "is_late"), [(0, False), (12, True)])
def test_a_batch_whose_chill_begins_late_is_not_released(minutes: int, is_late: bool) -> None:
    """The plan takes it out of the oven 20 min before it is chilled; 12 min more on the side are 32."""
    plan = plan_of(next(each for each in dishes("safe") if each.name == "uk chilling begun in time"))
    events, now = cooked(plan)
    chill = next(step.id for step in plan.steps if "cools" in kind_of(step).acts(step))
    at = next(each.at for each in events if isinstance(each, e.StepStarted) and each.step == chill)
    later = timedelta(minutes=minutes)
    moved: list[e.BatchEvent] = []
    for each in events:
        name = "taken_at" if isinstance(each, e.ReadingLogged) else "at"
        own = getattr(each, "step", "") in (chill, plan.steps[-1].id)
        moved.append(
            each.model_copy(update={name: getattr(each, name) + later}) if own and getattr(each, name) >= at else each
        )
    batch = batch_of(plan, *moved)
    limit = next(each for each in limits_monitored(plan, chill) if isinstance(each, Cooling))
    codes = {getattr(verdict_of(batch, chill, limit, now + later).sentence, "code", "")}
    assert ("limits.cooling.chilled_only_so_long_after_cooking" in codes) is is_late
    assert bool(blocks_of_countersigning(batch, "release", now + later)) is is_late
