"""Measuring: a reading against its limit and uncertainty; the checks of instruments are in ``kit_checks``."""

from dataclasses import dataclass

from brinefrost.core.bench.answer import (
    BenchAnswer,
    Figure,
    ScaleMark,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    measured,
)
from brinefrost.core.bench.kit_checks import answer_electrode, answer_thermometer
from brinefrost.core.bench.kit_question import READINGS, KitQuestion
from brinefrost.core.bench.scales import scales
from brinefrost.core.fields import Kind
from brinefrost.core.limits import Series, Threshold, Verdict
from brinefrost.core.words import amount, apart, bound, say
from brinefrost.core.working import Source

JCGM = Source(citation="JCGM 106:2012, 8.3: guarded acceptance", tag="published")


def answer_kit(question: KitQuestion) -> BenchAnswer:
    """Judge a reading, a thermometer or an electrode.

    Pass, too close to call, or fail, with the guard band shown. Raises OutOfRangeError if buffers or altitude lie
    outside the models. Valid for an expanded uncertainty with k = 2. JCGM 106:2012; ISO 2533;
    Nernst.
    """
    if question.what in READINGS:
        return _reading(question, _read(question))
    return answer_thermometer(question) if question.what == "thermometer" else answer_electrode(question)


@dataclass(frozen=True)
class Read:
    """What was read against what, and how surely, in one unit."""

    value: float
    limit: float
    uncertainty: float
    unit: str
    kind: Kind
    doubt_kind: Kind


def _read(question: KitQuestion) -> Read:
    if question.what == "temperature":
        return Read(question.reading_c, question.limit_c, question.uncertainty_c, "°C", "temperature", "difference")
    return Read(question.reading, question.limit, question.uncertainty, question.unit, "number", "number")


def _reading(question: KitQuestion, read: Read) -> BenchAnswer:
    sign = "≥" if question.comparison == "at_least" else "≤"
    title = say("bench.kit.reading_sign_limit", sign=sign, limit=bound(read.limit, read.unit, "g"))
    limit = Threshold(
        id="bench", title=title, source=JCGM, comparison=question.comparison, value=read.limit, unit=read.unit
    )
    verdict = limit.evaluate(Series.of(read.value, read.uncertainty), 0.0)
    reach = max(4 * read.uncertainty, abs(read.value - read.limit) * 1.5, 0.1)
    span = (read.limit - reach, read.limit + reach)
    rules = _decision_rules(read, limit, verdict)
    return BenchAnswer(
        state=measured(verdict.state),
        sentence=verdict.sentence,
        fixes=verdict.advice,
        figures=_figures(question, read, verdict, span),
        pictures=(_scales(question, read, rules, span),),
        schools=tuple(rules),
        workings=(verdict.working,),
        caution=say("bench.kit.a_better_instrument_makes_the_band"),
    )


def _figures(question: KitQuestion, read: Read, verdict: Verdict, span: tuple[float, float]) -> tuple[Figure, ...]:
    """What was read, from where on it surely passes, and how far it is from the limit."""
    upward = question.comparison == "at_least"
    guard = read.limit + read.uncertainty * (1 if upward else -1)
    band = (guard, span[1]) if upward else (span[0], guard)
    return (
        Figure(
            name="reading",
            value=read.value,
            kind=read.kind,
            show=read.unit,
            main=True,
            low=span[0],
            high=span[1],
            band_from=band[0],
            band_to=band[1],
            words=say("bench.kit.good_to", uncertainty=apart(read.uncertainty, read.unit, "g")),
        ),
        Figure(
            name="guarded_limit",
            value=round(guard, 3),
            kind=read.kind,
            show=read.unit,
            main=True,
            words=say("bench.kit.from_here_on_it_surely_passes")
            if upward
            else say("bench.kit.up_to_here_it_surely_passes"),
        ),
        Figure(name="margin", value=round(verdict.margin or 0.0, 3), kind=read.doubt_kind, show=read.unit),
    )


def _scales(question: KitQuestion, read: Read, rules: list[SchoolAnswer], span: tuple[float, float]) -> ScalePicture:
    """The reading with its doubt, on the scale of each decision rule: where that rule passes."""
    upward = question.comparison == "at_least"
    rows = []
    for rule, share in zip(rules, (1, 0, -1), strict=True):
        edge = read.limit + read.uncertainty * (share if upward else -share)
        rows.append(
            ScaleRow(
                words=rule.school,
                said=say("bench.kit.passes_from", edge=amount(edge, read.unit, "g"))
                if upward
                else say("bench.kit.passes_up_to", edge=amount(edge, read.unit, "g")),
                state=rule.state,
                at=read.value,
                doubt=read.uncertainty,
                stretches=(Stretch(low=edge, high=span[1]) if upward else Stretch(low=span[0], high=edge),),
            )
        )
    mark = ScaleMark(words=say("bench.kit.limit_limit", limit=bound(read.limit, read.unit, "g")), x=read.limit)
    pointer = say("bench.kit.the_reading_good_to", uncertainty=apart(read.uncertainty, read.unit, "g"))
    return scales("decision_rules", read.kind, rows, read.unit, (mark,), span, pointer=pointer)


def _decision_rules(read: Read, limit: Threshold, guarded: Verdict) -> list[SchoolAnswer]:
    """The rule taken here, and the two others of JCGM 106, from the strictest on."""
    plain = limit.evaluate(Series.of(read.value, 0.0), 0.0)
    return [
        SchoolAnswer(
            school=say("bench.kit.guarded_acceptance_as_here"),
            state=measured(guarded.state),
            sentence=say("bench.kit.passes_only_when_it_surely_passes"),
        ),
        SchoolAnswer(
            school=say("bench.kit.simple_acceptance_no_guard_band"),
            state=measured(plain.state),
            sentence=plain.sentence,
        ),
        SchoolAnswer(
            school=say("bench.kit.guarded_rejection_the_lenient_side"),
            state="fail" if guarded.state == "fail" else "pass",
            sentence=say("bench.kit.fails_only_when_it_surely_fails"),
        ),
    ]
