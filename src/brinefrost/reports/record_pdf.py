"""The record of a batch as PDF: plan, limits, curve, readings, deviations, decision, signatures."""

import io
from datetime import datetime
from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    NextPageTemplate,
    PageBreak,
    Spacer,
)

from brinefrost.core.plans.parts import named_with_entry
from brinefrost.core.words import height, joined, kg, say
from brinefrost.reports.evidence_part import curve_part, deviations_part, limits_part, readings_part, traces_part
from brinefrost.reports.family_part import family_rows
from brinefrost.reports.pages import lay_pages
from brinefrost.reports.paper import styles, table, when, words
from brinefrost.reports.plan_part import missed_part, plan_part, steps_rows
from brinefrost.reports.probes_part import probes_part, validated_part
from brinefrost.reports.sheet_page import sheet_pages
from brinefrost.reports.workings_part import workings_part
from brinefrost.services.ledgers import Printed
from brinefrost.services.planning import Version
from brinefrost.services.views import BatchView, ClosedView
from brinefrost.store.ledger import Head
from brinefrost.store.shelves import SiteInfo


def record_pdf(paper: Printed, now: datetime) -> bytes:
    """The whole record as a PDF file [bytes]."""
    view, signed, zone = paper.view, paper.signed, paper.site.zone
    styles()
    out = io.BytesIO()
    pages = sheet_pages(view, paper.sheet)
    parts = [
        *pages,
        NextPageTemplate("page"),
        *([PageBreak()] if pages else []),
        *_head(view, signed, paper.site),
        *_steps(view, zone),
        *validated_part(view),
        *limits_part(view),
        *curve_part(view, zone),
        *readings_part(view, zone),
        *probes_part(view, zone),
        *traces_part(view, zone),
        *missed_part(view, zone),
        *deviations_part(view, zone),
        *signatures_part(view, signed, zone),
        *_kit(paper, zone),
        *plan_part(view.plan, signed.signed_by),
        *workings_part(view.limits),
        *chain_part(paper.head),
    ]
    site = paper.site
    title = say("paper.record_pdf.code_plan_name", code_=view.code, plan_name=view.plan_name)
    printed = say("paper.record_pdf.site_code_printed_when", site=site.name, code_=view.code, when=when(now, zone))
    lay_pages(out, title, site.name, printed, len(pages)).build(parts)
    return out.getvalue()


def _head(view: BatchView, signed: Version, place: SiteInfo) -> list[Flowable]:
    kitchen = say(
        "paper.record_pdf.m_above_the_sea_times_in",
        name=place.name,
        altitude=height(place.altitude_m),
        zone=place.zone,
    )
    begun = say(
        "paper.record_pdf.packs_begun_by",
        packs=view.packs,
        mass=kg(view.mass_kg),
        when=when(view.started_at, place.zone),
        started_by=view.started_by,
    )
    plan = say(
        "paper.record_pdf.plan_name_version_plan_version", plan_name=view.plan_name, plan_version=view.plan_version
    )
    rows = [
        (say("paper.words.kitchen"), kitchen),
        (say("paper.words.batch"), begun),
        (say("paper.words.plan"), plan),
        (say("paper.record_pdf.plan_hash"), view.plan_hash),
        (say("paper.record_pdf.rule_set"), view.plan.rule_set.upper()),
        (say("paper.words.ingredients"), joined(named_with_entry(view.plan), ", ")),
        (say("paper.words.allergens"), joined(view.allergens, ", ") or say("paper.plan_part.none_declared")),
        *((say("paper.words.told_to_guests"), each) for each in view.told),
        *family_rows(view, place.zone),
    ]
    if not signed.proof_meets:
        although = say("paper.record_pdf.signed_although_the_proof_fails")
        rows.append((say("paper.record_pdf.signed_as_a_departure") if signed.departs else although, signed.reason))
    lines = [[words(name, "quiet"), words(text)] for name, text in rows]
    return [
        words(say("paper.record_pdf.code_plan_name_2", code_=view.code, plan_name=view.plan_name), "title"),
        Spacer(1, 4),
        table(lines, [32 * mm, None]),
    ]


