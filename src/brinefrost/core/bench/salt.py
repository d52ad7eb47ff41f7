"""Brine and dry cure: how strong, how much salt in the end, how far it has come, how long to the middle."""

from dataclasses import replace

import numpy as np

from brinefrost.core.bench.acid_ground import ground
from brinefrost.core.bench.answer import (
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    Line,
    LineKind,
    Picture,
    Table,
    line,
)
from brinefrost.core.bench.salt_judged import EVEN, front_m, judged, piece_of
from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.steady import face_to_face
from brinefrost.core.chemistry.brine import (
    brine_density_kg_m3,
    on_water_from_total,
    percent_from_density,
    percent_of_total,
    resting_salt_percent,
    salometer_degrees,
    salt_needed_kg,
)
from brinefrost.core.chemistry.diffusion import Piece, across, share_in_middle, time_to_middle_s
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Composition, Measured, Quantity
from brinefrost.core.rules import target
from brinefrost.core.words import density, duration, grams, joined, mm, num, per_mass, percent, say, temp
from brinefrost.core.working import Input, Source, Working

WATER_SHARE = {"red_meat": 0.74, "pork": 0.72, "poultry": 0.74, "fish": 0.76, "fat_fish": 0.66}
SALT_RUB_KG_L, SPICE_KG_L = 1.2, 0.5  # bulk densities of fine salt and of ground spice, common practice, no source
FAST_D_M2_S = 5e-10  # fast end of what is published for cold meat; from memory, verify


def answer_salt(question: SaltQuestion) -> BenchAnswer:
    """How salty it becomes, and how far the salt has come.

    Strength by every convention, salt at rest, share that has reached the middle, time to the middle for this and for
    half the thickness, salt for a wanted strength. Raises OutOfRangeError if a number lies outside the range of a
    model. Valid for flesh without skin, wetted all round; slow side. Salt meant to preserve needs its analysis.
    Mass balance; Crank (1975); FDA guidance ch. 13 for water-phase salt.
    """
    salt = _salt_kg(question)
    water = question.water_kg if question.way == "brine" else 0.0
    share = WATER_SHARE[question.flesh]
    whole, phase = resting_salt_percent(question.food_kg, share, salt, water)
    piece = piece_of(question)
    reached = float(share_in_middle(piece, np.array([question.duration_s]))[0])
    needed = time_to_middle_s(piece, EVEN)
    state, sentence, fixes = judged(question, reached, needed, phase)
    return BenchAnswer(
        state=state,
        sentence=sentence,
        reason=say(
            "bench.salt.half_its_final_salt_has_come",
            front=mm(1000 * front_m(question, piece), ".0f"),
            whole=num(whole, ".2f"),
            phase=num(phase, ".2f"),
        ),
        fixes=fixes,
        figures=_figures(question, piece, salt, (whole, phase, reached, needed)),
        pictures=_pictures(question, piece, phase),
        tables=(_conventions(question, salt, water), _halves(piece)),
        workings=(_working(question, piece, reached, needed), *_packed(phase)),
        caution=say("bench.salt.cold_brine_over_cold_meat_at"),
    )


def _salt_kg(question: SaltQuestion) -> float:
    if question.way != "rub":
        return question.salt_kg
    parts = question.rub_salt_parts + question.rub_other_parts
    if not parts > 0:
        raise OutOfRangeError(say("bench.salt.a_rub_needs_at_least_one_x"))
    return question.rub_ml / 1000 * question.rub_salt_parts / parts * SALT_RUB_KG_L


def _figures(
    question: SaltQuestion, piece: Piece, salt: float, found_out: tuple[float, float, float, float]
) -> tuple[Figure, ...]:
    whole, phase, reached, needed = found_out
    return (
        *_middle(piece, reached, needed),
        Figure(
            name="front_depth",
            value=front_m(question, piece),
            kind="length",
            show="mm",
            words=say("bench.salt.half_its_final_salt_so_deep"),
        ),
        *_at_rest(whole, phase),
        _find_wanted(question),
        Figure(
            name="trade_time",
            value=(2 + question.thickness_m * 1000 / 6.5) * 86400,
            kind="time",
            show="d",
            words=say("bench.salt.the_trades_day_per_and_two"),
        ),
        *((_in_the_rub(question, salt),) if question.way == "rub" else ()),
    )


def _middle(piece: Piece, reached: float, needed: float) -> tuple[Figure, Figure]:
    """How much of its final salt the middle has, and when it has enough."""
    fast = time_to_middle_s(replace(piece, diffusivity_m2_s=max(FAST_D_M2_S, piece.diffusivity_m2_s)), EVEN)
    return (
        Figure(
            name="in_middle",
            value=round(100 * reached, 1),
            kind="percent",
            show=say("bench.answer.of_final"),
            main=True,
            low=0,
            high=100,
            band_from=100 * EVEN,
            band_to=100,
        ),
        Figure(
            name="time_to_middle",
            value=needed,
            kind="time",
            show="d",
            main=True,
            words=say("bench.salt.slow_side_at_the_fast_end", fast=duration(fast)),
        ),
    )


def _at_rest(whole: float, phase: float) -> tuple[Figure, Figure]:
    return (
        Figure(name="salt_at_rest", value=round(whole, 2), kind="percent", show=say("bench.answer.of_all")),
        Figure(
            name="water_phase_salt",
            value=round(phase, 2),
            kind="percent",
            show=say("bench.answer.in_its_water"),
            low=0,
            high=10,
            band_from=3.5,
            band_to=10,
        ),
    )


