"""Starting a batch: today's pieces, parts of other batches, lots; steps beside one another."""

from typing import Any

from tests.api.conftest import Desk
from tests.conftest import TestClock


def started(cook: Desk, plan_id: str, **more: Any) -> Any:
    return cook.post("/v1/batches", {"plan_id": plan_id, "packs": 4, **more})


def test_what_is_asked_when_a_batch_starts(cook: Desk, plan_id: str, batch_id: str) -> None:
    offer = cook.get(f"/v1/plans/{plan_id}/start").json()
    assert (offer["thickness_m"], offer["made_here"]) == (0.028, [])
    assert [each["batch"] for each in offer["batches"]] == [batch_id]
    assert offer["batches"][0]["done"] is False
    assert cook.get("/v1/plans/nothing/start").status_code == 404


def test_todays_pieces_are_walked_again_and_kept_with_the_batch(cook: Desk, plan_id: str) -> None:
    fits = cook.post(f"/v1/plans/{plan_id}/fit", {"thickness_m": 0.02}).json()
    assert fits["state"] == "fits"
    longer = cook.post(f"/v1/plans/{plan_id}/fit", {"thickness_m": 0.04, "start_c": 6}).json()
    assert longer["state"] == "longer"
    batch = started(cook, plan_id, thickness_m=0.04, start_c=6).json()["batch_id"]
    view = cook.get(f"/v1/batches/{batch}").json()
    assert view["adjusted"] == longer["adjusted"]
    cooked = next(step for step in view["plan"]["steps"] if step["id"] == "cook")
    assert cooked["thickness_m"] == 0.04
    assert cooked["duration_s"] > 7200
    refused = started(cook, plan_id, thickness_m=0.15)
    assert refused.status_code == 409
    assert "no time" in refused.json()["detail"].lower()
    assert cook.post(f"/v1/plans/{plan_id}/fit", {"thickness_m": 5}).status_code == 422


def test_a_part_brings_its_clock_and_waits_for_its_own_release(
    cook: Desk, lead: Desk, plan_id: str, batch_id: str
) -> None:
    raw = started(cook, plan_id, parts=[{"batch": batch_id, "what": "food"}])
    assert raw.status_code == 409  # it lies in the bath still
    part = {"batch": batch_id, "what": "trim", "kg": 0.4}
    lot = {"ingredient": "Salt", "lot": "S-12"}
    batch = started(cook, plan_id, parts=[part], lots=[lot]).json()["batch_id"]
    view = cook.get(f"/v1/batches/{batch}").json()
    assert view["parts"][0]["state"] == "running"
    assert view["parts"][0]["part"]["code"] == "B-101"
    assert view["lots"] == [lot]
    assert any("B-101" in each and "not released" in each for each in view["blocking"])
    giver = cook.get(f"/v1/batches/{batch_id}").json()
    assert [(each["batch"], each["what"]) for each in giver["given"]] == [(batch, "trim")]
    lead.post(
        f"/v1/batches/{batch_id}/countersignature",
        {"decision": "discard", "reason": "The bath was cold all morning.", "password": "larder-at-2140"},
    )
    paper = lead.get(f"/v1/batches/{batch}/record.json").json()
    assert paper["batch"]["parts"][0]["part"]["kg"] == 0.4


def test_a_step_may_begin_beside_another(cook: Desk, batch_id: str, clock: TestClock) -> None:
    clock.forward(30)
    assert cook.post(f"/v1/batches/{batch_id}/steps/chill/start", {"beside": True}).status_code == 200
    view = cook.get(f"/v1/batches/{batch_id}").json()
    assert view["running"] == ["cook", "chill"]
    assert cook.post(f"/v1/batches/{batch_id}/steps/cook/finish", {"confirmed": True}).status_code == 200
    assert cook.get(f"/v1/batches/{batch_id}").json()["running"] == ["chill"]
