"""What was written, told to whoever follows, as soon as it is durable."""

import asyncio
import threading
from contextlib import suppress

import psycopg

from brinefrost.store.kitchens import kitchen_here

CHANNEL = "brinefrost_changes"
EVERYTHING = "*"  # something may have been missed: look at everything again
MOST_WAITING = 64  # of one follower who does not keep up
LOOKS_EVERY_S, AGAIN_AFTER_S = 0.2, 2.0


class Follower:
    """One who follows a kitchen: a queue of subjects in the event loop they live in."""

    def __init__(self, kitchen: str, loop: asyncio.AbstractEventLoop) -> None:
        self.kitchen = kitchen
        self._loop, self._queue = loop, asyncio.Queue[str](MOST_WAITING)

    def tell(self, subject: str) -> None:
        """Put a subject before them, from any thread; one who is far behind is told to look at everything."""
        with suppress(RuntimeError):  # their loop is gone
            self._loop.call_soon_threadsafe(self._put, subject)

    def _put(self, subject: str) -> None:
        if self._queue.full():
            while not self._queue.empty():
                self._queue.get_nowait()
            subject = EVERYTHING
        self._queue.put_nowait(subject)

    async def next(self, within_s: float) -> str | None:
        """The next subject; None where nothing was written for so long [s]."""
        try:
            return await asyncio.wait_for(self._queue.get(), within_s)
        except TimeoutError:
            return None

    async def more(self, within_s: float) -> list[str]:
        """What else is written within so long [s]."""
        await asyncio.sleep(within_s)
        return [self._queue.get_nowait() for _ in range(self._queue.qsize())]


class Changes:
    """One connection that listens, for any number of followers; it begins with the first of them."""

    def __init__(self, url: str) -> None:
        self._url = url.replace("+psycopg", "", 1)
        self._followers: set[Follower] = set()
        self._held, self._ended = threading.Lock(), threading.Event()
        self._thread: threading.Thread | None = None

    def follow(self) -> Follower:
        """Begin to follow the kitchen at hand, in the event loop that runs now."""
        follower = Follower(kitchen_here(), asyncio.get_running_loop())
        with self._held:
            self._followers.add(follower)
            if self._thread is None:
                self._thread = threading.Thread(target=self._listen, name="changes", daemon=True)
                self._thread.start()
        return follower

    def leave(self, follower: Follower) -> None:
        """Follow no more."""
        with self._held:
            self._followers.discard(follower)

    def count(self) -> int:
        """How many follow the kitchen at hand."""
        with self._held:
            return sum(follower.kitchen == kitchen_here() for follower in self._followers)

    def close(self) -> None:
        """Stop listening."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(5)

    def _listen(self) -> None:
        while not self._ended.is_set():
            try:
                with psycopg.connect(self._url, autocommit=True, connect_timeout=5) as connection:
                    connection.execute(f"listen {CHANNEL}")
                    self._tell(EVERYTHING)  # whatever was written while nobody listened
                    while not self._ended.is_set():
                        for told in connection.notifies(timeout=LOOKS_EVERY_S, stop_after=1):
                            self._tell(told.payload)
            except psycopg.Error:
                self._ended.wait(AGAIN_AFTER_S)

    def _tell(self, said: str) -> None:
        kitchen, _, subject = said.partition(" ")
        with self._held:
            followers = [one for one in self._followers if kitchen in (one.kitchen, EVERYTHING)]
        for follower in followers:
            follower.tell(subject or EVERYTHING)
