"""What must hold of every dish there is, searched for over both tables and all rule sets, not listed.

A counterexample shrinks to the first dish of the table, and names its step and setting.
"""

from functools import cache
from typing import Any, get_args

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from brinefrost.core.errors import DomainError
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Threshold, Uncontrolled
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import steps_behind, ways_of
from brinefrost.core.plans.proof import Proof, prove
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from brinefrost.core.steps import KINDS, kind_of
from brinefrost.core.steps.acts import Act
from tests.core.dish_notation import Dish, dishes
from tests.core.test_cook_runs import dish

SAFE = [each for each in dishes("safe") if not each.waits]
ALL = [*SAFE, *dishes("unsafe")]
GREEN = ("meets", "advisory")
SEARCHED = settings(max_examples=60, deadline=None)  # bounded: some seconds each
FREE = frozenset({"receive", "serve", "seal", "handwork"})  # kinds that raise what they do by what hands bring


@cache
def proved(plan: Plan) -> Proof | None:
    """Its proof; None where it is refused with a sentence."""
    try:
        return prove(plan)
    except DomainError:
        return None


def is_green(plan: Plan) -> bool:
    found = proved(plan)
    return found is not None and found.state in GREEN


def changed(plan: Plan, step_id: str, setting: str, value: float) -> Plan | None:
    """The plan with a step set otherwise, its pieces as thick in all steps; None where that cannot be typed."""
    thick = value / getattr(plan.step(step_id), setting) if setting == "thickness_m" else 1.0
    sets = {
        step.id: {"thickness_m": step.thickness_m * thick} for step in plan.steps if thick != 1.0 and has_pieces(step)
    } | ({} if thick != 1.0 else {step_id: {setting: value}})
    steps = [step.model_dump() | sets.get(step.id, {}) for step in plan.steps]
    try:
        return Plan.model_validate(plan.model_dump() | {"steps": steps, "controls": ()})
    except ValidationError:
        return None


def fails_to_chill(plan: Plan) -> bool:
    found = proved(plan)
    return found is None or any(
        "cools" in kind_of(plan.step(each.step)).acts(plan.step(each.step))
        for each in (*(limit for limit in found.limits if limit.verdict.state != "pass"), *found.findings)
    )


def has_pieces(step: Any) -> bool:
    return bool(getattr(step, "thickness_m", 0.0))


@st.composite
def plans(draw: st.DrawFn, among: list[Dish]) -> Plan:
    found = draw(st.sampled_from(among))
    return found.plan(draw(st.sampled_from(found.rules)))


@SEARCHED
@given(plan=plans(SAFE), data=st.data())
def test_nothing_raw_of_an_animal_goes_in_behind_the_last_heat_and_stays_green(plan: Plan, data: st.DataObject) -> None:
    known = catalogue()
    raw = [
        item
        for item in plan.ingredients
        if not item.eaten
        and {"raw"} <= set(tags := known.ingredient(str(item.catalogue)).tags)
        and set(tags) & set(ANIMALS)
    ]
    heats = [step for step in plan.steps if "heats" in kind_of(step).acts(step)]
    assume(raw and heats)
    behind = [
        step
        for step in steps_behind(plan, heats[-1].id)
        if kind_of(step).acts(step) & {"handles", "cools", "keeps", "serves"}
        and not any("heats" in kind_of(each).acts(each) for each in (step, *steps_behind(plan, step.id)))
    ]
    assume(behind)
    moved, to = data.draw(st.sampled_from(raw)), data.draw(st.sampled_from(behind))
    items = tuple(item.model_copy(update={"enters": to.id}) if item is moved else item for item in plan.ingredients)
    assert not is_green(plan.model_copy(update={"ingredients": items})), (moved.name, to.name)


# turned this way a setting makes a step weaker: never from not green to green
WEAKER: tuple[tuple[str, str, float, float], ...] = (  # what the step does, its setting, by a factor, and by so much
    ("heats", "surroundings_c", 1.0, -8.0),
    ("heats", "duration_s", 0.5, 0.0),
    ("heats", "thickness_m", 1.5, 0.0),
    ("cools", "surroundings_c", 1.0, 3.0),
    ("cools", "begin_within_s", 1.0, 3600.0),
    ("cools", "thickness_m", 1.5, 0.0),
    ("keeps", "max_c", 1.0, 2.0),
    ("keeps", "days", 1.0, 2.0),
    ("handles", "duration_s", 2.0, 0.0),
    ("serves", "duration_s", 2.0, 600.0),
    ("freezes", "surroundings_c", 1.0, 4.0),
    ("holds", "held_c", 1.0, -3.0),
    ("smokes", "duration_s", 2.0, 0.0),
)


