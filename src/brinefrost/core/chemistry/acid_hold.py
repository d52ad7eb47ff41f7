"""How long an unheated acid pack must stand before it is eaten."""

from brinefrost.core.bounds import PERCENT, PH, TEMPERATURE, bounded
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import say

DAY_S = 86400.0
SHOWN_PERCENT = 2.4  # 400 mmol/L, what was used


@bounded(ph=PH, acetic_percent=PERCENT, temperature_c=TEMPERATURE)
def hold_before_eating_s(ph: float, acetic_percent: float, temperature_c: float) -> float:
    """Hold for a 5-log of acid-tolerant *E. coli* O157 in an unheated pack.

    Parameters
    ----------
    ph : float
        Equilibrium pH [-].
    acetic_percent : float
        Acetic acid at equilibrium [% w/v].
    temperature_c : float
        The coldest the pack gets during the hold [°C].

    Returns
    -------
    float
        [s].

    Raises
    ------
    OutOfRangeError
        Above pH 3.3, below 2.4 % acetic, or colder than 10 °C: nothing was published there.

    Notes
    -----
    Valid at pH 3.3 or below with 2.4 % acetic (400 mmol/L), as it was shown, 10 °C or warmer. Colder is
    slower: warm packs die first.

    References
    ----------
    Breidt, Hayes & McFeeters (2007): 34 h at 25 °C, 5.7 days at 10 °C, used as 2 and 6 days.
    """
    if ph > 3.3 or acetic_percent < SHOWN_PERCENT or temperature_c < 10:
        raise OutOfRangeError(
            say("chemistry.acid_hold.a_hold_is_known_for_ph", shown_percent=SHOWN_PERCENT),
            ph=ph,
            acetic_percent=acetic_percent,
            temperature_c=temperature_c,
        )
    return 2 * DAY_S if temperature_c >= 25 else 6 * DAY_S
