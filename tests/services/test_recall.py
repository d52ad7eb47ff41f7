"""What is thrown away is thrown away, and what was released can be called back with all that was made of it."""

from typing import Any

import pytest

from brinefrost.core.errors import RefusedError
from brinefrost.core.words import said
from brinefrost.services import planning, running, shift, starting, views
from brinefrost.store import Store
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


WHY = "The supplier called back lot 4471: listeria was found in it."


def made_of(kitchen: Kitchen, parent: str, what: Any = "trim") -> str:
    entry = starting.BatchStart(
        plan_id=kitchen.plan_id, packs=6, parts=(starting.PartEntry(batch=parent, what=what, kg=1.0),), confirmed=True
    )
    who = kitchen.people["cook"]
    return str(kitchen.do(lambda store: starting.start_batch(store, who, kitchen.clock.now(), entry)).batch_id)


def to_discard(kitchen: Kitchen) -> str:
    batch = kitchen.stalled()
    kitchen.decide(batch, kitchen.view(batch).deviations[0].deviation, "discard", "Two hours in the growth zone.")
    return batch


def cards(kitchen: Kitchen, batch: str) -> list[str]:
    return [said(item.title) for item in kitchen.next() if item.batch_id == batch and item.kind == "trouble"]


def released(kitchen: Kitchen) -> str:
    """A batch closed as released, by the records alone."""
    batch = kitchen.start()

    def close(store: Store) -> None:
        from brinefrost.core.runs.events import BatchCountersigned
        from brinefrost.services import keeping

        event = BatchCountersigned(decision="release", reason="All read.", at=kitchen.clock.now())
        keeping.write(store, batch, event, kitchen.people["lead"].author, kitchen.clock.now())

    kitchen.do(close)
    return batch


def recall(kitchen: Kitchen, batch: str, reason: str = WHY) -> None:
    who, entry = kitchen.people["lead"], running.RecallEntry(reason=reason)
    kitchen.do(lambda store: running.recall(store, who, kitchen.clock.now(), batch, entry))


def test_what_a_decision_threw_away_goes_into_nothing_and_closes_as_nothing_else(kitchen: Kitchen) -> None:
    batch = to_discard(kitchen)
    offer = kitchen.do(lambda store: starting.offer(store, kitchen.plan_id, kitchen.clock.now()))
    assert batch not in {each.batch for each in offer.batches}
    with pytest.raises(RefusedError, match="thrown away"):
        made_of(kitchen, batch)
    assert any("bin it" in card for card in cards(kitchen, batch))
    assert kitchen.view(batch).to_discard
    who, now = kitchen.people["reviewer"], kitchen.clock.now()
    for decision in ("release", "rework"):
        entry = running.DeviationEntry(decision=decision, reason="It looked all right in the end, we think.")
        with pytest.raises(RefusedError):
            kitchen.do(lambda store, entry=entry: running.countersign(store, who, now, batch, entry))
    gone = running.DeviationEntry(decision="discard", reason="Binned and weighed, 7 kg.")
    kitchen.do(lambda store: running.countersign(store, who, now, batch, gone))
    assert cards(kitchen, batch) == []


def test_what_was_made_of_it_and_of_that_is_in_trouble_until_it_is_gone(kitchen: Kitchen) -> None:
    batch = kitchen.stalled()
    # the trim was taken before the chill went wrong
    child = made_of_before(kitchen, batch)
    grandchild = made_of(kitchen, child)
    kitchen.decide(batch, kitchen.view(batch).deviations[0].deviation, "discard", "Two hours in the growth zone.")
    assert [part.state for part in kitchen.view(child).parts] == ["discarded"]
    assert [part.state for part in kitchen.view(grandchild).parts] == ["trouble"]
    assert any("contains" in card for card in cards(kitchen, child))
    assert any("contains" in card for card in cards(kitchen, grandchild))
    assert any("thrown away" in said(block) for block in kitchen.view(child).blocking)


def made_of_before(kitchen: Kitchen, batch: str) -> str:
    """A dish that took of a batch while nothing was wrong with it, by the records alone."""
    from brinefrost.core.runs.events import BatchStarted, Part
    from brinefrost.services import keeping

    child = "of-" + batch

    def start(store: Store) -> None:
        view = planning.signed_plan(store, kitchen.plan_id)
        parent = keeping.load(store, batch)
        part = Part(batch=batch, code=parent.started.code, name="Thigh", what="trim", made_at=parent.started.at)
        event = BatchStarted(
            code="B-900", plan_id=kitchen.plan_id, plan_version=view.version.version, plan_hash=view.version.hash,
            packs=1, at=kitchen.clock.now(), parts=(part,),
        )  # fmt: skip
        keeping.write(store, child, event, kitchen.people["cook"].author, kitchen.clock.now())

    kitchen.do(start)
    return child


def test_a_released_batch_is_recalled_with_who_why_and_when(kitchen: Kitchen) -> None:
    """Reg. (EC) 178/2002, art. 18 and 19: what left is called back, and what was made of it is found."""
    batch = released(kitchen)
    child = made_of(kitchen, batch)
    with pytest.raises(RefusedError, match="reason"):
        recall(kitchen, batch, "oops")
    recall(kitchen, batch)
    view = kitchen.view(batch)
    assert view.recalled
    assert (view.recalled.reason, view.recalled.by) == (WHY, kitchen.people["lead"].name)
    assert view.closed  # the record stays as it was signed
    assert [row.state for row in listed(kitchen) if row.batch_id == batch] == ["trouble"]
    assert any("Recalled" in card for card in cards(kitchen, batch))
    assert [part.state for part in kitchen.view(child).parts] == ["recalled"]
    assert [given.state for given in view.given] == ["trouble"]
    assert any("recalled" in said(block) for block in kitchen.view(child).blocking)
    with pytest.raises(RefusedError, match="recalled"):
        made_of(kitchen, batch)
    with pytest.raises(RefusedError, match="already"):
        recall(kitchen, batch)


def test_only_what_was_released_is_recalled(kitchen: Kitchen) -> None:
    with pytest.raises(RefusedError, match="released"):
        recall(kitchen, kitchen.start())


def test_batches_are_found_by_a_suppliers_lot(kitchen: Kitchen) -> None:
    from brinefrost.core.runs.events import Lot

    entry = starting.BatchStart(plan_id=kitchen.plan_id, packs=6, lots=(Lot(ingredient="Chicken thigh", lot="L-4471"),))
    who = kitchen.people["cook"]
    batch = kitchen.do(lambda store: starting.start_batch(store, who, kitchen.clock.now(), entry)).batch_id
    assert [row.batch_id for row in listed(kitchen) if "L-4471" in row.lots] == [batch]


def listed(kitchen: Kitchen) -> list[views.BatchSummary]:
    return kitchen.do(lambda store: list(views.list_batches(store, kitchen.clock.now())))  # type: ignore[no-any-return]


def test_a_recall_stands_on_the_shift_for_a_month(kitchen: Kitchen) -> None:
    batch = released(kitchen)
    recall(kitchen, batch)
    kitchen.clock.forward(int(shift.RECALL_SHOWN.total_seconds() / 60) + 60)
    assert cards(kitchen, batch) == []
