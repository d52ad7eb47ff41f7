"""Skarn Ridge: six weeks made by the same code paths a kitchen uses, the same every time, alive when it opens."""

import random
from datetime import timedelta

import numpy as np
import pytest

from brinefrost.core.plans.templates import template
from brinefrost.core.traces import TraceOptions, read_trace
from brinefrost.demo.making import Truth, chill_core_c, cook_curve, logger_file
from brinefrost.demo.products import DISHES
from brinefrost.demo.seed import seed
from brinefrost.reports.record_pdf import record_pdf
from brinefrost.services import ledgers, library, shift, views
from brinefrost.store import Database
from brinefrost.store.ledger import Sought
from tests.conftest import ODD_DAY

NOW = ODD_DAY

pytestmark = pytest.mark.slow


@pytest.fixture
def ground(demo_template: str) -> str:
    return demo_template


def test_the_demo_as_it_opens(database: Database) -> None:
    """One test over the whole, since making it takes seconds."""
    assert not seed(database, NOW)  # a second time changes nothing
    with database.transaction() as store:
        batches = list(views.list_batches(store, NOW))
        plans = library.list_plans(store, NOW)
        integrity = ledgers.check_integrity(store, NOW)
        records = store.ledger.search(Sought(), None, 1000)
        opened = shift.read_shift(store, NOW)
        whole = [views.read_batch(store, batch.batch_id, NOW) for batch in batches]
        newest = {view.plan_name: view.batch_id for view in whole}.values()
        papers = [ledgers.for_print(store, batch_id, NOW) for batch_id in newest]

    assert integrity.holds
    times = [record.recorded_at for record in records]
    assert times == sorted(times, reverse=True)  # the ledger never goes back in time
    assert max(times) <= NOW

    signed = {plan.name for plan in plans if plan.version is not None}
    assert {plan.name for plan in plans} - signed == {"Chicken thigh, soft (trial)"}
    assert {template(dish.template).name for dish in DISHES} | {"Courgette and kohlrabi pickles"} < signed
    thighs = sorted((v for v in whole if v.plan_name == "Chicken thigh, in bag"), key=lambda view: view.code)
    closed = [view.closed.decision if view.closed else None for view in thighs]
    assert closed == ["release", "release", "discard", *["release"] * 5, None, None, None, None]
    saved = thighs[4].deviations[0]
    assert (saved.cause, saved.state, saved.decision) == ("forecast", "pass", "release")
    assert {deviation.cause for deviation in thighs[2].deviations} == {"forecast"}
    for dish in DISHES:  # each went from its template to a countersigned record, every limit measured and met
        cooked = [view for view in whole if view.plan_name == template(dish.template).name]
        assert len(cooked) == len(dish.begun_days_ago)
        done = [view for view in cooked if view.closed]
        assert done, dish.template
        for view in done:
            assert not view.deviations
            assert {status.verdict.state for status in view.limits} == {"pass"}, dish.template
    assert any(reading.entered_late_s > 3 * 3600 for view in whole for reading in view.readings)

    assert opened.next[0].kind == "trouble"
    assert {item.kind for item in opened.next} >= {"trouble", "check", "review"}
    assert any(lane.words for lane in opened.lanes)
    assert all(lane.blocks[0].starts < NOW + timedelta(hours=1) for lane in opened.lanes)

    assert all(record_pdf(paper, NOW).startswith(b"%PDF") for paper in papers)
    for view in whole:
        for status in view.limits:
            if status.verdict.state == "pass":
                assert status.verdict.basis == "measured"
            assert status.verdict.working.source.citation


def test_history_is_the_same_for_the_same_seed() -> None:
    truth = Truth()
    files = [logger_file(truth, NOW, random.Random(2140)) for _ in range(2)]
    assert files[0] == files[1]
    trace = read_trace(files[0], TraceOptions(), "UTC")
    assert [channel.quantity for channel in trace.channels] == ["core", "bath"]


def test_made_up_chills_are_continuous_and_slower_when_stacked() -> None:
    hot = float(cook_curve(Truth()).core_c[-1])
    minutes = [0.0, 600, 1200, 2400]
    quick, slow = (chill_core_c(Truth(pace=pace), hot, minutes, []) for pace in (1.0, 0.1))
    assert [quick[0], slow[0]] == pytest.approx([hot, hot])
    assert np.all(np.diff(quick) < 0)
    assert all(a <= b + 1e-9 for a, b in zip(quick, slow, strict=True))
    turned = chill_core_c(Truth(pace=0.1), hot, minutes, [(1200, 1.0)])
    assert turned[2] == pytest.approx(slow[2], abs=0.2)
    assert turned[3] < slow[3] - 10
