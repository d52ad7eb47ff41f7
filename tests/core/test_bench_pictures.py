"""What is drawn says what is written: maps, curves, dials and tables against the figures and the core itself."""

import re
from datetime import date, timedelta
from typing import Any

import numpy as np
import pytest

from brinefrost.core.bench.acid import answer_acid
from brinefrost.core.bench.acid_question import AcidQuestion
from brinefrost.core.bench.answer import (
    BenchAnswer,
    CurvePicture,
    DialPicture,
    GroundPicture,
    MapPicture,
    ScalePicture,
    measured,
    planned,
    worst_of,
)
from brinefrost.core.bench.chill import answer_chill
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.clocks import answer_clocks
from brinefrost.core.bench.clocks_question import ClocksQuestion, Span
from brinefrost.core.bench.cure import CureQuestion, answer_cure
from brinefrost.core.bench.dates import DatesQuestion, FrozenSpan, Parent, answer_dates
from brinefrost.core.bench.dry import DryQuestion, answer_dry
from brinefrost.core.bench.egg_question import EggQuestion
from brinefrost.core.bench.eggs import answer_eggs
from brinefrost.core.bench.families import FAMILIES, answer, presets
from brinefrost.core.bench.ferment import FermentQuestion, answer_ferment
from brinefrost.core.bench.fish import answer_fish
from brinefrost.core.bench.fish_question import FishQuestion, Handling
from brinefrost.core.bench.heat import answer_heat
from brinefrost.core.bench.heat_judged import target_limits
from brinefrost.core.bench.heat_question import HeatQuestion
from brinefrost.core.bench.jars import JarQuestion, answer_jars
from brinefrost.core.bench.kill import KillQuestion, answer_kill
from brinefrost.core.bench.kit import KitQuestion, answer_kit
from brinefrost.core.bench.rules import RulesQuestion, answer_rules
from brinefrost.core.bench.salt import answer_salt
from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.smoke import answer_smoke
from brinefrost.core.bench.smoke_question import SmokeQuestion
from brinefrost.core.bench.steady import counts_from_c, laid_end_to_end
from brinefrost.core.chemistry.jar import resting_ph
from brinefrost.core.food.media import body_of, food
from brinefrost.core.limits import Lethality
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Shape
from brinefrost.core.words import said

TODAY = date(2026, 11, 25)
YESTERDAY = TODAY - timedelta(days=1)


def curve(found: BenchAnswer, title: str) -> CurvePicture:
    picture = next(each for each in found.pictures if each.title == title)
    assert isinstance(picture, CurvePicture)
    return picture


def chart(found: BenchAnswer) -> MapPicture:
    return next(each for each in found.pictures if isinstance(each, MapPicture))


def figure(found: BenchAnswer, name: str) -> float:
    value = next(each.value for each in found.figures if each.name == name)
    assert value is not None
    return value


def scales_hold_what_stands_on_them(picture: ScalePicture) -> None:
    assert picture.rows
    assert picture.x_low < picture.x_high
    for row in picture.rows:
        for each in row.stretches:
            assert picture.x_low <= each.low <= each.high <= picture.x_high
        if row.at is not None:
            assert picture.pointer, "a pointer says what it is"


def scale(found: BenchAnswer) -> ScalePicture:
    return next(each for each in found.pictures if isinstance(each, ScalePicture))


@pytest.mark.parametrize("family", list(FAMILIES))
def test_every_line_can_be_drawn(family: str) -> None:
    for _, question in presets(TODAY)[family]:
        for picture in answer(family, question, TODAY).pictures:
            if isinstance(picture, CurvePicture):
                for each in picture.lines:
                    assert len(each.x) == len(each.y) >= 2
                    assert np.all(np.diff(each.x) > 0)
                    assert np.all(np.isfinite(each.y))
            if isinstance(picture, ScalePicture):
                scales_hold_what_stands_on_them(picture)
            if isinstance(picture, MapPicture):
                assert len(picture.cells) == len(picture.y)
                assert all(len(row) == len(picture.x) for row in picture.cells)
                assert list(picture.steps) == sorted(picture.steps)
                assert picture.x[0] <= picture.at_x <= picture.x[-1] + 1e-9
                assert picture.y[0] <= picture.at_y <= picture.y[-1] + 1e-9


