"""Fish served raw or barely cooked: freezing, histamine, the minutes before it is eaten, what guests are told."""

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    BenchMark,
    CurvePicture,
    Dial,
    DialPicture,
    Figure,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    Table,
    line,
    planned,
    worst_of,
)
from brinefrost.core.bench.fish_clocks import (
    DAY_S,
    DRESSED_AT_C,
    FishClock,
    _spans,
    clocks_of,
    cooked,
    freeze_limit,
    frozen,
    series_of,
)
from brinefrost.core.bench.fish_question import FishQuestion
from brinefrost.core.bench.scales import scales
from brinefrost.core.bench.steady import face_to_face
from brinefrost.core.food.media import body_of, food
from brinefrost.core.kitchen.cooked import cook_fix
from brinefrost.core.kitchen.fish import Species, advisory, freezing_need, species, species_of
from brinefrost.core.limits import FreezeOption, Freezing, Hold
from brinefrost.core.physics.body import Shape
from brinefrost.core.physics.freezing import FISH, pham_s
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.modes import profile_theta
from brinefrost.core.rules import RULE_SET_IDS, rule_set, target
from brinefrost.core.words import duration, joined, legal, mm, num, say, temp
from brinefrost.core.working import Input, Source, Working

SEAR_H, SEAR_C = 300.0, 180.0  # a hot pan's contact, common practice, no source
COLD_C, KILLED_C = 4.0, 60.0  # out of the fridge; where Anisakis dies within a minute (EFSA 2010)


def answer_fish(question: FishQuestion) -> BenchAnswer:
    """Whether the fish may be served this way, and what it takes.

    The worst of: freezing needed or the exemption and its paper, every clock over handling and dressing, for cooked
    fish the rule set's own line; the time left; the advisory. Raises OutOfRangeError if a freezer record does not rise
    in time or a number is out of a model's range. Valid as the stricter reading: acid, salt and a seared outside do
    not count as a kill step. FDA Food Code 2022, 3-402.11; Reg. (EC) 853/2004; FDA guidance ch. 5, 7
    and appendix 4; EFSA (2010).
    """
    kind = species_of(question.species)
    need = freezing_need(kind, question.origin, question.rule_set)
    raw = question.dish != "cooked"
    freeze = freeze_limit(question.rule_set)
    record = freeze.evaluate(series_of(question.record), float(question.record[-1].time_s) if question.record else 0.0)
    parts: list[tuple[str, AnswerState, str]] = []
    clocks = clocks_of(question, kind)
    parts += [("histamine" if c.histamine else "clock", planned(c.verdict.state), c.words()) for c in clocks]
    if raw and question.guests == "higher_risk":
        parts.append(("guests", "would_fail", say("bench.fish.nothing_raw_or_barely_cooked_goes")))
    if raw and need.needed:
        parts.append(frozen(record))
    if raw and not need.needed and need.paper:
        parts.append(("paper", "ask", say("bench.fish.exempt_only_with", paper=need.paper)))
    if kind.bivalve and raw:
        parts.append(("bivalve", "ask", say("bench.fish.raw_bivalves_carry_norovirus_and_vibrio")))
    if not raw:
        parts += cooked(question, kind)
    elif question.guests == "general":
        parts.append(("raw", "advisory", say("bench.fish.served_raw_or_barely_cooked_the")))
    state = worst_of([part[1] for part in parts]) if parts else "would_meet"
    standing = [part for part in parts if part[1] not in ("would_meet", "pass", "advisory")]
    return BenchAnswer(
        state=state,
        sentence=_sentence(question, kind, parts, state, record.state),
        reason=joined([need.because if raw else "", *_what_the_dish_does(question), *(p[2] for p in standing)], " "),
        fixes=_fixes(question, kind, {part[0] for part in standing}),
        figures=_figures(question, kind, freeze, clocks),
        pictures=(*_freezings(question, need.needed), *_dials(clocks), *_sear(question)),
        tables=(_list(),),
        schools=tuple(_schools(question, kind)),
        workings=(record.working, *(c.verdict.working for c in clocks), _freezing_working(question)),
        caution=advisory(question.rule_set),
        advisory=advisory(question.rule_set) if state == "advisory" else "",
    )


