"""How many heavy questions are computed at once: the rest wait without holding a thread that a reading may need."""

import asyncio
from collections.abc import AsyncIterator
from weakref import WeakKeyDictionary

from brinefrost.store.kitchens import kitchen_here

AT_ONCE = 4

_slots: WeakKeyDictionary[asyncio.AbstractEventLoop, dict[str, asyncio.Semaphore]] = WeakKeyDictionary()


async def a_slot() -> AsyncIterator[None]:
    """Wait for a place among those that are computed for this kitchen."""
    slots = _slots.setdefault(asyncio.get_running_loop(), {})
    async with slots.setdefault(kitchen_here(), asyncio.Semaphore(AT_ONCE)):
        yield
