"""Jars: fridge only, needs a scheduled process, or never this way; and what its centre gets from the water bath."""

from datetime import date, timedelta
from typing import Literal

import numpy as np

from brinefrost.core.bench.acid import RESTED_S, acid_pack
from brinefrost.core.bench.acid_ground import ground, law_ph
from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    SchoolAnswer,
    Table,
    line,
    worst_of,
)
from brinefrost.core.bench.heat_question import CONDUCTION
from brinefrost.core.bench.slips import hardly_any
from brinefrost.core.chemistry.jar import DOUBT_PH, Jar, VegetableKey, resting_ph, vegetable
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.food.media import body_of, food, medium
from brinefrost.core.inverse import met_s, steadily
from brinefrost.core.kitchen.jars import FRIDGE_OIL_DAYS, JarFate, added_minutes, fate_of
from brinefrost.core.limits import Composition, Lethality, Series, Verdict
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heating import Heating
from brinefrost.core.rules import target
from brinefrost.core.words import duration, height, joined, legal, moment, num, say, temp
from brinefrost.core.working import Input, Sent, Working

FRIDGE_DAYS = 7  # a low-acid jar in the fridge, opened or not; common practice, no source
Sample = Literal["blended", "brine"]


class JarQuestion(Sent):
    """What is in the jar, what covers it, how it was heated and closed, where it will stand."""

    contents: VegetableKey = field("choice", "cooked_bean", main=True)
    cover: Literal["brine", "oil", "syrup"] = field("choice", "oil", main=True)
    storage: Literal["room", "fridge"] = field("choice", "room", main=True)
    vinegar_percent: float = field("percent", 0, 0, 25, step=0.1, main=True)
    vinegar_share: float = field("percent", 50, 0, 100, step=5, only={"cover": ("brine", "syrup")})
    acid_g_kg: float = field("per_mass", 0, 0, 100)
    measured_ph: float | None = field("ph", None, 1, 9, main=True)
    sample: Sample = field("choice", "blended", main=True)
    rested_s: float = field("time", 24 * 3600, 0, 60 * 86400, "h")
    ph_uncertainty: float = field("number", 0.05, 0, 0.5, "pH")
    made_on: date | None = field("day", None)
    process_c: float = field("temperature", 60, 20, 121, main=True)
    process_s: float = field("time", 7200, 0, 8 * 3600, "min", 300, main=True)
    fill_c: float = field("temperature", 20, 0, 100)
    diameter_m: float = field("length", 0.08, 0.03, 0.3, "mm", 0.005)
    height_m: float = field("length", 0.11, 0.03, 0.5, "mm", 0.005)
    two_piece_lid: bool = field("flag", True)
    lid_down: bool = field("flag", True)
    altitude_m: float = field("height", 2140, -100, 4500, main=True)
    blended: bool = field("flag", False)


def answer_jars(question: JarQuestion) -> BenchAnswer:
    """What may become of the jar, and why.

    *Fridge only*, *needs a scheduled process* or *never this way*, with the reason and the fix; the heat of its
    centre; time added for altitude. Raises OutOfRangeError if the water could not be so hot at this altitude. Valid as
    the stricter reading; the centre by conduction, on the slow side. 21 CFR 113, 114; NCHFP; Breidt
    et al.; Carslaw & Jaeger (1959).
    """
    _check_boils(question)
    ph = _ph(question)
    heating = _heating(question)
    times = np.linspace(0.0, max(question.process_s, 60.0), 200)
    core = heating.core_c(times)
    limit, verdict = _heat(question, ph, times, core)
    fate = fate_of(
        question.contents,
        question.cover,
        question.storage,
        ph,
        verdict.state == "pass" and question.process_s > 0,
        question.two_piece_lid and question.lid_down,
        question.acid_g_kg > 0 or question.vinegar_percent > 0,
        question.ph_uncertainty if question.measured_ph is not None else DOUBT_PH,
    )
    early = question.measured_ph is not None and not at_rest(question.sample, question.rested_s)
    slip = hardly_any(say("bench.slips.vinegar"), question.vinegar_percent, 0.5)
    return BenchAnswer(
        state=worst_of([_state(fate, question), "not_measured" if early else "pass", "ask" if slip else "pass"]),
        sentence=say("bench.heat.slip_sentence", slip=slip, sentence=_sentence(fate, question)),
        reason=joined((NOT_AT_REST if early else "", fate.reason + _blend(question)), " "),
        fixes=_fixes(question, fate, verdict, met_s((limit,), steadily(heating))),
        figures=_figures(question, ph, float(core[-1]), heating, limit, verdict),
        pictures=(_picture(heating, times, core), *((ground(ph, 0.0),) if ph is not None else ())),
        tables=(_checks(question),),
        schools=tuple(_schools(question)),
        workings=(_working(question, heating, float(core[-1])), verdict.working),
        caution=say("bench.jars.jars_kept_at_room_temperature_need"),
    )


