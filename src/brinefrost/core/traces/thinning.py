"""A long log in fewer readings, with every extreme kept."""

from itertools import pairwise

import numpy as np

from brinefrost.core.physics.body import Array

MOST_READINGS = 12_000  # of a channel: 24 h at one in 7 s


def thin(times_s: Array, values: Array, most: int = MOST_READINGS) -> tuple[Array, Array, float]:
    """Readings in time order, of every stretch the lowest and the highest, the first and the last of all; and the
    longest a stretch may be [s], 0 where nothing was left out.

    Valid for times that do not fall. No reading lies beyond those kept, so no limit is met that was not.
    """
    if len(times_s) <= most:
        return times_s, values, 0.0
    edges = np.linspace(0, len(times_s), most // 2 + 1).astype(int)
    keep = {0, len(times_s) - 1}
    for begin, end in pairwise(edges.tolist()):
        part = values[begin:end]
        keep |= {begin + int(np.argmin(part)), begin + int(np.argmax(part))}
    index = np.array(sorted(keep))
    return times_s[index], values[index], 2.0 * float(np.median(np.diff(times_s))) * (len(times_s) / (most // 2))
