"""What was measured, and what came of it: limits, curve, readings, logger files, deviations."""

from typing import Any, cast

from reportlab.lib.units import mm
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    Spacer,
)

from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.readings import reading_said
from brinefrost.core.words import apart, diff, duration, joined, raised, say
from brinefrost.reports.curve import curve_drawing
from brinefrost.reports.paper import WORDS, shape, table, time_of, when, words
from brinefrost.reports.plan_part import cited
from brinefrost.services.rows import DeviationView, ReadingView, TraceView
from brinefrost.services.views import BatchView

LATE_S = 900.0  # written down more than this after it was taken counts as entered late; common practice, no source


def limits_part(view: BatchView) -> list[Flowable]:
    """How each limit stands, and by how much."""
    rows: list[list[Any]] = [
        [
            words(text, "quiet")
            for text in (
                "",
                say("paper.words.step"),
                say("paper.record_pdf.critical_limit"),
                say("paper.words.judgement"),
                say("paper.words.source"),
            )
        ]
    ]
    for status in view.limits:
        state = status.verdict.state
        rows.append(
            [
                shape(state),
                words(status.step_name, "bold"),
                words(status.limit.title),
                words(
                    say(
                        "paper.record_pdf.capitalize_sentence",
                        capitalize=raised(WORDS[state]),
                        sentence=status.verdict.sentence,
                    )
                ),
                words(cited(status.limit.source.citation), "quiet"),
            ]
        )
    return [
        words(say("paper.record_pdf.critical_limits"), "head"),
        table(rows, [6 * mm, 20 * mm, 40 * mm, 60 * mm, None]),
    ]


def curve_part(view: BatchView, zone: str) -> list[Flowable]:
    """The curve, where there is one."""
    drawing = curve_drawing(view, zone)
    if drawing is None:
        return []
    key = say("paper.record_pdf.heavy_line_core_thin_line_bath")
    return [KeepTogether([words(say("paper.record_pdf.curve_as_measured"), "head"), drawing, words(key, "quiet")])]


def readings_part(view: BatchView, zone: str) -> list[Flowable]:
    """Every reading, with who took it, with what and when."""
    head = (
        say("paper.words.taken"),
        say("paper.words.step"),
        say("paper.words.what"),
        say("paper.words.reading"),
        say("paper.words.instrument"),
        say("paper.words.by"),
        say("paper.record_pdf.written_down"),
    )
    rows: list[list[Any]] = [[words(text, "quiet") for text in head]]
    rows += [_reading(r, zone) for r in view.readings]
    if len(rows) == 1:
        return [words(say("paper.words.readings"), "head"), words(say("paper.record_pdf.none_by_hand"))]
    widths = [27 * mm, 17 * mm, 22 * mm, 28 * mm, 29 * mm, 25 * mm, None]
    return [words(say("paper.record_pdf.readings_by_hand"), "head"), table(rows, widths, repeat=1)]


def _reading(r: ReadingView, zone: str) -> list[Flowable]:
    quantity = cast(ReadingQuantity, r.quantity)
    value = say(
        "paper.record_pdf.value_unit_more",
        value=reading_said(quantity, r.value, r.unit, "g"),
        more=say("paper.record_pdf.typed_typed", typed=r.typed) if "°F" in r.typed else "",
    )
    marks = [
        say("paper.record_pdf.corrects_corrects", corrects=r.corrects[:6]) if r.corrects else "",
        say("paper.record_pdf.no_replaced", reading=r.reading[:6]) if r.corrected_by else "",
        say("paper.csv.confirmed") if r.confirmed else "",
        r.note,
    ]
    late = r.entered_late_s > LATE_S
    written = time_of(r.recorded_at, zone)
    if late:
        written += say("paper.record_pdf.entered_late_late", entered_late=duration(r.entered_late_s))
    return [
        words(when(r.taken_at, zone)),
        words(r.step_name),
        words(QUANTITIES[quantity].noun),
        words(joined([value, *marks])),
        words(_read_with(r)),
        words(r.by),
        words(written),
    ]


