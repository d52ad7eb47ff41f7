"""Lone readings that no food could have had."""

import numpy as np
from numpy.typing import NDArray

SPIKE_K = 8.0  # a lone reading this far from both neighbours is a fault, not food; common practice, no source


def lone_spikes(values_c: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Which readings stand alone, far from both neighbours that agree with each other.

    True for a lone spike, (n,); never the first or the last. Valid for loggers whose spacing is short against the
    food: a core does not jump 8 K there and back. ``values_c`` [°C]. Common practice, no source.
    """
    found = np.zeros(len(values_c), dtype=bool)
    if len(values_c) < 3:
        return found
    up, down = values_c[1:-1] - values_c[:-2], values_c[1:-1] - values_c[2:]
    alone = np.minimum(np.abs(up), np.abs(down)) > SPIKE_K
    found[1:-1] = alone & (up * down > 0) & (np.abs(values_c[:-2] - values_c[2:]) < SPIKE_K)
    return found
