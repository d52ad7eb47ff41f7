"""Sixty strangers who sign in at once, in a process of their own, while a hand logs.

Run by ``benchmarks strangers`` as ``python -m benchmarks.strangers ADDRESS COOKIE BATCH``; prints one line of JSON.
"""

import json
import sys
import threading
import time
import uuid
from datetime import UTC, datetime

import httpx2 as httpx
import numpy as np

STRANGERS = 60
QUIET, LEAST = 80, 40  # readings without strangers, and at least so many beside them
PAUSE_S = 0.02


def log_one(client: httpx.Client, batch: str) -> float:
    """How long a reading took to be accepted [s]."""
    entry = {
        "step": "cook", "quantity": "bath", "value": 62.8, "unit": "°C", "instrument": "probe-2",
        "taken_at": datetime.now(tz=UTC).isoformat(), "confirmed": True,
    }  # fmt: skip
    sent = time.perf_counter()
    found = client.post(f"/api/v1/batches/{batch}/readings", json=entry, headers={"Idempotency-Key": uuid.uuid4().hex})
    assert found.is_success, found.text
    return time.perf_counter() - sent


def knock(address: str, answers: list[int]) -> None:
    """One stranger, under a name that nobody has, who tries until the address is refused."""
    with httpx.Client(base_url=address, timeout=60) as client:
        body = {"name": f"Nobody {uuid.uuid4().hex[:8]}", "password": "not the password"}
        for _ in range(3):
            answers.append(client.post("/api/session", json=body).status_code)


def main(address: str, cookie: str, batch: str) -> None:
    """Quiet first, then beside the strangers."""
    client = httpx.Client(base_url=address, cookies={"brinefrost_session": cookie}, timeout=60)
    quiet: list[float] = []
    for _ in range(QUIET):
        quiet.append(log_one(client, batch))
        time.sleep(PAUSE_S)
    answers: list[int] = []
    threads = [threading.Thread(target=knock, args=(address, answers)) for _ in range(STRANGERS)]
    for each in threads:
        each.start()
    beside: list[float] = []
    while any(each.is_alive() for each in threads) or len(beside) < LEAST:
        beside.append(log_one(client, batch))
        time.sleep(PAUSE_S)
    found = {
        "quiet_ms": 1e3 * float(np.quantile(quiet[5:], 0.95)),
        "beside_ms": 1e3 * float(np.quantile(beside, 0.95)),
        "refused": sum(each == 429 for each in answers),
        "hashed": sum(each != 429 for each in answers),
    }
    print(json.dumps(found))


if __name__ == "__main__":
    main(*sys.argv[1:])