def test_the_core_curve_ends_where_the_figure_says() -> None:
    found = answer_heat(HeatQuestion())
    core = next(line for line in curve(found, "core_curve").lines if line.name == "core")
    assert core.y[-1] == pytest.approx(figure(found, "core_at_end"), abs=0.01)
    assert core.y[0] == pytest.approx(5, abs=0.01)
    surface = next(line for line in curve(found, "core_curve").lines if line.name == "surface")
    assert all(s >= c - 1e-6 for s, c in zip(surface.y, core.y, strict=True))


@pytest.mark.slow
def test_a_cell_of_the_map_is_the_answer_there() -> None:
    picture = chart(answer_heat(HeatQuestion()))
    for row, column in ((3, 20), (15, 10), (25, 35)):
        there = answer_heat(HeatQuestion(thickness_m=picture.y[row], surroundings_c=picture.x[column]))
        cell = picture.cells[row][column]
        assert cell is not None
        assert cell == pytest.approx(figure(there, "time_needed"), rel=0.01)


@pytest.mark.slow
@pytest.mark.parametrize(
    "more",
    [
        pytest.param(
            {"food": "poultry", "target": "listeria", "rule_set": "us"},  # the line asks for more than the target
            marks=pytest.mark.slow,
        ),
        {"food": "poultry", "target": "listeria", "rule_set": "uk"},  # and is a hold
        pytest.param(
            {"food": "red_meat", "target": "listeria", "piece": "minced", "rule_set": "us"}, marks=pytest.mark.slow
        ),
    ],
    ids=["law", "hold", "minced"],
)
def test_a_cell_of_the_map_meets_the_line_too(more: dict[str, Any]) -> None:
    asked = HeatQuestion.model_validate({"duration_s": 7200, "surroundings_c": 85, **more})
    picture = chart(answer_heat(asked))
    needed = []
    for row, column in ((3, 8), (3, 20), (12, 34)):
        there = {"thickness_m": picture.y[row], "surroundings_c": picture.x[column]}
        found = answer_heat(asked.model_copy(update=there))
        needed.append(next(each.value for each in found.figures if each.name == "time_needed"))
        cell = picture.cells[row][column]
        assert cell is None if needed[-1] is None else cell == pytest.approx(needed[-1], rel=0.02)
    assert any(needed)


def test_the_chance_of_failing_is_of_what_fails_most() -> None:
    """Minced beef at 63 °C, where the rule set's own line asks for more than the target does."""
    asked = HeatQuestion(food="red_meat", piece="minced", target="listeria", surroundings_c=63, duration_s=7000)
    shares = []
    for target in ("listeria", "line"):
        (table,) = answer_heat(asked.model_copy(update={"target": target})).tables
        assert "68 °C" in said(table.title)
        shares.append(float(table.rows[0][1].removesuffix(" %")))
    assert shares[0] == shares[1]
    assert 50 < shares[0] < 80


def test_a_bath_that_dips_by_its_load_has_no_map_of_baths_that_do_not() -> None:
    steady = answer_heat(HeatQuestion(medium="bath"))
    loaded = answer_heat(HeatQuestion(medium="bath", load_kg=6, water_kg=20, heater_w=1200))
    assert [type(each).__name__ for each in steady.pictures] == ["CurvePicture", "MapPicture"]
    assert [type(each).__name__ for each in loaded.pictures] == ["CurvePicture"]
    assert (figure(loaded, "time_needed") or np.inf) > (figure(steady, "time_needed") or 0)


@pytest.mark.parametrize("load_kg", [0, 2, 8, 12, 20])
def test_however_much_is_in_the_bath_the_time_to_leave_it_in_is_told_and_passes(load_kg: float) -> None:
    asked = HeatQuestion(load_kg=load_kg)
    longer = next(each for each in answer_heat(asked).fixes if "Leave it in for" in said(each))
    hours, minutes = (int(number) for number in re.findall(r"\d+", said(longer))[:2])
    told = asked.model_copy(update={"duration_s": 3600.0 * hours + 60.0 * minutes})
    assert answer_heat(told).state == "would_meet"


