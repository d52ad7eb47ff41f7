"""The thigh's proof as it stood before the steps became kinds, in four rule sets and three baths: to 1e-9."""

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.proof_shown import show_proof
from brinefrost.core.plans.what_if import what_ifs
from tests.kitchen import thigh_plan, with_bath

GOLDEN: dict[str, Any] = json.loads((Path(__file__).parents[1] / "data" / "proof-thigh.json").read_text())
BATHS = {"usual": (63.0, 7200.0), "soft": (57.0, 3600.0), "long": (60.0, 18000.0)}


def near(a: Any, b: Any) -> bool:
    return a == b if not isinstance(a, float) or b is None else a == pytest.approx(b, rel=1e-9, abs=1e-9)


@pytest.mark.parametrize("name", list(GOLDEN))
def test_the_thigh_proves_as_before(name: str) -> None:
    rules, bath = name.split("-")
    plan = with_bath(thigh_plan(rules), *BATHS[bath])
    was, proof = GOLDEN[name], prove(plan)
    assert proof.state == was["state"]
    assert proof.sentence == was["sentence"]
    assert list(proof.remedies) == was["remedies"]
    said = [
        [p.step, p.limit.id, p.verdict.state, p.verdict.value, p.verdict.margin, p.time_to_meet_s] for p in proof.limits
    ]
    assert len(said) == len(was["limits"])
    for row, old in zip(said, was["limits"], strict=True):
        assert all(near(a, b) for a, b in zip(row, old, strict=True)), (row, old)
    for case, old in zip(what_ifs(plan), was["what_if"], strict=True):
        meets = {each.step: each.meets for each in case.steps}
        row = [case.name, meets["cook"], meets["chill"], case.time_to_meet_s, case.core_at_end_c]
        assert all(near(a, b) for a, b in zip(row, old, strict=True)), (row, old)
    shown = show_proof(plan, proof)
    schools = [[s.rule_set, s.school, s.verdict.state, s.verdict.value, s.time_to_meet_s] for s in shown.schools]
    for row, old in zip(schools, was["schools"], strict=True):
        assert all(near(a, b) for a, b in zip(row, old, strict=True)), (row, old)
    times, core = np.array(was["core"]).T
    assert np.interp(times, shown.curve.times_s, shown.curve.core_c) == pytest.approx(core, abs=0.0101)
