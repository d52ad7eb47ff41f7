"""The records of many batches as one PDF: a list of them first, then each with limits, deviations and signatures."""

import io
from datetime import datetime
from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Spacer

from brinefrost.core.words import Words, kg, raised, say
from brinefrost.reports.evidence_part import deviations_part, limits_part, readings_part
from brinefrost.reports.pages import lay_pages
from brinefrost.reports.paper import shape, table, when, words
from brinefrost.reports.plan_part import missed_part
from brinefrost.reports.record_pdf import chain_part, signatures_part
from brinefrost.services.planning import Version
from brinefrost.services.registering import Register
from brinefrost.services.views import BatchView

STATES = {"release": "pass", "rework": "too_close", "discard": "fail"}


def register_pdf(register: Register, now: datetime) -> bytes:
    """Every batch of a register in one PDF file [bytes]."""
    out, site = io.BytesIO(), register.site
    title = say("paper.register.title", what=register.what)
    parts: list[Flowable] = [words(title, "title"), Spacer(1, 4), *_list(register)]
    for view, signed in register.batches:
        parts += [PageBreak(), *_batch(view, signed, site.zone)]
    parts += chain_part(register.head)
    printed = say("paper.register.printed", site=site.name, title=title, when=when(now, site.zone))
    lay_pages(out, title, site.name, printed).build(parts)
    return out.getvalue()


def _list(register: Register) -> list[Flowable]:
    zone = register.site.zone
    span = say("paper.register.span", since=when(register.since, zone), until=when(register.until, zone))
    about = [
        (say("paper.words.kitchen"), register.site.name),
        (say("paper.register.period"), span),
        (say("paper.register.batches"), str(len(register.batches))),
    ]
    heads = (
        "",
        say("paper.words.batch"),
        say("paper.words.plan"),
        say("paper.register.begun"),
        say("paper.register.amount"),
        say("paper.register.outcome"),
    )
    rows: list[list[Any]] = [[words(text, "quiet") for text in heads]]
    for view, _ in register.batches:
        mark, outcome = _outcome_of(view)
        packs = say("paper.register.packs", packs=view.packs, mass=kg(view.mass_kg))
        rows.append(
            [
                shape(mark),
                words(view.code, "bold"),
                words(view.plan_name),
                words(when(view.started_at, zone)),
                words(packs),
                words(outcome),
            ]
        )
    return [
        table([[words(name, "quiet"), words(text)] for name, text in about], [32 * mm, None]),
        Spacer(1, 8),
        table(rows, [6 * mm, 18 * mm, None, 34 * mm, 30 * mm, 42 * mm], repeat=1),
    ]


def _outcome_of(view: BatchView) -> tuple[str, Words]:
    """The mark and the words of how a batch was closed, with what became known of it since."""
    if view.recalled:
        return "fail", say("paper.register.recalled", by=view.recalled.by)
    if not view.closed:
        return "pending", say("paper.register.open")
    decision = raised(say(f"paper.decision.{view.closed.decision}"))
    decided = say("paper.register.decided", decision=decision, by=view.closed.by)
    if view.in_doubt:
        return "too_close", say("paper.register.in_doubt", decided=decided)
    return STATES[view.closed.decision], decided


def _batch(view: BatchView, signed: Version, zone: str) -> list[Flowable]:
    return [
        words(say("paper.register.of", code_=view.code, name=view.plan_name), "title"),
        *limits_part(view),
        *readings_part(view, zone),
        *missed_part(view, zone),
        *deviations_part(view, zone),
        *signatures_part(view, signed, zone),
    ]
