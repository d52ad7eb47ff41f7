"""What is known of each organism: where it grows, how long it may be exposed, how fast it grows."""

import tomllib
from functools import lru_cache
from importlib import resources

from pydantic import Field

from brinefrost.core.bounds import PH, SHARE, bounded
from brinefrost.core.errors import NotFoundError
from brinefrost.core.words import say
from brinefrost.core.working import Document, Source

GUIDE = Source(
    citation="FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4, from memory, verify",
    tag="published_from_memory",
)


class Band(Document):
    """From this temperature up to the next band's: the whole time allowed."""

    from_c: float
    within_s: float = Field(gt=0)


class GrowthModel(Document):
    """Cardinal temperatures [°C], pH and water activity, and the rate [1/h] where all are best."""

    min_c: float
    opt_c: float
    max_c: float
    rate_per_h: float
    min_ph: float
    opt_ph: float
    max_ph: float
    min_aw: float
    lag: float


class Organism(Document):
    """One organism."""

    key: str
    name: str
    min_c: float
    max_c: float
    min_ph: float
    min_aw: float
    salt_percent: float | None = None
    bands: tuple[Band, ...]
    growth: GrowthModel | None = None
    toxin: bool = False  # what it makes stays when it is killed


@lru_cache(maxsize=1)
def organisms() -> dict[str, Organism]:
    """All organisms by their key."""
    text = resources.files(__name__.rpartition(".")[0]).joinpath("organisms.toml").read_text(encoding="utf-8")
    found = [Organism.model_validate(each) for each in tomllib.loads(text)["organisms"]]
    return {each.key: each for each in found}


def organism(key: str) -> Organism:
    """The organism of a key."""
    if key not in organisms():
        raise NotFoundError(say("microbes.organisms.nothing_is_known_here_of", key=key), organism=key)
    return organisms()[key]


@bounded(ph=PH, aw=SHARE)
def grows_at(each: Organism, ph: float, aw: float) -> bool:
    """Whether it can grow at this pH and water activity.

    Parameters
    ----------
    each : Organism
        The organism.
    ph, aw : float
        Of the food, each at its best otherwise [-].

    Returns
    -------
    bool
        True unless one of them alone stops it.

    Raises
    ------
    ValueError
        Never for finite numbers.

    Notes
    -----
    Valid as single hurdles: two half hurdles together may stop it too, which this does not claim.

    References
    ----------
    FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4.
    """
    return ph >= each.min_ph and aw >= each.min_aw
