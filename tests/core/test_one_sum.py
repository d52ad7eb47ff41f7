"""One sum, one place: every dish's steps, asked on the Bench, are answered as their own proof answers them."""

from datetime import date
from typing import Any, get_args

import numpy as np
import pytest

from brinefrost.core.bench import chill, heat
from brinefrost.core.bench.answer import BenchAnswer
from brinefrost.core.bench.families import FAMILIES, answer
from brinefrost.core.errors import NotFoundError
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.kitchen.lines import (
    OTHER_BIRDS,
    Animal,
    PieceState,
    line_of,
    more_lines,
    named,
    species_of,
    tags_of,
)
from brinefrost.core.limits import Cooling
from brinefrost.core.plans.asked_limits import limits_of
from brinefrost.core.plans.contexts import at
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan, canonical
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.plans.order import find_order_faults
from brinefrost.core.plans.proof import Proof, prove
from brinefrost.core.plans.proof_shown import show_proof
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.repeated import repeat_plan
from brinefrost.core.plans.suggest import with_controls, with_school
from brinefrost.core.plans.templates import template, templates
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.salting import Salting
from brinefrost.core.steps.state import Course
from brinefrost.demo.seed import with_setting
from tests.kitchen import EACH_RULE_SET, thigh_plan, with_bath

DAY = date(2026, 11, 26)
DISHES = [key for key, each in templates().items() if each.ingredients]


def figure(found: BenchAnswer, name: str) -> Any:
    return next(each.value for each in found.figures if each.name == name)


def meets(proof: Proof, step: Step) -> bool:
    return all(each.verdict.state == "pass" for each in proof.limits if each.step == step.id)


def heats_alike(found: BenchAnswer, step: Step, course: Course, proof: Proof) -> None:
    assert (found.state == "would_meet") == meets(proof, step)
    assert figure(found, "core_at_end") == pytest.approx(course.core_at(course.spans[step.id][1]), abs=0.15)
    times = [each.time_to_meet_s for each in proof.limits if each.step == step.id and each.limit.by_time]
    needed = figure(found, "time_needed")
    if needed is None or None in times:
        assert needed is None
        assert None in times
    else:  # the plan's own sum begins as warm as it says, the Bench's as warm as the food comes
        assert needed == pytest.approx(max(t for t in times if t is not None), rel=0.03)


def chills_alike(found: BenchAnswer, step: Step, course: Course, proof: Proof) -> None:
    """The Bench takes the piece as warm throughout as its core, and ice that does not run out."""
    assert found.state != "would_meet" or meets(proof, step)
    cooling = next(each.limit for each in proof.limits if each.step == step.id)
    assert isinstance(cooling, Cooling)
    reached = figure(found, "to_mark_1")  # from the hot line on, where the food was still above it
    core = course.core_in(step.id)
    assert core is not None
    if reached is None or cooling.counts_from != "falling":
        return
    hot = float(core.times_s[np.argmax(core.values < cooling.from_c)])
    to_c = cooling.stages[0].to_c
    if not np.any(core.values <= to_c):  # its time ends before it is so cold
        assert reached > course.spans[step.id][1] - hot - 300
        return
    mine = float(core.times_s[np.argmax(core.values <= to_c)]) - hot
    assert mine == pytest.approx(reached, rel=0.2, abs=300)


def salts_alike(found: BenchAnswer, step: Step, course: Course, proof: Proof) -> None:
    middle = float(course.other[(step.id, "salt")].values[-1])
    assert isinstance(step, Salting)
    assert figure(found, "in_middle") == pytest.approx(100 * middle / step.salt_percent, abs=0.06)


def dries_alike(found: BenchAnswer, step: Step, course: Course, proof: Proof) -> None:
    assert figure(found, "aw_now") == pytest.approx(float(course.other[(step.id, "aw")].values[-1]), abs=0.001)


def sours_alike(found: BenchAnswer, step: Step, course: Course, proof: Proof) -> None:
    assert figure(found, "resting_ph") == pytest.approx(float(course.other[(step.id, "ph")].values[-1]), abs=0.03)


ALIKE = {"heat": heats_alike, "chill": chills_alike, "salt": salts_alike, "dry": dries_alike, "acid": sours_alike}


def compared(plan: Plan, alone: str = "") -> list[str]:
    """Every question of a plan, or of one step alone, against its proof; which families were asked."""
    whole, families = prove(plan), []
    for step in plan.steps if not alone else (plan.step(alone),):
        way = ways_with(plan, step.id)[0]
        own = {each.id for each in limits_of(way, way.step(step.id))}  # what its own line's food is asked
        asked_there = tuple(each for each in whole.limits if each.step != step.id or each.limit.id in own)
        proof = whole.model_copy(update={"limits": asked_there})
        context, course = simulated(way)
        for asked in kind_of(step).asked(step, course, at(context, way, step)):
            found = answer(asked.family, FAMILIES[asked.family].question.model_validate(asked.question), DAY)
            ALIKE[asked.family](found, step, course, proof)
            families.append(asked.family)
    return families


