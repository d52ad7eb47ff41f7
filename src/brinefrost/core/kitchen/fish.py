"""Fish served raw or barely cooked: which must be frozen first, which make histamine, what guests must be told."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

from brinefrost.core.errors import NotFoundError
from brinefrost.core.rules import RuleSetId
from brinefrost.core.working import Document, Source

Origin = Literal["wild", "farmed_feed", "farmed_unknown"]


class Species(Document):
    """One species and its flags."""

    key: str
    name: str
    latin: str
    parasites: bool
    scombroid: bool
    farmed: bool
    tuna: bool = False
    mollusc: bool = False
    bivalve: bool = False


class Need(Document):
    """Whether a fish must be frozen before it is served raw, and why."""

    needed: bool
    because: str
    paper: str = ""
    source: Source


@lru_cache(maxsize=1)
def species() -> dict[str, Species]:
    """All species by key."""
    text = resources.files(__name__.rpartition(".")[0]).joinpath("species.toml").read_text(encoding="utf-8")
    found = [Species.model_validate(each) for each in tomllib.loads(text)["species"]]
    return {each.key: each for each in found}


def species_of(key: str) -> Species:
    """The species of a key."""
    if key not in species():
        raise NotFoundError(f"Nothing is known here of “{key}”.", species=key)
    return species()[key]


def freezing_need(kind: Species, origin: Origin, rule_set_id: RuleSetId) -> Need:
    """Whether freezing must come before serving it raw.

    Parameters
    ----------
    kind : Species
        With its flags.
    origin : str
        ``wild``, ``farmed_feed`` (parasite-free feed, with the supplier's letter) or ``farmed_unknown``.
    rule_set_id : str
        ``us``, ``uk``, ``eu`` or ``anz``.

    Returns
    -------
    Need
        With its reason, and the paper an exemption rests on.

    Raises
    ------
    ValueError
        Never for known values.

    Notes
    -----
    Valid for fish served raw, marinated or barely cooked. ``anz`` sets no figure; the strictest reading is taken.

    References
    ----------
    FDA Food Code 2022, 3-402.11(B); Reg. (EC) 853/2004 annex III sect. VIII ch. III D 3.
    """
    us = Source(citation="FDA Food Code 2022, 3-402.11", tag="published")
    eu = Source(citation="Reg. (EC) 853/2004 annex III sect. VIII ch. III D", tag="published")
    source = us if rule_set_id == "us" else eu
    if kind.mollusc:
        return Need(needed=False, because=f"{kind.name}: molluscan shellfish are exempt.", source=source)
    if not kind.parasites:
        return Need(needed=False, because=f"{kind.name} is not among the fish with a parasite hazard.", source=source)
    if origin == "farmed_feed":
        return Need(
            needed=False,
            because="Farmed on feed that holds no live parasites.",
            paper="The supplier's letter, kept for 90 days after the fish is sold."
            if rule_set_id == "us"
            else "The supplier's declaration with the lot.",
            source=source,
        )
    if kind.tuna and rule_set_id == "us":
        return Need(
            needed=False,
            because=f"{kind.latin} is one of the six tunas that are exempt.",
            paper="Species on the invoice or label.",
            source=us,
        )
    wild = "Wild fish" if origin == "wild" else "Farmed fish without the supplier's letter"
    return Need(needed=True, because=f"{wild}: Anisakis and tapeworm larvae survive salt and acid.", source=source)


def advisory(rule_set_id: RuleSetId) -> str:
    """What the menu says beside a raw or undercooked dish.

    Parameters
    ----------
    rule_set_id : str
        ``us``, ``uk``, ``eu`` or ``anz``.

    Returns
    -------
    str
        Wording to print.

    Raises
    ------
    ValueError
        Never for a known rule set.

    Notes
    -----
    Valid for general guests; nothing raw goes to guests at higher risk.

    References
    ----------
    FDA Food Code 2022, 3-603.11 for ``us``; elsewhere common practice.
    """
    if rule_set_id == "us":
        return (
            "*Served raw or undercooked. Consuming raw or undercooked meats, poultry, seafood, shellfish or eggs may "
            "increase your risk of foodborne illness."
        )
    return "Served raw or lightly cooked. Not advised in pregnancy, for infants, or for people whose immunity is low."
