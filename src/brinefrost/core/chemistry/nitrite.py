"""Ingoing nitrite by every method, both ways."""

from typing import Literal

from brinefrost.core.bounds import ABOVE_0, MASS, PERCENT, PPM, SOME_MASS, Bound, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import kg, num, say

Method = Literal["dry", "immersion", "equilibrium", "pumped"]
NO2_OF_NANO2 = 46.006 / 68.995  # molar masses: ion of salt
LEAST_KG = 1e-6  # less than a milligram of brine is none
CURES = {  # sodium nitrite in the curing salt, % by mass: label values (published)
    "no1": 6.25,
    "no2": 6.25,
    "eu_0.6": 0.6,
    "eu_0.5": 0.5,
    "eu_0.4": 0.4,
    "pure": 100.0,
}
NITRATES = {"no2": 4.0}  # sodium nitrate beside it, % by mass: label value (published)


@bounded(cure_kg=MASS, nitrite_percent=PERCENT, meat_kg=SOME_MASS, brine_kg=MASS, uptake_percent=PERCENT)
def ingoing_ppm(
    method: Method,
    cure_kg: float,
    nitrite_percent: float,
    meat_kg: float,
    brine_kg: float = 0.0,
    uptake_percent: float = 0.0,
) -> float:
    """Ingoing sodium nitrite.

    Parameters
    ----------
    method : str
        ``dry`` (rubbed or comminuted), ``immersion`` (taken up with brine), ``equilibrium`` (meat and brine at
        rest) or ``pumped``.
    cure_kg : float
        Curing salt [kg]; in the brine, for all but ``dry``.
    nitrite_percent : float
        NaNO2 in the curing salt, from its label [%].
    meat_kg : float
        Green mass [kg].
    brine_kg : float
        Whole brine, the curing salt included [kg].
    uptake_percent : float
        Brine taken up or pumped, on green mass [%].

    Returns
    -------
    float
        NaNO2 on green mass [mg/kg]; for ``equilibrium`` on meat and brine together.

    Raises
    ------
    OutOfRangeError
        If an amount the method needs is not above zero, or the label's share not 0 to 100 %.

    Notes
    -----
    Valid for ingoing, not residual, nitrite.

    References
    ----------
    USDA-FSIS Processing Inspectors' Calculations Handbook (1995): dry and comminuted on green mass; immersion and
    pumped by uptake; or equilibrium over meat and brine. Its worked example: 0.25 lb pure in 100 lb = 2500 ppm scale.
    """
    if not 0 < nitrite_percent <= 100 or cure_kg < 0 or not meat_kg > 0:
        raise OutOfRangeError(say("chemistry.nitrite.meat_curing_salt_and_the_labels"))
    holds = meat_kg if method == "dry" else brine_kg
    if cure_kg > holds > LEAST_KG:
        raise OutOfRangeError(
            say(
                "chemistry.nitrite.of_curing_salt_cannot_be_in",
                cure=kg(cure_kg),
                holds=kg(holds),
                more=say("chemistry.nitrite.meat_it_goes_into")
                if method == "dry"
                else say("chemistry.nitrite.brine_it_goes_into"),
            ),
            cure_kg=cure_kg,
        )
    nitrite = cure_kg * nitrite_percent / 100
    if method == "dry":
        return nitrite / meat_kg * 1e6
    if brine_kg < LEAST_KG:
        raise OutOfRangeError(say("chemistry.nitrite.this_method_needs_the_mass_of"), method=method)
    if method == "equilibrium":
        return nitrite / (meat_kg + brine_kg) * 1e6
    if not 0 < uptake_percent <= 100:
        raise OutOfRangeError(say("chemistry.nitrite.this_method_needs_the_brine_taken"), method=method)
    return nitrite / brine_kg * uptake_percent / 100 * 1e6


@bounded(ppm=PPM, nitrite_percent=PERCENT, meat_kg=SOME_MASS, brine_kg=MASS, uptake_percent=PERCENT)
def cure_for_ppm_kg(
    method: Method,
    ppm: float,
    nitrite_percent: float,
    meat_kg: float,
    brine_kg: float = 0.0,
    uptake_percent: float = 0.0,
) -> float:
    """Curing salt for an ingoing nitrite.

    Parameters
    ----------
    method : str
        As ``ingoing_ppm``.
    ppm : float
        NaNO2 wanted [mg/kg].
    nitrite_percent, meat_kg, brine_kg, uptake_percent : float
        As ``ingoing_ppm``.

    Returns
    -------
    float
        [kg].

    Raises
    ------
    OutOfRangeError
        As ``ingoing_ppm``, or for more than 1000 ppm.

    Notes
    -----
    Valid as ``ingoing_ppm``, of which it is the inverse: the answer is proportional to the curing salt.

    References
    ----------
    As ``ingoing_ppm``.
    """
    if not 0 <= ppm <= 1000:
        raise OutOfRangeError(say("chemistry.nitrite.ask_for_0_to_1000_ppm"), ppm=ppm)
    part = (meat_kg if method == "dry" else brine_kg) / 1000  # a thousandth: the answer is in proportion to it
    if not part > LEAST_KG:
        raise OutOfRangeError(say("chemistry.nitrite.this_method_needs_the_mass_of"), method=method)
    return part * ppm / ingoing_ppm(method, part, nitrite_percent, meat_kg, brine_kg, uptake_percent)


@bounded(nano2_ppm=PPM)
def as_ion_ppm(nano2_ppm: float) -> float:
    """Nitrite as the ion, as newer European limits count it.

    Parameters
    ----------
    nano2_ppm : float
        As sodium nitrite [mg/kg].

    Returns
    -------
    float
        As NO2⁻ [mg/kg].

    Raises
    ------
    OutOfRangeError
        If negative.

    Notes
    -----
    Valid exactly: 120 mg/kg NaNO2 are 80 mg/kg NO2⁻.

    References
    ----------
    Molar masses 68.995 and 46.006 g/mol (IUPAC).
    """
    if nano2_ppm < 0:
        raise OutOfRangeError(say("chemistry.nitrite.nitrite_cannot_be_negative"), ppm=nano2_ppm)
    return nano2_ppm * NO2_OF_NANO2


@bounded(ppm=Bound(0.0, 1e12, "ppm"), limit_ppm=ABOVE_0)
def slip_suspected(ppm: float, limit_ppm: float) -> str | None:
    """A tenfold slip, either way.

    Parameters
    ----------
    ppm, limit_ppm : float
        Ingoing and greatest allowed, as sodium nitrite [mg/kg].

    Returns
    -------
    str or None
        What may have happened, or None.

    Raises
    ------
    OutOfRangeError
        If the limit is not above zero.

    Notes
    -----
    Valid as a question to ask, not a verdict.

    References
    ----------
    Common practice, no source.
    """
    if not limit_ppm > 0:
        raise OutOfRangeError(say("chemistry.nitrite.the_limit_must_be_above_zero"), limit_ppm=limit_ppm)
    if ppm > 3 * limit_ppm:
        return say("chemistry.nitrite.ppm_is_times_the_limit_a", ppm=num(ppm, ".0f"), ppm2=num(ppm / limit_ppm, ".1f"))
    if 0 < ppm < limit_ppm / 5:
        return say("chemistry.nitrite.ppm_is_too_little_to_hold", ppm=num(ppm, ".0f"))
    return None
