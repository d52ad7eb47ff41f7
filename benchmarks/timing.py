"""How long a piece of work takes."""

import statistics
import time
from collections.abc import Callable


def seconds(work: Callable[[], object], runs: int = 15) -> float:
    """Median of several runs after one to warm up [s]."""
    work()
    times = []
    for _ in range(runs):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return statistics.median(times)
