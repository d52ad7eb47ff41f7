"""Jars for keeping: what may stand on a shelf, what belongs in the fridge, what must not be made this way."""

from dataclasses import dataclass
from typing import Literal

from brinefrost.core.bounds import PH, check
from brinefrost.core.chemistry.jar import vegetable
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Composition, Series
from brinefrost.core.rules import target

Fate = Literal["fridge", "scheduled", "never", "too_close"]
Cover = Literal["brine", "oil", "syrup"]
Storage = Literal["room", "fridge"]
FRIDGE_OIL_DAYS = 4  # stricter end of 4 to 7 days; published advice on garlic in oil (FDA, extension services)


@dataclass(frozen=True)
class JarFate:
    """What may become of a jar, and why."""

    fate: Fate
    reason: str
    fixes: tuple[str, ...]


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
        raise OutOfRangeError("Added time is tabled up to 2,440 m. Ask a process authority.", altitude_m=altitude_m)
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
        return JarFate("fridge", "Sour enough, and kept cold: no shelf life is claimed beyond the fridge.", ())
    if not centre_met:
        return JarFate(
            "fridge",
            "Sour, but the jar's centre has not had the heat its pH asks for.",
            ("Heat longer or hotter, by the centre of the jar, or keep it in the fridge.",),
        )
    lid = () if two_piece_lid else ("Use a new two-piece lid: a one-piece or reused lid goes to the fridge.",)
    return JarFate(
        "fridge" if lid else "scheduled",
        "Acid and heat are there. For the shelf the law asks besides for a scheduled process from a qualified "
        "authority.",
        (*lid, "Have the recipe and process scheduled before the first jar is kept warm."),
    )


def _too_close(name: str, storage: Storage, ph: float, doubt_ph: float) -> JarFate:
    return JarFate(
        "too_close",
        f"pH {ph:.2f}, known to ±{doubt_ph:g}, is too close to 4.6 to call: {name.lower()} may be low in acid.",
        (
            "Add acid and measure a blended sample again after 24 h; better 4.2 or below.",
            *(() if storage == "fridge" else ("Until then it belongs in the fridge.",)),
        ),
    )


def _under_oil(name: str, storage: Storage, sour: bool, acidified: bool, centre_met: bool, ph: float | None) -> JarFate:
    """Oil keeps the air out: only acid all through, then heat, then a scheduled process, lets it stand warm."""
    if sour and storage == "fridge":
        return JarFate("fridge", f"{name} at pH 4.6 or below, covered with oil and kept cold.", ())
    if sour and not centre_met:
        return JarFate(
            "fridge",
            f"{name} is sour under the oil, but the jar's centre has not had the heat its pH asks for.",
            ("Heat it by the centre of the jar, and have the process scheduled; or keep it in the fridge.",),
        )
    if sour:
        return JarFate(
            "scheduled",
            f"{name} at pH 4.6 or below, heated, then covered with oil.",
            ("For the shelf: a scheduled process from a qualified authority.",),
        )
    fixes = (
        f"Acidify {name.lower()} first: soak in 3 % citric acid until a blended sample is at pH 4.6 or below.",
        f"Or keep at 5 °C or below and discard after {FRIDGE_OIL_DAYS} days.",
        "Or freeze it in small portions.",
    )
    what = "low in acid" if ph is None or not acidified else f"at pH {ph:.1f}, above 4.6, although acid was added"
    if storage == "room":
        return JarFate(
            "never",
            f"{name} in oil is without air and {what}: C. botulinum grows and makes toxin at room temperature. "
            "A water bath does not kill its spores, and a lid that went down proves nothing.",
            fixes,
        )
    return JarFate("fridge", f"{name} in oil is without air and {what}: cold and days are all that hold it.", fixes)


def _low_acid(name: str, storage: Storage, ph: float | None) -> JarFate:
    known = "Its pH is not known" if ph is None else f"At pH {ph:.1f} it is above 4.6"
    acidify = "Add acid until a blended sample is at pH 4.6 or below, better 4.2, then heat it by its pH."
    if storage == "room":
        return JarFate(
            "never",
            f"{known}: {name.lower()} on the shelf needs pressure canning under a scheduled process. "
            "No water bath is enough.",
            (acidify, "Or keep it in the fridge and use it within days."),
        )
    return JarFate("fridge", f"{known}: keep it cold and use it within days.", (acidify,))
