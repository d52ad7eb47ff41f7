"""How much is done at once: what has to wait waits without holding a thread that a reading or a look may need."""

import asyncio
from collections.abc import AsyncIterator
from weakref import WeakKeyDictionary

from anyio.to_thread import current_default_thread_limiter

from brinefrost.store.kitchens import kitchen_here

AT_ONCE = 4
HASHES = 2  # sign-ins at once: one is hashed, the next is ready
WRITERS = 5  # one who holds the chain, and the next ones ready
THREADS = 8  # fewer than there are connections: none waits for one while it holds up a reading

Places = WeakKeyDictionary[asyncio.AbstractEventLoop, dict[str, asyncio.Semaphore]]
_slots: Places = WeakKeyDictionary()
_turns: Places = WeakKeyDictionary()
_hashes: WeakKeyDictionary[asyncio.AbstractEventLoop, asyncio.Semaphore] = WeakKeyDictionary()


def fewer_threads() -> None:
    """So many pieces of work at once: more only take the processor from whoever holds the chain."""
    limiter = current_default_thread_limiter()
    if limiter.total_tokens != THREADS:
        limiter.total_tokens = THREADS


def _place(places: Places, at_once: int) -> asyncio.Semaphore:
    """The places of this kitchen on this loop."""
    return places.setdefault(asyncio.get_running_loop(), {}).setdefault(kitchen_here(), asyncio.Semaphore(at_once))


async def a_hash() -> AsyncIterator[None]:
    """Wait for the place in which secrets are hashed, without a thread that a reading may need."""
    loop = asyncio.get_running_loop()
    async with _hashes.setdefault(loop, asyncio.Semaphore(HASHES)):
        yield


async def a_slot() -> AsyncIterator[None]:
    """Wait for a place among those that are computed for this kitchen."""
    async with _place(_slots, AT_ONCE):
        yield


async def a_turn() -> AsyncIterator[None]:
    """Wait for a place among those who write for this kitchen: its chain takes one at a time anyway."""
    async with _place(_turns, WRITERS):
        yield