def _sentence(
    question: FishQuestion, kind: Species, parts: list[tuple[str, AnswerState, str]], state: AnswerState, record: str
) -> str:
    dish = {
        "raw": say("bench.fish.raw"),
        "citrus": say("bench.fish.in_citrus"),
        "seared": say("bench.fish.seared_outside"),
        "cold_smoked": say("bench.fish.cold_smoked"),
        "cooked": say("bench.fish.cooked"),
    }
    name = say("bench.fish.name_dish", name=kind.name, dish=dish[question.dish])
    stops = {part[0] for part in parts if part[1] in ("would_fail", "fail")}
    if "histamine" in stops:
        return say("bench.fish.the_histamine_clock_is_full_discard", name=name)
    if "clock" in stops:
        return say("bench.fish.too_long_out_of_the_cold", name=name)
    if question.guests == "higher_risk" and question.dish != "cooked":
        return say("bench.fish.not_for_guests_at_higher_risk", name=name)
    if "freeze" in stops:
        return say(
            "bench.fish.is_raw_fish",
            name=name,
            more=say("bench.fish.freeze_it_first_or_do_not")
            if record == "not_measured"
            else say("bench.fish.its_freezing_is_not_enough"),
        )
    if question.dish == "seared":
        name += say("bench.fish.raw_inside_treat_it_as_raw")
    said: dict[AnswerState, str] = {
        "ask": say("bench.fish.it_may_be_served_only_with"),
        "advisory": say("bench.fish.only_with_an_advisory_for_general"),
        "not_measured": say("bench.fish.not_measured"),
        "too_close": say("bench.fish.too_close_to_call"),
        "would_meet": say("bench.fish.may_be_served"),
        "pass": say("bench.fish.may_be_served"),
    }
    return say("bench.fish.name_get", name=name, get=said.get(state, say("bench.fish.not_as_it_stands")))


def _what_the_dish_does(question: FishQuestion) -> list[str]:
    if question.dish == "citrus":
        return [say("bench.fish.in_citrus_whitens_the_outside_it", dressing=duration(question.dressing_s))]
    if question.dish == "seared":
        depth = _seared_m(question)
        if depth >= question.thickness_m / 2 * 0.995:
            return [say("bench.fish.a_side_brings_the_middle_to", sear=duration(question.sear_s))]
        return [
            say("bench.fish.a_side_brings_the_outer_to", sear=duration(question.sear_s), depth=mm(depth * 1000, ".1f"))
        ]
    if question.dish == "cold_smoked":
        return [say("bench.fish.cold_smoke_leaves_it_raw")]
    return []


def _seared_m(question: FishQuestion) -> float:
    """How deep 60 °C has come [m], from the field across a slab seared on both faces."""
    heating = Heating(body_of("slab", question.thickness_m, 0.1, 0.1, food("fish")), SEAR_H, COLD_C, SEAR_C)
    places = np.linspace(0, 1, 401)
    biot, fourier = heating.body.biot(SEAR_H), heating.body.fourier_rate() * question.sear_s
    field_c = SEAR_C + (COLD_C - SEAR_C) * profile_theta(0, biot, max(fourier, 1e-3), places)
    hot = places[field_c >= KILLED_C]
    return float((1 - hot[0]) * question.thickness_m / 2) if len(hot) else 0.0


