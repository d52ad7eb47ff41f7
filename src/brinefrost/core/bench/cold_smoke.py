"""Smoking cold: nothing is cooked, so salt, cold and the clock have to do it."""

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    Figure,
    ScalePicture,
    ScaleRow,
    Stretch,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.scales import scales
from brinefrost.core.bench.smoke_question import SmokeQuestion
from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.limits import Composition, Limit, Measured, Quantity, Series, Threshold, Verdict, exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.body import Array
from brinefrost.core.rules import target, targets_for
from brinefrost.core.words import diff, duration, joined, legal, num, say, temp

STILL_COLD_C, COOL_C = 30.0, 10.0


FISH_CLOCKS = ("listeria", "v_parahaemolyticus")


MEAT_CLOCKS = ("salmonella", "e_coli", "listeria", "s_aureus")


CURED_CLOCKS = ("s_aureus",)


CURED_SALT, CURED_NITRITE = 3.0, 100.0  # in its water; ingoing: what holds meat through a smoke; FDA and FSIS guidance


PACK_FIX = say("bench.smoke.for_a_pack_without_air_3")


def answer_cold_smoke(question: SmokeQuestion) -> BenchAnswer:
    """The chamber, its hours, and what salt and cure leave able to grow meanwhile."""
    times: Array = np.array([0.0, question.hours_s])
    air = Series.computed(times, np.full(2, question.chamber_c), question.probe_c)
    flesh = Series.computed(times, np.full(2, question.chamber_c))
    chambers = targets_for("smoke.cold_chamber")
    verdict = chambers[0].limit.evaluate(air, question.hours_s)
    parts: list[tuple[Limit, Verdict]] = [(chambers[0].limit, verdict)]
    for limit in _cold_clocks(question):
        parts.append((limit, limit.evaluate(flesh, question.hours_s)))
    salted = _packed(question)
    state = _state(question, parts, salted)
    standing: list[str] = [
        say("bench.fish.title_sentence", title=limit.title, sentence=v.sentence)
        for limit, v in parts
        if v.state != "pass"
    ]
    standing += [salted.sentence] if salted and salted.state != "pass" else []
    return BenchAnswer(
        state=state,
        sentence=_cold_words(question, parts, salted, state),
        reason=joined(standing, " "),
        fixes=_cold_fixes(question, parts, salted),
        figures=_figures(question),
        pictures=(_chambers(question, air),),
        schools=tuple(school(e.school, e.limit, e.limit.evaluate(air, question.hours_s)) for e in chambers),
        workings=(*(v.working for _, v in parts), *((salted.working,) if salted else ())),
        caution=say("bench.smoke.cold_smoked_food_is_raw_food"),
        advisory=advisory(question.rule_set) if state == "advisory" else "",
    )


def _state(question: SmokeQuestion, parts: list[tuple[Limit, Verdict]], salted: Verdict | None) -> AnswerState:
    """Cold-smoked food is raw food: at best it is served with an advisory."""
    states = [planned(v.state) for _, v in parts] + ([planned(salted.state)] if salted else [])
    if question.wps_percent is None and _judge_unsalted(question) is False:
        states.append("not_measured")
    state = worst_of(states)
    if state != "would_meet":
        return state
    return "would_fail" if question.guests == "higher_risk" else "advisory"


def _figures(question: SmokeQuestion) -> tuple[Figure, ...]:
    found = [
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
        Figure(name="smoke_time", value=question.hours_s, kind="time", show="h", main=True),
    ]
    if question.wps_percent is not None:
        found.append(
            Figure(
                name="water_phase_salt",
                value=question.wps_percent,
                kind="percent",
                show=say("bench.answer.in_its_water"),
                low=0,
                high=8,
                band_from=3.5,
                band_to=8,
            )
        )
    return tuple(found)


def _judge_unsalted(question: SmokeQuestion) -> bool | None:
    """Whether too little salt is in it to hold it through the smoke; None where its salt is not known."""
    if question.wps_percent is None:
        return None
    meat = question.animal != "fish"
    return question.wps_percent < CURED_SALT or (meat and question.nitrite_ppm < CURED_NITRITE)


def _cold_clocks(question: SmokeQuestion) -> list[Limit]:
    """Which clocks run in the chamber: raw food's where salt and cure do not hold it, else those of the cured."""
    unsalted = _judge_unsalted(question) is not False
    fish = question.animal == "fish"
    found: list[Limit] = [targets_for("smoke.cold_hours")[0].limit] if fish else []
    keys = (FISH_CLOCKS if fish else MEAT_CLOCKS) if unsalted else (() if fish else CURED_CLOCKS)
    return [*found, *(exposure_of(organism(key)) for key in keys)]


def _packed(question: SmokeQuestion) -> Verdict | None:
    if not question.packed:
        return None
    facts: dict[Quantity, Measured] = {"nitrite": Measured(value=question.nitrite_ppm)}
    if question.wps_percent is not None:
        facts["salt"] = Measured(value=question.wps_percent, uncertainty=0.1)
    return target("wps-packed-fish", Composition).judge(facts)


def _cold_words(
    question: SmokeQuestion, parts: list[tuple[Limit, Verdict]], salted: Verdict | None, state: AnswerState
) -> str:
    full = next(((limit, v) for limit, v in parts[1:] if v.state == "fail"), None)
    if parts[0][1].state != "pass":
        return say("bench.smoke.cold_smoke_leaves_it_raw", sentence=parts[0][1].sentence)
    if full is not None and _judge_unsalted(question):
        animal = question.animal.replace("_", " ")
        return say(
            "bench.smoke.at_is_too_long_for_so",
            hours=duration(question.hours_s),
            chamber=temp(question.chamber_c, "g"),
            animal=animal,
        )
    if full is not None:
        return say(
            "bench.smoke.at_is_too_long",
            hours=duration(question.hours_s),
            chamber=temp(question.chamber_c, "g"),
            title=full[0].title,
        )
    if salted is not None and salted.state != "pass":
        known = question.wps_percent
        has = (
            say("bench.smoke.its_water_phase_salt_is_not")
            if known is None
            else say("bench.smoke.water_phase_salt_is_not_enough", known=num(known))
        )
        return say("bench.smoke.cold_smoked_but_not_for_a", has=has)
    if state == "not_measured":
        return say("bench.smoke.cold_smoke_leaves_it_raw_and")
    if question.guests == "higher_risk":
        return say("bench.smoke.cold_smoke_leaves_it_raw_not")
    return say("bench.smoke.cold_smoke_leaves_it_raw_only")


def _cold_fixes(question: SmokeQuestion, parts: list[tuple[Limit, Verdict]], salted: Verdict | None) -> tuple[str, ...]:
    said = []
    if parts[0][1].state != "pass":
        said.append(say("bench.smoke.keep_the_chamber_at_or_below", still_cold=legal(STILL_COLD_C, "g")))
    if any(v.state != "pass" for _, v in parts[1:]):
        said.append(say("bench.smoke.smoke_it_colder_at_or_below", cool=legal(COOL_C, "g")))
        if _judge_unsalted(question) is not False:
            said.append(say("bench.smoke.salt_first_3_or_more_in"))
    if salted is not None and salted.state != "pass":
        said.append(PACK_FIX)
    if question.animal == "fish" and said:
        said.append(say("bench.smoke.freeze_fish_against_parasites_before_it"))
    return tuple(said)


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
    pointer = say("bench.smoke.the_chamber_good_to", probe=diff(question.probe_c, "g"))
    return scales("chambers", "temperature", rows, bounds=(0.0, max(45.0, question.chamber_c + 5)), pointer=pointer)
