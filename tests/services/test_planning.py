"""A plan through the services: written, proved, signed, compared, and never changed once it is signed."""

from collections.abc import Callable
from typing import Any

import pytest

from brinefrost.core.errors import ConflictError, NotFoundError, PlanIncompleteError, RefusedError
from brinefrost.core.plans.asking import with_questions
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import templates
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.demo.seed import INGREDIENTS, approved, with_setting
from brinefrost.demo.weighing import decided
from brinefrost.services import library, planning
from brinefrost.services.office import Actor
from brinefrost.store import Database, Store
from tests.conftest import TestClock

REASON = "Trial for the authority's visit; nothing of it is served."


@pytest.fixture
def ground(furnished_template: str) -> str:
    return furnished_template


class Desk:
    """The lead over plans, one transaction for each thing done."""

    def __init__(self, database: Database, clock: TestClock, lead: Actor) -> None:
        self.database, self.clock, self.lead = database, clock, lead

    def do(self, work: Callable[[Store], Any]) -> Any:
        with self.database.transaction() as store:
            return work(store)

    def create(self, begin_with: str = "bag", rules: Any = "us", name: str = "Thigh") -> planning.PlanView:
        now = self.clock.now()
        return self.do(  # type: ignore[no-any-return]
            lambda store: planning.create_plan(store, self.lead, now, name, rules, begin_with)
        )

    def save(self, view: planning.PlanView, plan: Plan, revision: int | None = None) -> planning.PlanView:
        at, seen = self.clock.now(), view.revision if revision is None else revision
        return self.do(  # type: ignore[no-any-return]
            lambda store: planning.save_plan(store, self.lead, at, view.plan_id, seen, plan)
        )

    def sign(self, view: planning.PlanView, reason: str = "", revision: int | None = None) -> planning.Version:
        entry = planning.Signing(revision=view.revision if revision is None else revision, reason=reason)
        at = self.clock.now()
        return self.do(  # type: ignore[no-any-return]
            lambda store: planning.sign_plan(store, self.lead, at, view.plan_id, entry)
        )

    def read(self, view: planning.PlanView) -> planning.PlanView:
        return self.do(lambda store: planning.read_plan(store, view.plan_id))  # type: ignore[no-any-return]

    def listed(self) -> dict[str, library.PlanSummary]:
        at = self.clock.now()
        return {each.plan_id: each for each in self.do(lambda store: library.list_plans(store, at))}

    def ready(self) -> planning.PlanView:
        """The thigh, decided, saved and not yet signed."""
        view = self.create()
        plan = approved(decided(view.document.model_copy(update={"ingredients": INGREDIENTS})))
        return self.save(view, plan)


@pytest.fixture
def desk(database: Database, clock: TestClock, people: dict[str, Actor]) -> Desk:
    return Desk(database, clock, people["lead"])


# --- writing ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_every_template_opens_as_a_plan_of_its_kitchen(desk: Desk, rules: str) -> None:
    for key in templates():
        view = desk.create(key, rules, f"{key} {rules}")
        assert view.document.rule_set == rules
        assert view.document.altitude_m == 2140  # water boils at 92.9 °C here
        assert view.gaps, key  # no hazard is weighed yet: nothing to be signed
        assert view.changed_since_signed


def test_a_revision_goes_up_by_one_and_an_old_one_writes_over_nothing(desk: Desk) -> None:
    view = desk.create()
    first = desk.save(view, view.document.model_copy(update={"name": "Thigh, one"}))
    assert first.revision == view.revision + 1
    with pytest.raises(ConflictError):
        desk.save(view, view.document.model_copy(update={"name": "Thigh, two"}))
    assert desk.read(view).document.name == "Thigh, one"


def test_controls_follow_the_decisions(desk: Desk) -> None:
    view = desk.ready()
    assert {each.step for each in view.document.controls} == set(view.critical_steps)
    nothing = [h.model_copy(update={"decisions": ()}) for h in view.document.hazards]
    bare = desk.save(view, view.document.model_copy(update={"hazards": tuple(nothing)}))
    assert bare.document.controls == ()
    assert bare.critical_steps == ()


def test_a_hazard_is_suggested_until_it_is_taken(desk: Desk) -> None:
    plan = desk.create().document.model_copy(update={"ingredients": INGREDIENTS})
    fresh = planning.suggest_hazards(plan)
    assert {"salmonella", "listeria"} <= {hazard.key for hazard in fresh}
    taken = plan.model_copy(update={"hazards": tuple(fresh)})
    assert planning.suggest_hazards(taken) == []


# --- signing ------------------------------------------------------------------------------------------------------


def test_a_signed_version_stays_whatever_is_written_after_it(desk: Desk) -> None:
    view = desk.ready()
    signed = desk.sign(view)
    assert (signed.version, signed.proof_meets, signed.departs) == (1, False, True)
    assert signed.reason == view.document.control_of("cook").departs
    hotter = desk.save(view, with_setting(view.document, "cook", bath_c=66.0))
    assert hotter.changed_since_signed
    kept = desk.do(lambda store: planning.signed_plan(store, view.plan_id))
    assert kept.document == with_questions(view.document)
    second = desk.sign(hotter)
    assert second.version == 2
    assert second.hash != signed.hash
    both = [desk.do(lambda store, n=n: planning.signed_plan(store, view.plan_id, n)) for n in (1, 2)]
    assert [each.document.step("cook").bath_c for each in both] == [63.0, 66.0]
    with pytest.raises(NotFoundError):
        desk.do(lambda store: planning.signed_plan(store, view.plan_id, 3))