def _steps(view: BatchView, zone: str) -> list[Flowable]:
    rows: list[list[Any]] = [
        [
            words(text, "quiet")
            for text in (say("paper.words.step"), say("paper.record_pdf.as_planned"), say("paper.words.ran"))
        ]
    ]
    rows += [[words(name, "bold"), words(setting), words(ran)] for name, setting, ran in steps_rows(view, zone)]
    return [words(say("paper.record_pdf.process_as_it_ran"), "head"), table(rows, [34 * mm, None, 62 * mm])]


def _kit(paper: Printed, zone: str) -> list[Flowable]:
    used = {reading.instrument for reading in paper.view.readings} | {t.instrument for t in paper.view.traces}
    used |= {probe.instrument_name for probe in paper.view.probes}
    rows = [
        [
            words(item.name, "bold"),
            words(
                say(
                    "paper.record_pdf.last_checked_due",
                    when=when(item.calibrated_at, zone),
                    when2=when(item.due_at, zone),
                )
            ),
        ]
        for item in paper.instruments
        if item.name in used
    ]
    return [words(say("paper.words.instruments"), "head"), table(rows, [38 * mm, None])] if rows else []


def chain_part(head: Head) -> list[Flowable]:
    """Where the ledger stood when it was printed."""
    said = say("paper.record_pdf.record_of_the_ledger_hash", seq=head.seq, hash=head.hash)
    said += say("paper.record_pdf.seal_seal", seal=head.seal) if head.seal else say("paper.record_pdf.not_sealed")
    return [
        KeepTogether([words(say("paper.record_pdf.where_the_ledger_stood_when_this"), "head"), words(said, "quiet")])
    ]


def signatures_part(view: BatchView, signed: Version, zone: str) -> list[Flowable]:
    """Who signed the plan, who closed the record and how, and what became known since."""
    by_whom = say(
        "paper.record_pdf.signed_by_when_record_seq",
        signed_by=signed.signed_by,
        when=when(signed.signed_at, zone, seconds=True),
        seq=signed.seq,
    )
    rows: list[tuple[str, str]] = [(say("paper.record_pdf.plan_signed"), by_whom)]
    countersigned = say("paper.record_pdf.record_countersigned")
    if view.closed:
        decision = say(f"paper.decision.{view.closed.decision}")
        at = when(view.closed.at, zone, seconds=True)
        reason = say("paper.record_pdf.capitalize_reason", capitalize=decision, reason=view.closed.reason)
        rows.append((countersigned, say("paper.record_pdf.by_when", by=view.closed.by, when=at)))
        rows.append((say("paper.words.decision"), reason))
    else:
        rows.append((countersigned, say("paper.record_pdf.not_yet_this_is_a_record")))
    rows += _since(view, zone)
    lines = [[words(name, "quiet"), words(text)] for name, text in rows]
    return [KeepTogether([words(say("paper.words.signatures"), "head"), table(lines, [38 * mm, None])])]


def _since(view: BatchView, zone: str) -> list[tuple[str, str]]:
    """What became known after it was released: a recall, an instrument found off, and who answered for that."""

    def who(event: ClosedView) -> str:
        at = when(event.at, zone, seconds=True)
        return say("paper.record_pdf.by_when_reason", by=event.by, when=at, reason=event.reason)

    rows: list[tuple[str, str]] = [(say("paper.record_pdf.in_doubt"), sentence) for sentence in view.in_doubt]
    if view.doubt_answered:
        rows.append((say("paper.record_pdf.doubt_answered"), who(view.doubt_answered)))
    if view.recalled:
        rows.append((say("paper.record_pdf.recalled"), who(view.recalled)))
    return rows
