"""Plans over HTTP: writing, two people at once, proof, signature, versions."""

from collections.abc import Callable
from typing import Any

import pytest

from brinefrost.core.steps import KINDS
from tests.api.conftest import Desk
from tests.kitchen import PASSWORDS, thigh_plan

DOCUMENT = thigh_plan().model_dump(mode="json")


def create(lead: Desk) -> dict[str, Any]:
    made = lead.post("/plans", {"name": "Chicken thigh, in bag", "rule_set": "us"}).json()
    reply = lead.put(f"/plans/{made['plan_id']}", {"revision": made["revision"], "document": DOCUMENT})
    assert reply.status_code == 200, reply.text
    return dict(reply.json())


def sign(desk: Desk, view: dict[str, Any], **more: Any) -> Any:
    return desk.post(
        f"/plans/{view['plan_id']}/signature", {"revision": view["revision"], "password": PASSWORDS["lead"], **more}
    )


def test_a_plan_from_blank_page_to_signature(lead: Desk) -> None:
    view = create(lead)
    assert view["gaps"] == []
    assert view["critical_steps"] == ["cook", "chill", "keep"]
    version = sign(lead, view).json()
    assert (version["version"], version["hash"], version["signed_by"]) == (1, view["hash"], "Ilse Brandvik")
    assert version["departs"]  # by its written reason alone, and not because it fails


def test_a_change_makes_a_new_version_and_the_old_one_stays(lead: Desk) -> None:
    view = create(lead)
    sign(lead, view)
    assert sign(lead, view).json()["code"] == "refused"  # nothing changed
    changed = {**DOCUMENT, "product": "for Saturday"}
    later = lead.put(f"/plans/{view['plan_id']}", {"revision": view["revision"], "document": changed}).json()
    changes = lead.get(f"/plans/{view['plan_id']}/versions/1/changes").json()
    assert changes == [{"where": "product", "before": "", "after": "for Saturday"}]
    assert sign(lead, later).json()["version"] == 2
    between = lead.get(f"/plans/{view['plan_id']}/versions/1/changes?until=2").json()
    assert between == changes  # two signed versions are compared as a draft with one is
    paper = lead.get(f"/plans/{view['plan_id']}/versions/2/plan.pdf")
    assert (paper.status_code, paper.content[:5]) == (200, b"%PDF-")
    assert lead.get(f"/plans/{view['plan_id']}/versions/3/plan.pdf").status_code == 404
    first = lead.get(f"/plans/{view['plan_id']}/versions/1").json()
    assert first["document"]["product"] == ""
    assert first["version"]["hash"] == view["hash"]


def test_two_people_editing_the_second_is_told_and_nothing_is_overwritten(
    lead: Desk, sit: Callable[[str], Desk]
) -> None:
    view, other = create(lead), sit("lead")
    path = f"/plans/{view['plan_id']}"
    assert (
        other.put(path, {"revision": view["revision"], "document": {**DOCUMENT, "product": "theirs"}}).status_code
        == 200
    )
    mine = lead.put(path, {"revision": view["revision"], "document": {**DOCUMENT, "product": "mine"}})
    assert mine.status_code == 409
    assert mine.json()["fields"]["by"] == "Ilse Brandvik"
    assert lead.get(path).json()["document"]["product"] == "theirs"
    assert sign(lead, view).status_code == 409


def test_a_failing_proof_needs_a_written_reason(lead: Desk) -> None:
    view = create(lead)
    steps = [{**s, "bath_c": 57, "duration_s": 3600} if s["kind"] == "bath_cook" else s for s in DOCUMENT["steps"]]
    path = f"/plans/{view['plan_id']}"
    failing = lead.put(path, {"revision": view["revision"], "document": {**DOCUMENT, "steps": steps}}).json()
    proof = lead.post(f"{path}/proof", failing["document"]).json()
    assert not proof["meets"]
    assert any("needs" in remedy for remedy in proof["remedies"])
    refused = sign(lead, failing)
    assert refused.status_code == 422
    assert refused.json()["fields"]["reason"] == "proof"
    assert sign(lead, failing, reason="short").status_code == 422
    signed = sign(lead, failing, reason="Trial for the authority's visit; not served.")
    assert signed.json()["proof_meets"] is False
    assert "authority" in signed.json()["reason"]


