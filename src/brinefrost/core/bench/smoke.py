"""Oven, smoke and the probe's alarm: carry-over, the wet surface, and what the alarm temperature leaves alive."""

from typing import Literal

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    Zone,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.fields import field
from brinefrost.core.bench.heat import CONDUCTION
from brinefrost.core.bench.media import ShapeKey, body_of, food
from brinefrost.core.bench.scales import scales
from brinefrost.core.bench.steady import counts_from_c
from brinefrost.core.limits import Composition, Lethality, Limit, Measured, Quantity, Series, Threshold, Verdict
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.heat import HeatCurve, Stage, heat_through
from brinefrost.core.physics.humid_air import wet_bulb_c
from brinefrost.core.roots import changeover
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set, target, targets_for
from brinefrost.core.working import Document, Input, Source, Working, clock

AnimalKey = Literal["wild_boar", "pork", "beef", "lamb", "poultry", "fish"]
SmokeWay = Literal["roast", "hot_smoke", "cold_smoke"]
FOODS: dict[str, Literal["red_meat", "poultry", "fish"]] = {"poultry": "poultry", "fish": "fish"}
TOPICS = {"wild_boar": "cook.game", "poultry": "cook.poultry"}
LONGEST_S = 30 * 3600.0
Judged = list[tuple[Limit, Verdict]]


class SmokeQuestion(Document):
    """A piece in an oven or smoker, and when the alarm is set to ring."""

    way: SmokeWay = field("choice", "roast", main=True)
    animal: AnimalKey = field("choice", "wild_boar", main=True)
    shape: ShapeKey = field("choice", "cylinder")
    thickness_m: float = field("length", 0.08, 0.005, 0.3, "mm", 0.005, main=True)
    start_c: float = field("temperature", 5, -2, 40)
    chamber_c: float = field("temperature", 120, 5, 200, main=True)
    humidity_percent: float = field("percent", 10, 0, 100, step=5, main=True)
    wet: bool = field("flag", True)
    alarm_c: float = field("temperature", 52, 5, 98, main=True, only={"way": ("roast", "hot_smoke")})
    hold_s: float = field("time", 0, 0, 24 * 3600, "min", only={"way": ("roast", "hot_smoke")})
    rest_s: float = field("time", 1200, 0, 4 * 3600, "min", only={"way": ("roast", "hot_smoke")})
    hours_s: float = field("time", 8 * 3600, 600, 5 * 86400, "h", only={"way": ("cold_smoke",)}, main=True)
    wps_percent: float | None = field("percent", 3.2, 0, 25)
    nitrite_ppm: float = field("number", 0, 0, 300, "ppm")
    packed: bool = field("flag", False)
    probe_c: float = field("difference", 0.5, 0, 3, step=0.1)
    altitude_m: float = field("height", 2140, 0, 4500)
    rule_set: RuleSetId = field("choice", "us", main=True)


def answer_smoke(question: SmokeQuestion) -> BenchAnswer:
    """Follow the piece to its alarm and beyond, and judge what that leaves.

    Parameters
    ----------
    question : SmokeQuestion
        Lengths [m], temperatures [°C], times [s], humidity [%].

    Returns
    -------
    BenchAnswer
        Verdict by the animal's own rule and, for pork and game, the *Trichinella* table; carry-over; wet surface;
        for smoked fish the chamber and its water-phase salt.

    Raises
    ------
    OutOfRangeError
        If a number lies outside the range of a model.

    Notes
    -----
    Valid while the surface is wet at the wet-bulb temperature, else at the chamber's; between the two as it dries.

    References
    ----------
    ASHRAE for the wet bulb; Carslaw & Jaeger (1959); each limit carries its own.
    """
    outside = _surface_c(question)
    return _cold(question, outside) if question.way == "cold_smoke" else _hot(question, outside)


def _surface_c(question: SmokeQuestion) -> float:
    if not question.wet:
        return question.chamber_c
    return min(wet_bulb_c(question.chamber_c, question.humidity_percent / 100, question.altitude_m), question.chamber_c)


