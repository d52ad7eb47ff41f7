"""How many heavy questions are computed at once: the rest wait without holding a thread that a reading may need."""

import asyncio
from collections.abc import AsyncIterator
from weakref import WeakKeyDictionary

AT_ONCE = 4

_slots: WeakKeyDictionary[asyncio.AbstractEventLoop, asyncio.Semaphore] = WeakKeyDictionary()


async def a_slot() -> AsyncIterator[None]:
    """Wait for a place among those that are computed."""
    loop = asyncio.get_running_loop()
    slots = _slots.setdefault(loop, asyncio.Semaphore(AT_ONCE))
    async with slots:
        yield
