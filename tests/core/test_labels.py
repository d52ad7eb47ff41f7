"""What a label says of a batch, and which batch gets none."""

from datetime import timedelta

import pytest

from brinefrost.core.errors import RefusedError
from brinefrost.core.plans.days import is_store
from brinefrost.core.plans.document import Plan
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import (
    BatchCountersigned,
    BatchRecalled,
    DeviationOpened,
    InstrumentDoubted,
    StepFinished,
    StepStarted,
)
from brinefrost.core.runs.labels import label_of
from brinefrost.core.runs.parts import allergens_of, gone_by
from tests.core.test_languages import DISHES
from tests.core.test_parts import DAY, START, batch_of, kept, plan_of

RIB = "short-rib"
HOUR = timedelta(hours=1)


def running_at(plan: Plan, step_id: str) -> Batch:
    """A batch with one step running, and all before it done."""
    order = [step.id for step in plan.steps]
    events = [e(step=s, at=START) for s in order[: order.index(step_id)] for e in (StepStarted, StepFinished)]
    return batch_of(plan, *events, StepStarted(step=step_id, at=START + HOUR))


def test_it_bears_the_batchs_own_date_and_allergens() -> None:
    batch = kept(plan_of(RIB), HOUR)
    label = label_of(batch, START + 2 * HOUR)
    assert (label.use_by, label.code, label.made_at) == (gone_by(batch), "B-2", START)
    assert label.use_by is not None
    assert label.allergens == allergens_of(batch)
    assert not label.released


@pytest.mark.parametrize("key", DISHES)
def test_every_dish_that_is_stored_says_how_cold_and_until_when(key: str) -> None:
    plan = plan_of(key)
    for step in plan.steps:
        if not is_store(step):
            continue
        label = label_of(running_at(plan, step.id), START + HOUR)
        assert label.use_by is not None or label.undated
        assert label.keep
        before = label_of(batch_of(plan), START)
        assert before.use_by is None
        assert before.undated  # nothing is dated by a store it is not in yet


def test_before_its_store_it_says_from_when_its_days_run() -> None:
    label = label_of(batch_of(plan_of(RIB)), START)
    assert label.use_by is None
    assert "days run from" in str(label.undated)


def test_kept_below_the_strictest_of_its_lines() -> None:
    plan = plan_of(RIB)
    asked = [limit.value for c in plan.controls for limit in c.limits if c.step == "keep" and limit.quantity == "air"]
    assert [str(each) for each in label_of(kept(plan, HOUR), START + HOUR).keep] == [
        f"Keep at or below {min(asked):g} °C"
    ]


def test_what_may_not_be_kept_gets_none() -> None:
    plan = plan_of(RIB)
    opened = DeviationOpened(deviation="D", step="keep", limit="x", cause="breach", sentence="Warm.", at=START)
    thrown = BatchCountersigned(decision="discard", reason="It smelt of the drain", at=START + HOUR)
    recalled = BatchRecalled(reason="The supplier called it back", at=START + HOUR)
    for event, why in ((opened, "deviation"), (thrown, "discarded"), (recalled, "recalled")):
        with pytest.raises(RefusedError, match=why):
            label_of(kept(plan, HOUR, event), START + 2 * HOUR)
    with pytest.raises(RefusedError, match="past its use by"):
        label_of(kept(plan, HOUR), START + 40 * DAY)


def test_released_is_said_by_the_signature_alone() -> None:
    signed = BatchCountersigned(decision="release", reason="All of it was met", at=START + HOUR)
    assert label_of(kept(plan_of(RIB), HOUR, signed), START + 2 * HOUR).released
    doubt = InstrumentDoubted(
        instrument="p", instrument_name="Probe", error=2.0, since=START, sentence="Off by 2 °C.", at=START + HOUR
    )
    assert not label_of(kept(plan_of(RIB), HOUR, signed, doubt), START + 2 * HOUR).released  # nobody answered for it
