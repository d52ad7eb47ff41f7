"""Salt and acid on their way to the middle: the heat equation with other names."""

import math
from dataclasses import dataclass

import numpy as np

from brinefrost.core.bounds import AGES, SHARE, TEMPERATURE, Bound, bounded, check
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.body import Array, Shape
from brinefrost.core.physics.heat import centre_theta
from brinefrost.core.physics.modes import profile_theta
from brinefrost.core.roots import changeover
from brinefrost.core.words import say

# effective diffusivities in tissue at 25 °C, slow ends of what is recalled; published, from memory, verify
AT_25_C = {"acid": 5.0e-10, "salt_meat": 4.0e-10, "salt_vegetable": 7.0e-10}
STILL_SURFACE_BIOT = 1e4  # the surface is at once as salt or sour as the brine


@dataclass(frozen=True)
class Piece:
    """A piece in a brine that stays as strong as it comes to be at rest."""

    shape: Shape
    thickness_m: float
    diffusivity_m2_s: float

    def __post_init__(self) -> None:
        if not 0.0002 <= self.thickness_m <= 0.4:
            raise OutOfRangeError(say("chemistry.diffusion.thickness_must_be_to"), thickness_m=str(self.thickness_m))
        check("diffusivity_m2_s", self.diffusivity_m2_s, Bound(1e-12, 1e-7, "m²/s"))

    def fourier(self, time_s: float) -> float:
        """D t / R² at a time [s], [-].

        Valid for times from 0.
        """
        return self.diffusivity_m2_s * time_s / (self.thickness_m / 2) ** 2


@bounded(temperature_c=TEMPERATURE)
def diffusivity_m2_s(what: str, temperature_c: float) -> float:
    """Effective diffusivity of salt or acid in tissue.

    Parameters
    ----------
    what : str
        One of ``AT_25_C``.
    temperature_c : float
        [°C].

    Returns
    -------
    float
        [m²/s].

    Raises
    ------
    OutOfRangeError
        If it is not known, or outside 0 to 95 °C.

    Notes
    -----
    Valid as an order of magnitude, on the slow side; skin, fat and a whole vegetable's peel are slower.

    References
    ----------
    Stokes-Einstein, D ∝ T/η; viscosity of water by Vogel's equation, 0.02939 exp(507.88/(T − 149.3)) mPa·s.
    """
    if what not in AT_25_C or not 0 <= temperature_c <= 95:
        raise OutOfRangeError(say("chemistry.diffusion.diffusion_is_known_for_acid_and"), temperature_c=temperature_c)

    def ease(celsius: float) -> float:
        kelvin = celsius + 273.15
        return kelvin / math.exp(507.88 / (kelvin - 149.3))

    return AT_25_C[what] * ease(temperature_c) / ease(25.0)


@bounded(times_s=AGES)
def share_in_middle(piece: Piece, times_s: Array) -> Array:
    """How much of the final strength has reached the middle.

    Parameters
    ----------
    piece : Piece
        Shape, thickness [m], diffusivity [m²/s].
    times_s : array
        [s], (n,).

    Returns
    -------
    array
        0 to 1 [-], (n,).

    Raises
    ------
    OutOfRangeError
        If the thickness is not 0.2 to 400 mm.

    Notes
    -----
    Valid for pieces wetted all round by plenty of brine that is stirred or turned; Fo above 1e-3.

    References
    ----------
    Crank, The Mathematics of Diffusion (2nd ed. 1975), ch. 4 to 6.
    """
    fourier = piece.diffusivity_m2_s * np.asarray(times_s) / (piece.thickness_m / 2) ** 2
    return np.clip(1.0 - centre_theta(piece.shape, STILL_SURFACE_BIOT, fourier), 0.0, 1.0)


@bounded(share=SHARE)
def time_to_middle_s(piece: Piece, share: float) -> float:
    """When the middle has a share of the final strength.

    Parameters
    ----------
    piece : Piece
        Shape, thickness [m], diffusivity [m²/s].
    share : float
        0 to 1, both left out [-].

    Returns
    -------
    float
        [s].

    Raises
    ------
    OutOfRangeError
        If the share is not between 0 and 1, or the thickness out of range.

    Notes
    -----
    Valid as ``share_in_middle``; grows with the square of the thickness.

    References
    ----------
    As ``share_in_middle``.
    """
    if not 0 < share < 1:
        raise OutOfRangeError(say("chemistry.diffusion.the_share_must_lie_between_0"), share=share)
    horizon = 20.0 * (piece.thickness_m / 2) ** 2 / piece.diffusivity_m2_s
    found = changeover(lambda t: float(share_in_middle(piece, np.array([t]))[0]) >= share, 0.0, horizon, horizon * 1e-8)
    return horizon if found is None else found


@bounded(time_s=AGES, places=SHARE)
def across(piece: Piece, time_s: float, places: Array) -> Array:
    """Share of the final strength across the piece.

    Parameters
    ----------
    piece : Piece
        Shape, thickness [m], diffusivity [m²/s].
    time_s : float
        [s].
    places : array
        From the middle, 0, to the surface, 1 [-], (n,).

    Returns
    -------
    array
        0 to 1 [-], (n,).

    Raises
    ------
    OutOfRangeError
        If the time is negative or not finite, or a place not between 0 and 1.

    Notes
    -----
    Valid for Fo above 1e-3.

    References
    ----------
    As ``share_in_middle``.
    """
    theta = profile_theta(int(piece.shape), STILL_SURFACE_BIOT, max(piece.fourier(time_s), 1e-3), places)
    return np.clip(1.0 - theta, 0.0, 1.0)
