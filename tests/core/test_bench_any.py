"""Every page of the Bench: its opening question is answered whole, any question is answered or refused."""

import string
from datetime import date
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from brinefrost.core.bench.answer import line
from brinefrost.core.bench.families import FAMILIES, answer, families, presets
from brinefrost.core.bench.heat_question import HeatQuestion
from brinefrost.core.errors import DomainError, NotFoundError
from brinefrost.core.fields import FieldSpec

TODAY = date(2026, 11, 25)


@pytest.mark.parametrize("family", list(FAMILIES))
def test_every_opening_question_is_answered_whole(family: str) -> None:
    for words, question in presets(TODAY)[family]:
        found = answer(family, question, TODAY)
        assert words
        assert found.sentence.endswith(".")
        assert found.caution
        assert found.figures
        assert found.workings
        assert all(each.source.citation for each in found.workings)
        assert found.state in ("would_meet", "pass") or found.fixes or found.state in ("ask", "not_measured"), words
        if family not in ("kit", "acid", "ferment"):
            assert found.state not in ("pass", "fail"), "nothing computed is shown as measured"


def test_the_page_knows_every_field() -> None:
    listed = families(TODAY)
    assert [each.key for each in listed] == list(FAMILIES)
    for each in listed:
        names = {spec.name for spec in each.fields}
        assert any(spec.main for spec in each.fields)
        for spec in each.fields:
            assert set(spec.only) <= names
            if spec.kind in ("temperature", "length", "mass", "time", "percent"):
                assert spec.low is not None
                assert spec.high is not None
    with pytest.raises(NotFoundError):
        answer("weather", HeatQuestion(), TODAY)


def values(spec: FieldSpec) -> st.SearchStrategy[Any]:
    if spec.kind == "choice":
        return st.sampled_from(spec.options)
    if spec.kind == "flag":
        return st.booleans()
    if spec.kind == "rows":
        row = st.fixed_dictionaries({column.name: values(column) for column in spec.columns})
        return st.lists(row, max_size=5)
    if spec.kind == "day":
        found: st.SearchStrategy[Any] = st.dates(date(2026, 10, 1), date(2026, 12, 1)).map(date.isoformat)
    elif spec.kind == "words":
        found = st.text(string.printable, max_size=40)
    else:
        found = st.floats(spec.low, spec.high, allow_subnormal=False)
    return st.none() | found if spec.optional else found


@pytest.mark.slow
@settings(max_examples=15, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])
@pytest.mark.parametrize("family", list(FAMILIES))
@given(data=st.data())
def test_any_question_is_answered_or_refused_with_a_sentence(family: str, data: st.DataObject) -> None:
    fields = next(each.fields for each in families(TODAY) if each.key == family)
    changed = data.draw(st.lists(st.sampled_from(fields), max_size=6, unique_by=lambda spec: spec.name))
    asked = {spec.name: data.draw(values(spec), label=spec.name) for spec in changed}
    opening = presets(TODAY)[family][0][1].model_dump(exclude_unset=True)  # what has no default comes from there
    question = FAMILIES[family].question.model_validate({**opening, **asked})
    try:
        found = answer(family, question, TODAY)
    except DomainError as refusal:
        found = None
        sentence = refusal.sentence
    if found is None:
        assert sentence.strip().endswith((".", "?"))
        return
    assert found.sentence
    assert all(np.isfinite(each.value) for each in found.figures if each.value is not None)


def test_a_drawn_line_keeps_its_ends() -> None:
    x = np.linspace(0, 1, 5000)
    drawn = line("x", "core", x, x**2)
    assert len(drawn.x) <= 160
    assert (drawn.x[0], drawn.x[-1], drawn.y[-1]) == (0.0, 1.0, 1.0)
