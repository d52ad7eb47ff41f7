"""Questions of one steady surrounding: inverses, maps, fits, repetitions agree with each other and with the trade."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import strategies as st

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.inverse import met_s, steadily
from brinefrost.core.limits import Hold, Lethality
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.fit import Setting, fit_unknown
from brinefrost.core.physics.heating import Heating, safe_time_map_s
from brinefrost.core.physics.least_squares import best_of_grid
from brinefrost.core.physics.lethality import lethality_min
from brinefrost.core.physics.robustness import Spread, repeat, repeat_chill, repeat_until
from brinefrost.core.rules import target

LISTERIA = target("listeria-p70", Lethality)
P70 = LISTERIA.model.law()
THIGH = Heating(Body(Shape.slab, 0.014, 1.2e-7, 0.48), 95, 4, 63)
NONE = Spread(0, 0, 0, 0)

shapes = st.sampled_from([Shape.slab, Shape.cylinder, Shape.sphere])
pieces = st.builds(
    lambda shape, mm, start, bath: Heating(Body(shape, mm / 2000, 1.3e-7, 0.48), 95, start, bath),
    shapes,
    st.floats(8, 60),
    st.floats(0, 20),
    st.floats(58, 85),
)


def test_the_map_says_what_the_single_question_says() -> None:
    thick, baths = np.linspace(0.01, 0.08, 6), np.array([53.0, 58.0, 63.0, 75.0])
    cells = safe_time_map_s(THIGH, [LISTERIA.rows_met_s], thick, baths)
    for i, t in enumerate(thick):
        for j, bath in enumerate(baths):
            at = replace(THIGH, body=replace(THIGH.body, half_thickness_m=t / 2), surroundings_c=bath)
            one = met_s((LISTERIA,), steadily(at))
            assert cells[i, j] == pytest.approx(one if one is not None else np.inf, rel=2e-3)
    assert np.all(np.isinf(cells[:, 0]))


@pytest.mark.parametrize(("unknown", "truth"), [("thickness", 0.034), ("h", 150.0), ("diffusivity", 1.6e-7)])
def test_a_fit_finds_what_made_the_readings(unknown: str, truth: float) -> None:
    """The readings come from the same model with another value: the fit must give it back within its own span."""
    believed = Setting(Body(Shape.slab, 0.0125, 1.3e-7, 0.48), 95, 5, 60)
    made = believed.curve(unknown, truth, 7200)  # type: ignore[arg-type]
    times = np.array([600.0, 1200.0, 1800.0, 2400.0])
    noise = np.random.default_rng(3).normal(0, 0.2, 4)
    fit = fit_unknown(believed, unknown, times, np.interp(times, made.times_s, made.core_c) + noise, 7200)  # type: ignore[arg-type]
    assert fit.low < truth < fit.high
    assert np.all(fit.slow.core_c <= fit.fast.core_c + 1e-6)
    assert np.interp(5400, fit.expected.times_s, fit.expected.core_c) == pytest.approx(
        np.interp(5400, made.times_s, made.core_c), abs=0.6
    )


@pytest.mark.parametrize(
    ("start", "readings"), [(60.0, [59, 58]), (5.0, [20.0]), (5.0, [90, 10, 95])], ids=["alike", "too few", "nonsense"]
)
def test_readings_that_tell_nothing(start: float, readings: list[float]) -> None:
    setting = Setting(Body(Shape.slab, 0.0125, 1.3e-7, 0.48), 95, start, 60)
    with pytest.raises(OutOfRangeError):
        fit_unknown(setting, "h", np.arange(1, len(readings) + 1) * 600.0, np.array(readings, float), 7200)


def test_a_grid_needs_its_sums() -> None:
    with pytest.raises(ValueError, match="sum of squares"):
        best_of_grid(np.ones(3), np.ones(2), 3)


def test_without_spread_a_repetition_is_the_plan_itself() -> None:
    needed = met_s((LISTERIA,), steadily(THIGH)) or 0.0
    assert repeat(THIGH, P70, needed * 1.02, NONE, 100).failing_share == 0
    assert repeat(THIGH, P70, needed * 0.98, NONE, 100).failing_share == 1


@pytest.mark.parametrize("held_s", [1.0, 120.0, 900.0])
def test_without_spread_a_line_held_for_a_time_is_met_when_the_plan_meets_it(held_s: float) -> None:
    line = Hold(id="x", title="x", source=LISTERIA.source, at_least_c=60, for_s=held_s)
    needed = met_s((line,), steadily(THIGH)) or 0.0
    assert repeat_until(THIGH, line.rows_met_s, needed * 1.02, NONE, 100)[0] == 0
    assert repeat_until(THIGH, line.rows_met_s, needed * 0.98, NONE, 100)[0] == 1
    share, _, matters = repeat_until(THIGH, line.rows_met_s, needed * 1.02, Spread(0.003, 1.0, 0.3, 0.2), 4000)
    assert 0.1 < share < 0.5
    assert matters[0][0] == "thickness"


def test_a_chill_slowed_by_its_load_or_already_under_way_is_missed_more_often() -> None:
    cold = Heating(Body(Shape.slab, 0.025, 1.4e-7, 0.5), 25, 90, 0)
    stages, spread = ((21.0, 7200.0), (5.0, 21600.0)), Spread(0.01, 2, 3, 0.3)
    alone = repeat_chill(cold, 57, stages, spread, 4000)[0]
    assert repeat_chill(cold, 57, stages, spread, 4000, load=(60_000.0, 300.0))[0] > alone
    assert repeat_chill(cold, 57, stages, spread, 4000, waited_s=1800.0)[0] > alone
    assert repeat_chill(cold, 57, stages, spread, 4000, until_s=3600.0)[0] == 1


def test_repetitions_follow_the_exact_solver() -> None:
    """The table over thickness against the solver itself, on the same draw: lethality within 2 %."""
    spread, duration = Spread(0.003, 1.0, 0.3, 0.2), 5400.0
    done = repeat(THIGH, P70, duration, spread, 400, seed=7)
    draw = np.clip(np.random.default_rng(7).standard_normal((4, 400)), -3, 3)
    times = np.linspace(0, duration, 300)
    exact = []
    for d in draw.T:
        body = replace(THIGH.body, half_thickness_m=(0.028 + 0.003 * d[0]) / 2)
        piece = replace(THIGH, body=body, start_c=4 + d[1], surroundings_c=63 + 0.3 * d[2] - 0.2 * d[3])
        exact.append(lethality_min(P70, times, piece.core_c(times))[-1])
    assert done.lethality_min == pytest.approx(np.percentile(exact, (5, 50, 95)), rel=0.02)
    assert done.failing_share == pytest.approx(np.mean(np.array(exact) < 2), abs=0.01)


def test_the_same_seed_gives_the_same_answer_and_thickness_matters_most() -> None:
    spread = Spread(0.004, 0.5, 0.1, 0.1)
    one, two = (repeat(THIGH, P70, 6000, spread, 2000, seed=11) for _ in range(2))
    assert one.failing_share == two.failing_share
    assert one.matters[0][0] == "thickness"
    assert sum(share for _, share in one.matters) == pytest.approx(1)


def test_a_chill_repeated() -> None:
    cold = Heating(Body(Shape.slab, 0.025, 1.4e-7, 0.5), 25, 90, 0)
    stages = ((21.0, 7200.0), (5.0, 21600.0))
    assert repeat_chill(cold, 57, stages, NONE, 100)[0] == 0
    deep = replace(cold, body=replace(cold.body, half_thickness_m=0.06))
    assert repeat_chill(deep, 57, stages, NONE, 100)[0] == 1
    share, error, matters = repeat_chill(cold, 57, stages, Spread(0.01, 2, 3, 0.3), 4000)
    assert 0 < share < 1
    assert error < 0.01
    assert matters[0][0] in ("thickness", "surroundings")


@pytest.mark.parametrize(
    ("spread", "samples", "time"), [(Spread(-1, 0, 0, 0), 1000, 60), (NONE, 10, 60), (NONE, 1000, 0)]
)
def test_repetitions_that_make_no_sense(spread: Spread, samples: int, time: float) -> None:
    with pytest.raises(OutOfRangeError):
        repeat(THIGH, P70, time, spread, samples)
