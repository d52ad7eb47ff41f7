"""Pickles: where the jar's pH comes to rest, how much vinegar, how long to the middle, and what heat it then needs."""

import numpy as np

from brinefrost.core.bench.acid_ground import ground, law_ph
from brinefrost.core.bench.acid_question import AcidQuestion
from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Figure,
    Picture,
    SchoolAnswer,
    line,
    planned,
    worst_of,
)
from brinefrost.core.bench.slips import hardly_any
from brinefrost.core.chemistry.acid import ACIDS, titratable_acidity_percent
from brinefrost.core.chemistry.acid_hold import hold_before_eating_s
from brinefrost.core.chemistry.diffusion import Piece, diffusivity_m2_s, share_in_middle, time_to_middle_s
from brinefrost.core.chemistry.jar import (
    DOUBT_PH,
    Jar,
    resting_ph,
    vegetable,
    vinegar_needed_kg,
    vinegar_to_add_kg,
    water_kg,
)
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.food.media import body_of, food, medium
from brinefrost.core.inverse import met_s, steadily
from brinefrost.core.limits import Composition, Lethality, Measured
from brinefrost.core.physics.body import Shape
from brinefrost.core.physics.heating import Heating
from brinefrost.core.rules import target, targets_for
from brinefrost.core.words import duration, grams, num, say, temp
from brinefrost.core.working import Input, Source, Working

MILD_PH = 4.1  # Breidt et al.: the milder process holds up to here; from memory, verify
RESTED_S = 24 * 3600.0  # equilibrium pH is measured on a blended sample after a day or more; 21 CFR 114.90, NCHFP


def answer_acid(question: AcidQuestion) -> BenchAnswer:
    """Balance the jar and judge it.

    Resting pH against the operating limit and the law line, vinegar needed or to add, time to the middle, heat for the
    pack, hold for an unheated one. Raises OutOfRangeError if there is no water in the jar, or a measurement that no
    buffer explains. Valid as a plan: a predicted pH never passes a batch; a measured one does. As
    ``balance``; 21 CFR 114; Breidt et al.
    """
    jar = jar_of(question)
    rest = resting_ph(jar).ph
    limit = _operating(question.target_ph)
    if question.measured_ph is None:
        verdict = limit.judge({"ph": Measured(value=round(rest, 2), uncertainty=DOUBT_PH)}, "computed")
        state: AnswerState = planned(verdict.state)
        said = say("bench.acid.should_rest_at_ph_give_or", rest=num(rest, ".1f"), doubt_ph=num(DOUBT_PH))
    else:
        verdict = limit.judge({"ph": Measured(value=question.measured_ph, uncertainty=question.ph_uncertainty)})
        state = "fail" if verdict.state == "fail" else verdict.state
        said = say("bench.acid.measured_ph", measured_ph=num(question.measured_ph, ".2f"), sentence=verdict.sentence)
        if question.sample == "brine" or question.rested_s < RESTED_S:
            state = "fail" if state == "fail" else "not_measured"
            said = say(
                "bench.acid.ph_of_the_sample_after_is",
                measured_ph=num(question.measured_ph, ".2f"),
                sample=question.sample,
                rested=duration(question.rested_s),
            )
    slip = hardly_any(say("bench.slips.vinegar"), question.vinegar_percent, 0.5) if question.vinegar_kg > 0 else ""
    low_acid = vegetable(question.vegetable)
    needed = vinegar_needed_kg(_one_vinegar(jar), question.target_ph) if jar.vinegar_percent > 0 else None
    return BenchAnswer(
        state=worst_of([state, "ask"]) if slip else state,
        sentence=say("bench.acid.slip_said", slip=slip, said=said),
        reason=(
            low_acid.note
            if question.measured_ph is not None
            else say("bench.acid.sentence_note", sentence=verdict.sentence, note=low_acid.note)
        ),
        fixes=_fixes(question, jar, needed, state),
        figures=_figures(question, jar, rest, needed),
        pictures=_pictures(question, jar, rest),
        schools=_schools(question, rest),
        workings=(_working(question, jar, rest), verdict.working),
        caution=say("bench.acid.the_shelf_needs_equilibrium_ph_heat"),
    )


