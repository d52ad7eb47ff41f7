"""Who may decide on a batch and with what reason, what stands in the way, and which readings cannot be."""

from datetime import timedelta

import numpy as np
import pytest
from scipy.special import erfc  # type: ignore[import-untyped]

from brinefrost.core.errors import AskFirstError, ImplausibleReadingError, NotFoundError, RefusedError
from brinefrost.core.plans.contexts import context_at
from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch, followed
from brinefrost.core.runs.deciding import (
    answering,
    blocks_of_countersigning,
    broken,
    broken_then,
    check_reason,
    check_second_pair,
    check_unproved,
)
from brinefrost.core.runs.plausible import check_core, check_moment
from brinefrost.core.runs.schedule import MOST_CHECKS, checks_of, missed_checks
from tests.core.test_runs import PLAN, at, chilling, core, recorded, started

COOK = next(each.id for each in PLAN.control_of("cook").limits)  # type: ignore[union-attr]
COOLING = next(each.id for each in PLAN.control_of("chill").limits if each.kind == "cooling")  # type: ignore[union-attr]


def opened(cause: str = "forecast", minutes: float = 150) -> e.DeviationOpened:
    return e.DeviationOpened.model_validate(
        {"deviation": "B-1-D1", "step": "chill", "limit": COOLING, "cause": cause, "sentence": "So.", "at": at(minutes)}
    )


def decided(decision: str = "release", minutes: float = 160) -> e.DeviationDecided:
    return e.DeviationDecided.model_validate(
        {"deviation": "B-1-D1", "decision": decision, "reason": "As was seen.", "at": at(minutes)}
    )


def over(batch: Batch, minutes: float, step: str = "chill") -> Batch:
    return after(batch, e.StepFinished(step=step, at=at(minutes)))


def after(batch: Batch, *events: e.BatchEvent, by: str = "a") -> Batch:
    rows = [
        e.Recorded(seq=99 + i, actor_id=by, actor_name=by, actor_role="cook", recorded_at=at(0), event=event)
        for i, event in enumerate(events)
    ]
    return followed(batch, rows)


# --- a reason ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "reason",
    ["", "ok", "fine fine fine fine fine fine", "." * 60, "1 2 3 4 5 6 7 8 9 10 11 12", "a b c d e f g h i j k l m"],
)
def test_a_reason_that_says_nothing_is_none(reason: str) -> None:
    with pytest.raises(RefusedError, match="inspector"):
        check_reason(reason, "A release")


@pytest.mark.parametrize(
    "reason",
    [
        "The core was 63 °C for two hours by probe 3.",
        "Żurek był trzymany w lodzie przez całą noc.",  # any language
        "Le cœur est resté à 63 °C pendant deux heures.",
    ],
)
def test_a_reason_of_substance_is_one_in_any_language(reason: str) -> None:
    check_reason(reason, "A release")


# --- two pairs of eyes ------------------------------------------------------------------------------------------------


def test_who_logged_does_not_decide_where_somebody_else_may() -> None:
    batch = chilling((0, 62.0))
    assert batch.hands() == {"a"}
    with pytest.raises(RefusedError, match="Rui"):
        check_second_pair(batch, "a", {"r": "Rui", "a": "Ama"})
    assert check_second_pair(batch, "a", {}) is True  # nobody else: it is told as such
    assert check_second_pair(batch, "a", {"a": "Ama"}) is True
    assert check_second_pair(batch, "r", {"a": "Ama"}) is False


def test_one_who_only_began_a_step_is_no_hand() -> None:
    assert recorded(started(), e.StepStarted(step="cook", at=at(0))).hands() == set()


def test_whoever_laid_a_file_is_a_hand() -> None:
    file = e.TraceAttached(
        trace="t", step="cook", filename="f.csv", sha256="0", parsed_sha256="0", channels=(), assumptions=(), notes=(),
        instrument="l", instrument_name="L", uncertainty=0.4, first_at=at(0), last_at=at(60),
    )  # fmt: skip
    assert after(recorded(started()), file, by="b").hands() == {"b"}


# --- what answers for a limit -----------------------------------------------------------------------------------------


def test_a_limit_is_broken_from_when_it_was_read_so_and_not_before() -> None:
    batch = chilling((0, 62.0), (60, 50.0), (150, 40.0), (300, 30.0))
    assert not broken_then(batch, "chill", COOLING, at(170))
    assert broken_then(batch, "chill", COOLING, at(420))
    assert broken(batch, "chill", COOLING, at(420)) is not None
    assert broken(batch, "chill", "no-such", at(420)) is None