@SEARCHED
@given(plan=plans(ALL), data=st.data())
def test_no_weaker_step_makes_a_dish_green(plan: Plan, data: st.DataObject) -> None:
    """But what is heated less is chilled sooner, and what stands above the hot line has not begun to fall."""
    fits = [
        (step, setting, getattr(step, setting) * factor + more)
        for step in plan.steps
        for act, setting, factor, more in WEAKER
        if act in kind_of(step).acts(step) and getattr(step, setting, None) is not None
        if setting != "thickness_m" or has_pieces(step)
    ]
    assume(fits)
    step, setting, value = data.draw(st.sampled_from(fits))
    turned = changed(plan, step.id, setting, value)
    less = "heats" in kind_of(step).acts(step) or setting == "begin_within_s"
    sooner = less and fails_to_chill(plan)
    assert turned is None or is_green(plan) or sooner or not is_green(turned), (step.name, setting)


@SEARCHED
@given(plan=plans(ALL))
def test_a_green_dish_has_nothing_on_its_sheet_that_is_not(plan: Plan) -> None:
    found = proved(plan)
    assume(found is not None and found.state in GREEN)
    assert found is not None
    sheet = sheet_of(plan, found)
    assert {row.standing for row in sheet.rows} <= {"meets", "none"}
    assert {limit.standing for column in sheet.columns for limit in column.limits} <= {"meets", "none"}
    assert {column.standing for column in sheet.columns} <= {"meets", "none"}
    assert not [each for each in found.findings if each.state != "advisory"]


@SEARCHED
@given(plan=plans([each for each in ALL if any("line" in step for step in each.steps)]))
def test_a_dish_is_as_good_as_the_worst_of_its_ways(plan: Plan) -> None:
    ways = ways_of(plan)
    assert len(ways) > 1
    if is_green(plan):
        assert all(is_green(way) for way in ways)


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_what_the_text_of_a_rule_set_just_allows_passes(rules: str) -> None:
    """The warmest store for the most days, the coolest hold, the longest time without control that each names."""
    law = rule_set(rules)
    cold, days = law.bound_for("keep.cold").value, law.bound_for("keep.days").value
    carrot = "boil:pot 97C 20mm 40min; blast:chill -10C 20mm 70min"
    assert is_green(dish("carrot", f"{carrot}; keep {cold:g}C {days:g}d", rules)), (cold, days)
    hot = law.bound_for("hold.hot").value
    assert is_green(dish("carrot", f"boil:pot 97C 20mm 40min; hold {hot:g}C 2h; serve", rules)), hot
    free = law.limit_as("time.uncontrolled", Uncontrolled)
    assert is_green(dish("carrot", f"{carrot}; keep {cold:g}C 1d; serve {free.within_s / 3600:g}h", rules)), free.title
    assert not is_green(dish("carrot", f"{carrot}; keep {cold + 3:g}C {days:g}d", rules))
    assert not is_green(dish("carrot", f"{carrot}; keep {cold:g}C {days + 1:g}d", rules))
    assert isinstance(law.bound_for("keep.days"), Threshold)


def test_every_kind_answers_to_a_hazard_by_what_it_does() -> None:
    raised = {word for each in catalogue().hazards for word in (*each.steps, *each.after_heat, *each.controlled_at)}
    assert raised | {each.step for each in catalogue().advice} <= {
        *get_args(Act),
        "cooks",
        "dries_whole",
        "brings_acid",
    }  # by no kind's name
    for key, kind in KINDS.items():
        blank = kind.settings.model_validate({"id": "new", "name": "New", **kind.blank})
        acts = kind.acts(blank)
        assert acts <= set(get_args(Act))
        assert key in FREE or acts & raised or ("heats" in acts and "cooks" in raised), key


def test_what_turns_on_how_quick_its_surroundings_are_needs_measuring() -> None:
    """A blast chiller is 25 to 50 W/m²·K: slow it misses 63 to 8 °C in 90 min, quick it makes it; thicker neither."""
    pot = "boil:pot 97C {mm}mm 3h; blast:chill -10C {mm}mm 150min; keep 3C 2d"
    states = {mm: prove(dish("beef-chuck", pot.format(mm=mm), "uk")) for mm in (15, 42, 80)}
    assert [states[mm].state for mm in (15, 42, 80)] == ["meets", "needs_measuring", "fails"]
    between = next(each for each in states[42].limits if each.step == "chill")
    assert between.verdict.state == "too_close"
    assert not states[42].meets