def jar_of(question: AcidQuestion) -> Jar:
    """The jar with both vinegars as one of their mean strength."""
    vinegar = question.vinegar_kg + question.second_vinegar_kg
    acid = question.vinegar_kg * question.vinegar_percent + question.second_vinegar_kg * question.second_vinegar_percent
    return Jar(
        vegetable=question.vegetable,
        vegetable_kg=question.vegetable_kg,
        vinegar_kg=vinegar,
        vinegar_percent=acid / vinegar if vinegar > 0 else question.vinegar_percent,
        water_kg=question.water_kg,
        salt_kg=question.salt_kg,
        sugar_kg=question.sugar_kg,
        other_acid="" if question.other_acid == "none" else question.other_acid,
        other_acid_kg=question.other_acid_kg,
    )


def _one_vinegar(jar: Jar) -> Jar:
    return jar.model_copy(update={"vinegar_kg": 0.0})


def _operating(target_ph: float) -> Composition:
    """The kitchen's operating limit at its own value, never above the law line."""
    limit = target("ph-4.2", Composition)
    bound = limit.ways[0].bounds[0].model_copy(update={"value": min(target_ph, law_ph())})
    way = limit.ways[0].model_copy(update={"bounds": (bound,)})
    return limit.model_copy(
        update={"ways": (way,), "title": say("bench.acid.equilibrium_ph_at_most", value=num(bound.value))}
    )


def acetic_percent(jar: Jar) -> float:
    """Acetic acid at rest, in all the jar's water [% by mass].

    Valid for any jar with water in it; a mass balance.
    """
    acid = jar.vinegar_kg * jar.vinegar_percent / 100
    return 100 * acid / (water_kg(jar) + acid)


def _fixes(question: AcidQuestion, jar: Jar, needed: float | None, state: AnswerState) -> tuple[str, ...]:
    if state in ("would_meet", "pass", "not_measured"):
        return ()
    strength = say("bench.acid.vinegar_percent_vinegar", vinegar_percent=num(jar.vinegar_percent, ".1f"))
    if question.measured_ph is not None:
        more, shown = vinegar_to_add_kg(jar, question.measured_ph, question.target_ph - question.ph_uncertainty)
        if more is None:
            return (say("bench.acid.no_amount_of_brings_it_there", strength=strength),)
        return (
            say("bench.acid.add_of_let_it_come_to", more=grams(more * 1000, ".0f"), strength=strength),
            say(
                "bench.acid.the_jar_buffers_times_as_much",
                shown=num(shown, ".1f"),
                more=say("bench.acid.is_what_went_in_what_was") if shown > 3 else ".",
            ),
        )
    if needed is None:
        return (say("bench.acid.no_amount_of_brings_it_there", strength=strength),)
    safe = vinegar_needed_kg(_one_vinegar(jar), max(question.target_ph - DOUBT_PH, 2.5))
    if safe is None:
        return (say("bench.acid.of_reach_it_without_a_margin", needed=grams(needed * 1000, ".0f"), strength=strength),)
    return (
        say(
            "bench.acid.take_of_for_a_margin_of",
            safe=grams(safe * 1000, ".0f"),
            strength=strength,
            doubt_ph=num(DOUBT_PH),
        ),
    )


def _piece(question: AcidQuestion) -> Piece:
    return Piece(Shape.slab, question.piece_m, diffusivity_m2_s("acid", question.kept_c))