def _hot(question: SmokeQuestion, outside: float) -> BenchAnswer:
    curve, rang = _curve(question, outside)
    rules = _judges(question)
    series = Series(curve.times_s, curve.core_c, question.probe_c, 0.0, True, np.inf, "computed")
    end = float(curve.times_s[-1])
    judged = [(limit, limit.evaluate(series, end)) for limit in rules]
    hottest = float(np.max(curve.core_c))
    state = worst_of([planned(verdict.state) for _, verdict in judged])
    if rang is None:
        state = "would_fail"
    return BenchAnswer(
        state=state,
        sentence=_words(question, judged, rang, hottest, outside),
        reason=" ".join(f"{limit.title}: {verdict.sentence}" for limit, verdict in judged if verdict.state != "pass"),
        fixes=_fixes(question, state, judged),
        figures=(
            Figure(
                name="hottest_core",
                value=round(hottest, 1),
                kind="temperature",
                main=True,
                low=0,
                high=90,
                band_from=_wanted(judged),
                band_to=90,
            ),
            Figure(
                name="alarm_after",
                value=rang,
                kind="time",
                show="h",
                main=True,
                absent="never at this surface temperature",
            ),
            _alarm_that_does(question, outside),
            Figure(
                name="carry_over",
                value=round(hottest - question.alarm_c, 1) if rang is not None else None,
                kind="difference",
            ),
            Figure(
                name="wet_surface",
                value=round(outside, 1),
                kind="temperature",
                words="what the wet surface follows" if question.wet else "dry surface: the chamber itself",
            ),
        ),
        pictures=(_picture(question, curve, judged),),
        schools=tuple(_schools(question, series, end)),
        workings=(_working(question, outside, hottest), *(verdict.working for _, verdict in judged)),
        caution="An alarm is for doneness. Trichinella and Toxoplasma in game and pork are a matter of time and "
        "temperature; some strains in game resist freezing. Under-cooked game is never for guests at higher risk.",
    )


def _alarm_that_does(question: SmokeQuestion, outside: float) -> Figure:
    """The lowest alarm, to a half degree, whose cook and carry-over meet every rule."""

    def does(alarm_c: float) -> bool:
        asked = question.model_copy(update={"alarm_c": alarm_c})
        curve, rang = _curve(asked, outside)
        series = Series(curve.times_s, curve.core_c, question.probe_c, 0.0, True, np.inf, "computed")
        end = float(curve.times_s[-1])
        return rang is not None and all(rule.evaluate(series, end).state == "pass" for rule in _judges(asked))

    found = changeover(does, 45.0, min(outside - 1.0, 90.0), 0.5) if outside > 47 else None
    return Figure(
        name="alarm_that_does",
        value=None if found is None else float(np.ceil(found * 2) / 2),
        kind="temperature",
        words=f"with {clock(question.hold_s)} held there" if question.hold_s else "with no hold",
        absent="none in this chamber",
    )


def _curve(question: SmokeQuestion, outside: float) -> tuple[HeatCurve, float | None]:
    kind = food(FOODS.get(question.animal, "red_meat"))
    body = body_of(question.shape, question.thickness_m, 3 * question.thickness_m, 2 * question.thickness_m, kind)
    h_wet = 25.0 if question.wet else 18.0  # condensing and evaporating keep the surface at its temperature
    whole = heat_through(body, [Stage.steady(LONGEST_S, outside, h_wet)], question.start_c, step_s=60.0)
    there = np.flatnonzero(whole.core_c >= question.alarm_c)
    if not len(there):
        return whole, None
    rang = float(whole.times_s[there[0]])
    stages = [Stage.steady(max(rang, 60.0), outside, h_wet)]
    if question.hold_s >= 60:
        stages.append(Stage.steady(question.hold_s, question.alarm_c, h_wet))
    if question.rest_s >= 60:
        stages.append(Stage.steady(question.rest_s, 25.0, 9.0))
    return heat_through(body, stages, question.start_c, step_s=30.0), rang