def test_the_map_is_never_quicker_thicker_or_cooler() -> None:
    cells = np.array([[np.inf if c is None else c for c in row] for row in chart(answer_heat(HeatQuestion())).cells])
    assert np.all(cells[1:] >= cells[:-1] - 1)
    assert np.all(cells[:, 1:] <= cells[:, :-1] + 1)


def test_the_chill_map_agrees_with_the_curve() -> None:
    asked = ChillQuestion(food="stew", mass_kg=20, depth_m=0.05, start_c=90, medium="blast", surroundings_c=0)
    found = answer_chill(asked)
    picture = chart(found)
    row = int(np.argmin(np.abs(np.array(picture.y) - 0.05)))
    column = int(np.argmin(np.abs(np.array(picture.x))))
    there = answer_chill(asked.model_copy(update={"depth_m": picture.y[row], "surroundings_c": picture.x[column]}))
    cell = picture.cells[row][column]
    assert cell == pytest.approx(figure(there, "to_mark_2"), rel=0.02)


def test_the_deepest_pan_is_where_the_map_changes() -> None:
    found = answer_chill(
        ChillQuestion(food="stew", mass_kg=20, depth_m=0.06, start_c=90, medium="blast", surroundings_c=0)
    )
    deepest = figure(found, "deepest")
    just, over = (
        answer_chill(ChillQuestion(food="stew", mass_kg=20, depth_m=d, start_c=90, medium="blast", surroundings_c=0))
        for d in (deepest * 0.999, deepest * 1.03)
    )
    assert (just.state, over.state) == ("would_meet", "would_fail")


def test_stirring_open_tops_and_more_pans_help() -> None:
    pot = ChillQuestion(
        food="stew", mass_kg=12, depth_m=0.25, start_c=90, stirred=True, medium="slurry", surroundings_c=0.5
    )
    once = figure(answer_chill(pot), "to_mark_2")
    assert figure(answer_chill(pot.model_copy(update={"pans": 3.0})), "to_mark_2") < once
    assert figure(answer_chill(pot.model_copy(update={"covered": True})), "to_mark_2") > once
    assert figure(answer_chill(pot), "ice_needed") == pytest.approx(
        1.5 * 12 * 3.7 * 85 / 333.6, rel=1e-3
    )  # heat balance


def test_dials_fill_as_the_table_says() -> None:
    found = answer_clocks(ClocksQuestion())
    dials = next(each for each in found.pictures if isinstance(each, DialPicture)).dials
    fullest = max(dial.used for dial in dials)
    adds = [float(row[3].removesuffix(" %")) for row in found.tables[0].rows if row[3].endswith("%")]
    assert sum(adds) == pytest.approx(100 * fullest, abs=len(adds))
    assert "Fall 1" in found.sentence  # each fall by the cooling rule, never added to the clocks of handling


def test_time_left_is_what_fills_the_first_clock() -> None:
    kept = Span(from_c=4, to_c=4, duration_s=86400)
    left = figure(answer_clocks(ClocksQuestion(food="ready_to_eat", spans=(kept,), then_c=25)), "time_left")
    for factor, state in ((0.97, "would_meet"), (1.03, "would_fail")):
        out = Span(from_c=25, to_c=25, duration_s=left * factor)
        assert answer_clocks(ClocksQuestion(food="ready_to_eat", spans=(kept, out))).state == state
    assert answer_clocks(ClocksQuestion(spans=(kept,), then_c=-2)).figures[-1].value is None


def test_every_target_s_dial_is_its_share() -> None:
    found = answer_kill(KillQuestion(held_c=62, held_s=600))
    dials = next(each for each in found.pictures if isinstance(each, DialPicture)).dials
    by_name = {dial.name: dial for dial in dials}
    limit = target_limits("listeria")[0]
    assert isinstance(limit, Lethality)
    # FSA (2017) prints 45 min at 60 °C and 10 min at 65 °C; between rows by the line of their logarithms
    rate = 2 / 10 ** (np.log10(45) + (2 / 5) * (np.log10(10) - np.log10(45)))
    assert by_name[limit.title].used == pytest.approx(10 * rate / 2, rel=1e-3)
    assert by_name["Salmonella in whole red meat, 6.5-log by table"].state == "would_meet"