def _process(question: AcidQuestion, ph: float) -> tuple[Lethality, float | None]:
    """The lethality target for this pH, and the time in the bath that gives it at the jar's centre."""
    limit = acid_pack(ph)
    body = body_of("finite_cylinder", question.jar_diameter_m, question.jar_height_m, 0.1, food("vegetable"))
    heating = Heating(body, medium("bath").h_w_m2k, min(question.fill_c, 60.0) - 5.0, question.process_c)
    return limit, met_s((limit,), steadily(heating))


def _figures(question: AcidQuestion, jar: Jar, rest: float, needed: float | None) -> tuple[Figure, ...]:
    ph = question.measured_ph if question.measured_ph is not None else rest
    found = [
        *_balance(question, jar, rest, needed),
        *_souring(question),
        _hold_figure(ph, acetic_percent(jar), question.kept_c),
    ]
    if ph <= law_ph():
        limit, needed_s = _process(question, ph)
        found.append(
            Figure(
                name="process_time",
                value=needed_s,
                kind="time",
                show="min",
                words=say("bench.acid.in_water", process=temp(question.process_c, "g"), title=limit.title),
                absent=say("bench.acid.never_at_this_temperature"),
            )
        )
    if question.base_ml is not None:
        acidity = titratable_acidity_percent(question.base_ml, question.base_mol_l, question.sample_g * 1000)
        found.append(Figure(name="titratable", kind="percent", show=say("bench.answer.acetic"), value=acidity))
    return tuple(found)


def _balance(question: AcidQuestion, jar: Jar, rest: float, needed: float | None) -> tuple[Figure, ...]:
    """What the jar comes to at rest, and the vinegar that would bring it there."""
    return (
        Figure(
            name="resting_ph",
            value=round(rest, 2),
            kind="ph",
            main=True,
            low=2.5,
            high=7,
            band_from=2.5,
            band_to=question.target_ph,
        ),
        Figure(
            name="acetic_at_rest",
            value=round(acetic_percent(jar), 2),
            kind="percent",
            show=say("bench.answer.acetic"),
            main=True,
        ),
        Figure(
            name="vinegar_needed",
            value=needed,
            kind="mass",
            show="g",
            words=say("bench.acid.of_no_margin", vinegar_percent=num(jar.vinegar_percent, ".1f")),
            absent=say("bench.acid.no_amount_is_enough"),
        ),
    )


def _souring(question: AcidQuestion) -> tuple[Figure, ...]:
    """When the middle of a piece is sour: filled cold, and filled hot."""
    warm_c = min((question.fill_c + question.kept_c) / 2, 95.0)
    hot = Piece(Shape.slab, question.piece_m, diffusivity_m2_s("acid", warm_c))
    return (
        Figure(
            name="middle_sour",
            value=time_to_middle_s(_piece(question), 0.9),
            kind="time",
            show="h",
            words=say("bench.acid.cold_filled_kept_at", kept=temp(question.kept_c, "g")),
        ),
        Figure(
            name="middle_sour_hot",
            value=time_to_middle_s(hot, 0.9),
            kind="time",
            show="h",
            words=say("bench.acid.hot_filled_while_warm"),
        ),
    )


def acid_pack(ph: float | None) -> Lethality:
    """The lethality an acidified pack needs at its pH [-]; the higher one where it is not known.

    Valid up to pH 4.6; Breidt et al., from memory.
    """
    mild = ph is not None and ph <= MILD_PH
    return target("ecoli-acid-4.1" if mild else "ecoli-acid-4.6", Lethality)


def _hold_figure(ph: float, acetic: float, kept_c: float) -> Figure:
    try:
        return Figure(
            name="hold_unheated",
            value=hold_before_eating_s(ph, acetic, kept_c),
            kind="time",
            show="d",
            words=say("bench.acid.before_it_is_eaten_if_not"),
        )
    except OutOfRangeError as error:
        return Figure(
            name="hold_unheated",
            value=None,
            kind="time",
            show="d",
            words=error.sentence,
            absent=say("bench.acid.not_known"),
        )


