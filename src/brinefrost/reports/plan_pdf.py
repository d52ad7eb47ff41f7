"""A signed HACCP plan as its own document: product, flow, hazard analysis, control points, validation, signature."""

import io
from collections.abc import Iterable
from datetime import datetime
from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, NextPageTemplate, PageBreak, Spacer

from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Control, Hazard, Plan
from brinefrost.core.plans.parts import named_with_entry, own_entries_of
from brinefrost.core.plans.proof import Proof
from brinefrost.core.plans.taken_away import deciding_answer
from brinefrost.core.words import Words, joined, raised, say
from brinefrost.reports.pages import lay_pages
from brinefrost.reports.paper import WORDS, ended, shape, table, when, words
from brinefrost.reports.plan_part import OUTCOMES, allergens_of, cited, said_often, setting_of
from brinefrost.reports.workings_part import workings_part
from brinefrost.services.plan_paper import PlanPaper

NOT_PROVED = say("paper.plan_pdf.not_proved")
# a computation passes nothing: what it finds within the limit bears the open ring of what is still to be measured
PREDICTED = {
    "pass": ("pending", say("paper.plan_pdf.should_meet")),
    "too_close": ("too_close", WORDS["too_close"]),
    "fail": ("fail", say("paper.plan_pdf.should_not_meet")),
}


def plan_pdf(paper: PlanPaper, now: datetime) -> bytes:
    """One signed version whole, as Codex CXC 1-1969 (2022) has its parts, as a PDF file [bytes]."""
    plan, version, site = paper.plan, paper.version, paper.site
    out = io.BytesIO()
    parts = [
        *_head(paper),
        *_flow(plan),
        *_hazards(plan, version.signed_by),
        NextPageTemplate("across"),
        PageBreak(),
        *_control_points(plan),
        NextPageTemplate("page"),
        PageBreak(),
        *_validation(paper.proof),
        *_others(plan),
        *workings_part(paper.proof.limits),
        *_signatures(paper),
    ]
    title = say("paper.plan_pdf.title", name=plan.name, version=version.version)
    printed = say("paper.plan_pdf.printed", site=site.name, title=title, when=when(now, site.zone))
    lay_pages(out, title, site.name, printed).build(parts)
    return out.getvalue()


def _name_rows(rows: Iterable[tuple[Words, Words]]) -> Flowable:
    return table([[words(name, "quiet"), words(text)] for name, text in rows if text], [38 * mm, None])


def _head(paper: PlanPaper) -> list[Flowable]:
    plan, version, site = paper.plan, paper.version, paper.site
    rows = [
        (say("paper.words.kitchen"), site.name),
        (say("paper.plan_pdf.product"), plan.product),
        (say("paper.plan_pdf.guests"), say(f"paper.plan_pdf.guests_{plan.guests}")),
        (say("paper.words.ingredients"), joined(named_with_entry(plan), ", ")),
        (say("paper.words.allergens"), allergens_of(plan)),
        (say("paper.record_pdf.rule_set"), plan.rule_set.upper()),
        (say("paper.record_pdf.plan_hash"), version.hash),
    ]
    if not version.proof_meets:
        although = say("paper.record_pdf.signed_although_the_proof_fails")
        rows.append((say("paper.record_pdf.signed_as_a_departure") if version.departs else although, version.reason))
    title = say("paper.plan_pdf.title", name=plan.name, version=version.version)
    return [words(title, "title"), Spacer(1, 4), _name_rows(rows)]


def _flow(plan: Plan) -> list[Flowable]:
    """Each step in order with its settings, what goes in there, and the lines that join."""
    rows: list[list[Any]] = [
        _heads("", say("paper.words.step"), say("paper.record_pdf.as_planned"), say("paper.plan_pdf.goes_in"))
    ]
    entries = own_entries_of(plan)
    for number, step in enumerate(plan.steps, 1):
        entering = [item.name for item in entries.get(number - 1, ())]
        lines = [say("paper.plan_pdf.line", line=line) for line in step.takes]
        named = say("paper.plan_pdf.step_of_line", name=step.name, line=step.line) if step.line else step.name
        rows.append(
            [
                words(f"{number}"),
                words(named, "bold"),
                words(setting_of(step)),
                words(joined([*lines, *entering], ", ")),
            ]
        )
    return [words(say("paper.plan_pdf.flow"), "head"), table(rows, [7 * mm, 38 * mm, None, 38 * mm], repeat=1)]


def _hazards(plan: Plan, signed_by: str) -> list[Flowable]:
    names = {step.id: step.name for step in plan.steps}
    rows: list[list[Any]] = [
        _heads(say("paper.plan_pdf.hazard"), say("paper.plan_pdf.why"), say("paper.plan_pdf.decided"))
    ]
    for hazard in plan.hazards:
        kind = say("paper.plan_pdf.hazard_of_type", name=hazard.name, type=say(f"paper.hazard.{hazard.type}"))
        decided = [words(line) for line in _tell_decisions(hazard, names, signed_by)]
        rows.append([words(kind, "bold"), words(ended(hazard.reason)), decided or words("")])
    return [
        words(say("paper.plan_part.hazards_and_decisions"), "head"),
        table(rows, [42 * mm, 58 * mm, None], repeat=1),
    ]


