"""A batch that begins: when it may, of what it may take, and which readings belong to its steps."""

from datetime import timedelta

import pytest

from brinefrost.core.errors import (
    AskFirstError,
    DomainError,
    ImplausibleReadingError,
    NotFoundError,
    OutOfRangeError,
    RefusedError,
)
from brinefrost.services import readings, running, starting
from tests.services.conftest import Kitchen


@pytest.fixture
def ground(signed_template: str) -> str:
    return signed_template


def begun(kitchen: Kitchen, **more: object) -> str:
    entry = starting.BatchStart.model_validate({"plan_id": kitchen.plan_id, "packs": 6, **more})
    made = kitchen.do(lambda store: starting.start_batch(store, kitchen.people["cook"], kitchen.clock.now(), entry))
    return str(made.batch_id)


def test_more_than_was_made_of_a_batch_is_asked_about(kitchen: Kitchen) -> None:
    """Six packs of 1.2 kg are 7.2 kg: five of them went elsewhere, and three more are too many."""
    part = finished(kitchen)
    begun(kitchen, parts=[{"batch": part, "kg": 5}])
    with pytest.raises(AskFirstError, match=r"7\.2 kg, of which 5 kg") as asked:
        begun(kitchen, parts=[{"batch": part, "kg": 3}])
    assert asked.value.fields["part"] == part
    begun(kitchen, parts=[{"batch": part, "what": "trim", "kg": 3}])  # trim is not of what was weighed
    begun(kitchen, parts=[{"batch": part, "kg": 2.2}])
    begun(kitchen, parts=[{"batch": part, "kg": 3}], confirmed=True)
    assert [each.kg for each in kitchen.view(part).given] == [5, 3, 2.2, 3]


def finished(kitchen: Kitchen) -> str:
    """A batch that has come through its bath and its slurry, well, and lies in the cold."""
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(120)
    kitchen.begin(batch, "chill")
    for minutes, value in ((1, 62.0), (10, 40.0), (10, 22.0), (10, 12.0), (10, 4.0)):
        kitchen.clock.forward(minutes)
        kitchen.log(batch, "chill", value)
    kitchen.begin(batch, "keep")
    return batch


# --- when ---------------------------------------------------------------------------------------------------------


def test_numbers_go_up_and_are_not_given_twice(kitchen: Kitchen) -> None:
    codes = [kitchen.view(kitchen.start()).code for _ in range(3)]
    assert codes == ["B-101", "B-102", "B-103"]


def test_nothing_begins_before_its_plan_was_signed(kitchen: Kitchen) -> None:
    with pytest.raises(RefusedError, match="not signed yet"):
        begun(kitchen, at=kitchen.clock.now() - timedelta(days=2), confirmed=True)


def test_nothing_begins_in_a_time_to_come_and_a_time_long_past_is_asked_about(kitchen: Kitchen) -> None:
    now = kitchen.clock.now()
    with pytest.raises(ImplausibleReadingError, match="not come yet"):
        begun(kitchen, at=now + timedelta(minutes=10))
    with pytest.raises(AskFirstError):
        begun(kitchen, at=now - timedelta(hours=14))
    begun(kitchen, at=now - timedelta(hours=14), confirmed=True)


def test_a_plan_that_nobody_signed_begins_nothing(kitchen: Kitchen) -> None:
    with pytest.raises(NotFoundError):
        begun(kitchen, plan_id="there-is-no-such-plan")


# --- today's pieces -----------------------------------------------------------------------------------------------


def test_thicker_pieces_take_longer_and_their_time_is_kept_with_the_batch(kitchen: Kitchen) -> None:
    def asked(thickness_m: float) -> starting.Fit:
        entry = starting.Measured(thickness_m=thickness_m)
        return kitchen.do(lambda store: starting.fit_today(store, kitchen.plan_id, entry))  # type: ignore[no-any-return]

    assert asked(0.024).state == "fits"
    assert asked(0.042).state == "longer"
    longer = kitchen.view(begun(kitchen, thickness_m=0.042))
    planned = kitchen.view(kitchen.start())
    times = [next(b for b in view.blocks if b.step == "cook") for view in (longer, planned)]
    assert times[0].ends - times[0].starts > times[1].ends - times[1].starts