def _fixes(question: FishQuestion, kind: Species, standing: set[str]) -> tuple[str, ...]:
    """What to do about what stands in the way; nothing rescues a full clock."""
    if "histamine" in standing:
        return (say("bench.fish.discard_it_and_tell_the_supplier"),)
    if "clock" in standing:
        return (
            say("bench.fish.discard_it_time_out_of_the"),
            say("bench.fish.next_time_keep_it_at_or"),
        )
    said: list[str] = []
    line_ = rule_set(question.rule_set).limit_for("cook.whole")
    if "guests" in standing:
        said.append(say("bench.fish.cook_it", title=line_.title))
    if "freeze" in standing:
        limit = freeze_limit(question.rule_set)
        said.append(
            say(
                "bench.fish.freeze_it_keep_the_record_90",
                items=joined((option.words() for option in limit.options), ", or "),
            )
        )
        said.append(say("bench.fish.or_buy_it_farmed_on_parasite"))
        said.append(say("bench.fish.or_cook_it", title=line_.title))
    if "core" in standing:
        said.append(cook_fix(target("bivalve-90", Hold) if kind.bivalve else line_))
        if question.core_c is not None and question.core_held_s <= 0:
            said.append(say("bench.fish.one_reading_shows_a_moment_read"))
    if "paper" in standing or "bivalve" in standing:
        said.append(say("bench.fish.get_the_paper_first_without_it"))
    return tuple(said)


def _figures(question: FishQuestion, kind: Species, freeze: Freezing, clocks: list[FishClock]) -> tuple[Figure, ...]:
    found = [
        *_to_freeze(question, freeze.options[0]),
        Figure(
            name="out_of_cold",
            value=sum(duration for _, duration in _spans(question)),
            kind="time",
            show="min",
            words=say("bench.fish.in_all_the_dressing_included"),
        ),
        *_find_left(clocks),
    ]
    if kind.scombroid:
        makes = say("bench.fish.makes_histamine_no_cooking_removes_it")
        found.append(Figure(name="scombroid", value=None, kind="words", words=makes))
    return tuple(found)


def _to_freeze(question: FishQuestion, option: FreezeOption) -> tuple[Figure, ...]:
    """How long this freezer takes to the core, and with the time it must stay there; or that it never does."""
    cold = temp(option.hold_at_c, "g")
    if question.freezer_c >= option.hold_at_c:
        never = say("bench.fish.this_freezer_never_brings_the_core", hold_at=cold)
        name = "freeze_to_core"
        return (Figure(name=name, value=None, kind="time", show="h", main=True, words=never),)
    to_core = _to_core_s(question, option.hold_at_c)
    return (
        Figure(
            name="freeze_to_core",
            value=to_core,
            kind="time",
            show="h",
            main=True,
            words=say("bench.fish.until_the_core_is_at_the", hold_at=cold),
        ),
        Figure(
            name="freeze_in_all",
            value=to_core + option.for_s,
            kind="time",
            show="d",
            main=True,
            words=option.words(),
        ),
    )


def _to_core_s(question: FishQuestion, core_c: float) -> float:
    """Until the core is as cold, out of the fridge into this freezer [s]."""
    return pham_s(FISH, Shape.slab, question.thickness_m, question.freezer_h, COLD_C, core_c, question.freezer_c)


def _find_left(clocks: list[FishClock]) -> tuple[Figure, ...]:
    """What is left out of the cold before the first clock is full; nothing where none runs."""
    left = [each.limit.allowed_s(DRESSED_AT_C, (each.verdict.value or 0.0) / 100) for each in clocks]
    still = [each for each in left if each is not None]
    if not still:
        return ()
    return (
        Figure(
            name="time_left",
            value=min(still),
            kind="time",
            show="min",
            words=say("bench.fish.at_before_the_first_clock_is", dressed_at=legal(DRESSED_AT_C, "g")),
        ),
    )


def _freezings(question: FishQuestion, needed: bool) -> tuple[ScalePicture, ...]:
    """Each way to freeze it in this freezer: until the core is cold enough, hatched, then the days it must stay."""
    if not needed or question.dish == "cooked":
        return ()
    rows = []
    for option in freeze_limit(question.rule_set).options:
        coldest = option.hold_at_c if option.solid_at_c is None else min(option.hold_at_c, option.solid_at_c)
        if question.freezer_c >= coldest:
            rows.append(ScaleRow(words=option.words(), said=say("bench.fish.this_freezer_is_not_cold_enough")))
            continue
        to_core = _to_core_s(question, coldest)
        days = [to_core / DAY_S, (to_core + option.for_s) / DAY_S]
        rows.append(
            ScaleRow(
                words=option.words(),
                said=say("bench.fish.days_in_all", days=num(days[1], ".1f")),
                stretches=(Stretch(low=0, high=days[0], kind="still"), Stretch(low=days[0], high=days[1])),
            )
        )
    if not any(row.stretches for row in rows):
        return ()
    still = say("bench.fish.until_the_core_is_cold_enough")
    return (scales("freezings", "number", rows, "d", bounds=(0.0, None), still=still),)


