"""The working of each limit: formula, what went in, result, what it assumes."""

from collections.abc import Iterable
from typing import Protocol

from reportlab.platypus import Flowable, KeepTogether, Spacer

from brinefrost.core.limits import Verdict
from brinefrost.core.words import Words, amount, joined, say
from brinefrost.reports.paper import ended, words


class Judged(Protocol):
    """A limit of a step with its verdict, of a batch or of a proof."""

    @property
    def step_name(self) -> Words: ...
    @property
    def verdict(self) -> Verdict: ...


def workings_part(limits: Iterable[Judged]) -> list[Flowable]:
    """How each verdict was come to, each kept on one page."""
    found: list[Flowable] = []
    for status in limits:
        working = status.verdict.working
        inputs = joined(
            say("paper.record_pdf.name_value_unit", name=i.name, value=_value(i.value, i.unit)) for i in working.inputs
        )
        lines = [
            *([] if found else [words(say("paper.words.working"), "head")]),
            words(say("paper.record_pdf.step_name_title", step_name=status.step_name, title=working.title), "bold"),
            words(working.formula),
            words(joined((ended(inputs), ended(working.result)), " ")),
            words(say("paper.record_pdf.assumes_assumptions", assumptions=joined(working.assumptions)), "quiet"),
            Spacer(1, 4),
        ]
        found.append(KeepTogether(lines))
    return found


def _value(value: float | str, unit: str) -> str:
    if isinstance(value, str):
        return value
    rounded = round(value, 3) if abs(value) >= 1e-3 else value
    return amount(rounded, unit, "g" if abs(value) >= 1e-3 else ".2g")