@pytest.mark.parametrize("thickness_m", [0.0, -0.01, 1.5, float("nan")])
def test_a_piece_is_a_piece(kitchen: Kitchen, thickness_m: float) -> None:
    with pytest.raises(ValueError, match="thickness_m"):
        begun(kitchen, thickness_m=thickness_m)


# --- parts --------------------------------------------------------------------------------------------------------


def test_what_is_done_is_offered_with_its_last_day(kitchen: Kitchen) -> None:
    done, running_ = finished(kitchen), kitchen.start()
    offer = kitchen.do(lambda store: starting.offer(store, kitchen.plan_id, kitchen.clock.now()))
    by_batch = {each.batch: each for each in offer.batches}
    assert by_batch[done].done
    assert not by_batch[running_].done
    assert by_batch[done].gone_by > kitchen.clock.now() + timedelta(days=1)


def test_a_part_cannot_be_taken_before_it_was_there(kitchen: Kitchen) -> None:
    """A batch written down afterwards takes nothing that was still in the bath, or not begun, at the time."""
    before = kitchen.clock.now()
    kitchen.clock.forward(30)
    part = finished(kitchen)
    entry = {"parts": [{"batch": part, "what": "food"}], "confirmed": True}
    with pytest.raises(RefusedError, match="had not begun"):
        begun(kitchen, at=before, **entry)
    with pytest.raises(RefusedError, match="has not come through"):
        begun(kitchen, at=before + timedelta(minutes=60), **entry)
    begun(kitchen, **entry)


