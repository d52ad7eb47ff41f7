"""The library: where plans are filed, what is to review, what is usual today, what was put away and brought back."""

from datetime import timedelta

import pytest

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.plans.family import FAMILIES, find_family
from brinefrost.core.plans.templates import by_family
from brinefrost.services import archiving, planning, starting
from tests.services.test_planning import Desk, desk, ground  # noqa: F401


def begin(desk: Desk, view: planning.PlanView) -> None:  # noqa: F811
    entry, now = starting.BatchStart(plan_id=view.plan_id, packs=6), desk.clock.now()
    desk.do(lambda store: starting.start_batch(store, desk.lead, now, entry))


def archive(desk: Desk, view: planning.PlanView, reason: str = "") -> None:  # noqa: F811
    now = desk.clock.now()
    desk.do(lambda store: archiving.archive_plan(store, desk.lead, now, view.plan_id, reason))


def bring_back(desk: Desk, plan_id: str) -> None:  # noqa: F811
    now = desk.clock.now()
    desk.do(lambda store: archiving.return_plan(store, desk.lead, now, plan_id))


def delete(desk: Desk, view: planning.PlanView) -> None:  # noqa: F811
    now = desk.clock.now()
    desk.do(lambda store: archiving.delete_draft(store, desk.lead, now, view.plan_id))


@pytest.mark.parametrize("template", by_family(), ids=lambda each: each.key)
def test_every_template_is_filed_under_its_own_family_and_none_asks_for_what_its_steps_say(template) -> None:  # type: ignore[no-untyped-def]
    plan = template.plan("A dish", "us")
    assert find_family(plan) == template.family
    other = next(each for each in FAMILIES if each != template.family)
    assert find_family(plan.model_copy(update={"family": other})) == other


def test_an_archived_plan_begins_nothing_is_not_written_and_keeps_its_versions(desk: Desk) -> None:  # noqa: F811
    view = desk.ready()
    desk.sign(view)
    archive(desk, view, "Off the menu")
    assert desk.listed()[view.plan_id].standing == "archived"
    assert desk.read(view).standing == "archived"
    with pytest.raises(RefusedError, match="archived"):
        begin(desk, view)
    with pytest.raises(RefusedError, match="archived"):
        desk.save(view, view.document)
    with pytest.raises(RefusedError, match="archived"):
        desk.sign(view)
    with pytest.raises(RefusedError, match="archived"):
        archive(desk, view)
    assert desk.do(lambda store: planning.signed_plan(store, view.plan_id)).version.version == 1
    bring_back(desk, view.plan_id)
    bring_back(desk, view.plan_id)  # a second time says nothing
    assert desk.listed()[view.plan_id].standing == "current"
    begin(desk, view)


def test_a_draft_is_deleted_a_signed_plan_never(desk: Desk) -> None:  # noqa: F811
    draft, signed = desk.create(name="A draft"), desk.ready()
    desk.sign(signed)
    with pytest.raises(RefusedError, match="Delete the draft"):
        archive(desk, draft)
    with pytest.raises(RefusedError, match="Archive it"):
        delete(desk, signed)
    delete(desk, draft)
    assert desk.listed()[draft.plan_id].standing == "deleted"
    with pytest.raises(RefusedError, match="deleted"):
        desk.save(draft, draft.document)
    bring_back(desk, draft.plan_id)
    assert desk.read(draft).document == draft.document


def test_what_is_not_there_is_not_brought_back(desk: Desk) -> None:  # noqa: F811
    with pytest.raises(NotFoundError):
        bring_back(desk, "no-such-plan")


def test_a_plan_in_force_is_reviewed_at_least_yearly(desk: Desk) -> None:  # noqa: F811
    """9 CFR 417.4(a)(3) and 21 CFR 123.8(a)(1): a HACCP plan is reassessed at least annually."""
    view = desk.ready()
    desk.sign(view)
    desk.clock.forward(365 * 24 * 60)
    assert desk.listed()[view.plan_id].review == ""
    desk.clock.forward(1)
    assert "365 days" in str(desk.listed()[view.plan_id].review)


def test_what_is_usually_begun_on_this_day_of_the_week_is_likely(desk: Desk) -> None:  # noqa: F811
    usual, once = desk.ready(), desk.ready()
    for view in (usual, once):
        desk.sign(view)
    begin(desk, once)
    begin(desk, usual)
    begin(desk, usual)  # twice on one day is one day
    week = timedelta(weeks=1)
    desk.clock.moment += week
    assert not any(each.likely for each in desk.listed().values())
    begin(desk, usual)
    desk.clock.moment += week
    assert [plan for plan, each in desk.listed().items() if each.likely] == [usual.plan_id]
    desk.clock.moment += timedelta(days=1)
    assert not any(each.likely for each in desk.listed().values())


def test_the_last_batch_is_the_one_begun_last(desk: Desk) -> None:  # noqa: F811
    view = desk.ready()
    desk.sign(view)
    begin(desk, view)
    desk.clock.forward(30)
    begin(desk, view)
    last = desk.listed()[view.plan_id].last_batch
    assert last is not None
    assert (last.code, last.started_at) == ("B-102", desk.clock.now())


def test_two_plans_are_compared_as_they_stand(desk: Desk) -> None:  # noqa: F811
    one, now = desk.ready(), desk.clock.now()
    other = desk.do(lambda store: planning.copy_plan(store, desk.lead, now, one.plan_id, "Thigh, thick"))
    found = desk.do(lambda store: planning.differences(store, other.plan_id, one.plan_id))
    assert [(each.where, each.before, each.after) for each in found] == [("name", "Thigh", "Thigh, thick")]
