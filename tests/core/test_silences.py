"""Nothing is proved across a silence, and nothing hot is forgotten because it was cool later."""

from typing import Any

import numpy as np
import pytest

from brinefrost.core.limits import Series
from brinefrost.core.runs.judging import MANUAL_GAP_S
from tests.core.test_published_figures import HOUR, limit_of

GUARD_C = 0.5  # an ordinary probe's expanded uncertainty


def read(points: list[tuple[float, float]], gap_s: float = 300.0, uncertainty: float = 0.0) -> Series:
    """Minutes and °C as a logger or a hand left them."""
    times = np.array([minute * 60.0 for minute, _ in points])
    values = np.array([celsius for _, celsius in points])
    return Series(times, values, uncertainty, 0.0, closed=True, longest_gap_s=gap_s)


def dense(points: list[tuple[float, float]], every_min: float = 4.0) -> list[tuple[float, float]]:
    minutes = np.arange(points[0][0], points[-1][0] + 1e-9, every_min)
    at, values = [minute for minute, _ in points], [celsius for _, celsius in points]
    return [(float(m), float(np.interp(m, at, values))) for m in minutes]


COOLED = [(0.0, 60.0), (100.0, 20.0), (300.0, 4.0)]
# a straight line between the two ends of each silence would keep to the time, the worst that can have been does not
SILENT = [
    ("us-cooling", [(0.0, 60.0), (10.0, 60.0)], [(135.0, 20.0), (300.0, 4.0)]),
    ("uk-cook-chill", [(0.0, 75.0), (10.0, 75.0)], [(135.0, 2.0), (140.0, 2.0)]),
    ("us-come-up-4h", [(0.0, 5.0), (60.0, 5.0)], [(310.0, 58.0), (320.0, 60.0)]),
    ("uk-reheat", [(0.0, 75.0), (1.0, 75.0)], [(15.0, 60.0), (16.0, 60.0)]),
    ("hot-smoked-fish", [(0.0, 66.0), (10.0, 66.0)], [(31.0, 66.0), (32.0, 66.0)]),
]  # fmt: skip


@pytest.mark.parametrize(("id_", "before", "after"), SILENT, ids=[each[0] for each in SILENT])
def test_nothing_is_proved_across_a_silence(
    id_: str, before: list[tuple[float, float]], after: list[tuple[float, float]]
) -> None:
    """FDA 3-501.14, 3-401.11, 3-403.11: a time is proved by what was read through it, not by its two ends."""
    silent = [*dense(before, 1.0), *dense(after, 1.0)]
    assert limit_of(id_).evaluate(read(silent), 24 * HOUR).state != "pass"


def test_a_fall_read_through_passes() -> None:
    for id_, points in (
        ("us-cooling", COOLED),
        ("us-come-up-4h", [(0.0, 5.0), (30.0, 12.0), (180.0, 58.0)]),
        ("hot-smoked-fish", [(0.0, 66.0), (32.0, 66.0)]),
    ):
        assert limit_of(id_).evaluate(read(dense(points)), 24 * HOUR).state == "pass"


@pytest.mark.parametrize("hot_first", [True, False])
def test_histamine_remembers_that_it_was_hot(hot_first: bool) -> None:
    """Hazards guide, ch. 7: 4 h in all above 40 °F if any of it was above 70 °F; 5 h fail, whichever came first."""
    spans = [(1.0, 24.0), (4.0, 10.0)] if hot_first else [(4.0, 10.0), (1.0, 24.0)]
    points, minute = [], 0.0
    for hours, celsius in spans:
        points += dense([(minute, celsius), (minute + hours * 60 - 0.5, celsius)], 3.5)
        minute += hours * 60
    assert limit_of("scombroid-fresh").evaluate(read(points), 24 * HOUR).state == "fail"
    cool = dense([(0.0, 10.0), (300.0, 10.0)])
    assert limit_of("scombroid-fresh").evaluate(read(cool), 24 * HOUR).state == "pass"


