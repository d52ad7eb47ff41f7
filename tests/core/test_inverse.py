"""How long, how thick, how cool still passes: against the trade, against the judge itself, and never the unsafe way."""

from dataclasses import replace
from functools import partial

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.inverse import coolest_c, met_s, steadily, thickest_m
from brinefrost.core.kitchen.eggs import egg_body
from brinefrost.core.limits import Cooling, Hold, Lethality, Limit, Series
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heating import Heating, safe_time_map_s
from brinefrost.core.physics.horizon import LAST_STEP_S, left_in, left_in_bath
from brinefrost.core.physics.lethality import goal_met_s
from brinefrost.core.physics.reservoir import Reservoir
from brinefrost.core.rules import rule_set, target

P70 = target("listeria-p70", Lethality)
AT_74 = rule_set("us").limit_as("cook.filled", Hold)
THIGH = Heating(Body(Shape.slab, 0.014, 1.2e-7, 0.48), 95, 4, 63)

limits = st.sampled_from(
    [P70, AT_74, AT_74.model_copy(update={"for_s": 900.0}), AT_74.model_copy(update={"at_least_c": 55.0})]
)
pieces = st.builds(
    lambda shape, mm, start, bath: Heating(Body(shape, mm / 2000, 1.3e-7, 0.48), 95, start, bath),
    st.sampled_from([Shape.slab, Shape.cylinder, Shape.sphere]),
    st.floats(8, 60),
    st.floats(0, 20),
    st.floats(58, 85),
)


def to_core(heating: Heating, core_c: float) -> float | None:
    """How long until the core is there [s]."""
    return met_s((AT_74.model_copy(update={"at_least_c": core_c}),), steadily(heating))


# common practice: 5 °C to 59.5 °C in a 60 °C bath, α 1.4e-7, k 0.48, h 95; an egg-sized sphere about 48 min
@pytest.mark.parametrize(
    ("shape", "mm", "minutes"),
    [(Shape.slab, 25, 70), (Shape.slab, 50, 213), (Shape.cylinder, 60, 131), (Shape.sphere, 43, 48)],
)
def test_trade_heating_times(shape: Shape, mm: float, minutes: float) -> None:
    found = to_core(Heating(Body(shape, mm / 2000, 1.4e-7, 0.48), 95, 5, 60), 59.5)
    assert found is not None
    assert found / 60 == pytest.approx(minutes, abs=1.5)


def test_an_egg_in_a_bath() -> None:
    """Derived: 60 °C water brings the centre of a 60 g egg to 59.5 °C in 36 to 38 min."""
    found = to_core(Heating(egg_body(0.06), 300, 4, 60), 59.5)
    assert found is not None
    assert 36 <= found / 60 <= 38


@settings(max_examples=40)
@given(piece=pieces, limit=limits)
def test_what_is_said_to_suffice_passes_the_judge_and_a_little_less_does_not(piece: Heating, limit: Limit) -> None:
    # in a bath just as warm as credit begins the core comes near for ever: the last digit would decide
    assume(abs(piece.surroundings_c - counts_from_c(limit)) > 0.01)
    needed = met_s((limit,), steadily(piece))
    if needed is None:
        return
    # a hold is counted from the first point at temperature: late by a step of the way at most, never early
    for end_s, state in ((1.01 * needed + 1, "pass"), (0.98 * needed - LAST_STEP_S, "fail")):
        times = np.linspace(0, max(end_s, 1.0), 4000)
        assert limit.evaluate(Series.computed(times, piece.core_c(times)), times[-1]).state == state


@settings(max_examples=30)
@given(piece=pieces, limit=limits)
def test_thicker_never_heats_faster_and_hotter_never_kills_less(piece: Heating, limit: Limit) -> None:
    here = met_s((limit,), steadily(piece)) or np.inf
    thick = replace(piece, body=replace(piece.body, half_thickness_m=piece.body.half_thickness_m * 1.2))
    assert (met_s((limit,), steadily(thick)) or np.inf) >= here - 1
    assert (met_s((limit,), steadily(replace(piece, surroundings_c=piece.surroundings_c + 2))) or np.inf) <= here + 1


@pytest.mark.parametrize("shape", list(Shape))
@pytest.mark.parametrize("mm", [1, 8, 9.6, 40])
def test_a_bath_as_warm_as_credit_begins_never_meets(shape: Shape, mm: float) -> None:
    """The core comes near to its bath for ever (maximum principle); its digits may come to be the same."""
    piece = Heating(Body(shape, mm / 2000, 1.3e-7, 0.48), 95, 0, 60)
    for limit in (P70, AT_74.model_copy(update={"at_least_c": 60.0})):  # credit from 60 °C on
        assert met_s((limit,), steadily(piece)) is None
        assert met_s((limit,), steadily(replace(piece, surroundings_c=60.1))) is not None
        cells = safe_time_map_s(piece, [partial(goal_met_s, P70.model.law())], np.array([mm / 1000]), np.array([60.0]))
        assert np.isinf(cells).all()
    cooled = left_in(piece.body, 60.0, 5.0, 95)
    assert np.all(cooled.core_c > 5.0)


@settings(max_examples=12)
@given(piece=pieces, limit=limits, hours=st.floats(1, 5))
def test_what_is_thickest_and_coolest_just_passes(piece: Heating, limit: Limit, hours: float) -> None:
    within = hours * 3600
    thick = thickest_m((limit, P70), piece, within)
    if thick is not None:
        at = replace(piece, body=replace(piece.body, half_thickness_m=thick / 2))
        assert (met_s((limit, P70), steadily(at)) or np.inf) <= within
    cool = coolest_c((limit, P70), piece, within)
    if cool is not None:
        assert (met_s((limit, P70), steadily(replace(piece, surroundings_c=cool))) or np.inf) <= within


def test_no_time_meets_what_is_never_hot_enough_and_none_is_asked_of_a_fall() -> None:
    assert met_s((P70,), steadily(replace(THIGH, surroundings_c=53))) is None
    assert to_core(THIGH, 64) is None
    assert to_core(THIGH, 3) == 0
    assert met_s((P70, rule_set("us").limit_as("chill.cooked", Cooling)), steadily(THIGH)) is None
    for search in (thickest_m, coolest_c):
        with pytest.raises(OutOfRangeError):
            search((P70,), THIGH, 0)


def test_a_bath_that_dips_takes_longer_than_one_that_stays() -> None:
    def loaded(load_kg: float) -> float:
        bath = Reservoir(20, 63, 63, 2000)
        way = left_in_bath(THIGH.body, 4, bath, load_kg, 1060, 95)
        return met_s((P70,), way) or np.inf

    alone = met_s((P70,), steadily(THIGH)) or np.inf
    assert alone * 0.999 < loaded(0.1) < loaded(4) < loaded(12)