def _dials(clocks: list[FishClock]) -> tuple[DialPicture, ...]:
    dials = [
        Dial(
            name=each.limit.title,
            used=(each.verdict.value or 0.0) / 100,
            words=each.verdict.working.result,
            state=planned(each.verdict.state),
        )
        for each in clocks
    ]
    return (DialPicture(title="histamine", dials=tuple(dials)),) if dials else ()


def _sear(question: FishQuestion) -> tuple[CurvePicture, ...]:
    """The temperature across the piece when it leaves the pan."""
    if question.dish != "seared":
        return ()
    body = body_of("slab", question.thickness_m, 0.1, 0.1, food("fish"))
    places = np.linspace(0, 1, 101)
    theta = profile_theta(0, body.biot(SEAR_H), max(body.fourier_rate() * question.sear_s, 1e-3), places)
    half = SEAR_C + (COLD_C - SEAR_C) * theta
    depth, whole = face_to_face(question.thickness_m, places, half)
    return (
        CurvePicture(
            title="seared_across",
            x_kind="length",
            y_kind="temperature",
            lines=(line(say("bench.fish.when_it_leaves_the_pan"), "core", depth, whole),),
            marks=(BenchMark(words=legal(KILLED_C, "g"), y=KILLED_C),),
            y_low=0,
        ),
    )


def _list() -> Table:
    yes, no = say("bench.fish.yes"), say("bench.fish.no")
    return Table(
        title=say("bench.fish.species"),
        head=(
            say("bench.fish.fish"),
            "",
            say("bench.fish.parasites"),
            say("bench.fish.makes_histamine"),
            say("bench.fish.exempt_from_freezing"),
        ),
        rows=tuple(
            (each.name, each.latin, yes if each.parasites else no, yes if each.scombroid else no, _exempt(each))
            for each in species().values()
        ),
    )


def _exempt(kind: Species) -> str:
    if kind.tuna:
        return say("bench.fish.thunnus_exempt_us")
    if kind.mollusc:
        return say("bench.fish.mollusc_exempt")
    return say("bench.fish.farmed_with_letter") if kind.farmed else ""


def _schools(question: FishQuestion, kind: Species) -> list[SchoolAnswer]:
    found = []
    for set_id in RULE_SET_IDS:
        need = freezing_need(kind, question.origin, set_id)
        option = freeze_limit(set_id).options[0].words()
        state: AnswerState = "ask" if need.needed or need.paper else "would_meet"
        found.append(
            SchoolAnswer(
                school=set_id.upper(),
                state=state,
                sentence=say("bench.fish.freeze_first", option=option)
                if need.needed
                else say("bench.fish.because_paper", because=need.because, paper=need.paper),
            )
        )
    return found


def _freezing_working(question: FishQuestion) -> Working:
    return Working(
        title=say("bench.fish.freezing_to_the_core"),
        formula=say("bench.fish.t_d_e_h_h_t"),
        inputs=(
            Input(name=say("bench.eggs.thickness"), value=question.thickness_m * 1000, unit="mm"),
            Input(name=say("bench.fish.freezer"), value=question.freezer_c, unit="°C"),
            Input(name="h", value=question.freezer_h, unit="W/m²·K"),
        ),
        result="",
        source=Source(citation="Pham (1986); Singh & Heldman, ch. 7", tag="published"),
        assumptions=(say("bench.fish.one_layer_air_on_both_sides"), say("bench.fish.water_78_frozen_conductivity_1_4")),
        valid_range=say("bench.fish.air_to_within_about_10"),
    )
