"""Lists that grow come page by page, all in one form."""

from collections.abc import Iterator

import pytest

from brinefrost.api.pages import Page, page_of
from tests.api.conftest import Desk


def test_every_page_follows_the_one_before(lead: Desk, cook: Desk, plan_id: str) -> None:
    for _ in range(6):
        assert cook.post("/batches", {"plan_id": plan_id, "packs": 2, "confirmed": True}).status_code == 201
    first = lead.get("/ledger", most=3).json()
    assert len(first["items"]) == 3
    second = lead.get("/ledger", most=3, after=first["next"]).json()
    numbers = [row["seq"] for row in (*first["items"], *second["items"])]
    assert numbers == sorted(numbers, reverse=True)
    assert len(set(numbers)) == len(numbers)
    whole = lead.get("/ledger", most=200).json()
    assert whole["next"] is None
    assert numbers == [row["seq"] for row in whole["items"]][: len(numbers)]


def test_batches_are_found_by_words_and_state_wherever_they_stand(lead: Desk, cook: Desk, plan_id: str) -> None:
    for packs in (1, 2, 3):
        assert cook.post("/batches", {"plan_id": plan_id, "packs": packs, "confirmed": True}).status_code == 201
    page = lead.get("/batches", most=2).json()
    rest = lead.get("/batches", most=2, after=page["next"]).json()
    assert [len(page["items"]), len(rest["items"]), rest["next"]] == [2, 1, None]
    code = rest["items"][0]["code"]
    assert [row["code"] for row in lead.get("/batches", find=f"THIGH {code}", most=1).json()["items"]] == [code]
    assert lead.get("/batches", find="kraut").json() == {"items": [], "next": None}
    assert len(lead.get("/batches", state="running").json()["items"]) == 3
    assert lead.get("/batches", state="closed").json()["items"] == []
    assert lead.get("/batches", after="gone").json()["items"] == []  # what is not there has nothing after it


def test_a_page_asks_for_no_more_than_it_takes_to_know_of_the_next() -> None:
    asked: list[int] = []

    def rows() -> Iterator[int]:
        for number in range(100):
            asked.append(number)
            yield number

    page = page_of(rows(), str, "4", 3)
    assert (page.items, page.next, asked[-1]) == ((5, 6, 7), "7", 8)
    assert page_of(rows(), str, "98", 3) == Page(items=(99,), next=None)
    assert page_of(rows(), str, "gone", 3) == Page(items=(), next=None)


@pytest.mark.parametrize("path", ["/ledger", "/batches", "/plans", "/bench/kept"])
def test_one_form_for_all(lead: Desk, path: str) -> None:
    assert set(lead.get(path, most=1).json()) == {"items", "next"}
    assert lead.get(path, most=0).status_code == 422
    assert lead.get(path, most=201).status_code == 422
    assert lead.get(path, find="ź" * 201).status_code == 422