def test_a_release_of_what_was_seen_coming_answers_for_nothing_that_came() -> None:
    seen = chilling((0, 62.0), (30, 60.0), extra=(opened(), decided(minutes=160)))
    assert answering(seen, "chill", COOLING) is None
    broke = after(seen, core(270, 50.0), core(420, 45.0))
    assert answering(broke, "chill", COOLING) is None
    late = chilling((0, 62.0), (150, 50.0), (300, 45.0), extra=(opened(), decided(minutes=430)))
    assert answering(late, "chill", COOLING) is not None  # it was broken when it was decided on


@pytest.mark.parametrize("decision", ["discard", "rework"])
def test_what_is_thrown_away_or_done_again_answers_at_once(decision: str) -> None:
    batch = chilling((0, 62.0), (30, 60.0), extra=(opened(), decided(decision)))
    assert answering(batch, "chill", COOLING) is not None


def test_a_release_after_the_step_is_over_answers() -> None:
    batch = chilling((0, 62.0), (30, 60.0), extra=(e.StepFinished(step="chill", at=at(155)), opened(), decided()))
    assert answering(batch, "chill", COOLING) is not None


def test_one_that_is_open_answers_for_its_own_limit_alone() -> None:
    batch = chilling((0, 62.0), (30, 60.0), extra=(opened(),))
    assert answering(batch, "chill", COOLING) is not None
    assert answering(batch, "cook", COOK) is None


# --- a limit that nothing proves --------------------------------------------------------------------------------------


def test_what_nobody_measured_is_taken_up_once_its_step_is_over() -> None:
    batch = chilling((0, 62.0))
    found = check_unproved(batch, "cook", COOK, at(130))
    assert found.verdict.state == "not_measured"
    with pytest.raises(RefusedError, match="Measure first"):
        check_unproved(batch, "chill", COOLING, at(130))
    with pytest.raises(NotFoundError):
        check_unproved(batch, "cook", COOLING, at(130))  # of another step
    with pytest.raises(NotFoundError):
        check_unproved(batch, "cook", "no-such", at(130))


def test_what_is_met_has_nothing_to_be_decided() -> None:
    batch = over(chilling((0, 62.0), (5, 40.0), (10, 30.0), (15, 20.0), (20, 12.0), (25, 4.0)), 150)
    with pytest.raises(RefusedError, match="is met"):
        check_unproved(batch, "chill", COOLING, at(160))


def test_what_is_open_already_is_not_opened_again() -> None:
    batch = over(chilling((0, 62.0), (30, 60.0), extra=(opened(),)), 160)
    with pytest.raises(RefusedError, match="B-1-D1"):
        check_unproved(batch, "chill", COOLING, at(170))


# --- the whole batch --------------------------------------------------------------------------------------------------


def test_a_discard_needs_no_proof_but_its_deviations_decided() -> None:
    batch = chilling((0, 62.0))
    assert blocks_of_countersigning(batch, "discard", at(130)) == []
    seen = chilling((0, 62.0), (30, 60.0), extra=(opened(),))
    assert len(blocks_of_countersigning(seen, "discard", at(160))) == 1


def test_a_release_says_everything_that_stands_in_its_way() -> None:
    reasons = blocks_of_countersigning(chilling((0, 62.0)), "release", at(130))
    said = " ".join(reasons)
    for name in ("Slurry", "Bath"):
        assert name in said
    assert any("no reading yet" in each.lower() for each in reasons)
    assert any("has not ended" in each for each in reasons)


def test_after_a_discard_of_a_part_of_it_nothing_is_released() -> None:
    batch = chilling((0, 62.0), (30, 60.0), extra=(opened(), decided("discard")))
    assert any("discard" in each.lower() for each in blocks_of_countersigning(batch, "release", at(200)))


# --- checks -----------------------------------------------------------------------------------------------------------


