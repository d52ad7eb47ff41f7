"""One answer for all who ask the same at once: thirty tablets that hear of one reading have the shift made once.

Whoever asks while it is being made gets the next one, so nobody is given what is older than their question.
"""

import asyncio
import gzip
from collections.abc import Callable
from weakref import WeakKeyDictionary

from fastapi import Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from brinefrost.core.words import current
from brinefrost.store.kitchens import kitchen_here

LEAST_PACKED = 1000  # bytes; less is not worth packing
QUICKLY = 4  # gzip's level: nine tenths of what the best saves, in a third of the time

Made = asyncio.Future[tuple[bytes, bytes]]


class Waiting:
    """What is asked for on one loop: being made, and to be made next; by who reads it how, and where."""

    def __init__(self) -> None:
        self.now: dict[object, Made] = {}
        self.next: dict[object, Made] = {}
        self.tasks: set[asyncio.Task[None]] = set()


_waiting: WeakKeyDictionary[asyncio.AbstractEventLoop, Waiting] = WeakKeyDictionary()


async def together(request: Request, make: Callable[[], BaseModel]) -> Response:
    """The answer to a GET that says the same to everybody of a kitchen who reads alike.

    ``make`` runs in a thread, begun after this question was asked.
    """
    waiting = _waiting.setdefault(asyncio.get_running_loop(), Waiting())
    key = (kitchen_here(), current(), request.url.path, request.url.query)
    found = waiting.next.get(key)
    if found is None:
        found = waiting.next[key] = asyncio.get_running_loop().create_future()
        task = asyncio.create_task(_make(waiting, key, make, found))
        waiting.tasks.add(task)
        task.add_done_callback(waiting.tasks.discard)
    plain, packed = await asyncio.shield(found)
    if packed and "gzip" in request.headers.get("accept-encoding", ""):
        headers = {"Content-Encoding": "gzip", "Vary": "Accept-Encoding"}
        return Response(packed, media_type="application/json", headers=headers)
    return Response(plain, media_type="application/json")


async def _make(waiting: Waiting, key: object, make: Callable[[], BaseModel], found: Made) -> None:
    """Wait for the one under way, then make one for all who have asked by then."""
    under_way = waiting.now.get(key)
    if under_way is not None:
        await asyncio.wait([under_way])
    waiting.now[key] = waiting.next.pop(key)
    try:
        found.set_result(await run_in_threadpool(_write, make))
    except Exception as error:  # noqa: BLE001 (whatever it is, everybody who waits is told)
        found.set_exception(error)
        found.exception()  # told, even where everybody has gone
    finally:
        found.cancel()  # where it was broken off; one that is done stays so
        if waiting.now.get(key) is found:
            del waiting.now[key]


def _write(make: Callable[[], BaseModel]) -> tuple[bytes, bytes]:
    """As it is sent: plain, and packed where that is worth it."""
    plain = make().model_dump_json().encode()
    return plain, gzip.compress(plain, QUICKLY, mtime=0) if len(plain) >= LEAST_PACKED else b""
