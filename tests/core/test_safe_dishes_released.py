"""What a plan asks of its batch is enough: every safe dish, its checks made as asked, is released; with a step's left
out, it is not."""

from collections.abc import Iterator
from datetime import datetime, timedelta
from random import Random

import pytest

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import has_lines
from brinefrost.core.plans.monitored import AGAIN, monitored_steps
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.runs import events as e
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.steps.document import Monitoring
from brinefrost.core.words import said
from brinefrost.demo.products import legs_of
from brinefrost.demo.readings import check_times, value_of
from brinefrost.demo.weighing import decided
from tests.core.dish_notation import Dish, dishes
from tests.core.test_released_true import START, batch_of

LINELESS = [each for each in dishes("safe") if not each.waits and not has_lines(each.plan(each.rules[0]))]
ONCE_MORE_S = 30.0  # between a reading and the one that shows that it holds


class Steady(Random):
    """Instruments that read what there is."""

    def gauss(self, mu: float = 0.0, sigma: float = 1.0) -> float:
        return mu


def plan_of(dish: Dish) -> Plan:
    return with_controls(decided(dish.plan(dish.rules[0])))


def cooked(plan: Plan, unread: str = "") -> tuple[list[e.BatchEvent], datetime]:
    """The events of a batch that goes as planned, its checks made as asked but for those of one step; when it ended."""
    at, found = START, list[e.BatchEvent]()
    for leg, other in legs_of(plan):
        found.append(e.StepStarted(step=leg.step.id, at=at))
        control = monitored_steps(plan).get(leg.step.id)
        for item in control.monitoring if control and leg.step.id != unread else ():
            for seconds in times_of(item, leg.length_s, control.monitoring if control else ()):
                value = value_of(leg, item, seconds, other, Steady())
                found.append(
                    e.ReadingLogged(
                        reading=f"r{len(found)}",
                        step=leg.step.id,
                        check="",
                        quantity=item.quantity,
                        value=value,
                        unit="",
                        taken_at=at + timedelta(seconds=seconds),
                        instrument="i",
                        instrument_name="I",
                        uncertainty=0.0,
                    )
                )
        at += timedelta(seconds=leg.length_s)
        found.append(e.StepFinished(step=leg.step.id, at=at))
    found.sort(key=lambda each: each.taken_at if isinstance(each, e.ReadingLogged) else each.at)
    return found, at + timedelta(minutes=1)


def times_of(item: Monitoring, length_s: float, beside: tuple[Monitoring, ...]) -> Iterator[float]:
    """When a check is read [s]; what is read once more is read a little sooner the first time."""
    first = any(each.id == item.id + AGAIN for each in beside)
    yield from (time - ONCE_MORE_S * first for time in check_times(item, length_s))


@pytest.mark.parametrize("dish", LINELESS, ids=lambda each: each.name)
def test_a_safe_dish_cooked_as_asked_is_released_and_with_a_step_unread_it_is_not(dish: Dish) -> None:
    """Codex CXC 1-1969 (2022), principle 4: monitoring shows each limit; the unread step goes round with the dishes."""
    plan = plan_of(dish)
    events, now = cooked(plan)
    assert [said(each) for each in blocks_of_countersigning(batch_of(plan, *events), "release", now)] == []
    asked = [step for step, control in monitored_steps(plan).items() if control.limits and control.monitoring]
    unread = asked[LINELESS.index(dish) % len(asked)]
    events, now = cooked(plan, unread)
    assert blocks_of_countersigning(batch_of(plan, *events), "release", now), unread