def _judges(question: SmokeQuestion) -> list[Limit]:
    topic = TOPICS.get(question.animal, "cook.whole")
    found = [rule_set(question.rule_set).entries_for(topic)[0].limit]
    if question.animal in ("wild_boar", "pork"):
        found.append(targets_for("heat.trichinella")[0].limit)
    if question.way == "hot_smoke" and question.animal == "fish":
        found.append(targets_for("smoke.hot_fish")[0].limit)
    return found


def _wanted(judged: Judged) -> float:
    return counts_from_c(judged[0][0], 63.0)


def _words(question: SmokeQuestion, judged: Judged, rang: float | None, hottest: float, outside: float) -> str:
    if rang is None:
        return f"The core never reaches {question.alarm_c:g} °C: the wet surface stays at {outside:.0f} °C."
    at = f"The alarm rings at {question.alarm_c:g} °C after {clock(rang)}, the core goes on to {hottest:.1f} °C"
    if all(verdict.state == "pass" for _, verdict in judged):
        return f"{at}: that should do."
    return f"{at}: that is not enough for {question.animal.replace('_', ' ')}."


def _fixes(question: SmokeQuestion, state: AnswerState, judged: Judged) -> tuple[str, ...]:
    if state == "would_meet":
        return ()
    said = []
    game = question.animal == "wild_boar"
    for limit, verdict in judged:
        if verdict.state != "pass" and not isinstance(limit, Lethality):
            said.append(f"Cook to {getattr(limit, 'at_least_c', 74):.0f} °C at the core ({question.rule_set.upper()}).")
        elif verdict.state != "pass" and isinstance(limit, Lethality):
            law = limit.model.law()
            set_c = max(question.alarm_c, law.knots_c[0] + 1 + question.probe_c)
            minutes = law.goal_min / float(law.rate(np.array([set_c - question.probe_c]))[0])
            said.append(f"For {limit.title}: hold the core at {set_c:.1f} °C for {clock(minutes * 60)}.")
    if game:
        said.append("A lower temperature by the table needs meat tested for Trichinella by the supplier, and approval.")
    if question.wet:
        said.append("More humidity or steam warms the wet surface; a drier chamber does not.")
    return tuple(said)


def _picture(question: SmokeQuestion, curve: HeatCurve, judged: Judged) -> CurvePicture:
    return CurvePicture(
        title="core_curve",
        x_kind="time",
        y_kind="temperature",
        lines=(
            line("core", "core", curve.times_s, curve.core_c),
            line("surface", "surface", curve.times_s, curve.surface_c),
        ),
        marks=(
            BenchMark(words=f"alarm {question.alarm_c:g} °C", y=question.alarm_c),
            BenchMark(words=f"counts from {_wanted(judged):g} °C", y=_wanted(judged)),
        ),
        zone=Zone(words="growth zone", low=5, high=54.4),
        y_low=0,
    )


def _schools(question: SmokeQuestion, series: Series, end: float) -> list[SchoolAnswer]:
    topic = TOPICS.get(question.animal, "cook.whole")
    return [
        school(set_id.upper(), entry.limit, entry.limit.evaluate(series, end))
        for set_id in RULE_SET_IDS
        for entry in rule_set(set_id).entries_for(topic)
    ]