def _often(every_s: float) -> Batch:
    """The thigh, its slurry read by the plan so often."""
    control = PLAN.control_of("chill")
    assert control is not None
    often = control.monitoring[0].model_copy(update={"every_s": every_s, "offsets_s": ()})
    changed = control.model_copy(update={"monitoring": (often,)})
    plan = PLAN.model_copy(update={"controls": tuple(changed if c.step == "chill" else c for c in PLAN.controls)})
    rows = [started(), e.StepStarted(step="cook", at=at(0)), e.StepFinished(step="cook", at=at(120)),
            e.StepStarted(step="chill", at=at(120))]  # fmt: skip
    from brinefrost.core.runs.batch import fold

    return fold(plan, [e.Recorded(seq=i, actor_id="a", actor_name="a", actor_role="cook", recorded_at=at(0), event=x)
                       for i, x in enumerate(rows)])  # fmt: skip


def test_no_check_is_passed_over_however_many_there_are() -> None:
    """Every five minutes for two days are 576: each of them is asked for."""
    batch = _often(300)
    checks = [c for c in checks_of(batch, at(120 + 2 * 1440)) if c.step == "chill"]
    assert len(checks) == 576
    assert checks[-1].due_at == at(120 + 2 * 1440)
    assert len([c for c in checks_of(_often(60), at(120 + 10 * 1440)) if c.step == "chill"]) == MOST_CHECKS


def test_a_reading_goes_to_the_check_it_is_nearest_to_and_takes_no_others_place() -> None:
    batch = after(_often(600), core(128, 60.0), core(131, 59.0), core(139, 55.0))
    checks = [c for c in checks_of(batch, at(145)) if c.step == "chill"]
    assert [(c.due_at, c.reading) for c in checks[:2]] == [(at(130), "r128"), (at(140), "r139")]


def test_a_missed_check_that_is_answered_for_is_no_longer_in_the_way() -> None:
    batch = over(chilling((0, 62.0), (30, 20.0)), 165)
    missed = missed_checks(batch, at(170))
    assert missed
    answered = after(batch, *(e.CheckAnswered(check=c.id, step=c.step, reason="Nobody was there.", at=at(171))
                              for c in missed))  # fmt: skip
    assert missed_checks(answered, at(172)) == []
    assert any(check.answer == "Nobody was there." for check in checks_of(answered, at(172)))


# --- readings that cannot be ------------------------------------------------------------------------------------------


def _thick_m() -> float:
    piece = context_at(PLAN, PLAN.step("chill")).food.piece
    assert piece is not None
    return piece.thickness_m


def test_a_core_follows_no_faster_than_heat_flows() -> None:
    batch = chilling((0, 62.0))
    with pytest.raises(ImplausibleReadingError) as caught:
        check_core(batch, "chill", 5.0, at(121), None)
    assert caught.value.fields["reason"] == "jump"
    check_core(batch, "chill", 58.0, at(121), None)
    check_core(batch, "chill", 5.0, at(121), "r120")  # it replaces the one it jumps from
    check_core(batch, "chill", 5.0, at(180), None)


@pytest.mark.parametrize("minutes", [1.0, 3.0, 6.0, 10.0, 20.0, 40.0])
def test_whatever_a_bag_of_the_plan_can_do_is_let_in(minutes: float) -> None:
    """The middle of a half-space is slower than a slab's: erfc(L / 2 sqrt(a t)) of the step at its face, both faces
    added (Carslaw & Jaeger 1959, 12.5), bounds from above how far a slab's middle has gone."""
    context = context_at(PLAN, PLAN.step("chill"))
    assert context.food.thermal is not None
    half = _thick_m() / 2
    share = min(2 * float(erfc(half / (2 * np.sqrt(context.food.thermal.diffusivity_m2_s * 60 * minutes)))), 1.0)
    fallen = 62.0 - share * (62.0 - 0.0)
    check_core(chilling((0, 62.0)), "chill", fallen, at(120 + minutes), None)


def test_the_reading_that_comes_after_is_looked_at_too() -> None:
    batch = chilling((0, 62.0), (10, 60.0))
    with pytest.raises(ImplausibleReadingError):
        check_core(batch, "chill", 5.0, at(129.8), None)


def test_a_time_to_come_or_long_past_is_no_time_of_now() -> None:
    now = at(0)
    check_moment(now + timedelta(seconds=30), now, confirmed=False)
    for wrong, reason in ((now + timedelta(minutes=5), "future"), (now - timedelta(days=40), "past")):
        with pytest.raises(ImplausibleReadingError) as caught:
            check_moment(wrong, now, confirmed=True)
        assert caught.value.fields["reason"] == reason
    long_ago = now - timedelta(hours=20)
    with pytest.raises(AskFirstError):
        check_moment(long_ago, now, confirmed=False)
    check_moment(long_ago, now, confirmed=True)