def _pictures(question: AcidQuestion, jar: Jar, rest: float) -> tuple[Picture, ...]:
    piece, own = _piece(question), vegetable(question.vegetable).ph
    horizon = max(2 * time_to_middle_s(piece, 0.9), 3600.0)
    times = np.concatenate(([0.0], np.geomspace(horizon / 1000, horizon, 120)))
    share = share_in_middle(piece, times)
    path = np.array(
        [
            resting_ph(
                jar.model_copy(update={"vinegar_kg": jar.vinegar_kg * s, "other_acid_kg": jar.other_acid_kg * s})
            ).ph
            for s in np.linspace(0, 1, 21)
        ]
    )
    middle = np.interp(share, np.linspace(0, 1, 21), path)
    salt = 100 * question.salt_kg / (water_kg(jar) + question.salt_kg)
    return (
        CurvePicture(
            title="ph_in_middle",
            x_kind="time",
            y_kind="ph",
            lines=(
                line(say("bench.acid.middle_of_the_piece"), "core", times, middle),
                line(say("bench.acid.at_rest"), "surroundings", times, np.full(len(times), rest)),
            ),
            marks=(
                BenchMark(words=say("bench.acid.law_line", law_ph=num(law_ph())), y=law_ph()),
                BenchMark(
                    words=say("bench.acid.operating_limit", target_ph=num(question.target_ph)), y=question.target_ph
                ),
            ),
            y_low=2.5,
            y_high=max(own + 0.3, 5.0),
        ),
        ground(rest if question.measured_ph is None else question.measured_ph, salt),
    )


def _schools(question: AcidQuestion, rest: float) -> tuple[SchoolAnswer, ...]:
    ph = rest if question.measured_ph is None else question.measured_ph
    doubt = DOUBT_PH if question.measured_ph is None else question.ph_uncertainty
    found = []
    for topic in ("ph.acidified", "ph.raw_egg"):
        for entry in targets_for(topic):
            if isinstance(entry.limit, Composition):
                verdict = entry.limit.judge({"ph": Measured(value=ph, uncertainty=doubt)})
                state = planned(verdict.state) if question.measured_ph is None else verdict.state
                found.append(
                    SchoolAnswer(
                        school=say("bench.acid.school_title", school=entry.school, title=entry.limit.title),
                        state=worst_of([state]),
                        sentence=verdict.sentence,
                    )
                )
    return tuple(found)


def _working(question: AcidQuestion, jar: Jar, rest: float) -> Working:
    veg = vegetable(question.vegetable)
    return Working(
        title=say("bench.acid.resting_ph_2"),
        formula=say("bench.acid.h_b_ph_ph_m_w"),
        inputs=(
            Input(name=say("bench.acid.water_vegetables_included"), value=round(water_kg(jar), 4), unit="kg"),
            Input(name=say("bench.acid.vinegar_mean_strength"), value=round(jar.vinegar_percent, 2), unit="%"),
            Input(name=say("bench.acid.acetic_at_rest_2"), value=round(acetic_percent(jar), 3), unit="%"),
            Input(name=say("bench.acid.own_ph", name=veg.name), value=veg.ph),
            Input(name=say("bench.acid.name_buffer", name=veg.name), value=veg.buffer_mmol_kg, unit="mmol/kg·pH"),
            Input(name=say("bench.acid.pka_acetic"), value=ACIDS["acetic"][0][0]),
        ),
        result=say("bench.acid.ph_rest", rest=num(rest, ".2f")),
        source=Source(citation="Electroneutrality; pKa from the CRC Handbook; Davies (1962)", tag="published"),
        assumptions=(
            say("bench.acid.acid_even_throughout"),
            say("bench.acid.the_vegetables_buffer_as_tabled_high"),
            say(
                "bench.acid.in_the_middle_has_nine_tenths",
                time_to_middle=duration(time_to_middle_s(_piece(question), 0.9)),
            ),
        ),
        valid_range=say("bench.acid.up_to_2_mol_kg_of"),
    )
