"""Batches that take of other batches, and batches whose pieces are not as planned."""

from datetime import UTC, datetime, timedelta

import pytest

from brinefrost.core.errors import OutOfRangeError, RefusedError
from brinefrost.core.plans.contexts import piece_of
from brinefrost.core.plans.document import Ingredient, Plan, canonical
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.deciding import blocks_of_countersigning
from brinefrost.core.runs.events import (
    Adjusted,
    BatchCountersigned,
    BatchEvent,
    BatchStarted,
    DeviationOpened,
    Part,
    Recorded,
    StepFinished,
    StepStarted,
)
from brinefrost.core.runs.exposure import clocks_of
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.parts import allergens_of, check_parts, dated_from, gone_by, part_of
from brinefrost.core.runs.schedule import blocks_of
from brinefrost.core.runs.sheet import sheet_of_batch
from brinefrost.core.runs.starting import fit, fitted_plan
from brinefrost.demo.weighing import decided

START = datetime(2026, 11, 17, 8, 0, tzinfo=UTC)
DAY = timedelta(days=1)


def plan_of(key: str) -> Plan:
    made = template(key)
    return with_controls(decided(made.plan(made.name, "us")))


def batch_of(plan: Plan, *events: BatchEvent, parts: tuple[Part, ...] = (), at: datetime = START) -> Batch:
    begun = BatchStarted(code="B-2", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=at, parts=parts)
    rows = [
        Recorded(seq=n, actor_id="a", actor_name="A", actor_role="cook", recorded_at=at, event=event)
        for n, event in enumerate((begun, *events), 1)
    ]
    return fold(plan, rows)


def kept(plan: Plan, after: timedelta, *more: BatchEvent, parts: tuple[Part, ...] = ()) -> Batch:
    """A batch whose cold keep began so long after its start."""
    before = [step.id for step in plan.steps][: [step.id for step in plan.steps].index("keep")]
    events = [event(step=step, at=START) for step in before for event in (StepStarted, StepFinished)]
    return batch_of(plan, *events, StepStarted(step="keep", at=START + after), *more, parts=parts)


def age_of(batch: Batch, now: datetime) -> tuple[str, float | None]:
    found = next(s for s in judge(batch, now).statuses if s.limit.quantity == "age")
    return found.verdict.state, found.verdict.value


def test_what_is_combined_keeps_the_date_of_what_was_made_first() -> None:
    """FDA Food Code 2022, 3-501.17(D): a combined food retains the date of the earliest-prepared ingredient."""
    plan = plan_of("short-rib")
    alone = kept(plan, timedelta(hours=6))
    assert dated_from(alone) == START + timedelta(hours=6)
    old = Part(batch="x", code="B-1", name="Garlic", made_at=START - DAY, gone_by=START + DAY)
    joined = kept(plan, timedelta(hours=6), parts=(old,))
    assert dated_from(joined) == START - DAY
    assert gone_by(joined) == START + DAY  # the part's own date comes first
    assert age_of(alone, START + DAY)[1] == pytest.approx(0.75, abs=0.01)
    assert age_of(joined, START + DAY)[1] == pytest.approx(2.0, abs=0.01)
    assert age_of(alone, START + 1.5 * DAY)[0] != "fail"
    assert age_of(joined, START + 1.5 * DAY)[0] == "fail"


def test_a_part_with_days_to_spare_shortens_nothing_but_the_clock() -> None:
    plan = plan_of("short-rib")
    fresh = Part(batch="x", code="B-1", name="Garlic", made_at=START - 0.5 * DAY, gone_by=START + 30 * DAY)
    joined = kept(plan, timedelta(hours=6), parts=(fresh,))
    limit = next(s.limit for s in judge(joined, START + DAY).statuses if s.limit.quantity == "age")
    assert gone_by(joined) == START - 0.5 * DAY + timedelta(days=limit.value)  # type: ignore[union-attr]


def test_allergens_come_with_the_part() -> None:
    plan = plan_of("short-rib")
    part = Part(batch="x", code="B-1", name="Butter", made_at=START, allergens=("milk", "mustard"))
    assert {"milk", "mustard"} <= set(allergens_of(batch_of(plan, parts=(part,))))


def test_what_was_thrown_away_is_open_or_is_too_old_goes_into_nothing() -> None:
    plan = plan_of("short-rib")
    good = kept(plan, timedelta(hours=6))
    given = part_of(good, "x", "food", 1.2, START + DAY)
    assert (given.code, given.made_at) == ("B-2", START + timedelta(hours=6))
    gone = BatchCountersigned(decision="discard", reason="Left out overnight.", at=START + DAY)
    with pytest.raises(RefusedError, match="thrown away"):
        part_of(kept(plan, timedelta(hours=6), gone), "x", "food", None, START + DAY)
    open_ = DeviationOpened(deviation="D", step="keep", limit="l", cause="breach", sentence="Warm.", at=START)
    with pytest.raises(RefusedError, match="nobody has decided"):
        part_of(kept(plan, timedelta(hours=6), open_), "x", "food", None, START + DAY)
    with pytest.raises(RefusedError, match="come through its critical"):
        part_of(batch_of(plan, StepStarted(step="receive", at=START)), "x", "food", None, START + DAY)
    with pytest.raises(RefusedError, match="had to be gone"):
        part_of(good, "x", "food", None, START + 40 * DAY)