def _cold(question: SmokeQuestion, outside: float) -> BenchAnswer:
    times: Array = np.array([0.0, question.hours_s])
    air = Series(times, np.full(2, question.chamber_c), question.probe_c, 0.0, True, np.inf, "computed")
    chambers = targets_for("smoke.cold_chamber")
    verdict = chambers[0].limit.evaluate(air, question.hours_s)
    states = [planned(verdict.state)]
    said, salted = [verdict.sentence], None
    if question.packed:
        facts: dict[Quantity, Measured] = {"nitrite": Measured(value=question.nitrite_ppm)}
        if question.wps_percent is not None:
            facts["salt"] = Measured(value=question.wps_percent, uncertainty=0.1)
        salted = target("wps-packed-fish", Composition).judge(facts)
        states.append(planned(salted.state))
        said.append(salted.sentence)
    return BenchAnswer(
        state=worst_of(states),
        sentence=_cold_words(question, verdict, salted),
        reason=" ".join(said if salted and salted.state != "pass" else said[1:]),
        fixes=(
            "Salt first: water-phase salt in the thickest part before the smoke.",
            "Freeze fish against parasites before it is smoked, and keep Listeria out after.",
            "Keep it at 3 °C or below and use it within days.",
        ),
        figures=(
            Figure(
                name="chamber",
                value=question.chamber_c,
                kind="temperature",
                main=True,
                low=0,
                high=45,
                band_from=0,
                band_to=30,
            ),
            Figure(
                name="wet_surface", value=round(outside, 1), kind="temperature", words="what the wet surface follows"
            ),
            Figure(name="smoke_time", value=question.hours_s, kind="time", show="h"),
            *(
                (
                    Figure(
                        name="water_phase_salt",
                        value=question.wps_percent,
                        kind="percent",
                        show="in its water",
                        low=0,
                        high=8,
                        band_from=3.5,
                        band_to=8,
                    ),
                )
                if question.wps_percent is not None
                else ()
            ),
        ),
        pictures=(_chambers(question, air),),
        schools=tuple(school(e.school, e.limit, e.limit.evaluate(air, question.hours_s)) for e in chambers),
        workings=(
            verdict.working,
            *((salted.working,) if salted else ()),
            _working(question, outside, question.chamber_c),
        ),
        caution="Cold-smoked food is raw food: not for guests at higher risk. Smoking to preserve usually needs "
        "approval.",
    )


def _cold_words(question: SmokeQuestion, chamber: Verdict, salted: Verdict | None) -> str:
    if chamber.state == "pass" and salted is not None and salted.state != "pass":
        known = question.wps_percent
        has = "its water-phase salt is not known" if known is None else f"{known:g} % water-phase salt is not enough"
        return f"Cold-smoked, but not for a pack without air: {has}."
    return f"Cold smoke leaves it raw: {chamber.sentence}"


def _chambers(question: SmokeQuestion, air: Series) -> ScalePicture:
    """The chamber, as surely as the probe knows it, on each school's scale."""
    rows = [
        ScaleRow(
            words=entry.limit.title,
            state=planned(entry.limit.evaluate(air, question.hours_s).state),
            at=question.chamber_c,
            doubt=question.probe_c,
            stretches=(Stretch(low=0, high=entry.limit.value),),
        )
        for entry in targets_for("smoke.cold_chamber")
        if isinstance(entry.limit, Threshold)
    ]
    drawn = scales("chambers", "temperature", rows, bounds=(0.0, max(45.0, question.chamber_c + 5)))
    return drawn.model_copy(update={"pointer": f"the chamber, good to ±{question.probe_c:g} °C"})


def _working(question: SmokeQuestion, outside: float, hottest: float) -> Working:
    return Working(
        title="The wet surface and the core",
        formula="h (Tdry − Twet) = evaporation; then conduction from the surface",
        inputs=(
            Input(name="chamber", value=question.chamber_c, unit="°C"),
            Input(name="humidity", value=question.humidity_percent, unit="%"),
            Input(name="wet bulb", value=round(outside, 1), unit="°C"),
            Input(name="altitude", value=question.altitude_m, unit="m"),
        ),
        result=f"hottest core {hottest:.1f} °C",
        source=Source(citation="ASHRAE Handbook Fundamentals, ch. 1; " + CONDUCTION.citation, tag="published"),
        assumptions=("the surface stays wet" if question.wet else "the surface is dry", "the probe sits in the middle"),
        valid_range="chamber 5 to 200 °C",
    )
