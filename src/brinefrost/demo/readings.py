"""What a plan's checks read where all goes as planned: the steps' own walk, and each instrument's noise."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from random import Random

import numpy as np

from brinefrost.core.limits import Series
from brinefrost.core.plans.legs import Leg
from brinefrost.core.plans.monitored import AGAIN
from brinefrost.core.quantities import QUANTITIES, Quantity
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Monitoring
from brinefrost.demo.making import noisy

SAMPLES = 90  # of a logger's file
ABOVE_K = 3.0  # how far above its line food is held hot
ORDER_LATE = timedelta(minutes=3)  # between two steps
SCATTER = {"ph": 0.03, "aw": 0.001, "mass": 0.001, "lid": 0.0, "looks": 0.0}  # of what is not a temperature


def check_times(item: Monitoring, length_s: float) -> list[float]:
    """When a check falls, from the start of its step of a length [s]; one without a time falls just before the end.

    Valid for every check of a plan.
    """
    found = [offset for offset in item.offsets_s if offset <= length_s]
    if item.every_s:
        found += [float(t) for t in np.arange(item.every_s, length_s + ORDER_LATE.total_seconds() - 60, item.every_s)]
    before_end = 60.0 if item.id.endswith(AGAIN) else 120.0
    return sorted(set(found)) or [max(length_s - before_end, 0.0)]


RECEIVED_K = 4.5  # goods come in so far below what would surprise


def value_of(
    leg: Leg, item: Monitoring, seconds: float, other: Mapping[tuple[str, Quantity], Series], chance: Random
) -> float:
    """What an instrument reads at a time of a step [s]: the walk's own value and a little noise.

    Valid for every check of a plan that was walked.
    """
    series = other.get((leg.step.id, item.quantity))
    truth = kind_of(leg.step).simulate(leg.step, Context(), np.array([seconds]))
    if series is not None and item.quantity not in truth:
        truth = {item.quantity: np.interp([seconds], series.times_s, series.values)}
    if item.quantity in truth:
        off = chance.gauss(0, SCATTER.get(item.quantity, 0.12))
        return round(float(truth[item.quantity][0]) + off, QUANTITIES[item.quantity].decimals)
    around = kind_of(leg.step).around_c(leg.step)
    if item.quantity == "bath" and around is not None:
        return noisy(around, chance, 0.1)
    if "receives" in kind_of(leg.step).acts(leg.step):
        return noisy(item.expected_high_c - RECEIVED_K, chance)
    brought = kind_of(leg.step).brings_to_c(leg.step)
    if item.quantity == "core" and "heats" in kind_of(leg.step).acts(leg.step) and brought is not None:
        return noisy(brought, chance)
    if item.quantity in ("air", "bath"):
        return noisy((around if around is not None else item.expected_high_c - 1) - 1.4, chance, 0.15)
    above = ABOVE_K if "holds" in kind_of(leg.step).acts(leg.step) else -0.1
    return noisy(float(np.interp(seconds, leg.times_s, leg.core_c)) + above, chance)


def logged(leg: Leg, begins: datetime, chance: Random) -> bytes:
    """A leg as a logger writes it, begun then. Valid for legs whose core was walked."""
    lines = ["timestamp,core_c"]
    for time in np.linspace(0.0, leg.length_s, max(SAMPLES, int(leg.length_s // 600) + 1)):
        stamp = (begins + timedelta(seconds=float(time))).strftime("%Y-%m-%dT%H:%M:%SZ")
        core = float(np.interp(time, leg.times_s, leg.core_c)) + chance.gauss(0, 0.05)
        lines.append(f"{stamp},{core:.2f}")
    return ("\n".join(lines) + "\n").encode()
