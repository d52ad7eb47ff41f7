"""A hub of up to 16 channels that measures every few seconds, delivers in batches, and can be told to misbehave."""

import json
import random
import urllib.error
import urllib.request
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from math import exp
from typing import Any, Literal

from brinefrost.standins.truth import Truth

Fault = Literal["drop_outs", "drift", "stuck", "fahrenheit", "skewed", "doubled", "late", "pulled"]
MOST_CHANNELS = 16
DROPPED = 0.3  # of the samples, where it drops out
DRIFT_K_H, SKEW = 0.5, timedelta(minutes=7)
LATE = 12  # deliveries that one is held back for
NOISE = 0.05
NEEDLE_S = 20.0  # how fast a needle itself follows what it stands in [s]; common practice, no source

Send = Callable[[dict[str, Any]], dict[str, Any] | None]  # a delivery: what it was answered, or nothing where it failed


@dataclass
class Wire:
    """One channel: what is true there, what its probe reads, and how it misbehaves since when."""

    key: str
    truth: Truth
    unit: str = "°C"
    faults: dict[Fault, datetime] = field(default_factory=dict)
    outside: float = 21.0  # what lies beside the food
    last: float | None = None

    def read(self, now: datetime, chance: random.Random) -> tuple[float, str] | None:
        """What it shows, and in which unit it says so; nothing where it drops out."""
        since = {fault: at for fault, at in self.faults.items() if now >= at}
        if "drop_outs" in since and chance.random() < DROPPED:
            return None
        if "stuck" in since and self.last is not None:
            return self.last, self.unit
        value = self.truth(now) + chance.gauss(0.0, NOISE)
        if "pulled" in since:  # out of the food, into what lies beside it
            gone = (now - since["pulled"]).total_seconds() / NEEDLE_S
            value = self.outside + (value - self.outside) * exp(-gone)
        if "drift" in since:
            value += DRIFT_K_H * (now - since["drift"]).total_seconds() / 3600.0
        if "fahrenheit" in since:
            value = 1.8 * value + 32
        self.last = round(value, 2)
        return self.last, self.unit


@dataclass
class HubStandIn:
    """A hub over some wires. What could not be sent is kept and sent again, all of it, until it is answered."""

    wires: Sequence[Wire]
    send: Send
    seed: int = 1
    faults: frozenset[Fault] = frozenset()
    waiting: list[dict[str, Any]] = field(default_factory=list)
    _held: list[tuple[int, list[dict[str, Any]]]] = field(default_factory=list)
    _turn: int = 0

    def __post_init__(self) -> None:
        if len(self.wires) > MOST_CHANNELS:
            raise ValueError(f"A hub has {MOST_CHANNELS} channels at most.")
        self._chance = random.Random(self.seed)  # noqa: S311 (made-up measurements, not a secret)

    def measure(self, now: datetime) -> None:
        """Read every wire once, by the hub's own clock."""
        shown = now + (SKEW if "skewed" in self.faults else timedelta(0))
        for wire in self.wires:
            seen = wire.read(now, self._chance)
            if seen is not None:
                self.waiting.append({"channel": wire.key, "at": shown.isoformat(), "value": seen[0], "unit": seen[1]})

    def deliver(self, now: datetime) -> dict[str, Any] | None:
        """Send what waits; nothing where it was not answered, and then it waits on."""
        self._turn += 1
        if "late" in self.faults:
            self._held.append((self._turn + LATE, self.waiting))
            ready = [part for due, part in self._held if due <= self._turn]
            self._held = [(due, part) for due, part in self._held if due > self._turn]
            self.waiting = [sample for part in ready for sample in part]
        if not self.waiting:
            return None
        shown = now + (SKEW if "skewed" in self.faults else timedelta(0))
        answer = self.send({"sent_at": shown.isoformat(), "samples": self.waiting[:2000]})
        if answer is None:
            return None
        if "doubled" not in self.faults or self._turn % 2 == 0:
            self.waiting = self.waiting[2000:]
        return answer


def post_to(address: str, token: str, timeout_s: float = 5.0) -> Send:
    """Deliveries by HTTP to a server's address; one that is not answered is nothing, not an error."""

    def send(delivery: dict[str, Any]) -> dict[str, Any] | None:
        request = urllib.request.Request(  # noqa: S310 (the launcher gives the address)
            f"{address}/api/v1/samples",
            json.dumps(delivery).encode(),
            {"Content-Type": "application/json", "Authorization": f"Bearer {token}"},
        )
        try:
            with urllib.request.urlopen(request, timeout=timeout_s) as reply:  # noqa: S310
                return dict(json.load(reply))
        except (urllib.error.URLError, TimeoutError, ConnectionError):
            return None

    return send
