"""The shape of the interface: versions, problems with their places, statuses, where what was made can be read."""

from typing import Any

import pytest

from tests.api.conftest import Desk


def test_an_address_without_a_version_is_the_first(lead: Desk) -> None:
    old, new = lead.client.get("/api/plans"), lead.client.get("/api/v1/plans")
    assert old.status_code == new.status_code == 200
    assert old.json() == new.json()
    described = lead.client.get("/api/openapi.json").json()
    assert all(path.startswith("/api/v1/") for path in described["paths"])


def test_every_route_says_how_it_refuses_and_who_may_ask(lead: Desk) -> None:
    described = lead.client.get("/api/openapi.json").json()
    assert described["components"]["securitySchemes"]["session"]["in"] == "cookie"
    for path, methods in described["paths"].items():
        for method, route in methods.items():
            assert {"401", "403", "404", "409", "422"} <= set(route["responses"]), (path, method)
            open_to_all = path in ("/api/v1/session", "/api/v1/health")
            asked = "hub" if path == "/api/v1/samples" else "session"
            assert open_to_all or route.get("security") == [{asked: []}], (path, method)


def test_a_refusal_is_a_problem_document(cook: Desk) -> None:
    reply = cook.client.get("/api/v1/batches/none")
    assert reply.headers["content-type"] == "application/problem+json"
    body = reply.json()
    assert body["status"] == 404
    assert body["title"] == "Not Found"
    assert body["detail"] == body["sentence"] == "There is no such batch."
    assert body["type"] == "/problems/not-found"


@pytest.mark.parametrize(
    ("change", "pointers"),
    [
        ({"thickness_m": 9}, ["#/thickness_m"]),
        ({"thickness_m": 9, "start_c": "warm"}, ["#/thickness_m", "#/start_c"]),
        ({"later": [{"medium": "bath", "temperature_c": 500, "duration_s": 60}]}, ["#/later/0/temperature_c"]),
    ],
)
def test_every_error_has_its_place(cook: Desk, change: dict[str, Any], pointers: list[str]) -> None:
    reply = cook.client.post("/api/v1/bench/heat", json=change)
    assert reply.status_code == 422
    errors = reply.json()["errors"]
    assert [error["pointer"] for error in errors] == pointers
    assert all(error["detail"].endswith(".") for error in errors)
    assert reply.json()["sentence"] == errors[0]["detail"]


def test_what_is_made_says_where_it_can_be_read(lead: Desk) -> None:
    made = lead.post("/plans", {"name": "Kraut", "rule_set": "us"})
    assert made.status_code == 201
    assert lead.client.get(made.headers["location"]).json()["document"]["name"] == "Kraut"


def test_refusals_and_answers_come_in_the_language_of_the_person(cook: Desk) -> None:
    assert cook.client.put("/api/v1/session/manners", json={"language": "fr", "temperature": "°F"}).status_code == 200
    refusal = cook.client.get("/api/v1/batches/none").json()
    assert refusal["detail"] == "Ce lot n'existe pas."
    answer = cook.client.post("/api/v1/bench/heat", json={}).json()
    assert "°F" in answer["sentence"]
    assert "°C" not in str(answer["sentence"])
    words = cook.client.get("/api/v1/words").json()
    assert words["Cooling 57 → 21 °C in 2 h, → 5 °C in 6 h in all"].startswith("Refroidi 135 → 70 °F en 2 h")
    assert cook.client.put("/api/v1/session/manners", json={}).status_code == 200
    assert cook.client.get("/api/v1/words").json().get("Received at or below 4 °C") is None


def test_before_anybody_is_known_the_tablet_says_its_language(lead: Desk) -> None:
    stranger = type(lead.client)(lead.client.app, base_url="http://127.0.0.1")
    wrong = {"name": "Nobody Here", "password": "wrong-password"}
    said = stranger.post("/api/v1/session", json=wrong, headers={"Brinefrost-Language": "es"}).json()["detail"]
    assert said == "El nombre y la contraseña no coinciden. Compruebe ambos e inténtelo de nuevo."
    assert (
        stranger.post("/api/v1/session", json=wrong, headers={"Brinefrost-Language": "tlh"}).json()["detail"][0] == "N"
    )