def _ph(question: JarQuestion) -> float | None:
    """Measured, or worked out where enough is known; oil brings no acid in."""
    if question.measured_ph is not None:
        return question.measured_ph
    vinegar = question.vinegar_share / 100 if question.cover != "oil" else 0.0
    jar = Jar(
        vegetable=question.contents,
        vegetable_kg=1.0,
        vinegar_kg=vinegar,
        vinegar_percent=question.vinegar_percent,
        water_kg=max(1.0 - vinegar, 0.0) if question.cover != "oil" else 0.0,
        other_acid="citric" if question.acid_g_kg > 0 else "",
        other_acid_kg=question.acid_g_kg / 1000,
    )
    return round(resting_ph(jar).ph, 2)


def _heating(question: JarQuestion) -> Heating:
    body = body_of("finite_cylinder", question.diameter_m, question.height_m, 0.1, food("vegetable"))
    return Heating(body, medium("bath").h_w_m2k, question.fill_c, question.process_c)


def _heat(question: JarQuestion, ph: float | None, times: Array, core: Array) -> tuple[Lethality, Verdict]:
    limit = acid_pack(ph)
    series = Series.computed(times, core)
    return limit, limit.evaluate(series, float(times[-1]))


def _fixes(question: JarQuestion, fate: JarFate, verdict: Verdict, needed: float | None) -> tuple[str, ...]:
    """The fate's own fixes, and what the jar's centre still needs where acid alone is there."""
    if fate.fate == "never" or verdict.state == "pass" or question.storage == "fridge" or question.cover == "oil":
        return fate.fixes
    at = temp(question.process_c, "g")
    heat = (
        say("bench.jars.no_time_at_is_enough", at=at)
        if needed is None
        else say("bench.jars.at_the_jars_centre_needs", at=at, needed=duration(needed))
    )
    return (heat, *fate.fixes)


def at_rest(sample: Sample, rested_s: float) -> bool:
    """Whether a pH is the jar's own: of a blended sample, a day [s] or more after filling.

    Valid for every sample.
    """
    return sample == "blended" and rested_s >= RESTED_S


NOT_AT_REST = say("bench.jars.not_measured_at_rest_brine_is")


def _state(fate: JarFate, question: JarQuestion) -> AnswerState:
    if fate.fate == "never":
        return "would_fail"
    if fate.fate == "too_close":
        return "too_close"
    if question.storage == "room":
        return "ask" if fate.fate == "scheduled" else "would_fail"
    return "ask" if fate.fixes and not _sour(question) else "would_meet"


def _sour(question: JarQuestion) -> bool:
    ph = _ph(question)
    doubt = question.ph_uncertainty if question.measured_ph is not None else DOUBT_PH
    law = target("ph-4.6", Composition)
    return ph is not None and law.evaluate(Series.of(ph, doubt, "computed"), 0.0).state == "pass"


def _sentence(fate: JarFate, question: JarQuestion) -> str:
    name = vegetable(question.contents).name
    under = {"oil": say("bench.jars.in_oil"), "brine": say("bench.jars.in_brine"), "syrup": say("bench.jars.in_syrup")}[
        question.cover
    ]
    said = {
        "never": say("bench.jars.never_this_way"),
        "scheduled": say("bench.jars.needs_a_scheduled_process_before_it"),
        "fridge": say("bench.jars.fridge_only"),
        "too_close": say("bench.jars.too_close_to_call"),
    }[fate.fate]
    if fate.fate == "fridge" and not _sour(question):
        days = FRIDGE_OIL_DAYS if question.cover == "oil" else FRIDGE_DAYS
        until = (
            ""
            if question.made_on is None
            else say("bench.jars.at_the_latest", day=_day(question.made_on + timedelta(days=days - 1)))
        )
        said = say("bench.jars.fridge_only_at_or_below_for", days=days, until=until)
    return say("bench.jars.name_under_said", name=name, under=under, said=said)


def _day(day: date) -> str:
    return moment(day, "%d %b %Y")


def _check_boils(question: JarQuestion) -> None:
    """An open bath is no hotter than water boils at that height."""
    highest = boiling_c(question.altitude_m)
    if question.process_c > highest + 0.05:
        raise OutOfRangeError(
            say(
                "bench.jars.at_m_an_open_water_bath",
                altitude=height(question.altitude_m),
                highest=temp(highest, ".1f"),
                process=temp(question.process_c, "g"),
            ),
            process_c=question.process_c,
        )


def _blend(question: JarQuestion) -> str:
    if not question.blended:
        return ""
    return say("bench.jars.blending_spreads_what_one_clove_carries")


