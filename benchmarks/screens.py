"""Thirty tablets in a process of their own: each follows, looks at the shift as it changes, and logs without pause.

Run by ``benchmarks live`` as ``python -m benchmarks.screens ADDRESS COOKIE SECONDS BATCH...``; prints one line of JSON.
A screen shows a reading once a shift has come that was asked for after the reading was accepted.
"""

import json
import statistics
import sys
import threading
import time
import uuid
from datetime import UTC, datetime

import httpx2 as httpx

SCREENS = 30
TOGETHER_S = 0.15  # as long as the front end gathers before it asks anew
LOGS_AGAIN_S = 0.02  # a hand needs longer


class Screen:
    """One tablet: what it logged and when, and when each look at the shift was asked for and came."""

    def __init__(self, address: str, cookie: str, batch: str) -> None:
        self.batch = batch
        self.client = httpx.Client(base_url=address, cookies={"brinefrost_session": cookie}, timeout=60)
        self.accepted: list[tuple[float, float]] = []  # sent, accepted
        self.looks: list[tuple[float, float]] = []  # asked, come
        self.told = threading.Event()

    def follow(self, until: float) -> None:
        """The stream of changes."""
        with self.client.stream("GET", "/api/v1/live") as told:
            for line in told.iter_lines():
                if line.startswith("data:"):
                    self.told.set()
                if time.perf_counter() > until:
                    return

    def look(self, until: float) -> None:
        """The shift anew after a change, one look at a time."""
        while time.perf_counter() < until:
            if not self.told.wait(0.5):
                continue
            time.sleep(TOGETHER_S)
            self.told.clear()
            asked = time.perf_counter()
            assert self.client.get("/api/v1/shift").status_code == 200
            self.looks.append((asked, time.perf_counter()))

    def log(self, until: float) -> None:
        """Readings, one after another."""
        while time.perf_counter() < until:
            entry = {
                "step": "cook", "quantity": "bath", "value": 62.8, "unit": "°C", "instrument": "probe-2",
                "taken_at": datetime.now(tz=UTC).isoformat(), "confirmed": True,
            }  # fmt: skip
            sent = time.perf_counter()
            place, key = f"/api/v1/batches/{self.batch}/readings", uuid.uuid4().hex
            reply = self.client.post(place, json=entry, headers={"Idempotency-Key": key})
            assert reply.status_code in (200, 201, 409), reply.text
            if reply.status_code != 409:
                self.accepted.append((sent, time.perf_counter()))
            time.sleep(LOGS_AGAIN_S)


def shown_after(screens: list[Screen], last_s: float) -> list[float]:
    """How long after it was accepted each reading stood on each screen [s]."""
    found = []
    for accepted in (at for screen in screens for _, at in screen.accepted if at < last_s):
        for screen in screens:
            come = next((come for asked, come in screen.looks if asked >= accepted), None)
            if come is not None:
                found.append(come - accepted)
    return found


def main(address: str, cookie: str, length_s: float, batches: list[str]) -> None:
    """Let them work for a while and say how it went."""
    screens = [Screen(address, cookie, batches[i % len(batches)]) for i in range(SCREENS)]
    until = time.perf_counter() + length_s
    work = [
        threading.Thread(target=part, args=(until + more,), daemon=True)
        for screen in screens
        for part, more in ((screen.follow, 3.0), (screen.look, 3.0), (screen.log, 0.0))
    ]
    for thread in work:
        thread.start()
    for thread in work:
        thread.join(length_s + 20)
    shown = sorted(shown_after(screens, until - 1.0)) or [float("inf")]
    waits = [come - sent for screen in screens for sent, come in screen.accepted]
    figures = {
        "readings": len(waits),
        "accepted_ms": 1e3 * statistics.median(waits),
        "shown_half_s": statistics.median(shown),
        "shown_most_s": shown[int(0.95 * len(shown))],
        "looks": sum(len(screen.looks) for screen in screens),
    }
    sys.stdout.write(json.dumps(figures) + "\n")


if __name__ == "__main__":
    main(sys.argv[1], sys.argv[2], float(sys.argv[3]), sys.argv[4:])