def test_the_jar_s_path_starts_at_the_vegetable_and_ends_at_rest() -> None:
    found = answer_acid(AcidQuestion())
    path = next(line for line in curve(found, "ph_in_middle").lines if line.name == "middle of the piece")
    assert path.y[0] == pytest.approx(5.7, abs=0.05)  # onions by themselves
    assert path.y[-1] == pytest.approx(figure(found, "resting_ph"), abs=0.05)
    assert all(b <= a + 1e-6 for a, b in zip(path.y, path.y[1:], strict=False))


def test_two_vinegars_are_one_of_their_mean_strength() -> None:
    two = AcidQuestion(vinegar_kg=0.2, vinegar_percent=6, second_vinegar_kg=0.3, second_vinegar_percent=4)
    one = AcidQuestion(vinegar_kg=0.5, vinegar_percent=4.8, second_vinegar_kg=0)
    assert figure(answer_acid(two), "resting_ph") == figure(answer_acid(one), "resting_ph")
    more = AcidQuestion(other_acid="citric", other_acid_kg=0.01)
    assert figure(answer_acid(more), "resting_ph") < figure(answer_acid(AcidQuestion()), "resting_ph")


def test_vinegar_needed_is_enough_and_no_more() -> None:
    asked = AcidQuestion(vegetable="carrot", vinegar_kg=0.0, second_vinegar_kg=0, vinegar_percent=5, target_ph=3.9)
    needed = figure(answer_acid(asked), "vinegar_needed")
    assert figure(answer_acid(asked.model_copy(update={"vinegar_kg": needed})), "resting_ph") == pytest.approx(
        3.9, abs=0.01
    )


@pytest.mark.parametrize(("ph", "salt", "lives"), [(3.0, 1, 0), (4.3, 1, 2), (6.5, 1, 6), (6.5, 15, 1), (4.5, 11, 2)])
def test_the_ground_holds_what_the_limits_say(ph: float, salt: float, lives: int) -> None:
    """FDA guide appendix 4, from memory: at pH 4.3 Salmonella and S. aureus, at 15 % salt S. aureus alone."""
    from brinefrost.core.bench.acid import ground

    picture = ground(ph, salt)
    assert isinstance(picture, GroundPicture)
    living = [area for area in picture.areas if picture.at_x <= area.x_to and picture.at_y >= area.y_from]
    assert len(living) == lives


