"""The shapes a temperature field relaxes in: even Legendre Galerkin modes of the slab, cylinder and sphere.

The radial heat equation with a Robin surface is self-adjoint, so its Galerkin form gives a symmetric pair
(stiffness, mass) with real positive eigenvalues. Each mode then follows a scalar equation that is solved
exactly in time for surroundings that change along straight lines. Nothing is stepped, nothing can go unstable.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.polynomial.legendre import leggauss, legvander
from numpy.typing import NDArray

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.words import say

Array = NDArray[np.float64]
MODE_COUNT = 24


@dataclass(frozen=True)
class Modes:
    """Modes of one shape at one Biot number, on the radius 0 to 1."""

    rates: Array  # [1/Fo], (n,)
    drive: Array  # how the surroundings feed each mode, (n,)
    at_centre: Array  # value of each mode at r = 0, (n,)
    at_surface: Array  # value of each mode at r = 1, (n,)
    mean: Array  # volume mean of each mode, (n,)
    from_basis: Array  # basis coefficients of each mode, (n, n)
    mass: Array  # mass matrix of the basis, (n, n)

    @property
    def gain(self) -> Array:
        """Amplitudes [-] of an even field of 1: a field at the surroundings' temperature stays there, (n,).

        Valid for every body that can be made.
        """
        return self.drive / self.rates


@lru_cache(maxsize=16)
def _basis(exponent: int, count: int) -> tuple[Array, Array, Array, Array, Array]:
    nodes, weights = leggauss(2 * count + 4)
    radius = (nodes + 1) / 2
    weight = weights / 2 * radius**exponent
    orders = 2 * np.arange(count)
    scale = np.sqrt(2 * orders + 1)
    table = legvander(radius, 2 * count).T
    values = table[orders] * scale[:, None]
    below = table[np.maximum(orders - 1, 0)] * scale[:, None]
    slopes = orders[:, None] * (radius * values - below) / (radius**2 - 1)
    mass = (values * weight) @ values.T
    stiffness = (slopes * weight) @ slopes.T
    centre = legvander(np.zeros(1), 2 * count)[0, orders] * scale
    mean = (exponent + 1) * (values @ weight)
    return mass, stiffness, centre, scale, mean


@lru_cache(maxsize=256)
def modes_of(exponent: int, biot: float, count: int = MODE_COUNT) -> Modes:
    """Modes of a slab (0), cylinder (1) or sphere (2).

    Parameters
    ----------
    exponent : int
        Shape exponent, 0, 1 or 2 [-].
    biot : float
        h R / k [-].
    count : int
        How many polynomials, and so modes; all of them are kept, since only then do they hold an even field.

    Returns
    -------
    Modes
        Rates [1/Fo] and the vectors that read the field at centre, surface and in the mean, each (count,).

    Raises
    ------
    OutOfRangeError
        If the exponent is not 0, 1 or 2, the Biot number not 1e-6 to 1e6 or the count not 4 to 24.

    Notes
    -----
    Valid for Biot numbers 1e-6 to 1e4. Twenty-four even polynomials resolve a step at the surface from
    Fo = 1e-3 on to better than 1e-6 of the step.

    References
    ----------
    Carslaw & Jaeger, Conduction of Heat in Solids (2nd ed. 1959), ch. III, VII, IX, for the problem;
    the polynomial Galerkin form is textbook numerical analysis.
    """
    if exponent not in (0, 1, 2):
        raise OutOfRangeError(say("physics.modes.the_shape_exponent_is_0_slab"))
    if not (1e-6 <= biot <= 1e6 and 4 <= count <= MODE_COUNT):
        raise OutOfRangeError(say("physics.modes.the_biot_number_must_lie_between"), biot=str(biot))
    mass, stiffness, centre, surface, mean = _basis(exponent, count)
    whitened = np.linalg.inv(np.linalg.cholesky(mass))
    rates, rotated = np.linalg.eigh(whitened @ (stiffness + biot * np.outer(surface, surface)) @ whitened.T)
    vectors = whitened.T @ rotated
    at_surface = surface @ vectors
    return Modes(rates, biot * at_surface, centre @ vectors, at_surface, mean @ vectors, vectors, mass)


def profile_theta(exponent: int, biot: float, fourier: float, radii: Array) -> Array:
    """Dimensionless field across the piece after a step in the surroundings.

    Parameters
    ----------
    exponent : int
        Shape exponent, 0, 1 or 2 [-].
    biot : float
        h R / k [-].
    fourier : float
        α t / R² [-].
    radii : array
        Places from the middle, 0, to the surface, 1 [-], (n,).

    Returns
    -------
    array
        (T − T∞) / (T0 − T∞) [-], (n,).

    Raises
    ------
    OutOfRangeError
        If the exponent is not 0, 1 or 2, or a number is negative or not finite.

    Notes
    -----
    Valid for Fo ≥ 1e-3; serves salt and acid as well as heat, the equation being the same.

    References
    ----------
    Carslaw & Jaeger (1959); Crank, The Mathematics of Diffusion (2nd ed. 1975).
    """
    if not (0 <= fourier < np.inf and np.all((np.asarray(radii) >= 0) & (np.asarray(radii) <= 1))):
        raise OutOfRangeError(say("physics.modes.the_time_must_not_be_negative"), fourier=str(fourier))
    modes = modes_of(exponent, biot)
    return np.asarray(
        polynomials(radii, MODE_COUNT) @ (modes.from_basis @ (modes.gain * np.exp(-modes.rates * fourier)))
    )


def read_profile(coefficients: Array, radii: Array) -> Array:
    """A field across the piece, read from the coefficients of its polynomials.

    Parameters
    ----------
    coefficients : array
        Of the even polynomials [°C], (m,).
    radii : array
        Places from the middle, 0, to the surface, 1 [-], (n,).

    Returns
    -------
    array
        [°C], (n,).

    Raises
    ------
    ValueError
        If there are no coefficients.

    Notes
    -----
    Valid for as many coefficients as there are modes.

    References
    ----------
    Even Legendre polynomials, textbook numerical analysis.
    """
    return np.asarray(polynomials(radii, len(coefficients)) @ coefficients)


def fit_profile(exponent: int, radii: Array, values: Array, count: int = MODE_COUNT) -> Array:
    """The coefficients of the polynomials that a field across the piece is made of.

    Parameters
    ----------
    exponent : int
        Shape exponent, 0, 1 or 2 [-].
    radii, values : array
        Places from the middle, 0, to the surface, 1 [-], and how warm they are [°C], (n,); straight between.
    count : int
        How many polynomials.

    Returns
    -------
    array
        [°C], (count,).

    Raises
    ------
    ValueError
        If places and values are not as many.

    Notes
    -----
    Valid for rising places that begin at 0 and end at 1. The heat in the piece is kept.

    References
    ----------
    Least squares by Gauss-Legendre quadrature, textbook numerical analysis.
    """
    nodes, weights = leggauss(2 * count + 4)
    inside = (nodes + 1) / 2
    weight = weights / 2 * inside**exponent
    wanted = polynomials(inside, count).T @ (weight * np.interp(inside, radii, values))
    return np.asarray(np.linalg.solve(_basis(exponent, count)[0], wanted))


def polynomials(radii: Array, count: int) -> Array:
    """The even polynomials at some places.

    Parameters
    ----------
    radii : array
        Places from the middle, 0, to the surface, 1 [-], (n,).
    count : int
        How many polynomials.

    Returns
    -------
    array
        Their values [-], (n, count).

    Raises
    ------
    ValueError
        If the count is not above zero.

    Notes
    -----
    Valid for places from 0 to 1; the first is 1 everywhere.

    References
    ----------
    Legendre polynomials scaled to norm 1, textbook numerical analysis.
    """
    orders = 2 * np.arange(count)
    return np.asarray(legvander(np.asarray(radii), 2 * count)[:, orders] * np.sqrt(2 * orders + 1))