def _read_with(r: ReadingView) -> str:
    if r.uncertainty <= 0:
        return r.instrument
    return say(
        "paper.record_pdf.instrument_uncertainty_unit",
        instrument=r.instrument,
        uncertainty=apart(r.uncertainty, r.unit, "g"),
    )


def traces_part(view: BatchView, zone: str) -> list[Flowable]:
    """Every logger file, and how it was read."""
    found: list[Flowable] = []
    for trace in view.traces:
        found += _trace(trace, zone)
    return [words(say("paper.record_pdf.logger_files"), "head"), *found] if found else []


def _trace(trace: TraceView, zone: str) -> list[Flowable]:
    shift = (
        say("paper.record_pdf.clock_moved_by", shift=duration(abs(trace.shift_s)), shift_reason=trace.shift_reason)
        if trace.shift_s
        else ""
    )
    return [
        words(
            say(
                "paper.record_pdf.to_attached_by",
                step_name=trace.step_name,
                filename=trace.filename,
                instrument=trace.instrument,
                uncertainty=diff(trace.uncertainty, "g"),
                when=when(trace.first_at, zone),
                when2=when(trace.last_at, zone),
                shift=shift,
                by=trace.by,
            ),
            "bold",
        ),
        words(
            say(
                "paper.record_pdf.channels_channels_value",
                channels=joined(trace.channels),
                value=joined((*trace.assumptions, *trace.notes), " "),
            ),
            "quiet",
        ),
        words(say("paper.record_pdf.sha_256_of_the_file", sha256=trace.sha256), "quiet"),
        *(
            [words(say("paper.record_pdf.asked_about_and_attached_all_the", asked=trace.asked), "bold")]
            if trace.asked
            else []
        ),
        *([words(_taken_back(trace), "bold")] if trace.withdrawn else []),
        Spacer(1, 3),
    ]


def _taken_back(trace: TraceView) -> str:
    return say("paper.record_pdf.trace_was_withdrawn", by=trace.withdrawn_by, reason=trace.withdrawn)


def deviations_part(view: BatchView, zone: str) -> list[Flowable]:
    """What went wrong, what was done, and who decided."""
    if not view.deviations:
        return [words(say("paper.words.deviations"), "head"), words(say("paper.words.none"))]
    found: list[Flowable] = [words(say("paper.words.deviations"), "head")]
    for deviation in view.deviations:
        found += _deviation(deviation, zone)
    return found


def _deviation(deviation: DeviationView, zone: str) -> list[Flowable]:
    opened = say(
        "paper.record_pdf.deviation_when_cause_sentence",
        deviation=deviation.deviation,
        when=when(deviation.opened_at, zone),
        cause=say(f"paper.cause.{deviation.cause}"),
        sentence=deviation.sentence,
    )
    done = [
        say("paper.record_pdf.action_when_by_action", when=when(each.at, zone), by=each.by, action=each.action)
        for each in deviation.actions
    ]
    stands = say("paper.record_pdf.as_it_stands", standing=deviation.standing)
    decided = words(_tell_decision(deviation, zone))
    return [words(opened, "bold"), *(words(each) for each in done), words(stands), decided, Spacer(1, 5)]


def _tell_decision(deviation: DeviationView, zone: str) -> str:
    if deviation.withdrawn:
        return say("paper.record_pdf.closed_by_itself", sentence=deviation.withdrawn)
    if not deviation.decision or not deviation.decided_at:
        return say("paper.record_pdf.decision_none_yet")
    signed = say(
        "paper.record_pdf.decided_by_when",
        decided_by=deviation.decided_by,
        when=when(deviation.decided_at, zone),
    )
    return say(
        "paper.record_pdf.decision_decision_signed_reason",
        decision=say(f"paper.decision.{deviation.decision}"),
        signed=signed,
        reason=deviation.reason,
    )
