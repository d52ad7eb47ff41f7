"""Jars for keeping: what may stand on a shelf, what belongs in the fridge, what must not be made this way."""

from dataclasses import dataclass
from typing import Literal

from brinefrost.core.bounds import PH, check
from brinefrost.core.chemistry.jar import vegetable
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Composition, Series
from brinefrost.core.rules import target
from brinefrost.core.words import Words, lowered, num, say

Fate = Literal["fridge", "scheduled", "never", "too_close"]
Cover = Literal["brine", "oil", "syrup"]
Storage = Literal["room", "fridge"]
FRIDGE_OIL_DAYS = 4  # stricter end of 4 to 7 days; published advice on garlic in oil (FDA, extension services)


@dataclass(frozen=True)
class JarFate:
    """What may become of a jar, and why."""

    fate: Fate
    reason: Words
    fixes: tuple[Words, ...]


def added_minutes(altitude_m: float) -> int:
    """Minutes to add to a boiling-water process.

    Parameters
    ----------
    altitude_m : float
        [m].

    Returns
    -------
    int
        [min].

    Raises
    ------
    OutOfRangeError
        Outside -100 to 2,440 m: above, the tables end.

    Notes
    -----
    Valid for the usual 5 to 10 min processes of acid packs.

    References
    ----------
    NCHFP (University of Georgia): +5 min at 305 to 1,830 m, +10 min to 2,440 m; from memory, verify.
    """
    if not -100 <= altitude_m <= 2440:
        raise OutOfRangeError(say("kitchen.jars.added_time_is_tabled_up_to"), altitude_m=altitude_m)
    return 0 if altitude_m < 305 else 5 if altitude_m <= 1830 else 10


def fate_of(
    contents: str,
    cover: Cover,
    storage: Storage,
    ph: float | None,
    centre_met: bool,
    two_piece_lid: bool,
    acidified: bool,
    doubt_ph: float = 0.0,
) -> JarFate:
    """What may become of a jar.

    Parameters
    ----------
    contents : str
        A vegetable's key.
    cover : str
        ``brine``, ``oil`` or ``syrup``.
    storage : str
        ``room`` or ``fridge``.
    ph : float or None
        Equilibrium pH of a blended sample, or as predicted; None when not known [-].
    centre_met : bool
        Whether the jar's centre gathered the lethality its pH asks for.
    two_piece_lid : bool
        A lid made for sealing once.
    acidified : bool
        Acid was added to what is under the oil.
    doubt_ph : float
        How surely the pH is known, of the meter or of the prediction [-].

    Returns
    -------
    JarFate
        ``fridge``, ``scheduled`` (shelf-stable only under a scheduled process), ``never`` (not this way) or
        ``too_close`` (the pH is too near the law line to say).

    Raises
    ------
    NotFoundError
        If the contents are not known.

    Notes
    -----
    Valid as the stricter reading. A lid that went down proves a vacuum, nothing else.

    References
    ----------
    21 CFR 113 and 114; NCHFP; FDA advice on vegetables in oil.
    """
    check("doubt_ph", doubt_ph, PH)
    kind = vegetable(contents)
    law = target("ph-4.6", Composition)
    state = "not_measured" if ph is None else law.evaluate(Series.of(ph, doubt_ph, "computed"), 0.0).state
    sour = state == "pass"
    if state == "too_close" and ph is not None and (cover != "oil" or acidified):
        return _too_close(kind.name, storage, ph, doubt_ph)
    if cover == "oil":
        return _under_oil(kind.name, storage, sour, acidified, centre_met, ph)
    if not sour:
        return _low_acid(kind.name, storage, ph)
    if storage == "fridge":
        return JarFate("fridge", say("kitchen.jars.sour_enough_and_kept_cold_no"), ())
    if not centre_met:
        return JarFate(
            "fridge",
            say("kitchen.jars.sour_but_the_jars_centre_has"),
            (say("kitchen.jars.heat_longer_or_hotter_by_the"),),
        )
    lid = () if two_piece_lid else (say("kitchen.jars.use_a_new_two_piece_lid"),)
    return JarFate(
        "fridge" if lid else "scheduled",
        say("kitchen.jars.acid_and_heat_are_there_for"),
        (*lid, say("kitchen.jars.have_the_recipe_and_process_scheduled")),
    )


def _too_close(name: str, storage: Storage, ph: float, doubt_ph: float) -> JarFate:
    return JarFate(
        "too_close",
        say("kitchen.jars.ph_known_to_is_too_close", ph=num(ph, ".2f"), doubt_ph=num(doubt_ph), name=lowered(name)),
        (
            say("kitchen.jars.add_acid_and_measure_a_blended"),
            *(() if storage == "fridge" else (say("kitchen.jars.until_then_it_belongs_in_the"),)),
        ),
    )


def _under_oil(name: str, storage: Storage, sour: bool, acidified: bool, centre_met: bool, ph: float | None) -> JarFate:
    """Oil keeps the air out: only acid all through, then heat, then a scheduled process, lets it stand warm."""
    if sour and storage == "fridge":
        return JarFate("fridge", say("kitchen.jars.at_ph_4_6_or_below", name=name), ())
    if sour and not centre_met:
        return JarFate(
            "fridge",
            say("kitchen.jars.is_sour_under_the_oil_but", name=name),
            (say("kitchen.jars.heat_it_by_the_centre_of"),),
        )
    if sour:
        return JarFate(
            "scheduled",
            say("kitchen.jars.at_ph_4_6_or_below_2", name=name),
            (say("kitchen.jars.for_the_shelf_a_scheduled_process"),),
        )
    fixes = (
        say("kitchen.jars.acidify_first_soak_in_3_citric", name=lowered(name)),
        say("kitchen.jars.or_keep_at_or_below_and", fridge_oil_days=FRIDGE_OIL_DAYS),
        say("kitchen.jars.or_freeze_it_in_small_portions"),
    )
    what = (
        say("kitchen.jars.low_in_acid")
        if ph is None or not acidified
        else say("kitchen.jars.at_ph_above_4_6_although", ph=num(ph, ".1f"))
    )
    if storage == "room":
        return JarFate(
            "never",
            say("kitchen.jars.in_oil_is_without_air_and", name=name, what=what),
            fixes,
        )
    return JarFate("fridge", say("kitchen.jars.in_oil_is_without_air_and_2", name=name, what=what), fixes)


def _low_acid(name: str, storage: Storage, ph: float | None) -> JarFate:
    known = (
        say("kitchen.jars.its_ph_is_not_known")
        if ph is None
        else say("kitchen.jars.at_ph_it_is_above_4", ph=num(ph, ".1f"))
    )
    acidify = say("kitchen.jars.add_acid_until_a_blended_sample")
    if storage == "room":
        return JarFate(
            "never",
            say("kitchen.jars.on_the_shelf_needs_pressure_canning", known=known, name=lowered(name)),
            (acidify, say("kitchen.jars.or_keep_it_in_the_fridge")),
        )
    return JarFate("fridge", say("kitchen.jars.keep_it_cold_and_use_it", known=known), (acidify,))