def _tell_decisions(hazard: Hazard, names: dict[str, Words], signed_by: str) -> list[Words]:
    """At which step the hazard is controlled, or why nowhere, and who says so."""
    if not hazard.significant:
        return [say("paper.plan_part.set_aside", set_aside_because=hazard.set_aside_because)]
    found: list[Words] = []
    for decision in hazard.decisions:
        name = names.get(decision.step, decision.step)
        outcome = OUTCOMES[outcome_of(decision.tree, decision.answers)]
        found.append(ended(say("paper.plan_part.get_outcomes", get=name, outcomes=outcome)))
        answer = deciding_answer(decision)
        if answer is not None and answer.reason:
            by = answer.by or signed_by
            found.append(say("paper.plan_part.because_by", step=name, reason=answer.reason, by=by))
    return found


def _control_points(plan: Plan) -> list[Flowable]:
    """The chart of control points: limits, monitoring, corrective action, verification."""
    head = words(say("paper.plan_part.critical_control_points"), "head")
    if not plan.controls:
        return [head, words(say("paper.plan_pdf.no_control_points"))]
    rows: list[list[Any]] = [
        _heads(
            say("paper.words.step"),
            say("paper.record_pdf.critical_limit"),
            say("paper.plan_pdf.monitoring"),
            say("paper.plan_pdf.corrective_action"),
            say("paper.plan_pdf.verification"),
        )
    ]
    names = {step.id: step.name for step in plan.steps}
    hazards = {hazard.key: hazard.name for hazard in plan.hazards}
    rows += [_control(control, names, hazards) for control in plan.controls]
    return [head, table(rows, [34 * mm, 56 * mm, 68 * mm, 58 * mm, None], repeat=1, across=True)]


def _control(control: Control, names: dict[str, Words], hazards: dict[str, Words]) -> list[Any]:
    limits: list[Flowable] = []
    for limit in control.limits:
        limits += [words(limit.title), words(cited(limit.source.citation), "quiet")]
    if control.departs:
        limits.append(words(say("paper.plan_part.departs_from_the_rule_sets_own", departs=control.departs), "bold"))
    monitoring: list[Flowable] = []
    for each in control.monitoring:
        who = say(f"paper.who.{each.who}")
        told = say(
            "paper.plan_part.monitored_by_the", what=each.what, ended=ended(each.how), often=said_often(each), who=who
        )
        monitoring.append(words(told))
    step = [words(names.get(control.step, control.step), "bold")]
    step += [words(hazards.get(key, key), "quiet") for key in control.hazards]
    return [
        step,
        limits or words(""),
        monitoring or words(""),
        [words(line) for line in control.corrective_actions] or words(""),
        [words(line) for line in control.verification] or words(""),
    ]


def _validation(proof: Proof) -> list[Flowable]:
    """What the computation says of each limit; what it passes is still to be measured."""
    rows: list[list[Any]] = [
        _heads(
            "",
            say("paper.words.step"),
            say("paper.plan_pdf.limit"),
            say("paper.words.judgement"),
            say("paper.words.source"),
        )
    ]
    for each in proof.limits:
        mark, predicted = PREDICTED.get(each.verdict.state, ("pending", NOT_PROVED))
        told = say(
            "paper.record_pdf.capitalize_sentence",
            capitalize=raised(predicted),
            sentence=each.verdict.sentence,
        )
        source = words(cited(each.limit.source.citation), "quiet")
        rows.append([shape(mark), words(each.step_name, "bold"), words(each.title), words(told), source])
    return [
        words(say("paper.plan_pdf.validation"), "head"),
        words(proof.sentence, "bold"),
        words(say("paper.plan_pdf.computed"), "quiet"),
        table(rows, [6 * mm, 24 * mm, 42 * mm, 62 * mm, None], repeat=1),
    ]


def _others(plan: Plan) -> list[Flowable]:
    """What is asked at steps that no decision made critical, as it was signed."""
    names = {step.id: step.name for step in plan.steps}
    asked = [(names.get(each.step, each.step), each.limit.title) for each in plan.questions or ()]
    return [words(say("paper.plan_pdf.others"), "head"), _name_rows(asked)] if asked else []


def _signatures(paper: PlanPaper) -> list[Flowable]:
    zone = paper.site.zone
    rows = []
    for each in paper.versions:
        by_whom = say(
            "paper.record_pdf.signed_by_when_record_seq",
            signed_by=each.signed_by,
            when=when(each.signed_at, zone, seconds=True),
            seq=each.seq,
        )
        rows.append((say("paper.plan_pdf.version", version=each.version), by_whom))
    return [KeepTogether([words(say("paper.words.signatures"), "head"), _name_rows(rows)])]


def _heads(*texts: Words) -> list[Flowable]:
    return [words(text, "quiet") for text in texts]