def test_a_signature_needs_the_password(lead: Desk) -> None:
    view = create(lead)
    reply = lead.post(
        f"/plans/{view['plan_id']}/signature", {"revision": view["revision"], "password": "not-the-password"}
    )
    assert reply.status_code == 401
    assert lead.get(f"/plans/{view['plan_id']}").json()["versions"] == []


def test_an_unfinished_plan_cannot_be_signed(lead: Desk) -> None:
    made = lead.post("/plans", {"name": "Blank", "rule_set": "uk"}).json()
    refused = sign(lead, made)
    assert refused.status_code == 422
    assert "ingredients" in refused.json()["sentence"]


def test_suggestions_and_advice(lead: Desk) -> None:
    bare = {**DOCUMENT, "hazards": [], "controls": []}
    view = create(lead)
    found = lead.post(f"/plans/{view['plan_id']}/suggestions", bare).json()
    assert {"salmonella", "listeria", "c-perfringens"} <= {hazard["key"] for hazard in found}
    advice = lead.post(f"/plans/{view['plan_id']}/advice/salmonella/cook", bare).json()["answers"]
    assert advice["codex-2022"][-1]["yes"] is True
    assert advice["codex-2003"][-1]["question"] == "designed"


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        ("thickness_m", 0, "Thickness must be at least 3 mm."),
        ("thickness_m", 3, "Thickness must be at most 200 mm."),
        ("bath_c", 635, "Bath temperature must be at most 100 °C."),
        ("duration_s", "long", "Time in the bath must be a number."),
    ],
)
def test_what_cannot_be_is_said_in_a_sentence(lead: Desk, field: str, value: Any, words: str) -> None:
    view = create(lead)
    steps = [{**s, field: value} if s["kind"] == "bath_cook" else s for s in DOCUMENT["steps"]]
    reply = lead.put(
        f"/plans/{view['plan_id']}", {"revision": view["revision"], "document": {**DOCUMENT, "steps": steps}}
    )
    assert reply.status_code == 422
    assert reply.json()["sentence"] == words


def test_unknown_fields_are_refused(lead: Desk) -> None:
    assert lead.post("/plans", {"name": "x", "rule_set": "us", "colour": "red"}).status_code == 422


def test_reference_shows_all_rule_sets(lead: Desk) -> None:
    assert [rules["id"] for rules in lead.get("/reference").json()["rule_sets"]] == ["us", "uk", "eu", "anz"]


def test_every_kind_of_step_is_there_with_its_settings_and_comes_once(lead: Desk) -> None:
    reply = lead.get("/step-kinds")
    kinds = {kind["key"]: kind for kind in reply.json()}
    assert set(kinds) == set(KINDS)
    bath = next(spec for spec in kinds["bath_cook"]["fields"] if spec["name"] == "bath_c")
    assert (bath["kind"], bath["low"] < 50 < bath["high"]) == ("temperature", True)
    assert "step_kinds" not in lead.get("/reference").json()
    again = lead.client.get("/api/v1/step-kinds", headers={"If-None-Match": reply.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")


def test_a_plan_asks_the_bench_what_it_was_proved_on(lead: Desk) -> None:
    view = create(lead)
    asked = lead.post(f"/plans/{view['plan_id']}/questions", DOCUMENT).json()
    assert [each["family"] for each in asked] == ["heat", "chill"]
    found = [lead.post(f"/bench/{each['family']}", each["question"]) for each in asked]
    assert [reply.status_code for reply in found] == [200, 200]
    assert {reply.json()["state"] for reply in found} == {"would_meet"}
    no_bath = {**DOCUMENT, "steps": [s for s in DOCUMENT["steps"] if s["kind"] != "bath_cook"], "controls": []}
    assert lead.post(f"/plans/{view['plan_id']}/questions", no_bath).json() == []


def test_the_proof_over_and_over_gives_the_same_chance(lead: Desk) -> None:
    view = create(lead)
    first, again = (lead.post(f"/plans/{view['plan_id']}/repetitions", DOCUMENT).json() for _ in range(2))
    assert first == again  # seeded
    assert first
    for each in first:
        assert 0 <= each["failing_share"] <= 1
        assert sum(part["share"] for part in each["matters"]) == pytest.approx(1, abs=0.02)
