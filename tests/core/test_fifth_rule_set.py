"""A rule set more is one file: plans, proofs and the Bench know it, and what it does not say is the other's."""

import json
import os
import subprocess
import sys
from pathlib import Path

from brinefrost.core.rules import RULE_SET_IDS, rule_set

ROOT = Path(__file__).parents[2]
FIFTH = """
id = "fell"
name = "The fells"
edition = "By-law 4, of this test"
authority = "Ask the warden."
extends = "uk"

[[entries]]
topic = "cook.poultry"
school = "80 °C"
preferred = true
limit = { kind = "hold", id = "fell-poultry", title = "Poultry core 80 °C", at_least_c = 80, for_s = 0, source = { citation = "By-law 4", tag = "common_practice" } }
"""  # noqa: E501
ASKED = """
import json
from brinefrost.core.plans.proof import prove
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from tests.core.dish_notation import read_dish
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof_shown import show_proof

dish = read_dish("dish | us | chicken-breast | bag 78C 30mm 3h; blast -6C 30mm 90min; keep 2C 1d | why")
laid = dish.plan("us").model_dump() | {"rule_set": "fell"}
plan = Plan.model_validate(laid)
proof = prove(plan)
print(json.dumps({
    "ids": RULE_SET_IDS,
    "poultry": rule_set("fell").entries_for("cook.poultry")[0].limit.id,
    "chill": rule_set("fell").limit_for("chill.cooked").id,
    "schools": sorted({each.rule_set for each in show_proof(plan).schools}),
    "limits": [each.limit.id for each in proof.limits],
    "state": proof.state,
}))
"""


def test_one_file_is_a_rule_set(tmp_path: Path) -> None:
    """In a process of its own: which rule sets there are is read once, as it begins."""
    (tmp_path / "fell.toml").write_text(FIFTH, encoding="utf-8")
    around = os.environ | {"BRINEFROST_RULES": str(tmp_path), "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"}
    done = subprocess.run([sys.executable, "-c", ASKED], env=around, capture_output=True, text=True, check=True)
    found = json.loads(done.stdout)
    assert found["ids"] == [*RULE_SET_IDS, "fell"]
    assert found["poultry"] == "fell-poultry"
    assert found["chill"] == rule_set("uk").limit_for("chill.cooked").id
    assert "fell-poultry" in found["limits"]
    assert {"us", "fell"} <= set(found["schools"])
    assert found["state"] == "fails"  # 78 °C is enough for every other, and not for the fells


def test_shipped_rule_sets_keep_their_order() -> None:
    assert RULE_SET_IDS[:4] == ("us", "uk", "eu", "anz")
    assert [rule_set(key).family for key in RULE_SET_IDS] == list(RULE_SET_IDS)
