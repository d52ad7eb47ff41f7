"""A proof as plain data, for other programs: one state, every question, every hazard row, every gap."""

from typing import Literal

from brinefrost.core.errors import DomainError
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import ProofState, prove
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.sheet_parts import Standing
from brinefrost.core.words import Words
from brinefrost.core.working import Document


class ReportQuestion(Document):
    """One thing the plan is asked: a limit of a step with its verdict, or what a step does not do."""

    step: str
    step_name: Words
    title: Words
    state: str
    sentence: Words
    value: float | None = None
    limit_value: float | None = None
    margin: float | None = None
    unit: str = ""
    source: Words = ""


class ReportHazard(Document):
    """One hazard: what it comes to over the process, and where it is decided."""

    key: str
    name: Words
    type: str
    in_plan: bool
    standing: Standing
    balance: Words
    decided_at: tuple[str, ...]


class ProofReport(Document):
    """What a proof comes to. ``state`` is the worst of all questions."""

    format: Literal["brinefrost-proof/1"] = "brinefrost-proof/1"
    state: ProofState
    sentence: Words
    questions: tuple[ReportQuestion, ...]
    hazards: tuple[ReportHazard, ...]
    gaps: tuple[Words, ...]


def report_of(plan: Plan) -> ProofReport:
    """The report of a plan; what cannot be walked is not proved, and says why.

    Values are in °C, m, kg, s, pH or % whatever the reader's units; words are the reader's. Valid for every plan.
    """
    gaps = tuple(gap.sentence for gap in gaps_of(plan))
    missing = provable(plan)
    if missing:
        return ProofReport(state="not_proved", sentence=missing, questions=(), hazards=(), gaps=gaps)
    try:
        proof = prove(plan)
        sheet = sheet_of(plan, proof)
    except DomainError as error:
        return ProofReport(state="not_proved", sentence=error.sentence, questions=(), hazards=(), gaps=gaps)
    names = {step.id: step.name for step in plan.steps}
    limits = tuple(
        ReportQuestion(
            step=each.step,
            step_name=each.step_name,
            title=each.title,
            state=each.verdict.state,
            sentence=each.verdict.sentence,
            value=each.verdict.value,
            limit_value=each.verdict.limit_value,
            margin=each.verdict.margin,
            unit=each.verdict.unit,
            source=each.limit.source.citation,
        )
        for each in proof.limits
    )
    findings = tuple(
        ReportQuestion(
            step=each.step, step_name=names.get(each.step, ""), title="", state=each.state, sentence=each.sentence
        )
        for each in proof.findings
    )
    decided = {h.key: tuple(d.step for d in h.decisions) for h in plan.hazards}
    hazards = tuple(
        ReportHazard(
            key=row.key,
            name=row.name,
            type=row.type,
            in_plan=row.taken,
            standing=row.standing,
            balance=row.balance,
            decided_at=decided.get(row.key, ()),
        )
        for row in sheet.rows
    )
    return ProofReport(
        state=proof.state, sentence=proof.sentence, questions=(*limits, *findings), hazards=hazards, gaps=gaps
    )
