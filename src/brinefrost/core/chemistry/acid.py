"""pH of a jar by the balance of charges: acids, their salts, and the vegetable as a buffer."""

from dataclasses import dataclass, field

import numpy as np

from brinefrost.core.bounds import ABOVE_0, Bound, bounded, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.roots import zero_of
from brinefrost.core.words import joined, num, say

# pKa at 25 °C, zero ionic strength (CRC Handbook of Chemistry and Physics) and g/mol
ACIDS: dict[str, tuple[tuple[float, ...], float]] = {
    "acetic": ((4.756,), 60.052),
    "citric": ((3.128, 4.761, 6.396), 192.124),
    "lactic": ((3.86,), 90.078),
    "malic": ((3.40, 5.11), 134.087),
    "tartaric": ((3.04, 4.37), 150.087),
}
# g/L that a per cent w/v adds to the density of water, CRC Handbook of Chemistry and Physics, from memory: 10 % w/v
# citric 1.037, tartaric 1.045, malic 1.040, lactic 1.023, acetic 1.012 kg/L
PKW = 13.995
DAVIES_A = 0.509
STRONGEST_MOL_KG = 5.0  # acids and salts together of one kind; kitchens stay below, the model was checked to 2
MOST_TITRATED = 100.0
STRONGEST_I = 0.5  # mol/kg; Davies' equation is good up to here


@dataclass(frozen=True)
class Solution:
    """What is in all the water of a jar, per kg of that water."""

    acids_mol_kg: dict[str, float] = field(default_factory=dict)
    base_mol_kg: float = 0.0  # sodium from salts of acids
    salt_mol_kg: float = 0.0
    buffer_mol_kg: float = 0.0  # H⁺ the vegetable takes up per pH unit
    buffer_ph: float = 6.0  # where the vegetable stands by itself


@dataclass(frozen=True)
class Balance:
    """The pH found and what it was found with."""

    ph: float
    ionic_strength_mol_kg: float
    undissociated: dict[str, float]


def balance(solution: Solution, ideal: bool = False) -> Balance:
    """pH at which the charges balance.

    Parameters
    ----------
    solution : Solution
        Acids, sodium of their salts and common salt [mol/kg water], buffer of the vegetable [mol/kg·pH].
    ideal : bool
        Leave activity coefficients out.

    Returns
    -------
    Balance
        pH [-], ionic strength [mol/kg], undissociated share of each acid [-].

    Raises
    ------
    OutOfRangeError
        If an acid is not known, an amount is negative, or no pH from 0 to 13 balances.

    Notes
    -----
    Valid near 25 °C, up to about 2 mol/kg of acids. Activities by Davies up to an ionic strength of 0.5 mol/kg;
    beyond, its value there is kept, which in strong brine errs by about 0.1.

    References
    ----------
    Electroneutrality; pKa from the CRC Handbook of Chemistry and Physics; Davies (1962). Compared with PHREEQC
    in tests.
    """
    for name, amount in solution.acids_mol_kg.items():
        check(name, amount, Bound(0.0, STRONGEST_MOL_KG, "mol/kg"))
    for name in ("base_mol_kg", "buffer_mol_kg"):
        check(name, getattr(solution, name), Bound(0.0, STRONGEST_MOL_KG, "mol/kg"))
    check("salt_mol_kg", solution.salt_mol_kg, Bound(0.0, 7.0, "mol/kg"))
    check("buffer_ph", solution.buffer_ph, Bound(0.0, 14.0, "pH"))
    unknown = set(solution.acids_mol_kg) - set(ACIDS)
    amounts = (*solution.acids_mol_kg.values(), solution.base_mol_kg, solution.salt_mol_kg, solution.buffer_mol_kg)
    if unknown or min(amounts) < 0:
        raise OutOfRangeError(
            say("chemistry.acid.known_acids_are_in_amounts_above", acids=joined(ACIDS, ", ")), unknown=sorted(unknown)
        )
    strength = solution.salt_mol_kg + solution.base_mol_kg
    found, before = 7.0, -1.0
    for _ in range(1 if ideal else 8):  # ionic strength and pH settle together
        if found == before:
            break
        factors = [1.0, 1.0, 1.0, 1.0] if ideal else [_activity(charge, strength) for charge in range(4)]

        def excess(ph: float, factors: list[float] = factors) -> float:
            return _positive(solution, ph, factors) - _negative(solution, ph, factors)[0]

        before, found = found, zero_of(excess, 0.0, 13.0, 1e-6)
        anions = _negative(solution, found, factors)[1]
        free = 10**-found / factors[1]
        strength = solution.salt_mol_kg + (solution.base_mol_kg + free + anions) / 2
    shares = {name: _shares(name, found, factors)[0] for name in solution.acids_mol_kg}
    return Balance(found, strength, shares)


@bounded(base_ml=ABOVE_0, base_mol_l=ABOVE_0, sample_g=ABOVE_0)
def titratable_acidity_percent(base_ml: float, base_mol_l: float, sample_g: float) -> float:
    """Titratable acidity as acetic acid.

    Parameters
    ----------
    base_ml : float
        NaOH used to pH 8.2 [mL].
    base_mol_l : float
        Its strength [mol/L].
    sample_g : float
        [g].

    Returns
    -------
    float
        [% acetic].

    Raises
    ------
    OutOfRangeError
        If a number is not above zero.

    Notes
    -----
    Valid for acids titrated fully at pH 8.2.

    References
    ----------
    mL × N × 6.005 / g, AOAC titratable acidity (published).
    """
    found = base_ml * base_mol_l * 6.005 / sample_g
    if found > MOST_TITRATED:
        raise OutOfRangeError(
            say("chemistry.acid.acid_is_more_than_any_food", found=num(found, ".0f")),
            percent=found,
        )
    return found


def _activity(charge: int, strength: float) -> float:
    capped = min(strength, STRONGEST_I)
    root = float(np.sqrt(capped))
    return float(10 ** (-DAVIES_A * charge**2 * (root / (1 + root) - 0.3 * capped)))


def _positive(solution: Solution, ph: float, factors: list[float]) -> float:
    taken = solution.buffer_mol_kg * (solution.buffer_ph - ph)
    return 10**-ph / factors[1] + solution.base_mol_kg + taken


def _negative(solution: Solution, ph: float, factors: list[float]) -> tuple[float, float]:
    """Charge of the anions and hydroxide, and the sum of charge squared for the ionic strength."""
    charge, squared = 10 ** (ph - PKW) / factors[1], 10 ** (ph - PKW) / factors[1]
    for name, amount in solution.acids_mol_kg.items():
        shares = _shares(name, ph, factors)
        for z in range(1, len(shares)):
            charge += amount * z * shares[z]
            squared += amount * z * z * shares[z]
    return charge, squared


def _shares(acid: str, ph: float, factors: list[float]) -> list[float]:
    """Shares of the acid with no, one, two ... protons given off."""
    terms, product = [1.0], 1.0
    for z, pka in enumerate(ACIDS[acid][0], start=1):
        product *= 10 ** (ph - pka)
        terms.append(product / factors[z])
    whole = sum(terms)
    return [term / whole for term in terms]
