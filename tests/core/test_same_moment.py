"""Two pieces read at one moment: the page stands, and the worse of the two counts, whichever was typed first."""

from itertools import permutations

import pytest

from brinefrost.core.runs import events as e
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.judging import judge
from brinefrost.core.runs.sheet import sheet_of_batch
from tests.core.test_runs import at, chilling, core, recorded, started
from tests.kitchen import thigh_plan


def cooked(*pieces: float) -> Batch:
    """Read every 5 min in the bath, each piece in turn within the same moment."""
    rows = [
        core(5.0 * n, min(piece, 5 + 4.0 * n), "cook", reading=f"r{n}-{i}")
        for n in range(25)
        for i, piece in enumerate(pieces)
    ]
    begun = e.StepStarted(step="cook", at=at(0))
    return recorded(started(), begun, *rows, e.StepFinished(step="cook", at=at(121)))


def lethality(batch: Batch) -> tuple[str, float | None]:
    verdict = next(s.verdict for s in judge(batch, at(130)).statuses if s.limit.kind == "lethality")
    return verdict.state, verdict.value


@pytest.mark.parametrize("pieces", [*permutations((61.9, 57.9)), *permutations((60.4, 61.9, 58.9))])
def test_a_cook_is_judged_by_the_coldest(pieces: tuple[float, ...]) -> None:
    assert lethality(cooked(*pieces)) == lethality(cooked(min(pieces)))
    assert lethality(cooked(*pieces))[0] != lethality(cooked(max(pieces)))[0] == "pass"


def cooled(*last: float) -> str:
    """Read once more at its last mark, 6 h after it fell below the hot line."""
    begun = [(0.0, 58.0), (60.0, 18.0), (120.0, 9.0), (200.0, 7.0)]
    batch = chilling(*begun, extra=tuple(core(481, v, reading=f"last-{v}") for v in last))
    statuses = judge(batch, at(490)).statuses
    return next(s.verdict.state for s in statuses if s.limit.kind == "cooling")


def test_a_chill_is_judged_by_the_warmest() -> None:
    assert cooled(2.0, 9.0) == cooled(9.0, 2.0) == cooled(9.0) == "fail"
    assert cooled(2.0) != "fail"


@pytest.mark.parametrize("apart_s", [0.0, 0.3, 1.0, 1.9, 2.0])
def test_however_close_they_are_the_batch_can_be_looked_at(apart_s: float) -> None:
    pair = (core(160, 18.0, reading="one"), core(160 + apart_s / 60, 22.0, reading="other"))
    batch = chilling((0.0, 58.0), (20.0, 31.0), extra=pair)
    judgement = judge(batch, at(165))
    assert sheet_of_batch(batch, judgement, at(165)).columns
    forecasts = [s.forecast for s in judgement.statuses if s.step == "chill" and s.forecast]
    alone = judge(chilling((0.0, 58.0), (20.0, 31.0), (40.0, 22.0)), at(165))
    assert [f.left_s for f in forecasts] == pytest.approx(
        [s.forecast.left_s for s in alone.statuses if s.step == "chill" and s.forecast], rel=0.02
    )


def test_what_was_chilled_before_is_timed_from_when_it_left_the_cold() -> None:
    """Cooked on Monday, kept, portioned and chilled again on Tuesday: Monday's cook is not Tuesday's clock."""
    plan = thigh_plan()
    again = plan.step("chill").model_copy(update={"id": "again", "name": "Again"})
    keep = plan.step("keep")
    steps = (*plan.steps[: plan.steps.index(keep) + 1], again)
    control = next(each for each in plan.controls if each.step == "chill").model_copy(update={"step": "again"})
    kept = tuple(each for each in plan.controls if each.step != "reheat")
    plan = plan.model_copy(update={"steps": steps, "controls": (*kept, control), "hazards": ()})
    day = 24 * 60.0
    events: list[e.BatchEvent] = [started()]
    for step, begun, ended in (("cook", 0.0, 120.0), ("chill", 120.0, 240.0), ("keep", 240.0, day)):
        events += [e.StepStarted(step=step, at=at(begun)), e.StepFinished(step=step, at=at(ended))]
    events += [e.StepStarted(step="again", at=at(day + 30)), core(day + 30, 16.0, "again")]
    rows = [
        e.Recorded(seq=i, actor_id="a", actor_name="A", actor_role="cook", recorded_at=at(0), event=event)
        for i, event in enumerate(events)
    ]
    statuses = judge(fold(plan, rows), at(day + 31)).statuses
    assert next(each.verdict.state for each in statuses if each.step == "again") == "pending"