def test_trim_is_as_old_as_the_goods() -> None:
    """Broth of yesterday's trim is dated from the trim, not from the pot."""
    saddle = batch_of(plan_of("saddle"), StepStarted(step="receive", at=START))
    trim = part_of(saddle, "s", "trim", 3.0, START + DAY)
    assert trim.made_at == START
    broth = kept(plan_of("broth"), 1.2 * DAY, parts=(trim,))
    assert dated_from(broth) == START
    assert age_of(broth, START + 2 * DAY)[1] == pytest.approx(2.0, abs=0.01)


def test_a_plan_that_takes_of_this_kitchen_asks_which_batch() -> None:
    plan = plan_of("terrine")
    made = plan.model_copy(update={"ingredients": (*plan.ingredients, Ingredient(name="Garlic", made_here=True))})
    with pytest.raises(RefusedError, match="which batch the Garlic"):
        check_parts(made, ())
    check_parts(made, (Part(batch="x", code="B-1", name="Garlic", made_at=START),))
    check_parts(plan, ())
    assert "made_here" not in canonical(plan)  # what was signed before keeps its hash
    assert "made_here" in canonical(made)


@pytest.mark.parametrize("key", ["thigh", "short-rib", "saddle", "goose"])
def test_pieces_as_planned_change_nothing(key: str) -> None:
    plan = plan_of(key)
    piece = piece_of(plan)
    assert piece
    assert fit(plan, None, None).state == fit(plan, piece.thickness_m, piece.start_c).state == "as_planned"


def test_the_walk_runs_again_with_what_was_measured() -> None:
    """Thickness squared: half as thick again takes about twice as long to heat through."""
    plan = plan_of("thigh")
    cook = plan.step("cook")
    thin = fit(plan, 0.6 * cook.thickness_m, None)  # type: ignore[union-attr]
    assert thin.state == "fits"
    thick = fit(plan, 1.6 * cook.thickness_m, None)  # type: ignore[union-attr]
    assert thick.state == "longer", thick.sentence
    longer = next(each for each in thick.adjusted if (each.step, each.setting) == ("cook", "duration_s"))
    assert longer.value > cook.duration_s  # type: ignore[union-attr]
    assert "no longer suffices" in thick.sentence
    batch = fold(
        plan,
        [
            Recorded(
                seq=1, actor_id="a", actor_name="A", actor_role="cook", recorded_at=START,
                event=BatchStarted(
                    code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START, adjusted=thick.adjusted
                ),
            )
        ],
    )  # fmt: skip
    block = next(block for block in blocks_of(batch, START) if block.step == "cook")
    assert (block.ends - block.starts).total_seconds() == longer.value


def test_pieces_no_time_can_help_are_said_so() -> None:
    plan = plan_of("thigh")
    fat = fit(plan, 0.12, None)
    assert fat.state == "fails"
    assert "no time" in fat.sentence.lower()
    with pytest.raises(OutOfRangeError):
        fit(plan, 0.9, None)
    with pytest.raises(OutOfRangeError):
        fitted_plan(plan, (Adjusted(step="cook", setting="nonsense", value=1.0),))


def test_clocks_come_with_the_part_and_go_on_from_there() -> None:
    """Cumulative exposure of toxin formers (FDA Hazards Guide, Table A-1): what a part has used up is used up."""
    plan = plan_of("short-rib")
    now = START + timedelta(hours=8)
    alone = kept(plan, timedelta(hours=6))
    own = clocks_of(alone, now)
    assert 0 < own["s_aureus"] < 1
    part = Part(batch="x", code="B-1", name="Stew", made_at=START, clocks={"s_aureus": 0.8, "listeria": 0.9})
    joined = kept(plan, timedelta(hours=6), parts=(part,))
    brought = clocks_of(joined, now)
    assert brought["s_aureus"] == pytest.approx(own["s_aureus"] + 0.8, abs=1e-3)
    given = part_of(joined, "b2", "food", None, now, brought)
    assert given.clocks["s_aureus"] > 1
    row = next(r for r in sheet_of_batch(joined, judge(joined, now), now).rows if r.key == "s-aureus")
    assert (row.cells[0].said, row.cells[0].amount, row.standing) == ("brings", "80 %", "fails")
    assert any("can have made its toxin" in said for said in blocks_of_countersigning(joined, "release", now))
    assert not any("toxin" in said for said in blocks_of_countersigning(joined, "discard", now))
    assert not any("toxin" in said for said in blocks_of_countersigning(alone, "release", now))


def test_a_by_product_is_as_old_as_the_worst_its_batch_went_through() -> None:
    """The trim was cut off before the heat: no heat of the batch sets its clocks back."""
    alone = kept(plan_of("short-rib"), timedelta(hours=6))
    now = START + timedelta(hours=8)
    food, trim = clocks_of(alone, now), clocks_of(alone, now, "trim")
    assert all(trim[key] >= food[key] for key in food)


def test_a_part_written_before_clocks_were_kept_still_reads() -> None:
    old = {"batch": "x", "code": "B-1", "name": "Stew", "made_at": START.isoformat()}
    assert Part.model_validate(old).clocks == {}


def test_an_organism_of_two_hazards_is_counted_once() -> None:
    """Listeria is a hazard of the cold and one of what is served raw: one organism, one clock."""
    plan = plan_of("cold-smoked-char")
    events = [event(step=step.id, at=START) for step in plan.steps for event in (StepStarted, StepFinished)][:-1]
    batch, now = batch_of(plan, *events), START + 3 * DAY
    assert [h.key for h in plan.hazards if h.significant and h.key.startswith("listeria")] == [
        "listeria",
        "listeria-raw",
    ]
    one = plan.model_copy(update={"hazards": tuple(h for h in plan.hazards if h.key != "listeria-raw")})
    assert clocks_of(batch, now)["listeria"] == clocks_of(batch_of(one, *events), now)["listeria"] > 0