def test_the_salt_front_rises_towards_the_faces_and_with_time() -> None:
    found = answer_salt(SaltQuestion())
    early, now, late = curve(found, "salt_front").lines
    middle = len(now.y) // 2
    assert now.y[0] == pytest.approx(figure(found, "water_phase_salt"), abs=0.02)
    assert early.y[10] <= now.y[10] <= late.y[10]
    assert now.y[middle] <= now.y[middle // 2] <= now.y[0]
    assert figure(found, "time_to_middle") > figure(found, "trade_time")  # the slow side of diffusion


def test_salt_to_weigh_gives_the_strength_wanted() -> None:
    found = answer_salt(SaltQuestion(wanted_percent=2.5))
    again = answer_salt(SaltQuestion(salt_kg=figure(found, "salt_for_wanted")))
    assert figure(again, "salt_at_rest") == pytest.approx(2.5, abs=0.01)


def test_curing_salt_scales_with_the_meat() -> None:
    small, large = (answer_cure(CureQuestion(meat_kg=kg, cure_kg=0.0024 * kg)) for kg in (2, 20))
    assert figure(small, "ingoing") == pytest.approx(figure(large, "ingoing"))
    assert figure(large, "cure_for_wanted") == pytest.approx(10 * figure(small, "cure_for_wanted"))
    rows = dict(small.tables[-1].rows)
    assert rows["0.6 % nitrite"] == "14 ppm"  # 2.4 g on a kg at a tenth of the strength


def test_drying_curve_crosses_its_target_where_the_figure_says() -> None:
    found = answer_dry(DryQuestion())
    drawn = curve(found, "aw_by_loss").lines[0]
    loss = float(np.interp(-0.92, -np.array(drawn.y), np.array(drawn.x)))
    assert loss == pytest.approx(figure(found, "loss_needed"), abs=0.3)
    assert figure(found, "mass_at_target") == pytest.approx(10 * (1 - figure(found, "loss_needed") / 100), abs=0.01)


def test_across_an_egg_from_yolk_to_shell() -> None:
    found = answer_eggs(EggQuestion(boiling=True, duration_s=300, altitude_m=0))
    drawn = curve(found, "egg_across").lines[0]
    assert drawn.y[0] == pytest.approx(figure(found, "centre"), abs=0.3)
    assert all(b >= a - 1e-6 for a, b in zip(drawn.y, drawn.y[1:], strict=False))
    assert drawn.y[0] < figure(found, "yolk_edge") < figure(found, "white") < drawn.y[-1]


def test_a_jar_takes_longer_when_wider_and_less_when_filled_hot() -> None:
    asked = JarQuestion(contents="cauliflower", cover="brine", vinegar_percent=7, vinegar_share=80, process_c=80)
    usual = figure(answer_jars(asked), "process_time")
    assert figure(answer_jars(asked.model_copy(update={"diameter_m": 0.12})), "process_time") > usual
    assert figure(answer_jars(asked.model_copy(update={"fill_c": 70.0})), "process_time") < usual


def test_the_alarm_that_does_does_and_no_flesh_is_hotter_than_it_boils() -> None:
    asked = SmokeQuestion(animal="beef", chamber_c=95, humidity_percent=50, alarm_c=55)
    found = answer_smoke(asked)
    assert figure(found, "surface") <= boiling_c(2140)
    enough = figure(found, "alarm_that_does")
    assert answer_smoke(asked.model_copy(update={"alarm_c": enough})).state == "would_meet"
    assert answer_smoke(asked.model_copy(update={"alarm_c": enough - 1.5})).state in ("would_fail", "too_close")


def test_a_longer_sear_goes_deeper_and_histamine_adds_up() -> None:
    def depth(seconds: float) -> float:
        drawn = curve(
            answer_fish(FishQuestion(species="albacore", dish="seared", sear_s=seconds)), "seared_across"
        ).lines[0]
        return float(np.mean(np.array(drawn.y) >= 60))

    assert 0 < depth(10) < depth(60) < 1
    out = tuple(Handling(temperature_c=15, duration_s=3 * 3600) for _ in range(3))
    found = answer_fish(FishQuestion(species="mackerel", origin="farmed_feed", dish="raw", out=out))
    assert found.state == "would_fail"
    twice = answer_fish(FishQuestion(species="mackerel", origin="farmed_feed", dish="raw", out=out[:2]))
    assert twice.state == "would_fail"  # ready to eat: 5 h between 10 and 21 °C, FDA hazards guide, app. 4
    assert answer_fish(FishQuestion(species="mackerel", origin="farmed_feed", dish="raw", out=out[:1])).state == "ask"


def test_a_ferment_s_projection_meets_the_line() -> None:
    found = answer_ferment(FermentQuestion())
    expected = next(line for line in curve(found, "ph_by_day").lines if line.name == "expected")
    assert expected.x[-1] / 86400 == pytest.approx(figure(found, "crosses_on_day"), abs=0.06)
    assert expected.y[-1] == pytest.approx(4.6)
    assert not expected.measured
    assert next(line for line in curve(found, "ph_by_day").lines if line.name == "measured").measured


def test_what_several_pages_share() -> None:
    egg = target_limits("egg_whole")[0]
    meat = target_limits("salmonella_meat")[0]
    assert (counts_from_c(egg), counts_from_c(meat)) == (60.0, 54.4)
    series = laid_end_to_end([(5, 100), (20, 50), (20, 25)])
    assert (series.times_s[0], series.times_s[-1]) == (0, 175)
    assert np.all(np.diff(series.times_s) > 0)
    assert len(laid_end_to_end([])) == 0


@pytest.mark.parametrize(
    ("name", "shape", "others"),
    [("brick", Shape.slab, 2), ("finite_cylinder", Shape.cylinder, 1), ("sphere", Shape.sphere, 0)],
)
def test_shapes_by_their_names(name: str, shape: Shape, others: int) -> None:
    body = body_of(name, 0.04, 0.1, 0.06, food("red_meat"))  # type: ignore[arg-type]
    assert body.shape == shape
    assert len(body.other_halves_m) == others


def test_words_for_states() -> None:
    assert [planned(s) for s in ("pass", "fail", "pending", "too_close", "not_measured")] == [
        "would_meet",
        "would_fail",
        "would_fail",
        "too_close",
        "not_measured",
    ]
    assert measured("pending") == "fail"
    assert worst_of(["would_meet", "ask", "too_close"]) == "too_close"
    assert worst_of([]) == "not_measured"


def test_a_predicted_ph_is_judged_with_its_doubt() -> None:
    """Lots differ: a prediction a hair under the limit is too close to call, a measurement of the same is not."""
    asked = AcidQuestion(vinegar_kg=0.1, second_vinegar_kg=0, vinegar_percent=5)
    from brinefrost.core.bench.acid import jar_of

    rest = resting_ph(jar_of(asked)).ph
    near = asked.model_copy(update={"target_ph": round(rest + 0.1, 2)})
    assert answer_acid(near).state == "too_close"
    assert answer_acid(near.model_copy(update={"measured_ph": round(rest, 2), "ph_uncertainty": 0.02})).state == "pass"


def test_a_pointer_lies_where_its_verdict_says() -> None:
    """On a scale the eye must come to the same verdict as the limit did."""
    rows = [
        *scale(answer_kit(KitQuestion(reading_c=63.1))).rows,
        *scale(answer_kit(KitQuestion(reading_c=61.9, comparison="at_most"))).rows,
        *scale(answer_kit(KitQuestion(what="electrode"))).rows,
        *scale(answer_kit(KitQuestion(what="thermometer", shown_c=100))).rows,
        *scale(answer_rules(RulesQuestion(own_c=60))).rows,
        *scale(answer_rules(RulesQuestion(topic="time.uncontrolled", own_s=3 * 3600))).rows,
        *scale(answer_cure(CureQuestion(cure_kg=0.012))).rows,
        *scale(answer_smoke(SmokeQuestion(way="cold_smoke", chamber_c=31))).rows,
        *scale(answer_dates(DatesQuestion(made_on=TODAY - timedelta(days=4), as_of=TODAY))).rows,
        *scale(answer_dates(DatesQuestion(made_on=TODAY, as_of=TODAY, parents=(Parent(last_day=YESTERDAY),)))).rows,
    ]
    for row in rows:
        assert row.at is not None
        inside = any(each.kind == "allowed" and each.low <= row.at <= each.high for each in row.stretches)
        if row.state in ("pass", "would_meet"):
            assert inside, row
        if row.state in ("fail", "would_fail"):
            assert not inside, row


def test_freezing_takes_longer_than_its_days() -> None:
    """The clock starts when the core is there: FDA Food Code 2022, 3-402.11, -20 °C for 168 h, -35 °C for 15 h."""
    found = scale(answer_fish(FishQuestion(freezer_c=-40)))
    held = [row.stretches[1].high - row.stretches[1].low for row in found.rows]
    assert held == pytest.approx([7, 15 / 24, 1])
    assert all(row.stretches[0].high > 0 for row in found.rows)
    warm = scale(answer_fish(FishQuestion(freezer_c=-25)))
    assert [bool(row.stretches) for row in warm.rows] == [True, False, False]


def test_frozen_days_are_hatched_and_not_counted() -> None:
    """7 days and 2 whole days frozen: FDA Food Code 2022, 3-501.17(A)."""
    frozen = (FrozenSpan(since=TODAY - timedelta(days=4), until=TODAY - timedelta(days=1)),)
    us = scale(answer_dates(DatesQuestion(made_on=TODAY - timedelta(days=5), as_of=TODAY, frozen=frozen))).rows[0]
    assert [(each.low, each.high, each.kind) for each in us.stretches] == [(0, 9, "allowed"), (1, 4, "still")]


@pytest.mark.parametrize("family", ["heat", "chill"])
def test_a_map_says_of_the_question_itself_what_its_figures_say(family: str) -> None:
    """Its cells are coarse; where the question stands it is the same sum as the figure above it."""
    seen = 0
    for _, question in presets(TODAY)[family]:
        found = answer(family, question, TODAY)
        for picture in found.pictures:
            if picture.kind == "map":
                told = [each.value for each in found.figures if each.kind == "time"][-1]
                assert picture.at_s == (None if told is None else pytest.approx(told, abs=1))
                seen += 1
    assert seen >= 2
