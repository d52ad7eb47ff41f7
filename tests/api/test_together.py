"""What many ask at once is made once; nobody is given what is older than their question, or another's."""

import asyncio
import gzip
import json
import threading
from collections.abc import Callable
from typing import Any

import pytest
from fastapi import Request, Response
from pydantic import BaseModel

from brinefrost.api.slots import WRITERS, a_turn
from brinefrost.api.together import together
from brinefrost.core.words import Manner, manner_of
from brinefrost.store.kitchens import in_kitchen
from tests.kitchen import awaited


class Told(BaseModel):
    turn: int
    more: str = ""


class Maker:
    """Makes an answer when it is let; counts how often."""

    def __init__(self, more: str = "") -> None:
        self.made, self.more, self.let = 0, more, threading.Event()

    def __call__(self) -> Told:
        self.made += 1
        turn = self.made
        assert self.let.wait(5)
        return Told(turn=turn, more=self.more)


def asked(path: str = "/api/v1/shift", accepts: str = "") -> Request:
    headers = [(b"accept-encoding", accepts.encode())]
    return Request({"type": "http", "method": "GET", "path": path, "query_string": b"", "headers": headers,
                    "server": ("127.0.0.1", 80), "scheme": "http"})  # fmt: skip


def turn_of(response: Response) -> Any:
    return json.loads(bytes(response.body))["turn"]


async def begun(make: Maker, count: int) -> None:
    while make.made < count:
        await asyncio.sleep(0.005)


def test_thirty_who_ask_at_once_have_it_made_twice_at_most_and_never_older_than_they_asked() -> None:
    async def work() -> tuple[list[int], int]:
        make = Maker()
        first = asyncio.create_task(together(asked(), make))
        await begun(make, 1)  # from here on, what is under way is older than any question
        late = [asyncio.create_task(together(asked(), make)) for _ in range(30)]
        await asyncio.sleep(0.05)
        assert make.made == 1
        make.let.set()
        return [turn_of(await each) for each in (first, *late)], make.made

    turns, made = awaited(work())
    assert turns == [1] + 30 * [2]
    assert made == 2


def test_who_reads_otherwise_or_elsewhere_has_their_own() -> None:
    async def work() -> list[int]:
        makers: list[Maker] = []

        async def ask(path: str, language: str, kitchen: str) -> int:
            make = Maker()
            make.made = 10 * len(makers)
            make.let.set()
            makers.append(make)
            with manner_of(Manner(language=language)), in_kitchen(kitchen):
                return int(turn_of(await together(asked(path), make)))

        cases = [("/a", "en", "home"), ("/a", "es", "home"), ("/a", "en", "annex"), ("/b", "en", "home")]
        return list(await asyncio.gather(*(ask(*case) for case in cases), ask(*cases[0])))

    assert awaited(work()) == [1, 11, 21, 31, 1]


def test_a_failure_is_told_to_everybody_who_waited_and_to_nobody_after() -> None:
    async def work() -> list[Any]:
        let = threading.Event()

        def fails() -> Told:
            assert let.wait(5)
            raise ValueError("gone")

        waiting = [asyncio.create_task(together(asked(), fails)) for _ in range(3)]
        await asyncio.sleep(0.02)
        let.set()
        found = await asyncio.gather(*waiting, return_exceptions=True)
        make = Maker()
        make.let.set()
        return [*map(type, found), turn_of(await together(asked(), make))]

    assert awaited(work()) == [ValueError, ValueError, ValueError, 1]


def test_one_who_goes_away_takes_nobody_elses_answer_along() -> None:
    async def work() -> int:
        make = Maker()
        gone = asyncio.create_task(together(asked(), make))
        await begun(make, 1)
        first = asyncio.create_task(together(asked(), make))
        second = asyncio.create_task(together(asked(), make))
        await asyncio.sleep(0.01)
        gone.cancel()
        first.cancel()
        make.let.set()
        return int(turn_of(await second))

    assert awaited(work()) == 2


@pytest.mark.parametrize(("accepts", "packed"), [("gzip, br", True), ("br", False)])
def test_it_is_packed_once_for_who_takes_it_packed(accepts: str, packed: bool) -> None:
    async def work(make: Callable[[], Told]) -> Response:
        return await together(asked(accepts=accepts), make)

    make = Maker(more="x" * 2000)
    make.let.set()
    found = awaited(work(make))
    body = bytes(found.body)
    assert (found.headers.get("content-encoding") == "gzip") == packed
    assert json.loads(gzip.decompress(body) if packed else body)["more"] == make.more


def test_those_who_write_wait_in_turn_a_kitchen_by_itself() -> None:
    """More than may write at once wait on the loop; another kitchen's hands do not wait for them."""

    async def work() -> tuple[int, int]:
        most, now = 0, 0
        here = asyncio.Event()

        async def write(kitchen: str) -> None:
            nonlocal most, now
            with in_kitchen(kitchen):
                turn = a_turn()
                await anext(turn)
                now += kitchen == "home"
                most = max(most, now)
                if kitchen == "annex":
                    here.set()
                else:
                    await here.wait()
                now -= kitchen == "home"
                await turn.aclose()  # type: ignore[attr-defined]

        await asyncio.gather(*(write("home") for _ in range(3 * WRITERS)), write("annex"))
        return most, now

    assert awaited(work()) == (WRITERS, 0)
