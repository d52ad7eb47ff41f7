"""Nitrite: how much goes in, by every method and rule set, both ways, with the tenfold slip asked about."""

from typing import Literal, NamedTuple

from brinefrost.core.bench.answer import (
    BenchAnswer,
    Figure,
    ScaleMark,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    Table,
    planned,
    worst_of,
)
from brinefrost.core.bench.scales import scales
from brinefrost.core.chemistry.nitrite import CURES, NITRATES, as_ion_ppm, cure_for_ppm_kg, ingoing_ppm, slip_suspected
from brinefrost.core.fields import field
from brinefrost.core.kitchen.nitrite import ProductKey, cure_limit, judge_nitrite, nitrite_limit
from brinefrost.core.limits import Verdict
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId
from brinefrost.core.words import Message, grams, joined, num, say
from brinefrost.core.working import Input, Sent, Source, Working

MethodKey = Literal["dry", "immersion", "equilibrium", "pumped"]
CureKey = Literal["no1", "no2", "eu_0.6", "eu_0.5", "eu_0.4", "pure"]
CARRIES_PPM = 120.0  # from here nitrite carries its part of the control of C. botulinum; from memory, verify
LABEL_TOLERANCE = 0.15  # further than this from the named salt's share, the label is asked about


class CureQuestion(Sent):
    """Which curing salt, how much, on what."""

    product: ProductKey = field("choice", "comminuted", main=True)
    method: MethodKey = field("choice", "dry", main=True)
    cure: CureKey = field("choice", "no1", main=True)
    label_percent: float = field("percent", 6.25, 0.1, 100, step=0.05, main=True)
    cure_kg: float = field("mass", 0.012, 0, 50, "g", 0.0005, main=True)
    meat_kg: float = field("mass", 5, 0.05, 5000, "kg", main=True)
    brine_kg: float = field("mass", 4, 0, 5000, "kg", only={"method": ("immersion", "equilibrium", "pumped")})
    uptake_percent: float = field("percent", 10, 0.5, 100, step=0.5, only={"method": ("immersion", "pumped")})
    wanted_ppm: float = field("number", 120, 0, 625, "ppm", step=5, main=True)
    rule_set: RuleSetId = field("choice", "us", main=True)


def answer_cure(question: CureQuestion) -> BenchAnswer:
    """Work out ingoing nitrite and judge it.

    Ingoing ppm against the rule set's limit and the least that holds botulism back; curing salt for a wanted ppm.
    Raises OutOfRangeError if an amount the method needs is missing. Valid for ingoing nitrite. Curing usually needs a
    variance or approved plan before the first batch. USDA-FSIS Processing Inspectors' Calculations
    Handbook; each limit carries its own.
    """
    ppm = _ingoing(question)
    limit = nitrite_limit(question.rule_set, question.product)
    most = limit.ways[0].bounds[0].value
    verdict = judge_nitrite(limit, ppm)
    slip, label, nitrate = slip_suspected(ppm, most), _label_doubt(question), _judge_nitrate(question)
    judged = [verdict, *((nitrate,) if nitrate else ())]
    state = worst_of([*(planned(each.state) for each in judged), "ask" if slip or label else "would_meet"])
    too_much = nitrate is not None and nitrate.state != "pass"
    right = _for_wanted(question, most)
    fixes = [say("bench.cure.take_a_salt_without_nitrate")] if too_much else []
    fixes.append(right.words)
    fixes += [say("bench.cure.do_not_use_this_batch_nitrite")] if verdict.state != "pass" else []
    return BenchAnswer(
        state=state,
        sentence=_sentence(question, too_much and verdict.state == "pass"),
        reason=joined([text for text in (slip, label) if text], " ") or _least(ppm),
        fixes=tuple(fixes) if state != "would_meet" or abs(ppm - question.wanted_ppm) > 5 else (),
        figures=_figures(question, ppm, most, right),
        pictures=(_picture(question, ppm),),
        tables=(*_methods(question), _tenfold(question)),
        schools=tuple(_schools(question, ppm)),
        workings=(_working(question, ppm), *(each.working for each in judged)),
        caution=say("bench.cure.a_tenfold_slip_poisons_read_the"),
    )


