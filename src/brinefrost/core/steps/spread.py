"""How often a heat or a chill would fail if its piece, start, surroundings and probe vary as they usually do."""

from brinefrost.core.limits import Cooling, Lethality, Limit
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.robustness import USUAL, repeat, repeat_chill
from brinefrost.core.steps.base import Chance


def heated(heating: Heating, limit: Limit, duration_s: float) -> Chance | None:
    """Ten thousand times so long in the heat [s]; None for what is no lethality.

    Valid as ``repeat``.
    """
    if not isinstance(limit, Lethality):
        return None
    done = repeat(heating, limit.model.law(), duration_s, USUAL)
    return Chance(done.failing_share, done.failing_error, done.matters)


def chilled(chilling: Heating, limit: Limit) -> Chance | None:
    """Ten thousand times in the cold; None for what is no cooling in stages, or where the cold is not cold enough.

    Valid as ``repeat_chill``.
    """
    if not isinstance(limit, Cooling) or chilling.surroundings_c >= limit.stages[-1].to_c:
        return None
    stages = tuple((stage.to_c, stage.within_s, stage.further) for stage in limit.stages)
    return Chance(*repeat_chill(chilling, limit.from_c, stages, USUAL))