def _find_wanted(question: SaltQuestion) -> Figure:
    """The salt for a wanted strength, and what it would be counted on the food alone."""
    water = question.water_kg if question.way == "brine" else 0.0
    flat = question.wanted_percent / 100 * (question.food_kg + water)
    return Figure(
        name="salt_for_wanted",
        value=salt_needed_kg(question.food_kg, water, question.wanted_percent),
        kind="mass",
        show="g",
        words=say(
            "bench.salt.of_all_if_counted_on_food",
            wanted_percent=num(question.wanted_percent),
            flat=grams(1000 * flat, ".0f"),
        ),
    )


def _in_the_rub(question: SaltQuestion, salt: float) -> Figure:
    share = question.rub_other_parts / (question.rub_salt_parts + question.rub_other_parts)
    return Figure(
        name="rub_salt",
        value=salt,
        kind="mass",
        show="g",
        words=say(
            "bench.salt.and_of_the_rest_on_a",
            other=grams(question.rub_ml * SPICE_KG_L * share, ".0f"),
            salt=per_mass(1000 * salt / question.food_kg),
        ),
    )


def _pictures(question: SaltQuestion, piece: Piece, phase: float) -> tuple[Picture, ...]:
    places = np.linspace(0, 1, 41)
    lines: list[Line] = []
    kinds: tuple[LineKind, ...] = ("other", "core", "other")
    times = (question.duration_s / 4, question.duration_s, 4 * question.duration_s)
    for time, kind in zip(times, kinds, strict=True):
        half = across(piece, time, places) * phase
        lines.append(
            line(
                say("bench.salt.after_time", time=duration(time)), kind, *face_to_face(piece.thickness_m, places, half)
            )
        )
    return (
        CurvePicture(
            title="salt_front",
            x_kind="length",
            y_kind="percent",
            y_show=say("bench.dry.salt_in_the_water"),
            lines=tuple(lines),
            marks=(
                BenchMark(words=say("bench.acid.at_rest"), y=phase),
                BenchMark(words=say("bench.salt.packed_without_oxygen_3_5"), y=3.5),
            ),
            y_low=0,
        ),
        ground(6.0, phase),
    )


def _conventions(question: SaltQuestion, salt: float, water: float) -> Table:
    rows: list[tuple[str, ...]] = []
    if question.way == "brine" and water > 0:
        total = percent_of_total(salt, water)
        strong = min(total, 26.4)
        rows = [
            (say("bench.salt.salt_in_the_brine_of_the"), percent(total, ".2f")),
            (say("bench.salt.salt_on_the_water"), percent(on_water_from_total(total), ".2f")),
            (say("bench.salt.degrees_salometer"), joined((num(salometer_degrees(strong), ".0f"), "°"), " ")),
            (
                say("bench.salt.density"),
                density(brine_density_kg_m3(strong)),
            ),
        ]
    if question.gravity_kg_m3 is not None:
        measured = percent_from_density(question.gravity_kg_m3)
        rows.append((say("bench.salt.your_hydrometers_reading_as_salt"), percent(measured, ".2f")))
    rows.append((say("bench.salt.salt_on_the_food"), per_mass(1000 * salt / question.food_kg)))
    return Table(title=say("bench.salt.the_same_salt_every_way_of"), head=("", ""), rows=tuple(rows))


def _halves(piece: Piece) -> Table:
    rows = []
    for factor in (1.0, 0.5, 0.25):
        thinner = replace(piece, thickness_m=piece.thickness_m * factor)
        rows.append((mm(thinner.thickness_m * 1000, ".0f"), duration(time_to_middle_s(thinner, EVEN))))
    head = (say("bench.salt.thickness"), say("bench.salt.time"))
    return Table(title=say("bench.salt.time_to_nine_tenths_in_the"), head=head, rows=tuple(rows))


def _packed(phase: float) -> tuple[Working, ...]:
    facts: dict[Quantity, Measured] = {"salt": Measured(value=min(phase, 40.0))}
    return (target("wps-packed-fish", Composition).judge(facts, "computed").working,)


def _working(question: SaltQuestion, piece: Piece, reached: float, needed: float) -> Working:
    return Working(
        title=say("bench.salt.salt_on_its_way_in"),
        formula=say("bench.salt.c_t_d_c_x_surface"),
        inputs=(
            Input(name=say("bench.eggs.thickness"), value=question.thickness_m * 1000, unit="mm"),
            Input(
                name=say("bench.salt.d_at", kept=temp(question.kept_c, "g")), value=piece.diffusivity_m2_s, unit="m²/s"
            ),
            Input(name=say("bench.salt.fourier_number"), value=round(piece.fourier(question.duration_s), 4)),
        ),
        result=say(
            "bench.salt.in_the_middle_after_90_after",
            reached=num(100 * reached, ".0f"),
            duration=duration(question.duration_s),
            needed=duration(needed),
        ),
        source=Source(
            citation="Crank, The Mathematics of Diffusion (1975); D from memory, verify", tag="published_from_memory"
        ),
        assumptions=(
            say("bench.salt.wetted_all_round"),
            say("bench.salt.brine_even_and_plenty"),
            say("bench.salt.no_skin_little_fat"),
        ),
        valid_range=say("bench.salt.to_to"),
    )
