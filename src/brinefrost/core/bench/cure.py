"""Nitrite: how much goes in, by every method and rule set, both ways, with the tenfold slip asked about."""

from typing import Literal

from brinefrost.core.bench.answer import (
    AnswerState,
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
from brinefrost.core.chemistry.nitrite import CURES, as_ion_ppm, cure_for_ppm_kg, ingoing_ppm, slip_suspected
from brinefrost.core.fields import field
from brinefrost.core.limits import Composition, Measured, Verdict
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set
from brinefrost.core.working import Document, Input, Source, Working

MethodKey = Literal["dry", "immersion", "equilibrium", "pumped"]
CureKey = Literal["no1", "no2", "eu_0.6", "eu_0.5", "eu_0.4", "pure"]
ProductKey = Literal["comminuted", "whole", "bacon", "dry_cured"]
TOPICS: dict[str, str] = {
    "comminuted": "cure.comminuted",
    "whole": "cure.immersion",
    "bacon": "cure.bacon",
    "dry_cured": "cure.dry",
}
CARRIES_PPM = 120.0  # from here nitrite carries its part of the control of C. botulinum; from memory, verify
LABEL_TOLERANCE = 0.15  # further than this from the named salt's share, the label is asked about


class CureQuestion(Document):
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

    Parameters
    ----------
    question : CureQuestion
        Masses [kg], nitrite in the curing salt [%].

    Returns
    -------
    BenchAnswer
        Ingoing ppm against the rule set's limit and the least that holds botulism back; curing salt for a wanted ppm.

    Raises
    ------
    OutOfRangeError
        If an amount the method needs is missing.

    Notes
    -----
    Valid for ingoing nitrite. Curing usually needs a variance or approved plan before the first batch.

    References
    ----------
    USDA-FSIS Processing Inspectors' Calculations Handbook; each limit carries its own.
    """
    ppm = ingoing_ppm(
        question.method,
        question.cure_kg,
        question.label_percent,
        question.meat_kg,
        question.brine_kg,
        question.uptake_percent,
    )
    limit = _limit(question.rule_set, question.product)
    most = limit.ways[0].bounds[0].value
    verdict = _judged(limit, ppm)
    slip, label = slip_suspected(ppm, most), _label_doubt(question)
    right = cure_for_ppm_kg(
        question.method,
        min(question.wanted_ppm, most),
        question.label_percent,
        question.meat_kg,
        question.brine_kg,
        question.uptake_percent,
    )
    state: AnswerState = worst_of([planned(verdict.state), "ask" if slip or label else "would_meet"])
    asked = [text for text in (slip, label) if text]
    fixes = [f"For {min(question.wanted_ppm, most):.0f} ppm weigh {right * 1000:.1f} g of this curing salt."]
    if verdict.state != "pass":
        fixes.append("Do not use this batch: nitrite cannot be taken out again. Mix with more meat only by a new sum.")
    return BenchAnswer(
        state=state,
        sentence=f"{ppm:.0f} ppm ingoing nitrite, at most {most:.0f} under {question.rule_set.upper()} rules.",
        reason=" ".join(asked) or _least(ppm),
        fixes=tuple(fixes) if state != "would_meet" or abs(ppm - question.wanted_ppm) > 5 else (),
        figures=(
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
                value=right,
                kind="mass",
                show="g",
                main=True,
                words=f"for {min(question.wanted_ppm, most):.0f} ppm",
            ),
            Figure(name="as_ion", value=round(as_ion_ppm(ppm), 1), kind="number", show="ppm NO2⁻"),
            Figure(name="cure_a_kg", value=question.cure_kg / question.meat_kg * 1000, kind="number", show="g on a kg"),
        ),
        pictures=(_picture(question, ppm),),
        tables=(*_methods(question), _tenfold(question)),
        schools=tuple(_schools(question, ppm)),
        workings=(_working(question, ppm), verdict.working),
        caution="A tenfold slip poisons. Read the percentage off the label, weigh on a scale that shows 0.1 g, have a "
        "second person check the sum. Curing usually needs approval before the first batch.",
    )


def _picture(question: CureQuestion, ppm: float) -> ScalePicture:
    """The nitrite on every rule set's scale, up to three times the highest: what is beyond is a slip."""
    limits = [(set_id, _limit(set_id, question.product)) for set_id in RULE_SET_IDS]
    most = max(limit.ways[0].bounds[0].value for _, limit in limits)
    rows = [
        ScaleRow(
            words=set_id.upper(),
            said=f"at most {limit.ways[0].bounds[0].value:g} ppm",
            state=planned(_judged(limit, ppm).state),
            at=ppm,
            stretches=(Stretch(low=0, high=limit.ways[0].bounds[0].value),),
        )
        for set_id, limit in limits
    ]
    end = max(1.5 * most, min(1.1 * ppm, 3 * most))
    carries = ScaleMark(words=f"carries its part from {CARRIES_PPM:g}", x=CARRIES_PPM)
    drawn = scales("nitrite", "number", rows, "ppm", (carries,), (0.0, end))
    return drawn.model_copy(update={"pointer": f"this batch, {ppm:.0f} ppm"})


def _limit(rule_set_id: RuleSetId, product: ProductKey) -> Composition:
    """The limit for a product; a rule set with one limit for all uses that."""
    rules = rule_set(rule_set_id)
    topic = TOPICS[product] if rules.entries_for(TOPICS[product]) else "cure.comminuted"
    return rules.limit_as(topic, Composition)


def _judged(limit: Composition, ppm: float) -> Verdict:
    """Judged in whole ppm, as the limits are stated: 7.1 g in 45.4 kg count as 156."""
    return limit.judge({"nitrite": Measured(value=float(round(ppm)))}, "computed")


def _label_doubt(question: CureQuestion) -> str | None:
    named = CURES[question.cure]
    if abs(question.label_percent / named - 1) <= LABEL_TOLERANCE:
        return None
    return (
        f"This kind of curing salt usually holds {named:g} %, you typed {question.label_percent:g} %. "
        "Read the label again."
    )


def _least(ppm: float) -> str:
    if ppm < CARRIES_PPM:
        return "Below 120 ppm nitrite does not carry the control of C. botulinum: something else must."
    return "120 ppm or more: nitrite can carry its part of the control of C. botulinum."


def _methods(question: CureQuestion) -> tuple[Table, ...]:
    """The same curing salt by each method; nothing where no brine was asked about."""
    if question.method == "dry":
        return ()
    rows = []
    ways: tuple[tuple[MethodKey, str], ...] = (
        ("dry", "on the green mass"),
        ("equilibrium", "on meat and brine at rest"),
        ("immersion", "by brine taken up"),
        ("pumped", "by brine pumped"),
    )
    for method, words in ways:
        if method == "dry" or question.brine_kg > 0:
            ppm = ingoing_ppm(
                method,
                question.cure_kg,
                question.label_percent,
                question.meat_kg,
                question.brine_kg,
                question.uptake_percent,
            )
            rows.append((words, f"{ppm:.0f} ppm"))
    return (Table(title="The same curing salt by each method", head=("Counted", "Ingoing"), rows=tuple(rows)),)


def _tenfold(question: CureQuestion) -> Table:
    rows = []
    for share in (0.6, 6.25, 100.0):
        ppm = ingoing_ppm(
            question.method, question.cure_kg, share, question.meat_kg, question.brine_kg, question.uptake_percent
        )
        rows.append((f"{share:g} % nitrite", f"{ppm:.0f} ppm"))
    return Table(title="If the label says something else", head=("Label", "Ingoing"), rows=tuple(rows))


def _schools(question: CureQuestion, ppm: float) -> list[SchoolAnswer]:
    found = []
    for set_id in RULE_SET_IDS:
        limit = _limit(set_id, question.product)
        verdict = _judged(limit, ppm)
        found.append(
            SchoolAnswer(
                school=f"{set_id.upper()}: {limit.title}", state=planned(verdict.state), sentence=verdict.sentence
            )
        )
    return found


def _working(question: CureQuestion, ppm: float) -> Working:
    formulas = {
        "dry": "ppm = nitrite × 10⁶ / green mass",
        "immersion": "ppm = nitrite × 10⁶ / brine × uptake",
        "equilibrium": "ppm = nitrite × 10⁶ / (meat + brine)",
        "pumped": "ppm = nitrite × 10⁶ / brine × % pump",
    }
    return Working(
        title="Ingoing nitrite",
        formula=formulas[question.method],
        inputs=(
            Input(name="curing salt", value=question.cure_kg * 1000, unit="g"),
            Input(name="nitrite on the label", value=question.label_percent, unit="%"),
            Input(name="nitrite", value=round(question.cure_kg * question.label_percent * 10, 3), unit="g"),
            Input(name="meat, green", value=question.meat_kg, unit="kg"),
            *((Input(name="brine", value=question.brine_kg, unit="kg"),) if question.method != "dry" else ()),
        ),
        result=f"{ppm:.1f} ppm as NaNO2, {as_ion_ppm(ppm):.1f} ppm as the ion",
        source=Source(citation="USDA-FSIS Processing Inspectors' Calculations Handbook (1995)", tag="published"),
        assumptions=("the label's percentage", "mixed or rubbed in evenly"),
    )