def _figures(
    question: JarQuestion, ph: float | None, centre: float, heating: Heating, limit: Lethality, verdict: Verdict
) -> tuple[Figure, ...]:
    return (
        Figure(
            name="resting_ph",
            value=ph,
            kind="ph",
            main=True,
            low=2.5,
            high=7,
            band_from=2.5,
            band_to=law_ph(),
            words=say("bench.ferment.measured")
            if question.measured_ph is not None
            else say("bench.jars.worked_out_not_measured"),
        ),
        Figure(
            name="jar_centre",
            value=round(centre, 1),
            kind="temperature",
            main=True,
            low=0,
            high=100,
            band_from=54.4,
            band_to=100,
            words=say("bench.jars.after_process", process=duration(question.process_s)),
        ),
        Figure(
            name="centre_f",
            value=round(verdict.value or 0.0, 2),
            kind="number",
            show=say("working.lethality.min_at", reference=legal(71.1)),
            words=say("bench.jars.goal_goal", goal=num(limit.model.law().goal_min)),
        ),
        Figure(
            name="process_time",
            value=met_s((limit,), steadily(heating)),
            kind="time",
            show="min",
            words=say("bench.jars.in_water", process=temp(question.process_c, "g")),
            absent=say("bench.acid.never_at_this_temperature"),
        ),
        _show_added(question.altitude_m),
    )


def _show_added(altitude_m: float) -> Figure:
    """What the height adds to a boiling-water process; too high for the table, that is asked of an authority."""
    try:
        added: float | None = added_minutes(altitude_m) * 60.0
        words = say("bench.jars.added_to_a_boiling_water_process")
    except OutOfRangeError:
        added, words = None, say("bench.jars.ask_a_process_authority")
    return Figure(name="added_time", value=added, kind="time", show="min", words=words)


def _picture(heating: Heating, times: Array, core: Array) -> CurvePicture:
    return CurvePicture(
        title="jar_centre",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line(say("bench.jars.centre_of_the_jar"), "core", times, core),
            line(say("bench.jars.water_bath"), "surroundings", times, np.full(len(times), heating.surroundings_c)),
        ),
        marks=(BenchMark(words=say("bench.jars.counts_from"), y=54.4),),
        y_low=0,
    )


def _checks(question: JarQuestion) -> Table:
    lid = (
        say("bench.jars.sealed_says_nothing_of_acid_or")
        if question.lid_down
        else say("bench.jars.not_sealed_fridge_use_first")
    )
    return Table(
        title=say("bench.jars.before_it_counts_as_closed"),
        head=("", ""),
        rows=(
            (say("bench.jars.rim"), say("bench.jars.sound_clean_headspace_to_the_shoulder")),
            (say("bench.jars.bubbles"), say("bench.jars.a_stream_at_once_it_leaks")),
            (say("bench.jars.water"), say("bench.jars.over_the_lids_all_the_time")),
            (say("bench.jars.cooling"), say("bench.jars.undisturbed_for_12_to_24_h")),
            (say("bench.jars.lid"), lid),
            (
                say("bench.jars.kind_of_lid"),
                say("bench.jars.two_piece_new")
                if question.two_piece_lid
                else say("bench.jars.one_piece_or_used_before_fridge"),
            ),
        ),
    )


def _schools(question: JarQuestion) -> list[SchoolAnswer]:
    trade: AnswerState = "ask"
    return [
        SchoolAnswer(
            school=say("bench.jars.trade_for_2_h_crisp_pickles"),
            state=trade,
            sentence=say("bench.jars.only_at_ph_4_1_or"),
        ),
        SchoolAnswer(
            school=say("bench.jars.nchfp_to_for_30_min"),
            state=trade,
            sentence=say("bench.jars.low_temperature_pasteurising_of_tested_p"),
        ),
        SchoolAnswer(
            school=say("bench.jars.21_cfr_114"),
            state=trade,
            sentence=say("bench.jars.acidified_food_for_the_shelf_scheduled"),
        ),
    ]


def _working(question: JarQuestion, heating: Heating, centre: float) -> Working:
    return Working(
        title=say("bench.jars.the_centre_of_the_jar"),
        formula=say("bench.jars.product_of_slab_and_cylinder_slab"),
        inputs=(
            Input(name=say("bench.jars.diameter"), value=question.diameter_m * 1000, unit="mm"),
            Input(name=say("bench.jars.height"), value=question.height_m * 1000, unit="mm"),
            Input(name=say("bench.eggs.diffusivity"), value=heating.body.diffusivity_m2_s, unit="m²/s"),
            Input(name=say("bench.jars.filled_at"), value=question.fill_c, unit="°C"),
            Input(name=say("bench.jars.bath"), value=question.process_c, unit="°C"),
        ),
        result=say("bench.jars.centre_after_process", centre=temp(centre, ".1f"), process=duration(question.process_s)),
        source=CONDUCTION,
        assumptions=(say("bench.jars.conduction_only_loose_packs_in_thin"), say("bench.jars.jar_up_to_its_neck_in")),
        valid_range=say("bench.jars.to"),
    )