@pytest.fixture
def undrawn(monkeypatch: pytest.MonkeyPatch) -> None:
    """What is judged and its figures alone: no map of safe times, nothing ten thousand times over."""
    monkeypatch.setattr(heat, "pictures_of", lambda *_: ())
    monkeypatch.setattr(heat, "robust", lambda *_: ())
    monkeypatch.setattr(chill, "robust", lambda *_: ())


@pytest.mark.usefixtures("undrawn")
@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
@pytest.mark.parametrize("key", DISHES)
def test_the_bench_answers_a_dish_as_its_proof_does(key: str, rules: RuleSetId) -> None:
    compared(with_controls(template(key).plan(key, rules)))


TOO_LITTLE = (("duration_s", 1800.0), ("surroundings_c", 58.0), ("thickness_m", 0.12))
# every dish in every rule set, every change in two of them at least
UNDERDONE = [
    pytest.param(key, rules, *change, marks=EACH_RULE_SET[rules].marks)
    for n, key in enumerate(("short-rib", "cuttlefish", "stew", "garlic-confit", "slow-eggs"))
    for m, rules in enumerate(RULE_SET_IDS)
    for change in (TOO_LITTLE[(n + m) % 3], TOO_LITTLE[(n + m + 1) % 3])
]


@pytest.mark.slow
@pytest.mark.usefixtures("undrawn")
@pytest.mark.parametrize(("key", "rules", "setting", "value"), UNDERDONE)
def test_and_a_dish_that_is_cooked_too_little(key: str, rules: RuleSetId, setting: str, value: float) -> None:
    plan = with_controls(template(key).plan(key, rules))
    if setting == "surroundings_c" and not hasattr(plan.step("cook"), setting):
        setting = "bath_c"
    assert compared(with_setting(plan, "cook", **{setting: value}), "cook") == ["heat"]


@pytest.mark.parametrize(("rules", "minutes"), [("uk", 46.0), ("uk", 52.0), ("eu", 49.0)])
def test_ten_thousand_times_over_both_pages_fail_as_often(rules: RuleSetId, minutes: float) -> None:
    plan = with_bath(thigh_plan(rules), 72.0, minutes * 60)
    mine = next(each for each in repeat_plan(plan, prove(plan)) if each.step == "cook")
    context, course = simulated(plan)
    asked = kind_of(plan.step("cook")).asked(plan.step("cook"), course, at(context, plan, plan.step("cook")))[0]
    found = answer("heat", FAMILIES["heat"].question.model_validate(asked.question), DAY)
    chance = next(row[1] for table in found.tables for row in table.rows if row[1].endswith("%"))
    assert 0 < mine.failing_share < 1
    assert float(chance.removesuffix(" %")) == pytest.approx(100 * mine.failing_share, abs=1.5)


def test_of_two_limits_of_a_cook_the_one_that_fails_most_is_told() -> None:
    plan = with_controls(template("egg-sauce").plan("Egg sauce", "us"))
    cook = plan.step("cook")
    plan = with_setting(plan, "cook", duration_s=cook.model_dump()["duration_s"] * 0.5)
    proof, (context, course) = prove(plan), simulated(plan)
    limits = [each.limit for each in proof.limits if each.step == "cook" and each.limit.kind == "lethality"]
    each_by_itself = [
        kind_of(cook).repeat(plan.step("cook"), limit, course, at(context, plan, cook)) for limit in limits
    ]
    assert len(limits) == 2
    told = next(each for each in repeat_plan(plan, proof) if each.step == "cook")
    assert told.failing_share == max(each.failing_share for each in each_by_itself if each)
    assert {each.failing_share for each in each_by_itself if each} != {told.failing_share}


@pytest.mark.slow
@pytest.mark.parametrize("key", ["short-rib", "stew", "garlic-confit", "goose"])
def test_every_heat_and_chill_can_be_repeated_and_a_sound_dish_hardly_ever_fails(key: str) -> None:
    plan = with_controls(template(key).plan(key, "us"))
    found = repeat_plan(plan, prove(plan))
    assert found
    assert all(each.failing_share <= 0.01 for each in found)
    assert all(sum(share.share for share in each.matters) == pytest.approx(1, abs=0.05) for each in found)