def test_trim_can_be_taken_as_soon_as_there_is_some(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.clock.forward(5)
    begun(kitchen, parts=[{"batch": batch, "what": "trim"}])
    with pytest.raises(RefusedError):
        begun(kitchen, parts=[{"batch": batch, "what": "food"}])


def test_what_was_thrown_away_goes_into_nothing_and_what_it_is_in_waits(kitchen: Kitchen) -> None:
    part = finished(kitchen)
    made = begun(kitchen, parts=[{"batch": part, "what": "food", "kg": 1.2}])
    assert [each.state for each in kitchen.view(made).parts] == ["running"]
    entry = running.DeviationEntry(decision="discard", reason="Dropped on the floor.")
    who = kitchen.people["reviewer"]
    kitchen.do(lambda store: running.countersign(store, who, kitchen.clock.now(), part, entry))
    assert [each.state for each in kitchen.view(made).parts] == ["discarded"]
    with pytest.raises(RefusedError, match="thrown away"):
        begun(kitchen, parts=[{"batch": part, "what": "food"}])
    assert [each.batch for each in kitchen.view(part).given] == [made]


def test_a_part_that_is_not_there_is_no_part(kitchen: Kitchen) -> None:
    with pytest.raises(NotFoundError):
        begun(kitchen, parts=[{"batch": "nowhere", "what": "food"}])


# --- readings and their step --------------------------------------------------------------------------------------


def test_a_reading_from_before_its_step_belongs_to_the_step_before(kitchen: Kitchen) -> None:
    """A core of the bath does not pass for one of the slurry, nor one of yesterday's batch for either."""
    batch = kitchen.start()
    kitchen.clock.forward(20)
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(10)
    early = kitchen.clock.now() - timedelta(minutes=15)
    with pytest.raises(RefusedError, match="a reading from before belongs to the step before it") as caught:
        kitchen.log(batch, "cook", 62.0, quantity="bath", taken_at=early, confirmed=True)
    assert caught.value.fields["reason"] == "before"
    kitchen.log(batch, "cook", 62.0, quantity="bath", taken_at=kitchen.clock.now() - timedelta(minutes=11))
    with pytest.raises(RefusedError, match="has not begun"):
        kitchen.log(batch, "chill", 62.0)


@pytest.mark.parametrize(
    ("more", "error"),
    [
        ({"unit": "K"}, RefusedError),
        ({"unit": "pH"}, RefusedError),
        ({"quantity": "ph", "unit": "pH", "value": 4.2}, RefusedError),  # a probe reads no pH
        ({"instrument": "no-such"}, NotFoundError),
        ({"value": 500.0}, DomainError),
        ({"corrects": "no-such"}, RefusedError),
        ({"instrument": "probe-1"}, AskFirstError),  # its check is overdue
    ],
)
def test_a_reading_that_cannot_be_one_is_refused_and_nothing_is_kept(
    kitchen: Kitchen, more: dict[str, object], error: type[DomainError]
) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(5)
    entry = readings.ReadingEntry.model_validate(
        {"step": "cook", "quantity": "bath", "value": 62.8, "unit": "°C", "instrument": "probe-2",
         "taken_at": kitchen.clock.now(), **more}
    )  # fmt: skip
    with pytest.raises(error):
        kitchen.do(lambda store: readings.log_reading(store, kitchen.people["cook"], kitchen.clock.now(), batch, entry))
    assert kitchen.view(batch).readings == ()


def test_fahrenheit_is_kept_as_celsius_and_as_it_was_typed(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(5)
    entry = readings.ReadingEntry(
        step="cook", quantity="bath", value=145.4, unit="°F", instrument="probe-2", taken_at=kitchen.clock.now()
    )
    kitchen.do(lambda store: readings.log_reading(store, kitchen.people["cook"], kitchen.clock.now(), batch, entry))
    (kept,) = kitchen.view(batch).readings
    assert (round(kept.value, 6), kept.unit, kept.typed) == (63.0, "°C", "145.4 °F")


def test_a_reading_on_an_overdue_probe_bears_that_in_the_record(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(5)
    kitchen.log(batch, "cook", 62.8, quantity="bath", instrument="probe-1", confirmed=True)
    (kept,) = kitchen.view(batch).readings
    assert "calibration" in kept.note.lower()


def test_steps_may_run_beside_each_other_and_end_one_by_one(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    kitchen.clock.forward(60)
    who, now = kitchen.people["cook"], kitchen.clock.now()
    beside, confirmed = running.StepMark(beside=True), running.StepMark(confirmed=True)  # the cook is short
    kitchen.do(lambda store: running.begin_step(store, who, now, batch, "chill", beside))
    assert [b.step for b in kitchen.view(batch).blocks if b.started and not b.finished] == ["cook", "chill"]
    kitchen.clock.forward(5)
    kitchen.do(lambda store: running.finish_step(store, who, kitchen.clock.now(), batch, "cook", confirmed))
    assert [b.step for b in kitchen.view(batch).blocks if b.started and not b.finished] == ["chill"]
    with pytest.raises(RefusedError, match="already ended"):
        kitchen.do(
            lambda store: running.finish_step(store, who, kitchen.clock.now(), batch, "cook", running.StepMark())
        )


def test_a_step_ends_no_earlier_than_it_began(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.clock.forward(30)
    kitchen.begin(batch, "cook")
    mark = running.StepMark(at=kitchen.clock.now() - timedelta(minutes=10))
    with pytest.raises(RefusedError):
        kitchen.do(
            lambda store: running.finish_step(store, kitchen.people["cook"], kitchen.clock.now(), batch, "cook", mark)
        )


def test_a_record_that_is_closed_takes_nothing_more(kitchen: Kitchen) -> None:
    batch = kitchen.start()
    kitchen.begin(batch, "cook")
    entry = running.DeviationEntry(decision="discard", reason="Dropped on the floor.")
    who = kitchen.people["reviewer"]
    kitchen.do(lambda store: running.countersign(store, who, kitchen.clock.now(), batch, entry))
    kitchen.clock.forward(5)
    for work in (
        lambda: kitchen.log(batch, "cook", 62.8, quantity="bath"),
        lambda: kitchen.begin(batch, "chill"),
        lambda: kitchen.do(
            lambda store: running.record_action(
                store, who, kitchen.clock.now(), batch, running.ActionEntry(step="cook", action="Something.")
            )
        ),
    ):
        with pytest.raises(RefusedError, match="closed"):
            work()


def test_nothing_is_offered_that_the_models_cannot_bear(kitchen: Kitchen) -> None:
    with pytest.raises((OutOfRangeError, RefusedError, ValueError)):
        begun(kitchen, start_c=300)
