"""Validation through the services: a study signed as evidence, batches that go by it, and what revokes it."""

import pytest

from brinefrost.core.errors import RefusedError
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.words import said
from brinefrost.services import doubting, keeping, planning, running, starting, validating
from brinefrost.services.validating import StepValidation
from brinefrost.store import Store
from tests.core.test_validated import events_of
from tests.services.conftest import Kitchen

THICK_M = 0.03


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def run(kitchen: Kitchen, *unread: str, thickness_m: float | None = THICK_M, packs: int = 6, end: bool = True) -> str:
    """A batch of the thigh, begun now and gone as planned by its records; the clock stands behind it."""
    plan = kitchen.do(lambda store: planning.signed_plan(store, kitchen.plan_id)).document
    who, now = kitchen.people["cook"], kitchen.clock.now()
    entry = starting.BatchStart(plan_id=kitchen.plan_id, packs=packs, thickness_m=thickness_m, start_c=4.0)
    batch = str(kitchen.do(lambda store: starting.start_batch(store, who, now, entry)).batch_id)
    validated = tuple(kitchen.do(lambda store: keeping.load(store, batch)).validated.values())
    events, over = events_of(plan, *unread, at=now, validated=validated, more=("cook",), end=end, instrument="probe-2")

    def write(store: Store) -> None:
        for event in events[1:]:
            keeping.write(store, batch, event, who.author, now)

    kitchen.do(write)
    kitchen.clock.forward((over - now).total_seconds() / 60 + 1)
    return batch


def cook_of(kitchen: Kitchen) -> StepValidation:
    found = kitchen.do(lambda store: validating.list_validations(store, kitchen.plan_id))
    return next(each for each in found if each.step == "cook")


def take(kitchen: Kitchen, *batches: str) -> StepValidation:
    entry, who = validating.ValidationEntry(step="cook", batches=batches), kitchen.people["lead"]
    now = kitchen.clock.now()
    return kitchen.do(lambda store: validating.take_as_evidence(store, who, now, kitchen.plan_id, entry))  # type: ignore[no-any-return]


def blocks(kitchen: Kitchen, batch: str) -> list[str]:
    known = kitchen.do(lambda store: keeping.load(store, batch))
    return [said(each) for each in blocks_of_countersigning(known, "release", kitchen.clock.now())]


def test_three_batches_let_the_next_go_without_its_core_inside_their_bounds(kitchen: Kitchen) -> None:
    """Codex CXC 1-1969 (2022), 2.3: validated on real food, then monitored; outside the bounds it is measured again."""
    assert cook_of(kitchen).state == "none"
    with pytest.raises(RefusedError, match="at least"):
        take(kitchen, run(kitchen))
    first = [run(kitchen) for _ in range(3)]
    assert len(cook_of(kitchen).runs) == 4
    assert take(kitchen, *first).state == "holds"
    inside = run(kitchen, "cook core", end=False)
    assert blocks(kitchen, inside) == []
    for outside in (
        run(kitchen, "cook core", end=False, thickness_m=None),
        run(kitchen, "cook core", end=False, thickness_m=THICK_M + 0.001),
        run(kitchen, "cook core", end=False, packs=7),
    ):
        assert any(each.startswith("Bath") for each in blocks(kitchen, outside))
    fits = kitchen.do(
        lambda store: starting.fit_today(
            store, kitchen.plan_id, starting.Measured(thickness_m=THICK_M, start_c=2.0, packs=6)
        )
    )
    assert [each.inside for each in fits.process] == [True]
    colder = starting.Measured(thickness_m=THICK_M, start_c=-0.5, packs=6)
    fits = kitchen.do(lambda store: starting.fit_today(store, kitchen.plan_id, colder))
    assert [each.inside for each in fits.process] == [False], "colder than the study"


def test_a_core_that_breaks_its_limit_revokes_it_for_every_open_batch(kitchen: Kitchen) -> None:
    take(kitchen, *(run(kitchen) for _ in range(3)))
    other = run(kitchen, "cook core", end=False)
    assert blocks(kitchen, other) == []
    who, now = kitchen.people["cook"], kitchen.clock.now()
    entry = starting.BatchStart(plan_id=kitchen.plan_id, packs=6, thickness_m=THICK_M, start_c=4.0)
    batch = str(kitchen.do(lambda store: starting.start_batch(store, who, now, entry)).batch_id)
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(120)
    kitchen.log(batch, "cook", 57.0, confirmed=True)
    mark = running.StepMark(confirmed=True)
    kitchen.do(lambda store: running.finish_step(store, who, kitchen.clock.now(), batch, "cook", mark))
    found = cook_of(kitchen)
    assert found.state == "revoked"
    assert "broke its limit" in said(found.ended)
    assert kitchen.do(lambda store: keeping.load(store, batch)).validated == {}
    assert any(each.startswith("Bath") for each in blocks(kitchen, other))


def test_it_ends_by_hand_with_a_reason_and_with_a_study_that_was_recalled(kitchen: Kitchen) -> None:
    first = [run(kitchen) for _ in range(3)]
    who = kitchen.people["lead"]

    def end(reason: str) -> StepValidation:
        entry, now = validating.RevocationEntry(reason=reason), kitchen.clock.now()
        return kitchen.do(  # type: ignore[no-any-return]
            lambda store: validating.end_validation(store, who, now, kitchen.plan_id, "cook", entry)
        )

    with pytest.raises(RefusedError, match="Nothing is validated"):
        end("The circulator was exchanged for another one.")
    take(kitchen, *first)
    with pytest.raises(RefusedError):
        end("asdf asdf")
    assert end("The circulator was exchanged for another one.").state == "revoked"
    assert take(kitchen, *first).state == "holds"
    why = running.RecallEntry(reason="The supplier called back lot 4471: listeria was found in it.")
    kitchen.do(lambda store: running.recall(store, who, kitchen.clock.now(), first[0], why))
    assert cook_of(kitchen).state == "revoked"


def test_a_probe_that_was_off_takes_its_study_with_it(kitchen: Kitchen) -> None:
    take(kitchen, *(run(kitchen) for _ in range(3)))
    now = kitchen.clock.now()

    def doubt(store: Store) -> None:
        doubting.doubt_past(store, now, store.instruments.by_id("probe-2"), 8.0, "°C")

    kitchen.do(doubt)
    assert cook_of(kitchen).state == "revoked"


def test_a_changed_plan_asks_for_the_study_again(kitchen: Kitchen) -> None:
    take(kitchen, *(run(kitchen) for _ in range(3)))
    who, now = kitchen.people["lead"], kitchen.clock.now()

    def sign(store: Store) -> None:
        view = planning.read_plan(store, kitchen.plan_id)
        steps = tuple(
            step.model_copy(update={"duration_s": step.duration_s + 600.0}) if step.id == "cook" else step  # type: ignore[union-attr]
            for step in view.document.steps
        )
        changed = view.document.model_copy(update={"steps": steps})
        saved = planning.save_plan(store, who, now, kitchen.plan_id, view.revision, changed)
        planning.sign_plan(store, who, now, kitchen.plan_id, planning.Signing(revision=saved.revision))

    kitchen.do(sign)
    kitchen.clock.forward(1)
    assert cook_of(kitchen).state == "changed"
    assert cook_of(kitchen).runs == ()
    assert any(each.startswith("Bath") for each in blocks(kitchen, run(kitchen, "cook core", end=False)))
