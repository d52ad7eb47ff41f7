"""Jars: fridge only, needs a scheduled process, or never this way; and what its centre gets from the water bath."""

from datetime import date, timedelta
from typing import Literal

import numpy as np

from brinefrost.core.bench.acid import LAW_PH, RESTED_S, acid_pack, ground
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
from brinefrost.core.bench.heat import CONDUCTION
from brinefrost.core.bench.slips import hardly_any
from brinefrost.core.chemistry.jar import DOUBT_PH, Jar, VegetableKey, resting_ph, vegetable
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.food.media import body_of, food, medium
from brinefrost.core.kitchen.jars import FRIDGE_OIL_DAYS, JarFate, added_minutes, fate_of
from brinefrost.core.limits import Composition, Lethality, Series, Verdict
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heating import Heating, time_to_lethality_s
from brinefrost.core.rules import target
from brinefrost.core.working import Document, Input, Working, clock

FRIDGE_DAYS = 7  # a low-acid jar in the fridge, opened or not; common practice, no source
Sample = Literal["blended", "brine"]


class JarQuestion(Document):
    """What is in the jar, what covers it, how it was heated and closed, where it will stand."""

    contents: VegetableKey = field("choice", "cooked_bean", main=True)
    cover: Literal["brine", "oil", "syrup"] = field("choice", "oil", main=True)
    storage: Literal["room", "fridge"] = field("choice", "room", main=True)
    vinegar_percent: float = field("percent", 0, 0, 25, step=0.1, main=True)
    vinegar_share: float = field("percent", 50, 0, 100, step=5, only={"cover": ("brine", "syrup")})
    acid_g_kg: float = field("number", 0, 0, 100, "g citric on a kg")
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

    Parameters
    ----------
    question : JarQuestion
        Strengths [%], temperatures [°C], lengths [m], times [s].

    Returns
    -------
    BenchAnswer
        *Fridge only*, *needs a scheduled process* or *never this way*, with the reason and the fix; the heat of its
        centre; time added for altitude.

    Raises
    ------
    OutOfRangeError
        If the water could not be so hot at this altitude.

    Notes
    -----
    Valid as the stricter reading; the centre by conduction, on the slow side.

    References
    ----------
    21 CFR 113, 114; NCHFP; Breidt et al.; Carslaw & Jaeger (1959).
    """
    highest = boiling_c(question.altitude_m)
    if question.process_c > highest + 0.05:
        raise OutOfRangeError(
            f"At {question.altitude_m:g} m an open water bath boils at {highest:.1f} °C; it cannot be at "
            f"{question.process_c:g} °C.",
            process_c=question.process_c,
        )
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
    slip = hardly_any("Vinegar", question.vinegar_percent, 0.5)
    return BenchAnswer(
        state=worst_of(
            [
                _state(fate, question),
                *(["not_measured"] if early else []),  # type: ignore[list-item]
                *(["ask"] if slip else []),  # type: ignore[list-item]
            ]
        ),
        sentence=f"{slip} {_sentence(fate, question)}".strip(),
        reason=(f"{NOT_AT_REST} " if early else "") + fate.reason + _blended(question),
        fixes=_fixes(question, fate, verdict, time_to_lethality_s(heating, limit.model.law())),
        figures=_figures(question, ph, float(core[-1]), heating, limit, verdict),
        pictures=(_picture(heating, times, core), *((ground(ph, 0.0),) if ph is not None else ())),
        tables=(_checks(question),),
        schools=tuple(_schools(question)),
        workings=(_working(question, heating, float(core[-1])), verdict.working),
        caution="Jars kept at room temperature need a scheduled process from a qualified authority. A lid that went "
        "down proves a vacuum, nothing else.",
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
    series = Series(times, core, 0.0, 0.0, True, np.inf, "computed")
    return limit, limit.evaluate(series, float(times[-1]))


def _fixes(question: JarQuestion, fate: JarFate, verdict: Verdict, needed: float | None) -> tuple[str, ...]:
    """The fate's own fixes, and what the jar's centre still needs where acid alone is there."""
    if fate.fate == "never" or verdict.state == "pass" or question.storage == "fridge" or question.cover == "oil":
        return fate.fixes
    at = f"{question.process_c:g} °C"
    heat = f"No time at {at} is enough." if needed is None else f"At {at} the jar's centre needs {clock(needed)}."
    return (heat, *fate.fixes)


def at_rest(sample: Sample, rested_s: float) -> bool:
    """Whether a pH is the jar's own: of a blended sample, a day [s] or more after filling.

    Valid for every sample.
    """
    return sample == "blended" and rested_s >= RESTED_S


NOT_AT_REST = (
    "Not measured at rest: brine is sour long before what lies in it. Drain, blend and measure a day or more after "
    "filling."
)


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
    under = {"oil": "in oil", "brine": "in brine", "syrup": "in syrup"}[question.cover]
    said = {
        "never": "never this way",
        "scheduled": "needs a scheduled process before it stands on a shelf",
        "fridge": "fridge only",
        "too_close": "too close to call",
    }[fate.fate]
    if fate.fate == "fridge" and not _sour(question):
        days = FRIDGE_OIL_DAYS if question.cover == "oil" else FRIDGE_DAYS
        until = (
            "" if question.made_on is None else f", {_day(question.made_on + timedelta(days=days - 1))} at the latest"
        )
        said = f"fridge only, at 5 °C or below for at most {days} days{until}"
    return f"{name} {under}: {said}."


def _day(day: date) -> str:
    return f"{day:%d %b %Y}".lstrip("0")


def _blended(question: JarQuestion) -> str:
    if not question.blended:
        return ""
    return " Blending spreads what one clove carries through the whole batch, and cheese and oil hide it from acid."


def _figures(
    question: JarQuestion, ph: float | None, centre: float, heating: Heating, limit: Lethality, verdict: Verdict
) -> tuple[Figure, ...]:
    needed = time_to_lethality_s(heating, limit.model.law())
    more = "ask a process authority"
    try:
        added: float | None = added_minutes(question.altitude_m) * 60.0
        more = "added to a boiling-water process of 5 to 10 min"
    except OutOfRangeError:
        added = None
    return (
        Figure(
            name="resting_ph",
            value=ph,
            kind="ph",
            main=True,
            low=2.5,
            high=7,
            band_from=2.5,
            band_to=LAW_PH,
            words="measured" if question.measured_ph is not None else "worked out, not measured",
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
            words=f"after {clock(question.process_s)}",
        ),
        Figure(
            name="centre_f",
            value=round(verdict.value or 0.0, 2),
            kind="number",
            show="min at 71.1 °C",
            words=f"goal {limit.model.law().goal_min:g}",
        ),
        Figure(
            name="process_time",
            value=needed,
            kind="time",
            show="min",
            words=f"in {question.process_c:g} °C water",
            absent="never at this temperature",
        ),
        Figure(name="added_time", value=added, kind="time", show="min", words=more),
    )


def _picture(heating: Heating, times: Array, core: Array) -> CurvePicture:
    return CurvePicture(
        title="jar_centre",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line("centre of the jar", "core", times, core),
            line("water bath", "surroundings", times, np.full(len(times), heating.surroundings_c)),
        ),
        marks=(BenchMark(words="counts from 54.4 °C", y=54.4),),
        y_low=0,
    )


def _checks(question: JarQuestion) -> Table:
    lid = "sealed: says nothing of acid or spores" if question.lid_down else "not sealed: fridge, use first"
    return Table(
        title="Before it counts as closed",
        head=("", ""),
        rows=(
            ("Rim", "sound, clean, headspace to the shoulder"),
            ("Bubbles", "a stream at once: it leaks; after 5 to 10 min: it vents, as it should"),
            ("Water", "over the lids all the time"),
            ("Cooling", "undisturbed for 12 to 24 h, then rings off"),
            ("Lid", lid),
            ("Kind of lid", "two-piece, new" if question.two_piece_lid else "one-piece or used before: fridge only"),
        ),
    )


def _schools(question: JarQuestion) -> list[SchoolAnswer]:
    trade: AnswerState = "ask"
    return [
        SchoolAnswer(
            school="Trade: 60 °C for 2 h, crisp pickles",
            state=trade,
            sentence="Only at pH 4.1 or below, and by the centre of the jar. Common practice, no source.",
        ),
        SchoolAnswer(
            school="NCHFP: 82 to 85 °C for 30 min",
            state=trade,
            sentence="Low-temperature pasteurising of tested pickle recipes only.",
        ),
        SchoolAnswer(
            school="21 CFR 114",
            state=trade,
            sentence="Acidified food for the shelf: scheduled process, registered, records three years.",
        ),
    ]


def _working(question: JarQuestion, heating: Heating, centre: float) -> Working:
    return Working(
        title="The centre of the jar",
        formula="product of slab and cylinder: θ = θslab(height) × θcylinder(radius)",
        inputs=(
            Input(name="diameter", value=question.diameter_m * 1000, unit="mm"),
            Input(name="height", value=question.height_m * 1000, unit="mm"),
            Input(name="diffusivity α", value=heating.body.diffusivity_m2_s, unit="m²/s"),
            Input(name="filled at", value=question.fill_c, unit="°C"),
            Input(name="bath", value=question.process_c, unit="°C"),
        ),
        result=f"{centre:.1f} °C after {clock(question.process_s)}",
        source=CONDUCTION,
        assumptions=("conduction only: loose packs in thin brine are faster", "jar up to its neck in stirred water"),
        valid_range="30 to 300 mm",
    )