def _sentence(question: CureQuestion, of_nitrate: bool) -> str:
    """What goes in and the most of it, of the salt that decides."""
    limit = cure_limit(question.rule_set, question.product, "nitrate" if of_nitrate else "nitrite")
    most, upper = num(limit.ways[0].bounds[0].value if limit else 0.0, ".0f"), question.rule_set.upper()
    if of_nitrate:
        ppm = num(_nitrate_ppm(question), ".0f")
        return say("bench.cure.ppm_ingoing_nitrate_at_most_under", ppm=ppm, most=most, upper=upper)
    ppm = num(_ingoing(question), ".0f")
    return say("bench.cure.ppm_ingoing_nitrite_at_most_under", ppm=ppm, most=most, upper=upper)


def _nitrate_ppm(question: CureQuestion) -> float:
    """Ingoing nitrate [ppm], by what such a curing salt usually has of it; 0 where it has none."""
    share = NITRATES.get(question.cure)
    return _ingoing(question, label_percent=share) if share else 0.0


def _judge_nitrate(question: CureQuestion) -> Verdict | None:
    """Its nitrate by the rule set; None where it brings none, or no line is about it."""
    limit, ppm = cure_limit(question.rule_set, question.product, "nitrate"), _nitrate_ppm(question)
    return judge_nitrite(limit, ppm, "nitrate") if limit and ppm else None


def _ingoing(question: CureQuestion, method: MethodKey | None = None, label_percent: float | None = None) -> float:
    """Ingoing nitrite [ppm], by another method or another label where one is given."""
    return ingoing_ppm(
        method or question.method,
        question.cure_kg,
        label_percent or question.label_percent,
        question.meat_kg,
        question.brine_kg,
        question.uptake_percent,
    )


class Right(NamedTuple):
    """The curing salt for what is wanted, at most for what is allowed."""

    ppm: float
    cure_kg: float
    words: Message


def _for_wanted(question: CureQuestion, most: float) -> Right:
    ppm = min(question.wanted_ppm, most)
    cure_kg = cure_for_ppm_kg(
        question.method,
        ppm,
        question.label_percent,
        question.meat_kg,
        question.brine_kg,
        question.uptake_percent,
    )
    weigh = say(
        "bench.cure.for_ppm_weigh_of_this_curing", wanted_ppm=num(ppm, ".0f"), right=grams(cure_kg * 1000, ".1f")
    )
    return Right(ppm, cure_kg, weigh)


def _figures(question: CureQuestion, ppm: float, most: float, right: Right) -> tuple[Figure, ...]:
    return (
        Figure(
            name="ingoing",
            value=round(ppm, 1),
            kind="number",
            show="ppm NaNO2",
            main=True,
            low=0,
            high=max(1.6 * most, min(ppm * 1.1, 5 * most)),
            band_from=min(CARRIES_PPM, most),
            band_to=most,
        ),
        Figure(
            name="cure_for_wanted",
            value=right.cure_kg,
            kind="mass",
            show="g",
            main=True,
            words=say("bench.cure.for_ppm", wanted_ppm=num(right.ppm, ".0f")),
        ),
        Figure(name="as_ion", value=round(as_ion_ppm(ppm), 1), kind="number", show="ppm NO2⁻"),
        *(
            (Figure(name="nitrate", value=round(nitrate, 1), kind="number", show="ppm NaNO3"),)
            if (nitrate := _nitrate_ppm(question))
            else ()
        ),
        Figure(
            name="cure_a_kg",
            value=question.cure_kg / question.meat_kg * 1000,
            kind="per_mass",
        ),
    )


def _picture(question: CureQuestion, ppm: float) -> ScalePicture:
    """The nitrite on every rule set's scale, up to three times the highest: what is beyond is a slip."""
    limits = [(set_id, nitrite_limit(set_id, question.product)) for set_id in RULE_SET_IDS]
    most = max(limit.ways[0].bounds[0].value for _, limit in limits)
    rows = [
        ScaleRow(
            words=set_id.upper(),
            said=say("bench.cure.at_most_ppm", value=num(limit.ways[0].bounds[0].value)),
            state=planned(judge_nitrite(limit, ppm).state),
            at=ppm,
            stretches=(Stretch(low=0, high=limit.ways[0].bounds[0].value),),
        )
        for set_id, limit in limits
    ]
    end = max(1.5 * most, min(1.1 * ppm, 3 * most))
    carries = ScaleMark(words=say("bench.cure.carries_its_part_from", carries_ppm=num(CARRIES_PPM)), x=CARRIES_PPM)
    pointer = say("bench.cure.this_batch_ppm", ppm=num(ppm, ".0f"))
    return scales("nitrite", "number", rows, "ppm", (carries,), (0.0, end), pointer=pointer)