def test_what_has_not_changed_is_not_signed_again(desk: Desk) -> None:
    view = desk.ready()
    desk.sign(view)
    with pytest.raises(RefusedError, match="Nothing has changed"):
        desk.sign(desk.read(view))
    assert not desk.read(view).changed_since_signed


def test_what_was_written_since_it_was_read_is_not_signed_unseen(desk: Desk) -> None:
    view = desk.ready()
    desk.save(view, with_setting(view.document, "cook", bath_c=66.0))
    with pytest.raises(ConflictError):
        desk.sign(view)


@pytest.mark.parametrize("reason", ["", "short", "..........", "aaaaaaaaaaaaaaaaaaaaaaaaaa", "ok ok ok ok ok ok ok ok"])
def test_a_plan_that_fails_its_proof_is_signed_for_a_reason_of_substance(desk: Desk, reason: str) -> None:
    view = desk.ready()
    cool = desk.save(view, with_setting(view.document, "cook", bath_c=57.0, duration_s=3600.0))
    with pytest.raises(PlanIncompleteError) as caught:
        desk.sign(cool, reason)
    assert caught.value.fields["reason"] == "proof"
    signed = desk.sign(cool, REASON)
    assert not signed.proof_meets
    assert signed.reason == REASON


def test_a_plan_with_gaps_names_them_all(desk: Desk) -> None:
    view = desk.create()
    with pytest.raises(PlanIncompleteError) as caught:
        desk.sign(view)
    assert len(caught.value.fields["gaps"]) == len(view.gaps)  # type: ignore[arg-type]


def test_a_loosened_limit_is_seen_and_asks_why(desk: Desk) -> None:
    """The id of a limit says nothing: what counts is what it asks for."""
    view = desk.ready()
    (chill,) = (c for c in view.document.controls if c.step == "chill")
    cooling = next(limit for limit in chill.limits if limit.kind == "cooling")
    stages = tuple(stage.model_copy(update={"within_s": 24 * 3600.0}) for stage in cooling.stages)
    loose = chill.model_copy(update={"limits": (cooling.model_copy(update={"stages": stages}),), "departs": ""})
    controls = tuple(loose if c.step == "chill" else c for c in view.document.controls)
    saved = desk.save(view, view.document.model_copy(update={"controls": controls}))
    proof = planning.prove_plan(saved.document)
    assert saved.gaps or not proof.meets
    with pytest.raises(PlanIncompleteError):
        desk.sign(saved)


# --- comparing ----------------------------------------------------------------------------------------------------


def test_a_change_is_named_by_its_place_with_both_values(desk: Desk) -> None:
    view = desk.ready()
    desk.sign(view)
    desk.save(view, with_setting(view.document, "cook", bath_c=66.0))
    changes = desk.do(lambda store: planning.changes_since(store, view.plan_id, 1))
    found = [c for c in changes if "bath_c" in c.where]
    assert [(c.before, c.after) for c in found] == [("63.0", "66.0")]


def test_nothing_changed_is_no_change(desk: Desk) -> None:
    view = desk.ready()
    desk.sign(view)
    assert desk.do(lambda store: planning.changes_since(store, view.plan_id, 1)) == []


def test_the_library_says_how_each_stands(desk: Desk) -> None:
    draft, signed, changed = desk.create(name="A draft"), desk.ready(), desk.ready()
    desk.sign(signed)
    desk.sign(changed)
    desk.save(changed, with_setting(changed.document, "cook", bath_c=66.0))
    listed = desk.listed()
    assert listed[draft.plan_id].version is None
    assert listed[draft.plan_id].gaps > 0
    assert (listed[signed.plan_id].version.version, listed[signed.plan_id].changed_since_signed) == (1, False)
    assert listed[changed.plan_id].changed_since_signed
    assert listed[signed.plan_id].decides
    assert listed[signed.plan_id].days > 0
    assert listed[signed.plan_id].last_batch is None


def test_a_plan_is_copied_as_a_draft_of_its_own(desk: Desk) -> None:
    signed, now = desk.ready(), desk.clock.now()
    desk.sign(signed)
    copy = desk.do(lambda store: planning.copy_plan(store, desk.lead, now, signed.plan_id, "Thigh, thick"))
    assert copy.plan_id != signed.plan_id
    assert copy.versions == ()
    assert copy.changed_since_signed
    assert copy.document == signed.document.model_copy(update={"name": "Thigh, thick"})


# --- proving ------------------------------------------------------------------------------------------------------


def test_a_proof_is_of_the_plan_as_it_is_sent_and_the_same_each_time(desk: Desk) -> None:
    plan = with_controls(desk.ready().document)
    first, again = planning.prove_plan(plan), planning.prove_plan(plan.model_copy())
    assert first == again
    cool = planning.prove_plan(with_setting(plan, "cook", bath_c=57.0, duration_s=3600.0))
    assert (first.state, cool.state) == ("departs", "fails")
    assert planning.prove_plan(plan).state == "departs"  # the one does not stand for the other


def test_the_sheet_and_the_proof_are_one_answer(desk: Desk) -> None:
    plan = desk.ready().document
    for bath_c, seconds in ((63.0, 9000.0), (57.0, 3600.0)):
        changed = with_setting(plan, "cook", bath_c=bath_c, duration_s=seconds)
        assert planning.lay_out(changed).state == planning.prove_plan(changed).state


def test_a_walk_that_cannot_be_is_laid_out_with_what_is_wrong_and_proves_nothing(desk: Desk) -> None:
    plan = desk.ready().document
    steps = tuple(sorted(plan.steps, key=lambda step: step.id != "keep"))  # kept before it is cooked
    odd = plan.model_copy(update={"steps": steps})
    assert not planning.prove_plan(odd).meets
    assert planning.lay_out(odd).state != "meets"