@pytest.mark.slow
@pytest.mark.parametrize("rules", RULE_SET_IDS)
@pytest.mark.parametrize("key", DISHES)
def test_what_meets_fails_less_often_than_not_and_what_fails_more(key: str, rules: RuleSetId) -> None:
    """The repetitions lie round the plan's own curve: its pieces, its load, the clock that runs already."""
    plan = with_controls(template(key).plan(key, rules))
    slow = [step.id for step in plan.steps if "cools" in kind_of(step).acts(step) and hasattr(step, "load_kg")]
    late = with_setting(plan, slow[0], thickness_m=0.07) if slow else plan
    for each in (plan, late):
        proof = prove(each)
        states = {(found.step, found.limit.title): found.verdict.state for found in proof.limits}
        for told in repeat_plan(each, proof):
            assert told.failing_share < 0.55 if states[told.step, told.title] == "pass" else told.failing_share > 0.45


@pytest.mark.slow
def test_which_pages_the_dishes_ask() -> None:
    asked = {
        key: compared(with_controls(template(key).plan(key, "us")))
        for key in ("thigh", "confit", "semi-dry-sausage", "pickles")
    }
    assert asked == {
        "thigh": ["heat", "chill"],
        "confit": ["salt", "heat", "chill"],
        "semi-dry-sausage": ["heat", "chill", "dry"],
        "pickles": ["acid"],
    }


def test_a_heavy_load_chills_as_slowly_in_a_plan_as_on_the_bench() -> None:
    """Forty pans of stew in one small refrigerator: it takes up 300 W, whoever asks."""
    plan = with_controls(template("stew").plan("Stew", "us"))
    light = with_setting(plan, "chill", medium="still_fridge", surroundings_c=2.0, thickness_m=0.03)
    light, heavy = (with_setting(light, "chill", load_kg=kg) for kg in (2.0, 80.0))
    for each in (light, heavy):
        compared(each)
    cold = [simulated(each)[1].core_at(simulated(each)[1].spans["chill"][1]) for each in (light, heavy)]
    assert cold[1] > cold[0] + 15
    assert not meets(prove(heavy), heavy.step("chill"))


@pytest.mark.parametrize(
    ("altitude_m", "around_c", "fails"),
    [(None, 100.0, False), (None, 101.0, True), (2140.0, 92.8, False), (2140.0, 95.0, True), (3000.0, 92.0, True)],
)
def test_open_water_is_no_hotter_in_a_plan_than_it_boils(altitude_m: float, around_c: float, fails: bool) -> None:
    """Boiling points by height as on the Bench: 92.9 °C at 2140 m (ISA, Antoine; see test_lethality)."""
    plan = template("stew").plan("Stew", "us", altitude_m)
    hot = with_setting(plan, "cook", surroundings_c=around_c)
    assert any(each.step == "cook" and each.state == "fails" for each in find_order_faults(hot)) == fails


def test_a_height_that_nobody_gave_leaves_an_old_plan_its_hash() -> None:
    plan = thigh_plan("us")
    assert "altitude_m" not in canonical(plan)
    assert '"altitude_m":2140.0' in canonical(plan.model_copy(update={"altitude_m": 2140.0}))


def test_a_table_made_for_chicken_is_no_other_birds() -> None:
    """USDA-FSIS gives times by species: a goose leg is not cooked by chicken's table, whoever approves it."""
    chicken = with_school(thigh_plan("us"), "cook", "us-poultry-7log", "An approved plan of the county, no. 12.")
    assert not any("7-log" in gap.sentence and "no limit" in gap.sentence for gap in gaps_of(chicken))
    goose = with_controls(template("goose").plan("Goose", "us"))
    with pytest.raises(NotFoundError):
        with_school(goose, "roast", "us-poultry-7log", "An approved plan of the county, no. 12.")
    assert "7-log by table" not in {each.school for each in show_proof(goose).schools}
    assert "7-log by table" in {each.school for each in show_proof(thigh_plan("us")).schools}


def test_every_bird_of_the_catalogue_is_chicken_or_named_as_another() -> None:
    for each in catalogue().ingredients:
        if "poultry" in each.tags and "raw" in each.tags and "oil" not in each.tags:
            assert ("chicken" in each.tags) != bool(set(each.tags) & OTHER_BIRDS), each.key


def test_shellfish_with_its_gut_is_heated_against_the_virus() -> None:
    """Norovirus sits in the gut: 90 °C for 90 s (EFSA 2015, regulation (EC) 2074/2005); the bare muscle has none."""
    assert [limit.id for limit in more_lines(frozenset({"bivalve", "shellfish"}))] == ["bivalve-90"]
    assert more_lines(frozenset({"bivalve", "shellfish", "muscle"})) == ()


def test_an_animal_and_its_tags_name_the_same_line() -> None:
    for animal in get_args(Animal):
        for piece in get_args(PieceState):
            tags = tags_of(animal, piece)
            again, state = named(tags)
            assert line_of(tags_of(again, state)) == line_of(tags - {"roast"}), (animal, piece)
            assert line_of(tags) is not None or animal == "plant"
            assert species_of(tags) == ("chicken" if animal == "poultry" else "")