def _label_doubt(question: CureQuestion) -> str | None:
    named = CURES[question.cure]
    if abs(question.label_percent / named - 1) <= LABEL_TOLERANCE:
        return None
    return say(
        "bench.cure.this_kind_of_curing_salt_usually", named=num(named), label_percent=num(question.label_percent)
    )


def _least(ppm: float) -> str:
    if ppm < CARRIES_PPM:
        return say("bench.cure.below_120_ppm_nitrite_does_not")
    return say("bench.cure.120_ppm_or_more_nitrite_can")


def _methods(question: CureQuestion) -> tuple[Table, ...]:
    """The same curing salt by each method; nothing where no brine was asked about."""
    if question.method == "dry":
        return ()
    rows = []
    ways: tuple[tuple[MethodKey, str], ...] = (
        ("dry", say("bench.cure.on_the_green_mass")),
        ("equilibrium", say("bench.cure.on_meat_and_brine_at_rest")),
        ("immersion", say("bench.cure.by_brine_taken_up")),
        ("pumped", say("bench.cure.by_brine_pumped")),
    )
    for method, words in ways:
        if method == "dry" or question.brine_kg > 0:
            rows.append((words, say("bench.cure.ppm_ppm", ppm=num(_ingoing(question, method), ".0f"))))
    head = (say("bench.cure.counted"), say("bench.cure.ingoing_2"))
    return (Table(title=say("bench.cure.the_same_curing_salt_by_each"), head=head, rows=tuple(rows)),)


def _tenfold(question: CureQuestion) -> Table:
    rows = []
    for share in (0.6, 6.25, 100.0):
        ppm = _ingoing(question, label_percent=share)
        rows.append((say("bench.cure.share_nitrite", share=num(share)), say("bench.cure.ppm_ppm", ppm=num(ppm, ".0f"))))
    head = (say("bench.cure.label"), say("bench.cure.ingoing_2"))
    return Table(title=say("bench.cure.if_the_label_says_something_else"), head=head, rows=tuple(rows))


def _schools(question: CureQuestion, ppm: float) -> list[SchoolAnswer]:
    found = []
    for set_id in RULE_SET_IDS:
        limit = nitrite_limit(set_id, question.product)
        verdict = judge_nitrite(limit, ppm)
        found.append(
            SchoolAnswer(
                school=say("bench.cure.upper_title", upper=set_id.upper(), title=limit.title),
                state=planned(verdict.state),
                sentence=verdict.sentence,
            )
        )
    return found


def _working(question: CureQuestion, ppm: float) -> Working:
    formulas = {
        "dry": say("bench.cure.ppm_nitrite_10_green_mass"),
        "immersion": say("bench.cure.ppm_by_uptake"),
        "equilibrium": say("bench.cure.ppm_at_rest"),
        "pumped": say("bench.cure.ppm_by_pump"),
    }
    return Working(
        title=say("bench.cure.ingoing_nitrite"),
        formula=formulas[question.method],
        inputs=(
            Input(name=say("bench.cure.curing_salt"), value=question.cure_kg * 1000, unit="g"),
            Input(name=say("bench.cure.nitrite_on_the_label"), value=question.label_percent, unit="%"),
            Input(
                name=say("bench.cure.nitrite"), value=round(question.cure_kg * question.label_percent * 10, 3), unit="g"
            ),
            Input(name=say("bench.cure.meat_green"), value=question.meat_kg, unit="kg"),
            *(
                (Input(name=say("bench.cure.brine"), value=question.brine_kg, unit="kg"),)
                if question.method != "dry"
                else ()
            ),
        ),
        result=say("bench.cure.ppm_as_nano2_ppm_as_the", ppm=num(ppm, ".1f"), as_ion_ppm=num(as_ion_ppm(ppm), ".1f")),
        source=Source(citation="USDA-FSIS Processing Inspectors' Calculations Handbook (1995)", tag="published"),
        assumptions=(say("bench.cure.the_labels_percentage"), say("bench.cure.mixed_or_rubbed_in_evenly")),
    )
