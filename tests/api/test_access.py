"""Signing in, roles on every route, sessions, rate limits, headers."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient

from brinefrost.api.seats import COOKIE, ROLES, Seat
from brinefrost.core.bench.families import FAMILIES
from tests.api.conftest import Desk
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, PIN

# every route of the API and who may use it; a new route fails the test until it is written down here
LEAD, KITCHEN, EVERYONE, OPEN = {"lead"}, {"lead", "cook"}, set(ROLES), {"nobody", *ROLES}
DECIDER = {"lead", "reviewer"}
ALLOWED = {
    "sign_in": OPEN,
    "read_session": OPEN,
    "sign_out": OPEN,
    "renew_session": OPEN,
    "read_health": OPEN,
    "switch_person": EVERYONE,
    "list_people": EVERYONE,
    "keep_manners": EVERYONE,
    "read_words": EVERYONE,
    "follow_changes": EVERYONE,
    "read_reference": EVERYONE,
    "read_step_kinds": EVERYONE,
    "list_plans": EVERYONE,
    "read_recipe_text": EVERYONE,
    "read_plan": EVERYONE,
    "suggest_hazards": EVERYONE,
    "advise": EVERYONE,
    "prove_plan": EVERYONE,
    "prove_document": EVERYONE,
    "repeat_proof": EVERYONE,
    "vary_proof": EVERYONE,
    "read_rows": EVERYONE,
    "ask_of_plan": EVERYONE,
    "ask_of_batch": EVERYONE,
    "read_version": EVERYONE,
    "read_changes": EVERYONE,
    "export_plan": EVERYONE,
    "read_shift": EVERYONE,
    "export_calendar": EVERYONE,
    "list_batches": EVERYONE,
    "read_batch": EVERYONE,
    "export_json": EVERYONE,
    "export_csv": EVERYONE,
    "export_pdf": EVERYONE,
    "read_amounts": EVERYONE,
    "export_workbook": EVERYONE,
    "list_label_sheets": EVERYONE,
    "read_label": EVERYONE,
    "print_labels": KITCHEN,
    "search_ledger": EVERYONE,
    "export_register": EVERYONE,
    "check_integrity": EVERYONE,
    "read_last_check": EVERYONE,
    "hand_over": {"lead", "cook"},
    "read_tablet_address": {"lead"},
    "read_end": EVERYONE,
    "list_instruments": EVERYONE,
    "read_bench": EVERYONE,
    "list_kept": EVERYONE,
    "keep_answer": EVERYONE,
    "discard_kept": EVERYONE,
    **{f"bench_{family}": EVERYONE for family in FAMILIES},
    "create_plan": LEAD,
    "archive_plan": LEAD,
    "return_plan": LEAD,
    "delete_draft": LEAD,
    "read_differences": EVERYONE,
    "save_plan": LEAD,
    "sign_plan": LEAD,
    "list_hubs": LEAD,
    "add_hub": LEAD,
    "end_hub": LEAD,
    "deliver_samples": (),
    "offer_probes": KITCHEN,
    "bind_probe": KITCHEN,
    "let_probe_go": KITCHEN,
    "list_validations": EVERYONE,
    "sign_validation": LEAD,
    "revoke_validation": LEAD,
    "lay_out_batch": EVERYONE,
    "lay_out_plan": EVERYONE,
    "list_accounts": LEAD,
    "add_person": LEAD,
    "set_presence": LEAD,
    "renew_secrets": LEAD,
    "sign_out_everywhere": LEAD,
    "add_instrument": LEAD,
    "calibrate": LEAD,
    "correct_site": LEAD,
    "decide": DECIDER,
    "open_deviation": DECIDER,
    "answer_check": KITCHEN,
    "countersign": DECIDER,
    "start_batch": KITCHEN,
    "offer_start": KITCHEN,
    "fit_today": KITCHEN,
    "begin_step": KITCHEN,
    "finish_step": KITCHEN,
    "log_reading": KITCHEN,
    "withdraw_trace": KITCHEN,
    "recall": DECIDER,
    "answer_doubt": DECIDER,
    "preview_trace": KITCHEN,
    "attach_trace": KITCHEN,
    "record_action": KITCHEN,
}


def routes(app: Any) -> list[APIRoute]:
    found = []
    for route in app.routes:
        inner = (
            getattr(route, "routes", None)
            or getattr(getattr(route, "original_router", None), "routes", None)
            or [route]
        )
        found += [each for each in inner if isinstance(each, APIRoute)]
    return found


def seat_of(route: APIRoute) -> Seat | None:
    asked = list(route.dependant.dependencies)
    for each in asked:
        asked += each.dependencies
    return next((each.call for each in asked if isinstance(each.call, Seat)), None)


def test_every_route_and_role(app: Any, sit: Callable[[str], Desk]) -> None:
    """Walks every route x role over HTTP: refused with 401 or 403, or let in to whatever the empty request deserves."""
    clients: dict[str, TestClient] = {role: sit(role).client for role in ROLES}
    clients["nobody"] = TestClient(app, base_url="http://127.0.0.1")
    walked = routes(app)
    assert {route.name for route in walked} == set(ALLOWED)
    for route in walked:
        if route.name in ("sign_in", "sign_out", "read_session", "deliver_samples"):  # a hub's own token opens that
            assert seat_of(route) is None
            continue
        path = re.sub(r"{[^}]+}", "1", route.path)
        method = next(iter(route.methods))
        for role, client in clients.items():
            if route.name == "follow_changes" and role != "nobody":
                continue  # it has no end; the browser follows it
            status = client.request(method, path, headers={"Idempotency-Key": "walk-" + route.name}).status_code
            if role in ALLOWED[route.name]:
                assert status not in (401, 403), (route.name, role, status)
            else:
                assert status == (401 if role == "nobody" else 403), (route.name, role, status)


def test_cookie_is_http_only_and_strict(app: Any) -> None:
    client = TestClient(app, base_url="http://127.0.0.1")
    reply = client.post("/api/session", json={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
    said = reply.headers["set-cookie"].lower()
    assert "httponly" in said
    assert "samesite=strict" in said
    assert PASSWORDS["lead"] not in reply.text


def test_wrong_secret_says_the_same_for_known_and_unknown_names(app: Any) -> None:
    client = TestClient(app, base_url="http://127.0.0.1")
    known = client.post("/api/session", json={"name": NAMES["lead"], "password": "wrong-password"})
    unknown = client.post("/api/session", json={"name": "Nobody Here", "password": "wrong-password"})
    assert known.status_code == unknown.status_code == 401
    assert known.json()["sentence"] == unknown.json()["sentence"]


def test_guessing_is_slowed_and_forgiven_later(app: Any, clock: TestClock) -> None:
    client = TestClient(app, base_url="http://127.0.0.1")
    wrong, right = ({"name": NAMES["cook"], "password": p} for p in ("wrong-password", PASSWORDS["cook"]))
    assert [client.post("/api/session", json=wrong).status_code for _ in range(7)] == [401] * 6 + [429]
    assert client.post("/api/session", json=right).status_code == 429
    clock.forward(16)
    assert client.post("/api/session", json=right).status_code == 200


def test_pin_switch_needs_a_session_and_the_right_pin(app: Any, lead: Desk) -> None:
    people = {person["name"]: person for person in lead.get("/people").json()}
    cook = people[NAMES["cook"]]
    nobody = TestClient(app, base_url="http://127.0.0.1")
    assert nobody.post("/api/session/switch", json={"person": cook["id"], "pin": PIN}).status_code == 401
    assert lead.post("/session/switch", {"person": cook["id"], "pin": "0000"}).status_code == 401
    before = lead.client.cookies[COOKIE]
    switched = lead.post("/session/switch", {"person": cook["id"], "pin": PIN})
    assert switched.json()["person"]["role"] == "cook"
    old = TestClient(nobody.app, base_url="http://127.0.0.1", cookies={COOKIE: before})
    assert old.get("/api/people").status_code == 401  # the lead's session ended with the switch


def test_sessions_run_out_and_sign_out_ends_them(lead: Desk, clock: TestClock) -> None:
    clock.forward(7 * 60)
    assert lead.client.put("/api/session/manners", json={}).status_code == 200
    clock.forward(6 * 60)
    assert lead.get("/plans").status_code == 200
    clock.forward(2 * 60)
    assert lead.get("/plans").status_code == 401


def test_sign_out(lead: Desk) -> None:
    old = TestClient(lead.client.app, base_url="http://127.0.0.1", cookies={COOKIE: lead.client.cookies[COOKIE]})
    assert old.get("/api/plans").status_code == 200
    lead.client.delete("/api/session")
    assert old.get("/api/plans").status_code == 401


def test_security_headers_and_no_inline_script(lead: Desk) -> None:
    policy = lead.get("/plans").headers["content-security-policy"]
    assert "script-src 'self'" in policy
    assert "unsafe" not in policy
    assert lead.get("/plans").headers["cache-control"] == "no-store"


def test_writes_from_another_origin_are_refused(lead: Desk) -> None:
    reply = lead.client.post(
        "/api/plans", json={"name": "x"}, headers={"Idempotency-Key": "12345678", "Origin": "http://elsewhere.example"}
    )
    assert reply.status_code == 403


def test_two_hundred_megabytes_are_refused_before_they_are_read(lead: Desk) -> None:
    reply = lead.client.post("/api/traces/preview", content=b"", headers={"Content-Length": str(200 * 10**6)})
    assert reply.status_code == 413
    assert "8 MB" in reply.json()["sentence"]

    def trickle():  # type: ignore[no-untyped-def]
        yield b'--b\r\nContent-Disposition: form-data; name="file"; filename="x.csv"\r\n\r\n'
        for _ in range(12):
            yield b"x" * 1_000_000

    chunked = lead.client.post(
        "/api/traces/preview", content=trickle(), headers={"Content-Type": "multipart/form-data; boundary=b"}
    )
    assert chunked.status_code == 413


@pytest.mark.parametrize(
    "path", ["/api/nothing", "/api/plans/none", "/api/batches/none", "/api/batches/none/record.pdf"]
)
def test_what_is_not_there(lead: Desk, path: str) -> None:
    reply = lead.client.get(path)
    assert reply.status_code == 404
    assert reply.json()["sentence"]


def test_a_session_nobody_writes_with_runs_out(cook: Desk, clock: TestClock) -> None:
    clock.forward(4 * 60)
    assert cook.client.put("/api/session/manners", json={}).status_code == 200
    clock.forward(7 * 60)
    assert cook.get("/batches").status_code == 200
    clock.forward(2 * 60)  # looking is not using: a screen that refreshes itself keeps nobody signed in
    assert cook.get("/batches").status_code == 401


def test_how_somebody_reads_follows_them(sit: Callable[[str], Desk]) -> None:
    cook, elsewhere = sit("cook"), sit("cook")
    cook.client.put("/api/session/manners", json={"temperature": "°F", "theme": "dark"})
    assert elsewhere.get("/session").json()["manners"] == {
        "temperature": "°F",
        "length": None,
        "mass": None,
        "theme": "dark",
        "language": None,
    }
    assert sit("lead").get("/session").json()["manners"]["temperature"] is None
    assert cook.client.put("/api/session/manners", json={"temperature": "K"}).status_code == 422


def test_a_large_body_is_not_read_for_a_stranger(app: Any, cook: Desk) -> None:
    stranger, body = TestClient(app, base_url="http://127.0.0.1"), {"rows": [0] * 20_000}
    assert stranger.post("/api/bench/heat", json=body).status_code == 401
    assert cook.post("/bench/heat", body).status_code == 422
