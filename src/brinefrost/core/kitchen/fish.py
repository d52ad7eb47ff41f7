"""Fish served raw or barely cooked: which must be frozen first, which make histamine, what guests must be told."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

from brinefrost.core.errors import NotFoundError
from brinefrost.core.rules import RuleSetId, rule_set
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document, Source

Origin = Literal["wild", "farmed_feed", "farmed_unknown"]


class Species(Document):
    """One species and its flags."""

    key: str
    name: Words
    latin: str
    parasites: bool
    scombroid: bool
    farmed: bool
    tuna: bool = False
    mollusc: bool = False
    bivalve: bool = False
    crustacean: bool = False  # the Food Code asks it of them too; Reg. (EC) 853/2004 of fin fish and cephalopods alone


class Need(Document):
    """Whether a fish must be frozen before it is served raw, and why."""

    needed: bool
    because: Words
    paper: Words = ""
    source: Source


@lru_cache(maxsize=1)
def species() -> dict[str, Species]:
    """All species by key."""
    text = resources.files(__name__.rpartition(".")[0]).joinpath("species.toml").read_text(encoding="utf-8")
    rows = tomllib.loads(text)["species"]
    return {row["key"]: Species(**row, name=say(f"law.species.{row['key']}_name")) for row in rows}


def species_of(key: str) -> Species:
    """The species of a key."""
    if key not in species():
        raise NotFoundError(say("kitchen.fish.nothing_is_known_here_of", key=key), species=key)
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

    Notes
    -----
    Valid for fish served raw, marinated or barely cooked. ``anz`` sets no figure; the strictest reading is taken.

    References
    ----------
    FDA Food Code 2022, 3-402.11(B); Reg. (EC) 853/2004 annex III sect. VIII ch. III D 3.
    """
    is_us = rule_set(rule_set_id).family == "us"
    us = Source(citation="FDA Food Code 2022, 3-402.11", tag="published")
    eu = Source(citation="Reg. (EC) 853/2004 annex III sect. VIII ch. III D", tag="published")
    source = us if is_us else eu
    if kind.mollusc:
        return Need(
            needed=False, because=say("kitchen.fish.molluscan_shellfish_are_exempt", name=kind.name), source=source
        )
    if not kind.parasites and not (is_us and kind.crustacean):
        return Need(needed=False, because=say("kitchen.fish.is_not_among_the_fish_with", name=kind.name), source=source)
    if origin == "farmed_feed":
        return Need(
            needed=False,
            because=say("kitchen.fish.farmed_on_feed_that_holds_no"),
            paper="The supplier's letter, kept for 90 days after the fish is sold."
            if is_us
            else "The supplier's declaration with the lot.",
            source=source,
        )
    if kind.tuna and is_us:
        return Need(
            needed=False,
            because=say("kitchen.fish.is_one_of_the_six_tunas", latin=kind.latin),
            paper="Species on the invoice or label.",
            source=us,
        )
    wild = (
        say("kitchen.fish.wild_fish")
        if origin == "wild"
        else say("kitchen.fish.farmed_fish_without_the_suppliers_letter")
    )
    return Need(
        needed=True, because=say("kitchen.fish.anisakis_and_tapeworm_larvae_survive_sal", wild=wild), source=source
    )


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

    Notes
    -----
    Valid for general guests; nothing raw goes to guests at higher risk.

    References
    ----------
    FDA Food Code 2022, 3-603.11 for ``us``; elsewhere common practice.
    """
    if rule_set(rule_set_id).family == "us":
        return say("kitchen.fish.served_raw_or_undercooked_consuming_raw")
    return say("kitchen.fish.served_raw_or_lightly_cooked_not")
