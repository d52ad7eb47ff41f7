"""The ground of pH and salt on which a jar stands, with what may grow where."""

import numpy as np

from brinefrost.core.bench.answer import (
    Area,
    GroundPicture,
)
from brinefrost.core.limits import Composition
from brinefrost.core.microbes.organisms import organisms
from brinefrost.core.rules import target


def law_ph() -> float:
    """The pH that the law sets for acid food."""
    return target("ph-4.6", Composition).ways[0].bounds[0].value


def ground(ph: float, salt_percent: float) -> GroundPicture:
    """The map of pH [-] and salt in the water [%], what can grow where, and where this food stands.

    Valid for salt 0 to 20 % and pH 2.5 to 7: what lies beyond is drawn at the edge. Growth limits carry their own
    sources.
    """
    shown = ("c_botulinum_a", "c_botulinum_b", "listeria", "salmonella", "s_aureus", "c_perfringens")
    known = [(each, _salt_limit(each.min_aw, each.salt_percent)) for each in (organisms()[key] for key in shown)]
    areas = [
        Area(words=each.name, x_to=most, y_from=each.min_ph, lives=salt_percent <= most and ph >= each.min_ph)
        for each, most in known
    ]
    return GroundPicture(
        title="ground",
        areas=tuple(areas),
        x_low=0,
        x_high=20,
        y_low=2.5,
        y_high=7,
        law=law_ph(),
        at_x=min(max(salt_percent, 0.0), 20.0),
        at_y=min(max(ph, 2.5), 7.0),
    )


def _salt_limit(min_aw: float, stated: float | None) -> float:
    """Salt in the water that stops growth: as published, or where salt alone gives the least water activity."""
    if stated is not None:
        return stated
    return float(
        np.interp(
            -min_aw,
            [-1, -0.99, -0.98, -0.96, -0.94, -0.92, -0.90, -0.85, -0.83],
            [0, 1.72, 3.44, 6.55, 9.37, 11.9, 14.2, 19.1, 20],
        )
    )