def test_freezing_is_guarded_by_its_probe() -> None:
    """JCGM 106, 8.3: at -20 °C within half a degree of doubt it may have been -19.5; 853/2004 wants -20 °C for 24 h."""
    limit = limit_of("eu-freeze")
    for celsius, state in ((-20.8, "pass"), (-20.2, "too_close"), (-19.2, "fail")):
        points = dense([(0.0, celsius), (25 * 60.0, celsius)], 5.0)
        assert limit.evaluate(read(points, uncertainty=GUARD_C), 48 * HOUR).state == state


def test_freezing_read_at_its_two_ends_is_not_proved() -> None:
    points = [(0.0, -22.0), (25 * 60.0, -22.0)]
    assert limit_of("eu-freeze").evaluate(read(points), 48 * HOUR).state != "pass"


def test_option_2_has_to_begin_in_time() -> None:
    """FSIS Appendix B, option 2: chilling begins within 90 min of the end of the cook."""
    limit = limit_of("fsis-b2")
    fall = [(0.0, 60.0), (30.0, 49.0), (80.0, 25.0), (380.0, 12.0)]
    waits = [(0.0, 60.0), (100.0, 59.0), (130.0, 49.0), (180.0, 25.0), (480.0, 12.0)]
    assert limit.evaluate(read(dense(fall, 2.0)), 24 * HOUR).state == "pass"
    assert limit.evaluate(read(dense(waits, 2.0)), 24 * HOUR).state != "pass"


def test_degree_hours_once_run_stay_run() -> None:
    """American Meat Institute: degree-hours above 60 °F add up; a spell below takes none of them back."""
    limit = limit_of("degree-hours-f")
    warm = dense([(0.0, 26.0), (40 * 60.0, 26.0)], 5.0)
    then = [*warm, *dense([(40 * 60.0 + 5, 8.0), (60 * 60.0, 8.0)], 5.0)]
    first, second = (limit.evaluate(read(points), 90 * HOUR).value for points in (warm, then))
    assert first is not None
    assert second is not None
    assert second >= first - 1e-6


def test_warm_fish_unread_for_three_hours_is_not_proved() -> None:
    """Hazards guide, ch. 7: hours above 40 °F are those that were read; twice a day, when it lies cold, is enough."""
    limit = limit_of("scombroid-fresh")
    warm, cold = [(0.0, 10.0), (180.0, 10.0)], [(0.0, 3.0), (9 * 60.0, 3.0)]
    assert limit.evaluate(read(warm), 180 * 60.0).state != "pass"
    assert limit.evaluate(read(cold), 9 * HOUR).state == "pass"


def test_the_six_hours_want_readings() -> None:
    """FDA 3-501.19(C): 6 h only for food that never passes 70 °F, and nobody looked for five hours."""
    points = [(0.0, 4.0), (300.0, 18.0)]
    assert limit_of("us-time").evaluate(read(points), 300 * 60.0).state != "pass"


def test_the_six_hours_want_a_guard() -> None:
    """FDA 3-501.19(C): 6 h if it starts at 41 °F and never passes 70 °F; 20.8 °C within half a degree may have."""
    limit = limit_of("us-time")
    near, clear = (dense([(0.0, 4.0), (300.0, top)]) for top in (20.8, 18.0))
    assert limit.evaluate(read(clear, uncertainty=GUARD_C), 300 * 60.0).state == "pass"
    assert limit.evaluate(read(near, uncertainty=GUARD_C), 300 * 60.0).state != "pass"


def test_hand_readings_half_an_hour_apart_are_no_curve() -> None:
    """Common practice, no source: a hand every ten minutes at most follows a piece that warms or cools."""
    assert MANUAL_GAP_S <= 600.0
    limit: Any = limit_of("us-cooling")
    assert limit.evaluate(read(dense(COOLED, 10.0), MANUAL_GAP_S), 24 * HOUR).state == "pass"
    hold = limit_of("hot-smoked-fish")
    steady = [(0.0, 66.0), (90.0, 66.0)]
    assert hold.evaluate(read(dense(steady, 10.0), MANUAL_GAP_S), 24 * HOUR).state == "pass"
    assert hold.evaluate(read(dense(steady, 30.0), MANUAL_GAP_S), 24 * HOUR).state != "pass"
